"""The stock ledger: how fast a step removed metal, by robust slopes (methods 12). How many strokes may follow: ``stroke_track``.

Diameters in mm at 20 C, strokes are double strokes counted since the step began.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import combinations

from redline_bore.core.errors import FitError
from redline_bore.core.frozen import frozen

LEAST_CHECKS = 3  # what fewer say of a rate is not learned from
_Z90 = 1.6448536269514722  # two-sided 90 %


@frozen(often=True)
class Rate:
    """Removal in mm of diameter per double stroke, with its 90 % interval (or the range of slopes)."""

    mm: float
    low_mm: float
    high_mm: float
    checks: int
    is_interval: bool  # False: too few checks, low and high are the range of slopes


def _pair_slopes(x: Sequence[float], y: Sequence[float]) -> list[float]:
    pairs = combinations(zip(x, y, strict=True), 2)
    return sorted((y1 - y0) / (x1 - x0) for (x0, y0), (x1, y1) in pairs if x1 != x0)


def _middle(rising: Sequence[float]) -> float:
    """The median of sorted figures (n >= 1)."""
    return 0.5 * (rising[(len(rising) - 1) // 2] + rising[len(rising) // 2])


def theil_sen(strokes: Sequence[float], diameter_mm: Sequence[float], interval_checks: int = 5) -> Rate:
    """Median of all pair slopes, n >= 2 checks at two stroke counts or more; mm per stroke.

    The 90 % interval uses Sen's ranks with the normal approximation to Kendall's variance, ranks rounded, and the
    ends of the list when there are too few. Raises FitError. Source: Sen 1968 (J. Am. Stat. Assoc. 63); methods 12.

    >>> round(theil_sen([0, 5, 10, 15, 20], [92.000, 92.010, 92.021, 92.030, 92.041]).mm, 4)
    0.002
    """
    x, y = tuple(map(float, strokes)), tuple(map(float, diameter_mm))
    if len(x) != len(y) or not (all(map(math.isfinite, x)) and all(map(math.isfinite, y))):
        raise FitError("A check lacks its strokes or its size; strike it and book it again")
    slopes = _pair_slopes(x, y)
    if not slopes:
        raise FitError("A rate needs two checks with strokes between them; hone a little and check again")
    n, pairs = len(x), len(slopes)
    sigma = math.sqrt(n * (n - 1) * (2 * n + 5) / 18.0)  # Kendall's variance without ties
    lower = max(round((pairs - _Z90 * sigma) / 2.0), 1)  # Sen: the M1-th and the (M2 + 1)-th slope
    upper = min(round((pairs + _Z90 * sigma) / 2.0) + 1, pairs)
    return Rate(_middle(slopes), slopes[lower - 1], slopes[upper - 1], n, n >= interval_checks)


@frozen(often=True)
class RobustLine:
    """The plain line through the checks: rate, size at the last check on it, mm, and the standard deviation of that."""

    rate: Rate
    now_mm: float
    now_sd_mm: float


def robust_line(
    strokes: Sequence[float], diameter_mm: Sequence[float], gauge_sd_mm: float, interval_checks: int = 5
) -> RobustLine:
    """The line by the median of the slopes and of the offsets, to hold beside the size that is followed check by check.

    gauge_sd_mm: standard deviation of one size. Raises FitError as theil_sen does. Source: methods 12.
    """
    x, y = tuple(map(float, strokes)), tuple(map(float, diameter_mm))
    rate = theil_sen(x, y, interval_checks)
    now = _middle(sorted(b - rate.mm * a for a, b in zip(x, y, strict=True))) + rate.mm * x[-1]
    mean = math.fsum(x) / len(x)
    spread = math.fsum((a - mean) ** 2 for a in x)
    return RobustLine(rate, now, gauge_sd_mm * math.sqrt(1.0 / len(x) + (x[-1] - mean) ** 2 / spread))


@frozen(often=True)
class RateChange:
    """Rate over the last three checks against the first three."""

    now_over_start: float
    fallen: bool
    risen: bool


def rate_change(
    strokes: Sequence[float], diameter_mm: Sequence[float], fallen_below: float, risen_above: float
) -> RateChange | None:
    """How the rate has changed within a step; None before there are four checks or when it began at nought.

    Source: methods 12 (fallen: glazed or worn stones; risen: bedding in).
    """
    if len(strokes) < 4:
        return None
    try:
        start, now = theil_sen(strokes[:3], diameter_mm[:3]).mm, theil_sen(strokes[-3:], diameter_mm[-3:]).mm
    except FitError:
        return None
    if start <= 0.0:
        return None
    return RateChange(now / start, now / start < fallen_below, now / start > risen_above)


def block_off_temperature(block_c: float | None, limit_c: float, reference_c: float = 20.0) -> bool:
    """True when the block is further than ``limit_c`` from the reference, C. Unknown is not off, but unknown."""
    return block_c is not None and abs(block_c - reference_c) > limit_c


def taper_growth(first_level_mm: Sequence[float], last_level_mm: Sequence[float]) -> float:
    """By how much the size of the taper (first level less last) grew between two checks, mm on diameter."""
    return abs(last_level_mm[0] - last_level_mm[-1]) - abs(first_level_mm[0] - first_level_mm[-1])
