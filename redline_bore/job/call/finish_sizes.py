"""Where a hole will really end at a call: by its piston, once it is measured; until then by what pistons are sold under their name."""

from __future__ import annotations

from redline_bore.core.frozen import frozen
from redline_bore.job.redline import leading_window
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


def name_of_piston(state: JobState, size_mm: float, called_mm: float) -> float:
    """The step over nominal that a piston of that size is sold for: the nearest of standard, those listed, and the one called, mm."""
    least, most = state.figures.row("cleanup.pistons_under")
    over = size_mm + (least + most) / 2.0 - state.block.bore_mm
    return min({0.0, *state.book_in.oversizes_mm, called_mm}, key=lambda step: abs(step - over))


@frozen
class WrongPiston:
    """A piston that is not one of the call: what it is sold for, and what was called, mm over nominal."""

    cylinder: int
    size_mm: float
    sold_for_mm: float
    called_mm: float


@once_a_state
def wrong_pistons(state: JobState) -> tuple[WrongPiston, ...]:
    """The pistons measured that are not those of the call that was taken."""
    taken = state.calling.decision
    if taken is None or not taken.bores:
        return ()
    own = {a.cylinder: a.oversize_mm for a in taken.apart}
    found = []
    for cylinder in state.cylinders:
        piston, called = state.calling.piston(cylinder), own.get(cylinder)
        called = taken.oversize_mm if called is None else called
        if piston is None:
            continue
        sold = name_of_piston(state, piston.size_mm, called)
        if abs(sold - called) > 1e-6:
            found.append(WrongPiston(cylinder, piston.size_mm, sold, called))
    return tuple(found)
