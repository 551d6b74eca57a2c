"""Where a hole is read at the hone and off the bar: depths from the top down, at two angles."""

from __future__ import annotations

from redline_bore.core.frozen import frozen
from redline_bore.job.state.job_state import JobState

CHECKED_AT, ANGLES_DEG = 3, (0.0, 90.0)


@frozen
class CheckPlaces:
    """Where a check is taken: depths down from the deck, mm, and clock angles, degrees."""

    depths_mm: tuple[float, ...]
    clocks_deg: tuple[float, ...]


def places_of_checks(state: JobState, count: int) -> tuple[float, ...]:
    """Depths that sizes from the top down stand for: near the top, near the bottom, and evenly between."""
    length = state.block.length_mm
    if count == 1:
        return (length / 2.0,)
    return tuple(length * (0.07 + 0.86 * i / (count - 1)) for i in range(count))


def check_places(state: JobState) -> CheckPlaces:
    """Where the next check is taken, in whole millimetres: near the top, in the middle, near the bottom; across the crank and along it."""
    return CheckPlaces(tuple(round(d) for d in places_of_checks(state, CHECKED_AT)), ANGLES_DEG)
