"""A hone that strokes a hole and sends where its stone is and how hard it works."""

from __future__ import annotations

import random
import time
from dataclasses import dataclass, field

from redline_bore.instruments.line_protocol import format_load

LOAD_A_MM = 350.0  # per cent of load for a millimetre of diameter that is tight under the stone
SAMPLES_A_STROKE = 40


@dataclass
class HoneStandIn:
    """The hone's inside: stone, overstrokes and hole in mm, double strokes a minute, mean load in per cent, the wall as
    (depth, diameter) points. It strokes once its button was pressed, and stops when it is pressed again."""

    stone_mm: float
    over_top_mm: float
    over_bottom_mm: float
    length_mm: float
    strokes_per_min: float
    load: float
    wall: tuple[tuple[float, float], ...]
    noise: random.Random
    sd: float = 0.3
    running: bool = False
    began: float = field(default_factory=time.monotonic)
    sent: int = 0

    @property
    def period_s(self) -> float:
        """Seconds between two lines while it strokes."""
        return 60.0 / self.strokes_per_min / SAMPLES_A_STROKE

    def answer(self, line: str) -> list[str]:
        words = line.split()
        if words == ["hello"]:
            return ["hello hone %"]
        if words == ["read"]:
            self.running = not self.running
        return []

    def press(self) -> str:
        """Its button starts and stops it; what it sends of itself is where it stands."""
        self.running = not self.running
        return self.now()

    def tick(self) -> list[str]:
        """The lines that are due; none while it stands."""
        if not self.running:
            return []
        self.sent += 1
        return [self.now()]

    def now(self) -> str:
        """Where the stone is, and the load there."""
        share = (self.sent % SAMPLES_A_STROKE) / SAMPLES_A_STROKE
        down = 2.0 * share if share < 0.5 else 2.0 - 2.0 * share
        low = self.length_mm + self.over_bottom_mm - self.stone_mm
        upper = -self.over_top_mm + down * (low + self.over_top_mm)
        return format_load(upper, max(self.load + self._tightness(upper) + self.noise.gauss(0.0, self.sd), 0.0))

    def _tightness(self, upper: float) -> float:
        """By how much the wall under the stone is tighter than the whole, as load."""
        if not self.wall:
            return 0.0
        mean = sum(d for _, d in self.wall) / len(self.wall)
        under = [d for z, d in self.wall if upper <= z <= upper + self.stone_mm]
        return LOAD_A_MM * (mean - sum(under) / len(under)) if under else 0.0
