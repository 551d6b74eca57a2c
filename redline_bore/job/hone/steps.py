"""The steps of a honing practice: what each takes, which stones, and whether it erases what the one before left (methods 13)."""

from __future__ import annotations

from enum import Enum, auto

from redline_bore.core.frozen import frozen, replace
from redline_bore.job.hone.set_up import rz_of
from redline_bore.job.profiles.practice import Practice, practice
from redline_bore.job.profiles.stones import stone_names
from redline_bore.job.redline import redline_of
from redline_bore.job.state.hole import hole_of
from redline_bore.job.state.job_state import JobState

USUAL_STONES = {
    "two steps": ("vitrified_150", "brush_600"),
    "four steps": ("vitrified_150", "vitrified_220", "vitrified_280", "brush_600"),
    "two steps by time": ("diamond_200", "brush_600"),
    "leg hone": ("vitrified_220",),
    "ball hone": ("ball_240",),
}
PEAKS_ONLY = ("brush_600", "nitride_600")
STEPS_DOWN = "four steps"  # a practice that takes out what the coarse stones left on purpose


class StageStands(Enum):
    """Whether a step does what it is for."""

    SOUND = auto()
    LOOK = auto()
    STOP = auto()


class StageWhy(Enum):
    """Why a step stands so. Which figures of a ``StageCall`` go with it stands beside it."""

    START_UNKNOWN = auto()
    PAST_ITS_END = auto()  # it would start past its own end
    BARS_MARKS = auto()  # it takes out the bar's, and trues the hole
    ERASES = auto()  # um: a side, valleys
    LEAVES_LITTLE = auto()  # um: a side, valleys
    CUTS_PEAKS = auto()  # um: valleys, low and high
    TOO_SHORT = auto()  # um: a side, marks
    TAKES_OUT = auto()  # um: marks, low and high


@frozen
class StageCall:
    """How a step stands, and why. keeps_few: valleys are cut down on purpose there."""

    stands: StageStands
    why: StageWhy
    um: tuple[float, ...] = ()
    keeps_few: bool = False


@frozen(often=True)
class HoneStage:
    """One step: from and to in mm short of the redline on diameter, stock a side in um, stones, the Rz before it (um).

    before_mm None: where it starts from is not known.
    """

    name: str
    before_mm: float | None
    short_mm: float
    stones: str
    rz_before_um: tuple[float, float] | None
    call: StageCall

    @property
    def a_side_um(self) -> float | None:
        return None if self.before_mm is None else 500.0 * (self.before_mm - self.short_mm)


def practice_of(state: JobState) -> Practice:
    """The honing practice of the job, the shop's own among them."""
    own = state.honing.own
    if state.booking.practice("honing") == "own" and own is not None:
        return Practice("honing", "own", "the shop's own", "steps as this shop wrote them", "", own.steps)
    return practice("honing", state.booking.practice("honing"))


def shorts_of(state: JobState) -> tuple[float, ...]:
    """How far short of the redline each step ends, mm on diameter."""
    own = state.honing.own
    if state.booking.practice("honing") == "own" and own is not None:
        return own.short_mm
    return state.figures.row(practice_of(state).figures)


def stones_of(state: JobState) -> tuple[str, ...]:
    """The stones of each step: as the practice has them."""
    own = state.honing.own
    chosen = practice_of(state)
    if chosen.name == "own" and own is not None:
        return own.stones
    known = stone_names(state.figures)
    return tuple(s if s in known else known[0] for s in USUAL_STONES[chosen.name])


def seconds_a_stroke(state: JobState, step: int) -> float | None:
    """Seconds of a double stroke, in a step that is counted in seconds; None where strokes are counted, or nobody said how fast it strokes."""
    chosen, run = practice_of(state), state.honing.run
    if chosen.steps[min(step, len(chosen.steps) - 1)] not in chosen.timed or run is None or not run.strokes_per_min:
        return None
    return 60.0 / run.strokes_per_min


def light_strokes(state: JobState) -> tuple[float, float]:
    """Least and most double strokes of the last step, where it only cuts peaks; by its seconds where it is counted in those."""
    each = seconds_a_stroke(state, len(practice_of(state).steps) - 1)
    low, high = state.figures.row("honing.plateau_strokes" if each is None else "honing.plateau_seconds")
    return (low, high) if each is None else (low / each, high / each)


def stages_of(state: JobState, cylinder: int) -> tuple[HoneStage, ...]:
    """Every step of the practice for a cylinder, judged against the step before it."""
    start, found = starts_from(state, cylinder), []
    rz: tuple[float, float] | None = None
    for name, short, stones in zip(practice_of(state).steps, shorts_of(state), stones_of(state), strict=True):
        call = _judged(start, short, stones, rz)
        if call.stands is StageStands.STOP and stones in PEAKS_ONLY and practice_of(state).name == STEPS_DOWN:
            call = replace(call, stands=StageStands.LOOK, keeps_few=True)
        found.append(HoneStage(name, start, short, stones, rz, call))
        start = short
        rz = rz if stones in PEAKS_ONLY and rz is not None else rz_of(state, stones)
    return tuple(found)


def starts_from(state: JobState, cylinder: int) -> float | None:
    """How far short of the redline the hone began, mm on diameter: from the bar, else from the first check."""
    redline = redline_of(state, cylinder).size_mm
    if redline is None:
        return None
    hole, checks = hole_of(state, cylinder), state.honing.checks_of(cylinder)
    if hole is not None:
        return redline - hole.mean_mm
    return redline - checks[0].mean_mm if checks else None


def _judged(start: float | None, short: float, stones: str, rz: tuple[float, float] | None) -> StageCall:
    """A step from ``start`` to ``short`` of the redline, mm, after one that left ``rz``, um."""
    good, look, stop, why = StageStands.SOUND, StageStands.LOOK, StageStands.STOP, StageWhy
    if start is None:
        return StageCall(look, why.START_UNKNOWN)
    side = 500.0 * (start - short)
    if side < 0.0:
        return StageCall(stop, why.PAST_ITS_END)
    if rz is None:
        return StageCall(good, why.BARS_MARKS)
    if stones in PEAKS_ONLY:
        if side >= rz[0]:
            return StageCall(stop, why.ERASES, (side, rz[0]))
        if side > 0.5 * rz[0]:
            return StageCall(look, why.LEAVES_LITTLE, (side, rz[0]))
        return StageCall(good, why.CUTS_PEAKS, rz)
    return StageCall(look, why.TOO_SHORT, (side, rz[1])) if side < rz[1] else StageCall(good, why.TAKES_OUT, rz)
