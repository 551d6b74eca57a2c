"""Diameters from a three-point gauge, legs 120 degrees apart: multiples of three lobes only (methods 3).

Such a gauge reads the mean of an oval hole, so it tells taper and wear well and is blind to ovality.
"""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from redline_bore.core.errors import FitError
from redline_bore.core.frozen import frozen
from redline_bore.core.late import np

if TYPE_CHECKING:
    from numpy.typing import ArrayLike

SAME_LEG_DEG = 1.0
MAX_CONDITION = 30.0


@frozen
class ThreePointFit:
    """``d(t) = mean + 2 lobe cos 3(t - crest)``; lobe on radius, mm. None: fewer than three angles, not carried."""

    mean_mm: float
    spread_mm: float
    angles: int
    lobe_mm: float | None
    crest_deg: float | None


def distinct_angles(clock_deg: ArrayLike) -> int:
    """How many different settings of the legs a set of clock angles holds: they repeat every 120 degrees."""
    folded = np.sort(np.mod(np.asarray(clock_deg, dtype=float), 120.0))
    if folded.size == 0:
        return 0
    gaps = np.diff(np.append(folded, folded[0] + 120.0))
    return max(1, int(np.count_nonzero(gaps > SAME_LEG_DEG)))


def fit_three_point(clock_deg: ArrayLike, diameter_mm: ArrayLike) -> ThreePointFit:
    """Mean and three lobes from n >= 1 diameters of one level, angles in degrees. Raises FitError without readings.

    >>> fit_three_point([0.0, 40.0, 80.0], [92.02, 92.03, 92.04]).mean_mm
    92.03
    """
    clocks, sizes = np.asarray(clock_deg, dtype=float).ravel(), np.asarray(diameter_mm, dtype=float).ravel()
    if sizes.size == 0 or sizes.size != clocks.size or not np.isfinite(sizes).all():
        raise FitError("There is no three-point reading at this level yet; take one")
    mean, spread, angles = float(sizes.mean()), float(np.ptp(sizes)), distinct_angles(clocks)
    t = np.deg2rad(clocks)
    design = np.column_stack([np.ones_like(t), np.cos(3.0 * t), np.sin(3.0 * t)])
    if angles < 3 or np.linalg.cond(design) > MAX_CONDITION:
        return ThreePointFit(mean, spread, angles, None, None)
    found = np.linalg.lstsq(design, sizes - mean, rcond=None)[0]
    a, b = float(found[1]), float(found[2])
    crest = math.degrees(math.atan2(b, a)) / 3.0 % 120.0 % 120.0  # once more: a hair under nought comes out as 120
    return ThreePointFit(mean + float(found[0]), spread, angles, math.hypot(a, b) / 2.0, crest)
