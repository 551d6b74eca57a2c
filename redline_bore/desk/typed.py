"""A line that was typed, read and booked: the same from the window's field and from the command line."""

from __future__ import annotations

from typing import TYPE_CHECKING

from redline_bore.core.errors import DoubtfulInput, InputError
from redline_bore.core.frozen import frozen, replace
from redline_bore.core.gauging import Place, next_place
from redline_bore.core.show import Show
from redline_bore.core.when import now
from redline_bore.desk.changed import Changed
from redline_bore.job.gauge.analysis import places_read
from redline_bore.job.kinds.bore import BarSet
from redline_bore.job.kinds.phrase import Where
from redline_bore.job.state.job_state import JobState

if TYPE_CHECKING:
    from redline_bore.desk.desk import Desk
    from redline_bore.desk.open_job import OpenJob


LONGEST_LINE = 2000


def next_place_of(state: JobState, cylinder: int) -> Place:
    """The next place of the plan that has no reading in a cylinder; the first one where all have."""
    taken = places_read(state, cylinder, state.clamped.plate_on, state.gauging.gauge_kind)
    return next_place(state.gauging.plan, taken) or Place(0, 0)


def book_typed(desk: Desk, job: OpenJob, step: str, text: str, where: Where, asked: str = "") -> Changed:
    """Book what ``text`` means in ``step``. Raises InputError with the reason and what was meant; then nothing was booked.

    ``asked``: the doubt that was told before, where the same was entered again; it is booked then, and the doubt stays beside it.
    Raises DoubtfulInput where something speaks against it. A bar is set up on the shop's machine where the job states none of its own, with what that machine and insert have taught.
    """
    from redline_bore.job.proposals import entries_from_typed
    from redline_bore.job.words.doubtful import asked_of

    words = text.split()
    if not words:
        raise InputError("Nothing is typed")
    if len(text) > LONGEST_LINE:
        raise InputError(f"A line of {len(text)} characters is none that is typed; {LONGEST_LINE} at most")
    if step == "bore" and words[0].lower() == "bar":
        return _book_bar(desk, job, text, where)
    entries = entries_from_typed(step, text, job.state, where, now())
    doubt = asked_of(job.state, entries, Show(where.units))
    if doubt and doubt != asked:
        raise DoubtfulInput(doubt)
    return job.book(*entries, typed=f"{text.strip()} (asked: {doubt})" if doubt else text.strip())


@frozen
class Filled:
    """A tag as it is filled in: the line it comes to, whether it goes for every cylinder, and why it is booked though something speaks
    against it."""

    line: str
    for_all: bool = False
    because: str = ""


def book_filled(desk: Desk, job: OpenJob, step: str, filled: Filled, where: Where) -> Changed:
    """Book a filled tag. Raises InputError with the reason; DoubtfulInput where something speaks against it and nobody said why it is
    booked all the same. Then nothing was booked."""
    from redline_bore.job.proposals import entries_from_typed
    from redline_bore.job.words.doubtful import asked_of

    text = filled.line
    if step == "bore" and text.split()[0].lower() == "bar":
        return _book_bar(desk, job, text, where)
    everywhere = [replace(where, cylinder=c) for c in job.state.cylinders] if filled.for_all else [where]
    entries = [e for at in everywhere for e in entries_from_typed(step, text, job.state, at, now())]
    doubt = asked_of(job.state, entries, Show(where.units))
    if doubt and not filled.because.strip():
        raise DoubtfulInput(doubt)
    return job.book(*entries, typed=f"{text} (asked: {doubt}; because: {filled.because.strip()})" if doubt else text)


def _book_bar(desk: Desk, job: OpenJob, text: str, where: Where) -> Changed:
    from redline_bore.job.proposals import entries_from_typed

    state = job.state
    machine = desk.shop_machine() if state.boring.machine is None else None
    if machine is not None:  # the shop's machine is used as it was stated last, and this job keeps it
        state = replace(state, boring=replace(state.boring, machine=machine), memo={})
    (entry,) = entries_from_typed("bore", text, state, where, now())
    assert isinstance(entry, BarSet)
    bar = desk.taught(entry, state)
    if machine is not None:
        job.book(machine, typed="the shop's machine as stated last")
    return job.book(bar, typed=text.strip(), remark=_bar_remark(bar, Show(where.units)))


def _bar_remark(bar: BarSet, show: Show) -> str:
    """The feed and speed that were booked, and what taught the setting."""
    told = f"{bar.insert}: {show.fine(bar.feed_mm)} a turn at {bar.rpm:g}."
    if not bar.taught_by:
        return told
    return f"{told} Taught by {', '.join(bar.taught_by)}: {show.fine(bar.usual_mm)} over its setting."
