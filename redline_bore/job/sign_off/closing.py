"""A signed job is closed for entries; opening it again is an entry. What others say of it afterwards is still taken."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from redline_bore.core.errors import InputError
from redline_bore.job.kinds.entry import Entry
from redline_bore.job.kinds.opinions import OtherPistonBooked, OtherReadingBooked, SecondOpinionOpened
from redline_bore.job.kinds.sign_off import JobReopened
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words.card import Advice

STILL_TAKEN = (JobReopened, SecondOpinionOpened, OtherReadingBooked, OtherPistonBooked)


def told_closed(state: JobState, step: str, advice: Advice) -> Advice:
    """The advice of a step of a closed job: no button that would book something, and how the job is opened again."""
    signed = state.signing.stamp("sign_off")
    if not state.signing.closed or signed is None or step == "sign_off":
        return advice
    note = f"Signed off by {signed.initials}, {signed.at[:10]}, and closed; the sign-off step can reopen it."
    button = advice.button if advice.button.startswith("Go to") else ""
    return replace(advice, button=button, changes=(note, *advice.changes))


def check_open(state: JobState, entries: Iterable[Entry]) -> None:
    """Raises InputError when the job is closed and one of the entries would change it."""
    if not state.signing.closed or all(isinstance(entry, STILL_TAKEN) for entry in entries):
        return
    signed = state.signing.stamp("sign_off")
    assert signed is not None
    raise InputError(
        f"Job {state.number} was signed off by {signed.initials} on {signed.at[:10]} and is closed; "
        "“reopen” with the reason, in the sign-off step, opens it again"
    )
