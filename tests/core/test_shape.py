"""Two-point shape: against the reference cases, against analytic holes, and against theory."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from redline_bore.core.block import RingTravel
from redline_bore.core.errors import FitError
from redline_bore.core.line import line_through
from redline_bore.core.shape import (
    AxialLimits,
    axial_shape,
    bulge_of,
    distinct_chords,
    fit_level,
    oval_turn,
    unworn_reference,
    wear_and_ridge,
)
from redline_bore.core.surface import wall_surface
from tests.vectors import cases, check, mm

SIX = np.arange(0, 180, 30.0)


@pytest.mark.parametrize("case", cases("03", "two_point_fit"))
def test_level_vectors(case):
    fit = fit_level(case["inputs"]["clock_deg"], mm(case, "diameter"))
    found = {
        "harmonics_used": fit.harmonics_used,
        "distinct_chords": fit.distinct_chords,
        "mean": fit.mean_mm,
        "out_of_round_raw": fit.out_of_round_raw_mm,
        "out_of_round_second_harmonic": fit.out_of_round_second_harmonic_mm,
        "long_axis_deg": fit.long_axis_deg,
        "oval_may_hide": fit.oval_may_hide,
    }
    if any(key.startswith("out_of_round_whole_fit") for key in case["expected"]):
        found["out_of_round_whole_fit"] = fit.out_of_round_whole_fit_mm
    check(case, **found)


@pytest.mark.parametrize("case", cases("04", "axial_shape"))
def test_axial_vectors(case):
    travel = RingTravel(mm(case, "ring_travel_top"), mm(case, "ring_travel_bottom"), True)
    limits = AxialLimits(mm(case, "taper_limit"), mm(case, "bulge_limit"), mm(case, "bell_limit"))
    shape = axial_shape(mm(case, "depth"), mm(case, "level_mean"), travel, limits)
    check(
        case,
        taper=shape.taper_mm,
        line_taper_over_ring_travel=shape.line_taper_mm,
        middle_bulge=shape.bulge_mm,
        shape_class=shape.shape_class,
    )


@pytest.mark.parametrize("case", cases("04", "wear_and_ridge"))
def test_wear_vectors(case):
    rows, clocks = mm(case, "diameter"), case["inputs"]["clock_deg"]
    means = [fit_level(clocks, row).mean_mm for row in rows]
    travel = RingTravel(mm(case, "ring_travel_top"), mm(case, "ring_travel_bottom"), True)
    wear = wear_and_ridge(mm(case, "depth"), means, [max(row) for row in rows], travel)
    check(
        case,
        reference_from=wear.reference_from,
        unworn_reference=wear.reference_mm,
        wear_largest_level_mean=wear.largest_level_mean_mm,
        wear_largest_reading=wear.largest_reading_mm,
        ridge_on_diameter=wear.ridge_mm,
    )


@pytest.mark.parametrize("case", cases("04", "oval_turn"))
def test_turn_vectors(case):
    top, bottom = (fit_level(case["inputs"]["clock_deg"], mm(case, f"diameter_{end}")) for end in ("top", "bottom"))
    check(
        case,
        out_of_round_top=top.out_of_round_second_harmonic_mm,
        long_axis_top_deg=top.long_axis_deg,
        out_of_round_bottom=bottom.out_of_round_second_harmonic_mm,
        long_axis_bottom_deg=bottom.long_axis_deg,
        turn_deg=oval_turn(top.long_axis_deg, bottom.long_axis_deg),
    )


holes = st.tuples(st.floats(60, 140), st.floats(0.002, 0.1), st.floats(0, 179), st.floats(0, 0.01), st.floats(0, 89))


def hole(parts, clock):
    mean, oval, axis, four, crest = parts
    t = np.deg2rad(clock)
    return mean + oval * np.cos(2 * (t - np.deg2rad(axis))) + four * np.cos(4 * (t - np.deg2rad(crest)))


@given(holes)
def test_an_analytic_hole_is_found_exactly(parts):
    fit = fit_level(SIX, hole(parts, SIX))
    assert fit.mean_mm == pytest.approx(parts[0], abs=1e-9)
    assert fit.out_of_round_second_harmonic_mm == pytest.approx(2 * parts[1], abs=1e-9)
    assert oval_turn(fit.long_axis_deg, parts[2]) < 1e-3


@given(holes, st.floats(-180, 180))
def test_turning_the_clock_turns_the_long_axis_and_nothing_else(parts, turn):
    still, turned = fit_level(SIX, hole(parts, SIX)), fit_level(SIX + turn, hole(parts, SIX))
    assert turned.mean_mm == pytest.approx(still.mean_mm, abs=1e-9)
    assert oval_turn(turned.long_axis_deg, still.long_axis_deg + turn) < 1e-3


@given(holes, st.floats(-1, 1))
def test_an_offset_of_the_gauge_moves_the_mean_only(parts, offset):
    plain, moved = fit_level(SIX, hole(parts, SIX)), fit_level(SIX, hole(parts, SIX) + offset)
    assert moved.mean_mm - plain.mean_mm == pytest.approx(offset, abs=1e-9)
    assert moved.out_of_round_second_harmonic_mm == pytest.approx(plain.out_of_round_second_harmonic_mm, abs=1e-9)


@given(st.floats(0.001, 0.05), st.floats(0, 120))
def test_three_lobes_are_invisible_to_two_points(lobe, crest):
    t, c = np.deg2rad(SIX), np.deg2rad(crest)
    two_point = 92 + lobe * (np.cos(3 * (t - c)) + np.cos(3 * (t + np.pi - c)))
    assert fit_level(SIX, two_point).out_of_round_raw_mm < 1e-12


def test_chords_too_close_together_are_not_made_into_an_oval():
    fit = fit_level([0, 3, 6], [92.00, 92.01, 92.03])
    assert fit.distinct_chords == 3 and fit.oval_may_hide and fit.long_axis_deg is None


def test_chords_repeat_every_half_turn():
    assert distinct_chords([0, 180, 359.5, 90, 270]) == 2
    assert distinct_chords([]) == 0


@pytest.mark.parametrize("clocks, sizes", [([], []), ([0, 90], [92.0]), ([0, 90], [92.0, float("nan")])])
def test_readings_that_carry_nothing_are_refused(clocks, sizes):
    with pytest.raises(FitError):
        fit_level(clocks, sizes)


def test_no_unworn_place_means_no_wear_figure():
    with pytest.raises(FitError, match="below ring travel"):
        wear_and_ridge([20, 60], [92.1, 92.05], [92.1, 92.05], RingTravel(10, 100, True))
    assert unworn_reference([20, 60], [92.1, 92.05], RingTravel(10, 100, True)) is None


@given(st.floats(-5, 5))
def test_shifting_the_deck_zero_leaves_the_taper(shift):
    z, d = np.array([20.0, 60, 100, 140]), np.array([92.10, 92.07, 92.05, 92.01])
    limits = AxialLimits(0.013, 0.01, 0.01)
    a = axial_shape(z, d, RingTravel(20, 140, True), limits)
    b = axial_shape(z + shift, d, RingTravel(20 + shift, 140 + shift, True), limits)
    assert (a.taper_mm, a.shape_class) == (pytest.approx(b.taper_mm), b.shape_class)


def test_surface_passes_through_the_levels_and_stops_there():
    fits = [fit_level(SIX, hole((92 + 0.01 * i, 0.02, 80, 0, 0), SIX)) for i in range(4)]
    surface = wall_surface([10, 50, 90, 130], fits)
    grid = surface.diameter([5, 10, 50, 131], [0, 80])
    assert np.isnan(grid[0]).all() and np.isnan(grid[3]).all()
    assert grid[2, 1] == pytest.approx(92.01 + 0.02, abs=1e-9)
    assert np.all(surface.diameter(np.linspace(10, 130, 60), [0]) <= 92.05)  # monotone: no overshoot
    with pytest.raises(FitError):
        wall_surface([10], fits[:1])


@pytest.mark.parametrize(("flare", "found"), [(0.0249, "straight"), (0.0251, "bell-mouthed top")])
@pytest.mark.parametrize("end", ["top", "bottom"])
def test_a_flare_is_counted_off_the_straight_line_through_the_rest(flare, found, end):
    depths, lean = [10.0, 60.0, 110.0, 160.0], 1e-5
    means = [92.0 + lean * z for z in depths]
    means[0 if end == "top" else -1] += flare
    limits = AxialLimits(taper_mm=1.0, bulge_mm=1.0, bell_mm=0.025)
    shape = axial_shape(depths, means, RingTravel(5.0, 170.0, True), limits)
    assert shape.shape_class == found.replace("top", end)


@pytest.mark.parametrize(
    ("depths", "means", "found"),
    [
        ([8.0, 30.0, 150.0, 160.0], [92.00, 92.10, 92.02, 92.01], (92.01, "below")),  # the smallest of several
        ([8.0, 30.0, 150.0, 160.0], [92.00, 92.10, 92.01, 92.02], (92.01, "below")),
        ([5.0, 8.0, 30.0, 140.0], [92.03, 92.02, 92.10, 92.00], (92.02, "above")),  # 140 is on the end: it is inside
        ([5.0, 8.0, 30.0], [92.02, 92.03, 92.10], (92.02, "above")),
        ([10.0, 30.0, 140.0], [92.0, 92.1, 92.0], None),  # both ends count as inside
        ([9.99, 30.0], [92.0, 92.1], (92.0, "above")),
        ([10.0, 140.01], [92.1, 92.0], (92.0, "below")),
    ],
)
def test_the_unworn_place_is_the_smallest_outside_the_travel_below_it_first(depths, means, found):
    at = unworn_reference(depths, means, RingTravel(10.0, 140.0, True))
    assert (None if at is None else (at.mean_mm, at.where)) == found


def test_wear_is_of_the_worst_level_inside_and_the_ridge_of_the_first_against_the_last_above():
    depths, means = [4.0, 8.0, 20.0, 60.0, 120.0, 150.0], [92.05, 92.03, 92.12, 92.15, 92.06, 92.00]
    wear = wear_and_ridge(depths, means, [m + 0.01 * i for i, m in enumerate(means)], RingTravel(10.0, 140.0, True))
    assert wear.largest_level_mean_mm == pytest.approx(0.15) and wear.largest_reading_mm == pytest.approx(0.18)
    assert (wear.reference_mm, wear.reference_from) == (92.00, "below") and wear.ridge_mm == pytest.approx(0.09)
    with pytest.raises(FitError, match="unworn place"):
        wear_and_ridge([20.0], [92.1], [92.1], RingTravel(10.0, 140.0, True))
    with pytest.raises(FitError, match="inside ring travel"):
        wear_and_ridge([150.0], [92.1], [92.1], RingTravel(10.0, 140.0, True))


@given(
    st.lists(
        st.tuples(st.floats(0.0, 200.0), st.floats(91.9, 92.2)), min_size=3, max_size=9, unique_by=lambda p: round(p[0])
    )
)
def test_bulge_and_line_are_those_of_the_usual_fits(places):
    z, d = (np.array(v) for v in zip(*sorted(places), strict=True))
    u = (z - z.mean()) / (z[-1] - z[0])
    curve = np.polyfit(u, d - d.mean(), 2)
    ends = np.polyval(curve, [u[0], u[-1]]).mean()
    assert bulge_of(z.tolist(), d.tolist()) == pytest.approx(np.polyval(curve, (u[0] + u[-1]) / 2) - ends, abs=1e-8)
    assert line_through(z.tolist(), d.tolist()).slope == pytest.approx(np.polyfit(z - z.mean(), d, 1)[0], abs=1e-10)


def test_chords_a_degree_apart_are_one():
    assert distinct_chords([0.0, 1.0]) == 1 and distinct_chords([0.0, 1.01]) == 2 and distinct_chords([]) == 0
    assert distinct_chords([0.0, 179.0]) == 1 and distinct_chords([0.0, 180.0, 90.0]) == 2


def test_sizes_at_a_few_angles_are_those_of_the_fit():
    fit = fit_level([0.0, 30.0, 60.0, 90.0, 120.0, 150.0, 165.0], [92.02, 92.06, 92.10, 92.06, 92.03, 92.01, 92.0])
    clocks = [0.0, 17.0, 91.0, 359.0]
    assert fit.harmonics_used == 3 and fit.sizes_at(clocks) == pytest.approx(
        fit.diameter_at(clocks).tolist(), abs=1e-12
    )
