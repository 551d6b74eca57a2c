"""The deck and the counterbores before sleeving (methods 9). Heights in mm above the mains, depths below the deck."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import TYPE_CHECKING

from redline_bore.core.errors import InputError
from redline_bore.core.frozen import frozen
from redline_bore.core.late import np

if TYPE_CHECKING:
    from numpy.typing import ArrayLike


@frozen(often=True)
class DeckPlan:
    """What is faced off, in passes, and the height that stays, mm."""

    cut_mm: float
    height_after_mm: float
    passes_mm: tuple[float, ...]


def deck_plan(height_mm: ArrayLike, skin_mm: float, step_mm: float, last_mm: float) -> DeckPlan:
    """Face a deck parallel to the mains.

    Highest less lowest plus the skin, in even cuts none over ``step_mm`` and a light last one. height_mm: any
    shape. Raises InputError.
    """
    heights = np.asarray(height_mm, dtype=float)
    if heights.size == 0 or not np.isfinite(heights).all():
        raise InputError("The deck's height has to be measured at every place of the grid")
    if step_mm <= 0.0 or last_mm <= 0.0 or skin_mm < 0.0:
        raise InputError("A facing cut has to be more than nought")
    # Parallel to the mains means down to the lowest place, everywhere; the skin is what makes that place clean too.
    cut = float(heights.max() - heights.min()) + skin_mm
    rest = cut - last_mm
    # The light cut comes last and always, for it decides the finish; the others are evened out so that no thin one rubs.
    count = math.ceil(rest / step_mm - 1e-9) if rest > 1e-9 else 0
    passes = (*([rest / count] * count), last_mm) if count else (cut,)
    return DeckPlan(cut, float(heights.max()) - cut, passes)


@frozen(often=True)
class Counterbore:
    """Depth wanted from the deck that stays, what is there once the deck is faced, and what is still to cut, mm.

    ``to_cut_mm`` under nought: it is too deep and needs a shim.
    """

    depth_mm: float
    existing_mm: float
    to_cut_mm: float

    @property
    def needs_shim(self) -> bool:
        """Whether it is too deep already."""
        return self.to_cut_mm < -1e-9


def counterbores(
    flange_mm: Sequence[float],
    protrusion_mm: float,
    existing_mm: Sequence[float],
    deck_cut_mm: float,
    shim_mm: float = 0.0,
) -> tuple[Counterbore, ...]:
    """Each sleeve's own counterbore: flange and shim less protrusion. Raises InputError when the lists differ."""
    if len(flange_mm) != len(existing_mm):
        raise InputError("Every sleeve's flange and every counterbore has to be measured")
    found = []
    for flange, there in zip(flange_mm, existing_mm, strict=True):
        # Facing takes the same from every counterbore, so what is there is counted from the deck that stays.
        depth, left = flange + shim_mm - protrusion_mm, there - deck_cut_mm
        found.append(Counterbore(depth, left, depth - left))
    return tuple(found)
