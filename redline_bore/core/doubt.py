"""How sure a shape is: the doubt of readings carried through the fits (GUM, JCGM 100, 5.1). mm, degrees, k = 1.

What all readings share (master, drift of the zero, temperature) moves sizes and cancels in differences: out of
round, taper, wear and ridge carry the part that each reading has for itself.
"""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

import numpy as np

from redline_bore.core.errors import FitError
from redline_bore.core.frozen import frozen
from redline_bore.core.shape import LevelFit, bulge_of, level_inverse

if TYPE_CHECKING:
    from numpy.typing import ArrayLike, NDArray

    Array = NDArray[np.float64]


@frozen
class ReadingDoubt:
    """Standard deviations of a reading, mm: ``own_mm`` new with each reading, ``shared_mm`` common to all of them."""

    own_mm: float
    shared_mm: float

    @property
    def single_mm(self) -> float:
        """Standard uncertainty of one reading, mm."""
        return math.hypot(self.own_mm, self.shared_mm)

    @property
    def expanded_u_mm(self) -> float:
        """U of a single size, k = 2."""
        return 2.0 * self.single_mm


@frozen
class LevelDoubt:
    """Standard deviations at one level, mm and degrees, without what all readings share. None: not carried."""

    mean_mm: float
    out_of_round_raw_mm: float
    out_of_round_second_harmonic_mm: float | None
    long_axis_deg: float | None


def level_doubt(clock_deg: ArrayLike, counts: ArrayLike, fit: LevelFit, own_sd_mm: float) -> LevelDoubt:
    """Doubt of a level's fit. counts: how many readings each of the n spots is the mean of. Source: GUM 5.1.2."""
    sd = own_sd_mm / np.sqrt(np.asarray(counts, dtype=float))
    inverse = level_inverse(clock_deg)
    cover = inverse @ np.diag(sd**2) @ inverse.T
    oval, axis = None, None
    if fit.harmonics_used:
        a, b = fit.cos_mm[0], fit.sin_mm[0]
        size = math.hypot(a, b)
        oval = 2.0 * math.sqrt(float(cover[1, 1] + cover[2, 2]) / 2.0)
        if size > 0.0:  # along the circle of angles; twice the axis's own angle
            turn = np.array([-b, a]) / size**2
            axis = min(math.degrees(math.sqrt(float(turn @ cover[1:3, 1:3] @ turn))) / 2.0, 90.0)
    return LevelDoubt(math.sqrt(float(cover[0, 0])), math.sqrt(2.0) * float(sd.max()), oval, axis)


@frozen
class AxialDoubt:
    """Standard deviations of taper, of the line's taper and of the bulge, mm on diameter."""

    taper_mm: float
    line_taper_mm: float
    bulge_mm: float | None


def axial_doubt(depth_mm: ArrayLike, mean_sd_mm: ArrayLike, travel_length_mm: float) -> AxialDoubt:
    """Doubt of the shape along the axis, from n >= 2 level means inside ring travel. Raises FitError with fewer."""
    z, sd = np.asarray(depth_mm, dtype=float), np.asarray(mean_sd_mm, dtype=float)
    if z.size < 2:
        raise FitError("Taper needs two levels inside ring travel")
    u = z - z.mean()
    line = travel_length_mm * math.sqrt(float((u**2 * sd**2).sum())) / float((u**2).sum())
    bulge = None
    if z.size >= 3:  # the bulge is linear in the means: what each of them alone would do
        parts = np.array([bulge_of(z, np.eye(z.size)[i]) for i in range(z.size)])
        bulge = math.sqrt(float(((parts * sd) ** 2).sum()))
    return AxialDoubt(math.hypot(float(sd[0]), float(sd[-1])), line, bulge)
