"""Sleeving one cylinder after another: where each stands, how it came out (methods 9)."""

from __future__ import annotations

from enum import StrEnum

from redline_bore.core.frozen import frozen
from redline_bore.core.press_fit import peel_bore_mm
from redline_bore.job.call.option import NO, SURE
from redline_bore.job.profiles.wall_kind import wall_profile
from redline_bore.job.route import sleeved_cylinders
from redline_bore.job.sleeve.deck import SeatPlan, seat_of
from redline_bore.job.sleeve.fit import SleeveFit, fit_of
from redline_bore.job.sleeve.ways import SleeveDoing, SleeveWay, chosen_way, ways_of
from redline_bore.job.state.job_state import JobState

STEP = "sleeve"


class SleeveStage(StrEnum):
    """Where a cylinder that is sleeved stands, and so what is wanted next."""

    OLD = "old"  # the old sleeve's outside
    PARENT = "parent"  # the parent gauged
    SLEEVE = "sleeve"  # the new sleeve measured
    WAY = "way"  # a way picked
    DOES_NOT_GO = "no"  # the way picked does not go
    BORE_PARENT = "bore parent"
    SEAT = "seat"  # the flange's counterbore, cut and measured
    GO_IN = "go in"
    READ = "read"  # its bore read once it is cold
    IN = "in"


@frozen(often=True)
class Stage:
    """Where a cylinder stands. sure: nothing about it wants a look (where a way is to be picked: the usual one surely goes; once it is
    in: it closed as figured; where the sleeve is wanted: it is there, and does not fit)."""

    key: SleeveStage
    sure: bool = True


@frozen(often=True)
class Closing:
    """How far a sleeve's bore closed as it went in, mm on diameter, against what was figured. off: look why."""

    measured_mm: float
    low_mm: float
    high_mm: float
    off: bool


def has_old(state: JobState) -> bool:
    """Whether an old sleeve has to come out first."""
    return wall_profile(state.block.wall).sleeved


def peel_mm(state: JobState, cylinder: int) -> float | None:
    """What the old sleeve is bored to so that its shell can be peeled; None while its outside is not known."""
    old = state.sleeving.old_mm(cylinder)
    return None if old is None else peel_bore_mm(old, state.figures.number("sleeves.shell"))


def closing_of(state: JobState, cylinder: int) -> Closing | None:
    """How the sleeve closed; None until it was read, or where its fit was not known."""
    after, fit = state.sleeving.after_of(cylinder), fit_of(state, cylinder)
    if after is None or fit.sleeve is None or fit.grip is None:
        return None
    measured, (low, high) = fit.sleeve.bore_mm - after.mean_mm, fit.grip.closes_mm
    most = state.figures.number("sleeves.closing_off")
    return Closing(measured, low, high, not low - most <= measured <= high + most)


def parent_done(fit: SleeveFit, way: SleeveWay) -> bool:
    """Whether the parent is at the size its way wants, to a quarter of the interference."""
    if way.parent_mm is None or way.outside_mm is None or fit.parent_mm is None:
        return True
    return abs(fit.parent_mm - way.parent_mm) <= (way.outside_mm - way.parent_mm) / 4.0


def bored_past(fit: SleeveFit, way: SleeveWay) -> bool:
    """Whether the parent came larger than its way wants, by more than a quarter of the interference."""
    return not parent_done(fit, way) and (fit.parent_mm or 0.0) > (way.parent_mm or 0.0)


def seat_ready(seat: SeatPlan | None) -> bool:
    """Whether a flanged sleeve comes down on a counterbore that was measured and lets it stand in its window; one without a flange has none."""
    if seat is None:
        return True
    low, high = seat.protrusion_mm
    return seat.stands_mm is not None and low - 1e-6 <= seat.stands_mm <= high + 1e-6


def stage_of(state: JobState, cylinder: int) -> Stage:
    """Where a cylinder stands."""
    fit = fit_of(state, cylinder)
    if state.sleeving.after_of(cylinder) is not None:
        if not seat_ready(seat_of(state, cylinder)):
            return Stage(SleeveStage.SEAT, False)
        closing = closing_of(state, cylinder)
        return Stage(SleeveStage.IN, closing is None or not closing.off)
    if not fit.rings:
        if has_old(state) and state.sleeving.old_mm(cylinder) is None:
            return Stage(SleeveStage.OLD)
        return Stage(SleeveStage.PARENT)
    if fit.grip is None:
        return Stage(SleeveStage.SLEEVE, fit.sleeve is None)
    way = chosen_way(state, cylinder)
    if way is None:
        best = ways_of(state, cylinder)[0]
        return Stage(SleeveStage.WAY, best.way is SleeveDoing.TOUCH_UP and best.standing is SURE)
    if bored_past(fit, way):
        return Stage(SleeveStage.WAY, False)  # weigh the ways again
    if way.standing == NO:
        return Stage(SleeveStage.DOES_NOT_GO, False)
    return _to_go_in(state, fit, way)


def _to_go_in(state: JobState, fit: SleeveFit, way: SleeveWay) -> Stage:
    """Where a cylinder stands whose way is taken and goes, until its bore is read."""
    if not parent_done(fit, way):
        return Stage(SleeveStage.BORE_PARENT, False)
    taken = state.sleeving.way_of(fit.cylinder)
    if way.to_order and fit.sleeve is not None and taken is not None and fit.sleeve.seq < taken.seq:
        return Stage(SleeveStage.SLEEVE, False)  # the one that was ordered
    if not seat_ready(seat := seat_of(state, fit.cylinder)):
        return Stage(SleeveStage.SEAT, seat is None or not seat.cut.needs_shim)
    return Stage(SleeveStage.READ, False) if _stamped(state, fit.cylinder, "held") else Stage(SleeveStage.GO_IN)


def all_in(state: JobState) -> bool:
    """Every cylinder that is sleeved has its sleeve in, and read."""
    wanted = sleeved_cylinders(state)
    return bool(wanted) and all(state.sleeving.after_of(c) is not None for c in wanted)


def _stamped(state: JobState, cylinder: int, key: str) -> bool:
    return any((r.step, r.cylinder, r.check) == (STEP, cylinder, key) for r in state.boring.run_checks)
