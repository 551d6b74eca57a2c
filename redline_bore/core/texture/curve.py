"""The material-ratio curve and the Rk family read from it (ISO 13565-2, ISO 21920-2; methods 14). Heights in um."""

from __future__ import annotations

from typing import TYPE_CHECKING

from redline_bore.core.errors import InputError
from redline_bore.core.frozen import frozen
from redline_bore.core.late import np

if TYPE_CHECKING:
    from numpy.typing import ArrayLike, NDArray

    Array = NDArray[np.float64]

CORE_SHARE = 0.40
FLAT_UM = 1e-9


@frozen(often=True)
class RkFamily:
    """The family in um, ratios in percent, areas in um (um3/um2), Vo in mm3/cm2.

    upper, lower: heights of the core's ends above the reference line; the line through the window runs from
    ``window_start`` percent over 40 percent and has ``slope`` um a percent.
    """

    Rk: float
    Rpk: float
    Rvk: float
    Mr1: float
    Mr2: float
    A1: float
    A2: float
    Vo: float
    upper: float
    lower: float
    window_start: float
    slope: float


def family_of(heights_um: ArrayLike) -> RkFamily:
    """The family of a two-pass profile: the heights themselves are the curve, sorted, one a point; shape (n,).

    Raises InputError with fewer than 100 points.
    """
    z = np.sort(np.asarray(heights_um, dtype=float))[::-1]
    n = len(z)
    if n < 100:
        raise InputError("A material-ratio curve needs a hundred points or more")
    return _read(z, 100.0 * (np.arange(n) + 0.5) / n)


def family_of_curve(ratio_pct: ArrayLike, heights_um: ArrayLike) -> RkFamily:
    """The family of a curve given by its corners: ratios growing from 0 to 100 percent, heights falling, shape (n,)."""
    mr, c = np.asarray(ratio_pct, dtype=float), np.asarray(heights_um, dtype=float)
    if mr.shape != c.shape or len(mr) < 2 or np.any(np.diff(mr) <= 0.0):
        raise InputError("A curve is ratios that grow, and as many heights")
    fine = 20000
    middle = (np.arange(fine) + 0.5) * 100.0 / fine
    return _read(np.interp(middle, mr, c), middle)


def _read(z: Array, mr: Array) -> RkFamily:
    """z: falling heights, each an equal share of the curve, at ratios ``mr`` (percent)."""
    n = len(z)
    span = int(round(CORE_SHARE * n))
    drop = z[: n - span] - z[span:]
    start = int(np.argmin(np.round(drop, 9)))  # the first of the flattest secants, ISO 13565-2, 4.2
    x, y = mr[start : start + span + 1], z[start : start + span + 1]
    dx = x - x.mean()
    slope = float(dx @ (y - y.mean()) / (dx @ dx))
    at_mean = float(y.mean())
    upper = at_mean - slope * float(x.mean())
    lower = upper + 100.0 * slope
    above, below = np.maximum(z - upper, 0.0), np.maximum(lower - z, 0.0)
    a1, a2 = float(above.mean()), float(below.mean())
    mr1 = _crossing(z, mr, upper) if a1 > FLAT_UM else 0.0
    mr2 = _crossing(z, mr, lower) if a2 > FLAT_UM else 100.0
    # equal-area triangles, ISO 13565-2, 4.3
    rpk = 200.0 * a1 / mr1 if mr1 > 0.0 else 0.0
    rvk = 200.0 * a2 / (100.0 - mr2) if mr2 < 100.0 else 0.0
    return RkFamily(
        upper - lower, rpk, rvk, mr1, mr2, a1, a2, rvk * (100.0 - mr2) / 2000.0, upper, lower, float(mr[start]), slope
    )


def _crossing(z: Array, mr: Array, level: float) -> float:
    """Where the falling curve goes through ``level``, percent."""
    level -= FLAT_UM  # a flat that lies on the level is above it, whatever its last digit says
    place = int(np.searchsorted(-z, -level, side="right"))  # first point below the level
    if place <= 0:
        return float(mr[0])
    if place >= len(z):
        return float(mr[-1])
    z0, z1 = float(z[place - 1]), float(z[place])
    share = (z0 - level) / (z0 - z1) if z0 > z1 else 0.5
    return float(mr[place - 1] + share * (mr[place] - mr[place - 1]))


def curve_of(heights_um: ArrayLike, count: int = 1001) -> tuple[Array, Array]:
    """The curve for drawing: ratios in percent (every 0.1 with the usual count) and heights in um."""
    z = np.sort(np.asarray(heights_um, dtype=float))[::-1]
    mr = np.linspace(0.0, 100.0, count)
    return mr, np.interp(mr, 100.0 * (np.arange(len(z)) + 0.5) / len(z), z)
