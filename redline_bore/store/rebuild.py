"""Making anew what stands beside the ledgers: after an older or a newer program kept it, or when it is not trusted."""

from __future__ import annotations

import time
from collections.abc import Callable

from redline_bore.core.frozen import frozen
from redline_bore.store.logbook import Logbook


@frozen
class Rebuilt:
    """jobs: how many were made anew; other: the numbers of those where something else stood before."""

    jobs: int
    other: tuple[str, ...]


def rebuild(
    logbook: Logbook, tick: Callable[[int, int], None] | None = None, all_of_them: bool = True, rest: float = 0.0
) -> Rebuilt:
    """Make anew what stands beside every ledger (else: of those that another version of the program kept), job by job.

    It may be broken off at any time and begun again. tick: told how many are done, of how many; may raise to break off. rest: how long it gives way
    after each job, times what the job took. Raises EnvironmentTrouble where the logbook cannot be written.
    """
    ids = logbook.job_ids() if all_of_them else logbook.outdated()
    other = []
    for i, job_id in enumerate(ids, start=1):
        began = time.monotonic()
        if number := logbook.made_anew(job_id):
            other.append(number)
        if rest:
            time.sleep(rest * (time.monotonic() - began))
        if tick is not None:
            tick(i, len(ids))
    return Rebuilt(len(ids), tuple(other))
