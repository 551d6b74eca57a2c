"""The entries of what is wrong with a wall: defects, photos, wall thickness. Lengths in mm, clock angles in degrees."""

from __future__ import annotations

import re
from typing import Any, Literal

from redline_bore.core.errors import FormError, InputError
from redline_bore.core.frozen import changed, frozen
from redline_bore.core.show import Show, listed
from redline_bore.core.told import Of, Unit, told
from redline_bore.job.kinds.entry import Entry
from redline_bore.job.kinds.folding import Folding
from redline_bore.job.kinds.kind import Into, Wrong, declare
from redline_bore.job.kinds.measures import clock, depth, plain
from redline_bore.job.kinds.phrase import At, Phrase
from redline_bore.job.kinds.topics import Topic
from redline_bore.job.state import fields
from redline_bore.job.state.gauging import BOTH, LEAKS, LINER, TIGHT, Defect, Gauging, Photo, WallReading

PAGE = "gauge/defects"
DEFECTS = ("score", "pit", "rust", "crack", "weld", "heat mark", "smear", "groove", "receiver")
SAME_AS_SCORE = "scratch"  # another word of the shop for a score
DEFECT_WIDE_DEG = 20.0
_DEFECT = (
    rf"(?P<what>{'|'.join(DEFECTS)})(?:\s+(?P<deep>.+?))?\s+at\s+(?P<top>.+?)(?:\s+to\s+(?P<bottom>.+?))?"
    r"\s+clock\s+(?P<clock>[\d.]+)(?:\s+wide\s+(?P<wide>[\d.]+))?"
)
_WALL = (
    r"wall\s+(?P<wall>.+?)\s+at\s+(?P<depth>.+?)\s+clock\s+(?P<clock>[\d.]+)"
    r"(?:\s+through\s+(?P<through>liner|both))?"
)
NO_DEPTH_WANTED = ("crack", "weld")  # a pressure test says more of them than a depth
FELT = {
    "can't feel": "cant_feel",
    "cant feel": "cant_feel",
    "can feel": "can_feel",
    "catches": "catches",
    "catches hard": "catches_hard",
}
DEEP_WHY = "more than a wall; check the unit"


@frozen(kw_only=True)
class DefectMarked(Entry):
    """A defect on the wall. Its depth on radius is an interval until it is measured (then both ends agree)."""

    cylinder: int = fields.cylinder(PAGE)
    what: str = fields.words("what", PAGE)
    top_mm: float = told("from", Unit.LENGTH, least=0.0, why="above the deck", shown=PAGE)
    bottom_mm: float = told("to", Unit.LENGTH, least=0.0, most=1.0, of=Of.HOLE, why="below the hole", shown=PAGE)
    clock_deg: float = fields.clock(shown=PAGE)
    width_deg: float = told("width", Unit.CLOCK, least=0.0, most=360.0, why="wider than the bore", shown=PAGE)
    deep_low_mm: float = told("least depth", Unit.LENGTH, least=0.0, most=0.25, of=Of.BORE, why=DEEP_WHY, shown=PAGE)
    deep_high_mm: float = told("most depth", Unit.LENGTH, least=0.0, most=0.25, of=Of.BORE, why=DEEP_WHY, shown=PAGE)
    feel: str = told(
        "fingernail",
        Unit.CHOICE,
        choices=("", "cant_feel", "can_feel", "catches", "catches_hard"),
        shown=PAGE,
        default="",
    )
    kind: Literal["defect_marked"] = "defect_marked"


@frozen(kw_only=True)
class PhotoAttached(Entry):
    """A picture kept with the job, belonging to entry ``seq``. Its bytes lie in the logbook under ``sha256``."""

    seq: int = told("of entry", Unit.ENTRY, least=1, why="no entry of this ledger", shown=PAGE)
    name: str = fields.words("name", PAGE)
    media: str = told("kind of picture", Unit.CHOICE, choices=("image/png", "image/jpeg"), shown=PAGE)
    sha256: str = told("its hash", Unit.PACKED)
    kind: Literal["photo_attached"] = "photo_attached"


@frozen(kw_only=True)
class WallRead(Entry):
    """Ultrasonic wall thickness. ``zone`` is thrust or elsewhere."""

    cylinder: int = fields.cylinder(PAGE)
    clock_deg: float = fields.clock(shown=PAGE)
    depth_mm: float = fields.depth(shown=PAGE)
    wall_mm: float = told(
        "wall", Unit.LENGTH, above=0.0, most=0.4, of=Of.BORE, why="no thickness of a wall; check the unit", shown=PAGE
    )
    zone: Literal["thrust", "elsewhere"] = told("zone", Unit.CHOICE, choices=("thrust", "elsewhere"), shown=PAGE)
    through: Literal["", "liner", "both"] = told(
        "read through", Unit.CHOICE, choices=("", LINER, BOTH), shown=PAGE, default=""
    )
    kind: Literal["wall_read"] = "wall_read"


@frozen(kw_only=True)
class DefectAccepted(Entry):
    """The flaws of one name in a cylinder may stay where nothing is cut, and why: the owner's word. A crack or a weld never."""

    cylinder: int = fields.cylinder(PAGE)
    what: str = fields.words("what", PAGE)
    reason: str = fields.words("why", PAGE)
    kind: Literal["defect_accepted"] = "defect_accepted"


@frozen(kw_only=True)
class PressureTested(Entry):
    """A pressure test of a cylinder that is cracked or was welded: tight or not, and how it was done."""

    cylinder: int = fields.cylinder(PAGE)
    found: Literal["tight", "leaks"] = told("pressure test", Unit.CHOICE, choices=(TIGHT, LEAKS), shown=PAGE)
    how: str = fields.words("how", PAGE, default="")
    kind: Literal["pressure_tested"] = "pressure_tested"


def _tested(s: Gauging, x: PressureTested, on: Folding) -> Gauging:
    return changed(
        s,
        defects=tuple(changed(d, tested=x.found) if d.cylinder == x.cylinder and d.is_crack else d for d in s.defects),
    )


def _test(text: str, at: At) -> tuple[Entry, ...]:
    found = re.fullmatch(r"tested\s+(?P<found>tight|leaks)(?:\s+(?P<how>.+))?", text.strip(), re.IGNORECASE)
    if found is None:
        raise FormError("A pressure test is typed by what it said, tight or leaks, and how it was done")
    if not any(d.is_crack for d in at.state.gauging.defects_of(at.where.cylinder)):
        marked = sorted({d.cylinder for d in at.state.gauging.defects if d.is_crack})
        where = f"; one is in {listed(marked)}: go to that cylinder first" if marked else ""
        raise InputError(f"No crack and no weld is marked in cylinder {at.where.cylinder}{where}")
    return (PressureTested(cylinder=at.where.cylinder, found=found["found"].lower(), how=found["how"] or ""),)  # type: ignore[arg-type]


def _tests_words(state: Any, s: Show) -> str:
    """What pressure tests said, for the sheet."""
    said = dict.fromkeys((d.cylinder, d.tested) for d in state.gauging.defects if d.is_crack)
    return "; ".join(f"{c}: {found or 'not tested'}" for c, found in said)


def _accepted(s: Gauging, x: DefectAccepted, on: Folding) -> Gauging:
    return changed(
        s,
        defects=tuple(
            changed(d, accepted=x.reason) if (d.cylinder, d.what) == (x.cylinder, x.what) and not d.is_crack else d
            for d in s.defects
        ),
    )


def _accept(text: str, at: At) -> tuple[Entry, ...]:
    found = re.fullmatch(rf"accept\s+(?P<what>{'|'.join(DEFECTS)})\s+(?P<why>.+)", text.strip(), re.IGNORECASE)
    if found is None:
        raise FormError("A flaw is accepted by its name, and why")
    what = found["what"].lower()
    here = [d for d in at.state.gauging.defects_of(at.where.cylinder) if d.what == what]
    if not here:
        raise InputError(f"No {what} is marked in cylinder {at.where.cylinder}")
    if any(d.is_crack for d in here):
        raise InputError(f"A {what} is not accepted: pressure-test it")
    return (DefectAccepted(cylinder=at.where.cylinder, what=what, reason=found["why"]),)


def _accept_example(at: At) -> str:
    here = [d.what for d in at.state.gauging.defects_of(at.where.cylinder) if not d.is_crack]
    return f"accept {here[0] if here else 'rust'} the owner knows, it is a mower"


def _marked(s: Gauging, x: DefectMarked, on: Folding) -> Gauging:
    defect = Defect(
        x.cylinder, x.what, x.top_mm, x.bottom_mm, x.clock_deg, x.width_deg, x.deep_low_mm, x.deep_high_mm, x.feel, on.record.seq
    )  # fmt: skip
    return changed(s, defects=(*s.defects, defect))


def _pictured(s: Gauging, x: PhotoAttached, on: Folding) -> Gauging:
    return changed(s, photos=(*s.photos, Photo(on.record.seq, x.seq, x.name, x.media, x.sha256)))


def _wall_folded(s: Gauging, x: WallRead, on: Folding) -> Gauging:
    read = WallReading(x.cylinder, x.clock_deg, x.depth_mm, x.wall_mm, x.zone, on.record.seq, x.through)
    return changed(s, wall_readings=s.wall_readings.plus(read))


def _defect(text: str, at: At) -> tuple[Entry, ...]:
    found = re.fullmatch(
        _DEFECT, re.sub(rf"^{SAME_AS_SCORE}\b", "score", text.strip(), flags=re.IGNORECASE), re.IGNORECASE
    )
    if found is None:
        raise FormError("A defect is typed by what it is, how deep, from where to where, at which clock")
    state, where = at.state, at.where
    top, bottom = sorted(depth(found[end] or found["top"], state, where) for end in ("top", "bottom"))
    deep = (found["deep"] or "").strip()
    if not deep and found["what"].lower() not in NO_DEPTH_WANTED:
        raise InputError(
            f"How deep is the {found['what']}? As measured, or by the fingernail: can't feel, can feel, catches, catches hard"
        )
    feel = FELT.get(deep.lower())
    if feel is not None:
        low, high = state.figures.row(f"cleanup.{feel}")
    else:
        low = high = plain(deep, where) if deep else 0.0
    if high > 0.25 * state.block.bore_mm:
        raise InputError(f"A {found['what']} of {deep} deep is {DEEP_WHY}")
    return (
        DefectMarked(
            cylinder=where.cylinder, what=found["what"].lower(), top_mm=top, bottom_mm=bottom, clock_deg=clock(found["clock"]),
            width_deg=clock(found["wide"]) if found["wide"] else DEFECT_WIDE_DEG, deep_low_mm=low, deep_high_mm=high, feel=feel or "",
        ),
    )  # fmt: skip


def _wall(text: str, at: At) -> tuple[Entry, ...]:
    found = re.fullmatch(_WALL, text.strip(), re.IGNORECASE)
    if found is None:
        raise FormError("A wall is typed with its place")
    angle = clock(found["clock"])
    across = min(abs(angle - 90.0), abs(angle - 270.0)) <= 45.0
    return (
        WallRead(
            cylinder=at.where.cylinder, clock_deg=angle, depth_mm=depth(found["depth"], at.state, at.where),
            wall_mm=plain(found["wall"], at.where), zone="thrust" if across else "elsewhere",
            through=(found["through"] or "").lower(),  # type: ignore[arg-type]
        ),
    )  # fmt: skip


def _defect_words(x: DefectMarked, s: Show) -> str:
    measured = x.deep_low_mm == x.deep_high_mm
    deep = s.size(x.deep_high_mm) if measured else f"{s.size(x.deep_low_mm)}–{s.size(x.deep_high_mm)}"
    deep = "" if x.what in NO_DEPTH_WANTED and not x.deep_high_mm else f", {deep} deep"
    return f"{x.cylinder}: {x.what}{deep}, {s.depth(x.top_mm)}–{s.down(x.bottom_mm)}, {x.clock_deg:.0f}°"


def _ends_in_order(x: DefectMarked) -> list[Wrong]:
    found = [] if x.top_mm <= x.bottom_mm else [Wrong("bottom_mm", "above its top")]
    return found + ([] if x.deep_low_mm <= x.deep_high_mm else [Wrong("deep_high_mm", "under its least depth")])


def _defect_example(at: At) -> str:
    say, hole = at.show.rough, at.state.block.length_mm
    return f"rust {say(0.18)} at {say(0.3 * hole)} to {say(0.4 * hole)} clock 250 wide 60"


def _through_words(x: WallRead) -> str:
    return {"": "", LINER: ", through the liner", BOTH: ", through liner and parent"}[x.through]


declare(
    DefectMarked, Topic.READINGS, "gauge", _defect_words, into=(Into("gauging", _marked),), wrong=_ends_in_order,
    phrases=(
        Phrase(("gauge",), (*DEFECTS, SAME_AS_SCORE), "WHAT [DEEP] at FROM [to TO] clock ANGLE [wide ANGLE]",
               "a defect; its depth as measured, or by the fingernail: can't feel, can feel, catches, catches hard; a crack or weld wants none; a receiver is a groove that is meant", _defect_example, _defect,
               lambda at: {"WHAT": DEFECTS,  "DEEP": tuple(dict.fromkeys(f.replace("’", "'") for f in FELT))}),
    ),
)  # fmt: skip
declare(
    PhotoAttached, Topic.READINGS, "gauge", lambda x, s: f"photo {x.name} of entry {x.seq}", into=(Into("gauging", _pictured),),
    not_typed="a picture file is chosen, or named behind the word photo",
)  # fmt: skip
declare(
    WallRead, Topic.READINGS, "gauge", lambda x, s: f"{x.cylinder}: wall {s.rough(x.wall_mm)} {s.down(x.depth_mm)}, {x.clock_deg:g}°, {x.zone}{_through_words(x)}",
    into=(Into("gauging", _wall_folded),),
    phrases=(
        Phrase(("gauge", "call"), ("wall",), "wall THICKNESS at DEPTH clock ANGLE [through {liner | both}]", "the wall as the ultrasonic gauge reads it; of a liner, whether it read the liner alone",
               lambda at: f"wall {at.show.rough(4.6)} at {at.show.rough(0.3 * at.state.block.length_mm)} clock 90", _wall),
    ),
)  # fmt: skip
declare(
    PressureTested, Topic.READINGS, "gauge", lambda x, s: f"{x.cylinder}: pressure-tested, {x.found}{f': {x.how}' if x.how else ''}",
    into=(Into("gauging", _tested),), sheet=("Cracks and welds, by pressure test", _tests_words),
    phrases=(
        Phrase(("gauge", "call"), ("tested",), "tested {tight | leaks} [HOW]", "what the pressure test of a cracked or welded cylinder said",
               lambda at: "tested tight 4 bar, ten minutes", _test),
    ),
)  # fmt: skip
declare(
    DefectAccepted, Topic.READINGS, "gauge", lambda x, s: f"{x.cylinder}: the {x.what} may stay where nothing is cut: {x.reason}",
    into=(Into("gauging", _accepted),),
    phrases=(
        Phrase(("gauge", "call"), ("accept",), "accept WHAT WHY", "a flaw of this cylinder may stay where nothing is cut, by the owner's word", _accept_example, _accept,
               lambda at: {"WHAT": tuple(d.what for d in at.state.gauging.defects_of(at.where.cylinder))}),
    ),
)  # fmt: skip
