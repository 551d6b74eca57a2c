"""Putting a sleeve in: gaps, temperatures and the seconds they leave; it never promises more than physics does."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from redline_bore.core.assembly import COLDEST_C, LONGEST_S, Cooling, DropIn, Growth, seconds_of_grace
from redline_bore.core.errors import InputError

IRON, ALUMINIUM = Growth(11.0, 9.0), Growth(21.5, 21.5)
COOL = Cooling(wall_mm=3.5, air_w=15.0, air_conducts=0.028, store=3.4e6, block_s=3600.0)


def drop(interference=0.08, parent=ALUMINIUM):
    return DropIn(95.5, interference, IRON, parent)


def test_iron_shrinks_by_nine_millionths_a_degree_on_the_way_to_nitrogen():
    assert IRON.share(-196.0) == pytest.approx(-216.0 * 9.0e-6)
    assert IRON.share(20.0) == 0.0 and IRON.share(120.0) == pytest.approx(100.0 * 11.0e-6)
    with pytest.raises(InputError, match="liquid nitrogen"):
        IRON.share(-230.0)


@given(st.floats(-196.0, 20.0), st.floats(0.0, 0.1), st.floats(0.02, 0.12))
def test_the_block_asked_for_gives_just_the_gap(sleeve_c, gap, interference):
    d = drop(interference)
    assert d.gap_mm(sleeve_c, d.parent_c_for(gap, sleeve_c)) == pytest.approx(gap, abs=1e-6)


@given(st.floats(20.0, 160.0), st.floats(0.0, 0.1))
def test_the_cold_asked_for_gives_just_the_gap_or_is_out_of_reach(parent_c, gap):
    d = drop()
    cold = d.sleeve_c_for(gap, parent_c)
    if cold is None:
        assert d.gap_mm(COLDEST_C, parent_c) < gap
    else:
        assert d.gap_mm(cold, parent_c) == pytest.approx(gap, abs=1e-6)


def test_a_block_that_does_not_grow_is_told():
    with pytest.raises(InputError, match="not known"):
        DropIn(95.5, 0.08, IRON, Growth(0.0, 0.0)).parent_c_for(0.05, 20.0)


def grace(sleeve_c, parent_c, carry=6.0, interference=0.08):
    return seconds_of_grace(drop(interference), COOL, sleeve_c, parent_c, carry)


def test_without_a_gap_there_is_no_grace():
    assert grace(20.0, 20.0) == 0.0


def test_colder_sleeve_and_hotter_block_leave_more_time():
    times = [grace(c, 90.0) for c in (20.0, -20.0, -75.0, -196.0)]
    assert times == sorted(times) and times[0] < times[-1]
    assert grace(20.0, 88.0) < grace(20.0, 95.0)


def test_the_bore_warms_a_sleeve_much_faster_than_the_air():
    waiting, inside = grace(-75.0, 80.0, carry=60.0), grace(-75.0, 80.0, carry=0.0)
    assert inside < 0.5 * waiting


def test_a_block_that_stays_wide_enough_gives_all_the_time_that_is_counted():
    assert grace(20.0, 150.0) == LONGEST_S == 120.0


@given(st.floats(0.02, 0.12), st.floats(0.001, 0.02))
def test_a_tighter_sleeve_never_has_more_time(interference, more):
    assert grace(-75.0, 90.0, interference=interference + more) <= grace(-75.0, 90.0, interference=interference) + 0.2


def test_a_wall_of_nothing_is_refused():
    with pytest.raises(InputError, match="wall"):
        seconds_of_grace(drop(), Cooling(0.0, 15.0, 0.028, 3.4e6, 3600.0), -75.0, 90.0, 6.0)
