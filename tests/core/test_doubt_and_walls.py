"""Doubt along the axis, and the outside of a wall row, against the formulas written out."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from redline_bore.core.doubt import axial_doubt
from redline_bore.core.errors import FitError
from redline_bore.core.wall import WallRow, WallSpot, largest_diameter, outside_round, wall_after


def test_the_doubt_of_a_taper_is_of_its_two_ends_and_that_of_the_line_of_all():
    z, sd = [10.0, 60.0, 110.0, 140.0], [0.001, 0.002, 0.003, 0.004]
    found = axial_doubt(z, sd, 130.0)
    u = np.array(z) - np.mean(z)
    assert found.taper_mm == pytest.approx(math.hypot(0.001, 0.004))
    assert found.line_taper_mm == pytest.approx(130.0 * math.sqrt(((u * np.array(sd)) ** 2).sum()) / (u**2).sum())
    assert axial_doubt(z[:2], sd[:2], 130.0).bulge_mm is None
    with pytest.raises(FitError):
        axial_doubt(z[:1], sd[:1], 130.0)


def test_the_doubt_of_a_bulge_is_what_each_level_alone_would_do():
    z, sd = [10.0, 70.0, 130.0], [0.001, 0.002, 0.003]
    found = axial_doubt(z, sd, 120.0)  # of three even levels the bulge is the middle less the mean of the ends
    assert found.bulge_mm == pytest.approx(math.sqrt(0.002**2 + (0.001 / 2) ** 2 + (0.003 / 2) ** 2))


@given(st.floats(4.0, 9.0), st.floats(-1.0, 1.0), st.floats(-1.0, 1.0), st.floats(0.0, 360.0))
def test_a_core_off_centre_is_carried_round(mean, cos, sin, clock):
    sides = (0.0, 90.0, 180.0, 270.0)
    read = [mean + cos * math.cos(math.radians(s)) + sin * math.sin(math.radians(s)) for s in sides]
    found = outside_round(WallRow(40.0, sides, tuple(read), 46.0), [clock])[0]
    t = math.radians(clock)
    assert found == pytest.approx(46.0 + mean + cos * math.cos(t) + sin * math.sin(t), abs=1e-9)


@given(st.floats(0.0, 360.0), st.floats(-0.3, 0.3), st.floats(-0.3, 0.3), st.floats(3.0, 8.0))
def test_the_largest_bore_about_an_axis_leaves_the_limit_there(clock, x, y, wall):
    spot = WallSpot(clock, 40.0, wall, 46.0, "thrust")
    size = largest_diameter([spot], {"thrust": 2.5}, x, y)
    assert size is not None and wall_after([spot], size, x, y)[0] == pytest.approx(2.5, abs=1e-9)
    assert wall_after([spot], 92.0 - 2.0, x, y)[0] == pytest.approx(wall)  # where the tool misses nothing is taken
