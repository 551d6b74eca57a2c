"""How to stroke a hole so that it ends nearest to straight at its target: overstrokes, dwell, short strokes (methods 11).

Lengths and excess radius in mm, dwell in s. Each end answers to its own overstroke (more opens it, less leaves it tight);
where the room below or the cap stops that, to dwell there; a tight place in the middle to short strokes over it.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from redline_bore.core.errors import InputError
from redline_bore.core.frozen import frozen, replace
from redline_bore.core.late import np
from redline_bore.core.removal import Grid, Hole, Honed, Pack, Phase, over_strokes, simulate

if TYPE_CHECKING:
    from numpy.typing import NDArray

    Array = NDArray[np.float64]

# Coarse on purpose: some sixty trials a plan. What is shown is simulated anew on the fine grid.
PLANNING = Grid(cells=50, steps=20)
# END_SHARE: how much of the length counts as an end.
MOST_STROKES, END_SHARE = 600, 0.08
ROUNDS, STARTS_KEPT, MOST_TRIED = 4, 2, 60
# Shares of a knob's whole range: the first step trusted to be linear, where steps end, and the small turn the slopes are taken by.
FIRST_REACH, LEAST_REACH, SMALL_TURN, LEAST_SHARE = 0.35, 0.02, 0.06, 0.02
MOST_MORE, WORTH_IT = 3, 0.9  # searches that go on, and how much straighter each has to come
EARLY_ROUNDS = 5
ENDS_EARLY = "ends early"  # among the limits: more strokes would leave the hole less straight than it began
SHORT_STROKES, SHORT_SHARE = 6, 0.35


@frozen(often=True)
class Task:
    """What is to be honed: wall as excess radius on the planning grid, target excess, room below, and how the machine goes.

    usual_share, cap_share: of the stone, overstroke to begin with and never more. most_dwell_s: at one end of a stroke.
    straight_mm: spread of the radius that is straight enough.
    """

    hole: Hole
    pack: Pack
    excess_mm: tuple[float, ...]
    target_mm: float
    room_below_mm: float | None
    rpm: float
    double_strokes_per_min: float
    radial_force_n: float
    reversal_s: float
    usual_share: float = 0.30
    cap_share: float = 0.40
    most_dwell_s: float = 1.5
    straight_mm: float = 0.002


@frozen(often=True)
class StrokePlan:
    """The plan and what it leaves.

    Spread_mm: largest less smallest radius, now and after. short: upper and lower end of the stretch that is
    short-stroked and how many double strokes, before the long ones. limits: what held it back.
    """

    over_top_mm: float
    over_bottom_mm: float
    dwell_top_s: float
    dwell_bottom_s: float
    short: tuple[float, float, int] | None
    double_strokes: int
    honed: Honed
    spread_before_mm: float
    spread_mm: float
    limits: tuple[str, ...]

    @property
    def minutes(self) -> float:
        """Minutes of honing."""
        return self.honed.seconds / 60.0


def plan_strokes(task: Task, tick: Callable[[float], None] | None = None) -> StrokePlan:
    """The plan: the straightest that is found from several starts, both ends turned together; never one that ends less straight than the hole began.

    Tick: called with the share done; it may raise to break off. Raises InputError when there is no stock, or the
    stone does not fit. Source: methods 11, searched with the simulator itself: at a point the wall that is left is taken as
    linear in both overstrokes and both dwells, and the smallest spread of that sought inside a step that shrinks where it promised too much.
    """
    wall = np.asarray(task.excess_mm)
    if wall.shape != (PLANNING.cells,):
        raise InputError("The wall has to be known at every depth of the planning grid")
    if float(wall.max()) >= task.target_mm:
        raise InputError("The largest place is at its target already: nothing is to be taken")
    told = _Told(tick)
    first = _first(task)
    best = _Tried(first, _run(task, first))
    told.on(0.05)
    if best.spread_mm > task.straight_mm:
        # Several starts, for the spread has hills: an end may be straight by much overstroke and a dwell, or by little of both.
        starts = sorted([best, *(_tried(task, k, told) for k in _starts(task, first))], key=lambda t: t.spread_mm)
        for start in starts[:STARTS_KEPT]:
            best = min(best, _improved(task, start, told), key=lambda t: t.spread_mm)
            if best.spread_mm <= task.straight_mm:
                break
        best = _gone_on(task, best, told)
    if best.spread_mm > task.straight_mm:
        best = _with_short(task, best, told)
    before = float(wall.max() - wall.min())
    # Last, whatever the search thought: a plan that ends less straight than the hole began is cut short where it still did not.
    best, early = _no_worse(task, best, max(before, task.straight_mm))
    told.on(1.0)
    knobs, honed = best.knobs, best.honed
    limits = _limits(task, knobs, honed)
    return StrokePlan(
        knobs.top, knobs.bottom, knobs.dwell_top, knobs.dwell_bottom, knobs.short, int(honed.double_strokes), honed,
        before, best.spread_mm, (*limits, ENDS_EARLY) if early else limits,
    )  # fmt: skip


@frozen(often=True)
class _Knobs:
    top: float
    bottom: float
    dwell_top: float = 0.0
    dwell_bottom: float = 0.0
    short: tuple[float, float, int] | None = None


@frozen(often=True)
class _Tried:
    knobs: _Knobs
    honed: Honed

    @property
    def spread_mm(self) -> float:
        return _spread(self.honed)


class _Told:
    """How far the search is, by how often it has tried."""

    def __init__(self, tick: Callable[[float], None] | None) -> None:
        self.tick, self.tried = tick, 0

    def on(self, share: float) -> None:
        if self.tick is not None:
            self.tick(share)

    def one_more(self) -> None:
        self.tried += 1
        self.on(min(0.05 + self.tried / MOST_TRIED, 0.95))


def _most_bottom(task: Task) -> float:
    cap = task.cap_share * task.pack.stone_mm
    return cap if task.room_below_mm is None else min(cap, task.room_below_mm)


def _first(task: Task) -> _Knobs:
    usual = task.usual_share * task.pack.stone_mm
    if task.pack.stone_mm >= task.hole.length_mm:
        raise InputError("The stone is longer than the hole: a shorter stone is wanted")
    return _Knobs(usual, min(usual, _most_bottom(task)))


def _phases(task: Task, knobs: _Knobs) -> list[Phase]:
    upper, lower = over_strokes(task.hole.length_mm, task.pack.stone_mm, knobs.top, knobs.bottom)
    long = Phase(
        upper, lower, MOST_STROKES, task.rpm, task.double_strokes_per_min, task.radial_force_n, task.reversal_s,
        knobs.dwell_top, knobs.dwell_bottom,
    )  # fmt: skip
    if knobs.short is None:
        return [long]
    top, bottom, count = knobs.short
    return [
        replace(long, upper_mm=top, lower_mm=bottom, double_strokes=count, dwell_top_s=0.0, dwell_bottom_s=0.0),
        long,
    ]


def _run(task: Task, knobs: _Knobs, grid: Grid = PLANNING) -> Honed:
    return simulate(task.hole, task.pack, np.asarray(task.excess_mm), _phases(task, knobs), grid, None, task.target_mm)


def _spread(honed: Honed) -> float:
    return float(honed.excess_mm.max() - honed.excess_mm.min())


def _ends(honed: Honed) -> tuple[float, float]:
    """How far each end is open (plus) or tight against the middle, radius in mm."""
    wall, count = honed.excess_mm, max(int(END_SHARE * honed.excess_mm.size), 1)
    middle = float(np.median(wall[count * 3 : -count * 3]))
    return float(wall[:count].mean()) - middle, float(wall[-count:].mean()) - middle


def _tried(task: Task, knobs: _Knobs, told: _Told) -> _Tried:
    told.one_more()
    return _Tried(knobs, _run(task, knobs))


def _box(task: Task) -> tuple[Array, Array]:
    """The least and the most of both overstrokes (mm) and both dwells (s)."""
    cap, bottom = task.cap_share * task.pack.stone_mm, max(_most_bottom(task), 0.0)
    least = LEAST_SHARE * task.pack.stone_mm
    return (
        np.array([min(least, cap), min(least, bottom), 0.0, 0.0]),
        np.array([cap, bottom, task.most_dwell_s, task.most_dwell_s]),
    )


def _starts(task: Task, first: _Knobs) -> list[_Knobs]:
    """Where else the search begins: each end worked more than the other, both little, and a dwell where an end has no room."""
    low, high = _box(task)
    half = 0.4 * task.most_dwell_s
    found = [
        replace(first, top=float(low[0]), bottom=float(high[1])),
        replace(first, top=float(high[0]), bottom=float(low[1])),
        replace(first, top=float(0.5 * (low[0] + first.top)), bottom=float(0.5 * (low[1] + first.bottom))),
    ]
    if task.most_dwell_s > 0.0:
        found += [
            replace(first, top=float(0.5 * (low[0] + first.top)), dwell_bottom=half),
            replace(first, bottom=float(0.5 * (low[1] + first.bottom)), dwell_top=half),
        ]
    return found


def _improved(task: Task, start: _Tried, told: _Told) -> _Tried:
    """The straightest that small steps from a start come to."""
    low, high = _box(task)
    width = np.maximum(high - low, 1e-9)
    best, reach = start, FIRST_REACH
    for _ in range(ROUNDS):
        if best.spread_mm <= task.straight_mm or reach < LEAST_REACH:
            break
        here = (_vector(best.knobs) - low) / width
        slopes = [_slope(task, best, here, i, low, width, told) for i in range(4)]
        there = _straightest(best.honed.excess_mm, np.array(slopes), here, reach)
        for _ in range(2):
            found = _tried(task, _turned(best.knobs, low + there * width), told)
            # Promised by the straight-line picture, believed only when simulated; where it failed the step is cut to a third.
            if found.spread_mm < best.spread_mm - 1e-6:
                best = found
                break
            reach, there = reach / 3.0, here + (there - here) / 3.0
    return best


def _gone_on(task: Task, best: _Tried, told: _Told) -> _Tried:
    """As long as another search from where the best one ended still makes it much straighter."""
    for _ in range(MOST_MORE):
        if best.spread_mm <= task.straight_mm:
            break
        found = _improved(task, best, told)
        if found.spread_mm > WORTH_IT * best.spread_mm:
            return min(best, found, key=lambda t: t.spread_mm)
        best = found
    return best


def _slope(task: Task, at: _Tried, here: Array, knob: int, low: Array, width: Array, told: _Told) -> Array:
    """What a knob turned from its least to its most would change of the wall that is left, by a small turn of it."""
    # At its most a knob can only be turned back.
    turn = SMALL_TURN if here[knob] + SMALL_TURN <= 1.0 else -SMALL_TURN
    if width[knob] <= 1e-6:
        return np.zeros(PLANNING.cells)
    moved = here.copy()
    moved[knob] += turn
    found = _tried(task, _turned(at.knobs, low + moved * width), told)
    return (found.honed.excess_mm - at.honed.excess_mm) / turn


def _straightest(wall: Array, slopes: Array, here: Array, reach: float) -> Array:
    """The point within reach whose wall, were it linear, spreads least: a linear programme in knobs, lowest and highest radius."""
    from scipy.optimize import linprog

    knobs, cells = slopes.shape
    rows = np.vstack((
        np.hstack((slopes.T, np.zeros((cells, 1)), -np.ones((cells, 1)))),
        np.hstack((-slopes.T, np.ones((cells, 1)), np.zeros((cells, 1)))),
    ))  # fmt: skip
    base = wall - wall.mean()
    bounds = [(max(-reach, -x), min(reach, 1.0 - x)) for x in here] + [(None, None)] * 2
    cost = np.concatenate((np.zeros(knobs), [-1.0, 1.0]))
    scale = 1e3  # in um
    rows[:, :knobs] *= scale
    found = linprog(cost, rows, np.concatenate((-base, base)) * scale, bounds=bounds, method="highs")
    return here + found.x[:knobs] if found.status == 0 else here


def _vector(knobs: _Knobs) -> Array:
    return np.array([knobs.top, knobs.bottom, knobs.dwell_top, knobs.dwell_bottom])


def _turned(knobs: _Knobs, to: Array) -> _Knobs:
    top, bottom, dwell_top, dwell_bottom = (float(v) for v in to)
    return replace(knobs, top=top, bottom=bottom, dwell_top=max(dwell_top, 0.0), dwell_bottom=max(dwell_bottom, 0.0))


def _with_short(task: Task, long: _Tried, told: _Told) -> _Tried:
    """Short strokes over a tight stretch that no end can mend, where they leave it straighter."""
    wall, z = long.honed.excess_mm, long.honed.depth_mm
    tight = z[int(np.argmin(wall))]
    travel = SHORT_SHARE * task.pack.stone_mm
    upper = float(np.clip(tight - (task.pack.stone_mm + travel) / 2.0, -0.25 * task.pack.stone_mm, None))
    lowest = task.hole.length_mm + _most_bottom(task) - task.pack.stone_mm
    lower = min(upper + travel, lowest)
    if lower - upper < 0.1 * task.pack.stone_mm:
        upper = lower - travel
    # So many as would take what is missing there at the usual rate, half of it and twice: the pack covers more than the tight stretch.
    missing, per_stroke = long.spread_mm, max(long.honed.mean_removed_mm / max(long.honed.double_strokes, 1.0), 1e-7)
    best = long
    for share in (0.5, 1.0, 2.0):
        count = max(int(share * missing / per_stroke), SHORT_STROKES)
        tried = _tried(task, replace(long.knobs, short=(upper, lower, count)), told)
        if tried.spread_mm < best.spread_mm - 2e-4:
            best = tried
    return best if best is long else min(best, _improved(task, best, told), key=lambda t: t.spread_mm)


def _no_worse(task: Task, best: _Tried, most_mm: float) -> tuple[_Tried, bool]:
    """The plan, or fewer of its strokes where all of them would leave the hole less straight than ``most_mm``; and whether it ends early."""
    if best.spread_mm <= most_mm:
        return best, False
    largest = float(np.asarray(task.excess_mm).max())
    low, high, found = 0.0, 1.0, best
    for _ in range(EARLY_ROUNDS):
        share = (low + high) / 2.0
        part = replace(task, target_mm=largest + share * (task.target_mm - largest))
        tried = _Tried(best.knobs, _run(part, best.knobs))
        if tried.spread_mm <= most_mm:
            low, found = share, tried
        else:
            high = share
    if found is best:  # not even the first strokes: then none
        found = _Tried(best.knobs, _run(replace(task, target_mm=largest), best.knobs))
    return found, True


def _limits(task: Task, knobs: _Knobs, honed: Honed) -> tuple[str, ...]:
    """What held the plan back from straight."""
    found = []
    top_off, bottom_off = _ends(honed)
    cap = task.cap_share * task.pack.stone_mm
    if task.room_below_mm is not None and task.room_below_mm < cap and knobs.bottom >= task.room_below_mm - 0.05:
        found.append("room below")
    elif knobs.bottom >= cap - 0.05 and bottom_off < -task.straight_mm / 2.0:
        found.append("cap at the bottom")
    if knobs.top >= cap - 0.05 and top_off < -task.straight_mm / 2.0:
        found.append("cap at the top")
    if max(knobs.dwell_top, knobs.dwell_bottom) >= task.most_dwell_s - 0.01:
        found.append("longest dwell")
    return tuple(found)
