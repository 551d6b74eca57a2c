"""What a line would book while it is being typed, before Enter: in words, or what it still wants. It knows no toolkit."""

from __future__ import annotations

from collections.abc import Sequence

from redline_bore.core.errors import BenchError
from redline_bore.core.frozen import frozen
from redline_bore.core.show import Show
from redline_bore.core.when import now
from redline_bore.desk.typed import LONGEST_LINE
from redline_bore.job.kinds.book_in import BookInRevised
from redline_bore.job.kinds.entry import Entry
from redline_bore.job.kinds.forms import form_words
from redline_bore.job.kinds.grammar import phrases_at
from redline_bore.job.kinds.kind import entry_words, wrongs
from redline_bore.job.kinds.phrase import Phrase, Where
from redline_bore.job.proposals import entries_from_typed
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words.doubtful import asked_of

LONGEST_TOLD = 120  # letters that the gauge line has room for


@frozen(often=True)
class Would:
    """``words``: what would be booked, or what is wanted; can: Enter would book it."""

    words: str
    can: bool


def would_book(step: str, text: str, state: JobState, where: Where) -> Would:
    """What Enter would do with a line in a step."""
    words = " ".join(text.split())
    if not words or len(words) > LONGEST_LINE:
        return Would("", False)
    begun = leads_like(step, words)
    if begun and words.lower() not in [lead for p in begun for lead in p.leads]:
        return Would(" · ".join(form_words(p.form) for p in begun[:3]) + " · Tab completes", False)
    show = Show(where.units)
    try:
        entries = entries_from_typed(step, words, state, where, now())
    except BenchError as error:
        if begun:
            return Would(f"{form_words(begun[0].form)}: {begun[0].help}", False)
        return Would(f"{error}" if words[:1].isalpha() else "", False)  # half a figure is not wrong yet
    faults = [w.reason for e in entries for w in wrongs(e, state.block, show)]
    if faults:
        return Would(f"Not so: {faults[0]}", False)
    doubt = asked_of(state, entries, show)
    told = booked_words(entries, words, show)
    return Would(f"Enter books: {told}" + (f". But look: {doubt}" if doubt else ""), True)


def booked_words(entries: Sequence[Entry], typed: str, show: Show) -> str:
    """What entries book, in words; of a figure of the card that is corrected, the line that says so."""
    told = [typed if isinstance(e, BookInRevised) else entry_words(e, show) for e in entries]
    whole = "; ".join(told)
    return whole if len(told) == 1 or len(whole) <= LONGEST_TOLD else f"{told[0]}; and {len(told) - 1} more"


def leads_like(step: str, words: str) -> list[Phrase]:
    """The lines whose first word begins so, while there is but one word."""
    if " " in words or not words[:1].isalpha():
        return []
    return [p for p in phrases_at(step) if any(lead.startswith(words.lower()) for lead in p.leads)]


def completed(step: str, text: str) -> str:
    """The first word as it goes on, with a blank behind it, where just one lead begins so, or they share more; else empty."""
    words = text.strip().lower()
    found = sorted({lead for p in leads_like(step, words) for lead in p.leads if lead.startswith(words)})
    if not found:
        return ""
    shared = found[0] if len(found) == 1 else _shared(found)
    return f"{shared} " if len(found) == 1 else shared if len(shared) > len(words) else ""


def _shared(words: list[str]) -> str:
    end = min(map(len, words))
    return words[0][: next((i for i in range(end) if len({w[i] for w in words}) > 1), end)]
