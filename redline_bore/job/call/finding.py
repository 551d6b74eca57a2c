"""The call at a size: what it does with every cylinder, as one finding. No words."""

from __future__ import annotations

from collections.abc import Sequence
from enum import Enum, auto

from redline_bore.core.cleanup import Verdict
from redline_bore.core.frozen import frozen, replace
from redline_bore.job.call.asks import Ask, AskFor, asks_at, look_first, proofs_among
from redline_bore.job.call.clearance_there import There, clearance_there
from redline_bore.job.call.hone_out import hones_out
from redline_bore.job.call.ladder import Fate, Ladder, ladder_of, within_limits
from redline_bore.job.call.odds import Likely, chance_at, likely, odds_told, pistons_first, worth_taking
from redline_bore.job.call.stand_by import call_stands
from redline_bore.job.call.ways_there import Road, WayThere, ways_there
from redline_bore.job.state.calling import Apart
from redline_bore.job.state.job_state import JobState


class CallVerdict(Enum):
    """How a call at a size stands. The first that holds is told."""

    CRACKED = auto()  # or welded, and not pressure-tested tight
    NOT_GAUGED = auto()  # no cylinder at all
    NOT_KNOWN = auto()  # a cylinder whose need is not known
    CUT = auto()  # as called, every cylinder: what it was worn to cannot be read any more
    LEAVE = auto()  # every cylinder inside the limits for leaving it, and its piston in its window
    LEAVE_ONCE_MEASURED = auto()  # inside the limits, and a piston not measured
    LEAVE_TOO_CLOSE = auto()  # inside the limits, and a clearance too close to an end of its window to be sure
    NO_RUNGS = auto()  # nobody said which pistons exist
    TOO_THIN = auto()
    WILL_NOT = auto()  # some will not clean up
    MAY_SHADOW = auto()
    LIKELY = auto()  # every cylinder likely cleans up, and not all are proven
    BORE = auto()


class Smaller(Enum):
    """Whether a smaller size would do."""

    NONE = auto()
    MAY = auto()
    WOULD = auto()


@frozen
class CallFinding:
    """``verdict`` at ``oversize_mm`` over nominal, mm. cylinders: those it is about; of CUT those that may keep a shadow, not looked into, the
    hone not in them yet.

    fates: of every cylinder. unread: walls not fully read, so that what is left of them is not known; may_be_thin: read, and within
    their doubt of the limit. smaller_mm: the smallest size that may do, where it is under this one; with_pistons_mm: a smaller one that
    would surely do if its pistons measured as large as they are sold. asks: what is worth reading before metal, all of it; proofs: what
    would prove it. chance: that every cylinder is clean, 0 to 1, None where one is not known; odds_told: it may be told in figures. ways: to
    this size or the next, the cheapest first. look_first: the holes that are looked into once bored, the first of them before any other.
    """

    verdict: CallVerdict
    ladder: Ladder
    oversize_mm: float
    apart: tuple[Apart, ...]
    fates: tuple[Fate, ...]
    cylinders: tuple[int, ...] = ()
    unread: tuple[int, ...] = ()
    smaller: Smaller = Smaller.NONE
    smaller_mm: float | None = None
    may_be_thin: tuple[int, ...] = ()
    asks: tuple[Ask, ...] = ()
    with_pistons_mm: float | None = None
    look_first: tuple[int, ...] = ()
    by_hone: bool = False  # no bar: the hone alone takes it there
    untested: tuple[int, ...] = ()  # sleeved, cracked or welded, and not pressure-tested
    chance: float | None = None
    odds_told: bool = False
    proofs: tuple[Ask, ...] = ()
    ways: tuple[WayThere, ...] = ()
    pistons_first: bool = False  # they are here, or to be before the bar cuts

    @property
    def likely(self) -> Likely:
        """What is said of the chance."""
        return likely(self.chance or 0.0)

    @property
    def sure(self) -> bool:
        """The call can be taken with nothing left to measure."""
        return self.verdict in (CallVerdict.LEAVE, CallVerdict.CUT) or (
            self.verdict is CallVerdict.BORE and not self.unread and not self.may_be_thin and not self.untested
        )

    @property
    def settled(self) -> bool:
        """It may be taken as it stands: nothing is left that is worth reading first, proven or not."""
        goes = self.verdict in (CallVerdict.BORE, CallVerdict.LIKELY, CallVerdict.CUT) or bool(
            self.look_first and self._worth
        )
        return self.sure or (goes and not (self.asks or self.untested or self.may_be_thin))

    @property
    def _worth(self) -> bool:
        return bool(self.ways) and self.ways[0].way is not Road.NEXT

    @property
    def can_be_taken(self) -> bool:
        """Every cylinder is known and none is known to fail at that size."""
        listed = bool(self.ladder.rungs_mm) or self.all_sleeved or self.by_hone
        return listed and self.ladder.possible(self.oversize_mm, self.apart)

    @property
    def all_sleeved(self) -> bool:
        """Every cylinder gets a sleeve: no oversize piston is asked for."""
        return bool(self.fates) and all(f.sleeved for f in self.fates)


_LEFT = {
    There.IN: CallVerdict.LEAVE,
    There.NOT_MEASURED: CallVerdict.LEAVE_ONCE_MEASURED,
    There.CLOSE: CallVerdict.LEAVE_TOO_CLOSE,
}


def judge(state: JobState, oversize_mm: float, apart: Sequence[Apart] = ()) -> CallFinding:
    """The call with the redline at ``oversize_mm`` over nominal, mm, and some cylinders apart from it."""
    ladder = ladder_of(state)
    fates = ladder.fates(oversize_mm, apart)

    asks = asks_at(state, ladder, oversize_mm, tuple(apart))
    by_hone = not apart and hones_out(state)
    p = chance_at(state, oversize_mm, tuple(apart))
    untested = tuple(f.cylinder for f in fates if f.sleeved and f.column.untested)

    def found(verdict: CallVerdict, *cylinders: int) -> CallFinding:
        return CallFinding(
            verdict, ladder, oversize_mm, tuple(apart), fates, cylinders, asks=asks, by_hone=by_hone,
            look_first=look_first(state, ladder, oversize_mm, tuple(apart)), untested=untested, chance=p,
            odds_told=odds_told(state), proofs=proofs_among(state, ladder, fates), ways=ways_there(state, oversize_mm, tuple(apart)),
            pistons_first=pistons_first(state, ladder, oversize_mm),
        )  # fmt: skip

    if cracked := [f.cylinder for f in fates if not f.sleeved and f.column.cracked]:
        return found(CallVerdict.CRACKED, *cracked)
    if unknown := [f.cylinder for f in fates if not f.sleeved and f.verdict is None]:
        nothing = len(unknown) == len(ladder.columns) and not any(c.shape.levels for c in ladder.columns)
        return found(CallVerdict.NOT_GAUGED if nothing else CallVerdict.NOT_KNOWN, *unknown)
    if _cut_as_called(state, oversize_mm, tuple(apart), fates) and not any(a.what is AskFor.MARK for a in asks):
        doubtful = (f.cylinder for f in fates if not f.sleeved and f.verdict is Verdict.MAY_SHADOW)
        cut = found(CallVerdict.CUT, *(c for c in doubtful if not state.honing.checks_of(c)))
        return replace(cut, unread=_unread(fates), may_be_thin=_may_be_thin(fates))
    if (left := _left(state, apart)) is not None:
        return found(*left)
    if not (ladder.rungs_mm or by_hone or all(f.sleeved for f in fates)):
        return found(CallVerdict.NO_RUNGS)
    if thin := [f.cylinder for f in fates if not f.sleeved and f.too_thin]:
        return found(CallVerdict.TOO_THIN, *thin)
    if fails := [f.cylinder for f in fates if f.fails]:
        return found(CallVerdict.WILL_NOT, *fails)
    if shadow := [f.cylinder for f in fates if not f.sleeved and f.verdict is Verdict.MAY_SHADOW]:
        verdict = CallVerdict.LIKELY if p is not None and likely(p) >= Likely.EIGHT else CallVerdict.MAY_SHADOW
        told = found(verdict, *shadow)
    else:
        told = found(CallVerdict.BORE, *(f.cylinder for f in fates if f.common))
    smaller = _smaller(state, ladder, oversize_mm)
    return replace(
        told, unread=_unread(fates), may_be_thin=_may_be_thin(fates), smaller=smaller[0], smaller_mm=smaller[1],
        with_pistons_mm=_with_pistons(ladder, oversize_mm),
    )  # fmt: skip


def _left(state: JobState, apart: Sequence[Apart]) -> tuple[CallVerdict, *tuple[int, ...]] | None:
    """Whether nothing of the holes asks for a bar, and what is to be said of the clearance there is; with the cylinders it is about."""
    if apart or not within_limits(state):
        return None
    there = clearance_there(state)
    verdict = _LEFT.get(there.stands)
    if verdict is None:
        return None
    return (verdict,) if verdict is CallVerdict.LEAVE else (verdict, *there.cylinders)


def _cut_as_called(state: JobState, oversize_mm: float, apart: tuple[Apart, ...], fates: tuple[Fate, ...]) -> bool:
    """Whether it is the call that was taken, every cylinder that it cuts is cut, and none is known not to come out."""
    taken, to_cut = state.calling.decision, [f for f in fates if not f.sleeved]
    called = taken is not None and taken.bores and taken.apart == apart and abs(taken.oversize_mm - oversize_mm) < 1e-6
    cut = called and bool(to_cut) and all(f.column.cut_mm is not None and not f.fails for f in to_cut)
    return cut and all(call_stands(state, f.cylinder) for f in to_cut)


def _smaller(state: JobState, ladder: Ladder, oversize_mm: float) -> tuple[Smaller, float | None]:
    """A smaller size that would do, or may: at least as likely as a look is worth. No hole was cut larger than it."""
    for rung in ladder.rungs_mm:
        if rung >= oversize_mm:
            break
        if ladder.possible(rung) and ladder.sure(rung):
            return Smaller.WOULD, rung
        if ladder.possible(rung) and worth_taking(state, ladder, rung):
            return Smaller.MAY, rung
    return Smaller.NONE, None


def _unread(fates: tuple[Fate, ...]) -> tuple[int, ...]:
    return tuple(f.cylinder for f in fates if not f.sleeved and f.column.unread)


def _may_be_thin(fates: tuple[Fate, ...]) -> tuple[int, ...]:
    return tuple(f.cylinder for f in fates if not f.sleeved and not f.column.unread and not f.wall_stands)


def _with_pistons(ladder: Ladder, oversize_mm: float) -> float | None:
    """A smaller rung whose only doubt is how large its pistons are: with them in hand it may surely do."""
    for rung in ladder.rungs_mm:
        if rung >= oversize_mm:
            return None
        fates = ladder.fates(rung)
        if any(not f.end.measured for f in fates) and all(
            f.column.cleanup is not None
            and f.column.cleanup.is_bound
            and f.end.most_mm >= f.column.cleanup.high_mm
            and not f.too_thin
            for f in fates
        ):
            return rung
    return None
