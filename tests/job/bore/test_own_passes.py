"""A shop's own stock for the hone and its own passes; a first hole by its speed; minutes side by side before anything is cut."""

import pytest

from redline_bore.core.errors import InputError
from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.core.tool_setting import BoredHole, Correction, learned
from redline_bore.job.bore.plan import cuts_beside, left_for_hone, passes_for, plan_of, setting_for
from redline_bore.job.kinds.bore import AllowanceStated, BarSet, MachineStated, PassesStated
from redline_bore.job.kinds.call import DecisionTaken, PistonMeasured
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.kind import wrongs
from redline_bore.job.kinds.phrase import Where
from redline_bore.job.words import bore as words
from tests.job.benches import after, longer, one_typed

MM = Show(Units.METRIC)


def bar(rpm=600.0):
    return BarSet(insert="TPG 321", nose_radius_mm=0.4, rake="positive", feed_mm=0.1, rpm=rpm)


@pytest.fixture
def called(ledger_of):
    """2041 before its bar turns, called 0.50 over, pistons measured."""
    pistons = [PistonMeasured(cylinder=c, size_mm=105.42, piston_c=20.0) for c in range(1, 6)]
    return longer(ledger_of("2041"), DecisionTaken(oversize_mm=0.5, sentence="x"), *pistons)


@pytest.mark.parametrize("own, stock, passes", [
    (None, 0.40, (0.20,)), ((0.15, 0.05), 0.50, (0.15, 0.05, 0.05)), ((0.15, 0.10), 0.50, (0.15, 0.10)), ((0.15, 0.20), 0.50, (0.15, 0.10)), ((0.30,), 0.50, (0.25,)),
])  # fmt: skip
def test_own_passes_take_the_stock_and_no_more(called, shipped, own, stock, passes):
    more = [] if own is None else [PassesStated(cylinder=1, passes_mm=own)]
    found = passes_for(after(called, shipped, *more), 1, stock)
    assert found == pytest.approx(passes) and sum(found) == pytest.approx(stock / 2.0)
    assert passes_for(after(called, shipped, *more), 2, stock) == pytest.approx((stock / 2.0,))


def test_own_stock_for_the_hone_stands_in_the_practice_s_place(called, shipped):
    before, stated = fold(called, shipped), after(called, shipped, AllowanceStated(low_mm=0.02, high_mm=0.04))
    assert left_for_hone(stated, 1) == (0.02, 0.04) != left_for_hone(before, 1)
    target = plan_of(stated, 1).target_mm
    assert target == pytest.approx(plan_of(stated, 1).redline_mm - 0.03)
    assert any(w.source == "as stated on this job" for w in words.advise(stated, 1, MM).working)


@pytest.mark.parametrize("speed, first", [(1.0, 0.010), (2.0, 0.020), (0.5, 0.005)])
def test_a_first_hole_grows_with_the_speed(speed, first):
    taught = learned([BoredHole(80.0, 80.010 * 1.0, True)], Correction(0.0, 0.010))
    assert 80.0 - taught.setting_mm(80.0, True, speed) == pytest.approx(first)
    fast = learned([BoredHole(80.0, 80.020, True, 2.0)], Correction(0.0, 0.010))
    assert fast.first_mm == pytest.approx(0.010)


def test_the_setting_of_a_first_hole_knows_the_speed(called, shipped):
    slow, fast = (after(called, shipped, bar(rpm)) for rpm in (300.0, 1200.0))
    assert setting_for(slow, 78.4, "2026-11-29") - setting_for(fast, 78.4, "2026-11-29") == pytest.approx(
        0.013 * 1.5, abs=0.006
    )


def test_minutes_stand_side_by_side_before_anything_is_cut(called, shipped):
    machine = MachineStated(name="north", thick_mm=60.0, reach_mm=250.0, speeds_rpm=(600.0, 780.0, 850.0, 1000.0))
    state = after(called, shipped, machine, bar(850.0))
    rows = cuts_beside(state)
    assert (
        rows[0].rpm == 850.0
        and rows[0].insert
        and {r.what for r in rows if not r.insert} == {"large positive", "large negative"}
    )
    other = next(r for r in rows[1:] if r.insert)
    assert other.minutes * other.rpm == pytest.approx(rows[0].minutes * 850.0) and other.marks_mm == rows[0].marks_mm
    told = [f.label for f in words.advise(state, 1, MM).figures]
    assert f"at {other.rpm:g} turns" in told and any(t.startswith("large positive") for t in told)
    assert cuts_beside(fold(called, shipped)) == ()


@pytest.mark.parametrize("text, why", [("leave 2", "least and its most"), ("passes", "a side")])
def test_what_is_no_stock_and_no_pass_is_refused_with_an_example(called, shipped, text, why):
    with pytest.raises(InputError, match=f"{why}.*write it like: {text.split()[0]} 0.0"):
        one_typed("bore", text, fold(called, shipped), Where(1, Place(0, 0), Units.INCH))


def test_a_figure_that_cannot_be_is_told_in_the_units_of_the_job(called, shipped):
    deep = PassesStated(cylinder=1, passes_mm=(127.0,))
    assert wrongs(deep, None, Show(Units.INCH))[0].reason.startswith("5.0000 in is no pass of a bar")
    assert wrongs(AllowanceStated(low_mm=0.05, high_mm=0.02), None)[0].reason == "under its least"
