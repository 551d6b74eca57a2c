"""What is missing before a figure can be told: a finding; its words stand in ``words/missing.py``."""

from __future__ import annotations

from enum import Enum, auto

from redline_bore.core.frozen import frozen


class Lack(Enum):
    """What has to be done, measured or decided first."""

    CALL = auto()  # the call is not taken
    BORES_NOTHING = auto()  # the call is to bore nothing
    PISTON = auto()  # the piston meant for a cylinder
    OTHER_PISTON = auto()  # the one that was measured is none of the call
    TO_BE_SLEEVED = auto()
    NOT_GAUGED = auto()
    NO_STOCK = auto()  # there is none for the bar
    PARENT = auto()
    NEW_SLEEVE = auto()
    DO_NOT_GO = auto()  # sleeve, parent and its outside do not go into each other
    NO_REACH = auto()  # the parent does not reach round the sleeve
    PLATE = auto()  # not gauged with the plate one way, or either way
    SAME_PLACES = auto()  # both ways, and no place in common


@frozen
class Missing:
    """What is missing, and of which cylinder. plates: with the plate on (True) or off, where that is what was not gauged."""

    what: Lack
    cylinder: int = 0
    plates: tuple[bool, ...] = ()
