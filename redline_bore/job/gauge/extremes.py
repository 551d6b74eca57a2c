"""The largest and the smallest of a cylinder's readings, its wear and its out-of-round, freed of what the gauge's noise adds (methods 3)."""

from __future__ import annotations

import math

from redline_bore.core.errors import FitError
from redline_bore.core.extremes import (
    Extreme,
    largest_between,
    oval_between,
    smallest_between,
    two_directions_between,
    wear_between,
)
from redline_bore.core.frozen import frozen
from redline_bore.job.gauge.analysis import CylinderShape, Level, shape_of
from redline_bore.job.gauge.doubt import reading_doubt
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.job_state import JobState


@frozen
class Extremes:
    """Where the extremes of a cylinder truly lie, mm. None: its readings do not carry it.

    ``oval``: out-of-round (second harmonic, on diameter) of the level that is most so. ``two_directions``: what two directions differ by
    at most, where no level was read at three. ``wear`` on the mean diameter of a level. ``largest`` and ``smallest`` diameter, the doubt
    of the gauge's master and of temperature (all readings share them) counted in.
    """

    oval: Extreme | None
    two_directions: Extreme | None
    wear: Extreme | None
    largest: Extreme | None
    smallest: Extreme | None


@once_a_state
def extremes_of(state: JobState, cylinder: int, plate_on: bool) -> Extremes:
    """The extremes of a cylinder as it was gauged with the plate as asked."""
    shape, doubt = shape_of(state, cylinder, plate_on), reading_doubt(state)
    round_levels = [v for v in shape.levels if v.fit.harmonics_used]
    oval = two = largest = smallest = None
    if round_levels:
        amplitudes = [(v.fit.out_of_round_second_harmonic_mm or 0.0) / 2.0 for v in round_levels]
        chords, each = [v.fit.distinct_chords for v in round_levels], _sd(round_levels, doubt.own_mm)
        oval = oval_between(amplitudes, chords, each)
        means = [v.fit.mean_mm for v in round_levels]
        largest = _wider(largest_between(means, amplitudes, min(chords), each), doubt.shared_mm)
        smallest = _wider(smallest_between(means, amplitudes, min(chords), each), doubt.shared_mm)
    else:
        pairs = [v for v in shape.levels if len(v.spots) == 2]
        if pairs:
            two = two_directions_between(
                [v.spots[0].size_mm - v.spots[1].size_mm for v in pairs], _sd(pairs, doubt.own_mm)
            )
    return Extremes(oval, two, _wear(state, shape, doubt.own_mm), largest, smallest)


def _wear(state: JobState, shape: CylinderShape, own_mm: float) -> Extreme | None:
    if shape.wear is None:
        return None
    travel = state.travel
    worn = [v for v in shape.levels if travel.top_mm - 1e-6 <= v.depth_mm <= travel.bottom_mm + 1e-6]
    try:
        chords = min((v.fit.distinct_chords for v in worn), default=0)
        return wear_between([v.fit.mean_mm for v in worn], shape.wear.reference_mm, chords, _sd(worn, own_mm))
    except FitError:
        return None


def _sd(levels: list[Level], own_mm: float) -> float:
    """The random standard deviation of a place: what was read twice at every place counts for less."""
    times = min((s.count for v in levels for s in v.spots), default=1)
    return own_mm / math.sqrt(times)


def _wider(found: Extreme, shared_mm: float) -> Extreme:
    half = math.hypot(found.half_mm, 2.0 * shared_mm)
    return Extreme(found.middle_mm - half, found.middle_mm + half)


def wear_told(state: JobState, cylinder: int, plate_on: bool) -> float | None:
    """The wear of a cylinder as it is told in one figure, mm on diameter: freed of the gauge's noise, else as it was read."""
    ends, shape = extremes_of(state, cylinder, plate_on), shape_of(state, cylinder, plate_on)
    if ends.wear is not None:
        return max(ends.wear.middle_mm, 0.0)
    return None if shape.wear is None else shape.wear.largest_reading_mm
