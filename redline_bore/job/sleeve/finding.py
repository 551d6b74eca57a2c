"""What to do now about a cylinder's sleeve: one finding, with the figures it rests on. No words."""

from __future__ import annotations

from enum import Enum, auto

from redline_bore.core.frozen import frozen
from redline_bore.job.bore.plan import plan_of
from redline_bore.job.call.option import NO
from redline_bore.job.gauge.analysis import start_of
from redline_bore.job.redline import redline_of
from redline_bore.job.route import sleeved
from redline_bore.job.sleeve.deck import seat_of
from redline_bore.job.sleeve.heat import heat_plan
from redline_bore.job.sleeve.run import SleeveStage, Stage, closing_of, stage_of
from redline_bore.job.sleeve.ways import ways_of
from redline_bore.job.state.job_state import JobState

COLD_ENOUGH_C = 20.5  # a block no warmer than that stays as it is


class SleeveCall(Enum):
    """What to do now."""

    KEEPS_WALL = auto()
    MEASURE_OLD = auto()
    GAUGE_PARENT = auto()
    MEASURE_SLEEVE = auto()
    TAKE_WAY = auto()
    NO_WAY_GOES = auto()
    WAY_DOES_NOT_GO = auto()
    BORE_PARENT = auto()
    CUT_SEAT = auto()  # its counterbore is not measured, or has metal left
    SEAT_TOO_DEEP = auto()
    IN_ON_NO_SEAT = auto()  # its bore is read, and nobody knows that the flange came down
    GO_IN = auto()
    TOO_HOT = auto()  # colder sleeve, else the block gets hotter than it may
    READ = auto()
    CLOSED_ODDLY = auto()
    NO_REDLINE = auto()
    BORED = auto()
    BAR_NEXT = auto()
    HONE_NEXT = auto()


@frozen
class SleeveFinding:
    """``call`` for a cylinder; to_mm: what the bar or the hone takes it to, or still has to take, mm."""

    call: SleeveCall
    cylinder: int
    stage: Stage | None = None
    to_mm: float | None = None


def judge(state: JobState, cylinder: int) -> SleeveFinding:
    """What to do now about a cylinder's sleeve."""
    if not sleeved(state, cylinder):
        return SleeveFinding(SleeveCall.KEEPS_WALL, cylinder)
    stage, s, c = stage_of(state, cylinder), SleeveStage, SleeveCall
    plain = {
        s.OLD: c.MEASURE_OLD, s.PARENT: c.GAUGE_PARENT, s.SLEEVE: c.MEASURE_SLEEVE, s.DOES_NOT_GO: c.WAY_DOES_NOT_GO,
        s.BORE_PARENT: c.BORE_PARENT, s.READ: c.READ,
    }  # fmt: skip
    if stage.key is s.WAY:
        none = ways_of(state, cylinder)[0].standing is NO
        return SleeveFinding(c.NO_WAY_GOES if none else c.TAKE_WAY, cylinder, stage)
    if stage.key is s.GO_IN:
        heat = heat_plan(state, cylinder)
        return SleeveFinding(c.TOO_HOT if heat is not None and heat.chosen.too_hot else c.GO_IN, cylinder, stage)
    if stage.key is s.SEAT:
        return _seat(state, cylinder, stage)
    if stage.key is s.IN:
        return _in(state, cylinder, stage)
    return SleeveFinding(plain[stage.key], cylinder, stage)


def _seat(state: JobState, cylinder: int, stage: Stage) -> SleeveFinding:
    seat, c = seat_of(state, cylinder), SleeveCall
    if seat is not None and seat.there_mm is not None and seat.cut.needs_shim:
        return SleeveFinding(c.SEAT_TOO_DEEP, cylinder, stage, -seat.cut.to_cut_mm)
    pressed = state.sleeving.after_of(cylinder) is not None
    to_cut = None if seat is None or seat.there_mm is None else seat.cut.to_cut_mm
    return SleeveFinding(c.IN_ON_NO_SEAT if pressed else c.CUT_SEAT, cylinder, stage, to_cut)


def _in(state: JobState, cylinder: int, stage: Stage) -> SleeveFinding:
    closing, redline, c = closing_of(state, cylinder), redline_of(state, cylinder), SleeveCall
    if closing is not None and closing.off:
        return SleeveFinding(c.CLOSED_ODDLY, cylinder, stage)
    if redline.size_mm is None:
        return SleeveFinding(c.NO_REDLINE, cylinder, stage)
    plan = plan_of(state, cylinder)
    if plan.done is not None:
        return SleeveFinding(c.BORED, cylinder, stage)
    if plan.passes_mm and plan.target_mm is not None:
        return SleeveFinding(c.BAR_NEXT, cylinder, stage, plan.target_mm)
    return SleeveFinding(c.HONE_NEXT, cylinder, stage, redline.size_mm - (start_of(state, cylinder) or redline.size_mm))
