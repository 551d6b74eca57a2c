"""What size cleans a hole up, and what a cut to a size does with it (methods 5). Diameters in mm; defects and skin on radius.

A two-point gauge cannot say on which side the wear lies, so the answer is an interval. What holds for every place of the wall, read or
not, is the bound of ``cleanup_bound``.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from enum import StrEnum

from redline_bore.core.cleanup_bound import Lacks
from redline_bore.core.errors import FitError
from redline_bore.core.frozen import frozen

# Two chords may both lie across the direction of the wear and show nothing of it; from three on one of them lies within 30 degrees of it,
# and the term for the gap between chords (cleanup_bound) covers the rest.
CHORDS_FOR_A_BOUND = 3


class Verdict(StrEnum):
    """What a cut to a size does with a hole."""

    CLEANS_UP = "cleans up"
    MAY_SHADOW = "may leave a shadow"
    WILL_NOT = "will not clean up"


@frozen
class CleanUp:
    """Bored diameter in mm that a hole needs: surely not under ``low_mm``, usually ``usual_mm``, at most ``high_mm``.

    deciding: index of the reading that sets the high end. is_bound: False when the high end could be passed
    (``lacks`` says by what is missing); then nothing is ever said to clean up.
    """

    low_mm: float
    usual_mm: float
    high_mm: float
    deciding: int
    is_bound: bool
    lacks: tuple[Lacks, ...] = ()

    def verdict(self, size_mm: float, at_most_mm: float | None = None) -> Verdict:
        """What a cut to ``size_mm`` does, a diameter in mm; where it is not known yet, that it ends between ``size_mm`` and ``at_most_mm``."""
        # "Will not" is said of the largest size it could end at, "cleans up" of the smallest: each word is sure whichever it becomes.
        if (size_mm if at_most_mm is None else at_most_mm) < self.low_mm - 1e-9:
            return Verdict.WILL_NOT
        if size_mm >= self.high_mm - 1e-9 and self.is_bound:
            return Verdict.CLEANS_UP
        return Verdict.MAY_SHADOW

    def smallest_sure(self, sizes_mm: Sequence[float]) -> int | None:
        """Index of the smallest of ``sizes_mm`` at or over the high end; None when there is none.

        Ask ``is_bound`` too before calling it sure.
        """
        enough = [i for i, size in enumerate(sizes_mm) if size >= self.high_mm - 1e-9]
        return min(enough, key=sizes_mm.__getitem__, default=None)


def cleanup_two_point(
    reference_mm: float,
    diameter_mm: Sequence[float],
    skin_mm: float,
    usual_share: float,
    chords_per_level: int,
    defect_low_mm: Sequence[float] | None = None,
    defect_high_mm: Sequence[float] | None = None,
) -> CleanUp:
    """The interval of required diameters about the unworn axis, per reading, the largest winning.

    reference_mm: unworn diameter. diameter_mm: n readings. defect_*_mm: n depths on radius, the two ends of what
    each defect may be (0 where there is none; low = high when measured). chords_per_level: the fewest at any
    level that counts. With w = d - reference: low = reference + max(w + defect, 2 defect) + 2 skin (a score may
    lie on the side that wore least); usual and high = reference + 2 s w + 2 (defect + skin) at the usual share
    and at s = 1. Raises FitError without readings. Source: methods 5.

    >>> need = cleanup_two_point(92.0, [92.06, 92.10], 0.013, 0.7, 4)
    >>> round(need.low_mm, 3), round(need.high_mm, 3)
    (92.126, 92.226)
    >>> need.verdict(92.25)
    <Verdict.CLEANS_UP: 'cleans up'>
    """
    count = len(diameter_mm)
    if not count or not all(map(math.isfinite, diameter_mm)):
        raise FitError("What cleans up cannot be told before the hole is gauged")
    low_defect = [0.0] * count if defect_low_mm is None else defect_low_mm
    high_defect = low_defect if defect_high_mm is None else defect_high_mm
    low, usual, high = [], [], []
    for d, least, most in zip(diameter_mm, low_defect, high_defect, strict=True):
        w = float(d) - reference_mm
        # A two-point reading adds both sides: wear w may lie all on one (the axis stays, 2 w is cut) or half on each (w is cut).
        low.append(reference_mm + max(w + least, 2.0 * least) + 2.0 * skin_mm)
        usual.append(reference_mm + 2.0 * usual_share * w + 2.0 * (most + skin_mm))
        high.append(reference_mm + 2.0 * w + 2.0 * (most + skin_mm))
    most_of_all = max(high)
    return CleanUp(max(low), max(usual), most_of_all, high.index(most_of_all), chords_per_level >= CHORDS_FOR_A_BOUND)
