"""What came of a block, held against the truth: past the redline, shadows, walls, blocks given up, metal, checks, strokes told."""

from __future__ import annotations

from dataclasses import astuple, dataclass, field

import numpy as np

from redline_bore.job.call.ladder import ladder_of
from redline_bore.job.call.need import cut_axis, need_of
from redline_bore.job.call.walls import wall_limits
from redline_bore.job.gauge.window_room import window_room
from redline_bore.job.hone.finding import HoneCall
from redline_bore.job.hone.progress import progress_of
from redline_bore.job.redline import leading_window
from redline_bore.job.state.job_state import JobState
from redline_bore.loop.gauger import Work
from redline_bore.loop.machinist import Machinist
from redline_bore.truth.block import TrueBlock, true_block
from redline_bore.truth.hole import CLOCKS, TrueHole

RULE_OF_THUMB_MM = 0.13  # a listed size that clears the largest reading, one-sided wear doubled, by so much


@dataclass
class CylinderReckoned:
    """One cylinder that was honed to the end. Millimetres; past is over, minus under."""

    seed: int
    cylinder: int
    place_past_window: float  # the largest true place over the top of the clearance window
    place_under_window: float  # the smallest true place under its bottom
    mean_past_redline: float
    u: float
    window_fits: bool
    shadow: bool
    sure: bool
    thin: bool
    checks: int
    four_steps: bool
    ended: str


@dataclass
class Reckoned:
    """One block. steps_over_rule: rungs more than the rule of thumb would have taken; savable: it was given up, and could have been done."""

    seed: int
    layout: str
    metal: str
    wear: str
    wall: str
    called_mm: float | None = None
    given_up: str = ""
    savable: bool = False
    left: bool = False
    less_metal: bool | None = None
    steps_over_rule: int = 0
    sweeps: int = 0
    endless: str = ""
    guessed: list[str] = field(default_factory=list)
    minutes: float = 0.0
    readings: int = 0
    requests: int = 0
    again: int = 0
    chance: float | None = None  # reckoned of the first call, where it was not proven
    said: float | None = None  # told in figures
    would_do: bool | None = None  # whether that size would truly have cleaned every hole up
    told: int = 0
    told_inside: int = 0
    cylinders: list[CylinderReckoned] = field(default_factory=list)
    story: list[str] = field(default_factory=list)


def reckon(machinist: Machinist) -> Reckoned:
    """Work a block, and hold what came of it against the truth."""
    block, fresh = machinist.block, true_block(machinist.block.seed)
    work = machinist.run()
    state = machinist.state
    found = Reckoned(
        block.seed, f"{block.spec.layout} {block.spec.cylinders}", block.spec.material, block.wear, str(block.spec.wall), work.called_mm,
        work.given_up, left=work.left, sweeps=work.sweeps, endless=work.endless, guessed=work.guessed, story=work.story,
    )  # fmt: skip
    found.minutes, found.readings, found.requests, found.again = work.minutes, work.readings, work.requests, work.again
    if work.first_mm is not None and not work.first_sure:
        size = fresh.spec.bore_mm + work.first_mm - fresh.pistons_under_mm + leading_window(state).aim_mm
        found.chance, found.said, found.would_do = (
            work.chance,
            work.said,
            all(_clean_at(hole, size) for hole in fresh.holes),
        )
    for went in work.hones.values():
        told = [t for t in went.told if t.truly is not None and t.truly > 0.0]
        found.told += len(told)
        found.told_inside += sum(
            t.least <= (t.truly or 0.0) + 0.5 and (t.most is None or (t.truly or 0.0) - 0.5 <= t.most) for t in told
        )
    rule = _rule_of_thumb(fresh)
    if work.given_up:
        found.savable = _savable(state, fresh)
    if work.called_mm is not None and rule is not None and not work.endless:
        rungs = sorted({*fresh.oversizes_mm, work.called_mm})
        most = max((progress_of(state, c).redline.size_mm or 0.0) for c in state.cylinders)
        by_rule = fresh.spec.bore_mm + rule + leading_window(state).aim_mm
        found.less_metal = most < by_rule - 1e-6
        found.steps_over_rule = rungs.index(work.called_mm) - rungs.index(min(rungs, key=lambda r: abs(r - rule)))
    if work.finished and not work.endless:
        found.cylinders = [_cylinder(machinist, work, c) for c in state.cylinders]
    return found


def _cylinder(m: Machinist, work: Work, cylinder: int) -> CylinderReckoned:
    state, hole = m.state, m.hole(cylinder)
    p, window, travel = progress_of(state, cylinder), leading_window(state), state.travel
    assert p.ends is not None
    rows = hole.rows_between(travel.top_mm, travel.bottom_mm)
    sizes = hole.diameters()[rows]
    true_piston = work.pistons[cylinder][0]
    room = window_room(state)
    return CylinderReckoned(
        work.block.seed, cylinder, float(sizes.max()) - true_piston - window.high_mm, true_piston + window.low_mm - float(sizes.min()),
        float(sizes.mean()) - p.ends.redline_mm, p.ends.u_mm, room.enough, _shadowed(hole), work.sure, _thin(state, hole),
        work.hones[cylinder].checks, work.four_steps, "" if (end := work.hones[cylinder].ended) is None else end.name,
    )  # fmt: skip


def _shadowed(hole: TrueHole) -> bool:
    """Some of the wall is as it came, other than at a flaw that nobody could have marked."""
    hidden = [f for f in hole.flaws if not f.can_be_found]
    kept, hole.flaws = hole.flaws, hidden
    hide = hole.flaw_depth() > 0.0
    hole.flaws = kept
    return bool((hole.shadow() & ~hide).any())


def _thin(state: JobState, hole: TrueHole) -> bool:
    """Some place of the wall is truly under its limit."""
    limits = wall_limits(state, "liner")
    thrust = (
        np.minimum(np.abs((CLOCKS - 90.0 + 180.0) % 360.0 - 180.0), np.abs((CLOCKS - 270.0 + 180.0) % 360.0 - 180.0))
        <= 45.0
    )
    limit = np.where(thrust, limits["thrust"], limits["elsewhere"])
    return bool(((hole.outside_mm - hole.radius_mm) < limit[None, :] - 1e-6).any())


def _rule_of_thumb(block: TrueBlock) -> float | None:
    """The size in name by rule of thumb: largest two-point reading, wear doubled, or what a flaw wants; the next listed size that clears it by
    0.13 mm."""
    need = 0.0
    for hole in block.holes:
        sizes = hole.diameters()
        unworn = float(sizes[-2:].mean())
        need = max(need, unworn + 2.0 * (float(sizes.max()) - unworn), *(unworn + 2.0 * f.deep_mm for f in hole.flaws))
    return next((r for r in sorted(block.oversizes_mm) if block.spec.bore_mm + r >= need + RULE_OF_THUMB_MM), None)


def _savable(state: JobState, block: TrueBlock) -> bool:
    """Whether some listed size would truly have done in every cylinder: cleaned it up about the unworn bottom, and left the wall."""
    aim = leading_window(state).aim_mm
    for rung in sorted(block.oversizes_mm):
        size = block.spec.bore_mm + rung - block.pistons_under_mm + aim
        if all(_would_do(state, hole, size) for hole in block.holes):
            return True
    return False


def _centred(hole: TrueHole) -> TrueHole:
    """A copy of a hole, counted from its unworn bottom."""
    trial = TrueHole(
        hole.length_mm,
        hole.radius_mm.copy(),
        hole.plate_mm,
        hole.outside_mm.copy(),
        hole.centre_mm.copy(),
        hole.flaws,
        hole.found_mm.copy(),
    )
    trial.move_to(*(float(v) for v in hole.centre_mm[-3]))
    return trial


def _clean_at(hole: TrueHole, size_mm: float) -> bool:
    """Bored dead centre in the unworn bottom: no place is left as it came."""
    trial = _centred(hole)
    return bool((trial.found_mm <= size_mm / 2.0 - 1e-4).all())


def _would_do(state: JobState, hole: TrueHole, size_mm: float) -> bool:
    """Bored dead centre in the unworn bottom to a size: no shadow, and every wall over its limit."""
    trial = _centred(hole)
    if bool((trial.found_mm >= size_mm / 2.0 - 0.002).any()):
        return False
    trial.radius_mm = np.maximum(trial.radius_mm, size_mm / 2.0)
    return not _thin(state, trial)


def ladder_told(state: JobState) -> list[str]:
    """What the program believed of every cylinder, for a story."""
    found = []
    for column in ladder_of(state).columns:
        c = column.cleanup
        told = (
            "not known"
            if c is None
            else f"cleans up at {c.low_mm:.3f}-{c.high_mm:.3f}, lacks {[x.name for x in c.lacks]}"
        )
        wall, about = column.walls, ""
        if need_of(state, column.cylinder).swept is not None:
            x, y, low_x, low_y = (_told(v) for v in astuple(cut_axis(state, column.cylinder)))
            about = f", about {x} {y} at the top and {low_x} {low_y} at the bottom"
        found.append(
            f"cylinder {column.cylinder}: {told}; wall to {_told(wall.sure_mm)} sure, {_told(wall.most_mm)} at most{about}"
        )
    return found


def _told(mm: float | None) -> str:
    """To the micrometre: what lies below differs from machine to machine."""
    return "not known" if mm is None else f"{round(mm, 3) + 0.0:.3f}"


STOPPED = (HoneCall.PAST, HoneCall.TIGHT)
