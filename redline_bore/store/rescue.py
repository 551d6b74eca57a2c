"""A logbook that went away while a job was open: what is booked goes on beside it, and is handed in once it is back."""

from __future__ import annotations

import json
from collections.abc import Sequence
from datetime import UTC, datetime
from pathlib import Path

from redline_bore.core.errors import InputError
from redline_bore.job.kinds.book_in import JobOpened
from redline_bore.job.kinds.codec import to_plain
from redline_bore.job.kinds.entry import Record
from redline_bore.store.logbook import Draft, Logbook


def rescue_logbook(gone: Path, records: Sequence[Record]) -> tuple[Logbook, int]:
    """A new logbook beside one that is gone, with the job as it is known; and the job's place in it."""
    stamp = datetime.now(UTC).strftime("%Y%m%d-%H%M%S")
    path, n = gone.with_name(f"{gone.stem}-rescue-{stamp}.sqlite"), 1
    while path.exists():
        path, n = gone.with_name(f"{gone.stem}-rescue-{stamp}-{n}.sqlite"), n + 1
    logbook = Logbook(path)
    return logbook, logbook.take_ledger(_drafts(records))


def hand_in(logbook: Logbook, rescue: Path) -> tuple[str, ...]:
    """Take what a rescue logbook holds into the one that is back; says of each job what was taken. Handing in twice takes nothing twice.

    Raises EnvironmentTrouble, InputError. What both have in the same place is the same, up to where they part; what the rescue has from
    there on is appended, its times and persons as they were.
    """
    other, told = Logbook(rescue, make=False), []
    try:
        known = {line.number: line.job_id for line in logbook.jobs()}
        for line in reversed(other.jobs()):
            ledger = other.ledger(line.job_id)
            if line.number not in known:
                logbook.take_ledger(_drafts(ledger))
                told.append(f"{line.number}: the whole job")
                continue
            here = logbook.ledger(known[line.number])
            if not isinstance(ledger[0].entry, JobOpened) or here[0].entry != ledger[0].entry:
                raise InputError(
                    f"Job {line.number} in {rescue} is another than the one in {logbook.path}; nothing of it was taken"
                )
            had = {_said(r) for r in here}
            new = [r for r in ledger if _said(r) not in had]
            if new:
                logbook.append(known[line.number], 0, _drafts(new))
            told.append(f"{line.number}: {len(new)} entries" if new else f"{line.number}: nothing new")
    finally:
        other.close()
    return tuple(told)


def _said(r: Record) -> str:
    """An entry with its time and its person, to be known again in another logbook; not its place."""
    return json.dumps([r.at, r.person, r.typed, r.instrument, to_plain(r.entry)])


def _drafts(records: Sequence[Record]) -> list[Draft]:
    return [Draft(r.entry, r.person, r.instrument, r.block_c, r.typed, r.at) for r in records]
