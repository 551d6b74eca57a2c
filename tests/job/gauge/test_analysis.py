"""Grouping, defects, twists and the condition that counts."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from redline_bore.core.block import WallKind
from redline_bore.core.cleanup_bound import Lacks
from redline_bore.core.gauging import Place
from redline_bore.job.call.asks import poorest
from redline_bore.job.call.walls import wall_bound, wall_limits
from redline_bore.job.gauge.analysis import (
    best_condition,
    colour_scale,
    levels_of,
    places_read,
    rules_of,
    shape_of,
)
from redline_bore.job.kinds.book_in import PracticeChosen
from redline_bore.job.kinds.defects import DefectMarked, WallRead
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.gauge import ReadingBooked
from redline_bore.job.state.cached import once_a_state
from redline_bore.store.shop import shipped_figures
from tests.job.ledger.test_fold import OPENING, ledger

DEPTHS, CLOCKS = (12.0, 30.0, 60.0, 90.0, 140.0), (0.0, 45.0, 90.0, 135.0)


def book(size_at, plate_on=False, cylinder=1):
    return [
        ReadingBooked(cylinder=cylinder, depth_mm=d, clock_deg=c, diameter_mm=size_at(d, c), plate_on=plate_on)
        for d in DEPTHS
        for c in CLOCKS
    ]


def state_with(*entries, **book_in):
    opening = replace(OPENING, book_in=replace(OPENING.book_in, **book_in))
    return fold((replace(ledger()[0], entry=opening), *ledger(*entries)[1:]), shipped_figures())


def oval(axis_of, amount=0.02):
    return lambda d, c: 92.0 + amount * np.cos(2 * np.deg2rad(c - axis_of(d)))


def test_repeats_at_a_place_are_one_spot_with_a_spread():
    again = [replace(book(lambda d, c: 92.1)[0], diameter_mm=s) for s in (92.100, 92.104, 92.102)]
    spot = levels_of(state_with(*again).gauging.readings_of(1).levels)[0].spots[0]
    assert (spot.count, spot.size_mm, spot.spread_mm) == (3, pytest.approx(92.102), pytest.approx(0.004))


def test_depths_half_a_millimetre_apart_are_one_level():
    near = [replace(r, depth_mm=r.depth_mm + 0.3 * (r.clock_deg > 50)) for r in book(lambda d, c: 92.1)]
    assert len(levels_of(state_with(*near).gauging.readings_of(1).levels)) == len(DEPTHS)


def test_both_ends_of_a_chord_are_one_spot():
    one = book(lambda d, c: 92.1)[0]
    state = state_with(one, replace(one, clock_deg=180.0), replace(one, clock_deg=360.0))
    assert [s.count for s in levels_of(state.gauging.readings_of(1).levels)[0].spots] == [3]


def test_the_plate_on_counts_once_it_is_read_as_fully():
    off, on = book(lambda d, c: 92.1), book(lambda d, c: 92.2, plate_on=True)
    assert best_condition(state_with(*off, *on[:5]), 1) is False
    assert best_condition(state_with(*off, *on), 1) is True
    assert shape_of(state_with(*off, *on), 1).mean_mm == pytest.approx(92.2)
    assert shape_of(state_with(*off, *on), 1, False).mean_mm == pytest.approx(92.1)


def test_a_turning_oval_is_a_twist_and_a_steady_one_is_not():
    assert shape_of(state_with(*book(oval(lambda d: 90.0 if d < 50 else 10.0))), 1).twisted
    assert not shape_of(state_with(*book(oval(lambda d: 90.0))), 1).twisted
    assert not shape_of(state_with(*book(oval(lambda d: 90.0 if d < 50 else 10.0, 0.001))), 1).twisted  # within limits


def defect(**where):
    return DefectMarked(
        **{
            "cylinder": 1,
            "what": "pit",
            "top_mm": 55.0,
            "bottom_mm": 65.0,
            "clock_deg": 270.0,
            "width_deg": 20.0,
            "deep_low_mm": 0.1,
            "deep_high_mm": 0.1,
        }
        | where
    )


@pytest.mark.parametrize(
    "where", [{}, {"clock_deg": 90.0}, {"top_mm": 70.0, "bottom_mm": 72.0}, {"clock_deg": 60.0, "width_deg": 4.0}]
)
def test_a_defect_counts_where_it_lies_or_at_the_nearest_place(where):
    plain = shape_of(state_with(*book(lambda d, c: 92.02)), 1)
    hurt = shape_of(state_with(*book(lambda d, c: 92.02), defect(**where)), 1)
    assert (
        hurt.cleanup.high_mm == pytest.approx(plain.cleanup.high_mm + 2 * (0.1 + 0.012))
        and hurt.deciding_defect.what == "pit"
    )
    assert hurt.cleanup.low_mm == pytest.approx(92.02 + 2 * (0.1 - 0.012) - 0.004)


def test_the_deeper_of_two_defects_decides():
    hurt = shape_of(
        state_with(*book(lambda d, c: 92.02), defect(), defect(what="score", deep_low_mm=0.2, deep_high_mm=0.3)), 1
    )
    assert hurt.deciding_defect.what == "score" and not hurt.deciding_defect.measured


def test_nothing_read_is_nothing_known():
    shape = shape_of(state_with(), 1)
    assert (shape.levels, shape.axial, shape.wear, shape.cleanup, shape.mean_mm, shape.largest) == (
        (),
        None,
        None,
        None,
        None,
        None,
    )
    assert "two levels" in shape.why_not("axial") and "bottom" in shape.why_not("cleanup") and shape.why_not("x") == ""


def test_rules_follow_the_duty_and_the_practice():
    assert rules_of(state_with()).limits.taper_mm == 0.013
    assert rules_of(state_with(duty="performance")).limits.taper_mm == 0.008
    all_one_side = PracticeChosen(topic="wear_side", name="all on one side")
    state = state_with(*book(lambda d, c: 92.0 + 0.05 * (d < 100)), all_one_side)
    assert shape_of(state, 1).cleanup.usual_mm == pytest.approx(92.0 + 2 * (0.05 + 0.013))


def test_the_level_with_fewest_angles_is_named():
    two = [r for r in book(lambda d, c: 92.02) if r.clock_deg in (0.0, 90.0) or r.depth_mm > 100]
    assert poorest(shape_of(state_with(*two), 1)) == 12.0
    assert poorest(shape_of(state_with(*book(lambda d, c: 92.02)), 1)) is None


def test_a_receiver_groove_is_meant_and_a_crack_is_no_metal_to_cut():
    plain = shape_of(state_with(*book(lambda d, c: 92.02)), 1)
    for what in ("receiver", "crack", "weld"):
        marked = shape_of(
            state_with(*book(lambda d, c: 92.02), defect(what=what, deep_low_mm=1.0, deep_high_mm=1.0)), 1
        )
        assert marked.cleanup == plain.cleanup and marked.deciding_defect is None


def test_a_mark_that_catches_hard_has_no_upper_end_and_a_felt_one_lies_wide():
    hard = shape_of(
        state_with(*book(lambda d, c: 92.02), defect(feel="catches_hard", deep_low_mm=0.05, deep_high_mm=0.15)), 1
    )
    assert Lacks.MARK_DEPTH in hard.cleanup.lacks and not hard.cleanup.is_bound
    felt = shape_of(
        state_with(*book(lambda d, c: 92.02), defect(feel="catches", deep_low_mm=0.016, deep_high_mm=0.05)), 1
    )
    plain = shape_of(state_with(*book(lambda d, c: 92.02)), 1)
    assert felt.cleanup.high_mm == pytest.approx(plain.cleanup.high_mm + 2 * 1.6 * 0.05)
    assert felt.cleanup.low_mm == pytest.approx(max(plain.cleanup.low_mm, 92.02 + 2 * 0.016 / 1.6 - 0.004))
    assert Lacks.MARK_CHORDS in felt.cleanup.lacks, "four angles are few beside a mark"


def test_places_off_the_plan_are_not_taken_for_places_of_the_plan():
    state = state_with(*book(lambda d, c: 92.1))
    plan = state.gauging.plan
    on = ReadingBooked(
        cylinder=1, depth_mm=plan.depths_mm[1], clock_deg=plan.clocks_deg[2] + 180.0, diameter_mm=92.1, plate_on=False
    )
    off = replace(on, depth_mm=plan.depths_mm[1] + 3.0)
    assert (
        places_read(state_with(on), 1, False) == {Place(1, 2)} and places_read(state_with(off), 1, False) == frozenset()
    )


def walls(thrust=4.8, other=4.8, front=4.4, back=4.4, depths=(40.0, 110.0), through="", times=1):
    return [
        WallRead(
            cylinder=1,
            clock_deg=c,
            depth_mm=d,
            wall_mm=w,
            zone="thrust" if c in (90.0, 270.0) else "elsewhere",
            through=through,
        )
        for _ in range(times)
        for d in depths
        for c, w in ((90.0, thrust), (270.0, other), (0.0, front), (180.0, back))
    ]


def round_hole(*entries, **book_in):
    return state_with(*book(lambda d, c: 92.0), *entries, **book_in)


def test_a_wall_needs_a_hole_and_four_sides_at_two_depths():
    assert wall_bound(state_with(*walls()), 1).sure_mm is None  # the hole is not gauged
    one = wall_bound(round_hole(walls()[0]), 1)
    assert one.sure_mm is None and one.most_mm == pytest.approx(92.0 + 2 * (4.8 + 0.10 - 3.8)) and len(one.to_read) == 7
    full = wall_bound(round_hole(*walls()), 1)
    assert full.complete and full.sure_mm == pytest.approx(92.0 + 2 * (4.6 - 0.1 * 1 - 3.8) + 0.0, abs=0.2)
    assert full.surely_stands(full.sure_mm) and not full.surely_stands(full.sure_mm + 1e-6)
    assert wall_bound(round_hole(*walls(depths=(40.0,))), 1).to_read[0].depth_mm == 112.0
    assert not wall_bound(round_hole(*walls(depths=(40.0, 45.0))), 1).complete, "two depths close together are one"


def test_an_even_wall_stands_by_its_limit_and_its_doubt():
    even = wall_bound(round_hole(*walls(4.8, 4.8, 4.8, 4.8)), 1)
    assert even.sure_mm == pytest.approx(92.0 + 2 * (4.8 - 0.10 - 3.8)) and even.most_mm == pytest.approx(
        92.0 + 2 * (4.8 + 0.10 - 3.8)
    )
    thrice = wall_bound(round_hole(*walls(4.8, 4.8, 4.8, 4.8, times=3)), 1)
    assert thrice.sure_mm == pytest.approx(92.0 + 2 * (4.8 - 0.085 - 3.8))
    worn = state_with(*book(lambda d, c: 92.0 + 0.1 * (d < 100)), *walls(4.8, 4.8, 4.8, 4.8))
    assert wall_bound(worn, 1).sure_mm == pytest.approx(92.08 + 2 * (4.8 - 0.10 - 0.05 - 3.8)), (
        "half the wear until it is swept"
    )


@pytest.mark.parametrize(
    "kind, material, through, limit",
    [
        (WallKind.CAST, "grey_iron", "", 3.8), (WallKind.CAST, "ductile_iron", "", 0.8 * 3.8), (WallKind.DRY_SLEEVE, "grey_iron", "liner", 1.6),
        (WallKind.DRY_SLEEVE, "iron_in_aluminium", "liner", 2.0), (WallKind.LINER, "iron_in_aluminium", "liner", 2.0), (WallKind.WET_SLEEVE, "grey_iron", "liner", 1.6),
        (WallKind.LINER, "iron_in_aluminium", "both", 3.5), (WallKind.DRY_SLEEVE, "grey_iron", "both", 3.1), (WallKind.PLATED, "aluminium_hyper", "", 3.8),
    ],
)  # fmt: skip
def test_limits_follow_what_the_wall_is_and_what_was_read(kind, material, through, limit):
    block = replace(OPENING.book_in.block, wall=kind, material=material)
    assert wall_limits(state_with(block=block), through)["thrust"] == pytest.approx(limit)
    found = wall_bound(round_hole(*walls(4.8, 4.8, 4.8, 4.8, through=through), block=block), 1)
    assert found.sure_mm == pytest.approx(92.0 + 2 * (4.8 - 0.10 - limit), abs=1e-6)


def test_a_liner_whose_reading_was_not_named_is_no_tick_and_no_scrap():
    block = replace(OPENING.book_in.block, wall=WallKind.LINER, material="iron_in_aluminium")
    found = wall_bound(round_hole(*walls(2.4, 2.4, 2.4, 2.4), block=block), 1)
    assert found.through_missing and not found.surely_stands(91.0) and not found.too_thin(92.0 + 2 * (2.4 - 2.0))


def test_one_colour_scale_for_all_cylinders():
    state = state_with(*book(lambda d, c: 92.05), *book(lambda d, c: 91.8, cylinder=2))
    assert colour_scale(state) == pytest.approx(0.2) and colour_scale(state_with()) == 0.01


@settings(max_examples=30)
@given(st.permutations(range(20)))
def test_the_order_of_booking_does_not_matter(order):
    rows = book(lambda d, c: 92.0 + 0.1 * np.exp(-d / 50) * (1 - np.cos(2 * np.deg2rad(c))))
    straight, mixed = shape_of(state_with(*rows), 1), shape_of(state_with(*(rows[i] for i in order)), 1)
    assert mixed.cleanup.high_mm == pytest.approx(straight.cleanup.high_mm) and mixed.axial == straight.axial


def test_answers_are_worked_out_once():
    state = state_with(*book(lambda d, c: 92.1))
    assert shape_of(state, 1) is shape_of(state, 1)
    calls = []

    @once_a_state
    def asked(state, more=0):
        calls.append(more)
        return 7 + more

    assert [asked(state) for _ in range(3)] == [7, 7, 7] and calls == [0]
    assert [asked(state, 1), asked(state, 1)] == [8, 8] and calls == [0, 1]
    assert asked(state_with()) == 7 and calls == [0, 1, 0]
