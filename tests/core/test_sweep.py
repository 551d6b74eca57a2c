"""Sweeps: circles, lobes and the axis, against the reference cases, analytic holes and theory."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from redline_bore.core.axis import fit_cylinder
from redline_bore.core.errors import FitError
from redline_bore.core.sweep import fit_sweep, round_limits, what_gauges_see, widest_gap
from tests.vectors import cases, check, mm

TURN = np.arange(0.0, 360.0, 10.0)


@pytest.mark.parametrize("case", cases("03", "sweep_fit"))
def test_sweep_vectors(case):
    fit = fit_sweep(case["inputs"]["clock_deg"], mm(case, "radius"))
    check(
        case,
        ls_diameter=fit.least_squares.diameter_mm,
        ls_centre_x=fit.least_squares.x_mm,
        ls_centre_y=fit.least_squares.y_mm,
        ls_roundness=fit.roundness_ls_mm,
        mz_roundness=fit.roundness_mz_mm,
        mz_centre_x=fit.minimum_zone.x_mm,
        mz_centre_y=fit.minimum_zone.y_mm,
        mc_diameter=fit.circumscribed.diameter_mm,
        mi_diameter=fit.inscribed.diameter_mm,
        harmonic_amplitude_2_to_15=list(fit.amplitudes_mm),
        offset_direction_deg=fit.offset_direction_deg,
        offset=fit.offset_mm,
        largest_harmonic=fit.largest_order,
        largest_harmonic_crest_deg=fit.crest_deg(fit.largest_order),
    )


@pytest.mark.parametrize("case", cases("03", "what_gauges_see"))
def test_what_gauges_see_vectors(case):
    i = case["inputs"]
    lobes = (mm(case, "mean_diameter"), i["harmonic_order"], mm(case, "harmonic_amplitude"), i["harmonic_crest_deg"])
    two, three = what_gauges_see(i["gauge_clock_deg"], *lobes)
    around, plug = round_limits(*lobes)
    check(case, two_point=two.tolist(), three_point=three.tolist(), smallest_circle_around=around, largest_plug=plug)


@pytest.mark.parametrize("case", cases("04", "sweep_cylinder"))
def test_cylinder_vectors(case):
    depths, radii = mm(case, "depth"), mm(case, "radius")
    fit = fit_cylinder(depths, [case["inputs"]["clock_deg"]] * len(depths), radii)
    check(
        case,
        ls_diameter=fit.diameter_mm,
        centre_top_x=fit.axis.top_x_mm,
        centre_top_y=fit.axis.top_y_mm,
        centre_bottom_x=fit.axis.bottom_x_mm,
        centre_bottom_y=fit.axis.bottom_y_mm,
        drift_top_to_bottom=fit.axis.drift_mm,
        drift_direction_deg=fit.axis.drift_direction_deg,
        ls_cylindricity=fit.cylindricity_ls_mm,
        mz_cylindricity=fit.cylindricity_mz_mm,
    )


def lobed(order, size, crest, off=0.0, towards=0.0, mean=46.0):
    """Radii about a spindle that stands ``off`` mm from the centre, exactly."""
    t, a = np.deg2rad(TURN), np.deg2rad(towards)
    along, aside = off * np.cos(t - a), off * np.sin(t - a)
    reach = along + np.sqrt(mean**2 - aside**2)
    seen = np.arctan2(reach * np.sin(t) - off * np.sin(a), reach * np.cos(t) - off * np.cos(a))
    return reach + size * np.cos(order * (seen - np.deg2rad(crest)))


holes = st.tuples(st.integers(2, 8), st.floats(0.004, 0.03), st.floats(0, 359), st.floats(0, 0.05), st.floats(0, 359))


@settings(max_examples=40)
@given(holes)
def test_a_lobed_hole_is_found_whatever_the_spindle_stands(parts):
    order, size, crest, off, towards = parts
    fit = fit_sweep(TURN, lobed(*parts))
    assert fit.least_squares.radius_mm == pytest.approx(46.0, abs=2e-4)
    assert fit.offset_mm == pytest.approx(off, abs=2e-3)
    assert fit.largest_order == order
    assert fit.amplitudes_mm[order - 2] == pytest.approx(size, abs=5e-4)
    assert fit.roundness_mz_mm <= fit.roundness_ls_mm + 1e-7
    assert fit.inscribed.radius_mm <= fit.least_squares.radius_mm <= fit.circumscribed.radius_mm


@settings(max_examples=25)
@given(holes, st.floats(-180, 180))
def test_turning_the_clock_turns_the_crest_and_nothing_else(parts, turn):
    still, turned = fit_sweep(TURN, lobed(*parts)), fit_sweep(TURN + turn, lobed(*parts))
    assert turned.roundness_mz_mm == pytest.approx(still.roundness_mz_mm, abs=1e-6)
    order = still.largest_order
    apart = (turned.crest_deg(order) - still.crest_deg(order) - turn) % (360.0 / order)
    assert min(apart, 360.0 / order - apart) < 0.05


@settings(max_examples=25)
@given(holes, st.floats(-0.5, 0.5))
def test_a_longer_indicator_moves_the_size_only(parts, added):
    plain, moved = fit_sweep(TURN, lobed(*parts[:3])), fit_sweep(TURN, lobed(*parts[:3]) + added)
    assert moved.least_squares.radius_mm - plain.least_squares.radius_mm == pytest.approx(added, abs=1e-6)
    assert moved.roundness_mz_mm == pytest.approx(plain.roundness_mz_mm, abs=1e-6)


@settings(max_examples=25)
@given(holes)
def test_inches_or_millimetres_are_the_same_hole(parts):
    mm_fit, inch_fit = fit_sweep(TURN, lobed(*parts)), fit_sweep(TURN, lobed(*parts) / 25.4)
    assert inch_fit.roundness_mz_mm * 25.4 == pytest.approx(mm_fit.roundness_mz_mm, abs=1e-6)
    assert inch_fit.largest_order == mm_fit.largest_order


@given(st.floats(0.001, 0.05), st.floats(0, 120))
def test_a_three_lobe_is_seen_by_sweeps_and_three_points_and_not_by_two(lobe, crest):
    two, three = what_gauges_see(TURN, 92.0, [3], [lobe], [crest])
    assert np.ptp(two) < 1e-12 and np.ptp(three) > 3.4 * lobe
    oval_two, oval_three = what_gauges_see(TURN, 92.0, [2], [lobe], [crest])
    assert np.ptp(oval_three) < 1e-12 and np.ptp(oval_two) > 3.4 * lobe


def test_part_of_an_arc_is_refused_with_what_to_do():
    part = TURN[TURN < 200]
    assert widest_gap(part) == 170.0
    with pytest.raises(FitError, match="Sweep the whole turn"):
        fit_sweep(part, np.full(part.size, 46.0))


@pytest.mark.parametrize(
    "clocks, radii, reason",
    [
        ([0, 90, 180, 270], [46.0] * 4, "7 points"),
        (TURN, np.where(TURN == 50.0, np.nan, 46.0), "not a number"),
        ([0, 0.001, 0.002, 0.003, 120, 120.001, 240, 240.001, 240.002], [46.0] * 9, "unevenly"),
    ],
)
def test_sweeps_that_carry_nothing_are_refused(clocks, radii, reason):
    with pytest.raises(FitError, match=reason):
        fit_sweep(clocks, radii)


def test_noise_gives_the_centre_its_doubt():
    chance = np.random.default_rng(3)
    centres = [fit_sweep(TURN, 46.0 + chance.normal(0, 0.002, TURN.size)) for _ in range(200)]
    spread = np.std([f.least_squares.x_mm for f in centres])
    assert np.mean([f.centre_sd_mm for f in centres]) == pytest.approx(spread, rel=0.2)


def leaning(drift, towards, depths, worn=0.0):
    a = np.deg2rad(towards)
    rows = []
    for z in depths:
        share = (z - depths[0]) / (depths[-1] - depths[0]) - 0.5
        rows.append(lobed(2, worn, 90.0, abs(share * drift), np.rad2deg(a) + (180.0 if share < 0 else 0.0)))
    return rows


@settings(max_examples=25)
@given(st.floats(0.02, 0.3), st.floats(0, 359), st.floats(0, 0.02))
def test_a_crooked_hole_shows_by_the_drift_of_its_axis(drift, towards, worn):
    depths = [10.0, 45.0, 80.0, 115.0, 135.0]
    fit = fit_cylinder(depths, [TURN] * 5, leaning(drift, towards, depths, worn))
    assert fit.axis.drift_mm == pytest.approx(drift, abs=1e-3)
    assert abs((fit.axis.drift_direction_deg - towards + 180) % 360 - 180) < 1.0
    assert fit.cylindricity_mz_mm <= fit.cylindricity_ls_mm + 1e-7
    assert fit.tilt_deg == pytest.approx(np.rad2deg(np.arctan(drift / 125.0)), abs=2e-3)


def test_the_plug_stands_where_the_hole_was_before_it_wore():
    depths = [10.0, 60.0, 110.0]
    one_sided = 0.06 * np.maximum(0.0, np.cos(np.deg2rad(TURN - 90.0))) ** 2
    rows = [46.0 + one_sided * share for share in (1.0, 0.5, 0.0)]
    fit = fit_cylinder(depths, [TURN] * 3, rows)
    assert fit.plug_diameter_mm == pytest.approx(92.0, abs=1e-4) and fit.axis.drift_mm > 0.02
    assert abs(fit.plug_axis.top_y_mm) < fit.axis.top_y_mm / 2  # least squares lean further into the wear


def test_shifting_the_deck_zero_leaves_the_axis():
    depths = np.array([10.0, 60.0, 120.0])
    rows = leaning(0.1, 30.0, depths)
    a, b = (fit_cylinder(depths + shift, [TURN] * 3, rows) for shift in (0.0, 3.7))
    assert a.axis.drift_mm == pytest.approx(b.axis.drift_mm, abs=1e-9)
    assert a.cylindricity_mz_mm == pytest.approx(b.cylindricity_mz_mm, abs=1e-9)


def test_the_drift_carries_its_doubt():
    chance, depths = np.random.default_rng(5), [10.0, 50.0, 100.0]
    fits = [
        fit_cylinder(depths, [TURN] * 3, [46.0 + chance.normal(0, 0.003, TURN.size) for _ in depths]) for _ in range(80)
    ]
    spread = np.std([f.axis.bottom_x_mm - f.axis.top_x_mm for f in fits])
    assert np.mean([f.drift_sd_mm for f in fits]) == pytest.approx(spread, rel=0.25)


def test_one_depth_is_no_axis():
    with pytest.raises(FitError, match="two depths"):
        fit_cylinder([10.0], [TURN], [np.full(TURN.size, 46.0)])
