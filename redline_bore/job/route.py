"""The route of a job: the steps it needs, in the order of the bench, and where it stands."""

from __future__ import annotations

from redline_bore.job.profiles.purpose import purpose
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.job_state import STEPS, JobState
from redline_bore.job.state.sleeving import Sleeving


def steps_of(state: JobState | None) -> tuple[str, ...]:
    """The steps of a job; a job shows only those it needs. Without a job, those that every job has."""
    return _needed(None) if state is None else _of_job(state)


@once_a_state
def _of_job(state: JobState) -> tuple[str, ...]:
    return _needed(state)


def _needed(state: JobState | None) -> tuple[str, ...]:
    left_out = {
        name
        for name, needed in (("bore", _bores(state)), ("sleeve", state is not None and sleeves(state)))
        if not needed
    }
    return tuple(step for step in STEPS if step not in left_out)


def _bores(state: JobState | None) -> bool:
    if state is None or state.boring.holes or state.signing.stamp("bore") is not None:
        return True
    if state.calling.decision is not None:
        return state.calling.decision.by_bar
    return purpose(state.book_in.purpose).bores


def sleeves(state: JobState) -> bool:
    """Whether a sleeve has to do with this job: by the call, by its purpose until the call is taken, or by its ledger."""
    if state.sleeving != Sleeving() or state.signing.stamp("sleeve") is not None:
        return True
    if state.calling.decision is not None:
        return any(a.way == "sleeve" for a in state.calling.decision.apart)
    return purpose(state.book_in.purpose).sleeves


def sleeved(state: JobState, cylinder: int) -> bool:
    """Whether the call, or a sleeve that was measured for it, says that a cylinder is sleeved."""
    by_call = state.calling.decision is not None and any(
        a.cylinder == cylinder and a.way == "sleeve" for a in state.calling.decision.apart
    )
    by_purpose = state.calling.decision is None and purpose(state.book_in.purpose).sleeves
    return by_call or by_purpose or state.sleeving.sleeve_of(cylinder) is not None


def stopped_by_crack(state: JobState, cylinder: int) -> bool:
    """Whether no metal is taken of a cylinder: it is cracked or was welded, no pressure test found it tight, and no sleeve goes over it."""
    return not sleeved(state, cylinder) and any(d.stops for d in state.gauging.defects_of(cylinder))


def sleeved_cylinders(state: JobState) -> tuple[int, ...]:
    return tuple(c for c in state.cylinders if sleeved(state, c))


def first_step(state: JobState) -> str:
    """The step after the last one that has a stamp; the last one when that has."""
    steps = steps_of(state)
    done = [steps.index(s.step) for s in state.signing.stamps if s.step in steps]
    return steps[min(max(done, default=-1) + 1, len(steps) - 1)]


def next_step(state: JobState, step: str) -> str:
    """The first step after one that has no stamp yet; the next one where all have."""
    steps = steps_of(state)
    ahead = steps[steps.index(step) + 1 :] or steps[-1:]
    return next((s for s in ahead if state.signing.stamp(s) is None), ahead[0])
