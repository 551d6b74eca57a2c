"""A finished hole at its two ends: the smallest place seizes the piston, the largest lets it rattle (methods 7).

From the final gauging under the plate; else from one with the plate off, through what the plate does to this hole; else from the
last check at the hone.
"""

from __future__ import annotations

import math
from enum import Enum, auto

from redline_bore.core.fit import ClearanceWindow, Decision, guard_band_both
from redline_bore.core.frozen import frozen
from redline_bore.job.gauge.doubt import clearance_doubt, reading_doubt
from redline_bore.job.gauge.hole import HoleShape, shape_of_hole
from redline_bore.job.gauge.places import places_of_checks
from redline_bore.job.gauge.plate import PlateMap, plate_map
from redline_bore.job.redline import leading_window
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.job_state import JobState
from redline_bore.job.state.signing import Final
from redline_bore.job.state.two_angles import TwoAngles


class ReadBy(Enum):
    """How the sizes of a hole as it stands are known."""

    FINAL = auto()
    FINAL_WITHOUT_PLATE = auto()  # through the plate map
    FINAL_DOUBTED = auto()  # plate off, and nobody read what the plate does
    CHECK = auto()


@frozen
class HoleNow:
    """The smallest and the largest place of a hole and its mean, mm at 20 C under the plate; shape None: not told by these readings.

    plate_doubt_mm: U (k = 2) of what the plate may do, where nobody read it. both_ends: read at three depths and two angles.
    """

    by: ReadBy
    smallest_mm: float
    largest_mm: float
    mean_mm: float
    shape: HoleShape | None
    plate_doubt_mm: float = 0.0
    both_ends: bool = True


@once_a_state
def hole_now(state: JobState, cylinder: int) -> HoleNow | None:
    """The hole as it was read last; None before it was honed or finally gauged."""
    plated, bare, checks = (
        state.final_of(cylinder, True),
        state.final_of(cylinder, False),
        state.honing.checks_of(cylinder),
    )
    if plated is not None:
        return _as_read(state, plated, ReadBy.FINAL)
    if bare is not None:
        return _without_plate(state, cylinder, bare)
    return _as_read(state, checks[-1], ReadBy.CHECK) if checks else None


def _as_read(state: JobState, hole: TwoAngles, by: ReadBy) -> HoleNow:
    return HoleNow(
        by, hole.smallest_mm, hole.largest_mm, hole.mean_mm, shape_of_hole(state, hole), both_ends=hole.both_ends
    )


def _without_plate(state: JobState, cylinder: int, bare: Final) -> HoleNow:
    """A hole that was gauged with the plate off, as it is with the plate on."""
    checks, moved = state.honing.checks_of(cylinder), plate_map(state, cylinder)
    if checks and not checks[-1].plate_on:
        return _as_read(
            state, bare, ReadBy.FINAL
        )  # honed and gauged alike; that it was never under the plate is a point of its own
    return _moved(state, bare, moved) if moved.levels else _doubted(state, bare)


def _doubted(state: JobState, bare: Final) -> HoleNow:
    """Gauged with the plate off, and nobody read what the plate does."""
    doubt = state.figures.number("gauging.plate_moves")
    by = ReadBy.FINAL_DOUBTED
    return HoleNow(by, bare.smallest_mm, bare.largest_mm, bare.mean_mm, None, doubt, bare.both_ends)


def _moved(state: JobState, bare: Final, moved: PlateMap) -> HoleNow:
    least, most, means = [], [], []
    depths = places_of_checks(state, len(bare.sizes_mm))
    for i, depth in enumerate(depths):
        level = min(moved.levels, key=lambda v: abs(v.depth_mm - depth)).moved
        sizes = [bare.sizes_mm[i], *([bare.across_mm[i]] if bare.across_mm else [])]
        means.append(sum(sizes) / len(sizes) + level.mean_mm)
        least.append(min(sizes) + min(level.moved_mm))
        most.append(max(sizes) + max(level.moved_mm))
    return HoleNow(
        ReadBy.FINAL_WITHOUT_PLATE, min(least), max(most), sum(means) / len(means), None, both_ends=bare.both_ends
    )


@frozen
class EndsCall:
    """Both ends of a hole against its window: clearance at the smallest and at the largest place, U, all mm, and how they stand."""

    hole: HoleNow
    least_mm: float
    most_mm: float
    u_mm: float
    decision: Decision


@once_a_state
def ends_call(state: JobState, cylinder: int) -> EndsCall | None:
    """How a hole stands in its clearance window; None without a piston or without a size."""
    hole, piston = hole_now(state, cylinder), state.calling.piston(cylinder)
    if hole is None or piston is None:
        return None
    window = leading_window(state)
    u = math.hypot(clearance_doubt(state, hole.mean_mm, piston.size_mm), hole.plate_doubt_mm)
    least, most = hole.smallest_mm - piston.size_mm, hole.largest_mm - piston.size_mm
    decision = guard_band_both(least, most, window, u)
    if hole.by is ReadBy.FINAL_DOUBTED and decision is not Decision.OUT:
        return _by_check(state, cylinder, piston.size_mm, window) or EndsCall(hole, least, most, u, decision)
    return EndsCall(hole, least, most, u, decision)


def _by_check(state: JobState, cylinder: int, piston_mm: float, window: ClearanceWindow) -> EndsCall | None:
    """By the last check at the hone, where a final gauging with the plate off says nothing against it."""
    checks = state.honing.checks_of(cylinder)
    if not checks:
        return None
    hole = _as_read(state, checks[-1], ReadBy.CHECK)
    u = clearance_doubt(state, hole.mean_mm, piston_mm)
    least, most = hole.smallest_mm - piston_mm, hole.largest_mm - piston_mm
    return EndsCall(hole, least, most, u, guard_band_both(least, most, window, u))


@once_a_state
def final_apart(state: JobState, cylinder: int) -> float | None:
    """By how much the final gauging differs from the last check at the hone, or the one with the plate off from the one under it, of the
    mean, mm, where that is more than both doubts; else None."""
    checks, each = state.honing.checks_of(cylinder), reading_doubt(state).expanded_u_mm
    plated, bare = state.final_of(cylinder, True), state.final_of(cylinder, False)
    pairs: list[tuple[HoleNow, float]] = []
    if plated is not None and checks:
        pairs.append((_as_read(state, plated, ReadBy.FINAL), checks[-1].mean_mm))
    if bare is not None and plated is not None:  # what the customer reads, against what was read under the plate
        moved = plate_map(state, cylinder)
        pairs.append((_moved(state, bare, moved) if moved.levels else _doubted(state, bare), plated.mean_mm))
    elif bare is not None and checks:
        pairs.append((_without_plate(state, cylinder, bare), checks[-1].mean_mm))
    apart = [
        hole.mean_mm - against
        for hole, against in pairs
        if abs(hole.mean_mm - against) > math.sqrt(2.0 * each**2 + hole.plate_doubt_mm**2)
    ]
    return max(apart, key=abs, default=None)
