"""What a step says once its job is signed and closed. Apart from the sign-off itself: the first picture needs no more than this."""

from __future__ import annotations

from redline_bore.core.frozen import replace
from redline_bore.core.when import day
from redline_bore.job.card import Advice, Note
from redline_bore.job.state.job_state import JobState


def told_closed(state: JobState, step: str, advice: Advice) -> Advice:
    """The advice of a step of a closed job: no button that would book something, and how the job is opened again."""
    signed = state.signing.stamp("sign_off")
    if not state.signing.closed or signed is None or step == "sign_off":
        return advice
    note = Note(f"Signed off by {signed.initials}, {day(signed.at)}, and closed; the sign-off step can reopen it.")
    button = advice.button if advice.leads_on else ""
    return replace(advice, button=button, changes=(note, *advice.changes))
