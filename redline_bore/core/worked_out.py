"""Answers that take a heavy library, kept from one day to the next: what was worked out is worked out, and the first picture need not wait for it.

Pure functions of plain figures only. Where the answers are kept between two days is the program's matter; here they are only handed out and taken in.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Mapping
from functools import wraps
from typing import TypeVar

Key = tuple[str, str]  # the function and its figures
Ends = tuple[float, float]
MOST = 600

_known: OrderedDict[Key, Ends] = OrderedDict()
_asked: OrderedDict[Key, None] = OrderedDict()
T = TypeVar("T")


def take_in(answers: Mapping[Key, Ends]) -> None:
    """Answers that were worked out another day."""
    _known.update(answers)


def worth_keeping() -> dict[Key, Ends]:
    """The answers that were asked for last, the newest of them at the end."""
    return {key: _known[key] for key in list(_asked)[-MOST:] if key in _known}


def worked_out(make: Callable[[float, float], T], ends: Callable[[T], Ends]) -> Callable[[Callable[..., T]], Callable[..., T]]:  # fmt: skip
    """Decorator for a function of figures whose answer is two ends: it is worked out once, this day or another. ``make``, ``ends``: the answer from
    its ends, and its ends."""

    def kept(work: Callable[..., T]) -> Callable[..., T]:
        @wraps(work)
        def asked(*figures: object) -> T:
            key = (work.__qualname__, repr(figures))
            _asked[key] = None
            _asked.move_to_end(key)
            if len(_asked) > 4 * MOST:
                for old in list(_asked)[: 2 * MOST]:
                    del _asked[old]
                    _known.pop(old, None)
            if (found := _known.get(key)) is not None:
                return make(*found)
            answer = work(*figures)
            _known[key] = ends(answer)
            return answer

        return asked

    return kept
