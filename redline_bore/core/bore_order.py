"""In which order holes are bored, so that neighbours do not heat each other (methods 8)."""

from __future__ import annotations

from collections.abc import Sequence

from redline_bore.core.errors import InputError
from redline_bore.core.frozen import frozen

COUNTS_PER_MM = 10000  # distances are compared in tenths of a micron, so that equal ones are equal
MOST_HOLES = 12


@frozen
class BoreOrder:
    """The order, and how far the bar moves: the shortest step between two holes in turn, and all of them, mm."""

    numbers: tuple[int, ...]
    smallest_gap_mm: float
    sum_of_gaps_mm: float


def bore_order(numbers: Sequence[int], along_mm: Sequence[float]) -> BoreOrder:
    """The order over one bank in which the cuts lie far apart.

    The order over one bank with the largest smallest distance between holes in turn, then the largest sum, then the lowest number first. Exact, over all orders. Raises InputError without holes or with more than twelve.
    """
    if not numbers or len(numbers) != len(along_mm) or len(numbers) > MOST_HOLES:
        raise InputError(f"An order is worked out for 1 to {MOST_HOLES} holes of one bank")
    if len(numbers) == 1:
        return BoreOrder(tuple(numbers), 0.0, 0.0)
    ranked = sorted(range(len(numbers)), key=lambda i: numbers[i])
    at = [round(along_mm[i] * COUNTS_PER_MM) for i in ranked]
    steps = sorted({abs(a - b) for a in at for b in at if a != b} or {0}, reverse=True)
    for least in steps:
        if (path := _longest_path(at, least)) is not None:
            gaps = [abs(at[a] - at[b]) / COUNTS_PER_MM for a, b in zip(path, path[1:], strict=False)]
            return BoreOrder(tuple(numbers[ranked[i]] for i in path), min(gaps), sum(gaps))
    raise InputError("Two holes stand at the same place")


def _longest_path(at: Sequence[int], least: int) -> tuple[int, ...] | None:
    """The longest way through all places with every step at least ``least``; the first of equals. None: there is none.

    Held and Karp: the best way from each place through each set of places still to do.
    """
    count, whole = len(at), (1 << len(at)) - 1
    best: dict[tuple[int, int], tuple[int, tuple[int, ...]]] = {}

    def from_here(here: int, done: int) -> tuple[int, tuple[int, ...]] | None:
        if done == whole:
            return 0, (here,)
        if (here, done) not in best:
            found: tuple[int, tuple[int, ...]] | None = None
            for there in range(count):
                step = abs(at[here] - at[there])
                if done >> there & 1 or step < least:
                    continue
                rest = from_here(there, done | 1 << there)
                if rest is not None and (found is None or rest[0] + step > found[0]):
                    found = rest[0] + step, (here, *rest[1])
            best[here, done] = found or (-1, ())
        length, path = best[here, done]
        return (length, path) if path else None

    ways = [way for start in range(count) if (way := from_here(start, 1 << start)) is not None]
    return max(ways, key=lambda way: way[0])[1] if ways else None
