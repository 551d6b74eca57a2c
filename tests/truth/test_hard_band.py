"""What the planner makes of a hardened band, tried against a truth that is harder there and follows no law of the core's."""

import random

import numpy as np
import pytest

from redline_bore.core.removal import Hole, Pack
from redline_bore.core.stroke_plan import PLANNING, Task, plan_strokes
from redline_bore.truth.hole import ROWS, TURNS, TrueHole
from redline_bore.truth.tools import TrueHone

BORE, LENGTH, STONE, BAND = 100.0, 150.0, 70.0, 30.0


def planned(hard):
    bands = ((0.0, BAND, hard),) if hard < 1.0 else ()
    return plan_strokes(
        Task(
            Hole(BORE, LENGTH, 3.6e-5, bands), Pack(STONE, 40.0, 150.0), tuple(np.zeros(PLANNING.cells)), 0.03, 12.0, 170.0, 45.0, 600.0, 0.2,
        )
    )  # fmt: skip


def honed(plan):
    """How far the true hole's top is tight of its middle after 60 um by that plan, mm on radius: harder at the top than anybody said."""
    grid = np.full((ROWS, TURNS), BORE / 2.0)
    hole = TrueHole(LENGTH, grid, np.zeros_like(grid), grid + 5.0, np.zeros((ROWS, 2)), [])
    hone = TrueHone(random.Random(1), 0.001, False, BAND, 1.0, 1.0, 0.0, 0.0, 0.0, 0.0)
    hone.cut(hole, 60, STONE, (plan.over_top_mm, plan.over_bottom_mm), (plan.dwell_top_s, plan.dwell_bottom_s), 45.0)
    radius, depth = hole.radius_mm.mean(axis=1), np.asarray(hole.depths_mm)
    return float(radius[(depth > 60.0) & (depth < 100.0)].mean() - radius[depth < BAND].mean())


@pytest.mark.parametrize("hard", [0.8, 0.6])
def test_a_known_band_is_worked_harder_and_comes_straighter(hard):
    known, unknown = planned(hard), planned(1.0)
    worked = known.over_top_mm - known.over_bottom_mm + 20.0 * (known.dwell_top_s - known.dwell_bottom_s)
    plain = unknown.over_top_mm - unknown.over_bottom_mm + 20.0 * (unknown.dwell_top_s - unknown.dwell_bottom_s)
    assert worked > plain
    assert honed(known) < honed(unknown)
