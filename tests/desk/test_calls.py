"""What is booked when a call is taken is what the card says: never a cut where it says to leave it."""

import pytest

from redline_bore.core.errors import InputError
from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.desk.calls import call_at, light_call
from redline_bore.job.book_in.draft import book_in_from_draft, empty_draft
from redline_bore.job.call.finding import CallVerdict, judge
from redline_bore.job.call.ladder import Fares
from redline_bore.job.call.option import MAY, NO, SURE, OptionKind
from redline_bore.job.call.options import options_of
from redline_bore.job.call.reason import Why
from redline_bore.job.call.stand_by import contradictions
from redline_bore.job.kinds.book_in import JobOpened
from redline_bore.job.kinds.call import ClearanceStated, DecisionTaken, PistonMeasured
from redline_bore.job.kinds.defects import DefectMarked, PressureTested
from redline_bore.job.kinds.entry import Record
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.gauge import ReadingBooked
from redline_bore.job.kinds.phrase import Where
from redline_bore.job.profiles.practice import shop_practices
from redline_bore.job.proposals import entries_from_typed
from redline_bore.job.route import stopped_by_crack
from redline_bore.job.state.calling import Apart
from redline_bore.job.words.call import say

SHOW = Show(Units.METRIC)


@pytest.fixture
def stands(shipped):
    """A block of two of 100 mm, as it stands after some entries."""
    draft = {
        "number": "1", "owner": "Tarn mill", "engine": "twin", "layout": "inline", "cylinders": "2", "bore_mm": "100", "stroke_mm": "90",
        "length_mm": "150",
    }  # fmt: skip
    book_in = book_in_from_draft(empty_draft(Units.METRIC, shipped) | draft)
    opened = JobOpened(
        number="1", units=Units.METRIC, book_in=book_in, figures=shipped.plain(), practices=shop_practices(shipped)
    )

    def stands(*entries):
        records = [
            Record(i, f"2026-11-29T10:00:{i % 60:02d}.000+00:00", "RM", e) for i, e in enumerate((opened, *entries), 1)
        ]
        return fold(records, shipped)

    return stands


def worn(state, by_mm):
    plan = state.gauging.plan
    return [
        ReadingBooked(
            cylinder=c, depth_mm=d, clock_deg=a, diameter_mm=100.0 + (by_mm if 10 < d < 120 else 0.0), plate_on=False
        )
        for c in state.cylinders
        for d in plan.depths_mm
        for a in plan.clocks_deg
    ]


def pistons(size_mm):
    return [PistonMeasured(cylinder=c, size_mm=size_mm, piston_c=20.0) for c in (1, 2)]


WINDOW = ClearanceStated(source="piston sheet", low_mm=0.040, high_mm=0.090)


@pytest.mark.parametrize("rung", [0.25, 0.5, 3.0])
def test_where_nothing_asks_for_boring_the_call_bores_nothing(stands, rung):
    state = stands(*worn(stands(), 0.02), *pistons(99.950), WINDOW)
    assert judge(state, rung).verdict is CallVerdict.LEAVE
    taken = call_at(state, 1, rung, (), SHOW)
    assert (taken.way, taken.oversize_mm, taken.apart) == ("rering", 0.0, ())
    assert "pistons there are" in taken.sentence and {b.verdict for b in taken.based_on} == {str(SURE)}
    assert not stands(*worn(stands(), 0.02), *pistons(99.950), WINDOW, taken).calling.decision.bores


def test_where_a_piston_is_still_to_be_measured_a_cut_is_still_a_cut(stands):
    state = stands(*worn(stands(), 0.02))
    assert judge(state, 0.5).verdict is CallVerdict.LEAVE_ONCE_MEASURED
    taken = call_at(state, 1, 0.5, (), SHOW)
    assert (taken.way, taken.oversize_mm) == ("bore", 0.5) and "First measure piston 1" in taken.sentence


def test_a_worn_block_is_bored_and_the_figures_are_of_the_cylinder_that_is_looked_at(stands):
    state = stands(*worn(stands(), 0.20))
    taken = call_at(state, 2, 0.5, (), SHOW)
    assert (taken.way, taken.oversize_mm) == ("bore", 0.5) and len(taken.based_on) == 2
    assert any(f.startswith("2 at +0.50: ") for f in taken.figures)


def test_what_cannot_be_taken_is_refused_with_the_reason(stands):
    with pytest.raises(InputError, match=r"No call can be taken at \+0.25\. .*will not clean up"):
        call_at(stands(*worn(stands(), 0.60)), 1, 0.25, (), SHOW)
    with pytest.raises(InputError, match="Not gauged yet"):
        call_at(stands(), 1, 0.25, (), SHOW)


@pytest.mark.parametrize("kind", list(OptionKind))
def test_only_what_cuts_nothing_and_may_do_is_taken_light(stands, kind):
    state = stands(*worn(stands(), 0.02), *pistons(99.950), WINDOW)
    for option in (o for o in options_of(state) if o.kind is kind):
        if option.kind in (OptionKind.DEGLAZE, OptionKind.RERING, OptionKind.LEAVE) and option.standing in (SURE, MAY):
            taken = light_call(state, option, SHOW)
            assert taken.way == option.key and taken.oversize_mm == 0.0
        else:
            with pytest.raises(InputError):
                light_call(state, option, SHOW)


def cracked(what="crack"):
    return DefectMarked(
        cylinder=1, what=what, top_mm=30.0, bottom_mm=50.0, clock_deg=10.0, width_deg=5.0, deep_low_mm=0.0, deep_high_mm=0.0
    )  # fmt: skip


TIGHT, LEAKS = (PressureTested(cylinder=1, found=found, how="4 bar") for found in ("tight", "leaks"))
SLEEVED = (Apart(cylinder=1, way="sleeve"),)


@pytest.mark.parametrize("what", ["crack", "weld"])
@pytest.mark.parametrize("by_mm", [0.02, 0.20])
def test_no_metal_is_taken_of_a_cracked_or_welded_cylinder_that_nobody_pressure_tested(stands, what, by_mm):
    state = stands(*worn(stands(), by_mm), *pistons(99.950), WINDOW, cracked(what))
    for rung in (0.25, 0.5, 1.5):
        found = judge(state, rung)
        assert (found.verdict, found.cylinders, found.sure, found.can_be_taken) == (
            CallVerdict.CRACKED,
            (1,),
            False,
            False,
        )
        assert [f.fares for f in found.fates][0] is Fares.CRACKED
        with pytest.raises(InputError, match="A crack or a weld in 1: pressure-test it before any metal is taken"):
            call_at(state, 1, rung, (), SHOW)
    for option in options_of(state):
        bores = option.oversize_mm is not None and not option.apart
        assert not bores or (option.standing is NO and option.reasons[0].why is Why.CRACKED)


def test_a_test_that_was_tight_lets_it_be_bored_and_one_that_leaked_does_not(stands):
    before = worn(stands(), 0.20)
    assert judge(stands(*before, cracked(), TIGHT), 0.5).verdict is judge(stands(*before), 0.5).verdict
    leaks = judge(stands(*before, cracked(), LEAKS), 0.5)
    assert leaks.verdict is CallVerdict.CRACKED and say(leaks, SHOW).sentence.startswith("Cylinder 1 leaked")
    assert judge(stands(*before, cracked(), LEAKS, TIGHT), 0.5).verdict is not CallVerdict.CRACKED, "tested again"
    again = judge(stands(*before, cracked(), TIGHT, cracked("weld")), 0.5)
    assert again.verdict is CallVerdict.CRACKED, "a weld that was marked since was not tested"


def test_a_sleeve_goes_into_what_leaks_but_first_it_is_tested(stands):
    before = worn(stands(), 0.60)
    untested = judge(stands(*before, cracked()), 1.5, SLEEVED)
    assert untested.untested == (1,) and not untested.sure
    assert "first pressure-test 1" in say(untested, SHOW).sentence or untested.verdict is not CallVerdict.BORE
    for test in (TIGHT, LEAKS):
        assert judge(stands(*before, cracked(), test), 1.5, SLEEVED).untested == ()


def test_a_crack_found_later_speaks_against_the_call_that_was_taken(stands):
    before = worn(stands(), 0.20)
    taken = call_at(stands(*before), 1, 0.5, (), SHOW)
    assert contradictions(stands(*before, taken)) == ()
    (against,) = contradictions(stands(*before, taken, cracked()))
    assert against.cylinder == 1 and against.fate.fares is Fares.CRACKED


def test_only_what_is_cracked_or_welded_is_pressure_tested(stands):
    where = Where(2, Place(0, 0), Units.METRIC)
    with pytest.raises(InputError, match="No crack and no weld"):
        entries_from_typed("call", "tested tight 4 bar", stands(cracked()), where)
    (entry,) = entries_from_typed("gauge", "tested leaks", stands(cracked()), Where(1, Place(0, 0), Units.METRIC))
    assert entry == PressureTested(cylinder=1, found="leaks", how="")


@pytest.mark.parametrize("test, stops", [(None, True), (LEAKS, True), (TIGHT, False)])
@pytest.mark.parametrize("by_sleeve", [False, True])
def test_no_metal_of_a_crack_unless_it_was_tight_or_a_sleeve_goes_over_it(stands, test, stops, by_sleeve):
    before = [*worn(stands(), 0.20), cracked(), *([] if test is None else [test])]
    if by_sleeve:
        before.append(DecisionTaken(oversize_mm=0.5, sentence="x", apart=SLEEVED))
    state = stands(*before)
    assert stopped_by_crack(state, 1) is (stops and not by_sleeve) and not stopped_by_crack(state, 2)


def test_a_tight_crack_may_stay_where_nothing_is_cut(stands):
    before = [*worn(stands(), 0.01), *pistons(99.950), WINDOW, cracked()]
    standing = {
        test: next(o for o in options_of(stands(*before, *test)) if o.kind is OptionKind.DEGLAZE).standing
        for test in ((), (TIGHT,), (LEAKS,))
    }
    assert standing[()] is standing[(LEAKS,)] is NO and standing[(TIGHT,)] in (SURE, MAY)
