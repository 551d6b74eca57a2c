"""The hole as the bar left it."""

from __future__ import annotations

from redline_bore.job.state.boring import Bored
from redline_bore.job.state.job_state import JobState


def hole_of(state: JobState, cylinder: int) -> Bored | None:
    """The hole as the bar left it last, none from before a sleeve went in."""
    after = state.sleeving.after_of(cylinder)
    since = 0 if after is None else after.seq
    return next((b for b in reversed(state.boring.holes) if b.cylinder == cylinder and b.seq > since), None)
