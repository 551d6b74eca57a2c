"""What was typed, held against what the job knows, before it is booked: asked once, booked if it is entered again."""

from __future__ import annotations

from collections.abc import Sequence

from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.gauge.analysis import SAME_DEPTH_MM, places_read
from redline_bore.job.kinds.bore import HoleLooked
from redline_bore.job.kinds.entry import Entry
from redline_bore.job.kinds.gauge import ReadingBooked
from redline_bore.job.kinds.hone import CheckLogged
from redline_bore.job.state.gauging import TWO_POINT
from redline_bore.job.state.job_state import JobState

SHRINKS_MM, LEAPS_MM = 0.006, 0.25  # a hone takes metal, and never so much between two checks
LIKE_THE_BORE = 0.03  # a count of strokes so near the bore, as it is said, is a size


def doubt_in(state: JobState, entries: Sequence[Entry], show: Show) -> str:
    """What speaks against entries that were typed, as a question; empty where nothing does."""
    for entry in entries:
        asked = ""
        if isinstance(entry, ReadingBooked):
            asked = _of_reading(state, entry, show)
        elif isinstance(entry, CheckLogged):
            asked = _of_check(state, entry, show)
        elif isinstance(entry, HoleLooked) and entry.found == "clean":
            asked = _of_look(state, entry, show)
        if asked:
            return asked
    return ""


def _of_reading(state: JobState, x: ReadingBooked, show: Show) -> str:
    if x.gauge != TWO_POINT:
        return ""
    warm = state.clamped.block_c
    size = x.diameter_mm if warm is None else x.diameter_mm / (1.0 + state.coefficient_1e6 * 1e-6 * (warm - 20.0))
    own = state.gauging.readings_of(x.cylinder, x.plate_on)
    near = [r.size_mm for r in own if abs(r.depth_mm - x.depth_mm) < SAME_DEPTH_MM]
    others = near or [r.size_mm for r in own]
    most = state.figures.number("gauging.odd_reading")
    if len(others) >= 2 and abs(size - median(others)) > most:
        return f"{show.size(size)} is {show.away(size - median(others))} from the others there: a wrong place, or a wrong zero?"
    if not others and not _could_be_worn(state, size):
        return f"{show.size(size)} is no size that this block could be worn to"
    if own and places_read(state, x.cylinder, x.plate_on) == frozenset(state.gauging.plan.places()):
        return f"cylinder {x.cylinder} is fully read: another reading {show.down(x.depth_mm)} at {x.clock_deg:g}°?"
    return ""


def _of_look(state: JobState, x: HoleLooked, show: Show) -> str:
    """A hole that is smaller than it was gauged was not touched all over."""
    hole = next((b for b in reversed(state.boring.holes) if b.cylinder == x.cylinder), None)
    largest = max(
        (r.size_mm for plate in (False, True) for r in state.gauging.readings_of(x.cylinder, plate)), default=0.0
    )
    if hole is None or min(hole.sizes_mm) > largest - SHRINKS_MM:
        return ""
    return f"it came out at {show.size(min(hole.sizes_mm))} and was gauged {show.size(largest)}: can the tool have touched it all over?"


def median(values: Sequence[float]) -> float:
    """The middle one of some values, the upper of two."""
    return sorted(values)[len(values) // 2]


def _could_be_worn(state: JobState, size_mm: float) -> bool:
    """Between a little under nominal and the largest size there are pistons for, worn as much again as any block is."""
    most = max((*state.book_in.oversizes_mm, 0.0)) + state.figures.number("gauging.most_worn")
    return -0.15 <= size_mm - state.block.bore_mm <= most


def _of_check(state: JobState, x: CheckLogged, show: Show) -> str:
    bore = state.block.bore_mm / float(show.units.mm)
    if x.strokes != round(x.strokes, 1) or (show.units is Units.INCH and x.strokes != round(x.strokes)):
        return f"{x.strokes:g} double strokes? That is a size: strokes come first"
    if x.strokes and abs(x.strokes - bore) < LIKE_THE_BORE * bore and not state.honing.checks_of(x.cylinder):
        return f"{x.strokes:g} double strokes at the first check? That looks like a size: strokes come first"
    checks = state.honing.checks_of(x.cylinder)
    if not checks:
        return ""
    warm = state.clamped.block_c
    scale = 1.0 if warm is None else 1.0 + state.coefficient_1e6 * 1e-6 * (warm - 20.0)
    sizes = (*x.sizes_mm, *x.across_mm)
    grown = sum(sizes) / len(sizes) / scale - checks[-1].mean_mm
    if grown < -SHRINKS_MM:
        return f"it was {show.size(-grown)} larger at the last check, and metal does not go back on: is the zero right, the cylinder, the temperature?"
    if grown > LEAPS_MM:
        return f"it grew by {show.size(grown)} since the last check: is it this cylinder, and the right zero?"
    return ""
