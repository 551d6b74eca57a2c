"""Which sweeps the need of a cylinder may rest on, and where a hole is to be swept for it."""

from __future__ import annotations

from typing import TYPE_CHECKING

from redline_bore.core.errors import FitError
from redline_bore.job.gauge.round import SweptLevel, swept_levels
from redline_bore.job.state.job_state import JobState

if TYPE_CHECKING:
    from redline_bore.core.swept_cleanup import CutAxis


def sweep_depths(state: JobState) -> tuple[float, ...]:
    """Where a hole is swept, mm down: just under the top ring's stop, in the middle of the travel, and in the unworn bottom."""
    travel, f = state.travel, state.figures
    low, high = f.row("cleanup.stop_level")
    below = (travel.bottom_mm + state.block.length_mm) / 2.0
    return (
        round(travel.top_mm + (low + high) / 2.0, 1),
        float(round((travel.top_mm + travel.bottom_mm) / 2.0)),
        round(below, 1),
    )


def sweeps_missing(state: JobState, cylinder: int) -> tuple[float, ...]:
    """The depths that are still to be swept, for the sweeps to tell what cleans a cylinder up."""
    depths = [v.sweep.depth_mm for v in _found(state, cylinder)]
    travel, (low, high) = state.travel, state.figures.row("cleanup.stop_level")
    third = travel.length_mm / 3.0
    inside = (
        lambda d: travel.top_mm + low - 1e-6 <= d <= travel.top_mm + high + 1e-6,
        lambda d: travel.top_mm + third <= d <= travel.bottom_mm - third,
        lambda d: d > travel.bottom_mm + 1e-6,
    )
    return tuple(depth for depth, held in zip(sweep_depths(state), inside, strict=True) if not any(map(held, depths)))


def swept_used(state: JobState, cylinder: int) -> list[SweptLevel]:
    """The sweeps that the need of a cylinder rests on. Raises FitError with what to sweep."""
    found = _found(state, cylinder)
    if sweeps_missing(state, cylinder):
        raise FitError("Two points cannot say on which side it wore: sweep it")
    return found


def _found(state: JobState, cylinder: int) -> list[SweptLevel]:
    """Sweeps that carry a circle, with the plate as it stands, else the other way."""
    plates = [state.clamped.plate_on, not state.clamped.plate_on]
    return next((rows for p in plates if (rows := [v for v in swept_levels(state, cylinder, p) if v.fit])), [])


def shift_at(levels: list[SweptLevel], a: CutAxis, depth_mm: float) -> tuple[float, float]:
    """How far an axis lies off the swept hole's own centre at a depth, mm (x to clock 0, y to 90)."""
    level = min(levels, key=lambda v: abs(v.sweep.depth_mm - depth_mm))
    assert level.fit is not None
    share = level.sweep.depth_mm / max(v.sweep.depth_mm for v in levels)
    x = a.deck_x_mm + share * (a.deep_x_mm - a.deck_x_mm)
    y = a.deck_y_mm + share * (a.deep_y_mm - a.deck_y_mm)
    return x - level.fit.least_squares.x_mm, y - level.fit.least_squares.y_mm
