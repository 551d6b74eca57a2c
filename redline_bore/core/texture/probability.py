"""The curve on probability paper: two straight parts, the plateau's and the valleys' (ISO 13565-3; methods 14)."""

from __future__ import annotations

import math
from functools import lru_cache
from typing import TYPE_CHECKING

from redline_bore.core.frozen import frozen
from redline_bore.core.late import np

if TYPE_CHECKING:
    from numpy.typing import ArrayLike, NDArray

    Array = NDArray[np.float64]

PLACES = 601
REACH_S = (-3.0, 3.0)  # the ends hang on a few points
LEAST_SHARE = 0.06  # of the places, for each straight part
AGREE = 0.15  # the ways of reading the knee may be so far apart, of the value
AGREE_PCT = 3.0  # and their knees so far along the curve
STEEPER = 1.5  # valleys at least so much steeper than the plateau, or there is no knee
LEFT_OUT = ((0, 0), (50, 50), (100, 0), (0, 100), (100, 100))  # places at the peaks and at the valleys


@frozen(often=True)
class Paper:
    """Rpq and Rvq in um, Rmq in percent: standard deviation of the plateau and of the valleys, ratio at the knee.

    None where the curve has no plain knee. plateau and valleys: (slope, height at s = 0) of both lines over the
    standard-normal quantile s.
    """

    Rpq: float | None
    Rvq: float | None
    Rmq: float | None
    plateau: tuple[float, float] | None = None
    valleys: tuple[float, float] | None = None


def normal_share(s: float) -> float:
    """The share of a normal distribution below ``s`` standard deviations from its middle."""
    return 0.5 * (1.0 + math.erf(s / math.sqrt(2.0)))


@lru_cache(maxsize=4)
def quantiles(count: int = PLACES) -> tuple[Array, Array]:
    """Even places s on probability paper, and their ratios as shares."""
    s = np.linspace(*REACH_S, count)
    return s, np.array([normal_share(float(v)) for v in s])


def on_paper(heights_um: ArrayLike) -> tuple[Array, Array]:
    """The curve over the standard-normal quantile: s and heights in um, both shape (601,)."""
    z = np.sort(np.asarray(heights_um, dtype=float))[::-1]
    s, share = quantiles()
    return s, np.interp(share, (np.arange(len(z)) + 0.5) / len(z), z)


def paper_of(heights_um: ArrayLike) -> Paper:
    """The figures of probability paper from a two-pass profile, shape (n,), um.

    Without a figure where the ways of finding the knee, over the whole reach and with more or less of either end
    left out, do not agree.
    """
    s, z = on_paper(heights_um)
    found = [_two_lines(s[a : len(s) - b], z[a : len(s) - b]) for a, b in LEFT_OUT]
    whole = found[0]
    if whole is None or whole[1] < STEEPER * whole[0]:
        return Paper(None, None, None)
    for other in found[1:]:
        if other is None or any(abs(a - b) > AGREE * a for a, b in zip(whole[:2], other[:2], strict=True)):
            return Paper(None, None, None)
    knees = [100.0 * normal_share(way[4]) for way in found if way is not None]
    if max(knees) - min(knees) > AGREE_PCT:
        return Paper(None, None, None)
    rpq, rvq, high, low, knee = whole
    return Paper(rpq, rvq, 100.0 * normal_share(knee), (-rpq, high), (-rvq, low))


def _two_lines(s: Array, z: Array) -> tuple[float, float, float, float, float] | None:
    """Two lines with the least squares of both: slopes (as um a sigma, falling), heights at s = 0, where they cross."""
    n = len(s)
    least = max(8, int(LEAST_SHARE * n))
    sums = [np.concatenate(([0.0], np.cumsum(v))) for v in (s, z, s * s, s * z, z * z)]

    def line(a: NDArray[np.int64] | int, b: NDArray[np.int64] | int) -> tuple[Array, Array, Array]:
        count = np.asarray(b) - np.asarray(a)
        ss, sz, sss, ssz, szz = (c[b] - c[a] for c in sums)
        sxx, sxy = sss - ss * ss / count, ssz - ss * sz / count
        slope = sxy / sxx
        return slope, (sz - slope * ss) / count, szz - sz * sz / count - slope * sxy

    breaks = np.arange(least, n - least)
    first, second = line(0, breaks), line(breaks, n)
    best = int(np.argmin(first[2] + second[2]))
    m1, c1, m2, c2 = (float(v[best]) for v in (first[0], first[1], second[0], second[1]))
    if not (m1 < 0.0 and m2 < m1):
        return None
    knee = (c2 - c1) / (m1 - m2)
    if not s[0] < knee < s[-1] or not math.isfinite(knee):
        return None
    return -m1, -m2, c1, c2, knee
