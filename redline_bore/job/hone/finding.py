"""What the checks of a cylinder say at the hone: one finding, with the figures it rests on. No words."""

from __future__ import annotations

from enum import Enum, auto

from redline_bore.core.frozen import frozen, replace
from redline_bore.job.hone.progress import Progress, progress_of
from redline_bore.job.hone.set_up import HAND
from redline_bore.job.hone.shape import ShapeAtHone, shape_at_hone
from redline_bore.job.hone.steps import PEAKS_ONLY, light_strokes, seconds_a_stroke, stones_of
from redline_bore.job.hone.track import gives_no_metal, light_rate, sizing_step
from redline_bore.job.redline import WrongPiston, wrong_pistons
from redline_bore.job.route import stopped_by_crack
from redline_bore.job.state.job_state import JobState


class WallBefore(Enum):
    """What is known of a wall before its plateau, from its traces."""

    NOT_TRACED = auto()
    VALLEYS_MISSING = auto()
    TRACED = auto()


class HoneCall(Enum):
    """What to do now at the hone."""

    CRACKED = auto()  # or welded, and not pressure-tested tight
    LIGHT_GROWN = auto()  # a deglaze has taken size
    LIGHT_DONE = auto()
    LIGHT_GO = auto()
    NO_REDLINE = auto()
    WRONG_PISTON = auto()  # its redline hangs on a piston that is none of the call
    CHECK_FIRST = auto()
    WAITS_FOR_PISTON = auto()  # honed as far as any piston of that size allows; its own piston says the rest
    PLATE_DIFFERS = auto()  # checked with the plate off, where it was on before, or the other way about
    PAST = auto()
    COOL = auto()
    AT_SIZE = auto()
    AT_REDLINE = auto()  # the mean is over the redline, within the gauge's doubt
    READ_ENDS = auto()  # at size where it was read, and that is not top, middle and bottom at two angles
    TIGHT = auto()  # at size, and a place is out of its limits
    STEP_DONE = auto()
    TRUE_UP = auto()  # set the stroke so that a tight or open end comes straight, then go on
    VALLEYS_MISSING = auto()
    PLATEAU_DONE = auto()
    PLATEAU_SHORT = auto()  # the size allows less than the plateau wants
    PLATEAU_TRACE_FIRST = auto()
    PLATEAU_GO = auto()
    FIRST_BITE = auto()  # nothing seen of the rate yet
    NO_METAL = auto()
    STROKES = auto()


@frozen
class HoneFinding:
    """``call`` and what it rests on. bite: double strokes to do now, then to gauge. least, most: strokes to the end of the step, 90 %;
    most None: it may be that nothing comes off.

    over_mm: past the redline; grown: a deglaze, in multiples of what it may take; warm_c: the block, warmer than it was; shape: how
    straight and round it is.
    """

    call: HoneCall
    progress: Progress
    bite: int = 0
    least: int = 0
    most: int | None = 0
    done: int = 0
    creeping: bool = False
    over_mm: float = 0.0
    grown: float = 0.0
    warm_c: float = 0.0
    shape: ShapeAtHone | None = None
    wrong: WrongPiston | None = None
    stroke_s: float | None = None  # seconds of a double stroke, where the step is counted in seconds

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
    if stopped_by_crack(state, cylinder):
        return HoneFinding(HoneCall.CRACKED, p)
    if bores_nothing(state):
        return _light(state, p)
    if p.redline.size_mm is None:
        wrong = next((w for w in wrong_pistons(state) if w.cylinder == cylinder), None)
        return HoneFinding(HoneCall.NO_REDLINE if wrong is None else HoneCall.WRONG_PISTON, p, wrong=wrong)
    if p.last is None or p.tracked is None or p.ends is None:
        return HoneFinding(HoneCall.CHECK_FIRST, p)
    return _checked(state, p, wall)


def _checked(state: JobState, p: Progress, wall: WallBefore) -> HoneFinding:
    """What to do now with a cylinder that was read at the hone."""
    shape = shape_at_hone(state, p.cylinder)
    if p.redline.provisional and (p.over or (p.done and p.step >= sizing_step(state))):
        return HoneFinding(HoneCall.WAITS_FOR_PISTON, p, shape=shape)
    if p.over:
        return HoneFinding(HoneCall.PAST, p, over_mm=p.past_mm, shape=shape)
    if plate_differs(p):
        return HoneFinding(HoneCall.PLATE_DIFFERS, p, shape=shape)
    warm = too_warm(state, p)
    if warm is not None:
        return HoneFinding(HoneCall.COOL, p, warm_c=warm, shape=shape)
    if p.done:
        return HoneFinding(_at_the_end(state, p, shape), p, shape=shape, stroke_s=seconds_a_stroke(state, p.step))
    if in_plateau(state, p):
        return replace(_plateau(state, p, wall), stroke_s=seconds_a_stroke(state, p.step))
    if shape is not None and shape.set_to is not None:
        return HoneFinding(HoneCall.TRUE_UP, p, shape=shape)
    return _strokes(state, p, shape)


def _at_the_end(state: JobState, p: Progress, shape: ShapeAtHone | None) -> HoneCall:
    if in_plateau(state, p) and p.tracked is not None and p.tracked.bite >= 1:
        return HoneCall.PLATEAU_DONE
    if shape is not None and shape.out and p.step >= sizing_step(state):
        return HoneCall.TIGHT
    if not p.is_last:
        return HoneCall.STEP_DONE
    if p.last is None or not p.last.both_ends:
        return HoneCall.READ_ENDS
    return HoneCall.AT_REDLINE if p.left_mm is not None and p.left_mm < 0.0 else HoneCall.AT_SIZE


def plate_differs(p: Progress) -> bool:
    """The last check was not taken as the ones before it, plate on or off: what the plate does to the hole stands between them."""
    return len(p.checks) > 1 and p.checks[-1].plate_on != p.checks[-2].plate_on


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
    least = max(low - done, 1)
    return HoneFinding(HoneCall.LIGHT_GO, p, bite=least, least=least, most=high - done, done=done)


def _plateau(state: JobState, p: Progress, wall: WallBefore) -> HoneFinding:
    assert p.tracked is not None
    low, high = (round(v) for v in light_strokes(state))
    done = int(p.checks[-1].strokes) if p.checks else 0
    left = p.tracked.bite  # what the size allows, in light strokes
    if not done and wall is WallBefore.VALLEYS_MISSING:
        return HoneFinding(HoneCall.VALLEYS_MISSING, p)
    if left < max(low - done, 1):
        return HoneFinding(HoneCall.PLATEAU_SHORT, p, bite=left, most=left, done=done)
    most = min(high - done, left)
    least = low - done
    first = untraced(state, p, wall)
    return HoneFinding(HoneCall.PLATEAU_TRACE_FIRST if first else HoneCall.PLATEAU_GO, p, least, least, most, done)


def _strokes(state: JobState, p: Progress, shape: ShapeAtHone | None) -> HoneFinding:
    t, near = p.tracked, creeping(state, p)
    assert t is not None
    last = p.checks[-1].seq if p.checks else 0
    if not any(seq > last for seq in state.honing.fresh) and gives_no_metal(
        state, p.checks, len(p.checks) - 1, t.expected_mm
    ):
        return HoneFinding(HoneCall.NO_METAL, p, max(t.bite, 1), shape=shape)
    call = HoneCall.FIRST_BITE if t.looks < 2 else HoneCall.STROKES
    return HoneFinding(call, p, max(t.bite, 1), t.between.least, t.between.most, creeping=near, shape=shape)


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
    """The block's temperature at the last check, where it has warmed by more than the limit over this cylinder's coldest check, the
    aim is within creep, and it was not cooled at this stroke count already; else None. A block at 20 C or colder is never too warm."""
    if p.last is None or p.last.block_c is None or p.tracked is None:
        return None
    warm, limit = p.last.block_c, state.figures.number("honing.block_off")
    known = [c.block_c for c in state.honing.checks_of(p.cylinder) if c.block_c is not None]
    looks = sum(c.strokes == p.last.strokes for c in p.checks)
    near = p.tracked.to_aim_mm <= state.figures.number("honing.creep_from")
    return warm if near and looks <= 1 and warm > 20.0 and warm - min(known) > limit else None


def creeping(state: JobState, p: Progress) -> bool:
    """Near size: few strokes, the gauge on its master, gauge."""
    return p.tracked is not None and 0.0 < p.tracked.to_aim_mm <= state.figures.number("honing.creep_from")


def zeroed_for(state: JobState, cylinder: int) -> bool:
    """Whether the gauge was set on its master since this cylinder came to the hone: once a cylinder is enough. Source: methods 12."""
    checks, spans = state.honing.checks_of(cylinder), state.gauging.zero_spans
    return bool(checks and spans) and spans[-1].start_seq > checks[0].seq


def one_way_does(state: JobState, cylinder: int) -> bool:
    """Whether the next check is enough in one direction: its step goes on well beyond it, and both directions were read once. Near its end, and
    first of all, the hole is read both ways."""
    p = progress_of(state, cylinder)
    t, both = p.tracked, any(c.across_mm for c in state.honing.checks_of(cylinder))
    if t is None or p.last is None or not both or in_plateau(state, p):
        return False
    after = t.to_aim_mm - t.bite * t.track.rate_mm  # what is likely left once the bite is done
    return after > state.figures.number("honing.far_from")


def in_plateau(state: JobState, p: Progress) -> bool:
    """The last step, with tools that cut peaks only."""
    stones = stones_of(state)
    return p.step == len(p.practice.steps) - 1 and stones[min(p.step, len(stones) - 1)] in PEAKS_ONLY


def plateau_rate(state: JobState, p: Progress) -> float:
    """Metal on diameter a light stroke, mm: by this step's checks, else the starting point of the tool."""
    return light_rate(state) if p.tracked is None else p.tracked.track.rate_mm


def untraced(state: JobState, p: Progress, wall: WallBefore) -> bool:
    """The plateau has not begun, and no trace says whether the valleys are there."""
    return in_plateau(state, p) and not any(c.strokes for c in p.checks) and wall is WallBefore.NOT_TRACED
