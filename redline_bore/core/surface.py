"""The wall as a surface, for drawing: Fourier in angle, monotone cubic in depth (methods 4). SciPy is used here."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

import numpy as np

from redline_bore.core.errors import FitError
from redline_bore.core.shape import MAX_HARMONIC, LevelFit

if TYPE_CHECKING:
    from numpy.typing import ArrayLike, NDArray

    Array = NDArray[np.float64]


@dataclass(frozen=True)
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


def wall_surface(depth_mm: ArrayLike, fits: list[LevelFit]) -> WallSurface:
    """The surface through two or more fitted levels (depths growing, mm). Raises FitError with fewer. Methods 4."""
    from scipy.interpolate import PchipInterpolator  # here, not above: SciPy costs a second at start

    depths = np.asarray(depth_mm, dtype=float)
    if depths.size < 2 or np.any(np.diff(depths) <= 0):
        raise FitError("The wall map needs two levels; read another one")
    rows = np.zeros((depths.size, 1 + 2 * MAX_HARMONIC))
    for i, fit in enumerate(fits):
        rows[i, 0] = fit.mean_mm
        rows[i, 1 : 1 + 2 * fit.harmonics_used : 2] = fit.cos_mm
        rows[i, 2 : 2 + 2 * fit.harmonics_used : 2] = fit.sin_mm
    return WallSurface(tuple(float(z) for z in depths), PchipInterpolator(depths, rows, axis=0, extrapolate=False))
