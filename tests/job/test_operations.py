"""How long the steps of a job took, by the times in its ledger, and what the next job of the family has from it."""

from dataclasses import replace

import pytest

from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.call.option import bore_minutes, finish_minutes, hone_minutes, learned_minutes
from redline_bore.job.call.options import options_of
from redline_bore.job.kept.operations import Operation, WorkedOnJob, hours_taught, worked_on_job
from redline_bore.job.kinds.book_in import FamilyOffered, RemarkLeft
from redline_bore.job.kinds.entry import Record
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.gauge import BlockTemperature, ReadingBooked
from redline_bore.job.kinds.sign_off import StepStamped
from redline_bore.job.kinds.strikes import EntryStruck
from redline_bore.job.lessons import MINUTES
from redline_bore.job.state.booking import Lesson
from redline_bore.job.words import options as options_advice
from redline_bore.job.words.book_in import family_told, family_working
from redline_bore.job.words.lessons import jobs_said, lesson_words
from tests.job.benches import after

MM = Show(Units.METRIC)


def reading(cylinder):
    return ReadingBooked(cylinder=cylinder, depth_mm=21.0, clock_deg=0.0, diameter_mm=105.1, plate_on=True)


def stamp(step):
    return StepStamped(step=step, initials="RM")


def booked(ledger, *rows):
    """A ledger that begins as a sample job's, and goes on with entries so many minutes into an hour."""
    opening = replace(ledger[0], at="2026-11-24T08:00:00.000+00:00")
    at = lambda minutes: f"2026-11-24T{8 + minutes // 60:02d}:{minutes % 60:02d}:00.000+00:00"  # noqa: E731
    return (opening, *(Record(n, at(minutes), "RM", entry) for n, (minutes, entry) in enumerate(rows, start=2)))


def operations(ledger, shipped, *rows):
    records = booked(ledger, *rows)
    found = worked_on_job(fold(records, shipped), records)
    return None if found is None else {x.step: (x.minutes, x.cylinders) for x in found.operations}


def test_a_step_takes_the_time_before_its_entries_up_to_its_stamp(ledger_of, shipped):
    rows = ((1, stamp("book_in")), (5, reading(1)), (12, reading(2)), (14, reading(2)), (20, stamp("gauge")))
    assert operations(ledger_of("2041"), shipped, *rows) == {"book_in": (1.0, 0), "gauge": (19.0, 2)}


def test_what_belongs_to_any_step_counts_to_the_one_it_led_to(ledger_of, shipped):
    rows = ((2, stamp("book_in")), (10, BlockTemperature(block_c=20.0)), (13, RemarkLeft(text="x")), (15, reading(3)), (16, stamp("gauge")))  # fmt: skip
    assert operations(ledger_of("2041"), shipped, *rows)["gauge"] == (14.0, 1)


@pytest.mark.parametrize(("gap", "counts"), [(29, 29.0), (30, 30.0), (31, 0.0), (600, 0.0)])
def test_after_a_pause_nobody_was_at_it(ledger_of, shipped, gap, counts):
    rows = ((1, stamp("book_in")), (3, reading(1)), (3 + gap, reading(1)), (4 + gap, stamp("gauge")))
    assert operations(ledger_of("2041"), shipped, *rows)["gauge"] == (3.0 + counts, 1)


def test_a_clock_that_was_set_back_takes_nothing_away(ledger_of, shipped):
    rows = ((1, stamp("book_in")), (20, reading(1)), (5, reading(2)), (9, stamp("gauge")))
    assert operations(ledger_of("2041"), shipped, *rows)["gauge"] == (23.0, 2)


def test_a_step_without_its_stamp_is_not_told_and_what_follows_one_waits_for_the_next(ledger_of, shipped):
    assert operations(ledger_of("2041"), shipped, (4, reading(1))) is None
    rows = [(1, stamp("book_in")), (4, reading(1)), (6, stamp("gauge")), (9, reading(2))]
    assert operations(ledger_of("2041"), shipped, *rows)["gauge"] == (5.0, 1)
    assert operations(ledger_of("2041"), shipped, *rows, (10, stamp("gauge")))["gauge"] == (9.0, 2)


def test_what_was_struck_took_its_time_all_the_same(ledger_of, shipped):
    rows = ((1, stamp("book_in")), (9, reading(1)), (10, EntryStruck(seq=3)), (12, stamp("gauge")))
    assert operations(ledger_of("2041"), shipped, *rows)["gauge"] == (11.0, 1)


def test_a_family_is_told_the_middle_of_its_jobs_by_the_cylinder():
    jobs = [
        WorkedOnJob(str(n), (Operation("gauge", minutes, 4), Operation("call", 9.0, 0), Operation("sign_off", 9.0, 4)))
        for n, minutes in ((1, 40.0), (2, 44.0), (3, 200.0))
    ]
    (lesson,) = hours_taught(jobs)
    assert (lesson.what, lesson.about, lesson.mean, lesson.count, lesson.jobs) == (MINUTES, "gauge", 11.0, 3, ("1", "2", "3"))  # fmt: skip
    assert lesson.sd == pytest.approx(22.8, abs=0.1) and hours_taught(jobs[:1])[0].sd is None
    assert lesson_words(lesson, MM) == "bench minutes a cylinder, gauge: 11 ± 23 (3 in job 1, 2, 3)"
    assert hours_taught([WorkedOnJob("4", (Operation("gauge", 0.0, 4),))]) == ()


def learned(step, minutes, count=5):
    return Lesson(MINUTES, step, minutes, 1.0, count, tuple(str(n) for n in range(count)))


def taught(ledger_of, shipped, *lessons):
    return after(ledger_of("2041"), shipped, FamilyOffered(lessons=lessons))


def test_from_five_jobs_on_the_familys_own_times_count(ledger_of, shipped):
    few, enough = (taught(ledger_of, shipped, learned("bore", 31.0, n)) for n in (4, 5))
    assert learned_minutes(few, "bore") is None and learned_minutes(enough, "bore") == 31.0
    assert bore_minutes(enough, 5) == 155.0 and bore_minutes(few, 5) == 20.0 + 5 * (6.0 + 8.0)
    all_of_it = taught(ledger_of, shipped, learned("hone", 40.0), learned("finish", 7.0))
    assert (hone_minutes(all_of_it), finish_minutes(all_of_it)) == (200.0, 35.0)
    assert (hone_minutes(few), finish_minutes(few)) == (35.0 + 20.0 + 50.0, 20.0)


def test_an_option_is_as_long_as_the_familys_jobs_took_and_says_so(ledger_of, shipped):
    before, state = (taught(ledger_of, shipped, learned("bore", 31.0, n), learned("gauge", 9.0, n)) for n in (4, 5))
    was, found = options_of(before)[0], options_of(state)[0]
    assert found.key == was.key and found.minutes - was.minutes == pytest.approx(155.0 - 90.0)
    said = [w.text for w in options_advice.advise(state, 0, MM).working]
    assert [t for t in said if "bench minutes" in t] == [
        "bench minutes a cylinder, bore: 31 ± 1 (5 in job 0, 1, 2, 3, 4)"
    ]
    assert "shop figures: minutes of each work; this family's own below" in [
        w.source for w in options_advice.advise(state, 0, MM).working
    ]
    leave = [o.key for o in options_of(state)].index("leave")
    for other, index in ((before, 0), (state, leave)):
        assert not any("bench minutes" in w.text for w in options_advice.advise(other, index, MM).working)


def test_many_jobs_are_told_by_the_newest_and_a_count():
    assert jobs_said(("1", "2")) == "job 1, 2" and jobs_said(tuple("123456")) == "job 1, 2, 3, 4, 5, 6"
    assert jobs_said(tuple("12345678")) == "job 3, 4, 5, 6, 7, 8 and 2 others"


def test_what_a_family_taught_and_how_long_it_took_are_told_apart():
    rate, hours = Lesson("removal rate at roughing load", "x", 0.001, None, 1, ("7",)), learned("hone", 40.0, 2)
    assert family_told((rate, hours)).startswith("This family taught 1 figure, in job 7, 0, 1:")
    assert family_told((hours,)) == "How long the steps of this family take is known from job 0, 1."
    assert [w.source for w in family_working((rate, hours), MM)] == ["signed jobs of this family", "the times in its ledgers"]  # fmt: skip
    alike = replace(rate, sd=0.0, count=2)
    assert "0.00100 mm, alike each time (2" in lesson_words(alike, MM)
