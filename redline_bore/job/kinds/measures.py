"""Single figures as they are typed at the bench: lengths, depths, clock angles, temperatures, cylinder numbers."""

from __future__ import annotations

import math
import re

from redline_bore.core.errors import FormError, InputError
from redline_bore.core.late import late_pattern
from redline_bore.core.lengths import parse_length, with_unit
from redline_bore.job.kinds.phrase import Where
from redline_bore.job.state.job_state import JobState

_TEMPERATURE = late_pattern(r"(?:block\s+(?:is\s+|at\s+)?)?([+\-−]?\d+(?:[.,]\d+)?)\s*°?\s*([cf])", re.IGNORECASE)


def temperature(text: str) -> float | None:
    """A temperature in C from ``22.9 C``, ``73 F`` or ``block 22.9 C``; None when the text is none. Raises InputError when absurd."""
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
    if not text.isdecimal() or int(text) not in state.cylinders:
        raise InputError(f"“{text}” is not a cylinder of this block; it has 1 to {state.block.cylinders}")
    return int(text)


def number(text: str, what: str = "number") -> float:
    """A plain number, with a point or a comma. Raises InputError, naming ``what`` it is not."""
    try:
        value = float(text.replace(",", ".").replace("−", "-"))
    except ValueError:
        value = math.nan
    if not math.isfinite(value):
        raise InputError(f"“{text[:40]}” is no {what}")
    return value


def positive(text: str) -> float:
    """A plain number from nought on. Raises InputError."""
    value = number(text)
    if not 0.0 <= value < 1e6:
        raise InputError(f"{text} cannot be here")
    return value


def length_or_nought(text: str, where: Where) -> float:
    """A length, mm, nought among them. Raises InputError."""
    return 0.0 if text.strip("0.,") == "" else plain(text, where)


def bore_size(text: str, state: JobState, where: Where) -> float:
    """A diameter near the bore, mm. Raises InputError."""
    return parse_length(text, where.units, state.block.bore_mm, "reading").mm


def in_celsius(text: str, scale: str) -> float:
    """A temperature in C from its figure and its scale, C or F. Raises InputError."""
    value = number(text, "temperature")
    return value if scale.lower() == "c" else (value - 32.0) / 1.8


def between(text: str, low: float, high: float, what: str) -> float:
    """A number between two others. Raises InputError naming ``what``."""
    value = number(text)
    if not low <= value <= high:
        raise InputError(f"{what} lies between {low:g} and {high:g}, not at {text}")
    return value


YES = {"yes": True, "no": False}


def yes(key: str, text: str) -> bool:
    """Yes or no. Raises InputError."""
    if text.lower() not in YES:
        raise InputError(f"“{key} {text}”: yes or no")
    return YES[text.lower()]


def keyed(rest: str, keys: tuple[str, ...]) -> dict[str, str]:
    """Words after their keys. Raises FormError naming what comes before the first key, or a key without a value."""
    found = re.split(rf"(?:^|\s+)({'|'.join(keys)})\s+", f" {rest}", flags=re.IGNORECASE)
    if found[0].strip() or len(found) < 3:
        raise FormError(f"“{(found[0].strip() or rest).split(' ')[0]}” is not understood here")
    return {k.lower(): v.strip() for k, v in zip(found[1::2], found[2::2], strict=True)}


def behind(text: str) -> str:
    """What stands behind the first word."""
    return text.partition(" ")[2].strip()
