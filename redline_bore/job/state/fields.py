"""Fields that many values and entries have, each told in one place."""

from __future__ import annotations

from typing import Any

from redline_bore.core.told import Of, Unit, told

WARM_WHY = "no temperature on a bench; write it like 22.9 C or 73 F"


def cylinder(shown: str = "") -> Any:
    """The cylinder an entry is of, from 1."""
    return told("cylinder", Unit.CYLINDER, least=1, why="not a cylinder of this block", shown=shown)


def depth(name: str = "depth", shown: str = "", **more: Any) -> Any:
    """A place in the hole, mm down from the deck."""
    return told(name, Unit.DEPTH, above=0.0, why="not in the cylinder", shown=shown, **more)


def clock(name: str = "clock", shown: str = "", **more: Any) -> Any:
    """A clock angle, degrees from the front, clockwise from above."""
    return told(name, Unit.CLOCK, least=0.0, most=360.0, why="not on the clock; 0 to 360 degrees", shown=shown, **more)


def warmth(name: str, shown: str = "", **more: Any) -> Any:
    """A temperature on the bench, C."""
    return told(name, Unit.TEMPERATURE, least=-30.0, most=120.0, why=WARM_WHY, shown=shown, **more)


def size(name: str, shown: str = "", **more: Any) -> Any:
    """A diameter near the bore, mm."""
    return told(name, Unit.SIZE, least=0.5, most=2.0, of=Of.BORE, why="no size near this bore; check the unit", shown=shown, **more)  # fmt: skip


def sizes(name: str, shown: str = "", **more: Any) -> Any:
    """Diameters near the bore, top to bottom, mm: one at the least."""
    return size(name, shown, many=1, **more)


def flag(name: str, shown: str = "", **more: Any) -> Any:
    """Yes or no."""
    return told(name, Unit.YES, shown=shown, **more)


def words(name: str, shown: str = "", **more: Any) -> Any:
    """Free words."""
    return told(name, Unit.WORDS, shown=shown, **more)
