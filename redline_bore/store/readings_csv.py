"""Readings in and out as CSV. The header names the unit; every faulty row is told, and nothing half is taken in.

The format is described in docs/formats.md.
"""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable
from dataclasses import dataclass

from redline_bore.core.errors import Fault, FaultyInput
from redline_bore.core.lengths import LengthError, Units, parse_length
from redline_bore.job.advice import Show
from redline_bore.job.entries import ReadingBooked
from redline_bore.job.state import JobState

UNITS = {"mm": Units.METRIC, "in": Units.INCH}
PLATE = {"on": True, "yes": True, "1": True, "off": False, "no": False, "0": False, "": None}


@dataclass(frozen=True)
class ReadRow:
    """One row ready to be booked. ``typed`` is the diameter as it stood in the file."""

    entry: ReadingBooked
    block_c: float | None
    person: str
    instrument: str
    typed: str


@dataclass(frozen=True)
class _Columns:
    depth: str
    diameter: str
    names: tuple[str, ...]

    @property
    def depth_units(self) -> Units:
        return UNITS[self.depth.rsplit("_", 1)[1]]

    @property
    def diameter_units(self) -> Units:
        return UNITS[self.diameter.rsplit("_", 1)[1]]


def readings_from_csv(text: str, state: JobState) -> tuple[ReadRow, ...]:
    """All readings of a CSV text, or FaultyInput naming every faulty line, column and reason."""
    text = text.removeprefix("\ufeff")
    if not text.strip():
        raise FaultyInput([Fault("file", "it is empty; a header line and readings are wanted")])
    first = text.lstrip().splitlines()[0]
    delimiter = max(",;\t", key=first.count)
    reader = csv.reader(io.StringIO(text), delimiter=delimiter)
    header = tuple(name.strip().lower() for name in next(reader))
    columns = _columns(header)
    rows, faults = [], []
    for cells in reader:
        if not any(cell.strip() for cell in cells):
            continue
        row = _row(dict(zip(header, cells, strict=False)), columns, state, reader.line_num, faults)
        if len(cells) > len(header):
            faults.append(Fault(f"line {reader.line_num}", f"has {len(cells)} cells, the header has {len(header)}"))
        elif row is not None:
            rows.append(row)
    if not rows and not faults:
        faults.append(Fault("file", "it has a header and no readings"))
    if faults:
        raise FaultyInput(faults)
    return tuple(rows)


def _columns(header: tuple[str, ...]) -> _Columns:
    faults, found = [], {}
    for stem in ("depth", "diameter"):
        named = [f"{stem}_{unit}" for unit in UNITS if f"{stem}_{unit}" in header]
        if len(named) == 1:
            found[stem] = named[0]
        else:
            what = "both units are named" if named else f"there is no column {stem}_mm or {stem}_in"
            faults.append(Fault("line 1, header", f"{what}; the header must name one unit for {stem}"))
    faults += [
        Fault("line 1, header", f"there is no column {name}")
        for name in ("cylinder", "clock_deg")
        if name not in header
    ]
    if faults:
        raise FaultyInput(faults)
    return _Columns(found["depth"], found["diameter"], header)


def _row(cells: dict[str, str], columns: _Columns, state: JobState, line: int, faults: list[Fault]) -> ReadRow | None:
    before = len(faults)

    def fault(column: str, reason: str) -> None:
        faults.append(Fault(f"line {line}, {column}", reason))

    cylinder = _cylinder(cells.get("cylinder", ""), state, fault)
    depth = _length(cells, columns.depth, columns.depth_units, None, fault)
    if depth is not None and not 0.0 < depth < state.block.length_mm:
        fault(columns.depth, f"{depth:g} mm down is not in a cylinder of {state.block.length_mm:g} mm")
    diameter = _length(cells, columns.diameter, columns.diameter_units, state.block.bore_mm, fault)
    clock = _number(cells, "clock_deg", 0.0, 360.0, fault)
    block_c = _number(cells, "block_c", -40.0, 150.0, fault) if cells.get("block_c", "").strip() else None
    plate = PLATE.get(cells.get("plate", "").strip().lower(), "?")
    if plate == "?":
        fault("plate", f"“{cells['plate'].strip()}” is neither on nor off")
    if len(faults) > before or cylinder is None or depth is None or diameter is None or clock is None:
        return None
    entry = ReadingBooked(
        cylinder=cylinder, depth_mm=depth, clock_deg=clock, diameter_mm=diameter,
        plate_on=state.plate_on if plate is None or isinstance(plate, str) else plate,
    )  # fmt: skip
    return ReadRow(
        entry,
        block_c,
        cells.get("person", "").strip(),
        cells.get("instrument", "").strip(),
        cells[columns.diameter].strip(),
    )


def _cylinder(text: str, state: JobState, fault) -> int | None:  # type: ignore[no-untyped-def]
    if text.strip().isdigit() and int(text) in state.cylinders:
        return int(text)
    fault("cylinder", f"“{text.strip()}” is not a cylinder of this block; it has 1 to {state.block.cylinders}")
    return None


def _length(cells: dict[str, str], column: str, units: Units, nominal_mm: float | None, fault) -> float | None:  # type: ignore[no-untyped-def]
    try:
        return parse_length(cells.get(column) or "", units, nominal_mm, "reading" if nominal_mm else "length").mm
    except LengthError as error:
        fault(column, str(error))
        return None


def _number(cells: dict[str, str], column: str, low: float, high: float, fault) -> float | None:  # type: ignore[no-untyped-def]
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
    writer.writerow(["cylinder", f"depth_{mark}", "clock_deg", f"diameter_{mark}", "plate", "block_c", "person", "at"])
    writer.writerows(_exported(state, show))
    return out.getvalue()


def _exported(state: JobState, show: Show) -> Iterable[list[str]]:
    for r in state.readings:
        yield [
            str(r.cylinder), show.fine(r.depth_mm), f"{r.clock_deg:g}", show.fine(r.raw_mm),
            "on" if r.plate_on else "off", "" if r.block_c is None else f"{r.block_c:g}", r.person, r.at,
        ]  # fmt: skip
