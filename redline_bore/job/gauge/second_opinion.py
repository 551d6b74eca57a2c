"""A second opinion: why somebody else's readings of this block differ from ours, term by term (methods 17)."""

from __future__ import annotations

import math
from enum import Enum, auto

from redline_bore.core.frozen import frozen
from redline_bore.core.second_opinion import Opinion, ShopReading, explain
from redline_bore.core.thermal import growth
from redline_bore.job.gauge.analysis import shape_of
from redline_bore.job.gauge.doubt import clearance_doubt, reading_doubt
from redline_bore.job.gauge.places import ANGLES_DEG, places_of_checks
from redline_bore.job.gauge.plate import plate_map
from redline_bore.job.redline import leading_window
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.comparing import OtherConditions, OtherReading, SecondOpinion
from redline_bore.job.state.hole import hole_of
from redline_bore.job.state.job_state import JobState
from redline_bore.job.state.two_angles import TwoAngles

NEAR_DEG = 30.0  # an angle no further off is taken for the same


class OursFrom(Enum):
    """Which of our figures stands against theirs."""

    FINAL = auto()  # the mean of the final gauging under the plate
    CHECK = auto()  # the mean of the last check at the hone
    BORED = auto()  # the mean as it came off the bar
    ALL_LEVELS = auto()
    LEVEL = auto()  # the mean at that level
    PLACE = auto()


class PlateFrom(Enum):
    """Where the figure for what the plate does comes from."""

    BOTH_SAME = auto()
    MAP_THERE = auto()  # our map of plate on and off, at that place
    MAP_MEAN = auto()
    NOT_KNOWN = auto()


class Assumed(Enum):
    """What was taken for granted."""

    BLOCK_AT_20 = auto()
    WHERE = auto()  # they did not say where they read
    NOT_THAT_PLACE = auto()  # our figure is of another
    PISTON_IS_OURS = auto()


class Settles(Enum):
    """What to do next so that it is settled."""

    BOOK_THEIRS = auto()
    TAKE_TEMPERATURE = auto()
    GAUGE_BOTH_WAYS = auto()
    ASK_WHERE = auto()
    NOTHING = auto()
    ONE_MASTER = auto()


@frozen(often=True)
class Comparison:
    """One of their readings against ours. ``assumed`` says what was taken for granted; ``ours_from`` which of our
    figures stands against it; ``clearances``: pistons are compared too, else bores only."""

    other: OtherReading
    a: ShopReading
    b: ShopReading
    opinion: Opinion
    clearances: bool
    ours_from: OursFrom
    plate_mm: float
    plate_from: PlateFrom
    assumed: tuple[Assumed, ...]


def newest(state: JobState) -> SecondOpinion | None:
    """The second opinion booked last."""
    return state.comparing.second_opinions[-1] if state.comparing.second_opinions else None


@once_a_state
def comparisons(state: JobState, who: str | None = None) -> tuple[Comparison, ...]:
    """Every reading of a shop (the newest one's by default) against ours, where we have something to set against it."""
    shop = next((s for s in state.comparing.second_opinions if s.conditions.who == who), newest(state))
    if shop is None:
        return ()
    rows = [_compare(state, shop, reading) for reading in shop.readings if reading.cylinder in state.cylinders]
    return tuple(row for row in rows if row is not None)


@frozen(often=True)
class _Ours:
    """What we set against it, at 20 C: the size, where it is from, how far it lies over the mean of our sizes."""

    size_mm: float
    plate_on: bool
    origin: OursFrom
    depth_over_mm: float
    spot_known: bool


@frozen(often=True)
class _Finished:
    """Our newest reading of a hole that the hone has been in, whether the plate was on, and where it is from."""

    hole: TwoAngles
    plate_on: bool
    origin: OursFrom

    def axis_mm(self, clock_deg: float | None) -> tuple[float, ...] | None:
        """Our sizes from the top down at the angle nearest to one they read at, mm; their mean where they named none; None: nobody of
        ours read near it."""
        if clock_deg is None:
            return self.hole.by_depth_mm
        angles = zip(ANGLES_DEG, (self.hole.sizes_mm, self.hole.across_mm), strict=True)
        near = [sizes for angle, sizes in angles if sizes and _between(clock_deg, angle) <= NEAR_DEG]
        return near[0] if near else None


def _between(a_deg: float, b_deg: float) -> float:
    """The angle between two diameters, degrees."""
    apart = abs(a_deg - b_deg) % 180.0
    return min(apart, 180.0 - apart)


def _finished(state: JobState, cylinder: int) -> _Finished | None:
    """The final gauging under the plate, else the last check, else the hole as the bar left it."""
    final, checks = state.final_of(cylinder, True), state.honing.checks_of(cylinder)
    if final is not None:
        return _Finished(final, True, OursFrom.FINAL)
    if checks:
        return _Finished(checks[-1], checks[-1].plate_on, OursFrom.CHECK)
    bored = hole_of(state, cylinder)
    return None if bored is None else _Finished(bored, False, OursFrom.BORED)


def _ours(state: JobState, other: OtherReading) -> _Ours | None:
    found = _finished(state, other.cylinder)
    if found is not None:  # a finished or half-honed hole stands, whatever it was worn to before
        there = other.depth_mm is not None and other.clock_deg is not None
        known = there and found.axis_mm(other.clock_deg) is not None
        return _Ours(found.hole.mean_mm, found.plate_on, found.origin, 0.0, known)
    shape = shape_of(state, other.cylinder)
    if not shape.levels:
        return None
    if other.depth_mm is None:
        assert shape.mean_mm is not None
        return _Ours(shape.mean_mm, shape.plate_on, OursFrom.ALL_LEVELS, 0.0, False)
    depth = other.depth_mm
    level = min(shape.levels, key=lambda v: abs(v.depth_mm - depth))
    if other.clock_deg is None:
        return _Ours(level.fit.mean_mm, shape.plate_on, OursFrom.LEVEL, 0.0, False)
    return _Ours(float(level.fit.diameter_at(other.clock_deg)), shape.plate_on, OursFrom.PLACE, 0.0, True)


def _compare(state: JobState, shop: SecondOpinion, other: OtherReading) -> Comparison | None:
    ours = _ours(state, other)
    if ours is None:
        return None
    c, piston = shop.conditions, state.calling.piston(other.cylinder)
    theirs = dict(shop.pistons).get(other.cylinder)
    window = leading_window(state)
    clearances = piston is not None and (theirs is not None or c.aim_mm is not None)
    plate, plate_from = _plate_at(state, other, ours.plate_on != c.plate_on)
    our_piston, our_aim = (piston.size_mm, window.aim_mm) if clearances and piston else (0.0, 0.0)
    a = ShopReading(
        ours.size_mm, our_piston, our_aim, plate_on=ours.plate_on, bore_at_20=True, piston_at_20=True,
        spot_depth_over_mm=ours.depth_over_mm,
    )  # fmt: skip
    b = _their_reading(state, c, other, theirs if clearances else None, our_piston, our_aim)
    opinion = explain(
        a, b, state.coefficient_1e6, state.figures.number(f"thermal.{state.book_in.piston_alloy}"), plate,
        _gap_doubt(state, ours.size_mm, our_piston if clearances else None),
    )  # fmt: skip
    assumed = _assumed(c, other, ours, clearances, theirs)
    return Comparison(other, a, b, opinion, clearances, ours.origin, plate, plate_from, assumed)


def _their_reading(
    state: JobState,
    c: OtherConditions,
    other: OtherReading,
    theirs: float | None,
    our_piston: float,
    our_aim: float,
) -> ShopReading:
    axis, depth = _their_spot(state, other)
    piston_c = c.piston_c if c.piston_c is not None else c.block_c
    alloy = state.figures.number(f"thermal.{state.book_in.piston_alloy}")
    piston = theirs if theirs is not None else our_piston * (1.0 if c.at_20 else growth(alloy, piston_c or 20.0))
    return ShopReading(
        other.diameter_mm, piston, c.aim_mm if c.aim_mm is not None and our_piston else our_aim,
        20.0 if c.block_c is None else c.block_c, 20.0 if piston_c is None else piston_c, c.plate_on, c.at_20, c.at_20,
        c.bore_gauge_over_mm, c.micrometer_over_mm, axis, depth,
    )  # fmt: skip


def _their_spot(state: JobState, other: OtherReading) -> tuple[float, float]:
    """How far the place they read lies over the mean of the hole, by angle and by depth, mm; from our sizes of it.

    What the plate does at that place is the plate's own term. A hole that has not been honed is compared place by
    place instead, so that nothing is counted twice.
    """
    found = _finished(state, other.cylinder)
    sizes = None if found is None else found.axis_mm(other.clock_deg)
    if found is None or sizes is None:
        return 0.0, 0.0
    mean = sum(sizes) / len(sizes)
    by_angle = mean - found.hole.mean_mm
    if other.depth_mm is None or len(sizes) < 2:
        return by_angle, 0.0
    depths = places_of_checks(state, len(sizes))
    at = min(range(len(sizes)), key=lambda i: abs(depths[i] - (other.depth_mm or 0.0)))
    return by_angle, sizes[at] - mean


def _plate_at(state: JobState, other: OtherReading, differs: bool) -> tuple[float, PlateFrom]:
    """What the plate does to the diameter where they read, mm, and where that figure comes from."""
    if not differs:
        return 0.0, PlateFrom.BOTH_SAME
    found = plate_map(state, other.cylinder)
    if found.levels:
        if other.depth_mm is not None and other.clock_deg is not None:
            at = found.at(other.depth_mm, other.clock_deg)
            return (at if at is not None else 0.0), PlateFrom.MAP_THERE
        return found.mean_mm or 0.0, PlateFrom.MAP_MEAN
    return 0.0, PlateFrom.NOT_KNOWN


def _gap_doubt(state: JobState, bore_mm: float, piston_mm: float | None) -> float:
    """U (k = 2) of the gap, mm: both shops' gauges, theirs taken to be as good as the starting figures say."""
    if piston_mm is not None:
        return math.sqrt(2.0) * clearance_doubt(state, bore_mm, piston_mm)
    theirs = state.figures.number("gauging.bore_gauge_u")
    return math.hypot(reading_doubt(state).expanded_u_mm, theirs)


def _assumed(
    c: OtherConditions, other: OtherReading, ours: _Ours, clearances: bool, theirs: float | None
) -> tuple[Assumed, ...]:
    notes = []
    if c.block_c is None and not c.at_20:
        notes.append(Assumed.BLOCK_AT_20)
    if other.depth_mm is None or other.clock_deg is None:
        notes.append(Assumed.WHERE)
    elif not ours.spot_known:
        notes.append(Assumed.NOT_THAT_PLACE)
    if clearances and theirs is None:
        notes.append(Assumed.PISTON_IS_OURS)
    return tuple(notes)


def settle_next(state: JobState, rows: tuple[Comparison, ...]) -> Settles:
    """What to measure to settle it."""
    shop = newest(state)
    if shop is None or not rows:
        return Settles.BOOK_THEIRS
    c = shop.conditions
    if c.block_c is None and not c.at_20:
        return Settles.TAKE_TEMPERATURE
    if any(r.plate_from is PlateFrom.NOT_KNOWN for r in rows):
        return Settles.GAUGE_BOTH_WAYS
    if any(r.other.clock_deg is None or r.other.depth_mm is None for r in rows):
        return Settles.ASK_WHERE
    if all(r.opinion.explained for r in rows):
        return Settles.NOTHING
    return Settles.ONE_MASTER
