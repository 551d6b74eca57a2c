"""Signing off: open points closed or accepted by name, a signed job closed, and what it teaches the next one."""

from dataclasses import replace

import pytest

from redline_bore.core.errors import InputError
from redline_bore.core.fit import Decision
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.card import Mark
from redline_bore.job.hone import model as hone_model
from redline_bore.job.hone.set_up import proposed_hone, rate_of, usual_over
from redline_bore.job.kinds.call import ClearanceStated
from redline_bore.job.kinds.finish import FinishWindowStated
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.hone import CheckLogged
from redline_bore.job.kinds.opinions import OtherReadingBooked
from redline_bore.job.kinds.phrase import Where
from redline_bore.job.kinds.sign_off import FinalGauged, JobReopened, RingsGapped, StepStamped
from redline_bore.job.kinds.strikes import EntryStruck
from redline_bore.job.lessons import OVER_BOTTOM, OVER_TOP, RATE, REACHED, STROKES, TOOL, lesson_of
from redline_bore.job.proposals import entries_from_typed
from redline_bore.job.sign_off import learned
from redline_bore.job.sign_off.closing import check_open
from redline_bore.job.sign_off.sheet import CUSTOMER, UnplatedBy, can_sign, sheet_of, unplated_of
from redline_bore.job.state.booking import Lesson
from redline_bore.job.words import book_in as book_in
from redline_bore.job.words import sign_off as sign_off_words
from redline_bore.job.words.hone_pages import _plan_notes
from redline_bore.job.words.instruments_used import instruments_used
from redline_bore.job.words.lessons import lesson_words
from redline_bore.store.finish_csv import finish_csv
from redline_bore.store.sheet_html import sheet_html
from tests.job.benches import after, but, longer

MM = Show(Units.METRIC)


def where(cylinder=1, units=Units.METRIC):
    return Where(cylinder, None, units)


@pytest.fixture
def reopened(ledger_of, shipped):
    """Job 2036 opened again, with some entries more."""

    def made(*entries):
        return after(ledger_of("2036"), shipped, JobReopened(reason="to see"), *entries)

    return made


# -- open points ---------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("number", ["2029", "2036"])
def test_complete_jobs_have_no_open_point_and_every_figure(state_of, number):
    state = state_of(number)
    sheet = sheet_of(state)
    assert sheet.open_points == () and state.signing.closed
    for row in sheet.rows:
        assert row.decision is Decision.IN and row.finish.fine and row.rings is not None and row.final.plate_on
        assert row.unplated_mm is not None and row.steps and row.clearance_mm > row.doubt_mm > 0
    assert sign_off_words.advise(state, MM).mark is Mark.SOUND


def test_the_unplated_size_is_measured_or_foretold_or_not_known(reopened, state_of):
    state = state_of("2036")
    measured, by = unplated_of(state, 1, 83.066)
    assert by is UnplatedBy.MEASURED and measured < sheet_of(state).rows[0].final_mm
    seqs = [f.seq for f in state.signing.finals if not f.plate_on]
    foretold = reopened(*(EntryStruck(seq=s) for s in seqs))
    value, by = unplated_of(foretold, 1, sheet_of(state).rows[0].final_mm)
    assert by is UnplatedBy.FORETOLD and value == pytest.approx(measured, abs=0.006)
    assert unplated_of(state_of("2047"), 1, None)[0] is None


def told(sheet):
    """The open points of a sheet in words."""
    return [sign_off_words.point_words(p) for p in sheet.open_points]


def test_every_kind_of_open_point_is_found(reopened, state_of):
    state = state_of("2036")
    gone = [r.seq for r in state.signing.finals] + [t.seq for t in state.finishing.traces]
    bare = sheet_of(reopened(*(EntryStruck(seq=s) for s in gone)))
    whole = " ".join(told(bare))
    assert "not gauged under the plate when finished" in whole and "the finished wall is not traced" in whole
    stroked = sheet_of(reopened(CheckLogged(cylinder=2, strokes=15.0, sizes_mm=(83.066, 83.066))))
    assert "Cylinder 2: the finished wall is not traced." in told(stroked)
    rough = sheet_of(reopened(FinishWindowStated(parameter="Rvk", low_um=5.0, high_um=6.0, source="x")))
    assert any("finish out of its window" in p for p in told(rough)) and not can_sign(rough)
    near = next(j for j in sheet_of(reopened()).rows[0].finish.judged if j.parameter == "Rk")
    edge = sheet_of(reopened(FinishWindowStated(parameter="Rk", low_um=near.mean * 0.99, high_um=3.0, source="x")))
    assert any("finish too close to its window's edge" in p for p in told(edge))
    tight = sheet_of(reopened(RingsGapped(cylinder=2, top_mm=0.20)))
    assert any(p.startswith("Cylinder 2: ring gap under the least") for p in told(tight))
    loose = sheet_of(reopened(FinalGauged(cylinder=1, sizes_mm=(83.09, 83.09), plate_on=True)))
    assert any("Cylinder 1: clearance out of its window" in p for p in told(loose))
    close = sheet_of(reopened(ClearanceStated(source="piston sheet", low_mm=0.0700, high_mm=0.0780)))
    assert any("too close to its window" in p for p in told(close))
    narrow = sheet_of(reopened(ClearanceStated(source="piston sheet", low_mm=0.0735, high_mm=0.0745)))
    assert any("narrower than twice the gauge's doubt" in p for p in told(narrow))


def test_an_open_point_is_accepted_by_name_and_only_while_it_is_the_same(reopened):
    window = FinishWindowStated(parameter="Rvk", low_um=5.0, high_um=6.0, source="x")
    state = reopened(window)
    (entry,) = entries_from_typed("sign_off", "accept 1 the owner knows", state, where())
    assert entry.point == told(sheet_of(state))[0] and entry.reason == "the owner knows"
    sheet = sheet_of(reopened(window, entry))
    assert sheet.open_points == () and can_sign(sheet)
    assert [(a.person, a.reason) for a in sheet.accepted] == [("RM", "the owner knows")]
    worse = sheet_of(reopened(window, entry, RingsGapped(cylinder=1, top_mm=0.1)))
    assert len(worse.open_points) == 1 and not can_sign(worse)


def test_a_struck_acceptance_opens_the_point_again(ledger_of, shipped):
    window = FinishWindowStated(parameter="Rvk", low_um=5.0, high_um=6.0, source="x")
    book = longer(ledger_of("2036"), JobReopened(reason="x"), window)
    (entry,) = entries_from_typed("sign_off", "accept all told", fold(book, shipped), where())
    book = longer(book, entry)
    assert sheet_of(fold(book, shipped)).open_points == ()
    assert len(sheet_of(after(book, shipped, EntryStruck(seq=book[-1].seq))).open_points) == 1


def test_nothing_is_signed_with_a_point_open(state_of):
    advice = sign_off_words.advise(state_of("2044"), MM)
    assert not advice.button and advice.mark is Mark.LOOK and any("accept 1 and why" in c for c in advice.changes)


def test_a_hole_honed_since_its_final_gauging_is_not_gauged(reopened):
    state = reopened(CheckLogged(cylinder=2, strokes=14.0, sizes_mm=(83.0675, 83.0675)))
    sheet = sheet_of(state)
    assert state.final_of(2, True) is None and state.final_of(2, False) is None and state.final_of(1, True) is not None
    assert "Cylinder 2: not gauged under the plate when finished." in told(sheet)
    assert (
        sheet.rows[1].final_mm == pytest.approx(83.0675, abs=1e-4) and sheet.rows[1].unplated_by is UnplatedBy.FORETOLD
    )


def test_the_customer_is_told_which_sizes_were_taken_under_the_plate(reopened, state_of):
    def told(state):
        return sheet_html(sheet_of(state), MM, {}, CUSTOMER)

    assert "under the torque plate, which stands in for the head" in told(state_of("2036"))
    some = told(reopened(CheckLogged(cylinder=2, strokes=14.0, sizes_mm=(83.0675, 83.0675))))
    assert "under the torque plate in cylinder 1, else by the last check at the hone" in some
    assert "as measured or as foretold from gauging both ways" in some
    assert "by the last check at the hone." in told(state_of("2044"))


# -- what is typed -------------------------------------------------------------------------------------------------


def test_the_finished_hole_is_typed_both_ways(reopened):
    (entry,) = entries_from_typed("sign_off", "final 83.066 83.067 across 83.066 83.0665", reopened(), where(2))
    assert (entry.cylinder, entry.sizes_mm, entry.across_mm) == (2, (83.066, 83.067), (83.066, 83.0665))
    (inch,) = entries_from_typed("sign_off", "final 3.2704 3.2705", reopened(), where(1, Units.INCH))
    assert inch.sizes_mm == pytest.approx((83.06816, 83.0707)) and inch.across_mm == ()


def test_rings_are_typed_in_any_unit(reopened):
    (entry,) = entries_from_typed("sign_off", "rings 0.014in 0.40mm", reopened(), where())
    assert (entry.top_mm, entry.second_mm) == pytest.approx((0.3556, 0.40))


@pytest.mark.parametrize(
    "text, words",
    [
        ("final", "from the top down"),
        ("final 83.06 83.07 across 83.06", "as many both ways"),
        ("final 8306", "."),
        ("final 40.1", "."),
        ("rings", "top, then second"),
        ("rings 9 9", "far too wide"),
        ("rings one", "."),
        ("accept 1 why", "No point is open"),
        ("reopen why", "This job is open"),
        ("polish it", "it begins with"),
    ],
)
def test_bad_input_is_refused_with_what_was_meant(reopened, text, words):
    with pytest.raises(InputError, match=words):
        entries_from_typed("sign_off", text, reopened(), where())


@pytest.mark.parametrize(
    "text, words",
    [
        ("accept", "Say which"),
        ("accept 1", "with its reason"),
        ("accept 99 x", "no open point 99"),
        ("accept one x", "Say which"),
    ],
)
def test_accepting_wants_a_number_and_a_reason(state_of, text, words):
    with pytest.raises(InputError, match=words):
        entries_from_typed("sign_off", text, state_of("2044"), where())


# -- closed --------------------------------------------------------------------------------------------------------


def test_a_signed_job_takes_nothing_but_a_second_opinion_until_it_is_reopened(state_of, reopened):
    state = state_of("2036")
    with pytest.raises(InputError, match="signed off by RM on 2026-10-12 and is closed"):
        check_open(state, [RingsGapped(cylinder=1, top_mm=0.4)])
    with pytest.raises(InputError, match="reopen"):
        check_open(state, [EntryStruck(seq=5)])
    check_open(state, [OtherReadingBooked(who="owner", cylinder=1, diameter_mm=83.06)])
    check_open(state, [JobReopened(reason="x")])
    again = reopened()
    assert not again.signing.closed
    check_open(again, [RingsGapped(cylinder=1, top_mm=0.4)])
    assert reopened(StepStamped(step="sign_off", initials="JT")).signing.closed


def test_the_instruments_and_their_checks_are_named(state_of):
    told = instruments_used(state_of("2036"), MM)
    assert (
        told[0].startswith("Bore gauge, two-point, zeroed on") and "its zero moved by 0.0005 mm; U 0.0030 mm" in told[0]
    )
    assert "traces by profilometer, a point every 0.50 µm" in told[1] and "2 pictures" in told[2]
    assert instruments_used(state_of("2047"), MM) == ()


def test_the_finish_goes_out_as_csv(state_of):
    rows = finish_csv(state_of("2036")).splitlines()
    head = rows[0].split(",")
    assert len(rows) == 9 and {"Rk_um", "Mr1_pct", "Vo_mm3_cm2", "Rsk"} <= set(head)
    first = dict(zip(head, rows[1].split(","), strict=True))
    assert first["plateau_strokes"] == "0" and float(first["Rk_um"]) > 1.0 and first["spot"] == "middle"
    assert finish_csv(state_of("2047")).count("\n") == 1


# -- what it teaches -----------------------------------------------------------------------------------------------


def taught(*states):
    return [x for x in map(learned.taught_on_job, states) if x is not None]


def test_a_signed_job_teaches_its_family(state_of):
    states = [state_of(n) for n in ("2044", "2036")]
    lessons = learned.family_lessons(taught(*states))
    assert {x.what for x in lessons} == {RATE, TOOL, OVER_TOP, OVER_BOTTOM, STROKES, REACHED}
    assert all(x.jobs == ("2036",) for x in lessons)
    strokes = lesson_of(lessons, STROKES)
    assert (strokes.mean, strokes.sd, strokes.count) == (12.0, 0.0, 2)
    rk = lesson_of(lessons, REACHED, "Rk")
    assert rk.count == 6 and rk.sd > 0 and 0.6 < rk.mean < 1.4
    assert taught(state_of("2044")) == [] and learned.family_lessons(()) == ()  # not signed


def test_a_job_that_is_open_again_teaches_nothing_until_it_is_signed(reopened):
    assert learned.family_lessons(taught(reopened())) == ()
    assert learned.family_lessons(taught(reopened(StepStamped(step="sign_off", initials="RM"))))


def test_lessons_are_told_with_spread_and_the_jobs_they_are_from(state_of):
    lessons = learned.family_lessons(taught(state_of("2036")))
    told = [lesson_words(x, MM) for x in lessons]
    assert "plateau strokes, brush 600: 12, alike each time (2 in job 2036)" in told
    assert any(t.startswith("finish reached, Rk: ") and "±" in t and "µm" in t for t in told)
    assert any("µin" in lesson_words(x, Show(Units.INCH)) for x in lessons if x.what == REACHED)


def test_the_next_job_of_the_family_begins_from_what_it_taught(state_of):
    base = state_of("2044")
    lesson = Lesson
    taught = (
        lesson(RATE, "vitrified 150", 0.0031, 0.0002, 6, ("2036",)),
        lesson(OVER_TOP, "vertical", 25.0, None, 1, ("2036",)),
        lesson(OVER_BOTTOM, "vertical", 90.0, None, 1, ("2036",)),
    )
    plain = but(base, honing={"checks": ()}, booking={"lessons": ()})
    state = but(plain, booking={"lessons": taught})
    top, bottom = usual_over(state)
    assert top == 25.0 and bottom < 90.0 and usual_over(plain)[0] != 25.0  # the room below still holds it
    assert proposed_hone(state, "vertical").over_top_mm == 25.0
    found, start = hone_model.learned_of(state, 1), hone_model.learned_of(plain, 1)
    assert (found.rate_mm, found.family, found.checks) == (0.0031, ("2036",), 0) and start.family == ()
    assert start.rate_mm != 0.0031 and found.high_mm - found.low_mm < start.high_mm - start.low_mm
    assert start.rate_mm == pytest.approx(rate_of(plain, "vitrified_150"), rel=3.0)
    told = book_in.advise(state, MM)
    assert any("This family taught 3 figures, in job 2036" in c for c in told.changes)
    assert any("removal rate at roughing load, vitrified 150" in w.text for w in told.working)


def test_a_rate_is_kept_at_roughing_load_and_used_at_the_load_that_is_set(state_of):
    signed = state_of("2036")
    plain = lesson_of(learned.family_lessons(taught(signed)), RATE)
    halved = but(signed, honing={"checks": tuple(replace(c, load=c.load / 2) for c in signed.honing.checks)})
    assert lesson_of(learned.family_lessons(taught(halved)), RATE).mean == pytest.approx(2 * plain.mean)
    lesson = Lesson(RATE, "vitrified 150", 0.003, None, 1, ("2036",))
    base = but(state_of("2044"), honing={"checks": ()}, booking={"lessons": (lesson,)})
    light = but(base, honing={"run": replace(base.honing.run, load=base.honing.run.load / 2)})
    assert hone_model.learned_of(light, 1).rate_mm == pytest.approx(hone_model.learned_of(base, 1).rate_mm / 2)


def test_the_plan_says_that_its_rate_is_the_familys(state_of):
    base = state_of("2044")
    state = but(
        base, honing={"checks": ()}, booking={"lessons": (Lesson(RATE, "vitrified 150", 0.003, None, 1, ("2036",)),)}
    )
    found = hone_model.forecast(state, 1)
    assert found.learned.low_mm < found.learned.rate_mm < found.learned.high_mm
    assert any("this family's, from job 2036" in n for n in _plan_notes(state, found, MM))
