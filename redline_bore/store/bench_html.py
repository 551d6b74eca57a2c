"""The bench sheet of a cylinder as HTML: what the hone is set to, where each step ends, what was checked, room to write."""

from __future__ import annotations

from redline_bore.core.show import Show
from redline_bore.job.hone.progress import progress_of
from redline_bore.job.hone.set_up import kinematics_of
from redline_bore.job.hone.steps import stages_of
from redline_bore.job.profiles.stones import stones_said
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words.missing import say_missing
from redline_bore.job.words.set_up import say_set_up
from redline_bore.store.templating import template

EMPTY_ROWS = 8


def bench_html(state: JobState, cylinder: int, show: Show, printing: bool = False) -> str:
    """One page for one cylinder at the machine."""
    return template("bench.html").render(
        state=state, cylinder=cylinder, show=show, printing=printing, progress=progress_of(state, cylinder),
        stages=stages_of(state, cylinder), kinematics=kinematics_of(state), said=stones_said,
        checks=state.honing.checks_of(cylinder), say_missing=say_missing, say_set_up=say_set_up, empty=range(EMPTY_ROWS),
    )  # fmt: skip
