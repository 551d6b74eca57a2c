"""The hone at its limits, on states made for it."""

import math
from dataclasses import replace
from types import SimpleNamespace

import numpy as np
import pytest

from redline_bore.core.fit import ClearanceWindow, Decision, guard_band_both
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.hone import model, progress, stock_ledger, ways_out
from redline_bore.job.hone.load import _spread
from redline_bore.job.hone.set_up import SetUpWhy, _stroke
from redline_bore.job.hone.steps import PEAKS_ONLY, StageStands, _judged
from redline_bore.job.words.hone import _bulge_name

METRIC = Show(Units.METRIC)


@pytest.mark.parametrize("count, wanted", [(1, (0.5,)), (2, (0.07, 0.93)), (3, (0.07, 0.5, 0.93))])
def test_sizes_from_the_top_down_stand_for_places(state_of, count, wanted):
    state = state_of("2036")
    assert model.places_of_checks(state, count) == pytest.approx([state.block.length_mm * w for w in wanted])


def test_friction_warms_the_wall_by_its_work_over_what_it_stores(state_of):
    state = state_of("2036")
    f, b = state.figures, state.block
    joule = f.number("honing.friction") * 1e6 * 1e-3 * f.number("honing.heat_into_wall")
    volume = math.pi * b.bore_mm * b.length_mm * f.number("honing.wall_warmed") * 1e-9
    assert model.warming(state, SimpleNamespace(work_n_mm=1e6)) == pytest.approx(joule / (model.STEEL_STORES * volume))


@pytest.mark.parametrize(
    "own, others, wanted",
    [
        (1.0, (1.0, 1.0, 1.0), False),
        (3.0, (1.0, 1.0, 1.0), True),
        (0.3, (1.0, 1.0, 1.0), True),
        (3.0, (), False),
        (-1.0, (1.0, 1.0), False),
        (1.0, (-1.0, -1.0, -1.0), False),
    ],
)
def test_a_rate_out_of_family(monkeypatch, shipped, own, others, wanted):
    rates = dict(enumerate((own, *others), start=1))

    def checks(cylinder, step):
        return [SimpleNamespace(strokes=s, mean_mm=80.0 + rates[cylinder] * s * 1e-3) for s in (0.0, 10.0, 20.0)]

    state = SimpleNamespace(
        cylinders=tuple(rates), honing=SimpleNamespace(checks_of=checks, step_of=lambda c: 0), figures=shipped
    )
    assert progress.out_of_family(state, 1) is wanted


def test_a_rate_of_two_checks_is_no_family(shipped):
    two = [SimpleNamespace(strokes=s, mean_mm=80.0 + 0.001 * s) for s in (0.0, 10.0)]
    three = [*two, SimpleNamespace(strokes=20.0, mean_mm=80.02)]
    rows = {1: two, 2: three, 3: three}
    state = SimpleNamespace(
        cylinders=(1, 2, 3),
        honing=SimpleNamespace(checks_of=lambda c, s: rows[c], step_of=lambda c: 0),
        figures=shipped,
    )
    assert progress.out_of_family(state, 1) is False


@pytest.mark.parametrize(
    "bottom, room, crash", [(20.0, 20.0, False), (20.0 + 2e-9, 20.0, True), (19.0, 20.0, False), (21.0, 20.0, True)]
)
def test_a_stone_crashes_beyond_its_room(monkeypatch, state_of, bottom, room, crash):
    from redline_bore.job.hone import set_up

    state = state_of("2036")
    monkeypatch.setattr(set_up, "room_below", lambda block: room)
    _, stops = _stroke(state, replace(state.honing.run, over_bottom_mm=bottom, over_top_mm=5.0))
    assert (SetUpWhy.CRASH in [s.why for s in stops]) is crash


@pytest.mark.parametrize("share, told", [(0.4, False), (0.401, True)])
def test_more_overstroke_than_the_cap_is_told_at_either_end(monkeypatch, state_of, share, told):
    from redline_bore.job.hone import set_up

    state = state_of("2036")
    monkeypatch.setattr(set_up, "room_below", lambda block: 500.0)
    cap = state.figures.number("honing.overstroke_cap") / 0.4 * share * set_up.stone_mm(state)
    for top, bottom in ((cap, 5.0), (5.0, cap)):
        _, stops = _stroke(state, replace(state.honing.run, over_top_mm=top, over_bottom_mm=bottom))
        assert (SetUpWhy.BELLS in [s.why for s in stops]) is told


PEAK = next(iter(sorted(PEAKS_ONLY)))


@pytest.mark.parametrize(
    "side_um, word",
    [
        (-0.1, StageStands.STOP),
        (0.0, StageStands.SOUND),
        (1.0, StageStands.SOUND),
        (1.5, StageStands.SOUND),
        (1.6, StageStands.LOOK),
        (2.99, StageStands.LOOK),
        (3.0, StageStands.STOP),
        (4.0, StageStands.STOP),
    ],
)
def test_a_plateau_step_leaves_the_valleys_of_the_step_before(side_um, word):
    assert _judged(side_um / 500.0, 0.0, PEAK, (3.0, 5.0)).stands is word


def test_a_load_is_spread_over_the_stone_only_where_it_travelled():
    assert list(_spread(np.array([30.0, 30.0]), 150.0)) == [30.0, 30.0]
    assert list(_spread(np.array([30.0, 75.0, 120.0]), 150.0)) == [0.0, 75.0, 150.0]


def test_other_jobs_of_the_same_metal_are_ranked_by_engine_then_bore(state_of):
    state, rates = state_of("2036"), (stock_ledger.StepRate("rough", "vitrified 150", 0.004),)
    bore, engine = state.block.bore_mm, state.book_in.engine
    jobs = [
        stock_ledger.HonedOnJob("9", "far", bore + 20.0, rates), stock_ledger.HonedOnJob("8", "near", bore + 1.0, rates),
        stock_ledger.HonedOnJob("7", engine, bore + 40.0, rates), stock_ledger.HonedOnJob("6", engine, bore, rates),
        stock_ledger.HonedOnJob(state.number, engine, bore, rates),
    ]  # fmt: skip
    assert [r.number for r in stock_ledger._family(state, jobs)] == [
        "7",
        "8",
        "9",
    ]  # the newest of each engine, and never itself


WINDOW = ClearanceWindow(0.06, 0.09, "sheet")


@pytest.mark.parametrize(
    ("smallest", "largest", "u", "fits"),
    [
        (80.10, 80.10, 0.005, (80.015, 80.035)),
        (80.10, 80.11, 0.005, (80.025, 80.035)),
        (80.10, 80.12, 0.005, None),  # least and most the same: surely inside is no piston
        (80.10, 80.13, 0.005, None),
        (80.10, 80.129, 0.0, (80.039, 80.04)),
        (80.10, 80.10, 0.015, None),  # the gauge alone fills the window
    ],
)
def test_a_matched_piston_fits_both_ends(smallest, largest, u, fits):
    found = ways_out.pistons_for(ways_out.Hole(smallest, largest, u), WINDOW)
    assert found == (None if fits is None else pytest.approx(fits, abs=1e-9))
    if found:
        assert all(
            guard_band_both(smallest - piston, largest - piston, WINDOW, u) is Decision.IN
            for piston in (found[0] + 1e-6, found[1] - 1e-6)
        )


@pytest.mark.parametrize(
    ("piston", "coat"),
    [
        (80.005, 0.010),  # what it lacks of the least
        (79.996, 0.019),
        (79.995, 0.020),
        (79.994, None),  # more than is put on
        (80.012, 0.008),  # the thinnest there is
        (80.0269, 0.008),
        (80.028, None),  # the thinnest there is would bind at the smallest place
    ],
)
def test_a_coating_brings_both_ends_inside_or_is_not_named(piston, coat):
    hole = ways_out.Hole(80.10, 80.10, 0.005)
    found = ways_out.coating_for(hole, piston, WINDOW, (0.008, 0.0200001))
    assert found == (None if coat is None else pytest.approx(coat, abs=1e-9))


def test_the_next_size_is_the_first_beyond_and_tells_the_metal(state_of):
    state = state_of("2041")
    steps = sorted(state.book_in.oversizes_mm)
    size = state.block.bore_mm + steps[0] + 0.01
    found = ways_out._next(state, size)
    assert found.mm == pytest.approx((steps[1], steps[1] - steps[0] - 0.01))
    assert ways_out._next(state, state.block.bore_mm + steps[-1] + 0.01) is None


@pytest.mark.parametrize(
    ("bulge", "name"),
    [
        (0.004, "barrel"),
        (-0.004, "hourglass"),
        (0.0, "bulge"),
        (0.0004, "bulge"),
        (-0.0004, "bulge"),
        (0.0006, "barrel"),
    ],
)
def test_a_hole_wide_or_tight_in_its_middle_is_called_as_the_shop_does(bulge, name):
    assert _bulge_name(bulge, METRIC) == name
