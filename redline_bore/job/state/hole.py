"""The hole as the bar left it, and the hone after it."""

from __future__ import annotations

from redline_bore.job.state.boring import Bored
from redline_bore.job.state.job_state import JobState


def hole_of(state: JobState, cylinder: int) -> Bored | None:
    """The hole as the bar left it last, none from before a sleeve went in."""
    after = state.sleeving.after_of(cylinder)
    since = 0 if after is None else after.seq
    return next((b for b in reversed(state.boring.holes) if b.cylinder == cylinder and b.seq > since), None)


def cut_mm(state: JobState, cylinder: int, before: int | None = None) -> float | None:
    """What a bar or a hone had made of a hole ``before`` that place in the ledger (None: by now), the mean in mm at 20 C; None where neither
    was in it. What it was worn to is gone then, and no reading of the hole settles anything. A hone that only breaks the glaze makes no size."""
    bored = [(b.seq, b.mean_mm) for b in state.boring.holes if b.cylinder == cylinder]
    taken = state.calling.decision
    checks = state.honing.checks_of(cylinder) if taken is None or taken.bores else ()
    honed = [
        (c.seq, c.mean_mm) for n, c in enumerate(checks) if c.strokes > 0.0 or any(b.strokes > 0.0 for b in checks[:n])
    ]
    made = [m for m in (*bored, *honed) if before is None or m[0] < before]
    return max(made)[1] if made else None
