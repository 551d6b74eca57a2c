"""What the traces of a wall ask for now: one finding, with the figures it rests on. No words."""

from __future__ import annotations

from enum import Enum, auto

from redline_bore.core.fit import Decision
from redline_bore.core.frozen import frozen
from redline_bore.job.finish.judgement import (
    SPOTS,
    Judged,
    Side,
    TraceStage,
    WallFinish,
    finish_of,
    missing_valleys,
    spot_name,
    spots_of,
    strokes_had,
)
from redline_bore.job.hone.finding import bores_nothing
from redline_bore.job.state.job_state import JobState


class FinishCall(Enum):
    """What to do now."""

    TRACE_BEFORE = auto()  # before its plateau
    TRACE = auto()
    NOT_WANTED = auto()  # nothing was bored: the wall keeps what it had
    TRACE_AGAIN = auto()  # it was stroked since
    VALLEYS_MISSING = auto()
    VALLEYS_TOO_CLOSE = auto()
    DEEP_MARKS = auto()
    VALLEYS_THERE = auto()
    IN = auto()
    NO_WINDOW = auto()
    OUT = auto()
    MAY_BE_OUT = auto()


@frozen
class FinishFinding:
    """``call`` for a wall; ``figure``: the one it turns on."""

    call: FinishCall
    finish: WallFinish
    figure: Judged | None = None

    @property
    def cylinder(self) -> int:
        """The cylinder it is about."""
        return self.finish.cylinder


def judge(state: JobState, cylinder: int) -> FinishFinding:
    """What the traces of a cylinder ask for now."""
    found, c = finish_of(state, cylinder), FinishCall
    if found.stage is TraceStage.NONE:
        if bores_nothing(state):
            return FinishFinding(c.NOT_WANTED, found)
        before = strokes_had(state, cylinder) == 0.0
        return FinishFinding(c.TRACE_BEFORE if before else c.TRACE, found)
    if found.since:
        return FinishFinding(c.TRACE_AGAIN, found)
    if found.stage is TraceStage.BEFORE:
        return _before(found)
    out, close = found.where(Decision.OUT), found.where(Decision.TOO_CLOSE)
    if not out and not close:
        known = any(j.window is not None for j in found.judged)
        return FinishFinding(c.IN if known else c.NO_WINDOW, found)
    worst = out or close  # what a plateau cannot bring goes before what it can
    shallow = next((j for j in worst if (j.parameter, j.side) == ("Rvk", Side.LOW)), None)
    return FinishFinding(c.OUT if out else c.MAY_BE_OUT, found, shallow or worst[0])


def _before(found: WallFinish) -> FinishFinding:
    c, short = FinishCall, missing_valleys(found)
    if short is not None and short.window is not None:
        return FinishFinding(c.VALLEYS_MISSING, found, short)
    close = next((j for j in found.where(Decision.TOO_CLOSE) if j.side is Side.LOW), None)
    if close is not None:
        return FinishFinding(c.VALLEYS_TOO_CLOSE, found, close)
    deep = next(
        (j for j in (*found.where(Decision.OUT), *found.where(Decision.TOO_CLOSE)) if j.side is Side.HIGH), None
    )
    return FinishFinding(c.VALLEYS_THERE if deep is None else c.DEEP_MARKS, found, deep)


class AllCall(Enum):
    """How the walls of a block stand together. The first that holds is told."""

    ALL_IN = auto()
    VALLEYS_MISSING = auto()
    OUT = auto()
    NOT_TRACED = auto()
    TOO_CLOSE = auto()
    NOT_WANTED = auto()  # nothing was bored, and nothing traced


@frozen
class AllFinding:
    """``call`` and the cylinders it is about."""

    call: AllCall
    cylinders: tuple[int, ...]


def judge_all(state: JobState) -> AllFinding:
    """How the walls of a block stand together."""
    found = [f for c in state.cylinders if wanted(state, f := finish_of(state, c))]
    if not found:
        return AllFinding(AllCall.NOT_WANTED, tuple(state.cylinders))
    if all(f.fine for f in found):
        return AllFinding(AllCall.ALL_IN, tuple(f.cylinder for f in found))
    for call, numbers in (
        (AllCall.VALLEYS_MISSING, [f.cylinder for f in found if missing_valleys(f) is not None]),
        (AllCall.OUT, [f.cylinder for f in found if f.current and f.where(Decision.OUT)]),
        (AllCall.NOT_TRACED, not_traced(state)),
    ):
        if numbers:
            return AllFinding(call, tuple(numbers))
    return AllFinding(AllCall.TOO_CLOSE, tuple(f.cylinder for f in found if f.where(Decision.TOO_CLOSE)))


def not_traced(state: JobState) -> list[int]:
    """The cylinders that want a trace of their finished wall."""
    return [c for c in state.cylinders if not (f := finish_of(state, c)).current and wanted(state, f)]


def wanted(state: JobState, found: WallFinish) -> bool:
    """Whether a wall is to be traced, or was: where nothing is bored, none need be."""
    return found.stage is not TraceStage.NONE or not bores_nothing(state)


def spots_missing(state: JobState, found: WallFinish) -> list[str]:
    """The spots of a wall that were not traced as it is now, by name."""
    done = {spot_name(state, t.depth_mm) for t in found.traces}
    return [s for s in SPOTS if s not in done]


def next_spot(state: JobState, cylinder: int, spot: int) -> int:
    """The spot to trace after ``spot``: the next one not traced as the wall is now; the same where all are."""
    depths, done = spots_of(state), {t.depth_mm for t in finish_of(state, cylinder).traces}
    ahead = [i % len(depths) for i in range(spot + 1, spot + 1 + len(depths)) if depths[i % len(depths)] not in done]
    return ahead[0] if ahead else spot
