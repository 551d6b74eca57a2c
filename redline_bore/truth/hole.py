"""One true hole on a grid: the wall as it stands under the plate at 20 C, what the plate adds, where the hole stands, what lies outside it.

Millimetres; radii from the hole's own axis, which stands at ``centre_mm`` off the crank line; clock angles in degrees from the front.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
ROWS, TURNS = 56, 72
CLOCKS = np.arange(TURNS) * 360.0 / TURNS


@dataclass
class TrueFlaw:
    """A flaw of the wall: where, how wide (degrees), how deep on radius, and whether a person could have found it."""

    top_mm: float
    bottom_mm: float
    clock_deg: float
    width_deg: float
    deep_mm: float
    what: str
    can_be_found: bool


@dataclass
class TrueHole:
    """radius_mm: (ROWS, TURNS) with the plate on, flaws not counted; plate_mm: what the plate adds, the same shape; outside_mm: distance
    of the outside of the wall, the same shape; centre_mm: (ROWS, 2) of the axis off the crank line."""

    length_mm: float
    radius_mm: Array
    plate_mm: Array
    outside_mm: Array
    centre_mm: Array
    flaws: list[TrueFlaw] = field(default_factory=list)
    found_mm: Any = None  # the wall as it came, flaws and all, about the present axis: what may be left as a shadow

    def __post_init__(self) -> None:
        if self.found_mm is None:
            self.found_mm = self.radius_mm + self.flaw_depth()

    @property
    def depths_mm(self) -> Array:
        """Depths of the rows, from just under the deck to just over the end."""
        found: Array = (np.arange(ROWS) + 0.5) * self.length_mm / ROWS
        return found

    def flaw_depth(self) -> Array:
        """What the flaws add to the radius over the grid, mm."""
        grid = np.zeros((ROWS, TURNS))
        step = self.length_mm / ROWS
        for flaw in self.flaws:
            rows = (self.depths_mm >= flaw.top_mm - step / 2.0) & (self.depths_mm <= flaw.bottom_mm + step / 2.0)
            turn = np.abs((CLOCKS - flaw.clock_deg + 180.0) % 360.0 - 180.0) <= max(flaw.width_deg / 2.0, 180.0 / TURNS)
            grid[np.ix_(rows, turn)] = np.maximum(grid[np.ix_(rows, turn)], flaw.deep_mm)
        return grid

    def at(self, depth_mm: float, clock_deg: float, plate_on: bool = True) -> float:
        """Radius at a place, mm; between the rows and turns of the grid along straight lines."""
        return float(
            self._at(self.radius_mm, depth_mm, clock_deg)
            - (0.0 if plate_on else self._at(self.plate_mm, depth_mm, clock_deg))
        )

    def wall_at(self, depth_mm: float, clock_deg: float) -> float:
        """Thickness of the wall at a place, mm."""
        return float(self._at(self.outside_mm - self.radius_mm, depth_mm, clock_deg))

    def _at(self, grid: Array, depth_mm: float, clock_deg: float) -> float:
        row = min(max(depth_mm * ROWS / self.length_mm - 0.5, 0.0), ROWS - 1.0)
        turn = (clock_deg % 360.0) * TURNS / 360.0
        i, j = int(row), int(turn)
        u, v = row - i, turn - j
        k, m = min(i + 1, ROWS - 1), (j + 1) % TURNS
        top = (1.0 - v) * grid[i, j % TURNS] + v * grid[i, m]
        low = (1.0 - v) * grid[k, j % TURNS] + v * grid[k, m]
        return float((1.0 - u) * top + u * low)

    def diameter(self, depth_mm: float, clock_deg: float, plate_on: bool) -> float:
        """What two points see, mm at 20 C."""
        return self.at(depth_mm, clock_deg, plate_on) + self.at(depth_mm, clock_deg + 180.0, plate_on)

    def rows_between(self, top_mm: float, bottom_mm: float) -> NDArray[np.bool_]:
        """Which rows lie between two depths."""
        found: NDArray[np.bool_] = (self.depths_mm >= top_mm) & (self.depths_mm <= bottom_mm)
        return found

    def diameters(self) -> Array:
        """Every chord, (ROWS, TURNS / 2), mm with the plate on."""
        half = TURNS // 2
        found: Array = self.radius_mm[:, :half] + self.radius_mm[:, half:]
        return found

    def seen_from(self, x_mm: float, y_mm: float, tilt_x: float = 0.0, tilt_y: float = 0.0) -> Array:
        """The wall as a spindle sees it that stands at (x, y) off the crank line at the deck and leans by so much a mm down."""
        z = self.depths_mm[:, None]
        dx = self.centre_mm[:, :1] - x_mm - tilt_x * z
        dy = self.centre_mm[:, 1:] - y_mm - tilt_y * z
        return _about(self.radius_mm, dx, dy)

    def move_to(self, x_mm: float, y_mm: float, tilt_x: float = 0.0, tilt_y: float = 0.0) -> None:
        """Count everything from another axis."""
        z = self.depths_mm[:, None]
        dx = self.centre_mm[:, :1] - x_mm - tilt_x * z
        dy = self.centre_mm[:, 1:] - y_mm - tilt_y * z
        self.radius_mm, self.outside_mm = _about(self.radius_mm, dx, dy), _about(self.outside_mm, dx, dy)
        self.found_mm = _about(self.found_mm, dx, dy)
        self.centre_mm = np.column_stack([x_mm + tilt_x * z[:, 0], y_mm + tilt_y * z[:, 0]])

    def shadow(self) -> NDArray[np.bool_]:
        """Where the wall is still as it came: no tool has touched it."""
        found: NDArray[np.bool_] = self.radius_mm <= self.found_mm + 1e-4
        return found


def _about(radius_mm: Array, dx: Array, dy: Array) -> Array:
    """Radii about an axis from which the old one stands (dx, dy) away: where the ray meets the wall, its own clock angle is a little
    another."""
    t = np.deg2rad(CLOCKS)[None, :]
    along, aside = dx * np.cos(t) + dy * np.sin(t), -dx * np.sin(t) + dy * np.cos(t)
    turn = np.rad2deg(aside / radius_mm) * TURNS / 360.0  # the wall point lies so many turns of the grid back
    at = np.arange(TURNS)[None, :] - turn
    j = np.floor(at).astype(int)
    v = at - j
    rows = np.arange(radius_mm.shape[0])[:, None]
    seen = (1.0 - v) * radius_mm[rows, j % TURNS] + v * radius_mm[rows, (j + 1) % TURNS]
    found: Array = along + np.sqrt(np.maximum(seen**2 - aside**2, 0.0))
    return found
