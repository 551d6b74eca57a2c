"""A bore gauge at a serial port, read by a thread of its own. Events come on that thread, through one callback."""

from __future__ import annotations

import threading
from collections.abc import Callable
from dataclasses import dataclass

import serial

from redline_bore.core.errors import EnvironmentTrouble
from redline_bore.instruments.line_protocol import Message, format_place, parse_line

BAUD = 9600
POLL_S = 0.1


@dataclass(frozen=True)
class Unplugged:
    """The port is gone; nothing more will come."""

    reason: str


Event = Message | Unplugged


class BoreGauge:
    """An open gauge. ``read`` asks for a reading; the answer comes as an event. ``close`` ends the thread."""

    def __init__(self, port: str, on_event: Callable[[Event], None]):
        """Open ``port`` (a device path). Raises EnvironmentTrouble when there is no such port or it is busy."""
        self.port = port
        self._on_event = on_event
        self._stop = threading.Event()
        try:
            self._serial = serial.Serial(port, BAUD, timeout=POLL_S, write_timeout=1.0)
        except (serial.SerialException, OSError, ValueError) as error:
            raise EnvironmentTrouble(f"No gauge answers at {port}: {error}") from error
        self._thread = threading.Thread(target=self._listen, name=f"bore gauge {port}", daemon=True)
        self._thread.start()
        self._send("hello")

    def place(self, cylinder: int, depth_mm: float, clock_deg: float, plate_on: bool) -> None:
        """Say where the gauge stands; mm and degrees."""
        self._send(format_place(cylinder, depth_mm, clock_deg, plate_on))

    def read(self) -> None:
        """Ask for a reading, as the button on the gauge does."""
        self._send("read")

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
                    self._on_event(parse_line(buffer.decode("ascii", "replace") + " (cut off)"))
                self._gone(str(error))
                return
            *lines, buffer = buffer.replace(b"\r", b"\n").split(b"\n")
            for line in lines:
                if line.strip():
                    self._on_event(parse_line(line.decode("ascii", "replace")))
            if len(buffer) > 4096:
                buffer = b""
