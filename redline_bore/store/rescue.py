"""A logbook that went away while a job was open: what is booked goes on beside it, and is handed in once it is back."""

from __future__ import annotations

import time
from collections.abc import Sequence
from datetime import UTC, datetime
from pathlib import Path

from redline_bore.job.kinds.entry import Record
from redline_bore.store.exports import LEFT_S
from redline_bore.store.logbook import Draft, Logbook


def rescue_logbook(gone: Path, records: Sequence[Record]) -> tuple[Logbook, int]:
    """A new logbook beside one that is gone, with the job as it is known; and the job's place in it."""
    stamp = datetime.now(UTC).strftime("%Y%m%d-%H%M%S")
    path, n = gone.with_name(f"{gone.stem}-rescue-{stamp}.sqlite"), 1
    while path.exists():
        path, n = gone.with_name(f"{gone.stem}-rescue-{stamp}-{n}.sqlite"), n + 1
    path.parent.mkdir(mode=0o700, parents=True, exist_ok=True)
    part = path.with_name(
        f".{path.stem}.part"
    )  # it has its name once the whole job is in it: a kill leaves no half one
    for left in path.parent.glob(f".{gone.stem}-rescue-*.part*"):
        if time.time() - left.stat().st_mtime > LEFT_S:
            left.unlink(missing_ok=True)
    made = Logbook(part)
    drafts = [Draft(r.entry, r.person, r.instrument, r.block_c, r.typed, r.at) for r in records]
    job_id = made.take_ledger(drafts)
    made.close()  # which writes its log into the file
    part.rename(path)
    return Logbook(path), job_id
