"""Answers that take a heavy library, kept from one day to the next: what was worked out is worked out, and the first picture need not wait for it.

Pure functions of plain figures only. Where the answers are kept between two days is the program's matter; here they are only handed out and taken in.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Mapping
from functools import wraps
from threading import Lock
from typing import Any, TypeVar

from redline_bore.core.frozen import declared
from redline_bore.core.sums import hex_sum

Plain = list[Any]  # figures, texts and lists of them, as JSON has them
MOST = 1200

_known: OrderedDict[str, Plain] = OrderedDict()
_asked: OrderedDict[str, None] = OrderedDict()
_together = Lock()  # pictures are worked out beside the window
T = TypeVar("T")


def take_in(answers: Mapping[str, Plain]) -> None:
    """Answers that were worked out another day, by the function and its figures."""
    with _together:
        _known.update(answers)


def worth_keeping() -> dict[str, Plain]:
    """As many answers as are worth it: those that were asked for last at the end, what was only taken in before them."""
    with _together:
        keys = [key for key in _known if key not in _asked] + [key for key in _asked if key in _known]
        return {key: _known[key] for key in keys[-MOST:]}


def worked_out(make: Callable[..., T], plain: Callable[[T], Plain] | None = None) -> Callable[[Callable[..., T]], Callable[..., T]]:  # fmt: skip
    """Decorator for a function of figures: it is worked out once, this day or another.

    make: the answer from its plain figures; plain: those figures, by default the fields of ``make``, in their order. Tuples come back as
    tuples. The figures asked with are told apart to their last bit.
    """

    def kept(work: Callable[..., T]) -> Callable[..., T]:
        name = f"{work.__module__}.{work.__qualname__}"

        @wraps(work)
        def asked(*figures: object) -> T:
            key = hex_sum(f"{name}{figures!r}".encode())
            with _together:
                _asked[key] = None
                _asked.move_to_end(key)
                if len(_asked) > 4 * MOST:
                    for old in list(_asked)[: 2 * MOST]:
                        del _asked[old]
                        _known.pop(old, None)
                found = _known.get(key)
            if found is not None:
                return make(*map(_whole, found))
            answer = work(*figures)  # two that ask at once both work it out, and find the same
            with _together:
                _known[key] = fields_of(answer) if plain is None else plain(answer)
            return answer

        return asked

    return kept


def _whole(value: Any) -> Any:
    return tuple(map(_whole, value)) if type(value) is list else value


def fields_of(answer: Any) -> Plain:
    """What an answer is made of, in the order of its fields."""
    return [getattr(answer, name) for name in declared(type(answer))]
