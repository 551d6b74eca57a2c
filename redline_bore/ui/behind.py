"""What a page asks of the logbook: read off the interface thread, once for each key, and shown as soon as it is there."""

from __future__ import annotations

from collections.abc import Callable, Hashable
from typing import Generic, TypeVar

from redline_bore.core.errors import BenchError
from redline_bore.ui.background import Runner

T = TypeVar("T")


class Behind(Generic[T]):
    """One question. ``then``: what is done when an answer came later than it was asked for."""

    def __init__(self, runner: Runner, name: str, then: Callable[[], None]) -> None:
        self._runner, self._name, self._then = runner, name, then
        self._asked: Hashable = None
        self._found: T | None = None
        self._here = False  # the question is being asked: nobody need be told of the answer

    def of(self, key: Hashable, read: Callable[[], T]) -> T | None:
        """The answer for a key; None until it is there: never the answer to another."""
        if key != self._asked:
            self._asked, self._found, self._here = key, None, True
            try:
                self._runner.quickly(self._name, lambda _token: read(), self._take, self._failed)
            finally:
                self._here = False
        return self._found

    def _take(self, found: T) -> None:
        self._found = found
        if not self._here:
            self._then()

    def _failed(self, error: BaseException) -> None:
        """That the logbook cannot be read is told by who listens to it, and it is asked again; anything else is a mistake."""
        self._asked = None
        if not isinstance(error, BenchError):
            raise error
