"""What was typed, held against what the job knows, before it is booked: asked once, booked if it is entered again. No words."""

from __future__ import annotations

from collections.abc import Sequence
from enum import Enum, auto
from itertools import pairwise

from redline_bore.core.frozen import frozen
from redline_bore.core.lengths import Units
from redline_bore.core.thermal import REFERENCE_C, size_at_20
from redline_bore.job.gauge.analysis import SAME_DEPTH_MM, places_read
from redline_bore.job.kinds.bore import HoleBored, HoleLooked
from redline_bore.job.kinds.call import PistonMeasured
from redline_bore.job.kinds.entry import Entry
from redline_bore.job.kinds.gauge import ReadingBooked, SweepBooked
from redline_bore.job.kinds.hone import CheckLogged
from redline_bore.job.state.hole import cut_mm, hole_of
from redline_bore.job.state.honing import Check
from redline_bore.job.state.job_state import JobState
from redline_bore.job.state.readings import TWO_POINT

SHRINKS_MM, LEAPS_MM = 0.006, 0.25  # a hone takes metal, and never so much between two checks
GAUGE_MM, FASTER = 0.010, 3.0  # how far a gauge may be off, and how many times as fast as before no stones cut
COOLS_MM = 0.020  # a hole that came warm from the bar, read cold: 15 C on 110 mm
SETTING_MM = 0.15  # no bar misses its setting by so much, nor cuts a hole so uneven
PISTON_UNDER = 0.005  # share of the bore that a piston is smaller by, at the most
PISTON_OVER_MM = 0.1  # over the largest oversize there is: a piston that was read warm
PISTON_WARM_C = 15.0  # no shop is further from 20 C, and a piston that is will not be so all through
LIKE_THE_BORE = 0.03  # a count of strokes so near the bore, as it is said, is a size


class DoubtOf(Enum):
    """What speaks against what was typed. Which figures of a ``TypedDoubt`` go with it stands beside it."""

    FAR_FROM_OTHERS = auto()  # mm: the size, how far it is from the others there
    NO_SIZE_HERE = auto()  # mm: the size
    READ_ALREADY = auto()  # cylinder; mm: the depth; deg
    NOT_TOUCHED = auto()  # mm: as it came out, as it was gauged
    STROKES_ARE_A_SIZE = auto()  # strokes
    FIRST_STROKES_LARGE = auto()  # strokes
    SHRUNK = auto()  # mm
    LEAPT = auto()  # mm
    HOLE_SHRUNK = auto()  # mm
    NOT_AS_BORED = auto()  # mm: as it came from the bar, as it is read now
    NOT_AS_SET = auto()  # mm: as the bar was set, as it came out
    PLACES_APART = auto()  # mm: the largest less the smallest
    CUT_SINCE = auto()  # cylinder; mm: what a bar or a hone made of it
    NO_PISTON_HERE = auto()  # mm: its size, how far that is from nominal
    PISTON_WARM = auto()  # celsius; mm: its size as it was read, how much less it is counted as


@frozen
class TypedDoubt:
    """A question before a thing is booked."""

    what: DoubtOf
    mm: tuple[float, ...] = ()
    cylinder: int = 0
    deg: float = 0.0
    strokes: float = 0.0
    celsius: float = 20.0


def doubt_in(state: JobState, entries: Sequence[Entry], units: Units) -> TypedDoubt | None:
    """What speaks against entries that were typed, in the units they were typed in; None where nothing does."""
    for entry in entries:
        found = None
        if isinstance(entry, (ReadingBooked, SweepBooked)) and (cut := cut_mm(state, entry.cylinder)) is not None:
            found = TypedDoubt(DoubtOf.CUT_SINCE, (cut,), entry.cylinder)
        elif isinstance(entry, ReadingBooked):
            found = _of_reading(state, entry)
        elif isinstance(entry, CheckLogged):
            found = _of_check(state, entry, units)
        elif isinstance(entry, HoleBored):
            found = _of_hole(state, entry)
        elif isinstance(entry, HoleLooked) and entry.found == "clean":
            found = _of_look(state, entry)
        elif isinstance(entry, PistonMeasured):
            found = _of_piston(state, entry)
        if found is not None:
            return found
    return None


def _of_reading(state: JobState, x: ReadingBooked) -> TypedDoubt | None:
    if x.gauge != TWO_POINT:
        return None
    size = x.diameter_mm / _grown(state)
    own = state.gauging.readings_of(x.cylinder, x.plate_on)
    near = [r.size_mm for r in own if abs(r.depth_mm - x.depth_mm) < SAME_DEPTH_MM]
    others = near or [r.size_mm for r in own]
    most = state.figures.number("gauging.odd_reading")
    if len(others) >= 2 and abs(size - median(others)) > most:
        return TypedDoubt(DoubtOf.FAR_FROM_OTHERS, (size, size - median(others)))
    if not others and not _could_be_worn(state, size):
        return TypedDoubt(DoubtOf.NO_SIZE_HERE, (size,))
    if own and places_read(state, x.cylinder, x.plate_on) == frozenset(state.gauging.plan.places()):
        return TypedDoubt(DoubtOf.READ_ALREADY, (x.depth_mm,), x.cylinder, x.clock_deg)
    return None


def _of_piston(state: JobState, x: PistonMeasured) -> TypedDoubt | None:
    """One that was made neither for the bore as it was nor for an oversize there is, or that is as warm as no shop."""
    bore, oversizes = state.block.bore_mm, state.book_in.oversizes_mm
    most = max(oversizes) + PISTON_OVER_MM if oversizes else PISTON_UNDER * bore
    over = x.size_mm - bore
    if not -PISTON_UNDER * bore <= over <= most:
        return TypedDoubt(DoubtOf.NO_PISTON_HERE, (x.size_mm, over))
    if x.piston_c is None or abs(x.piston_c - REFERENCE_C) <= PISTON_WARM_C:
        return None
    counted = size_at_20(x.size_mm, state.figures.number(f"thermal.{state.book_in.piston_alloy}"), x.piston_c)
    return TypedDoubt(DoubtOf.PISTON_WARM, (x.size_mm, counted), celsius=x.piston_c)


def _of_hole(state: JobState, x: HoleBored) -> TypedDoubt | None:
    """A hole that is smaller than it came from the bar before, no sleeve having gone in since; far from the bar's setting; or of two sizes."""
    before, mean = hole_of(state, x.cylinder), _mean(state, x)
    if before is not None and before.mean_mm - mean > SHRINKS_MM:
        return TypedDoubt(DoubtOf.HOLE_SHRUNK, (before.mean_mm - mean,))
    if (apart := _apart(x)) > SETTING_MM:
        return TypedDoubt(DoubtOf.PLACES_APART, (apart,))
    return TypedDoubt(DoubtOf.NOT_AS_SET, (x.set_mm, mean)) if abs(mean - x.set_mm) > SETTING_MM else None


def _apart(x: HoleBored | CheckLogged) -> float:
    """How far the places of a hole are apart, mm."""
    sizes = (*x.sizes_mm, *x.across_mm)
    return max(sizes) - min(sizes)


def _mean(state: JobState, x: HoleBored | CheckLogged) -> float:
    """The mean of what was typed, mm at 20 C."""
    sizes = (*x.sizes_mm, *x.across_mm)
    return sum(sizes) / len(sizes) / _grown(state)


def _grown(state: JobState) -> float:
    """A size at the block's own warmth over the same at 20 C; one where nobody said how warm it is."""
    return state.as_read(1.0)


def _of_look(state: JobState, x: HoleLooked) -> TypedDoubt | None:
    """A hole that is smaller than it was gauged was not touched all over."""
    hole = next((b for b in reversed(state.boring.holes) if b.cylinder == x.cylinder), None)
    largest = max(
        (r.size_mm for plate in (False, True) for r in state.gauging.readings_of(x.cylinder, plate)), default=0.0
    )
    if hole is None or min(hole.sizes_mm) > largest - SHRINKS_MM:
        return None
    return TypedDoubt(DoubtOf.NOT_TOUCHED, (min(hole.sizes_mm), largest))


def median(values: Sequence[float]) -> float:
    """The middle one of some values, the upper of two."""
    return sorted(values)[len(values) // 2]


def _could_be_worn(state: JobState, size_mm: float) -> bool:
    """Between a little under nominal and the largest size there are pistons for, worn as much again as any block is."""
    most = max((*state.book_in.oversizes_mm, 0.0)) + state.figures.number("gauging.most_worn")
    return -0.15 <= size_mm - state.block.bore_mm <= most


def _of_check(state: JobState, x: CheckLogged, units: Units) -> TypedDoubt | None:
    bore = state.block.bore_mm / float(units.mm)
    if x.strokes != round(x.strokes, 1) or (units is Units.INCH and x.strokes != round(x.strokes)):
        return TypedDoubt(DoubtOf.STROKES_ARE_A_SIZE, strokes=x.strokes)
    if x.strokes and abs(x.strokes - bore) < LIKE_THE_BORE * bore and not state.honing.checks_of(x.cylinder):
        return TypedDoubt(DoubtOf.FIRST_STROKES_LARGE, strokes=x.strokes)
    checks = state.honing.checks_of(x.cylinder)
    if (apart := _apart(x)) > SETTING_MM and hole_of(state, x.cylinder) is not None:
        return TypedDoubt(DoubtOf.PLACES_APART, (apart,))
    if not checks:
        return _of_first_check(state, x)
    grown = _mean(state, x) - checks[-1].mean_mm
    if grown < -SHRINKS_MM:
        return TypedDoubt(DoubtOf.SHRUNK, (-grown,))
    most = min(LEAPS_MM, _most_grown(state, x, checks))
    return TypedDoubt(DoubtOf.LEAPT, (grown,)) if grown > most else None


def _most_grown(state: JobState, x: CheckLogged, checks: Sequence[Check]) -> float:
    """What a hole may have grown by since its last check, mm: some times what its fastest bite in this step took a stroke. Stones that were
    dressed since may do anything."""
    last, honing = checks[-1], state.honing
    if honing.step_of(x.cylinder) != last.step or any(seq > last.seq for seq in honing.fresh):
        return LEAPS_MM
    step = [c for c in checks if c.step == last.step]
    bites = [(b.mean_mm - a.mean_mm) / (b.strokes - a.strokes) for a, b in pairwise(step) if b.strokes > a.strokes]
    return GAUGE_MM + FASTER * max(bites) * (x.strokes - last.strokes) if len(bites) > 1 else LEAPS_MM


def _of_first_check(state: JobState, x: CheckLogged) -> TypedDoubt | None:
    """Before a hone has touched it a hole is as it came from the bar."""
    bored = hole_of(state, x.cylinder)
    if bored is None or -COOLS_MM <= _mean(state, x) - bored.mean_mm <= LEAPS_MM:
        return None
    return TypedDoubt(DoubtOf.NOT_AS_BORED, (bored.mean_mm, _mean(state, x)))
