"""The advice a foreman would give: against the sample jobs, whose truth is known, and at the edges."""

from dataclasses import replace

import pytest

from redline_bore.core.cleanup import Verdict
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.demo.walls import wall_2041
from redline_bore.job.call.ladder import ladder_of
from redline_bore.job.call.walls import wall_bound
from redline_bore.job.card import Mark
from redline_bore.job.gauge import readings as gauge
from redline_bore.job.gauge.analysis import shape_of
from redline_bore.job.hone import progress as hone
from redline_bore.job.kinds.book_in import PracticeChosen
from redline_bore.job.kinds.call import ClearanceStated, DecisionTaken, PistonMeasured
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.gauge import BlockTemperature, ReadingBooked
from redline_bore.job.kinds.hone import CheckLogged
from redline_bore.job.missing import Lack, Missing
from redline_bore.job.redline import leading_window, redline_of
from redline_bore.job.sign_off import sheet as sign_off
from redline_bore.job.words import book_in as book_in
from redline_bore.job.words import call as call
from redline_bore.job.words import hone as hone_advice
from redline_bore.job.words import readings as readings_words
from redline_bore.job.words import sign_off as sign_off_words
from redline_bore.job.words.fares import worn_words
from redline_bore.job.words.sign_off import point_words
from tests.job.benches import after, but, unread

MM = Show(Units.METRIC)


def told(sheet):
    """The open points of a sheet, as they are said."""
    return tuple(point_words(p) for p in sheet.open_points)


def label(advice, start):
    return next(f for f in advice.figures if f.label.startswith(start))


# -- gauge ---------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("cylinder", range(1, 6))
def test_wear_found_is_the_wear_put_in(state_of, cylinder):
    state, true = state_of("2041"), wall_2041().cylinders[cylinder - 1]
    shape = shape_of(state, cylinder, False)
    worst = max(true.diameter(d, c, False) for d in state.gauging.plan.depths_mm for c in state.gauging.plan.clocks_deg)
    assert shape.wear.largest_reading_mm == pytest.approx(worst - true.diameter(196.0, 0.0, False), abs=0.005)
    assert shape.axial.shape_class == "top-open" and shape.wear.reference_from == "below"


def test_the_next_place_is_always_named(ledger_of, state_of):
    state = state_of("2047")
    advice = readings_words.advise(state, 1, MM)
    assert advice.sentence == "Read level A at 0°, then B." and advice.button == "Book reading"
    assert label(advice, "diameter").mark is Mark.LOOK  # unknown is never drawn as fine
    assert any("no size" in note for note in advice.changes)


def test_ring_gaps_give_taper(state_of):
    assert gauge.gap_taper(state_of("2047"), 1) == pytest.approx((0.56 - 0.43) / 3.14159265, abs=1e-6)


def test_read_out_jobs_go_on_to_the_call(state_of):
    advice = readings_words.advise(state_of("2041"), 1, MM)
    assert advice.button == "Go to the call"
    assert label(advice, "taper").mark is Mark.LOOK


def test_two_axes_are_said_to_hide_an_oval(ledger_of, shipped):
    two = [
        ReadingBooked(cylinder=1, depth_mm=d, clock_deg=c, diameter_mm=78.02, plate_on=False)
        for d in (14.0, 60.0, 106.0)
        for c in (0.0, 90.0)
    ]
    state = after(ledger_of("2047"), shipped, *two)
    advice = readings_words.advise(state, 1, MM)
    assert any("hide an oval" in note for note in advice.changes)
    assert ladder_of(state).columns[0].cleanup.verdict(80.0) is Verdict.MAY_SHADOW


def test_a_warm_block_is_told_in_figures(ledger_of, shipped):
    state = after(ledger_of("2041"), shipped, BlockTemperature(block_c=31.0))
    assert any("31 °C" in note and "+0.013" in note for note in readings_words.advise(state, 1, MM).changes)


def test_working_shows_the_arithmetic_with_its_source(state_of):
    advice = readings_words.advise(state_of("2041"), 4, MM)
    wear = next(line for line in advice.working if line.text.startswith("wear ="))
    assert "−" in wear.text and wear.source == "unworn: the smallest mean outside ring travel"


# -- call ----------------------------------------------------------------------------------------------------------


def test_the_rust_in_four_decides(state_of):
    state = state_of("2041")
    ladder = ladder_of(state)
    assert (ladder.smallest_possible, ladder.smallest_sure) == (0.5, 1.0)
    advice = call.advise(state, 4, 0.75, MM)
    assert (
        advice.sentence
        == "Bore all five 0.75 over: it will clean up, by all that was read. The wall of cylinders 2, 3 and 4 is too close to its limit to be sure."
    )
    assert advice.mark is Mark.LOOK
    assert "rest clean up at +0.75" in " ".join(call.advise(state, 4, 1.0, MM).changes)
    assert worn_words(ladder.columns[3]) == "rust ring"


@pytest.mark.parametrize(
    "over, words, mark",
    [
        (0.25, "will not clean up", Mark.STOP),
        (0.50, "may leave a shadow in 1, 4 and 5", Mark.LOOK),
        (1.50, "But first read the wall of cylinder 1 again", Mark.LOOK),
    ],
)
def test_other_rungs_say_what_is_wrong_with_them(state_of, over, words, mark):
    advice = call.advise(state_of("2041"), 4, over, MM)
    assert words in advice.sentence and advice.mark is mark
    assert bool(advice.button) == (
        mark is Mark.LOOK
    )  # a shadow may be risked with open eyes; the others cannot be taken


def test_the_true_hole_cleans_up_inside_the_interval(state_of):
    """About the unworn axis the truth needs twice the largest radius plus skin: it must lie between low and high."""
    state = state_of("2041")
    for column, true in zip(ladder_of(state).columns, wall_2041().cylinders, strict=True):
        if column.cylinder in (2, 4):
            continue  # the rust of 4 is not in the true wall; 2 is crooked, and swept
        need = (
            2
            * max(
                true.radius(d, c, column.shape.plate_on) for d in state.gauging.plan.depths_mm for c in range(0, 360, 2)
            )
            + 0.026
        )
        assert column.cleanup.low_mm - 0.006 <= need <= column.cleanup.high_mm + 0.006


def test_an_ungauged_cylinder_stops_the_call(ledger_of, shipped):
    book = [r for r in ledger_of("2041") if getattr(r.entry, "cylinder", 0) != 3]
    state = fold(book, shipped)
    advice = call.advise(state, 1, 0.75, MM)
    assert advice.sentence.startswith("Cylinder 3 is not known") and not advice.button


def test_wall_not_read_is_unknown(ledger_of, shipped):
    advice = call.advise(fold(unread(ledger_of("2036")), shipped), 1, 0.508, Show(Units.INCH))
    assert (
        label(advice, "wall left").value == "not read: unknown"
        and wall_bound(fold(unread(ledger_of("2036")), shipped), 1).most_mm is None
    )


def test_a_sound_bore_is_left_alone(ledger_of, shipped):
    readings = [
        ReadingBooked(cylinder=1, depth_mm=d, clock_deg=c, diameter_mm=78.005 + 0.01 * (d < 90), plate_on=False)
        for d in (15.0, 40.0, 70.0, 106.0) for c in (0.0, 45.0, 90.0, 135.0)
    ]  # fmt: skip
    unknown = after(ledger_of("2047"), shipped, *readings)
    assert call.advise(unknown, 1, 0.25, MM).sentence.endswith(
        "First measure piston 1: the clearance there is decides."
    )
    fits = PistonMeasured(cylinder=1, size_mm=77.97, piston_c=20.0)
    close = after(ledger_of("2047"), shipped, *readings, fits)
    assert "too close to an end of its window" in call.advise(close, 1, 0.25, MM).sentence
    wide = ClearanceStated(source="piston sheet", low_mm=0.02, high_mm=0.06)
    state = after(ledger_of("2047"), shipped, *readings, fits, wide)
    assert call.advise(state, 1, 0.25, MM).sentence == "Nothing asks for boring: leave it and re-ring."


def test_the_practice_says_whose_clearance_leads(ledger_of, shipped):
    book = ledger_of("2041")
    assert leading_window(after(book, shipped)).source == "piston sheet"
    assert leading_window(after(book, shipped, PracticeChosen(topic="clearance", name="manual"))).low_mm == 0.080
    habit = after(book, shipped, PracticeChosen(topic="clearance", name="habit"))
    assert any("No habit is stated" in note for note in call.advise(habit, 1, 0.75, MM).changes)


# -- hone ----------------------------------------------------------------------------------------------------------


def honed(ledger, shipped, *checks, block_c=20.0):
    decision = DecisionTaken(oversize_mm=0.75, sentence="x")
    piston = PistonMeasured(cylinder=2, size_mm=105.675, piston_c=20.0)
    logged = [CheckLogged(cylinder=2, strokes=float(s), sizes_mm=tuple(sizes)) for s, *sizes in checks]
    return after(ledger, shipped, decision, piston, *logged, block_c=block_c)


def test_the_redline_is_piston_plus_clearance_never_a_nominal(ledger_of, shipped):
    state = honed(ledger_of("2041"), shipped)
    assert redline_of(state, 2).size_mm == pytest.approx(105.675 + 0.075)
    assert redline_of(state, 1).size_mm is None and redline_of(state, 1).missing == Missing(Lack.PISTON, 1)
    assert hone_advice.advise(state, 1, MM).button == ""


def test_strokes_are_counted_down_to_the_step_end(ledger_of, shipped):
    state = honed(ledger_of("2041"), shipped, *[(s, 105.70 + 0.0007 * s) for s in (0, 10, 20, 30, 40)])
    advice, p = hone_advice.advise(state, 2, MM), hone.progress_of(state, 2)
    assert p.left_mm == pytest.approx(0.022) and p.to_step_end_mm == pytest.approx(0.0195, abs=1e-3)
    between = p.tracked.between
    assert between.least < 0.0195 / 0.0007 < between.most and p.tracked.bite <= between.least + 1
    assert (
        advice.sentence
        == f"{between.least} to {between.most} more strokes. {p.tracked.bite} strokes, then stop and gauge."
    )


def test_over_the_redline_is_a_stop(ledger_of, shipped):
    advice = hone_advice.advise(honed(ledger_of("2041"), shipped, (0, 105.74), (9, 105.760)), 2, MM)
    assert advice.mark is Mark.STOP and "0.010 mm past the redline" in advice.sentence
    within = hone_advice.advise(honed(ledger_of("2041"), shipped, (0, 105.74), (9, 105.755)), 2, MM)
    assert within.mark is not Mark.STOP, "within the gauge's doubt it is at the redline"


def test_the_mean_goes_to_the_redline_and_the_largest_place_holds_it_back(ledger_of, shipped):
    p = hone.progress_of(honed(ledger_of("2041"), shipped, (0, 105.70, 105.72, 105.69)), 2)
    assert p.left_mm == pytest.approx(105.75 - 105.7033, abs=1e-3)
    even = hone.progress_of(honed(ledger_of("2041"), shipped, (0, 105.7033, 105.7033, 105.7034)), 2)
    assert p.tracked.aim.mean_mm < even.tracked.aim.mean_mm <= 105.75 and p.tracked.aim.held_back


def test_a_warm_block_is_smaller_than_it_feels(ledger_of, shipped):
    cold, warm = (
        hone.progress_of(honed(ledger_of("2041"), shipped, (0, 105.72), block_c=c), 2).left_mm for c in (20.0, 30.0)
    )
    assert warm - cold == pytest.approx(105.72 * 110e-6, rel=0.01)
    advice = hone_advice.advise(honed(ledger_of("2041"), shipped, (0, 105.72), block_c=30.0), 2, MM)
    assert label(advice, "block at 30").mark is Mark.LOOK


def test_glazed_stones_taper_and_steps_end_are_told(ledger_of, shipped):
    sizes = [
        (0, 105.60, 105.60),
        (10, 105.61, 105.61),
        (20, 105.62, 105.617),
        (30, 105.624, 105.614),
        (40, 105.627, 105.613),
    ]
    advice = hone_advice.advise(honed(ledger_of("2041"), shipped, *sizes), 2, MM)
    assert label(advice, "rate has fallen").mark is Mark.LOOK and "% of the start" in label(advice, "rate has").value
    stuck = hone_advice.advise(honed(ledger_of("2041"), shipped, *sizes, *((s, 105.627) for s in (60, 80, 100))), 2, MM)
    assert label(stuck, "rate has fallen").value == "no metal at all"
    assert any("Taper grew" in n and "bottom is tight" in n for n in advice.changes)
    done = hone_advice.advise(honed(ledger_of("2041"), shipped, (0, 105.70), (40, 105.7476)), 2, MM)
    assert done.sentence == "The coarse step is done. N goes to plateau."


def test_few_checks_and_no_removal_are_owned_up_to(ledger_of, shipped):
    three = hone_advice.advise(honed(ledger_of("2041"), shipped, (0, 105.6), (10, 105.61), (20, 105.62)), 2, MM)
    assert "to" in three.sentence and any("A check:" in n for n in three.changes)
    none = hone_advice.advise(honed(ledger_of("2041"), shipped, *[(s, 105.6) for s in (0, 10, 20)]), 2, MM)
    assert "No metal is coming off" in none.sentence


# -- sign off and book in --------------------------------------------------------------------------------------------


def test_the_finished_job_is_in_its_window(state_of):
    sheet = sign_off.sheet_of(state_of("2036"))
    assert all(str(row.decision) == "in" for row in sheet.rows) and not told(sheet)
    assert all(row.removed_mm == pytest.approx(0.48, abs=0.05) for row in sheet.rows)
    assert [s.name for s in sheet.rows[0].steps] == ["bored", "coarse", "plateau"]
    total = sum(s.removed_mm for s in sheet.rows[0].steps)
    assert total == pytest.approx(sheet.rows[0].removed_mm, abs=1e-9)  # the ledger closes


def test_an_unfinished_job_says_what_is_missing(state_of):
    state = state_of("2041")
    advice = sign_off_words.advise(state, MM)
    assert not advice.button and "without a final size" in advice.sentence
    assert any("call has not been taken" in point for point in told(sign_off.sheet_of(state)))


def test_too_close_to_call_is_said(state_of):
    state = state_of("2036")
    tight = but(state, calling={"windows": (replace(state.calling.windows[0], low_mm=0.0735, high_mm=0.0745),)})
    sheet = sign_off.sheet_of(tight)
    assert any("narrower than twice" in point for point in told(sheet))
    assert "too close to call" in sign_off_words.advise(tight, MM).sentence


def test_book_in_says_what_is_not_known(state_of):
    advice = book_in.advise(state_of("2047"), MM)
    assert label(advice, "room below").mark is Mark.LOOK and any("Room below" in n for n in advice.changes)
    assert book_in.advise(state_of("2041"), MM).changes == ()
