"""A logbook that went away while a job was open: what is booked goes on beside it, and is handed in once it is back."""

from __future__ import annotations

import sqlite3
import time
from collections.abc import Sequence
from datetime import UTC, datetime
from pathlib import Path
from secrets import token_hex

from redline_bore.core.errors import EnvironmentTrouble
from redline_bore.job.kinds.entry import Draft, Record
from redline_bore.store.exports import LEFT_S
from redline_bore.store.logbook import Logbook


def rescue_logbook(gone: Path, records: Sequence[Record]) -> tuple[Logbook, int]:
    """A new logbook beside one that is gone, with the job as it is known; and the job's place in it.

    Its name was never used before: a log that was left lying under a name would be played into the file that is made under it.
    """
    stamp = datetime.now(UTC).strftime("%Y%m%d-%H%M%S")
    path = gone.with_name(f"{gone.stem}-rescue-{stamp}-{token_hex(4)}.sqlite")
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
    made.close()
    renamed(part, path)
    return Logbook(path), job_id


def renamed(path: Path, to: Path) -> None:
    """Give a logbook's file another name, all of it in the one file: nothing of it stays behind in a log under the old name.

    Raises EnvironmentTrouble where somebody has it open.
    """
    raw = sqlite3.connect(str(path), timeout=1.0, isolation_level=None)
    try:
        busy, _, _ = raw.execute("PRAGMA wal_checkpoint(TRUNCATE)").fetchone()
        mode = raw.execute("PRAGMA journal_mode=DELETE").fetchone()[0]
    except sqlite3.Error as error:
        raise EnvironmentTrouble(f"{path} cannot be put under another name: {error}") from error
    finally:
        raw.close()
    if busy or mode != "delete" or path.with_name(f"{path.name}-wal").exists():
        raise EnvironmentTrouble(f"{path} cannot be put under another name: somebody has it open")
    path.rename(to)
