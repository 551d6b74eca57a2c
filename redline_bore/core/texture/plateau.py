"""What plateau strokes will do to a wall, from the trace taken before them (methods 13).

The primary profile is cut along its reference line, the cut part is given the fine abrasive's own texture, and it is
filtered again. A cut is counted as metal removed over the whole wall (um, volume an area, a side): a depth from the
highest point would hang on one peak.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import TYPE_CHECKING

from redline_bore.core.errors import FitError
from redline_bore.core.frozen import frozen
from redline_bore.core.late import np
from redline_bore.core.texture.curve import RkFamily, family_of
from redline_bore.core.texture.profile import Profile, evaluated_points, fast_length, half_kernel, mean_line

if TYPE_CHECKING:
    from numpy.typing import NDArray

    Array = NDArray[np.float64]

FINE_SIGMA_UM, BAND_LIMIT_UM = 1.5, 2.5
SEEDS = 3
DEEPEST_BEARING = 0.80  # cut to here and the plateau is the whole wall
FIGURES = ("Rpk", "Rk", "Rvk")
WEIGHTS = {"Rpk": 0.05, "Rk": 0.10, "Rvk": 0.20}  # how well each places a wall on the path: um, share, share


@frozen(often=True)
class Cut:
    """The wall as foretold after ``removed_um`` is gone: the figures, um; bearing: share of it that is cut."""

    removed_um: float
    height_um: float
    bearing: float
    Rpk: float
    Rk: float
    Rvk: float

    def value(self, name: str) -> float:
        """A figure by its name, um."""
        found: float = getattr(self, name)
        return found


def removed_at(heights: Array, height_um: float) -> float:
    """Metal an area above a cut, um, of a two-pass profile (um)."""
    return float(np.maximum(heights - height_um, 0.0).mean())


def height_for(heights: Array, removed_um: float) -> float:
    """The cut that takes so much metal an area, um above the reference line. Raises FitError beyond the deepest cut."""
    z = np.sort(heights)[::-1]
    if removed_um <= 0.0:
        return float(z[0])
    count = np.arange(1, len(z) + 1)
    taken = (np.cumsum(z) - count * z) / len(z)  # cut at each ordinate in turn
    place = int(np.searchsorted(taken, removed_um))
    if place >= DEEPEST_BEARING * len(z):
        raise FitError(f"{removed_um:g} µm off this wall leaves no valleys to speak of")
    k = max(place, 1)
    return float((z[:k].sum() - removed_um * len(z)) / k)


def fine_texture(count: int, step_um: float, rq_um: float, seed: int) -> Array:
    """Texture that fine abrasive leaves: Gaussian noise, short-waved, band-limited; um, shape (count,)."""
    chance = np.random.default_rng(seed)
    size = fast_length(count + 64)
    f = np.fft.rfftfreq(size, step_um)
    smooth = np.exp(-2.0 * (np.pi * f * FINE_SIGMA_UM) ** 2) * np.exp(-np.log(2.0) * (f * BAND_LIMIT_UM) ** 2)
    z = np.fft.irfft(np.fft.rfft(chance.standard_normal(size)) * smooth, size)[:count]
    found: Array = rq_um * z / z.std()
    return found


def reference_line(p: Profile) -> Array:
    """The two-pass reference line over the whole primary, um: exact where the filter reaches, mirrored at the ends."""
    half = half_kernel(p.step_um)
    wide = np.pad(p.primary, 2 * half, mode="reflect")
    first = mean_line(wide, p.step_um)
    return mean_line(np.maximum(wide[half:-half], first), p.step_um)


def cut_profile(p: Profile, line: Array, height_um: float, fine: Array) -> Array:
    """The primary cut ``height_um`` above the line, the cut part carrying ``fine``. All um, shape (n,)."""
    level = line + height_um
    return np.where(p.primary > level, level + fine, p.primary)


def family_after(p: Profile, line: Array, height_um: float, fine: Array) -> RkFamily:
    """The family once cut and filtered again."""
    z, step = cut_profile(p, line, height_um, fine), p.step_um
    half = half_kernel(step)
    inside = z[half:-half]
    again = z[2 * half : len(z) - 2 * half] - mean_line(np.maximum(inside, mean_line(z, step)), step)
    wanted = evaluated_points(step)
    start = max(0, (len(again) - wanted) // 2)
    return family_of(again[start : start + wanted])


def path_of(
    p: Profile, removed_um: Sequence[float], fine_rq_um: float, tick: Callable[[float], None] | None = None
) -> tuple[Cut, ...]:
    """The path of a wall under plateau strokes.

    Its figures after each of ``removed_um`` (growing), the mean over a few fine textures. Ends where no valleys
    would be left. tick: told the share done; may raise to break off.
    """
    line, found = reference_line(p), []
    fines = [fine_texture(len(p.primary), p.step_um, fine_rq_um, seed) for seed in range(1, SEEDS + 1)]
    for i, removed in enumerate(removed_um):
        if tick is not None:
            tick(i / len(removed_um))
        try:
            height = height_for(p.family, removed)
        except FitError:
            break
        families = [family_of(p.family)] if removed <= 0.0 else [family_after(p, line, height, f) for f in fines]
        means = {n: float(np.mean([getattr(f, n) for f in families])) for n in FIGURES}
        found.append(Cut(removed, height, float((p.family >= height).mean()), **means))
    return tuple(found)


def deepest_cut(p: Profile) -> float:
    """The most metal an area that leaves valleys to speak of, um."""
    z = np.sort(p.family)[::-1]
    k = int(DEEPEST_BEARING * len(z)) - 2
    return float((z[:k].sum() - k * z[k]) / len(z))


def at(path: Sequence[Cut], removed_um: float) -> dict[str, float]:
    """The figures on a path after ``removed_um``, between its points by straight lines."""
    x = [c.removed_um for c in path]
    return {n: float(np.interp(removed_um, x, [c.value(n) for c in path])) for n in FIGURES}


@frozen(often=True)
class Placed:
    """Where on a path another wall lies: metal removed, um, and how far off the path it is (1: as far as walls differ)."""

    removed_um: float
    off: float


def place_on(path: Sequence[Cut], figures: dict[str, float]) -> Placed:
    """How much was removed, from a trace taken after: the place on the path that its figures fit best.

    Raises FitError where the path is too short to say.
    """
    if len(path) < 3:
        raise FitError("The path is too short to place another wall on it")
    x = np.linspace(0.0, path[-1].removed_um, 400)
    squares = np.zeros_like(x)
    for name in FIGURES:
        y = np.interp(x, [c.removed_um for c in path], [c.value(name) for c in path])
        apart = y - figures[name]
        squares += (apart / (WEIGHTS[name] if name == "Rpk" else WEIGHTS[name] * max(figures[name], 1e-6))) ** 2
    best = int(np.argmin(squares))
    return Placed(float(x[best]), float(np.sqrt(squares[best] / len(FIGURES))))


def stretch_inside(path: Sequence[Cut], windows: dict[str, tuple[float, float]]) -> tuple[float, float] | None:
    """The first stretch of the path, um removed, along which every figure is in its window; None: there is none."""
    x = np.linspace(0.0, path[-1].removed_um, 801)
    inside = np.ones_like(x, dtype=bool)
    for name, (low, high) in windows.items():
        y = np.interp(x, [c.removed_um for c in path], [c.value(name) for c in path])
        inside &= (y >= low) & (y <= high)
    if not inside.any():
        return None
    first = int(np.argmax(inside))
    after = inside[first:]
    last = first + (len(after) if after.all() else int(np.argmin(after))) - 1
    return float(x[first]), float(x[last])


def nearest_to(path: Sequence[Cut], windows: dict[str, tuple[float, float]]) -> float:
    """The place on the path, um removed, whose worst figure misses its window by the smallest share of that window's end."""
    x = np.linspace(0.0, path[-1].removed_um, 801)
    worst = np.zeros_like(x)
    for name, (low, high) in windows.items():
        y = np.interp(x, [c.removed_um for c in path], [c.value(name) for c in path])
        miss = np.maximum((low - y) / max(low, 1e-6), (y - high) / max(high, 1e-6))
        worst = np.maximum(worst, miss)
    return float(x[int(np.argmin(worst))])
