"""Torque plate and fasteners: clamp force, the order of tightening, what the plate does to the hole (methods 16).

Torque in N m, force in kN, lengths in mm, clock angles in degrees. A map is plate on less plate off, on diameter.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import TYPE_CHECKING

from redline_bore.core.clamping import ClampSetUp
from redline_bore.core.errors import FitError
from redline_bore.core.frozen import frozen
from redline_bore.core.late import np
from redline_bore.core.shape import fit_level

if TYPE_CHECKING:
    from numpy.typing import ArrayLike, NDArray

    Array = NDArray[np.float64]

SAME_RING_MM = 1.0


@frozen(often=True)
class ClampLine:
    """One line of the comparison. ``same`` None: one of the two is not known."""

    name: str
    plate: object
    head: object
    same: bool | None


@frozen(often=True)
class ClampMatch:
    """Plate against head, line by line. ``force_ratio`` is plate over head."""

    lines: tuple[ClampLine, ...]
    force_ratio: float | None

    @property
    def agrees(self) -> bool | None:
        """True when every line agrees, False when one differs, None while one is not known."""
        if any(line.same is False for line in self.lines):
            return False
        return None if any(line.same is None for line in self.lines) else True


def compare_clamping(plate: ClampSetUp, head: ClampSetUp, force_share: float, split_case: bool = False) -> ClampMatch:
    """Compare the plate's clamping with the head's: the plate matches only if every line agrees.

    force_share: how far the forces may differ, as a share of the head's. split_case: whether halves are bolted
    counts. Source: methods 16.
    """
    ratio = None
    if plate.force_kn is not None and head.force_kn:
        ratio = plate.force_kn / head.force_kn
    lines = [
        ClampLine(
            "clamp force", plate.force_kn, head.force_kn, None if ratio is None else abs(ratio - 1) <= force_share
        )
    ]
    # The same force by a longer thread or another diameter pulls at other depths of the block: the hole moves differently,
    # so each line has to agree and none makes up for another.
    for name, field in (("fastener", "fastener_mm"), ("thread engagement", "engagement_mm")):
        lines.append(_near(name, getattr(plate, field), getattr(head, field)))
    lines += [_word("lubricant", plate.lubricant, head.lubricant), _word("gasket", plate.gasket, head.gasket)]
    stages = None if not plate.stages or not head.stages else plate.stages == head.stages
    lines.append(ClampLine("stages", plate.stages, head.stages, stages))
    lines.append(_done("mains torqued", plate.mains_torqued))
    if split_case:
        lines.append(_done("halves bolted", plate.halves_bolted))
    return ClampMatch(tuple(lines), ratio)


def _near(name: str, plate: float | None, head: float | None) -> ClampLine:
    same = None if plate is None or head is None else abs(plate - head) <= 0.02 * max(plate, head)
    return ClampLine(name, plate, head, same)


def _word(name: str, plate: str, head: str) -> ClampLine:
    return ClampLine(name, plate, head, plate.lower() == head.lower() if plate and head else None)


def _done(name: str, plate: bool | None) -> ClampLine:
    return ClampLine(name, plate, True, plate)


def tightening_rings(x_mm: ArrayLike, y_mm: ArrayLike, same_mm: float = SAME_RING_MM) -> list[list[int]]:
    """Fasteners (by index) in rings of nearly equal distance from the middle of the pattern, inner ring first."""
    x, y = np.asarray(x_mm, dtype=float), np.asarray(y_mm, dtype=float)
    if x.size == 0 or x.size != y.size:
        raise FitError("There are no fasteners to put in order")
    away = np.hypot(x - x.mean(), y - y.mean())
    # A pattern with an odd number at one end has its mean off the middle of the block; its outline has not.
    if np.ptp(away) > same_mm:  # no single circle: the middle of the pattern is that of its outline
        away = np.hypot(x - (x.max() + x.min()) / 2.0, y - (y.max() + y.min()) / 2.0)
    rings: list[list[int]] = []
    for i in np.argsort(away, kind="stable"):
        if rings and away[i] - away[rings[-1][0]] <= same_mm:
            rings[-1].append(int(i))
        else:
            rings.append([int(i)])
    return [sorted(ring) for ring in rings]


def tightening_order(x_mm: ArrayLike, y_mm: ArrayLike, same_mm: float = SAME_RING_MM) -> list[int]:
    """An order from the centre outwards, crossing over: within a ring each next one is the farthest from the last.

    Returns indices; of equal distances the lowest. Raises FitError without fasteners. Source: methods 16.

    >>> tightening_order([0, 0, 100, 100, 200, 200], [0, 90, 0, 90, 0, 90])
    [2, 3, 0, 5, 1, 4]
    """
    x, y = np.asarray(x_mm, dtype=float), np.asarray(y_mm, dtype=float)
    order: list[int] = []
    for ring in tightening_rings(x, y, same_mm):
        waiting = list(ring)
        while waiting:
            last = order[-1] if order else None
            nxt = waiting[0]
            if last is not None:
                # Rounded to a micrometre, so that two that are equally far are told apart by their number and not by the last bit.
                nxt = max(waiting, key=lambda i: (round(math.hypot(x[i] - x[last], y[i] - y[last]), 3), -i))  # noqa: B023
            waiting.remove(nxt)
            order.append(nxt)
    return order


@frozen(often=True)
class PlateLevel:
    """What the plate does at one level: amplitudes of cos 2(t - axis) and cos 4t in the diameter, mm.

    None: the chords do not carry it (three for the second harmonic, five for the fourth).
    """

    moved_mm: tuple[float, ...]
    mean_mm: float
    second_mm: float | None
    second_axis_deg: float | None
    fourth_mm: float | None


def on_off_level(clock_deg: Sequence[float], on_mm: Sequence[float], off_mm: Sequence[float]) -> PlateLevel:
    """Plate on less plate off at one level, n chords read both ways, diameters in mm at one temperature.

    Raises FitError without a chord. Source: methods 16.
    """
    moved = tuple(float(on) - float(off) for on, off in zip(on_mm, off_mm, strict=True))
    # The difference is fitted, not each condition by itself: what the hole was before drops out, and a chord that one of the two lacks is not filled in.
    fit = fit_level(clock_deg, moved)
    second, axis, fourth = None, None, None
    if fit.harmonics_used >= 1:
        second, axis = math.hypot(fit.cos_mm[0], fit.sin_mm[0]), fit.long_axis_deg
    if fit.harmonics_used >= 2:
        fourth = math.hypot(fit.cos_mm[1], fit.sin_mm[1])
    return PlateLevel(moved, fit.mean_mm, second, axis, fourth)


def customer_reads(finished_mm: float, moved_mm: ArrayLike) -> Array:
    """Diameters in mm that will be read with the plate off, of a hole finished to ``finished_mm`` under it."""
    return finished_mm - np.asarray(moved_mm, dtype=float)


def bearing_deg(along_mm: float, across_mm: float) -> float:
    """Clock angle of a point seen from a bore's centre: along grows to the back, across to the right of front-up."""
    return math.degrees(math.atan2(across_mm, -along_mm)) % 360.0


@frozen
class Nearest:
    """The place of the nearest, and how far it is turned away, degrees."""

    place: int
    apart_deg: float


def nearest_bearings(clock_deg: float, bearings_deg: Sequence[float]) -> Nearest:
    """Which of some bearings lies nearest to either end of a chord, and how far off, degrees (index, degrees)."""
    apart = [min(_turn(clock_deg, b), _turn(clock_deg + 180.0, b)) for b in bearings_deg]
    best = min(range(len(apart)), key=apart.__getitem__)
    return Nearest(best, apart[best])


def _turn(a_deg: float, b_deg: float) -> float:
    return abs((a_deg - b_deg + 180.0) % 360.0 - 180.0)
