"""What size surely cleans a hole up: a bound on every place of the wall, not only on those that were read (methods 5).

Diameters in mm at 20 C; wear, depth of defects and the terms of the bound on radius. A term each for what lies between chords, between
levels, for how far the hole may stand off the cut's axis, for lobes that two points cannot see, and for the cut itself.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from enum import Enum, auto
from itertools import pairwise

from redline_bore.core.errors import FitError
from redline_bore.core.frozen import frozen
from redline_bore.core.shape import distinct_chords

LEAST_CHORDS, CHORDS_FOR_MARKS = 3, 6


class Lacks(Enum):
    """What keeps the high end from being a bound."""

    STOP_NOT_MEASURED = auto()  # where the top ring stops is a starting point
    STOP_LEVEL = auto()  # no level just under that stop
    CHORDS = auto()  # fewer than three chords at a level
    MARK_CHORDS = auto()  # a mark decides, and its level was read at fewer than six chords
    MARK_DEPTH = auto()  # a mark that catches hard has no upper end until it is measured
    STANDING = auto()  # the hole was bored before: nobody knows how it stands
    AXIS = auto()  # two points know nothing of that axis
    MIDDLE_SWEEP = auto()
    BOTTOM_SWEEP = auto()


@frozen
class BoundTerms:
    """Terms of the bound, mm on radius, and the factor for what lies between levels.

    skin: the least honest cut. cut: centring, the hone's shortfall, the plate. stand: how far an unswept hole may stand off its own
    unworn bottom. lobes: what two points cannot see. spindle: what an axis by the crank line adds. low_two, low_swept: by how much the
    low end lies under what was read, on diameter.
    """

    skin_mm: float
    cut_mm: float
    stand_mm: float
    lobes_mm: float
    spindle_mm: float
    between_levels: float
    low_two_mm: float
    low_swept_mm: float


@frozen
class LevelRead:
    """A level read by two points: depth, its clock angles in degrees, its diameters, mm."""

    depth_mm: float
    clock_deg: tuple[float, ...]
    diameter_mm: tuple[float, ...]


@frozen
class Mark:
    """A defect: its middle depth, its clock angle, and its depth on radius: at least, at most (None: no upper end)."""

    depth_mm: float
    clock_deg: float
    low_mm: float
    high_mm: float | None


@frozen
class Bound:
    """``low_mm``: no smaller size cleans it up; ``high_mm``: with nothing in ``lacks`` every size from there does. ``level`` and ``place``: the
    reading that decides the high end; mark: which mark does, -1: none."""

    low_mm: float
    high_mm: float
    level: int
    place: int
    mark: int
    lacks: tuple[Lacks, ...]


def chord_gap_deg(clock_deg: Sequence[float]) -> float:
    """The widest gap between the chords of a level, degrees; 180 with one chord.

    >>> chord_gap_deg([0.0, 45.0, 90.0, 135.0])
    45.0
    """
    folded = sorted(float(clock) % 180.0 for clock in clock_deg)
    return max(b - a for a, b in pairwise([*folded, folded[0] + 180.0]))


def between_chords(clock_deg: Sequence[float]) -> float:
    """By how much wear may be more between the chords of a level than on any of them: 1 / cos2 of half the gap, at most 2.

    >>> round(between_chords([0.0, 60.0, 120.0]), 2), round(between_chords([0.0, 45.0, 90.0, 135.0]), 2)
    (1.33, 1.17)
    """
    return 1.0 / math.cos(math.radians(min(chord_gap_deg(clock_deg), 90.0) / 2.0)) ** 2


def bound_two_point(
    reference_mm: float,
    levels: Sequence[LevelRead],
    marks: Sequence[Mark],
    terms: BoundTerms,
    stop_mm: tuple[float, float],
    lacks: Sequence[Lacks] = (),
) -> Bound:
    """The bound from two-point readings about the axis of the unworn bottom.

    reference_mm: unworn diameter. stop_mm: from which depth to which a level counts as just under the top ring's stop. lacks: what
    the caller knows to be missing (STOP_NOT_MEASURED, STANDING, AXIS). High end: reference + 2 (max(w C K + mark) + skin + cut + stand
    + lobes), wear w all on one side; low end: the largest reading less what the gauge may be off, and a mark on the side that wore
    least. A level of two chords from an older plan beside fuller ones counts with their gap. Raises FitError without readings.
    Source: methods 5.
    """
    if not levels or not any(v.diameter_mm for v in levels):
        raise FitError("What cleans up cannot be told before the hole is gauged")
    found = list(lacks)
    full = [v for v in levels if distinct_chords(v.clock_deg) >= LEAST_CHORDS]
    if not any(stop_mm[0] <= v.depth_mm <= stop_mm[1] for v in levels):
        found.append(Lacks.STOP_LEVEL)
    elif not any(stop_mm[0] <= v.depth_mm <= stop_mm[1] for v in full) or len(full) < min(len(levels), 3):
        found.append(Lacks.CHORDS)
    factors = _between(levels, full, terms.between_levels)
    best, at = -math.inf, (0, 0, -1)
    for i, level in enumerate(levels):
        j = max(range(len(level.diameter_mm)), key=level.diameter_mm.__getitem__)
        worn = max(level.diameter_mm[j] - reference_mm, 0.0) * factors[i]
        if worn > best:
            best, at = worn, (i, j, -1)
    low = max(d for v in levels for d in v.diameter_mm)
    for m, mark in enumerate(marks):
        i = min(range(len(levels)), key=lambda i: abs(levels[i].depth_mm - mark.depth_mm))
        place, worn = _wear_near(levels[i], mark.clock_deg, reference_mm)
        low = max(low, reference_mm + 2.0 * mark.low_mm)  # it may lie on the side that wore least
        reach = worn * factors[i] + (mark.low_mm if mark.high_mm is None else mark.high_mm)
        if mark.high_mm is None:
            found.append(Lacks.MARK_DEPTH)
        if reach > best:
            best, at = reach, (i, place, m)
    if at[2] >= 0 and distinct_chords(levels[at[0]].clock_deg) < CHORDS_FOR_MARKS:
        found.append(Lacks.MARK_CHORDS)
    high = reference_mm + 2.0 * (best + terms.skin_mm + terms.cut_mm + terms.stand_mm + terms.lobes_mm)
    return Bound(low - terms.low_two_mm, high, *at, tuple(dict.fromkeys(found)))


def _between(levels: Sequence[LevelRead], full: Sequence[LevelRead], between_levels: float) -> list[float]:
    """For each level how much more wear may be between what was read; one of two chords beside fuller ones is no worse than they."""
    usual = max((between_chords(v.clock_deg) for v in full), default=2.0)
    return [between_levels * (between_chords(v.clock_deg) if v in full else usual) for v in levels]


def _wear_near(level: LevelRead, clock_deg: float, reference_mm: float) -> tuple[int, float]:
    """The worst reading of a level at a chord no further from a clock angle than the level's own gap, and the wear there, mm."""
    gap = chord_gap_deg(level.clock_deg)
    apart = [abs((c - clock_deg + 90.0) % 180.0 - 90.0) for c in level.clock_deg]
    near = [j for j, a in enumerate(apart) if a <= max(gap, min(apart)) + 1e-9]
    worst = max(near, key=lambda j: level.diameter_mm[j])
    return worst, max(level.diameter_mm[worst] - reference_mm, 0.0)


@frozen
class SweptBound:
    """The bound from sweeps: low and high end, mm, and the depth and clock angle that decide; mark: which mark does, -1: none."""

    low_mm: float
    high_mm: float
    depth_mm: float
    clock_deg: float
    mark: int
    lacks: tuple[Lacks, ...]


def bound_swept(
    reference_radius_mm: float,
    radius_mm: Sequence[float],
    depth_mm: Sequence[float],
    clock_deg: Sequence[float],
    marks: Sequence[Mark],
    terms: BoundTerms,
    by_crank_line: bool = False,
    lacks: Sequence[Lacks] = (),
) -> SweptBound:
    """The bound from the swept wall about the cut's axis; marks that a sweep crossed are left out by the caller: it has read them.

    radius_mm, depth_mm, clock_deg: of n wall points, true distance from the cut's axis. reference_radius_mm: of the unworn bottom.
    High end: 2 (reference + max(K w + mark) + skin + cut), and the spindle's term where the axis is the crank line. Source: methods 5.
    """
    worn = [terms.between_levels * max(r - reference_radius_mm, 0.0) for r in radius_mm]
    at, which, found = max(range(len(worn)), key=worn.__getitem__), -1, list(lacks)
    best, low = worn[at], max(radius_mm)
    for m, mark in enumerate(marks):
        near = _nearest_on_wall(mark, reference_radius_mm, depth_mm, clock_deg)
        deep = mark.low_mm if mark.high_mm is None else mark.high_mm
        if mark.high_mm is None:
            found.append(Lacks.MARK_DEPTH)
        low = max(low, radius_mm[near] + mark.low_mm)
        if worn[near] + deep > best:
            at, best, which = near, worn[near] + deep, m
    spindle = terms.spindle_mm if by_crank_line else 0.0
    high = 2.0 * (reference_radius_mm + best + terms.skin_mm + terms.cut_mm + spindle)
    return SweptBound(
        2.0 * low - terms.low_swept_mm, high, depth_mm[at], clock_deg[at], which, tuple(dict.fromkeys(found))
    )


def _nearest_on_wall(mark: Mark, radius_mm: float, depth_mm: Sequence[float], clock_deg: Sequence[float]) -> int:
    """The wall point nearest a mark, along the arc and down the hole, both in mm."""

    def away(i: int) -> float:
        turn = abs((clock_deg[i] - mark.clock_deg + 180.0) % 360.0 - 180.0)
        return math.hypot(depth_mm[i] - mark.depth_mm, math.radians(turn) * radius_mm)

    return min(range(len(depth_mm)), key=away)
