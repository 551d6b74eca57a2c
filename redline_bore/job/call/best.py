"""Which of the ways is best, how sure that is, and whether one measurement could put another first."""

from __future__ import annotations

from collections.abc import Sequence
from enum import Enum, auto

from redline_bore.core.frozen import frozen
from redline_bore.job.call.light_options import LIGHT_KEYS
from redline_bore.job.call.option import MAY, NO, SURE, UNKNOWN, Option


class Best(Enum):
    """How the best way stands."""

    NOTHING_KNOWN = auto()
    MAY_DO = auto()
    CLOSE = auto()  # sure, but another may do with less metal
    SURE = auto()


@frozen
class BestFinding:
    """The best of the ways; ``runner_up``: what makes it a close call."""

    call: Best
    best: Option
    runner_up: Option | None = None


def best_of(options: Sequence[Option]) -> BestFinding:
    """How the best of some ways stands; ``options``: at least one, the best first."""
    best = options[0]
    if best.standing in (UNKNOWN, NO):
        return BestFinding(Best.NOTHING_KNOWN, best)
    if best.standing is MAY:
        return BestFinding(Best.MAY_DO, best)
    close = close_call(options)
    return BestFinding(Best.SURE if close is None else Best.CLOSE, best, close)


def close_call(options: Sequence[Option]) -> Option | None:
    """The runner-up to a sure best, where one measurement could put it first: it needs something and takes less metal."""
    best = options[0]
    if best.standing is not SURE:
        return None
    return next(
        (
            o
            for o in options[1:]
            if o.standing is MAY
            and o.needs
            and o.most_stock_mm is not None
            and o.most_stock_mm < (best.most_stock_mm or 0.0) - 1e-6
            and o.oversize_mm is not None
        ),
        None,
    )


def can_pick(option: Option) -> bool:
    """Whether Enter does anything with an option: to bore, not known to fail; to bore nothing, at least may do."""
    if option.oversize_mm is not None:
        return option.standing is not NO
    return option.key in LIGHT_KEYS and option.standing in (SURE, MAY)
