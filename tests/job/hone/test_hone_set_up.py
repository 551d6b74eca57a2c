"""At the hone: its set-up, its steps, the plan."""

from dataclasses import replace

import pytest

from redline_bore.core.block import Bottom
from redline_bore.core.errors import InputError
from redline_bore.job.card import Mark
from redline_bore.job.hone.finding import WallBefore, judge
from redline_bore.job.hone.model import WallFrom, against_plan, forecast, learned_of, task_of, wall_now, warmth_grows_mm
from redline_bore.job.hone.progress import progress_of
from redline_bore.job.hone.set_up import (
    SetUpReason,
    SetUpWhy,
    angle_aim,
    kinematics_of,
    proposed_hone,
    rate_of,
    usual_over,
)
from redline_bore.job.hone.steps import StageStands, StageWhy, practice_of, stages_of, stones_of
from redline_bore.job.kinds.book_in import BookInRevised
from redline_bore.job.kinds.bore import CutNoted, HoleBored
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.hone import (
    AngleWanted,
    HoneSet,
    OwnHoning,
)
from redline_bore.job.sign_off.sheet import sheet_of
from redline_bore.job.words import hone as hone_advice
from redline_bore.job.words import hone_pages as hone_page_advice
from redline_bore.job.words.set_up import say_set_up
from tests.job.benches import after
from tests.job.hone.the_hone import HONE, MM, REDLINE, STONES, checks, steady, typed

# -- set-up ------------------------------------------------------------------------------------------------------------


def test_a_set_up_is_proposed_inside_the_usual_speeds_and_angles(called, shipped):
    state = after(called, shipped, STONES)
    h = proposed_hone(state, "vertical")
    assert h.over_top_mm == pytest.approx(36.0) and h.over_bottom_mm == 14.0 - shipped.number(
        "honing.room_margin"
    )  # the room below less what is kept, not the usual 36
    k = kinematics_of(after(called, shipped, STONES, h))
    aim = angle_aim(state)
    assert aim.low_deg <= k.hatch.included_deg <= aim.high_deg and not k.stops
    assert 45.0 <= k.hatch.rotary_m_per_min <= 75.0


@pytest.mark.parametrize(("rpm", "strokes"), [(155.0, None), (None, 50.0), (155.0, 50.0)])
def test_what_is_not_given_is_found_for_the_angle(called, shipped, rpm, strokes):
    h = proposed_hone(after(called, shipped, STONES), "vertical", rpm, strokes)
    assert (h.rpm == rpm or rpm is None) and (h.strokes_per_min == strokes or strokes is None)
    assert h.rpm > 0.0 and h.strokes_per_min > 0.0


def test_an_angle_is_quoted_either_way(called, shipped):
    assert typed(fold(called, shipped), "angle 15 flat") == AngleWanted(included_deg=30.0, quoted="horizontal")
    state = after(called, shipped, AngleWanted(included_deg=24.0))
    assert angle_aim(state).aim_deg == 24.0 and "as stated" in angle_aim(state).source


@pytest.mark.parametrize(
    ("change", "told"),
    [
        ({"over_bottom_mm": 20.0}, "would crash: 20.00 out below, 14.00 mm of room"),
        ({"over_top_mm": 60.0}, "bells the end"),
    ],
)
def test_a_set_up_that_would_break_something_is_a_stop(called, shipped, change, told):
    state = after(called, shipped, STONES, replace(HONE, **change))
    assert any(told in say_set_up(r, MM) for r in kinematics_of(state).stops)
    advice = hone_page_advice.set_up(state, MM)
    assert advice.mark is Mark.STOP and advice.sentence.startswith("Do not run it")
    assert any("Do not run it" in text for text in hone_advice.advise(state, 1, MM).changes)


def test_room_that_is_not_known_is_never_taken_for_enough(called, shipped):
    book_in = called[0].entry.book_in
    block = replace(book_in.block, room_below_mm=None)
    state = after(called, shipped, BookInRevised(book_in=replace(book_in, block=block)), STONES, HONE)
    assert SetUpReason(SetUpWhy.ROOM_UNKNOWN) in kinematics_of(state).stops


def test_a_stone_s_end_must_not_turn_round_at_an_opening(set_up, shipped):
    at_turn = CutNoted(cylinder=1, what="pin hole", depth_mm=84.0)  # the stone's lower end at the top turn-round
    assert kinematics_of(after(set_up, shipped, at_turn)).stops == (SetUpReason(SetUpWhy.PIN_HOLE, (84.0,)),)
    clear = CutNoted(cylinder=1, what="pin hole", depth_mm=150.0)
    assert kinematics_of(after(set_up, shipped, clear)).stops == ()
    web = CutNoted(cylinder=1, what="web", depth_mm=220.0)
    assert kinematics_of(after(set_up, shipped, web)).stops == (SetUpReason(SetUpWhy.WEBS, (220.0,)),)


def test_each_machine_has_only_the_figures_it_has(called, shipped):
    state = after(called, shipped, STONES)
    drill, manual = typed(state, "hone drill rpm 150"), typed(state, "hone manual rpm 170 dial 6")
    assert drill == HoneSet(machine="drill", rpm=150.0)
    assert manual.load == 6.0 and manual.strokes_per_min is None
    for text, why in (
        ("hone drill rpm 150 load 20", "A drill hone has no “load”; that is vertical"),
        ("hone ball strokes 3", "has no “strokes”"),
    ):
        with pytest.raises(InputError, match=why):
            typed(state, text)


def test_a_hand_gets_its_pace_or_another_drill_speed(called, shipped):
    slow = kinematics_of(after(called, shipped, STONES, HoneSet(machine="drill", rpm=80.0)))
    assert slow.pace.possible and slow.hatch is None
    fast = after(called, shipped, STONES, HoneSet(machine="drill", rpm=600.0))
    assert not kinematics_of(fast).pace.possible
    advice = hone_page_advice.pacer(fast, progress_of(fast, 1), 0, False, 15)
    assert "No hand holds" in advice.sentence and "grab" in advice.care


# -- steps -------------------------------------------------------------------------------------------------------------


def test_a_plateau_that_would_erase_the_valleys_is_a_stop(called, shipped):
    own = OwnHoning(steps=("coarse", "plateau"), short_mm=(0.012, 0.0), stones=("vitrified_150", "brush_600"))
    hole = HoleBored(cylinder=1, set_mm=105.63, sizes_mm=(105.640, 105.640, 105.640))
    state = after(called, shipped, hole, own)
    assert practice_of(state).title == "the shop's own" and stones_of(state)[1] == "brush_600"
    plateau = stages_of(state, 1)[1]
    assert (
        plateau.call.stands is StageStands.STOP
        and plateau.call.why is StageWhy.ERASES
        and plateau.a_side_um == pytest.approx(6.0)
    )
    assert hone_page_advice.steps(state, 1, MM).mark is Mark.STOP
    assert progress_of(state, 1).target_mm == pytest.approx(REDLINE - 0.012)
    assert sheet_of(state).practices[1][1] == "the shop's own"


def test_a_step_too_short_to_take_out_the_marks_before_it_is_told(called, shipped):
    own = OwnHoning(steps=("rough", "finish"), short_mm=(0.004, 0.0), stones=("vitrified_80", "vitrified_280"))
    state = after(called, shipped, HoleBored(cylinder=1, set_mm=105.63, sizes_mm=(105.640,)), own)
    finish = stages_of(state, 1)[1]
    assert finish.call.stands is StageStands.LOOK and finish.call.why is StageWhy.TOO_SHORT


def test_two_steps_as_they_ship_do_what_they_are_for(called, shipped):
    state = after(called, shipped, HoleBored(cylinder=1, set_mm=105.63, sizes_mm=(105.640,)))
    assert [s.call.stands for s in stages_of(state, 1)] == [StageStands.SOUND] * 2
    assert stages_of(fold(called, shipped), 1)[0].call.why is StageWhy.START_UNKNOWN


# -- the model ---------------------------------------------------------------------------------------------------------


def test_the_rate_is_a_starting_point_until_three_checks_taught_it(set_up, shipped):
    state = after(set_up, shipped, *steady()[:2])
    assert learned_of(state, 1).checks == 0 and learned_of(state, 1).rate_mm == pytest.approx(
        rate_of(state, "vitrified_150")
    )
    taught = after(set_up, shipped, *steady())
    assert learned_of(taught, 1).checks == 5 and learned_of(taught, 1).rate_mm == pytest.approx(0.0015, rel=1e-3)
    other = after(set_up, shipped, *steady(cylinder=2))
    assert learned_of(other, 1).rate_mm == pytest.approx(
        0.0015, rel=1e-3
    )  # the other cylinder knows better than a figure


def test_a_hole_that_cuts_slower_at_the_bottom_teaches_the_plan(set_up, shipped):
    rows = [(n, 105.64 + 0.0015 * n, 105.64 + 0.0015 * n, 105.64 + 0.0009 * n) for n in (0, 10, 20, 30)]
    state = after(set_up, shipped, *checks(*rows))
    even = after(set_up, shipped, *steady(shape=(0.0, 0.0, 0.0), strokes=(0, 10, 20, 30)))
    assert learned_of(state, 1).bottom < 0.75 * learned_of(even, 1).bottom
    fresh = after(set_up, shipped, *checks(*rows), replace(HONE, over_top_mm=30.0))
    assert (learned_of(fresh, 1).top, learned_of(fresh, 1).bottom) == (1.0, 1.0)  # other strokes teach anew


def test_a_plan_ends_on_the_step_and_straight(set_up, shipped):
    hole = HoleBored(
        cylinder=1, set_mm=105.63, sizes_mm=(105.645, 105.640, 105.632), across_mm=(105.641, 105.640, 105.636)
    )
    state = after(set_up, shipped, hole)
    found = forecast(state, 1)
    assert wall_now(state, 1).source is WallFrom.BAR
    assert max(found.sizes_at((10.0, 100.0, 200.0))) <= found.target_mm + 1e-9
    assert found.plan.over_bottom_mm <= 14.0 and found.plan.spread_mm < found.plan.spread_before_mm
    before, rounder = found.oval_mm
    assert before == pytest.approx(0.004) and rounder < before
    assert found.warms_c > 0.0 and warmth_grows_mm(state, found.warms_c) > 0.0
    advice = hone_page_advice.plan(state, 1, found, "", False, MM)
    assert advice.button == "Take these strokes" and "starting point" in " ".join(advice.changes)


@pytest.mark.parametrize(
    ("bite", "strokes", "says", "mark"),
    [
        (0, 7, "No stroke before the next check: Stock left says why.", Mark.LOOK),
        (5, 7, "7 double strokes bring it straight to its end, within 0.001. Stop after 5 and gauge.", Mark.SOUND),
        (6, 7, "7 double strokes bring it straight to its end, within 0.001. Stop after 6 and gauge.", Mark.SOUND),
        (7, 7, "7 double strokes bring it straight to its end, within 0.001.", Mark.SOUND),
        (9, 7, "7 double strokes bring it straight to its end, within 0.001.", Mark.SOUND),
        (1, 1, "1 double stroke brings it straight to its end, within 0.001.", Mark.SOUND),
        (0, 1, "No stroke before the next check: Stock left says why.", Mark.LOOK),
    ],
)
def test_a_plan_never_says_more_strokes_than_stock_left_does(set_up, shipped, monkeypatch, bite, strokes, says, mark):
    hole = HoleBored(cylinder=1, set_mm=105.63, sizes_mm=(105.640, 105.640, 105.640))
    state = after(set_up, shipped, hole)
    found = forecast(state, 1)
    found = replace(found, plan=replace(found.plan, double_strokes=strokes, spread_mm=0.0005))
    turned = judge(state, 1, WallBefore.TRACED)
    monkeypatch.setattr(hone_page_advice, "judge", lambda *_: replace(turned, bite=bite))
    monkeypatch.setattr(hone_page_advice, "replace", lambda run, **_: run)  # the dwell is tried elsewhere
    advice = hone_page_advice.plan(state, 1, found, "", False, MM)
    assert (advice.sentence, advice.mark) == (says, mark)
    told = [f.value for f in advice.figures if f.label == "of them until the next check"]
    assert told == ([str(bite)] if 0 < bite < strokes else [])


def test_a_check_is_held_against_the_plan(set_up, shipped):
    hole = HoleBored(cylinder=1, set_mm=105.63, sizes_mm=(105.640, 105.640, 105.640))
    found = forecast(after(set_up, shipped, hole), 1)
    said = found.sizes_at((0.07 * 212.0, 106.0, 0.93 * 212.0))
    as_said = after(set_up, shipped, hole, *checks((0, *said)))
    assert max(map(abs, against_plan(as_said, found))) < 1e-6
    tight = after(set_up, shipped, hole, *checks((0, said[0], said[1], said[2] - 0.01)))
    assert against_plan(tight, found)[1] == pytest.approx(-0.01) and against_plan(as_said, found) is not None


@pytest.mark.parametrize(
    ("entries", "why"),
    [
        ((STONES,), "How the hone goes is not booked"),
        ((HONE,), "Which stones are in is not booked"),
        ((STONES, HoneSet(machine="drill", rpm=150.0)), "hand-held"),
        ((STONES, HONE, *checks((0, 105.64))), "one depth only"),
        ((STONES, HONE, *checks((0, 105.744, 105.744, 105.744))), "at its target already"),
    ],
)
def test_what_a_plan_lacks_is_said(called, shipped, entries, why):
    with pytest.raises(InputError, match=why):
        forecast(after(called, shipped, *entries), 1)


def test_a_blind_bottom_is_kept_in_its_room(set_up, shipped):
    book_in = set_up[0].entry.book_in
    block = replace(book_in.block, bottom=Bottom.BLIND, room_below_mm=1.0 + shipped.number("honing.room_margin"))
    hole = HoleBored(cylinder=1, set_mm=105.63, sizes_mm=(105.640, 105.640, 105.640))
    state = after(
        set_up, shipped, BookInRevised(book_in=replace(book_in, block=block)), replace(HONE, over_bottom_mm=1.0), hole
    )
    assert task_of(state, 1)[0].room_below_mm == 1.0
    found = forecast(state, 1)
    assert found.plan.over_bottom_mm <= 1.0 and found.plan.dwell_bottom_s > 0.0
    assert "Held back by the room below." in hone_page_advice.plan(state, 1, found, "", False, MM).changes


@pytest.mark.parametrize(
    ("out", "said"),
    [
        (14.0, "touches what"),
        (13.997, "touches what"),
        (13.9, "comes within 0.10 mm of"),
        (13.0, "comes within 1.00 mm of"),
    ],
)
def test_a_stone_that_touches_is_not_said_to_come_within_nothing(set_up, out, said, shipped):
    looks = kinematics_of(after(set_up, shipped, replace(HONE, over_bottom_mm=out))).looks
    assert any(f"the stone {said}" in say_set_up(r, MM) for r in looks)


@pytest.mark.parametrize(
    "hangs, out, stop, look",
    [(0.0, 12.0, False, False), (6.0, 12.0, True, False), (6.0, 7.5, False, True), (6.0, 6.0, False, False)],
)
def test_what_hangs_under_a_stone_counts_in_the_room_below(set_up, shipped, hangs, out, stop, look):
    """14 mm of room: clips that hang 6 mm leave 8, less what is kept."""
    stones = replace(STONES, hangs_mm=hangs)
    state = after(set_up, shipped, stones, replace(HONE, over_bottom_mm=out))
    k = kinematics_of(state)
    assert any((r.why, r.hangs) == (SetUpWhy.CRASH, True) for r in k.stops) is stop
    assert any((r.why, r.hangs) == (SetUpWhy.NEAR_BOTTOM, True) for r in k.looks) is look
    assert usual_over(state)[1] <= 14.0 - hangs - shipped.number("honing.room_margin") + 1e-9
    typed_stones = typed(state, f"stones vitrified 150 4 x 10 long 120 hangs {hangs:g} new") if hangs else None
    assert typed_stones is None or (typed_stones.hangs_mm, typed_stones.bedded) == (hangs, False)


@pytest.mark.parametrize(
    ("machine", "count", "said"),
    [
        ("vertical", 4, "4 stones that open together take out an oval and leave 3, 4 and 5 lobes; 6 leave 5, 6 and 7."),
        (
            "manual",
            2,
            "2 stones that open together round no hole: they run along with an oval. 4 take it out, and leave 3, 4 and 5 lobes.",
        ),
        (
            "vertical",
            3,
            "3 stones that open together round no hole: they run along with an oval. 4 take it out, and leave 3, 4 and 5 lobes.",
        ),
        ("vertical", 6, "6 stones that open together take out an oval and leave 5, 6 and 7 lobes; 8 leave 7, 8 and 9."),
        ("ball", 4, ""),
        ("drill", 4, ""),
    ],
)
def test_what_more_stones_do_to_roundness_is_said(set_up, shipped, machine, count, said):
    state = after(set_up, shipped, replace(STONES, count=count), replace(HONE, machine=machine))
    told = [line for line in hone_page_advice.set_up(state, MM).changes if "open together" in line]
    assert told == ([said] if said else [])
