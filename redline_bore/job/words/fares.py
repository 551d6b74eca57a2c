"""How a cylinder fares under a call, in words."""

from __future__ import annotations

from redline_bore.job.call.ladder import Fares
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
FARES_SHORT = {Fares.MAY_SHADOW: "may shadow", Fares.WILL_NOT: "will not clean"}  # where a bore's room is all there is


def fares_words(fares: Fares) -> tuple[str, Mark]:
    """How a cylinder fares, and its mark."""
    return FARES[fares]
