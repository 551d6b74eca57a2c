"""Traces as text in two columns, place and height: the separator, the decimal sign and the header are found out, units are
taken from the header or asked for; they are never guessed."""

from __future__ import annotations

import re
from collections.abc import Sequence

import numpy as np

from redline_bore.core.errors import InputError
from redline_bore.core.texture.profile import MOST_POINTS, Trace, trace_from

TO_MM = {"m": 1000.0, "mm": 1.0, "um": 1e-3, "nm": 1e-6, "in": 25.4, "uin": 25.4e-6}
_UNIT = re.compile(r"(?:^|[\s_\[(/,;:=])(mm|[uµμ]m|nm|[uµμ]in|in|m)(?=$|[\s\])/,;])", re.IGNORECASE)
_MISSING = {"", "nan", "-", "--", "***", "n/a", "na", "bad", "null", "inf", "+inf", "-inf"}
MOST_HEADER, MOST_LINES, LONGEST_LINE = 200, MOST_POINTS + 2000, 2000


class UnitsWanted(InputError):
    """The file does not say in which units it is."""


def trace_of_text(data: bytes, units: tuple[str, str] | None = None) -> Trace:
    """A trace from the bytes of a text file. ``units``: of places and heights, where the header does not state them; where
    it does and they differ, the file is refused. Raises UnitsWanted or InputError with the reason."""
    lines = _text(data).splitlines()
    separator = _separator(lines)
    rows, header = _rows(lines, separator)
    stated = _units(header, separator)
    if units is not None:
        told = tuple(_unit(u) for u in units)
        if None not in stated and stated != told:
            raise InputError(
                f"The file states {stated[0]} and {stated[1]}, you say {told[0]} and {told[1]}; which is it?"
            )
        stated = told  # type: ignore[assignment]
    x_unit, z_unit = stated
    if x_unit is None or z_unit is None:
        raise UnitsWanted("The file does not state its units; say them behind its name, places first: mm um")
    table = np.array(rows)
    return trace_from(table[:, 0] * TO_MM[x_unit], table[:, 1] * TO_MM[z_unit] * 1000.0)


def _unit(word: str) -> str:
    plain = word.strip().lower().replace("µ", "u").replace("μ", "u")
    if plain not in TO_MM:
        raise InputError(f"“{word}” is no unit of a trace: {', '.join(TO_MM)}")
    return plain


def _text(data: bytes) -> str:
    if data[:2] in (b"\xff\xfe", b"\xfe\xff"):
        return data.decode("utf-16", "replace")
    if b"\x00" in data[:4096]:
        raise InputError("This is no text file; a trace as text is wanted, or X3P, or SDF")
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError:
        return data.decode("cp1252", "replace")  # older instruments write µ in one byte


def _separator(lines: Sequence[str]) -> str:
    """The separator: of the last line with figures, which is beyond any header."""
    body = next(
        (line for line in reversed(lines[: MOST_LINES + 1]) if any(c in "0123456789" for c in line[:LONGEST_LINE])), ""
    )
    for sign in ("\t", ";"):
        if sign in body:
            return sign
    return (
        ","
        if "," in body and len(body.split(",")) in (2, 3) and " " not in body.strip()
        else " "
        if " " in body.strip()
        else ","
    )


def _cells(line: str, separator: str) -> list[str]:
    return line.split() if separator == " " else [cell.strip() for cell in line.split(separator)]


def _rows(lines: Sequence[str], separator: str) -> tuple[list[tuple[float, float]], list[str]]:
    """Rows of place and height (NaN where a cell says that it is missing), and the header before them."""
    header: list[str] = []
    rows: list[tuple[float, float]] = []
    if len(lines) > MOST_LINES:
        raise InputError(f"There are more than {MOST_LINES} lines; no trace has so many")
    for number, line in enumerate(lines, start=1):
        if len(line) > LONGEST_LINE:
            raise InputError(f"Line {number} is {len(line)} characters long: no line of a trace is")
        if not line.strip():
            continue
        cells = _cells(line, separator)
        row = _row(cells, separator)
        if row is not None and (rows or row[0] == row[0]):
            rows.append(row)
            if len(rows) > MOST_POINTS:
                raise InputError(f"There are more than {MOST_POINTS} points; no trace has so many")
        elif rows:
            raise InputError(f"Line {number} is no point of a trace: “{line.strip()[:40]}”")
        else:
            header.append(line)
            if len(header) > MOST_HEADER:
                raise InputError(
                    "No points are found in the first 200 lines; two columns, place and height, are wanted"
                )
    if len(rows) < 3:
        raise InputError("No points are found in this file; two columns, place and height, are wanted")
    return rows, header


def _row(cells: list[str], separator: str) -> tuple[float, float] | None:
    if len(cells) == 3 and cells[2] == "":
        cells = cells[:2]
    if len(cells) != 2:
        return None
    found = [_number(cell, separator) for cell in cells]
    return None if None in found else (found[0], found[1])  # type: ignore[return-value]


def _number(cell: str, separator: str) -> float | None:
    if cell.lower() in _MISSING:
        return float("nan")
    try:
        return float(cell if separator == "," else cell.replace(",", "."))
    except ValueError:
        return None


def _units(header: Sequence[str], separator: str) -> tuple[str | None, str | None]:
    """Units of places and heights: from the column heads, else from lines such as ``Unit X;mm``."""
    for line in reversed(header):
        cells = [c for c in _cells(line.lstrip("#").strip(), separator) if c]
        found = [_UNIT.search(cell) for cell in cells]
        if len(cells) == 2 and all(found) and not _named(line):
            return _unit(found[0][1]), _unit(found[1][1])  # type: ignore[index]
    by_axis: dict[str, str] = {}
    for line in header:
        axis, unit = _named(line), _UNIT.search(line)
        if axis and unit:
            by_axis[axis] = _unit(unit[1])
    return by_axis.get("x"), by_axis.get("z")


def _named(line: str) -> str:
    """The axis that a line such as ``Unit X;mm`` names."""
    found = re.search(r"\bunits?\b\W*\b([xz])\b|\b([xz])\b\W*\bunits?\b", line, re.IGNORECASE)
    return "" if found is None else (found[1] or found[2]).lower()


def text_of(trace: Trace, when: str = "") -> bytes:  # noqa: ARG001  (every format is written alike)
    """A trace as CSV: places in mm, heights in um."""
    head = "x_mm,z_um"
    rows = (f"{i * trace.step_um / 1000.0:.6g},{z:.4f}" for i, z in enumerate(trace.heights_um))
    return ("\n".join((head, *rows)) + "\n").encode()
