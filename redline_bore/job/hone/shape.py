"""How straight and round a hole is at the hone, by its last check, against the limits of its duty; and where it is tight."""

from __future__ import annotations

from redline_bore.core.frozen import frozen
from redline_bore.job.gauge.doubt import reading_doubt
from redline_bore.job.gauge.hole import HoleShape, Out, hole_limits, shape_of_hole
from redline_bore.job.gauge.places import places_of_checks
from redline_bore.job.hone.set_up import HAND
from redline_bore.job.hone.steps import PEAKS_ONLY, stones_of
from redline_bore.job.hone.track import ends_of, tracked_of
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.job_state import JobState


@frozen
class ShapeAtHone:
    """The shape at the last check, and what to do about it. tight_at: which place from the top is tight, tight_mm by how much on
    diameter against the others, depth_mm where that is. bite: short strokes there; nought: none is safe or wanted. clear: those ends of the window that a place is out of, beyond U."""

    hole: HoleShape
    ends_out: tuple[Out, ...]
    tight_at: int
    places: int
    tight_mm: float
    depth_mm: float
    bite: int

    @property
    def out(self) -> tuple[Out, ...]:
        """All that is out."""
        return (*self.hole.out, *self.ends_out)

    @property
    def wants_truing(self) -> bool:
        """Short strokes at the tight place are the next thing."""
        return self.bite > 0


@once_a_state
def shape_at_hone(state: JobState, cylinder: int) -> ShapeAtHone | None:
    """The shape of a cylinder at its last check; None before there is one with two places or more."""
    checks, ends, tracked = state.honing.checks_of(cylinder), ends_of(state, cylinder), tracked_of(state, cylinder)
    if not checks or ends is None or tracked is None:
        return None
    last = checks[-1]
    ends_out = []
    if last.smallest_mm < ends.low_mm - ends.u_mm:
        ends_out.append(Out.TIGHT)
    if last.largest_mm > ends.top_mm + ends.u_mm:
        ends_out.append(Out.WIDE)
    sizes = last.by_depth_mm
    at = min(range(len(sizes)), key=lambda i: sizes[i])
    others = [s for i, s in enumerate(sizes) if i != at]
    tight = sum(others) / len(others) - sizes[at] if others else 0.0
    depth = places_of_checks(state, len(sizes))[at]
    hole = shape_of_hole(state, last)
    near_end = tracked.to_aim_mm <= state.figures.number("honing.creep_from")
    under = tuple(ends_out) if near_end else ()
    return ShapeAtHone(hole, under, at, len(sizes), tight, depth, _short_strokes(state, cylinder, tight, len(sizes)))


def _short_strokes(state: JobState, cylinder: int, tight_mm: float, places: int) -> int:
    """Short strokes that take half of what a place is tight by; nought where it is not tight enough to tell, at a hone held by hand, or once only peaks are cut."""
    tracked, f = tracked_of(state, cylinder), state.figures
    stones = stones_of(state)
    if tracked is None or places < 2 or stones[min(state.honing.step_of(cylinder), len(stones) - 1)] in PEAKS_ONLY:
        return 0
    if state.honing.run is not None and state.honing.run.machine in HAND:
        return 0
    limits, own = hole_limits(state), reading_doubt(state).own_mm
    least = max(f.number("honing.trued_from") * min(limits.taper_mm, limits.bulge_mm), 3.0 * own)
    if tight_mm <= least:
        return 0
    rate = tracked.track.rate_mm * f.number("honing.short_strokes_take")
    return int(0.5 * tight_mm / rate)
