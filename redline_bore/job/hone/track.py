"""Size and rate of a cylinder at the hone as its checks tell them, and what the next bite may be (methods 7, 12)."""

from __future__ import annotations

import math
from enum import Enum, auto

from redline_bore.core.frozen import frozen, replace
from redline_bore.core.stroke_track import (
    Between,
    Room,
    Seen,
    Track,
    TrackRules,
    bite,
    faster,
    followed,
    renewed,
    scatter_seen,
    strokes_between,
)
from redline_bore.job.gauge.doubt import clearance_doubt, reading_doubt
from redline_bore.job.hone.set_up import load_share, rate_of
from redline_bore.job.hone.steps import PEAKS_ONLY, light_strokes, shorts_of, stones_of
from redline_bore.job.redline import redline_of
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.honing import Check
from redline_bore.job.state.job_state import JobState

NO_METAL_MM = 0.002  # less growth than this over two bites may be the gauge
SET_OTHERWISE = 0.2  # log of how much more the stones turn in a double stroke: from here on its rate is another
CHANGED_SD = 0.30  # log sd of a rate after the stones or the load were changed in mid step: as told by a step before


@frozen
class Ends:
    """Sizes that a hole is held against, mm at 20 C: the mean goes to the redline, no place past the ceiling. ``u_mm``: U of a clearance.

    low, top: where the smallest and the largest place would stand at the ends of the clearance window.
    """

    redline_mm: float
    low_mm: float
    top_mm: float
    u_mm: float

    @property
    def ceiling_mm(self) -> float:
        """The top of the window less U."""
        return self.top_mm - self.u_mm


@once_a_state
def ends_of(state: JobState, cylinder: int) -> Ends | None:
    """The ends of a cylinder's window as sizes; None while its redline is not known."""
    r = redline_of(state, cylinder)
    if r.size_mm is None or r.piston_mm is None:
        return None
    u = clearance_doubt(state, r.size_mm, r.piston_mm)
    return Ends(r.size_mm, r.piston_mm + r.window.low_mm, r.piston_mm + r.window.high_mm, u)


def sizing_step(state: JobState) -> int:
    """The step that brings a hole to size: the last that does not only cut peaks."""
    stones = stones_of(state)
    return max((i for i, s in enumerate(stones) if s not in PEAKS_ONLY), default=len(stones) - 1)


def between_places(state: JobState, check: Check) -> float:
    """What may lie between the places of a check, mm on diameter."""
    return state.figures.number(f"honing.between_{'two_angles' if check.across_mm else 'one_angle'}")


@frozen
class Aim:
    """Where a step is to end, the mean of the hole, mm; nearer_mm: the same with the lead of the largest place counted whole.

    lead_mm: of the largest place over the mean; between_mm: what may lie between the places; kept_mm: what later steps still take.
    held_back: the ceiling holds the aim under the step's own end.
    """

    mean_mm: float
    step_mm: float
    lead_mm: float
    between_mm: float
    kept_mm: float

    @property
    def held_back(self) -> bool:
        """The shape of the hole, the window or the gauge's doubt keeps the aim under where the step would end."""
        return self.mean_mm < self.step_mm - 1e-9


def aim_of(state: JobState, ends: Ends, check: Check, step: int) -> Aim:
    """Where a step brings a hole of the shape of its last check. Source: methods 12."""
    shorts = shorts_of(state)
    short = shorts[min(step, len(shorts) - 1)]
    lead, between = check.largest_mm - check.mean_mm, between_places(state, check)
    kept = min(short, plateau_takes(state)) if step < len(shorts) - 1 else 0.0
    at_step = ends.redline_mm - short
    return Aim(min(at_step, ends.ceiling_mm - between - lead - kept), at_step, lead, between, kept)


def plateau_takes(state: JobState) -> float:
    """Metal on diameter that the most light strokes of a plateau may take, mm, by the starting point and half as much again."""
    most = light_strokes(state)[1]
    return 1.5 * most * light_rate(state)


def light_rate(state: JobState) -> float:
    """Metal on diameter a light stroke of the last step's tool takes, mm: a starting point."""
    return rate_of(state, stones_of(state)[-1]) * state.figures.number("honing.plateau_of_rough")


class ToldBy(Enum):
    """What told a rate before any check of the step."""

    OTHERS = auto()  # other cylinders, in this step
    STEP_BEFORE = auto()
    STONES = auto()  # their starting point


@frozen
class Tracked:
    """A cylinder in its step: the track, its aim, and what may come next. bite: whole double strokes that are safe.

    expected_mm: the rate that was expected before any check, and prior_from what told it; looks: how many
    checks it was followed through, the last of the step before among them.
    """

    track: Track
    aim: Aim
    room: Room
    bite: int
    between: Between
    rules: TrackRules
    expected_mm: float
    prior_from: ToldBy
    new_stones: bool | None
    looks: int

    @property
    def to_aim_mm(self) -> float:
        """The mean to its aim, mm; minus is beyond it."""
        return self.room.to_aim_mm


@once_a_state
def tracked_of(state: JobState, cylinder: int) -> Tracked | None:
    """The track of a cylinder in its present step; None before a check of it, or without a redline."""
    step = state.honing.step_of(cylinder)
    checks, ends = checks_in(state, cylinder, step), ends_of(state, cylinder)
    if not checks or ends is None:
        return None
    prior = _prior(state, cylinder, step)
    rules, seen = _rules(state, checks[-1]), _seen(state, checks, prior.rate_mm)
    if (
        state.honing.run_since > checks[-1].seq and len(checks) > 1
    ):  # the stroke was set anew: what a bite takes is less sure
        rules = replace(rules, bite_scatter=math.hypot(rules.bite_scatter, state.figures.number("honing.set_anew")))
    scatter = scatter_seen(seen, prior.rate_mm, prior.log_sd, rules)
    if scatter is not None:
        rules = replace(rules, scatter=scatter, bite_scatter=max(scatter, rules.bite_scatter))
    track = followed(seen, prior.rate_mm, prior.log_sd, rules)
    run = state.honing.run
    if len(checks) > 1 and run is not None:
        track = faster(track, _turned_more(run.turns_a_stroke, checks[-1].turns))
    fresh = len(checks) > 1 and any(seq > checks[-1].seq for seq in state.honing.fresh)
    if fresh := fresh or gives_no_metal(state, checks, len(checks) - 1, prior.rate_mm):
        track = renewed(track, prior.rate_mm, prior.log_sd)
    aim = aim_of(state, ends, checks[-1], step)
    room = _room(state, ends, aim, track)
    between = strokes_between(track, room.to_aim_mm + 0.2 * _gap(aim, ends), room.to_aim_mm, ends.u_mm, rules)
    new = None if checks[-1].bedded is None else not checks[-1].bedded
    return Tracked(
        track,
        aim,
        room,
        bite(track, room, rules),
        between,
        rules,
        prior.rate_mm,
        prior.told_by,
        new,
        1 if fresh else len(checks),
    )


def _gap(aim: Aim, ends: Ends) -> float:
    """How much of the lead holds the aim back, mm."""
    free = min(aim.step_mm, ends.ceiling_mm - aim.between_mm - aim.kept_mm)
    return max(free - aim.mean_mm, 0.0)


def _room(state: JobState, ends: Ends, aim: Aim, track: Track) -> Room:
    """What a bite has before it: no place past the top of the window, nor the mean past the redline by more than U."""
    largest = track.mean_mm + aim.lead_mm
    to_top = ends.top_mm - aim.between_mm - largest - aim.kept_mm
    to_limit = ends.redline_mm + ends.u_mm - track.mean_mm - aim.kept_mm
    return Room(aim.mean_mm - track.mean_mm, to_top, ends.u_mm, to_limit, state.figures.number("honing.lead_grows"))


def checks_in(state: JobState, cylinder: int, step: int) -> tuple[Check, ...]:
    """The checks of a step; the last of the step before is its first, at nought strokes, where none was booked at nought."""
    own = state.honing.checks_of(cylinder, step)
    if own and own[0].strokes == 0.0:
        return own
    before = [c for c in state.honing.checks_of(cylinder) if c.step < step]
    if not before:
        return own
    return (replace(before[-1], step=step, strokes=0.0), *own)


def gives_no_metal(state: JobState, checks: tuple[Check, ...], at: int, expected_mm: float) -> bool:
    """Whether the two bites up to a check took less than a tenth of what was expected of the stones, mm a stroke, and no more than a gauge
    can tell, the stones not dressed meanwhile. From there on they count as dressed: so it was told."""
    if at < 2 or state.honing.fresh_between(checks[at - 2].seq, checks[at].seq):
        return False
    strokes, grown = checks[at].strokes - checks[at - 2].strokes, checks[at].mean_mm - checks[at - 2].mean_mm
    return strokes > 0 and grown < 0.1 * expected_mm * strokes and grown < NO_METAL_MM


def _seen(state: JobState, checks: tuple[Check, ...], expected_mm: float) -> list[Seen]:
    own, zero, found = reading_doubt(state).own_mm, state.figures.number("honing.zero_moves"), []
    for i, c in enumerate(checks):
        before = checks[i - 1] if i else c
        stones_differ = c.stones != before.stones and i > 1
        factor = load_share(state, c.load) / load_share(state, before.load) if i > 1 else 1.0
        changed = CHANGED_SD if stones_differ or abs(factor - 1.0) > 1e-6 else 0.0
        more = _turned_more(c.turns, before.turns) if i > 1 else 1.0
        factor, changed = factor * more, CHANGED_SD if more != 1.0 else changed
        told = gives_no_metal(state, checks, i - 1, expected_mm)
        fresh = i > 1 and (told or state.honing.fresh_between(before.seq, c.seq))
        found.append(Seen(c.strokes, c.mean_mm, own**2 / len(c.all_mm) + zero**2, changed, factor, fresh))
    return found


def _turned_more(turns: float | None, before: float | None) -> float:
    """By what a double stroke takes more since turns, pace or dwell were set anew: as much as the stones turn more in it, at the most;
    small steps of dwell work at the ends alone, and the doubt of a stroke set anew holds them."""
    share = turns / before if turns and before else 1.0
    return share if abs(math.log(share)) > SET_OTHERWISE else 1.0


def _rules(state: JobState, check: Check) -> TrackRules:
    f = state.figures
    return TrackRules(
        f.number("honing.rate_drift" if check.bedded else "honing.rate_drift_new"), f.number("honing.bite_scatter"),
        f.number("honing.bite_scatter_least"), f.number("honing.bite_tail"), f.number("honing.interval_tail"),
    )  # fmt: skip


@frozen
class Prior:
    """What is expected of a rate before any check of the step: mm a stroke, its log sd, and what told it."""

    rate_mm: float
    log_sd: float
    told_by: ToldBy


def _prior(state: JobState, cylinder: int, step: int) -> Prior:
    """By another cylinder in this step, else by the step before, else the starting point of the stones."""
    f, stones = state.figures, stones_of(state)
    start = _starting_rate(state, cylinder, step)
    others = [r for c in state.cylinders if c != cylinder and (r := _rates_of(state, c, step)) is not None]
    if others:
        fast = sorted(max(r.start_mm, r.end_mm) for r in others)  # stones may be dressed between cylinders
        likely = max(fast[len(fast) // 2], f.number("honing.rate_other_least") * start)  # a scatter, or glazed stones
        return Prior(likely, f.number("honing.rate_other_cylinder"), ToldBy.OTHERS)
    if step > 0 and stones[min(step, len(stones) - 1)] not in PEAKS_ONLY:
        before = _rates_of(state, cylinder, step - 1)
        if before is not None:
            told = before.end_mm * start / _starting_rate(state, cylinder, step - 1)
            likely = max(told, start)  # other stones: slow before is no promise of slow now
            return Prior(likely, f.number("honing.rate_step_before"), ToldBy.STEP_BEFORE)
    return Prior(start, f.number("honing.rate_first"), ToldBy.STONES)


def _starting_rate(state: JobState, cylinder: int, step: int) -> float:
    checks, stones = state.honing.checks_of(cylinder, step), stones_of(state)
    which = next((c.stones for c in reversed(checks) if c.stones), stones[min(step, len(stones) - 1)])
    run = state.honing.run
    load = checks[-1].load if checks else None if run is None else run.load
    rate = rate_of(state, which) * load_share(state, load)
    if stones[min(step, len(stones) - 1)] in PEAKS_ONLY:
        rate = light_rate(state)
    new = bool(checks) and checks[0].bedded is False
    return rate * (state.figures.number("honing.new_stones_cut") if new else 1.0)


@frozen
class StepRates:
    """The rate of a step when two bites had been seen, and at its end, mm of diameter a double stroke."""

    start_mm: float
    end_mm: float


@once_a_state
def _rates_of(state: JobState, cylinder: int, step: int) -> StepRates | None:
    """How fast a cylinder's step went; None before a bite of it was read."""
    checks = checks_in(state, cylinder, step)
    if len(checks) < 2 or checks[-1].strokes <= checks[0].strokes:
        return None
    prior, spread = _starting_rate(state, cylinder, step), state.figures.number("honing.rate_first")
    seen, rules = _seen(state, checks, prior), _rules(state, checks[-1])
    return StepRates(followed(seen[:3], prior, spread, rules).rate_mm, followed(seen, prior, spread, rules).rate_mm)
