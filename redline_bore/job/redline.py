"""The redline: the finish size each cylinder is honed to, and how sure a clearance is. Sizes in mm at 20 C."""

from __future__ import annotations

from redline_bore.core.fit import (
    ClearanceWindow,
    finish_size,
    window_from_bore,
)
from redline_bore.core.frozen import frozen
from redline_bore.job.missing import Lack, Missing
from redline_bore.job.profiles.duty import ClearanceLoad, duty
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.calling import Piston
from redline_bore.job.state.job_state import JobState

WINDOW_SOURCES = ("piston sheet", "manual", "habit", "share of bore")


@frozen
class Redline:
    """The finish size of a cylinder, or None with the reason. ``planned_mm`` is for drawing only, never for a cut.

    provisional: no piston is measured yet, and the size is the least that pistons sold under that name ask for: the hone may go so far.
    """

    size_mm: float | None
    planned_mm: float | None
    piston: Piston | None
    window: ClearanceWindow
    missing: Missing | None = None
    provisional: bool = False

    @property
    def piston_mm(self) -> float | None:
        """The piston it is honed to, mm; the least that may come, while it is provisional."""
        if self.piston is not None:
            return self.piston.size_mm
        return self.size_mm - self.window.aim_mm if self.provisional and self.size_mm is not None else None


def windows(state: JobState) -> tuple[ClearanceWindow, ...]:
    """Every clearance window that is known, in the usual order; the share of the bore is always among them."""
    hard = duty(state.book_in.duty).clearance is ClearanceLoad.HARD
    f, alloy = state.figures, state.book_in.piston_alloy.removeprefix("piston_")
    added = f.number("pistons.clearance_added_hard_duty") if hard else 0.0
    share = window_from_bore(state.block.bore_mm, f.row(f"pistons.clearance_{alloy}"), added, "share of bore")
    known = {w.source: w for w in state.calling.windows} | {"share of bore": share}
    return tuple(known[source] for source in WINDOW_SOURCES if source in known)


def leading_window(state: JobState) -> ClearanceWindow:
    """The window the practice says leads; where that one is not known, the next that is."""
    known = {w.source: w for w in windows(state)}
    wanted = state.booking.practice("clearance")
    return known.get(wanted) or windows(state)[0]


def planned_mm(state: JobState, cylinder: int) -> float | None:
    """Size in name that the call sends a cylinder to, mm; None before the call is taken, or where nothing is bored."""
    if state.calling.decision is None or not state.calling.decision.bores:
        return None
    own = next((a.oversize_mm for a in state.calling.decision.apart if a.cylinder == cylinder), None)
    return state.block.bore_mm + (state.calling.decision.oversize_mm if own is None else own)


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


def redline_of(state: JobState, cylinder: int) -> Redline:
    """Finish size of a cylinder: its measured piston plus the aim of the leading window, never a nominal number."""
    window, piston = leading_window(state), state.calling.piston(cylinder)
    planned = planned_mm(state, cylinder)
    if state.calling.decision is not None and not state.calling.decision.bores:
        return Redline(None, None, piston, window, Missing(Lack.BORES_NOTHING))
    if any(w.cylinder == cylinder for w in wrong_pistons(state)):
        return Redline(None, planned, piston, window, Missing(Lack.OTHER_PISTON, cylinder))
    if piston is not None and state.calling.decision is not None:
        size = finish_size(piston.size_mm, window.aim_mm)
        return Redline(size, size, piston, window)
    if planned is not None and state.calling.decision is not None and not state.calling.decision.by_bar:
        least = planned - state.figures.row("cleanup.pistons_under")[1] + window.aim_mm
        return Redline(least, planned, None, window, Missing(Lack.PISTON, cylinder), provisional=True)
    lack = Missing(Lack.CALL) if state.calling.decision is None else Missing(Lack.PISTON, cylinder)
    return Redline(None, planned, piston, window, lack)
