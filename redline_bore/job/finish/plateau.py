"""The plateau foretold: the path of a wall under plateau strokes, how many reach the windows, and whether any do (methods 13).

Strokes to metal come from the shop's own pairs of traces before and after; with none, from a starting point that says so.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from functools import lru_cache
from typing import NamedTuple

from redline_bore.core.errors import FitError, InputError
from redline_bore.core.frozen import frozen
from redline_bore.core.late import np
from redline_bore.core.texture.packed import unpacked
from redline_bore.core.texture.plateau import (
    FIGURES,
    Cut,
    at,
    deepest_cut,
    nearest_to,
    path_of,
    place_on,
    stretch_inside,
)
from redline_bore.core.texture.profile import even_trace, profile_of
from redline_bore.job.finish.judgement import (
    FinishWindow,
    Side,
    counting_traces,
    finish_windows,
    strokes_had,
    texture_at,
    traces_before,
)
from redline_bore.job.hone.model import metal_of
from redline_bore.job.hone.progress import progress_of
from redline_bore.job.hone.set_up import rate_of, rz_of
from redline_bore.job.hone.steps import PEAKS_ONLY, stones_of
from redline_bore.job.profiles.stones import stone_names, stones_said
from redline_bore.job.state.finishing import WallTrace
from redline_bore.job.state.job_state import JobState

POINTS, FEW_POINTS = 22, 12
FINE_TRIED_UM = (0.06, 0.12, 0.18, 0.24)  # textures a plateau tool may leave: the one that places a pair best is taken
FAR_OFF = 2.0  # a wall this far off the path of another is not the same wall further on


@frozen(often=True)
class Pair:
    """A wall traced before and after so many plateau strokes: metal an area, um; fine_um: rms of what the tool left."""

    job: str
    cylinder: int
    strokes: float
    removed_um: float
    fine_um: float

    @property
    def um_a_stroke(self) -> float:
        return self.removed_um / self.strokes


@frozen(often=True)
class PlateauRate:
    """Metal an area a plateau stroke takes, um a side, with its spread (k = 2). pairs nought: only a starting point."""

    um: float
    low_um: float
    high_um: float
    pairs: tuple[Pair, ...]
    source: str


@frozen(often=True)
class Coarser:
    """What it takes to get deeper valleys: Rz wanted, the stone, metal on diameter, mm, and what is left before the redline;
    fits None: what is left is not known. deep_enough: else no listed stone is, and this one comes nearest."""

    rz_um: float
    stones: str
    metal_mm: float
    left_mm: float | None
    deep_enough: bool = True

    @property
    def fits(self) -> bool | None:
        return None if self.left_mm is None else self.metal_mm <= self.left_mm


@frozen(often=True)
class Failing:
    """A figure that the path never brings into its window: the nearest it comes, um."""

    parameter: str
    nearest: float
    side: Side
    window: FinishWindow


class Worst(NamedTuple):
    """A figure that misses its window: its name, its value and the end it misses, um, and on which side."""

    parameter: str
    value_um: float
    end_um: float
    side: Side


@frozen(often=True)
class PlateauForecast:
    """begins: plateau strokes the traced wall had had. had: strokes it has had by now. stretch_um: metal beyond ``begins`` along
    which all is in its window; None: none. strokes: the same in strokes beyond ``begins``, by the mean rate; sure: by every
    rate the spread allows, None where no count is sure. nearest_um: where no stretch is inside, the
    metal at which the worst figure misses least. band: lowest and highest path over the traces, by figure."""

    cylinder: int
    begins: float
    had: float
    path: tuple[Cut, ...]
    band: dict[str, tuple[tuple[float, float], ...]]
    rate: PlateauRate
    windows: dict[str, FinishWindow]
    stretch_um: tuple[float, float] | None
    failing: tuple[Failing, ...]
    coarser: Coarser | None
    left_mm: float | None
    nearest_um: float | None = None

    @property
    def strokes(self) -> tuple[float, float] | None:
        if self.stretch_um is None:
            return None
        return self.stretch_um[0] / self.rate.um, self.stretch_um[1] / self.rate.um

    @property
    def sure(self) -> tuple[int, int] | None:
        """Counts that end in the windows whichever rate of the spread holds."""
        if self.stretch_um is None:
            return None
        first, last = (
            math.ceil(self.stretch_um[0] / self.rate.low_um),
            math.floor(self.stretch_um[1] / self.rate.high_um),
        )
        return (first, last) if first <= last else None

    @property
    def stop_at(self) -> int | None:
        """Strokes beyond ``begins`` after which to stop and trace: the fewest that are sure to reach the windows; where no count
        is sure, the fewest that may, so that none is too many."""
        if self.stretch_um is None:
            return None
        return self.sure[0] if self.sure is not None else math.ceil(self.stretch_um[0] / self.rate.high_um)

    @property
    def nearest_strokes(self) -> float:
        """Strokes beyond ``begins`` to the place that comes nearest to every window; nought where all are inside."""
        return 0.0 if self.nearest_um is None else self.nearest_um / self.rate.um

    @property
    def worst_at_nearest(self) -> Worst:
        """There, the figure that misses its window by the largest share: its name, its value and the window's end, um, and on
        which side."""
        told = at(self.path, self.nearest_um or 0.0)
        rows = [(w.low - told[n], w.low, n, Side.LOW) for n, w in self.windows.items()]
        rows += [(told[n] - w.high, w.high, n, Side.HIGH) for n, w in self.windows.items()]
        _, end, name, side = max(rows, key=lambda row: row[0] / max(row[1], 1e-6))
        return Worst(name, told[name], end, side)

    def takes_mm(self, strokes: float) -> float:
        """What so many strokes take on diameter, mm."""
        return 2.0 * self.rate.um * strokes / 1000.0

    def figures_after(self, strokes: float) -> dict[str, float]:
        return at(self.path, min(self.rate.um * strokes, self.path[-1].removed_um))


@lru_cache(maxsize=256)
def _path(heights: str, step_um: float, fine_rq_um: float, points: int) -> tuple[Cut, ...]:
    p = profile_of(even_trace(step_um, unpacked(heights)))
    grid = deepest_cut(p) * np.linspace(0.0, 1.0, points) ** 1.5
    return path_of(p, grid.tolist(), fine_rq_um)


def path_at(trace: WallTrace, fine_um: float, points: int = POINTS) -> tuple[Cut, ...]:
    """The path of one trace, its cut part of ``fine_um`` rms; worked out once."""
    return _path(trace.heights, trace.step_um, round(fine_um, 3), points)


@frozen
class BeforeAndAfter:
    """A wall traced before its plateau and after ``strokes`` of it: the traces by their places in the ledger."""

    cylinder: int
    strokes: float
    before: tuple[int, ...]
    after: tuple[int, ...]


@frozen
class PairsOnJob:
    """The walls of a job that were traced before and after."""

    number: str
    pairs: tuple[BeforeAndAfter, ...]


@frozen(often=True)
class TwiceTraced:
    """A wall of some job with its traces before the plateau and after ``strokes`` of it."""

    job: str
    cylinder: int
    strokes: float
    before: tuple[WallTrace, ...]
    after: tuple[WallTrace, ...]


def twice_traced(state: JobState) -> tuple[TwiceTraced, ...]:
    """The walls of a job that were traced before and after."""
    found = []
    for cylinder in state.cylinders:
        before, after = traces_before(state, cylinder), counting_traces(state, cylinder)
        if before and after and after[0].plateau_strokes:
            found.append(TwiceTraced(state.number, cylinder, after[0].plateau_strokes, before, after))
    return tuple(found)


def pairs_on_job(state: JobState) -> PairsOnJob | None:
    """The same, by places in the ledger; None where there are none."""
    pairs = tuple(
        BeforeAndAfter(w.cylinder, w.strokes, tuple(t.seq for t in w.before), tuple(t.seq for t in w.after))
        for w in twice_traced(state)
    )
    return PairsOnJob(state.number, pairs) if pairs else None


def plateau_key(state: JobState) -> str:
    """What two jobs must have alike for the pairs of one to tell the other: the plateau tool and the metal."""
    return f"{stones_of(state)[-1]}|{metal_of(state)}"


def pairs_of(walls: Sequence[TwiceTraced], tick: Callable[[float], None] | None = None) -> tuple[Pair, ...]:
    """Every pair of before and after, of walls with one plateau tool in one metal. tick: told the share done; may raise to break off."""
    found: list[Pair] = []
    for i, wall in enumerate(walls):
        if tick is not None:
            tick(i / len(walls))
        pair = _pair(wall)  # a second or so where nothing is known yet
        found += [] if pair is None else [pair]
    return tuple(found)


def _pair(wall: TwiceTraced) -> Pair | None:
    figures = _means(wall.after)
    best: tuple[float, float, float] | None = None
    for fine in FINE_TRIED_UM:
        try:
            placed = [place_on(path_at(t, fine, FEW_POINTS), figures) for t in wall.before]
        except FitError:
            return None
        off = sum(p.off for p in placed) / len(placed)
        if best is None or off < best[0]:
            best = (off, sum(p.removed_um for p in placed) / len(placed), fine)
    if best is None or best[0] > FAR_OFF or best[1] <= 0.0:
        return None
    return Pair(wall.job, wall.cylinder, wall.strokes, best[1], best[2])


def _means(traces: Sequence[WallTrace]) -> dict[str, float]:
    families = [texture_at(t).family for t in traces]
    return {n: sum(getattr(f, n) for f in families) / len(families) for n in FIGURES}


def rate_from(state: JobState, pairs: Sequence[Pair]) -> PlateauRate:
    """Metal a stroke from the shop's pairs, with an honest spread; from a starting point where there are none."""
    f = state.figures
    if not pairs:
        start = rate_of(state, stones_of(state)[-1]) * 1000.0 / 2.0 * f.number("honing.plateau_of_rough")
        wide = f.number("finish.few_pairs_factor")
        return PlateauRate(
            start, start / wide, start * wide, (), f.figure(f"stones.{stones_of(state)[-1]}_rate").source
        )
    values = [p.um_a_stroke for p in pairs]
    mean = sum(values) / len(values)
    jobs = ", ".join(dict.fromkeys(p.job for p in pairs))
    if len(values) == 1:
        wide = f.number("finish.one_pair_factor")
        return PlateauRate(mean, mean / wide, mean * wide, tuple(pairs), f"one pair of traces, job {jobs}")
    sd = math.sqrt(sum((v - mean) ** 2 for v in values) / (len(values) - 1))
    from scipy.special import stdtrit  # where two pairs stand

    spread = (
        float(stdtrit(len(values) - 1, 0.975)) * sd * math.sqrt(1.0 + 1.0 / len(values))
    )  # Student's factor: few pairs say little
    wide = f.number("finish.few_pairs_factor")
    return PlateauRate(
        mean,
        max(mean - spread, mean / wide),
        min(mean + spread, mean * wide),
        tuple(pairs),
        f"{len(values)} pairs of traces, jobs {jobs}",
    )


def foretold(
    state: JobState, cylinder: int, others: Sequence[TwiceTraced] = (), tick: Callable[[float], None] | None = None
) -> PlateauForecast:
    """The forecast of a wall from its traces before the plateau, else from those it has. ``others``: walls of other jobs with
    this plateau tool in this metal.

    Raises InputError with what is missing. tick: told the share done; may raise to break off.
    """
    traces = traces_before(state, cylinder) or counting_traces(state, cylinder)
    if not traces:
        when = "as it is now" if strokes_had(state, cylinder) else "before the plateau"
        raise InputError(f"Cylinder {cylinder} has not been traced: trace it {when}")
    if stones_of(state)[-1] not in PEAKS_ONLY:
        raise InputError("This honing practice has no plateau step; there is nothing to foretell")
    away = [w for w in others if w.job != state.number]
    pairs = pairs_of([*away, *twice_traced(state)], None if tick is None else lambda share: tick(0.7 * share))
    rate = rate_from(state, pairs)
    fine = sum(p.fine_um for p in pairs) / len(pairs) if pairs else state.figures.number("finish.fine_rq")
    paths = []
    for i, trace in enumerate(traces):
        if tick is not None:
            tick(0.7 + 0.3 * i / len(traces))
        paths.append(path_at(trace, fine))
    path, band = _shared(paths)
    windows = {n: w for n, w in finish_windows(state).items() if n in FIGURES}
    stretch = stretch_inside(path, {n: (w.low, w.high) for n, w in windows.items()})
    failing = () if stretch is not None else _failing(path, windows)
    begins = traces[0].plateau_strokes or 0.0
    coarser, nearest = None, None
    if failing:
        nearest = nearest_to(path, {n: (w.low, w.high) for n, w in windows.items()})
    short = nearest is not None and at(path, nearest)["Rvk"] < windows["Rvk"].low
    if short or any(f.parameter == "Rvk" and f.side is Side.LOW for f in failing):
        coarser = coarser_for(state, cylinder, traces, at(path, nearest or 0.0)["Rvk"])
    left = progress_of(state, cylinder).left_mm
    had = strokes_had(state, cylinder) or 0.0
    return PlateauForecast(cylinder, begins, had, path, band, rate, windows, stretch, failing, coarser, left, nearest)


def _shared(paths: Sequence[tuple[Cut, ...]]) -> tuple[tuple[Cut, ...], dict[str, tuple[tuple[float, float], ...]]]:
    """The mean of several paths on one row of cuts, and the lowest and highest by figure."""
    end = min(p[-1].removed_um for p in paths)
    grid = end * np.linspace(0.0, 1.0, POINTS) ** 1.5
    rows = [[at(p, float(v)) for v in grid] for p in paths]
    means, band = [], {}
    for i, removed in enumerate(grid):
        mean = {n: sum(r[i][n] for r in rows) / len(rows) for n in FIGURES}
        bearing = sum(
            float(np.interp(removed, [c.removed_um for c in p], [c.bearing for c in p])) for p in paths
        ) / len(paths)
        means.append(Cut(float(removed), 0.0, bearing, **mean))
    for n in FIGURES:
        band[n] = tuple((min(r[i][n] for r in rows), max(r[i][n] for r in rows)) for i in range(len(grid)))
    return tuple(means), band


def _failing(path: Sequence[Cut], windows: dict[str, FinishWindow]) -> tuple[Failing, ...]:
    """The figures that never come into their windows; all of them where each does, but never together."""
    found = []
    for name, window in windows.items():
        values = [c.value(name) for c in path]
        if max(values) < window.low:
            found.append(Failing(name, max(values), Side.LOW, window))
        elif min(values) > window.high:
            found.append(Failing(name, min(values), Side.HIGH, window))
    if found:
        return tuple(found)
    return tuple(Failing(n, path[0].value(n), Side.APART, w) for n, w in windows.items())


def coarser_for(state: JobState, cylinder: int, traces: Sequence[WallTrace], rvk_um: float) -> Coarser:
    """The stone that brings the valleys wanted, and the metal: down to the bottom of what is there now, or as deep as its own
    marks, whichever is more, a side. rvk_um: what the present valleys come to after the plateau."""
    windows = finish_windows(state)
    rz = sum(texture_at(t).Rz for t in traces) / len(traces)
    wanted = max(rz * windows["Rvk"].low / max(rvk_um, 1e-6), windows["Rz"].low)
    cutting = [s for s in stone_names(state.figures) if s not in PEAKS_ONLY and not s.startswith("ball")]
    deep_enough = [s for s in cutting if sum(rz_of(state, s)) / 2.0 >= wanted]
    chosen = min(deep_enough or cutting, key=lambda s: abs(sum(rz_of(state, s)) / 2.0 - wanted))
    a_side_um = max(rz, sum(rz_of(state, chosen)) / 2.0)
    return Coarser(
        wanted, stones_said(chosen), 2.0 * a_side_um / 1000.0, progress_of(state, cylinder).left_mm, bool(deep_enough)
    )
