"""What a job knows of its finish and its sign-off. Sizes in mm at 20 C, texture in um, angles in degrees."""

from __future__ import annotations

from redline_bore.core.frozen import frozen


@frozen
class WallTrace:
    """A trace, its heights packed. plateau_strokes None: not known how much of the plateau the wall had had."""

    seq: int
    cylinder: int
    step_um: float
    heights: str
    depth_mm: float | None
    plateau_strokes: float | None
    source: str
    person: str
    at: str


@frozen
class HatchRead:
    """The crosshatch read from a picture, degrees from the horizontal."""

    seq: int
    cylinder: int
    up_deg: float
    down_deg: float
    u_deg: float
    confidence: float

    @property
    def included_deg(self) -> float:
        return self.up_deg + self.down_deg

    @property
    def lean_deg(self) -> float:
        return (self.up_deg - self.down_deg) / 2.0


@frozen
class Final:
    """The finished hole, sizes at 20 C, mm, top to bottom, and at a second angle."""

    seq: int
    cylinder: int
    sizes_mm: tuple[float, ...]
    across_mm: tuple[float, ...]
    plate_on: bool
    block_c: float | None
    person: str
    at: str

    @property
    def all_mm(self) -> tuple[float, ...]:
        return (*self.sizes_mm, *self.across_mm)

    @property
    def largest_mm(self) -> float:
        return max(self.all_mm)

    @property
    def taper_mm(self) -> float | None:
        return self.sizes_mm[0] - self.sizes_mm[-1] if len(self.sizes_mm) > 1 else None

    @property
    def out_of_round_mm(self) -> float | None:
        apart = [abs(a - b) for a, b in zip(self.sizes_mm, self.across_mm, strict=False)]
        return max(apart) if apart else None


@frozen
class TakenCare:
    what: str
    person: str
    at: str


@frozen
class Accepted:
    """An open point that somebody took upon themselves."""

    point: str
    reason: str
    person: str
    at: str
