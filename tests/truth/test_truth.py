"""True blocks and true tools: the same from one seed, and cut as metal is cut."""

import random

import numpy as np
import pytest

from redline_bore.truth import tools
from redline_bore.truth.block import WEARS, true_block
from redline_bore.truth.hole import ROWS, TURNS, TrueFlaw, TrueHole
from redline_bore.truth.tools import TrueBar, TrueGauge, TrueHone, sweep_of


def plain(size=80.0, length=120.0, flaws=()):
    grid = np.full((ROWS, TURNS), size / 2.0)
    return TrueHole(length, grid, np.zeros_like(grid), grid + 5.0, np.zeros((ROWS, 2)), list(flaws))


def hone(rate=0.001, new=False, **changes):
    fixed = {
        "band_mm": None,
        "top_share": 1.0,
        "bottom_share": 1.0,
        "drift": 0.0,
        "scatter": 0.0,
        "bedding": 0.4,
        "glaze": 0.0,
    }
    return TrueHone(random.Random(1), rate, new, **(fixed | changes))


def test_one_seed_is_one_block_and_every_wear_is_met():
    one, again = true_block(5), true_block(5)
    assert one.spec == again.spec and all(
        np.array_equal(a.radius_mm, b.radius_mm) for a, b in zip(one.holes, again.holes, strict=True)
    )
    assert {true_block(seed).wear for seed in range(120)} == set(WEARS)


def test_a_hole_read_from_another_axis_is_the_same_hole():
    hole = plain()
    hole.move_to(0.1, -0.05)
    assert hole.radius_mm.max() == pytest.approx(40.0 + np.hypot(0.1, 0.05), abs=2e-4)
    assert hole.diameter(60.0, 0.0, True) == pytest.approx(80.0, abs=1e-3)
    hole.move_to(0.0, 0.0)
    assert np.ptp(hole.radius_mm) < 2e-4


def test_a_flaw_is_a_shadow_until_the_wall_has_gone_past_it():
    hole = plain(flaws=[TrueFlaw(40.0, 60.0, 90.0, 20.0, 0.1, "score", True)])
    assert hole.shadow().all()
    hole.radius_mm = hole.radius_mm + 0.05
    assert hole.shadow().any() and not hole.shadow().all()
    hole.radius_mm = hole.radius_mm + 0.06
    assert not hole.shadow().any()


def test_the_bar_cuts_only_what_it_reaches():
    hole, bar = plain(), TrueBar(random.Random(2), 0.004, 0.010, 0.0, 0.0, 0.0)
    bar.cut(hole, 80.5, (0.0, 0.0))
    assert hole.diameters().mean() == pytest.approx(80.514, abs=2e-3)
    before = hole.radius_mm.copy()
    bar.cut(hole, 80.0, (0.0, 0.0))
    assert (hole.radius_mm >= before - 1e-3).all(), "metal does not go back on"


def test_new_stones_bed_in_and_worn_ones_glaze():
    def took(stones, strokes=10, times=1):
        hole = plain()
        for _ in range(times - 1):
            stones.cut(hole, strokes, 72.0, (22.0, 22.0))
        before = hole.radius_mm.mean()
        stones.cut(hole, strokes, 72.0, (22.0, 22.0))
        return hole.radius_mm.mean() - before

    assert took(hone(new=True)) < 0.8 * took(hone()) and took(hone(new=True), times=8) == pytest.approx(
        took(hone(), times=8), rel=0.05
    )
    assert took(hone(glaze=0.4), times=20) < 0.6 * took(hone())


def test_overstroke_opens_an_end_and_a_hone_rounds_a_hole():
    def end(over):
        hole = plain()
        hone().cut(hole, 40, 72.0, (over, 22.0))
        return hole.radius_mm[1].mean() - hole.radius_mm[ROWS // 2].mean()

    assert end(8.0) < end(22.0) < end(32.0)
    oval = plain()
    oval.radius_mm = oval.radius_mm + 0.004 * np.cos(2.0 * np.arange(TURNS) * 2.0 * np.pi / TURNS)[None, :]
    hone().cut(oval, 40, 72.0, (22.0, 22.0))
    assert np.ptp(oval.radius_mm[ROWS // 2]) < 0.004


def test_gauges_err_as_they_are_said_to():
    gauge = TrueGauge(random.Random(3), 0.0015, 0.0008, 0.0)
    gauge.set_on_master()
    reads = [gauge.shows(80.0) - 80.0 - gauge.zero_mm for _ in range(2000)]
    assert np.std(reads) == pytest.approx(0.00153, rel=0.06) and abs(np.mean(reads)) < 2e-4
    clocks, radii = sweep_of(
        plain(flaws=[TrueFlaw(40.0, 60.0, 90.0, 20.0, 0.1, "score", True)]), 50.0, True, 72, 0.0005, random.Random(4)
    )
    assert (
        len(clocks) == len(radii) == 72
        and max(radii) == pytest.approx(40.1, abs=2e-3)
        and min(radii) == pytest.approx(40.0, abs=3e-3)
    )


@pytest.mark.parametrize("rate", [0.0005, 0.009, 0.018])
def test_what_a_stroke_takes_does_not_hang_on_how_finely_it_is_reckoned(monkeypatch, rate):
    """Stones that take much a stroke: the wall must not swing through level, which would take half as much again."""
    took = []
    for bite in (tools.BITE_MM, tools.BITE_MM / 5.0):
        monkeypatch.setattr(tools, "BITE_MM", bite)
        hole = true_block(100658).holes[0]
        before, hone = (
            hole.radius_mm.mean(),
            tools.TrueHone(random.Random(3), rate, False, None, 1.1, 0.9, 0.0, 0.0, 0.0, 0.0),
        )
        hone.cut(hole, max(int(0.04 / rate), 1), 60.0, (15.0, 15.0))
        took.append(2.0 * (hole.radius_mm.mean() - before))
    assert took[0] == pytest.approx(took[1], rel=0.01)
