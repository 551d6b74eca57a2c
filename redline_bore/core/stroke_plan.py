"""How to stroke a hole so that it ends nearest to straight at its target: overstrokes, dwell, short strokes (methods 11).

Lengths and excess radius in mm, dwell in s. Each end answers to its own overstroke (more opens it, less leaves it tight);
where the room below or the cap stops that, to dwell there; a tight place in the middle to short strokes over it.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

import numpy as np

from redline_bore.core.errors import InputError
from redline_bore.core.removal import Grid, Hole, Honed, Pack, Phase, over_strokes, simulate

if TYPE_CHECKING:
    from numpy.typing import NDArray

    Array = NDArray[np.float64]

PLANNING = Grid(cells=50, steps=20)
ROUNDS, MOST_STROKES, END_SHARE = 5, 600, 0.08
SHORT_STROKES, SHORT_SHARE = 6, 0.35


@dataclass(frozen=True)
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


@dataclass(frozen=True)
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
    """The plan.

    Tick: called with the share done; it may raise to break off. Raises InputError when there is no stock, or the
    stone does not fit. Source: methods 11, searched end by end with the simulator itself.
    """
    wall = np.asarray(task.excess_mm)
    if wall.shape != (PLANNING.cells,):
        raise InputError("The wall has to be known at every depth of the planning grid")
    if float(wall.max()) >= task.target_mm:
        raise InputError("The largest place is at its target already: nothing is to be taken")
    knobs = _first(task)
    best, best_honed = knobs, _run(task, knobs)
    for turn in range(ROUNDS):
        if tick is not None:
            tick((turn + 1) / (ROUNDS + 2))
        if _spread(best_honed) <= task.straight_mm:
            break
        knobs, moved = _turned(task, best, best_honed)
        if not moved:
            break
        honed = _run(task, knobs)
        if _spread(honed) < _spread(best_honed):
            best, best_honed = knobs, honed
        else:
            best = replace(best, step=best.step * 0.5)
    best, best_honed = _with_short(task, best, best_honed)
    if tick is not None:
        tick(1.0)
    return StrokePlan(
        best.top, best.bottom, best.dwell_top, best.dwell_bottom, best.short, int(best_honed.double_strokes), best_honed,
        float(wall.max() - wall.min()), _spread(best_honed), _limits(task, best, best_honed),
    )  # fmt: skip


@dataclass(frozen=True)
class _Knobs:
    top: float
    bottom: float
    dwell_top: float = 0.0
    dwell_bottom: float = 0.0
    short: tuple[float, float, int] | None = None
    step: float = 1.0


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


def _turned(task: Task, knobs: _Knobs, honed: Honed) -> tuple[_Knobs, bool]:
    """Turn the knobs by what the ends say: a share of the stone for each share of the mean removal they are off."""
    top_off, bottom_off = _ends(honed)
    gain = knobs.step * 0.9 * task.pack.stone_mm / max(honed.mean_removed_mm, 1e-6) / 4.0
    cap = task.cap_share * task.pack.stone_mm
    top, dwell_top = _one_end(knobs.top, knobs.dwell_top, top_off, gain, cap, task, honed, knobs.step)
    bottom, dwell_bottom = _one_end(
        knobs.bottom, knobs.dwell_bottom, bottom_off, gain, _most_bottom(task), task, honed, knobs.step
    )
    new = replace(knobs, top=top, bottom=bottom, dwell_top=dwell_top, dwell_bottom=dwell_bottom)
    changed = max(abs(new.top - knobs.top), abs(new.bottom - knobs.bottom)) > 0.05 or (
        max(abs(new.dwell_top - knobs.dwell_top), abs(new.dwell_bottom - knobs.dwell_bottom)) > 0.01
    )
    return new, changed


def _one_end(
    over: float, dwell: float, off: float, gain: float, most: float, task: Task, honed: Honed, step: float
) -> tuple[float, float]:
    """New overstroke and dwell of an end that is ``off``: open takes dwell away first, tight uses up overstroke first."""
    period = 60.0 / task.double_strokes_per_min
    seconds = step * 1.2 * period * off / max(honed.mean_removed_mm, 1e-6)  # by how much too long it was worked
    if off > 0.0 and dwell > 0.0:
        return over, max(dwell - seconds, 0.0)
    wanted = over - off * gain
    if off < 0.0 and wanted > most:
        return most, min(dwell - seconds, task.most_dwell_s) if over >= most - 0.05 else dwell
    return min(max(wanted, 0.02 * task.pack.stone_mm), max(most, 0.0)), dwell


def _with_short(task: Task, knobs: _Knobs, honed: Honed) -> tuple[_Knobs, Honed]:
    """Short strokes over a tight stretch that no end can mend, where they leave it straighter."""
    wall, z = honed.excess_mm, honed.depth_mm
    if _spread(honed) <= task.straight_mm:
        return knobs, honed
    tight = z[int(np.argmin(wall))]
    travel = SHORT_SHARE * task.pack.stone_mm
    upper = float(np.clip(tight - (task.pack.stone_mm + travel) / 2.0, -0.25 * task.pack.stone_mm, None))
    lowest = task.hole.length_mm + _most_bottom(task) - task.pack.stone_mm
    lower = min(upper + travel, lowest)
    if lower - upper < 0.1 * task.pack.stone_mm:
        upper = lower - travel
    missing, per_stroke = _spread(honed), max(honed.mean_removed_mm / max(honed.double_strokes, 1.0), 1e-7)
    best, best_honed = knobs, honed
    for share in (0.5, 1.0, 2.0):
        count = max(int(share * missing / per_stroke), SHORT_STROKES)
        tried = replace(knobs, short=(upper, lower, count))
        result = _run(task, tried)
        if _spread(result) < _spread(best_honed) - 2e-4:
            best, best_honed = tried, result
    return best, best_honed


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
