"""Why a way with a sleeve stands as it does, and what would tell more: findings, without words."""

from __future__ import annotations

from enum import Enum, auto

from redline_bore.core.frozen import frozen
from redline_bore.job.missing import Missing


class SleeveWhy(Enum):
    """What speaks for or against a way. Which figures of a ``SleeveReason`` go with it stands beside it."""

    GOES = auto()  # it grips all round, under its limit, and the finish takes the oval out
    HERE = auto()  # the sleeve is here, measured
    TO_BE_HAD = auto()  # the parent is round again; the sleeve has to be had
    TWO_SEATS = auto()  # the sleeve at hand is kept; two seats to cut
    PARENT_SMALL = auto()  # mm: by how much
    NOT_SEATED = auto()  # nothing presses it where the parent is widest
    GRIPS_IN_PART = auto()  # share of the wall without grip
    OVAL_HIDDEN = auto()
    OVAL_UNKNOWN = auto()
    HOOP_OVER = auto()  # mpa: low, high, limit
    HOOP_CLOSE = auto()  # the same
    NO_REDLINE = auto()  # missing
    OVAL_OVER_FINISH = auto()  # mm: the oval, what is left to finish
    OVAL_NEAR_FINISH = auto()  # the same
    WALL_UNREAD = auto()
    WALL_THIN = auto()  # mm: what would stand, the least
    WALL_GONE = auto()  # the same
    GRIPS_LITTLE = auto()  # mm: interference, what it lacks
    GRIPS_MUCH = auto()  # mm: interference, how far it is over
    NO_WALL_BEHIND = auto()
    SLEEVE_THIN = auto()  # mm: its wall, the least
    NOT_ROUND = auto()  # mm: the parent it wants, where the parent cleans up


@frozen
class SleeveReason:
    """One thing that speaks for or against a way with a sleeve."""

    why: SleeveWhy
    mm: tuple[float, ...] = ()
    mpa: tuple[float, ...] = ()
    share: float = 0.0
    missing: Missing | None = None


class SleeveMeasure(Enum):
    """What would make a way sure."""

    FOUR_ANGLES = auto()
    OUTSIDE = auto()  # the parent's
    PARENT_WALL = auto()
    REDLINE = auto()  # missing


@frozen
class SleeveNeed:
    """One thing to measure."""

    what: SleeveMeasure
    missing: Missing | None = None
