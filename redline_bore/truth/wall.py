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
    amplitude of the fourth harmonic that a plate adds at the deck; it dies away within the top third. plate_oval:
    the same for the second harmonic, along the pin axis. under_plate: the hole was finished with the plate on, so
    that what the plate adds is missing without it. lobe, lobe_crest: three lobes all the way down. lean_x, lean_y:
    by how much the hole's axis moves aside from the deck to 100 mm down, towards clock 0 and clock 90.
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
    plate_oval: float = 0.0
    under_plate: bool = False
    lobe: float = 0.0
    lobe_crest: float = 0.0
    lean_x: float = 0.0
    lean_y: float = 0.0

    def radius(self, depth: float, clock_deg: float, plate_on: bool) -> float:
        """Radius in mm at 20 C at a depth and a clock angle."""
        t = math.radians(clock_deg)
        away = math.radians(clock_deg - self.wear_clock)
        towards = max(0.0, math.cos(away)) ** 2 * self.wear + max(0.0, -math.cos(away)) ** 2 * self.wear_other
        r = self.unworn_diameter / 2.0 + towards * self._worn(depth)
        r += self.oval * math.cos(2.0 * (t - math.radians(self.oval_crest)))
        r += self.belled_top * math.exp(-depth / 8.0)
        r += self.lobe * math.cos(3.0 * (t - math.radians(self.lobe_crest)))
        plate = float(plate_on) - float(self.under_plate)
        if plate:
            pull = self.plate_pull * (math.cos(4.0 * t) - 0.4) + self.plate_oval * math.cos(2.0 * t)
            r += plate * pull * math.exp(-depth / 45.0)
        return r

    def three_point(self, depth: float, clock_deg: float, plate_on: bool) -> float:
        """What three points 120 degrees apart see, mm at 20 C."""
        legs = [self.radius(depth, clock_deg + leg, plate_on) for leg in (0.0, 120.0, 240.0)]
        return 2.0 * sum(legs) / 3.0

    def radius_from_spindle(self, depth: float, clock_deg: float, plate_on: bool) -> float:
        """Radius in mm at 20 C from a spindle axis square to the deck that meets the hole's own at the deck."""
        x, y = self.lean_x * depth / 100.0, self.lean_y * depth / 100.0
        off, towards, t = math.hypot(x, y), math.atan2(y, x), math.radians(clock_deg)
        along, aside = off * math.cos(t - towards), off * math.sin(t - towards)
        reach = self.unworn_diameter / 2.0
        for _ in range(3):  # where the ray meets the wall, the wall's own clock angle is a little another
            seen = math.degrees(math.atan2(reach * math.sin(t) - y, reach * math.cos(t) - x))
            reach = along + math.sqrt(self.radius(depth, seen, plate_on) ** 2 - aside**2)
        return reach

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
        return self._warm(self._cylinder(cylinder).diameter(depth, clock_deg, plate_on), block_c)

    def three_point_at(self, cylinder: int, depth: float, clock_deg: float, plate_on: bool, block_c: float) -> float:
        """What a three-point gauge reads truly, mm at the block's temperature. Raises IndexError."""
        return self._warm(self._cylinder(cylinder).three_point(depth, clock_deg, plate_on), block_c)

    def radius_from_spindle(
        self, cylinder: int, depth: float, clock_deg: float, plate_on: bool, block_c: float
    ) -> float:
        """True radius from the spindle's axis, mm at the block's temperature. Raises IndexError."""
        return self._warm(self._cylinder(cylinder).radius_from_spindle(depth, clock_deg, plate_on), block_c)

    def _cylinder(self, number: int) -> TrueCylinder:
        if number < 1:
            raise IndexError(number)
        return self.cylinders[number - 1]

    def _warm(self, size: float, block_c: float) -> float:
        return size * (1.0 + self.coefficient_1e6 * 1e-6 * (block_c - 20.0))

    def to_json(self) -> str:
        return json.dumps(asdict(self))

    @classmethod
    def from_json(cls, text: str) -> TrueWall:
        """Raises ValueError, KeyError or TypeError when the text is not a true wall."""
        table = json.loads(text)
        return cls(tuple(TrueCylinder(**c) for c in table["cylinders"]), float(table["coefficient_1e6"]))
