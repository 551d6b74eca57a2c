"""How sure a shape is: the doubt of readings carried through the fits (GUM, JCGM 100, 5.1). mm, degrees, k = 1.

What all readings share (master, drift of the zero, temperature) moves sizes and cancels in differences: out of
round, taper, wear and ridge carry the part that each reading has for itself.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import TYPE_CHECKING

from redline_bore.core.errors import FitError
from redline_bore.core.frozen import frozen
from redline_bore.core.late import np
from redline_bore.core.shape import LevelFit, bulge_of, level_inverse
from redline_bore.core.worked_out import worked_out

if TYPE_CHECKING:
    from numpy.typing import NDArray

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


def level_doubt(clock_deg: Sequence[float], counts: Sequence[float], fit: LevelFit, own_sd_mm: float) -> LevelDoubt:
    """Doubt of a level's fit. counts: how many readings each of the n spots is the mean of. Source: GUM 5.1.2."""
    return _of_level(tuple(map(float, clock_deg)), tuple(map(float, counts)), fit.cos_mm, fit.sin_mm, own_sd_mm)


@worked_out(LevelDoubt)
def _of_level(
    clock_deg: tuple[float, ...], counts: tuple[float, ...], cos_mm: tuple[float, ...], sin_mm: tuple[float, ...], own_sd_mm: float
) -> LevelDoubt:  # fmt: skip
    sd = own_sd_mm / np.sqrt(np.array(counts))
    inverse = level_inverse(clock_deg)
    cover = inverse @ np.diag(sd**2) @ inverse.T
    oval, axis = None, None
    if cos_mm:
        a, b = cos_mm[0], sin_mm[0]
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


def axial_doubt(depth_mm: Sequence[float], mean_sd_mm: Sequence[float], travel_length_mm: float) -> AxialDoubt:
    """Doubt of the shape along the axis, from n >= 2 level means inside ring travel. Raises FitError with fewer."""
    z, sd, count = depth_mm, mean_sd_mm, len(depth_mm)
    if count < 2:
        raise FitError("Taper needs two levels inside ring travel")
    middle = math.fsum(z) / count
    moment = math.fsum((a - middle) ** 2 for a in z)
    line = travel_length_mm * math.sqrt(math.fsum(((a - middle) * s) ** 2 for a, s in zip(z, sd, strict=True))) / moment
    bulge = None
    if count >= 3:  # the bulge is linear in the means: what each of them alone would do
        alone = ([float(i == j) for j in range(count)] for i in range(count))
        bulge = math.sqrt(math.fsum((bulge_of(z, one) * s) ** 2 for one, s in zip(alone, sd, strict=True)))
    return AxialDoubt(math.hypot(sd[0], sd[-1]), line, bulge)
