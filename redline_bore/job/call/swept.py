"""What sweeps say a cylinder needs: the cut about the axis of the practice, and the bound on every place of the wall."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal

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
from redline_bore.job.call.sweeps import shift_at, swept_used
from redline_bore.job.gauge.analysis import CylinderShape, flaws_of, mark_of, rules_of
from redline_bore.job.gauge.round import SweptLevel
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
class SweptFound:
    """What sweeps say of a cylinder: what cleans it up, about which axis, and the flaw that decides."""

    cleanup: CleanUp
    swept: SweptNeed
    mark: Defect | None


def swept_need(state: JobState, cylinder: int, shape: CylinderShape, axis: str) -> SweptFound:
    """The bound about the cut's axis from the swept wall. Raises FitError with what to sweep."""
    cut = swept_cut(state, cylinder, axis)
    rules, levels = rules_of(state), swept_used(state, cylinder)
    unworn_mm = _sound_circle(state, cylinder, levels[-1]).radius_mm
    unread = _unread(state, cylinder, levels)
    bound = bound_of_sweeps(
        _turns(levels), cut.axis, _beyond(state, cylinder, levels, cut.axis, unworn_mm), unworn_mm,
        tuple(_mark(state, d, levels, cut.axis) for d in unread), rules.terms, axis == "crank line",
        () if state.travel.top_stated else (Lacks.STOP_NOT_MEASURED,),
    )  # fmt: skip
    largest = 0.0 if shape.largest is None else shape.largest.size_mm
    low = max(bound.low_mm, largest - rules.terms.low_two_mm)
    high = max(bound.high_mm, low)
    cleanup = CleanUp(low, min(max(cut.size_mm, low), high), high, -1, not bound.lacks, bound.lacks)
    swept = SweptNeed(cut.axis, bound.depth_mm, bound.clock_deg)
    return SweptFound(cleanup, swept, unread[bound.mark] if bound.mark >= 0 else None)


def _mark(state: JobState, flaw: Defect, levels: list[SweptLevel], axis: CutAxis) -> Mark:
    """A flaw as the bound counts it, under the worn wall; one that the cut laid open was measured from a hole about the cut's axis."""
    mark = mark_of(flaw, rules_of(state))
    if cut_mm(state, flaw.cylinder, flaw.seq) is None:
        return mark
    t, (x, y) = math.radians(mark.clock_deg), shift_at(levels, axis, mark.depth_mm)
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


def swept_wall_mm(state: JobState, cylinder: int, axis: CutAxis) -> float:
    """The diameter about an axis that reaches every place swept, mm: flaws that a sweep read are in it. Raises FitError with what to sweep."""
    return cut_of_sweeps(_turns(swept_used(state, cylinder)), (), 0.0, axis).size_mm


def unread_flaws(state: JobState, cylinder: int) -> list[Defect]:
    """The flaws a cut is to reach under that no sweep has read. Raises FitError with what to sweep."""
    return _unread(state, cylinder, swept_used(state, cylinder))


def _unread(state: JobState, cylinder: int, levels: list[SweptLevel]) -> list[Defect]:
    """The flaws a cut is to reach under that no sweep has read; what the cut itself laid open was there for none."""
    found = [d for d in flaws_of(state, cylinder) if d.is_cut_out]
    return [d for d in found if not _crossed(d, levels) or cut_mm(state, cylinder, d.seq) is not None]


def _crossed(defect: Defect, levels: list[SweptLevel]) -> bool:
    """A point of a sweep fell into the defect, by its depth and its angle: the sweep has read it."""
    through = [v for v in levels if defect.top_mm - 1e-6 <= v.sweep.depth_mm <= defect.bottom_mm + 1e-6]
    return any(
        abs((clock - defect.clock_deg + 180.0) % 360.0 - 180.0) <= defect.width_deg / 2.0 + 1e-6
        for v in through
        for clock in v.sweep.clock_deg
    )


def swept_cut(state: JobState, cylinder: int, axis: str) -> RequiredCut:
    """The cut that leaves no shadow about an axis policy. Raises FitError with what to sweep."""
    levels = swept_used(state, cylinder)
    turns, flaws = _turns(levels), _points(_unread(state, cylinder, levels))
    about = _axis(state, cylinder, levels, axis) if not axis.startswith("least metal") else None
    square: Literal["square", "leaning"] = "leaning" if axis.endswith("leaning") else "square"
    return cut_of_sweeps(turns, flaws, rules_of(state).skin_mm, about or square)


@frozen
class NeededAbout:
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
