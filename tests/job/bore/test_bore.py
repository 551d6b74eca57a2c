"""Boring: targets, settings that learn, order, what the holes say of the bar; never more metal than the redline allows."""

from dataclasses import replace

import pytest

from redline_bore.core.errors import InputError
from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.bore.plan import (
    all_bored,
    bar_is_cold,
    correction_of,
    plan_of,
    setting_for,
    still_to_bore,
    with_first,
)
from redline_bore.job.bore.tool_lessons import Diagnosis, diagnosis
from redline_bore.job.card import Mark
from redline_bore.job.kinds.book_in import BookInRevised, JobOpened, PracticeChosen
from redline_bore.job.kinds.bore import BarSet, HoleBored
from redline_bore.job.kinds.call import DecisionTaken, PistonMeasured
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.phrase import Where
from redline_bore.job.missing import Lack, Missing
from redline_bore.job.redline import leading_window
from redline_bore.job.state.calling import Apart
from redline_bore.job.words.bore import advise
from tests.job.benches import after, longer, one_typed

MM = Show(Units.METRIC)
DAY = "2026-11-24"
BAR = BarSet(insert="TPG 321", nose_radius_mm=0.396875, rake="positive", feed_mm=0.1, rpm=900.0)


@pytest.fixture
def called(ledger_of):
    """2041 called at 0.75 over, its pistons measured, the bar set up."""
    pistons = [PistonMeasured(cylinder=c, size_mm=105.67, piston_c=20.0) for c in range(1, 6)]
    return longer(ledger_of("2041"), DecisionTaken(oversize_mm=0.75, sentence="Bore."), *pistons, BAR)


def hole(cylinder, *sizes, setting=105.63, across=()):
    return HoleBored(cylinder=cylinder, set_mm=setting, sizes_mm=sizes, across_mm=across)


def typed(state, text, cylinder=1):
    return one_typed("bore", text, state, Where(cylinder, Place(0, 0), Units.METRIC))


def figure(advice, start):
    return next(f for f in advice.figures if f.label.startswith(start))


def test_the_bar_stops_short_of_the_redline_by_the_practice(called, shipped):
    plan = plan_of(fold(called, shipped), 1)
    assert plan.redline_mm == pytest.approx(105.745) and plan.target_mm == pytest.approx(105.745 - 0.105)
    fine = after(called, shipped, PracticeChosen(topic="hone_allowance", name="half thou"))
    assert plan_of(fine, 1).target_mm == pytest.approx(105.745 - 0.019)
    assert sum(plan.passes_mm) == pytest.approx(plan.stock_mm / 2.0)


def test_nothing_is_bored_for_a_piston_nobody_measured(ledger_of, state_of, shipped):
    call = DecisionTaken(oversize_mm=0.75, sentence="Bore.")
    state = after(ledger_of("2041"), shipped, PracticeChosen(topic="pistons", name="in hand first"), call, BAR)
    plan = plan_of(state, 1)
    assert plan.target_mm is None and plan.missing == Missing(Lack.PISTON, 1)
    assert advise(state, 1, MM).mark is Mark.LOOK
    assert "take the call first" in advise(state_of("2041"), 1, MM).sentence


def test_where_pistons_are_bought_after_the_look_it_is_bored_to_the_least_that_they_ask_for(ledger_of, shipped):
    call = DecisionTaken(oversize_mm=0.75, sentence="Bore.")
    plan = plan_of(after(ledger_of("2041"), shipped, call, BAR), 1)
    window = leading_window(after(ledger_of("2041"), shipped))
    assert plan.provisional and plan.redline_mm == pytest.approx(105.75 - 0.108 + window.aim_mm)
    measured = PistonMeasured(cylinder=1, size_mm=105.70, piston_c=20.0)
    later = plan_of(after(ledger_of("2041"), shipped, call, BAR, measured), 1)
    assert (
        not later.provisional
        and later.redline_mm == pytest.approx(105.70 + window.aim_mm)
        and later.redline_mm > plan.redline_mm
    )
    hole = HoleBored(cylinder=1, set_mm=105.6, sizes_mm=(plan.target_mm,) * 3, across_mm=(plan.target_mm,) * 3)
    after_it = plan_of(after(ledger_of("2041"), shipped, call, BAR, hole, measured), 1)
    assert after_it.left_mm == pytest.approx(
        (0.08, 0.13 + 0.066)
    )  # such pistons differ by so much: no cut again for it


def test_a_sleeved_cylinder_is_not_the_bar_s_now(called, shipped):
    apart = (Apart(cylinder=4, way="sleeve"),)
    state = after(called, shipped, DecisionTaken(oversize_mm=0.5, sentence="x", apart=apart))
    assert plan_of(state, 4).missing == Missing(Lack.TO_BE_SLEEVED) and 4 not in still_to_bore(state)[0]


def test_a_setting_is_taken_down_to_the_micrometer_s_count(called, shipped):
    state = fold(called, shipped)
    for target in (105.6401, 105.644, 105.6449):
        setting = setting_for(state, target, DAY)
        assert setting <= target - 0.013 + 1e-9 and (setting / 0.005) == pytest.approx(round(setting / 0.005))
        assert target - 0.013 - setting < 0.005 + 1e-9


@pytest.mark.parametrize(
    ("before", "at", "cold"),
    [
        ("2026-11-24T08:00:00.000+00:00", "2026-11-24T13:59:00.000+00:00", False),
        ("2026-11-24T08:00:00.000+00:00", "2026-11-24T14:00:00.000+00:00", False),
        ("2026-11-24T08:00:00.000+00:00", "2026-11-24T14:01:00.000+00:00", True),
        ("2026-11-24T23:50:00.000+00:00", "2026-11-25T00:10:00.000+00:00", False),  # ten to and ten past four on a western wall
        ("2026-11-24T06:00:00.000+00:00", "2026-11-24T22:00:00.000+00:00", True),  # the afternoon and the next morning on an eastern one
        ("2026-11-24T08:00:00.000+00:00", "2026-11-24T07:00:00.000+00:00", False),  # a clock that was set back
        ("2026-11-24T08:00:00.000+00:00", "", False),
        ("yesterday", "2026-11-24T14:01:00.000+00:00", False),  # no time at all
    ],
)  # fmt: skip
def test_the_bar_is_cold_when_it_stood_whatever_the_calendar_says(called, shipped, before, at, cold):
    ledger = [*called, replace(longer(called, hole(2, 105.643))[-1], at=before)]
    state = fold(ledger, shipped)
    assert bar_is_cold(state, at) is cold and with_first(state)[0][1] and bar_is_cold(fold(called, shipped), at)
    if at:
        again = replace(longer(ledger, hole(4, 105.640))[-1], at=at)
        assert [first for _hole, first in with_first(fold([*ledger, again], shipped))] == [True, cold]


def test_the_first_hole_of_a_day_is_set_smaller_and_teaches_apart(called, shipped):
    state = fold(called, shipped)
    assert setting_for(state, 105.640, DAY) == pytest.approx(105.625)
    later = after(called, shipped, hole(2, 105.643, 105.643))  # first of the day: 0.013 over, as the shop's figure says
    assert correction_of(later).usual_mm == 0.0 and correction_of(later).first_mm == pytest.approx(0.013, abs=0.0005)
    assert setting_for(later, 105.640, DAY) == pytest.approx(105.640)
    assert setting_for(later, 105.640, "2026-11-24T20:00:00.000+00:00") == pytest.approx(105.625)  # cold again
    taught = after(called, shipped, hole(2, 105.643), hole(4, 105.640))
    assert correction_of(taught).usual_mm == pytest.approx(0.004)


def test_the_order_that_was_begun_is_kept(called, shipped):
    assert still_to_bore(fold(called, shipped)) == ((2, 4, 1, 5, 3),) or still_to_bore(fold(called, shipped))[0][0] == 2
    whole = still_to_bore(fold(called, shipped))[0]
    assert all(abs(a - b) >= 2 for a, b in zip(whole, whole[1:], strict=False))
    assert still_to_bore(after(called, shipped, hole(whole[0], 105.64)))[0] == whole[1:]


@pytest.mark.parametrize(
    ("size", "mark", "words"),
    [
        (105.640, Mark.SOUND, "0.105 mm is left for the hone"),
        (105.700, Mark.LOOK, "Only 0.045 mm is left"),
        (105.560, Mark.LOOK, "more than the hone is meant to take"),
        (105.750, Mark.STOP, "0.005 mm over its redline"),
    ],
)
def test_a_bored_hole_is_judged_by_what_the_hone_gets(called, shipped, size, mark, words):
    advice = advise(after(called, shipped, hole(1, size - 0.002, size, size, across=(size, size, size))), 1, MM, DAY)
    assert advice.mark is mark and words in advice.sentence
    assert figure(advice, "came out").value == f"{size - 0.002:.3f}, {size:.3f}, {size:.3f}"


def test_a_warm_hole_is_taken_to_twenty(called, shipped):
    warm = fold(longer(called, hole(1, 105.660), block_c=40.0), shipped)
    assert warm.boring.holes[0].sizes_mm[0] == pytest.approx(105.660 * (1 - 11e-6 * 20.0), abs=2e-3)


@pytest.mark.parametrize(
    ("holes", "wanted"),
    [
        ([(1, 105.652, 105.638), (2, 105.653, 105.638)], Diagnosis.WIDE_TOP),
        ([(1, 105.63), (2, 105.632), (3, 105.637), (4, 105.643)], Diagnosis.WARMING),
        ([(1, 105.67), (2, 105.675), (3, 105.674)], Diagnosis.WRONG_MICROMETER),
        ([(1, 105.641, 105.640), (2, 105.642, 105.641)], None),
    ],
)
def test_the_holes_tell_taper_warmth_and_a_wrong_micrometer_apart(called, shipped, holes, wanted):
    assert diagnosis(after(called, shipped, *(hole(c, *sizes) for c, *sizes in holes))) is wanted


def test_marks_that_the_hone_cannot_remove_are_a_stop(called, shipped):
    coarse = BarSet(insert="TPG 322", nose_radius_mm=0.79, rake="positive", feed_mm=0.3, rpm=900.0)
    advice = advise(after(called, shipped, coarse), 1, MM, DAY)
    assert figure(advice, "marks need").mark is Mark.STOP  # 6 x 0.3^2 / (8 x 0.79) is 0.085 of at least 0.08
    assert figure(advise(fold(called, shipped), 1, MM, DAY), "marks need").mark is Mark.SOUND
    rubs = advise(
        after(called, shipped, typed(fold(called, shipped), "bar radius 0.8 positive feed 0.1 rpm 900")), 1, MM
    )
    assert figure(rubs, "feed").value == "rubs" and figure(rubs, "feed").mark is Mark.LOOK


def test_speed_room_and_reference_are_told(called, shipped):
    slow = typed(fold(called, shipped), "bar TPG 321 feed 0.1 rpm 300 deck")
    notes = advise(after(called, shipped, slow), 1, MM, DAY).changes
    assert any("turns at 774 to 1161 in this bore" in n for n in notes)
    assert any("only as square to the crank as the deck is" in n for n in notes)


def test_the_working_says_where_the_setting_comes_from(called, shipped):
    texts = [w.text for w in advise(fold(called, shipped), 1, MM, DAY).working]
    assert any("setting = 105.6400 − correction 0.0000 − first hole 0.0130" in t for t in texts)
    assert any("bore to = redline 105.7450" in t for t in texts) and any("Rt = " in t for t in texts)


def test_all_bored_leads_to_the_hone(called, shipped):
    state = after(called, shipped, *(hole(c, 105.64) for c in range(1, 6)))
    assert all_bored(state) and advise(state, 1, MM).button == "Stamp and go to the hone"
    assert not all_bored(fold(called, shipped)) and not advise(fold(called, shipped), 1, MM).button


# -- typed ---------------------------------------------------------------------------------------------------------


def test_bars_and_holes_are_typed(called, shipped):
    state = fold(called, shipped)
    assert typed(state, "bar TPG 321 feed 0.1 rpm 900 mains") == BAR
    by_hand = typed(state, "bar radius 0.4 negative feed 0.12 rpm 1000 deck")
    assert (by_hand.nose_radius_mm, by_hand.rake, by_hand.based_on) == (0.4, "negative", "deck")
    assert typed(state, "105.640 105.638").set_mm == pytest.approx(plan_of(state, 1).setting_mm)
    assert typed(state, "set 105.600 105.612 105.610") == hole(1, 105.612, 105.610, setting=105.6)


@pytest.mark.parametrize(
    ("text", "reason"),
    [
        ("bar", "write it like: "),
        ("bar TPGN160304 feed 0.1 rpm 900", "metric pattern"),
        ("bar TPG 321 feed 4 rpm 900", "thread"),
        ("bar TPG 321 feed 0.1 rpm 90000", "no speed"),
        ("set 105.600", "with what it cut"),
        ("104.200", "too far"),
        ("105.6 big", "length"),
    ],
)
def test_what_cannot_be_is_refused_with_the_reason(called, shipped, text, reason):
    with pytest.raises(InputError, match=reason):
        typed(fold(called, shipped), text)


def test_a_hole_without_a_setting_asks_for_it(ledger_of, shipped):
    with pytest.raises(InputError, match="has no setting: take the call first"):
        typed(fold(ledger_of("2041"), shipped), "105.640")


def test_the_banks_of_a_vee_are_bored_one_after_the_other(ledger_of, shipped):
    from dataclasses import replace

    from redline_bore.core.block import BlockSpec, Layout

    opening = next(r.entry for r in ledger_of("2041") if isinstance(r.entry, JobOpened))
    block = BlockSpec(Layout.VEE, 8, 100.0, 90.0, 160.0, "grey_iron")
    vee = replace(opening.book_in, block=block)
    state = after(ledger_of("2041")[:1], shipped, BookInRevised(book_in=vee))
    first, second = still_to_bore(state)
    assert first == (2, 4, 1, 3) and second == (6, 8, 5, 7)


def test_a_hole_bored_again_counts_as_it_came_last(called, shipped):
    state = after(called, shipped, hole(1, 105.56), hole(1, 105.64))
    assert plan_of(state, 1).done.sizes_mm == (105.64,)
    assert "0.105 mm is left for the hone" in advise(state, 1, MM, DAY).sentence


def test_a_hole_with_no_stock_is_the_hone_s_work(called, shipped):
    small = PistonMeasured(cylinder=3, size_mm=105.05, piston_c=20.0)
    standard = DecisionTaken(oversize_mm=0.75, sentence="Bore.", apart=(Apart(cylinder=3, way="own", oversize_mm=0.0),))
    plan = plan_of(after(called, shipped, standard, small), 3)
    assert plan.stock_mm <= 0.0 and plan.passes_mm == () and plan.missing == Missing(Lack.NO_STOCK)


def test_no_setting_is_told_by_a_piston_that_is_none_of_the_call(called, shipped):
    state = after(called, shipped, PistonMeasured(cylinder=3, size_mm=105.05, piston_c=20.0))
    plan, advice = plan_of(state, 3), advise(state, 3, MM, DAY)
    assert plan.setting_mm is None and plan.target_mm is None and plan.missing == Missing(Lack.OTHER_PISTON, 3)
    assert advice.mark is Mark.STOP and "as standard pistons do" in advice.sentence
    assert not any(line.label in ("bore to", "settings") for line in advice.figures)
