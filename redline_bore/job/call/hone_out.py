"""Honed out without a bar: to the pistons there are, or to the next listed size while none is here yet (methods 7)."""

from __future__ import annotations

from redline_bore.job.call.ladder import Fate, Ladder
from redline_bore.job.profiles.purpose import purpose
from redline_bore.job.state.job_state import JobState


def hones_out(state: JobState) -> bool:
    """Whether what this job cuts is cut by the hone alone."""
    return purpose(state.book_in.purpose).hones_out


def stocks_mm(fates: tuple[Fate, ...]) -> tuple[float | None, ...]:
    """What a call takes of each cylinder, mm on diameter, to where it really ends; None where it is not gauged; minus: it is larger already."""
    return tuple(None if f.column.shape.mean_mm is None else f.end.most_mm - f.column.shape.mean_mm for f in fates)


def hone_sizes(ladder: Ladder) -> tuple[float, ...]:
    """The sizes in name, mm over nominal, that every cylinder can be honed out to: those at which each has something to give."""
    found = []
    for over in (0.0, *ladder.rungs_mm):
        stocks = stocks_mm(ladder.fates(over))
        if all(s is not None and s > 0.0 for s in stocks):
            found.append(over)
    return tuple(found)
