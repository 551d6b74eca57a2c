"""Readings that grow, with what is asked of them carried forward: a ledger of twenty thousand is asked after every one."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence

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


@frozen(often=True)
class Gathered:
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


class Levels(dict[float, Level]):
    """The places of a cylinder, by depth, mm, and by clock angle, to a tenth of a degree. Never changed once it is made, and so what follows from
    it is looked up by it: it is equal where the same was read, whoever read it and when."""

    __slots__ = ("readings",)

    def __init__(self, levels: Mapping[float, Level], readings: int) -> None:
        super().__init__(levels)
        self.readings = readings

    def __hash__(self) -> int:  # type: ignore[override]
        return self.readings


class OfCylinder(Rows[Reading]):
    """Readings of one cylinder under one condition, and what they come to at each place."""

    __slots__ = ("levels",)

    def __init__(self, rows: Iterable[Reading] = ()) -> None:
        super().__init__()
        self.levels = Levels({}, 0)
        grown = self.with_all(tuple(rows))
        self._rows, self._count, self.levels = grown._rows, grown._count, grown.levels

    def with_all(self, readings: Sequence[Reading]) -> OfCylinder:
        """With some readings more behind them."""
        new = OfCylinder.__new__(OfCylinder)
        new._rows, new._count = self._with(*readings)
        levels, own = Levels(self.levels, new._count), dict[float, dict[float, Gathered]]()
        for reading in readings:
            depth, clock, size = reading.depth_mm, round(reading.clock_deg, 1), reading.size_mm
            level = own.get(depth)
            if level is None:
                level = levels[depth] = own[depth] = dict(levels.get(depth, NO_LEVEL))
            before = level.get(clock)
            level[clock] = Gathered(1, size, size, size) if before is None else before.with_one(size)
        new.levels = levels
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
        grown = self.with_all(tuple(rows))
        self._rows, self._count, self.by, self.spans = grown._rows, grown._count, grown.by, grown.spans

    def with_all(self, readings: Sequence[Reading]) -> Readings:
        """With some readings more behind them."""
        new = Readings.__new__(Readings)
        new._rows, new._count = self._with(*readings)
        apart: dict[tuple[int, bool], list[Reading]] = {}
        for reading in readings:
            apart.setdefault((reading.cylinder, reading.plate_on), []).append(reading)
        by, spans = dict(self.by), dict(self.spans)
        for key, some in apart.items():
            by[key] = by.get(key, NO_READINGS).with_all(some)
            sizes = (*spans.get(key[1], ()), *(reading.size_mm for reading in some))
            spans[key[1]] = (min(sizes), max(sizes))
        new.by, new.spans = by, spans
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
