"""True tools: a bar, a hone with stones that bed in, drift and glaze, gauges and thermometers that err. Millimetres, degrees C.

The hone here is no Preston law in contact balance: what a stroke takes follows how proud a place stands of the stretch under the stone, the
rate has a life of its own, and the ends cut as they please.
"""

from __future__ import annotations

import math
import random
from dataclasses import dataclass, field

import numpy as np

from redline_bore.truth.hole import ROWS, TURNS, Array, TrueHole

PROUD_MM = 0.002  # a place so much proud of its surroundings, on radius, gives twice as much metal: stones are stiff
BITE_MM = 0.001  # on diameter, taken at once: much less than PROUD_MM, so that the wall never swings through level


@dataclass
class TrueGauge:
    """A bore gauge: sd of a reading, how far its zero is off (new each time it is set on its master), drift a reading, and its steps."""

    chance: random.Random
    sd_mm: float
    zero_sd_mm: float
    drift_mm: float
    step_mm: float = 0.001
    zero_mm: float = 0.0

    def set_on_master(self) -> None:
        """Zero it again."""
        self.zero_mm = self.chance.gauss(0.0, self.zero_sd_mm)

    def shows(self, true_mm: float) -> float:
        """What it shows of a true size as it is now."""
        self.zero_mm += self.chance.gauss(0.0, self.drift_mm)
        read = true_mm + self.zero_mm + self.chance.gauss(0.0, self.sd_mm)
        return round(read / self.step_mm) * self.step_mm


@dataclass
class TrueHone:
    """A hone over one hole. rate_mm: of diameter a double stroke when its stones are bedded; life: log of how the rate has drifted since."""

    chance: random.Random
    rate_mm: float
    new: bool
    band_mm: float | None
    top_share: float
    bottom_share: float
    drift: float
    scatter: float
    bedding: float
    glaze: float
    strokes: float = 0.0
    life: float = field(default=0.0)

    def cut(
        self,
        hole: TrueHole,
        strokes: int,
        stone_mm: float,
        over: tuple[float, float],
        dwell_s: tuple[float, float] = (0.0, 0.0),
        a_min: float = 50.0,
    ) -> None:
        """So many double strokes, the stone out by so much at top and bottom, with so many seconds of dwell at each, ``a_min`` strokes a
        minute. A new bite: the rate has drifted, and scatters."""
        self._bite(hole, strokes, self._share(hole, stone_mm, over, dwell_s, a_min), stone_mm)

    def _share(
        self, hole: TrueHole, stone: float, over: tuple[float, float], dwell_s: tuple[float, float], a_min: float
    ) -> Array:
        """What each depth gets of a stroke: how long the stone is over it, harder where part of the stone hangs out, and a little less or
        more at the ends."""
        z, upper, lower = hole.depths_mm[:, None], -over[0], hole.length_mm + over[1] - stone
        u = (
            1.0 - np.cos(np.linspace(0.0, math.pi, 40))
        ) / 2.0  # where the stone's top is over half a stroke, slow at both ends
        s = upper + (lower - upper) * u
        waits = 40.0 * 2.0 * np.array(dwell_s) * a_min / 60.0  # in fortieths of half a stroke
        weight = np.ones(40)
        weight[0] += waits[0]
        weight[-1] += waits[1]
        bears = np.minimum(s + stone, hole.length_mm) - np.maximum(s, 0.0)
        press = stone / np.maximum(bears, 0.4 * stone)
        share = (((z >= s[None, :]) & (z <= s[None, :] + stone)) * (weight * press)[None, :]).sum(axis=1)
        share = share / np.median(share)
        ends = 1.0 + (self.top_share - 1.0) * np.exp(-hole.depths_mm / 15.0)
        ends = ends * (1.0 + (self.bottom_share - 1.0) * np.exp(-(hole.length_mm - hole.depths_mm) / 15.0))
        if self.band_mm is not None:
            ends = ends * np.where(hole.depths_mm < self.band_mm, 0.6, 1.0)
        found: Array = np.maximum(share, 0.25) * ends
        return found

    def _bite(self, hole: TrueHole, strokes: int, share: Array, stone: float) -> None:
        self.life += self.chance.gauss(0.0, self.drift)
        scatter = math.exp(self.chance.gauss(0.0, self.scatter))
        under = max(int(round(stone / hole.length_mm * ROWS)), 3)
        left = float(strokes)
        while left > 1e-9:
            bedded = 1.0 - (self.bedding * math.exp(-self.strokes / 22.0) if self.new else 0.0)
            rate = self.rate_mm * math.exp(self.life) * scatter * bedded * math.exp(-self.glaze * self.strokes / 100.0)
            now = min(left, BITE_MM / rate)
            mean = _running_mean(hole.radius_mm.mean(axis=1), under)
            proud = np.clip(1.0 + (mean[:, None] - hole.radius_mm) / PROUD_MM, 0.0, 3.0)
            hole.radius_mm = hole.radius_mm + 0.5 * rate * now * share[:, None] * proud
            self.strokes += now
            left -= now


def _running_mean(values: Array, width: int) -> Array:
    pad = width // 2
    wide = np.pad(values, pad, mode="edge")
    total = np.cumsum(np.insert(wide, 0, 0.0))
    found: Array = (total[2 * pad + 1 :] - total[: -2 * pad - 1])[: values.size] / (2 * pad + 1)
    return found


@dataclass
class TrueBar:
    """A bar: by how much holes come over their setting, how that scatters, how far off centre it is set, and how it tapers."""

    chance: random.Random
    over_mm: float
    first_over_mm: float
    sd_mm: float
    centring_mm: float
    taper_mm: float
    holes: int = 0

    def cut(self, hole: TrueHole, set_mm: float, centre: tuple[float, float]) -> None:
        """Cut a hole to a setting about a centre (x, y) off the crank line, square to the mains."""
        angle, off = self.chance.uniform(0.0, 6.28), abs(self.chance.gauss(0.0, self.centring_mm))
        lean = self.chance.gauss(0.0, 0.002) / hole.length_mm
        x, y = centre[0] + off * math.cos(angle), centre[1] + off * math.sin(angle)
        hole.move_to(x, y, lean * math.cos(angle), lean * math.sin(angle))
        over = self.over_mm + (self.first_over_mm if self.holes == 0 else 0.0) + self.chance.gauss(0.0, self.sd_mm)
        down = hole.depths_mm[:, None] / hole.length_mm - 0.5
        size = (
            (set_mm + over) / 2.0
            + self.taper_mm / 2.0 * down
            + 0.0006 * np.cos(2.0 * np.arange(TURNS)[None, :] * 2.0 * math.pi / TURNS)
        )
        hole.radius_mm = np.maximum(hole.radius_mm, size)
        self.holes += 1


def sweep_of(
    hole: TrueHole, depth_mm: float, plate_on: bool, points: int, sd_mm: float, chance: random.Random
) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """A sweep with an indicator on a spindle that stands at the crank line: clock angles, and true radii with the indicator's error."""
    row = int(np.argmin(np.abs(hole.depths_mm - depth_mm)))
    seen = hole.seen_from(0.0, 0.0)[row] - (0.0 if plate_on else hole.plate_mm[row])
    flaw = hole.flaw_depth()[row]
    clocks = tuple(360.0 * i / points for i in range(points))
    step = TURNS / points
    radii = tuple(
        round((float(seen[round(i * step) % TURNS] + flaw[round(i * step) % TURNS]) + chance.gauss(0.0, sd_mm)) / 0.001)
        * 0.001
        for i in range(points)
    )
    return clocks, radii
