"""The entries of honing: stones, how the machine goes, checks, what the machine says. Lengths in mm."""

from __future__ import annotations

import re
from typing import Literal

from redline_bore.core.block import room_below
from redline_bore.core.errors import FormError, InputError
from redline_bore.core.frozen import changed, frozen, replace
from redline_bore.core.show import Show
from redline_bore.core.told import Unit, told
from redline_bore.job.kinds.entry import Entry
from redline_bore.job.kinds.folding import Folding
from redline_bore.job.kinds.gauge import size_from_typed
from redline_bore.job.kinds.kind import Into, Wrong, declare
from redline_bore.job.kinds.measures import behind, length_or_nought, number, plain, positive
from redline_bore.job.kinds.phrase import At, Phrase
from redline_bore.job.kinds.topics import Topic
from redline_bore.job.profiles.stones import stone_names, stones_said
from redline_bore.job.state import fields
from redline_bore.job.state.booking import Booking
from redline_bore.job.state.honing import (
    FASTEST_RPM,
    FASTEST_STROKES,
    LONGEST_DWELL_S,
    Angle,
    Check,
    Compensation,
    HoneRun,
    Honing,
    HoningWay,
    LoadByDepth,
    Stones,
)
from redline_bore.job.state.job_state import JobState

HONE, CHECKS, LOAD = ("hone",), "hone/strokes", "hone/load"
MOST_STROKES, MOST_TAKEN_MM, SHORT_AT_THE_END_MM, MOST_SECONDS = 100000.0, 3.0, 0.003, 3600.0
KEPT_WITH_CHECKS = "The honing practice is kept once checks are booked: their steps would no longer mean the same"
_STONES = (
    r"stones\s+(?P<name>[a-z]+)\s+(?P<grit>\d+)\s+(?P<count>\d+)\s*x\s*(?P<width>\S+)\s+long\s+(?P<long>\S+)"
    r"(?:\s+worn\s+(?P<worn>\S+))?(?:\s+hangs\s+(?P<hangs>\S+))?(?:\s+(?P<new>new))?"
)
_ANGLE = r"angle\s+(?P<angle>[\d.]+)(?:\s+(?P<flat>flat|from the horizontal))?"
_STEP = r"(?P<name>[a-z][a-z -]*?)\s+(?P<short>[\d.,]+)\s+(?P<stone>[a-z]+)\s+(?P<grit>\d+)"
MACHINES = {  # what each has, and how many figures stand behind the word
    "vertical": {"rpm": 1, "strokes": 1, "over": 2, "dwell": 2, "load": 1},
    "manual": {"rpm": 1, "dial": 1, "over": 2},
    "drill": {"rpm": 1},
    "ball": {"rpm": 1},
}


@frozen(kw_only=True)
class StonesSet(Stones, Entry):
    """The stones in the pack, from now on."""

    kind: Literal["stones_set"] = "stones_set"


@frozen(kw_only=True)
class StonesDressed(Entry):
    """The stones were dressed: they cut afresh, and what they had come to says nothing of the next bite."""

    kind: Literal["stones_dressed"] = "stones_dressed"


@frozen(kw_only=True)
class HoneSet(HoneRun, Entry):
    """How the hone goes from now on."""

    kind: Literal["hone_set"] = "hone_set"


@frozen(kw_only=True)
class AngleWanted(Angle, Entry):
    """The crosshatch that is wanted."""

    kind: Literal["angle_wanted"] = "angle_wanted"


@frozen(kw_only=True)
class OwnHoning(HoningWay, Entry):
    """A honing practice of the shop's own, followed from now on."""

    kind: Literal["own_honing"] = "own_honing"


@frozen(kw_only=True)
class HoneStepBegan(Entry):
    """A cylinder goes to step ``step`` (from 0) of its honing practice; strokes count from nought again."""

    cylinder: int = fields.cylinder(CHECKS)
    step: int = told("step", Unit.COUNT, least=0, most=20, why="no step of a honing practice", shown=CHECKS)
    kind: Literal["hone_step_began"] = "hone_step_began"


@frozen(kw_only=True)
class CheckLogged(Entry):
    """Double strokes so far in this step, and the sizes then, top to bottom, at the block's own temperature."""

    cylinder: int = fields.cylinder(CHECKS)
    strokes: float = told(
        "double strokes so far", Unit.STROKES, least=0.0, most=MOST_STROKES, why="no count of strokes", shown=CHECKS
    )
    sizes_mm: tuple[float, ...] = fields.sizes("sizes", CHECKS)
    across_mm: tuple[float, ...] = fields.size("across", CHECKS, default=())
    seconds: float | None = told(
        "seconds so far, where the step is counted in them", Unit.SECONDS, least=0.0, most=MOST_SECONDS, why="no time of a step", shown=CHECKS, default=None
    )  # fmt: skip
    kind: Literal["check_logged"] = "check_logged"


@frozen(kw_only=True)
class CompensationRead(Entry):
    """What the machine says it has taken in this step on diameter: its own stone compensation, beside the measured."""

    cylinder: int = fields.cylinder(CHECKS)
    taken_mm: float = told(
        "the machine says it took",
        Unit.LENGTH,
        above=0.0,
        most=MOST_TAKEN_MM,
        why="more than a machine takes in a step; on diameter, check the unit",
        shown=CHECKS,
    )
    kind: Literal["compensation_read"] = "compensation_read"


@frozen(kw_only=True)
class LoadSeen(Entry):
    """Mean load by depth as the machine sent it, over so many double strokes; load in the machine's own figure."""

    cylinder: int = fields.cylinder(LOAD)
    depths_mm: tuple[float, ...] = told("depths", Unit.LENGTH, shown=LOAD)
    loads: tuple[float, ...] = told("loads", Unit.LOAD, shown=LOAD)
    strokes: float = told(
        "over strokes", Unit.STROKES, least=0.0, most=MOST_STROKES, why="no count of strokes", shown=LOAD
    )
    kind: Literal["load_seen"] = "load_seen"


def _stones_folded(s: Honing, x: StonesSet, on: Folding) -> Honing:
    return changed(s, stones=x, fresh=(*s.fresh, on.record.seq))


def _dressed(s: Honing, x: StonesDressed, on: Folding) -> Honing:
    return changed(s, fresh=(*s.fresh, on.record.seq))


def _hone_folded(s: Honing, x: HoneSet, on: Folding) -> Honing:
    return changed(s, run=x, run_since=on.record.seq)


def _angle_folded(s: Honing, x: AngleWanted, on: Folding) -> Honing:
    return changed(s, angle=x)


def _own_folded(s: Honing, x: OwnHoning, on: Folding) -> Honing:
    return changed(s, own=x)


def _own_followed(s: Booking, x: OwnHoning, on: Folding) -> Booking:
    return changed(s, practices=tuple((dict(s.practices) | {"honing": "own"}).items()))


def _began(s: Honing, x: HoneStepBegan, on: Folding) -> Honing:
    return changed(s, steps=tuple((dict(s.steps) | {x.cylinder: x.step}).items()))


def _checked(s: Honing, x: CheckLogged, on: Folding) -> Honing:
    r = on.record
    check = Check(
        r.seq, x.cylinder, s.step_of(x.cylinder), x.strokes, on.all_to_20(x.sizes_mm), r.block_c, r.at, r.person,
        "" if s.stones is None else s.stones.stones, on.clamped.plate_on, None if s.run is None else s.run.load,
        on.all_to_20(x.across_mm), None if s.stones is None else s.stones.bedded, None if s.run is None else s.run.turns_a_stroke,
    )  # fmt: skip
    return changed(s, checks=s.checks.plus(check))


def _compensated(s: Honing, x: CompensationRead, on: Folding) -> Honing:
    read = Compensation(on.record.seq, x.cylinder, s.step_of(x.cylinder), x.taken_mm)
    return changed(s, compensations=(*s.compensations, read))


def _loaded(s: Honing, x: LoadSeen, on: Folding) -> Honing:
    return changed(s, loads=(*s.loads, LoadByDepth(on.record.seq, x.cylinder, x.depths_mm, x.loads, x.strokes)))


def _stones(words: str, at: At) -> tuple[Entry, ...]:
    found = re.fullmatch(_STONES, words, re.IGNORECASE)
    if found is None:
        raise FormError("Stones are typed by kind, grit, how many, how wide and how long")
    name = _known(at.state, found["name"], found["grit"])
    count, width, long = int(found["count"]), plain(found["width"], at.where), plain(found["long"], at.where)
    if not 1 <= count <= 24 or not 1.0 <= width <= 60.0:
        raise InputError(f"{found['count']} stones {found['width']} wide is no pack; how many, x, how wide each")
    if long >= at.state.block.length_mm:
        raise InputError(f"A stone {found['long']} long is as long as the hole; half to three quarters of it is usual")
    worn, hangs = (plain(found[key], at.where) if found[key] else 0.0 for key in ("worn", "hangs"))
    bedded = found["new"] is None
    return (
        StonesSet(
            stones=name, count=count, width_mm=width, length_mm=long, worn_mm=worn, hangs_mm=hangs, bedded=bedded
        ),
    )


def _known(state: JobState, name: str, grit: str) -> str:
    key, known = f"{name.lower()}_{grit}", stone_names(state.figures)
    if key not in known:
        said = ", ".join(stones_said(n) for n in known)
        raise InputError(f"“{name} {grit}” is no stone that figures are known for: {said}")
    return key


def _hone_parts(words: str) -> tuple[str, dict[str, list[str]]]:
    """The machine, and the figures behind each of its words. Raises InputError."""
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
    return machine, found


def _hone(words: str, at: At) -> tuple[Entry, ...]:
    machine, found = _hone_parts(words)
    rpm, strokes = _figure(found, "rpm"), _figure(found, "strokes")
    if rpm is not None and not 0.0 < rpm <= FASTEST_RPM:
        raise InputError(f"{rpm:g} turns a minute is no speed of a hone")
    if strokes is not None and not 1.0 <= strokes <= FASTEST_STROKES:
        raise InputError(f"{strokes:g} double strokes a minute is no rate of a hone")
    now = at.state.honing.run
    if found and rpm is None and strokes is None and isinstance(now, HoneSet) and now.machine == machine:
        return (_as_said(now, found, at),)  # what is not named stays as it is
    usual = at.proposals.hone(at.state, machine, rpm, strokes)
    assert isinstance(usual, HoneSet)
    return (_as_said(usual, found, at),)


def _as_said(usual: HoneSet, found: dict[str, list[str]], at: At) -> HoneSet:
    over = [length_or_nought(v, at.where) for v in found.get("over", ())]
    dwell = [positive(v) for v in found.get("dwell", ())]
    load, dial = _figure(found, "load"), _figure(found, "dial")
    if load is not None and not 0.0 < load <= 100.0:
        raise InputError("Load is in per cent of the machine, over 0 and up to 100")
    if dwell and max(dwell) > LONGEST_DWELL_S:
        raise InputError(f"{max(dwell):g} s of dwell at every stroke? Seconds are wanted, like 0.5")
    change: dict[str, float | None] = {}
    change |= {} if load is None else {"load": load}
    change |= {} if dial is None else {"load": dial}
    change |= {"over_top_mm": over[0], "over_bottom_mm": over[1]} if over else {}
    change |= {"dwell_top_s": dwell[0], "dwell_bottom_s": dwell[1]} if dwell else {}
    return replace(usual, **change)  # the keys are its fields


def _figure(found: dict[str, list[str]], word: str) -> float | None:
    return positive(found[word][0]) if word in found else None


def _angle(words: str, at: At) -> tuple[Entry, ...]:
    found = re.fullmatch(_ANGLE, words, re.IGNORECASE)
    if found is None:
        raise InputError(
            "The crosshatch is typed as: angle 30, or angle 15 flat where it is quoted from the horizontal"
        )
    flat = found["flat"] is not None
    angle = number(found["angle"], "angle") * (2.0 if flat else 1.0)
    if not 5.0 <= angle <= 120.0:
        raise InputError(f"{angle:g}° included is no crosshatch; 20 to 50 is usual")
    return (AngleWanted(included_deg=angle, quoted="horizontal" if flat else "included"),)


def _taken(words: str, at: At) -> tuple[Entry, ...]:
    value = plain(behind(words) or "0", at.where)
    if value > MOST_TAKEN_MM:
        raise InputError("The machine cannot have taken so much in a step; on diameter, check the unit")
    return (CompensationRead(cylinder=at.where.cylinder, taken_mm=value),)


def _steps(words: str, at: At) -> tuple[Entry, ...]:
    if at.state.honing.checks:
        raise InputError(KEPT_WITH_CHECKS)
    rows = [part.strip() for part in behind(words).split(",") if part.strip()]
    matched = [re.fullmatch(_STEP, row, re.IGNORECASE) for row in rows]
    if not rows or None in matched:
        raise FormError("Own steps are typed by name, how far short each ends, and its stones")
    good = [m for m in matched if m is not None]
    short = tuple(length_or_nought(m["short"], at.where) for m in good)
    if list(short) != sorted(short, reverse=True) or short[0] > 0.5:
        raise InputError("Each step ends nearer to the redline than the one before, the last on it or just short")
    if short[-1] > SHORT_AT_THE_END_MM:
        raise InputError("The last step has to end on the redline: 0 behind its name")
    stones = tuple(_known(at.state, m["stone"], m["grit"]) for m in good)
    return (OwnHoning(steps=tuple(m["name"].strip().lower() for m in good), short_mm=short, stones=stones),)


def _check(text: str, at: At) -> tuple[Entry, ...]:
    down, _, aside = text.lower().partition("across")
    words, state = down.split(), at.state
    if words and (seconds := _seconds(words, at)) is not None:
        return _check_by_time(seconds, down, aside, at)
    if len(words) < 2:
        raise FormError("A check is double strokes, then sizes from the top down")
    try:
        strokes = float(words[0].replace(",", "."))
    except ValueError:
        raise FormError(f"“{words[0]}” is no count of strokes; strokes come first") from None
    turned = strokes > 0.8 * state.block.bore_mm and "." in words[0] and len(words) == 2 and words[1].isdecimal()
    if not 0.0 <= strokes <= MOST_STROKES or turned:
        raise FormError(f"{words[0]} double strokes? Strokes come first, then the size")
    return (_check_entry(strokes, words[0], words[1:], aside.split(), at),)


def _check_entry(
    strokes: float, typed: str, down: list[str], aside: list[str], at: At, seconds: float | None = None
) -> CheckLogged:
    state, where = at.state, at.where
    check_strokes_grow(state, where.cylinder, strokes, typed)
    sizes, across = (tuple(size_from_typed(w, state, where) for w in row) for row in (down, aside))
    if across and len(across) != len(sizes):
        raise InputError(f"{len(sizes)} sizes down, {len(across)} across: as many both ways, at the same depths")
    return CheckLogged(cylinder=where.cylinder, strokes=strokes, seconds=seconds, sizes_mm=sizes, across_mm=across)


def _seconds(words: list[str], at: At) -> float | None:
    """The seconds a check begins with: said so, or in a step that is counted in them; None: it begins with strokes."""
    said = re.fullmatch(r"(\d+(?:[.,]\d+)?)\s*s(?:ec)?", words[0]) or re.match(
        r"(\d+(?:[.,]\d+)?) s(?:ec)?( |$)", " ".join(words[:2])
    )
    counted = at.proposals.seconds_a_stroke(at.state, at.where.cylinder) is not None
    plainly = re.fullmatch(r"(\d+(?:[.,]\d+)?)", words[0]) if counted else None
    found = said or plainly
    return None if found is None else float(found[1].replace(",", "."))


def _check_by_time(seconds: float, down: str, aside: str, at: At) -> tuple[Entry, ...]:
    run = at.state.honing.run
    if run is None or not run.strokes_per_min:
        raise InputError("Say first how many strokes a minute it makes: what seconds take is told by that")
    sizes = re.sub(r"^\s*[\d.,]+\s*(?:s(?:ec)?\b)?", "", down).split()
    if not sizes:
        raise FormError("A check is seconds, then sizes from the top down")
    if not 0.0 <= seconds <= MOST_SECONDS:
        raise InputError(f"{seconds:g} s on one step? {MOST_SECONDS:g} at most")
    strokes = round(seconds * run.strokes_per_min / 60.0, 2)
    return (_check_entry(strokes, f"{seconds:g} s,", sizes, aside.split(), at, seconds),)


def check_strokes_grow(state: JobState, cylinder: int, strokes: float, typed: str) -> None:
    """Raises InputError where a check has fewer strokes than the one before it in its step."""
    earlier = state.honing.checks_of(cylinder, state.honing.step_of(cylinder))
    if earlier and strokes < earlier[-1].strokes:
        raise InputError(
            f"{typed} double strokes is less than the {earlier[-1].strokes:g} booked before; strokes count from the start of the step"
        )


def _as_many_loads(x: LoadSeen) -> list[Wrong]:
    return [] if len(x.loads) == len(x.depths_mm) else [Wrong("loads", "as many loads as depths")]


def _rows_match(x: OwnHoning) -> list[Wrong]:
    return (
        []
        if len({len(x.steps), len(x.short_mm), len(x.stones)}) == 1
        else [Wrong("steps", "as many ends and stones as steps")]
    )


def _stones_words(x: StonesSet, s: Show) -> str:
    return f"stones {stones_said(x.stones)}, {x.count} × {s.rough(x.width_mm)}, {s.rough(x.length_mm)} long"


def _hone_words(x: HoneSet, s: Show) -> str:
    beat = "" if x.strokes_per_min is None else f", {x.strokes_per_min:g} strokes a minute"
    return f"{x.machine} hone, {x.rpm:g} turns{beat}"


def _check_words(x: CheckLogged, s: Show) -> str:
    across = f", across {' '.join(s.size(v) for v in x.across_mm)}" if x.across_mm else ""
    at = f"{x.strokes:g} strokes" if x.seconds is None else f"{x.seconds:g} s"
    return f"{x.cylinder}: check at {at}, {' '.join(s.size(v) for v in x.sizes_mm)}{across}"


def _as_many_across(x: CheckLogged) -> list[Wrong]:
    even = not x.across_mm or len(x.across_mm) == len(x.sizes_mm)
    return [] if even else [Wrong("across_mm", "as many sizes across as down")]


def stones_example(at: At) -> str:
    """Stones that might be in, in the units figures are typed in."""
    return f"stones vitrified 150 4 x {at.show.rough(10.0)} long {at.show.rough(0.6 * at.state.block.length_mm)} new"


def hone_example(at: At) -> str:
    """A hone that might run here: what is below the hole is left alone."""
    room, kept = room_below(at.state.block), at.state.figures.number("honing.room_margin")
    out = 0.1 * at.state.block.length_mm
    below = out if room is None else min(out, max(room - kept, 0.0))
    return f"hone vertical rpm 170 strokes 50 over {at.show.rough(out)} {at.show.rough(below)} dwell 0 0.5 load 20"


def check_example(at: At) -> str:
    """The check that might come next: ten strokes on, and nothing cut yet."""
    earlier = at.state.honing.checks_of(at.where.cylinder, at.state.honing.step_of(at.where.cylinder))
    bored = [h.sizes_mm for h in at.state.boring.holes if h.cylinder == at.where.cylinder]
    sizes = earlier[-1].sizes_mm if earlier else bored[-1] if bored else (at.state.block.bore_mm,) * 3
    return f"{int(earlier[-1].strokes) + 10 if earlier else 0} " + " ".join(
        at.show.size(at.state.as_read(s)) for s in sizes
    )


declare(
    StonesSet, Topic.CHECKS, "hone", _stones_words, into=(Into("honing", _stones_folded),),
    phrases=(
        Phrase(HONE, ("stones",), "stones STONE COUNT x WIDTH long LENGTH [worn LENGTH] [hangs LENGTH] [new]", "the stones in the pack; hangs: clips or guides below a stone's end; new while they are not bedded in", stones_example, _stones,
               lambda at: {"STONE": tuple(stones_said(n) for n in stone_names(at.state.figures))}),
    ),
)  # fmt: skip
declare(
    StonesDressed, Topic.CHECKS, "hone", lambda x, s: "stones dressed", into=(Into("honing", _dressed),),
    phrases=(
        Phrase(HONE, ("dressed",), "dressed", "the stones were dressed: they cut afresh, and the next bite is short", lambda at: "dressed", lambda words, at: (StonesDressed(),)),
    ),
)  # fmt: skip
declare(
    HoneSet, Topic.CHECKS, "hone", _hone_words, into=(Into("honing", _hone_folded),),
    phrases=(
        Phrase(HONE, ("hone",), "hone {vertical | manual | drill | ball} [rpm TURNS] [strokes A-MINUTE] [over TOP BOTTOM] [dwell TOP BOTTOM] [load SHARE]",
               "how the hone goes; what is not said is proposed", hone_example, _hone),
    ),
)  # fmt: skip
declare(
    AngleWanted, Topic.CHECKS, "hone", lambda x, s: f"crosshatch wanted {x.included_deg:g}° included", into=(Into("honing", _angle_folded),),
    phrases=(Phrase(HONE, ("angle",), "angle DEGREES [flat]", "the crosshatch wanted; flat where it is quoted from the horizontal", lambda at: "angle 30", _angle),),
)  # fmt: skip
declare(
    OwnHoning, Topic.CHECKS, "hone", lambda x, s: f"own honing: {', '.join(x.steps)}",
    into=(Into("honing", _own_folded), Into("booking", _own_followed)), wrong=_rows_match,
    phrases=(
        Phrase(HONE, ("steps",), "steps STEPS", "a honing practice of your own: each step by its name, how far short of the redline it ends, its stones; a comma between steps",
               lambda at: f"steps rough {at.show.size(0.05)} vitrified 150, plateau 0 brush 600", _steps),
    ),
)  # fmt: skip
declare(
    HoneStepBegan, Topic.CHECKS, "hone", lambda x, s: f"{x.cylinder}: honing step {x.step + 1}", into=(Into("honing", _began),),
    not_typed="N goes to the next step",
)  # fmt: skip
declare(
    CheckLogged, Topic.CHECKS, "hone", _check_words, into=(Into("honing", _checked),), wrong=_as_many_across,
    phrases=(Phrase(HONE, (), "STROKES SIZE ... [across SIZE ...]", "a check: double strokes so far in this step, then sizes from the top down, and at a second angle", check_example, _check),),
)  # fmt: skip
declare(
    CompensationRead, Topic.CHECKS, "hone", lambda x, s: f"{x.cylinder}: the machine says {s.size(x.taken_mm)} taken",
    into=(Into("honing", _compensated),),
    phrases=(Phrase(HONE, ("taken",), "taken LENGTH", "what the machine itself says it took in this step", lambda at: f"taken {at.show.size(0.045)}", _taken),),
)  # fmt: skip
declare(
    LoadSeen, Topic.CHECKS, "hone", lambda x, s: f"{x.cylinder}: load by depth over {x.strokes:g} strokes", into=(Into("honing", _loaded),),
    not_typed="the hone sends it; kept with the button on the load page", wrong=_as_many_loads,
)  # fmt: skip
