"""Defects: what was found on the wall, how deep it may be, and what each does to the size that cleans up."""

from __future__ import annotations

from redline_bore.core.frozen import frozen
from redline_bore.job.gauge.analysis import CylinderShape, flaws_of, shape_of, shape_with
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.gauging import Defect, Photo
from redline_bore.job.state.job_state import JobState

KINDS = ("score", "pit", "rust", "crack", "heat mark", "smear", "groove")


@frozen(often=True)
class Effect:
    """What a defect adds to the size that cleans up, mm on diameter; None where no size can be told at all."""

    defect: Defect
    photos: tuple[Photo, ...]
    adds_low_mm: float | None
    adds_high_mm: float | None

    @property
    def decides(self) -> bool:
        return self.adds_high_mm is not None and self.adds_high_mm > 1e-9


@once_a_state
def effects_of(state: JobState, cylinder: int) -> tuple[Effect, ...]:
    """Each defect of a cylinder, with what cleaning up needs more for it."""
    shape, marked = shape_of(state, cylinder), state.gauging.defects_of(cylinder)
    return tuple(_effect(state, shape, d, flaw) for d, flaw in zip(marked, flaws_of(state, cylinder), strict=True))


def _effect(state: JobState, shape: CylinderShape, defect: Defect, flaw: Defect) -> Effect:
    """What it would cost were it the only one: of two alike each costs its own."""
    photos = state.gauging.photos_of(defect.seq)
    alone, none = (shape_with(state, shape.cylinder, shape.plate_on, d).cleanup for d in ((flaw,), ()))
    if alone is None or none is None:
        return Effect(defect, photos, None, None)
    return Effect(defect, photos, alone.low_mm - none.low_mm, alone.high_mm - none.high_mm)
