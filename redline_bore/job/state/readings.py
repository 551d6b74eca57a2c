"""Readings that grow, with what is asked of them carried forward: a ledger of twenty thousand is asked after every one."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import NamedTuple

from redline_bore.core.frozen import frozen
from redline_bore.job.state.rows import Rows

TWO_POINT, THREE_POINT = "two-point", "three-point"


@frozen(often=True)
class Reading:
    """A reading: as read, and at 20 C (block_c None: not known, taken as 20 C). ``clock_deg`` repeats every 180
    degrees with a two-point gauge, every 120 with a three-point one."""

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
    gauge: str = TWO_POINT

    def __hash__(self) -> int:
        return self.seq  # readings are looked up often; equality still compares everything


class Gathered(NamedTuple):
    """The readings of one place: how many, their sum, the smallest and the largest, mm."""

    times: int
    total_mm: float
    low_mm: float
    high_mm: float

    def with_one(self, size_mm: float) -> Gathered:
        """With one more."""
        return Gathered(self.times + 1, self.total_mm + size_mm, min(self.low_mm, size_mm), max(self.high_mm, size_mm))

    def and_those_of(self, other: Gathered) -> Gathered:
        """Both together."""
        low, high = min(self.low_mm, other.low_mm), max(self.high_mm, other.high_mm)
        return Gathered(self.times + other.times, self.total_mm + other.total_mm, low, high)


Level = Mapping[float, Gathered]  # by clock angle


class OfCylinder(Rows[Reading]):
    """Readings of one cylinder under one condition. levels: the places, by depth, mm, and by clock angle, to a tenth of a degree."""

    __slots__ = ("levels",)

    def __init__(self, rows: Iterable[Reading] = ()) -> None:
        super().__init__()
        self.levels: Mapping[float, Level] = {}
        grown = self
        for row in rows:
            grown = grown.with_one(row)
        self._rows, self._count, self.levels = grown._rows, grown._count, grown.levels

    def with_one(self, reading: Reading) -> OfCylinder:
        """With one reading more behind them."""
        new = OfCylinder.__new__(OfCylinder)
        new._rows, new._count = self._with(reading)
        depth, clock, size = reading.depth_mm, round(reading.clock_deg, 1), reading.size_mm
        level = self.levels.get(depth, NO_LEVEL)
        before = level.get(clock)
        now = Gathered(1, size, size, size) if before is None else before.with_one(size)
        new.levels = {**self.levels, depth: {**level, clock: now}}
        return new

    @property
    def places(self) -> frozenset[tuple[float, float]]:
        """Depth and clock angle of every place that was read."""
        return frozenset((depth, clock) for depth, level in self.levels.items() for clock in level)


NO_LEVEL: Level = {}
NO_READINGS = OfCylinder()


class Readings(Rows[Reading]):
    """All readings of a kind of gauge. by: those of a cylinder under a condition; spans: smallest and largest size, mm, of a condition."""

    __slots__ = ("by", "spans")

    def __init__(self, rows: Iterable[Reading] = ()) -> None:
        super().__init__()
        self.by: Mapping[tuple[int, bool], OfCylinder] = {}
        self.spans: Mapping[bool, tuple[float, float]] = {}
        grown = self
        for row in rows:
            grown = grown.with_one(row)
        self._rows, self._count, self.by, self.spans = grown._rows, grown._count, grown.by, grown.spans

    def with_one(self, reading: Reading) -> Readings:
        """With one reading more behind them."""
        new = Readings.__new__(Readings)
        new._rows, new._count = self._with(reading)
        key, plate, size = (reading.cylinder, reading.plate_on), reading.plate_on, reading.size_mm
        new.by = {**self.by, key: self.by.get(key, NO_READINGS).with_one(reading)}
        span = self.spans.get(plate)
        if span is not None and span[0] <= size <= span[1]:
            new.spans = self.spans
        else:
            low, high = span or (size, size)
            new.spans = {**self.spans, plate: (min(low, size), max(high, size))}
        return new

    def of(self, cylinder: int, plate_on: bool | None = None) -> OfCylinder:
        """The readings of a cylinder; plate_on None: with the plate and without, in the order they were taken."""
        if plate_on is not None:
            return self.by.get((cylinder, plate_on), NO_READINGS)
        both = [row for plate in (True, False) for row in self.by.get((cylinder, plate), NO_READINGS)]
        return OfCylinder(sorted(both, key=lambda r: r.seq))

    def sizes_of(self, plate_on: bool | None = None) -> tuple[float, ...]:
        """The smallest and the largest size, mm, of a condition (None: of each)."""
        wanted = (True, False) if plate_on is None else (plate_on,)
        return tuple(size for plate in wanted for size in self.spans.get(plate, ()))
