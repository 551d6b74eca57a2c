"""A job as the list shows it, from its state and its ledger."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from redline_bore.core.frozen import frozen
from redline_bore.job.kinds.bore import MachineStated
from redline_bore.job.kinds.entry import Record
from redline_bore.job.kinds.fold import CHANGE_THE_PAST
from redline_bore.job.kinds.hone import HoneSet
from redline_bore.job.state.job_state import JobState

MOST_NOTES = 20_000  # letters that the search looks among


@frozen(often=True)
class Line:
    """done: the steps that are stamped; step: the one stamped last; promised: the day, empty where none was; waits_for: what nobody at the bench
    can do; people: who booked in it, the newest first; machines: those that were stated in it; notes: what was noted, for the search."""

    number: str
    owner: str = ""
    engine: str = ""
    notes: str = ""
    step: str = "book_in"
    done: tuple[str, ...] = ()
    promised: str = ""
    waits_for: str = ""
    people: tuple[str, ...] = ()
    machines: tuple[str, ...] = ()

    @property
    def due(self) -> str:
        """The day promised, while it is not signed off."""
        return "" if "sign_off" in self.done else self.promised

    def words_differ(self, before: Line) -> bool:
        """Whether the search would find it by other words."""
        now, was = ((x.number, x.owner, x.engine, x.notes) for x in (self, before))
        return now != was


def line_of(state: JobState, records: Sequence[Record]) -> Line:
    """The line of a job, from the whole of its ledger."""
    people = tuple(dict.fromkeys(r.person for r in reversed(records)))
    return _line(state, people, _machines(records, state.struck))


def line_on(line: Line, state: JobState, new: Sequence[Record], records: Sequence[Record]) -> Line:
    """``line_of``, worked on from the line as it was before ``new`` came in; the ledger is looked through only where a machine may be another."""
    people = tuple(dict.fromkeys((*(r.person for r in reversed(new)), *line.people)))
    anew = any(isinstance(r.entry, (MachineStated, HoneSet, *CHANGE_THE_PAST)) for r in new)
    return _line(state, people, _machines(records, state.struck) if anew else line.machines)


def _line(state: JobState, people: tuple[str, ...], machines: tuple[str, ...]) -> Line:
    book, since = state.book_in, state.signing.reopened
    stamped = [s.step for s in state.signing.stamps if s.step != "sign_off" or s.seq > since]
    done = tuple(dict.fromkeys(stamped))
    notes = "\n".join(state.booking.remarks)[:MOST_NOTES]
    step = stamped[-1] if stamped else "book_in"
    return Line(
        state.number, book.owner, book.engine, notes, step, done, state.booking.promised, state.booking.waits_for, people, machines
    )  # fmt: skip


def _machines(records: Iterable[Record], struck: frozenset[int]) -> tuple[str, ...]:
    """The machines that were stated: the bars by their names, then the hones."""
    bars, hones = list[str](), list[str]()
    for r in records:
        if isinstance(r.entry, MachineStated) and r.seq not in struck:
            bars.append(r.entry.name)
        elif isinstance(r.entry, HoneSet) and r.seq not in struck:
            hones.append(f"{r.entry.machine} hone")
    return tuple(dict.fromkeys((*bars, *hones)))
