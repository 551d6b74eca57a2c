"""What the readings of one cylinder say: shape, wear, clean-up, each with the reason where it cannot be told.

Pure functions of frozen inputs; results are cached by what they depend on.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache
from typing import TypeVar

from redline_bore.core.block import RingTravel
from redline_bore.core.cleanup import CleanUp, cleanup_two_point
from redline_bore.core.cleanup_bound import BoundTerms, Lacks, LevelRead, Mark, bound_two_point
from redline_bore.core.errors import FitError
from redline_bore.core.frozen import frozen, replace
from redline_bore.core.gauging import LevelPlan, Place, chord_apart
from redline_bore.core.shape import (
    AxialLimits,
    AxialShape,
    LevelFit,
    Wear,
    axial_shape,
    fit_level,
    oval_turn,
    wear_and_ridge,
)
from redline_bore.job.profiles.duty import duty
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.gauging import Defect
from redline_bore.job.state.hole import cut_mm
from redline_bore.job.state.job_state import JobState
from redline_bore.job.state.readings import TWO_POINT, Gathered, Levels

T = TypeVar("T")
SAME_DEPTH_MM = 0.5
HARDEST = "catches_hard"  # the fingernail class without an upper end


@frozen
class Rules:
    """The figures an analysis rests on."""

    travel: RingTravel
    limits: AxialLimits
    skin_mm: float
    usual_share: float
    out_of_round_mm: float
    twist_deg: float
    terms: BoundTerms
    stop_mm: tuple[float, float]
    felt_doubt: float
    measured_doubt_mm: float
    nominal_mm: float
    never_bored_mm: float
    axis_by_two_points: bool


@frozen(often=True)
class Spot:
    """One place read: mean of its readings at 20 C, how many, and their spread (largest less smallest), mm."""

    depth_mm: float
    clock_deg: float
    size_mm: float
    count: int
    spread_mm: float


@frozen(often=True)
class Level:
    depth_mm: float
    fit: LevelFit
    spots: tuple[Spot, ...]


@frozen(often=True)
class CylinderShape:
    """Everything two-point readings of one cylinder tell. A None has its reason in ``unknown`` under its name."""

    cylinder: int
    plate_on: bool
    levels: tuple[Level, ...]
    axial: AxialShape | None
    wear: Wear | None
    cleanup: CleanUp | None
    deciding: Spot | None
    deciding_defect: Defect | None
    twisted: bool
    unknown: tuple[tuple[str, str], ...]

    @property
    def spots(self) -> tuple[Spot, ...]:
        return tuple(spot for level in self.levels for spot in level.spots)

    @property
    def largest(self) -> Spot | None:
        return max(self.spots, key=lambda s: s.size_mm, default=None)

    @property
    def worst_level(self) -> Level | None:
        """The level that is most out of round."""
        return max(self.levels, key=lambda v: v.fit.out_of_round_raw_mm, default=None)

    @property
    def mean_mm(self) -> float | None:
        """Mean of the level means, mm at 20 C."""
        return sum(v.fit.mean_mm for v in self.levels) / len(self.levels) if self.levels else None

    def why_not(self, name: str) -> str:
        return dict(self.unknown).get(name, "")


@once_a_state
def rules_of(state: JobState) -> Rules:
    """The figures of a job as an analysis needs them."""
    f, hard = state.figures, duty(state.book_in.duty).hole
    limits = AxialLimits(*(f.number(f"limits.{key}") for key in (f"{hard}_taper", f"{hard}_bulge", "bell_limit")))
    share = 1.0 if state.booking.practice("wear_side") == "all on one side" else f.number("cleanup.usual_share")
    low, high = f.row("cleanup.stop_level")
    top = state.travel.top_mm
    return Rules(
        state.travel, limits, f.number("cleanup.skin"), share,
        f.number(f"limits.{hard}_out_of_round"), f.number("limits.twist_turn"), bound_terms(state), (top + low, top + high),
        f.number("cleanup.felt_doubt"), f.number("cleanup.measured_doubt"), state.block.bore_mm, f.number("cleanup.never_bored"),
        state.booking.practice("axis") == "unworn bottom",
    )  # fmt: skip


def bound_terms(state: JobState) -> BoundTerms:
    """The terms of a clean-up that is a bound, from the shop's figures."""
    f = state.figures
    return BoundTerms(*(
        f.number(f"cleanup.{key}") for key in ("skin", "cut", "stand", "lobes", "spindle", "between_levels", "low_two_point", "low_swept")
    ))  # fmt: skip


@once_a_state
def shape_of(state: JobState, cylinder: int, plate_on: bool | None = None) -> CylinderShape:
    """The shape of a cylinder with the plate as asked; None picks the condition that was read more fully."""
    plate = best_condition(state, cylinder) if plate_on is None else plate_on
    return shape_with(state, cylinder, plate, flaws_of(state, cylinder))


@once_a_state
def flaws_of(state: JobState, cylinder: int) -> tuple[Defect, ...]:
    """The flaws of a cylinder, each as deep as it is under the wall as it was gauged: one that was found in the hole as it was cut lies
    deeper by what was taken there."""
    marked, plate = state.gauging.defects_of(cylinder), best_condition(state, cylinder)
    if all(cut_mm(state, cylinder, d.seq) is None for d in marked):
        return marked
    levels = levels_of(state.gauging.readings_of(cylinder, plate).levels)
    return tuple(_under_the_worn_wall(state, d, levels) for d in marked)


def _under_the_worn_wall(state: JobState, flaw: Defect, levels: tuple[Level, ...]) -> Defect:
    size = cut_mm(state, flaw.cylinder, flaw.seq)
    if size is None or not levels:
        return flaw
    near = min(levels, key=lambda v: abs(v.depth_mm - (flaw.top_mm + flaw.bottom_mm) / 2.0))
    taken = max((size - float(near.fit.diameter_at(flaw.clock_deg))) / 2.0, 0.0)
    return replace(flaw, deep_low_mm=flaw.deep_low_mm + taken, deep_high_mm=flaw.deep_high_mm + taken)


def shape_with(state: JobState, cylinder: int, plate_on: bool, defects: tuple[Defect, ...]) -> CylinderShape:
    """The shape as it would be with other defects than were marked."""
    return _shape(cylinder, plate_on, state.gauging.readings_of(cylinder, plate_on).levels, defects, rules_of(state))


def best_condition(state: JobState, cylinder: int) -> bool:
    """Plate on, when it was gauged at least as fully that way (it stands in for the head), else plate off."""
    on, off = (state.gauging.readings_of(cylinder, plate).places for plate in (True, False))
    return bool(on) and len(on) >= len(off)


@lru_cache(maxsize=64)
def _shape(cylinder: int, plate: bool, read: Levels, defects: tuple[Defect, ...], rules: Rules) -> CylinderShape:
    levels = levels_of(read)
    depths, means = [v.depth_mm for v in levels], [v.fit.mean_mm for v in levels]
    largest = [max(s.size_mm for s in v.spots) for v in levels]
    unknown: list[tuple[str, str]] = []
    axial = _or_reason(unknown, "axial", lambda: axial_shape(depths, means, rules.travel, rules.limits))
    wear = _or_reason(unknown, "wear", lambda: wear_and_ridge(depths, means, largest, rules.travel))
    cleanup, spot, defect = None, None, None
    if wear is None:
        unknown.append(("cleanup", dict(unknown)["wear"]))
    else:
        cleanup, spot, defect = _cleanup(levels, wear.reference_mm, defects, rules)
    return CylinderShape(
        cylinder, plate, levels, axial, wear, cleanup, spot, defect, _twisted(levels, rules), tuple(unknown)
    )


def _or_reason(unknown: list[tuple[str, str]], name: str, work: Callable[[], T]) -> T | None:
    try:
        return work()
    except FitError as error:
        unknown.append((name, str(error)))
        return None


def start_of(state: JobState, cylinder: int) -> float | None:
    """The hole that bar and hone begin with, mean in mm at 20 C: its sleeve as it sits, else as it was gauged."""
    after = state.sleeving.after_of(cylinder)
    return shape_of(state, cylinder).mean_mm if after is None else after.mean_mm


def levels_of(read: Levels) -> tuple[Level, ...]:
    """Readings grouped by depth (half a millimetre counts as one level), shallowest first, each fitted."""
    groups: list[tuple[float, dict[float, Gathered]]] = []
    for depth, level in sorted(read.items()):
        if not groups or depth - groups[-1][0] >= SAME_DEPTH_MM:
            groups.append((depth, {}))
        mine = groups[-1][1]
        for clock, place in level.items():
            mine[clock] = place.and_those_of(mine[clock]) if clock in mine else place
    return tuple(_level(depth, level) for depth, level in groups)


def _level(depth: float, by_clock: dict[float, Gathered]) -> Level:
    spots = tuple(
        Spot(depth, clock, p.total_mm / p.times, p.times, p.high_mm - p.low_mm) for clock, p in sorted(by_clock.items())
    )
    return Level(depth, fit_level([s.clock_deg for s in spots], [s.size_mm for s in spots]), spots)


def _twisted(levels: tuple[Level, ...], rules: Rules) -> bool:
    inside = [v for v in levels if rules.travel.top_mm <= v.depth_mm <= rules.travel.bottom_mm]
    if len(inside) < 2:
        return False
    top, bottom = inside[0].fit, inside[-1].fit
    if top.long_axis_deg is None or bottom.long_axis_deg is None:
        return False
    ovals = (top.out_of_round_second_harmonic_mm or 0.0, bottom.out_of_round_second_harmonic_mm or 0.0)
    turn = oval_turn(top.long_axis_deg, bottom.long_axis_deg)
    return turn >= rules.twist_deg and min(ovals) > rules.out_of_round_mm


def _cleanup(
    levels: tuple[Level, ...], reference_mm: float, defects: tuple[Defect, ...], rules: Rules
) -> tuple[CleanUp, Spot, Defect | None]:
    """The bound of methods 5 from two-point readings, with the usual end between."""
    to_cut = [d for d in defects if d.is_cut_out]
    read = [
        LevelRead(v.depth_mm, tuple(s.clock_deg for s in v.spots), tuple(s.size_mm for s in v.spots)) for v in levels
    ]
    bound = bound_two_point(
        reference_mm, read, [mark_of(d, rules) for d in to_cut], rules.terms, rules.stop_mm, _lacks(reference_mm, rules)
    )
    spots = [spot for level in levels for spot in level.spots]
    found = [_defect_at(spot, spots, tuple(to_cut)) for spot in spots]
    usual = cleanup_two_point(
        reference_mm, [s.size_mm for s in spots], rules.skin_mm, rules.usual_share, min(v.fit.distinct_chords for v in levels),
        [d.deep_low_mm if d else 0.0 for d in found], [d.deep_high_mm if d else 0.0 for d in found],
    )  # fmt: skip
    spot = levels[bound.level].spots[bound.place]
    middle = min(max(usual.usual_mm, bound.low_mm), bound.high_mm)
    cleanup = CleanUp(bound.low_mm, middle, bound.high_mm, spots.index(spot), not bound.lacks, bound.lacks)
    return cleanup, spot, to_cut[bound.mark] if bound.mark >= 0 else None


def _lacks(reference_mm: float, rules: Rules) -> list[Lacks]:
    """What is missing for a bound that the readings themselves cannot show."""
    found = [] if rules.travel.top_stated else [Lacks.STOP_NOT_MEASURED]
    if abs(reference_mm - rules.nominal_mm) > rules.never_bored_mm:
        found.append(Lacks.STANDING)
    return found if rules.axis_by_two_points else [*found, Lacks.AXIS]


def mark_of(defect: Defect, rules: Rules) -> Mark:
    """A defect as the bound counts it: felt depths lie wide, the hardest class has no upper end, measured ones lie close."""
    middle = (defect.top_mm + defect.bottom_mm) / 2.0
    if defect.measured:
        doubt = rules.measured_doubt_mm
        return Mark(middle, defect.clock_deg, max(defect.deep_low_mm - doubt, 0.0), defect.deep_high_mm + doubt)
    high = None if defect.feel == HARDEST else defect.deep_high_mm * rules.felt_doubt
    return Mark(middle, defect.clock_deg, defect.deep_low_mm / rules.felt_doubt, high)


def _defect_at(spot: Spot, spots: list[Spot], defects: tuple[Defect, ...]) -> Defect | None:
    """The deepest defect that counts at a spot: it lies there, or this is the nearest place read to it."""
    if not defects:
        return None
    here = [d for d in defects if _covers(d, spot) or _nearest(d, spots) == spot]
    return max(here, key=lambda d: d.deep_high_mm, default=None)


def _covers(defect: Defect, spot: Spot) -> bool:
    in_depth = defect.top_mm <= spot.depth_mm <= defect.bottom_mm
    return in_depth and chord_apart(defect.clock_deg, spot.clock_deg) <= defect.width_deg / 2.0


def _nearest(defect: Defect, spots: list[Spot]) -> Spot:
    middle = (defect.top_mm + defect.bottom_mm) / 2.0
    return min(spots, key=lambda s: (abs(s.depth_mm - middle), chord_apart(s.clock_deg, defect.clock_deg)))


@once_a_state
def places_read(state: JobState, cylinder: int, plate_on: bool, gauge: str = TWO_POINT) -> frozenset[Place]:
    """Places of the plan that hold a reading of that kind of gauge, with the plate as asked."""
    if gauge == TWO_POINT:
        return _places(state.gauging.plan, state.gauging.readings_of(cylinder, plate_on).places, 180.0)
    return _places(state.gauging.plan, state.gauging.three_points_of(cylinder, plate_on).places, 120.0)


@lru_cache(maxsize=64)
def _places(plan: LevelPlan, seen: frozenset[tuple[float, float]], turn_deg: float) -> frozenset[Place]:
    found, places = set(), plan.places()
    read = {(round(depth, 2), round(clock % turn_deg, 2)) for depth, clock in seen}
    for depth, clock in read:
        levels = [i for i, d in enumerate(plan.depths_mm) if abs(d - depth) <= SAME_DEPTH_MM]
        for i, angle in enumerate(plan.clocks_deg):
            apart = abs(angle - clock) % turn_deg
            if apart <= 1.0 or turn_deg - apart <= 1.0:
                found |= {places[level * len(plan.clocks_deg) + i] for level in levels}
    return frozenset(found)


def colour_scale(state: JobState, plate_on: bool | None = None) -> float:
    """One scale for all cylinders: the largest distance from nominal of any reading, mm, at least 0.01."""
    sizes = state.gauging.readings.sizes_of(plate_on)
    return max([abs(s - state.block.bore_mm) for s in sizes] + [0.01])
