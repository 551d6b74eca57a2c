"""The crosshatch from a picture of the wall, the bore's axis upright in it (methods 15).

The picture is taken apart into waves; each tells the direction of the grooves it belongs to, and their histogram has two
peaks. A structure tensor would do it place by place, but where grooves cross it sees neither family: the waves of two
families simply add. Angles in degrees from the horizontal, plus rising to the right.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

from redline_bore.core.errors import FitError, InputError
from redline_bore.core.frozen import frozen
from redline_bore.core.late import np

if TYPE_CHECKING:
    from numpy.typing import ArrayLike, NDArray

    Array = NDArray[np.float64]

BINS = 180
LEAST_SIDE, MOST_SIDE = 64, 1400
LEAST_CONTRAST = 0.01  # standard deviation of the picture, of its range
LOWEST_RING, HIGHEST, MOST_OVER_RING = 10, 0.35, 12.0  # waves across the picture; cycles a pixel; times the ring's mean
SMOOTH_BINS, REACH_DEG = 1.5, 8.0
SECOND_SHARE = 0.12  # the weaker family has at least so much of the stronger one's weight
LEAST_APART = 6.0  # degrees between the peaks
LEAST_STANDS_OUT = 1.6  # a peak against the middle of the histogram
BLUR_SHARE = 0.003  # of the picture's variance lies in its fine detail, or it is blurred


@frozen(often=True)
class Hatch:
    """What the picture shows, degrees.

    Both families from the horizontal (up: rising to the right, down: falling, both positive), their spread (sd),
    the included angle, the lean (up less down, halved: nought when in and out are even), u_deg: k = 2 of the
    included angle, and confidence from 0 to 1. histogram: weight by degree from -90, summing to 1.
    """

    up_deg: float
    down_deg: float
    up_sd: float
    down_sd: float
    included_deg: float
    lean_deg: float
    u_deg: float
    confidence: float
    histogram: tuple[float, ...]


def crosshatch_of(grey: ArrayLike) -> Hatch:
    """The families in a grey picture, shape (rows, columns), any scale, row 0 at the top.

    Raises InputError when it is no picture, FitError when it is empty, blurred, or shows one direction only; the message
    says what to do. Source: methods 15.
    """
    picture = _made_ready(grey)
    angles, weights = _directions(picture)
    histogram = _histogram(angles, weights)
    first, second = _peaks(histogram)
    up, down = (first, second) if first > second else (second, first)
    if up <= 0.0 or down >= 0.0:
        raise FitError(
            "Both families lean the same way: hold the camera with the bore's axis upright, or turn the picture"
        )
    (up_at, up_sd, up_count), (down_at, down_sd, down_count) = (_refined(angles, weights, p) for p in (up, down))
    confidence = _share_in(angles, weights, (up_at, down_at))
    u = 2.0 * float(np.hypot(up_sd / np.sqrt(up_count), down_sd / np.sqrt(down_count))) + 0.5
    return Hatch(
        up_at, -down_at, up_sd, down_sd, up_at - down_at, (up_at + down_at) / 2.0, u, confidence,
        tuple(float(v) for v in histogram),
    )  # fmt: skip


def _share_in(angles: Array, weights: Array, families: tuple[float, float]) -> float:
    """How much of the picture lies in the two families, beyond what would lie there by chance: 0 to 1."""
    inside = np.zeros(len(angles), dtype=bool)
    for family in families:
        inside |= np.abs((angles - family + 90.0) % 180.0 - 90.0) <= REACH_DEG
    share, chance = float(weights[inside].sum() / weights.sum()), float(inside.mean())
    return float(np.clip((share - chance) / (1.0 - chance), 0.0, 1.0))


def _made_ready(grey: ArrayLike) -> Array:
    from scipy.ndimage import gaussian_filter  # SciPy only when a picture is looked at

    g = np.asarray(grey, dtype=float)
    if g.ndim != 2 or min(g.shape) < LEAST_SIDE or not np.all(np.isfinite(g)):
        raise InputError(f"A picture of at least {LEAST_SIDE} pixels a side is wanted")
    shrink = int(np.ceil(max(g.shape) / MOST_SIDE))
    if shrink > 1:
        rows, columns = (n // shrink * shrink for n in g.shape)
        g = g[:rows, :columns].reshape(rows // shrink, shrink, columns // shrink, shrink).mean(axis=(1, 3))
    span = float(np.ptp(g))
    even: Array = g - gaussian_filter(g, 25.0)  # the lamp's light, brighter on one side
    if span <= 0.0 or float(even.std()) < LEAST_CONTRAST * max(span, 1e-9) or float(even.std()) <= 1e-9:
        raise FitError("There is nothing in this picture: light the wall from the side, and come closer")
    fine = even - gaussian_filter(even, 1.0)
    if float(fine.var()) < BLUR_SHARE * float(even.var()):
        raise FitError("This picture is blurred: rest the camera on the deck, and take it again")
    return even


def _directions(picture: Array) -> tuple[Array, Array]:
    """Groove directions, degrees from the horizontal, and their weights: one for each wave that the picture is made of.

    Every ring of equal wavelength counts by how far it stands above the finest ring, which is noise; within a ring the
    strongest waves may not outweigh all others.
    """
    rows, columns = picture.shape
    side = min(rows, columns)
    taper = np.outer(np.hanning(rows), np.hanning(columns))
    power = np.abs(np.fft.rfft2(picture * taper)) ** 2
    fy, fx = np.meshgrid(-np.fft.fftfreq(rows), np.fft.rfftfreq(columns), indexing="ij")  # rows grow downwards
    ring = np.round(np.hypot(fx, fy) * side).astype(int)
    counts = np.maximum(np.bincount(ring.ravel()), 1)
    level = np.bincount(ring.ravel(), weights=power.ravel()) / counts
    last = int(HIGHEST * side)
    floor = float(np.median(level[last : max(last + 2, int(0.5 * side))]))
    share = np.clip(1.0 - 2.0 * floor / np.maximum(level, 1e-300), 0.0, 1.0)
    used = (ring >= LOWEST_RING) & (ring < last)
    weights = np.minimum(power[used] / level[ring[used]], MOST_OVER_RING) * share[ring[used]]
    along = np.rad2deg(np.arctan2(fy[used], fx[used])) + 90.0  # the groove runs square to its wave
    return (along + 90.0) % 180.0 - 90.0, weights


def _histogram(angles: Array, weights: Array) -> Array:
    from scipy.ndimage import gaussian_filter1d

    counted, _ = np.histogram(angles, BINS, (-90.0, 90.0), weights=weights)
    total = float(counted.sum())
    if total <= 0.0:
        raise FitError("No grooves are to be seen in this picture: light the wall from the side")
    smooth: Array = gaussian_filter1d(counted / total, SMOOTH_BINS, mode="wrap")
    return smooth


def _peaks(histogram: Array) -> tuple[float, float]:
    """The two strongest peaks, degrees. Raises FitError where there is no second one, or nothing stands out."""
    tops = [i for i in range(BINS) if histogram[i] >= histogram[i - 1] and histogram[i] > histogram[(i + 1) % BINS]]
    tops.sort(key=lambda i: -histogram[i])
    first = tops[0]
    if _stands_out(histogram, _bin(first)) < LEAST_STANDS_OUT:
        raise FitError("No direction stands out: no crosshatch is to be seen in this picture")
    for i in tops[1:]:
        apart = min((i - first) % BINS, (first - i) % BINS)
        if apart >= LEAST_APART:
            plain = _stands_out(histogram, _bin(i)) >= LEAST_STANDS_OUT
            if histogram[i] < SECOND_SHARE * histogram[first] or not plain:
                break
            return _bin(first), _bin(i)
    raise FitError("Grooves run one way only in this picture: both families have to be seen; turn the lamp")


def _bin(i: int) -> float:
    return -90.0 + (i + 0.5) * 180.0 / BINS


def _stands_out(histogram: Array, angle: float) -> float:
    """Height of the histogram at an angle against its middle height."""
    middle = max(float(np.median(histogram)), 0.2 / BINS)
    return float(histogram[int((angle + 90.0) * BINS / 180.0) % BINS]) / middle


def _refined(angles: Array, weights: Array, about: float) -> tuple[float, float, float]:
    """Centre and spread of a family, degrees, and how many independent waves carry it.

    Its weighted middle within a few degrees of the peak, found anew until it stays.
    """
    centre, sd = about, 0.0
    w = weights
    for _ in range(6):
        away = (angles - centre + 90.0) % 180.0 - 90.0
        w = np.where(np.abs(away) <= REACH_DEG, weights, 0.0)
        total = float(w.sum())
        shift = float((w * away).sum()) / total
        sd = float(np.sqrt((w * (away - shift) ** 2).sum() / total))
        centre += shift
    count = float(w.sum()) ** 2 / float((w * w).sum()) / 4.0  # neighbours in the taper's width tell the same
    return centre, sd, max(count, 1.0)
