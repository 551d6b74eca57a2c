"""The run sheet at the machine: one cylinder at a time, the checks that matter, each stamped by one key."""

from __future__ import annotations

from collections.abc import Sequence

from redline_bore.core.frozen import frozen
from redline_bore.core.when import clock
from redline_bore.job.card import Note
from redline_bore.job.state.boring import RunCheck
from redline_bore.job.state.job_state import JobState


@frozen(often=True)
class RunItem:
    """A line of a run sheet. ``key`` empty: it is done by booking figures, not by a stamp. ``shared``: for the whole
    set-up. ``done``: who and when, or what was booked; empty while it is not."""

    key: str
    words: str
    why: str
    done: str = ""
    shared: bool = False
    cylinder: int = 0
    how: str = "type it"


@frozen(often=True)
class Check:
    """A check to be stamped: its key in the ledger, its words, why it matters."""

    key: str
    words: str
    why: str
    shared: bool = False


def stamped(state: JobState, step: str, check: Check, cylinder: int, after: int = 0) -> RunItem:
    """A check as it stands for a cylinder; a shared one counts from entry ``after`` on."""
    at = 0 if check.shared else cylinder
    found = next(
        (r for r in reversed(state.boring.run_checks) if (r.step, r.check, r.cylinder) == (step, check.key, at)), None
    )
    if found is not None and check.shared and found.seq < after:
        found = None
    return RunItem(check.key, check.words, check.why, _who(found), check.shared, at)


def _who(found: RunCheck | None) -> str:
    return "" if found is None else f"{found.person} {clock(found.at)}"


def lit(items: Sequence[RunItem]) -> RunItem | None:
    """The next thing to do; None when all is done."""
    return next((item for item in items if not item.done), None)


def next_stamp(items: Sequence[RunItem]) -> RunItem | None:
    """The next check that a key stamps, passing over what is done by booking."""
    return next((item for item in items if item.key and not item.done), None)


def left_out(items: Sequence[RunItem]) -> tuple[RunItem, ...]:
    """Checks that were passed over: not stamped, though something after them is done."""
    last = max((i for i, item in enumerate(items) if item.done), default=0)  # nothing done yet: nothing was passed over
    return tuple(item for item in items[:last] if not item.done and item.key)


def stamp_notes(items: Sequence[RunItem]) -> list[Note]:
    """What K stamps next, and what was passed over."""
    stamp, passed = next_stamp(items), left_out(items)
    notes = [] if stamp is None else [Note(f"K stamps: {stamp.words}.")]
    others = [item.words for item in passed if item is not stamp]
    if stamp is not None and stamp in passed:
        notes = [Note(f"Passed over, K stamps it: {stamp.words}.")]
    return notes + ([Note(f"Passed over too: {'; '.join(others)}.")] if others else [])
