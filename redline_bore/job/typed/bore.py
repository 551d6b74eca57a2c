"""What may be typed at the boring bar, turned into entries.

``bar TPG 321`` (feed and speed are proposed), ``bar TPG 321 plain feed 0.1 rpm 450 mains``, ``bar radius 0.4 positive``;
``machine north thick 60 reach 250 speeds 110 150 210``; ``insert TPG 321 coated 5``, ``insert radius 0.4 positive edges 3
coated 5``; ``turn worn``; ``note hit and skip at 120``; ``105.612 105.610 105.611 across 105.611 105.609 105.610`` (what the hole
came out at, top to bottom), ``set 105.600 105.612 105.610`` where another setting was used.
"""

from __future__ import annotations

import re

from redline_bore.core.errors import InputError
from redline_bore.core.inserts import insert_from_code
from redline_bore.core.lengths import parse_length
from redline_bore.job.bore.plan import plan_of, proposed_cut, snapped_to_machine
from redline_bore.job.ledger import entries as e
from redline_bore.job.ledger.state import JobState
from redline_bore.job.typed.measures import depth, plain
from redline_bore.job.typed.where import Where

_RADIUS = re.compile(r"radius\s+(?P<radius>\S+)\s+(?P<rake>positive|negative)", re.IGNORECASE)
_MACHINE = re.compile(
    r"machine\s+(?P<name>.+?)\s+thick\s+(?P<thick>\S+)\s+reach\s+(?P<reach>\S+)\s+speeds\s+(?P<speeds>[\d. ]+)",
    re.IGNORECASE,
)
_SHELVED = re.compile(
    r"insert\s+(?P<insert>.+?)(?:\s+edges\s+(?P<edges>\d+))?\s+(?P<grade>coated|plain)\s+(?P<count>\d+)", re.IGNORECASE
)
_NOTE = re.compile(r"note\s+(?P<what>hit and skip|ridge|web)s?(?:\s+at\s+(?P<depth>.+))?", re.IGNORECASE)
_BAR_WORDS = {"feed": "length", "rpm": "number", "plain": "grade", "coated": "grade", "mains": "base", "deck": "base"}
COARSEST_FEED_MM, FASTEST_RPM, MOST_INSERTS = 1.0, 5000.0, 500
AS_TYPED = "The bar is typed as: bar TPG 321 feed 0.1 rpm 450 mains, or bar radius 0.4 positive feed ..."


def entry_at_bar(text: str, state: JobState, where: Where, day: str = "") -> e.Entry:
    """The entry that ``text`` means. Raises InputError with the reason and what was meant."""
    words = " ".join(text.split())
    first = words.split(" ", 1)[0].lower()
    if first == "bar":
        return _bar(words, state, where)
    if first == "machine":
        return _machine(words, where)
    if first == "insert":
        return _shelved(words, where)
    if first == "turn":
        return _turned(words, state)
    if first == "note":
        return _note(words, state, where)
    return _hole(words, state, where, day)


def _geometry(words: str, where: Where) -> tuple[str, float, str, int]:
    """Name, nose radius in mm, rake and edges (0: not known) of an insert."""
    if by_hand := _RADIUS.fullmatch(words):
        return words.lower(), plain(by_hand["radius"], where), by_hand["rake"].lower(), 0
    insert = insert_from_code(words)
    return words.upper(), insert.nose_radius_mm, insert.rake, insert.edges


def _bar(words: str, state: JobState, where: Where) -> e.BarSet:
    parts, known = words.split()[1:], {}
    at = next((i for i, p in enumerate(parts) if p.lower() in _BAR_WORDS), len(parts))
    name, rest = " ".join(parts[:at]), [p.lower() for p in parts[at:]]
    while rest:
        word = rest.pop(0)
        kind = _BAR_WORDS.get(word)
        if kind is None or (kind in ("length", "number") and not rest):
            raise InputError(AS_TYPED)
        known[kind] = rest.pop(0) if kind in ("length", "number") else word
    if not name:
        raise InputError(AS_TYPED)
    try:
        insert, radius, rake, _ = _geometry(name, where)
    except InputError as error:
        raise InputError(f"{error}. {AS_TYPED}") from error
    grade = known.get("grade", "coated")
    feed, rpm = proposed_cut(state, radius, rake, grade)
    if "length" in known:
        feed = plain(known["length"], where)
    if "number" in known:
        rpm = snapped_to_machine(state, _number(known["number"]))
    if feed > COARSEST_FEED_MM:
        raise InputError(f"A feed of {known['length']} a turn is a thread, not a cut; check the unit")
    if not 0.0 < rpm <= FASTEST_RPM:
        raise InputError(f"{rpm:g} turns a minute is no speed of a boring bar")
    machine = "" if state.machine is None else state.machine.name
    return e.BarSet(
        insert=insert, nose_radius_mm=radius, rake=rake, feed_mm=feed, rpm=rpm, based_on=known.get("base", "mains"),  # type: ignore[arg-type]
        grade=grade, machine=machine,  # type: ignore[arg-type]
    )  # fmt: skip


def _number(text: str) -> float:
    try:
        return float(text.replace(",", "."))
    except ValueError:
        raise InputError(f"“{text}” is no number") from None


def _machine(words: str, where: Where) -> e.MachineStated:
    found = _MACHINE.fullmatch(words)
    if found is None:
        raise InputError("A machine is typed as: machine north thick 60 reach 250 speeds 110 150 210 300")
    thick, reach = plain(found["thick"], where), plain(found["reach"], where)
    speeds = tuple(sorted({_number(s) for s in found["speeds"].split()}))
    if not speeds or not 0.0 < speeds[0] <= speeds[-1] <= FASTEST_RPM:
        raise InputError(f"The speeds of a bar lie above nought and not over {FASTEST_RPM:g} turns a minute")
    if not 5.0 <= thick <= 500.0 or not thick / 2.0 <= reach <= 3000.0:
        raise InputError("A bar of that thickness and reach is none; check the unit")
    return e.MachineStated(name=found["name"].lower(), thick_mm=thick, reach_mm=reach, speeds_rpm=speeds)


def _shelved(words: str, where: Where) -> e.InsertShelved:
    found = _SHELVED.fullmatch(words)
    if found is None:
        raise InputError(
            "Inserts are typed as: insert TPG 321 coated 5, or insert radius 0.4 positive edges 3 coated 5"
        )
    insert, radius, rake, edges = _geometry(found["insert"], where)
    edges = int(found["edges"]) if found["edges"] else edges
    count = int(found["count"])
    if not 1 <= edges <= 16:
        raise InputError("How many edges one insert has is wanted: edges 3")
    if not 1 <= count <= MOST_INSERTS:
        raise InputError(f"{count} inserts? 1 to {MOST_INSERTS} at a time")
    return e.InsertShelved(
        insert=insert, nose_radius_mm=radius, rake=rake, edges=edges, grade=found["grade"].lower(), count=count  # type: ignore[arg-type]
    )  # fmt: skip


def _turned(words: str, state: JobState) -> e.EdgeTurned:
    if state.bar is None:
        raise InputError("Nothing is in the bar; type what is: bar TPG 321")
    why = words.split(" ", 1)[1].lower() if " " in words else "worn"
    if why not in ("worn", "chipped", "broken"):
        raise InputError("An edge is turned because it is worn, chipped or broken: turn worn")
    return e.EdgeTurned(insert=state.bar.insert, why=why)


def _note(words: str, state: JobState, where: Where) -> e.CutNoted:
    found = _NOTE.fullmatch(words)
    if found is None:
        raise InputError("A note is: note hit and skip at 120, note ridge, or note web at 190")
    at = depth(found["depth"], state, where) if found["depth"] else None
    return e.CutNoted(cylinder=where.cylinder, what=found["what"].lower(), depth_mm=at)  # type: ignore[arg-type]


def _hole(words: str, state: JobState, where: Where, day: str) -> e.HoleBored:
    parts, nominal = words.lower().split(), state.block.bore_mm
    plan = plan_of(state, where.cylinder, day)
    setting = plan.setting_mm
    if parts and parts[0] == "set":
        if len(parts) < 3:
            raise InputError("A setting is typed with what it cut: set 105.600 105.612 105.610")
        setting = parse_length(parts[1], where.units, nominal, "reading").mm
        parts = parts[2:]
    if setting is None:
        raise InputError(
            f"Cylinder {where.cylinder} has no setting: {plan.missing}. Type: set, the setting, then the sizes"
        )
    at = parts.index("across") if "across" in parts else len(parts)
    sizes, across = (
        tuple(parse_length(p, where.units, nominal, "reading").mm for p in row) for row in (parts[:at], parts[at + 1 :])
    )
    if not sizes or (at < len(parts) and len(across) != len(sizes)):
        raise InputError("As many sizes across as along: 105.612 105.610 105.611 across 105.611 105.609 105.610")
    every = (*sizes, *across)
    if max(every) - min(every) > 0.5 or abs(sum(every) / len(every) - setting) > 1.0:
        raise InputError("These sizes are too far from the setting, or from each other; check them")
    return e.HoleBored(cylinder=where.cylinder, set_mm=setting, sizes_mm=sizes, across_mm=across)
