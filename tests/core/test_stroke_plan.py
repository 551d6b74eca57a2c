"""The stroke plan: ends straight at target, inside the room below, never past the cap, whatever it starts from."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bench.stroke_plans import wall
from redline_bore.core.errors import InputError
from redline_bore.core.removal import Hole, Pack
from redline_bore.core.stroke_plan import ENDS_EARLY, PLANNING, Task, plan_strokes

Z = PLANNING.depths(150.0)
HOLE = Hole(100.0, 150.0, 3.6e-5)


def task(excess=None, **more):
    usual = {
        "hole": HOLE, "pack": Pack(70.0, 40.0, 150.0), "target_mm": 0.03, "room_below_mm": None, "rpm": 170.0,
        "double_strokes_per_min": 45.0, "radial_force_n": 600.0, "reversal_s": 0.2,
    }  # fmt: skip
    return Task(excess_mm=tuple(np.zeros(PLANNING.cells) if excess is None else excess), **(usual | more))


def test_a_straight_open_hole_gets_the_shop_s_usual_overstroke():
    plan = plan_strokes(task())
    assert plan.over_top_mm == plan.over_bottom_mm == pytest.approx(21.0) and plan.spread_mm < 0.002 and not plan.limits


@pytest.mark.parametrize(
    "excess",
    [-0.010 * Z / 150.0, 0.010 * (Z / 150.0 - 1.0), 0.008 * np.cos((Z - 75.0) / 50.0) - 0.008, 0.008 * ((Z - 75.0) / 75.0) ** 2],
    ids=["tight at the bottom", "tight at the top", "barrel", "hourglass"],
)  # fmt: skip
def test_what_is_not_straight_comes_straight(excess):
    plan = plan_strokes(task(excess))
    assert plan.spread_mm <= 0.0025 < plan.spread_before_mm


def test_a_blind_bottom_is_dwelt_in_and_the_room_is_kept():
    plan = plan_strokes(task(room_below_mm=1.5))
    assert plan.over_bottom_mm <= 1.5 and plan.dwell_bottom_s > 0.2 and "room below" in plan.limits
    assert plan.over_bottom_mm + plan.over_top_mm < 0.5 * 70.0


def test_a_hard_band_at_the_top_is_worked_harder_there():
    plan = plan_strokes(task(hole=Hole(100.0, 150.0, 3.6e-5, ((0.0, 25.0, 0.6),))))
    assert plan.over_top_mm > plan.over_bottom_mm and plan.over_top_mm <= 0.4 * 70.0 + 1e-9


@settings(max_examples=8)
@given(st.floats(-0.012, 0.012), st.floats(0.0, 25.0), st.floats(0.5, 1.0))
def test_never_past_target_cap_or_room(slope, room, hard):
    excess = slope * Z / 150.0 - max(slope, 0.0)
    plan = plan_strokes(task(excess, room_below_mm=room, hole=Hole(100.0, 150.0, 3.6e-5, ((0.0, 30.0, hard),))))
    assert float(plan.honed.excess_mm.max()) <= 0.03 + 1e-12
    assert plan.over_bottom_mm <= min(room, 28.0) + 1e-9 and plan.over_top_mm <= 28.0 + 1e-9
    assert 0.0 <= plan.dwell_bottom_s <= 1.5 and 0.0 <= plan.dwell_top_s <= 1.5


def test_a_plan_is_never_worse_than_the_usual_strokes():
    usual = plan_strokes(task(room_below_mm=8.0, most_dwell_s=0.0))
    better = plan_strokes(task(room_below_mm=8.0))
    assert better.spread_mm <= usual.spread_mm


def test_it_can_be_broken_off():
    class Broken(Exception):
        pass

    def tick(share):
        if share > 0.2:
            raise Broken

    with pytest.raises(Broken):
        plan_strokes(task(room_below_mm=1.5), tick)


@pytest.mark.parametrize(
    ("wrong", "why"),
    [
        (lambda: task(target_mm=0.0), "at its target already"),
        (lambda: task(pack=Pack(260.0, 40.0, 150.0)), "longer than the hole"),
        (lambda: task(excess=np.zeros(7)), "planning grid"),
    ],
)
def test_what_cannot_be_planned_is_refused(wrong, why):
    with pytest.raises(InputError, match=why):
        plan_strokes(wrong())


@pytest.mark.parametrize("seed", range(10000, 10010))
def test_no_plan_ends_less_straight_than_the_hole_began(seed):
    task_ = wall(seed)
    plan = plan_strokes(task_)
    assert plan.spread_mm <= max(plan.spread_before_mm, task_.straight_mm) + 1e-9
    assert float(plan.honed.excess_mm.max()) <= task_.target_mm + 1e-12


def test_less_overstroke_at_an_open_end_is_a_way_too():
    plan = plan_strokes(task(0.012 * Z / 150.0 - 0.012, room_below_mm=20.0))  # open at the bottom
    assert plan.over_bottom_mm < 21.0 - 1.0 < plan.over_top_mm + plan.over_bottom_mm and plan.spread_mm < 0.003


def test_a_plan_that_cannot_but_do_harm_ends_early():
    blind = task(room_below_mm=0.0, most_dwell_s=0.0, target_mm=0.05, cap_share=0.05, usual_share=0.05)
    plan = plan_strokes(blind)
    assert ENDS_EARLY in plan.limits and plan.spread_mm <= 0.002 + 1e-9
    assert float(plan.honed.excess_mm.max()) < 0.05
