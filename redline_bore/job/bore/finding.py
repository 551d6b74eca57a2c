"""What the bar does now: one finding, with the figures it rests on. No words."""

from __future__ import annotations

from enum import Enum, auto

from redline_bore.core.frozen import frozen
from redline_bore.job.bore.plan import BorePlan, all_bored, awaits_sleeve, came_small, plan_of, still_to_bore, waits_for
from redline_bore.job.bore.run import setting_now
from redline_bore.job.bore.tool_lessons import ProofWant, proof_wants
from redline_bore.job.call.asks import to_look_at
from redline_bore.job.call.stand_by import call_stands
from redline_bore.job.route import stopped_by_crack
from redline_bore.job.state.boring import Bored, Looked
from redline_bore.job.state.job_state import JobState


class BoreCall(Enum):
    """What the bar does now with a cylinder, or how it left it."""

    CRACKED = auto()  # or welded, and not pressure-tested tight
    DONE_NO_REDLINE = auto()
    OVER = auto()
    LITTLE_LEFT = auto()
    MUCH_LEFT = auto()  # more than is meant, and too little for another cut
    RECUT = auto()  # it came small: another cut brings it to size
    AGAINST_CALL = auto()  # what was booked since speaks against the call
    UNPROVED = auto()  # the first hole was not measured well enough to trust the setting
    DONE = auto()
    WAITS_FOR_SLEEVE = auto()
    NOT_KNOWN = auto()
    NO_BAR = auto()
    LOOK = auto()  # bored, and a look decides whether the call's size does
    GAUGE_PATCH = auto()  # a dark patch was seen: how deep it is decides
    PATCH_STAYS = auto()  # it lies deeper than the hone takes, whichever piston of the size comes
    BUY_PISTONS = auto()  # every hole was seen clean: the size is known now
    LOOK_FIRST = auto()  # another cylinder is bored and looked at before this one
    PASS = auto()  # one of several
    SET = auto()


@frozen
class BoreFinding:
    """``call`` for a cylinder. left_mm: to the redline on diameter, minus where it is over. pass_of: which pass of how many."""

    call: BoreCall
    plan: BorePlan
    left_mm: float = 0.0
    pass_of: tuple[int, int] = (0, 0)
    setting_mm: float = 0.0
    first: bool = False
    others: tuple[int, ...] = ()  # bored and looked at before this one
    uneven: bool = False  # done, and at its tightest more is left than the hone is meant to take
    patch_mm: float | None = (
        None  # of the deepest patch that was gauged: what the hone takes under it, minus: it does not reach it
    )
    seen: Looked | None = None  # the patch that is to be gauged
    ends_read: bool = True  # at three depths and two angles; else its smallest and its largest place are not known

    @property
    def cylinder(self) -> int:
        """The cylinder it is about."""
        return self.plan.cylinder


def judge(state: JobState, cylinder: int, at: str = "") -> BoreFinding:
    """What the bar does now with a cylinder; ``at``: when (ISO 8601), which tells whether the bar is cold."""
    plan = plan_of(state, cylinder, at)
    if stopped_by_crack(state, cylinder):
        return BoreFinding(BoreCall.CRACKED, plan)
    if plan.done is not None:
        return _done(state, plan, plan.done)
    if awaits_sleeve(state, cylinder):
        return BoreFinding(BoreCall.WAITS_FOR_SLEEVE, plan)
    if not call_stands(state, cylinder):
        return BoreFinding(BoreCall.AGAINST_CALL, plan)
    if look := waits_for(state, cylinder):
        return BoreFinding(BoreCall.LOOK_FIRST, plan, others=look)
    if plan.target_mm is None or plan.setting_mm is None or not plan.passes_mm:
        return BoreFinding(BoreCall.NOT_KNOWN, plan)
    if state.boring.bar is None:
        return BoreFinding(BoreCall.NO_BAR, plan)
    found = setting_now(state, cylinder, at)
    if found is not None and found[1] < found[2]:
        return BoreFinding(BoreCall.PASS, plan, pass_of=(found[1], found[2]), setting_mm=found[0])
    return BoreFinding(BoreCall.SET, plan, setting_mm=plan.setting_mm, first=not state.boring.holes)


def _done(state: JobState, plan: BorePlan, hole: Bored) -> BoreFinding:
    if plan.redline_mm is None:
        return BoreFinding(BoreCall.DONE_NO_REDLINE, plan)
    left = plan.redline_mm - hole.largest_mm
    small = came_small(state, plan)
    patch = patch_left(state, plan, hole)
    if (seen := _of_looks(state, plan, hole, patch)) is not None and not (seen is BoreCall.LOOK and small):
        return BoreFinding(seen, plan, left, patch_mm=patch, seen=_last_look(state, hole))
    call = BoreCall.DONE
    if left <= 0.0:
        call = BoreCall.OVER
    elif left < plan.left_mm[0] - 1e-9:
        call = BoreCall.LITTLE_LEFT
    elif left > plan.left_mm[1] + 1e-9:
        call = BoreCall.RECUT if small else BoreCall.MUCH_LEFT
    elif unproved(state, hole):
        call = BoreCall.UNPROVED
    if (
        call in (BoreCall.DONE, BoreCall.MUCH_LEFT)
        and plan.provisional
        and all_bored(state)
        and not any_patch_stays(state)
    ):
        call = BoreCall.BUY_PISTONS
    told = state.figures.number("boring.taper_told")  # every bar leaves that much, and every hone takes it out
    uneven = plan.redline_mm - hole.smallest_mm > plan.left_mm[1] + told + 1e-9
    return BoreFinding(
        call, plan, left, setting_mm=plan.setting_mm or 0.0, uneven=uneven, ends_read=hole.both_ends, patch_mm=patch
    )


def _of_looks(state: JobState, plan: BorePlan, hole: Bored, patch_mm: float | None) -> BoreCall | None:
    """What a look into the hole asks for; None where there is nothing to look for, or the hone takes what was seen."""
    if plan.cylinder in to_look_at(state):
        return BoreCall.LOOK
    if _shadow_seen(state, hole) and not state.honing.checks_of(plan.cylinder):
        return BoreCall.GAUGE_PATCH
    if patch_mm is None:
        return None
    if not call_stands(state, plan.cylinder):
        return BoreCall.AGAINST_CALL
    return BoreCall.PATCH_STAYS if stays(state, plan, patch_mm) else None


def _last_look(state: JobState, hole: Bored) -> Looked | None:
    """The last look into the hole as it stands."""
    looks = (k for k in reversed(state.boring.looks) if k.cylinder == hole.cylinder and k.seq > hole.seq)
    return next(looks, None)


def _shadow_seen(state: JobState, hole: Bored) -> bool:
    """The last look into the hole as it stands showed a dark patch, and nobody gauged it."""
    last = _last_look(state, hole)
    return last is not None and not last.clean and last.deep_mm is None


def stays(state: JobState, plan: BorePlan, patch_mm: float) -> bool:
    """Whether a patch that was gauged is out of the hone's reach, even with the largest piston of the size where none is measured yet."""
    least, most = state.figures.row("cleanup.pistons_under")
    return patch_mm + (most - least if plan.provisional else 0.0) < -1e-9


def any_patch_stays(state: JobState) -> bool:
    """Whether the patch of any hole is out of the hone's reach."""
    for cylinder in state.cylinders:
        plan = plan_of(state, cylinder)
        patch = None if plan.done is None else patch_left(state, plan, plan.done)
        if patch is not None and stays(state, plan, patch):
            return True
    return False


def patch_left(state: JobState, plan: BorePlan, hole: Bored) -> float | None:
    """How much more the hone takes than the deepest patch that was gauged asks for, mm on diameter; None where there is none."""
    looks = [k for k in state.boring.looks if k.cylinder == hole.cylinder and k.seq > hole.seq]
    deep = [k.deep_mm for k in looks if k.deep_mm is not None]
    if not deep or looks[-1].clean or plan.redline_mm is None:
        return None
    return plan.redline_mm - hole.smallest_mm - 2.0 * max(deep)


def unproved(state: JobState, hole: Bored) -> tuple[ProofWant, ...]:
    """What the job's first hole was not measured for, while others are still to be bored."""
    if len(state.boring.holes) > 1 or not still_to_bore(state):
        return ()
    return proof_wants(hole)
