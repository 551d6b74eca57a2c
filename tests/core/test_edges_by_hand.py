"""Edges that random faults went unseen at in the methods, each worked by hand."""

import math

import numpy as np
import pytest

from redline_bore.core.errors import InputError
from redline_bore.core.figures import Figure, bounds_of
from redline_bore.core.inserts import insert_from_code
from redline_bore.core.lengths import Units
from redline_bore.core.shape import fit_level
from redline_bore.core.show import Show
from redline_bore.core.stroke import stroke_length
from redline_bore.core.stroke_track import Seen, TrackRules, scatter_seen
from redline_bore.core.swept_cleanup import shadow_depth
from redline_bore.core.texture import crosshatch_photo, profile
from redline_bore.core.texture.curve import curve_of
from redline_bore.core.volumes import Chamber, compression_ratio


@pytest.mark.parametrize("long_axis", [0.0, 30.0, 75.0, 150.0])
def test_an_oval_is_largest_along_its_long_axis(long_axis):
    clocks = np.arange(0.0, 180.0, 22.5)
    fit = fit_level(clocks, 100.0 + 0.01 * np.cos(2.0 * np.deg2rad(clocks - long_axis)))
    assert fit.diameter_at(long_axis) == pytest.approx(100.01, abs=1e-6)
    assert fit.diameter_at(long_axis + 90.0) == pytest.approx(99.99, abs=1e-6)
    assert fit.diameter_at(long_axis + 45.0) == pytest.approx(100.0, abs=1e-6)


@pytest.mark.parametrize(
    "wall, skin, offset, left", [(52.5, 0.0, 0.0, 0.0), (52.53, 0.0, 0.0, 0.03), (52.5, 0.01, 0.02, 0.03), (52.4, 0.01, 0.0, -0.09)]
)  # fmt: skip
def test_a_defect_and_the_skin_add_to_what_a_cut_must_reach(wall, skin, offset, left):
    assert float(shadow_depth(wall, 105.0, skin, offset)) == pytest.approx(left)


def test_scatter_is_told_as_a_share_of_what_a_bite_of_many_strokes_takes():
    chance = np.random.default_rng(4)
    takes = 0.02 * np.exp(chance.normal(0.0, 0.1, 60))
    sizes = 92.0 + np.concatenate([[0.0], np.cumsum(takes)])
    seen = [Seen(10.0 * i, float(s), 1e-10) for i, s in enumerate(sizes)]
    assert 0.05 < scatter_seen(seen, 0.002, 0.3, TrackRules(0.02, 0.1, 0.18, 3.3, 1.5)) < 0.25


def test_the_curve_for_drawing_holds_each_height_at_the_middle_of_its_share():
    ratios, heights = curve_of([2.0, 5.0, 1.0, 4.0, 3.0], 11)
    assert ratios.tolist() == [10.0 * i for i in range(11)]
    assert heights.tolist() == pytest.approx([5.0, 5.0, 4.5, 4.0, 3.5, 3.0, 2.5, 2.0, 1.5, 1.0, 1.0])


@pytest.mark.parametrize(
    "families, share", [((40.0, -20.0), 1.0), ((20.0, -40.0), 0.0), ((40.0, 75.0), 0.5), ((160.0, 40.0), 1.0)]
)
def test_what_lies_in_the_two_families(families, share):
    angles = np.arange(-90.0, 90.0, 1.0)
    weights = np.where((angles == 40.0) | (angles == -20.0), 1.0, 0.0)
    chance = np.mean(
        [any(abs((a - f + 90.0) % 180.0 - 90.0) <= crosshatch_photo.REACH_DEG for f in families) for a in angles]
    )
    wanted = max((share - chance) / (1.0 - chance), 0.0)
    assert crosshatch_photo._share_in(angles, weights, families) == pytest.approx(wanted)


@pytest.mark.parametrize(
    "unit, value, least, most",
    [
        ("C", 20.0, -273.0, 1500.0), ("share", 0.1, 0.0, 1.0), ("%", 5.0, 0.0, 100.0), ("deg", 30.0, -360.0, 360.0),
        ("mm", 0.4, 0.02, 8.0), ("mm", -0.4, -8.0, -0.02), ("mm", 0.0, 0.0, 0.0), ("mm", (0.2, 4.0), 0.01, 80.0), ("mm", (-2.0, 4.0), -40.0, 80.0),
    ],
)  # fmt: skip
def test_a_figure_s_room(unit, value, least, most):
    room = bounds_of(Figure("topic.name", value, unit, "source"))
    assert (room.least, room.most) == pytest.approx((least, most))


def test_heat_in_the_shop_s_unit():
    assert Show(Units.METRIC).heat(1055.056) == "1.1 kJ" and Show(Units.INCH).heat(1055.056) == "1.00 BTU"


def test_a_stone_as_long_as_hole_and_overstroke_does_not_travel():
    with pytest.raises(InputError, match="would not travel"):
        stroke_length(60.0, 70.0, 5.0, 5.0)
    assert stroke_length(60.0, 69.5, 5.0, 5.0).stroke_mm == pytest.approx(0.5)
    assert (
        not stroke_length(150.0, 70.0, 20.0, 20.0, 20.0).bottom_limited
        and stroke_length(150.0, 70.0, 20.0, 20.0, 19.9).bottom_limited
    )


def test_a_pentagon_has_five_edges():
    assert insert_from_code("PNG 321").edges == 10
    assert insert_from_code("TPG 321").edges == 3


@pytest.mark.parametrize("chamber, ok", [(0.5, True), (0.0, False), (-1.0, False)])
def test_a_clearance_volume_of_nothing_has_no_ratio(chamber, ok):
    above = Chamber(chamber, 0.0, 0.0, 0.0, 0.0)
    if ok:
        assert compression_ratio(100.0, 100.0, above) == pytest.approx((math.pi * 250.0 + 0.5) / 0.5)
    else:
        with pytest.raises(InputError):
            compression_ratio(100.0, 100.0, above)


def test_what_is_kept_of_a_filter_is_never_written_over():
    kept = profile._kernel(0.5, 0.8)
    with pytest.raises(ValueError, match="read-only"):
        kept[0] = 1.0
