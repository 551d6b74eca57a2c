"""The line protocol of the instruments: plain ASCII, one message a line (docs/instruments.md).

A real instrument that speaks otherwise is connected by stating its line pattern; everything then arrives as the same
messages. Nothing is ever guessed from a line that is not understood.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable

from redline_bore.core.errors import InputError
from redline_bore.core.frozen import frozen
from redline_bore.core.lengths import LengthError, Units, parse_length
from redline_bore.instruments.trace_lines import (
    TraceBegins,
    TraceEnds,
    TraceGatherer,
    TraceHeights,
    TracePart,
    parse_heights,
    parse_trace,
)
from redline_bore.instruments.trace_lines import TraceReading as TraceReading  # handed on: a message like the others

UNIT_WORDS = {"mm": Units.METRIC, "in": Units.INCH}
KINDS = ("two-point", "three-point", "spindle", "thermometer", "hone", "profilometer")
MAX_LINE = 200
MOST_POINTS = 7200
MOST_TRAVEL_MM = 5000.0
MOST_FROM_ZERO_MM = 200.0


@frozen
class Hello:
    """What the instrument says it is: its kind, and the unit it reads in."""

    kind: str
    unit: str


@frozen
class GaugeReading:
    """A reading from zero, mm, plus bigger than the master; temperatures in C, None when not sent."""

    from_zero_mm: float
    part_c: float | None
    body_c: float | None
    line: str


@frozen
class SweepReading:
    """A whole sweep: indicator readings from zero, mm, plus further out, at clock angles in degrees."""

    clock_deg: tuple[float, ...]
    from_zero_mm: tuple[float, ...]
    part_c: float | None
    line: str


@frozen
class Temperature:
    """A thermometer's reading, C, of ``what``: block, piston or gauge."""

    what: str
    celsius: float
    line: str


@frozen
class HoneLoad:
    """Where the hone's stone is (its upper end, mm down from the deck) and the load there, per cent of the machine."""

    upper_mm: float
    load: float
    line: str


@frozen
class Trouble:
    """The instrument could not read, and says why."""

    reason: str


@frozen
class Garbage:
    """A line that is not understood. Nothing is guessed from it."""

    line: str
    reason: str


Message = Hello | GaugeReading | SweepReading | Temperature | HoneLoad | TraceReading | Trouble | Garbage


@frozen
class SweepBegins:
    count: int
    unit: str
    part_c: float | None


@frozen
class SweepPoint:
    clock_deg: float
    text: str


@frozen
class SweepEnds:
    pass


def parse_line(line: str) -> Message | SweepBegins | SweepPoint | SweepEnds | TracePart:
    """A line as a message or as a part of a sweep or a trace; never raises. Half lines and unknown words are Garbage."""
    words = line.strip().split()
    if not words or len(line) > MAX_LINE:
        return Garbage(line[:MAX_LINE], "an empty or overlong line")
    if words[0] == "hello" and len(words) >= 3 and words[1] in KINDS:
        return Hello(words[1], words[2])
    if words[0] == "trouble":
        return Trouble(" ".join(words[1:]) or "no reason given")
    read = _READERS.get(words[0])
    if read is None:
        return Garbage(line.strip(), f"“{words[0]}” is not a message of an instrument")
    try:
        return read(words[1:], line.strip())
    except (LengthError, ValueError, IndexError, OverflowError) as error:
        return Garbage(line.strip(), str(error) if str(error) else "a half line")


def _reading(words: list[str], line: str) -> Message:
    if len(words) < 2 or words[1] not in UNIT_WORDS:
        return Garbage(line, "a reading without its unit")
    value = _from_zero(parse_length(words[0] + words[1], UNIT_WORDS[words[1]]).mm)
    temperatures = _temperatures(words[2:])
    return GaugeReading(value, temperatures.get("part"), temperatures.get("body"), line)


def _from_zero(mm: float) -> float:
    if not abs(mm) <= MOST_FROM_ZERO_MM:
        raise ValueError("no gauge goes so far from its zero")
    return mm


def _temperatures(words: list[str]) -> dict[str, float]:
    if len(words) % 2:
        raise ValueError("a half line")
    found = {}
    for name, text in zip(words[::2], words[1::2], strict=True):
        if name not in ("part", "body"):
            raise ValueError(f"“{name} {text}” is not a temperature of part or body")
        found[name] = _celsius(text, "C")
    return found


def _celsius(text: str, unit: str) -> float:
    value = float(text) if unit == "C" else (float(text) - 32.0) / 1.8
    if not -40.0 <= value <= 150.0:
        raise ValueError(f"{text} {unit} is no temperature of a part or a gauge")
    return value


def _temperature(words: list[str], line: str) -> Message:
    if len(words) != 3 or words[0] not in ("block", "piston", "gauge") or words[2] not in ("C", "F"):
        return Garbage(line, "a temperature is written “temperature block 22.9 C”")
    return Temperature(words[0], _celsius(words[1], words[2]), line)


def _stroke(words: list[str], line: str) -> Message:
    if len(words) != 4 or words[1] not in UNIT_WORDS or words[2] != "load":
        return Garbage(line, "a load is written “stroke -21.0 mm load 23.4”")
    upper, load = parse_length(words[0] + words[1], UNIT_WORDS[words[1]]).mm, float(words[3])
    if not abs(upper) <= MOST_TRAVEL_MM or not 0.0 <= load <= 200.0:
        raise ValueError("no place of a stone, or no load of a machine")
    return HoneLoad(upper, load, line)


def _sweep(words: list[str], line: str) -> SweepBegins | SweepEnds | Garbage:
    if words[0] == "end":
        return SweepEnds()
    if words[0] != "begin" or len(words) < 3 or words[2] not in UNIT_WORDS:
        return Garbage(line, "a sweep begins with its count of points and its unit")
    count = int(words[1])
    if not 1 <= count <= MOST_POINTS:
        return Garbage(line, f"a sweep of {count} points; up to {MOST_POINTS} are taken")
    return SweepBegins(count, words[2], _temperatures(words[3:]).get("part"))


def _point(words: list[str], line: str) -> SweepPoint | Garbage:
    clock = float(words[0])
    if len(words) != 2 or not math.isfinite(clock):
        return Garbage(line, "a point is its clock angle and its reading")
    return SweepPoint(clock % 360.0, words[1])


_READERS: dict[str, Callable[[list[str], str], Message | SweepBegins | SweepPoint | SweepEnds | TracePart]] = {
    "reading": _reading, "temperature": _temperature, "sweep": _sweep, "point": _point, "stroke": _stroke,
    "trace": lambda words, line: parse_trace(words), "heights": lambda words, line: parse_heights(words),
}  # fmt: skip


@frozen
class LinePattern:
    """How a real instrument writes a reading: kind, the unit it means, and its line with {value} and {skip}.

    ``{value}`` is the figure, ``{skip}`` anything up to the next blank or comma, ``{part}`` and ``{body}``
    temperatures in C; everything else stands for itself, blanks for any stretch of blanks. ``ask`` is sent for a
    reading, where the instrument can be asked.
    """

    kind: str
    unit: str
    pattern: str = "{value}"
    ask: str = ""

    def __post_init__(self) -> None:
        if self.kind not in ("two-point", "three-point") or self.unit not in UNIT_WORDS:
            raise InputError("Say which gauge and which unit: two-point mm {value}")
        if self.pattern.count("{value}") != 1:
            raise InputError("A line pattern has {value} once, where the figure stands")
        self.__dict__["_found"] = _regex(self.pattern)

    def read(self, line: str) -> Message:
        """A line as a message; Garbage where the pattern does not fit. Never raises."""
        if len(line) > MAX_LINE:
            return Garbage(line[:MAX_LINE], "an overlong line")
        found: re.Match[str] | None = self.__dict__["_found"].fullmatch(line.strip())
        if found is None:
            return Garbage(line.strip()[:MAX_LINE], f"it does not fit the pattern {self.pattern}")
        groups = found.groupdict()
        try:
            value = _from_zero(parse_length(groups["value"] + self.unit, UNIT_WORDS[self.unit]).mm)
            warm = {k: _celsius(groups[k], "C") for k in ("part", "body") if groups.get(k)}
        except (LengthError, ValueError, OverflowError) as error:
            return Garbage(line.strip()[:MAX_LINE], str(error))
        return GaugeReading(value, warm.get("part"), warm.get("body"), line.strip())


_HOLES = {
    "value": r"(?P<value>[+\-]?\d*[.,]?\d+)",
    "part": r"(?P<part>[+\-]?\d+(?:\.\d+)?)",
    "body": r"(?P<body>[+\-]?\d+(?:\.\d+)?)",
    "skip": r"[^\s,;]*",
}


def _regex(pattern: str) -> re.Pattern[str]:
    parts = re.split(r"(\{\w+\}|\s+)", pattern.strip())
    out = []
    for part in parts:
        if part.startswith("{") and part.endswith("}"):
            if part[1:-1] not in _HOLES:
                raise InputError(
                    f"{part} is not known in a line pattern; {{value}}, {{part}}, {{body}} and {{skip}} are"
                )
            out.append(_HOLES[part[1:-1]])
        else:
            out.append(r"\s+" if part.isspace() else re.escape(part))
    try:
        return re.compile("".join(out))
    except re.error as error:
        raise InputError(f"The line pattern {pattern} cannot be used: {error}") from error


class LineReader:
    """Turns lines into messages: gathers the points of a sweep or a trace, and applies the line pattern where one is stated."""

    def __init__(self, pattern: LinePattern | None = None) -> None:
        self.pattern = pattern
        self._begun: SweepBegins | None = None
        self._points: list[SweepPoint] = []
        self._trace: TraceGatherer | None = None

    def feed(self, line: str) -> Message | None:
        """The message a line completes, or None while a sweep is under way. Never raises."""
        if self.pattern is not None:
            return self.pattern.read(line)
        part = parse_line(line)
        if isinstance(part, (TraceBegins, TraceHeights, TraceEnds)):
            return self._trace_part(part, line)
        if self._trace is not None and not isinstance(part, Temperature):
            lost, self._trace = self._trace, None
            return Garbage(line, f"a trace broke off after {len(lost.values)} of {lost.begun.count} heights")
        if isinstance(part, SweepBegins):
            cut_off = self._begun is not None
            self._begun, self._points = part, []
            return Garbage(line, "the sweep before it was cut off") if cut_off else None
        if isinstance(part, SweepPoint):
            return self._take(part, line)
        if isinstance(part, SweepEnds):
            return self._whole()
        if self._begun is not None and not isinstance(part, Temperature):
            begun, self._begun = self._begun, None
            return Garbage(line, f"a sweep broke off after {len(self._points)} of {begun.count} points")
        return part

    def _trace_part(self, part: TracePart, line: str) -> Message | None:
        if isinstance(part, TraceBegins):
            cut_off, self._trace = self._trace is not None, TraceGatherer(part)
            return Garbage(line, "the trace before it was cut off") if cut_off else None
        if self._trace is None:
            return Garbage(line[:MAX_LINE], "heights without the beginning of their trace")
        if isinstance(part, TraceHeights):
            reason = self._trace.take(part)
        else:
            gathered, self._trace = self._trace, None
            whole = gathered.whole()
            if isinstance(whole, TraceReading):
                return whole
            reason = whole
        if reason:
            self._trace = None
            return Garbage(line[:MAX_LINE], reason)
        return None

    def _take(self, point: SweepPoint, line: str) -> Message | None:
        if self._begun is None:
            return Garbage(line, "a point without the beginning of its sweep")
        self._points.append(point)
        return None

    def _whole(self) -> Message:
        begun, self._begun = self._begun, None
        if begun is None or len(self._points) != begun.count:
            told = "no beginning" if begun is None else f"{len(self._points)} of {begun.count} points"
            return Garbage("sweep end", f"a sweep with {told}")
        try:
            values = tuple(parse_length(p.text + begun.unit, UNIT_WORDS[begun.unit]).mm for p in self._points)
        except LengthError as error:
            return Garbage("sweep end", str(error))
        return SweepReading(tuple(p.clock_deg for p in self._points), values, begun.part_c, f"sweep of {begun.count}")


def format_reading(from_zero_mm: float, part_c: float | None = None, body_c: float | None = None) -> str:
    """A reading as a line, without the line end."""
    line = f"reading {from_zero_mm:+.4f} mm"
    line += f" part {part_c:.1f}" if part_c is not None else ""
    return line + (f" body {body_c:.1f}" if body_c is not None else "")


def format_load(upper_mm: float, load: float) -> str:
    """Where the stone is and its load, as a line."""
    return f"stroke {upper_mm:.2f} mm load {load:.2f}"


def format_sweep(clock_deg: tuple[float, ...], from_zero_mm: tuple[float, ...], part_c: float) -> list[str]:
    """A sweep as its lines."""
    lines = [f"sweep begin {len(clock_deg)} mm part {part_c:.1f}"]
    lines += [f"point {t:.2f} {v:+.4f}" for t, v in zip(clock_deg, from_zero_mm, strict=True)]
    return [*lines, "sweep end"]


def format_place(cylinder: int, depth_mm: float, clock_deg: float, plate_on: bool) -> str:
    """Where the next reading will be taken. A real gauge passes it over; a stand-in must know it."""
    return f"at {cylinder} {depth_mm:.3f} {clock_deg:.2f} {'on' if plate_on else 'off'}"
