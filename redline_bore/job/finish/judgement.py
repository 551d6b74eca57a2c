"""The finish: what the traces of a wall say against the windows of its duty, and what that means (methods 14; job.md)."""

from __future__ import annotations

import math
from collections.abc import Sequence
from enum import StrEnum
from functools import lru_cache
from typing import Any

from redline_bore.core.fit import Decision, decide
from redline_bore.core.frozen import frozen, replace
from redline_bore.core.texture.curve import RkFamily
from redline_bore.core.texture.packed import unpacked
from redline_bore.core.texture.parameters import Texture, profile_read, texture_of
from redline_bore.core.texture.probability import Paper
from redline_bore.core.texture.profile import Trace, even_trace
from redline_bore.core.worked_out import fields_of, worked_out
from redline_bore.job.hone.steps import PEAKS_ONLY, practice_of, stones_of
from redline_bore.job.profiles.duty import duty
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.finishing import WallTrace
from redline_bore.job.state.job_state import JobState

FAMILY, PLAIN = ("Ra", "Rpk", "Rk", "Rvk"), ("Ra", "Rz")
BEFORE = ("Rz", "Rvk")  # what a plateau cannot bring
SPOTS = ("top", "middle", "bottom")


class Side(StrEnum):
    """On which side of its window a figure lies, or may; APART: two figures are never inside theirs at once."""

    NONE = ""
    LOW = "low"
    HIGH = "high"
    APART = "apart"


class TraceStage(StrEnum):
    """What the traces that count tell of a wall."""

    NONE = "none"  # it was not traced
    BEFORE = "before"  # the plateau
    AFTER = "after"


@frozen(often=True)
class FinishWindow:
    """A window in um and whose it is. own: typed in for this job."""

    parameter: str
    low: float
    high: float
    source: str
    own: bool = False


@frozen(often=True)
class Judged:
    """A figure of a wall: mean over its traces, their lowest and highest, U (k = 2), all um. decision None: no window.

    side: where it leaves its window, or may.
    """

    parameter: str
    mean: float
    least: float
    most: float
    u: float
    count: int
    window: FinishWindow | None
    decision: Decision | None
    side: Side


@frozen(often=True)
class WallFinish:
    """How the finish of a cylinder stands. stage: whether it was traced, and before its plateau or after.

    traces: those that count now, from the top down; ``judged`` in the order they are shown. since: plateau strokes the wall
    has had since they were taken, so that they no longer tell how it is.
    """

    cylinder: int
    stage: TraceStage
    traces: tuple[WallTrace, ...]
    judged: tuple[Judged, ...]
    flags: tuple[str, ...]
    since: float = 0.0

    def of(self, parameter: str) -> Judged | None:
        return next((j for j in self.judged if j.parameter == parameter), None)

    def where(self, decision: Decision) -> tuple[Judged, ...]:
        return tuple(j for j in self.judged if j.decision is decision)

    @property
    def fine(self) -> bool:
        """Traced as it is now, after its plateau, and every figure with a window inside it."""
        known = [j.decision for j in self.judged if j.window is not None]
        return self.current and bool(known) and all(d is Decision.IN for d in known)

    @property
    def current(self) -> bool:
        """Traced after its plateau, and not stroked since."""
        return self.stage is TraceStage.AFTER and self.since == 0.0


@lru_cache(maxsize=96)
def _texture(heights: str, step_um: float) -> Texture:
    plain, family, paper, flags = _figures(heights, step_um)
    whole = lambda: profile_read(even_trace(step_um, unpacked(heights)))  # noqa: E731
    ra, rq, rz, rt, rsk, rku, coarse = plain
    return Texture(ra, rq, rz, rt, rsk, rku, RkFamily(*family), Paper(*paper), flags, coarse, whole)


@worked_out(lambda *found: found, list)
def _figures(heights: str, step_um: float) -> tuple[tuple[Any, ...], ...]:
    x = texture_of(even_trace(step_um, unpacked(heights)))
    plain = (x.Ra, x.Rq, x.Rz, x.Rt, x.Rsk, x.Rku, x.height_step_um)
    return plain, tuple(fields_of(x.family)), tuple(fields_of(x.paper)), x.flags


def texture_at(trace: WallTrace) -> Texture:
    """All figures of a trace; worked out once."""
    return _texture(trace.heights, trace.step_um)


def trace_at(trace: WallTrace) -> Trace:
    """A trace as it came."""
    return even_trace(trace.step_um, unpacked(trace.heights))


def spots_of(state: JobState) -> tuple[float, ...]:
    """Depths of the middle of a trace at top, middle and bottom, mm: inside the ring travel."""
    travel = state.travel
    span = travel.bottom_mm - travel.top_mm
    return tuple(round(travel.top_mm + share * span, 1) for share in (0.12, 0.5, 0.88))


def spot_name(state: JobState, depth_mm: float | None) -> str:
    """Top, middle or bottom, whichever is nearest; empty where the depth was not said."""
    if depth_mm is None:
        return ""
    spots = spots_of(state)
    return SPOTS[min(range(len(spots)), key=lambda i: abs(spots[i] - depth_mm))]


def strokes_had(state: JobState, cylinder: int) -> float | None:
    """Plateau strokes a wall has had by now, nought before the plateau; None: its practice has none, or no check says."""
    if stones_of(state)[-1] not in PEAKS_ONLY:
        return None
    last = len(practice_of(state).steps) - 1
    if state.honing.step_of(cylinder) < last:
        return 0.0 if state.honing.checks_of(cylinder) else None
    checks = state.honing.checks_of(cylinder, last)
    return checks[-1].strokes if checks else 0.0


def counting_traces(state: JobState, cylinder: int) -> tuple[WallTrace, ...]:
    """The traces that tell how the wall is now: those after the most plateau strokes; from the top down."""
    own = state.finishing.traces_of(cylinder)
    if not own:
        return ()
    stages = [math.inf if t.plateau_strokes is None else t.plateau_strokes for t in own]
    now = max(stages)
    found: dict[tuple[float | None, int], WallTrace] = {}
    for trace, stage in zip(own, stages, strict=True):
        if stage == now:  # the same spot again replaces what was traced there before
            found[(trace.depth_mm, trace.seq if trace.depth_mm is None else 0)] = trace
    return tuple(sorted(found.values(), key=lambda t: (t.depth_mm is None, t.depth_mm or 0.0)))


def traces_before(state: JobState, cylinder: int) -> tuple[WallTrace, ...]:
    """The traces taken before the plateau, from the top down."""
    own = [t for t in state.finishing.traces_of(cylinder) if t.plateau_strokes == 0.0]
    return tuple(sorted(own, key=lambda t: (t.depth_mm is None, t.depth_mm or 0.0)))


def finish_windows(state: JobState) -> dict[str, FinishWindow]:
    """The windows of this job by figure: the ring maker's own first, else by duty."""
    f, key = state.figures, duty(state.book_in.duty).finish
    found = {}
    for name in ("Ra", "Rz", "Rpk", "Rk", "Rvk"):
        low, high = f.row(f"finish.{key}_{name}")
        found[name] = FinishWindow(
            name, low, high, f"{key.replace('_', ' ')}: {f.figure(f'finish.{key}_{name}').source}"
        )
    for own in state.finishing.windows:
        found[own.parameter] = FinishWindow(own.parameter, own.low_um, own.high_um, own.source, True)
    return found


def shown_parameters(state: JobState, stage: TraceStage) -> tuple[str, ...]:
    """The figures that are judged at a stage, by the practice of the job."""
    if stage is TraceStage.BEFORE:
        return BEFORE
    return FAMILY if state.booking.practice("finish") == "rk family" else PLAIN


@once_a_state
def finish_of(state: JobState, cylinder: int) -> WallFinish:
    """How the finish of a cylinder stands."""
    traces = counting_traces(state, cylinder)
    if not traces:
        return WallFinish(cylinder, TraceStage.NONE, (), (), ())
    stage = TraceStage.BEFORE if traces[0].plateau_strokes == 0.0 else TraceStage.AFTER
    textures = [texture_at(t) for t in traces]
    windows = finish_windows(state)
    judged = tuple(_judged(state, name, textures, windows.get(name)) for name in shown_parameters(state, stage))
    if stage is TraceStage.BEFORE:
        judged = tuple(_still_open(j) for j in judged)
    flags = tuple(dict.fromkeys(flag for t in textures for flag in t.flags))
    had, then = strokes_had(state, cylinder), traces[0].plateau_strokes
    since = max(had - then, 0.0) if had is not None and then is not None else 0.0
    return WallFinish(cylinder, stage, traces, judged, flags, since)


def missing_valleys(found: WallFinish) -> Judged | None:
    """The figure of a wall traced before its plateau that says the valleys are not there; no plateau raises it."""
    if found.stage is not TraceStage.BEFORE or found.since:
        return None
    return next((j for j in found.where(Decision.OUT) if j.side is Side.LOW), None)


def _still_open(judged: Judged) -> Judged:
    """Before the plateau, valleys over their window are no fault: its strokes take of them."""
    above = (judged.parameter, judged.side) == ("Rvk", Side.HIGH) and judged.decision is not Decision.IN
    return replace(judged, decision=None, side=Side.NONE) if above else judged


def _judged(state: JobState, name: str, textures: list[Texture], window: FinishWindow | None) -> Judged:
    values = [v for t in textures if (v := t.value(name)) is not None]
    mean = sum(values) / len(values)
    u = math.hypot(doubt_of(state, mean, values), max((t.height_step_um for t in textures), default=0.0))
    if window is None or (name == "Rz" and state.booking.practice("finish") == "ra and rz" and not window.own):
        return Judged(name, mean, min(values), max(values), u, len(values), None, None, Side.NONE)
    decision = decide(mean, window.low, window.high, u)
    side = Side.HIGH if mean > (window.low + window.high) / 2.0 else Side.LOW
    return Judged(name, mean, min(values), max(values), u, len(values), window, decision, side)


def doubt_of(state: JobState, mean: float, values: list[float]) -> float:
    """U (k = 2) of a mean of traces, in its unit: what the instrument and one spot leave open, and the spread of the spots."""
    own = state.figures.number("finish.doubt_share") * abs(mean)
    if len(values) < 2:
        return own
    sd = math.sqrt(sum((v - mean) ** 2 for v in values) / (len(values) - 1))
    return math.hypot(own, 2.0 * sd / math.sqrt(len(values)))


@frozen
class TracedWall:
    """A trace by its place in the ledger, its figures in um."""

    seq: int
    Ra: float
    Rpk: float
    Rk: float
    Rvk: float


@frozen
class TracedOnJob:
    """The walls that were traced on a job."""

    number: str
    walls: tuple[TracedWall, ...]


@frozen
class TwinPlaces:
    """Two walls of one Ra that are nothing alike: a trace of this job and one of any job, by their places in the ledgers; how far apart their
    families are, times."""

    first: int
    second: int
    times: float
    second_job: str


@frozen(often=True)
class Twins:
    """The same with their traces."""

    first: WallTrace
    second: WallTrace
    times: float
    second_job: str


def traced_on_job(state: JobState) -> TracedOnJob | None:
    """The traces of a job by their figures; None where there are none."""
    walls = []
    for trace in state.finishing.traces:
        t = texture_at(trace)
        walls.append(TracedWall(trace.seq, t.Ra, t.family.Rpk, t.family.Rk, t.family.Rvk))
    return TracedOnJob(state.number, tuple(walls)) if walls else None


def twin_places(state: JobState, others: Sequence[TracedOnJob] = ()) -> TwinPlaces | None:
    """The trace of this job, and one of any job, whose Ra agree and whose family differs most; None where no two agree."""
    within = state.figures.number("finish.same_ra")
    mine = traced_on_job(state)
    own = () if mine is None else tuple((state.number, w) for w in mine.walls)
    all_of_them = own + tuple((o.number, w) for o in others if o.number != state.number for w in o.walls)
    best: TwinPlaces | None = None
    for i, (_, a) in enumerate(own):
        for number, b in all_of_them[i + 1 :]:
            if abs(a.Ra - b.Ra) > within * min(a.Ra, b.Ra):
                continue
            times = max(_times(a.Rpk, b.Rpk), _times(a.Rk, b.Rk), _times(a.Rvk, b.Rvk))
            if best is None or times > best.times:
                best = TwinPlaces(a.seq, b.seq, times, number)
    return best


def _times(a: float, b: float) -> float:
    least = max(min(a, b), 1e-3)
    return max(a, b) / least
