"""The gauge step at its limits, on states made for it."""

from dataclasses import replace
from types import SimpleNamespace

import pytest

from redline_bore.core.block import bore_positions, fastener_positions
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.gauge import defects as gauge_defects
from redline_bore.job.gauge import doubt as gauge_doubt
from redline_bore.job.gauge import plate, side_by_side, study
from redline_bore.job.words.side_by_side import odd_words
from tests.job.benches import but

METRIC = Show(Units.METRIC)


def lines(*values, attribute="wear_mm", axis=None):
    usual = {"wear_mm": 0.01, "out_of_round_mm": 0.005, "taper_mm": 0.005, "long_axis_deg": axis}
    shape = SimpleNamespace(plate_on=False, twisted=False)
    return [SimpleNamespace(cylinder=i, shape=shape, **usual | {attribute: v}) for i, v in enumerate(values, start=1)]


@pytest.fixture
def odd(monkeypatch, state_of):
    state = but(state_of("2041"), gauging={"defects": ()})
    monkeypatch.setattr(side_by_side, "axis_of", lambda state, c, plate: (None, ""))
    return lambda found: odd_words(tuple(side_by_side._odd(state, found[0], found)))


@pytest.mark.parametrize(
    "attribute, name", [("wear_mm", "wear"), ("out_of_round_mm", "out of round"), ("taper_mm", "taper")]
)
def test_a_cylinder_is_odd_beyond_the_limit_and_the_others_usual_spread(odd, attribute, name):
    assert odd(lines(0.5, 0.01, 0.01, 0.01, attribute=attribute)) == f"{name} above the others"
    assert odd(lines(-0.5, 0.01, 0.01, 0.01, attribute=attribute)) == f"{name} below the others"
    assert odd(lines(0.5, 0.01, 0.01, attribute=attribute)) == f"{name} above the others", "two others are enough"
    assert odd(lines(0.5, 0.01, attribute=attribute)) == odd(lines(0.5, 0.01, None, attribute=attribute)) == ""
    assert odd(lines(0.5, 0.0, 0.2, 0.4, attribute=attribute)) == "", "within four times how far the others lie apart"
    assert odd(lines(None, 0.0, 0.0, 0.0, attribute=attribute)) == ""


@pytest.mark.parametrize(
    "own, others, told",
    [
        (0.0, (90.0, 90.0), True),
        (0.0, (90.0,), False),
        (0.0, (20.0, 25.0), False),
        (0.0, (31.0, 31.0, 31.0), True),
        (0.0, (29.0, 29.0, 90.0), False),
        (170.0, (10.0, 10.0), False),
    ],
)
def test_a_long_axis_turned_from_the_others(own, others, told):
    found = [SimpleNamespace(long_axis_deg=v) for v in (own, *others)]
    assert side_by_side._turned(found[0], found) is told


@pytest.mark.parametrize(
    "levels, wanted",
    [(1, {0}), (2, {0, 1}), (3, {1, 2}), (4, {1, 2, 3}), (5, {1, 2, 4}), (6, {1, 3, 5}), (7, {1, 3, 6})],
)
def test_a_study_reads_near_the_top_the_middle_and_the_bottom(levels, wanted):
    plan = SimpleNamespace(
        depths_mm=tuple(range(levels)), clocks_deg=(0.0, 90.0), letter=lambda level: "ABCDEFG"[level]
    )
    found = study.spots_of(SimpleNamespace(gauging=SimpleNamespace(plan=plan)))
    assert {s.level for s in found} == wanted and all(s.clock == 0 for s in found)


def test_what_a_defect_costs_is_the_size_with_it_less_the_size_without(monkeypatch, state_of):
    state = state_of("2041")
    cleanup = SimpleNamespace(low_mm=80.3, high_mm=80.5)
    for alone, without, wanted in (
        (cleanup, SimpleNamespace(low_mm=80.2, high_mm=80.3), (0.1, 0.2)),
        (None, cleanup, (None, None)),
        (cleanup, None, (None, None)),
    ):
        monkeypatch.setattr(
            gauge_defects,
            "shape_with",
            lambda s, c, on, marks, alone=alone, without=without: SimpleNamespace(cleanup=alone if marks else without),
        )
        shape = SimpleNamespace(cylinder=1, plate_on=False)
        found = gauge_defects._effect(state, shape, SimpleNamespace(seq=1), SimpleNamespace())
        got = tuple(vars(found).values())[2:4] if hasattr(found, "__dict__") else (found.low_mm, found.high_mm)
        assert got == (pytest.approx(wanted) if wanted[0] is not None else wanted)


@pytest.mark.parametrize(
    "start, end, drift, wanted",
    [(0.0, None, None, 0.0), (0.002, None, None, 0.002), (-0.003, None, None, 0.003), (0.001, 0.005, 0.004, 0.004)],
)
def test_the_drift_known_under_an_entry(start, end, drift, wanted):
    span = SimpleNamespace(start_off_mm=start, end_off_mm=end, drift_mm=drift)
    gauging = SimpleNamespace(zero_span=lambda seq: span if seq == 1 else None, zero_spans=(span,))
    state = SimpleNamespace(gauging=gauging)
    assert gauge_doubt.known_drift(state, 1) == wanted and gauge_doubt.known_drift(state, 2) == 0.0
    assert gauge_doubt.known_drift(state) == max(abs(start), abs(end or 0.0))


def test_tightening_goes_through_the_plates_own_stages_else_the_usual_ones(state_of):
    state = state_of("2036")
    order, own = plate.order_of(state, 0), plate.tightening(state)
    stages = state.clamped.held_down("plate").stages or state.figures.row("fasteners.stages")
    assert [(s.fastener, s.stage) for s in own] == [(n, i) for i in range(1, len(stages) + 1) for n in order]
    torque = state.clamped.held_down("plate").torque_nm
    assert [s.torque_nm for s in own][:: len(order)] == pytest.approx([torque * share for share in stages])


def test_fasteners_of_another_bank_are_never_a_bores_own(state_of):
    from redline_bore.core.block import Layout

    state = state_of("2041")
    vee = replace(state.block, layout=Layout.VEE, cylinders=6, bank_angle_deg=60.0)
    there = but(state, booking={"book_in": replace(state.book_in, block=vee)})
    bores, fasteners = bore_positions(vee), fastener_positions(vee)
    for cylinder in range(1, 7):
        found = plate.bearings(there, cylinder)
        assert len(found) == vee.fasteners and {fasteners[n - 1].bank for n in found} == {bores[cylinder - 1].bank}
