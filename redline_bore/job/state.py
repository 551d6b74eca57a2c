"""The state of a job, folded from its ledger. Everything here is frozen; sizes are at 20 C unless the name says not."""

from __future__ import annotations

from collections.abc import Callable, Hashable
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any, TypeVar

from redline_bore.core.block import BlockSpec, RingTravel, ring_travel
from redline_bore.core.figures import Figures
from redline_bore.core.fit import ClearanceWindow
from redline_bore.core.gauging import LevelPlan
from redline_bore.core.lengths import Units
from redline_bore.core.thermal import GaugeSetting
from redline_bore.job.entries import BookIn

T = TypeVar("T")
STEPS = ("book_in", "gauge", "call", "hone", "sign_off")
STEP_TITLES = {"book_in": "Book in", "gauge": "Gauge", "call": "Call", "hone": "Hone", "sign_off": "Sign off"}


@dataclass(frozen=True)
class Reading:
    """A two-point reading: as read, and at 20 C (block_c None: not known, taken as 20 C)."""

    seq: int
    cylinder: int
    depth_mm: float
    clock_deg: float
    size_mm: float
    raw_mm: float
    plate_on: bool
    block_c: float | None
    person: str
    at: str

    def __hash__(self) -> int:
        return self.seq  # readings are looked up often; equality still compares everything


@dataclass(frozen=True)
class RingGap:
    cylinder: int
    depth_mm: float
    gap_mm: float


@dataclass(frozen=True)
class Defect:
    cylinder: int
    what: str
    top_mm: float
    bottom_mm: float
    clock_deg: float
    width_deg: float
    deep_low_mm: float
    deep_high_mm: float

    @property
    def measured(self) -> bool:
        return self.deep_low_mm == self.deep_high_mm


@dataclass(frozen=True)
class WallReading:
    cylinder: int
    clock_deg: float
    depth_mm: float
    wall_mm: float
    zone: str


@dataclass(frozen=True)
class Piston:
    """A measured piston, at 20 C. ``warm_known``: its temperature was taken."""

    seq: int
    cylinder: int
    size_mm: float
    typed: str
    warm_known: bool


@dataclass(frozen=True)
class Check:
    """A hone check: double strokes in its step, sizes top to bottom at 20 C, block temperature then."""

    seq: int
    cylinder: int
    step: int
    strokes: float
    sizes_mm: tuple[float, ...]
    block_c: float | None
    at: str
    person: str

    @property
    def largest_mm(self) -> float:
        """The size that meets the redline first."""
        return max(self.sizes_mm)


@dataclass(frozen=True)
class Stamp:
    step: str
    initials: str
    at: str


@dataclass(frozen=True)
class Decision:
    seq: int
    oversize_mm: float
    sentence: str
    figures: tuple[str, ...]
    at: str
    person: str


@dataclass(frozen=True)
class JobState:
    """All that counts of a job now. Mappings by cylinder are plain tuples to stay hashable."""

    number: str
    units: Units
    book_in: BookIn
    figures: Figures
    practices: tuple[tuple[str, str], ...]
    plan: LevelPlan
    plate_on: bool = False
    block_c: float | None = None
    gauge: GaugeSetting | None = None
    readings: tuple[Reading, ...] = ()
    ring_gaps: tuple[RingGap, ...] = ()
    defects: tuple[Defect, ...] = ()
    wall_readings: tuple[WallReading, ...] = ()
    windows: tuple[ClearanceWindow, ...] = ()
    pistons: tuple[Piston, ...] = ()
    decision: Decision | None = None
    hone_steps: tuple[tuple[int, int], ...] = ()  # cylinder, step it is in
    checks: tuple[Check, ...] = ()
    stamps: tuple[Stamp, ...] = ()
    struck: frozenset[int] = field(default_factory=frozenset)
    last_seq: int = 0
    memo: dict[Hashable, Any] = field(default_factory=dict, compare=False, repr=False)

    def remembered(self, key: Hashable, work: Callable[[], T]) -> T:
        """``work()``, worked out once for this state: the state never changes, so neither does the answer."""
        if key not in self.memo:
            self.memo[key] = work()
        found: T = self.memo[key]
        return found

    @property
    def block(self) -> BlockSpec:
        return self.book_in.block

    @property
    def cylinders(self) -> range:
        return range(1, self.block.cylinders + 1)

    @property
    def travel(self) -> RingTravel:
        f = self.figures
        return ring_travel(self.block, f.number("gauging.ring_top"), f.number("gauging.ring_pack"))

    @cached_property
    def _readings_by(self) -> dict[tuple[int, bool | None], tuple[Reading, ...]]:
        found: dict[tuple[int, bool | None], list[Reading]] = {}
        for reading in self.readings:
            for plate in (None, reading.plate_on):
                found.setdefault((reading.cylinder, plate), []).append(reading)
        return {key: tuple(rows) for key, rows in found.items()}

    @property
    def coefficient_1e6(self) -> float:
        """Expansion coefficient of the bore, 1e-6 per C."""
        return self.figures.number(f"thermal.{self.block.material}")

    def practice(self, topic: str) -> str:
        return dict(self.practices)[topic]

    def piston(self, cylinder: int) -> Piston | None:
        """The piston last measured for a cylinder."""
        return next((p for p in reversed(self.pistons) if p.cylinder == cylinder), None)

    def readings_of(self, cylinder: int, plate_on: bool | None = None) -> tuple[Reading, ...]:
        return self._readings_by.get((cylinder, plate_on), ())

    def defects_of(self, cylinder: int) -> tuple[Defect, ...]:
        return tuple(d for d in self.defects if d.cylinder == cylinder)

    def hone_step(self, cylinder: int) -> int:
        return dict(self.hone_steps).get(cylinder, 0)

    def checks_of(self, cylinder: int, step: int | None = None) -> tuple[Check, ...]:
        return tuple(c for c in self.checks if c.cylinder == cylinder and step in (None, c.step))

    def stamp(self, step: str) -> Stamp | None:
        return next((s for s in reversed(self.stamps) if s.step == step), None)
