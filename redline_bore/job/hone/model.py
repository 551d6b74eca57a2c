"""The hone as the simulator sees it: the wall as it stands, k from the shop's own checks, the plan, what it taught
(methods 11)."""

from __future__ import annotations

from collections.abc import Callable
from enum import Enum, auto
from typing import NamedTuple

from redline_bore.core.errors import FitError, InputError
from redline_bore.core.frozen import frozen
from redline_bore.core.late import np
from redline_bore.core.removal import Grid, Hole, Honed, Pack, Phase, k_from_rate, on_grid, over_strokes, simulate
from redline_bore.core.stock import LEAST_CHECKS, theil_sen
from redline_bore.core.stroke_plan import PLANNING, StrokePlan, Task, plan_strokes
from redline_bore.job.gauge.analysis import shape_of
from redline_bore.job.gauge.places import places_of_checks
from redline_bore.job.hone.progress import progress_of
from redline_bore.job.hone.set_up import Kinematics, kinematics_of, load_share, rate_of, room_kept
from redline_bore.job.kinds.folding import parent_material
from redline_bore.job.lessons import RATE, lesson_of
from redline_bore.job.profiles.stones import stones_said
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.hole import hole_of
from redline_bore.job.state.honing import Check
from redline_bore.job.state.job_state import JobState

ROUND = Grid(cells=24, angles=24, steps=14)
LEAST_PLACES, END_SHARE, MOST_LEARNED = 3, 0.2, 2.0
STEEL_STORES = 3.4e6  # J/(m3 K), iron


class WallFrom(Enum):
    """Where the wall along its depth is known from."""

    CHECK = auto()
    BAR = auto()
    SLEEVE = auto()
    GAUGED = auto()


@frozen(often=True)
class WallNow:
    """The wall along its depth: diameters at 20 C at some depths, mm, and what they are from."""

    depths_mm: tuple[float, ...]
    sizes_mm: tuple[float, ...]
    source: WallFrom

    @property
    def excess_mm(self) -> tuple[float, ...]:
        """Radius beyond the smallest of them."""
        least = min(self.sizes_mm)
        return tuple((s - least) / 2.0 for s in self.sizes_mm)


@frozen(often=True)
class Learned:
    """k and how the ends cut against the middle. rate_mm: metal on diameter a double stroke, with its spread; ``checks``
    how many taught it, nought: a starting point, or the jobs of this family named in ``family``. top, bottom: share of the
    middle's k at each end."""

    rate_mm: float
    low_mm: float
    high_mm: float
    checks: int
    top: float
    bottom: float
    k_mm3_per_n_mm: float
    family: tuple[str, ...] = ()


@frozen(often=True)
class Forecast:
    """A plan for a cylinder: the wall it starts from, the task, the plan, what was learned, warming of the wall, C.

    oval_mm: out of round on diameter before and after, where it was read at two angles or more; None: it was not.
    """

    cylinder: int
    wall: WallNow
    plan: StrokePlan
    learned: Learned
    target_mm: float
    warms_c: float
    oval_mm: tuple[float, float] | None = None

    def sizes_at(self, depths_mm: tuple[float, ...]) -> tuple[float, ...]:
        """Predicted diameters at 20 C, mm."""
        honed = self.plan.honed
        least = min(self.wall.sizes_mm)
        return tuple(least + 2.0 * float(np.interp(d, honed.depth_mm, honed.excess_mm)) for d in depths_mm)


def wall_now(state: JobState, cylinder: int) -> WallNow | None:
    """The wall as it was read last along its depth: by a check, off the bar, in its sleeve, or as gauged."""
    checks, hole, after = state.honing.checks_of(cylinder), hole_of(state, cylinder), state.sleeving.after_of(cylinder)
    if checks:
        sizes, source = checks[-1].by_depth_mm, WallFrom.CHECK
    elif hole is not None:
        sizes, source = hole.sizes_mm, WallFrom.BAR
    elif after is not None:
        sizes, source = after.sizes_mm, WallFrom.SLEEVE
    else:
        levels = shape_of(state, cylinder).levels
        if not levels:
            return None
        return WallNow(tuple(v.depth_mm for v in levels), tuple(v.fit.mean_mm for v in levels), WallFrom.GAUGED)
    return WallNow(places_of_checks(state, len(sizes)), tuple(sizes), source)


@once_a_state
def learned_of(state: JobState, cylinder: int) -> Learned:
    """k and the ends, from this cylinder's checks in its present step where there are enough; the middle cylinder's rate
    where only others have them; else the starting point."""
    k, hole = kinematics_of(state), bare_hole(state)
    phase = _phase(state, k, 1)
    stroke = phase.lower_mm - phase.upper_mm
    step = state.honing.step_of(cylinder)
    own = _rate(state.honing.checks_of(cylinder, step))
    if own is None:
        others = [
            r for c in state.cylinders if c != cylinder and (r := _rate(state.honing.checks_of(c, step))) is not None
        ]
        own = sorted(others)[len(others) // 2] if others else None
    if own is None or own[0] <= 0.0:
        stones = "vitrified_150" if state.honing.stones is None else state.honing.stones.stones
        share = load_share(state, None if state.honing.run is None else state.honing.run.load)
        lesson = lesson_of(state.booking.lessons, RATE, stones_said(stones))
        if lesson is not None and lesson.mean > 0.0:
            few = lesson.count < LEAST_CHECKS or lesson.sd is None
            wide = state.figures.number("honing.few_lessons_spread") if few else 2.0 * (lesson.sd or 0.0) / lesson.mean
            rate = share * lesson.mean
            low, high = rate / (1.0 + wide), rate * (1.0 + wide)
            return Learned(rate, low, high, 0, 1.0, 1.0, k_from_rate(rate, hole, phase, stroke), lesson.jobs)
        rate = rate_of(state, stones) * share
        return Learned(rate, 0.5 * rate, 2.0 * rate, 0, 1.0, 1.0, k_from_rate(rate, hole, phase, stroke))
    rate, low, high, count = own
    top, bottom = _ends(state, cylinder, k_from_rate(rate, hole, phase, stroke))
    return Learned(rate, low, high, count, top, bottom, k_from_rate(rate, hole, phase, stroke))


def _rate(checks: tuple[Check, ...]) -> tuple[float, float, float, int] | None:
    """Robust rate on diameter a stroke by the mean of each check, with its spread; None before three checks."""
    if len(checks) < LEAST_CHECKS:
        return None
    try:
        found = theil_sen([c.strokes for c in checks], [c.mean_mm for c in checks])
    except FitError:
        return None
    return found.mm, found.low_mm, found.high_mm, len(checks)


def _ends(state: JobState, cylinder: int, k: float) -> tuple[float, float]:
    """How the ends cut against what the simulator says, from the first check of the step to the last: 1 is as figured."""
    step, since = (
        state.honing.step_of(cylinder),
        state.honing.run_since,
    )  # other strokes would have cut the ends otherwise
    checks = [c for c in state.honing.checks_of(cylinder, step) if len(c.sizes_mm) >= LEAST_PLACES and c.seq > since]
    if len(checks) < LEAST_CHECKS or state.honing.run is None or checks[-1].strokes <= checks[0].strokes:
        return 1.0, 1.0
    first, last = checks[0], checks[-1]
    if len(first.sizes_mm) != len(last.sizes_mm):
        return 1.0, 1.0
    depths = places_of_checks(state, len(first.sizes_mm))
    start = WallNow(depths, first.by_depth_mm, WallFrom.CHECK)
    hole = Hole(state.block.bore_mm, state.block.length_mm, k, _hard_band(state))
    phase = _phase(state, kinematics_of(state), max(int(last.strokes - first.strokes), 1))
    grid = on_grid(depths, start.excess_mm, PLANNING, hole.length_mm)
    said = simulate(hole, pack_of(state), grid, [phase], PLANNING)
    figured = [2.0 * float(np.interp(d, said.depth_mm, said.removed_mm)) for d in depths]
    taken = [b - a for a, b in zip(first.by_depth_mm, last.by_depth_mm, strict=True)]
    middle = len(depths) // 2
    if min(figured[0], figured[-1], figured[middle], taken[middle]) <= 0.0:
        return 1.0, 1.0
    base = taken[middle] / figured[middle]
    top, bottom = (float(np.clip(taken[i] / figured[i] / base, 1.0 / MOST_LEARNED, MOST_LEARNED)) for i in (0, -1))
    return top, bottom


def bare_hole(state: JobState) -> Hole:
    """The hole with k as one: for turning a rate into k."""
    return Hole(state.block.bore_mm, state.block.length_mm, 1.0)


def _hard_band(state: JobState) -> tuple[tuple[float, float, float], ...]:
    band = state.block.band_mm
    return ((0.0, band, state.figures.number("stones.hard_band_cuts")),) if band else ()


def pack_of(state: JobState) -> Pack:
    """The stones as a pack. Raises InputError while they are not booked."""
    stones = state.honing.stones
    if stones is None:
        raise InputError("Which stones are in is not booked: stones vitrified 150 4 x 10 long 70")
    return Pack(stones.length_mm, stones.count * stones.width_mm, state.figures.number("honing.stiffness"), True)


def force_of(state: JobState) -> float:
    """Force over all stones, N: the load's share of the machine's. The absolute figure cancels in a k that was learned."""
    load = None if state.honing.run is None else state.honing.run.load
    share = state.figures.number("honing.rough_load") if load is None else load
    return state.figures.number("honing.full_force") * share / 100.0


def _phase(state: JobState, k: Kinematics, strokes: int) -> Phase:
    h = state.honing.run
    if h is None or k.stroke is None or h.strokes_per_min is None or k.motion is None:
        raise InputError("How the hone goes is not booked, or it is hand-held: hone vertical")
    pack = pack_of(state)
    upper, lower = over_strokes(state.block.length_mm, pack.stone_mm, k.stroke.over_top_mm, k.stroke.over_bottom_mm)
    return Phase(
        upper,
        lower,
        strokes,
        h.rpm,
        h.strokes_per_min,
        force_of(state),
        k.motion.reversal_s,
        h.dwell_top_s,
        h.dwell_bottom_s,
    )


class TaskFound(NamedTuple):
    """What is put before the planner."""

    task: Task
    wall: WallNow
    learned: Learned


def task_of(state: JobState, cylinder: int) -> TaskFound:
    """What is to be honed in this step. Raises InputError with what is missing."""
    progress, wall = progress_of(state, cylinder), wall_now(state, cylinder)
    if progress.target_mm is None:
        raise InputError("The redline is not known: the call and the piston of this cylinder come first")
    if wall is None or len(wall.sizes_mm) < 2:
        raise InputError("The wall is known at one depth only: gauge it at three, or book a check from the top down")
    h, learned, f = state.honing.run, learned_of(state, cylinder), state.figures
    assert h is not None and h.strokes_per_min is not None  # learned_of has said so otherwise
    length = state.block.length_mm
    bands = [*_hard_band(state)]
    if learned.top != 1.0:
        bands.append((0.0, END_SHARE * length, learned.top))
    if learned.bottom != 1.0:
        bands.append(((1.0 - END_SHARE) * length, length + 1.0, learned.bottom))
    hole = Hole(state.block.bore_mm, length, learned.k_mm3_per_n_mm, tuple(bands))
    excess = on_grid(wall.depths_mm, wall.excess_mm, PLANNING, length)
    target = (progress.target_mm - min(wall.sizes_mm)) / 2.0
    turn = min(f.number("honing.turn_round"), 0.45 * 60.0 / h.strokes_per_min)
    task = Task(
        hole, pack_of(state), tuple(excess.tolist()), target, room_kept(state), h.rpm, h.strokes_per_min, force_of(state),
        turn, f.number("honing.overstroke_share"), f.number("honing.overstroke_cap"), f.number("honing.longest_dwell"),
        f.number("honing.straight") / 2.0,
    )  # fmt: skip
    return TaskFound(task, wall, learned)


def forecast(state: JobState, cylinder: int, tick: Callable[[float], None] | None = None) -> Forecast:
    """The plan for a cylinder's present step. Raises InputError with what is missing; tick may raise to break off."""
    task, wall, learned = task_of(state, cylinder)
    plan = plan_strokes(task, tick)
    target = min(wall.sizes_mm) + 2.0 * task.target_mm
    return Forecast(
        cylinder, wall, plan, learned, target, warming(state, plan.honed), _in_the_round(state, cylinder, task, plan)
    )


def _in_the_round(state: JobState, cylinder: int, task: Task, plan: StrokePlan) -> tuple[float, float] | None:
    """Out of round before and after the plan's strokes, from the whole wall: its meridian and its second harmonic."""
    amplitude = _second_harmonic(state, cylinder)
    if amplitude is None or amplitude < 5e-5:
        return None
    grid = Grid(cells=ROUND.cells, angles=ROUND.angles, steps=ROUND.steps)
    z = grid.depths(task.hole.length_mm)
    flat = np.interp(z, PLANNING.depths(task.hole.length_mm), np.asarray(task.excess_mm))
    crest = np.cos(2.0 * np.deg2rad(np.arange(grid.angles) * 360.0 / grid.angles))
    start = flat[None, :] + amplitude * (crest[:, None] + 1.0)
    upper, lower = over_strokes(task.hole.length_mm, task.pack.stone_mm, plan.over_top_mm, plan.over_bottom_mm)
    phase = Phase(
        upper, lower, plan.double_strokes, task.rpm, task.double_strokes_per_min, task.radial_force_n, task.reversal_s,
        plan.dwell_top_s, plan.dwell_bottom_s,
    )  # fmt: skip
    honed = simulate(task.hole, task.pack, start, [phase], grid)
    after = float((honed.excess_mm.max(axis=0) - honed.excess_mm.min(axis=0)).max())
    return 4.0 * amplitude, 2.0 * after


def _second_harmonic(state: JobState, cylinder: int) -> float | None:
    """Amplitude on radius of the oval the hone starts from, mm: off the bar from its two angles, else as gauged."""
    if state.honing.checks_of(cylinder):
        return None  # checks are read along the depth; what is left of the oval is not known
    hole = hole_of(state, cylinder)
    if hole is not None:
        return None if hole.out_of_round_mm is None else hole.out_of_round_mm / 4.0
    ovals = [v.fit.out_of_round_second_harmonic_mm for v in shape_of(state, cylinder).levels]
    known = [v for v in ovals if v is not None]
    return max(known) / 4.0 if known and state.sleeving.after_of(cylinder) is None else None


def warming(state: JobState, honed: Honed) -> float:
    """How much warmer the wall gets, C: friction work into the wall that warms with the bore, what coolant takes left out."""
    f, block = state.figures, state.block
    heat = f.number("honing.friction") * honed.work_n_mm * 1e-3 * f.number("honing.heat_into_wall")
    volume = np.pi * block.bore_mm * block.length_mm * f.number("honing.wall_warmed") * 1e-9
    return float(heat / (STEEL_STORES * volume))


def warmth_grows_mm(state: JobState, warms_c: float) -> float:
    """What that warmth adds to the bore, mm: it reads so much large."""
    return state.block.bore_mm * state.coefficient_1e6 * 1e-6 * warms_c


def against_plan(state: JobState, found: Forecast) -> tuple[float, float] | None:
    """Ends of the last check against the plan's, top and bottom less the middle, measured less predicted, mm on diameter;
    None while no check was made since, or with fewer than three places."""
    checks = state.honing.checks_of(found.cylinder)
    if not checks or len(checks[-1].sizes_mm) < LEAST_PLACES:
        return None
    sizes = checks[-1].by_depth_mm
    said = found.sizes_at(places_of_checks(state, len(sizes)))
    m = len(sizes) // 2
    return (sizes[0] - sizes[m]) - (said[0] - said[m]), (sizes[-1] - sizes[m]) - (said[-1] - said[m])


def metal_of(state: JobState) -> str:
    """The metal that is honed, for what the rates hold for."""
    return "grey_iron" if state.block.material == "iron_in_aluminium" else parent_material(state.block.material)
