"""The pictures of the gauge pages on a painter of their own: what is known is drawn where it is, the rest is hatched."""

import math

import numpy as np
import pytest
from PyQt6.QtCore import QRectF

from redline_bore.core.errors import FitError
from redline_bore.core.gauge_study import StudyValue
from redline_bore.core.lengths import Units
from redline_bore.core.plate import compare_clamping
from redline_bore.core.show import Show
from redline_bore.job.gauge import plate, second_opinion
from redline_bore.job.gauge import round as rounds
from redline_bore.job.gauge.doubt import result_of
from redline_bore.job.gauge.study import spots_of
from redline_bore.job.state.comparing import Study
from redline_bore.ui.paint.axis_drift import draw_axis_drift
from redline_bore.ui.paint.clamp_lines import draw_clamp_lines
from redline_bore.ui.paint.deck_plan import Tightening, draw_deck_plan
from redline_bore.ui.paint.lobes import draw_lobes, lobes_of
from redline_bore.ui.paint.pencil import Pencil
from redline_bore.ui.paint.polar import draw_polar, radius_deviations, value_at
from redline_bore.ui.paint.reading_ring import _hundredths
from redline_bore.ui.paint.study_dots import draw_study
from redline_bore.ui.paint.term_bars import draw_term_bars, steps_of
from redline_bore.ui.paint.wall_map import SMALL, _defect_boxes, draw_wall_map, wall_box
from redline_bore.ui.paint.wall_picture import WallKey, plate_picture, swept_picture, wall_of, wall_picture
from redline_bore.ui.theme.theme import Theme
from tests.ui.test_paint import ink

AREA, MM = QRectF(0, 0, 700, 500), Show(Units.METRIC)


def has(image, role, box=AREA):
    """Whether a colour role stands anywhere in a box."""
    wanted = Theme().colour(role).name()
    return any(
        image.pixelColor(x, y).name() == wanted
        for x in range(round(box.left()), round(box.right()))
        for y in range(round(box.top()), round(box.bottom()))
    )


def test_the_slice_shows_both_gauges_on_one_scale(paper, state_of):
    pencil, image = paper
    cut = rounds.slice_at(state_of("2041"), 2, 60.0, True)
    draw_polar(pencil, AREA, cut, 90.0, MM)
    assert has(image, "open") and has(image, "tight")
    by, value = value_at(cut, 90.0)
    assert by == "swept" and value == pytest.approx(0.02, abs=0.01)
    assert max(map(abs, radius_deviations(cut))) == pytest.approx(0.02, abs=0.01)


def test_a_slice_by_two_points_reads_half_the_diameter(state_of):
    cut = rounds.slice_at(state_of("2041"), 4, 24.0, True)
    by, value = value_at(cut, 88.0)
    fit = cut.level.fit
    assert by == "two points" and value == pytest.approx((float(fit.diameter_at(88.0)) - fit.mean_mm) / 2)


def test_nothing_read_is_no_shape(paper, state_of):
    pencil, image = paper
    cut = rounds.slice_at(state_of("2047"), 1, 30.0, False)
    draw_polar(pencil, AREA, cut, None, MM)
    assert value_at(cut, 0.0) is None and not has(image, "tight") and not has(image, "open")


def test_orders_that_were_not_seen_are_hatched_not_nought(paper, state_of):
    pencil, image = paper
    state = state_of("2041")
    seen = lobes_of(rounds.slice_at(state, 4, 24.0, True))
    assert set(seen) == {2, 4} and set(lobes_of(rounds.slice_at(state, 2, 24.0, True))) == set(range(2, 16))
    draw_lobes(pencil, AREA, rounds.slice_at(state, 4, 24.0, True), MM)
    box = AREA.adjusted(58, 6, -10, -36)
    lane = box.width() / 14
    third = QRectF(box.left() + lane * 1.2, box.top() + 4, lane * 0.6, box.height() - 8)
    assert ink(image, third) > 100 and not has(image, "tight", third)


def test_the_axis_is_drawn_from_the_spindle_with_both_directions(paper, state_of):
    pencil, image = paper
    state = state_of("2041")
    fit, _ = rounds.axis_of(state, 2, True)
    draw_axis_drift(pencil, AREA, rounds.swept_levels(state, 2, True), fit, state.block.length_mm, MM)
    assert ink(image, AREA) > 3000


def test_the_steps_of_a_gap_lead_from_nothing_to_the_gap(paper, state_of):
    pencil, image = paper
    for row in second_opinion.comparisons(state_of("2036")):
        steps = steps_of(row)
        assert steps[0].start_mm == 0.0 and steps[-1].end_mm == pytest.approx(row.opinion.gap_mm)
        assert all(a.end_mm == pytest.approx(b.start_mm) for a, b in zip(steps, steps[1:], strict=False))
    draw_term_bars(pencil, AREA, row, Show(Units.INCH))
    assert has(image, "open") and has(image, "tight")


def test_the_study_shows_every_reading_by_person(paper, state_of):
    pencil, image = paper
    state = state_of("2041")
    spots = spots_of(state)
    values = tuple(
        StudyValue(who, s.name, 105.0 + 0.001 * ((i + k) % 3))
        for k, who in enumerate(("RM", "TB", "KL"))
        for s in spots
        for i in range(5)
    )
    taken = Study(1, "two-point gauge", 0.001, values)
    draw_study(pencil, AREA, taken, spots, spots[1].name, "RM", result_of(taken), MM)
    assert has(image, "tight") and has(image, "open") and ink(image, AREA) > 8000


def test_an_empty_study_draws_its_lanes(paper, state_of):
    pencil, image = paper
    spots = spots_of(state_of("2041"))
    draw_study(pencil, AREA, Study(1, "two-point gauge", 0.001), spots, spots[0].name, "RM", None, MM)
    assert ink(image, AREA) > 1500


def test_plate_and_head_are_ticked_off_or_said_to_differ(paper, state_of):
    pencil, image = paper
    state = state_of("2041")
    draw_clamp_lines(pencil, AREA, plate.match_of(state), MM)
    assert has(image, "sound") and has(image, "look")
    image.fill(0xFFFFFF)
    unknown = compare_clamping(
        state_of("2047").clamped.held_down("plate"), state_of("2047").clamped.held_down("head"), 0.05
    )
    draw_clamp_lines(pencil, AREA, unknown, MM)
    assert not has(image, "sound") and has(image, "look_ground")


def test_the_order_of_tightening_stands_at_the_fasteners(paper, state_of):
    pencil, image = paper
    state = state_of("2041")
    from redline_bore.ui.frame.block_plan import looks_of

    looks, order = looks_of(state, "gauge", MM), plate.places_in_order(state)
    draw_deck_plan(pencil, QRectF(0, 0, 240, 480), state.block, looks, 1, 0.2)
    plain = ink(image, QRectF(0, 0, 240, 480))
    draw_deck_plan(pencil, QRectF(0, 0, 240, 480), state.block, looks, 1, 0.2, Tightening(order, 5, frozenset({6, 7})))
    assert ink(image, QRectF(0, 0, 240, 480)) > plain


@pytest.mark.parametrize("kind, cylinder", [("now", 4), ("on", 4), ("off", 4), ("plate", 3), ("swept", 2)])
def test_every_kind_of_wall_is_worked_out_and_drawn(paper, state_of, kind, cylinder):
    pencil, image = paper
    picture = wall_of(state_of("2041"), WallKey(kind, cylinder), Units.METRIC)
    draw_wall_map(pencil, AREA, picture, MM)
    draw_wall_map(pencil, QRectF(0, 0, 300, 200), picture, MM, SMALL)
    assert picture.cylinder == cylinder and picture.contours and not np.isnan(picture.profile_mm).any()
    assert (
        wall_box(pencil.theme, QRectF(0, 0, 300, 200), SMALL).width()
        > wall_box(pencil.theme, QRectF(0, 0, 300, 200)).width()
    )


def test_the_difference_is_on_less_off(state_of):
    state = state_of("2036")
    both, on, off = plate_picture(state, 1), wall_picture(state, 1, True), wall_picture(state, 1, False)
    for depth, clock in ((18.0, 0.0), (18.0, 90.0), (60.0, 40.0)):
        assert both.at(depth, clock) == pytest.approx(on.at(depth, clock) - off.at(depth, clock), abs=2e-4)


@pytest.mark.parametrize("kind, reason", [("plate", "plate on"), ("swept", "No sweep"), ("now", "two levels")])
def test_a_wall_that_was_not_read_says_why(state_of, kind, reason):
    with pytest.raises(FitError, match=reason):
        wall_of(state_of("2047"), WallKey(kind, 1))


def test_a_swept_wall_shows_on_which_side_it_wore(state_of):
    picture = swept_picture(state_of("2041"), 2, True)
    worn, other = picture.at(30.0, 84.0), picture.at(30.0, 264.0)
    assert worn > 2 * max(other, 0.0) and worn > 0.03


@pytest.mark.parametrize(
    "value, units, text",
    [
        (0.104, Units.METRIC, "10"),
        (-0.002, Units.METRIC, "0"),
        (-0.012, Units.METRIC, "−1"),
        (0.0254, Units.INCH, "1.0"),
    ],
)
def test_small_figures_never_show_a_minus_before_nought(value, units, text):
    assert _hundredths(value, Show(units)) == text


def test_words_are_shortened_whole(paper):
    pencil, _ = paper
    text = "wear, out of round, taper above the others"
    short = pencil.fitted(text, 150.0)
    assert short.endswith("…") and pencil.width_of(short, 12) <= 150 + pencil.width_of(" …", 12)
    assert pencil.fitted("wear", 1.0) == "wear" and pencil.fitted(text, 2000.0) == text and math.isfinite(len(short))


def test_figures_of_a_map_give_way_to_defects(paper, state_of, monkeypatch):
    pencil, _image = paper
    picture = wall_of(state_of("2041"), WallKey("now", 4), Units.METRIC)
    figures, written = [], Pencil.label

    def label(self, x, y, text, *given, crowd=True, **named):
        drawn = written(self, x, y, text, *given, crowd=crowd, **named)
        if drawn and crowd:
            figures.append(self.labelled[-1])
        return drawn

    monkeypatch.setattr(Pencil, "label", label)
    wall = draw_wall_map(pencil, AREA, picture, MM)
    marks = [box for d in picture.defects for box in _defect_boxes(pencil, wall, picture, d)]
    inside = [box for box in figures if wall.contains(box.center())]
    assert marks and len(inside) > 3 and not any(box.intersects(mark) for box in inside for mark in marks)
