"""Every finding there is can be said, in both units: no member of any of them is left without words."""

import pytest

from redline_bore.core.cutting import ChatterBy
from redline_bore.core.inserts import HowFar, InsertUse, SuitsWhy
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.bore.tool_lessons import Diagnosis, HoleFault, ProofWant
from redline_bore.job.call.asks import Ask, AskFor
from redline_bore.job.call.ladder import Fares, OutOfLimits
from redline_bore.job.call.option import NO, Option, OptionKind
from redline_bore.job.call.pistons import AssignmentLacks
from redline_bore.job.call.reason import Measure, Reason, ToMeasure, Why
from redline_bore.job.gauge.doubtful import DoubtOf, TypedDoubt
from redline_bore.job.gauge.second_opinion import Assumed, OursFrom, PlateFrom, Settles
from redline_bore.job.gauge.side_by_side import Measure as OddMeasure
from redline_bore.job.gauge.side_by_side import OddBy
from redline_bore.job.hone.model import WallFrom
from redline_bore.job.hone.set_up import SetUpReason, SetUpWhy
from redline_bore.job.hone.steps import StageCall, StageStands, StageWhy
from redline_bore.job.hone.track import ToldBy
from redline_bore.job.hone.ways_out import Out, WayOut
from redline_bore.job.missing import Lack, Missing
from redline_bore.job.sleeve.fit import Holder
from redline_bore.job.sleeve.ways import SleeveDoing
from redline_bore.job.sleeve.why import SleeveMeasure, SleeveNeed, SleeveReason, SleeveWhy
from redline_bore.job.state.calling import Apart
from redline_bore.job.words import (
    fares,
    hone,
    hone_pages,
    inserts,
    pistons,
    second_opinion,
    side_by_side,
    sleeve_ways,
    tool_lessons,
    ways_out,
)
from redline_bore.job.words.doubtful import say_doubt
from redline_bore.job.words.missing import say_missing
from redline_bore.job.words.options import title_of, told_of
from redline_bore.job.words.reasons import say_need, say_reason
from redline_bore.job.words.set_up import say_set_up
from redline_bore.job.words.stages import STAGE_MARKS, say_stage

SHOWS = (Show(Units.METRIC), Show(Units.INCH))
MM = (0.031, 0.012, 0.05, 0.06, 0.07)


def option(kind, **changes):
    apart = {
        OptionKind.SLEEVE_ONE: (Apart(cylinder=2, way="sleeve"),),
        OptionKind.REPAIR_ONE: (Apart(cylinder=2, way="sleeve"),),
        OptionKind.OWN_SIZE: (Apart(cylinder=2, way="own", oversize_mm=0.75),),
    }.get(kind, ())
    told = {"oversize_mm": 0.5, "reasons": (Reason(Why.TOO_THIN, (2,)),), "needs": (ToMeasure(Measure.READ_WALL, 2),)}
    told |= changes
    return Option(
        kind, kind, NO, told["oversize_mm"], apart, told["reasons"], told["needs"], (0.4,) * 3, 2, 3, 0, 60.0,
        by_hone=told.get("by_hone", False), pistons_here=told.get("pistons_here", False),
    )  # fmt: skip


SAID = {
    **{w: lambda show, w=w: say_reason(Reason(w, (1, 4), MM, (30.0, 40.0), OutOfLimits.WORN, ("a", "b")), show) for w in Why},
    **{o: lambda show, o=o: say_reason(Reason(Why.OUT_OF_LIMITS, (3,), limit=o), show) for o in OutOfLimits},
    **{m: lambda show, m=m: say_need(ToMeasure(m, 3, Ask(AskFor.GAUGE, 3) if m is Measure.ASKED else None, "pit"), show) for m in Measure},
    **{k: lambda show, k=k: title_of(option(k), show) for k in OptionKind},
    **{w: lambda show, w=w: sleeve_ways.say_why(SleeveReason(w, MM, (40.0, 60.0, 50.0), 0.2, Missing(Lack.CALL)), show) for w in SleeveWhy},
    **{m: lambda show, m=m: sleeve_ways.say_need(SleeveNeed(m, Missing(Lack.CALL))) for m in SleeveMeasure},
    **{w: lambda show, w=w: say_missing(Missing(w, 3, (True, False))) for w in Lack},
    **{w: lambda show, w=w: say_set_up(SetUpReason(w, MM, (18.0, 30.0, 45.0), (60.0, 20.0, 30.0), 0.8, told="so"), show) for w in SetUpWhy},
    **{w: lambda show, w=w: say_stage(StageCall(StageStands.LOOK, w, (6.0, 9.0)), show) for w in StageWhy},
    **{o: lambda show, o=o: ways_out.say_out(WayOut(o, MM, 2, (1, 3)), show) for o in Out},
    **{d: lambda show, d=d: say_doubt(TypedDoubt(d, MM, 3, 45.0, 30.0), show) for d in DoubtOf},
}  # fmt: skip
TABLES = (
    (second_opinion.OURS, OursFrom), (second_opinion.PLATE, PlateFrom), (second_opinion.ASSUMED, Assumed), (second_opinion.SETTLES, Settles),
    (sleeve_ways.HOLDERS, Holder), (sleeve_ways.TITLES, SleeveDoing), (tool_lessons.DIAGNOSES, Diagnosis), (tool_lessons.HOLE_FAULTS, HoleFault),
    (tool_lessons._WANTS, ProofWant), (hone.TOLD_BY, ToldBy), (hone_pages.WALL_FROM, WallFrom), (STAGE_MARKS, StageStands),
    (ways_out.TITLES, Out), (pistons.ASSIGNMENT, AssignmentLacks), (fares.FARES, Fares), (inserts.USES, InsertUse), (inserts.HOW_FAR, HowFar),
    (inserts.WHY, SuitsWhy), (inserts.CHATTER, ChatterBy), (side_by_side.ODD, OddBy), (side_by_side.MEASURES, OddMeasure),
)  # fmt: skip


@pytest.mark.parametrize("member", SAID, ids=str)
def test_it_is_said_in_both_units_and_nothing_of_it_stays_unfilled(member):
    for show in SHOWS:
        text = SAID[member](show)
        assert text and "{" not in text and "None" not in text and "  " not in text


@pytest.mark.parametrize("words, members", TABLES)
def test_every_member_has_its_own_words(words, members):
    assert set(words) == set(members)


def test_no_two_reasons_are_said_alike():
    for enum in (Why, SleeveWhy, Lack, SetUpWhy, StageWhy, DoubtOf):
        assert len({SAID[m](SHOWS[0]) for m in enum}) == len(list(enum))


@pytest.mark.parametrize(
    "kind, changes, metric, inch",
    [
        (OptionKind.RUNG, {}, "Bore all three 0.50 over", "Bore all three 0.020 over"),
        (OptionKind.HONE_OUT, {"oversize_mm": 0.0}, "Hone all three to nominal", "Hone all three to nominal"),
        (OptionKind.HONE_OUT, {"pistons_here": True}, "Hone all three to the pistons there are", "Hone all three to the pistons there are"),
        (OptionKind.HONE_OUT, {}, "Hone all three 0.50 over", "Hone all three 0.020 over"),
        (OptionKind.CUSTOM, {"by_hone": True}, "Hone to +0.500, own pistons", "Hone to +0.0197, own pistons"),
        (OptionKind.CUSTOM, {}, "Bore and hone to +0.500, own pistons", "Bore and hone to +0.0197, own pistons"),
        (OptionKind.SLEEVE_ONE, {}, "Sleeve 2, bore the rest 0.50 over", "Sleeve 2, bore the rest 0.020 over"),
        (OptionKind.OWN_SIZE, {}, "2 to +0.75, the rest 0.50 over", "2 to +0.030, the rest 0.020 over"),
        (OptionKind.SLEEVE_ALL, {"oversize_mm": 0.0}, "Sleeve all three, back to nominal", "Sleeve all three, back to nominal"),
    ],
)  # fmt: skip
def test_a_way_is_called_in_the_units_it_is_looked_at_in(kind, changes, metric, inch):
    assert [title_of(option(kind, **changes), s) for s in SHOWS] == [metric, inch]


def test_a_need_that_is_asked_twice_is_said_once():
    twice = option(OptionKind.RUNG, needs=(ToMeasure(Measure.READ_WALL, 2),) * 2)
    told = told_of(twice, SHOWS[0])
    assert told.needs == ("read the wall of cylinder 2",) and told.name == "bore all three 0.50 over"
