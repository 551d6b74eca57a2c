"""Load by depth as the hone sends it: where the wall is tight, held against the gauged wall, and the dwell it asks for."""

from __future__ import annotations

import math
from collections.abc import Sequence
from enum import Enum, auto
from typing import TYPE_CHECKING

from redline_bore.core.frozen import frozen
from redline_bore.core.late import np
from redline_bore.job.gauge.doubt import reading_doubt
from redline_bore.job.hone.model import WallNow, wall_now
from redline_bore.job.hone.set_up import stone_mm
from redline_bore.job.state.job_state import JobState

if TYPE_CHECKING:
    from numpy.typing import NDArray

    Array = NDArray[np.float64]

CELLS = 24
TIGHT_OVER = 0.12


@frozen(often=True)
class Tight:
    """A tight place: depth in mm, and by how much its load is over the mean."""

    depth_mm: float
    over: float


class Dwell(Enum):
    """What to do about a tight stretch."""

    TOP = auto()
    BOTTOM = auto()
    SHORT_STROKES = auto()


class BesideGauge(Enum):
    """What the gauge says to a tight load."""

    READ_THREE = auto()  # three depths would tell
    THERE_TOO = auto()
    ELSEWHERE = auto()  # a hard place, or chips under the stone
    EVEN = auto()  # no depth is tighter than the gauge can tell: likewise


@frozen(often=True)
class LoadPicture:
    """Mean load by depth (NaN where no stone was). The wall beside it, as gauged or checked last. told_mm: by how much two of its
    sizes differ for sure, on diameter."""

    cylinder: int
    depths_mm: tuple[float, ...]
    loads: tuple[float, ...]
    samples: int
    strokes: float
    wall: WallNow | None
    length_mm: float
    told_mm: float
    faults: int = 0

    @property
    def mean(self) -> float:
        known = [v for v in self.loads if v == v]
        return sum(known) / len(known) if known else 0.0

    @property
    def tight(self) -> Tight | None:
        """The tightest stretch, where it stands out; None where the load is even."""
        if not self.samples or self.mean <= 0.0:
            return None
        known = [(v, d) for v, d in zip(self.loads, self.depths_mm, strict=True) if v == v]
        load, depth = max(known)
        over = load / self.mean - 1.0
        return Tight(float(round(depth)), over) if over > TIGHT_OVER else None

    @property
    def dwell(self) -> Dwell | None:
        """What to do about the tight stretch; None: there is none."""
        if self.tight is None:
            return None
        at = self.tight.depth_mm / self.length_mm
        return Dwell.BOTTOM if at > 0.8 else Dwell.TOP if at < 0.2 else Dwell.SHORT_STROKES

    @property
    def beside_gauge(self) -> BesideGauge | None:
        """Whether the gauge sees the same place tight; None: nothing is tight."""
        if self.wall is None or self.tight is None or len(self.wall.sizes_mm) < 3:
            return None if self.tight is None else BesideGauge.READ_THREE
        if max(self.wall.sizes_mm) - min(self.wall.sizes_mm) <= self.told_mm:
            return BesideGauge.EVEN
        near = abs(self.tight_by_gauge_mm - self.tight.depth_mm) < 0.25 * self.length_mm
        return BesideGauge.THERE_TOO if near else BesideGauge.ELSEWHERE

    @property
    def tight_by_gauge_mm(self) -> float:
        """The depth at which the gauge finds the wall tightest, mm; the wall is known."""
        assert self.wall is not None
        return self.wall.depths_mm[self.wall.sizes_mm.index(min(self.wall.sizes_mm))]


def picture_of(
    state: JobState, cylinder: int, samples: Sequence[tuple[float, float]], strokes: float, faults: int = 0
) -> LoadPicture:
    """Means by depth of (upper end of the stone in mm, load) samples: each counts over the wall its stone lay on."""
    length, stone = state.block.length_mm, stone_mm(state)
    edges = np.linspace(0.0, length, CELLS + 1)
    middle = (edges[:-1] + edges[1:]) / 2.0
    loads = np.full(CELLS, np.nan)
    if samples:
        upper, load = np.array([s[0] for s in samples]), np.array([s[1] for s in samples])
        centre = np.clip(
            upper + stone / 2.0, 0.0, length
        )  # what it felt is put where its middle was, spread by the stone
        reach = max(0.5 * stone * 0.35, length / CELLS)
        weight = np.exp(-0.5 * ((middle[:, None] - _spread(centre, length)[None, :]) / reach) ** 2)
        total = weight.sum(axis=1)
        loads = np.where(total > 1e-6, (weight * load[None, :]).sum(axis=1) / np.maximum(total, 1e-12), np.nan)
    return LoadPicture(
        cylinder,
        tuple(middle.tolist()),
        tuple(loads.tolist()),
        len(samples),
        strokes,
        wall_now(state, cylinder),
        length,
        2.0 * math.sqrt(2.0) * reading_doubt(state).own_mm,  # k = 2 of two readings by one gauge on one master
        faults,
    )


def _spread(centre: Array, length: float) -> Array:
    """Stone middles stretched over the whole hole: its ends feel what lies beyond the way of its middle."""
    low, high = float(centre.min()), float(centre.max())
    if high - low < 1e-6:
        return centre
    return (centre - low) / (high - low) * length
