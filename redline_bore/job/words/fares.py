"""How a cylinder fares under a call, in words."""

from __future__ import annotations

from redline_bore.job.call.finding import CallFinding, CallVerdict
from redline_bore.job.call.ladder import Column, Fares, Fate, Worn
from redline_bore.job.card import Mark

FARES = {
    Fares.SLEEVED: ("sleeved", Mark.SOUND),
    Fares.CRACKED: ("cracked", Mark.STOP),
    Fares.TOO_THIN: ("wall too thin", Mark.STOP),
    Fares.NOT_KNOWN: ("not known", Mark.LOOK),
    Fares.CLEANS_UP: ("cleans up", Mark.SOUND),
    Fares.MAY_SHADOW: ("may leave a shadow", Mark.LOOK),
    Fares.WILL_NOT: ("will not clean up", Mark.STOP),
}
LOOK_INTO = ("look into it", Mark.LOOK)
FARES_SHORT: dict[str, str] = {
    Fares.MAY_SHADOW: "may shadow",
    Fares.WILL_NOT: "will not clean",
}  # where a bore's room is all there is


def fate_words(fate: Fate, cut: bool = False) -> tuple[str, Mark]:
    """How a cylinder fares where it is ticked: what cleans up, and may leave too little wall, is not. cut: it is cut as called, and what
    it was worn to is gone."""
    if fate.cut_larger and fate.fares is Fares.WILL_NOT:
        return "cut larger", Mark.STOP
    done = cut and fate.fares in (Fares.CLEANS_UP, Fares.MAY_SHADOW)
    if (done or fate.fares is Fares.CLEANS_UP) and not fate.wall_stands:
        return "wall not sure", Mark.LOOK
    if done:
        return "cut", Mark.PLAIN
    return FARES[fate.fares]


def called_words(found: CallFinding, fate: Fate) -> tuple[str, Mark]:
    """How a cylinder fares in a call as it stands: once that is cut, what is to be looked into."""
    cut = found.verdict is CallVerdict.CUT
    if found.verdict is CallVerdict.LIKELY and fate.fares is Fares.MAY_SHADOW:
        return ("likely", Mark.LIKELY) if fate.wall_stands or fate.column.unread else ("wall not sure", Mark.LOOK)
    return LOOK_INTO if cut and fate.cylinder in found.cylinders else fate_words(fate, cut)


def fares_words(fares: Fares) -> tuple[str, Mark]:
    """How a cylinder fares, and its mark."""
    return FARES[fares]


WORN = {
    Worn.NOT_GAUGED: "not gauged",
    Worn.NO_UNWORN_PLACE: "no unworn place read",
    Worn.ROUND: "worn",
    Worn.THRUST: "thrust wear",
    Worn.PIN_AXIS: "pin-axis wear",
    Worn.ASKEW: "wear at a slant",
}


def worn_words(column: Column) -> str:
    """How a cylinder is worn, as the ladder's foot says it: the flaw by its name, where one decides."""
    flaw = column.shape.deciding_defect
    return flaw.what if column.worn is Worn.BY_DEFECT and flaw is not None else WORN[column.worn]
