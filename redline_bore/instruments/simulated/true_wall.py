"""The true wall that a stand-in measures: known exactly, so that what the program finds can be compared with it."""

from __future__ import annotations

import json
import math
from dataclasses import asdict, dataclass


@dataclass(frozen=True)
class TrueCylinder:
    """One cylinder at 20 C. Lengths in mm on radius unless named otherwise, angles in degrees.

    wear: deepest wear on its worse side, just under the ring stop; wear_other: on the other side. travel: depths
    between which rings ran. oval: amplitude of the second harmonic all the way down, with its crest. plate_pull:
    amplitude of the fourth harmonic that a plate adds at the deck; it dies away within the top third.
    """

    unworn_diameter: float
    travel_top: float
    travel_bottom: float
    wear: float = 0.0
    wear_clock: float = 90.0
    wear_other: float = 0.0
    oval: float = 0.0
    oval_crest: float = 90.0
    plate_pull: float = 0.0
    belled_top: float = 0.0

    def radius(self, depth: float, clock_deg: float, plate_on: bool) -> float:
        """Radius in mm at 20 C at a depth and a clock angle."""
        t = math.radians(clock_deg)
        away = math.radians(clock_deg - self.wear_clock)
        towards = max(0.0, math.cos(away)) ** 2 * self.wear + max(0.0, -math.cos(away)) ** 2 * self.wear_other
        r = self.unworn_diameter / 2.0 + towards * self._worn(depth)
        r += self.oval * math.cos(2.0 * (t - math.radians(self.oval_crest)))
        r += self.belled_top * math.exp(-depth / 8.0)
        if plate_on:
            r += self.plate_pull * math.exp(-depth / 45.0) * (math.cos(4.0 * t) - 0.4)
        return r

    def _worn(self, depth: float) -> float:
        """Share of the wear at a depth: a sharp step under the ridge, then fading down the travel."""
        if not self.travel_top <= depth <= self.travel_bottom:
            return 0.0
        down = (depth - self.travel_top) / (self.travel_bottom - self.travel_top)
        return math.exp(-2.2 * down) * (1.0 - down**4)

    def diameter(self, depth: float, clock_deg: float, plate_on: bool) -> float:
        """What two points see: the chord through the centre, mm at 20 C."""
        return self.radius(depth, clock_deg, plate_on) + self.radius(depth, clock_deg + 180.0, plate_on)


@dataclass(frozen=True)
class TrueWall:
    """A block's true walls, by cylinder from 1, with the block's expansion coefficient in 1e-6 per C."""

    cylinders: tuple[TrueCylinder, ...]
    coefficient_1e6: float

    def diameter_at(self, cylinder: int, depth: float, clock_deg: float, plate_on: bool, block_c: float) -> float:
        """True chord in mm at the block's temperature. Raises IndexError for a cylinder there is not."""
        if cylinder < 1:
            raise IndexError(cylinder)
        size = self.cylinders[cylinder - 1].diameter(depth, clock_deg, plate_on)
        return size * (1.0 + self.coefficient_1e6 * 1e-6 * (block_c - 20.0))

    def to_json(self) -> str:
        return json.dumps(asdict(self))

    @classmethod
    def from_json(cls, text: str) -> TrueWall:
        """Raises ValueError, KeyError or TypeError when the text is not a true wall."""
        table = json.loads(text)
        return cls(tuple(TrueCylinder(**c) for c in table["cylinders"]), float(table["coefficient_1e6"]))
