"""What speaks at a serial port: its speed found by listening, and its line taken apart while somebody presses the gauge's button."""

from __future__ import annotations

import re
import time
from collections.abc import Callable
from dataclasses import dataclass

import serial

from redline_bore.core.errors import EnvironmentTrouble
from redline_bore.instruments.line_protocol import MAX_LINE

LIKELIEST = (9600, 4800, 2400, 19200, 1200, 38400, 57600, 115200)  # in this order
EACH_S = 6.0  # at each speed, for a hand to press a button
POLL_S = 0.1
IDLE_S = 0.3  # bytes that stop for so long without an end of line are all there is
_FIGURE = re.compile(r"[+\-]?\d*[.,]\d+|[+\-]\d+|\d+")
_UNITS = {"mm": "mm", "in": "in", "inch": "in", '"': "in"}


@dataclass(frozen=True)
class HeardLine:
    """A line that was understood: at which speed, as it came, its pattern with {value}, the unit it names (empty: none)."""

    baud: int
    line: str
    pattern: str
    unit: str


def listen_at(
    port: str,
    baud: int,
    cancelled: Callable[[], bool],
    seconds: float = EACH_S,
    opened: Callable[..., serial.Serial] = serial.Serial,
) -> HeardLine | None:
    """Listen at one speed; None where nothing came, or what came makes no sense at this speed. Raises EnvironmentTrouble."""
    try:
        with opened(port, baud, timeout=POLL_S, exclusive=True) as at:
            at.reset_input_buffer()
            line = _line(at, cancelled, seconds)
    except (serial.SerialException, OSError, ValueError) as error:
        raise EnvironmentTrouble(f"{port} cannot be listened to: {error}") from error
    return understood(line, baud)


def _line(at: serial.Serial, cancelled: Callable[[], bool], seconds: float) -> bytes:
    """The first whole line that comes, or what there is of one when it stops."""
    began, came, last = time.monotonic(), b"", 0.0
    while not cancelled() and time.monotonic() - began < seconds:
        more = at.read(at.in_waiting or 1)
        if more:
            came, last = (came + more)[-MAX_LINE:], time.monotonic()
        if came.strip() and (came.endswith((b"\r", b"\n")) or (not more and time.monotonic() - last > IDLE_S)):
            break
    return came


def understood(came: bytes, baud: int) -> HeardLine | None:
    """A line with a figure in it, in plain letters; anything else was sent at another speed, or is none."""
    lines = [part for part in re.split(rb"[\r\n]+", came) if part.strip()]
    if not lines or any(not (32 <= b < 127 or b == 9) for b in lines[-1]):
        return None
    line = lines[-1].decode("ascii").strip()
    found = pattern_of(line)
    return None if found is None else HeardLine(baud, line, *found)


def pattern_of(line: str) -> tuple[str, str] | None:
    """The pattern of a line and the unit that it names: the figure with a sign or a point is the reading; counts beside it are passed over."""
    words = line.split()
    scored = [(_weight(m[0]), i, m) for i, word in enumerate(words) for m in _FIGURE.finditer(word)]
    if not scored:
        return None
    _, at, figure = max(scored, key=lambda s: (s[0], s[1]))
    made = []
    for i, word in enumerate(words):
        if i == at:
            made.append(f"{word[: figure.start()]}{{value}}{word[figure.end() :]}")
        else:
            made.append("{skip}" if any(c.isdigit() for c in word) else word)
    units = [u for word in words for name, u in _UNITS.items() if word.lower().strip(",;") == name or word.lower().endswith(name) and word[:1].isdigit()]  # fmt: skip
    return " ".join(made), units[0] if units else ""


def _weight(figure: str) -> int:
    return ("." in figure or "," in figure) + (figure[:1] in "+-")
