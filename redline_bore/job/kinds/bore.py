"""The entries of boring: machine, inserts, how the bar is set up, what each hole came out at, checks. Lengths in mm."""

from __future__ import annotations

import re
from typing import Literal

from redline_bore.core.errors import FormError, InputError
from redline_bore.core.frozen import changed, frozen
from redline_bore.core.lengths import parse_length
from redline_bore.core.show import Show
from redline_bore.core.told import Unit, told
from redline_bore.job.kinds.entry import Entry
from redline_bore.job.kinds.folding import Folding
from redline_bore.job.kinds.kind import Into, Wrong, declare
from redline_bore.job.kinds.measures import behind, bore_size, depth, number, plain
from redline_bore.job.kinds.measures import clock as clock_angle
from redline_bore.job.kinds.phrase import At, Phrase
from redline_bore.job.kinds.topics import Topic
from redline_bore.job.state import fields
from redline_bore.job.state.boring import (
    CUT,
    FASTEST_RPM,
    SHELF,
    Bar,
    Bored,
    Boring,
    BoringMachine,
    CutNote,
    Grade,
    Looked,
    Rake,
    RunCheck,
)

BORE = ("bore",)
COARSEST_FEED_MM, MOST_INSERTS = 1.0, 500
_RADIUS = r"radius\s+(?P<radius>\S+)\s+(?P<rake>positive|negative)"
_MACHINE = r"machine\s+(?P<name>.+?)\s+thick\s+(?P<thick>\S+)\s+reach\s+(?P<reach>\S+)\s+speeds\s+(?P<speeds>[\d. ]+)"
_SHELVED = r"insert\s+(?P<insert>.+?)(?:\s+edges\s+(?P<edges>\d+))?\s+(?P<grade>coated|plain)\s+(?P<count>\d+)"
_NOTE = r"note\s+(?P<what>hit and skip|ridge|web)s?(?:\s+at\s+(?P<depth>.+))?"
_NOTE_AT_HONE = r"note\s+(?P<what>pin hole|web)s?\s+at\s+(?P<depth>.+)"
_LOOK = (
    r"(?:(?P<clean>clean)|(?P<shadow>shadow)(?:\s+(?:at\s+)?(?P<depth>(?!deep\b)\S+))?(?:\s+(?:clock\s+)?(?P<clock>[\d.,]+)°?)?"
    r"(?:\s+deep\s+(?P<deep>\S+))?)"
)
_BAR_WORDS = {"feed": "length", "rpm": "number", "plain": "grade", "coated": "grade", "mains": "base", "deck": "base"}
ALLOWANCE_WHY = "no stock for a hone; on diameter, check the unit"
AS_TYPED = "The bar is typed by its insert, or by its radius and rake"


@frozen(kw_only=True)
class MachineStated(BoringMachine, Entry):
    """A boring bar of the shop, and the steps of its gearbox."""

    kind: Literal["machine_stated"] = "machine_stated"


@frozen(kw_only=True)
class InsertShelved(Entry):
    """``count`` inserts of a kind came onto the shelf, each with so many edges."""

    insert: str = fields.words("insert", SHELF)
    nose_radius_mm: float = told(
        "nose radius", Unit.LENGTH, above=0.0, most=10.0, why="no nose radius; check the unit", shown=SHELF
    )
    rake: Rake = told("rake", Unit.CHOICE, choices=("positive", "negative"), shown=SHELF)
    edges: int = told("edges of each", Unit.COUNT, least=1, most=16, why="no count of edges of one insert", shown=SHELF)
    grade: Grade = told("carbide", Unit.CHOICE, choices=("coated", "plain"), shown=SHELF)
    count: int = told(
        "how many", Unit.COUNT, least=1, most=MOST_INSERTS, why="no count of inserts at a time", shown=SHELF
    )
    kind: Literal["insert_shelved"] = "insert_shelved"


@frozen(kw_only=True)
class EdgeTurned(Entry):
    """An edge of an insert is used up, and why: the next one cuts from now on."""

    insert: str = fields.words("insert", SHELF)
    why: str = told("why", Unit.CHOICE, choices=("worn", "chipped", "broken"), shown=SHELF, default="worn")
    kind: Literal["edge_turned"] = "edge_turned"


@frozen(kw_only=True)
class BarSet(Bar, Entry):
    """How the bar is set up: insert, feed, turns, what the block is squared to, and what taught its setting."""

    kind: Literal["bar_set"] = "bar_set"


@frozen(kw_only=True)
class HoleBored(Entry):
    """A cylinder was bored with the setting micrometer at ``set_mm``; sizes top to bottom, at the block's own warmth.

    across_mm: the same places at a second angle, empty where nobody read it.
    """

    cylinder: int = fields.cylinder(CUT)
    set_mm: float = fields.size("set to", CUT)
    sizes_mm: tuple[float, ...] = fields.sizes("came out at", CUT)
    across_mm: tuple[float, ...] = fields.size("across", CUT, default=())
    kind: Literal["hole_bored"] = "hole_bored"


@frozen(kw_only=True)
class RunChecked(Entry):
    """A check of the run sheet is done: ``step`` bore or sleeve; cylinder 0 where it counts for the whole set-up."""

    step: str = told("step", Unit.CHOICE, choices=("bore", "sleeve"), shown="bore/cut")
    cylinder: int = told("cylinder", Unit.CYLINDER, least=0, why="not a cylinder of this block", shown="bore/cut")
    check: str = fields.words("check", "bore/cut")
    kind: Literal["run_checked"] = "run_checked"


@frozen(kw_only=True)
class MicrometerSet(Entry):
    """The setting micrometer was found off by so much on its standard, and put right: what it taught before no longer counts."""

    was_off_mm: float = told(
        "was off by",
        Unit.LENGTH,
        least=-1.0,
        most=1.0,
        why="more than a setting micrometer is off",
        shown=CUT,
        default=0.0,
    )
    kind: Literal["micrometer_set"] = "micrometer_set"


@frozen(kw_only=True)
class AllowanceStated(Entry):
    """What the bar leaves for the hone on this job, on diameter: the shop's own, in the practice's place."""

    low_mm: float = told("left for the hone, least", Unit.LENGTH, above=0.0, most=1.0, why=ALLOWANCE_WHY, shown=CUT)
    high_mm: float = told("left for the hone, most", Unit.LENGTH, above=0.0, most=1.0, why=ALLOWANCE_WHY, shown=CUT)
    kind: Literal["allowance_stated"] = "allowance_stated"


@frozen(kw_only=True)
class PassesStated(Entry):
    """Own passes of a cylinder, a side, in their order; what is left of the stock is the last."""

    cylinder: int = fields.cylinder(CUT)
    passes_mm: tuple[float, ...] = told(
        "passes, a side",
        Unit.LENGTH,
        above=0.0,
        most=3.0,
        why="no pass of a bar; a side, check the unit",
        many=1,
        shown=CUT,
    )
    kind: Literal["passes_stated"] = "passes_stated"


@frozen(kw_only=True)
class CutNoted(Entry):
    """What was heard or seen at the cut: hit and skip, a ridge, a web; where, mm down (None: not said)."""

    cylinder: int = fields.cylinder(CUT)
    what: Literal["hit and skip", "ridge", "web", "pin hole"] = told(
        "what", Unit.CHOICE, choices=("hit and skip", "ridge", "web", "pin hole"), shown=CUT
    )
    depth_mm: float | None = told(
        "where", Unit.LENGTH, above=0.0, most=5000.0, why="not a depth in or under a hole", shown=CUT, default=None
    )
    kind: Literal["cut_noted"] = "cut_noted"


@frozen(kw_only=True)
class HoleLooked(Entry):
    """Somebody looked into a hole that was just bored: the tool touched it all over, or a dark patch is left.

    depth_mm, clock_deg: where the patch lies; deep_mm: how deep, gauged across it less gauged beside it. None: not said.
    """

    cylinder: int = fields.cylinder(CUT)
    found: Literal["clean", "shadow"] = told("it is", Unit.CHOICE, choices=("clean", "shadow"), shown=CUT)
    depth_mm: float | None = fields.depth("where the patch lies", CUT, default=None)
    clock_deg: float | None = fields.clock("the patch's clock", CUT, default=None)
    deep_mm: float | None = told(
        "how deep the patch is",
        Unit.LENGTH,
        least=0.0,
        most=1.0,
        why="no shadow, a hole in the wall; check the unit",
        shown=CUT,
        default=None,
    )
    kind: Literal["hole_looked"] = "hole_looked"


def _machine_folded(s: Boring, x: MachineStated, on: Folding) -> Boring:
    return changed(s, machine=x)


def _bar_folded(s: Boring, x: BarSet, on: Folding) -> Boring:
    return changed(s, bar=x)


def _bored(s: Boring, x: HoleBored, on: Folding) -> Boring:
    r, tool = on.record, ("", "") if s.bar is None else (s.bar.machine, s.bar.insert)
    rpm = None if s.bar is None else s.bar.rpm
    sizes, across = on.all_to_20(x.sizes_mm), on.all_to_20(x.across_mm)
    return changed(s, holes=s.holes.plus(Bored(r.seq, x.cylinder, x.set_mm, sizes, r.at, across, r.block_c, tool, rpm)))


def _checked(s: Boring, x: RunChecked, on: Folding) -> Boring:
    r = on.record
    return changed(s, run_checks=s.run_checks.plus(RunCheck(r.seq, x.step, x.cylinder, x.check, r.person, r.at)))


def _put_right(s: Boring, x: MicrometerSet, on: Folding) -> Boring:
    return changed(s, micrometer_since=on.record.seq)


def _micrometer(words: str, at: At) -> tuple[Entry, ...]:
    rest = behind(words)
    off = parse_length(rest, at.where.units).mm if rest else 0.0
    return (MicrometerSet(was_off_mm=off),)


def _left(s: Boring, x: AllowanceStated, on: Folding) -> Boring:
    return changed(s, allowance_mm=(x.low_mm, x.high_mm))


def _own_passes(s: Boring, x: PassesStated, on: Folding) -> Boring:
    return changed(s, passes=tuple((dict(s.passes) | {x.cylinder: x.passes_mm}).items()))


def _leave(words: str, at: At) -> tuple[Entry, ...]:
    parts = behind(words).split()
    if len(parts) != 2:
        raise FormError("What is left for the hone is typed with its least and its most, on diameter")
    low, high = (plain(p, at.where) for p in parts)
    return (AllowanceStated(low_mm=low, high_mm=high),)


def _passes(words: str, at: At) -> tuple[Entry, ...]:
    parts = behind(words).split()
    if not parts:
        raise FormError("Passes are typed a side, the first first")
    return (PassesStated(cylinder=at.where.cylinder, passes_mm=tuple(plain(p, at.where) for p in parts)),)


def _least_first(x: AllowanceStated) -> list[Wrong]:
    return [] if x.low_mm <= x.high_mm else [Wrong("high_mm", "under its least")]


def _noted(s: Boring, x: CutNoted, on: Folding) -> Boring:
    return changed(s, cut_notes=(*s.cut_notes, CutNote(on.record.seq, x.cylinder, x.what, x.depth_mm)))


def _looked(s: Boring, x: HoleLooked, on: Folding) -> Boring:
    hole = next((b for b in reversed(s.holes) if b.cylinder == x.cylinder), None)
    if hole is None:  # the bar was struck out: what was seen is of no size
        return s
    sizes = (*hole.sizes_mm, *hole.across_mm)
    where = (x.depth_mm, x.clock_deg, x.deep_mm)
    return changed(
        s, looks=(*s.looks, Looked(on.record.seq, x.cylinder, x.found == "clean", min(sizes), max(sizes), *where))
    )


def _look(words: str, at: At) -> tuple[Entry, ...]:
    found, number = re.fullmatch(_LOOK, behind(words), re.IGNORECASE), at.where.cylinder
    if found is None:
        raise FormError("A look is clean, or shadow with its depth, its clock, and how deep it is once that was gauged")
    if not any(b.cylinder == number for b in at.state.boring.holes):
        raise InputError(f"Cylinder {number} is not bored yet: there is nothing to look at")
    if found["clean"]:
        return (HoleLooked(cylinder=number, found="clean"),)
    down = depth(found["depth"], at.state, at.where) if found["depth"] else None
    clock = clock_angle(found["clock"]) if found["clock"] else None
    deep = plain(found["deep"], at.where) if found["deep"] else None
    if deep is not None and not 0.0 <= deep <= 1.0:
        raise InputError(f"{found['deep']} deep is no shadow, a hole in the wall; check the unit")
    return (HoleLooked(cylinder=number, found="shadow", depth_mm=down, clock_deg=clock, deep_mm=deep),)


def _looked_words(x: HoleLooked, s: Show) -> str:
    if x.found == "clean":
        return f"{x.cylinder}: looked at, clean all over"
    where = "" if x.depth_mm is None else f" {s.down(x.depth_mm)}"
    where += "" if x.clock_deg is None else f" at {x.clock_deg:g}°"
    deep = "" if x.deep_mm is None else f", {s.unit(s.size(x.deep_mm))} deep"
    return f"{x.cylinder}: looked at, a dark patch{where}{deep}"


def _look_example(at: At) -> str:
    return f"look shadow at {at.show.rough(0.2 * at.state.block.length_mm)} 240 deep {at.show.size(0.01)}"


def _geometry(words: str, at: At) -> tuple[str, float, str, int]:
    """Name, nose radius in mm, rake and edges (0: not known) of an insert."""
    if by_hand := re.fullmatch(_RADIUS, words, re.IGNORECASE):
        return words.lower(), plain(by_hand["radius"], at.where), by_hand["rake"].lower(), 0
    from redline_bore.core.inserts import insert_from_code  # when one is typed

    insert = insert_from_code(words)
    return words.upper(), insert.nose_radius_mm, insert.rake, insert.edges


def _bar_parts(words: str) -> tuple[str, dict[str, str]]:
    """The insert's name, and what else was said of the bar by its sort. Raises InputError."""
    parts, known = words.split()[1:], {}
    at = next((i for i, p in enumerate(parts) if p.lower() in _BAR_WORDS), len(parts))
    name, rest = " ".join(parts[:at]), [p.lower() for p in parts[at:]]
    while rest:
        word = rest.pop(0)
        kind = _BAR_WORDS.get(word)
        if kind is None or (kind in ("length", "number") and not rest):
            raise FormError(AS_TYPED)
        known[kind] = rest.pop(0) if kind in ("length", "number") else word
    if not name:
        raise FormError(AS_TYPED)
    return name, known


def _bar(words: str, at: At) -> tuple[Entry, ...]:
    name, known = _bar_parts(words)
    try:
        insert, radius, rake, _ = _geometry(name, at)
    except InputError as error:
        raise FormError(f"{error}. {AS_TYPED}") from error
    grade = known.get("grade", "coated")
    feed, rpm = at.proposals.cut(at.state, radius, rake, grade)
    if "length" in known:
        feed = plain(known["length"], at.where)
    if "number" in known:
        rpm = at.proposals.machine_speed(at.state, number(known["number"]))
    if feed > COARSEST_FEED_MM:
        raise InputError(f"A feed of {known['length']} a turn is a thread, not a cut; check the unit")
    if not 0.0 < rpm <= FASTEST_RPM:
        raise InputError(f"{rpm:g} turns a minute is no speed of a boring bar")
    machine = "" if at.state.boring.machine is None else at.state.boring.machine.name
    return (
        BarSet(
            insert=insert, nose_radius_mm=radius, rake=rake, feed_mm=feed, rpm=rpm, based_on=known.get("base", "mains"),  # type: ignore[arg-type]  # the pattern lets nothing else through
            grade=grade, machine=machine,  # type: ignore[arg-type]  # likewise
        ),
    )  # fmt: skip


def _machine(words: str, at: At) -> tuple[Entry, ...]:
    found = re.fullmatch(_MACHINE, words, re.IGNORECASE)
    if found is None:
        raise FormError("A machine is typed by its name, how thick its bar is, how far it reaches, its speeds")
    thick, reach = plain(found["thick"], at.where), plain(found["reach"], at.where)
    speeds = tuple(sorted({number(s) for s in found["speeds"].split()}))
    if not speeds or not 0.0 < speeds[0] <= speeds[-1] <= FASTEST_RPM:
        raise InputError(f"The speeds of a bar lie above nought and not over {FASTEST_RPM:g} turns a minute")
    if not 5.0 <= thick <= 500.0 or not thick / 2.0 <= reach <= 3000.0:
        raise InputError("A bar of that thickness and reach is none; check the unit")
    return (MachineStated(name=found["name"].lower(), thick_mm=thick, reach_mm=reach, speeds_rpm=speeds),)


def _shelved(words: str, at: At) -> tuple[Entry, ...]:
    found = re.fullmatch(_SHELVED, words, re.IGNORECASE)
    if found is None:
        raise FormError("Inserts are typed by their code, or by radius and rake, and how many")
    insert, radius, rake, edges = _geometry(found["insert"], at)
    edges = int(found["edges"]) if found["edges"] else edges
    count = int(found["count"])
    if not 1 <= edges <= 16:
        raise InputError("How many edges one insert has is wanted: edges 3")
    if not 1 <= count <= MOST_INSERTS:
        raise InputError(f"{count} inserts? 1 to {MOST_INSERTS} at a time")
    return (
        InsertShelved(
            insert=insert, nose_radius_mm=radius, rake=rake, edges=edges, grade=found["grade"].lower(), count=count  # type: ignore[arg-type]  # the pattern lets nothing else through
        ),
    )  # fmt: skip


def _turned(words: str, at: At) -> tuple[Entry, ...]:
    if at.state.boring.bar is None:
        raise InputError("Nothing is in the bar; type what is: bar TPG 321")
    why = behind(words).lower() or "worn"
    if why not in ("worn", "chipped", "broken"):
        raise InputError("An edge is turned because it is worn, chipped or broken: turn worn")
    return (EdgeTurned(insert=at.state.boring.bar.insert, why=why),)


def _web_depth(text: str, at: At) -> float:
    """How deep a web lies, mm from the deck: in the hole, or as far below its end as the hole is long."""
    deep, most = plain(text, at.where), 2.0 * at.state.block.length_mm
    if not 0.0 <= deep <= most:
        raise InputError(f"{text} is not in a cylinder, nor just below one")
    return deep


def _note_depth(text: str, web: bool, at: At) -> float:
    return _web_depth(text, at) if web else depth(text, at.state, at.where)


def _note(words: str, at: At) -> tuple[Entry, ...]:
    found = re.fullmatch(_NOTE, words, re.IGNORECASE)
    if found is None:
        raise FormError("A note is of hit and skip, of a ridge, or of a web and its depth")
    web = found["what"].lower() == "web"  # it may lie below the hole
    deep = _note_depth(found["depth"], web, at) if found["depth"] else None
    return (CutNoted(cylinder=at.where.cylinder, what=found["what"].lower(), depth_mm=deep),)  # type: ignore[arg-type]  # the pattern lets nothing else through


def _note_at_hone(words: str, at: At) -> tuple[Entry, ...]:
    found = re.fullmatch(_NOTE_AT_HONE, words, re.IGNORECASE)
    if found is None:
        raise FormError("A note is of a pin hole or of a web, and its depth")
    web = found["what"].lower() == "web"
    deep = _note_depth(found["depth"], web, at)
    return (CutNoted(cylinder=at.where.cylinder, what="web" if web else "pin hole", depth_mm=deep),)


def _hole(words: str, at: At) -> tuple[Entry, ...]:
    parts, proposed = words.lower().split(), at.proposals.setting(at.state, at.where.cylinder, at.at)
    setting = proposed.mm
    if parts and parts[0] == "set":
        if len(parts) < 3:
            raise FormError("A setting is typed with what it cut")
        setting = bore_size(parts[1], at.state, at.where)
        parts = parts[2:]
    if setting is None:
        raise InputError(
            f"Cylinder {at.where.cylinder} has no setting: {proposed.missing}. Type: set, the setting, then the sizes"
        )
    place = parts.index("across") if "across" in parts else len(parts)
    sizes, across = (
        tuple(bore_size(p, at.state, at.where) for p in row) for row in (parts[:place], parts[place + 1 :])
    )
    if not sizes or (place < len(parts) and len(across) != len(sizes)):
        raise FormError("As many sizes across as along")
    every = (*sizes, *across)
    if max(every) - min(every) > 0.5 or abs(sum(every) / len(every) - setting) > 1.0:
        raise InputError("These sizes are too far from the setting, or from each other; check them")
    return (HoleBored(cylinder=at.where.cylinder, set_mm=setting, sizes_mm=sizes, across_mm=across),)


def _as_many_across(x: HoleBored) -> list[Wrong]:
    return (
        [Wrong("across_mm", "as many sizes across as along")]
        if x.across_mm and len(x.across_mm) != len(x.sizes_mm)
        else []
    )


def _bar_words(x: BarSet, s: Show) -> str:
    return f"bar: {x.insert}, {s.fine(x.feed_mm)} a turn, {x.rpm:g} turns a minute, on the {x.based_on}"


def _noted_words(x: CutNoted, s: Show) -> str:
    return f"{x.cylinder}: {x.what}" + ("" if x.depth_mm is None else f" {s.down(x.depth_mm)}")


def _hole_example(at: At) -> str:
    say, size = at.show.size, at.state.block.bore_mm + 0.5
    return f"set {say(size)} {say(size + 0.012)} {say(size + 0.010)} across {say(size + 0.011)} {say(size + 0.009)}"


def _machine_example(at: At) -> str:
    return f"machine north thick {at.show.rough(60.0)} reach {at.show.rough(250.0)} speeds 110 150 210"


_SHELF_WHY = "the shelf is counted over all jobs; the job itself only keeps the entry"
declare(
    MachineStated, Topic.BORE, "bore", lambda x, s: f"machine {x.name}: bar {s.rough(x.thick_mm)} thick, reaches {s.rough(x.reach_mm)}",
    into=(Into("boring", _machine_folded),),
    phrases=(
        Phrase(BORE, ("machine",), "machine NAME thick LENGTH reach LENGTH speeds TURNS ...", "a boring bar of the shop", _machine_example, _machine),
    ),
)  # fmt: skip
declare(
    InsertShelved, Topic.BORE, "bore", lambda x, s: f"{x.count} inserts {x.insert} onto the shelf, {x.edges} edges each, {x.grade}",
    kept_only=_SHELF_WHY,
    phrases=(
        Phrase(BORE, ("insert",), "insert CODE [edges COUNT] {coated | plain} COUNT", "inserts onto the shelf; or insert radius RADIUS positive edges COUNT ...",
               lambda at: "insert TPG 321 coated 5", _shelved),
    ),
)  # fmt: skip
declare(
    EdgeTurned, Topic.BORE, "bore", lambda x, s: f"an edge of {x.insert} is {x.why}", kept_only=_SHELF_WHY,
    phrases=(
        Phrase(BORE, ("turn",), "turn {worn | chipped | broken}", "the edge in the bar is used up", lambda at: "turn worn", _turned),
    ),
)  # fmt: skip
declare(
    BarSet, Topic.BORE, "bore", _bar_words, into=(Into("boring", _bar_folded),),
    phrases=(
        Phrase(BORE, ("bar",), "bar CODE [plain] [feed LENGTH] [rpm TURNS] [deck]", "the insert in the bar; feed and speed are proposed; or bar radius RADIUS positive ...",
               lambda at: "bar TPG 321", _bar),
    ),
)  # fmt: skip
declare(
    HoleBored, Topic.BORE, "bore", lambda x, s: f"{x.cylinder}: bored, set to {s.size(x.set_mm)}, came {s.size(max(x.sizes_mm))}",
    into=(Into("boring", _bored),), wrong=_as_many_across,
    phrases=(
        Phrase(BORE, (), "[set SIZE] SIZE ... [across SIZE ...]", "what the hole came out at, top to bottom; set where another setting was used", _hole_example, _hole),
    ),
)  # fmt: skip
declare(
    RunChecked, Topic.BORE, "bore", lambda x, s: f"{x.cylinder or 'set-up'}: {x.step} check, {x.check}", into=(Into("boring", _checked),),
    not_typed="K stamps the next check of a run sheet",
)  # fmt: skip
declare(
    MicrometerSet, Topic.BORE, "bore", lambda x, s: f"setting micrometer put right, it was off by {s.away(x.was_off_mm)}", into=(Into("boring", _put_right),),
    phrases=(
        Phrase(BORE, ("micrometer",), "micrometer [OFF-BY]", "the setting micrometer was put right on its standard; what it taught before counts no more",
               lambda at: f"micrometer {at.show.away(-0.013)}", _micrometer),
    ),
)  # fmt: skip
declare(
    AllowanceStated, Topic.BORE, "bore", lambda x, s: f"left for the hone: {s.between(x.low_mm, x.high_mm)} on diameter",
    into=(Into("boring", _left),), wrong=_least_first,
    phrases=(
        Phrase(BORE, ("leave",), "leave LEAST MOST", "what the bar leaves for the hone on this job, on diameter",
               lambda at: f"leave {at.show.size(0.08)} {at.show.size(0.13)}", _leave),
    ),
)  # fmt: skip
declare(
    PassesStated, Topic.BORE, "bore", lambda x, s: f"{x.cylinder}: passes {', '.join(s.size(p) for p in x.passes_mm)} a side, then what is left",
    into=(Into("boring", _own_passes),),
    phrases=(
        Phrase(BORE, ("passes",), "passes LENGTH ...", "own passes of this cylinder, a side; what is left of the stock is the last",
               lambda at: f"passes {at.show.size(0.15)} {at.show.size(0.05)}", _passes),
    ),
)  # fmt: skip
declare(
    CutNoted, Topic.BORE, "bore", _noted_words, into=(Into("boring", _noted),),
    phrases=(
        Phrase(BORE, ("note",), "note {hit and skip | ridge | web} [at DEPTH]", "what was heard or seen at the cut",
               lambda at: f"note hit and skip at {at.show.rough(0.6 * at.state.block.length_mm)}", _note),
        Phrase(("hone",), ("note",), "note {pin hole | web} at DEPTH", "an opening or a web that the stone meets",
               lambda at: f"note pin hole at {at.show.rough(0.6 * at.state.block.length_mm)}", _note_at_hone),
    ),
)  # fmt: skip
declare(
    HoleLooked, Topic.BORE, "bore", _looked_words, into=(Into("boring", _looked),),
    phrases=(
        Phrase(BORE, ("look",), "look {clean | shadow} [at DEPTH] [CLOCK] [deep LENGTH]",
               "what the bored hole shows: touched all over, or a dark patch, where, and how deep it is: gauged across it less gauged beside it",
               _look_example, _look),
    ),
)  # fmt: skip
