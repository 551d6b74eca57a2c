"""What may be typed in the call step, turned into entries.

``105.92`` (piston of this cylinder), ``piston 105.92 21 C``, ``sheet 0.065 0.085``, ``manual ...``, ``habit ...``,
``chamber 62 dish 4.5 gasket 107 x 1.2 deck 0.35`` (volumes in cm3; ``dome 3`` where the piston stands up).
"""

from __future__ import annotations

import re

from redline_bore.core.errors import InputError
from redline_bore.core.fit import ClearanceWindow
from redline_bore.core.lengths import parse_length
from redline_bore.core.volumes import Chamber, compression_ratio
from redline_bore.job.ledger import entries as e
from redline_bore.job.ledger.state import JobState
from redline_bore.job.typed.measures import plain, temperature
from redline_bore.job.typed.where import Where

_WINDOW = re.compile(r"(?P<source>sheet|manual|habit)\s+(?P<low>\S+)\s+(?P<high>\S+)", re.IGNORECASE)
_PISTON = re.compile(r"(?:piston\s+)?(?P<size>.+?)(?:\s+(?P<warm>[\d.,]+\s*°?\s*[cf]))?", re.IGNORECASE)
_CHAMBER = re.compile(
    r"chamber\s+(?P<chamber>\S+)(?:\s+(?P<form>dish|dome)\s+(?P<dish>\S+))?"
    r"\s+gasket\s+(?P<bore>\S+)\s*x\s*(?P<thick>\S+)(?:\s+deck\s+(?P<deck>\S+))?",
    re.IGNORECASE,
)
_SOURCES = {"sheet": "piston sheet", "manual": "manual", "habit": "habit"}


def entry_at_call(text: str, state: JobState, where: Where) -> e.Entry:
    """The entry that ``text`` means. Raises InputError with the reason and what was meant."""
    words = " ".join(text.split())
    if found := _WINDOW.fullmatch(words):
        return _window(found, state, where)
    if words.lower().startswith("chamber"):
        return _chamber(words, state, where)
    match = _PISTON.fullmatch(words)
    if match is None:
        raise InputError("Nothing is typed; the piston's size at its gauge point is wanted")
    size = parse_length(match["size"], where.units, state.block.bore_mm, "reading").mm
    return e.PistonMeasured(
        cylinder=where.cylinder, size_mm=size, piston_c=temperature(match["warm"]) if match["warm"] else None
    )


def _window(found: re.Match[str], state: JobState, where: Where) -> e.ClearanceStated:
    low, high = (plain(found[end], where) for end in ("low", "high"))
    ClearanceWindow(low, high, _SOURCES[found["source"].lower()])
    if high > 0.01 * state.block.bore_mm:
        raise InputError(f"A clearance of {found['high']} is more than a hundredth of the bore; check the unit")
    return e.ClearanceStated(source=_SOURCES[found["source"].lower()], low_mm=low, high_mm=high)


def _chamber(text: str, state: JobState, where: Where) -> e.ChamberStated:
    found = _CHAMBER.fullmatch(text)
    if found is None:
        raise InputError("A chamber is typed as: chamber 62 dish 4.5 gasket 107 x 1.2 deck 0.35 (volumes in cm3)")
    dish = 0.0 if found["dish"] is None else _volume(found["dish"])
    sign = -1.0 if (found["form"] or "").lower() == "dome" else 1.0
    entry = e.ChamberStated(
        chamber_cm3=_volume(found["chamber"]), dish_cm3=sign * dish, gasket_bore_mm=plain(found["bore"], where),
        gasket_thickness_mm=plain(found["thick"], where), deck_clearance_mm=plain(found["deck"], where) if found["deck"] else 0.0,
    )  # fmt: skip
    bore, stroke = state.block.bore_mm, state.block.stroke_mm
    if not 0.9 * bore <= entry.gasket_bore_mm <= 1.3 * bore:
        raise InputError(f"A gasket of {found['bore']} does not belong to this bore; check the unit")
    if entry.gasket_thickness_mm > 0.1 * bore:
        raise InputError(f"A gasket {found['thick']} thick? The size is typed before the thickness: gasket 107 x 1.2")
    ratio = compression_ratio(bore, stroke, chamber_of(entry))
    if not 2.0 <= ratio <= 40.0:
        raise InputError(f"That gives a compression of {ratio:.1f} to 1; check the chamber, it is in cm3")
    return entry


def chamber_of(entry: e.ChamberStated) -> Chamber:
    """The chamber of an entry, for the volumes."""
    return Chamber(
        entry.chamber_cm3, entry.dish_cm3, entry.gasket_bore_mm, entry.gasket_thickness_mm, entry.deck_clearance_mm
    )


def _volume(text: str) -> float:
    """A volume in cm3; never under nought. Raises InputError."""
    try:
        value = float(text.replace(",", "."))
    except ValueError:
        raise InputError(f"“{text}” is no volume in cm3") from None
    if not 0.0 <= value <= 10000.0:
        raise InputError(f"{text} cm3 is no volume of a chamber or a piston's crown")
    return value
