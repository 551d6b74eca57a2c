"""The entries of the call: clearances, pistons, the chamber, the decision. Lengths in mm, volumes in cm3."""

from __future__ import annotations

import re
from typing import TYPE_CHECKING, Literal

from redline_bore.core.block import BlockSpec
from redline_bore.core.errors import FormError, InputError
from redline_bore.core.fit import ClearanceWindow
from redline_bore.core.frozen import changed, frozen
from redline_bore.core.show import Show
from redline_bore.core.thermal import size_at_20
from redline_bore.core.told import Of, Unit, told
from redline_bore.job.kinds.entry import Entry
from redline_bore.job.kinds.folding import Folding
from redline_bore.job.kinds.kind import Into, Wrong, declare
from redline_bore.job.kinds.measures import bore_size, number, plain, temperature
from redline_bore.job.kinds.phrase import At, Phrase
from redline_bore.job.kinds.topics import Topic
from redline_bore.job.state import fields
from redline_bore.job.state.calling import PISTONS, Apart, BasedOn, Calling, ChamberSpace, Decision, Piston, Way

if TYPE_CHECKING:
    from redline_bore.core.volumes import Chamber

LADDER = "call/ladder"
CALL = ("call",)
SOURCES = {"sheet": "piston sheet", "manual": "manual", "habit": "habit"}
_WINDOW = r"(?P<source>sheet|manual|habit)\s+(?P<low>\S+)\s+(?P<high>\S+)"
_PISTONS = r"pistons\s+(?P<sizes>.+?)(?:\s+(?P<warm>[\d.,]+\s*°?\s*[cf]))?"
_PISTON = r"(?:piston\s+)?(?P<size>.+?)(?:\s+(?P<warm>[\d.,]+\s*°?\s*[cf]))?"
_CHAMBER = (
    r"chamber\s+(?P<chamber>\S+)(?:\s+(?P<form>dish|dome)\s+(?P<dish>\S+))?"
    r"\s+gasket\s+(?P<bore>\S+)\s*x\s*(?P<thick>\S+)(?:\s+deck\s+(?P<deck>\S+))?"
)
LEFT_OUT = {"flaw": "mark", "sweep": "sweep", "wall": "wall", "wall again": "wall_again", "liner": "wall_through"}
_LEFT = r"leave\s+out\s+(?P<what>flaw|sweep|wall again|wall|liner)(?:\s+(?P<cylinder>\d+))?"
CLEARANCE_WHY = "more than a hundredth of the bore; check the unit"


@frozen(kw_only=True)
class ClearanceStated(Entry):
    """A clearance window off a piston sheet, a manual, or the machinist's habit."""

    source: str = told("by", Unit.CHOICE, choices=tuple(SOURCES.values()), shown=PISTONS)
    low_mm: float = told(
        "least clearance", Unit.LENGTH, least=0.0, most=0.01, of=Of.BORE, why=CLEARANCE_WHY, shown=PISTONS
    )
    high_mm: float = told(
        "most clearance", Unit.LENGTH, least=0.0, most=0.01, of=Of.BORE, why=CLEARANCE_WHY, shown=PISTONS
    )
    kind: Literal["clearance_stated"] = "clearance_stated"


@frozen(kw_only=True)
class PistonMeasured(Entry):
    """The piston meant for a cylinder, at its gauge point and its own temperature (None: not taken)."""

    cylinder: int = fields.cylinder(PISTONS)
    size_mm: float = fields.size("piston", PISTONS)
    piston_c: float | None = fields.warmth("piston's temperature", PISTONS, default=None)
    kind: Literal["piston_measured"] = "piston_measured"


@frozen(kw_only=True)
class ChamberStated(ChamberSpace, Entry):
    """What lies above a piston at the top of its stroke."""

    kind: Literal["chamber_stated"] = "chamber_stated"


@frozen(kw_only=True)
class DecisionTaken(Entry):
    """The call: the rung over nominal that cylinders go to, those that leave it, and the figures it rests on.

    way: bored to ``oversize_mm``, or honed there without a bar; or nothing is cut and it is left, deglazed or re-ringed (oversize 0).
    """

    oversize_mm: float = told(
        "oversize", Unit.LENGTH, least=0.0, most=0.2, of=Of.BORE, why="no oversize of this bore", shown=LADDER
    )
    way: Way = told(
        "what is done",
        Unit.CHOICE,
        choices=("bore", "hone", "leave", "deglaze", "rering"),
        shown=LADDER,
        default="bore",
    )
    sentence: str = fields.words("the call", LADDER)
    figures: tuple[str, ...] = fields.words("rests on", LADDER, default=())
    apart: tuple[Apart, ...] = told("leave the common size", Unit.PARTS, shown=LADDER, default=())
    based_on: tuple[BasedOn, ...] = told("was based on", Unit.PARTS, shown=LADDER, default=())
    kind: Literal["decision_taken"] = "decision_taken"


@frozen(kw_only=True)
class AskLeft(Entry):
    """What was asked for before metal is cut is left out, by name: it is not asked again, and the risk stands on the card."""

    cylinder: int = fields.cylinder(LADDER)
    what: str = told("what is left out", Unit.CHOICE, choices=tuple(LEFT_OUT.values()), shown=LADDER)
    kind: Literal["ask_left"] = "ask_left"


def _left_folded(s: Calling, x: AskLeft, on: Folding) -> Calling:
    return changed(s, left_out=tuple(dict.fromkeys((*s.left_out, (x.what, x.cylinder)))))


def _left(text: str, at: At) -> tuple[Entry, ...]:
    found = re.fullmatch(_LEFT, text, re.IGNORECASE)
    if found is None:
        raise FormError("What is left out is typed by its name and its cylinder")
    cylinder = at.where.cylinder if found["cylinder"] is None else int(found["cylinder"])
    if not 1 <= cylinder <= len(at.state.cylinders):
        raise InputError(f"There is no cylinder {cylinder} in this block")
    return (AskLeft(cylinder=cylinder, what=LEFT_OUT[found["what"].lower()]),)


def _clearance(s: Calling, x: ClearanceStated, on: Folding) -> Calling:
    kept = [w for w in s.windows if w.source != x.source]
    return changed(s, windows=(*kept, ClearanceWindow(x.low_mm, x.high_mm, x.source)))


def _piston_folded(s: Calling, x: PistonMeasured, on: Folding) -> Calling:
    coefficient = on.figures.number(f"thermal.{on.materials.piston_alloy}")
    size = x.size_mm if x.piston_c is None else size_at_20(x.size_mm, coefficient, x.piston_c)
    piston = Piston(on.record.seq, x.cylinder, size, on.record.typed, x.piston_c is not None)
    return changed(s, pistons=s.pistons.plus(piston))


def _chamber_folded(s: Calling, x: ChamberStated, on: Folding) -> Calling:
    return changed(s, chamber=x)


def _decided(s: Calling, x: DecisionTaken, on: Folding) -> Calling:
    r = on.record
    decision = Decision(r.seq, x.oversize_mm, x.sentence, x.figures, r.at, r.person, x.apart, x.based_on, x.way)
    return changed(s, decision=decision)


def _window(text: str, at: At) -> tuple[Entry, ...]:
    found = re.fullmatch(_WINDOW, text, re.IGNORECASE)
    if found is None:
        raise FormError("A clearance is typed with its least and its most")
    low, high = (plain(found[end], at.where) for end in ("low", "high"))
    source = SOURCES[found["source"].lower()]
    ClearanceWindow(low, high, source)  # refuses one whose ends are the wrong way round
    if high > 0.01 * at.state.block.bore_mm:
        raise InputError(f"A clearance of {found['high']} is {CLEARANCE_WHY}")
    return (ClearanceStated(source=source, low_mm=low, high_mm=high),)


def _piston(text: str, at: At) -> tuple[Entry, ...]:
    match = re.fullmatch(_PISTON, text, re.IGNORECASE)
    if match is None:
        raise InputError("Nothing is typed; the piston's size at its gauge point is wanted")
    size = bore_size(match["size"], at.state, at.where)
    warm = temperature(match["warm"]) if match["warm"] else None
    return (PistonMeasured(cylinder=at.where.cylinder, size_mm=size, piston_c=warm),)


def _pistons(text: str, at: At) -> tuple[Entry, ...]:
    """One for every cylinder, in their order, all as warm."""
    match = re.fullmatch(_PISTONS, text, re.IGNORECASE)
    sizes = match["sizes"].split() if match is not None else []
    if match is None or len(sizes) != len(at.state.cylinders):
        raise FormError(
            f"Pistons are typed all together, {len(at.state.cylinders)} sizes, cylinder 1 first; not {len(sizes)}"
        )
    warm = temperature(match["warm"]) if match["warm"] else None
    return tuple(
        PistonMeasured(cylinder=c, size_mm=bore_size(size, at.state, at.where), piston_c=warm)
        for c, size in zip(at.state.cylinders, sizes, strict=True)
    )


def _pistons_example(at: At) -> str:
    bore = at.state.block.bore_mm
    return f"pistons {' '.join(at.show.size(bore) for _c in at.state.cylinders)} {at.show.warm_typed(21.0)}"


def _chamber(text: str, at: At) -> tuple[Entry, ...]:
    found = re.fullmatch(_CHAMBER, text, re.IGNORECASE)
    if found is None:
        raise FormError("A chamber is typed by its volume in cm3, the piston's dish or dome, its gasket, its deck")
    dish = 0.0 if found["dish"] is None else _volume(found["dish"])
    sign = -1.0 if (found["form"] or "").lower() == "dome" else 1.0
    entry = ChamberStated(
        chamber_cm3=_volume(found["chamber"]), dish_cm3=sign * dish, gasket_bore_mm=plain(found["bore"], at.where),
        gasket_thickness_mm=plain(found["thick"], at.where),
        deck_clearance_mm=plain(found["deck"], at.where) if found["deck"] else 0.0,
    )  # fmt: skip
    bore, stroke = at.state.block.bore_mm, at.state.block.stroke_mm
    if not 0.9 * bore <= entry.gasket_bore_mm <= 1.3 * bore:
        raise InputError(f"A gasket of {found['bore']} does not belong to this bore; check the unit")
    if entry.gasket_thickness_mm > 0.1 * bore:
        raise FormError(f"A gasket {found['thick']} thick? The size is typed before the thickness")
    from redline_bore.core.volumes import compression_ratio  # where a chamber is typed

    ratio = compression_ratio(bore, stroke, chamber_of(entry))
    if not 2.0 <= ratio <= 40.0:
        raise InputError(f"That gives a compression of {ratio:.1f} to 1; check the chamber, it is in cm3")
    return (entry,)


def chamber_of(space: ChamberSpace) -> Chamber:
    """The chamber of an entry, for the volumes."""
    from redline_bore.core.volumes import Chamber

    return Chamber(
        space.chamber_cm3, space.dish_cm3, space.gasket_bore_mm, space.gasket_thickness_mm, space.deck_clearance_mm
    )


def _volume(text: str) -> float:
    """A volume in cm3; never under nought. Raises InputError."""
    value = number(text, "volume in cm3")
    if not 0.0 <= value <= 10000.0:
        raise InputError(f"{text} cm3 is no volume of a chamber or a piston's crown")
    return value


def _low_first(x: ClearanceStated) -> list[Wrong]:
    return [] if x.low_mm <= x.high_mm else [Wrong("high_mm", "under its least")]


def _window_example(at: At) -> str:
    bore = at.state.block.bore_mm
    return f"sheet {at.show.size(0.0006 * bore)} {at.show.size(0.0008 * bore)}"


def _chamber_example(at: At) -> str:
    return chamber_line(at.state.block, at.show)


def chamber_line(block: BlockSpec, show: Show) -> str:
    """How a chamber of this block is typed."""
    bore, say = block.bore_mm, show.rough
    swept = 3.14159 / 4.0 * (bore / 10.0) ** 2 * block.stroke_mm / 10.0
    return f"chamber {swept / 9.0:.0f} dish 4.5 gasket {say(1.02 * bore)} x {say(1.2)} deck {say(0.35)}"


declare(
    ClearanceStated, Topic.PRACTICE, "call", lambda x, s: f"clearance by {x.source}: {s.size(x.low_mm)}–{s.size(x.high_mm)}",
    into=(Into("calling", _clearance),), wrong=_low_first,
    phrases=(
        Phrase(CALL, tuple(SOURCES), "{sheet | manual | habit} LEAST MOST", "a clearance window, and whose it is", _window_example, _window),
    ),
)  # fmt: skip
declare(
    PistonMeasured, Topic.PISTONS, "call", lambda x, s: f"piston {x.cylinder}: {s.size(x.size_mm)}", into=(Into("calling", _piston_folded),),
    phrases=(
        Phrase(CALL, (), "[piston] SIZE [TEMPERATURE]", "the piston meant for this cylinder, at its gauge point",
               lambda at: f"piston {at.show.size(at.state.block.bore_mm)} {at.show.warm_typed(21.0)}", _piston),
        Phrase(CALL, ("pistons",), "pistons SIZE ... [TEMPERATURE]", "the pistons of all cylinders, the first cylinder's first", _pistons_example, _pistons),
    ),
)  # fmt: skip
declare(
    ChamberStated, Topic.PISTONS, "call", lambda x, s: f"chamber {x.chamber_cm3:g} cm³, gasket {s.size(x.gasket_bore_mm)}",
    into=(Into("calling", _chamber_folded),),
    phrases=(
        Phrase(CALL, ("chamber",), "chamber CM3 [{dish | dome} CM3] gasket SIZE x THICKNESS [deck LENGTH]", "what lies above the piston, for the compression", _chamber_example, _chamber),
    ),
)  # fmt: skip
declare(
    DecisionTaken, Topic.DECISION, "call", lambda x, s: f"the call: {x.sentence}", into=(Into("calling", _decided),),
    not_typed="taken with the button on the ladder or the options",
)  # fmt: skip
declare(
    AskLeft, Topic.DECISION, "call", lambda x, s: f"{x.cylinder}: left out before metal, {next(k for k, v in LEFT_OUT.items() if v == x.what)}",
    into=(Into("calling", _left_folded),),
    phrases=(
        Phrase(CALL, ("leave",), "leave out {flaw | sweep | wall | wall again | liner} [CYLINDER]", "what is asked for before metal is left out, and not asked again",
               lambda at: "leave out wall 1", _left),
    ),
)  # fmt: skip
