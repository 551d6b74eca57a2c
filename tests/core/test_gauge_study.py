"""Gauge study and the doubt of a shape: against simulated gauges whose error is known."""

import numpy as np
import pytest

from redline_bore.core.doubt import ReadingDoubt, axial_doubt, level_doubt
from redline_bore.core.errors import FitError
from redline_bore.core.gauge_study import StudyValue, drift_sd_mm, study
from redline_bore.core.shape import bulge_of, fit_level

SIX = np.arange(0, 180, 30.0)


def taken(operators, spots, repeats, sd, operator_sd, seed=1):
    chance = np.random.default_rng(seed)
    bias = {o: chance.normal(0, operator_sd) for o in operators}
    return [
        StudyValue(o, s, 92.0 + 0.01 * i + bias[o] + chance.normal(0, sd))
        for o in operators
        for i, s in enumerate(spots)
        for _ in range(repeats)
    ]


def test_repeatability_and_operators_are_told_apart():
    result = study(taken([f"o{i}" for i in range(40)], "ABC", 8, 0.001, 0.003), 0.0001)
    assert result.repeat_sd_mm == pytest.approx(0.001, rel=0.1)
    assert result.operator_sd_mm == pytest.approx(0.003, rel=0.35)
    assert result.expanded_u_mm == pytest.approx(2 * np.hypot(result.repeat_sd_mm, result.operator_sd_mm), rel=1e-9)


def test_one_operator_says_nothing_of_others():
    result = study(taken(["RM"], "A", 6, 0.001, 0.0), 0.001)
    assert result.operator_sd_mm is None and result.freedom == 5
    assert result.repeat_known_to == pytest.approx(1 / np.sqrt(10))


def test_operators_who_agree_add_nothing():
    values = [StudyValue(o, "A", 92.0 + 0.001 * (i % 2)) for o in ("RM", "TB") for i in range(6)]
    assert study(values, 0.001).operator_sd_mm == 0.0


def test_a_coarse_gauge_that_always_says_the_same_is_not_sure_for_that():
    result = study([StudyValue("RM", "A", 92.01)] * 6, 0.01)
    assert result.repeat_sd_mm == 0.0 and result.reading_sd_mm == pytest.approx(0.01 / np.sqrt(12))


def test_moving_all_readings_moves_nothing_in_the_study():
    values = taken(["RM", "TB"], "AB", 5, 0.002, 0.001)
    moved = [StudyValue(v.operator, v.spot, v.value_mm + 0.4) for v in values]
    assert study(moved, 0.001).expanded_u_mm == pytest.approx(study(values, 0.001).expanded_u_mm, rel=1e-6)


@pytest.mark.parametrize("values", [[], taken(["RM"], "A", 3, 0.001, 0), taken(["RM"], "ABCDE", 1, 0.001, 0)])
def test_too_few_readings_are_refused_with_how_many_more(values):
    with pytest.raises(FitError, match="take [1-5] more"):
        study(values, 0.001)


def test_a_reading_that_is_no_number_is_refused():
    with pytest.raises(FitError, match="strike it"):
        study([*taken(["RM"], "A", 6, 0.001, 0), StudyValue("RM", "A", float("nan"))], 0.001)


def test_drift_is_anywhere_up_to_what_the_check_found():
    assert drift_sd_mm(-0.003) == pytest.approx(0.003 / np.sqrt(3))


def test_the_doubt_of_a_level_is_what_repeated_gauging_scatters():
    chance, sd = np.random.default_rng(4), 0.002
    true = 92.0 + 0.02 * np.cos(2 * np.deg2rad(SIX - 80))
    fits = [fit_level(SIX, true + chance.normal(0, sd, 6)) for _ in range(800)]
    doubt = level_doubt(SIX, np.ones(6), fit_level(SIX, true), sd)
    assert np.std([f.mean_mm for f in fits]) == pytest.approx(doubt.mean_mm, rel=0.1)
    ovals = [f.out_of_round_second_harmonic_mm for f in fits]
    assert np.std(ovals) == pytest.approx(doubt.out_of_round_second_harmonic_mm, rel=0.1)
    assert np.std([f.long_axis_deg for f in fits]) == pytest.approx(doubt.long_axis_deg, rel=0.1)


def test_repeats_make_a_level_surer_and_two_chords_say_nothing_of_the_axis():
    fit = fit_level(SIX, np.full(6, 92.0))
    once, often = (level_doubt(SIX, np.full(6, n), fit, 0.002) for n in (1, 4))
    assert often.mean_mm == pytest.approx(once.mean_mm / 2)
    assert level_doubt([0, 90], [1, 1], fit_level([0, 90], [92.0, 92.0]), 0.002).long_axis_deg is None


def test_the_doubt_of_taper_and_bulge_is_what_scatters():
    chance, z = np.random.default_rng(6), np.array([20.0, 60.0, 100.0, 140.0])
    sds = np.array([0.001, 0.002, 0.001, 0.003])
    rows = 92.0 + chance.normal(0, 1, (3000, 4)) * sds
    doubt = axial_doubt(z, sds, 120.0)
    assert np.std(rows[:, 0] - rows[:, -1]) == pytest.approx(doubt.taper_mm, rel=0.1)
    assert np.std([bulge_of(z, row) for row in rows]) == pytest.approx(doubt.bulge_mm, rel=0.1)
    lines = [-np.polyfit(z, row, 1)[0] * 120.0 for row in rows - 92.0]
    assert np.std(lines) == pytest.approx(doubt.line_taper_mm, rel=0.1)
    assert axial_doubt(z[:2], sds[:2], 120.0).bulge_mm is None
    with pytest.raises(FitError):
        axial_doubt([20.0], [0.001], 120.0)


def test_what_is_shared_counts_for_a_size():
    assert ReadingDoubt(0.003, 0.004).expanded_u_mm == pytest.approx(0.010)
