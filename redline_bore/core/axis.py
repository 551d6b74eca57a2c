"""The axis of a hole from sweeps at several depths off one spindle axis (methods 4; ISO 12180).

Lengths in mm; x points to clock 0, y to clock 90, depth grows down from the deck. Cylindricity is on radius.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from typing import TYPE_CHECKING

from redline_bore.core.errors import FitError
from redline_bore.core.frozen import frozen
from redline_bore.core.late import np
from redline_bore.core.sweep import SETTLED_MM, STEPS, exchange, points_of

if TYPE_CHECKING:
    from numpy.typing import ArrayLike, NDArray

    Array = NDArray[np.float64]


@frozen
class HoleAxis:
    """Where a hole's axis lies off the spindle axis, at the shallowest and the deepest level swept, mm."""

    top_x_mm: float
    top_y_mm: float
    bottom_x_mm: float
    bottom_y_mm: float

    @property
    def drift_mm(self) -> float:
        """By how much the axis moves aside from the shallowest to the deepest level."""
        return math.hypot(self.bottom_x_mm - self.top_x_mm, self.bottom_y_mm - self.top_y_mm)

    @property
    def drift_direction_deg(self) -> float:
        """The clock angle that the bottom of the hole leans to."""
        return math.degrees(math.atan2(self.bottom_y_mm - self.top_y_mm, self.bottom_x_mm - self.top_x_mm)) % 360.0


@frozen
class CylinderFit:
    """Least-squares and minimum-zone cylinder, and the axis of the largest straight plug that goes in.

    Wear leaves that one alone. ``drift_sd_mm`` is the standard deviation of the least-squares axis's drift.
    """

    diameter_mm: float
    axis: HoleAxis
    cylindricity_ls_mm: float
    zone_axis: HoleAxis
    cylindricity_mz_mm: float
    plug_axis: HoleAxis
    plug_diameter_mm: float
    length_mm: float
    drift_sd_mm: float

    @property
    def tilt_deg(self) -> float:
        """How far the axis leans, degrees."""
        return math.degrees(math.atan2(self.axis.drift_mm, self.length_mm))


def fit_cylinder(depth_mm: ArrayLike, clock_deg: Sequence[ArrayLike], radius_mm: Sequence[ArrayLike]) -> CylinderFit:
    """The cylinder through sweeps at m >= 2 depths; one row of clocks and radii each, taken off one spindle axis.

    Distances are true ones from the axis, square to it. Raises FitError with one depth only, or with sweeps that
    carry no circle. Source: methods 4; ISO 12180-1.
    """
    depths = np.asarray(depth_mm, dtype=float)
    if depths.size < 2 or np.ptp(depths) <= 0.0:
        raise FitError("An axis needs sweeps at two depths or more, without moving the spindle; sweep another depth")
    rows = [points_of(c, r) for c, r in zip(clock_deg, radius_mm, strict=True)]
    x, y = np.concatenate([r[0] for r in rows]), np.concatenate([r[1] for r in rows])
    z = np.concatenate([np.full(r[0].size, d) for r, d in zip(rows, depths, strict=True)])
    middle, half = float((depths.max() + depths.min()) / 2.0), float(np.ptp(depths) / 2.0)
    basis_of = _cylinder_basis(x, y, (z - middle) / half, half)
    found, radius, drift_sd = _least_squares(basis_of, np.array([x.mean(), y.mean(), 0.0, 0.0]))
    away = basis_of(found)[0]
    zone = exchange(basis_of, found, "zone")
    zone_away = basis_of(zone)[0]
    plug = exchange(basis_of, found, "inscribed")
    return CylinderFit(
        2.0 * radius,
        _axis(found),
        float(np.ptp(away)),
        _axis(zone),
        float(np.ptp(zone_away)),
        _axis(plug),
        2.0 * float(basis_of(plug)[0].min()),
        2.0 * half,
        drift_sd,
    )


def _axis(found: Array) -> HoleAxis:
    """Parameters are the centre in the middle, and half the drift from top to bottom."""
    x, y, p, q = (float(v) for v in found)
    return HoleAxis(x - p, y - q, x + p, y + q)


def _cylinder_basis(x: Array, y: Array, u: Array, half_mm: float) -> Callable[[Array], tuple[Array, Array]]:
    """Distances square to the axis and their derivatives; u is depth from -1 (top) to 1 (bottom)."""

    def basis_of(at: Array) -> tuple[Array, Array]:
        dx, dy = x - at[0] - at[2] * u, y - at[1] - at[3] * u
        p, q = at[2] / half_mm, at[3] / half_mm  # slopes of the axis
        along = dx * p + dy * q  # the part of the offset that lies along the axis, to first order in the slope
        away = np.sqrt(dx**2 + dy**2 - along**2 / (1.0 + p**2 + q**2))
        slope = np.column_stack([-dx / away, -dy / away, -dx * u / away, -dy * u / away])
        return away, slope

    return basis_of


def _least_squares(basis_of: Callable[[Array], tuple[Array, Array]], start: Array) -> tuple[Array, float, float]:
    at, radius, inverse = start, 0.0, np.eye(5)
    for _ in range(STEPS):
        away, slope = basis_of(at)
        radius = float(away.mean())
        design = np.column_stack([slope, -np.ones(away.size)])
        step = np.linalg.lstsq(design, -(away - radius), rcond=None)[0]
        at, radius = at + step[:4], radius + float(step[4])
        inverse = design.T @ design
        if np.abs(step).max() < SETTLED_MM:
            break
    left = basis_of(at)[0] - radius
    spread = float(left @ left) / max(left.size - 5, 1)
    cover = np.linalg.inv(inverse) * spread
    return at, radius, 2.0 * math.sqrt(float(cover[2, 2] + cover[3, 3]) / 2.0)
