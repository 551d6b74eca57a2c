"""At the hone: set-up, steps, plan, load, ledger, and what is done past the redline."""

from dataclasses import replace

import pytest

from redline_bore.core.block import Bottom
from redline_bore.core.errors import InputError
from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.card import Mark
from redline_bore.job.hone.load import picture_of
from redline_bore.job.hone.model import against_plan, forecast, learned_of, task_of, wall_now, warmth_grows_mm
from redline_bore.job.hone.progress import progress_of
from redline_bore.job.hone.set_up import angle_aim, kinematics_of, proposed_hone, rate_of
from redline_bore.job.hone.steps import practice_of, stages_of, stones_of
from redline_bore.job.hone.stock_ledger import ledger_csv, ledger_of
from redline_bore.job.hone.ways_out import ways_out
from redline_bore.job.kinds.book_in import BookInRevised
from redline_bore.job.kinds.bore import CutNoted, HoleBored
from redline_bore.job.kinds.call import DecisionTaken, PistonMeasured
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.hone import (
    AngleWanted,
    CheckLogged,
    CompensationRead,
    HoneSet,
    HoneStepBegan,
    OwnHoning,
    StonesSet,
)
from redline_bore.job.kinds.phrase import Where
from redline_bore.job.sign_off.sheet import sheet_of
from redline_bore.job.words import hone as hone_advice
from redline_bore.job.words import hone_pages as hone_page_advice
from tests.job.benches import after, longer, one_typed

MM = Show(Units.METRIC)
STONES = StonesSet(stones="vitrified_150", count=4, width_mm=10.0, length_mm=120.0)
HONE = HoneSet(machine="vertical", rpm=170.0, strokes_per_min=45.0, over_top_mm=36.0, over_bottom_mm=14.0, load=20.0)
REDLINE = 105.745


def checks(*rows, cylinder=1):
    """Rows of strokes and sizes."""
    return [CheckLogged(cylinder=cylinder, strokes=float(n), sizes_mm=sizes) for n, *sizes in rows]


@pytest.fixture
def called(ledger_of):
    """2041 called at 0.75 over, its pistons measured: the redline is at 105.745."""
    pistons = [PistonMeasured(cylinder=c, size_mm=105.67, piston_c=20.0) for c in range(1, 6)]
    return longer(ledger_of("2041"), DecisionTaken(oversize_mm=0.75, sentence="Bore."), *pistons)


@pytest.fixture
def set_up(called):
    return longer(called, STONES, HONE)


def steady(rate=0.0015, start=105.640, shape=(0.0, 0.0, -0.003), cylinder=1, strokes=(0, 10, 20, 30, 40)):
    rows = [(n, *(start + rate * n + tip for tip in shape)) for n in strokes]
    return checks(*rows, cylinder=cylinder)


def typed(state, text, cylinder=1):
    return one_typed("hone", text, state, Where(cylinder, Place(0, 0), Units.METRIC))


# -- set-up ------------------------------------------------------------------------------------------------------------


def test_a_set_up_is_proposed_inside_the_usual_speeds_and_angles(called, shipped):
    state = after(called, shipped, STONES)
    h = proposed_hone(state, "vertical")
    assert h.over_top_mm == pytest.approx(36.0) and h.over_bottom_mm == 14.0  # the room below, not the usual 36
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
    assert any(told in text for text in kinematics_of(state).stops)
    advice = hone_page_advice.set_up(state, MM)
    assert advice.mark is Mark.STOP and advice.sentence.startswith("Do not run it")
    assert any("Do not run it" in text for text in hone_advice.advise(state, 1, MM).changes)


def test_room_that_is_not_known_is_never_taken_for_enough(called, shipped):
    book_in = called[0].entry.book_in
    block = replace(book_in.block, room_below_mm=None)
    state = after(called, shipped, BookInRevised(book_in=replace(book_in, block=block)), STONES, HONE)
    assert any("room below is not known" in text for text in kinematics_of(state).stops)


def test_a_stone_s_end_must_not_turn_round_at_an_opening(set_up, shipped):
    at_turn = CutNoted(cylinder=1, what="pin hole", depth_mm=84.0)  # the stone's lower end at the top turn-round
    assert any("drop into it" in text for text in kinematics_of(after(set_up, shipped, at_turn)).stops)
    clear = CutNoted(cylinder=1, what="pin hole", depth_mm=150.0)
    assert kinematics_of(after(set_up, shipped, clear)).stops == ()
    web = CutNoted(cylinder=1, what="web", depth_mm=220.0)
    assert any("webs" in text for text in kinematics_of(after(set_up, shipped, web)).stops)


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
    assert plateau.word == "stop" and "erases valleys" in plateau.why and plateau.a_side_um == pytest.approx(6.0)
    assert hone_page_advice.steps(state, 1, MM).mark is Mark.STOP
    assert progress_of(state, 1).target_mm == pytest.approx(REDLINE - 0.012)
    assert sheet_of(state).practices[1][1] == "the shop's own"


def test_a_step_too_short_to_take_out_the_marks_before_it_is_told(called, shipped):
    own = OwnHoning(steps=("rough", "finish"), short_mm=(0.004, 0.0), stones=("vitrified_80", "vitrified_280"))
    state = after(called, shipped, HoleBored(cylinder=1, set_mm=105.63, sizes_mm=(105.640,)), own)
    finish = stages_of(state, 1)[1]
    assert finish.word == "look here" and "too short" in finish.why


def test_two_steps_as_they_ship_do_what_they_are_for(called, shipped):
    state = after(called, shipped, HoleBored(cylinder=1, set_mm=105.63, sizes_mm=(105.640,)))
    assert [s.word for s in stages_of(state, 1)] == ["sound", "sound"]
    assert stages_of(fold(called, shipped), 1)[0].why == "where it starts from is not known"


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
    assert wall_now(state, 1).source == "as it came off the bar"
    assert max(found.sizes_at((10.0, 100.0, 200.0))) <= found.target_mm + 1e-9
    assert found.plan.over_bottom_mm <= 14.0 and found.plan.spread_mm < found.plan.spread_before_mm
    before, rounder = found.oval_mm
    assert before == pytest.approx(0.004) and rounder < before
    assert found.warms_c > 0.0 and warmth_grows_mm(state, found.warms_c) > 0.0
    advice = hone_page_advice.plan(state, 1, found, "", False, MM)
    assert advice.button == "Take these strokes" and "starting point" in " ".join(advice.changes)


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
    block = replace(book_in.block, bottom=Bottom.BLIND, room_below_mm=1.0)
    hole = HoleBored(cylinder=1, set_mm=105.63, sizes_mm=(105.640, 105.640, 105.640))
    state = after(
        set_up, shipped, BookInRevised(book_in=replace(book_in, block=block)), replace(HONE, over_bottom_mm=1.0), hole
    )
    assert task_of(state, 1)[0].room_below_mm == 1.0
    found = forecast(state, 1)
    assert found.plan.over_bottom_mm <= 1.0 and found.plan.dwell_bottom_s > 0.0
    assert "Held back by the room below." in hone_page_advice.plan(state, 1, found, "", False, MM).changes


# -- the run -----------------------------------------------------------------------------------------------------------


def test_near_size_it_creeps_and_warm_it_waits(set_up, shipped):
    rows = [(n, 105.700 + 0.001 * n) for n in (0, 10, 20, 30, 37)]
    cold = hone_advice.advise(after(set_up, shipped, *checks(*rows)), 1, MM)
    assert cold.sentence.startswith("Creep. ")
    hot = [(n, (105.700 + 0.001 * n) * (1.0 + 11e-6 * 10.0)) for n in (0, 10, 20, 30, 37)]
    advice = hone_advice.advise(after(set_up, shipped, *checks(*hot), block_c=30.0), 1, MM)
    assert advice.sentence.startswith("Let it cool and gauge again") and advice.mark is Mark.LOOK


def test_the_plateau_is_counted_and_forecast(set_up, shipped):
    state = after(set_up, shipped, HoneStepBegan(cylinder=1, step=1), *checks((0, REDLINE - 0.0025)))
    advice = hone_advice.advise(state, 1, MM)
    assert "light strokes; stop at 8 and gauge." in advice.sentence
    assert any(f.label == "ten light strokes take" for f in advice.figures)
    done = after(
        set_up, shipped, HoneStepBegan(cylinder=1, step=1), *checks((0, REDLINE - 0.0025), (20, REDLINE - 0.0018))
    )
    assert "20 light strokes are done" in hone_advice.advise(done, 1, MM).sentence


def test_what_the_machine_says_stands_beside_what_was_measured(set_up, shipped):
    rows = checks((0, 105.64), (20, 105.67), (30, 105.685))
    state = after(set_up, shipped, *rows, CompensationRead(cylinder=1, taken_mm=0.080))
    line = next(f for f in hone_advice.advise(state, 1, MM).figures if f.label == "machine says, measured")
    assert line.value == "0.080, 0.045" and line.mark is Mark.LOOK


def test_past_the_redline_every_way_out_has_its_figures(set_up, shipped):
    state = after(set_up, shipped, *checks((0, 105.70), (20, 105.760)))
    p = progress_of(state, 1)
    found = {w.title: w.told for w in ways_out(state, p, MM)}
    assert p.over and {"A matched piston", "A coated piston", "The next size", "A sleeve"} <= set(found)
    assert "105.675 to 105.695" in found["A matched piston"] and "+1.00" in found["The next size"]
    advice = hone_advice.advise(state, 1, MM)
    assert advice.mark is Mark.STOP and advice.sentence.startswith("Stop.")
    assert sum(text.startswith("Way out:") for text in advice.changes) == len(found)


def test_a_hair_over_may_still_be_inside_the_window(set_up, shipped):
    state = after(set_up, shipped, *checks((0, 105.70), (20, 105.7465)))
    assert ways_out(state, progress_of(state, 1), MM)[0].title in ("Leave it", "Ask")
    assert (
        ways_out(
            after(set_up, shipped, *checks((0, 105.70))),
            progress_of(after(set_up, shipped, *checks((0, 105.70))), 1),
            MM,
        )
        == ()
    )


def test_a_deglaze_counts_strokes_and_stops(ledger_of, shipped):
    light = DecisionTaken(oversize_mm=0.0, way="deglaze", sentence="x")
    state = after(ledger_of("2047"), shipped, light)
    assert hone_advice.advise(state, 1, MM).sentence.startswith("10 to 20 strokes by hand, then stop")
    done = after(ledger_of("2047"), shipped, light, *checks((0, 78.01), (20, 78.011)))
    assert "20 strokes are done: stop" in hone_advice.advise(done, 1, MM).sentence
    grown = after(ledger_of("2047"), shipped, light, *checks((0, 78.01), (12, 78.03)))
    assert hone_advice.advise(grown, 1, MM).mark is Mark.STOP


def test_job_2044_is_mid_hone_and_warm(state_of):
    state = state_of("2044")
    one, two = (hone_advice.advise(state, c, Show(Units.INCH)) for c in (1, 2))
    assert one.sentence.startswith("Let it cool and gauge again") and "Stop at" in two.sentence
    assert not kinematics_of(state).stops and learned_of(state, 2).checks == 4
    assert forecast(state, 2).plan.over_bottom_mm <= 1.524 + 1e-9


# -- load, ledger ------------------------------------------------------------------------------------------------------


def samples(length=212.0, stone=120.0, tight_at=None):
    found = []
    for i in range(81):
        upper = -36.0 + (length + 14.0 - stone + 36.0) * i / 80.0
        load = 20.0
        if tight_at is not None:
            load += 8.0 * max(0.0, 1.0 - abs((upper + 36.0) / (length - stone + 50.0) - tight_at) / 0.25)
        found.append((upper, load))
    return found


def test_a_tight_place_is_found_where_it_is_and_held_against_the_gauge(set_up, shipped):
    state = after(set_up, shipped, *checks((0, 105.64, 105.64, 105.63)))
    even = picture_of(state, 1, samples(), 2.0)
    assert even.tight is None and even.mean == pytest.approx(20.0)
    tight = picture_of(state, 1, samples(tight_at=1.0), 2.0)
    assert tight.tight.depth_mm > 0.8 * 212.0 and "Dwell at the bottom" in tight.dwell_words(MM)
    assert "tight there too" in tight.gauge_words(MM)
    other = picture_of(state, 1, samples(tight_at=0.0), 2.0)
    assert "tight at 197" in other.gauge_words(MM) and "Dwell at the top" in other.dwell_words(MM)
    assert "Short strokes" in picture_of(state, 1, samples(tight_at=0.5), 2.0).dwell_words(MM)


def test_a_hone_that_sent_nothing_is_no_even_load(set_up, shipped):
    empty = picture_of(fold(set_up, shipped), 1, [], 0.0)
    assert empty.tight is None and empty.mean == 0.0
    assert "Ctrl+5" in hone_page_advice.load(fold(set_up, shipped), empty, False, MM).sentence
    told = hone_page_advice.load(
        fold(set_up, shipped), replace(picture_of(fold(set_up, shipped), 1, samples(), 2.0), faults=3), True, MM
    )
    assert any("3 lines" in text for text in told.changes)


def test_the_ledger_adds_up_and_knows_who_what_and_how_warm(set_up, shipped):
    hole = HoleBored(cylinder=1, set_mm=105.63, sizes_mm=(105.640, 105.638))
    state = after(set_up, shipped, hole, *steady(start=105.641, shape=(0.0,)))
    row = ledger_of(state).rows[0]
    assert [c.step for c in row.cells] == ["bored", "coarse"]
    assert (
        row.cells[1].stones == "vitrified 150"
        and row.cells[1].persons == ("RM",)
        and row.cells[1].block_c == (20.0, 20.0)
    )
    assert row.total_mm == pytest.approx(row.cells[0].removed_mm + row.cells[1].removed_mm)
    lines = ledger_csv(ledger_of(state)).splitlines()
    assert lines[0].startswith("cylinder,step,removed_mm") and lines[2].startswith(
        "1,coarse,0.0610,40,vitrified 150,20.0,20.0,RM,5"
    )


def test_earlier_jobs_in_the_same_metal_are_compared(set_up, shipped, state_of):
    found = ledger_of(fold(set_up, shipped), [state_of("2036"), state_of("2044"), state_of("2047")])
    assert [f.number for f in found.family][0] == "2044" or [f.number for f in found.family][0] == "2036"
    assert {f.number for f in found.family} == {"2036", "2044"} and all(f.rate_mm > 0.0 for f in found.family)
    assert "No earlier job" in " ".join(
        hone_page_advice.ledger(state_of("2044"), ledger_of(state_of("2044")), MM).changes
    )


# -- typing ------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("text", "entry"),
    [
        ("stones vitrified 150 4 x 10 long 120 new", replace(STONES, bedded=False)),
        (
            "stones diamond 200 6 x 5 long 100 worn 2",
            StonesSet(stones="diamond_200", count=6, width_mm=5.0, length_mm=100.0, worn_mm=2.0),
        ),
        ("hone vertical rpm 170 strokes 45 over 36 14 load 20", HONE),
        (
            "hone vertical rpm 170 strokes 45 over 36 0 dwell 0 0.5 load 25",
            replace(HONE, over_bottom_mm=0.0, dwell_bottom_s=0.5, load=25.0),
        ),
        ("angle 30", AngleWanted(included_deg=30.0)),
        ("taken 0.045", CompensationRead(cylinder=1, taken_mm=0.045)),
        ("note pin hole at 150", CutNoted(cylinder=1, what="pin hole", depth_mm=150.0)),
        (
            "steps rough 0.05 vitrified 150, semi finish 0.006 vitrified 280, plateau 0 brush 600",
            OwnHoning(
                steps=("rough", "semi finish", "plateau"),
                short_mm=(0.05, 0.006, 0.0),
                stones=("vitrified_150", "vitrified_280", "brush_600"),
            ),
        ),
        ("42 105.70 105.71", CheckLogged(cylinder=1, strokes=42.0, sizes_mm=(105.70, 105.71))),
    ],
)
def test_what_is_typed_at_the_hone(called, shipped, text, entry):
    assert typed(after(called, shipped, STONES), text) == entry


@pytest.mark.parametrize(
    ("text", "why"),
    [
        ("stones vitrified 150", "are typed as"),
        ("stones marble 150 4 x 10 long 70", "is no stone that figures are known for"),
        ("stones vitrified 150 0 x 10 long 70", "is no pack"),
        ("stones vitrified 150 4 x 10 long 300", "as long as the hole"),
        ("hone", "vertical, manual, drill or ball"),
        ("hone steam", "vertical, manual, drill or ball"),
        ("hone vertical rpm", "figure is wanted behind"),
        ("hone vertical over 20", "Two figures are wanted"),
        ("hone vertical rpm 99999", "no speed of a hone"),
        ("hone vertical strokes 0", "no rate of a hone"),
        ("hone vertical load 150", "per cent"),
        ("hone vertical dwell 0 60", "Seconds are wanted"),
        ("hone vertical rpm fast", "is no number"),
        ("angle steep", "crosshatch is typed as"),
        ("angle 170", "is no crosshatch"),
        ("taken 45", "check the unit"),
        ("steps rough", "Own steps are typed as"),
        ("steps rough 0.006 vitrified 150, fine 0.05 vitrified 280", "nearer to the redline"),
        ("steps rough 0.05 vitrified 150", "has to end on the redline"),
        ("note pin hole", "A note is"),
    ],
)
def test_what_is_refused_at_the_hone_has_its_reason(called, shipped, text, why):
    with pytest.raises(InputError, match=why):
        typed(after(called, shipped, STONES), text)


# -- what the checks taught, by hand ----------------------------------------------------------------------------------


def test_the_spread_of_a_familys_lessons_is_carried_into_the_rate(set_up, shipped):
    """Two sd each way from three jobs on; the shop's wide figure with fewer, or where they did not tell it."""
    from redline_bore.job.lessons import RATE
    from redline_bore.job.profiles.stones import stones_said
    from redline_bore.job.state.booking import Lesson
    from tests.job.benches import but

    state = fold(set_up, shipped)
    wide = state.figures.number("honing.few_lessons_spread")
    for sd, count, spread in ((0.0002, 3, 0.2), (0.0002, 2, wide), (None, 3, wide), (0.0001, 9, 0.1)):
        lesson = Lesson(RATE, stones_said("vitrified_150"), 0.002, sd, count, ("2036",))
        found = learned_of(but(state, booking={"lessons": (lesson,)}), 1)
        assert found.rate_mm == pytest.approx(0.002) and found.family == ("2036",) and found.checks == 0
        assert (found.low_mm, found.high_mm) == pytest.approx((0.002 / (1.0 + spread), 0.002 * (1.0 + spread)))
        assert (found.top, found.bottom) == (1.0, 1.0)


def test_without_lessons_the_starting_point_is_halved_and_doubled(set_up, shipped):
    found = learned_of(fold(set_up, shipped), 1)
    assert (found.low_mm, found.high_mm) == pytest.approx((0.5 * found.rate_mm, 2.0 * found.rate_mm))


def test_the_middle_cylinder_teaches_one_that_has_no_checks(set_up, shipped):
    rates = {2: 0.001, 3: 0.002, 4: 0.003}
    more = [e for c, rate in rates.items() for e in steady(rate, cylinder=c)]
    assert learned_of(after(set_up, shipped, *more), 1).rate_mm == pytest.approx(0.002, rel=1e-3)


@pytest.mark.parametrize("strokes, counts", [((0, 10, 20), 3), ((0, 10), 0)])
def test_three_checks_teach_and_two_do_not(set_up, shipped, strokes, counts):
    assert learned_of(after(set_up, shipped, *steady(strokes=strokes)), 1).checks == counts


def test_ends_that_cut_alike_are_learned_alike_and_one_place_teaches_no_ends(set_up, shipped):
    even = learned_of(after(set_up, shipped, *steady(shape=(0.0, 0.0, 0.0))), 1)
    assert even.top == pytest.approx(even.bottom, rel=0.5)
    one = learned_of(after(set_up, shipped, *checks((0, 105.640), (10, 105.655), (20, 105.670))), 1)
    assert (one.top, one.bottom) == (1.0, 1.0) and one.checks == 3
    still = learned_of(
        after(
            set_up,
            shipped,
            *checks((20, 105.64, 105.64, 105.64), (20, 105.64, 105.64, 105.64), (20, 105.64, 105.64, 105.64)),
        ),
        1,
    )
    assert (still.top, still.bottom) == (1.0, 1.0)


def test_the_turn_round_before_the_planner_is_the_hones_own(set_up, shipped):
    from dataclasses import replace as changed_to

    from tests.job.benches import but

    state = fold(set_up, shipped)
    usual = state.figures.number("honing.turn_round")
    for strokes in (45.0, 250.0):
        task = task_of(but(state, honing={"run": changed_to(state.honing.run, strokes_per_min=strokes)}), 1).task
        assert task.reversal_s == pytest.approx(min(usual, 0.45 * 60.0 / strokes))
        assert task.double_strokes_per_min == strokes
    assert task_of(state, 1).task.target_mm == pytest.approx(
        (progress_of(state, 1).target_mm - min(wall_now(state, 1).sizes_mm)) / 2.0
    )
