"""How a figure of an entry is told: its name as the shop says it, its unit, its range and why, its choices, where it is shown.

A field declared with ``told`` carries all of that in its metadata; typed lines, refusals, the check of files from elsewhere, the
help and the places on the screen are read from there, so that none of them can fall behind the others.
"""

from __future__ import annotations

from enum import StrEnum
from typing import Any, NamedTuple, TypeVar

from redline_bore.core.field import MISSING, Field, field

T = TypeVar("T")
KEY = "told"


class Unit(StrEnum):
    """What a figure is counted in; lengths follow the units being looked at, the rest is as it is."""

    LENGTH = "length"  # mm in the ledger
    DEPTH = "depth"  # mm down from the deck, inside the cylinder
    SIZE = "size"  # a diameter near the bore, mm
    CLOCK = "clock"  # degrees from the front, clockwise from above
    ANGLE = "degrees"
    TEMPERATURE = "temperature"  # C in the ledger
    TEXTURE = "texture"  # um
    VOLUME = "cm3"
    TURNS = "turns a minute"
    RATE = "a minute"
    SECONDS = "s"
    STROKES = "double strokes"
    LOAD = "load"
    TORQUE = "N m"
    CYLINDER = "cylinder"
    BANK = "bank"
    COUNT = "count"
    SHARE = "share"
    EXPANSION = "millionths a degree"
    ENTRY = "entry"
    YES = "yes or no"
    CHOICE = "choice"
    WORDS = "words"
    PACKED = "packed"  # written by the program for itself
    PARTS = "parts"  # a value of several figures, each told by itself


class Of(StrEnum):
    """What a range is counted in where it is not in the field's own unit."""

    ITSELF = ""
    BORE = "bore"
    HOLE = "hole"  # the length of the cylinder


class Told(NamedTuple):
    """What is declared of a field.

    least, most: range, both ends allowed, in the field's unit or in multiples of ``of``; None: no end. above: must be more than that.
    why: the sentence that refuses what lies outside, without its full stop. choices: the words allowed. many: how many figures a row
    holds at the least. shown: the page (step/page) on which it stands.
    """

    name: str
    unit: Unit
    least: float | None = None
    most: float | None = None
    above: float | None = None
    of: Of = Of.ITSELF
    why: str = ""
    choices: tuple[str, ...] = ()
    many: int = 0
    shown: str = ""


def told(
    name: str, unit: Unit, *, least: float | None = None, most: float | None = None, above: float | None = None,
    of: Of = Of.ITSELF, why: str = "", choices: tuple[str, ...] = (), many: int = 0, shown: str = "",
    default: Any = MISSING, default_factory: Any = MISSING,
) -> Any:  # fmt: skip
    """Declare a field of a frozen record: ``width_mm: float = told("width", Unit.LENGTH, least=1.0, most=60.0, why="...")``.

    The field keeps the place and the default of a plain one. Raises TypeError where a range has no reason, or a choice no words.
    """
    if (least, most, above) != (None, None, None) and not why:
        raise TypeError(f"The range of “{name}” has no reason")
    if unit is Unit.CHOICE and not choices:
        raise TypeError(f"“{name}” is a choice of nothing")
    meta = {KEY: Told(name, unit, least, most, above, of, why, choices, many, shown)}
    return field(default=default, default_factory=default_factory, metadata=meta)


def told_of(default: Any) -> Told | None:
    """What a field was declared with, from what stands behind its name in the class; None where nothing was."""
    found: Told | None = default.metadata.get(KEY) if isinstance(default, Field) else None
    return found
