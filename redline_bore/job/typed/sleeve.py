"""What may be typed in the sleeve step, turned into entries.

``old 3.682``; ``parent 3.680 3.681 3.680 3.679 at 1.5`` (a ring: angles spread evenly over half a turn, from the front);
``outside 110 to 118`` (of the parent); ``sleeve 3.6833 x 3.470 flange 0.250 long 6.3 20 C``; ``deck 0 0.002 / 0.004 0.006``;
``faced 0.004``; ``counterbore 0.2484``; ``protrusion 0.001 0.003``; ``cold -75 C``; ``after 3.4862 3.4860 3.4861``.
"""

from __future__ import annotations

import re

from redline_bore.core.assembly import COLDEST_C
from redline_bore.core.block import bank_of
from redline_bore.core.errors import InputError
from redline_bore.core.lengths import parse_length
from redline_bore.job.advice import celsius
from redline_bore.job.ledger import entries as e
from redline_bore.job.ledger.state import JobState
from redline_bore.job.sleeve.fit import fit_of
from redline_bore.job.typed.measures import depth, plain
from redline_bore.job.typed.where import Where

_SLEEVE = re.compile(
    r"sleeve\s+(?P<outside>\S+)\s*x\s*(?P<bore>\S+)(?:\s+flange\s+(?P<flange>\S+))?(?:\s+long\s+(?P<long>\S+))?"
    r"(?:\s+(?P<warm>[\d.,]+)\s*°?\s*(?P<scale>[cf]))?",
    re.IGNORECASE,
)
_COLD = re.compile(r"cold\s+(?P<cold>[+\-−]?[\d.,]+)\s*°?\s*(?P<scale>[cf])", re.IGNORECASE)
_PARENT = re.compile(r"parent\s+(?P<sizes>.+?)(?:\s+at\s+(?P<depth>.+))?", re.IGNORECASE)
KNOWN = "old, parent, outside, sleeve, deck, faced, counterbore, protrusion, cold, after"
MOST_OUT_MM = 3.0


def entry_at_sleeve(text: str, state: JobState, where: Where) -> e.Entry:
    """The entry that ``text`` means. Raises InputError with the reason and what was meant."""
    words = " ".join(text.split())
    first, _, rest = words.partition(" ")
    make = _MAKERS.get(first.lower())
    if make is None:
        raise InputError(f"“{first}” is nothing that is typed here; it begins with {KNOWN}")
    if not rest:
        raise InputError(f"A figure is wanted behind “{first}”")
    return make(words, rest, state, where)


def _bore_size(text: str, state: JobState, where: Where) -> float:
    return parse_length(text, where.units, state.block.bore_mm, "reading").mm


def _old(words: str, rest: str, state: JobState, where: Where) -> e.Entry:
    size = _bore_size(rest, state, where)
    if size <= state.block.bore_mm:
        raise InputError(f"{rest} is not outside the bore; the outside of the old sleeve is wanted")
    return e.OldSleeveMeasured(cylinder=where.cylinder, outside_mm=size)


def _parent(words: str, rest: str, state: JobState, where: Where) -> e.Entry:
    found = _PARENT.fullmatch(words)
    assert found is not None
    sizes = tuple(_bore_size(p, state, where) for p in found["sizes"].split())
    at = depth(found["depth"], state, where) if found["depth"] else state.block.length_mm / 2.0
    if max(sizes) - min(sizes) > 1.0:
        raise InputError("These are too far apart for one ring of one bore; check them")
    return e.ParentRead(cylinder=where.cylinder, depth_mm=at, sizes_mm=sizes)


def _outside(words: str, rest: str, state: JobState, where: Where) -> e.Entry:
    parts = re.split(r"\s+to\s+", rest, flags=re.IGNORECASE)
    low, high = plain(parts[0], where), plain(parts[-1], where)
    if low > high:
        raise InputError("The smaller outside comes first: outside 110 to 118")
    if low <= state.block.bore_mm:
        raise InputError(f"{parts[0]} is not outside the bore")
    return e.ParentOutsideStated(low_mm=low, high_mm=high)


def _sleeve(words: str, rest: str, state: JobState, where: Where) -> e.Entry:
    found = _SLEEVE.fullmatch(words)
    if found is None:
        raise InputError("A sleeve is typed as: sleeve 3.6833 x 3.470 flange 0.250 long 6.3 20 C")
    outside, bore = _bore_size(found["outside"], state, where), _bore_size(found["bore"], state, where)
    if outside <= bore:
        raise InputError("The outside comes first, then x, then the bore")
    flange = plain(found["flange"], where) if found["flange"] else None
    if flange is not None and flange > 40.0:
        raise InputError(f"A flange {found['flange']} thick? Check the unit")
    length = plain(found["long"], where) if found["long"] else None
    warm = None if found["warm"] is None else in_celsius(found["warm"], found["scale"])
    if warm is not None and not -30.0 <= warm <= 60.0:
        raise InputError(f"{celsius(warm)} is no temperature at which a sleeve is measured")
    return e.SleeveMeasured(
        cylinder=where.cylinder, outside_mm=outside, bore_mm=bore, flange_mm=flange, length_mm=length, sleeve_c=warm
    )


def in_celsius(text: str, scale: str) -> float:
    """A temperature in C."""
    value = float(text.replace(",", ".").replace("−", "-"))
    return value if scale.lower() == "c" else (value - 32.0) / 1.8


def _deck(words: str, rest: str, state: JobState, where: Where) -> e.Entry:
    rows = tuple(tuple(_height(p, where) for p in row.split()) for row in rest.split("/"))
    if len({len(row) for row in rows}) != 1 or not rows[0] or len(rows) * len(rows[0]) < 3:
        raise InputError("A deck is read at three places or more, as many in every row: deck 0 0.002 / 0.004 0.006")
    heights = [h for row in rows for h in row]
    if max(heights) - min(heights) > MOST_OUT_MM:
        raise InputError("No deck is so far out; check the unit")
    return e.DeckRead(bank=bank_of(state.block, where.cylinder), rows_mm=rows)


def _height(text: str, where: Where) -> float:
    return parse_length(text, where.units).mm


def _faced(words: str, rest: str, state: JobState, where: Where) -> e.Entry:
    cut = plain(rest, where)
    if cut > MOST_OUT_MM:
        raise InputError(f"{rest} off a deck? Check the unit")
    return e.DeckFaced(bank=bank_of(state.block, where.cylinder), cut_mm=cut)


def _counterbore(words: str, rest: str, state: JobState, where: Where) -> e.Entry:
    deep = plain(rest, where)
    if deep > 50.0:
        raise InputError(f"A counterbore {rest} deep? Check the unit")
    return e.CounterboreRead(cylinder=where.cylinder, depth_mm=deep)


def _protrusion(words: str, rest: str, state: JobState, where: Where) -> e.Entry:
    parts = rest.replace(" to ", " ").split()
    if len(parts) != 2:
        raise InputError("Least and most are wanted: protrusion 0.001 0.003")
    low, high = (parse_length(p, where.units).mm for p in parts)
    if not 0.0 <= low <= high <= 1.0:
        raise InputError("The least comes first, and neither is more than a millimetre")
    return e.ProtrusionStated(low_mm=low, high_mm=high)


def _cold(words: str, rest: str, state: JobState, where: Where) -> e.Entry:
    found = _COLD.fullmatch(words)
    if found is None:
        raise InputError("How cold the sleeve is made: cold -75 C")
    value = in_celsius(found["cold"], found["scale"])
    if not COLDEST_C <= value <= 60.0:
        raise InputError(f"{celsius(value)} is no temperature of a sleeve; nitrogen is at {celsius(COLDEST_C)}")
    return e.SleeveCold(sleeve_c=value)


def _after(words: str, rest: str, state: JobState, where: Where) -> e.Entry:
    sizes = tuple(_bore_size(p, state, where) for p in rest.split())
    fit = fit_of(state, where.cylinder)
    if fit.sleeve is None:
        raise InputError(f"No sleeve was measured for cylinder {where.cylinder}; what closed cannot be told")
    if max(sizes) - min(sizes) > 0.5 or abs(sum(sizes) / len(sizes) - fit.sleeve.bore_mm) > 1.0:
        raise InputError("That is too far from the sleeve's own bore, or from each other; check the figures")
    return e.AfterPressRead(cylinder=where.cylinder, sizes_mm=sizes)


_MAKERS = {
    "old": _old, "parent": _parent, "outside": _outside, "sleeve": _sleeve, "deck": _deck, "faced": _faced,
    "counterbore": _counterbore, "protrusion": _protrusion, "cold": _cold, "after": _after,
}  # fmt: skip
