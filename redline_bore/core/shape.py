"""Shape of a hole from two-point diameters: at one level and along the axis (methods 3, 4).

Clock angles in degrees, depths and diameters in mm. A two-point reading is a diameter: its chord repeats every
180 degrees and carries the even harmonics of the radius only; three and five lobes are invisible to it.
"""

from __future__ import annotations

import math
from functools import lru_cache
from typing import TYPE_CHECKING, Any, NamedTuple

import numpy as np

from redline_bore.core.block import RingTravel
from redline_bore.core.errors import FitError
from redline_bore.core.frozen import frozen

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


def distinct_chords(clock_deg: ArrayLike) -> int:
    """How many different chords a set of clock angles in degrees holds (modulo 180, one degree apart counts)."""
    folded = np.sort(np.mod(np.asarray(clock_deg, dtype=float), 180.0))
    if folded.size == 0:
        return 0
    gaps = np.diff(np.append(folded, folded[0] + 180.0))
    return max(1, int(np.count_nonzero(gaps > SAME_CHORD_DEG)))


def _design(clock_deg: Array, harmonics: int) -> Array:
    t = np.deg2rad(clock_deg)
    columns = [np.ones_like(t)]
    for k in range(1, harmonics + 1):
        columns += [np.cos(2 * k * t), np.sin(2 * k * t)]
    return np.column_stack(columns)


_ROUND = _design(np.arange(0.0, 180.0, 0.25), MAX_HARMONIC)  # the whole curve, for its largest and smallest


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


def fit_level(clock_deg: ArrayLike, diameter_mm: ArrayLike) -> LevelFit:
    """Fit the even harmonics to two-point diameters of one level by least squares; angles need not be even.

    clock_deg, diameter_mm: same length n >= 1, degrees and mm. As many harmonics as 2K+1 <= distinct chords
    allows, K <= 3, fewer where the angles lie too close together to tell them apart (condition number over 30).
    Raises FitError without readings or with a figure that is not a number. Source: methods 3.

    >>> level = fit_level([0.0, 45.0, 90.0, 135.0], [92.02, 92.06, 92.10, 92.06])
    >>> round(level.mean_mm, 3), round(level.long_axis_deg)
    (92.06, 90)
    """
    clocks, sizes = np.asarray(clock_deg, dtype=float).ravel(), np.asarray(diameter_mm, dtype=float).ravel()
    if sizes.size == 0 or sizes.size != clocks.size:
        raise FitError("There is no reading at this level yet; take one")
    if not (np.isfinite(sizes).all() and np.isfinite(clocks).all()):
        raise FitError("One of the readings at this level is not a number; strike it and read again")
    solver, centre = _solver(tuple(clocks.tolist())), float(sizes.mean())
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
    curve = _ROUND[:, : found.size] @ found
    axis = math.degrees(math.atan2(b, a)) / 2.0 % 180.0
    return 2.0 * math.hypot(a, b), float(curve.max() - curve.min()), axis


def _inside(depths: Array, travel: RingTravel) -> NDArray[np.bool_]:
    """Levels inside ring travel; one on an end counts as inside (to a nanometre, or rounding would decide)."""
    return np.asarray((depths >= travel.top_mm - 1e-6) & (depths <= travel.bottom_mm + 1e-6))


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


def axial_shape(depth_mm: ArrayLike, level_mean_mm: ArrayLike, travel: RingTravel, limits: AxialLimits) -> AxialShape:
    """Taper, line, bulge and class from level means (n depths growing, n means, mm) inside ring travel.

    Raises FitError with fewer than two levels inside ring travel. Source: methods 4.
    """
    depths, means = np.asarray(depth_mm, dtype=float), np.asarray(level_mean_mm, dtype=float)
    inside = _inside(depths, travel)
    z, d = depths[inside], means[inside]
    if z.size < 2:
        raise FitError("Taper needs two levels inside ring travel; read one near the top and one near the bottom")
    order = np.argsort(z)
    z, d = z[order], d[order]
    slope = float(np.polyfit(z - z.mean(), d - d.mean(), 1)[0])
    taper, bulge = float(d[0] - d[-1]), None
    if z.size >= 3:
        bulge = bulge_of(z, d)
    return AxialShape(taper, -slope * travel.length_mm, bulge, _class_of(z, d, taper, bulge, limits))


def bulge_of(z: Array, d: Array) -> float:
    """Middle less the mean of the ends of the least-squares parabola over n >= 3 levels; linear in ``d``, mm."""
    u = (z - z.mean()) / (z[-1] - z[0])
    curve = np.polyfit(u, d - d.mean(), 2)
    ends = np.polyval(curve, [u[0], u[-1]]).mean()
    return float(np.polyval(curve, (u[0] + u[-1]) / 2) - ends)


def _flare(z: Array, d: Array, end: int) -> float:
    """By how much an end level opens off the straight line through the rest, mm on diameter."""
    rest = np.delete(np.arange(z.size), end)
    line = np.polyfit(z[rest], d[rest] - d.mean(), 1)
    return float(d[end] - d.mean() - np.polyval(line, z[end]))


def _class_of(z: Array, d: Array, taper: float, bulge: float | None, limits: AxialLimits) -> str:
    if z.size >= 4:
        top, bottom = (_flare(z, d, end) > limits.bell_mm for end in (0, z.size - 1))
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


class Unworn(NamedTuple):
    """The unworn diameter, mm, and where it was read."""

    mean_mm: float
    where: str


def unworn_reference(depth_mm: ArrayLike, level_mean_mm: ArrayLike, travel: RingTravel) -> Unworn | None:
    """The smallest mean diameter (mm) outside ring travel, below it first, and which; None when none was read."""
    depths, means = np.asarray(depth_mm, dtype=float), np.asarray(level_mean_mm, dtype=float)
    for outside, where in ((depths > travel.bottom_mm + 1e-6, "below"), (depths < travel.top_mm - 1e-6, "above")):
        if outside.any():
            return Unworn(float(means[outside].min()), where)
    return None


def wear_and_ridge(
    depth_mm: ArrayLike, level_mean_mm: ArrayLike, level_largest_mm: ArrayLike, travel: RingTravel
) -> Wear:
    """Wear and ridge from n levels: depths growing, mean and largest diameter of each, mm.

    Raises FitError when nothing was read outside ring travel, or nothing inside. Source: methods 4.
    """
    depths, means = np.asarray(depth_mm, dtype=float), np.asarray(level_mean_mm, dtype=float)
    reference = unworn_reference(depths, means, travel)
    inside = _inside(depths, travel)
    if reference is None:
        raise FitError("Wear needs an unworn place: read the bottom of the hole, below ring travel")
    if not inside.any():
        raise FitError("Wear needs a level inside ring travel; read just under the ridge")
    above = depths < travel.top_mm - 1e-6
    ridge = float(means[inside][0] - means[above][-1]) if above.any() else None
    largest = np.asarray(level_largest_mm, dtype=float)[inside].max() - reference[0]
    return Wear(*reference, float(means[inside].max() - reference[0]), float(largest), ridge)
