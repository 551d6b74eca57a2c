"""The clearance there is now, of the pistons that were measured in the holes as they are: what leaving them so rests on (methods 7)."""

from __future__ import annotations

from enum import Enum, auto

from redline_bore.core.fit import Decision, guard_band
from redline_bore.core.frozen import frozen
from redline_bore.job.gauge.analysis import shape_of
from redline_bore.job.gauge.doubt import clearance_doubt
from redline_bore.job.redline import leading_window
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.job_state import JobState


class There(Enum):
    """How the clearances there are stand. The first that holds is told."""

    TIGHT = auto()  # under the window somewhere
    WIDE = auto()
    NOT_MEASURED = auto()
    CLOSE = auto()  # too close to an end to be sure
    IN = auto()


@frozen
class ClearanceThere:
    """How it stands, the cylinders it is about, and the least and the most clearance of all that were measured, mm."""

    stands: There
    cylinders: tuple[int, ...] = ()
    least_mm: float | None = None
    most_mm: float | None = None


@once_a_state
def clearance_there(state: JobState) -> ClearanceThere:
    """The clearance of every measured piston at the smallest and the largest place read of its hole, against the window that leads."""
    window, found, missing = leading_window(state), {}, []
    ends = []
    for cylinder in state.cylinders:
        piston, spots = state.calling.piston(cylinder), shape_of(state, cylinder).spots
        if piston is None or not spots:
            missing.append(cylinder)
            continue
        least, most = (pick(s.size_mm for s in spots) - piston.size_mm for pick in (min, max))
        ends += [least, most]
        u = clearance_doubt(state, piston.size_mm + least, piston.size_mm)
        found[cylinder] = _stands(guard_band(least, window, u), guard_band(most, window, u), least < window.low_mm)
    for stands in There:
        about = tuple(missing) if stands is There.NOT_MEASURED else tuple(c for c, s in found.items() if s is stands)
        if about:
            return ClearanceThere(stands, about, min(ends, default=None), max(ends, default=None))
    return ClearanceThere(There.NOT_MEASURED, tuple(state.cylinders))


def _stands(least: Decision, most: Decision, under: bool) -> There:
    if least is Decision.OUT and under:
        return There.TIGHT
    if Decision.OUT in (least, most):
        return There.WIDE
    return There.IN if least is most is Decision.IN else There.CLOSE
