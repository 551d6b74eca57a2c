"""A trace made ready: levelled, its arc taken out where it has one, filtered (methods 14).

Heights in um, plus out of the metal; steps in um; the Gaussian filter of ISO 16610-21, its ends cut off and never padded.
"""

from __future__ import annotations

import math
from functools import lru_cache
from typing import TYPE_CHECKING

from redline_bore.core.errors import InputError
from redline_bore.core.frozen import frozen
from redline_bore.core.late import np

if TYPE_CHECKING:
    from numpy.typing import ArrayLike, NDArray

    Array = NDArray[np.float64]

CUTOFF_MM = 0.8
ALPHA = math.sqrt(math.log(2.0) / math.pi)  # ISO 16610-21, 4.2
EVALUATED_MM = 4.0  # five cutoffs
UNEVEN = 0.05  # a step may be off the mean step by so much of it
MOST_POINTS = 400_000
MOST_SPAN_UM, MOST_AWAY_UM = 2_000.0, 100_000.0
LEAST_STEP_UM, MOST_STEP_UM = 0.01, 10.0
ARC_SAG_UM, ARC_SHARE = 5.0, 4.0  # an arc: its sag over this, and so many times what is left without it


@frozen(often=True)
class Trace:
    """A trace as it came: heights in um at even steps, plus out of the metal."""

    __eq__, __hash__ = object.__eq__, object.__hash__  # rows of figures are not compared

    step_um: float
    heights_um: Array

    @property
    def length_mm(self) -> float:
        """Length of the trace, mm."""
        return (len(self.heights_um) - 1) * self.step_um / 1000.0


@frozen(often=True)
class Profile:
    """A trace levelled and filtered. All rows in um.

    primary: levelled. waviness: the mean line, over the points that one pass leaves (``cut_points`` fewer at each end).
    roughness: primary less waviness over the evaluated middle, which starts at point ``rough_from`` of the primary.
    family: the two-pass profile of ISO 13565-1 over its own middle, from ``family_from``; ``family_line`` is its
    reference line there. form_order 1: a straight line was taken out, 2: a parabola.
    """

    __eq__, __hash__ = object.__eq__, object.__hash__

    step_um: float
    primary: Array
    form_order: int
    waviness: Array
    cut_points: int
    roughness: Array
    rough_from: int
    family: Array
    family_from: int
    family_line: Array

    @property
    def family_short(self) -> bool:
        """The trace leaves the two-pass profile less than its whole evaluation length."""
        return len(self.family) < evaluated_points(self.step_um)


def trace_from(x_mm: ArrayLike, heights_um: ArrayLike) -> Trace:
    """A trace from places in mm and heights in um, both shape (n,).

    One that was recorded on the way back is turned round. Raises InputError with the reason: missing points, uneven steps or some that go
    back, too many points, too short.
    """
    x, z = np.asarray(x_mm, dtype=float), np.asarray(heights_um, dtype=float)
    if x.ndim != 1 or x.shape != z.shape or len(x) < 3:
        raise InputError("A trace is a row of places and as many heights; this is none")
    missing = int(np.count_nonzero(~(np.isfinite(x) & np.isfinite(z))))
    if missing:
        raise InputError(f"{missing} points are missing in this trace; nothing is filled in, trace it again")
    if x[-1] < x[0]:  # recorded on the way back
        x, z = x[::-1], z[::-1]
    steps = np.diff(x)
    step = float(x[-1] - x[0]) / (len(x) - 1)
    if step <= 0.0 or np.any(steps <= 0.0):
        raise InputError("The places of this trace do not grow from point to point")
    if np.any(np.abs(steps - step) > UNEVEN * step):
        raise InputError("The points of this trace are not evenly spaced; the filter would bend it")
    return even_trace(step * 1000.0, z)


def even_trace(step_um: float, heights_um: ArrayLike) -> Trace:
    """A trace of even steps in um; heights in um, shape (n,). Raises InputError when it cannot be evaluated."""
    z = np.asarray(heights_um, dtype=float)
    if z.ndim != 1 or not np.all(np.isfinite(z)):
        raise InputError("Points are missing in this trace; nothing is filled in, trace it again")
    if len(z) > MOST_POINTS:
        raise InputError(f"{len(z)} points are more than a trace has; up to {MOST_POINTS} are taken")
    if not LEAST_STEP_UM <= step_um <= MOST_STEP_UM:
        raise InputError(f"Points every {step_um:g} µm are no trace of a finish; look at the unit of its length")
    if float(np.ptp(z)) > MOST_SPAN_UM or float(np.abs(z).max(initial=0.0)) > MOST_AWAY_UM:
        raise InputError("Heights span more than 2 mm, or lie far from nought; look at their unit")
    left = len(z) - 2 * half_kernel(step_um)
    if left * step_um < EVALUATED_MM * 1000.0:
        whole = (len(z) - 1) * step_um / 1000.0
        raise InputError(
            f"The trace is too short: {whole:.1f} mm; {EVALUATED_MM + CUTOFF_MM:g} mm is the least, 5.6 is wanted"
        )
    return Trace(step_um, z)


def half_kernel(step_um: float, cutoff_mm: float = CUTOFF_MM) -> int:
    """Points on each side of the kernel: half a cutoff."""
    return int(math.floor(0.5 * cutoff_mm * 1000.0 / step_um + 1e-9))


def evaluated_points(step_um: float) -> int:
    """Points in the evaluation length."""
    return int(round(EVALUATED_MM * 1000.0 / step_um)) + 1


@lru_cache(maxsize=8)
def _kernel(step_um: float, cutoff_mm: float) -> Array:
    half = half_kernel(step_um, cutoff_mm)
    x = np.arange(-half, half + 1) * step_um / (ALPHA * cutoff_mm * 1000.0)
    weights = np.exp(-math.pi * x * x)  # ISO 16610-21, eq. 1
    found: Array = weights / weights.sum()
    found.setflags(write=False)
    return found


@lru_cache(maxsize=16)
def _kernel_spectrum(step_um: float, cutoff_mm: float, size: int) -> NDArray[np.complex128]:
    return np.fft.rfft(_kernel(step_um, cutoff_mm), size)


def mean_line(heights: Array, step_um: float, cutoff_mm: float = CUTOFF_MM) -> Array:
    """The Gaussian mean line in the heights' own unit, over the points whose whole kernel lies on them.

    Shape (n - 2 half,). The kernel ends at half a cutoff each side and sums to one (ISO 16610-21).
    """
    half = half_kernel(step_um, cutoff_mm)
    size = fast_length(len(heights))
    spectrum = np.fft.rfft(heights, size) * _kernel_spectrum(step_um, cutoff_mm, size)
    line: Array = np.fft.irfft(spectrum, size)[2 * half : len(heights)]
    return line


@lru_cache(maxsize=64)
def fast_length(count: int) -> int:
    """The next length from ``count`` up that is a product of 2, 3 and 5: the transform is quick there."""
    best = 1 << (count - 1).bit_length()
    for fives in range(8):
        for threes in range(12):
            odd = 5**fives * 3**threes
            if odd < best:
                twos = max(0, math.ceil(math.log2(count / odd)))
                best = min(best, odd << twos) if odd << twos >= count else best
    return best


def levelled(trace: Trace, form_order: int | None = None) -> tuple[Array, int]:
    """Heights less their least-squares line, or parabola (order 2), and the order.

    None: an arc is looked for, and taken out when the trace plainly has one (taken around the bore).
    """
    x = np.linspace(-1.0, 1.0, len(trace.heights_um))
    line = _poly(x, trace.heights_um, 1)
    if form_order == 1:
        return line, 1
    curved = _poly(x, trace.heights_um, 2)
    if form_order == 2:
        return curved, 2
    arc = line - curved
    plainly = float(np.ptp(arc)) > max(ARC_SAG_UM, ARC_SHARE * float(np.std(curved)))
    return (curved, 2) if plainly else (line, 1)


def _poly(x: Array, z: Array, order: int) -> Array:
    """z less its least-squares polynomial, by Legendre columns that are all but orthogonal on an even row."""
    columns = [np.ones_like(x), x] + ([1.5 * x * x - 0.5] if order == 2 else [])
    basis = np.array(columns)
    gram = basis @ basis.T
    found: Array = z - np.linalg.solve(gram, basis @ z) @ basis
    return found


def height_step(heights_um: ArrayLike) -> float:
    """The step in um in which heights come, where they come in coarse ones; else 0: hardly any two are alike, or they lie on no ladder.

    >>> height_step([0.0, 0.4, 0.8, 0.4] * 50)
    0.4
    """
    z = np.asarray(heights_um, dtype=float)
    rising = np.sort(np.round(z, 6))
    levels = np.append(rising[:1], rising[1:][np.diff(rising) > 0.0])  # NumPy's own unique brings its masked arrays in
    if len(levels) < 3 or len(levels) > len(z) / 10:
        return 0.0
    gaps = np.diff(levels)
    step = float(gaps.min())
    return step if np.allclose(gaps / step, np.round(gaps / step), atol=0.02) else 0.0


def spread(heights_um: ArrayLike, step_um: float) -> Array:
    """Coarse heights spread evenly over their step: flats of alike heights are the instrument's, and would be read as a core.

    The spread is the same for the same count: a trace is read alike every time.
    """
    z = np.asarray(heights_um, dtype=float)
    found: Array = z + step_um * np.random.default_rng(len(z)).uniform(-0.5, 0.5, len(z))
    return found


def profile_of(trace: Trace, form_order: int | None = None) -> Profile:
    """The trace levelled and filtered (ISO 16610-21; ISO 13565-1 for the family)."""
    primary, order = levelled(trace, form_order)
    step = trace.step_um
    half = half_kernel(step)
    waviness = mean_line(primary, step)
    first = primary[half : len(primary) - half] - waviness
    rough_from, rough = _middle(first, step)
    line = mean_line(np.maximum(primary[half : len(primary) - half], waviness), step)  # valleys suppressed
    inner = primary[2 * half : len(primary) - 2 * half] - line
    family_from, family = _middle(inner, step)
    return Profile(
        step, primary, order, waviness, half, rough, half + rough_from, family, 2 * half + family_from,
        line[family_from : family_from + len(family)],
    )  # fmt: skip


def _middle(row: Array, step_um: float) -> tuple[int, Array]:
    wanted = evaluated_points(step_um)
    start = max(0, (len(row) - wanted) // 2)
    return start, row[start : start + wanted]
