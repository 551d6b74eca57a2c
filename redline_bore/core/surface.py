"""The wall as a surface, for drawing: Fourier in angle, monotone cubic in depth (methods 4). SciPy is used here."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise
from typing import TYPE_CHECKING, Any

from redline_bore.core.errors import FitError
from redline_bore.core.frozen import frozen
from redline_bore.core.late import np
from redline_bore.core.shape import MAX_HARMONIC, LevelFit

if TYPE_CHECKING:
    from numpy.typing import ArrayLike, NDArray

    from redline_bore.core.axis import HoleAxis
    from redline_bore.core.sweep import SweepFit

    Array = NDArray[np.float64]


@frozen
class WallSurface:
    """The wall for drawing: Fourier in angle, monotone cubic in depth, never beyond the levels read."""

    depth_mm: tuple[float, ...]
    columns: Any  # PchipInterpolator over (mean, a1, b1, a2, b2, a3, b3) by depth

    def diameter(self, depth_mm: ArrayLike, clock_deg: ArrayLike) -> Array:
        """Diameters in mm, shape (m depths, n clocks); NaN above the shallowest and below the deepest level read."""
        z, t = np.asarray(depth_mm, dtype=float), np.deg2rad(np.asarray(clock_deg, dtype=float))
        coefficients = np.asarray(self.columns(z))
        basis = np.vstack([np.ones_like(t)] + [f(2 * k * t) for k in (1, 2, 3) for f in (np.cos, np.sin)])
        grid: Array = coefficients @ basis
        grid[(z < self.depth_mm[0]) | (z > self.depth_mm[-1]), :] = np.nan
        return grid


def wall_surface(depth_mm: Sequence[float], fits: list[LevelFit]) -> WallSurface:
    """The surface through two or more fitted levels (depths growing, mm). Raises FitError with fewer. Methods 4."""
    if len(fits) < 2 or not all(a < b for a, b in pairwise(depth_mm)):
        raise FitError("The wall map needs two levels; read another one")
    from scipy.interpolate import PchipInterpolator  # here, not above: SciPy costs a second at start

    depths = np.array(depth_mm, dtype=float)
    rows = np.zeros((depths.size, 1 + 2 * MAX_HARMONIC))
    for i, fit in enumerate(fits):
        rows[i, 0] = fit.mean_mm
        rows[i, 1 : 1 + 2 * fit.harmonics_used : 2] = fit.cos_mm
        rows[i, 2 : 2 + 2 * fit.harmonics_used : 2] = fit.sin_mm
    return WallSurface(tuple(float(z) for z in depths), PchipInterpolator(depths, rows, axis=0, extrapolate=False))


@frozen
class SweptSurface:
    """The wall from sweeps, on radius about a straight axis; never beyond the depths swept."""

    depth_mm: tuple[float, ...]
    columns: Any  # PchipInterpolator over radius and harmonics by depth
    shift: Any  # the level's own centre off the axis, by depth

    def radius(self, depth_mm: ArrayLike, clock_deg: ArrayLike) -> Array:
        """Radii in mm about the axis, shape (m depths, n clocks); NaN outside the depths swept."""
        z, t = np.asarray(depth_mm, dtype=float), np.deg2rad(np.asarray(clock_deg, dtype=float))
        rows = np.asarray(self.columns(z))
        orders = (rows.shape[1] - 1) // 2 + 1
        basis = np.vstack([np.ones_like(t)] + [f(k * t) for k in range(2, orders + 1) for f in (np.cos, np.sin)])
        centre = np.asarray(self.shift(z)) @ np.vstack([np.cos(t), np.sin(t)])
        grid: Array = rows @ basis + centre  # the centre's offset is microns: e^2/(2R) is nothing here
        grid[(z < self.depth_mm[0]) | (z > self.depth_mm[-1]), :] = np.nan
        return grid


def swept_surface(depth_mm: Sequence[float], fits: list[SweepFit], axis: HoleAxis) -> SweptSurface:
    """The surface through two or more sweeps (depths growing, mm), about ``axis``. Raises FitError with fewer."""
    if len(fits) < 2 or not all(a < b for a, b in pairwise(depth_mm)):
        raise FitError("The swept wall needs two depths; sweep another one")
    from scipy.interpolate import PchipInterpolator  # here, not above: SciPy costs a second at start

    depths = np.array(depth_mm, dtype=float)
    orders = min(len(f.cos_mm) for f in fits)
    rows = np.zeros((depths.size, 1 + 2 * orders))
    for i, fit in enumerate(fits):
        rows[i, 0] = fit.least_squares.radius_mm
        rows[i, 1::2], rows[i, 2::2] = fit.cos_mm[:orders], fit.sin_mm[:orders]
    share = (depths - depths[0]) / (depths[-1] - depths[0])
    x = np.array([f.least_squares.x_mm for f in fits]) - (axis.top_x_mm + share * (axis.bottom_x_mm - axis.top_x_mm))
    y = np.array([f.least_squares.y_mm for f in fits]) - (axis.top_y_mm + share * (axis.bottom_y_mm - axis.top_y_mm))
    return SweptSurface(
        tuple(float(z) for z in depths),
        PchipInterpolator(depths, rows, axis=0, extrapolate=False),
        PchipInterpolator(depths, np.column_stack([x, y]), axis=0, extrapolate=False),
    )
