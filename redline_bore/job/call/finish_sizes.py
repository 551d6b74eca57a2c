"""Where a hole will really end at a call: by its piston, once it is measured; until then by what pistons are sold under their name."""

from __future__ import annotations

from redline_bore.core.frozen import frozen
from redline_bore.job.redline import leading_window, name_of_piston
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.job_state import JobState


@frozen
class FinishSize:
    """The finish size of a cylinder at a call, mm: surely not under ``least_mm``, at most ``most_mm``; equal with its piston in hand."""

    least_mm: float
    most_mm: float

    @property
    def measured(self) -> bool:
        """Whether its piston was measured."""
        return self.least_mm == self.most_mm


@once_a_state
def finish_size_at(state: JobState, cylinder: int, oversize_mm: float) -> FinishSize:
    """Where a cylinder ends, called to ``oversize_mm`` over nominal. Source: methods 5."""
    name, aim = state.block.bore_mm + oversize_mm, leading_window(state).aim_mm
    for piston in reversed(state.calling.pistons):  # the newest that is sold for this size
        if piston.cylinder == cylinder and abs(name_of_piston(state, piston.size_mm, oversize_mm) - oversize_mm) < 1e-6:
            return FinishSize(piston.size_mm + aim, piston.size_mm + aim)
    least, most = state.figures.row("cleanup.pistons_under")
    return FinishSize(name - most + aim, name - least + aim)
