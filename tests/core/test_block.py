import math
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from redline_bore.core.block import (
    BlockSpec,
    Bottom,
    Layout,
    bore_positions,
    checked,
    fastener_positions,
    faults_of,
    ring_travel,
    room_below,
)
from redline_bore.core.errors import FaultyInput
from redline_bore.core.gauging import LevelPlan, Place, checked_plan, next_place, plan_of
from redline_bore.core.plate import tightening_order


def block(layout=Layout.INLINE, cylinders=5, **more):
    return BlockSpec(layout, cylinders, **{"bore_mm": 105.0, "stroke_mm": 125.0, "length_mm": 212.0, **more})


@pytest.mark.parametrize(
    "layout, cylinders, banks", [(Layout.SINGLE, 1, 1), (Layout.INLINE, 5, 1), (Layout.VEE, 8, 2), (Layout.FLAT, 2, 2)]
)
def test_layouts(layout, cylinders, banks):
    spec = block(layout, cylinders, pitch_mm=128.0)
    bores, bolts = bore_positions(spec), fastener_positions(spec)
    assert [b.number for b in bores] == list(range(1, cylinders + 1))
    assert len({b.bank for b in bores}) == banks
    assert len(bolts) == 2 * (cylinders + banks)
    reach = min(
        ((b.along_mm - f.along_mm) ** 2 + (b.across_mm - f.across_mm) ** 2) ** 0.5
        for b in bores
        for f in bolts
        if b.bank == f.bank
    )
    assert reach > 105.0 / 2  # no fastener inside a bore


@pytest.mark.parametrize(
    "spec, field",
    [
        (block(Layout.VEE, 5), "cylinders"),
        (block(Layout.SINGLE, 2), "cylinders"),
        (block(cylinders=1), "cylinders"),
        (block(cylinders=40), "cylinders"),
        (block(bore_mm=0.0), "bore_mm"),
        (block(stroke_mm=230.0), "stroke_mm"),
        (block(material="cheese"), "material"),
        (block(pitch_mm=90.0), "pitch_mm"),
        (block(band_mm=400.0), "band_mm"),
        (block(room_below_mm=-1.0), "room_below_mm"),
    ],
)
def test_faults_name_the_field(spec, field):
    assert field in {fault.path for fault in faults_of(spec)}
    with pytest.raises(FaultyInput):
        checked(spec)


def test_all_faults_are_told_at_once():
    with pytest.raises(FaultyInput) as caught:
        checked(block(Layout.VEE, 5, bore_mm=-1.0, material="cheese"))
    assert {f.path for f in caught.value.faults} >= {"cylinders", "bore_mm", "material"}


def test_ring_travel_says_whether_it_was_stated():
    assert not ring_travel(block(), 16.0, 12.0).stated
    known = ring_travel(block(ring_top_mm=18.0, ring_pack_mm=14.0), 16.0, 12.0)
    for top, pack in ((18.0, None), (None, 14.0)):
        half = ring_travel(block(ring_top_mm=top, ring_pack_mm=pack), 16.0, 12.0)
        assert (half.top_stated, half.pack_stated, half.stated) == (top is not None, pack is not None, False)
    assert known.stated and (known.top_mm, known.bottom_mm) == (18.0, 157.0)


def test_room_below_unknown_is_not_nought():
    assert room_below(block()) is None
    assert room_below(block(bottom=Bottom.BLIND)) == 0.0
    assert room_below(block(bottom=Bottom.BLIND, room_below_mm=1.5)) == 1.5


@given(st.floats(40, 150), st.floats(1.4, 2.4), st.floats(0.5, 0.8), st.sampled_from([(3, 2), (5, 6), (8, 12)]))
def test_every_plan_reads_the_wear_and_an_unworn_place(bore, length_ratio, stroke_ratio, size):
    length = bore * length_ratio
    spec = block(bore_mm=bore, length_mm=length, stroke_mm=length * stroke_ratio)
    travel = ring_travel(spec, 16.0, 12.0)
    plan = checked_plan(plan_of(spec, travel, "x", *size), length)
    assert len(plan.depths_mm) == size[0] and len(plan.clocks_deg) == size[1]
    inside = [d for d in plan.depths_mm if travel.top_mm <= d <= travel.bottom_mm]
    assert (
        len(inside) >= 2 and any(d > travel.bottom_mm for d in plan.depths_mm) or travel.bottom_mm >= length - 2.1
    )  # to a tenth


def test_next_place_walks_down_and_ends():
    plan = LevelPlan("x", (20.0, 60.0), (0.0, 90.0))
    assert next_place(plan, set()) == Place(0, 0)
    assert next_place(plan, {Place(0, 0), Place(0, 1)}) == Place(1, 0)
    assert next_place(plan, set(plan.places())) is None
    assert plan.nearest(55.0, 268.0) == Place(1, 1)


@pytest.mark.parametrize(
    "plan",
    [
        LevelPlan("x", (60.0, 20.0), (0.0,)),
        LevelPlan("x", (20.0, 300.0), (0.0, 90.0)),
        LevelPlan("x", (20.0,), (0.0, 180.0)),
    ],
)
def test_plans_that_cannot_be_read_are_refused(plan):
    with pytest.raises(FaultyInput):
        checked_plan(plan, 212.0)


@pytest.mark.parametrize(
    "count, fine", [(2, False), (3, True), (4, True), (5, True), (6, True), (8, True), (12, True), (13, False)]
)
def test_fasteners_that_can_be_drawn(count, fine):
    spec = BlockSpec(Layout.SINGLE, 1, 80.0, 70.0, 120.0, fasteners=count)
    assert ("fasteners" in {f.path for f in faults_of(spec)}) is not fine


def test_five_fasteners_stand_evenly_round_one_hole_and_are_pulled_crosswise():
    at = fastener_positions(BlockSpec(Layout.SINGLE, 1, 80.0, 70.0, 120.0, fasteners=5))
    x, y = [p.along_mm for p in at], [p.across_mm for p in at]
    assert len(at) == 5 and {round(math.hypot(a, b), 6) for a, b in zip(x, y, strict=True)} == {57.6}
    order = tightening_order(x, y)
    steps = [min((b - a) % 5, (a - b) % 5) for a, b in pairwise(order)]
    assert sorted(order) == [0, 1, 2, 3, 4] and steps[:4] == [2, 2, 2, 2]
