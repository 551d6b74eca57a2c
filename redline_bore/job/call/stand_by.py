"""Standing by the call: what was booked since it was taken that speaks against it, and why."""

from __future__ import annotations

from typing import TYPE_CHECKING

from redline_bore.core.frozen import frozen
from redline_bore.job.call.ladder import Fares, Fate, ladder_of
from redline_bore.job.call.odds import chance_in, is_last, needed_chance
from redline_bore.job.redline import wrong_pistons
from redline_bore.job.state.calling import BasedOn, Decision
from redline_bore.job.state.job_state import JobState

if TYPE_CHECKING:
    from redline_bore.job.call.option import Option


@frozen
class Contradiction:
    """What speaks against the call since it was taken. was: how a cylinder, or the whole way, stood then; words that ledgers keep.

    fate: what the call comes to now in a cylinder, then: what it was based on. option: of a call that bores nothing, how it stands now.
    """

    was: str
    fate: Fate | None = None
    then: BasedOn | None = None
    option: Option | None = None

    @property
    def cylinder(self) -> int:
        """The cylinder it is about; 0: the block."""
        return 0 if self.fate is None else self.fate.cylinder


def contradictions(state: JobState) -> tuple[Contradiction, ...]:
    """Where readings booked since the call was taken speak against it; empty while it stands."""
    decision = state.calling.decision
    if decision is None or not decision.based_on:
        return ()
    if not decision.bores:
        return _against_light(state, decision)
    then = {b.cylinder: b for b in decision.based_on}
    found = (
        _against(state, f, then.get(f.cylinder)) for f in ladder_of(state).fates(decision.oversize_mm, decision.apart)
    )
    return tuple(c for c in found if c is not None)


_RANKS = {
    Fares.CRACKED: 0,
    Fares.WILL_NOT: 0,
    Fares.TOO_THIN: 0,
    Fares.MAY_SHADOW: 1,
    Fares.NOT_KNOWN: 1,
    Fares.CLEANS_UP: 2,
    Fares.SLEEVED: 3,
}


def _as_well(state: JobState, fate: Fate, then: BasedOn | None) -> bool:
    """Whether a cylinder fares as well as it did, or is likely enough to come out; what an older ledger calls by another word counts as not
    known. One that was proven, and may keep a shadow now, stands where that is as unlikely as pistons that come first ask for."""
    if then is None:
        return True
    was = Fares(then.verdict) if then.verdict in set(Fares) else Fares.NOT_KNOWN
    if fate.fares is Fares.MAY_SHADOW and fate.column.cleanup is not None:
        decision = state.calling.decision
        assert decision is not None
        p = chance_in(state, fate.cylinder, decision.oversize_mm, decision.apart)
        least = needed_chance(
            state,
            fate.cylinder,
            was is Fares.CLEANS_UP,
            is_last(ladder_of(state), decision.oversize_mm, decision.apart),
        )
        return p is None or p >= least - 1e-9
    return _RANKS[fate.fares] >= _RANKS[was]


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
    return _as_well(state, fate, then)


def _against(state: JobState, fate: Fate, then: BasedOn | None) -> Contradiction | None:
    if then is None or _as_well(state, fate, then):
        return None
    return Contradiction(then.verdict, fate, then)


def _against_light(state: JobState, decision: Decision) -> tuple[Contradiction, ...]:
    """A call that bores nothing stands while its option stands as well as it did."""
    from redline_bore.job.call.option import NO, RANK, Standing
    from redline_bore.job.call.options import options_of

    option = next(o for o in options_of(state) if o.key == decision.way)
    then = decision.based_on[0].verdict
    if RANK[option.standing] <= RANK.get(Standing(then) if then in set(Standing) else NO, RANK[NO]):
        return ()
    return (Contradiction(then, option=option),)
