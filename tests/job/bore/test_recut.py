"""A hole that came small, or that a larger call was taken for since, is still the bar's: not the hone's, and nothing is stamped over it."""

from dataclasses import replace

import pytest

from redline_bore.job.bore.finding import BoreCall, judge
from redline_bore.job.bore.plan import all_bored, left_for_hone, plan_of, still_to_bore
from redline_bore.job.kinds.bore import BarSet, HoleBored, HoleLooked
from redline_bore.job.kinds.call import DecisionTaken, PistonMeasured
from redline_bore.job.kinds.hone import CheckLogged
from tests.job.benches import after

BAR = BarSet(insert="TPG 321", nose_radius_mm=0.4, rake="positive", feed_mm=0.1, rpm=900.0)


@pytest.fixture
def called(ledger_of, shipped):
    """Job 2041 called at 0.50 with its pistons, as entries, and the size each hole is bored to."""
    ledger = ledger_of("2041")
    entries = [DecisionTaken(oversize_mm=0.5, sentence="Bore all five 0.50 over."), BAR]
    entries += [PistonMeasured(cylinder=c, size_mm=105.44, piston_c=20.0) for c in range(1, 6)]
    state = after(ledger, shipped, *entries)
    return ledger, entries, plan_of(state, 1).target_mm


def bored(size, cylinder=1):
    return HoleBored(cylinder=cylinder, set_mm=size, sizes_mm=(size,) * 3, across_mm=(size,) * 3)


@pytest.mark.parametrize("short, again", [(0.0, False), (0.02, False), (0.06, False), (0.2, True), (0.5, True)])
def test_a_hole_that_came_small_stays_with_the_bar(called, shipped, short, again):
    ledger, entries, size = called
    state = after(ledger, shipped, *entries, *(bored(size - short * (c == 1), c) for c in range(1, 6)))
    assert not all_bored(state)  # 1, 4 and 5 may keep a shadow: a look comes before the hone
    looks = [HoleLooked(cylinder=c, found="clean") for c in range(1, 6)]
    state = after(ledger, shipped, *entries, *(bored(size - short * (c == 1), c) for c in range(1, 6)), *looks)
    ahead = [n for bank in still_to_bore(state) for n in bank]
    assert (judge(state, 1).call is BoreCall.RECUT) is again
    assert ahead == ([1] if again else []) and all_bored(state) is not again


def test_a_larger_call_puts_the_holes_that_were_bored_back_to_the_bar(called, shipped):
    ledger, entries, size = called
    larger = [*entries, bored(size), replace(entries[0], oversize_mm=0.75, sentence="Bore all five 0.75 over.")]
    larger += [PistonMeasured(cylinder=c, size_mm=105.69, piston_c=20.0) for c in range(1, 6)]
    state = after(ledger, shipped, *larger)
    assert judge(state, 1).call is BoreCall.RECUT and 1 in [n for bank in still_to_bore(state) for n in bank]


def test_a_hole_that_the_hone_has_begun_is_not_taken_back(called, shipped):
    ledger, entries, size = called
    small = size - 0.3
    begun = CheckLogged(cylinder=1, strokes=0.0, sizes_mm=(small,) * 3, across_mm=(small,) * 3)
    state = after(ledger, shipped, *entries, bored(small), begun)
    assert 1 not in [n for bank in still_to_bore(state) for n in bank]
    assert left_for_hone(state, 1)[1] < 0.3
