"""Crosshatch and stroke: angles both ways, local angle, a hand's pace; reference cases and what geometry demands."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from redline_bore.core.errors import InputError
from redline_bore.core.stroke import (
    Motion,
    crosshatch,
    hand_pace,
    local_angle_by_carriage,
    local_angle_by_depth,
    snapped_strokes,
    snapped_turns,
    stroke_length,
)
from tests.vectors import cases, check, mm


@pytest.mark.parametrize("case", cases("10", "crosshatch"))
def test_crosshatch_vectors(case):
    i = case["inputs"]
    found = crosshatch(
        mm(case, "bore"), mm(case, "stroke"), i.get("rpm"), i.get("double_strokes_per_min"), i.get("included_angle_deg")
    )
    check(
        case, rpm=found.rpm, double_strokes_per_min=found.double_strokes_per_min, included_angle_deg=found.included_deg,
        from_horizontal_deg=found.from_horizontal_deg, axial_m_per_min=found.axial_m_per_min,
        rotary_m_per_min=found.rotary_m_per_min,
    )  # fmt: skip
    if "rpm_steps" in i:
        step = snapped_turns(
            mm(case, "bore"), mm(case, "stroke"), i["double_strokes_per_min"], i["included_angle_deg"], i["rpm_steps"]
        )
        at = crosshatch(mm(case, "bore"), mm(case, "stroke"), step, i["double_strokes_per_min"])
        check(case, rpm_step=step, angle_at_step_deg=at.included_deg)


@pytest.mark.parametrize("case", cases("10", "stroke_length"))
def test_stroke_vectors(case):
    found = stroke_length(
        mm(case, "length"), mm(case, "stone"), mm(case, "over_top"), mm(case, "over_bottom"), mm(case, "room_below")
    )
    check(
        case, over_bottom_used=found.over_bottom_mm, stroke=found.stroke_mm,
        bottom_over_share_of_stone=found.bottom_share_of_stone, bottom_limited=found.bottom_limited,
    )  # fmt: skip


@pytest.mark.parametrize("case", cases("10", "local_angle"))
def test_local_angle_vectors(case):
    i = case["inputs"]
    motion = Motion(mm(case, "stroke"), i["double_strokes_per_min"], i["reversal_s"])
    bore, rpm = mm(case, "bore"), i["rpm"]
    check(
        case, mean_angle_deg=crosshatch(bore, motion.stroke_mm, rpm, i["double_strokes_per_min"]).included_deg,
        cruise_angle_deg=float(local_angle_by_carriage(bore, rpm, motion, motion.stroke_mm / 2.0)),
        cruise_m_per_min=motion.cruise_mm_s * 0.06, ramp_length=motion.ramp_mm,
        by_carriage_deg=local_angle_by_carriage(bore, rpm, motion, mm(case, "from_turn_round")).tolist(),
    )  # fmt: skip
    if "depth_mm" in i:
        found = local_angle_by_depth(bore, rpm, motion, mm(case, "stone"), mm(case, "over_top"), mm(case, "depth"))
        check(case, by_depth_deg=found.tolist())


@pytest.mark.parametrize("case", cases("10", "hand_pace"))
def test_hand_vectors(case):
    i = case["inputs"]
    found = hand_pace(
        mm(case, "bore"), mm(case, "stroke"), i["drill_rpm"], i["included_angle_deg"], i["most_a_hand_can_do_per_min"]
    )
    check(
        case, double_strokes_per_min=found.double_strokes_per_min, possible_by_hand=found.possible,
        seconds_per_double_stroke=found.seconds_per_double_stroke, drill_rpm_for_that_hand=found.drill_rpm_for_hand,
        angle_at_that_hand_deg=found.angle_at_hand_deg,
    )  # fmt: skip


@given(st.floats(40.0, 200.0), st.floats(50.0, 300.0), st.floats(40.0, 400.0), st.floats(10.0, 90.0))
def test_any_one_comes_back_from_the_other_two(bore, stroke, rpm, strokes):
    angle = crosshatch(bore, stroke, rpm, strokes).included_deg
    assert crosshatch(bore, stroke, included_deg=angle, rpm=rpm).double_strokes_per_min == pytest.approx(strokes)
    assert crosshatch(bore, stroke, included_deg=angle, double_strokes_per_min=strokes).rpm == pytest.approx(rpm)


@given(st.floats(50.0, 300.0), st.floats(20.0, 80.0), st.floats(0.0, 0.3))
def test_a_half_stroke_goes_all_the_way_at_its_mean_speed(stroke, strokes, reversal):
    motion = Motion(stroke, strokes, reversal)
    place, speed = motion.half_stroke(2000)
    assert float(speed.mean()) == pytest.approx(2.0 * stroke * strokes / 60.0, rel=1e-3)
    assert place[0] >= 0.0 and place[-1] <= stroke and (np.diff(place) >= 0.0).all()
    np.testing.assert_allclose(place + place[::-1], stroke, rtol=1e-9)


def test_snapping_picks_the_nearest_angle():
    assert snapped_strokes(100.0, 120.0, 170.0, 30.0, (40.0, 50.0, 60.0)) == 60.0
    for snap in (snapped_strokes, snapped_turns):
        with pytest.raises(InputError, match="steps"):
            snap(100.0, 120.0, 170.0, 30.0, ())


@pytest.mark.parametrize(
    "wrong",
    [
        lambda: crosshatch(100.0, 120.0, 170.0),
        lambda: crosshatch(100.0, 120.0, 170.0, 50.0, 30.0),
        lambda: crosshatch(0.0, 120.0, 170.0, 50.0),
        lambda: crosshatch(100.0, 120.0, 170.0, included_deg=180.0),
        lambda: stroke_length(50.0, 70.0, 5.0, 5.0),
        lambda: stroke_length(150.0, 70.0, -1.0, 5.0),
        lambda: Motion(100.0, 50.0, 0.9),
        lambda: Motion(0.0, 50.0),
    ],
)
def test_what_cannot_move_is_refused(wrong):
    with pytest.raises(InputError):
        wrong()


def test_a_depth_no_stone_reaches_has_no_angle():
    found = local_angle_by_depth(100.0, 170.0, Motion(50.0, 50.0), 30.0, 10.0, [5.0, 149.0])
    assert np.isfinite(found[0]) and np.isnan(found[1])
