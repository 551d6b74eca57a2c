"""Figures that once could be wrong without a test noticing, worked by hand from the block and the defaults."""

import math
from dataclasses import replace
from types import SimpleNamespace

import pytest

from redline_bore.core.fit import Decision, decide
from redline_bore.job.bore import plan as bar
from redline_bore.job.bore.plan import minutes_left, windows_of
from redline_bore.job.call.option import minutes_for
from redline_bore.job.gauge import plate, second_opinion
from redline_bore.job.gauge.plate import bearings, towards
from redline_bore.job.hone.set_up import kinematics_of, load_share, rate_of
from redline_bore.job.kinds.opinions import OtherPistonBooked, OtherReadingBooked, SecondOpinionOpened
from redline_bore.job.kinds.sign_off import JobReopened
from redline_bore.job.sign_off.sheet import OpenPoint, sheet_of
from tests.job.benches import after, but


def test_the_rate_is_the_stones_times_how_the_material_cuts_over_a_larger_bore(state_of):
    state = state_of("2036")
    f, block = state.figures, state.block
    stones = next(k.removesuffix("_rate") for k in f.names("stones") if k.endswith("_rate"))
    for material in ("grey_iron", "aluminium_hyper"):
        for bore in (block.bore_mm, 2.0 * block.bore_mm):
            there = but(
                state,
                booking={"book_in": replace(state.book_in, block=replace(block, material=material, bore_mm=bore))},
            )
            by_hand = (
                f.number(f"stones.{stones}_rate")
                * 1e-3
                * f.number(f"stones.{material}_cuts")
                * f.number("stones.reference_bore")
                / bore
            )
            assert rate_of(there, stones) == pytest.approx(by_hand)


def test_a_load_is_told_against_the_roughing_load(state_of):
    state = state_of("2036")
    rough = state.figures.number("honing.rough_load")
    assert (load_share(state, None), load_share(state, rough), load_share(state, rough / 2.0)) == (1.0, 1.0, 0.5)


def test_a_plain_insert_turns_at_its_cutting_speed_and_a_coated_one_by_its_window(state_of):
    state = state_of("2036")
    low, high = state.figures.row("boring.plain_speed")
    around = math.pi * state.block.bore_mm / 1000.0
    plain, coated = windows_of(state, "plain"), windows_of(state, "coated")
    assert set(plain) == set(coated)
    for name, window in plain.items():
        assert (window.rpm_low, window.rpm_high) == pytest.approx((low / around, high / around)), name
        assert (window.feed_low_mm, window.feed_high_mm) == (coated[name].feed_low_mm, coated[name].feed_high_mm)


def test_a_turn_round_takes_its_time_or_less_than_half_a_stroke(state_of):
    state = state_of("2036")
    usual = state.figures.number("honing.turn_round")
    fast = 0.45 * 60.0 / usual * 2.0  # so fast that nine tenths of a half stroke are less than the usual turn-round
    for strokes in (10.0, fast):
        k = kinematics_of(but(state, honing={"run": replace(state.honing.run, strokes_per_min=strokes)}))
        assert k.motion.reversal_s == pytest.approx(min(usual, 0.45 * 60.0 / strokes))
    assert 0.45 * 60.0 / fast < usual


@pytest.mark.parametrize(
    "value, wanted",
    [(0.0399, Decision.OUT), (0.0401, Decision.TOO_CLOSE), (0.0599, Decision.TOO_CLOSE), (0.0601, Decision.IN), (0.0799, Decision.IN),
     (0.0801, Decision.TOO_CLOSE), (0.0999, Decision.TOO_CLOSE), (0.1001, Decision.OUT)],
)  # fmt: skip
def test_the_guard_band_at_both_edges(value, wanted):
    assert decide(value, 0.05, 0.09, 0.01) is wanted


def test_the_guard_band_is_inside_at_neither_edge_itself():
    assert decide(0.5, 0.25, 1.0, 0.25) is Decision.TOO_CLOSE and decide(0.75, 0.25, 1.0, 0.25) is Decision.TOO_CLOSE
    assert decide(0.0, 0.25, 1.0, 0.25) is Decision.TOO_CLOSE and decide(1.25, 0.25, 1.0, 0.25) is Decision.TOO_CLOSE


def test_minutes_left_are_set_up_handling_and_cutting_of_what_is_left(monkeypatch, state_of):
    state = state_of("2041")
    monkeypatch.setattr(bar, "cut_now", lambda state, bore: SimpleNamespace(minutes=5.0))
    monkeypatch.setattr(bar, "plan_of", lambda state, n, day: SimpleNamespace(passes_mm=(0.1,) * n))
    each, set_up = minutes_for(state, "bore"), minutes_for(state, "set_up_bar")
    for left, holes, wanted in (
        ([[1, 2]], (), set_up + 2 * each + 15.0), ([[1], [3]], (), 2 * set_up + 2 * each + 20.0), ([[2]], (object(),), each + 10.0),
        ([], (), 0.0),
    ):  # fmt: skip
        monkeypatch.setattr(bar, "still_to_bore", lambda state, left=left: left)
        assert minutes_left(but(state, boring={"holes": holes})) == pytest.approx(wanted)
    monkeypatch.setattr(bar, "cut_now", lambda state, bore: None)
    monkeypatch.setattr(bar, "still_to_bore", lambda state: [[1, 2]])
    assert minutes_left(but(state, boring={"holes": ()})) == pytest.approx(
        set_up + 2 * (each + minutes_for(state, "cutting"))
    )


def test_the_fasteners_round_a_bore_are_its_own(state_of):
    """Each cylinder's nearest fasteners lie at the same angles round it, and none belongs to a bore further off."""
    state = state_of("2041")
    from redline_bore.core.block import bore_positions, fastener_positions

    bores, fasteners = bore_positions(state.block), fastener_positions(state.block)
    for cylinder in state.cylinders:
        found = bearings(state, cylinder)
        bore = bores[cylinder - 1]
        assert len(found) == state.block.fasteners
        for number, clock in found.items():
            f = fasteners[number - 1]
            along, across = f.along_mm - bore.along_mm, f.across_mm - bore.across_mm
            assert f.bank == bore.bank and math.hypot(along, across) <= 1.2 * state.block.bore_mm
            assert clock == pytest.approx(plate.bearing_deg(along, across))
    sides = [sorted(round(v) for v in bearings(state, c).values()) for c in state.cylinders]
    assert all(s == sides[0] for s in sides)


@pytest.mark.parametrize("cylinder", [1, 2, 4])
@pytest.mark.parametrize("turn", [0.0, 20.0, 80.0])
def test_the_hole_opens_towards_the_fasteners_nearest_to_where_it_moved_most(state_of, cylinder, turn):
    state = state_of("2041")
    clocks = (0.0 + turn, 45.0 + turn, 90.0 + turn, 135.0 + turn)
    level = SimpleNamespace(
        clocks_deg=clocks, moved=SimpleNamespace(second_axis_deg=45.0, moved_mm=(0.001, 0.009, 0.002, 0.0))
    )
    aim = towards(state, cylinder, level)
    clock, numbers = aim.clock_deg, aim.fasteners
    around = bearings(state, cylinder)
    apart = {n: abs((clock - a + 90.0) % 180.0 - 90.0) for n, a in around.items()}
    nearest = min(apart.values())
    wanted = [] if nearest > plate.AWKWARD_DEG else [n for n, a in apart.items() if a <= nearest + 1.0]
    assert clock == 45.0 + turn and numbers == wanted


def test_a_hole_gauged_under_the_plate_is_never_called_plate_off_only(state_of):
    plated = sheet_of(state_of("2036"))
    assert any(r.shape.plate_on for r in plated.rows)
    said = {p.what for p in plated.open_points} | {a.about.split(":")[0] for a in plated.accepted}
    assert OpenPoint.PLATE_OFF_ONLY not in said
    off = sheet_of(state_of("2044"))
    assert (OpenPoint.PLATE_OFF_ONLY in {p.what for p in off.open_points}) is not any(
        r.shape.plate_on for r in off.rows
    )


@pytest.mark.parametrize("measured", [True, False])
@pytest.mark.parametrize("cylinder", [1, 2])
def test_their_piston_is_ours_only_where_they_measured_none(ledger_of, shipped, measured, cylinder):
    theirs = [OtherPistonBooked(who="Marigold", cylinder=1, size_mm=82.991)] if measured else []
    state = after(
        ledger_of("2036"), shipped, JobReopened(reason="x"),
        SecondOpinionOpened(who="Marigold", plate_on=False, at_20=True, aim_mm=0.07), *theirs,
        *(OtherReadingBooked(who="Marigold", cylinder=c, diameter_mm=83.06) for c in (1, 2)),
    )  # fmt: skip
    found = next(c for c in second_opinion.comparisons(state) if c.other.cylinder == cylinder)
    ours = state.calling.piston(cylinder).size_mm
    own = measured and cylinder == 1
    assert found.b.piston_mm == pytest.approx(82.991 if own else ours) and found.a.piston_mm == pytest.approx(ours)
    assert (second_opinion.Assumed.PISTON_IS_OURS in found.assumed) is not own
