"""Standing by the call: what was booked since it was taken that speaks against it, and why."""

from __future__ import annotations

from redline_bore.core.cleanup import Verdict
from redline_bore.core.show import Show
from redline_bore.job.call.finish_sizes import wrong_pistons
from redline_bore.job.call.ladder import NOT_KNOWN, SLEEVED, TOO_THIN, Fate, ladder_of
from redline_bore.job.call.option import NO, RANK, Standing
from redline_bore.job.call.options import options_of
from redline_bore.job.state.calling import BasedOn, Decision
from redline_bore.job.state.job_state import JobState


def contradictions(state: JobState, show: Show) -> tuple[str, ...]:
    """Where readings booked since the call was taken speak against it; empty while it stands."""
    decision = state.calling.decision
    if decision is None or not decision.based_on:
        return ()
    if not decision.bores:
        return _against_light(state, decision)
    ladder = ladder_of(state)
    then = {b.cylinder: b for b in decision.based_on}
    return tuple(
        text
        for fate in ladder.fates(decision.oversize_mm, decision.apart)
        if (text := _against(fate, then.get(fate.cylinder), show))
    )


_RANKS = {  # how well each fate stands; the words are those kept in ledgers since 0.3
    str(Verdict.WILL_NOT): 0,
    TOO_THIN: 0,
    str(Verdict.MAY_SHADOW): 1,
    NOT_KNOWN: 1,
    str(Verdict.CLEANS_UP): 2,
    SLEEVED: 3,
}


def call_stands(state: JobState, cylinder: int) -> bool:
    """Whether nothing that was booked since the call speaks against it in a cylinder: its piston is one of the call, it still does there
    what it did when the call was taken."""
    decision = state.calling.decision
    if decision is None or not decision.bores:
        return True
    if any(w.cylinder == cylinder for w in wrong_pistons(state)):
        return False
    fate = ladder_of(state).fates(decision.oversize_mm, decision.apart)[cylinder - 1]
    then = next((b for b in decision.based_on if b.cylinder == cylinder), None)
    return then is None or _RANKS[fate.word] >= _RANKS.get(then.verdict, 1)


def _against(fate: Fate, then: BasedOn | None, show: Show) -> str:
    if then is None or _RANKS[fate.word] >= _RANKS.get(then.verdict, 1):
        return ""
    now, why = fate.column.cleanup, ""
    if fate.too_thin and fate.column.ceiling_mm is not None:
        why = f"its wall allows {show.size(fate.column.ceiling_mm)}"
    elif now is not None and then.high_mm is not None:
        why = f"it needed {show.size(then.high_mm)} at most, now {show.size(now.high_mm)}, and ends at {show.size(fate.end.least_mm)}"
    return f"Cylinder {fate.cylinder} at {show.step(fate.oversize_mm)}: {fate.word}, was {then.verdict}; {why or 'its readings changed'}."


def _against_light(state: JobState, decision: Decision) -> tuple[str, ...]:
    """A call that bores nothing stands while its option stands as well as it did."""
    option = next(o for o in options_of(state) if o.key == decision.way)
    then = decision.based_on[0].verdict
    if RANK[option.standing] <= RANK.get(Standing(then) if then in set(Standing) else NO, RANK[NO]):
        return ()
    return (f"{option.title}: {option.standing}, was {then}; {option.reasons[0]}.",)
