"""Pistons to bores (methods 7): least sum of squared misses, and what taking the nearest one by one would give. mm."""

from __future__ import annotations

from collections.abc import Collection
from typing import TYPE_CHECKING

from redline_bore.core.errors import FitError
from redline_bore.core.frozen import frozen
from redline_bore.core.late import np

if TYPE_CHECKING:
    from numpy.typing import ArrayLike, NDArray

    Array = NDArray[np.float64]


@frozen(often=True)
class Assignment:
    """Which piston (index) goes into each bore, the clearances, and how far they miss what is wanted, mm and mm2.

    nearest_first_mm2: the sum when each bore in turn takes the nearest piston left; None: that way ends in a dead end.
    """

    piston_for_bore: tuple[int, ...]
    clearance_mm: tuple[float, ...]
    sum_of_squares_mm2: float
    worst_miss_mm: float
    nearest_first: tuple[int, ...] | None
    nearest_first_mm2: float | None

    @property
    def better_than_nearest(self) -> bool:
        """Whether it beats taking the nearest piston bore by bore."""
        return self.nearest_first_mm2 is None or self.sum_of_squares_mm2 < self.nearest_first_mm2 - 1e-12


def assign_pistons(
    bore_mm: ArrayLike, piston_mm: ArrayLike, wanted_mm: float, forbidden: Collection[tuple[int, int]] = ()
) -> Assignment:
    """One piston to every bore, spares left over. forbidden: (bore, piston) index pairs that must not meet.

    Raises FitError when there are too few pistons, or the forbidden pairs leave a bore without one. Source: methods 7.

    >>> assign_pistons([92.00, 92.02], [91.95, 91.93], 0.07).piston_for_bore
    (1, 0)
    """
    from scipy.optimize import linear_sum_assignment  # here, not above: SciPy costs a second at start

    bores, pistons = np.asarray(bore_mm, dtype=float), np.asarray(piston_mm, dtype=float)
    if bores.size == 0 or pistons.size < bores.size:
        raise FitError(f"{pistons.size} pistons for {bores.size} bores: measure the rest of the set")
    cost = (bores[:, None] - pistons[None, :] - wanted_mm) ** 2
    for bore, piston in forbidden:
        cost[bore, piston] = np.inf
    try:
        rows, columns = linear_sum_assignment(cost)
    except ValueError as error:
        raise FitError("The pairs that are ruled out leave a bore without a piston") from error
    chosen = columns[np.argsort(rows)]
    misses = bores - pistons[chosen] - wanted_mm
    nearest = _nearest_first(cost)
    return Assignment(
        tuple(int(i) for i in chosen),
        tuple(float(c) for c in bores - pistons[chosen]),
        float((misses**2).sum()),
        float(np.abs(misses).max()),
        nearest,
        None if nearest is None else float(sum(cost[i, p] for i, p in enumerate(nearest))),
    )


def _nearest_first(cost: Array) -> tuple[int, ...] | None:
    left, taken = set(range(cost.shape[1])), []
    for row in cost:
        piston = min(left, key=lambda p: row[p])  # noqa: B023
        if not np.isfinite(row[piston]):
            return None
        left.remove(piston)
        taken.append(piston)
    return tuple(taken)
