"""Edges that random faults went unseen at in the methods, each worked by hand."""

import math

import numpy as np
import pytest

from redline_bore.core.cutting import FeedCall, chatter_of
from redline_bore.core.doubt import level_doubt
from redline_bore.core.errors import InputError
from redline_bore.core.figures import Figure, bounds_of
from redline_bore.core.inserts import insert_from_code
from redline_bore.core.lengths import Units, parse_length
from redline_bore.core.shape import fit_level
from redline_bore.core.show import Show
from redline_bore.core.stroke import Motion, stroke_length
from redline_bore.core.stroke_track import Seen, Track, TrackRules, faster, scatter_seen
from redline_bore.core.sweep import fit_sweep
from redline_bore.core.swept_cleanup import shadow_depth
from redline_bore.core.texture import crosshatch_photo, plateau, profile
from redline_bore.core.texture.curve import curve_of
from redline_bore.core.texture.plateau import fine_texture
from redline_bore.core.texture.profile import trace_from
from redline_bore.core.three_point import distinct_angles
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


def test_the_stone_is_as_fast_from_one_turn_round_as_from_the_other():
    motion = Motion(100.0, 60.0, 0.2)
    for x in (0.0, 1.0, 3.0, 40.0):
        assert motion.speed_at(100.0 - x) == pytest.approx(motion.speed_at(x))
    assert motion.speed_at(100.0) == 0.0 and motion.speed_at(50.0) == motion.cruise_mm_s


@pytest.mark.parametrize("factor", [0.5, 2.0])
def test_a_faster_stone_moves_the_rate_and_what_hangs_on_it(factor):
    after = faster(Track(105.0, 0.002, 1e-6, 3e-8, 4e-9), factor)
    assert after == Track(105.0, 0.002 * factor, 1e-6, pytest.approx(3e-8 * factor), pytest.approx(4e-9 * factor**2))


def test_the_circle_of_the_narrowest_ring_lies_in_its_middle():
    clocks = np.arange(0.0, 360.0, 10.0)
    sweep = fit_sweep(clocks, 46.0 + 0.01 * np.cos(3.0 * np.deg2rad(clocks)))
    assert sweep.minimum_zone.radius_mm == pytest.approx(46.0, abs=1e-4)
    assert sweep.roundness_mz_mm == pytest.approx(0.02, abs=1e-4)


@pytest.mark.parametrize(
    ("code", "shape", "corner"),
    [("TNMG 321", "triangle", 60), ("SNMG 321", "square", 90), ("CNMG 321", "diamond", 80), ("DNMG 321", "diamond", 55),
     ("VNMG 321", "diamond", 35), ("ENMG 321", "diamond", 75), ("MNMG 321", "diamond", 86)],
)  # fmt: skip
def test_what_the_first_letter_of_an_insert_says(code, shape, corner):
    insert = insert_from_code(code)
    assert (insert.shape, insert.corner_deg) == (shape, corner)


def test_the_raw_out_of_round_is_as_sure_as_two_readings_of_its_least_sure_place():
    clocks = np.arange(0.0, 180.0, 30.0)
    fit = fit_level(clocks, 100.0 + 0.01 * np.cos(2.0 * np.deg2rad(clocks)))
    doubt = level_doubt(clocks, [4, 4, 1, 4, 4, 4], fit, 0.002)
    assert doubt.out_of_round_raw_mm == pytest.approx(math.sqrt(2.0) * 0.002)


def test_three_points_are_a_trace_if_a_short_one_and_no_legs_are_none():
    with pytest.raises(InputError, match="too short"):
        trace_from([0.0, 0.0005, 0.001], [0.0, 1.0, 0.0])
    with pytest.raises(InputError, match="row of places"):
        trace_from([0.0, 0.0005], [0.0, 1.0])
    assert distinct_angles([]) == 0 and distinct_angles([30.0, 150.0, 270.0]) == 1


def test_a_figure_that_ships_as_nought_may_only_be_nought():
    assert bounds_of(Figure("a.b", 0.0, "mm", "x")).least == bounds_of(Figure("a.b", 0.0, "mm", "x")).most == 0.0
    assert bounds_of(Figure("a.b", (0.0, 2.0), "mm", "x")).least == 0.0
    assert bounds_of(Figure("a.b", (-2.0, 0.0), "mm", "x")).most == 0.0


@pytest.mark.parametrize(("units", "mm"), [(Units.METRIC, 105.5), (Units.INCH, 105.0 + 50 * 0.0254)])
def test_an_oversize_is_told_as_a_distance_from_the_size_in_name(units, mm):
    found = parse_length("+ 50", units, nominal_mm=105.0)
    assert found.mm == pytest.approx(mm) and found.signed


def test_the_thinnest_of_bars_may_be_asked_about():
    assert chatter_of(0.5, 0.4, 4.5, False, FeedCall.IN_WINDOW) is None
    with pytest.raises(InputError):
        chatter_of(0.5, 0.0, 4.5, False, FeedCall.IN_WINDOW)


def test_a_picture_of_nothing_but_two_families_is_sure_of_them_and_one_of_all_directions_of_none():
    angles = np.arange(-90.0, 90.0, 1.0)
    two = np.where(np.isin(angles, (30.0, -30.0)), 1.0, 0.0)
    assert crosshatch_photo._share_in(angles, two, (30.0, -30.0)) == pytest.approx(1.0)
    assert crosshatch_photo._share_in(angles, np.ones(angles.size), (30.0, -30.0)) == pytest.approx(0.0, abs=1e-9)


def test_fine_abrasive_leaves_short_waves_as_its_grain_does():
    step, count, f_of = 1.0, 4096, np.fft.rfftfreq(4096, 1.0)
    power = np.mean([np.abs(np.fft.rfft(fine_texture(count, step, 0.1, s))) ** 2 for s in range(1, 60)], axis=0)
    near = lambda f: power[(f_of > 0.8 * f) & (f_of < 1.2 * f)].mean()  # noqa: E731
    f = 0.35 / (math.pi * plateau.FINE_SIGMA_UM)
    wanted = np.exp(-4.0 * 0.35**2 * (1.0 - 0.25)) * np.exp(
        -2.0 * math.log(2.0) * plateau.BAND_LIMIT_UM**2 * f**2 * 0.75
    )
    assert near(f) / near(f / 2.0) == pytest.approx(wanted, rel=0.12)


@pytest.mark.parametrize(("value", "least", "most"), [(0.5, 0.025, 10.0), (2.0, 0.1, 40.0), (-0.5, -10.0, -0.025)])
def test_a_figure_may_be_a_twentieth_to_twenty_times_what_ships(value, least, most):
    found = bounds_of(Figure("a.b", value, "mm", "x"))
    assert (found.least, found.most) == (pytest.approx(least), pytest.approx(most))
