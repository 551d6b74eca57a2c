"""Whether a torque plate would change the answer: a shop without one is asked for it only there (job.md: plate always, or only on weak decks)."""

from __future__ import annotations

import math

from redline_bore.core.fit import Decision, guard_band_both
from redline_bore.job.gauge.hole import hole_limits
from redline_bore.job.gauge.plate import plate_map
from redline_bore.job.gauge.two_ends import ends_call
from redline_bore.job.redline import leading_window
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.job_state import JobState

ALWAYS, WEAK_DECKS = "always", "weak decks"  # practices of the topic "plate"


def deck_moves(state: JobState, cylinder: int) -> float:
    """The most that the head moves a place of a cylinder, mm on diameter: as its two gaugings say, else by the shop's figure."""
    levels = plate_map(state, cylinder).levels
    if levels:
        return max(abs(m) for level in levels for m in level.moved.moved_mm)
    return state.figures.number("fasteners.plate_moves")


def plate_wanted(state: JobState, cylinder: int) -> bool:
    """Whether a plate is asked for: always, by that school, else where it could change the answer."""
    return state.booking.practice("plate") != WEAK_DECKS or plate_changes(state, cylinder)


@once_a_state
def plate_changes(state: JobState, cylinder: int) -> bool:
    """Whether what the head does could change how a cylinder is judged: its two ends are not surely in their window, or its shape not
    surely in its limits, once the head has moved it. What is past its window stays past; of what is not known, or not done, anything may be changed."""
    call, moves = ends_call(state, cylinder), deck_moves(state, cylinder)
    if call is None or call.hole.shape is None:
        return True
    if call.most_mm > leading_window(state).high_mm + call.u_mm:
        return False
    limits, shape = hole_limits(state), call.hole.shape
    for read, limit, share in (
        (shape.out_of_round_mm, limits.out_of_round_mm, 1.0),
        (shape.taper_mm, limits.taper_mm, 1.0),
        (shape.bulge_mm, limits.bulge_mm, 0.5),  # an end that moves takes the line between the ends half as far
    ):
        if read is None or math.hypot(read, share * moves) > limit:
            return True
    u_mm = math.hypot(call.u_mm, moves)
    return guard_band_both(call.least_mm, call.most_mm, leading_window(state), u_mm) is not Decision.IN
