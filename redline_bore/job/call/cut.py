"""What the bar or the hone having been in a hole means for the walls read of it."""

from __future__ import annotations

import math

from redline_bore.core.frozen import replace
from redline_bore.job.call.need import axis_shift
from redline_bore.job.gauge.analysis import shape_of
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.gauging import WallReading
from redline_bore.job.state.hole import cut_mm
from redline_bore.job.state.job_state import JobState


@once_a_state
def walls_as_gauged(state: JobState, cylinder: int) -> tuple[WallReading, ...]:
    """The walls read of a cylinder, each as thick as it stood before the hole was cut: one read since has what was taken there put back."""
    read = tuple(w for w in state.gauging.wall_readings if w.cylinder == cylinder)
    mean = shape_of(state, cylinder).mean_mm
    return read if mean is None else tuple(_as_gauged(state, w, mean) for w in read)


def _as_gauged(state: JobState, read: WallReading, mean_mm: float) -> WallReading:
    size = cut_mm(state, read.cylinder, read.seq)
    if size is None:
        return read
    t, (x, y) = math.radians(read.clock_deg), axis_shift(state, read.cylinder, read.depth_mm)
    taken = (size - mean_mm) / 2.0 + x * math.cos(t) + y * math.sin(t)
    return replace(read, wall_mm=read.wall_mm + taken)
