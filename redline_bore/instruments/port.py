"""An instrument at a serial port, read by a thread of its own. Events come on that thread, through one callback."""

from __future__ import annotations

import os
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass

import serial

from redline_bore.core.errors import EnvironmentTrouble
from redline_bore.instruments.line_protocol import (
    MAX_LINE,
    Garbage,
    LinePattern,
    LineReader,
    Message,
    format_place,
)

BAUD = 9600
BAUDS = (1200, 2400, 4800, 9600, 19200, 38400, 57600, 115200)
QUIET_S = 1.0  # so long after it was opened without a sign, the first one begins a line
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


@dataclass(frozen=True)
class FoundPort:
    """A serial port of this machine: its device path, what says to be on it, and why it cannot be used (empty: it can)."""

    device: str
    what: str
    why_not: str


def found_ports() -> tuple[FoundPort, ...]:
    """The serial ports there are, by name. Opens none of them."""
    from serial.tools import list_ports  # when ports are asked for, not at the start

    found = []
    for port in sorted(list_ports.comports()):
        what = " ".join(w for w in (port.description, port.manufacturer or "") if w and w != "n/a")
        can = os.access(port.device, os.R_OK | os.W_OK)
        why = "" if can else f"no right to it: ask who keeps this machine to put you into the group of {port.device}"
        found.append(FoundPort(port.device, what or "nothing says what is on it", why))
    return tuple(found)


class Instrument:
    """An open instrument. ``read`` asks for a reading; the answer comes as an event. ``close`` ends the thread."""

    def __init__(
        self,
        port: str,
        on_event: Callable[[Event], None],
        pattern: LinePattern | None = None,
        silent_s: float = 3.0,
        baud: int = BAUD,
    ) -> None:
        """Open ``port`` (a device path) for this program alone. Raises EnvironmentTrouble when there is no such port or it is busy."""
        self.port, self.pattern = port, pattern
        self._on_event, self._silent_s = on_event, silent_s
        self._reader = LineReader(pattern)
        self._stop = threading.Event()
        self._asked_at: float | None = None
        self._last = ("", -1.0)
        try:
            self._serial = serial.Serial(port, baud, timeout=POLL_S, write_timeout=1.0, exclusive=True)
            self._serial.reset_input_buffer()
        except (serial.SerialException, OSError, ValueError) as error:
            raise EnvironmentTrouble(f"No instrument answers at {port}: {error}") from error
        self._opened_at, self._whole = (
            time.monotonic(),
            pattern is None,
        )  # a line of its own pattern may have begun before
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
                buffer += self._serial.read(self._serial.in_waiting or 1)  # what is there; never waiting for more
            except (serial.SerialException, OSError, TypeError) as error:
                if buffer.strip():
                    self._on_event(Garbage(buffer.decode("ascii", "replace"), "a half line, cut off"))
                self._gone(str(error))
                return
            if not self._whole and buffer:
                buffer = self._from_a_beginning(buffer)
            *lines, buffer = buffer.replace(b"\r", b"\n").split(b"\n")
            for line in lines:
                if line.strip():
                    self._heard(line.decode("ascii", "replace"))
            if len(buffer) > 4096:
                self._on_event(Garbage(buffer[:80].decode("ascii", "replace"), "a line without an end"))
                buffer = b""
            self._watch_silence()

    def _from_a_beginning(self, buffer: bytes) -> bytes:
        """What came at once when the port was opened may be the end of a line that had begun: it is left out to the line's end, and told.

        ``-`` sent before and ``0.0140`` after would be read as +0.0140.
        """
        if time.monotonic() - self._opened_at > QUIET_S or self._asked_at is not None:  # or it is the answer
            self._whole = True
            return buffer
        cut = max(buffer.find(b"\n"), buffer.find(b"\r"))
        if cut < 0:
            return buffer if len(buffer) < MAX_LINE else b""
        self._whole = True
        self._on_event(
            Garbage(buffer[:cut].decode("ascii", "replace")[:MAX_LINE], "it had begun before the port was opened")
        )
        return buffer[cut + 1 :]

    def _heard(self, line: str) -> None:
        """Hear a line; whatever it does to the reader, the port is listened to on."""
        try:
            self._hear(line)
        except Exception as error:  # a line from outside may be anything
            self._on_event(Garbage(line[:MAX_LINE], f"it cannot be read: {error}"[:120]))

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
