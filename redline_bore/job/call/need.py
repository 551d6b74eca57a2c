"""What size a cylinder needs: by sweeps about the axis of the practice where it was swept, else the two-point interval."""

from __future__ import annotations

from typing import TYPE_CHECKING

from redline_bore.core.cleanup import CleanUp
from redline_bore.core.errors import FitError
from redline_bore.core.frozen import frozen
from redline_bore.job.call.sweeps import shift_at, swept_used
from redline_bore.job.gauge.analysis import CylinderShape, shape_of
from redline_bore.job.profiles.practice import practice
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.gauging import Defect
from redline_bore.job.state.job_state import JobState

if TYPE_CHECKING:
    from redline_bore.core.axis import HoleAxis
    from redline_bore.job.call.swept import SweptNeed


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
        swept_used(state, cylinder)
        from redline_bore.job.call.swept import (
            swept_need,  # of a hole that was swept only: it is a twentieth of the start
        )

        found = swept_need(state, cylinder, shape, axis)
    except FitError as error:
        reason = "" if shape.cleanup else (shape.why_not("cleanup") or "not gauged yet")
        if not shape.levels:
            reason = "not gauged yet"
        return Need(cylinder, shape, shape.cleanup, None, title, reason, str(error), shape.deciding_defect)
    return Need(cylinder, shape, found.cleanup, found.swept, title, "", "", found.mark)


def cut_axis(state: JobState, cylinder: int) -> HoleAxis:
    """The cut's axis between the shallowest and the deepest sweep used. Raises FitError where it is not swept."""
    need, levels = need_of(state, cylinder), swept_used(state, cylinder)
    if need.swept is None:
        raise FitError(need.why_two_point)
    from redline_bore.core.axis import HoleAxis

    a, deepest = need.swept.axis, levels[-1].sweep.depth_mm
    share = levels[0].sweep.depth_mm / deepest
    return HoleAxis(
        a.deck_x_mm + share * (a.deep_x_mm - a.deck_x_mm), a.deck_y_mm + share * (a.deep_y_mm - a.deck_y_mm),
        a.deep_x_mm, a.deep_y_mm,
    )  # fmt: skip


def axis_shift(state: JobState, cylinder: int, depth_mm: float) -> tuple[float, float]:
    """How far the cut's axis lies off the hole's own centre at a depth, mm (x to clock 0, y to 90); nought unswept."""
    need = need_of(state, cylinder)
    if need.swept is None:
        return 0.0, 0.0
    return shift_at(swept_used(state, cylinder), need.swept.axis, depth_mm)
