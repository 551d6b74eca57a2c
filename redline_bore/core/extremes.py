"""What is a largest or a smallest of many noisy readings, freed of what the noise adds (methods 3).

The largest of many readings is too large even where nothing is there: a round hole gauged at thirty places "is" out of
round. So a figure of this kind is told as an interval, by inverting the distribution of what was seen.
"""

from __future__ import annotations

import math
from array import array
from collections.abc import Callable, Sequence
from functools import lru_cache
from itertools import pairwise

from redline_bore.core.errors import FitError
from redline_bore.core.frozen import frozen
from redline_bore.core.late import np
from redline_bore.core.worked_out import worked_out

OVAL_LOW, OVAL_HIGH = 0.963, 0.010  # of the distribution of what was seen
SIZE_LOW, SIZE_HIGH = 0.963, 0.012
WEAR_LOW_Z = ((2.0, 2.78), (4.0, 3.12), (7.0, 3.38))  # worn levels, and how far under the largest of their means
WEAR_HIGH_Z = 2.66
STEP = 0.02  # of the tables below, in doubts of a level
FAR = 60.0  # of a level's own doubt: beyond it the noise is the same


@frozen
class Extreme:
    """Where a largest, a smallest or an out-of-round truly lies, in about 95 of 100 cases, mm. ``low_mm`` 0 of an
    out-of-round or a wear: it cannot be told from none, so what is known is "under ``high_mm``"."""

    low_mm: float
    high_mm: float

    @property
    def middle_mm(self) -> float:
        """Halfway between both ends."""
        return (self.low_mm + self.high_mm) / 2.0

    @property
    def half_mm(self) -> float:
        """Half of what lies between, the ± of the middle."""
        return (self.high_mm - self.low_mm) / 2.0


def oval_between(amplitudes_mm: Sequence[float], chords: Sequence[int], sd_mm: float) -> Extreme:
    """The out-of-round (second harmonic, on diameter, mm) of the level that is most so.

    ``amplitudes_mm``: of the second harmonic of the diameter at each level (half of its out-of-round), fitted to ``chords``
    distinct chords, each with the random standard deviation ``sd_mm``. With two chords a level gives no oval: then
    ``two_directions_between``. Raises FitError with no level, or chords under three. Source: methods 3.
    """
    if not amplitudes_mm or min(chords) < 3 or sd_mm <= 0.0:
        raise FitError("An oval needs levels of three chords and more, and a doubt of the gauge")
    scales = [sd_mm * math.sqrt(2.0 / n) for n in chords]
    seen = [a / s for a, s in zip(amplitudes_mm, scales, strict=True)]
    return _between(tuple(seen), tuple(scales), 2, 2.0, (OVAL_LOW, OVAL_HIGH))


def two_directions_between(differences_mm: Sequence[float], sd_mm: float) -> Extreme:
    """What two directions of a level differ by at most, mm, from the differences read at each level, without their sign.

    Raises FitError with no level. Source: methods 3. Not an out-of-round: an oval at 45 degrees is not seen at all.
    """
    if not differences_mm or sd_mm <= 0.0:
        raise FitError("Two directions need a level, and a doubt of the gauge")
    scale = sd_mm * math.sqrt(2.0)
    seen = tuple(abs(d) / scale for d in differences_mm)
    found = _between(seen, (scale,) * len(seen), 1, 1.0, (OVAL_LOW, OVAL_HIGH))
    return Extreme(found.low_mm / 2.0, found.high_mm / 2.0)


@lru_cache(maxsize=512)
@worked_out(Extreme)
def _between(
    seen: tuple[float, ...], scales: tuple[float, ...], degrees: int, freed: float, ends: tuple[float, float]
) -> Extreme:
    """Twice the largest true amplitude: the ends where the chance of seeing no more than the largest seen is as asked."""
    most = max(range(len(seen)), key=lambda i: seen[i] * scales[i])
    top = seen[most] * scales[most]  # mm: the amplitude that was seen at most
    others = [
        (s, math.sqrt(max(x * x - freed, 0.0)) * s)
        for i, (x, s) in enumerate(zip(seen, scales, strict=True))
        if i != most
    ]

    def chance(amplitude: float) -> float:
        own = _no_more(top / scales[most], amplitude / scales[most], degrees)
        for scale, likely in others:
            own *= _no_more(top / scale, min(amplitude, likely) / scale, degrees)
        return own

    low = (
        0.0
        if chance(0.0) <= ends[0] or chance(0.5 * scales[most]) <= ends[0]
        else _where(chance, ends[0], top, scales[most])
    )
    return Extreme(2.0 * low, 2.0 * _where(chance, ends[1], top, scales[most]))


def _no_more(seen: float, true: float, degrees: int) -> float:
    """The chance that an amplitude of ``true`` shows as ``seen`` or less, both in doubts of its own; far off it is normal."""
    if true > FAR:
        return 0.5 * math.erfc((math.sqrt(true * true + degrees - 1.0) - seen) / math.sqrt(2.0))
    from scipy.special import chndtr  # where a wall was newly read

    return float(chndtr(seen * seen, degrees, max(true * true, 1e-12)))


def _where(chance: Callable[[float], float], wanted: float, top: float, scale: float) -> float:
    """The true value at which the chance falls to what is wanted; it falls all the way, and half a doubt is always left."""
    if chance(0.5 * scale) <= wanted:
        return 0.5 * scale
    from scipy.optimize import brentq

    return float(brentq(lambda a: chance(a) - wanted, 0.0, top + 8.0 * scale))


def wear_between(worn_means_mm: Sequence[float], unworn_mean_mm: float, chords: int, sd_mm: float) -> Extreme:
    """The wear of the level that is worn most, on its mean diameter against the unworn mean, mm; never under nought.

    Raises FitError with no worn level. Source: methods 3, by Monte Carlo; fewer levels than were tried count as two.
    """
    if not worn_means_mm or chords < 1:
        raise FitError("Wear needs a level inside ring travel")
    most, each = max(worn_means_mm) - unworn_mean_mm, sd_mm / math.sqrt(chords)
    return Extreme(max(most - _wear_low_z(len(worn_means_mm)) * each, 0.0), max(most + WEAR_HIGH_Z * each, 0.0))


def _wear_low_z(worn: int) -> float:
    """How far under the largest mean of so many worn levels the wear surely lies, in doubts of a mean; linear in the logarithm of their number."""
    at = min(max(float(worn), WEAR_LOW_Z[0][0]), WEAR_LOW_Z[-1][0])
    return next(
        low + (high - low) * math.log(at / few) / math.log(many / few)
        for (few, low), (many, high) in pairwise(WEAR_LOW_Z)
        if at <= many
    )


def largest_between(means_mm: Sequence[float], amplitudes_mm: Sequence[float], chords: int, sd_mm: float) -> Extreme:
    """The largest true diameter of levels, each a mean and the amplitude of its second harmonic, mm.

    ``chords`` distinct chords at each level (the fewest), each with the random standard deviation ``sd_mm``.
    Raises FitError with no level or fewer than three chords. Source: methods 3, its error by numbers, not by draws.
    """
    return _largest(tuple(means_mm), tuple(amplitudes_mm), chords, sd_mm)


def smallest_between(means_mm: Sequence[float], amplitudes_mm: Sequence[float], chords: int, sd_mm: float) -> Extreme:
    """The smallest true diameter of levels: the mirror of the largest."""
    found = _largest(tuple(-m for m in means_mm), tuple(amplitudes_mm), chords, sd_mm)
    return Extreme(-found.high_mm, -found.low_mm)


@lru_cache(maxsize=512)  # the walls that nobody has just read stand as they stood
@worked_out(Extreme)
def _largest(means: tuple[float, ...], amplitudes: tuple[float, ...], chords: int, sd_mm: float) -> Extreme:
    if not means or chords < 3 or sd_mm <= 0.0:
        raise FitError("A largest size needs levels of three chords and more, and a doubt of the gauge")
    scale = sd_mm * math.sqrt(2.0 / chords)
    squares = [(a / scale) ** 2 for a in amplitudes]
    tops = [m / scale + math.sqrt(max(q - 1.0, 0.0)) for m, q in zip(means, squares, strict=True)]
    most = max(range(len(tops)), key=tops.__getitem__)
    mean_square = sum(squares) / len(squares)
    all_over = mean_square - 2.0 - (3.0 / math.sqrt(len(squares)) if mean_square < 8.0 else 0.0)
    low = _size_end(tops, most, math.sqrt(max(all_over, 0.0)), SIZE_LOW)
    high = _size_end(tops, most, math.sqrt(squares[most]), SIZE_HIGH)
    return Extreme(low * scale, max(low, high) * scale)


def _size_end(tops: Sequence[float], most: int, amplitude: float, wanted: float) -> float:
    """The true largest size at which the chance of seeing no more than was seen is as wanted, in doubts of a level."""
    table = _errors(round(min(amplitude, FAR), 1))
    top = tops[most]

    def chance(size: float) -> float:
        own = table.at(top - size)
        for i, y in enumerate(tops):
            if i != most:
                own *= table.at(top - min(y - table.bias, size))
        return own

    from scipy.optimize import brentq

    return float(brentq(lambda d: chance(d) - wanted, top - 12.0, top + 12.0))


@frozen
class _Errors:
    """The distribution of the error of a level's largest size, in doubts of the level, from ``least`` on in steps of STEP."""

    least: float
    cumulative: array[float]  # of some hundred tables: a quarter of what floats of their own would take
    bias: float

    def at(self, error: float) -> float:
        """The chance of an error no larger, linear between the places of the table."""
        place = (error - self.least) / STEP
        if place <= 0.0:
            return self.cumulative[0] if place == 0.0 else 0.0
        if place >= len(self.cumulative) - 1:
            return 1.0
        below = int(place)
        low, high = self.cumulative[below], self.cumulative[below + 1]
        return low + (place - below) * (high - low)


@lru_cache(maxsize=96)
def _errors(amplitude: float) -> _Errors:
    """The error of mean + sqrt(R^2 - 1) of a true amplitude, R^2 noncentral chi-square with 2 degrees, the mean with sd 1/sqrt 2.

    By numbers on an even grid of 0.02: the density of the radius, shifted, with the normal density of the mean folded in.
    """
    from scipy.special import chndtr

    step = STEP
    radius = np.arange(0.0, amplitude + 8.0, step)
    square = np.sqrt(radius**2 + 1.0)  # R at which sqrt(R^2 - 1) is this
    chance = np.diff(np.concatenate(([0.0], chndtr((square + step / 2.0) ** 2, 2, max(amplitude**2, 1e-12)))))
    grid = np.arange(-10.0 - amplitude, 12.0, step)
    normal = np.exp(-np.square(np.arange(-5.0, 5.0 + step / 2.0, step))) / math.sqrt(math.pi) * step
    density = np.zeros(grid.size)
    start = int(round((0.0 - amplitude - grid[0]) / step))
    room = min(chance.size, grid.size - start)
    density[start : start + room] = chance[:room]
    folded = np.convolve(density, normal, mode="same")
    folded /= folded.sum()
    return _Errors(float(grid[0]) + step / 2.0, array("d", np.cumsum(folded).tobytes()), float(np.sum(grid * folded)))
