"""What size a cylinder needs: by sweeps about the axis of the practice where it was swept, else the two-point interval."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal, NamedTuple

from redline_bore.core.axis import HoleAxis
from redline_bore.core.cleanup import CleanUp
from redline_bore.core.cleanup_bound import Lacks, Mark
from redline_bore.core.errors import FitError
from redline_bore.core.frozen import frozen
from redline_bore.core.line import line_through
from redline_bore.core.sweep import Circle, fit_sweep
from redline_bore.core.swept_cleanup import (
    CutAxis,
    PointDefect,
    RequiredCut,
    Turn,
    WallPoint,
    axis_through,
    bound_of_sweeps,
    cut_of_sweeps,
)
from redline_bore.job.gauge.analysis import CylinderShape, flaws_of, mark_of, rules_of, shape_of
from redline_bore.job.gauge.round import SweptLevel, swept_levels
from redline_bore.job.profiles.practice import practice
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.gauging import Defect
from redline_bore.job.state.hole import cut_mm
from redline_bore.job.state.job_state import JobState

NEAR_FLAW_MM, NEAR_FLAW_DEG = 1.0, 5.0  # so near a flaw the wall is not taken for sound


@frozen
class SweptNeed:
    """What sweeps say: where the cut stands, and the depth and clock angle that decide."""

    axis: CutAxis
    depth_mm: float
    clock_deg: float


@frozen
class Need:
    """What cleans a cylinder up. ``cleanup`` None: not known, ``reason`` says why.

    swept: about which axis, where sweeps carry it; ``why_two_point`` why they do not.
    """

    cylinder: int
    shape: CylinderShape
    cleanup: CleanUp | None
    swept: SweptNeed | None
    axis_title: str
    reason: str
    why_two_point: str
    mark: Defect | None = None  # the flaw that decides


@once_a_state
def need_of(state: JobState, cylinder: int) -> Need:
    """The need of a cylinder under the job's practices."""
    shape, axis = shape_of(state, cylinder), state.booking.practice("axis")
    title = practice("axis", axis).title
    try:
        cut = swept_cut(state, cylinder, axis)
    except FitError as error:
        reason = "" if shape.cleanup else (shape.why_not("cleanup") or "not gauged yet")
        if not shape.levels:
            reason = "not gauged yet"
        return Need(cylinder, shape, shape.cleanup, None, title, reason, str(error), shape.deciding_defect)
    return _swept_need(state, cylinder, shape, cut, title)


def _swept_need(state: JobState, cylinder: int, shape: CylinderShape, cut: RequiredCut, title: str) -> Need:
    """The bound about the cut's axis from the swept wall."""
    rules, levels = rules_of(state), _levels(state, cylinder)
    unworn_mm = _sound_circle(state, cylinder, levels[-1]).radius_mm
    unread = _unread(state, cylinder, levels)
    bound = bound_of_sweeps(
        _turns(levels), cut.axis, _beyond(state, cylinder, levels, cut.axis, unworn_mm), unworn_mm,
        tuple(_mark(state, d, levels, cut.axis) for d in unread), rules.terms, state.booking.practice("axis") == "crank line",
        () if state.travel.top_stated else (Lacks.STOP_NOT_MEASURED,),
    )  # fmt: skip
    largest = 0.0 if shape.largest is None else shape.largest.size_mm
    low = max(bound.low_mm, largest - rules.terms.low_two_mm)
    high = max(bound.high_mm, low)
    cleanup = CleanUp(low, min(max(cut.size_mm, low), high), high, -1, not bound.lacks, bound.lacks)
    swept = SweptNeed(cut.axis, bound.depth_mm, bound.clock_deg)
    return Need(cylinder, shape, cleanup, swept, title, "", "", unread[bound.mark] if bound.mark >= 0 else None)


def _mark(state: JobState, flaw: Defect, levels: list[SweptLevel], axis: CutAxis) -> Mark:
    """A flaw as the bound counts it, under the worn wall; one that the cut laid open was measured from a hole about the cut's axis."""
    mark = mark_of(flaw, rules_of(state))
    if cut_mm(state, flaw.cylinder, flaw.seq) is None:
        return mark
    t, (x, y) = math.radians(mark.clock_deg), _shift_at(levels, axis, mark.depth_mm)
    along = x * math.cos(t) + y * math.sin(t)
    high = None if mark.high_mm is None else max(mark.high_mm + along, 0.0)
    return Mark(mark.depth_mm, mark.clock_deg, max(mark.low_mm + along, 0.0), high)


def _sound_circle(state: JobState, cylinder: int, level: SweptLevel) -> Circle:
    """The circle of a sweep by its sound wall: a flaw that it crossed would draw centre and radius towards itself."""
    assert level.fit is not None
    sweep, flaws = level.sweep, state.gauging.defects_of(cylinder)
    near = [d for d in flaws if d.top_mm - NEAR_FLAW_MM <= sweep.depth_mm <= d.bottom_mm + NEAR_FLAW_MM]
    sound = [
        (clock, radius)
        for clock, radius in zip(sweep.clock_deg, sweep.radius_mm, strict=True)
        if not any(
            abs((clock - d.clock_deg + 180.0) % 360.0 - 180.0) <= d.width_deg / 2.0 + NEAR_FLAW_DEG for d in near
        )
    ]
    if len(sound) == len(sweep.clock_deg):
        return level.fit.least_squares
    try:
        return fit_sweep([p[0] for p in sound], [p[1] for p in sound]).least_squares
    except FitError:
        return level.fit.least_squares


def _beyond(
    state: JobState, cylinder: int, levels: list[SweptLevel], axis: CutAxis, unworn_mm: float
) -> tuple[WallPoint, ...]:
    """The unworn wall at the deck and at the end of the hole: as far off the cut's axis as the centres that were swept lead there."""
    z = [v.sweep.depth_mm for v in levels]
    circles = [_sound_circle(state, cylinder, v) for v in levels]
    x, y = line_through(z, [c.x_mm for c in circles]), line_through(z, [c.y_mm for c in circles])
    found = []
    for depth in (0.0, state.block.length_mm):
        share = depth / z[-1]
        dx = x.at(depth) - axis.deck_x_mm - share * (axis.deep_x_mm - axis.deck_x_mm)
        dy = y.at(depth) - axis.deck_y_mm - share * (axis.deep_y_mm - axis.deck_y_mm)
        found.append(WallPoint(unworn_mm + math.hypot(dx, dy), depth, math.degrees(math.atan2(dy, dx)) % 360.0))
    return tuple(found)


def _unread(state: JobState, cylinder: int, levels: list[SweptLevel]) -> list[Defect]:
    """The flaws a cut is to reach under that no sweep has read; what the cut itself laid open was there for none."""
    found = [d for d in flaws_of(state, cylinder) if d.is_cut_out]
    return [d for d in found if not _crossed(d, levels) or cut_mm(state, cylinder, d.seq) is not None]


def _crossed(defect: Defect, levels: list[SweptLevel]) -> bool:
    """A sweep went through the defect: it has read its depth."""
    return any(defect.top_mm - 1e-6 <= v.sweep.depth_mm <= defect.bottom_mm + 1e-6 for v in levels)


def swept_cut(state: JobState, cylinder: int, axis: str) -> RequiredCut:
    """The cut that leaves no shadow about an axis policy. Raises FitError with what to sweep."""
    levels = _levels(state, cylinder)
    turns, flaws = _turns(levels), _points(_unread(state, cylinder, levels))
    about = _axis(state, cylinder, levels, axis) if not axis.startswith("least metal") else None
    square: Literal["square", "leaning"] = "leaning" if axis.endswith("leaning") else "square"
    return cut_of_sweeps(turns, flaws, rules_of(state).skin_mm, about or square)


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


def sweep_depths(state: JobState) -> tuple[float, ...]:
    """Where a hole is swept, mm down: just under the top ring's stop, in the middle of the travel, and in the unworn bottom."""
    travel, f = state.travel, state.figures
    low, high = f.row("cleanup.stop_level")
    below = (travel.bottom_mm + state.block.length_mm) / 2.0
    return (
        round(travel.top_mm + (low + high) / 2.0, 1),
        float(round((travel.top_mm + travel.bottom_mm) / 2.0)),
        round(below, 1),
    )


def sweeps_missing(state: JobState, cylinder: int) -> tuple[float, ...]:
    """The depths that are still to be swept, for the sweeps to tell what cleans a cylinder up."""
    depths = [v.sweep.depth_mm for v in _found(state, cylinder)]
    travel, (low, high) = state.travel, state.figures.row("cleanup.stop_level")
    third = travel.length_mm / 3.0
    inside = (
        lambda d: travel.top_mm + low - 1e-6 <= d <= travel.top_mm + high + 1e-6,
        lambda d: travel.top_mm + third <= d <= travel.bottom_mm - third,
        lambda d: d > travel.bottom_mm + 1e-6,
    )
    return tuple(depth for depth, held in zip(sweep_depths(state), inside, strict=True) if not any(map(held, depths)))


def _found(state: JobState, cylinder: int) -> list[SweptLevel]:
    """Sweeps that carry a circle, with the plate as it stands, else the other way."""
    plates = [state.clamped.plate_on, not state.clamped.plate_on]
    return next((rows for p in plates if (rows := [v for v in swept_levels(state, cylinder, p) if v.fit])), [])


def _levels(state: JobState, cylinder: int) -> list[SweptLevel]:
    """The sweeps that a need may rest on: wear is worst under the ring's stop, and the unworn bottom is what it is counted from."""
    found = _found(state, cylinder)
    if sweeps_missing(state, cylinder):
        raise FitError("Two points cannot say on which side it wore: sweep it")
    return found


def _turns(levels: list[SweptLevel]) -> tuple[Turn, ...]:
    return tuple(Turn(v.sweep.depth_mm, v.sweep.clock_deg, v.sweep.radius_mm) for v in levels)


def _points(defects: Sequence[Defect]) -> tuple[PointDefect, ...]:
    """Each flaw at its middle, as deep as it may be."""
    return tuple(PointDefect((d.top_mm + d.bottom_mm) / 2.0, d.clock_deg, d.deep_high_mm) for d in defects)


def _axis(state: JobState, cylinder: int, levels: list[SweptLevel], axis: str) -> CutAxis:
    inside = [v for v in levels if v.sweep.depth_mm >= state.travel.top_mm]
    if axis == "crank line":
        if state.gauging.spindle is None or state.gauging.spindle.based_on != "mains":
            raise FitError("The crank line is known only from a spindle set up on the mains: spindle mains, and sweep")
        return axis_through(0.0, 0.0)
    chosen = inside[0] if axis == "under the ridge" else levels[-1]
    circle = _sound_circle(state, cylinder, chosen)
    return axis_through(circle.x_mm, circle.y_mm)


def axis_shift(state: JobState, cylinder: int, depth_mm: float) -> tuple[float, float]:
    """How far the cut's axis lies off the hole's own centre at a depth, mm (x to clock 0, y to 90); nought unswept."""
    need = need_of(state, cylinder)
    if need.swept is None:
        return 0.0, 0.0
    return _shift_at(_levels(state, cylinder), need.swept.axis, depth_mm)


def _shift_at(levels: list[SweptLevel], a: CutAxis, depth_mm: float) -> tuple[float, float]:
    level = min(levels, key=lambda v: abs(v.sweep.depth_mm - depth_mm))
    assert level.fit is not None
    share = level.sweep.depth_mm / max(v.sweep.depth_mm for v in levels)
    x = a.deck_x_mm + share * (a.deep_x_mm - a.deck_x_mm)
    y = a.deck_y_mm + share * (a.deep_y_mm - a.deck_y_mm)
    return x - level.fit.least_squares.x_mm, y - level.fit.least_squares.y_mm
