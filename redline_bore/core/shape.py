"""Shape of a hole from two-point diameters: at one level and along the axis (methods 3, 4).

Clock angles in degrees, depths and diameters in mm. A two-point reading is a diameter: its chord repeats every
180 degrees and carries the even harmonics of the radius only; three and five lobes are invisible to it.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from functools import lru_cache
from itertools import pairwise
from typing import TYPE_CHECKING, Any

from redline_bore.core.block import RingTravel
from redline_bore.core.errors import FitError
from redline_bore.core.frozen import frozen
from redline_bore.core.late import np
from redline_bore.core.line import line_through
from redline_bore.core.worked_out import worked_out

if TYPE_CHECKING:
    from numpy.typing import ArrayLike, NDArray

    Array = NDArray[np.float64]


SAME_CHORD_DEG = 1.0  # chords nearer than this count as one
MAX_HARMONIC = 3
MAX_CONDITION = 30.0  # evenly spread chords give 1.4; beyond this the readings do not carry the harmonic


@frozen(often=True)
class LevelFit:
    """``d(t) = mean + sum_k cos_mm[k-1] cos 2kt + sin_mm[k-1] sin 2kt``, diameters in mm.

    Out-of-round is on diameter, three kinds under their own names: raw (largest less smallest reading), of the
    second harmonic of the radius, of the whole fitted curve. None: the readings do not carry it.
    """

    mean_mm: float
    cos_mm: tuple[float, ...]
    sin_mm: tuple[float, ...]
    distinct_chords: int
    out_of_round_raw_mm: float
    out_of_round_second_harmonic_mm: float | None
    out_of_round_whole_fit_mm: float | None
    long_axis_deg: float | None
    residual_sd_mm: float | None  # None when there are no readings to spare

    @property
    def harmonics_used(self) -> int:
        """How many harmonics the readings carried."""
        return len(self.cos_mm)

    @property
    def oval_may_hide(self) -> bool:
        """True where an oval between the chords would not have been seen."""
        return self.harmonics_used == 0

    def diameter_at(self, clock_deg: ArrayLike) -> Array:
        """Fitted diameter in mm at clock angles in degrees; same shape as the input."""
        t = np.deg2rad(np.asarray(clock_deg, dtype=float))
        total = np.full(t.shape, self.mean_mm)
        for k, (a, b) in enumerate(zip(self.cos_mm, self.sin_mm, strict=True), start=1):
            total = total + a * np.cos(2 * k * t) + b * np.sin(2 * k * t)
        return total

    def sizes_at(self, clock_deg: Sequence[float]) -> list[float]:
        """``diameter_at`` of a few clock angles, degrees, without an array; mm."""
        found = []
        for clock in clock_deg:
            t, size = math.radians(clock), self.mean_mm
            for k, (a, b) in enumerate(zip(self.cos_mm, self.sin_mm, strict=True), start=1):
                size += a * math.cos(2 * k * t) + b * math.sin(2 * k * t)
            found.append(size)
        return found


def distinct_chords(clock_deg: Sequence[float]) -> int:
    """How many different chords a set of clock angles in degrees holds (modulo 180, one degree apart counts)."""
    folded = sorted(float(clock) % 180.0 for clock in clock_deg)
    if not folded:
        return 0
    return max(1, sum(b - a > SAME_CHORD_DEG for a, b in pairwise([*folded, folded[0] + 180.0])))


def _design(clock_deg: Array, harmonics: int) -> Array:
    t = np.deg2rad(clock_deg)
    columns = [np.ones_like(t)]
    for k in range(1, harmonics + 1):
        columns += [np.cos(2 * k * t), np.sin(2 * k * t)]
    return np.column_stack(columns)


@lru_cache(maxsize=1)
def _round() -> Array:
    """The whole curve, for its largest and smallest."""
    return _design(np.arange(0.0, 180.0, 0.25), MAX_HARMONIC)


@frozen
class _Solver:
    """Least squares for one set of clock angles: the same plan is read at every level of every cylinder."""

    chords: int
    harmonics: int
    design: Any
    inverse: Any


@lru_cache(maxsize=64)
def _solver(clocks: tuple[float, ...]) -> _Solver:
    angles, chords = np.array(clocks), distinct_chords(clocks)
    harmonics = min(MAX_HARMONIC, (chords - 1) // 2)
    while harmonics > 0 and np.linalg.cond(_design(angles, harmonics)) > MAX_CONDITION:
        harmonics -= 1
    design = _design(angles, harmonics)
    return _Solver(chords, harmonics, design, np.linalg.pinv(design))


def fit_level(clock_deg: Sequence[float], diameter_mm: Sequence[float]) -> LevelFit:
    """Fit the even harmonics to two-point diameters of one level by least squares; angles need not be even.

    clock_deg, diameter_mm: same length n >= 1, degrees and mm. As many harmonics as 2K+1 <= distinct chords
    allows, K <= 3, fewer where the angles lie too close together to tell them apart (condition number over 30).
    Raises FitError without readings or with a figure that is not a number. Source: methods 3.

    >>> level = fit_level([0.0, 45.0, 90.0, 135.0], [92.02, 92.06, 92.10, 92.06])
    >>> round(level.mean_mm, 3), round(level.long_axis_deg)
    (92.06, 90)
    """
    clocks, diameters = tuple(map(float, clock_deg)), tuple(map(float, diameter_mm))
    if not diameters or len(diameters) != len(clocks):
        raise FitError("There is no reading at this level yet; take one")
    if not (all(map(math.isfinite, diameters)) and all(map(math.isfinite, clocks))):
        raise FitError("One of the readings at this level is not a number; strike it and read again")
    return _fitted(clocks, diameters)


@worked_out(LevelFit)
def _fitted(clocks: tuple[float, ...], diameters: tuple[float, ...]) -> LevelFit:
    sizes = np.array(diameters)
    solver, centre = _solver(clocks), float(sizes.mean())
    about = sizes - centre  # about the mean, so that nothing is lost to rounding
    found = solver.inverse @ about
    residual, spare = about - solver.design @ found, sizes.size - found.size
    second, whole, axis = _oval(found) if solver.harmonics else (None, None, None)
    return LevelFit(
        mean_mm=centre + float(found[0]),
        cos_mm=tuple(found[1::2].tolist()),
        sin_mm=tuple(found[2::2].tolist()),
        distinct_chords=solver.chords,
        out_of_round_raw_mm=float(sizes.max() - sizes.min()),
        out_of_round_second_harmonic_mm=second,
        out_of_round_whole_fit_mm=whole,
        long_axis_deg=axis,
        residual_sd_mm=float(np.sqrt(residual @ residual / spare)) if spare > 0 else None,
    )


def level_inverse(clock_deg: ArrayLike) -> Array:
    """The matrix that takes n diameters to (mean, a1, b1, ...) as fit_level does, shape (1 + 2K, n)."""
    found: Array = _solver(tuple(np.asarray(clock_deg, dtype=float).ravel().tolist())).inverse
    return found


def _oval(found: Array) -> tuple[float, float, float]:
    """Out-of-round of the second harmonic and of the whole curve (mm on diameter), and the long axis (degrees)."""
    a, b = float(found[1]), float(found[2])
    curve = _round()[:, : found.size] @ found
    axis = math.degrees(math.atan2(b, a)) / 2.0 % 180.0
    return 2.0 * math.hypot(a, b), float(curve.max() - curve.min()), axis


def _inside(depth_mm: float, travel: RingTravel) -> bool:
    """A level inside ring travel; one on an end counts as inside (to a nanometre, or rounding would decide)."""
    return travel.top_mm - 1e-6 <= depth_mm <= travel.bottom_mm + 1e-6


@frozen
class AxialLimits:
    """What still counts as straight: mm on diameter."""

    taper_mm: float
    bulge_mm: float
    bell_mm: float


@frozen
class AxialShape:
    """Shape along the axis inside ring travel. Taper is top minus bottom; bulge plus is a barrel. On diameter, mm."""

    taper_mm: float
    line_taper_mm: float
    bulge_mm: float | None  # None with fewer than three levels
    shape_class: str


def axial_shape(
    depth_mm: Sequence[float], level_mean_mm: Sequence[float], travel: RingTravel, limits: AxialLimits
) -> AxialShape:
    """Taper, line, bulge and class from level means (n depths growing, n means, mm) inside ring travel.

    Raises FitError with fewer than two levels inside ring travel. Source: methods 4.
    """
    levels = sorted(
        (float(z), float(d)) for z, d in zip(depth_mm, level_mean_mm, strict=True) if _inside(float(z), travel)
    )
    if len(levels) < 2:
        raise FitError("Taper needs two levels inside ring travel; read one near the top and one near the bottom")
    z, d = [level[0] for level in levels], [level[1] for level in levels]
    taper, bulge = d[0] - d[-1], None
    if len(z) >= 3:
        bulge = bulge_of(z, d)
    return AxialShape(taper, -line_through(z, d).slope * travel.length_mm, bulge, _class_of(z, d, taper, bulge, limits))


def bulge_of(z: Sequence[float], d: Sequence[float]) -> float:
    """Middle less the mean of the ends of the least-squares parabola over n >= 3 levels; linear in ``d``, mm."""
    middle, mean = math.fsum(z) / len(z), math.fsum(d) / len(d)
    u = [(a - middle) / (z[-1] - z[0]) for a in z]
    # The part of u^2 that neither a constant nor a line has: what is left of d on it is the curvature, and over a span of 1 the ends of a
    # parabola lie a quarter of it above its middle, whatever the line.
    square, lean = math.fsum(a * a for a in u) / len(u), math.fsum(a**3 for a in u) / math.fsum(a * a for a in u)
    own = [a * a - square - lean * a for a in u]
    weight = math.fsum(a * a for a in own)
    if weight < 1e-18:  # all at two depths: no curve is carried
        return 0.0
    return float(-0.25 * math.fsum(a * (b - mean) for a, b in zip(own, d, strict=True)) / weight)


def _flare(z: list[float], d: list[float], end: int) -> float:
    """By how much an end level opens off the straight line through the rest, mm on diameter."""
    return d[end] - line_through(z[:end] + z[end + 1 :], d[:end] + d[end + 1 :]).at(z[end])


def _class_of(z: list[float], d: list[float], taper: float, bulge: float | None, limits: AxialLimits) -> str:
    if len(z) >= 4:
        top, bottom = (_flare(z, d, end) > limits.bell_mm for end in (0, len(z) - 1))
        if top != bottom:
            return "bell-mouthed top" if top else "bell-mouthed bottom"
    if bulge is not None and abs(bulge) > limits.bulge_mm and abs(bulge) >= 0.5 * abs(taper):
        return "barrel" if bulge > 0 else "hourglass"
    if abs(taper) > limits.taper_mm:
        return "top-open" if taper > 0 else "bottom-open"
    return "straight"


def oval_turn(top_deg: float, bottom_deg: float) -> float:
    """By how much a long axis turns between two levels, 0 to 90 degrees (a long axis repeats every 180)."""
    apart = abs(top_deg - bottom_deg) % 180.0
    return min(apart, 180.0 - apart)


@frozen
class Wear:
    """Wear against the unworn reference, on diameter, mm. ``reference_from`` is below or above ring travel."""

    reference_mm: float
    reference_from: str
    largest_level_mean_mm: float
    largest_reading_mm: float
    ridge_mm: float | None  # None with no level above ring travel


@frozen
class Unworn:
    """The unworn diameter, mm, and where it was read."""

    mean_mm: float
    where: str


def unworn_reference(depth_mm: Sequence[float], level_mean_mm: Sequence[float], travel: RingTravel) -> Unworn | None:
    """The smallest mean diameter (mm) outside ring travel, below it first, and which; None when none was read."""
    levels = list(zip(map(float, depth_mm), map(float, level_mean_mm), strict=True))
    if below := [mean for depth, mean in levels if depth > travel.bottom_mm + 1e-6]:
        return Unworn(min(below), "below")
    if above := [mean for depth, mean in levels if depth < travel.top_mm - 1e-6]:
        return Unworn(min(above), "above")
    return None


def wear_and_ridge(
    depth_mm: Sequence[float], level_mean_mm: Sequence[float], level_largest_mm: Sequence[float], travel: RingTravel
) -> Wear:
    """Wear and ridge from n levels: depths growing, mean and largest diameter of each, mm.

    Raises FitError when nothing was read outside ring travel, or nothing inside. Source: methods 4.
    """
    levels = list(zip(map(float, depth_mm), map(float, level_mean_mm), map(float, level_largest_mm), strict=True))
    reference = unworn_reference(depth_mm, level_mean_mm, travel)
    inside = [level for level in levels if _inside(level[0], travel)]
    if reference is None:
        raise FitError("Wear needs an unworn place: read the bottom of the hole, below ring travel")
    if not inside:
        raise FitError("Wear needs a level inside ring travel; read just under the ridge")
    above = [mean for depth, mean, _largest in levels if depth < travel.top_mm - 1e-6]
    ridge = inside[0][1] - above[-1] if above else None
    worst_mean, worst = max(level[1] for level in inside), max(level[2] for level in inside)
    return Wear(reference.mean_mm, reference.where, worst_mean - reference.mean_mm, worst - reference.mean_mm, ridge)
