"""The pictures of bar, sleeve and hone on a painter of their own: to scale, redline in its place, nothing made up."""

from dataclasses import replace

import numpy as np
import pytest
from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QColor

from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.core.stroke import Motion, crosshatch, local_angle_by_depth
from redline_bore.job.bore import plan as bore
from redline_bore.job.hone.model import forecast
from redline_bore.job.hone.set_up import AngleAim
from redline_bore.job.hone.stock_ledger import FamilyRate, Ledger, LedgerCell, LedgerRow
from redline_bore.job.missing import Lack, Missing
from redline_bore.job.sleeve.deck import deck_of, seat_of
from redline_bore.job.sleeve.fit import fit_of, wanted_interference
from redline_bore.job.sleeve.heat import heat_plan
from redline_bore.ui.paint.angle_chart import draw_angle_by_depth
from redline_bore.ui.paint.cut_layers import draw_cut_layers
from redline_bore.ui.paint.deck_plan import BoreLook, draw_deck_plan
from redline_bore.ui.paint.deck_stack import draw_deck_heights, draw_seat_stack
from redline_bore.ui.paint.grip_dial import draw_grip_dial
from redline_bore.ui.paint.heat_chart import draw_heat_chart
from redline_bore.ui.paint.hole_across import Stone, draw_hole_across
from redline_bore.ui.paint.rate_rows import rate_rows
from redline_bore.ui.paint.step_marks import after_step, marks
from redline_bore.ui.paint.stock_chart import in_the_way
from redline_bore.ui.paint.stroke_plan_chart import draw_stroke_plan

AREA, INCH, MM = QRectF(0, 0, 700, 500), Show(Units.INCH), Show(Units.METRIC)


def pixels(image):
    """The picture as rows of 0xRRGGBB."""
    data = image.constBits().asarray(image.sizeInBytes())
    return np.frombuffer(data, dtype=np.uint32).reshape(image.height(), image.width()) & 0xFFFFFF


def count(image, pencil, role):
    """How many pixels have the colour of a role."""
    return int((pixels(image) == (pencil.theme.colour(role).rgb() & 0xFFFFFF)).sum())


def columns(image, colour):
    """The columns in which a colour stands."""
    return np.flatnonzero((pixels(image) == (QColor(colour).rgb() & 0xFFFFFF)).any(axis=0))


@pytest.fixture
def plan(state_of):
    return replace(bore.plan_of(state_of("2044"), 1), passes_mm=(0.08, 0.04), done=None)


def test_the_layers_of_a_cut_stand_in_their_shares_before_the_redline(paper, plan):
    pencil, image = paper
    draw_cut_layers(pencil, AREA, plan, INCH)
    red = columns(image, pencil.theme.palette.redline)
    assert red.size and red.min() > 350  # the redline is at the right of all that is taken
    before = count(image, pencil, "look")
    draw_cut_layers(pencil, AREA, plan, INCH, 0.02)
    assert count(image, pencil, "look") > before == 0  # marks are drawn into what the hone gets, when they are known


def test_a_cut_that_is_not_known_is_told_and_not_drawn(paper, plan):
    pencil, image = paper
    draw_cut_layers(pencil, AREA, replace(plan, target_mm=None, passes_mm=(), missing=Missing(Lack.NOT_GAUGED)), INCH)
    assert count(image, pencil, "redline") == 0


def test_the_way_of_the_bar_is_drawn_from_bore_to_bore(paper, state_of):
    pencil, image = paper
    block = state_of("2041").block
    looks = [BoreLook(c, None, "1", "x", "", False) for c in range(1, 6)]
    draw_deck_plan(pencil, QRectF(0, 0, 250, 500), block, looks, 1, 0.1)
    bare = pixels(image).copy()
    draw_deck_plan(pencil, QRectF(0, 0, 250, 500), block, looks, 1, 0.1, None, [(2, 4, 1, 5, 3)])
    assert (pixels(image) != bare).sum() > 400


def test_the_grip_swells_where_it_is_tight(paper, state_of):
    pencil, image = paper
    fit = fit_of(state_of("2044"), 2)
    draw_grip_dial(pencil, AREA, fit, wanted_interference(state_of("2044"), fit.parent_mm), INCH)
    blue = np.argwhere(pixels(image) == (pencil.theme.colour("tight").rgb() & 0xFFFFFF))
    away = np.hypot(blue[:, 0] - 250.0, blue[:, 1] - 350.0)
    assert away.max() > 1.15 * away.min()  # an oval parent is no circle
    even = replace(fit, sleeve=None, round_clock=None, missing=Missing(Lack.NEW_SLEEVE))
    image.fill(0xFFFFFF)
    draw_grip_dial(pencil, AREA, even, (0.06, 0.08, 0.1), INCH)
    assert count(image, pencil, "tight") == 0


def test_the_heat_chart_hatches_what_the_block_may_not_have(paper, state_of):
    pencil, image = paper
    found = heat_plan(state_of("2044"), 1)
    draw_heat_chart(pencil, AREA, found, INCH)
    assert count(image, pencil, "tight") > 100 and count(image, pencil, "redline") == 0
    assert (pixels(image)[20:60] != 0xFFFFFF).any()


def test_the_deck_and_the_seat_are_told_when_nobody_read_them(paper, state_of):
    pencil, image = paper
    draw_deck_heights(pencil, AREA, deck_of(state_of("2041"), 0), MM)
    draw_seat_stack(pencil, AREA, seat_of(state_of("2041"), 1), MM)
    assert count(image, pencil, "open") == 0
    image.fill(0xFFFFFF)
    draw_deck_heights(pencil, AREA, deck_of(state_of("2044"), 0), INCH)
    draw_seat_stack(pencil, AREA, seat_of(state_of("2044"), 1), INCH)
    assert (pixels(image) != 0xFFFFFF).sum() > 20000


def test_the_crosshatch_is_drawn_at_its_angle(paper):
    pencil, image = paper
    motion = Motion(120.0, 50.0, 0.2)
    depths = np.linspace(1.0, 149.0, 40)
    angles = local_angle_by_depth(100.0, 170.0, motion, 70.0, 20.0, depths)
    hatch = crosshatch(100.0, 120.0, 170.0, 50.0)
    draw_angle_by_depth(pencil, AREA, depths, angles, AngleAim(30.0, 40.0, 35.0, "x"), hatch, 150.0, MM)
    assert count(image, pencil, "tight") > 150


def test_a_stroke_plan_never_draws_the_prediction_past_its_end(paper, state_of):
    pencil, image = paper
    found = forecast(state_of("2044"), 2)
    draw_stroke_plan(pencil, AREA, found, None, state_of("2044").block.length_mm, INCH)
    red, blue = columns(image, pencil.theme.palette.redline), columns(image, pencil.theme.palette.tight)
    inside = blue[blue < 420]  # the load beside it is drawn in the same colour, further right
    assert red.size and inside.size and np.median(inside) < np.median(red) + 3
    measured = ((8.0, 60.0, 110.0), tuple(s + 0.001 for s in found.sizes_at((8.0, 60.0, 110.0))))
    bare = pixels(image).copy()
    draw_stroke_plan(pencil, AREA, found, measured, state_of("2044").block.length_mm, INCH)
    assert (pixels(image) != bare).any()


@pytest.mark.parametrize("share", [0.0, 0.5, 1.0])
def test_a_moving_stone_goes_from_one_turn_round_to_the_other(paper, state_of, share):
    pencil, image = paper
    state = state_of("2041")
    stone = Stone(120.0, 36.0, 14.0, True)
    draw_hole_across(pencil, AREA, state.block, state.travel, stone, (), MM, share)
    blue = columns(image, pencil.theme.palette.tight)
    wide = blue.max() - blue.min()
    image.fill(0xFFFFFF)
    draw_hole_across(pencil, AREA, state.block, state.travel, stone, (), MM, min(share + 0.3, 1.0))
    later = columns(image, pencil.theme.palette.tight)
    assert abs((later.max() - later.min()) - wide) <= 3
    assert later.min() > blue.min() or share == 1.0


# -- the wall before and after a step, and the rates side by side -----------------------------------------------------------


@pytest.mark.parametrize("rz", [0.5, 6.0, 40.0])
def test_marks_are_as_deep_as_they_are_told_and_the_same_each_time(rz):
    found = marks(rz, 3)
    assert found.max() == pytest.approx(0.0) and found.min() == pytest.approx(-rz)
    assert (found == marks(rz, 3)).all() and (found != marks(rz, 4)).any()


@pytest.mark.parametrize("a_side, own, keeps", [(1.2, 0.0, True), (8.0, 0.0, False), (8.0, 3.0, False)])
def test_a_step_keeps_what_lies_deeper_than_it_cuts(a_side, own, keeps):
    before = marks(6.5, 2)
    after = after_step(before, a_side, own, 3)
    assert (after <= before + 1e-12).all(), "metal does not go back on"
    assert after.max() == pytest.approx(-a_side)
    assert (after[before < -a_side - own] == before[before < -a_side - own]).all()
    assert bool((after == before).any()) is keeps
    assert after.min() == pytest.approx(min(-6.5 if keeps else -a_side - own, -a_side - own))


def test_the_rates_of_a_job_stand_before_those_of_its_family():
    cells = (LedgerCell("bored", 0.5, None, "TPG 321", None, (), 0), LedgerCell("coarse", 0.06, 60.0, "vitrified 150", None, ("RM",), 3),
             LedgerCell("plateau", 0.0, 12.0, "", None, ("RM",), 2))  # fmt: skip
    ledger = Ledger((LedgerRow(2, cells),), None, (FamilyRate("2029", "vee", "coarse", "vitrified 150", 0.002),))
    rows = rate_rows(ledger)
    assert [(r.name, r.own) for r in rows] == [
        ("cylinder 2, coarse, vitrified 150", True),
        ("2029, coarse, vitrified 150", False),
    ]
    assert [r.rate_mm for r in rows] == pytest.approx([0.001, 0.002])
    assert rate_rows(Ledger((), None, ())) == ()


@pytest.mark.parametrize(
    ("along", "above", "wanted"),
    [(150.0, 0.0, True), (150.0, -10.0, True), (189.0, 39.0, True), (191.0, 0.0, False), (150.0, 41.0, False), (400.0, 300.0, False)],
)  # fmt: skip
def test_the_label_of_a_steps_end_gives_way_to_the_curve_alone(along, above, wanted):
    assert in_the_way(along, above, round) is wanted
