"""Readings and sweeps in and out as CSV. The header names the unit; every faulty row is told, nothing half is taken in.

The format is described in docs/formats.md.
"""

from __future__ import annotations

import csv
import io
import re
from collections import Counter
from collections.abc import Callable, Iterable, Sequence

from redline_bore.core.errors import Fault, FaultyInput
from redline_bore.core.frozen import frozen
from redline_bore.core.lengths import LengthError, Units, parse_length
from redline_bore.core.show import Show
from redline_bore.job.kinds.codec import to_plain
from redline_bore.job.kinds.entry import Entry, Record
from redline_bore.job.kinds.fold import struck_entries
from redline_bore.job.kinds.gauge import ReadingBooked, SweepBooked
from redline_bore.job.kinds.opinions import OtherReadingBooked, SecondOpinionOpened
from redline_bore.job.state.job_state import JobState
from redline_bore.job.state.readings import THREE_POINT, TWO_POINT
from redline_bore.store.exports import cell, uncelled

UNITS = {"mm": Units.METRIC, "in": Units.INCH}
PLATE = {"on": True, "yes": True, "1": True, "off": False, "no": False, "0": False, "": None}


@frozen(often=True)
class ReadRow:
    """One row ready to be booked. ``typed`` is the diameter as it stood in the file."""

    entry: Entry
    block_c: float | None
    person: str
    instrument: str
    typed: str


MOST_ROWS, MOST_FAULTS = 50_000, 200
_COMMA_FIGURE = re.compile(r"[+\-−]?\d*,\d+")


def taken_words(rows: Sequence[ReadRow]) -> str:
    """What was taken in, counted: 60 readings, 5 sweeps."""
    sweeps = sum(isinstance(r.entry, SweepBooked) for r in rows)
    readings = sum(isinstance(r.entry, (ReadingBooked, OtherReadingBooked)) for r in rows)
    return f"{sweeps} sweep{'s' * (sweeps != 1)}" if sweeps else f"{readings} reading{'s' * (readings != 1)}"


@frozen(often=True)
class _Columns:
    """Which column holds which length; ``size`` is a diameter, or in a sweep a radius."""

    depth: str | None
    size: str

    @property
    def sweep(self) -> bool:
        return self.size.startswith("radius")


@frozen(often=True)
class _Row:
    cylinder: int
    depth_mm: float | None
    clock_deg: float | None
    size_mm: float
    plate_on: bool
    gauge: str
    block_c: float | None
    person: str
    instrument: str
    typed: str


def readings_from_csv(text: str, state: JobState, other: str = "") -> tuple[ReadRow, ...]:
    """All readings of a CSV text, or FaultyInput naming every faulty line, column and reason.

    A ``radius`` column makes sweeps: the rows of one cylinder, depth and plate are one sweep. ``other`` names the shop
    whose readings they are; then depth and clock may be missing.
    """
    text = text.removeprefix("\ufeff")
    if not text.strip():
        raise FaultyInput([Fault("file", "it is empty; a header line and readings are wanted")])
    first = text.lstrip().splitlines()[0]
    delimiter = max(",;\t", key=first.count)
    try:
        cells_of = [(n, [_pointed(c, delimiter) for c in row]) for n, row in _lines(text, delimiter)]
    except csv.Error as error:
        raise FaultyInput([Fault("file", f"it cannot be read as a table: {error}")]) from error
    header = tuple(name.strip().lower() for name in cells_of[0][1])
    columns = _columns(header, bool(other))
    rows, faults = _rows_of(cells_of[1:], header, columns, state)
    if not rows and not faults:
        faults.append(Fault("file", "it has a header and no readings"))
    if faults:
        raise FaultyInput(faults)
    if other:
        return _other_rows(rows, other, state)
    return _sweeps(rows) if columns.sweep else tuple(_ready(r, _reading(r)) for r in rows)


def _rows_of(
    lines: Sequence[tuple[int, list[str]]], header: tuple[str, ...], columns: _Columns, state: JobState
) -> tuple[list[_Row], list[Fault]]:
    """The rows that can be read, and what is wrong with the others."""
    rows: list[_Row] = []
    faults: list[Fault] = []
    for line, cells in lines:
        if not any(cell.strip() for cell in cells):
            continue
        row = _row(dict(zip(header, map(uncelled, cells), strict=False)), columns, state, line, faults)
        if len(faults) > MOST_FAULTS:
            faults.append(Fault("file", f"more than {MOST_FAULTS} faults: nothing more was looked at"))
            break
        if len(cells) > len(header):
            faults.append(Fault(f"line {line}", f"has {len(cells)} cells, the header has {len(header)}"))
        elif row is not None:
            rows.append(row)
    return rows, faults


def new_rows(rows: Sequence[ReadRow], ledger: Sequence[Record]) -> tuple[ReadRow, ...]:
    """The rows that a ledger does not hold yet, told by what they say and not by the file's name: two alike in the file are both new."""
    struck = struck_entries(ledger)
    had = Counter(str(to_plain(r.entry)) for r in ledger if r.seq not in struck)
    found = []
    for row in rows:
        said = str(to_plain(row.entry))
        if had[said]:
            had[said] -= 1
        else:
            found.append(row)
    return tuple(found)


def _lines(text: str, delimiter: str) -> Iterable[tuple[int, list[str]]]:
    """The lines of a table with their numbers. Raises csv.Error, FaultyInput where there are too many."""
    reader = csv.reader(io.StringIO(text), delimiter=delimiter)
    for n, cells in enumerate(reader):
        if n > MOST_ROWS:
            raise FaultyInput([Fault("file", f"it has more than {MOST_ROWS} lines; no job has so many readings")])
        yield reader.line_num, cells


def _pointed(cell: str, delimiter: str) -> str:
    """A figure with a decimal comma, in a table whose columns are not told apart by one, with a point."""
    return cell.replace(",", ".") if delimiter != "," and _COMMA_FIGURE.fullmatch(cell.strip()) else cell


def _ready(row: _Row, entry: Entry) -> ReadRow:
    return ReadRow(entry, row.block_c, row.person, row.instrument, row.typed)


def _reading(row: _Row) -> ReadingBooked:
    assert row.depth_mm is not None and row.clock_deg is not None
    return ReadingBooked(
        cylinder=row.cylinder, depth_mm=row.depth_mm, clock_deg=row.clock_deg, diameter_mm=row.size_mm,
        plate_on=row.plate_on, gauge=row.gauge,
    )  # fmt: skip


def _sweeps(rows: list[_Row]) -> tuple[ReadRow, ...]:
    groups: dict[tuple[int, float, bool], list[_Row]] = {}
    for row in rows:
        assert row.depth_mm is not None
        groups.setdefault((row.cylinder, row.depth_mm, row.plate_on), []).append(row)
    return tuple(
        _ready(
            points[0],
            SweepBooked(
                cylinder=cylinder, depth_mm=depth, clock_deg=tuple(p.clock_deg or 0.0 for p in points),
                radius_mm=tuple(p.size_mm for p in points), plate_on=plate,
            ),
        )
        for (cylinder, depth, plate), points in groups.items()
    )  # fmt: skip


def _other_rows(rows: list[_Row], who: str, state: JobState) -> tuple[ReadRow, ...]:
    known = any(s.conditions.who == who for s in state.comparing.second_opinions)
    opening = (
        ()
        if known
        else (_ready(rows[0], SecondOpinionOpened(who=who, plate_on=rows[0].plate_on, block_c=rows[0].block_c)),)
    )
    return opening + tuple(
        _ready(
            r,
            OtherReadingBooked(
                who=who, cylinder=r.cylinder, diameter_mm=r.size_mm, depth_mm=r.depth_mm, clock_deg=r.clock_deg
            ),
        )
        for r in rows
    )


def _columns(header: tuple[str, ...], other: bool) -> _Columns:
    faults, found = [], {}
    sweep = not other and any(f"radius_{unit}" in header for unit in UNITS)
    for stem in ("depth", "radius" if sweep else "diameter"):
        named = [f"{stem}_{unit}" for unit in UNITS if f"{stem}_{unit}" in header]
        if len(named) == 1:
            found[stem] = named[0]
        elif named or not (other and stem == "depth"):
            what = "both units are named" if named else f"there is no column {stem}_mm or {stem}_in"
            faults.append(Fault("line 1, header", f"{what}; the header must name one unit for {stem}"))
    needed = ("cylinder",) if other else ("cylinder", "clock_deg")
    faults += [Fault("line 1, header", f"there is no column {name}") for name in needed if name not in header]
    if faults:
        raise FaultyInput(faults)
    return _Columns(found.get("depth"), found["radius" if sweep else "diameter"])


def _row(cells: dict[str, str], columns: _Columns, state: JobState, line: int, faults: list[Fault]) -> _Row | None:
    before = len(faults)

    def fault(column: str, reason: str) -> None:
        faults.append(Fault(f"line {line}, {column}", reason))

    cylinder = _cylinder(cells.get("cylinder", ""), state, fault)
    depth = _length(cells, columns.depth, None, fault) if columns.depth else None
    if columns.depth is not None and depth is not None and not 0.0 < depth < state.block.length_mm:
        fault(columns.depth, f"{depth:g} mm down is not in a cylinder of {state.block.length_mm:g} mm")
    nominal = state.block.bore_mm * (0.5 if columns.sweep else 1.0)
    size = _length(cells, columns.size, nominal, fault)
    clock = _number(cells, "clock_deg", 0.0, 360.0, fault) if "clock_deg" in cells else None
    block_c = _number(cells, "block_c", -40.0, 150.0, fault) if cells.get("block_c", "").strip() else None
    plate = PLATE.get(cells.get("plate", "").strip().lower(), "?")
    if plate == "?":
        fault("plate", f"“{cells['plate'].strip()}” is neither on nor off")
    gauge = cells.get("gauge", "").strip().lower() or TWO_POINT
    if gauge not in (TWO_POINT, THREE_POINT):
        fault("gauge", f"“{gauge}” is neither {TWO_POINT} nor {THREE_POINT}")
    if len(faults) > before or cylinder is None or size is None:
        return None
    return _Row(
        cylinder, depth, clock, size, plate if isinstance(plate, bool) else state.clamped.plate_on, gauge, block_c,
        cells.get("person", "").strip(), cells.get("instrument", "").strip(), cells[columns.size].strip(),
    )  # fmt: skip


def _cylinder(text: str, state: JobState, fault: Callable[[str, str], None]) -> int | None:
    number = text.strip()
    if number.isdecimal() and len(number) < 4 and int(number) in state.cylinders:
        return int(number)
    fault("cylinder", f"“{number}” is not a cylinder of this block; it has 1 to {state.block.cylinders}")
    return None


def _length(
    cells: dict[str, str], column: str, nominal_mm: float | None, fault: Callable[[str, str], None]
) -> float | None:
    units = UNITS[column.rsplit("_", 1)[1]]
    try:
        return parse_length(cells.get(column) or "", units, nominal_mm, "reading" if nominal_mm else "length").mm
    except LengthError as error:
        fault(column, str(error))
        return None


def _number(
    cells: dict[str, str], column: str, low: float, high: float, fault: Callable[[str, str], None]
) -> float | None:
    text = (cells.get(column) or "").strip()
    try:
        value = float(text.replace(",", "."))
    except ValueError:
        fault(column, f"“{text}” is not a number")
        return None
    if not low <= value <= high:
        fault(column, f"{value:g} does not lie between {low:g} and {high:g}")
        return None
    return value


def readings_to_csv(state: JobState) -> str:
    """The readings that count, as CSV in the job's units, sizes at the block's own temperature as they were read."""
    mark, show = state.units.mark, Show(state.units)
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    columns = [
        "cylinder",
        f"depth_{mark}",
        "clock_deg",
        f"diameter_{mark}",
        "plate",
        "gauge",
        "block_c",
        "person",
        "at",
    ]
    writer.writerow(columns)
    writer.writerows(_exported(state, show))
    return out.getvalue()


def _exported(state: JobState, show: Show) -> Iterable[list[str]]:
    for r in (*state.gauging.readings, *state.gauging.three_points):
        yield [
            str(r.cylinder), show.fine(r.depth_mm), f"{r.clock_deg:g}", show.fine(r.raw_mm),
            "on" if r.plate_on else "off", r.gauge, "" if r.block_c is None else f"{r.block_c:g}", cell(r.person), r.at,
        ]  # fmt: skip


def sweeps_to_csv(state: JobState) -> str:
    """The sweeps that count, a line a point, as CSV in the job's units; radii at 20 C from the spindle's axis."""
    mark, show = state.units.mark, Show(state.units)
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(["cylinder", f"depth_{mark}", "clock_deg", f"radius_{mark}", "plate", "block_c"])
    for s in state.gauging.sweeps:
        for clock, radius in zip(s.clock_deg, s.radius_mm, strict=True):
            plate = "on" if s.plate_on else "off"
            writer.writerow([s.cylinder, show.fine(s.depth_mm), f"{clock:g}", show.fine(radius), plate, "20"])
    return out.getvalue()
