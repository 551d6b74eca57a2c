"""The crosshatch from a picture: generated walls of known angles, blurred, noisy, one way only, empty."""

from functools import cache

import numpy as np
import pytest
from scipy.ndimage import gaussian_filter

from redline_bore.core.errors import FitError, InputError
from redline_bore.core.texture import crosshatch_photo
from redline_bore.core.texture.crosshatch_photo import crosshatch_of


@cache
def wall(up, down, seed=1, size=(300, 400), scratches=300, noise=4.0, blur=0.8, both=True, spread=0.8):
    """Grey values of a wall with scratches ``up`` and ``down`` degrees from the horizontal, lit from one side."""
    chance = np.random.default_rng(seed)
    y, x = np.mgrid[0 : size[0], 0 : size[1]].astype(float)
    depth = np.zeros(size)
    for i in range(scratches):
        angle = np.deg2rad(chance.normal(up if i % 2 or not both else -down, spread))
        across = (x - size[1] / 2) * np.sin(angle) + (y - size[0] / 2) * np.cos(angle) - chance.uniform(-300, 300)
        depth += chance.uniform(0.2, 1.0) * np.exp(-((across / chance.uniform(0.6, 1.8)) ** 2) / 2)
    lit = 150.0 + 40.0 * x / size[1] - 25.0 * gaussian_filter(depth, blur)
    return lit + chance.normal(0.0, noise, size)


@pytest.mark.parametrize(
    "up, down", [(15.0, 15.0), (22.5, 22.5), (30.0, 30.0), (18.0, 14.0), (12.0, 20.0), (35.0, 31.0), (8.0, 8.0)]
)
def test_known_angles_are_found(up, down):
    found = crosshatch_of(wall(up, down))
    assert found.up_deg == pytest.approx(up, abs=1.0) and found.down_deg == pytest.approx(down, abs=1.0)
    assert abs(found.included_deg - (up + down)) <= max(found.u_deg, 1.2)
    assert found.lean_deg == pytest.approx((up - down) / 2.0, abs=0.8)
    assert 0.0 < found.confidence <= 1.0 and sum(found.histogram) == pytest.approx(1.0)


@pytest.mark.parametrize(
    "how", [{"noise": 20.0}, {"blur": 1.2}, {"spread": 2.0}, {"scratches": 80}, {"size": (900, 300)}]
)
def test_poorer_pictures_still_tell_it(how):
    found = crosshatch_of(wall(20.0, 17.0, **how))
    assert found.included_deg == pytest.approx(37.0, abs=2.0)


def test_a_noisy_picture_is_less_sure_of_itself():
    assert crosshatch_of(wall(20, 17, noise=30.0)).confidence < crosshatch_of(wall(20, 17, noise=2.0)).confidence


def test_a_mirrored_wall_leans_the_other_way():
    grey = wall(20.0, 14.0)
    one, other = crosshatch_of(grey), crosshatch_of(grey[:, ::-1])
    assert other.up_deg == pytest.approx(one.down_deg, abs=0.3) and other.lean_deg == pytest.approx(
        -one.lean_deg, abs=0.3
    )


def test_light_and_scale_do_not_matter():
    grey = wall(16.0, 16.0)
    assert crosshatch_of(grey * 3.0 - 100.0).included_deg == pytest.approx(crosshatch_of(grey).included_deg, abs=1e-6)


def scratchless(seed=1):
    return np.random.default_rng(seed).normal(128.0, 10.0, (300, 400))


@pytest.mark.parametrize(
    "grey, words",
    [
        (wall(18, 18, both=False), "one way only"),
        (gaussian_filter(wall(18, 18, noise=0.5), 6.0), "blurred"),
        (np.full((200, 200), 90.0), "nothing in this picture"),
        (scratchless(), "No direction stands out|No grooves"),
    ],
    ids=["one way", "blurred", "empty", "grain only"],
)
def test_pictures_that_tell_nothing_are_refused_with_what_to_do(grey, words):
    with pytest.raises(FitError, match=words):
        crosshatch_of(grey)


@pytest.mark.parametrize("grey", [np.zeros((10, 400)), np.zeros(500), np.full((100, 100), np.nan)])
def test_what_is_no_picture_is_refused(grey):
    with pytest.raises(InputError, match="pixels"):
        crosshatch_of(grey)


def test_a_picture_taken_lying_down_shows_the_other_pair():
    assert crosshatch_of(np.rot90(wall(18, 18)).copy()).included_deg > 120.0


def test_a_large_picture_is_made_smaller_first():
    grey = wall(20.0, 17.0)
    large = np.kron(grey, np.ones((8, 8)))  # 2400 by 3200
    assert crosshatch_of(large).included_deg == pytest.approx(crosshatch_of(grey).included_deg, abs=1.0)


# -- parts, by hand ------------------------------------------------------------------------------------------------


def test_a_family_has_its_middle_its_spread_and_a_quarter_of_its_waves():
    angles = np.concatenate([20.0 + np.linspace(-4.0, 4.0, 401), [60.0, -30.0]])
    centre, sd, count = crosshatch_photo._refined(angles, np.ones(403), 18.0)
    assert centre == pytest.approx(20.0, abs=1e-6) and sd == pytest.approx(
        np.std(np.linspace(-4.0, 4.0, 401)), rel=1e-6
    )
    assert count == pytest.approx(401 / 4.0)
    assert crosshatch_photo._refined(np.array([20.0]), np.array([2.0]), 20.0) == (20.0, 0.0, 1.0)


def test_spread_and_doubt_of_the_angle_are_what_the_families_give():
    found = crosshatch_of(wall(20.0, 17.0))
    assert 0.3 < found.up_sd < 4.0 and 0.3 < found.down_sd < 4.0
    assert 0.9 < found.u_deg < 1.6
    assert crosshatch_of(wall(20.0, 17.0, spread=2.5, scratches=40)).u_deg > found.u_deg


@pytest.mark.parametrize("share, wanted", [(1.0, 1.0), (0.5, 0.4), (0.0, 0.0)])
def test_confidence_is_the_share_beyond_chance(share, wanted):
    angles = np.linspace(-89.5, 89.5, 180)
    inside = (np.abs(angles - 20.0) <= 8.0) | (np.abs(angles + 20.0) <= 8.0)
    weights = np.where(inside, share / inside.sum(), (1.0 - share) / (~inside).sum())
    chance = inside.mean()
    by_hand = max(0.0, (share - chance) / (1.0 - chance))
    found = crosshatch_photo._share_in(angles, weights, (20.0, -20.0))
    assert found == pytest.approx(by_hand) and (found == pytest.approx(wanted, abs=0.03))


def histogram(*peaks, floor=0.2):
    """A histogram in degrees from -90 with peaks (angle, height)."""
    h = np.full(180, floor)
    for angle, height in peaks:
        for off, part in ((-1, 0.6), (0, 1.0), (1, 0.6)):
            h[int(angle + 90 + off) % 180] = height * part
    return h


def test_the_two_strongest_peaks_are_taken_strongest_first():
    assert crosshatch_photo._peaks(histogram((20, 5.0), (-17, 4.0), (60, 1.0))) == (20.5, -16.5)
    assert crosshatch_photo._peaks(histogram((89, 5.0), (-17, 4.0))) == (89.5, -16.5)


@pytest.mark.parametrize("peaks, words", [(((20, 5.0), (24, 4.0)), "one way only"), (((20, 5.0), (-17, 0.5)), "one way only"),
                                          (((20, 0.3),), "No direction"), (((20, 5.0),), "one way only")])  # fmt: skip
def test_peaks_too_near_or_too_weak_are_no_family(peaks, words):
    with pytest.raises(FitError, match=words):
        crosshatch_photo._peaks(histogram(*peaks))


def test_families_six_degrees_apart_are_two():
    assert crosshatch_photo._peaks(histogram((20, 5.0), (26, 4.0))) == (20.5, 26.5)


def test_a_turned_picture_is_told_so():
    with pytest.raises(FitError, match="lean the same way"):
        crosshatch_of(wall(40.0, -15.0))


def test_uneven_light_and_a_large_picture_do_not_matter():
    grey = wall(20.0, 17.0)
    y, x = np.mgrid[0 : grey.shape[0], 0 : grey.shape[1]]
    lamp = 400.0 * np.exp(-((x - 100.0) ** 2 + (y - 80.0) ** 2) / 2e4)
    assert crosshatch_of(grey + lamp).included_deg == pytest.approx(crosshatch_of(grey).included_deg, abs=0.6)
    large = np.kron(grey, np.ones((4, 4)))  # 1200 by 1600 pixels: shrunk by two before it is looked at
    assert crosshatch_of(large).included_deg == pytest.approx(37.0, abs=1.5)


@pytest.mark.parametrize("side, fine", [(64, True), (63, False)])
def test_the_smallest_picture(side, fine):
    grey = wall(20.0, 17.0, size=(side, side))
    if fine:
        crosshatch_photo._made_ready(grey)
    else:
        with pytest.raises(InputError):
            crosshatch_photo._made_ready(grey)
