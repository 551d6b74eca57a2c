"""Single figures as they are typed at the bench: lengths, depths, clock angles, temperatures, cylinder numbers."""

from __future__ import annotations

import re

from redline_bore.core.errors import InputError
from redline_bore.core.lengths import parse_length, with_unit
from redline_bore.job.ledger.state import JobState
from redline_bore.job.typed.where import Where

_TEMPERATURE = re.compile(r"([+\-−]?\d+(?:[.,]\d+)?)\s*°?\s*([cf])", re.IGNORECASE)


def temperature(text: str) -> float | None:
    """A temperature in C from ``22.9 C`` or ``73 F``; None when the text is none. Raises InputError when absurd."""
    found = _TEMPERATURE.fullmatch(text.strip())
    if found is None:
        return None
    value = float(found[1].replace(",", ".").replace("−", "-"))
    celsius = value if found[2].lower() == "c" else (value - 32.0) / 1.8
    if not -30.0 <= celsius <= 120.0:
        raise InputError(f"{text.strip()} is no temperature of a block on a bench; write it like 22.9 C or 73 F")
    return celsius


def plain(text: str, where: Where) -> float:
    """A length above nought, mm. Raises InputError."""
    return parse_length(text, where.units, least_mm=0.0).mm


def depth(text: str, state: JobState, where: Where) -> float:
    """A depth inside the cylinder, mm down from the deck. Raises InputError."""
    found = plain(text, where)
    if not 0.0 < found < state.block.length_mm:
        raise InputError(f"{text.strip()} down is not in a cylinder of {with_unit(state.block.length_mm, where.units)}")
    return found


def clock(text: str) -> float:
    """A clock angle, degrees. Raises InputError."""
    try:
        value = float(text)
    except ValueError:
        raise InputError(f"“{text}” is not a clock angle; 0 to 360 degrees") from None
    if not 0.0 <= value <= 360.0:
        raise InputError(f"{text}° is not on the clock; 0 to 360 degrees")
    return value


def count(text: str, state: JobState) -> int:
    """A cylinder of this block. Raises InputError."""
    if not text.isdigit() or int(text) not in state.cylinders:
        raise InputError(f"“{text}” is not a cylinder of this block; it has 1 to {state.block.cylinders}")
    return int(text)
