"""What is missing before a figure can be told, as it goes on in a sentence."""

from __future__ import annotations

from redline_bore.job.missing import Lack, Missing

UNTESTED = "a crack or a weld, and no pressure test that found it tight"  # why no metal is taken


def say_missing(missing: Missing | None) -> str:
    """What is missing; empty where nothing is.

    >>> say_missing(Missing(Lack.PISTON, 3))
    'measure piston 3 at its gauge point'
    """
    if missing is None:
        return ""
    lack, plates = Lack, " and ".join("on" if on else "off" for on in missing.plates)
    return {
        lack.CALL: "take the call first", lack.BORES_NOTHING: "the call is to bore nothing; count strokes and stop by the ring's gap",
        lack.PISTON: f"measure piston {missing.cylinder} at its gauge point", lack.OTHER_PISTON: f"measure piston {missing.cylinder} again, it is none of the call",
        lack.TO_BE_SLEEVED: "it is to be sleeved",
        lack.NOT_GAUGED: "it is not gauged", lack.NO_STOCK: "there is no stock for the bar: it is the hone's work",
        lack.PARENT: "gauge the parent bore", lack.NEW_SLEEVE: "measure the sleeve that goes in",
        lack.DO_NOT_GO: "sleeve, parent and its outside do not go into each other: measure them again",
        lack.NO_REACH: "the parent does not reach round this sleeve: measure both again, or take a smaller one",
        lack.PLATE: f"gauge it with the plate {plates}", lack.SAME_PLACES: "read the same levels and angles both ways",
    }[missing.what]  # fmt: skip
