"""Handing in: a job that was worked at two places becomes one, in order, each entry once, and what contradicts is told."""

import shutil

import pytest

from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.desk.desk import Desk
from redline_bore.desk.hand_in import BothRead, hand_in
from redline_bore.job.kinds.entry import Draft
from redline_bore.job.kinds.fold import fold, struck_entries
from redline_bore.job.kinds.gauge import BlockTemperature, ReadingBooked
from redline_bore.job.kinds.sign_off import StepStamped
from redline_bore.job.kinds.strikes import EntryStruck
from redline_bore.job.words.handed_in import both_read_words, handed_in_words
from redline_bore.store.logbook import Logbook
from redline_bore.store.rebuild import rebuild
from redline_bore.store.verify import verified

MM = Show(Units.METRIC)


def reading(size=105.1, clock=0.0):
    return ReadingBooked(cylinder=1, depth_mm=24.0, clock_deg=clock, diameter_mm=size, plate_on=True)


@pytest.fixture
def two(demo_path, tmp_path, shipped):
    """One logbook, and a copy of it that was worked in elsewhere."""
    away = shutil.copy(demo_path, tmp_path / "away.sqlite")
    desks = [Desk(lambda path=path: Logbook(path), shipped, who) for path, who in ((demo_path, "RM"), (away, "KT"))]
    yield desks
    for desk in desks:
        desk.close()


def handed(two, shipped):
    found = hand_in(two[0].logbook, two[1].logbook, shipped)
    return {x.number: x for x in found}


def test_what_both_booked_stands_once_and_in_order(two, shipped):
    here, away = (desk.open("2041") for desk in two)
    parted = len(here.records)
    here.book(reading(105.101), typed="105.101")
    away.book(BlockTemperature(block_c=22.0), typed="22 C")
    away.book(reading(105.109), typed="105.109")
    found = handed(two, shipped)["2041"]
    assert (found.whole, found.taken, found.there, found.refused) == (False, 2, 0, ())
    assert found.both_read == (BothRead(1, 24.0, 0.0, 105.101, "RM", 105.109, "KT"),)
    ledger = two[0].open("2041").records
    assert [(r.person, r.typed) for r in ledger[parted:]] == [("RM", "105.101"), ("KT", "22 C"), ("KT", "105.109")]
    assert not verified(two[0].logbook).faults and rebuild(two[0].logbook).other == ()
    again = handed(two, shipped)["2041"]
    assert (again.taken, again.there) == (0, 2) and two[0].open("2041").records == ledger


def test_what_two_read_elsewhere_they_know_already(two, shipped):
    away = two[1].open("2041")
    away.book(reading(105.101), typed="105.101")
    away.person = "HB"
    away.book(reading(105.109), typed="105.109")
    found = handed(two, shipped)["2041"]
    assert found.taken == 2 and found.both_read == ()


def test_an_entry_struck_elsewhere_is_the_same_one_here(two, shipped):
    here, away = (desk.open("2041") for desk in two)
    for n in range(3):
        here.book(reading(105.2 + n / 1000))
    wrong = away.book(reading(150.0 / 1.4, 90.0)).newest
    away.book(reading(105.3, 135.0))
    away.strike(wrong.seq, "slipped")
    old = away.records[40]
    away.strike(old.seq, "not that one")
    found = handed(two, shipped)["2041"]
    assert found.taken == 4 and found.refused == ()
    ledger = two[0].open("2041").records
    struck = struck_entries(ledger)
    moved = next(r for r in ledger if r.at == wrong.at and r.entry == wrong.entry)
    assert moved.seq == wrong.seq + 3 and {moved.seq, old.seq} <= struck
    assert not any(r.seq in struck for r in ledger if r.person == "RM" and r.seq > len(away.records) - 4)


def test_two_alike_in_one_breath_are_two(two, shipped):
    away = two[1].open("2041")
    at = "2026-11-24T10:00:00.000+00:00"
    away.book_drafts([Draft(reading(), "KT", at=at), Draft(reading(), "KT", at=at)])
    assert handed(two, shipped)["2041"].taken == 2
    assert handed(two, shipped)["2041"].taken == 0


def test_what_a_job_does_not_take_any_more_is_told_and_stays_where_it_is(two, shipped):
    here, away = two[0].open("2041"), two[1].open("2041")
    seq = here.records[40].seq
    here.strike(seq, "here")
    away.strike(seq, "there too")
    away.book(reading())
    found = handed(two, shipped)["2041"]
    assert found.taken == 1 and len(found.refused) == 1 and "struck already" in found.refused[0][1]
    assert "was not taken" in handed_in_words("2041", False, found.taken, found.there, found.refused)
    assert any(isinstance(r.entry, EntryStruck) and r.entry.reason == "there too" for r in two[1].open("2041").records)


def test_a_job_signed_off_meanwhile_takes_nothing(two, shipped):
    closed = two[0].logbook.job_id("2036")  # signed off before they parted; opened again elsewhere only
    from redline_bore.job.kinds.sign_off import JobReopened

    away = two[1].open("2036")
    away.book(JobReopened(reason="one more reading"))
    away.book(BlockTemperature(block_c=21.0))
    two[0].logbook.append(closed, 0, [Draft(StepStamped(step="sign_off", initials="RM"), "RM")])
    found = handed(two, shipped)["2036"]
    assert found.taken == 2 and not found.refused  # opening it again is taken, and what follows it
    assert not fold(two[0].open("2036").records, shipped).signing.closed


def test_a_strike_of_what_was_not_taken_is_not_taken_either(two, shipped):
    here, away = two[0].open("2029"), two[1].open("2029")
    assert here.state.signing.closed
    two[1].logbook.append(
        away.job_id, 0, [Draft(reading(92.05), "KT")]
    )  # past the desk: as damage or another program may
    ledger = two[1].logbook.ledger(away.job_id)
    two[1].logbook.append(away.job_id, 0, [Draft(EntryStruck(seq=ledger[-1].seq), "KT")])
    found = handed(two, shipped)["2029"]
    assert found.taken == 0 and [seq for seq, _ in found.refused] == [ledger[-1].seq, ledger[-1].seq + 1]


def test_another_job_of_the_same_number_is_left_alone(two, shipped, tmp_path):
    other = Logbook(tmp_path / "other.sqlite")
    opening = two[0].open("2041").records[0]
    other.take_ledger([Draft(opening.entry, "ZZ", at="2020-01-01T10:00:00.000+00:00")])
    found = hand_in(two[0].logbook, other, shipped)
    assert len(found) == 1 and "another job of that number" in found[0].refused[0][1]
    other.close()


def test_a_job_that_is_not_here_comes_whole(two, shipped, tmp_path):
    empty, ticks = Logbook(tmp_path / "empty.sqlite"), []
    found = hand_in(empty, two[0].logbook, shipped, lambda done, of: ticks.append((done, of)))
    assert all(x.whole for x in found) and len(found) == 5 and ticks[-1] == (5, 5)
    assert [x.number for x in empty.jobs()] == [x.number for x in two[0].logbook.jobs()]
    assert all(
        empty.ledger(empty.job_id(x.number)) == two[0].logbook.ledger(two[0].logbook.job_id(x.number)) for x in found
    )
    empty.close()


@pytest.mark.parametrize(
    ("given", "said"),
    [
        (("7", True, 12, 0, ()), "7: the whole job"),
        (("7", False, 1, 0, ()), "7: 1 entry"),
        (("7", False, 2, 1, ()), "7: 2 entries, 1 that was there already"),
        (("7", False, 2, 3, ()), "7: 2 entries, 3 that were there already"),
        (("7", False, 0, 3, ()), "7: nothing new"),
        (("7", False, 0, 0, ((9, "it is closed"),)), "7: nothing new; entry 9 was not taken: it is closed"),
    ],
)
def test_it_is_said(given, said):
    assert handed_in_words(*given) == said


def test_two_who_read_one_place_are_told_how_far_apart_they_are():
    said = both_read_words(2, 24.0, 90.0, (105.101, "RM"), (105.109, "KT"), MM)
    assert "RM and KT both read cylinder 2" in said and "+0.008" in said and said.endswith("both stand")
