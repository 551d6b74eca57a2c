"""Extremes of many noisy readings hold the truth about as often as they say, by draws on quick, full and race plans."""

import math

import numpy as np
import pytest

from bench.extremes import PLANS, held
from redline_bore.core.errors import FitError
from redline_bore.core.extremes import (
    Extreme,
    largest_between,
    oval_between,
    smallest_between,
    two_directions_between,
    wear_between,
)

SD = 0.0015


@pytest.mark.parametrize("plan", PLANS)
@pytest.mark.parametrize("true_mm", [0.0, 0.005, 0.1])
def test_what_is_stated_holds_the_truth(plan, true_mm):
    draws = 60
    for what, share in held(plan, true_mm, draws, seed=11).items():
        assert share >= 0.95 - 4.0 * math.sqrt(0.95 * 0.05 / draws), (what, share)


def test_a_round_hole_is_under_and_not_out_of_round():
    rng = np.random.default_rng(5)
    angles = np.arange(6) * math.pi / 6.0
    unders, highs = 0, []
    for _ in range(40):
        d = rng.normal(0.0, SD, (5, 6))
        amplitudes = np.hypot(d @ np.cos(2 * angles), d @ np.sin(2 * angles)) / 3.0
        found = oval_between(amplitudes.tolist(), [6] * 5, SD)
        unders += found.low_mm == 0.0
        highs.append(found.high_mm)
    assert unders >= 36 and min(highs) > 0.0 and sorted(highs)[20] < 0.0075 and max(highs) < 0.010


def test_far_from_the_noise_only_the_noise_of_one_level_is_left():
    found = oval_between([0.5], [6], SD)
    scale = 2.0 * SD / math.sqrt(3.0)
    assert found.middle_mm == pytest.approx(1.0, abs=scale) and found.half_mm == pytest.approx(2.05 * scale, rel=0.05)
    far = oval_between([5.0], [6], SD)
    assert far.half_mm == pytest.approx(found.half_mm, rel=0.02)


def test_more_levels_free_the_largest_of_more():
    one = oval_between([0.004], [6], SD)
    many = oval_between([0.004] + [0.0039] * 7, [6] * 8, SD)
    assert many.middle_mm < one.middle_mm
    alone = largest_between([80.0], [0.0], 6, SD)
    crowd = largest_between([80.0] * 8, [0.0] * 8, 6, SD)
    assert crowd.middle_mm < alone.middle_mm


def test_the_smallest_is_the_mirror_of_the_largest():
    means, amplitudes = [80.01, 80.02, 80.015], [0.004, 0.006, 0.002]
    top = largest_between(means, amplitudes, 6, SD)
    low = smallest_between([-m for m in means], amplitudes, 6, SD)
    assert (low.low_mm, low.high_mm) == (pytest.approx(-top.high_mm), pytest.approx(-top.low_mm))


def test_wear_by_the_levels_that_were_tried():
    each = SD / math.sqrt(4)
    for levels, z in ((1, 2.78), (2, 2.78), (4, 3.12), (7, 3.38), (20, 3.38)):
        found = wear_between([80.05] * levels, 80.0, 4, SD)
        assert found.low_mm == pytest.approx(0.05 - z * each) and found.high_mm == pytest.approx(0.05 + 2.66 * each)
    assert wear_between([80.0], 80.0, 4, SD) == Extreme(0.0, pytest.approx(2.66 * each))
    assert wear_between([79.9], 80.0, 4, SD) == Extreme(0.0, 0.0)


@pytest.mark.parametrize(
    "work",
    [
        lambda: oval_between([], [], SD),
        lambda: oval_between([0.1], [2], SD),
        lambda: oval_between([0.1], [6], 0.0),
        lambda: two_directions_between([], SD),
        lambda: two_directions_between([0.1], 0.0),
        lambda: wear_between([], 80.0, 4, SD),
        lambda: wear_between([80.0], 80.0, 0, SD),
        lambda: largest_between([], [], 6, SD),
        lambda: largest_between([80.0], [0.1], 2, SD),
        lambda: smallest_between([80.0], [0.1], 6, 0.0),
    ],
)
def test_too_little_is_refused(work):
    with pytest.raises(FitError):
        work()


@pytest.mark.parametrize("worn", [1, 2, 3, 4, 5, 6, 7, 12])
def test_how_far_under_the_largest_mean_the_wear_lies_goes_by_the_logarithm_of_the_levels(worn):
    levels, z = (2.0, 4.0, 7.0), (2.78, 3.12, 3.38)
    wanted = float(np.interp(math.log(worn), np.log(levels), z))
    found = wear_between([92.1] * worn, 92.0, 4, 0.004)
    assert found.low_mm == pytest.approx(0.1 - wanted * 0.002)
