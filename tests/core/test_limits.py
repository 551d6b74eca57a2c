"""Limits of the core from both sides, signs of the geometry, and figures worked by hand."""

import itertools
import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from redline_bore.core.assign import Assignment, assign_pistons
from redline_bore.core.block import BlockSpec, Layout, faults_of, pitch_of
from redline_bore.core.clamping import ClampSetUp, clamp_force_kn
from redline_bore.core.cleanup import CleanUp, Verdict
from redline_bore.core.cutting import FeedCall, Window, window_at
from redline_bore.core.errors import FaultyInput, FitError, InputError
from redline_bore.core.figures import Figure, checked_value
from redline_bore.core.fit import ClearanceWindow, GaugeDoubt, window_from_bore
from redline_bore.core.gauge_study import StudyValue, study
from redline_bore.core.inserts import EDGES, SHAPES, insert_from_code
from redline_bore.core.lengths import Units, parse_length
from redline_bore.core.oval_parent import OvalGrip
from redline_bore.core.plate import compare_clamping
from redline_bore.core.removal import Hole, Phase
from redline_bore.core.second_opinion import ShopReading
from redline_bore.core.shape import fit_level
from redline_bore.core.show import Show
from redline_bore.core.stroke import hand_pace
from redline_bore.core.surface import swept_surface, wall_surface
from redline_bore.core.sweep import fit_sweep
from redline_bore.core.thermal import GaugeSetting, master_drift
from redline_bore.core.three_point import fit_three_point
from redline_bore.core.wall import WallSpot, largest_diameter, wall_after

# -- the wall left ------------------------------------------------------------------------------------------------

AXES = [(0.0, 0.0), (0.3, 0.0), (0.0, 0.3), (0.3, 0.2), (-0.3, 0.2), (0.3, -0.2), (-0.3, -0.2)]


@pytest.mark.parametrize("axis, clock", list(itertools.product(AXES, range(0, 360, 30))))
def test_the_cut_wall_lies_one_radius_from_the_moved_axis(axis, clock):
    """Along the ray of the spot, the place that is cut to lies half the new diameter from the tool's own axis."""
    spot = WallSpot(float(clock), 40.0, 6.0, 40.0, "thrust")
    (left,) = wall_after([spot], 81.0, *axis)
    reached = spot.radius_mm + (spot.wall_mm - left)
    t = math.radians(clock)
    away = math.hypot(reached * math.cos(t) - axis[0], reached * math.sin(t) - axis[1])
    assert away == pytest.approx(40.5, abs=1e-9)


@pytest.mark.parametrize("axis, clock", list(itertools.product(AXES, range(0, 360, 45))))
def test_the_largest_bore_leaves_just_the_limit(axis, clock):
    spot = WallSpot(float(clock), 40.0, 6.0, 40.0, "thrust")
    size = largest_diameter([spot], {"thrust": 4.5}, *axis)
    assert wall_after([spot], size, *axis) == [pytest.approx(4.5, abs=1e-9)]


def test_a_bore_moved_towards_a_spot_leaves_it_less_and_the_far_one_more():
    spots = [WallSpot(c, 40.0, 6.0, 40.0, "thrust") for c in (0.0, 90.0, 180.0, 270.0)]
    near, _aside, far, _ = wall_after(spots, 81.0, 0.2, 0.0)
    assert near == pytest.approx(6.0 - 0.7) and far == pytest.approx(6.0 - 0.3)
    up = wall_after(spots, 81.0, 0.0, 0.2)
    assert up[1] == pytest.approx(6.0 - 0.7) and up[3] == pytest.approx(6.0 - 0.3)


def test_zones_without_a_limit_and_no_spots_tell_no_largest_bore():
    assert largest_diameter([], {"thrust": 4.0}) is None
    assert largest_diameter([WallSpot(0.0, 1.0, 6.0, 40.0, "between")], {"thrust": 4.0}) is None


# -- a clean-up ---------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    "size, bound, wanted",
    [
        (80.3 - 2e-9, True, Verdict.WILL_NOT), (80.3, True, Verdict.MAY_SHADOW), (80.4, True, Verdict.MAY_SHADOW),
        (80.5 - 2e-9, True, Verdict.MAY_SHADOW), (80.5, True, Verdict.CLEANS_UP), (80.6, True, Verdict.CLEANS_UP),
        (80.3 - 2e-9, False, Verdict.WILL_NOT), (80.5, False, Verdict.MAY_SHADOW), (90.0, False, Verdict.MAY_SHADOW),
    ],
)  # fmt: skip
def test_a_size_against_what_the_hole_needs(size, bound, wanted):
    assert CleanUp(80.3, 80.4, 80.5, 0, bound).verdict(size) is wanted


def test_the_smallest_sure_size_is_the_first_at_or_over_the_high_end():
    need = CleanUp(80.3, 80.4, 80.5, 0, True)
    assert need.smallest_sure((80.25, 80.5, 80.75)) == 1 and need.smallest_sure((80.75, 80.6, 80.25)) == 1
    assert need.smallest_sure((80.5 - 5e-10,)) == 0 and need.smallest_sure((80.5 - 2e-9,)) is None


# -- pistons ------------------------------------------------------------------------------------------------------


def assignment(sum_of_squares, nearest):
    return Assignment((0,), (0.05,), sum_of_squares, 0.0, (0,), nearest)


def test_better_than_nearest_first_means_by_more_than_rounding():
    assert not assignment(1.0, 1.0).better_than_nearest and not assignment(1.0, 1.0 + 1e-13).better_than_nearest
    assert assignment(1.0, 1.0 + 1e-11).better_than_nearest and assignment(1.0, None).better_than_nearest
    assert not assignment(1.1, 1.0).better_than_nearest


def test_too_few_pistons_are_refused_and_as_many_as_bores_are_not():
    assert assign_pistons([80.05], [80.0], 0.05).piston_for_bore == (0,)
    with pytest.raises(FitError, match="1 pistons for 2 bores"):
        assign_pistons([80.0, 80.1], [80.0], 0.05)


# -- a block ------------------------------------------------------------------------------------------------------


def block(**changes):
    plain = {
        "bore_mm": 80.0, "stroke_mm": 88.0, "length_mm": 140.0, "cylinders": 4, "layout": Layout.INLINE,
        "material": "grey_iron", "pitch_mm": 90.0, "fasteners": 4,
    }  # fmt: skip
    return BlockSpec(**plain | changes)


@pytest.mark.parametrize(
    "changes, field",
    [
        ({"pitch_mm": 80.0}, "pitch_mm"), ({"pitch_mm": 79.0}, "pitch_mm"), ({"bore_mm": 4.99}, "bore_mm"),
        ({"bore_mm": 2000.1, "pitch_mm": None}, "bore_mm"), ({"cylinders": 0}, "cylinders"), ({"cylinders": 25}, "cylinders"),
        ({"cylinders": 1}, "cylinders"), ({"layout": Layout.SINGLE}, "cylinders"), ({"fasteners": 2}, "fasteners"), ({"fasteners": 13}, "fasteners"),
        ({"layout": Layout.VEE, "cylinders": 5}, "cylinders"), ({"layout": Layout.VEE, "bank_angle_deg": 4.9}, "bank_angle_deg"),
        ({"layout": Layout.VEE, "bank_angle_deg": 175.1}, "bank_angle_deg"), ({"stroke_mm": 140.0}, "stroke_mm"),
        ({"band_mm": 140.0}, "band_mm"), ({"ring_top_mm": -0.1}, "ring_top_mm"), ({"room_below_mm": -0.1}, "room_below_mm"),
        ({"material": "cheese"}, "material"),
    ],
)  # fmt: skip
def test_what_is_wrong_with_a_block_is_named_by_its_field(changes, field):
    assert {f.path for f in faults_of(block(**changes))} == {field}


@pytest.mark.parametrize(
    "changes",
    [
        {}, {"pitch_mm": 80.01}, {"pitch_mm": None}, {"bore_mm": 5.0, "pitch_mm": 6.0}, {"cylinders": 24}, {"cylinders": 2},
        {"layout": Layout.SINGLE, "cylinders": 1}, {"layout": Layout.VEE, "bank_angle_deg": 5.0}, {"fasteners": 5}, {"fasteners": 6},
        {"layout": Layout.VEE, "bank_angle_deg": 175.0}, {"stroke_mm": 139.9}, {"band_mm": 0.0}, {"room_below_mm": 0.0},
    ],
)  # fmt: skip
def test_a_block_at_the_edge_of_what_can_be_worked_passes(changes):
    assert faults_of(block(**changes)) == []


def test_a_pitch_that_nobody_stated_is_drawn_a_little_over_the_bore():
    assert pitch_of(block(pitch_mm=None)) == pytest.approx(94.4) and pitch_of(block()) == 90.0


# -- clamping -----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("torque, factor, diameter", [(50.0, 0.0, 10.0), (50.0, 0.2, 0.0)])
def test_a_clamp_force_needs_a_nut_factor_and_a_diameter(torque, factor, diameter):
    with pytest.raises(InputError):
        clamp_force_kn(torque, factor, diameter)


def pulled(force_kn):
    """Held down with so much force: 10 mm, nut factor 0.2."""
    return ClampSetUp(fastener_mm=10.0, torque_nm=2.0 * force_kn, nut_factor=0.2)


@pytest.mark.parametrize("plate, agrees", [(11.0, True), (9.0, True), (11.01, False), (8.99, False)])
def test_clamp_forces_agree_within_the_share_ends_included(plate, agrees):
    line = compare_clamping(pulled(plate), pulled(10.0), 0.1 + 1e-12).lines[0]
    assert line.same is agrees


def test_a_share_that_is_met_exactly_agrees():
    assert compare_clamping(pulled(15.0), pulled(10.0), 0.5).lines[0].same is True


# -- cutting ------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    "feed, wanted",
    [(0.0499, FeedCall.RUBS), (0.05, FeedCall.IN_WINDOW), (0.1, FeedCall.IN_WINDOW), (0.15, FeedCall.IN_WINDOW), (0.1501, FeedCall.TOO_COARSE)],
)  # fmt: skip
def test_a_feed_against_the_inserts_window(feed, wanted):
    assert Window(200.0, 400.0, 0.05, 0.15).feed_call(feed) is wanted


@pytest.mark.parametrize("bore, reference", [(0.0, 80.0), (80.0, 0.0), (-1.0, 80.0)])
def test_a_window_needs_a_bore_and_a_reference(bore, reference):
    with pytest.raises(InputError):
        window_at(bore, reference, (200.0, 400.0), (0.05, 0.15))


def test_a_window_at_the_reference_bore_is_the_one_stated_and_falls_with_the_bore():
    assert window_at(80.0, 80.0, (200.0, 400.0), (0.05, 0.15)).rpm_high == pytest.approx(400.0)
    twice = window_at(160.0, 80.0, (200.0, 400.0), (0.05, 0.15))
    assert (twice.rpm_low, twice.rpm_high) == pytest.approx((100.0, 200.0)) and twice.feed_high_mm == 0.15


@pytest.mark.parametrize(
    "letter, name, corner, edges",
    [("T", "triangle", 60, 3), ("S", "square", 90, 4), ("C", "diamond", 80, 2), ("D", "diamond", 55, 2), ("V", "diamond", 35, 2),
     ("W", "trigon", 80, 3), ("R", "round", 0, 1), ("E", "diamond", 75, 2), ("M", "diamond", 86, 2), ("H", "hexagon", 120, 6),
     ("O", "octagon", 135, 8), ("P", "pentagon", 108, 5)],
)  # fmt: skip
def test_every_shape_of_insert(letter, name, corner, edges):
    assert SHAPES[letter] == (name, corner) and EDGES[name] == edges


@pytest.mark.parametrize(
    "letter, relief", [("N", 0), ("A", 3), ("B", 5), ("C", 7), ("P", 11), ("D", 15), ("E", 20), ("F", 25), ("G", 30)]
)
def test_every_relief_of_insert(letter, relief):
    assert insert_from_code(f"T{letter}G-221").relief_deg == relief


# -- figures ------------------------------------------------------------------------------------------------------

ROW = Figure("x.row", (0.2, 0.4), "mm", "a source", "range")
STEPS = Figure("x.steps", (0.2, 0.4), "mm", "a source", "")
WORD = Figure("x.word", "steel", "", "a source", "")
NUMBER = Figure("x.number", 1.5, "mm", "a source", "")


@pytest.mark.parametrize(
    "figure, raw, wanted",
    [(ROW, (0.1, 0.3), (0.1, 0.3)), (ROW, [0.3, 0.3], (0.3, 0.3)), (STEPS, (0.5,), (0.5,)), (STEPS, (0.5, 0.1, 0.2), (0.5, 0.1, 0.2)),
     (WORD, " iron ", "iron"), (NUMBER, 2, 2.0), (NUMBER, 0.075, 0.075), (NUMBER, 30.0, 30.0)],
)  # fmt: skip
def test_a_figure_of_the_shops_own_keeps_its_shape(figure, raw, wanted):
    assert checked_value(figure, raw) == wanted


@pytest.mark.parametrize(
    "figure, raw",
    [(ROW, (0.3, 0.1)), (ROW, (0.1,)), (ROW, (0.1, 0.2, 0.3)), (ROW, 0.1), (ROW, ()), (ROW, ("a", "b")), (STEPS, ()), (STEPS, 0.2),
     (WORD, ""), (WORD, "  "), (WORD, 3), (WORD, None), (NUMBER, "x"), (NUMBER, True), (NUMBER, -0.1), (NUMBER, math.nan), (NUMBER, None)],
)  # fmt: skip
def test_a_figure_of_another_shape_is_refused(figure, raw):
    with pytest.raises(InputError):
        checked_value(figure, raw)


# -- clearances and doubt -----------------------------------------------------------------------------------------


def test_a_window_from_the_bore_adds_the_duty_to_both_ends():
    window = window_from_bore(100.0, (0.0006, 0.0008), 0.0002, "x")
    assert (window.low_mm, window.high_mm, window.aim_mm) == pytest.approx((0.08, 0.10, 0.09))


@pytest.mark.parametrize("low, high", [(-0.001, 0.05), (0.06, 0.05)])
def test_a_clearance_window_has_its_low_end_first(low, high):
    with pytest.raises(InputError):
        ClearanceWindow(low, high, "x")
    assert ClearanceWindow(0.0, 0.0, "x").aim_mm == 0.0


def test_variance_adds_every_part_by_hand():
    doubt = GaugeDoubt(0.002, 0.001, 0.004, 10.0, 2.0, 4)
    by_hand = 0.001**2 + 0.001**2 / 12.0 + (100.0 * 10e-6 * 2.0) ** 2
    assert doubt.variance(100.0, with_master=False) == pytest.approx(by_hand)
    assert doubt.variance(100.0) == pytest.approx(by_hand + 0.002**2)


def test_a_study_needs_enough_repeats_of_one_spot():
    def values(*groups):
        return [StudyValue(who, spot, v) for who, spot, row in groups for v in row]

    five = (80.0, 80.001, 80.0, 80.001, 80.0)
    assert study(values(("RM", "a", five)), 0.001).repeat_sd_mm == pytest.approx(float(np.std(five, ddof=1)))
    with pytest.raises(FitError, match="take 1 more"):
        study(values(("RM", "a", five[:4])), 0.001)
    with pytest.raises(FitError, match="take 1 more"):
        study(values(("RM", "a", five[:3]), ("RM", "b", five[:2])), 0.001)


def test_operators_apart_stand_as_between_operators():
    rows = [(0.0, 0.0, 0.0), (0.010, 0.010, 0.010)]
    values = [StudyValue(who, "a", 80.0 + v) for who, row in zip(("RM", "KT"), rows, strict=True) for v in row]
    assert study(values, 0.001).operator_sd_mm == pytest.approx(0.010 / math.sqrt(2.0))


def test_with_three_spots_each_counts_alike():
    values = []
    for spot, apart in (("a", 0.010), ("b", 0.020)):
        for who, shift in (("RM", 0.0), ("KT", apart)):
            values += [StudyValue(who, spot, 80.0 + shift)] * 3
    wanted = math.sqrt((0.010**2 / 2.0 + 0.020**2 / 2.0) / 2.0)
    assert study(values, 0.001).operator_sd_mm == pytest.approx(wanted)


# -- the wall as a surface ------------------------------------------------------------------------------------------


def level(mean, oval=0.0, at=0.0):
    clocks = np.arange(0.0, 180.0, 22.5)
    return fit_level(clocks, mean + oval * np.cos(2.0 * np.deg2rad(clocks - at)))


def test_a_wall_goes_through_its_levels_and_never_beyond_them():
    surface = wall_surface([10.0, 60.0, 110.0], [level(80.02, 0.01, 30.0), level(80.01), level(80.0)])
    grid = surface.diameter([10.0, 60.0, 110.0], [30.0, 120.0])
    assert grid[0] == pytest.approx([80.03, 80.01]) and grid[1] == pytest.approx([80.01, 80.01])
    assert np.isnan(surface.diameter([9.99, 110.01], [0.0])).all()
    assert not np.isnan(surface.diameter([10.0, 110.0], [0.0])).any()


@pytest.mark.parametrize("depths", [[10.0], [10.0, 10.0], [20.0, 10.0]])
def test_a_wall_needs_two_depths_that_grow(depths):
    with pytest.raises(FitError):
        wall_surface(depths, [level(80.0)] * len(depths))


def test_two_levels_are_enough_for_a_wall():
    assert wall_surface([10.0, 20.0], [level(80.0), level(80.02)]).diameter([15.0], [0.0])[0, 0] == pytest.approx(80.01)


class Axis:
    top_x_mm, top_y_mm, bottom_x_mm, bottom_y_mm = 0.02, -0.01, -0.04, 0.03


def test_a_swept_wall_is_told_about_its_axis_at_every_depth():
    """Round sweeps off the axis by known amounts: the radius at each clock is the circle's own less the axis's place."""
    clocks, depths = np.arange(0.0, 360.0, 5.0), [10.0, 60.0, 110.0]
    centres = [(0.02, -0.01), (0.01, 0.02), (-0.04, 0.03)]
    t = np.deg2rad(clocks)
    fits = [fit_sweep(clocks, 40.0 + x * np.cos(t) + y * np.sin(t)) for x, y in centres]
    surface = swept_surface(depths, fits, Axis())
    along = [(0.02, -0.01), (-0.01, 0.01), (-0.04, 0.03)]
    for depth, (x, y), (ax, ay) in zip(depths, centres, along, strict=True):
        found = surface.radius([depth], [0.0, 90.0, 180.0, 270.0])[0]
        assert found == pytest.approx([40 + x - ax, 40 + y - ay, 40 - x + ax, 40 - y + ay], abs=5e-5)
    assert np.isnan(surface.radius([9.9, 110.1], [0.0])).all() and not np.isnan(surface.radius(depths, [0.0])).any()
    assert swept_surface(depths[:2], fits[:2], Axis()).radius([10.0], [0.0]).shape == (1, 1)
    for bad in ([10.0], [10.0, 10.0]):
        with pytest.raises(FitError):
            swept_surface(bad, fits[: len(bad)], Axis())


def test_the_doubt_of_a_single_point_comes_from_what_the_orders_leave():
    chance = np.random.default_rng(3)
    clocks = np.arange(0.0, 360.0, 2.0)
    fit = fit_sweep(clocks, 40.0 + chance.normal(0.0, 0.001, clocks.size))
    assert fit.point_sd_mm == pytest.approx(0.001, rel=0.25)
    assert fit.roundness_sd_mm == pytest.approx(math.sqrt(2.0) * fit.point_sd_mm)


# -- the rest -----------------------------------------------------------------------------------------------------


def test_three_lobes_have_their_crest_within_a_third_of_a_turn():
    clocks = np.arange(0.0, 360.0, 15.0)
    for crest in (0.0, 20.0, 70.0, 100.0, 119.0):
        fit = fit_three_point(clocks, 80.0 + 0.02 * np.cos(3.0 * np.deg2rad(clocks - crest)))
        assert fit.crest_deg == pytest.approx(crest, abs=1e-6) and fit.lobe_mm == pytest.approx(0.01)


def test_a_master_that_warmed_is_not_taken_for_drift():
    setting = GaugeSetting(80.0, 11.5, 20.0)
    warm = 80.0 * 11.5e-6 * 5.0
    assert master_drift(setting, warm, master_c=25.0) == pytest.approx(0.0, abs=1e-12)
    assert master_drift(setting, warm) == pytest.approx(warm) and master_drift(setting, -0.003) == pytest.approx(-0.003)


@pytest.mark.parametrize(
    "size, pressure, seated, without", [(0.05, 2.0, True, 0.0), (0.0, 0.0, False, 1.0), (-0.01, -1.0, False, 1.0)]
)
def test_a_sleeve_is_seated_only_where_it_presses(size, pressure, seated, without):
    grip = OvalGrip(np.zeros(4), np.full(4, size), np.full(4, pressure), size, pressure)
    assert grip.stays_seated is seated and grip.share_without == without


def test_a_hand_holds_the_most_it_can():
    pace = hand_pace(80.0, 100.0, 300.0, 45.0, 400.0)
    held = hand_pace(80.0, 100.0, 300.0, 45.0, pace.double_strokes_per_min)
    assert held.possible and not hand_pace(80.0, 100.0, 300.0, 45.0, pace.double_strokes_per_min - 1e-6).possible


def test_a_stroke_that_starts_unstated_neither_turns_nor_dwells():
    phase = Phase(-10.0, 120.0, 5, 100.0, 60.0, 200.0)
    assert (phase.reversal_s, phase.dwell_top_s, phase.dwell_bottom_s, phase.advance_mm) == (0.0, 0.0, 0.0, None)
    with pytest.raises(InputError):
        Hole(80.0, 140.0, 0.0)


def test_a_shop_that_states_nothing_read_at_20_without_a_plate_and_true():
    plain = ShopReading(80.07, 80.0, 0.05)
    assert plain.over_aim_mm == pytest.approx(0.02) and plain.bore_growth_mm(11.0) == pytest.approx(0.0)
    assert (plain.block_c, plain.piston_c, plain.plate_on, plain.bore_at_20, plain.piston_at_20) == (
        20.0,
        20.0,
        False,
        False,
        False,
    )
    assert (
        plain.bore_gauge_over_mm
        == plain.micrometer_over_mm
        == plain.spot_axis_over_mm
        == plain.spot_depth_over_mm
        == 0.0
    )


@pytest.mark.parametrize(
    "text, mm",
    [
        ("1 cm", 10.0),
        ("1 um", 0.001),
        ("2 microns", 0.002),
        ("1 in", 25.4),
        ("1 thou", 0.0254),
        ("2 thous", 0.0508),
        ("1 tenth", 0.00254),
        ('0.5"', 12.7),
    ],
)
def test_every_unit_of_length(text, mm):
    assert parse_length(text, Units.METRIC).mm == pytest.approx(mm)


@pytest.mark.parametrize(
    "units, rough, step, depth",
    [(Units.METRIC, "0.51", "+0.51", "0.5"), (Units.INCH, "0.020", "+0.020", "0.02")],
)
def test_lengths_are_told_to_the_digit_their_use_wants(units, rough, step, depth):
    show = Show(units)
    assert (show.rough(0.508), show.step(0.508), show.depth(0.508)) == (rough, step, depth)


@given(st.floats(0.001, 0.2), st.floats(0.001, 0.2))
def test_a_faulty_window_is_never_built(low, high):
    try:
        assert ClearanceWindow(low, high, "x").low_mm <= high
    except InputError:
        assert low > high


def test_own_figures_are_all_refused_at_once(shipped):
    with pytest.raises(FaultyInput) as caught:
        shipped.with_own({"gauging.repeat_limit": "x", "no.such": 1.0})
    assert len(caught.value.faults) == 2
