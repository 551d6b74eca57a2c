"""The torque plate: does it stand in for the head, in which order is it tightened, what does it do to the holes."""

from __future__ import annotations

import math

from redline_bore.core.block import Layout, bore_positions, fastener_positions
from redline_bore.core.frozen import frozen
from redline_bore.core.plate import (
    ClampMatch,
    PlateLevel,
    bearing_deg,
    compare_clamping,
    customer_reads,
    nearest_bearings,
    on_off_level,
    tightening_order,
)
from redline_bore.job.gauge.analysis import SAME_DEPTH_MM, Level, shape_of
from redline_bore.job.gauge.doubt import reading_doubt
from redline_bore.job.missing import Lack, Missing
from redline_bore.job.redline import redline_of
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.job_state import JobState

AWKWARD_DEG = 30.0


@frozen(often=True)
class MapLevel:
    """Plate on less plate off at one depth, at the chords read both ways."""

    depth_mm: float
    clocks_deg: tuple[float, ...]
    moved: PlateLevel


@frozen(often=True)
class PlateMap:
    """What the plate does to one cylinder. ``missing`` says what to read where nothing can be compared."""

    cylinder: int
    levels: tuple[MapLevel, ...]
    missing: Missing | None

    @property
    def worst(self) -> MapLevel | None:
        """The level that moves most."""
        return max(self.levels, key=lambda v: max(abs(m) for m in v.moved.moved_mm), default=None)

    @property
    def mean_mm(self) -> float | None:
        return sum(v.moved.mean_mm for v in self.levels) / len(self.levels) if self.levels else None

    def at(self, depth_mm: float, clock_deg: float) -> float | None:
        """What the plate adds to the diameter nearest to a place, mm; None without a map."""
        if not self.levels:
            return None
        level = min(self.levels, key=lambda v: abs(v.depth_mm - depth_mm))
        chord = min(
            range(len(level.clocks_deg)),
            key=lambda i: abs((level.clocks_deg[i] - clock_deg + 90.0) % 180.0 - 90.0),
        )
        return level.moved.moved_mm[chord]


@once_a_state
def plate_map(state: JobState, cylinder: int) -> PlateMap:
    """Compare the two gaugings of a cylinder, chord by chord."""
    on, off = (shape_of(state, cylinder, plate) for plate in (True, False))
    levels = []
    for level in on.levels:
        other = next((v for v in off.levels if abs(v.depth_mm - level.depth_mm) < SAME_DEPTH_MM), None)
        if other is not None and (row := _compared(level, other)) is not None:
            levels.append(row)
    missing = None
    if not levels:
        lacking = tuple(plate for plate, shape in ((True, on), (False, off)) if not shape.levels)
        missing = Missing(Lack.PLATE, cylinder, lacking) if lacking else Missing(Lack.SAME_PLACES, cylinder)
    return PlateMap(cylinder, tuple(levels), missing)


def _compared(on: Level, off: Level) -> MapLevel | None:
    sizes = {round(s.clock_deg, 1): s.size_mm for s in off.spots}
    both = [(s.clock_deg, s.size_mm, sizes[round(s.clock_deg, 1)]) for s in on.spots if round(s.clock_deg, 1) in sizes]
    if not both:
        return None
    clocks = tuple(b[0] for b in both)
    return MapLevel(on.depth_mm, clocks, on_off_level(clocks, [b[1] for b in both], [b[2] for b in both]))


def bearings(state: JobState, cylinder: int) -> dict[int, float]:
    """Clock angles, seen from a bore's centre, of the fasteners nearest to it, by fastener number (from 1)."""
    bore = bore_positions(state.block)[cylinder - 1]
    reach, found = 1.2 * state.block.bore_mm, {}
    for number, f in enumerate(fastener_positions(state.block), start=1):
        along, across = f.along_mm - bore.along_mm, f.across_mm - bore.across_mm
        if f.bank == bore.bank and (along**2 + across**2) ** 0.5 <= reach:
            found[number] = bearing_deg(along, across)
    return found


@frozen
class Towards:
    """The clock angle along which a hole opens most, and the fasteners that lie there."""

    clock_deg: float
    fasteners: list[int]


def towards(state: JobState, cylinder: int, level: MapLevel) -> Towards | None:
    """The clock angle along which the plate opens the hole most, and the fasteners that lie there; None: not told."""
    if level.moved.second_axis_deg is None:
        return None
    best = max(range(len(level.clocks_deg)), key=lambda i: level.moved.moved_mm[i])
    clock, around = level.clocks_deg[best], bearings(state, cylinder)
    numbers = list(around)
    apart = nearest_bearings(clock, [around[n] for n in numbers]).apart_deg
    if apart > AWKWARD_DEG:
        return Towards(clock, [])
    return Towards(clock, [n for n in numbers if nearest_bearings(clock, [around[n]]).apart_deg <= apart + 1.0])


def match_of(state: JobState) -> ClampMatch:
    """Plate against head, line by line."""
    split = state.block.layout is Layout.FLAT
    share = state.figures.number("fasteners.force_share")
    return compare_clamping(state.clamped.held_down("plate"), state.clamped.held_down("head"), share, split)


def order_of(state: JobState, bank: int = 0) -> tuple[int, ...]:
    """Fastener numbers (from 1) of a bank in the order of tightening."""
    all_of = list(enumerate(fastener_positions(state.block), start=1))
    own = [(n, f) for n, f in all_of if f.bank == bank]
    order = tightening_order([f.along_mm for _, f in own], [f.across_mm for _, f in own])
    return tuple(own[i][0] for i in order)


def places_in_order(state: JobState) -> dict[int, int]:
    """For each fastener its place in the order of tightening, from 1 on each bank: the number it is called by."""
    banks = sorted({b.bank for b in bore_positions(state.block)})
    return {fastener: place for bank in banks for place, fastener in enumerate(order_of(state, bank), start=1)}


def move_doubt(state: JobState) -> float:
    """U (k = 2) in mm of a movement: the difference of two readings, without what they share."""
    return 2.0 * math.sqrt(2.0) * reading_doubt(state).own_mm


@frozen(often=True)
class TighteningStep:
    """One pull of the wrench: which fastener, to which torque (None: none is stated), in which stage (from 1)."""

    fastener: int
    stage: int
    torque_nm: float | None


def tightening(state: JobState) -> tuple[TighteningStep, ...]:
    """Every pull in turn, both banks, stage by stage."""
    plate = state.clamped.held_down("plate")
    shares = plate.stages or state.figures.row("fasteners.stages")
    banks = sorted({b.bank for b in bore_positions(state.block)})
    return tuple(
        TighteningStep(number, stage, None if plate.torque_nm is None else plate.torque_nm * share)
        for stage, share in enumerate(shares, start=1)
        for bank in banks
        for number in order_of(state, bank)
    )


def without_plate(state: JobState, cylinder: int) -> tuple[float, float] | None:
    """Smallest and largest diameter in mm that will be read with the plate off, of a hole finished to its redline."""
    found, size = plate_map(state, cylinder), redline_of(state, cylinder).size_mm
    if size is None:
        mean = shape_of(state, cylinder, True).mean_mm
        size = mean
    if size is None or not found.levels:
        return None
    reads = [float(v) for level in found.levels for v in customer_reads(size, level.moved.moved_mm)]
    return min(reads), max(reads)
