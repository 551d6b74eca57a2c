"""The gauge study at the bench: which spot next, how many more, what it found and what that is used for."""

from __future__ import annotations

from redline_bore.core.frozen import frozen
from redline_bore.job.state.comparing import Study
from redline_bore.job.state.job_state import JobState

REPEATS = 5


@frozen(often=True)
class StudySpot:
    """A spot of the study: a place of the plan, and its name in the ledger."""

    level: int
    clock: int
    name: str


def spots_of(state: JobState) -> tuple[StudySpot, ...]:
    """Three spots of one cylinder: near the top, the middle and the bottom of the plan, on its first chord."""
    last = len(state.gauging.plan.depths_mm) - 1
    levels = sorted({0 if last < 2 else 1, last // 2 + (last % 2), last})
    return tuple(
        StudySpot(lv, 0, f"{state.gauging.plan.letter(lv)} {state.gauging.plan.clocks_deg[0]:g}°") for lv in levels
    )


def current(state: JobState) -> Study | None:
    """The study begun last."""
    return state.comparing.studies[-1] if state.comparing.studies else None


def count_at(taken: Study, person: str, spot: str) -> int:
    return sum(v.operator == person and v.spot == spot for v in taken.values)


def next_spot(state: JobState, person: str) -> StudySpot | None:
    """Where this person reads next; None when they have read every spot often enough."""
    taken = current(state)
    if taken is None:
        return None
    return next((s for s in spots_of(state) if count_at(taken, person, s.name) < REPEATS), None)


def operators(taken: Study) -> tuple[str, ...]:
    return tuple(dict.fromkeys(v.operator for v in taken.values))
