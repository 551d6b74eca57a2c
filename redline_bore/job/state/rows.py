"""Rows that grow: a ledger of ten thousand readings is folded one entry at a time, and every state keeps its own view."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from typing import Generic, TypeVar, overload

T = TypeVar("T")


class Rows(Sequence[T], Generic[T]):
    """An unchanging sequence. ``plus`` gives one with a row more; both share one list, so growing costs no copying.

    Only the newest view may grow the list in place; an older one that grows copies first. Safe to read from other threads:
    nobody looks beyond their own length, and no row is ever replaced.

    >>> one = Rows((1, 2))
    >>> two = one.plus(3)
    >>> list(one), list(two)
    ([1, 2], [1, 2, 3])
    """

    __slots__ = ("_rows", "_count")

    def __init__(self, rows: Iterable[T] = ()) -> None:
        self._rows: list[T] = list(rows)
        self._count = len(self._rows)

    def plus(self, *rows: T) -> Rows[T]:
        """These rows and some more behind them."""
        new: Rows[T] = Rows.__new__(Rows)
        new._rows, new._count = self._with(*rows)
        return new

    def _with(self, *rows: T) -> tuple[list[T], int]:
        """The list and the count of the view that has some more rows."""
        shared = self._rows if len(self._rows) == self._count else self._rows[: self._count]
        shared.extend(rows)
        return shared, self._count + len(rows)

    def __len__(self) -> int:
        return self._count

    @overload
    def __getitem__(self, place: int) -> T: ...
    @overload
    def __getitem__(self, place: slice) -> tuple[T, ...]: ...
    def __getitem__(self, place: int | slice) -> T | tuple[T, ...]:
        if isinstance(place, slice):
            return tuple(self._rows[: self._count][place] if self._count < len(self._rows) else self._rows[place])
        if not -self._count <= place < self._count:
            raise IndexError(f"Row {place} of {self._count}")
        return self._rows[place + self._count if place < 0 else place]

    def __iter__(self) -> Iterator[T]:
        rows = self._rows
        for i in range(self._count):
            yield rows[i]

    def __reversed__(self) -> Iterator[T]:
        for i in range(self._count - 1, -1, -1):
            yield self._rows[i]

    def __eq__(self, other: object) -> bool:
        if isinstance(other, Rows) and other._rows is self._rows:
            return other._count == self._count  # one list, of which no row is ever replaced
        if isinstance(other, (Rows, tuple)):
            return len(self) == len(other) and self[:] == (other if isinstance(other, tuple) else other[:])
        return NotImplemented

    def __hash__(self) -> int:
        return (
            hash((self._count, self[0], self[-1])) if self._count else 0
        )  # equal rows have equal ends; a long ledger is asked often

    def __repr__(self) -> str:
        return f"Rows({list(self)!r})"
