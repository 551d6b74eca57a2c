"""What is wrong with a ledger that comes in from a file, held against the declarations of the kinds: entries out of order,
cylinders that are not there, figures that cannot be."""

from __future__ import annotations

import contextlib
from collections.abc import Sequence
from datetime import datetime, timedelta

from redline_bore.core.block import BlockSpec
from redline_bore.core.errors import Fault
from redline_bore.job.kinds.book_in import BookInRevised, JobOpened
from redline_bore.job.kinds.defects import PhotoAttached
from redline_bore.job.kinds.entry import Record
from redline_bore.job.kinds.kind import wrongs
from redline_bore.job.kinds.strikes import EntryRestored, EntryStruck

EARLIEST, LATEST, CLOCKS_DIFFER = 1980, 2200, timedelta(days=1)
OF_OTHERS = (EntryStruck, EntryRestored, PhotoAttached)


def _of_time(path: str, record: Record, before: str) -> list[Fault]:
    try:
        at = datetime.fromisoformat(record.at)
    except ValueError:
        return [Fault(f"{path}.at", f"“{record.at[:40]}” is no time; ISO 8601 with its zone is wanted")]
    if at.tzinfo is None:
        return [Fault(f"{path}.at", "has no zone: +00:00 or another is wanted")]
    if not EARLIEST <= at.year <= LATEST:
        return [Fault(f"{path}.at", f"lies in {at.year}")]
    with contextlib.suppress(ValueError, TypeError):
        if before and at < datetime.fromisoformat(before) - CLOCKS_DIFFER:
            return [Fault(f"{path}.at", "is earlier than the entry before it by more than a day")]
    return []


def ledger_faults(ledger: Sequence[Record]) -> list[Fault]:
    """Everything in a ledger that no logbook would have let in, with its path."""
    faults: list[Fault] = []
    block: BlockSpec | None = None
    for place, record in enumerate(ledger):
        path, entry = f"ledger[{place}]", record.entry
        if record.seq != place + 1:
            faults.append(Fault(f"{path}.seq", f"is {record.seq}; entries are numbered 1, 2, 3 ... without a gap"))
        if isinstance(entry, JobOpened) != (place == 0):
            faults.append(Fault(f"{path}.entry", "a ledger begins with the opening of the job, once"))
        if isinstance(entry, (JobOpened, BookInRevised)):
            block = entry.book_in.block
        if isinstance(entry, OF_OTHERS) and not 1 <= entry.seq < record.seq:
            faults.append(
                Fault(f"{path}.entry.seq", f"is {entry.seq}; only an earlier entry can be struck, restored or pictured")
            )
        faults += _of_time(path, record, ledger[place - 1].at if place else "")
        faults += [Fault(f"{path}.entry.{w.field}", w.reason) for w in wrongs(entry, block)]
    return faults
