"""Sleeves, the plateau and lessons at their limits, worked by hand."""

import math
from types import SimpleNamespace

import pytest

from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.finish import plateau
from redline_bore.job.hone.steps import PEAKS_ONLY
from redline_bore.job.sign_off import learned
from redline_bore.job.sleeve import ways
from redline_bore.job.sleeve.run import parent_done
from redline_bore.job.sleeve.why import SleeveWhy
from tests.job.benches import but

METRIC = Show(Units.METRIC)


@pytest.mark.parametrize("off, done", [(0.0, True), (0.0099, True), (-0.0099, True), (0.0101, False), (-0.0101, False)])
def test_a_parent_is_done_within_a_quarter_of_the_interference(off, done):
    way = SimpleNamespace(parent_mm=86.0, outside_mm=86.04)
    assert parent_done(SimpleNamespace(parent_mm=86.0 + off), way) is done
    assert parent_done(SimpleNamespace(parent_mm=None), way) is True


@pytest.mark.parametrize(
    "left, told", [(-0.1, SleeveWhy.WALL_GONE), (0.0, SleeveWhy.WALL_GONE), (0.9, SleeveWhy.WALL_THIN)]
)
def test_the_parents_wall(monkeypatch, shipped, left, told):
    state = SimpleNamespace(figures=shipped, units=Units.METRIC)
    least = shipped.number("sleeves.parent_least")
    heard = []
    weighed = SimpleNamespace(worse=lambda standing, *said: heard.append((str(standing), said)))
    for reach, wanted in (
        ([43.0 + left * least], "no"),
        ([43.0 + least], None),
        ([43.0 + least + 1.0], None),
        ([], "may do"),
    ):
        heard.clear()
        monkeypatch.setattr(ways, "outer_radii", lambda state, fit, reach=reach: reach)
        ways._parent_wall(state, SimpleNamespace(cylinder=1), 86.0, weighed)
        assert [s for s, _ in heard] == ([] if wanted is None else [wanted])
        if wanted == "no":
            assert heard[0][1][0].why is told


def test_wall_read_from_inside_the_parent_counts_from_it_and_an_older_one_from_the_worn_bore(state_of):
    from redline_bore.core.block import WallKind

    state = state_of("2044")
    read = [
        SimpleNamespace(cylinder=1, seq=5, wall_mm=6.0),
        SimpleNamespace(cylinder=1, seq=50, wall_mm=4.0),
        SimpleNamespace(cylinder=2, seq=50, wall_mm=1.0),
    ]
    there = but(state, gauging={"wall_readings": tuple(read)})
    fit = SimpleNamespace(cylinder=1, rings=(SimpleNamespace(seq=10),), parent_mm=90.0)
    cast = state.block.wall is WallKind.CAST
    found = ways.outer_radii(there, fit)
    assert found[-1] == pytest.approx(49.0) and len(found) == (2 if cast else 1)
    assert ways.outer_radii(there, SimpleNamespace(**vars(fit) | {"parent_mm": None}))[:1] == (
        found[:1] if cast else []
    )


def pair(um_a_stroke, job="2036"):
    return plateau.Pair(job, 1, 10.0, 10.0 * um_a_stroke, 0.1)


def test_metal_a_stroke_from_pairs_by_hand(state_of):
    state = state_of("2036")
    f = state.figures
    one = plateau.rate_from(state, [pair(0.05)])
    wide = f.number("finish.one_pair_factor")
    assert (one.um, one.low_um, one.high_um) == pytest.approx((0.05, 0.05 / wide, 0.05 * wide))
    many = plateau.rate_from(state, [pair(0.04), pair(0.05), pair(0.06)])
    spread = 4.302653 * 0.01 * math.sqrt(1.0 + 1.0 / 3.0)  # Student, two degrees of freedom
    assert many.um == pytest.approx(0.05) and many.high_um == pytest.approx(0.05 + spread)
    assert many.low_um == pytest.approx(max(0.05 - spread, 0.05 / f.number("finish.few_pairs_factor")))
    none = plateau.rate_from(state, [])
    assert none.low_um < none.um < none.high_um and none.pairs == ()


def test_the_coarser_stone_is_the_one_whose_marks_come_nearest(state_of):
    from redline_bore.job.hone.set_up import rz_of
    from redline_bore.job.hone.steps import stone_names
    from redline_bore.job.profiles.stones import stones_said

    state = state_of("2036")
    traces = [t for t in state.finishing.traces if t.cylinder == 1]
    found = plateau.coarser_for(state, 1, traces, 1.0)
    cutting = {
        s: sum(rz_of(state, s)) / 2.0
        for s in stone_names(state.figures)
        if s not in PEAKS_ONLY and not s.startswith("ball")
    }
    enough = {s: v for s, v in cutting.items() if v >= found.rz_um} or cutting
    assert found.stones == stones_said(min(enough, key=lambda s: abs(enough[s] - found.rz_um)))
    assert found.deep_enough is any(v >= found.rz_um for v in cutting.values())


def test_a_lesson_is_the_mean_of_its_jobs_with_their_spread():
    found = learned._lesson("rate", "150", [("2029", 1.0), ("2029", 2.0), ("2036", 3.0)])
    assert (found.mean, found.sd, found.count, found.jobs) == (2.0, pytest.approx(1.0), 3, ("2029", "2036"))
    assert learned._lesson("rate", "150", [("2029", 1.0)]).sd is None
