"""Level plans: where readings are to be taken, and which place is next (job.md, gauge). Depths mm, clocks degrees."""

from __future__ import annotations

from collections.abc import Collection
from functools import lru_cache

from redline_bore.core.block import BlockSpec, RingTravel
from redline_bore.core.errors import Fault, FaultyInput
from redline_bore.core.frozen import frozen

UNDER_STOP_MM = 5.0  # where wear is deepest, in the middle of the stretch that methods 5 asks for


@frozen(often=True)
class Place:
    """A spot in a plan: level index (0 is the one nearest the deck) and clock index."""

    level: int
    clock: int


@frozen(often=True)
class LevelPlan:
    """Depths in mm from the deck, growing; clock angles in degrees, growing, each chord once (under 180)."""

    name: str
    depths_mm: tuple[float, ...]
    clocks_deg: tuple[float, ...]

    def letter(self, level: int) -> str:
        """The letter of a level: A is the top one."""
        return chr(ord("A") + level)

    def places(self) -> tuple[Place, ...]:
        """Every place, level by level."""
        return _places(len(self.depths_mm), len(self.clocks_deg))

    def nearest(self, depth_mm: float, clock_deg: float) -> Place:
        """The place nearest to a depth in mm and a clock angle in degrees (a chord counts modulo 180)."""
        return _nearest(self, depth_mm, clock_deg)


@lru_cache(maxsize=16)  # asked of every cylinder at every reading
def _places(levels: int, clocks: int) -> tuple[Place, ...]:
    return tuple(Place(level, clock) for level in range(levels) for clock in range(clocks))


@lru_cache(maxsize=512)  # the readings of a cylinder are placed anew with every one that comes
def _nearest(plan: LevelPlan, depth_mm: float, clock_deg: float) -> Place:
    level = min(range(len(plan.depths_mm)), key=lambda i: abs(plan.depths_mm[i] - depth_mm))
    clock = min(range(len(plan.clocks_deg)), key=lambda i: chord_apart(plan.clocks_deg[i], clock_deg))
    return plan.places()[level * len(plan.clocks_deg) + clock]


def chord_apart(a_deg: float, b_deg: float) -> float:
    """Angle between two chords, 0 to 90 degrees: a chord repeats every 180."""
    apart = abs(a_deg - b_deg) % 180.0
    return min(apart, 180.0 - apart)


def plan_of(spec: BlockSpec, travel: RingTravel, name: str, levels: int, chords: int) -> LevelPlan:
    """A plan for a block: one level on the unworn lip above ring travel, one in the unworn bottom, the rest between.

    A level five millimetres under the top ring's stop is always among them: wear is worst there. With three levels these
    are: just under the stop, the middle of the travel, and the unworn bottom. Raises FaultyInput.
    """
    if levels < 2 or chords < 2:
        raise FaultyInput([Fault("plan", "a plan has two levels and two chords at the least")])
    top, bottom = travel.top_mm, travel.bottom_mm
    worst = top + UNDER_STOP_MM
    below = (bottom + spec.length_mm) / 2 if spec.length_mm - bottom > 4.0 else spec.length_mm - 2.0
    ends = [below] if levels <= 3 else [0.6 * top, below]
    inner = levels - len(ends)
    step = (bottom - worst) / inner
    whole = 0 if spec.length_mm > 60 else 1  # round figures to read at; the ends stay clear of ring travel
    depths = sorted([round(d, 1) for d in ends] + [round(worst + i * step, whole) for i in range(inner)])
    return checked_plan(
        LevelPlan(name, tuple(depths), tuple(i * 180.0 / chords for i in range(chords))), spec.length_mm
    )


def checked_plan(plan: LevelPlan, length_mm: float) -> LevelPlan:
    """``plan`` itself. Raises FaultyInput when depths leave the cylinder or do not grow, or chords repeat."""
    found = []
    for i, depth in enumerate(plan.depths_mm):
        if not 0.0 < depth < length_mm:
            found.append(
                Fault(f"level {plan.letter(i)}", f"{depth:g} mm down is not in a cylinder of {length_mm:g} mm")
            )
    if any(b <= a for a, b in zip(plan.depths_mm, plan.depths_mm[1:], strict=False)):
        found.append(Fault("levels", "depths must grow from the deck down, each one once"))
    if any(b <= a for a, b in zip(plan.clocks_deg, plan.clocks_deg[1:], strict=False)):
        found.append(Fault("clocks", "clock angles must grow, each one once"))
    if any(not 0.0 <= c < 180.0 for c in plan.clocks_deg):
        found.append(
            Fault("clocks", "a two-point reading covers both ends of its chord: angles run from 0 to under 180")
        )
    if found:
        raise FaultyInput(found)
    return plan


def next_place(plan: LevelPlan, taken: Collection[Place]) -> Place | None:
    """The first place of the plan that has no reading yet, down the levels; None when the plan is full."""
    return next((place for place in plan.places() if place not in taken), None)
