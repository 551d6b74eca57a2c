"""How sure the readings are: drift bounded by the master, the study in place of the starting U, and where it goes."""

import pytest

from redline_bore.core.gauge_study import StudyValue
from redline_bore.core.show import Show
from redline_bore.core.thermal import GaugeSetting, master_drift
from redline_bore.job.gauge.analysis import shape_of
from redline_bore.job.gauge.doubt import (
    ZeroLacks,
    clearance_doubt,
    drift_of,
    reading_doubt,
    shape_doubt,
    study_of,
    zero_lacks,
)
from redline_bore.job.gauge.extremes import extremes_of
from redline_bore.job.kinds.entry import Record
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.gauge import GaugeSet, MasterChecked, ReadingBooked
from redline_bore.job.kinds.opinions import StudyBegan, StudyReadingBooked
from redline_bore.job.words.readings import advise


@pytest.fixture
def with_entries(ledger_of, shipped):
    def made(*entries, number="2041", person="RM"):
        ledger = list(ledger_of(number))
        for entry in entries:
            ledger.append(Record(ledger[-1].seq + 1, ledger[-1].at, person, entry, block_c=20.4))
        return fold(ledger, shipped)

    return made


READING = ReadingBooked(cylinder=1, depth_mm=24.0, clock_deg=0.0, diameter_mm=105.01, plate_on=True)


def test_the_check_at_the_end_bounds_the_drift_of_everything_between(with_entries):
    state = with_entries(READING, MasterChecked(from_zero_mm=0.004))
    assert drift_of(state) == pytest.approx(0.004, abs=1e-4)
    assert reading_doubt(state).shared_mm > reading_doubt(with_entries()).shared_mm
    assert zero_lacks(state) is ZeroLacks.DRIFTED


def test_what_is_read_after_the_last_check_is_not_bounded(with_entries):
    state = with_entries(READING)
    assert drift_of(state, state.last_seq) is None and drift_of(state) is None
    assert zero_lacks(state) is ZeroLacks.NOT_CHECKED
    checked = with_entries(READING, MasterChecked(from_zero_mm=0.001))
    assert drift_of(checked, state.last_seq) == pytest.approx(0.001, abs=2e-4) and zero_lacks(checked) is None


def test_a_new_zero_begins_anew(with_entries):
    state = with_entries(MasterChecked(from_zero_mm=0.01), GaugeSet(master_20_mm=105.0, master_c=20.0), READING)
    assert state.gauging.zero_span(state.last_seq).start_off_mm == 0.0 and drift_of(state, state.last_seq) is None


def test_no_zero_is_said(state_of):
    assert zero_lacks(state_of("2047")) is ZeroLacks.NOT_BOOKED


def test_a_warm_master_is_not_drift():
    zero = GaugeSetting(105.0, 11.5, 20.0, 11.5, 20.0)
    grown = 105.0 * 11.5e-6 * 8.0
    assert master_drift(zero, grown, 28.0, 20.0) == pytest.approx(0.0, abs=1e-9)
    assert master_drift(zero, 0.0, 28.0, 28.0) == pytest.approx(0.0, abs=1e-9)  # both warm: they grow together
    assert master_drift(zero, 0.003) == pytest.approx(0.003)  # nothing known of warmth: nothing taken out


def study_entries(sd, people=("RM",)):
    found = [StudyBegan(instrument="two-point gauge", resolution_mm=0.001)]
    return found + [
        StudyReadingBooked(spot=spot, value_mm=105.0 + sd * (i % 3 - 1))
        for _ in people
        for spot in "ABC"
        for i in range(5)
    ]


def test_the_study_replaces_the_starting_u_everywhere(with_entries):
    plain, studied = with_entries(), with_entries(*study_entries(0.0005))
    assert study_of(plain) is None and study_of(studied).repeat_sd_mm < 0.0006
    assert reading_doubt(studied).own_mm < reading_doubt(plain).own_mm
    assert clearance_doubt(studied, 105.75, 105.67) < clearance_doubt(plain, 105.75, 105.67)
    assert clearance_doubt(with_entries(*study_entries(0.006)), 105.75, 105.67) > clearance_doubt(plain, 105.75, 105.67)
    assert "study" in advise(studied, 4, Show(studied.units)).working[-1].source


def test_a_study_under_way_replaces_nothing(with_entries):
    assert study_of(with_entries(*study_entries(0.0005)[:4])) is None


def test_drift_widens_sizes_and_clearances_but_not_differences(with_entries):
    plain, drifted = with_entries(), with_entries(MasterChecked(from_zero_mm=0.01))
    assert clearance_doubt(drifted, 105.75, 105.67) > clearance_doubt(plain, 105.75, 105.67) + 0.002
    before, after = (shape_doubt(s, shape_of(s, 4, True)) for s in (plain, drifted))
    assert after.wear_mm == before.wear_mm and after.axial.taper_mm == before.axial.taper_mm
    assert after.reading.expanded_u_mm > before.reading.expanded_u_mm


def test_every_figure_of_the_shape_says_how_sure_it_is(state_of):
    state = state_of("2041")
    figures = {f.label: f.value for f in advise(state, 4, Show(state.units)).figures}
    assert all("±" in figures[k] for k in ("wear of a level", "ridge at the top", "out of round", "long axis", "taper"))


def test_a_three_point_gauge_is_kept_apart(with_entries):
    three = [
        ReadingBooked(cylinder=1, depth_mm=d, clock_deg=c, diameter_mm=105.02, plate_on=True, gauge="three-point")
        for d in (24.0, 150.0)
        for c in (0.0, 30.0, 60.0)
    ]
    state = with_entries(*three)
    assert (
        shape_of(state, 1, True) == shape_of(with_entries(), 1, True)
        and len(state.gauging.three_points_of(1, True)) == 6
    )


def test_values_of_a_study_know_who_read(with_entries):
    state = with_entries(*study_entries(0.001), person="TB")
    assert state.comparing.studies[-1].values[0] == StudyValue("TB", "A", 104.999)


def _only(ledger_of, shipped, entries):
    """Job 2041 as it was booked in, with these readings and no others."""
    ledger = list(ledger_of("2041"))
    ledger = ledger[: next(i for i, r in enumerate(ledger) if isinstance(r.entry, ReadingBooked))]
    for entry in entries:
        ledger.append(Record(ledger[-1].seq + 1, ledger[-1].at, "RM", entry, block_c=20.0))
    return fold(ledger, shipped)


def test_a_hole_that_is_not_to_be_told_from_round_is_under_something(ledger_of, shipped, state_of):
    state = state_of("2041")
    level = next(iter(state.gauging.plan.depths_mm))
    flat = [
        ReadingBooked(cylinder=2, plate_on=False, depth_mm=level + 20.0 * i, clock_deg=30.0 * k, diameter_mm=105.0 + 0.0005 * (k % 2), gauge="two-point")
        for i in range(3)
        for k in range(6)
    ]  # fmt: skip
    struck = _only(ledger_of, shipped, flat)
    found = extremes_of(struck, 2, False)
    assert found.oval is not None and found.oval.low_mm == 0.0
    lines = {f.label: f.value for f in advise(struck, 2, Show(state.units)).figures}
    assert lines["out of round"].startswith("under ") and "long axis" not in lines
    assert "±" in lines["largest, noise taken off"]
    assert found.largest.low_mm < 105.0 + 0.0005 < found.largest.high_mm


def test_two_directions_are_never_called_out_of_round(ledger_of, shipped, state_of):
    two = [
        ReadingBooked(cylinder=2, plate_on=False, depth_mm=20.0 + 30 * i, clock_deg=c, diameter_mm=d, gauge="two-point")
        for i in range(3)
        for c, d in ((0.0, 105.03), (90.0, 105.0))
    ]
    state = _only(ledger_of, shipped, two)
    found = extremes_of(state, 2, False)
    assert found.oval is None and found.largest is None and found.two_directions.low_mm > 0.02
    lines = {f.label: f.value for f in advise(state, 2, Show(state.units)).figures}
    assert "±" in lines["two directions differ by"] and "out of round" not in lines
