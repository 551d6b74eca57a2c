"""At the hone: the run, the load, the ledger, and what is done past the redline."""

import math
from dataclasses import replace

import pytest

from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.card import Mark
from redline_bore.job.hone.finding import WallBefore, judge
from redline_bore.job.hone.load import BesideGauge, Dwell, picture_of
from redline_bore.job.hone.model import forecast, learned_of
from redline_bore.job.hone.progress import progress_of
from redline_bore.job.hone.set_up import kinematics_of
from redline_bore.job.hone.stock_ledger import honed_on_job, ledger_csv, ledger_of
from redline_bore.job.hone.track import ToldBy
from redline_bore.job.hone.ways_out import Out, ways_out
from redline_bore.job.kinds.bore import HoleBored
from redline_bore.job.kinds.call import DecisionTaken
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.hone import (
    CheckLogged,
    CompensationRead,
    HoneStepBegan,
)
from redline_bore.job.words import hone as hone_advice
from redline_bore.job.words import hone_pages as hone_page_advice
from redline_bore.job.words.load import gauge_words
from redline_bore.job.words.ways_out import TITLES, say_out
from tests.job.benches import after, longer
from tests.job.hone.the_hone import HONE, MM, REDLINE, STONES, checks, steady, typed

# -- the run -----------------------------------------------------------------------------------------------------------


def test_near_size_it_creeps_and_warm_it_waits(set_up, shipped):
    rows = [(n, 105.700 + 0.001 * n) for n in (0, 10, 20, 30, 37)]
    cold = hone_advice.advise(after(set_up, shipped, *checks(*rows)), 1, MM)
    assert cold.sentence.startswith("Creep. ")
    hot = checks((37, 105.737 * (1.0 + 11e-6 * 10.0)))
    warmed = after(longer(set_up, *checks(*rows[:-1])), shipped, *hot, block_c=30.0)
    advice = hone_advice.advise(warmed, 1, MM)
    assert advice.sentence.startswith("Let it cool and gauge again") and advice.mark is Mark.LOOK


def test_the_plateau_is_counted_and_forecast(set_up, shipped):
    state = after(set_up, shipped, HoneStepBegan(cylinder=1, step=1), *checks((0, REDLINE - 0.008)))
    advice = hone_advice.advise(state, 1, MM)
    assert "light strokes; stop at 8 and gauge." in advice.sentence
    assert any(f.label == "ten light strokes take" for f in advice.figures)
    done = after(
        set_up, shipped, HoneStepBegan(cylinder=1, step=1), *checks((0, REDLINE - 0.008), (8, REDLINE - 0.0078))
    )
    assert "8 light strokes are done" in hone_advice.advise(done, 1, MM).sentence


def test_what_the_machine_says_stands_beside_what_was_measured(set_up, shipped):
    rows = checks((0, 105.64), (20, 105.67), (30, 105.685))
    state = after(set_up, shipped, *rows, CompensationRead(cylinder=1, taken_mm=0.080))
    line = next(f for f in hone_advice.advise(state, 1, MM).figures if f.label == "machine says, measured")
    assert line.value == "0.080, 0.045" and line.mark is Mark.LOOK


def test_past_the_redline_every_way_out_has_its_figures(set_up, shipped):
    state = after(set_up, shipped, *checks((0, 105.70), (20, 105.760)))
    p = progress_of(state, 1)
    found = {TITLES[w.out]: say_out(w, MM) for w in ways_out(state, p)}
    assert p.over and {"A matched piston", "A coated piston", "The next size", "A sleeve"} <= set(found)
    assert "105.677 to 105.693" in found["A matched piston"] and "+1.00" in found["The next size"]
    advice = hone_advice.advise(state, 1, MM)
    assert advice.mark is Mark.STOP and advice.spoken.startswith("Stop. Cylinder")
    assert sum(text.startswith("Way out:") for text in advice.changes) == len(found)


def test_a_hair_over_may_still_be_inside_the_window(set_up, shipped):
    state = after(set_up, shipped, *checks((0, 105.70), (20, 105.7525)))
    assert progress_of(state, 1).over and ways_out(state, progress_of(state, 1))[0].out in (
        Out.LEAVE,
        Out.TOO_CLOSE,
        Out.READ_ENDS_FIRST,
    )
    within = after(set_up, shipped, *checks((0, 105.70), (20, 105.7465)))
    assert hone_advice.advise(within, 1, MM).sentence.startswith("The coarse step is done")
    assert (
        ways_out(
            after(set_up, shipped, *checks((0, 105.70))),
            progress_of(after(set_up, shipped, *checks((0, 105.70))), 1),
        )
        == ()
    )


@pytest.mark.parametrize(
    ("sizes", "across", "left", "matched"),
    [
        ((105.7525, 105.7525, 105.7525), (105.7525, 105.7525, 105.7525), "Leave it", True),
        ((105.7525,), (), "Ask", True),  # nothing is known of its ends
        ((105.7525, 105.7525, 105.7525), (), "Ask", True),
        ((105.756, 105.755, 105.755), (105.756, 105.755, 105.755), "Ask", True),  # too close to the top
        (
            (105.770, 105.752, 105.752),
            (105.752, 105.752, 105.752),
            "",
            False,
        ),  # the largest place rattles, the mean is inside
        ((105.785, 105.760, 105.724), (105.785, 105.760, 105.724), "", False),  # and this one seizes too
        ((105.780, 105.780, 105.780), (105.780, 105.780, 105.780), "", True),
    ],
)
def test_leaving_it_is_judged_at_both_ends(set_up, shipped, sizes, across, left, matched):
    state = after(
        set_up, shipped, *checks((0, 105.70)), CheckLogged(cylinder=1, strokes=20.0, sizes_mm=sizes, across_mm=across)
    )
    assert progress_of(state, 1).over
    found = {TITLES[w.out]: say_out(w, MM) for w in ways_out(state, progress_of(state, 1))}
    assert next((t for t in ("Leave it", "Ask") if t in found), "") == left
    assert ("A matched piston" in found) is matched


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
    assert one.sentence == "The coarse step is done. N goes to plateau." and "then stop and gauge" in two.sentence
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
    assert tight.tight.depth_mm > 0.8 * 212.0 and tight.dwell is Dwell.BOTTOM
    assert tight.beside_gauge is BesideGauge.THERE_TOO and "tight there too" in gauge_words(tight, MM)
    other = picture_of(state, 1, samples(tight_at=0.0), 2.0)
    assert "tight at 197" in gauge_words(other, MM) and other.dwell is Dwell.TOP
    assert picture_of(state, 1, samples(tight_at=0.5), 2.0).dwell is Dwell.SHORT_STROKES


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
        "1,coarse,0.0620,40,vitrified 150,20.0,20.0,RM,5"
    )


def test_earlier_jobs_in_the_same_metal_are_compared(set_up, shipped, state_of):
    found = ledger_of(fold(set_up, shipped), [honed_on_job(state_of("2036")), honed_on_job(state_of("2044"))])
    assert honed_on_job(state_of("2047")) is None
    assert [f.number for f in found.family][0] == "2044" or [f.number for f in found.family][0] == "2036"
    assert {f.number for f in found.family} == {"2036", "2044"} and all(f.rate_mm > 0.0 for f in found.family)
    assert "No earlier job" in " ".join(
        hone_page_advice.ledger(state_of("2044"), ledger_of(state_of("2044")), MM).changes
    )


def test_dwell_makes_a_stroke_take_more_and_the_bite_smaller(called, shipped):
    entries = (STONES, HONE, *checks((0, 105.600), (5, 105.606), (10, 105.612), cylinder=2))
    before = judge(after(called, shipped, *entries), 2, WallBefore.TRACED)
    waits = replace(HONE, dwell_top_s=1.0, dwell_bottom_s=60.0 / HONE.strokes_per_min - 1.0)  # twice as long a stroke
    now = judge(after(called, shipped, *entries, waits), 2, WallBefore.TRACED)
    assert waits.waits_share == pytest.approx(2.0) and waits.turns_a_stroke == pytest.approx(2.0 * HONE.turns_a_stroke)
    assert 0 < now.bite <= math.ceil(before.bite / 2.0)
    assert now.most < 0.6 * before.most  # half, and a little less sure since it was set anew


def test_what_the_ledger_says_of_its_cylinders(called, shipped):
    def told(*entries):
        state = after(called, shipped, STONES, HONE, *entries)
        return hone_page_advice.ledger(state, ledger_of(state), MM)

    one = steady(0.0015, cylinder=1)
    assert (
        told(*one).sentence == "One cylinder was honed: there is none to hold it against."
        and told(*one).mark is Mark.PLAIN
    )
    two = told(*one, *steady(0.0015, cylinder=2))
    assert two.sentence.startswith("2 cylinders were honed; none is seen") and two.mark is Mark.PLAIN
    many = [c for i in (1, 2, 3, 4) for c in steady(0.0015, cylinder=i)]
    assert told(*many).mark is Mark.SOUND
    odd = told(*many, *steady(0.0032, cylinder=5))
    assert odd.mark is Mark.LOOK and "Cylinder 5 cuts unlike the others" in odd.sentence


def test_a_load_that_is_named_alone_changes_the_load_alone(called, shipped):
    state = after(called, shipped, STONES, HONE)
    assert typed(state, "hone vertical load 4") == replace(HONE, load=4.0)
    assert typed(state, "hone vertical dwell 0 0.3") == replace(HONE, dwell_bottom_s=0.3)
    assert typed(state, "hone vertical rpm 120 load 4").rpm == 120.0


@pytest.mark.parametrize("share", [0.3, 1.0, 2.0])
def test_slow_stones_of_the_step_before_promise_nothing_of_the_next(set_up, shipped, share):
    steps = typed(
        fold(set_up, shipped), "steps rough 0.050 vitrified 150, semi 0.010 vitrified 220, plateau 0 brush 600"
    )
    own, begun = longer(set_up, steps), [HoneStepBegan(cylinder=1, step=1), *checks((0, 105.69, 105.69, 105.69))]
    by_stones = progress_of(after(own, shipped, *begun), 1).tracked
    assert by_stones.prior_from is ToldBy.STONES
    rough = progress_of(after(own, shipped, *checks((0, 105.64, 105.64, 105.64))), 1).tracked.expected_mm
    cut = steady(share * rough, shape=(0.0, 0.0, 0.0))
    then = [HoneStepBegan(cylinder=1, step=1), *checks((0, *cut[-1].sizes_mm))]
    told = progress_of(after(own, shipped, *cut, *then), 1).tracked
    assert told.prior_from is ToldBy.STEP_BEFORE
    wanted = by_stones.expected_mm * max(share, 1.0)
    assert told.expected_mm == pytest.approx(wanted, rel=0.1)


@pytest.mark.parametrize("share", [0.1, 0.5, 0.7, 1.6])
def test_slow_stones_in_another_cylinder_promise_no_less_than_a_share_of_their_starting_point(called, shipped, share):
    own = longer(called, STONES, HONE)
    begun = checks((0, 105.64, 105.64, 105.64))
    start = progress_of(after(own, shipped, *begun), 1).tracked.expected_mm
    cut = steady(share * start, cylinder=2, shape=(0.0, 0.0, 0.0))
    told = progress_of(after(own, shipped, *cut, *begun), 1).tracked
    assert told.prior_from is ToldBy.OTHERS
    assert told.expected_mm == pytest.approx(start * max(share, 0.6), rel=0.12)
