"""Answers worked out once a state: a state never changes, so neither does what follows from it. Declared where they are defined."""

from __future__ import annotations

from collections.abc import Callable
from functools import wraps
from typing import TYPE_CHECKING, Any, Concatenate, ParamSpec, TypeVar

if TYPE_CHECKING:
    from redline_bore.job.state.job_state import JobState

P = ParamSpec("P")
T = TypeVar("T")


def once_a_state(work: Callable[Concatenate[JobState, P], T]) -> Callable[Concatenate[JobState, P], T]:
    """Decorator: the function's answer is kept with the state it was asked of, by the other arguments (hashable).

    An exception is not kept. The answers go when the state goes.
    """

    @wraps(work)
    def asked(state: JobState, *given: P.args, **named: P.kwargs) -> T:
        key = (work, given, tuple(sorted(named.items())))
        kept: dict[Any, Any] = state.memo
        if key not in kept:
            kept[key] = work(state, *given, **named)
        answer: T = kept[key]
        return answer

    return asked  # type: ignore[return-value]  # wraps() forgets that the state has no name
