"""Circles and harmonics from a sweep: radius against clock angle about a spindle axis (methods 3; ISO 12181).

Radii and centres in mm, clock angles in degrees; x points to clock 0, y to clock 90. Distances are true ones from
each circle's own centre: a linear fit invents e^2/(2R). Roundness is on radius, never on diameter.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from functools import cached_property
from typing import TYPE_CHECKING

from redline_bore.core.errors import FitError
from redline_bore.core.field import field
from redline_bore.core.frozen import frozen
from redline_bore.core.late import np
from redline_bore.core.worked_out import worked_out

if TYPE_CHECKING:
    from numpy.typing import ArrayLike, NDArray

    Array = NDArray[np.float64]

LEAST_POINTS = 7
WIDEST_GAP_DEG = 120.0  # a sweep with a longer piece missing does not carry a circle
HIGHEST_ORDER = 15
STEPS = 30
SETTLED_MM = 1e-9
MAX_CONDITION = 100.0  # even angles give 1.4; beyond this the highest order is not told apart and is left out


@frozen
class Circle:
    """A circle about (x, y) from the spindle axis, mm."""

    x_mm: float
    y_mm: float
    radius_mm: float

    @property
    def diameter_mm(self) -> float:
        """Its diameter, mm."""
        return 2.0 * self.radius_mm


@frozen
class SweepFit:
    """What one sweep says. Roundness and harmonics on radius; ``cos_mm[k]`` belongs to order k + 2.

    ``clock_deg``, ``radius_mm``: the n points as they were swept. The minimum zone and the outer and inner circle are
    worked out when they are asked for: they cost a linear programme each.

    centre_sd_mm, order_sd_mm: standard deviation of the centre and of a harmonic's amplitude, from what the
    harmonics leave over; None when there are no points to spare.
    """

    least_squares: Circle
    roundness_ls_mm: float
    cos_mm: tuple[float, ...]
    sin_mm: tuple[float, ...]
    points: int
    centre_sd_mm: float | None
    order_sd_mm: float | None
    clock_deg: tuple[float, ...] = field(compare=False, repr=False)
    radius_mm: tuple[float, ...] = field(compare=False, repr=False)

    @cached_property
    def points_mm(self) -> tuple[Array, Array]:
        """The points (x, y), mm."""
        return points_of(self.clock_deg, self.radius_mm)

    @cached_property
    def _zone(self) -> tuple[float, float, float, float]:
        return zone(*self.points_mm, "zone", self.least_squares)

    @property
    def minimum_zone(self) -> Circle:
        """The circle in the middle of the narrowest ring that holds every point. Source: ISO 12181-1."""
        low, high, x, y = self._zone
        return Circle(x, y, (low + high) / 2.0)

    @property
    def roundness_mz_mm(self) -> float:
        """Width of that ring, on radius."""
        return self._zone[1] - self._zone[0]

    @cached_property
    def circumscribed(self) -> Circle:
        """The smallest circle round every point."""
        _, high, x, y = zone(*self.points_mm, "circumscribed", self.least_squares)
        return Circle(x, y, high)

    @cached_property
    def inscribed(self) -> Circle:
        """The largest circle inside every point: the plug that would go in."""
        low, _, x, y = zone(*self.points_mm, "inscribed", self.least_squares)
        return Circle(x, y, low)

    @property
    def amplitudes_mm(self) -> tuple[float, ...]:
        """Amplitude on radius of the orders 2, 3, 4 ..."""
        return tuple(math.hypot(a, b) for a, b in zip(self.cos_mm, self.sin_mm, strict=True))

    @property
    def point_sd_mm(self) -> float | None:
        """Standard deviation of a single point, from what the harmonics leave over."""
        return None if self.order_sd_mm is None else self.order_sd_mm * math.sqrt(self.points / 2.0)

    @property
    def roundness_sd_mm(self) -> float | None:
        """Standard deviation of a roundness: it hangs on two single points."""
        return None if self.point_sd_mm is None else math.sqrt(2.0) * self.point_sd_mm

    @property
    def largest_order(self) -> int:
        """The order, from 2, with the largest amplitude."""
        return 2 + max(range(len(self.cos_mm)), key=self.amplitudes_mm.__getitem__)

    def crest_deg(self, order: int) -> float:
        """First clock angle at which an order of the harmonics is largest."""
        angle = math.degrees(math.atan2(self.sin_mm[order - 2], self.cos_mm[order - 2])) / order
        return angle % (360.0 / order)

    @property
    def offset_mm(self) -> float:
        """From the spindle axis to the hole's centre."""
        return math.hypot(self.least_squares.x_mm, self.least_squares.y_mm)

    @property
    def offset_direction_deg(self) -> float:
        """Clock angle towards which the circle lies off the spindle, degrees."""
        return math.degrees(math.atan2(self.least_squares.y_mm, self.least_squares.x_mm)) % 360.0

    def radius_at(self, clock_deg: ArrayLike) -> Array:
        """Smoothed radius about the least-squares centre, mm, at clock angles in degrees; shape as given."""
        t = np.deg2rad(np.asarray(clock_deg, dtype=float))
        total = np.full(t.shape, self.least_squares.radius_mm)
        for k, (a, b) in enumerate(zip(self.cos_mm, self.sin_mm, strict=True), start=2):
            total = total + a * np.cos(k * t) + b * np.sin(k * t)
        return total


def points_of(clock_deg: ArrayLike, radius_mm: ArrayLike) -> tuple[Array, Array]:
    """Cartesian points (x, y), mm, from n clock angles and radii. Raises FitError when they carry no circle."""
    clocks, radii = np.asarray(clock_deg, dtype=float).ravel(), np.asarray(radius_mm, dtype=float).ravel()
    if clocks.size != radii.size or clocks.size < LEAST_POINTS:
        raise FitError(f"A sweep needs {LEAST_POINTS} points or more round the hole; sweep it again")
    if not (np.isfinite(clocks).all() and np.isfinite(radii).all()):
        raise FitError("A point of the sweep is not a number; sweep it again")
    gap = widest_gap(clocks)
    if gap > WIDEST_GAP_DEG:
        raise FitError(
            f"{gap:.0f}° of the hole were not swept: a circle on part of an arc is not sure. Sweep the whole turn"
        )
    t = np.deg2rad(clocks)
    return radii * np.cos(t), radii * np.sin(t)


def widest_gap(clock_deg: ArrayLike) -> float:
    """The longest stretch in degrees without a point."""
    folded = np.sort(np.mod(np.asarray(clock_deg, dtype=float), 360.0))
    return float(np.diff(np.append(folded, folded[0] + 360.0)).max())


def fit_sweep(clock_deg: Sequence[float], radius_mm: Sequence[float]) -> SweepFit:
    """All circles and harmonics of one sweep of n >= 7 points; angles need not be even.

    Harmonics are fitted about the least-squares centre, orders 2 to 15 or as many as (n - 1) // 2 allows. Raises
    FitError when a third of the turn is missing or points are not numbers. Source: methods 3; ISO 12181-1.
    """
    clocks, radii = tuple(map(float, clock_deg)), tuple(map(float, radius_mm))
    found = _fitted(clocks, radii)
    return SweepFit(
        Circle(found.x_mm, found.y_mm, found.mean_mm), found.roundness_mm, found.cos_mm, found.sin_mm, len(clocks),
        found.order_sd_mm, found.order_sd_mm, clocks, radii,
    )  # fmt: skip


@frozen
class _Fitted:
    """What is worked out of a sweep: its circle, roundness, harmonics, and the standard deviation of one of them."""

    x_mm: float
    y_mm: float
    mean_mm: float
    roundness_mm: float
    cos_mm: tuple[float, ...]
    sin_mm: tuple[float, ...]
    order_sd_mm: float | None


@worked_out(_Fitted)
def _fitted(clocks: tuple[float, ...], radii: tuple[float, ...]) -> _Fitted:
    x, y = points_of(clocks, radii)
    circle = least_squares_circle(x, y)
    away = np.hypot(x - circle.x_mm, y - circle.y_mm)
    cos, sin, left_sd = _harmonics(x, y, circle)
    sd = None if left_sd is None else left_sd * math.sqrt(2.0 / x.size)
    roundness = float(away.max() - away.min())
    return _Fitted(circle.x_mm, circle.y_mm, circle.radius_mm, roundness, tuple(cos.tolist()), tuple(sin.tolist()), sd)


def least_squares_circle(x: Array, y: Array) -> Circle:
    """The circle with the least sum of squared true distances; Gauss-Newton from the mean. ISO 12181-1."""
    cx, cy = float(x.mean()), float(y.mean())
    radius = 0.0
    for _ in range(STEPS):
        dx, dy = x - cx, y - cy
        away = np.hypot(dx, dy)
        design = np.column_stack([-dx / away, -dy / away, -np.ones_like(away)])
        radius = float(away.mean())
        step = np.linalg.lstsq(design, -(away - radius), rcond=None)[0]
        cx, cy, radius = cx + float(step[0]), cy + float(step[1]), radius + float(step[2])
        if np.abs(step).max() < SETTLED_MM:
            break
    return Circle(cx, cy, radius)


def _harmonics(x: Array, y: Array, circle: Circle) -> tuple[Array, Array, float | None]:
    """Cosines and sines of orders 2 and up about the centre, and the standard deviation of what is left over."""
    t = np.arctan2(y - circle.y_mm, x - circle.x_mm)
    away = np.hypot(x - circle.x_mm, y - circle.y_mm) - circle.radius_mm
    highest = min(HIGHEST_ORDER, (x.size - 1) // 2)
    while highest >= 2 and np.linalg.cond(_turn_design(t, highest)) > MAX_CONDITION:
        highest -= 1
    if highest < 2:
        raise FitError("The points of the sweep lie too unevenly to tell an oval; sweep it evenly round the turn")
    design = _turn_design(t, highest)
    found: Array = np.asarray(np.linalg.lstsq(design, away, rcond=None)[0], dtype=np.float64)
    spare = x.size - found.size
    left = away - design @ found
    return found[3::2], found[4::2], math.sqrt(float(left @ left) / spare) if spare > 0 else None


def _turn_design(t: Array, highest: int) -> Array:
    columns = [np.ones_like(t)] + [f(k * t) for k in range(1, highest + 1) for f in (np.cos, np.sin)]
    return np.column_stack(columns)


def zone(x: Array, y: Array, kind: str, start: Circle) -> tuple[float, float, float, float]:
    """Smallest and largest distance, and the centre, of the best circle pair: (low, high, x, y) in mm.

    kind: zone (least high - low), circumscribed (least high), inscribed (largest low). A linear programme over
    the points that matter, run again about the centre found, in true distances. Source: methods 3; ISO 12181-1.
    """
    basis_of = _circle_basis(x, y)
    found = exchange(basis_of, np.array([start.x_mm, start.y_mm]), kind)
    away = basis_of(found)[0]
    return float(away.min()), float(away.max()), float(found[0]), float(found[1])


def _circle_basis(x: Array, y: Array) -> Callable[[Array], tuple[Array, Array]]:
    def basis_of(at: Array) -> tuple[Array, Array]:
        dx, dy = x - at[0], y - at[1]
        away = np.hypot(dx, dy)
        return away, np.column_stack([-dx / away, -dy / away])

    return basis_of


def exchange(basis_of: Callable[[Array], tuple[Array, Array]], start: Array, kind: str) -> Array:
    """Minimise the zone of distances over parameters, by linear programmes on a growing set of points.

    basis_of(parameters) gives n true distances and their derivatives, shape (n, k). The set begins with the
    extreme points and takes in whatever sticks out, so that thousands of points cost little. Raises FitError when
    the programme has no answer.
    """
    at = np.array(start, dtype=float)
    away, slope = basis_of(at)
    best, best_at, reach = _objective(away, kind), at, 4.0
    scale = np.maximum(np.abs(slope).max(axis=0), 1e-12)  # tilts and shifts alike, for the solver
    for _ in range(STEPS):
        step, spread = _programme(away, slope / scale, kind, reach)
        at = best_at + step / scale
        away, slope = basis_of(at)
        now = _objective(away, kind)
        gained, reach = best - now, reach * (0.5 if now < best else 0.1)  # where many do as well, it must not wander
        if now < best:
            best, best_at = now, at
        else:
            away, slope = basis_of(best_at)
        if np.abs(step).max() < 1e-8 + 1e-6 * spread or (0.0 <= gained < 1e-9) or reach < 1e-6:
            break
    return best_at


def _objective(away: Array, kind: str) -> float:
    """What is made small: the width of the zone, the outer radius, or minus the inner one."""
    return float({"zone": np.ptp(away), "circumscribed": away.max(), "inscribed": -away.min()}[kind])


def _programme(away: Array, slope: Array, kind: str, reach: float) -> tuple[Array, float]:
    """One linear programme about the present parameters: the step, and the width of the zone found, mm.

    reach: how far a step may go, in spreads of the distances.
    """
    unit = max(float(np.ptp(away)), 1e-6)  # the solver's tolerance is absolute: it works in shares of the spread
    rest, active = (away - away.mean()) / unit, _extremes(away, 2 * slope.shape[1] + 4)
    wanted = {"zone": (-1.0, 1.0), "circumscribed": (0.0, 1.0), "inscribed": (-1.0, 0.0)}[kind]
    while True:
        step, low, high = _solve(rest[active], slope[active], wanted, reach)
        moved = rest + slope @ step
        below, above = low - moved if wanted[0] else -moved - np.inf, moved - high if wanted[1] else moved - np.inf
        out = np.maximum(below, above)
        worst = np.argsort(-out)[:12]
        new = np.setdiff1d(worst[out[worst] > 1e-7], active)
        if new.size == 0:
            return step * unit, float(np.ptp(moved)) * unit
        active = np.concatenate([active, new])


def _extremes(away: Array, count: int) -> NDArray[np.int64]:
    order = np.argsort(away)
    spread = np.linspace(0, away.size - 1, min(away.size, 12)).astype(np.int64)
    return np.unique(np.concatenate([order[:count], order[-count:], spread]))


def _solve(away: Array, slope: Array, wanted: tuple[float, float], reach: float) -> tuple[Array, float, float]:
    from scipy.optimize import linprog  # here, not above: SciPy costs a second at start

    count, rows, limits = slope.shape[1], [], []
    if wanted[0]:  # low <= away + slope step
        rows.append(np.column_stack([-slope, np.ones(away.size), np.zeros(away.size)]))
        limits.append(away)
    if wanted[1]:  # away + slope step <= high
        rows.append(np.column_stack([slope, np.zeros(away.size), -np.ones(away.size)]))
        limits.append(-away)
    cost = np.concatenate([np.zeros(count), wanted])
    bounds = [(-reach, reach)] * count + [(None, None) if w else (0.0, 0.0) for w in wanted]
    found = linprog(cost, A_ub=np.vstack(rows), b_ub=np.concatenate(limits), bounds=bounds, method="highs")
    if not found.success:
        raise FitError("The sweep does not carry a zone; sweep it again")
    return found.x[:count], float(found.x[count]), float(found.x[count + 1])


def what_gauges_see(
    clock_deg: ArrayLike, mean_diameter_mm: float, orders: ArrayLike, amplitude_mm: ArrayLike, crest_deg: ArrayLike
) -> tuple[Array, Array]:
    """Diameters that a two-point and a three-point gauge (legs 120 degrees apart) read at n clock angles.

    The hole: r(t) = mean / 2 + sum of amplitude cos(k (t - crest)), mm on radius. Two points see even orders only,
    three points see multiples of three only. Source: methods 3.
    """
    t = np.deg2rad(np.asarray(clock_deg, dtype=float))
    two, three = np.full(t.shape, float(mean_diameter_mm)), np.full(t.shape, float(mean_diameter_mm))
    for k, size, crest in zip(np.ravel(orders), np.ravel(amplitude_mm), np.ravel(crest_deg), strict=True):
        lobe = 2.0 * size * np.cos(k * (t - math.radians(crest)))
        two = two + (lobe if k % 2 == 0 else 0.0)
        three = three + (lobe if k % 3 == 0 else 0.0)
    return two, three


def round_limits(
    mean_diameter_mm: float, orders: ArrayLike, amplitude_mm: ArrayLike, crest_deg: ArrayLike
) -> tuple[float, float]:
    """(smallest circle around the wall, largest plug that goes in), diameters in mm, of a hole given by harmonics."""
    clocks = np.arange(0.0, 360.0, 1.0)
    t, radius = np.deg2rad(clocks), np.full(clocks.shape, mean_diameter_mm / 2.0)
    for k, size, crest in zip(np.ravel(orders), np.ravel(amplitude_mm), np.ravel(crest_deg), strict=True):
        radius = radius + size * np.cos(k * (t - math.radians(crest)))
    fit = fit_sweep(clocks.tolist(), radius.tolist())
    return fit.circumscribed.diameter_mm, fit.inscribed.diameter_mm
