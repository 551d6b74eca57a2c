"""The session: what it says has changed, and what it keeps apart."""

import pytest

from redline_bore.core.errors import InputError
from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.job.kinds.gauge import BlockTemperature
from redline_bore.job.kinds.plate import PlateChanged
from redline_bore.job.kinds.sign_off import StepStamped
from redline_bore.store.logbook import Logbook
from redline_bore.ui.session import Session


@pytest.fixture
def session(qapp, demo_path, shipped):
    made = Session(shipped, lambda: Logbook(demo_path))
    made.open_job("2041")
    yield made
    made.close()


@pytest.fixture
def heard(session):
    topics = []
    session.changed.connect(lambda t: topics.append(set(t)))
    return topics


def test_a_booking_says_what_it_changed(session, heard):
    session.book(BlockTemperature(block_c=21.0))
    session.book(PlateChanged(on=False), StepStamped(step="gauge", initials="RM"))
    assert heard == [{"temperature"}, {"plate", "stamps"}]


def test_striking_changes_everything_it_might_have_touched(session, heard):
    record = session.undo()
    assert isinstance(record.entry, StepStamped) and {"readings", "decision", "checks"} <= heard[-1]
    assert session.redo() == record.seq and session.redo() is None


def test_undo_stops_at_the_opening_of_the_job(session):
    session.open_job("2047")
    kinds = []
    while (record := session.undo()) is not None:
        kinds.append(record.entry.kind)
    assert (
        kinds == ["hone_set", "defect_marked", "ring_gap_read", "ring_gap_read", "step_stamped"]
        and session.state.number == "2047"
    )


def test_a_job_opens_where_its_work_stands(session):
    assert session.bench.step == "call"
    session.open_job("2036")
    assert session.bench.step == "sign_off" and session.bench.units is Units.INCH
    session.open_job("2047")
    assert session.bench.step == "gauge" and session.bench.place == Place(0, 0)


def test_the_redline_of_the_call_stands_where_it_was_decided(session):
    assert session.rung_mm == 0.5
    session.set_rung(1.0)
    assert session.rung_mm == 1.0
    session.open_job("2036")
    assert session.rung_mm == 0.508


def test_looking_at_other_units_is_no_entry(session):
    before = session.records
    session.set_units(Units.INCH)
    session.select(3)
    session.set_place(Place(2, 2))
    assert session.records == before and session.show.units is Units.INCH


def test_a_cylinder_that_is_not_there_is_not_selected(session, heard):
    session.select(9)
    session.select(1)
    assert session.bench.cylinder == 1 and heard == []


def test_families_are_the_newest_of_each_engine(session):
    assert [s.number for s in session.desk.families()] == ["2041", "2047", "2044", "2036", "2029"]


def test_without_a_job_nothing_is_booked(qapp, demo_path, shipped):
    empty = Session(shipped, lambda: Logbook(demo_path))
    with pytest.raises(InputError, match="No job is open"):
        empty.book(BlockTemperature(block_c=20.0))
    empty.look_again()
    empty.close()
