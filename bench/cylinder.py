"""The minimum-zone cylinder on 360 x 20 sweep points, and its floor: one least-squares solution of that size."""

import numpy as np

from redline_bore.core.axis import fit_cylinder

CLOCKS, DEPTHS = np.arange(360.0), np.linspace(10.0, 200.0, 20)
_T = np.deg2rad(CLOCKS)
_CHANCE = np.random.default_rng(1)
RADII = [
    52.5 + 0.004 * k * np.cos(_T) + 0.02 * np.maximum(np.sin(_T), 0.0) ** 2 + 0.005 * np.cos(3 * _T)
    + _CHANCE.normal(0.0, 0.001, 360)
    for k in range(20)
]  # fmt: skip
_DESIGN = np.column_stack([np.tile(f(_T), 20) for f in (np.cos, np.sin)] + [np.repeat(DEPTHS, 360), np.ones(7200)])


def whole() -> None:
    """Least squares, minimum zone and plug."""
    assert fit_cylinder(DEPTHS, [CLOCKS] * 20, RADII).cylindricity_mz_mm > 0.0


def floor() -> None:
    """One linear least-squares solution of 7200 points."""
    np.linalg.lstsq(_DESIGN, np.concatenate(RADII), rcond=None)
