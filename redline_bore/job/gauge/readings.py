"""Advice at the gauge: where to read next, what the readings say so far, and what this gauge cannot see."""

from __future__ import annotations

from redline_bore.core.fit import taper_from_gaps
from redline_bore.job.gauge.analysis import places_read
from redline_bore.job.state.job_state import JobState


def waiting_cylinders(state: JobState) -> list[int]:
    """Cylinders that have places of the plan left to read, with the plate as it stands."""
    full = frozenset(state.gauging.plan.places())
    return [
        c for c in state.cylinders if places_read(state, c, state.clamped.plate_on, state.gauging.gauge_kind) != full
    ]


def gap_taper(state: JobState, cylinder: int) -> float | None:
    """Taper in mm from ring gaps at the shallowest and the deepest place read; None with fewer than two."""
    gaps = sorted((g for g in state.gauging.ring_gaps if g.cylinder == cylinder), key=lambda g: g.depth_mm)
    return taper_from_gaps(gaps[0].gap_mm, gaps[-1].gap_mm) if len(gaps) > 1 else None
