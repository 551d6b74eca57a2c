"""What the hone removes: Preston's rule with a stiff, straight pack in contact with the wall (methods 11).

Depths and lengths in mm, excess is wall radius beyond a datum in mm (larger where the hole is larger), force in N over all
stones, contact stiffness in MPa a mm, k in mm3 a N mm, times in s. The wall is a grid of depths (and, where asked, clock
angles); the pack a stone from s to s + its length that presses p = K max(0, E + g (z - middle) - excess) where it touches
wall, E (and g where it may tip) such that force (and moment) balance. Stone off the end of the wall carries nothing.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import TYPE_CHECKING

from redline_bore.core.errors import InputError
from redline_bore.core.frozen import frozen
from redline_bore.core.late import np
from redline_bore.core.stroke import Motion

if TYPE_CHECKING:
    from numpy.typing import ArrayLike, NDArray

    Array = NDArray[np.float64]

# Which cells touch is found in one to seven rounds on random walls; forty is for one whose last cells keep changing sides.
CONTACT_ROUNDS = 40
SETTLED_MM = 1e-9


@frozen(often=True)
class Pack:
    """The stones: length, width of all together, contact stiffness, whether they may tip in their holder."""

    stone_mm: float
    width_mm: float
    stiffness_mpa_per_mm: float
    may_tip: bool = True

    def __post_init__(self) -> None:
        _positive(stone=self.stone_mm, width=self.width_mm, stiffness=self.stiffness_mpa_per_mm)


@frozen(often=True)
class Hole:
    """The wall: bore, length, k, and bands (from, to, share of k) that are harder or softer. Depths in mm."""

    bore_mm: float
    length_mm: float
    k_mm3_per_n_mm: float
    bands: tuple[tuple[float, float, float], ...] = ()

    def __post_init__(self) -> None:
        _positive(bore=self.bore_mm, length=self.length_mm, k=self.k_mm3_per_n_mm)


@frozen(often=True)
class Phase:
    """A stretch of honing.

    Upper end of the stone at both turn-rounds (mm down from the deck; minus is above it), double strokes, turns,
    rate, force, turn-round, and dwell (extra turning) at each end of a double stroke.

    advance_mm: None presses with the force; a number feeds the pack by so much a double stroke against ``compliance_n_mm``.
    """

    upper_mm: float
    lower_mm: float
    double_strokes: int
    rpm: float
    double_strokes_per_min: float
    radial_force_n: float
    reversal_s: float = 0.0
    dwell_top_s: float = 0.0
    dwell_bottom_s: float = 0.0
    advance_mm: float | None = None
    compliance_n_mm: float = 0.0

    def __post_init__(self) -> None:
        _positive(turns=self.rpm, rate=self.double_strokes_per_min, force=self.radial_force_n)
        if self.lower_mm <= self.upper_mm:
            raise InputError("The pack has to travel: its lower turn-round lies deeper than its upper one")
        if self.double_strokes < 0 or self.dwell_top_s < 0.0 or self.dwell_bottom_s < 0.0:
            raise InputError("Strokes and dwell are nought or more")
        if self.advance_mm is not None and (self.advance_mm <= 0.0 or self.compliance_n_mm <= 0.0):
            raise InputError("A fed pack wants its feed a stroke and its compliance")


def over_strokes(length_mm: float, stone_mm: float, over_top_mm: float, over_bottom_mm: float) -> tuple[float, float]:
    """Upper end of the stone at both turn-rounds for an overstroke at each end."""
    return -over_top_mm, length_mm + over_bottom_mm - stone_mm


@frozen(often=True)
class Honed:
    """What is left.

    ``excess_mm`` at ``depth_mm``; shape (depths,) or (angles, depths). removed_mm: the same less what it was.
    load_mpa: mean pressure by depth while stone was on it. volume_mm3, work_n_mm: taken, and force times way.
    """

    depth_mm: Array
    excess_mm: Array
    removed_mm: Array
    load_mpa: Array
    volume_mm3: float
    work_n_mm: float
    seconds: float
    double_strokes: float

    @property
    def mean_removed_mm(self) -> float:
        """Mean over the wall, mm on radius."""
        return float(self.removed_mm.mean())


@dataclass
class Grid:
    """Cells along the wall, their middles; optional clock angles. ``steps`` places of the pack in half a stroke."""

    cells: int = 150
    angles: int = 1
    steps: int = 60

    def depths(self, length_mm: float) -> Array:
        """Middles of the cells, mm down."""
        return (np.arange(self.cells) + 0.5) * length_mm / self.cells


@dataclass
class _Way:
    """The pack's places in half a stroke: share of each cell under stone, lever from its middle, speed, time of each."""

    share: Array
    lever: Array
    speed: Array
    seconds: Array
    reach: Array = field(default_factory=lambda: np.zeros(0))


def simulate(
    hole: Hole, pack: Pack, excess_mm: ArrayLike, phases: Sequence[Phase], grid: Grid | None = None,
    tick: Callable[[float], None] | None = None, stop_at_mm: float | None = None,
) -> Honed:  # fmt: skip
    """Hone a wall through its phases. excess_mm: on the grid's depths, shape (cells,) or (angles, cells).

    stop_at_mm: the excess at which the largest place ends it; its last double stroke is the last that stays under.
    tick: called with the share that is done, from time to time; it may raise to break off. Raises InputError.
    Source: methods 11. Removed volume is k times the integral of force times speed over time (less in a hard band).
    """
    grid = grid or Grid()
    start = np.atleast_2d(np.asarray(excess_mm, dtype=float))
    if start.shape[1] != grid.cells or not np.isfinite(start).all():
        raise InputError("The wall has to be known at every depth of the grid")
    wall, z = start.copy(), grid.depths(hole.length_mm)
    k = hole.k_mm3_per_n_mm * band_shares(hole, z)
    load: Array = np.zeros(grid.cells)
    under: Array = np.zeros(grid.cells)
    seconds = work = 0.0
    whole = max(sum(p.double_strokes for p in phases), 1)
    done = 0
    for phase in phases:
        ways, contact = _ways(hole, pack, phase, grid, z), _Contact(pack, wall.shape[0], hole.length_mm / grid.cells)
        fed = 0.0
        if done == whole:
            break
        for stroke in range(phase.double_strokes):
            # a stroke that would pass the stop is taken back whole: strokes are counted in whole ones, and the last must not be over
            before = (wall.copy(), load.copy(), under.copy(), work, seconds)
            for way in ways:
                fed += 0.5 * (phase.advance_mm or 0.0)
                pressure = contact.pressure(wall, way, phase, fed)
                # Preston: depth worn = k times pressure times way slid; here for every place of the pack, before they are summed over its half stroke.
                rate = pressure * (way.speed * way.seconds)[:, None, None] * k
                # Stones of this width stand over a share width / (pi D) of the round at a time; turning is so much quicker than wearing
                # that every clock angle gets that share.
                wall += rate.sum(axis=0) * pack.width_mm / (math.pi * hole.bore_mm)
                load += (pressure.mean(axis=1) * way.seconds[:, None]).sum(axis=0)
                under += (way.share * way.seconds[:, None]).sum(axis=0)
                work += float((contact.force * way.speed * way.seconds).sum())
                seconds += float(way.seconds.sum())
            if stop_at_mm is not None and wall.max() > stop_at_mm:
                wall, load, under, work, seconds = before
                whole = done
                break
            done += 1
            if tick is not None and stroke % 4 == 0:
                tick(done / whole)
    removed = wall - start
    volume = float(removed.mean(axis=0).sum()) * math.pi * hole.bore_mm * hole.length_mm / grid.cells
    one = np.ndim(excess_mm) == 1  # a meridian comes back as it came in
    mean_load = np.divide(load, under, out=np.zeros_like(load), where=under > 0.0)
    return Honed(
        z, wall[0] if one else wall, removed[0] if one else removed, mean_load, volume, work, seconds, float(done)
    )


def band_shares(hole: Hole, depth_mm: Array) -> Array:
    """Share of k at each depth."""
    found = np.ones(depth_mm.shape)
    for low, high, share in hole.bands:
        found[(depth_mm >= low) & (depth_mm < high)] *= share
    return found


def _ways(hole: Hole, pack: Pack, phase: Phase, grid: Grid, z: Array) -> tuple[_Way, _Way]:
    """The way down and the way up; what dwells at an end is counted to the half stroke that comes to it."""
    # Equal times and not equal distances: near the turn-rounds the pack is slow and lies long, which is what opens or spares the ends.
    motion = Motion(phase.lower_mm - phase.upper_mm, phase.double_strokes_per_min, phase.reversal_s)
    place, axial = motion.half_stroke(grid.steps)
    rotary = math.pi * hole.bore_mm * phase.rpm / 60.0
    each = motion.period_s / 2.0 / grid.steps
    down = _way(pack, z, phase.upper_mm + place, axial, rotary, each, (phase.lower_mm, phase.dwell_bottom_s))
    up = _way(pack, z, phase.lower_mm - place, axial, rotary, each, (phase.upper_mm, phase.dwell_top_s))
    return down, up


def _way(
    pack: Pack, z: Array, upper: Array, axial: Array, rotary: float, each_s: float, dwell: tuple[float, float]
) -> _Way:
    seconds: Array = np.full(upper.shape, each_s)
    speed = np.hypot(rotary, axial)
    if dwell[1] > 0.0:
        upper, seconds = np.append(upper, dwell[0]), np.append(seconds, dwell[1])
        # While it dwells it only turns.
        speed = np.append(speed, rotary)
    # A cell half under the stone's end counts half: without it the wall would get steps of a cell's length.
    half = (z[1] - z[0]) / 2.0
    low = np.maximum(upper[:, None], z - half)
    high = np.minimum(upper[:, None] + pack.stone_mm, z + half)
    share = np.clip((high - low) / (2.0 * half), 0.0, 1.0)
    lever = np.where(share > 0.0, (low + high) / 2.0 - (upper[:, None] + pack.stone_mm / 2.0), 0.0)
    return _Way(share, lever, speed, seconds)


class _Contact:
    """Solves where the pack touches, for all its places of half a stroke at once."""

    def __init__(self, pack: Pack, angles: int, cell_mm: float) -> None:
        self.pack, self.angles, self.cell_mm = pack, angles, cell_mm
        self.force: Array = np.zeros(0)

    def pressure(self, wall: Array, way: _Way, phase: Phase, fed_mm: float) -> Array:
        """Pressure in MPa times the share under stone, shape (places, angles, cells)."""
        # Pressure times area: what a cell presses back with for a millimetre of penetration.
        stiff = self.pack.stiffness_mpa_per_mm * self.pack.width_mm * self.cell_mm / self.angles  # N a mm and cell
        share, x = way.share[:, None, :], way.lever[:, None, :]
        r = wall[None, :, :]
        touching = share > 0.0
        spring = phase.compliance_n_mm if phase.advance_mm is not None else 0.0
        pushed = spring * fed_mm if phase.advance_mm is not None else phase.radial_force_n
        e: Array = np.zeros(share.shape[0])
        g: Array = np.zeros(share.shape[0])
        depth: Array = np.zeros((1, 1, 1))
        # Begun with everything in touch; cells that would have to pull are let go, those that are reached come back. It ends where neither happens.
        active = np.broadcast_to(touching, (share.shape[0], self.angles, share.shape[2]))
        for _ in range(CONTACT_ROUNDS):
            w = np.where(active, share, 0.0)
            n, sr = w.sum(axis=(1, 2)), (w * r).sum(axis=(1, 2))
            if self.pack.may_tip:
                e, g = _balance(n, (w * x).sum(axis=(1, 2)), (w * x * x).sum(axis=(1, 2)), sr, (w * x * r).sum(axis=(1, 2)),
                                pushed / stiff, spring / stiff)  # fmt: skip
            else:
                e = (pushed / stiff + sr) / np.maximum(n + spring / stiff, 1e-12)
            # Penetration of the straight pack into the wall; where it is negative there is a gap, and no force.
            depth = e[:, None, None] + g[:, None, None] * x - r
            now = touching & (depth > -SETTLED_MM)
            if np.array_equal(now, active):
                break
            active = now
        p = np.where(active, np.maximum(depth, 0.0), 0.0) * share
        self.force = p.sum(axis=(1, 2)) * stiff
        found: Array = p * self.pack.stiffness_mpa_per_mm
        return found


def _balance(n: Array, sx: Array, sxx: Array, sr: Array, sxr: Array, push: float, spring: float) -> tuple[Array, Array]:
    """E and tilt such that force and moment balance; without a lever to speak of the pack stays parallel."""
    a = n + spring
    det = a * sxx - sx * sx
    # All contact in one cell gives no lever: the two equations become one, and the pack stays parallel rather than stand on end.
    firm = det > 1e-9 * np.maximum(a * sxx, 1e-30)
    safe = np.where(firm, det, 1.0)
    e = np.where(firm, ((push + sr) * sxx - sx * sxr) / safe, (push + sr) / np.maximum(a, 1e-12))
    g = np.where(firm, (a * sxr - sx * (push + sr)) / safe, 0.0)
    return e, g


def k_from_rate(rate_mm: float, hole: Hole, phase: Phase, stroke_mm: float) -> float:
    """k in mm3 a N mm from metal on diameter a double stroke, under the phase's force and speed. Raises InputError.

    Volume balance: pi D H (rate / 2) = k F V T, V from turns and mean axial speed. Source: methods 11.
    """
    _positive(rate=rate_mm, stroke=stroke_mm)
    # The rate is on diameter, the wall loses half of it on radius; the pack's own length does not enter, for force and not pressure is given.
    volume = math.pi * hole.bore_mm * hole.length_mm * rate_mm / 2.0
    rotary = math.pi * hole.bore_mm * phase.rpm / 60.0
    axial = 2.0 * stroke_mm * phase.double_strokes_per_min / 60.0
    return volume / (phase.radial_force_n * math.hypot(rotary, axial) * 60.0 / phase.double_strokes_per_min)


def on_grid(depth_mm: ArrayLike, excess_mm: ArrayLike, grid: Grid, length_mm: float) -> Array:
    """A profile of a few points on the grid: straight between them, level beyond the first and last."""
    found: Array = np.interp(grid.depths(length_mm), np.asarray(depth_mm, float), np.asarray(excess_mm, float))
    return found


def ends_against_middle(honed: Honed, length_mm: float) -> tuple[float, float]:
    """Outermost half millimetre at top and bottom less half way down, on diameter, mm; plus: the end is open."""
    z = honed.depth_mm
    wall = honed.excess_mm if honed.excess_mm.ndim == 1 else honed.excess_mm.mean(axis=0)
    middle = float(np.interp(length_mm / 2.0, z, wall))
    # The outermost cell is half off the wall for half of the time; a gauge's contacts do not reach it either.
    top, bottom = float(np.interp(0.25, z, wall)), float(np.interp(length_mm - 0.25, z, wall))
    return 2.0 * (top - middle), 2.0 * (bottom - middle)


def _positive(**values: float) -> None:
    for name, value in values.items():
        if not (math.isfinite(value) and value > 0.0):
            raise InputError(f"The {name} has to be more than nought")
