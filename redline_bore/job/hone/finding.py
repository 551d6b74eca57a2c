"""What the checks of a cylinder say at the hone: one finding, with the figures it rests on. No words."""

from __future__ import annotations

from enum import Enum, auto

from redline_bore.core.frozen import frozen
from redline_bore.core.stock import block_off_temperature
from redline_bore.job.hone.progress import AT_SIZE_MM, HAIR_MM, Progress, progress_of
from redline_bore.job.hone.set_up import HAND, rate_of
from redline_bore.job.hone.steps import PEAKS_ONLY, stones_of
from redline_bore.job.state.job_state import JobState


class WallBefore(Enum):
    """What is known of a wall before its plateau, from its traces."""

    NOT_TRACED = auto()
    VALLEYS_MISSING = auto()
    TRACED = auto()


class HoneCall(Enum):
    """What to do now at the hone."""

    LIGHT_GROWN = auto()  # a deglaze has taken size
    LIGHT_DONE = auto()
    LIGHT_GO = auto()
    NO_REDLINE = auto()
    CHECK_FIRST = auto()
    PAST = auto()
    COOL = auto()
    AT_SIZE = auto()
    STEP_DONE = auto()
    VALLEYS_MISSING = auto()
    PLATEAU_DONE = auto()
    PLATEAU_SHORT = auto()  # the size allows less than the plateau wants
    PLATEAU_TRACE_FIRST = auto()
    PLATEAU_GO = auto()
    FEW_THEN_GAUGE = auto()  # nothing to count by yet
    NO_METAL = auto()
    ONE_AT_A_TIME = auto()
    UNSTEADY = auto()
    STROKES = auto()


@frozen
class HoneFinding:
    """``call`` and what it rests on. least, most: strokes to go, where strokes are counted. creeping: near size.

    left_mm, over_mm: to the redline and past it; grown: a deglaze, in multiples of what it may take; warm_c: the block, too warm.
    """

    call: HoneCall
    progress: Progress
    least: int = 0
    most: int = 0
    done: int = 0
    creeping: bool = False
    over_mm: float = 0.0
    grown: float = 0.0
    warm_c: float = 0.0

    @property
    def cylinder(self) -> int:
        """The cylinder it is about."""
        return self.progress.cylinder

    @property
    def left_mm(self) -> float:
        """Metal left before the redline, mm; nought while it is not known."""
        return self.progress.left_mm or 0.0

    @property
    def next_step(self) -> str:
        """The step after this one; the last one where it is the last."""
        steps = self.progress.practice.steps
        return steps[min(self.progress.step + 1, len(steps) - 1)]


def judge(state: JobState, cylinder: int, wall: WallBefore) -> HoneFinding:
    """What to do now with a cylinder at the hone. ``wall``: what its traces before the plateau say."""
    p = progress_of(state, cylinder)
    if bores_nothing(state):
        return _light(state, p)
    if p.redline.size_mm is None:
        return HoneFinding(HoneCall.NO_REDLINE, p)
    if p.left_mm is None or not p.checks:
        return HoneFinding(HoneCall.CHECK_FIRST, p)
    if p.left_mm < -HAIR_MM:
        return HoneFinding(HoneCall.PAST, p, over_mm=-p.left_mm)
    to_end = p.to_step_end_mm or 0.0
    warm = too_warm(state, p)
    if warm is not None and AT_SIZE_MM < to_end <= state.figures.number("honing.creep_from"):
        return HoneFinding(HoneCall.COOL, p, warm_c=warm)
    last = p.step >= len(p.practice.steps) - 1
    if to_end <= AT_SIZE_MM or to_end <= 0.0 and not last:
        return HoneFinding(HoneCall.AT_SIZE if last else HoneCall.STEP_DONE, p)
    if in_plateau(state, p):
        return _plateau(state, p, to_end, wall)
    return _strokes(state, p)


def bores_nothing(state: JobState) -> bool:
    """The call is to bore nothing: strokes are counted, and the ring's gap says when to stop."""
    return state.calling.decision is not None and not state.calling.decision.bores


def _light(state: JobState, p: Progress) -> HoneFinding:
    low, high = (int(v) for v in state.figures.row("honing.deglaze_strokes"))
    done = int(p.checks[-1].strokes) if p.checks else 0
    if len(p.checks) > 1:
        grown, most = p.checks[-1].largest_mm - p.checks[0].largest_mm, state.figures.number("honing.deglaze_most")
        if grown > most:
            return HoneFinding(HoneCall.LIGHT_GROWN, p, grown=grown / most, done=done)
    if done >= high:
        return HoneFinding(HoneCall.LIGHT_DONE, p, done=done)
    return HoneFinding(HoneCall.LIGHT_GO, p, least=max(low - done, 1), most=high - done, done=done)


def _plateau(state: JobState, p: Progress, to_end: float, wall: WallBefore) -> HoneFinding:
    low, high = (int(v) for v in state.figures.row("honing.plateau_strokes"))
    done = int(p.checks[-1].strokes)
    left = int(to_end / plateau_rate(state, p))  # what the size allows, in light strokes
    if not done and wall is WallBefore.VALLEYS_MISSING:
        return HoneFinding(HoneCall.VALLEYS_MISSING, p)
    if done >= high:
        return HoneFinding(HoneCall.PLATEAU_DONE, p, done=done)
    if left < max(low - done, 1):
        return HoneFinding(HoneCall.PLATEAU_SHORT, p, most=left, done=done)
    most = min(high - done, left)
    least = max(min(low - done, most), 1)
    first = untraced(state, p, wall)
    return HoneFinding(HoneCall.PLATEAU_TRACE_FIRST if first else HoneCall.PLATEAU_GO, p, least, most, done)


def _strokes(state: JobState, p: Progress) -> HoneFinding:
    s, near = p.projection, creeping(state, p)
    if s is None:
        return HoneFinding(HoneCall.FEW_THEN_GAUGE, p, creeping=near)
    if s.low is None or s.strokes is None:
        return HoneFinding(HoneCall.NO_METAL, p)
    low = int(s.low)
    if low < 1:
        return HoneFinding(HoneCall.ONE_AT_A_TIME, p)
    if s.high is None:
        return HoneFinding(HoneCall.UNSTEADY, p, least=low)
    return HoneFinding(HoneCall.STROKES, p, low, max(int(s.high + 0.999), low), creeping=near)


def still_to_hone(state: JobState, cylinder: int) -> tuple[int, ...]:
    """The cylinders with metal left to take, those behind this one first; one past its redline has none."""
    found = {c: progress_of(state, c) for c in state.cylinders}
    waiting = [c for c, p in found.items() if not (p.at_size or p.over)]
    return tuple(sorted(waiting, key=lambda c: (c <= cylinder, c)))


def by_hand(state: JobState) -> bool:
    """Whether the hone is held by hand: by its set-up, else by the practice."""
    if state.honing.run is not None:
        return state.honing.run.machine in HAND
    return state.booking.practice("honing") in ("leg hone", "ball hone")


def too_warm(state: JobState, p: Progress) -> float | None:
    """The block's temperature at the last check where it is too far from 20 C to trust the last bit; else None."""
    warm = p.checks[-1].block_c if p.checks else None
    return warm if warm is not None and block_off_temperature(warm, state.figures.number("honing.block_off")) else None


def creeping(state: JobState, p: Progress) -> bool:
    """Near size: few strokes, cool, gauge."""
    return p.left_mm is not None and 0.0 < p.left_mm <= state.figures.number("honing.creep_from")


def in_plateau(state: JobState, p: Progress) -> bool:
    """The last step, with tools that cut peaks only."""
    stones = stones_of(state)
    return p.step == len(p.practice.steps) - 1 and stones[min(p.step, len(stones) - 1)] in PEAKS_ONLY


def plateau_rate(state: JobState, p: Progress) -> float:
    """Metal on diameter a light stroke, mm: by this step's checks, else the starting point of the tool."""
    if p.projection is not None and p.projection.rate.mm > 0.0:
        return p.projection.rate.mm
    return rate_of(state, stones_of(state)[-1]) * state.figures.number("honing.plateau_of_rough")


def untraced(state: JobState, p: Progress, wall: WallBefore) -> bool:
    """The plateau has not begun, and no trace says whether the valleys are there."""
    return in_plateau(state, p) and not any(c.strokes for c in p.checks) and wall is WallBefore.NOT_TRACED
