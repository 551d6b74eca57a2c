"""Whether a job can be shown at all: every card of every cylinder is made once. For a ledger that comes from elsewhere."""

from __future__ import annotations

from redline_bore.core.show import Show
from redline_bore.job.call.asks import first_rung
from redline_bore.job.route import steps_of
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words import (
    bore,
    call,
    defects,
    finish,
    hone,
    options,
    pistons,
    plate,
    readings,
    second_opinion,
    side_by_side,
    sign_off,
    sleeve,
)

MOST_TRIED = 3  # cylinders: the first, the one in the middle and the last say it of the others


def trial(state: JobState) -> None:
    """Make every card. Raises whatever speaks against it."""
    show, all_of = Show(state.units), state.cylinders
    steps_of(state)
    over = first_rung(state)
    options.advise(state, 0, show)
    sign_off.advise(state, show)
    side_by_side.advise(state, show)
    for cylinder in sorted({all_of[0], all_of[len(all_of) // 2], all_of[-1]})[:MOST_TRIED]:
        readings.advise(state, cylinder, show)
        defects.advise(state, cylinder, show)
        plate.advise(state, cylinder, show)
        second_opinion.advise(state, cylinder, show)
        call.advise(state, cylinder, over, show)
        pistons.advise(state, cylinder, show)
        bore.advise(state, cylinder, show)
        sleeve.advise(state, cylinder, show)
        hone.advise(state, cylinder, show)
        finish.advise(state, cylinder, show)
