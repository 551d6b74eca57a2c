"""What speaks against the call that was taken, in words."""

from __future__ import annotations

from redline_bore.core.show import Show
from redline_bore.job.call.stand_by import Contradiction, contradictions
from redline_bore.job.redline import WrongPiston, wrong_pistons
from redline_bore.job.state.job_state import JobState


def against_words(state: JobState, show: Show, cylinder: int = 0) -> tuple[str, ...]:
    """Everything that speaks against the call, or what does in one cylinder; empty while it stands."""
    wrong = (wrong_piston_words(w, show) for w in wrong_pistons(state) if cylinder in (0, w.cylinder))
    return (*wrong, *(say_against(c, show) for c in contradictions(state) if cylinder in (0, c.cylinder)))


def wrong_piston_words(w: WrongPiston, show: Show) -> str:
    """A piston that is not one of the call, in a sentence."""
    sold, called = (
        "standard" if abs(over) < 1e-6 else f"{show.step(over)} over" for over in (w.sold_for_mm, w.called_mm)
    )
    return f"Piston {w.cylinder} measures {show.size(w.size_mm)}, as {sold} pistons do: these are not the pistons of this call, {called}."


def say_against(c: Contradiction, show: Show) -> str:
    """One contradiction as a sentence."""
    from redline_bore.job.words.fares import fares_words  # where something speaks against it
    from redline_bore.job.words.missing import UNTESTED
    from redline_bore.job.words.options import told_of

    if c.option is not None:
        told = told_of(c.option, show)
        return f"{told.title}: {told.standing}, was {c.was}; {told.reasons[0]}."
    assert c.fate is not None and c.then is not None
    fate, why = c.fate, "its readings changed"
    now = fate.column.cleanup
    if fate.column.cracked:
        why = UNTESTED
    elif fate.too_thin and fate.column.ceiling_mm is not None:
        why = f"its wall allows {show.size(fate.column.ceiling_mm)}"
    elif now is not None and c.then.high_mm is not None:
        why = f"it needed {show.size(c.then.high_mm)} at most, now {show.size(now.high_mm)}, and ends at {show.size(fate.end.least_mm)}"
    return (
        f"Cylinder {fate.cylinder} at {show.step(fate.oversize_mm)}: {fares_words(fate.fares)[0]}, was {c.was}; {why}."
    )
