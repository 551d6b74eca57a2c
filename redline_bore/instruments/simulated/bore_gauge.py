"""A bore gauge of two or three points that measures a true wall, with gauge error and temperature."""

from __future__ import annotations

import random
from dataclasses import dataclass

from redline_bore.instruments.line_protocol import format_reading
from redline_bore.truth.wall import TrueWall

STEP_MM = 0.0005


@dataclass
class BoreGaugeStandIn:
    """The gauge's inside: where it stands, what it was zeroed to (mm), its error (sd, mm) and the block's warmth."""

    wall: TrueWall
    zero_mm: float
    sd_mm: float
    block_c: float
    noise: random.Random
    kind: str = "two-point"
    place: tuple[int, float, float, bool] = (1, 10.0, 0.0, False)

    def answer(self, line: str) -> list[str]:
        """The lines it answers to a line from the program; none where a real gauge would say nothing."""
        words = line.split()
        if words == ["hello"]:
            return [f"hello {self.kind} mm"]
        if words == ["read"]:
            return [self.press()]
        if words == ["master"]:
            return [format_reading(self._shown(0.0), self.block_c, self.block_c)]
        return [] if self.goes_to(words) else ["trouble place not understood"]

    def goes_to(self, words: list[str]) -> bool:
        """Take up a place; False when it makes no sense. Other words are passed over."""
        if len(words) == 5 and words[0] == "at":
            try:
                self.place = (int(words[1]), float(words[2]), float(words[3]), words[4] == "on")
            except ValueError:
                return False
        return True

    def press(self) -> str:
        """What the button on the gauge sends."""
        cylinder, depth, clock, plate = self.place
        measure = self.wall.diameter_at if self.kind == "two-point" else self.wall.three_point_at
        try:
            size = measure(cylinder, depth, clock, plate, self.block_c)
        except IndexError:
            return f"trouble no cylinder {cylinder} here"
        return format_reading(self._shown(size - self.zero_mm), self.block_c, self.block_c)

    def _shown(self, from_zero_mm: float) -> float:
        return round((from_zero_mm + self.noise.gauss(0.0, self.sd_mm)) / STEP_MM) * STEP_MM
