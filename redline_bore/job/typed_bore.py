"""What may be typed at the boring bar, turned into entries.

``bar TPG 321 feed 0.1 rpm 450 mains``, ``bar radius 0.4 positive feed 0.1 rpm 450 deck``; ``105.612 105.610 105.611``
(what the hole came out at, top to bottom), ``set 105.600 105.612 105.610`` where another setting was used.
"""

from __future__ import annotations

import re

from redline_bore.core.errors import InputError
from redline_bore.core.inserts import insert_from_code
from redline_bore.core.lengths import parse_length
from redline_bore.job import entries as e
from redline_bore.job.bore import plan_of
from redline_bore.job.measures import plain
from redline_bore.job.state import JobState
from redline_bore.job.where import Where

_BAR = re.compile(
    r"bar\s+(?P<insert>.+?)\s+feed\s+(?P<feed>\S+)\s+rpm\s+(?P<rpm>[\d.]+)(?:\s+(?P<base>mains|deck))?", re.IGNORECASE
)
_RADIUS = re.compile(r"radius\s+(?P<radius>\S+)\s+(?P<rake>positive|negative)", re.IGNORECASE)
COARSEST_FEED_MM, FASTEST_RPM = 1.0, 5000.0


def entry_at_bar(text: str, state: JobState, where: Where, day: str = "") -> e.Entry:
    """The entry that ``text`` means. Raises InputError with the reason and what was meant."""
    words = " ".join(text.split())
    if words.lower().startswith("bar"):
        return _bar(words, where)
    return _hole(words, state, where, day)


def _bar(words: str, where: Where) -> e.BarSet:
    found = _BAR.fullmatch(words)
    if found is None:
        raise InputError("The bar is typed as: bar TPG 321 feed 0.1 rpm 450 mains, or bar radius 0.4 positive feed ...")
    feed, rpm = plain(found["feed"], where), float(found["rpm"])
    if feed > COARSEST_FEED_MM:
        raise InputError(f"A feed of {found['feed']} a turn is a thread, not a cut; check the unit")
    if not 0.0 < rpm <= FASTEST_RPM:
        raise InputError(f"{found['rpm']} turns a minute is no speed of a boring bar")
    base = (found["base"] or "mains").lower()
    if by_hand := _RADIUS.fullmatch(found["insert"]):
        radius, rake = plain(by_hand["radius"], where), by_hand["rake"].lower()
    else:
        insert = insert_from_code(found["insert"])
        radius, rake = insert.nose_radius_mm, insert.rake
    return e.BarSet(insert=found["insert"], nose_radius_mm=radius, rake=rake, feed_mm=feed, rpm=rpm, based_on=base)  # type: ignore[arg-type]


def _hole(words: str, state: JobState, where: Where, day: str) -> e.HoleBored:
    parts, nominal = words.split(), state.block.bore_mm
    plan = plan_of(state, where.cylinder, day)
    setting = plan.setting_mm
    if parts and parts[0].lower() == "set":
        if len(parts) < 3:
            raise InputError("A setting is typed with what it cut: set 105.600 105.612 105.610")
        setting = parse_length(parts[1], where.units, nominal, "reading").mm
        parts = parts[2:]
    if setting is None:
        raise InputError(
            f"Cylinder {where.cylinder} has no setting: {plan.missing}. Type: set, the setting, then the sizes"
        )
    sizes = tuple(parse_length(p, where.units, nominal, "reading").mm for p in parts)
    if max(sizes) - min(sizes) > 0.5 or abs(sum(sizes) / len(sizes) - setting) > 1.0:
        raise InputError("These sizes are too far from the setting, or from each other; check them")
    return e.HoleBored(cylinder=where.cylinder, set_mm=setting, sizes_mm=sizes)
