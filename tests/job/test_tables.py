"""The table behind each picture: every row is there, and each figure is the one that the picture draws."""

from types import SimpleNamespace as Some

import pytest

from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.call.ladder import Fares, ladder_of
from redline_bore.job.gauge.analysis import shape_of
from redline_bore.job.hone.progress import progress_of
from redline_bore.job.kinds.gauge import ReadingBooked
from redline_bore.job.state.hole import hole_of
from redline_bore.job.words import tables
from redline_bore.job.words.fares import fares_words
from redline_bore.job.words.tables import NOT_KNOWN, table_of
from tests.job.benches import after, but

MM = Show(Units.METRIC)
STEPS = ("book_in", "gauge", "call", "bore", "sleeve", "hone", "finish", "sign_off")


@pytest.mark.parametrize("units", Units)
@pytest.mark.parametrize("step", STEPS)
@pytest.mark.parametrize("number", ["2029", "2036", "2041", "2044", "2047"])
def test_every_row_answers_every_head(state_of, number, step, units):
    table = table_of(state_of(number), step, 1, 0.5, Show(units))
    assert table.title.strip() and table.rows
    assert all(len(row) == len(table.heads) and all(cell for cell in row) for row in table.rows)


def test_what_was_read_stands_where_it_was_read(state_of):
    state = state_of("2041")
    table, shape = table_of(state, "gauge", 2, 0.5, MM), shape_of(state, 2, state.clamped.plate_on)
    cells = {(row[0], head): cell for row in table.rows for head, cell in zip(table.heads[1:], row[1:], strict=True)}
    for level in shape.levels:
        for spot in level.spots:
            assert cells[MM.depth(level.depth_mm), f"{spot.clock_deg:g}°"] == MM.size(spot.size_mm)
    read = sum(len(level.spots) for level in shape.levels)
    assert sum(c != NOT_KNOWN for c in cells.values()) == read
    depths = [float(row[0]) for row in table.rows]
    assert depths == sorted(depths) and len(depths) == len(set(depths))


def test_the_plate_is_named_as_it_is(state_of):
    state = state_of("2041")
    for on, said in ((True, "plate on"), (False, "plate off")):
        assert said in table_of(but(state, clamped={"plate_on": on}), "gauge", 1, 0.5, MM).title


def test_the_call_of_every_cylinder(state_of):
    state = state_of("2041")
    table = table_of(state, "call", 1, 0.5, MM)
    for row, fate in zip(table.rows, ladder_of(state).fates(0.5), strict=True):
        wear, cleanup = fate.column.shape.wear, fate.column.cleanup
        assert row[0] == str(fate.cylinder) and row[-1] == fares_words(fate.fares)[0]
        assert row[1] == (NOT_KNOWN if wear is None else MM.size(wear.largest_reading_mm))
        assert row[2] == (NOT_KNOWN if cleanup is None else MM.size(cleanup.low_mm))
        assert row[3] == (MM.size(cleanup.high_mm) if cleanup is not None and cleanup.is_bound else NOT_KNOWN)


def test_a_clean_up_that_is_no_bound_is_not_called_sure(monkeypatch):
    column = Some(shape=Some(wear=None), cleanup=Some(low_mm=105.3, high_mm=105.4, is_bound=False), ceiling_mm=None)
    fate = Some(cylinder=1, column=column, fares=Fares.NOT_KNOWN)
    monkeypatch.setattr(tables, "ladder_of", lambda state: Some(fates=lambda over: (fate,)))
    assert table_of(Some(), "call", 1, 0.5, MM).rows == (
        ("1", NOT_KNOWN, "105.300", NOT_KNOWN, NOT_KNOWN, "not known"),
    )


def test_what_is_left_for_the_hone_is_measured_from_the_largest_place(state_of):
    state = state_of("2036")
    for row, cylinder in zip(table_of(state, "bore", 1, 0.5, MM).rows, state.cylinders, strict=True):
        hole = hole_of(state, cylinder)
        if hole is None:
            assert row[2:] == (NOT_KNOWN,) * 4
            continue
        redline = progress_of(state, cylinder).redline.size_mm
        assert (row[3], row[4]) == (MM.size(min(hole.all_mm)), MM.size(hole.largest_mm))
        assert row[5] == (NOT_KNOWN if redline is None else MM.size(redline - hole.largest_mm))


@pytest.mark.parametrize("sleeved, wanted", [((2, 3), ["2", "3"]), ((), ["1", "2", "3", "4", "5"])])
def test_only_the_sleeved_are_listed_where_some_are(monkeypatch, state_of, sleeved, wanted):
    monkeypatch.setattr(tables, "sleeved_cylinders", lambda state: sleeved)
    assert [row[0] for row in table_of(state_of("2041"), "sleeve", 1, 0.5, MM).rows] == wanted


def test_each_check_with_what_is_left(state_of):
    state = state_of("2036")
    checked = [c for c in state.cylinders if state.honing.checks_of(c)]
    assert checked
    for cylinder in state.cylinders:
        table, checks = table_of(state, "hone", cylinder, 0.5, MM), state.honing.checks_of(cylinder)
        if not checks:
            assert [row[0] for row in table.rows] == ["no check yet"]
            continue
        redline = progress_of(state, cylinder).redline.size_mm
        for row, check in zip(table.rows, checks, strict=True):
            assert (row[0], row[3]) == (f"{check.strokes:g}", MM.size(check.mean_mm))
            assert row[4] == (NOT_KNOWN if redline is None else MM.target(redline - check.mean_mm))


@pytest.mark.parametrize("plate_on", [False, True])
def test_a_depth_that_no_plan_has_gets_its_own_row(ledger_of, shipped, plate_on):
    reading = ReadingBooked(cylinder=1, depth_mm=77.7, clock_deg=90.0, diameter_mm=105.1, plate_on=plate_on)
    state = after(ledger_of("2041"), shipped, reading)
    there = [row[0] for row in table_of(state, "gauge", 1, 0.5, MM).rows]
    assert (MM.depth(77.7) in there) is (plate_on is state.clamped.plate_on)
