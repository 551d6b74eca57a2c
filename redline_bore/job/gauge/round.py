"""Round and straight, beyond two points: sweeps, the axis of the hole, three-point readings, the slice at a depth.

What each gauge cannot see is said beside what it tells. Roundness is on radius, out of round on diameter.
"""

from __future__ import annotations

from functools import lru_cache
from typing import TYPE_CHECKING, NamedTuple

from redline_bore.core.doubt import LevelDoubt
from redline_bore.core.errors import FitError
from redline_bore.core.frozen import frozen
from redline_bore.job.gauge.analysis import SAME_DEPTH_MM, Level, shape_of
from redline_bore.job.gauge.doubt import shape_doubt
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.gauging import Sweep
from redline_bore.job.state.job_state import JobState

if TYPE_CHECKING:
    from redline_bore.core.axis import CylinderFit
    from redline_bore.core.sweep import SweepFit
    from redline_bore.core.three_point import ThreePointFit


@frozen
class SweptLevel:
    """A sweep and what it says; ``fit`` None with its reason where it carries no circle."""

    sweep: Sweep
    fit: SweepFit | None
    why_not: str


@frozen
class ThreePointLevel:
    depth_mm: float
    fit: ThreePointFit


@frozen
class Slice:
    """All that was read nearest to a depth in one cylinder: by two points, by three, by a sweep."""

    depth_mm: float
    level: Level | None
    doubt: LevelDoubt | None
    three: ThreePointLevel | None
    swept: SweptLevel | None


@once_a_state
def swept_levels(state: JobState, cylinder: int, plate_on: bool | None = None) -> tuple[SweptLevel, ...]:
    """The sweeps of a cylinder's last spindle set-up, the newest at each depth, shallowest first."""
    newest = {round(s.depth_mm, 1): s for s in state.gauging.sweeps_of(cylinder, plate_on)}
    return tuple(_swept(newest[depth]) for depth in sorted(newest))


@lru_cache(maxsize=512)  # a sweep never changes, so neither does what it says
def _swept(sweep: Sweep) -> SweptLevel:
    from redline_bore.core.sweep import fit_sweep

    try:
        return SweptLevel(sweep, fit_sweep(sweep.clock_deg, sweep.radius_mm), "")
    except FitError as error:
        return SweptLevel(sweep, None, str(error))


class AxisFound(NamedTuple):
    """The axis of a hole; None, and what to sweep."""

    fit: CylinderFit | None
    missing: str


@once_a_state
def axis_of(state: JobState, cylinder: int, plate_on: bool | None = None) -> AxisFound:
    """The axis of a hole off the spindle's, and why it is not known."""
    from redline_bore.core.axis import fit_cylinder

    sweeps = [v.sweep for v in swept_levels(state, cylinder, plate_on) if v.fit is not None]
    if not sweeps:
        return AxisFound(
            None,
            "No sweep was taken; two-point readings cannot show a crooked hole: a tilted round hole reads round",
        )
    try:
        fit = fit_cylinder([s.depth_mm for s in sweeps], [s.clock_deg for s in sweeps], [s.radius_mm for s in sweeps])
    except FitError as error:
        return AxisFound(None, str(error))
    return AxisFound(fit, "")


def is_crooked(state: JobState, fit: CylinderFit) -> bool:
    """The axis moves further than the limit, by more than its doubt."""
    return fit.axis.drift_mm - 2.0 * fit.drift_sd_mm > state.figures.number("gauging.crooked_drift")


def three_point_levels(state: JobState, cylinder: int, plate_on: bool | None = None) -> tuple[ThreePointLevel, ...]:
    """Three-point readings by level, shallowest first."""
    from redline_bore.core.three_point import fit_three_point

    groups: dict[float, list[tuple[float, float]]] = {}
    for r in sorted(state.gauging.three_points_of(cylinder, plate_on), key=lambda r: r.depth_mm):
        near = next((d for d in groups if abs(d - r.depth_mm) < SAME_DEPTH_MM), r.depth_mm)
        groups.setdefault(near, []).append((r.clock_deg, r.size_mm))
    return tuple(
        ThreePointLevel(depth, fit_three_point([p[0] for p in rows], [p[1] for p in rows]))
        for depth, rows in groups.items()
    )


def depths_read(state: JobState, cylinder: int, plate_on: bool) -> tuple[float, ...]:
    """Every depth at which anything round was read, shallowest first."""
    found = {round(v.depth_mm, 1) for v in shape_of(state, cylinder, plate_on).levels}
    found |= {round(v.depth_mm, 1) for v in three_point_levels(state, cylinder, plate_on)}
    found |= {round(v.sweep.depth_mm, 1) for v in swept_levels(state, cylinder, plate_on)}
    return tuple(sorted(found))


def slice_at(state: JobState, cylinder: int, depth_mm: float, plate_on: bool) -> Slice:
    """What was read at the depth nearest to ``depth_mm``, by every gauge."""
    depths = depths_read(state, cylinder, plate_on)
    if not depths:
        return Slice(depth_mm, None, None, None, None)
    depth = min(depths, key=lambda d: abs(d - depth_mm))
    shape = shape_of(state, cylinder, plate_on)
    at = next((i for i, v in enumerate(shape.levels) if abs(v.depth_mm - depth) < SAME_DEPTH_MM), None)
    return Slice(
        depth,
        None if at is None else shape.levels[at],
        None if at is None else shape_doubt(state, shape).levels[at],
        next(
            (v for v in three_point_levels(state, cylinder, plate_on) if abs(v.depth_mm - depth) < SAME_DEPTH_MM), None
        ),
        next(
            (v for v in swept_levels(state, cylinder, plate_on) if abs(v.sweep.depth_mm - depth) < SAME_DEPTH_MM), None
        ),
    )
