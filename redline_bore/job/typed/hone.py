"""What may be typed at the hone, turned into entries.

``42 106.012 106.010`` (double strokes, then sizes from the top down); ``stones vitrified 150 4 x 10 long 70 new``; ``hone
vertical`` (proposes), ``hone vertical rpm 170 strokes 50 over 20 20 dwell 0 0.5 load 20``, ``hone manual rpm 170 dial 6``, ``hone
drill rpm 150``; ``angle 30``, ``angle 15 flat`` (from the horizontal); ``taken 0.045`` (the machine's own figure); ``steps rough 0.05
vitrified 150, plateau 0 brush 600``; ``note pin hole at 150``.
"""

from __future__ import annotations

import re
from collections.abc import Callable

from redline_bore.core.errors import InputError
from redline_bore.job.hone.set_up import proposed_hone, stone_names, stones_said
from redline_bore.job.ledger import entries as e
from redline_bore.job.ledger.state import JobState
from redline_bore.job.typed.measures import depth, plain
from redline_bore.job.typed.where import Where

_STONES = re.compile(
    r"stones\s+(?P<name>[a-z]+)\s+(?P<grit>\d+)\s+(?P<count>\d+)\s*x\s*(?P<width>\S+)\s+long\s+(?P<long>\S+)"
    r"(?:\s+worn\s+(?P<worn>\S+))?(?:\s+(?P<new>new))?",
    re.IGNORECASE,
)
_ANGLE = re.compile(r"angle\s+(?P<angle>[\d.]+)(?:\s+(?P<flat>flat|from the horizontal))?", re.IGNORECASE)
_STEP = re.compile(r"(?P<name>[a-z][a-z -]*?)\s+(?P<short>[\d.,]+)\s+(?P<stone>[a-z]+)\s+(?P<grit>\d+)", re.IGNORECASE)
_NOTE = re.compile(r"note\s+(?P<what>pin hole|web)s?\s+at\s+(?P<depth>.+)", re.IGNORECASE)
MACHINES = {
    "vertical": {"rpm": 1, "strokes": 1, "over": 2, "dwell": 2, "load": 1},
    "manual": {"rpm": 1, "dial": 1, "over": 2},
    "drill": {"rpm": 1},
    "ball": {"rpm": 1},
}
FASTEST_RPM, FASTEST_STROKES, LONGEST_DWELL_S = 3000.0, 300.0, 10.0


def words_at_hone(text: str, state: JobState, where: Where) -> e.Entry | None:
    """The entry that a worded line means; None when it is a check. Raises InputError with what was meant."""
    words = " ".join(text.split())
    make = _MAKERS.get(words.partition(" ")[0].lower())
    return None if make is None else make(words, state, where)


def _stones(words: str, state: JobState, where: Where) -> e.StonesSet:
    found = _STONES.fullmatch(words)
    if found is None:
        raise InputError("Stones are typed as: stones vitrified 150 4 x 10 long 70 new")
    name = _known(state, found["name"], found["grit"])
    count, width, long = int(found["count"]), plain(found["width"], where), plain(found["long"], where)
    if not 1 <= count <= 24 or not 1.0 <= width <= 60.0:
        raise InputError(f"{found['count']} stones {found['width']} wide is no pack; how many, x, how wide each")
    if long >= state.block.length_mm:
        raise InputError(f"A stone {found['long']} long is as long as the hole; half to three quarters of it is usual")
    worn = plain(found["worn"], where) if found["worn"] else 0.0
    return e.StonesSet(
        stones=name, count=count, width_mm=width, length_mm=long, worn_mm=worn, bedded=found["new"] is None
    )


def _known(state: JobState, name: str, grit: str) -> str:
    key = f"{name.lower()}_{grit}"
    if key not in stone_names(state):
        known = ", ".join(stones_said(n) for n in stone_names(state))
        raise InputError(f"“{name} {grit}” is no stone that figures are known for: {known}")
    return key


def _hone(words: str, state: JobState, where: Where) -> e.HoneSet:
    parts = words.lower().split()[1:]
    if not parts or parts[0] not in MACHINES:
        raise InputError("A hone is vertical, manual, drill or ball: hone vertical rpm 170 strokes 50 load 20")
    machine, takes, found = parts[0], MACHINES[parts[0]], {}
    rest = parts[1:]
    while rest:
        word = rest.pop(0)
        if word not in takes:
            other = " or ".join(m for m, t in MACHINES.items() if word in t)
            raise InputError(f"A {machine} hone has no “{word}”" + (f"; that is {other}" if other else ""))
        found[word], rest = rest[: takes[word]], rest[takes[word] :]
        if len(found[word]) < takes[word]:
            raise InputError(f"{'Two figures are' if takes[word] == 2 else 'A figure is'} wanted behind “{word}”")
    rpm, strokes = _number(found, "rpm"), _number(found, "strokes")
    if rpm is not None and not 0.0 < rpm <= FASTEST_RPM:
        raise InputError(f"{rpm:g} turns a minute is no speed of a hone")
    if strokes is not None and not 1.0 <= strokes <= FASTEST_STROKES:
        raise InputError(f"{strokes:g} double strokes a minute is no rate of a hone")
    return _checked_hone(proposed_hone(state, machine, rpm, strokes), found, where)


def _checked_hone(usual: e.HoneSet, found: dict[str, list[str]], where: Where) -> e.HoneSet:
    from dataclasses import replace

    over = [_length_or_nought(v, where) for v in found.get("over", ())]
    dwell = [_plain_number(v) for v in found.get("dwell", ())]
    load, dial = _number(found, "load"), _number(found, "dial")
    if load is not None and not 0.0 < load <= 100.0:
        raise InputError("Load is in per cent of the machine, over 0 and up to 100")
    if dwell and max(dwell) > LONGEST_DWELL_S:
        raise InputError(f"{max(dwell):g} s of dwell at every stroke? Seconds are wanted, like 0.5")
    change: dict[str, float | None] = {}
    change |= {} if load is None else {"load": load}
    change |= {} if dial is None else {"load": dial}
    change |= {"over_top_mm": over[0], "over_bottom_mm": over[1]} if over else {}
    change |= {"dwell_top_s": dwell[0], "dwell_bottom_s": dwell[1]} if dwell else {}
    return replace(usual, **change)  # type: ignore[arg-type]


def _number(found: dict[str, list[str]], word: str) -> float | None:
    return _plain_number(found[word][0]) if word in found else None


def _plain_number(text: str) -> float:
    try:
        value = float(text.replace(",", "."))
    except ValueError:
        raise InputError(f"“{text}” is no number") from None
    if not 0.0 <= value < 1e6:
        raise InputError(f"{text} cannot be here")
    return value


def _length_or_nought(text: str, where: Where) -> float:
    return 0.0 if text.strip("0.,") == "" else plain(text, where)


def _angle(words: str, state: JobState, where: Where) -> e.AngleWanted:
    found = _ANGLE.fullmatch(words)
    if found is None:
        raise InputError(
            "The crosshatch is typed as: angle 30, or angle 15 flat where it is quoted from the horizontal"
        )
    flat = found["flat"] is not None
    angle = float(found["angle"]) * (2.0 if flat else 1.0)
    if not 5.0 <= angle <= 120.0:
        raise InputError(f"{angle:g}° included is no crosshatch; 20 to 50 is usual")
    return e.AngleWanted(included_deg=angle, quoted="horizontal" if flat else "included")


def _taken(words: str, state: JobState, where: Where) -> e.CompensationRead:
    value = plain(words.partition(" ")[2] or "0", where)
    if value > 3.0:
        raise InputError("The machine cannot have taken so much in a step; on diameter, check the unit")
    return e.CompensationRead(cylinder=where.cylinder, taken_mm=value)


def _steps(words: str, state: JobState, where: Where) -> e.OwnHoning:
    rows = [part.strip() for part in words.partition(" ")[2].split(",") if part.strip()]
    matched = [_STEP.fullmatch(row) for row in rows]
    if not rows or None in matched:
        raise InputError("Own steps are typed as: steps rough 0.05 vitrified 150, plateau 0 brush 600")
    good = [m for m in matched if m is not None]
    short = tuple(_length_or_nought(m["short"], where) for m in good)
    if list(short) != sorted(short, reverse=True) or short[0] > 0.5:
        raise InputError("Each step ends nearer to the redline than the one before, the last on it or just short")
    if short[-1] > 0.003:
        raise InputError("The last step has to end on the redline: 0 behind its name")
    stones = tuple(_known(state, m["stone"], m["grit"]) for m in good)
    return e.OwnHoning(steps=tuple(m["name"].strip().lower() for m in good), short_mm=short, stones=stones)


def _note(words: str, state: JobState, where: Where) -> e.CutNoted:
    found = _NOTE.fullmatch(words)
    if found is None:
        raise InputError("A note is: note pin hole at 150, or note web at 190")
    deep = plain(found["depth"], where) if found["what"].lower() == "web" else depth(found["depth"], state, where)
    return e.CutNoted(cylinder=where.cylinder, what=found["what"].lower(), depth_mm=deep)  # type: ignore[arg-type]


_MAKERS: dict[str, Callable[[str, JobState, Where], e.Entry]] = {
    "stones": _stones, "hone": _hone, "angle": _angle, "taken": _taken, "steps": _steps, "note": _note,
}  # fmt: skip
