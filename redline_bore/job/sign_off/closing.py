"""A signed job is closed for entries; opening it again is an entry. What others say of it afterwards is still taken."""

from __future__ import annotations

from collections.abc import Iterable

from redline_bore.core.errors import InputError
from redline_bore.core.when import day
from redline_bore.job.kinds.entry import Entry
from redline_bore.job.kinds.opinions import OtherPistonBooked, OtherReadingBooked, SecondOpinionOpened
from redline_bore.job.kinds.sign_off import JobReopened
from redline_bore.job.state.job_state import JobState

STILL_TAKEN = (JobReopened, SecondOpinionOpened, OtherReadingBooked, OtherPistonBooked)


def check_open(state: JobState, entries: Iterable[Entry]) -> None:
    """Raises InputError when the job is closed and one of the entries would change it."""
    if not state.signing.closed or all(isinstance(entry, STILL_TAKEN) for entry in entries):
        return
    signed = state.signing.stamp("sign_off")
    assert signed is not None
    raise InputError(
        f"Job {state.number} was signed off by {signed.initials} on {day(signed.at)} and is closed; "
        "“reopen” with the reason, in the sign-off step, opens it again"
    )
