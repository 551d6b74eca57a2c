"""The entries of sleeving: the old sleeve, the parent, every new sleeve, deck, counterbores, what it read once in.

Lengths in mm at the part's own temperature unless the name says not, temperatures in C.
"""

from __future__ import annotations

import re
from typing import Literal

from redline_bore.core.block import bank_of
from redline_bore.core.errors import FormError, InputError
from redline_bore.core.frozen import changed, frozen
from redline_bore.core.lengths import parse_length
from redline_bore.core.show import Show
from redline_bore.core.thermal import COLDEST_C, size_at_20
from redline_bore.core.told import Of, Unit, told
from redline_bore.job.kinds.entry import Entry
from redline_bore.job.kinds.folding import Folding, parent_material
from redline_bore.job.kinds.kind import Into, Wrong, declare
from redline_bore.job.kinds.measures import behind, bore_size, depth, in_celsius, plain
from redline_bore.job.kinds.phrase import At, Phrase
from redline_bore.job.kinds.topics import Topic
from redline_bore.job.state import fields
from redline_bore.job.state.sleeving import (
    DECK,
    FIT,
    AfterPress,
    Counterbored,
    DeckHeights,
    NewSleeve,
    ParentOutside,
    ParentRing,
    Protrusion,
    Sleeving,
    WayTaken,
)

SLEEVE, SLICE = ("sleeve",), "sleeving"
SleeveWay = Literal["touch up", "bore to the sleeve", "oversize outside", "repair sleeve"]
MOST_OUT_MM, THICKEST_FLANGE_MM, DEEPEST_COUNTERBORE_MM = 3.0, 40.0, 50.0
_SLEEVE = (
    r"sleeve\s+(?P<outside>\S+)\s*x\s*(?P<bore>\S+)(?:\s+flange\s+(?P<flange>\S+))?(?:\s+long\s+(?P<long>\S+))?"
    r"(?:\s+(?P<warm>[\d.,]+)\s*°?\s*(?P<scale>[cf]))?"
)
_COLD = r"cold\s+(?P<cold>[+\-−]?[\d.,]+)\s*°?\s*(?P<scale>[cf])"
_PARENT = r"parent\s+(?P<sizes>.+?)(?:\s+at\s+(?P<depth>.+))?"


@frozen(kw_only=True)
class OldSleeveMeasured(Entry):
    """Outside diameter of the sleeve that is to come out."""

    cylinder: int = fields.cylinder(FIT)
    outside_mm: float = fields.size("old sleeve's outside", FIT)
    kind: Literal["old_sleeve_measured"] = "old_sleeve_measured"


@frozen(kw_only=True)
class ParentRead(Entry):
    """Two-point diameters of a parent bore at one depth, at angles spread evenly from 0 over half a turn."""

    cylinder: int = fields.cylinder(FIT)
    depth_mm: float = fields.depth(shown=FIT)
    sizes_mm: tuple[float, ...] = fields.sizes("parent", FIT)
    kind: Literal["parent_read"] = "parent_read"


@frozen(kw_only=True)
class ParentOutsideStated(ParentOutside, Entry):
    """Effective outside of the parents: a range, for water and ribs make it uncertain."""

    kind: Literal["parent_outside_stated"] = "parent_outside_stated"


@frozen(kw_only=True)
class SleeveMeasured(Entry):
    """The sleeve meant for a cylinder, as it lies on the bench at ``sleeve_c`` (None: not taken).

    flange_mm: thickness of its flange, None: it has none. length_mm: whole length, None: not measured.
    """

    cylinder: int = fields.cylinder(FIT)
    outside_mm: float = fields.size("sleeve's outside", FIT)
    bore_mm: float = fields.size("sleeve's bore", FIT)
    flange_mm: float | None = told(
        "flange",
        Unit.LENGTH,
        above=0.0,
        most=THICKEST_FLANGE_MM,
        why="no thickness of a flange; check the unit",
        shown=FIT,
        default=None,
    )
    length_mm: float | None = told(
        "sleeve's length",
        Unit.LENGTH,
        above=0.0,
        most=5.0,
        of=Of.HOLE,
        why="no length of a sleeve for this hole",
        shown=FIT,
        default=None,
    )
    sleeve_c: float | None = told(
        "sleeve's temperature",
        Unit.TEMPERATURE,
        least=-30.0,
        most=60.0,
        why="no temperature at which a sleeve is measured",
        shown=FIT,
        default=None,
    )
    kind: Literal["sleeve_measured"] = "sleeve_measured"


@frozen(kw_only=True)
class DeckRead(DeckHeights, Entry):
    """Heights of a bank's deck, rows front to back."""

    kind: Literal["deck_read"] = "deck_read"


@frozen(kw_only=True)
class DeckFaced(Entry):
    """The deck of a bank was faced, and so much came off it altogether."""

    bank: int = told("bank", Unit.BANK, least=0, most=1, why="a block has banks 0 and 1", shown=DECK)
    cut_mm: float = told(
        "came off",
        Unit.LENGTH,
        above=0.0,
        most=MOST_OUT_MM,
        why="more than comes off a deck; check the unit",
        shown=DECK,
    )
    kind: Literal["deck_faced"] = "deck_faced"


@frozen(kw_only=True)
class CounterboreRead(Entry):
    """Depth of a counterbore from the deck as it stands."""

    cylinder: int = fields.cylinder(DECK)
    depth_mm: float = told(
        "counterbore",
        Unit.LENGTH,
        above=0.0,
        most=DEEPEST_COUNTERBORE_MM,
        why="no depth of a counterbore; check the unit",
        shown=DECK,
    )
    kind: Literal["counterbore_read"] = "counterbore_read"


@frozen(kw_only=True)
class ProtrusionStated(Protrusion, Entry):
    """How far the flanges are to stand above the deck, by the maker's sheet."""

    kind: Literal["protrusion_stated"] = "protrusion_stated"


@frozen(kw_only=True)
class SleeveWayTaken(Entry):
    """What is done about this cylinder's sleeve and parent."""

    cylinder: int = fields.cylinder("sleeve/ways")
    way: SleeveWay = told(
        "what is done",
        Unit.CHOICE,
        choices=("touch up", "bore to the sleeve", "oversize outside", "repair sleeve"),
        shown="sleeve/ways",
    )
    step_left: bool = fields.flag("a step left at the bottom", "sleeve/ways", default=False)
    kind: Literal["sleeve_way_taken"] = "sleeve_way_taken"


@frozen(kw_only=True)
class SleeveCold(Entry):
    """How cold the sleeves are made before they go in."""

    sleeve_c: float = told(
        "sleeves cooled to",
        Unit.TEMPERATURE,
        least=COLDEST_C,
        most=60.0,
        why="no temperature of a sleeve",
        shown="sleeve/heat",
    )
    kind: Literal["sleeve_cold"] = "sleeve_cold"


@frozen(kw_only=True)
class AfterPressRead(Entry):
    """The bore of a sleeve once it sits and everything is at one temperature, top to bottom."""

    cylinder: int = fields.cylinder(FIT)
    sizes_mm: tuple[float, ...] = fields.sizes("sleeve once in", FIT)
    kind: Literal["after_press_read"] = "after_press_read"


def _old_folded(s: Sleeving, x: OldSleeveMeasured, on: Folding) -> Sleeving:
    return changed(s, olds=(*s.olds, (x.cylinder, x.outside_mm)))


def _parent_folded(s: Sleeving, x: ParentRead, on: Folding) -> Sleeving:
    own = on.figures.number(f"thermal.{parent_material(on.materials.block.material)}")
    warm = on.record.block_c
    sizes = x.sizes_mm if warm is None else tuple(size_at_20(size, own, warm) for size in x.sizes_mm)
    return changed(s, parents=s.parents.plus(ParentRing(on.record.seq, x.cylinder, x.depth_mm, sizes)))


def _outside_folded(s: Sleeving, x: ParentOutsideStated, on: Folding) -> Sleeving:
    return changed(s, outside=x)


def _sleeve_folded(s: Sleeving, x: SleeveMeasured, on: Folding) -> Sleeving:
    own, warm = on.figures.number("thermal.grey_iron"), x.sleeve_c
    outside, bore = (mm if warm is None else size_at_20(mm, own, warm) for mm in (x.outside_mm, x.bore_mm))
    new = NewSleeve(on.record.seq, x.cylinder, outside, bore, x.flange_mm, x.length_mm, warm is not None)
    return changed(s, sleeves=(*s.sleeves, new))


def _deck_folded(s: Sleeving, x: DeckRead, on: Folding) -> Sleeving:
    return changed(s, decks=(*s.decks, x))


def _faced_folded(s: Sleeving, x: DeckFaced, on: Folding) -> Sleeving:
    return changed(s, faced=(*s.faced, (x.bank, x.cut_mm)))


def _counterbored(s: Sleeving, x: CounterboreRead, on: Folding) -> Sleeving:
    from redline_bore.core.block import bore_positions  # few jobs have counterbores: not at the start

    bank = next((b.bank for b in bore_positions(on.materials.block) if b.number == x.cylinder), 0)
    cut = Counterbored(on.record.seq, x.cylinder, x.depth_mm, s.faced_mm(bank))
    return changed(s, counterbores=(*s.counterbores, cut))


def _protrusion_folded(s: Sleeving, x: ProtrusionStated, on: Folding) -> Sleeving:
    return changed(s, protrusion=x)


def _way_folded(s: Sleeving, x: SleeveWayTaken, on: Folding) -> Sleeving:
    return changed(s, ways=(*s.ways, WayTaken(on.record.seq, x.cylinder, x.way, x.step_left)))


def _cold_folded(s: Sleeving, x: SleeveCold, on: Folding) -> Sleeving:
    return changed(s, cold_c=x.sleeve_c)


def _after_folded(s: Sleeving, x: AfterPressRead, on: Folding) -> Sleeving:
    read = AfterPress(on.record.seq, x.cylinder, on.all_to_20(x.sizes_mm), on.record.block_c)
    return changed(s, after=(*s.after, read))


def _rest(words: str) -> str:
    rest = behind(words)
    if not rest:
        raise InputError(f"A figure is wanted behind “{words.split()[0]}”")
    return rest


def _old(words: str, at: At) -> tuple[Entry, ...]:
    rest = _rest(words)
    size = bore_size(rest, at.state, at.where)
    if size <= at.state.block.bore_mm:
        raise InputError(f"{rest} is not outside the bore; the outside of the old sleeve is wanted")
    return (OldSleeveMeasured(cylinder=at.where.cylinder, outside_mm=size),)


def _parent(words: str, at: At) -> tuple[Entry, ...]:
    _rest(words)
    found = re.fullmatch(_PARENT, words, re.IGNORECASE)
    assert found is not None
    sizes = tuple(bore_size(p, at.state, at.where) for p in found["sizes"].split())
    deep = depth(found["depth"], at.state, at.where) if found["depth"] else at.state.block.length_mm / 2.0
    if max(sizes) - min(sizes) > 1.0:
        raise InputError("These are too far apart for one ring of one bore; check them")
    return (ParentRead(cylinder=at.where.cylinder, depth_mm=deep, sizes_mm=sizes),)


def outside_line(bore_mm: float, show: Show) -> str:
    """The line that states a parent's outside; 10 to 14 mm of wall a side stand for what it is."""
    return f"outside {show.rough(bore_mm + 20.0)} to {show.rough(bore_mm + 28.0)}"


def _outside(words: str, at: At) -> tuple[Entry, ...]:
    parts = re.split(r"\s+to\s+", _rest(words), flags=re.IGNORECASE)
    low, high = plain(parts[0], at.where), plain(parts[-1], at.where)
    if low > high:
        raise FormError("The smaller outside comes first")
    if low <= at.state.block.bore_mm:
        raise InputError(f"{parts[0]} is not outside the bore")
    return (ParentOutsideStated(low_mm=low, high_mm=high),)


def _sleeve(words: str, at: At) -> tuple[Entry, ...]:
    _rest(words)
    found = re.fullmatch(_SLEEVE, words, re.IGNORECASE)
    if found is None:
        raise FormError("A sleeve is typed by its outside x its bore")
    outside, bore = bore_size(found["outside"], at.state, at.where), bore_size(found["bore"], at.state, at.where)
    if outside <= bore:
        raise InputError("The outside comes first, then x, then the bore")
    flange = plain(found["flange"], at.where) if found["flange"] else None
    if flange is not None and flange > THICKEST_FLANGE_MM:
        raise InputError(f"A flange {found['flange']} thick? Check the unit")
    length = plain(found["long"], at.where) if found["long"] else None
    warm = None if found["warm"] is None else in_celsius(found["warm"], found["scale"])
    if warm is not None and not -30.0 <= warm <= 60.0:
        raise InputError(f"{at.show.warm(warm)} is no temperature at which a sleeve is measured")
    return (
        SleeveMeasured(
            cylinder=at.where.cylinder, outside_mm=outside, bore_mm=bore, flange_mm=flange, length_mm=length, sleeve_c=warm
        ),
    )  # fmt: skip


def _deck(words: str, at: At) -> tuple[Entry, ...]:
    rows = tuple(tuple(parse_length(p, at.where.units).mm for p in row.split()) for row in _rest(words).split("/"))
    if len({len(row) for row in rows}) != 1 or not rows[0] or len(rows) * len(rows[0]) < 3:
        raise FormError("A deck is read at three places or more, as many in every row")
    heights = [h for row in rows for h in row]
    if max(heights) - min(heights) > MOST_OUT_MM:
        raise InputError("No deck is so far out; check the unit")
    return (DeckRead(bank=bank_of(at.state.block, at.where.cylinder), rows_mm=rows),)


def _faced(words: str, at: At) -> tuple[Entry, ...]:
    rest = _rest(words)
    cut = plain(rest, at.where)
    if cut > MOST_OUT_MM:
        raise InputError(f"{rest} off a deck? Check the unit")
    return (DeckFaced(bank=bank_of(at.state.block, at.where.cylinder), cut_mm=cut),)


def _counterbore(words: str, at: At) -> tuple[Entry, ...]:
    rest = _rest(words)
    deep = plain(rest, at.where)
    if deep > DEEPEST_COUNTERBORE_MM:
        raise InputError(f"A counterbore {rest} deep? Check the unit")
    return (CounterboreRead(cylinder=at.where.cylinder, depth_mm=deep),)


def _protrusion(words: str, at: At) -> tuple[Entry, ...]:
    parts = _rest(words).replace(" to ", " ").split()
    if len(parts) != 2:
        raise FormError("Least and most are wanted")
    low, high = (parse_length(p, at.where.units).mm for p in parts)
    if not 0.0 <= low <= high <= 1.0:
        raise InputError("The least comes first, and neither is more than a millimetre")
    return (ProtrusionStated(low_mm=low, high_mm=high),)


def _cold(words: str, at: At) -> tuple[Entry, ...]:
    _rest(words)
    found = re.fullmatch(_COLD, words, re.IGNORECASE)
    if found is None:
        raise InputError(f"How cold the sleeve is made: cold {at.show.warm_typed(-75.0)}")
    value = in_celsius(found["cold"], found["scale"])
    if not COLDEST_C <= value <= 60.0:
        raise InputError(
            f"{at.show.warm(value)} is no temperature of a sleeve; nitrogen is at {at.show.warm(COLDEST_C)}"
        )
    return (SleeveCold(sleeve_c=value),)


def _after(words: str, at: At) -> tuple[Entry, ...]:
    sizes = tuple(bore_size(p, at.state, at.where) for p in _rest(words).split())
    sleeve_bore = at.proposals.sleeve_bore_mm(at.state, at.where.cylinder)
    if sleeve_bore is None:
        raise InputError(f"No sleeve was measured for cylinder {at.where.cylinder}; what closed cannot be told")
    if max(sizes) - min(sizes) > 0.5 or abs(sum(sizes) / len(sizes) - sleeve_bore) > 1.0:
        raise InputError("That is too far from the sleeve's own bore, or from each other; check the figures")
    return (AfterPressRead(cylinder=at.where.cylinder, sizes_mm=sizes),)


def _rows_match(x: DeckRead) -> list[Wrong]:
    even = x.rows_mm and len({len(row) for row in x.rows_mm}) == 1 and x.rows_mm[0]
    return [] if even else [Wrong("rows_mm", "every row of a deck holds as many heights")]


def _low_first(x: ParentOutside | Protrusion) -> list[Wrong]:
    return [] if x.low_mm <= x.high_mm else [Wrong("high_mm", "under its least")]


def _outside_first(x: SleeveMeasured) -> list[Wrong]:
    return [] if x.outside_mm > x.bore_mm else [Wrong("outside_mm", "not outside its own bore")]


def _sizes(at: At, *over_mm: float) -> str:
    return " ".join(at.show.size(at.state.block.bore_mm + over) for over in over_mm)


def _after_example(at: At) -> str:
    bore = at.proposals.sleeve_bore_mm(at.state, at.where.cylinder)
    return "after " + " ".join(at.show.size((bore or at.state.block.bore_mm) - over) for over in (0.020, 0.025, 0.022))


def _sleeve_example(at: At) -> str:
    say, bore = at.show.size, at.state.block.bore_mm
    return f"sleeve {say(bore + 4.65)} x {say(bore - 0.75)} flange {at.show.rough(6.35)} long {at.show.rough(at.state.block.length_mm)} {at.show.warm_typed(20.0)}"


declare(
    OldSleeveMeasured, Topic.SLEEVE, "sleeve", lambda x, s: f"{x.cylinder}: old sleeve {s.size(x.outside_mm)} outside",
    into=(Into(SLICE, _old_folded),),
    phrases=(Phrase(SLEEVE, ("old",), "old SIZE", "outside of the sleeve that comes out", lambda at: f"old {_sizes(at, 4.6)}", _old),),
)  # fmt: skip
declare(
    ParentRead, Topic.SLEEVE, "sleeve", lambda x, s: f"{x.cylinder}: parent {' '.join(s.size(v) for v in x.sizes_mm)} {s.down(x.depth_mm)}",
    into=(Into(SLICE, _parent_folded),),
    phrases=(
        Phrase(SLEEVE, ("parent",), "parent SIZE ... [at DEPTH]", "a ring of the parent bore: angles spread evenly over half a turn, from the front",
               lambda at: f"parent {_sizes(at, 4.60, 4.61, 4.60, 4.59)} at {at.show.rough(0.3 * at.state.block.length_mm)}", _parent),
    ),
)  # fmt: skip
declare(
    ParentOutsideStated, Topic.SLEEVE, "sleeve", lambda x, s: f"parent's outside {s.rough(x.low_mm)} to {s.rough(x.high_mm)}",
    into=(Into(SLICE, _outside_folded),), wrong=_low_first,
    phrases=(
        Phrase(SLEEVE, ("outside",), "outside LEAST to MOST", "effective outside of the parents: a range",
               lambda at: outside_line(at.state.block.bore_mm, at.show), _outside),
    ),
)  # fmt: skip
declare(
    SleeveMeasured, Topic.SLEEVE, "sleeve", lambda x, s: f"{x.cylinder}: sleeve {s.size(x.outside_mm)} × {s.size(x.bore_mm)}",
    into=(Into(SLICE, _sleeve_folded),), wrong=_outside_first,
    phrases=(
        Phrase(SLEEVE, ("sleeve",), "sleeve OUTSIDE x BORE [flange LENGTH] [long LENGTH] [TEMPERATURE]", "the sleeve meant for this cylinder, on the bench", _sleeve_example, _sleeve),
    ),
)  # fmt: skip
declare(
    DeckRead, Topic.SLEEVE, "sleeve", lambda x, s: f"deck of bank {x.bank + 1} read at {sum(len(r) for r in x.rows_mm)} places",
    into=(Into(SLICE, _deck_folded),), wrong=_rows_match,
    phrases=(
        Phrase(SLEEVE, ("deck",), "deck HEIGHT ...", "heights of the deck: rows front to back, each left to right, / between rows",
               lambda at: f"deck 0 {at.show.size(0.05)} / {at.show.size(0.1)} {at.show.size(0.15)}", _deck),
    ),
)  # fmt: skip
declare(
    DeckFaced, Topic.SLEEVE, "sleeve", lambda x, s: f"deck of bank {x.bank + 1} faced by {s.size(x.cut_mm)}", into=(Into(SLICE, _faced_folded),),
    phrases=(Phrase(SLEEVE, ("faced",), "faced LENGTH", "so much came off the deck", lambda at: f"faced {at.show.size(0.1)}", _faced),),
)  # fmt: skip
declare(
    CounterboreRead, Topic.SLEEVE, "sleeve", lambda x, s: f"{x.cylinder}: counterbore {s.size(x.depth_mm)} deep",
    into=(Into(SLICE, _counterbored),),
    phrases=(
        Phrase(SLEEVE, ("counterbore",), "counterbore DEPTH", "depth of the counterbore from the deck as it stands", lambda at: f"counterbore {at.show.size(6.3)}", _counterbore),
    ),
)  # fmt: skip
declare(
    ProtrusionStated, Topic.SLEEVE, "sleeve", lambda x, s: f"flanges stand {s.size(x.low_mm)}–{s.size(x.high_mm)} proud",
    into=(Into(SLICE, _protrusion_folded),), wrong=_low_first,
    phrases=(
        Phrase(SLEEVE, ("protrusion",), "protrusion LEAST MOST", "how far the flanges are to stand proud, by the maker's sheet",
               lambda at: f"protrusion {at.show.size(0.03)} {at.show.size(0.08)}", _protrusion),
    ),
)  # fmt: skip
declare(
    SleeveWayTaken, Topic.SLEEVE, "sleeve", lambda x, s: f"{x.cylinder}: {x.way}" + (", a step left at the bottom" if x.step_left else ""),
    into=(Into(SLICE, _way_folded),), not_typed="taken with the button on the ways page",
)  # fmt: skip
declare(
    SleeveCold, Topic.SLEEVE, "sleeve", lambda x, s: f"sleeves at {s.warm(x.sleeve_c, digits=0)}", into=(Into(SLICE, _cold_folded),),
    phrases=(Phrase(SLEEVE, ("cold",), "cold TEMPERATURE", "how cold the sleeves are made", lambda at: f"cold {at.show.warm_typed(-75.0)}", _cold),),
)  # fmt: skip
declare(
    AfterPressRead, Topic.SLEEVE, "sleeve", lambda x, s: f"{x.cylinder}: sleeve in, reads {' '.join(s.size(v) for v in x.sizes_mm)}",
    into=(Into(SLICE, _after_folded),),
    phrases=(Phrase(SLEEVE, ("after",), "after SIZE ...", "the bore of the sleeve once it sits, top to bottom", _after_example, _after),),
)  # fmt: skip
