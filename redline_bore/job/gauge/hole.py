"""The shape of a finished hole, read at places from the top down, against the limits of its duty (methods 4, 7)."""

from __future__ import annotations

import math
from enum import Enum, auto

from redline_bore.core.frozen import frozen
from redline_bore.job.gauge.doubt import reading_doubt
from redline_bore.job.profiles.duty import duty
from redline_bore.job.state.job_state import JobState
from redline_bore.job.state.two_angles import TwoAngles


class Out(Enum):
    """What of the shape of a finished hole is over its limit."""

    TAPER = auto()
    BULGE = auto()  # barrel or hourglass, and straightness
    OVAL = auto()
    TIGHT = auto()  # a place is under the least of the window
    WIDE = auto()  # a place is over the most of the window


@frozen
class HoleLimits:
    """What a finished hole may be out, mm on diameter."""

    taper_mm: float
    bulge_mm: float
    out_of_round_mm: float


def hole_limits(state: JobState) -> HoleLimits:
    """The limits of a finished hole by its duty."""
    f, hard = state.figures, duty(state.book_in.duty).hole
    return HoleLimits(*(f.number(f"limits.{hard}_{what}") for what in ("taper", "bulge", "out_of_round")))


@frozen
class HoleShape:
    """The shape of a hole read at places from the top down: taper (top less bottom), bulge (middle over the ends), the most that two
    angles differ; mm on diameter. None: not read. ``out``: over its limit by more than the doubt of it; ``close``: within that doubt."""

    taper_mm: float | None
    bulge_mm: float | None
    out_of_round_mm: float | None
    out: tuple[Out, ...]
    close: tuple[Out, ...]


def shape_of_hole(state: JobState, hole: TwoAngles) -> HoleShape:
    """The shape of a hole that was read at places from the top down, held against the limits of its duty."""
    limits, own, sizes = hole_limits(state), reading_doubt(state).own_mm, hole.by_depth_mm
    each = own / math.sqrt(hole.angles)
    taper = sizes[0] - sizes[-1] if len(sizes) > 1 else None
    bulge = _bulge(sizes)
    found: list[tuple[Out, float | None, float, float]] = [
        (Out.TAPER, taper, limits.taper_mm, 2.0 * math.sqrt(2.0) * each),
        (Out.BULGE, bulge, limits.bulge_mm, 2.0 * math.sqrt(1.5) * each),
        (Out.OVAL, hole.out_of_round_mm, limits.out_of_round_mm, 2.0 * math.sqrt(2.0) * own),
    ]
    out = tuple(what for what, value, limit, u in found if value is not None and abs(value) > limit + u)
    close = tuple(what for what, value, limit, u in found if value is not None and limit < abs(value) <= limit + u)
    return HoleShape(taper, bulge, hole.out_of_round_mm, out, close)


def _bulge(sizes: tuple[float, ...]) -> float | None:
    """The place that stands most off the straight line between the ends, plus is a barrel; None with fewer than three places."""
    if len(sizes) < 3:
        return None
    last = len(sizes) - 1
    off = [s - sizes[0] - (sizes[-1] - sizes[0]) * i / last for i, s in enumerate(sizes)][1:-1]
    return max(off, key=abs)
