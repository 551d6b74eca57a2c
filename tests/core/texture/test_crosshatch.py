"""The crosshatch from a picture: generated walls of known angles, blurred, noisy, one way only, empty."""

import numpy as np
import pytest
from scipy.ndimage import gaussian_filter

from redline_bore.core.errors import FitError, InputError
from redline_bore.core.texture.crosshatch_photo import crosshatch_of


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
