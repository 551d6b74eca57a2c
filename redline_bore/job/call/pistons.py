"""Pistons and clearance: what each measures, which bore it goes to, finish sizes, rings, heat, volume (methods 7)."""

from __future__ import annotations

from enum import Enum, auto
from typing import TYPE_CHECKING, NamedTuple

from redline_bore.core.errors import FitError
from redline_bore.core.fit import Decision, hot_clearance, wanted_gap
from redline_bore.core.frozen import frozen
from redline_bore.job.gauge.analysis import shape_of
from redline_bore.job.gauge.doubt import clearance_doubt
from redline_bore.job.gauge.two_ends import ends_call, hole_now
from redline_bore.job.profiles.duty import duty
from redline_bore.job.redline import leading_window, planned_mm
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.job_state import JobState

if TYPE_CHECKING:
    from redline_bore.core.assign import Assignment


@frozen(often=True)
class Fit:
    """A bore and the piston meant for it, mm at 20 C. None: not known."""

    cylinder: int
    piston_mm: float | None
    over_nominal_mm: float | None
    finish_mm: float | None
    bore_mm: float | None
    clearance_mm: float | None  # at the smallest place
    most_mm: float | None  # at the largest
    doubt_mm: float | None
    decision: Decision | None
    hot_mm: float | None

    @property
    def closes_hot_mm(self) -> float | None:
        """How much the clearance closes from 20 C to working heat where both grow freely, mm; None where that is not known. For comparing
        alloys and duties: a piston yields and a skirt is barrelled, so that it is no interference."""
        at = self.bore_mm if self.bore_mm is not None else self.finish_mm
        return (
            None if at is None or self.piston_mm is None or self.hot_mm is None else at - self.piston_mm - self.hot_mm
        )

    @property
    def to_come_mm(self) -> float | None:
        """Metal still to come off before the finish size; None where there is none, or no size."""
        if self.bore_mm is None or self.finish_mm is None or self.decision is Decision.IN:
            return None
        left = self.finish_mm - self.bore_mm
        return left if left > (self.doubt_mm or 0.0) else None


@frozen(often=True)
class CommonSize:
    """One finish size for all: what each clearance would then be, and how far the worst misses the aim."""

    size_mm: float
    clearances_mm: tuple[float, ...]
    worst_miss_mm: float
    all_in: bool


@once_a_state
def fits_of(state: JobState) -> tuple[Fit, ...]:
    """Every cylinder with its piston; the bore is the mean of the hole as it was read last, honed or finished."""
    return tuple(_fit(state, c) for c in state.cylinders)


def _fit(state: JobState, cylinder: int) -> Fit:
    window, piston = leading_window(state), state.calling.piston(cylinder)
    hole, call = hole_now(state, cylinder), ends_call(state, cylinder)
    bore = None if hole is None else hole.mean_mm
    if piston is None:
        return Fit(cylinder, None, None, None, bore, None, None, None, None, None)
    finish, planned = piston.size_mm + window.aim_mm, planned_mm(state, cylinder)
    against = bore if bore is not None else finish
    over = None if planned is None else piston.size_mm - planned
    hot = _hot(state, against, piston.size_mm)
    if call is None:
        doubt = clearance_doubt(state, against, piston.size_mm)
        return Fit(cylinder, piston.size_mm, over, finish, bore, None, None, doubt, None, hot)
    ends = (call.least_mm, call.most_mm, call.u_mm, call.decision)
    return Fit(cylinder, piston.size_mm, over, finish, bore, *ends, hot)


def _hot(state: JobState, bore_mm: float, piston_mm: float) -> float:
    wall_c, skirt_c = state.figures.row(f"duty.{duty(state.book_in.duty).heat}")
    alloy = state.figures.number(f"thermal.{state.book_in.piston_alloy}")
    return hot_clearance(bore_mm, state.coefficient_1e6, wall_c, piston_mm, alloy, skirt_c)


def common_size(state: JobState) -> CommonSize | None:
    """One finish size in the middle of what the pistons ask for; None until every piston is measured."""
    sizes = [f.piston_mm for f in fits_of(state)]
    if any(s is None for s in sizes):
        return None
    pistons = [s for s in sizes if s is not None]
    window = leading_window(state)
    size = (max(pistons) + min(pistons)) / 2.0 + window.aim_mm
    gaps = tuple(size - p for p in pistons)
    inside = all(window.low_mm <= g <= window.high_mm for g in gaps)
    return CommonSize(size, gaps, max(abs(g - window.aim_mm) for g in gaps), inside)


class AssignmentLacks(Enum):
    """What is missing before pistons can be put to bores."""

    PISTONS = auto()  # not all are measured
    HONED = auto()  # not every bore is
    GAUGED = auto()  # not every bore is
    NOT_AS_MANY = auto()  # pistons as bores


class AssignmentFound(NamedTuple):
    """The pistons to the bores; None, and what is missing. cylinders: whose pistons."""

    best: Assignment | None
    lacks: AssignmentLacks | None
    cylinders: tuple[int, ...] = ()


@once_a_state
def assignment_of(state: JobState) -> AssignmentFound:
    """The pistons to the bores as they are now, best fit; None with the reason."""
    from redline_bore.core.assign import assign_pistons

    fits = fits_of(state)
    to_hone = (
        state.calling.decision is not None and state.calling.decision.bores
    )  # worn sizes say nothing about who fits where then
    bores = [f.bore_mm if f.bore_mm is not None or to_hone else shape_of(state, f.cylinder).mean_mm for f in fits]
    pistons = [f.piston_mm for f in fits]
    if any(p is None for p in pistons):
        missing = tuple(f.cylinder for f in fits if f.piston_mm is None)
        return AssignmentFound(None, AssignmentLacks.PISTONS, missing)
    if any(b is None for b in bores):
        return AssignmentFound(None, AssignmentLacks.HONED if to_hone else AssignmentLacks.GAUGED)
    try:
        known = [b for b in bores if b is not None]
        return AssignmentFound(
            assign_pistons(known, [p for p in pistons if p is not None], leading_window(state).aim_mm), None
        )
    except FitError:
        return AssignmentFound(None, AssignmentLacks.NOT_AS_MANY)


@frozen(often=True)
class Rings:
    """End gaps that the rings of a finished bore want, mm: top and second."""

    top_mm: float
    second_mm: float
    source: str


def rings_of(state: JobState, bore_mm: float) -> Rings:
    """Wanted gaps by duty. To file is what a ring's measured gap in the finished bore lacks of that."""
    f, usual = state.figures, f"pistons.gap_{duty(state.book_in.duty).gap}"
    top = wanted_gap(bore_mm, f.number(usual))
    return Rings(top, top * f.number("pistons.gap_second_ring"), f.figure(usual).source)


def to_file(state: JobState, cylinder: int, bore_mm: float) -> float | None:
    """How much to file off the top ring of a cylinder, mm, from its narrowest measured gap; None: no gap was read."""
    gaps = [g.gap_mm for g in state.gauging.ring_gaps if g.cylinder == cylinder]
    return rings_of(state, bore_mm).top_mm - min(gaps) if gaps else None
