"""What the holes bored say of the bar: taper, a warm tool, a wrong micrometer; and what the next setting is. No words."""

from __future__ import annotations

from enum import Enum, auto

from redline_bore.core.frozen import frozen
from redline_bore.job.bore.plan import (
    correction_of,
    plan_of,
    setting_for,
    still_to_bore,
    that_teach,
    tool_of,
    waits_for,
    with_first,
)
from redline_bore.job.state.boring import Bored
from redline_bore.job.state.job_state import JobState

PLACES = 3


class Diagnosis(Enum):
    """What the holes together say of the bar."""

    WIDE_TOP = auto()  # the bar cuts taper
    WIDE_BOTTOM = auto()
    WARMING = auto()  # each hole comes bigger than the one before
    WRONG_MICROMETER = auto()  # every hole is off by as much


class HoleFault(Enum):
    """What a single hole says that no setting mends."""

    WIDE_TOP = auto()
    WIDE_BOTTOM = auto()
    ANGLES_DIFFER = auto()  # strained by its clamps, or a loose spindle
    FAR_OFF = auto()  # its setting: the micrometer comes first


class ProofWant(Enum):
    """What a first hole was not measured for."""

    THREE_PLACES = auto()
    SECOND_ANGLE = auto()


def diagnosis(state: JobState) -> Diagnosis | None:
    """What the holes bored say of the bar; None while they say nothing."""
    limit, warming, wrong, alike = (
        state.figures.number(f"boring.{k}") for k in ("taper_told", "warming_told", "wrong_told", "alike")
    )
    holes = [b for b, _ in that_teach(state) if len(b.sizes_mm) > 1]
    tapers = [b.sizes_mm[0] - b.sizes_mm[-1] for b in holes]
    if len(tapers) >= 2 and abs(sum(tapers) / len(tapers)) > limit and (min(tapers) > 0 or max(tapers) < 0):
        return Diagnosis.WIDE_TOP if tapers[0] > 0 else Diagnosis.WIDE_BOTTOM
    over = [b.mean_mm - b.set_mm for b, first in that_teach(state) if not first]
    if len(over) >= 3 and all(b > a for a, b in zip(over, over[1:], strict=False)) and over[-1] - over[0] > warming:
        return Diagnosis.WARMING
    if len(over) >= 2 and min(abs(v) for v in over) > wrong and max(over) - min(over) < alike:
        return Diagnosis.WRONG_MICROMETER
    return None


def bar_misses(state: JobState) -> float | None:
    """How far this bar's holes lay from where its correction would have put them, mm at most; None before two did.

    First holes of a day are no measure of that.
    """
    usual = correction_of(state).usual_mm
    over = [b.mean_mm - b.set_mm for b, first in that_teach(state) if not first and b.tool == tool_of(state)]
    return max(abs(v - usual) for v in over) if len(over) >= 2 else None


def proof_wants(hole: Bored) -> tuple[ProofWant, ...]:
    """What a first hole was not measured for: three places, two angles; empty when it was."""
    lacks = ((ProofWant.THREE_PLACES, len(hole.sizes_mm) < PLACES), (ProofWant.SECOND_ANGLE, not hole.across_mm))
    return tuple(want for want, lacking in lacks if lacking)


def faults_in(state: JobState, hole: Bored) -> tuple[HoleFault, ...]:
    """What a single hole says that no setting mends: the bar's taper, an oval, a setting far off."""
    f, found = state.figures, []
    taper = hole.sizes_mm[0] - hole.sizes_mm[-1]
    if len(hole.sizes_mm) > 1 and abs(taper) > f.number("boring.taper_told"):
        found.append(HoleFault.WIDE_TOP if taper > 0 else HoleFault.WIDE_BOTTOM)
    if (hole.out_of_round_mm or 0.0) > f.number("boring.out_of_round_told"):
        found.append(HoleFault.ANGLES_DIFFER)
    if abs(hole.mean_mm - hole.set_mm) > f.number("boring.wrong_told"):
        found.append(HoleFault.FAR_OFF)
    return tuple(found)


@frozen
class NextSetting:
    """The setting of the next hole, mm, and what it rests on: how far the last hole came over its own, whether that was a cold tool's,
    what the bar does as a rule, and what else that hole says."""

    cylinder: int
    setting_mm: float
    last: Bored
    over_mm: float
    first: bool
    usual_mm: float
    faults: tuple[HoleFault, ...]


def next_setting(state: JobState, at: str) -> NextSetting | None:
    """The setting of the next hole; None while no hole is measured or none is left."""
    ahead = [n for numbers in still_to_bore(state) for n in numbers]
    told = with_first(state)
    if not told or not ahead or waits_for(state, ahead[0]):
        return None
    hole, first = told[-1]
    plan = plan_of(state, ahead[0], at)
    if plan.target_mm is None:
        return None
    setting, over = setting_for(state, plan.target_mm, at), hole.mean_mm - hole.set_mm
    return NextSetting(ahead[0], setting, hole, over, first, correction_of(state).usual_mm, faults_in(state, hole))
