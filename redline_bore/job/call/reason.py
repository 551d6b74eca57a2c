"""Why a way with the block stands as it does, and what would tell more: findings, without words."""

from __future__ import annotations

from enum import Enum, auto

from redline_bore.core.frozen import frozen
from redline_bore.job.call.asks import Ask
from redline_bore.job.call.ladder import OutOfLimits


class Why(Enum):
    """What speaks for or against a way. Which figures of a ``Reason`` go with it stands beside it."""

    LEAST_SIZE = auto()  # that cleans all up, for pistons made to measure
    MUCH_FOR_A_HONE = auto()  # mm: to take
    MUCH_FOR_HONES = auto()  # mm: to take; nothing else is cut
    NO_PISTON_YET = auto()
    CRACKED = auto()  # cylinders
    NOTHING_ELSE = auto()
    ANOTHER_WAY = auto()
    TOO_THIN = auto()  # cylinder
    WILL_NOT = auto()  # cylinder
    CUT_LARGER = auto()  # cylinder
    ALL_SURE = auto()
    MAY_SHADOW = auto()  # cylinders
    WALL_UNKNOWN = auto()  # cylinders
    WALL_CLOSE = auto()  # cylinders
    NOT_KNOWN = auto()  # cylinders
    PARENT_UNKNOWN = auto()  # cylinder
    PARENT_TOO_THIN = auto()  # cylinder; mm: left of it
    PARENT_IN_PART = auto()  # cylinder: not read all round
    PARENT_CLOSE = auto()  # cylinder; mm: left of it
    PARENT_STANDS = auto()  # cylinder; mm: left of it
    FLAW_FELT = auto()  # cylinder; named: what it is
    FLAW_STAYS = auto()  # cylinder; named: what it is, and the owner's words
    INSIDE_LIMITS = auto()  # named: which way's
    OUT_OF_LIMITS = auto()  # cylinder; limit
    GAP_TAPER = auto()  # mm: taper by ring gaps, its doubt, the limit
    GAP_TAPER_CLOSE = auto()  # the same
    STOP_RULE = auto()  # strokes, least and most; mm: the most that it may grow
    CLEARANCE_UNDER = auto()  # cylinders; named: the window
    CLEARANCE_OVER = auto()  # cylinders; named: the window
    PISTONS_UNMEASURED = auto()
    CLEARANCE_CLOSE = auto()  # cylinders; named: the window
    CLEARANCE_IN = auto()  # named: the window


@frozen
class Reason:
    """One thing that speaks for or against a way: mm where a figure is a length. ``named``: words that somebody else wrote."""

    why: Why
    cylinders: tuple[int, ...] = ()
    mm: tuple[float, ...] = ()
    strokes: tuple[float, ...] = ()
    limit: OutOfLimits | None = None
    named: tuple[str, ...] = ()


class Measure(Enum):
    """What would make a way sure."""

    ASKED = auto()  # what the call asks for
    GAUGE = auto()
    GAUGE_BECAUSE = auto()  # with what it lacks
    GAUGE_FULLY = auto()
    FOUR_ANGLES = auto()
    MIDDLE_TOO = auto()
    PRESSURE_TEST = auto()  # of a crack or a weld, before any metal is taken
    BORE_GAUGE = auto()  # ring gaps show neither size nor out of round
    OWNER_ACCEPTS = auto()
    MEASURE_PISTONS = auto()
    READ_WALL = auto()


@frozen
class ToMeasure:
    """One thing to measure, or to ask. ``named``: what a cylinder lacks, or the flaw that may stay."""

    what: Measure
    cylinder: int = 0
    ask: Ask | None = None
    named: str = ""


def about(why: Why, *cylinders: int, mm: tuple[float, ...] = ()) -> Reason:
    """A reason that is about cylinders."""
    return Reason(why, cylinders, mm)
