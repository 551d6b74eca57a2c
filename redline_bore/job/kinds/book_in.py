"""The entries of the book-in: the job opened, its figures corrected, what its family taught, the practices followed."""

from __future__ import annotations

import re
from collections.abc import Callable
from datetime import date
from typing import Literal

from redline_bore.core.block import Numbering, faults_of
from redline_bore.core.errors import FormError, InputError
from redline_bore.core.frozen import changed, frozen
from redline_bore.core.late import late_pattern
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.core.told import Unit, told
from redline_bore.core.when import day, day_words, now
from redline_bore.job.kinds.entry import Entry
from redline_bore.job.kinds.folding import Folding
from redline_bore.job.kinds.kind import ANY_STEP, Into, Wrong, declare
from redline_bore.job.kinds.measures import behind, plain
from redline_bore.job.kinds.phrase import ANYWHERE, At, Phrase
from redline_bore.job.kinds.plans import STANDARD_PLANS, standard_plan
from redline_bore.job.kinds.topics import Topic
from redline_bore.job.profiles.practice import PRACTICE_TOPICS
from redline_bore.job.state.booking import CARD, PROPOSED, BookIn, Booking, Lesson
from redline_bore.job.state.fields import words
from redline_bore.job.state.gauging import Gauging

Plain = float | str | list[float]
BY_FORM = "the book-in card takes it, or the command line's new"
HAND, LONGEST_WORDS = ("book_in", "gauge"), 120


@frozen(kw_only=True)
class JobOpened(Entry):
    """The job exists. Keeps the figures and practices it is worked with, whatever the shop changes later."""

    number: str = words("job number", CARD)
    units: Units = told("worked in", Unit.CHOICE, choices=tuple(Units), shown=CARD)
    book_in: BookIn = told("book-in", Unit.PARTS, shown=CARD)
    figures: dict[str, Plain] = told("figures it is worked with", Unit.PARTS, default_factory=dict)
    practices: dict[str, str] = told("practices", Unit.PARTS, shown=CARD, default_factory=dict)
    kind: Literal["job_opened"] = "job_opened"


@frozen(kw_only=True)
class BookInRevised(Entry):
    """What was booked in is corrected; everything already read is worked out anew with it."""

    book_in: BookIn = told("book-in", Unit.PARTS, shown=CARD)
    kind: Literal["book_in_revised"] = "book_in_revised"


@frozen(kw_only=True)
class FamilyOffered(Entry):
    """What the family's signed jobs taught, as it was offered when this job was booked in."""

    lessons: tuple[Lesson, ...] = told("lessons", Unit.PARTS, shown=CARD)
    kind: Literal["family_offered"] = "family_offered"


@frozen(kw_only=True)
class PracticeChosen(Entry):
    """Where schools differ, this way is followed from now on."""

    topic: str = told("what about", Unit.CHOICE, choices=tuple(PRACTICE_TOPICS), shown="call/ladder")
    name: str = words("practice", "call/ladder")
    kind: Literal["practice_chosen"] = "practice_chosen"


@frozen(kw_only=True)
class RemarkLeft(Entry):
    """A note for whoever takes the job up next, in any step."""

    text: str = words("remark", CARD)
    kind: Literal["remark_left"] = "remark_left"


@frozen(kw_only=True)
class Promised(Entry):
    """The day the owner was promised it for."""

    day: str = words("promised for", CARD)
    kind: Literal["promised"] = "promised"


@frozen(kw_only=True)
class WaitsFor(Entry):
    """What the job waits for, and nobody at the bench can do: pistons, the owner's word. Empty: it waits no more."""

    what: str = words("waits for", CARD)
    kind: Literal["waits_for"] = "waits_for"


MONTHS = ("jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec")
_DAY = late_pattern(r"(\d{1,2})\.?\s+([a-z]{3})[a-z]*\.?(?:\s+(\d{4}))?|(\d{4})-(\d{1,2})-(\d{1,2})", re.IGNORECASE)


def _day_typed(text: str, today: str) -> str:
    """A day as YYYY-MM-DD from ``12 Dec``, ``12 Dec 2026`` or ``2026-12-12``; without a year the next such day. Raises InputError."""
    found = _DAY.fullmatch(text.strip())
    wrong = InputError(f"“{text.strip()[:30]}” is no day; write it like 12 Dec, or 2026-12-12")
    if found is None:
        raise wrong
    try:
        if found[4]:
            return date(int(found[4]), int(found[5]), int(found[6])).isoformat()
        here = date.fromisoformat(today)
        month = MONTHS.index(found[2].lower()) + 1
        made = date(int(found[3] or here.year), month, int(found[1]))
        return (made if found[3] or made >= here else made.replace(year=made.year + 1)).isoformat()
    except ValueError:
        raise wrong from None


def _promise(text: str, at: At) -> tuple[Entry, ...]:
    return (Promised(day=_day_typed(behind(text.strip()), day(at.at or now()))),)


def _is_day(entry: Promised) -> list[Wrong]:
    try:
        date.fromisoformat(entry.day)
    except ValueError:
        return [Wrong("day", "is no day, such as 2026-12-12")]
    return []


def _was_promised(s: Booking, x: Promised, on: Folding) -> Booking:
    return changed(s, promised=x.day)


def _waits(text: str, at: At) -> tuple[Entry, ...]:
    said = " ".join(behind(text.strip()).split())
    if not said or len(said) > LONGEST_WORDS or not said.isprintable():
        raise InputError("Say what it waits for: waits pistons. “waits over” ends it")
    return (WaitsFor(what="" if said.lower() == "over" else said),)


def _waited(s: Booking, x: WaitsFor, on: Folding) -> Booking:
    return changed(s, waits_for=x.what)


def _remarked(s: Booking, x: RemarkLeft, on: Folding) -> Booking:
    return changed(s, remarks=(*s.remarks, x.text))


def _remark(text: str, at: At) -> tuple[Entry, ...]:
    said = text.strip()[len("remark") :].strip()
    if not said:
        raise InputError("A remark is its words: remark owner wants it by Friday")
    return (RemarkLeft(text=said),)


def _block_faults(entry: JobOpened | BookInRevised) -> list[Wrong]:
    found = [Wrong(f"book_in.block.{f.path}", f.reason) for f in faults_of(entry.book_in.block)]
    if set(entry.book_in.proposed) - set(PROPOSED):
        found.append(Wrong("book_in.proposed", f"a starting point stands for {' or '.join(PROPOSED)} only"))
    return found


def _length(text: str, at: At) -> tuple[Entry, ...]:
    """How long a cylinder is, deck to bottom, as it was measured."""
    found, b = plain(behind(text), at.where), at.state.book_in
    block = changed(b.block, length_mm=found)
    if reasons := [f.reason for f in faults_of(block, at.where.units) if f.path in ("length_mm", "stroke_mm")]:
        raise InputError(f"A cylinder {at.show.unit(at.show.depth(found))} long: {reasons[0]}")
    return (BookInRevised(book_in=changed(b, block=block, proposed=tuple(p for p in b.proposed if p != "length_mm"))),)


def room_line(show: Show) -> str:
    """The line that books the room below; 20 mm stands for what is measured."""
    return f"room {show.depth(20.0)}"


def _measured(field: str) -> Callable[[str, At], tuple[Entry, ...]]:
    """A figure of the block that was not known when it was booked in."""

    def read(text: str, at: At) -> tuple[Entry, ...]:
        found, b = plain(behind(text), at.where), at.state.book_in
        block = changed(b.block, **{field: found})
        if reasons := [f.reason for f in faults_of(block, at.where.units) if f.path == field]:
            raise InputError(f"{at.show.unit(at.show.depth(found))}: {reasons[0]}")
        return (BookInRevised(book_in=changed(b, block=block)),)

    return read


def _named(text: str, at: At) -> tuple[Entry, ...]:
    """Whose the block is, or of which engine family."""
    key, said = text.strip().split(" ", 1)[0].lower(), " ".join(behind(text.strip()).split())
    if not said or len(said) > LONGEST_WORDS or not said.isprintable():
        raise InputError(f"“{key}” wants its words behind it, at most {LONGEST_WORDS} characters")
    b = at.state.book_in
    return (BookInRevised(book_in=changed(b, owner=said) if key == "owner" else changed(b, engine=said)),)


def _numbered(text: str, at: At) -> tuple[Entry, ...]:
    """How the cylinders of two banks are counted."""
    b, words = at.state.book_in, " ".join(behind(text.strip()).lower().split())
    if words not in (Numbering.BY_BANK, Numbering.ACROSS):
        raise FormError("Two banks are numbered by bank, or across")
    said = Numbering(words)
    if not b.block.two_banks and said is not Numbering.BY_BANK:
        raise InputError("This block has one bank; its cylinders are counted from the front")
    return (BookInRevised(book_in=changed(b, block=changed(b.block, numbering=said))),)


def _revised(s: Booking, x: BookInRevised, on: Folding) -> Booking:
    return changed(s, book_in=x.book_in)


def _plan_of_revised(s: Gauging, x: BookInRevised, on: Folding) -> Gauging:
    """A standard plan follows the block; one of the shop's own stays. It folds first: ``on.booking`` is the one before."""
    if x.book_in.block == on.booking.book_in.block or s.plan.name not in STANDARD_PLANS:
        return s
    return changed(s, plan=standard_plan(x.book_in, on.figures, s.plan.name))


def _practice(s: Booking, x: PracticeChosen, on: Folding) -> Booking:
    return changed(s, practices=tuple((dict(s.practices) | {x.topic: x.name}).items()))


def _offered(s: Booking, x: FamilyOffered, on: Folding) -> Booking:
    return changed(s, lessons=x.lessons)


def _opened_words(x: JobOpened, s: Show) -> str:
    return f"job {x.number} opened for {x.book_in.owner}" if x.book_in.owner else f"job {x.number} opened"


declare(
    JobOpened, Topic.BOOK_IN, "book_in", _opened_words, kept_only="the fold begins with it", not_typed=BY_FORM, strikes=False,
    wrong=_block_faults,
)  # fmt: skip
declare(
    BookInRevised, Topic.BOOK_IN, "book_in", lambda x, s: "book-in revised",
    into=(Into("gauging", _plan_of_revised), Into("booking", _revised)), wrong=_block_faults,
    phrases=(
        Phrase(HAND, ("length",), "length LENGTH", "how long a cylinder is, deck to bottom, as measured",
               lambda at: f"length {at.show.size(at.state.block.length_mm)}", _length),
        Phrase(HAND, ("numbered",), "numbered {by bank | across}", "how the cylinders of two banks are counted from the front",
               lambda at: "numbered across" if at.state.block.two_banks else "numbered by bank", _numbered),
        Phrase(ANYWHERE, ("room",), "room LENGTH", "how far a stone or a bar may run out below the hole, as measured",
               lambda at: room_line(at.show), _measured("room_below_mm")),
        Phrase(ANYWHERE, ("pack",), "pack LENGTH", "how far the lowest ring lies under the top one, as measured on the piston",
               lambda at: f"pack {at.show.depth(12.0)}", _measured("ring_pack_mm")),
        Phrase(ANYWHERE, ("owner",), "owner NAME", "whose block it is", lambda at: f"owner {at.state.book_in.owner or 'Fellside brewery'}", _named),
        Phrase(ANYWHERE, ("engine",), "engine NAME", "the engine family: what was set and learned for it comes back",
               lambda at: f"engine {at.state.book_in.engine or 'upright twin'}", _named),
    ),
)  # fmt: skip
declare(
    FamilyOffered, Topic.BOOK_IN, "book_in", lambda x, s: f"{len(x.lessons)} lessons of the family offered",
    into=(Into("booking", _offered),), not_typed="booked with a new job of a family that was signed before",
)  # fmt: skip
declare(
    PracticeChosen, Topic.PRACTICE, ANY_STEP, lambda x, s: f"practice, {x.topic.replace('_', ' ')}: {x.name}",
    into=(Into("booking", _practice),), not_typed="chosen with its key on the ladder, or on the book-in card",
)  # fmt: skip
declare(
    Promised, Topic.BOOK_IN, ANY_STEP, lambda x, s: f"promised for {day_words(x.day)}", into=(Into("booking", _was_promised),), wrong=_is_day,
    sheet=("Promised for", lambda state, s: day_words(state.booking.promised) if state.booking.promised else ""),
    phrases=(Phrase(ANYWHERE, ("promised",), "promised DAY", "the day the owner was promised it for", lambda at: "promised 12 Dec 2026", _promise),),
)  # fmt: skip
declare(
    WaitsFor, Topic.BOOK_IN, ANY_STEP, lambda x, s: f"waits for {x.what}" if x.what else "waits no more", into=(Into("booking", _waited),),
    sheet=("Waits for", lambda state, s: state.booking.waits_for),
    phrases=(Phrase(ANYWHERE, ("waits",), "waits WORDS", "what the job waits for, and nobody at the bench can do; “waits over” ends it",
                    lambda at: "waits pistons from the owner", _waits),),
)  # fmt: skip
declare(
    RemarkLeft, Topic.BOOK_IN, ANY_STEP, lambda x, s: f"remark: {x.text}", into=(Into("booking", _remarked),),
    sheet=("Remarks", lambda state, s: "; ".join(state.booking.remarks)),
    phrases=(Phrase(ANYWHERE, ("remark",), "remark WORDS", "a note for whoever takes the job up next", lambda at: "remark owner wants it by Friday", _remark),),
)  # fmt: skip
