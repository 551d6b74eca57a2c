"""Taking a file into the logbook: readings of an open job, or a whole job."""

from __future__ import annotations

from pathlib import Path

from redline_bore.core.figures import Figures
from redline_bore.job.kinds.book_in import JobOpened
from redline_bore.job.kinds.entry import Draft
from redline_bore.job.state.job_state import JobState
from redline_bore.store.exports import read_text
from redline_bore.store.job_file import job_from_json
from redline_bore.store.logbook import Logbook
from redline_bore.store.readings_csv import ReadRow, readings_from_csv


def import_readings(path: Path, state: JobState, other: str = "") -> tuple[ReadRow, ...]:
    """The readings or sweeps of a CSV file; ``other`` names the shop whose they are, when they are not ours.

    Raises EnvironmentTrouble or FaultyInput; nothing is booked yet.
    """
    return readings_from_csv(read_text(path), state, other)


def import_job(logbook: Logbook, path: Path, figures: Figures) -> str:
    """Take a job file into the logbook as it stands; returns its number.

    Raises FaultyInput with every fault, or InputError when the number is taken; then nothing was written.
    """
    file = job_from_json(read_text(path), figures)
    opening = file.ledger[0].entry
    assert isinstance(opening, JobOpened)
    drafts = [Draft(r.entry, r.person, r.instrument, r.block_c, r.typed, r.at) for r in file.ledger]
    logbook.take_ledger(drafts, file.photos)
    return opening.number
