"""The entries of comparing: what others measured of this block, and the gauge study. Lengths in mm, temperatures in C."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Literal

from redline_bore.core.errors import FormError, InputError
from redline_bore.core.frozen import changed, frozen
from redline_bore.core.lengths import parse_length
from redline_bore.core.show import Show
from redline_bore.core.told import Unit, told
from redline_bore.job.kinds.entry import Entry
from redline_bore.job.kinds.folding import Folding
from redline_bore.job.kinds.gauge import plate_words
from redline_bore.job.kinds.kind import Into, declare
from redline_bore.job.kinds.measures import behind, bore_size, clock, count, depth, keyed, plain, temperature
from redline_bore.job.kinds.phrase import At, Phrase
from redline_bore.job.kinds.topics import Topic
from redline_bore.job.state import fields
from redline_bore.job.state.comparing import PAGE, Comparing, OtherConditions, OtherReading, SecondOpinion, Study

STUDY = "gauge/study"
_READING = r"(?P<cylinder>\d+)\s+(?P<size>\S+)(?:\s+at\s+(?P<depth>\S+))?(?:\s+clock\s+(?P<clock>[\d.]+))?"
_PISTON = r"piston\s+(?P<cylinder>\d+)\s+(?P<size>\S+)"
_KEYS = ("plate", "block", "pistons", "aim", "gauge over", "micrometer over", "corrected")


@frozen(kw_only=True)
class SecondOpinionOpened(OtherConditions, Entry):
    """Somebody else measured this block; the same ``who`` again states the conditions anew."""

    kind: Literal["second_opinion_opened"] = "second_opinion_opened"


@frozen(kw_only=True)
class OtherReadingBooked(OtherReading, Entry):
    """A diameter that ``who`` read, as they wrote it down; None: they did not say where."""

    kind: Literal["other_reading_booked"] = "other_reading_booked"


@frozen(kw_only=True)
class OtherPistonBooked(Entry):
    """A piston that ``who`` measured."""

    who: str = fields.words("who measured", PAGE)
    cylinder: int = fields.cylinder(PAGE)
    size_mm: float = fields.size("their piston", PAGE)
    kind: Literal["other_piston_booked"] = "other_piston_booked"


@frozen(kw_only=True)
class StudyBegan(Entry):
    """A gauge study begins: which gauge, and its last digit in mm."""

    instrument: str = fields.words("gauge", STUDY)
    resolution_mm: float = told(
        "its last digit", Unit.LENGTH, above=0.0, most=1.0, why="no last digit of a gauge", shown=STUDY
    )
    kind: Literal["study_began"] = "study_began"


@frozen(kw_only=True)
class StudyReadingBooked(Entry):
    """A reading of the gauge study under way, by whoever books it, of spot ``spot``."""

    spot: str = fields.words("spot", STUDY)
    value_mm: float = fields.size("reading", STUDY)
    kind: Literal["study_reading_booked"] = "study_reading_booked"


def _opened(s: Comparing, x: SecondOpinionOpened, on: Folding) -> Comparing:
    return _of_shop(s, x.who, lambda old: changed(old, conditions=x))


def _reading(s: Comparing, x: OtherReadingBooked, on: Folding) -> Comparing:
    return _of_shop(s, x.who, lambda old: changed(old, readings=(*old.readings, x)))


def _piston(s: Comparing, x: OtherPistonBooked, on: Folding) -> Comparing:
    return _of_shop(s, x.who, lambda old: changed(old, pistons=(*old.pistons, (x.cylinder, x.size_mm))))


def _of_shop(s: Comparing, who: str, change: Callable[[SecondOpinion], SecondOpinion]) -> Comparing:
    """Change what one shop said, beginning it when it is new."""
    shops = list(s.second_opinions)
    place = next((i for i, shop in enumerate(shops) if shop.conditions.who == who), None)
    if place is None:
        shops.append(change(SecondOpinion(SecondOpinionOpened(who=who))))
    else:
        shops[place] = change(shops[place])
    return changed(s, second_opinions=tuple(shops))


def _began(s: Comparing, x: StudyBegan, on: Folding) -> Comparing:
    return changed(s, studies=(*s.studies, Study(on.record.seq, x.instrument, x.resolution_mm)))


def _studied(s: Comparing, x: StudyReadingBooked, on: Folding) -> Comparing:
    from redline_bore.core.gauge_study import StudyValue  # few jobs have a study: not at the start

    if not s.studies:
        return s
    value, last = StudyValue(on.record.person, x.spot, x.value_mm), s.studies[-1]
    return changed(s, studies=(*s.studies[:-1], changed(last, values=(*last.values, value))))


def _other(text: str, at: At) -> tuple[Entry, ...]:
    rest, shops = behind(text), at.state.comparing.second_opinions
    who = shops[-1].conditions.who if shops else ""
    for pattern, make in ((_PISTON, _their_piston), (_READING, _their_reading)):
        if found := re.fullmatch(pattern, rest, re.IGNORECASE):
            if not who:
                raise FormError("Say first who measured, and how")
            return (make(found, who, at),)
    if re.match(rf"(?:{'|'.join(_KEYS)})\b", rest, re.IGNORECASE):
        if not shops:
            raise FormError("Say first who measured")
        return (_conditions(shops[-1].conditions, keyed(rest, _KEYS), at),)
    name = re.split(rf"\s+(?:{'|'.join(_KEYS)})\b", rest, maxsplit=1, flags=re.IGNORECASE)[0].strip()
    if not name or name[0].isdecimal():
        raise FormError("Begin with who measured, and how; then the cylinder, their size, where they read it")
    tail = rest[len(name) :].strip()
    before = next((shop.conditions for shop in shops if shop.conditions.who == name), OtherConditions(who=name))
    return (_conditions(before, keyed(tail, _KEYS) if tail else {}, at),)


def _conditions(before: OtherConditions, told_words: dict[str, str], at: At) -> SecondOpinionOpened:
    """The conditions as they were told before, with those that are told now."""
    plate = told_words.get("plate", "on" if before.plate_on else "off").lower()
    if plate not in ("on", "off"):
        raise InputError(f"“plate {plate}”: on or off")

    def warm(key: str, was: float | None) -> float | None:
        if key not in told_words:
            return was
        celsius = temperature(told_words[key])
        if celsius is None:
            raise InputError(f"“{key} {told_words[key]}” is not a temperature; write it like 58 F or 14.5 C")
        return celsius

    def over(key: str, was: float) -> float:
        return parse_length(told_words[key], at.where.units).mm if key in told_words else was

    return SecondOpinionOpened(
        who=before.who, plate_on=plate == "on", block_c=warm("block", before.block_c), piston_c=warm("pistons", before.piston_c),
        at_20=told_words.get("corrected", "yes" if before.at_20 else "no").lower() == "yes",
        aim_mm=plain(told_words["aim"], at.where) if "aim" in told_words else before.aim_mm,
        bore_gauge_over_mm=over("gauge over", before.bore_gauge_over_mm), micrometer_over_mm=over("micrometer over", before.micrometer_over_mm),
    )  # fmt: skip


def _their_reading(found: re.Match[str], who: str, at: At) -> Entry:
    return OtherReadingBooked(
        who=who, cylinder=count(found["cylinder"], at.state), diameter_mm=bore_size(found["size"], at.state, at.where),
        depth_mm=depth(found["depth"], at.state, at.where) if found["depth"] else None,
        clock_deg=clock(found["clock"]) if found["clock"] else None,
    )  # fmt: skip


def _their_piston(found: re.Match[str], who: str, at: At) -> Entry:
    size = bore_size(found["size"], at.state, at.where)
    return OtherPistonBooked(who=who, cylinder=count(found["cylinder"], at.state), size_mm=size)


def _conditions_words(x: SecondOpinionOpened, s: Show) -> str:
    warm = "" if x.block_c is None else f", block at {s.warm(x.block_c)}"
    return f"second opinion of {x.who}, {plate_words(x.plate_on)}{warm}"


def _reading_words(x: OtherReadingBooked, s: Show) -> str:
    where = "" if x.depth_mm is None else f" {s.down(x.depth_mm)}"
    clock = "" if x.clock_deg is None else f", {x.clock_deg:.0f}°"
    return f"{x.who} reads {x.cylinder}: {s.size(x.diameter_mm)}{where}{clock}"


def _conditions_example(at: At) -> str:
    warm = at.show.warm_typed(14.5)
    return f"other Marigold plate off block {warm} pistons {warm} aim {at.show.size(0.076)}"


def _reading_example(at: At) -> str:
    size, deep = at.show.size(at.state.block.bore_mm + 0.05), at.show.rough(0.3 * at.state.block.length_mm)
    return f"other 1 {size} at {deep} clock 0"


_GAUGE, _LEAD = ("gauge",), ("other",)
declare(
    SecondOpinionOpened, Topic.OPINIONS, "gauge", _conditions_words, into=(Into("comparing", _opened),),
    phrases=(
        Phrase(_GAUGE, _LEAD, "other WHO [plate {on | off}] [block TEMPERATURE] [pistons TEMPERATURE] [aim CLEARANCE] [gauge over LENGTH] [micrometer over LENGTH] [corrected yes]",
               "somebody else measured this block: who, and under which conditions; without a name, more of the one who measured last", _conditions_example, _other),
    ),
)  # fmt: skip
declare(
    OtherReadingBooked, Topic.OPINIONS, "gauge", _reading_words, into=(Into("comparing", _reading),),
    phrases=(
        Phrase(_GAUGE, _LEAD, "other CYLINDER SIZE [at DEPTH] [clock ANGLE]", "a size that they read, as they wrote it down", _reading_example, _other),
    ),
)  # fmt: skip
declare(
    OtherPistonBooked, Topic.OPINIONS, "gauge", lambda x, s: f"{x.who} measures piston {x.cylinder}: {s.size(x.size_mm)}",
    into=(Into("comparing", _piston),),
    phrases=(
        Phrase(_GAUGE, _LEAD, "other piston CYLINDER SIZE", "a piston that they measured",
               lambda at: f"other piston 1 {at.show.size(at.state.block.bore_mm - 0.05)}", _other),
    ),
)  # fmt: skip
declare(
    StudyBegan, Topic.STUDY, "gauge", lambda x, s: f"gauge study of the {x.instrument}", into=(Into("comparing", _began),),
    not_typed="begun on the gauge study page",
)  # fmt: skip
declare(
    StudyReadingBooked, Topic.STUDY, "gauge", lambda x, s: f"study, {x.spot}: {s.fine(x.value_mm)}", into=(Into("comparing", _studied),),
    not_typed="a reading taken or typed on the gauge study page",
)  # fmt: skip
