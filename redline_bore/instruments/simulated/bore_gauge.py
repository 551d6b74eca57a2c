"""A two-point bore gauge on a pseudo-terminal, measuring a true wall with gauge error and temperature.

    python -m redline_bore.instruments.simulated.bore_gauge --wall wall.json --zero 105.0

The first line on standard output is the device path to connect to. It ends with the program that started it.
"""

from __future__ import annotations

import argparse
import os
import random
import select
import sys
import time
import tty
from dataclasses import dataclass
from pathlib import Path

from redline_bore.instruments.line_protocol import format_reading
from redline_bore.instruments.simulated.true_wall import TrueWall

SETTLE_S = 0.12  # rocking the gauge through its minimum


@dataclass
class StandIn:
    """The gauge's inside: where it stands, what it was zeroed to (mm), its error (sd, mm) and the block's warmth."""

    wall: TrueWall
    zero_mm: float
    sd_mm: float
    block_c: float
    noise: random.Random
    place: tuple[int, float, float, bool] = (1, 10.0, 0.0, False)

    def answer(self, line: str) -> str | None:
        """The answer to a line from the program; None where a real gauge would say nothing."""
        words = line.split()
        if words == ["hello"]:
            return "hello two-point mm"
        if words == ["read"]:
            return self._reading()
        if len(words) == 5 and words[0] == "at":
            try:
                self.place = (int(words[1]), float(words[2]), float(words[3]), words[4] == "on")
            except ValueError:
                return "trouble place not understood"
        return None

    def _reading(self) -> str:
        cylinder, depth, clock, plate = self.place
        try:
            size = self.wall.diameter_at(cylinder, depth, clock, plate, self.block_c)
        except IndexError:
            return f"trouble no cylinder {cylinder} here"
        reading = size - self.zero_mm + self.noise.gauss(0.0, self.sd_mm)
        return format_reading(round(reading / 0.0005) * 0.0005, self.block_c, self.block_c)


def serve(stand_in: StandIn, master: int, parent: int) -> None:
    """Answer lines on a pseudo-terminal until the other end or the parent process goes away."""
    buffer = b""
    while os.getppid() == parent:
        ready, _, _ = select.select([master], [], [], 0.5)
        if not ready:
            continue
        try:
            buffer += os.read(master, 256)
        except OSError:
            time.sleep(0.05)  # nobody has the other end open yet, or any more
            continue
        *lines, buffer = buffer.replace(b"\r", b"\n").split(b"\n")
        for line in lines:
            answer = stand_in.answer(line.decode("ascii", "replace").strip())
            if answer is not None:
                time.sleep(SETTLE_S if answer.startswith("reading") else 0.0)
                os.write(master, answer.encode("ascii") + b"\r\n")


def main(arguments: list[str] | None = None) -> int:
    """Run the stand-in; returns the exit code."""
    parser = argparse.ArgumentParser(description="A simulated two-point bore gauge on a pseudo-terminal")
    parser.add_argument("--wall", type=Path, required=True, help="JSON of the true wall to measure")
    parser.add_argument("--zero", type=float, required=True, help="size of the master it was zeroed on, mm")
    parser.add_argument("--sd", type=float, default=0.0008, help="gauge error, standard deviation, mm")
    parser.add_argument("--block-c", type=float, default=20.4, help="temperature of the block, C")
    parser.add_argument("--seed", type=int, default=None)
    given = parser.parse_args(arguments)
    try:
        wall = TrueWall.from_json(given.wall.read_text("utf-8"))
    except (OSError, ValueError, KeyError, TypeError) as error:
        print(f"{given.wall} is not a true wall: {error}", file=sys.stderr)
        return 2
    master, slave = os.openpty()
    tty.setraw(slave)
    print(os.ttyname(slave), flush=True)
    serve(StandIn(wall, given.zero, given.sd, given.block_c, random.Random(given.seed)), master, os.getppid())
    os.close(slave)
    return 0


if __name__ == "__main__":
    sys.exit(main())
