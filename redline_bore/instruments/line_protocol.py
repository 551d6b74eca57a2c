"""The line protocol of a bore gauge: plain ASCII, one message a line (docs/instruments.md)."""

from __future__ import annotations

from dataclasses import dataclass

from redline_bore.core.lengths import LengthError, Units, parse_length

UNIT_WORDS = {"mm": Units.METRIC, "in": Units.INCH}
MAX_LINE = 200


@dataclass(frozen=True)
class Hello:
    """What the gauge says it is: kind of gauge and the unit it reads in."""

    kind: str
    unit: str


@dataclass(frozen=True)
class GaugeReading:
    """A reading from zero, mm, plus bigger than the master; temperatures in C, None when not sent."""

    from_zero_mm: float
    part_c: float | None
    body_c: float | None
    line: str


@dataclass(frozen=True)
class Trouble:
    """The gauge could not read, and says why."""

    reason: str


@dataclass(frozen=True)
class Garbage:
    """A line that is not understood. Nothing is guessed from it."""

    line: str
    reason: str


Message = Hello | GaugeReading | Trouble | Garbage


def parse_line(line: str) -> Message:
    """A line from the gauge as a message; never raises. Half lines and unknown words come back as Garbage."""
    words = line.strip().split()
    if not words or len(line) > MAX_LINE:
        return Garbage(line[:MAX_LINE], "an empty or overlong line")
    if words[0] == "hello" and len(words) >= 3 and words[2] in UNIT_WORDS:
        return Hello(words[1], words[2])
    if words[0] == "trouble":
        return Trouble(" ".join(words[1:]) or "no reason given")
    if words[0] == "reading":
        return _reading(words[1:], line.strip())
    return Garbage(line.strip(), f"“{words[0]}” is not a message of a bore gauge")


def _reading(words: list[str], line: str) -> Message:
    if len(words) < 2 or words[1] not in UNIT_WORDS:
        return Garbage(line, "a reading without its unit")
    try:
        value = parse_length(words[0] + words[1], UNIT_WORDS[words[1]]).mm
        temperatures = _temperatures(words[2:])
    except (LengthError, ValueError) as error:
        return Garbage(line, str(error))
    return GaugeReading(value, temperatures.get("part"), temperatures.get("body"), line)


def _temperatures(words: list[str]) -> dict[str, float]:
    if len(words) % 2:
        raise ValueError("a half line")
    found = {}
    for name, text in zip(words[::2], words[1::2], strict=True):
        value = float(text)
        if name not in ("part", "body") or not -40.0 <= value <= 150.0:
            raise ValueError(f"“{name} {text}” is not a temperature of part or body")
        found[name] = value
    return found


def format_reading(from_zero_mm: float, part_c: float | None = None, body_c: float | None = None) -> str:
    """A reading as a line, without the line end."""
    line = f"reading {from_zero_mm:+.4f} mm"
    line += f" part {part_c:.1f}" if part_c is not None else ""
    return line + (f" body {body_c:.1f}" if body_c is not None else "")


def format_place(cylinder: int, depth_mm: float, clock_deg: float, plate_on: bool) -> str:
    """Where the next reading will be taken. A real gauge passes it over; a stand-in must know it."""
    return f"at {cylinder} {depth_mm:.3f} {clock_deg:.2f} {'on' if plate_on else 'off'}"
