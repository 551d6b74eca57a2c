"""An instrument at a serial port, read by a thread of its own. Events come on that thread, through one callback."""

from __future__ import annotations

import threading
import time
from collections.abc import Callable
from dataclasses import dataclass

import serial

from redline_bore.core.errors import EnvironmentTrouble
from redline_bore.instruments.line_protocol import (
    Garbage,
    LinePattern,
    LineReader,
    Message,
    format_place,
)

BAUD = 9600
POLL_S = 0.1
BOUNCE_S = 0.03  # a contact bounces for so long: the same line again is the same press


@dataclass(frozen=True)
class Unplugged:
    """The port is gone; nothing more will come."""

    reason: str


@dataclass(frozen=True)
class Silent:
    """It was asked and has not answered."""

    seconds: float


@dataclass(frozen=True)
class Repeated:
    """The same line came twice at once; it was taken once."""

    line: str


Event = Message | Unplugged | Silent | Repeated


class Instrument:
    """An open instrument. ``read`` asks for a reading; the answer comes as an event. ``close`` ends the thread."""

    def __init__(
        self, port: str, on_event: Callable[[Event], None], pattern: LinePattern | None = None, silent_s: float = 3.0
    ) -> None:
        """Open ``port`` (a device path). Raises EnvironmentTrouble when there is no such port or it is busy."""
        self.port, self.pattern = port, pattern
        self._on_event, self._silent_s = on_event, silent_s
        self._reader = LineReader(pattern)
        self._stop = threading.Event()
        self._asked_at: float | None = None
        self._last = ("", -1.0)
        try:
            self._serial = serial.Serial(port, BAUD, timeout=POLL_S, write_timeout=1.0)
        except (serial.SerialException, OSError, ValueError) as error:
            raise EnvironmentTrouble(f"No instrument answers at {port}: {error}") from error
        self._thread = threading.Thread(target=self._listen, name=f"instrument {port}", daemon=True)
        self._thread.start()
        if pattern is None:
            self._send("hello")

    def place(self, cylinder: int, depth_mm: float, clock_deg: float, plate_on: bool) -> None:
        """Say where the gauge stands; mm and degrees. An instrument with its own pattern is told nothing."""
        if self.pattern is None:
            self._send(format_place(cylinder, depth_mm, clock_deg, plate_on))

    def wall_has_had(self, strokes: float) -> None:
        """Say how many plateau strokes the wall has had: a stand-in must know, a real profilometer passes it over."""
        self._send(f"had {strokes:g}")

    def read(self) -> None:
        """Ask for a reading, as the button on the gauge does. Raises EnvironmentTrouble when it cannot be asked."""
        if self.pattern is not None and not self.pattern.ask:
            raise EnvironmentTrouble("This gauge cannot be asked: press its own button")
        self._asked_at = time.monotonic()
        self._send("read" if self.pattern is None else self.pattern.ask)

    def close(self) -> None:
        """End the thread and let go of the port."""
        self._stop.set()
        self._thread.join(timeout=2.0)
        self._serial.close()

    def _send(self, text: str) -> None:
        try:
            self._serial.write(text.encode("ascii") + b"\r\n")
        except (serial.SerialException, OSError) as error:
            self._gone(str(error))

    def _gone(self, reason: str) -> None:
        if not self._stop.is_set():
            self._stop.set()
            self._on_event(Unplugged(reason))

    def _listen(self) -> None:
        buffer = b""
        while not self._stop.is_set():
            try:
                buffer += self._serial.read(256) if self._serial.in_waiting else self._serial.read(1)
            except (serial.SerialException, OSError, TypeError) as error:
                if buffer.strip():
                    self._on_event(Garbage(buffer.decode("ascii", "replace"), "a half line, cut off"))
                self._gone(str(error))
                return
            *lines, buffer = buffer.replace(b"\r", b"\n").split(b"\n")
            for line in lines:
                if line.strip():
                    self._hear(line.decode("ascii", "replace"))
            if len(buffer) > 4096:
                self._on_event(Garbage(buffer[:80].decode("ascii", "replace"), "a line without an end"))
                buffer = b""
            self._watch_silence()

    def _hear(self, line: str) -> None:
        now, (before, at) = time.monotonic(), self._last
        self._last = (line, now)
        self._asked_at = None
        if line == before and now - at < BOUNCE_S and not line.startswith(("point", "stroke", "heights")):
            self._on_event(Repeated(line))
            return
        message = self._reader.feed(line)
        if message is not None and not self._stop.is_set():
            self._on_event(message)

    def _watch_silence(self) -> None:
        asked = self._asked_at
        if asked is not None and time.monotonic() - asked > self._silent_s:
            self._asked_at = None
            self._on_event(Silent(self._silent_s))
