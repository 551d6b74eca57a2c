"""What size a cylinder needs: by sweeps about the axis of the practice where it was swept, else the two-point interval."""

from __future__ import annotations

from typing import NamedTuple

from redline_bore.core.axis import HoleAxis
from redline_bore.core.cleanup import CleanUp
from redline_bore.core.errors import FitError
from redline_bore.core.frozen import frozen
from redline_bore.core.swept_cleanup import (
    CutAxis,
    PointDefect,
    RequiredCut,
    SweptWall,
    axis_through,
    least_metal,
    required_about,
    swept_wall,
)
from redline_bore.core.wall import WallSpot, largest_diameter
from redline_bore.job.gauge.analysis import CylinderShape, rules_of, shape_of, wall_limits
from redline_bore.job.gauge.doubt import reading_doubt
from redline_bore.job.gauge.round import SweptLevel, swept_levels
from redline_bore.job.profiles.practice import practice
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.job_state import JobState

LEAST_SWEEPS = 2


@frozen
class Need:
    """What cleans a cylinder up. ``cleanup`` None: not known, ``reason`` says why.

    swept: the exact cut about ``axis_title`` where sweeps carry it; ``why_two_point`` why they do not.
    """

    cylinder: int
    shape: CylinderShape
    cleanup: CleanUp | None
    swept: RequiredCut | None
    axis_title: str
    reason: str
    why_two_point: str


@once_a_state
def need_of(state: JobState, cylinder: int) -> Need:
    """The need of a cylinder under the job's practices."""
    shape = shape_of(state, cylinder)
    try:
        cut = swept_cut(state, cylinder, state.booking.practice("axis"))
    except FitError as error:
        reason = "" if shape.cleanup else (shape.why_not("cleanup") or "not gauged yet")
        if not shape.levels:
            reason = "not gauged yet"
        return Need(cylinder, shape, shape.cleanup, None, "the unworn bottom of the hole", reason, str(error))
    u = 2.0 * reading_doubt(state).expanded_u_mm  # a radius counts twice in the size
    least = 0.0 if shape.largest is None else shape.largest.size_mm + 2.0 * rules_of(state).skin_mm
    size = max(cut.size_mm, least)
    cleanup = CleanUp(max(size - u, least), size, size + u, -1, True)
    return Need(cylinder, shape, cleanup, cut, practice("axis", state.booking.practice("axis")).title, "", "")


def swept_cut(state: JobState, cylinder: int, axis: str) -> RequiredCut:
    """The cut that leaves no shadow about an axis policy. Raises FitError with what to sweep."""
    levels = _levels(state, cylinder)
    wall, skin = _wall(state, cylinder, levels), rules_of(state).skin_mm
    if axis.startswith("least metal"):
        return least_metal(wall, skin, tilted=axis.endswith("leaning"))
    return required_about(wall, _axis(state, levels, axis), skin)


class NeededAbout(NamedTuple):
    """The size that sweeps ask for, mm; None, and what to sweep."""

    size_mm: float | None
    missing: str


@once_a_state
def needed_about(state: JobState, cylinder: int, axis: str) -> NeededAbout:
    """The size in mm that sweeps ask for about an axis, or None and what to sweep; to set axes side by side."""
    try:
        return NeededAbout(swept_cut(state, cylinder, axis).size_mm, "")
    except FitError as error:
        return NeededAbout(None, str(error))


def swept_used(state: JobState, cylinder: int) -> list[SweptLevel]:
    """The sweeps that the need of a cylinder rests on. Raises FitError with what to sweep."""
    return _levels(state, cylinder)


def cut_axis(state: JobState, cylinder: int) -> HoleAxis:
    """The cut's axis between the shallowest and the deepest sweep used. Raises FitError where it is not swept."""
    need, levels = need_of(state, cylinder), _levels(state, cylinder)
    if need.swept is None:
        raise FitError(need.why_two_point)
    a, deepest = need.swept.axis, levels[-1].sweep.depth_mm
    share = levels[0].sweep.depth_mm / deepest
    return HoleAxis(
        a.deck_x_mm + share * (a.deep_x_mm - a.deck_x_mm), a.deck_y_mm + share * (a.deep_y_mm - a.deck_y_mm),
        a.deep_x_mm, a.deep_y_mm,
    )  # fmt: skip


def _levels(state: JobState, cylinder: int) -> list[SweptLevel]:
    """Sweeps that carry a circle, with those under the ring stop among them: wear is worst there."""
    plates = [state.clamped.plate_on, not state.clamped.plate_on]
    found = next((rows for p in plates if (rows := [v for v in swept_levels(state, cylinder, p) if v.fit])), [])
    if len(found) < LEAST_SWEEPS:
        raise FitError("Two points cannot say on which side it wore: sweep it at two depths or more")
    travel = state.travel
    worst = [v for v in found if travel.top_mm <= v.sweep.depth_mm <= travel.top_mm + 0.2 * travel.length_mm]
    if not worst:
        raise FitError("It is not swept just under the top ring's stop, where it wears most: sweep it there too")
    return found


def _wall(state: JobState, cylinder: int, levels: list[SweptLevel]) -> SweptWall:
    defects = [
        PointDefect((d.top_mm + d.bottom_mm) / 2.0, d.clock_deg, d.deep_high_mm)
        for d in state.gauging.defects_of(cylinder)
    ]
    return swept_wall(
        [v.sweep.depth_mm for v in levels],
        [v.sweep.clock_deg for v in levels],
        [v.sweep.radius_mm for v in levels],
        defects,
    )


def _axis(state: JobState, levels: list[SweptLevel], axis: str) -> CutAxis:
    inside = [v for v in levels if v.sweep.depth_mm >= state.travel.top_mm]
    if axis == "crank line":
        if state.gauging.spindle is None or state.gauging.spindle.based_on != "mains":
            raise FitError("The crank line is known only from a spindle set up on the mains: spindle mains, and sweep")
        return axis_through(0.0, 0.0)
    chosen = inside[0] if axis == "under the ridge" else levels[-1]
    assert chosen.fit is not None
    return axis_through(chosen.fit.least_squares.x_mm, chosen.fit.least_squares.y_mm)


def wall_spots(state: JobState, cylinder: int) -> list[WallSpot]:
    """Where the wall was read, on the present hole."""
    mean = shape_of(state, cylinder).mean_mm
    if mean is None:
        return []
    return [
        WallSpot(w.clock_deg, w.depth_mm, w.wall_mm, mean / 2.0, w.zone)
        for w in state.gauging.wall_readings
        if w.cylinder == cylinder
    ]


def axis_shift(state: JobState, cylinder: int, depth_mm: float) -> tuple[float, float]:
    """How far the cut's axis lies off the hole's own centre at a depth, mm (x to clock 0, y to 90); nought unswept."""
    need = need_of(state, cylinder)
    if need.swept is None:
        return 0.0, 0.0
    levels = _levels(state, cylinder)
    level = min(levels, key=lambda v: abs(v.sweep.depth_mm - depth_mm))
    assert level.fit is not None
    a, share = need.swept.axis, level.sweep.depth_mm / max(v.sweep.depth_mm for v in levels)
    x = a.deck_x_mm + share * (a.deep_x_mm - a.deck_x_mm)
    y = a.deck_y_mm + share * (a.deep_y_mm - a.deck_y_mm)
    return x - level.fit.least_squares.x_mm, y - level.fit.least_squares.y_mm


def wall_ceiling(state: JobState, cylinder: int) -> float | None:
    """Largest bore in mm that leaves every wall read its limit, about the cut's axis; None: no wall was read."""
    limits = wall_limits(state)
    sizes = [
        size
        for spot in wall_spots(state, cylinder)
        if (size := largest_diameter([spot], limits, *axis_shift(state, cylinder, spot.depth_mm))) is not None
    ]
    return min(sizes) if sizes else None


def unread_zones(state: JobState, cylinder: int) -> tuple[str, ...]:
    """Zones of the wall that nobody read; each stays unknown."""
    read = {w.zone for w in state.gauging.wall_readings if w.cylinder == cylinder}
    return tuple(zone for zone in wall_limits(state) if zone not in read)
