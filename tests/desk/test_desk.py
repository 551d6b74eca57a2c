"""Use cases at the desk: what they return, and what holds though two desks have one logbook open."""

from dataclasses import replace

import pytest

from redline_bore.core.errors import DoubtfulInput, FaultyInput, InputError
from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.desk.desk import Desk
from redline_bore.desk.hand_in import hand_in
from redline_bore.desk.typed import book_typed, next_place_of
from redline_bore.job.kinds.book_in import JobOpened, PracticeChosen
from redline_bore.job.kinds.gauge import BlockTemperature, ReadingBooked
from redline_bore.job.kinds.hone import CheckLogged
from redline_bore.job.kinds.phrase import Where
from redline_bore.job.kinds.sign_off import CareTaken, JobReopened, PointAccepted, StepStamped
from redline_bore.job.kinds.strikes import EntryStruck
from redline_bore.job.kinds.topics import LEDGER, Topic
from redline_bore.store.logbook import Logbook


@pytest.fixture
def desks(demo_path, shipped):
    """Two desks over one logbook."""
    made = [Desk(lambda: Logbook(demo_path), shipped, person) for person in ("RM", "KT")]
    yield made
    for desk in made:
        desk.close()


def where(cylinder=1, units=Units.METRIC):
    return Where(cylinder, Place(0, 0), units)


def test_what_was_booked_is_returned_and_is_on_the_disk(desks, demo_path):
    job = desks[0].open("2041")
    before = job.state
    changed = job.book(BlockTemperature(block_c=23.4), typed="23.4 C")
    assert [r.entry for r in changed.booked] == [BlockTemperature(block_c=23.4)] and changed.newest.person == "RM"
    assert changed.topics == frozenset({Topic.TEMPERATURE}) and job.state is not before
    other = Logbook(demo_path)
    assert other.ledger(job.job_id)[-1].typed == "23.4 C"
    other.close()


def test_a_reading_is_on_the_disk_before_anything_follows_from_it(desks, monkeypatch):
    job, read = desks[0].open("2041"), ReadingBooked(cylinder=1, depth_mm=24.0, clock_deg=0.0, diameter_mm=105.1, plate_on=True)  # fmt: skip
    job.book(read)  # from here on the job's line is known
    assert job.state.last_seq == job.records[-1].seq

    def broken(*_given):
        raise ZeroDivisionError

    monkeypatch.setattr("redline_bore.desk.open_job.fold_on", broken)
    assert job.book(read, typed="105.1").newest.typed == "105.1"
    with pytest.raises(ZeroDivisionError):
        _ = job.state
    assert desks[1].logbook.ledger(job.job_id)[-1] == job.records[-1]
    monkeypatch.undo()
    assert job.state.last_seq == job.records[-1].seq and job.state.gauging.readings[-1].seq == job.records[-1].seq


def test_a_refused_entry_is_neither_on_the_disk_nor_in_the_state(desks):
    job = desks[0].open("2041")
    count, state = len(job.records), job.state
    with pytest.raises(FaultyInput):
        job.book(BlockTemperature(block_c=23.0), BlockTemperature(block_c=900.0))
    assert len(job.records) == count and job.state is state
    assert len(desks[1].open("2041").records) == count


def test_what_another_desk_booked_comes_in_with_the_next_booking(desks):
    mine, theirs = desks[0].open("2041"), desks[1].open("2041")
    theirs.book(BlockTemperature(block_c=23.4))
    changed = mine.book(BlockTemperature(block_c=23.6))
    assert [r.person for r in changed.records] == ["KT", "RM"] and [r.person for r in changed.booked] == ["RM"]
    assert mine.state.clamped.block_c == 23.6 and [r.person for r in theirs.look_again().records] == ["RM"]


def test_two_desks_cannot_both_strike_one_entry(desks):
    mine, theirs = desks[0].open("2041"), desks[1].open("2041")
    seq = mine.undo().seq
    theirs.strike(seq)
    with pytest.raises(InputError, match="is struck already"):
        mine.strike(seq)
    assert sum(isinstance(r.entry, EntryStruck) and r.entry.seq == seq for r in desks[0].open("2041").records) == 1
    mine.look_again()
    theirs.restore(seq)
    with pytest.raises(InputError, match="counts as it is"):
        mine.restore(seq)


@pytest.mark.parametrize("seq", [0, 1, 9999])
def test_what_is_no_entry_cannot_be_struck(desks, seq):
    with pytest.raises(InputError, match="none that can be struck|no entry of this ledger"):
        desks[0].open("2041").strike(seq)


def test_nothing_is_booked_into_a_job_that_another_desk_closed(desks):
    mine, theirs = desks[0].open("2036"), desks[1].open("2036")
    theirs.book(JobReopened(reason="to see"))
    mine.look_again()
    assert not mine.state.signing.closed
    theirs.stamp("sign_off")
    with pytest.raises(InputError, match="igned"):
        mine.book(CheckLogged(cylinder=1, strokes=1.0, sizes_mm=(83.06,)))
    mine.book(JobReopened(reason="a ring"))
    assert mine.state.signing.closed is False


def test_a_job_is_not_signed_over_a_point_that_was_opened_meanwhile(desks):
    mine, theirs = desks[0].open("2036"), desks[1].open("2036")
    theirs.book(JobReopened(reason="to see"))
    mine.look_again()
    theirs.book(CheckLogged(cylinder=1, strokes=30.0, sizes_mm=(83.066, 83.066)))
    with pytest.raises(InputError, match="cannot be signed off"):
        mine.stamp("sign_off")


def test_entries_booked_together_are_held_against_each_other_in_turn(desks):
    job = desks[0].open("2036")
    job.book(JobReopened(reason="to see"), CareTaken(what="washed"), StepStamped(step="sign_off", initials="RM"))
    assert job.state.signing.closed
    with pytest.raises(InputError):
        job.book(JobReopened(reason="again"), StepStamped(step="sign_off", initials="RM"), CareTaken(what="washed"))


def test_an_accepted_point_is_kept_by_its_key(desks):
    from redline_bore.job.sign_off.sheet import sheet_of

    job = desks[0].open("2044")
    book_typed(desks[0], job, "sign_off", "accept 1 the owner knows", where())
    (taken,) = (r.entry for r in job.records if isinstance(r.entry, PointAccepted))
    assert taken.about and [a.about for a in sheet_of(job.state).accepted] == [taken.about]


def test_a_line_is_booked_as_in_the_window(desks):
    job = desks[0].open("2041")
    place = next_place_of(job.state, 1)
    before, at = len(job.records), Where(1, place, Units.METRIC)
    with pytest.raises(DoubtfulInput, match="fully read") as told:
        book_typed(desks[0], job, "gauge", "105.2", at)
    with pytest.raises(DoubtfulInput):
        book_typed(desks[0], job, "gauge", "105.2", at, asked="something else")
    assert len(job.records) == before, "asked, and nothing booked"
    changed = book_typed(desks[0], job, "gauge", "105.2", at, asked=told.value.doubt)
    assert isinstance(changed.newest.entry, ReadingBooked)
    assert changed.newest.typed == f"105.2 (asked: {told.value.doubt})", "the doubt stays in the ledger"
    with pytest.raises(InputError):
        book_typed(desks[0], job, "gauge", "no length", where())


def test_striking_may_have_touched_everything(desks):
    job = desks[0].open("2041")
    assert job.strike(job.undo().seq).topics >= LEDGER


def test_a_new_job_takes_its_familys_plan_and_lessons(desks):
    from redline_bore.job.kinds.book_in import JobOpened

    first = desks[0].open("2036").state
    desks[0].book_in(JobOpened(number="3050", units=Units.INCH, book_in=first.book_in))
    state = desks[0].open("3050").state
    assert state.booking.lessons and state.book_in.engine == first.book_in.engine
    with pytest.raises(InputError):
        desks[1].book_in(JobOpened(number="3050", units=Units.INCH, book_in=first.book_in))


def test_a_job_that_is_not_there_is_told(desks):
    with pytest.raises(InputError, match="no job 9999"):
        desks[0].open("9999")


def test_a_second_engine_of_a_family_gets_back_all_that_was_set(desks):
    """Stones, turns, strokes, overstroke, dwell, load, angle, clearances, practices, finish windows: each as the newest job had it."""
    first = desks[0].open("2041")
    for step, line in [
        ("call", "habit 0.041 0.052"), ("hone", "stones vitrified 220 4 x 11 long 80 new"), ("hone", "hone vertical rpm 155 strokes 45 over 20 15 dwell 0.1 0.2 load 18"),
        ("hone", "angle 33"), ("finish", "window Rvk 1.2 2.0 by moly ring"),
    ]:  # fmt: skip
        book_typed(desks[0], first, step, line, where())
    first.book(PracticeChosen(topic="honing", name="four steps"))
    second = desks[1].book_in(JobOpened(number="3051", units=Units.METRIC, book_in=first.state.book_in)).job.state
    a, b = first.state, second
    assert (
        b.honing.run.rpm,
        b.honing.run.strokes_per_min,
        b.honing.run.over_bottom_mm,
        b.honing.run.dwell_bottom_s,
        b.honing.run.load,
    ) == (155.0, 45.0, 15.0, 0.2, 18.0)
    assert (b.honing.stones.stones, b.honing.stones.length_mm) == (
        "vitrified_220",
        80.0,
    ) and b.honing.stones.bedded is None
    assert b.honing.angle.included_deg == 33.0 and b.booking.practice("honing") == "four steps"
    assert {(w.source, w.low_mm, w.high_mm) for w in b.calling.windows} == {
        (w.source, w.low_mm, w.high_mm) for w in a.calling.windows
    }
    assert [(w.parameter, w.low_um, w.source) for w in b.finishing.windows] == [
        (w.parameter, w.low_um, w.source) for w in a.finishing.windows
    ]
    taller = replace(a.book_in, block=replace(a.book_in.block, length_mm=a.block.length_mm + 5.0))
    third = desks[1].book_in(JobOpened(number="3052", units=Units.METRIC, book_in=taller)).job.state
    assert third.honing.run is None and third.honing.stones is None and third.honing.angle.included_deg == 33.0
    marine = (
        desks[1]
        .book_in(JobOpened(number="3053", units=Units.METRIC, book_in=replace(a.book_in, duty="marine")))
        .job.state
    )
    assert marine.calling.windows == ()  # another duty has its own clearances


# -- a logbook that goes away, another bench's entries -----------------------------------------------------------------


def test_what_is_booked_when_the_logbook_is_gone_is_kept_beside_it_and_handed_in_once(desks, demo_path, tmp_path):
    job = desks[0].open("2041")
    job.book(BlockTemperature(block_c=21.0))
    count, away = len(job.records), tmp_path / "taken away.sqlite"
    desks[0].close()  # so that the log is written into the file
    job = desks[0].open("2041")
    demo_path.rename(away)
    changed = job.book(BlockTemperature(block_c=22.5), typed="22.5 C")
    assert "is kept in" in changed.remark and job.rescued_to.parent == demo_path.parent and job.rescued_to.exists()
    assert job.state.clamped.block_c == 22.5 and len(job.records) == count + 1
    assert job.book(BlockTemperature(block_c=22.7)).remark == ""  # told once
    rescue = job.rescued_to
    desks[0].close()
    away.rename(demo_path)
    book = Logbook(demo_path)
    other = Logbook(rescue)
    taken = hand_in(book, other, job._figures)
    assert [(x.number, x.taken, x.refused) for x in taken] == [("2041", 2, ())]
    assert [r.typed for r in book.ledger(book.job_id("2041"))][-2:] == ["22.5 C", ""]
    again = hand_in(book, other, job._figures)
    assert [(x.taken, x.there) for x in again] == [(0, 0)]  # up to its end it is one with what stands here
    other.close()
    book.close()


def test_nobody_takes_back_what_another_bench_booked(desks):
    mine, theirs = desks[0].open("2041"), desks[1].open("2041")
    mine.book(BlockTemperature(block_c=21.0))
    theirs.book(BlockTemperature(block_c=22.0))
    mine.look_again()
    with pytest.raises(InputError, match="booked by KT, not here"):
        mine.undo()
    mine.book(BlockTemperature(block_c=23.0))
    assert mine.undo().entry.block_c == 23.0
    again = desks[0].open("2041")
    assert again.undo().entry.block_c == 23.0  # what was there when it was opened may be taken back
