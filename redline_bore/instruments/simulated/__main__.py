"""A stand-in on a pseudo-terminal, speaking the protocol of the real thing.

    python -m redline_bore.instruments.simulated --kind two-point --wall wall.json --zero 105.0

The first line on standard output is the device path to connect to. A line on standard input presses its button
(``press``), or makes it behave badly (``noise``, ``half``, ``double``, ``silent``, ``inch``), for trying things out.
It ends with the program that started it.
"""

from __future__ import annotations

import argparse
import json
import os
import random
import select
import sys
import time
import tty
from pathlib import Path
from typing import Any

from redline_bore.instruments.line_protocol import KINDS
from redline_bore.instruments.simulated.bore_gauge import BoreGaugeStandIn
from redline_bore.instruments.simulated.hone import HoneStandIn
from redline_bore.instruments.simulated.profilometer import ProfilometerStandIn
from redline_bore.instruments.simulated.spindle import SpindleStandIn
from redline_bore.instruments.simulated.thermometer import ThermometerStandIn
from redline_bore.truth.wall import TrueWall

SETTLE_S = 0.12  # rocking the gauge through its minimum


class Server:
    """Carries lines between a pseudo-terminal and a stand-in until the other end or the parent goes away."""

    def __init__(self, stand_in: Any, master: int, parent: int, settle_s: float = SETTLE_S) -> None:
        self.stand_in, self.master, self.parent, self.settle_s = stand_in, master, parent, settle_s
        self.silent = False

    def serve(self) -> None:
        buffer, inputs = b"", [self.master, 0]
        period = getattr(self.stand_in, "period_s", None)
        while os.getppid() == self.parent:
            ready, _, _ = select.select(inputs, [], [], 0.5 if period is None else period)
            if period is not None and not self.silent:
                self.send(*self.stand_in.tick())
            if 0 in ready:
                word = os.read(0, 256).decode("ascii", "replace")
                if not word:
                    inputs = [self.master]
                for act in word.split():
                    self.act(act)
            if self.master in ready:
                buffer = self._answer(buffer)

    def _answer(self, buffer: bytes) -> bytes:
        try:
            buffer += os.read(self.master, 256)
        except OSError:
            time.sleep(0.05)  # nobody has the other end open yet, or any more
            return buffer
        *lines, buffer = buffer.replace(b"\r", b"\n").split(b"\n")
        for line in lines:
            answers = self.stand_in.answer(line.decode("ascii", "replace").strip())
            if answers and not self.silent:
                time.sleep(self.settle_s if not answers[0].startswith("hello") else 0.0)
                self.send(*answers)
        return buffer

    def send(self, *lines: str, end: bytes = b"\r\n") -> None:
        for line in lines:
            os.write(self.master, line.encode("ascii") + end)

    def act(self, word: str) -> None:
        """What a line on standard input asks for."""
        now = getattr(self.stand_in, "now", None)  # a hone that is only spoken to goes on as it goes
        own = [now()] if now is not None and word != "press" else None
        many = getattr(self.stand_in, "sweep", None)
        pressed = many() if many is not None else own or [self.stand_in.press()]
        if word == "press":
            self.send(*pressed)
        elif word == "noise":
            os.write(self.master, b"\xf3\x81~readi\r\n")
        elif word == "half":
            self.send(pressed[0][:12])
        elif word == "double":
            self.send(pressed[0], pressed[0])
        elif word == "inch":
            self.send(pressed[0].replace(" mm", " in"))
        elif word == "silent":
            self.silent = not self.silent


def main(arguments: list[str] | None = None) -> int:
    """Run the stand-in; returns the exit code."""
    parser = argparse.ArgumentParser(description="A simulated instrument on a pseudo-terminal")
    parser.add_argument("--kind", choices=KINDS, default="two-point")
    parser.add_argument("--wall", type=Path, help="JSON of the true wall to measure")
    parser.add_argument("--zero", type=float, help="size it was zeroed on, mm (a spindle: radius)")
    parser.add_argument("--sd", type=float, default=0.0008, help="gauge error, standard deviation, mm")
    parser.add_argument("--block-c", type=float, default=20.4, help="temperature of the block, C")
    parser.add_argument("--seed", type=int, default=None)
    parser.add_argument("--stone", type=float, help="a hone: length of its stone, mm")
    parser.add_argument(
        "--over", type=float, nargs=2, default=(0.0, 0.0), help="a hone: overstroke at top and bottom, mm"
    )
    parser.add_argument("--length", type=float, help="a hone: length of the hole, mm")
    parser.add_argument("--rate", type=float, default=45.0, help="a hone: double strokes a minute")
    parser.add_argument("--load", type=float, default=20.0, help="a hone: mean load, per cent")
    given = parser.parse_args(arguments)
    noise = random.Random(given.seed)
    if given.kind == "thermometer":
        stand_in: Any = ThermometerStandIn(given.block_c, noise)
    elif given.kind == "hone":
        if given.stone is None or given.length is None or given.wall is None:
            print("a hone needs --stone, --length and --wall", file=sys.stderr)
            return 2
        points = tuple((float(z), float(d)) for z, d in json.loads(given.wall.read_text("utf-8")))
        top, bottom = given.over
        stand_in = HoneStandIn(given.stone, top, bottom, given.length, given.rate, given.load, points, noise)
    elif given.kind == "profilometer":
        if given.wall is None:
            print("a profilometer needs --wall", file=sys.stderr)
            return 2
        stand_in = ProfilometerStandIn.from_json(given.wall.read_text("utf-8"))
    elif given.wall is None or given.zero is None:
        print("a gauge needs --wall and --zero", file=sys.stderr)
        return 2
    else:
        try:
            wall = TrueWall.from_json(given.wall.read_text("utf-8"))
        except (OSError, ValueError, KeyError, TypeError) as error:
            print(f"{given.wall} is not a true wall: {error}", file=sys.stderr)
            return 2
        make = SpindleStandIn if given.kind == "spindle" else BoreGaugeStandIn
        stand_in = make(wall, given.zero, given.sd, given.block_c, noise, given.kind)
    master, slave = os.openpty()
    tty.setraw(slave)
    print(os.ttyname(slave), flush=True)
    Server(stand_in, master, os.getppid()).serve()
    os.close(slave)
    return 0


if __name__ == "__main__":
    sys.exit(main())
