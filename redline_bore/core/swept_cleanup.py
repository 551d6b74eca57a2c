"""What size cleans up a hole that was swept, about a chosen axis (methods 5). Lengths in mm; sizes on diameter.

An axis is given by its place at the deck (depth 0) and at the deepest level swept; x points to clock 0, y to clock 90,
from the spindle's axis. A defect belongs to the nearest wall point swept, its depth counted from the wall there.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from functools import lru_cache
from typing import TYPE_CHECKING, Any, Literal

from redline_bore.core.cleanup_bound import BoundTerms, Lacks, Mark, SweptBound, bound_swept
from redline_bore.core.errors import FitError
from redline_bore.core.frozen import frozen
from redline_bore.core.late import np
from redline_bore.core.sweep import exchange, points_of
from redline_bore.core.worked_out import worked_out

if TYPE_CHECKING:
    from numpy.typing import ArrayLike, NDArray

    Array = NDArray[np.float64]

SLACK_MM = 1e-6  # how much of the least size may be given up to stay near the present hole


@frozen
class CutAxis:
    """Where the bar stands: at the deck and at the deepest level, mm off the spindle's axis."""

    deck_x_mm: float
    deck_y_mm: float
    deep_x_mm: float
    deep_y_mm: float


@frozen
class PointDefect:
    """A defect on the wall: where its deepest place lies, and how deep on radius it is."""

    depth_mm: float
    clock_deg: float
    deep_mm: float


@frozen
class SweptWall:
    """Every point swept: place x, y, depth z (mm), its clock angle (degrees), and what a defect adds on radius."""

    x_mm: Any
    y_mm: Any
    z_mm: Any
    clock_deg: Any
    defect_mm: Any

    @property
    def deepest_mm(self) -> float:
        """Depth of the deepest sweep, mm."""
        return float(self.z_mm.max())


@frozen
class WallPoint:
    """A place of the wall by its true distance from the cut's axis and its depth, mm, and its clock angle, degrees."""

    radius_mm: float
    depth_mm: float
    clock_deg: float


@frozen
class RequiredCut:
    """The smallest size that leaves no shadow about an axis, and the place that decides it."""

    size_mm: float
    axis: CutAxis
    depth_mm: float
    clock_deg: float


@frozen
class Turn:
    """A sweep as it stands in a job: its depth, mm, its clock angles in degrees and its radii, mm."""

    depth_mm: float
    clock_deg: tuple[float, ...]
    radius_mm: tuple[float, ...]


def _cut_from(
    size_mm: float, deck: tuple[float, float], deep: tuple[float, float], depth_mm: float, clock_deg: float
) -> RequiredCut:
    return RequiredCut(size_mm, CutAxis(*deck, *deep), depth_mm, clock_deg)


def _cut_told(cut: RequiredCut) -> list[object]:
    axis = cut.axis
    return [
        cut.size_mm,
        (axis.deck_x_mm, axis.deck_y_mm),
        (axis.deep_x_mm, axis.deep_y_mm),
        cut.depth_mm,
        cut.clock_deg,
    ]


@lru_cache(maxsize=64)
@worked_out(_cut_from, _cut_told)
def cut_of_sweeps(
    turns: tuple[Turn, ...],
    defects: tuple[PointDefect, ...],
    skin_mm: float,
    about: CutAxis | Literal["square", "leaning"],
) -> RequiredCut:
    """The smallest cut that cleans up what was swept, about an axis, or about the one that needs least metal. As ``required_about`` and
    ``least_metal``; raises FitError as they do."""
    wall = swept_wall([t.depth_mm for t in turns], [t.clock_deg for t in turns], [t.radius_mm for t in turns], defects)
    if isinstance(about, CutAxis):
        return required_about(wall, about, skin_mm)
    return least_metal(wall, skin_mm, about == "leaning")


def _bound_from(
    low_mm: float, high_mm: float, depth_mm: float, clock_deg: float, mark: int, lacks: tuple[str, ...]
) -> SweptBound:
    return SweptBound(low_mm, high_mm, depth_mm, clock_deg, mark, tuple(Lacks[name] for name in lacks))


def _bound_told(b: SweptBound) -> list[object]:
    return [b.low_mm, b.high_mm, b.depth_mm, b.clock_deg, b.mark, tuple(lack.name for lack in b.lacks)]


@lru_cache(maxsize=64)
@worked_out(_bound_from, _bound_told)
def bound_of_sweeps(
    turns: tuple[Turn, ...], axis: CutAxis, beyond: tuple[WallPoint, ...], reference_radius_mm: float, marks: tuple[Mark, ...],
    terms: BoundTerms, by_crank_line: bool, lacks: tuple[Lacks, ...],
) -> SweptBound:  # fmt: skip
    """The bound (``bound_swept``) from what was swept and from places ``beyond`` it, about an axis."""
    wall = swept_wall([t.depth_mm for t in turns], [t.clock_deg for t in turns], [t.radius_mm for t in turns])
    return bound_swept(
        reference_radius_mm,
        distances(wall, axis).tolist() + [p.radius_mm for p in beyond],
        wall.z_mm.tolist() + [p.depth_mm for p in beyond],
        wall.clock_deg.tolist() + [p.clock_deg for p in beyond],
        marks, terms, by_crank_line, lacks,
    )  # fmt: skip


def swept_wall(
    depth_mm: ArrayLike,
    clock_deg: Sequence[ArrayLike],
    radius_mm: Sequence[ArrayLike],
    defects: Sequence[PointDefect] = (),
) -> SweptWall:
    """The wall of m >= 1 sweeps off one spindle axis. Raises FitError for a sweep that carries no circle."""
    depths = np.asarray(depth_mm, dtype=float)
    if depths.size == 0:
        raise FitError("Nothing was swept; set an indicator up on the spindle and sweep the hole")
    rows = [points_of(c, r) for c, r in zip(clock_deg, radius_mm, strict=True)]
    x, y = np.concatenate([r[0] for r in rows]), np.concatenate([r[1] for r in rows])
    z = np.concatenate([np.full(r[0].size, d) for r, d in zip(rows, depths, strict=True)])
    clocks = np.concatenate([np.asarray(c, dtype=float).ravel() for c in clock_deg])
    added = np.zeros(x.size)
    for d in defects:
        # Arc and depth in mm, so that "nearest" is nearest on the wall and not in degrees.
        turn = np.abs((clocks - d.clock_deg + 180.0) % 360.0 - 180.0)
        away = np.hypot(z - d.depth_mm, np.deg2rad(turn) * np.hypot(x, y))
        nearest = int(np.argmin(away))
        # Two flaws at one place do not add: the deeper one is cut out, and the other with it.
        added[nearest] = max(added[nearest], d.deep_mm)
    return SweptWall(x, y, z, clocks, added)


def distances(wall: SweptWall, axis: CutAxis) -> Array:
    """True distance of every wall point from an axis, mm."""
    # The axis is a straight line through its places at the deck and at the deepest level; a nearly square one keeps each level's distance in the level's plane.
    share = wall.z_mm / max(wall.deepest_mm, 1e-9)
    away: Array = np.hypot(
        wall.x_mm - axis.deck_x_mm - share * (axis.deep_x_mm - axis.deck_x_mm),
        wall.y_mm - axis.deck_y_mm - share * (axis.deep_y_mm - axis.deck_y_mm),
    )
    return away


def required_about(wall: SweptWall, axis: CutAxis, skin_mm: float) -> RequiredCut:
    """Twice the largest of true distance from the axis + defect + skin. Source: methods 5."""
    need = distances(wall, axis) + wall.defect_mm + skin_mm
    worst = int(np.argmax(need))
    return RequiredCut(2.0 * float(need[worst]), axis, float(wall.z_mm[worst]), float(wall.clock_deg[worst]))


def least_metal(wall: SweptWall, skin_mm: float, tilted: bool) -> RequiredCut:
    """The axis about which the smallest cut cleans up, square to the spindle or leaning with the hole.

    A linear programme, run again about the axis found, reported in true distance; of equal axes the one nearest the
    present hole. Source: methods 5.
    """
    u = wall.z_mm / max(wall.deepest_mm, 1e-9)
    basis_of = _basis(wall, u, tilted)
    # The hole's own middle is where the search starts and, among equal answers, where it stays.
    hole = np.array([wall.x_mm.mean(), wall.y_mm.mean()] + [0.0, 0.0] * tilted)
    found = exchange(basis_of, hole, "circumscribed")
    found = _nearest(basis_of, found, hole)
    lean = found[2:] if tilted else np.zeros(2)
    axis = CutAxis(float(found[0]), float(found[1]), float(found[0] + lean[0]), float(found[1] + lean[1]))
    return required_about(wall, axis, skin_mm)


def _basis(wall: SweptWall, u: Array, tilted: bool) -> Callable[[Array], tuple[Array, Array]]:
    """Distance plus defect, and its derivatives by the axis's place at the deck and its lean to the deepest level."""

    def basis_of(at: Array) -> tuple[Array, Array]:
        lean = at[2:] if tilted else np.zeros(2)
        dx, dy = wall.x_mm - at[0] - u * lean[0], wall.y_mm - at[1] - u * lean[1]
        # The distance is linear in the axis only near where it was taken; the exchange runs the programme again about each axis found.
        away = np.hypot(dx, dy)
        columns = [-dx / away, -dy / away] + ([-dx * u / away, -dy * u / away] if tilted else [])
        return away + wall.defect_mm, np.column_stack(columns)

    return basis_of


def _nearest(basis_of: Callable[[Array], tuple[Array, Array]], found: Array, hole: Array) -> Array:
    """Of all axes that need no more metal than ``found``, the one nearest to ``hole`` (sum of distances along x, y)."""
    from scipy.optimize import linprog

    away, slope = basis_of(found)
    count, most = found.size, float(away.max()) + SLACK_MM
    # Only places that could become the deciding one while the axis moves towards the hole have to be held: a step of length L changes a
    # distance by at most L, on both sides.
    held = away > most - 4.0 * max(float(np.abs(found - hole).sum()), 1e-3)
    # |step - (hole - found)| by two rows a coordinate with a slack each: the usual way to make a sum of distances linear.
    eye = np.eye(count)
    rows = np.vstack(
        [
            np.hstack([slope[held], np.zeros((int(held.sum()), count))]),
            np.hstack([eye, -eye]),
            np.hstack([-eye, -eye]),
        ]
    )
    limits = np.concatenate([most - away[held], hole - found, found - hole])
    cost = np.concatenate([np.zeros(count), np.ones(count)])
    bounds = [(-5.0, 5.0)] * count + [(0.0, None)] * count
    answer = linprog(cost, A_ub=rows, b_ub=limits, bounds=bounds, method="highs")
    if not answer.success:
        return found
    # Taken only where the true distances, not their linear copies, still need no more metal.
    nearer: Array = found + answer.x[:count]
    return nearer if float(basis_of(nearer)[0].max()) <= float(away.max()) + 10.0 * SLACK_MM else found


def shadow_depth(wall_radius_mm: ArrayLike, size_mm: float, skin_mm: float, offset_mm: ArrayLike = 0.0) -> Array:
    """By how much (mm on radius) the wall lies out of reach of a cut; plus is shadow. Any shape.

    wall_radius_mm: distance of the wall from the cut's axis; offset_mm: what defects add to it.
    """
    depth: Array = (
        np.asarray(wall_radius_mm, dtype=float) + np.asarray(offset_mm, dtype=float) + skin_mm - size_mm / 2.0
    )
    return depth


def axis_through(x_mm: float, y_mm: float) -> CutAxis:
    """An axis square to the spindle's base through (x, y)."""
    if not (math.isfinite(x_mm) and math.isfinite(y_mm)):
        raise FitError("The centre of the hole is not known there; sweep it")
    return CutAxis(x_mm, y_mm, x_mm, y_mm)
