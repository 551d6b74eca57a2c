"""What is wrong with a ledger that comes in from a file, held against the declarations of the kinds: entries out of order,
cylinders that are not there, figures that cannot be."""

from __future__ import annotations

from collections.abc import Sequence

from redline_bore.core.block import BlockSpec
from redline_bore.core.errors import Fault
from redline_bore.job.kinds.book_in import BookInRevised, JobOpened
from redline_bore.job.kinds.defects import PhotoAttached
from redline_bore.job.kinds.entry import Record
from redline_bore.job.kinds.kind import wrongs
from redline_bore.job.kinds.strikes import EntryRestored, EntryStruck

OF_OTHERS = (EntryStruck, EntryRestored, PhotoAttached)


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
        faults += [Fault(f"{path}.entry.{w.field}", w.reason) for w in wrongs(entry, block)]
    return faults
