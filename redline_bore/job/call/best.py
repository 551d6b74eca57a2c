"""Which of the ways is best, how sure that is, and which is sure where it may fail."""

from __future__ import annotations

from collections.abc import Sequence
from enum import Enum, auto

from redline_bore.core.frozen import frozen
from redline_bore.job.call.light_options import LIGHT_KEYS
from redline_bore.job.call.option import MAY, NO, SURE, UNKNOWN, Option, OptionKind

LIKELY_FROM = 0.75  # under it a look comes first, and nothing is called likely


class Best(Enum):
    """How the best way stands."""

    NOTHING_KNOWN = auto()
    MAY_DO = auto()  # it takes least metal, and one reading may make it sure
    LIKELY = auto()  # so likely that the next size costs more, and nothing is worth reading first
    NOT_SURE = auto()  # no reading settles it, and nothing surer is left
    SURE = auto()


@frozen
class BestFinding:
    """The best of the ways; ``otherwise``: the first that is sure, where the best may fail."""

    call: Best
    best: Option
    otherwise: Option | None = None


def best_of(options: Sequence[Option]) -> BestFinding:
    """How the best of some ways stands; ``options``: at least one, the best first."""
    best = options[0]
    if best.standing in (UNKNOWN, NO):
        return BestFinding(Best.NOTHING_KNOWN, best)
    if best.standing is SURE:
        return BestFinding(Best.SURE, best)
    sure = next((o for o in options[1:] if o.standing is SURE and o.kind is not OptionKind.SCRAP), None)
    likely_enough = best.worth and (best.chance or 0.0) >= LIKELY_FROM
    return BestFinding(Best.MAY_DO if best.needs else Best.LIKELY if likely_enough else Best.NOT_SURE, best, sure)


def can_pick(option: Option) -> bool:
    """Whether Enter does anything with an option: to bore, not known to fail; to bore nothing, at least may do."""
    if option.oversize_mm is not None:
        return option.standing is not NO
    return option.key in LIGHT_KEYS and option.standing in (SURE, MAY)
