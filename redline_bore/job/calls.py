"""Findings that rest on more than one step, put together."""

from __future__ import annotations

from redline_bore.job.hone.finding import HoneFinding, WallBefore, judge
from redline_bore.job.state.job_state import JobState


def wall_before(state: JobState, cylinder: int) -> WallBefore:
    """What the traces of a cylinder say of its wall before the plateau."""
    if not state.finishing.traces_of(cylinder):
        return WallBefore.NOT_TRACED
    from redline_bore.job.finish.judgement import (  # texture: where one was traced
        finish_of,
        missing_valleys,
        traces_before,
    )

    if missing_valleys(finish_of(state, cylinder)) is not None:
        return WallBefore.VALLEYS_MISSING
    return WallBefore.TRACED if traces_before(state, cylinder) else WallBefore.NOT_TRACED


def hone_call(state: JobState, cylinder: int) -> HoneFinding:
    """What to do now with a cylinder at the hone."""
    return judge(state, cylinder, wall_before(state, cylinder))
