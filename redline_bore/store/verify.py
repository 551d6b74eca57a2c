"""Checking a whole logbook: every entry against its hash, every job against the fold."""

from __future__ import annotations

from collections.abc import Callable

from redline_bore.core.errors import BenchError
from redline_bore.core.frozen import frozen
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.strikes import EntryDamaged
from redline_bore.store.last_seen import missing_since
from redline_bore.store.logbook import Logbook


@frozen(often=True)
class Verified:
    """What was found: counts, and a sentence of every fault."""

    jobs: int
    entries: int
    damaged: int
    unfolded: int
    faults: tuple[str, ...]


def verified(logbook: Logbook, tick: Callable[[int, int], None] | None = None) -> Verified:
    """Check every job of a logbook. tick: told how many are done, of how many. Raises EnvironmentTrouble where it cannot be read at all."""
    figures, faults = logbook.figures(), list[str]()
    entries = damaged = unfolded = 0
    lines = logbook.jobs()
    for i, line in enumerate(lines, start=1):
        if tick is not None:
            tick(i, len(lines))
        ledger = logbook.ledger(line.job_id)
        entries += len(ledger)
        bad = [r for r in ledger if isinstance(r.entry, EntryDamaged)]
        damaged += len(bad)
        faults += [f"Job {line.number}, entry {r.seq}: {r.entry.why}" for r in bad if isinstance(r.entry, EntryDamaged)]
        try:
            fold(ledger, figures)
        except BenchError as error:
            unfolded += 1
            faults.append(f"Job {line.number} cannot be shown: {error}")
    faults += [missing] if (missing := missing_since(logbook)) else []
    faults += [f"The file itself: {line}" for line in logbook.damage()]
    return Verified(len(lines), entries, damaged, unfolded, tuple(faults))
