"""The pictures of the finish on a painter of their own: scales that hold, what is not known said, paper and screen alike."""

from dataclasses import replace

import numpy as np
import pytest
from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QImage

from redline_bore.core.fit import Decision
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.core.texture.parameters import texture_of
from redline_bore.core.texture.profile import even_trace
from redline_bore.job.finish import plateau
from redline_bore.job.finish.judgement import finish_of, texture_at
from redline_bore.job.sign_off.sheet import CUSTOMER, SHOP, sheet_of
from redline_bore.ui.paint.finish_bars import draw_bar, draw_mark, scale_end
from redline_bore.ui.paint.hatch_chart import draw_picture, draw_rose
from redline_bore.ui.paint.plateau_path import draw_path, last_stroke
from redline_bore.ui.paint.probability_chart import draw_paper, draw_twin
from redline_bore.ui.paint.sheet_pictures import sheet_pictures
from redline_bore.ui.paint.trace_chart import (
    draw_columns,
    draw_curve,
    draw_primary,
    draw_roughness,
    draw_together,
    span_of,
)
from redline_bore.ui.theme.theme import Theme
from tests.ui.test_paint import ink

AREA, MM = QRectF(0, 0, 700, 500), Show(Units.METRIC)


@pytest.fixture
def texture(state_of):
    return texture_at(state_of("2036").finishing.traces[-1])


def coloured(image, role, box=AREA):
    """Pixels close to a colour role."""
    wanted = Theme().colour(role)
    near = 0
    for x in range(round(box.left()), round(box.right()), 2):
        for y in range(round(box.top()), round(box.bottom()), 2):
            c = image.pixelColor(x, y)
            near += abs(c.red() - wanted.red()) + abs(c.green() - wanted.green()) + abs(c.blue() - wanted.blue()) < 30
    return near


# -- the trace -----------------------------------------------------------------------------------------------------


def test_a_long_row_keeps_its_highest_and_lowest_of_every_column(paper):
    pencil, image = paper
    z = np.zeros(50_000)
    z[31_234], z[12_000] = -5.0, 5.0  # each one point of fifty thousand
    draw_columns(pencil, AREA, z, 0.0, 1.0, lambda v: 250.0 - 40.0 * v, "ink")
    for place, y in ((31_234, 400), (12_000, 100)):
        x = round(700 * place / 50_000)
        assert any(image.pixelColor(x + d, y).lightness() < 200 for d in (-1, 0, 1))


def test_what_the_filter_cut_off_is_hatched_at_both_ends(paper, texture):
    pencil, image = paper
    draw_primary(pencil, AREA, texture, MM)
    shades = [
        {image.pixelColor(x, y).name() for x in range(left, left + 30) for y in range(475, 495)}
        for left in (8, 662, 335)
    ]  # below the trace: hatched at the ends, plain in the middle
    assert len(shades[0]) > len(shades[2]) < len(shades[1])
    assert coloured(image, "open") > 40  # the waviness is drawn over it


def test_the_levels_of_the_core_lie_where_the_heights_say(paper, texture):
    pencil, _image = paper
    y_of = draw_roughness(pencil, AREA, texture, MM)
    low, high = span_of(texture)
    assert y_of(high) < y_of(texture.family.upper) < y_of(texture.family.lower) < y_of(low)
    assert y_of(0.0) - y_of(1.0) == pytest.approx(y_of(1.0) - y_of(2.0))


@pytest.mark.parametrize("units", list(Units))
def test_the_curve_shows_its_construction(paper, texture, units):
    pencil, image = paper
    draw_curve(pencil, AREA, texture, lambda v: 100.0 - 60.0 * v, Show(units))
    assert coloured(image, "tight") > 60 and ink(image, AREA) > 3000


def test_a_wall_that_is_one_flat_says_so(paper):
    pencil, image = paper
    z = np.where(np.arange(11201) % 200 < 120, 0.0, -1.0 - 0.01 * (np.arange(11201) % 200))
    flat = texture_of(even_trace(0.5, z))
    assert flat.family.Rk < 0.2
    draw_together(pencil, AREA, flat, MM)
    draw_together(pencil, AREA, flat, MM, small=True)
    assert ink(image, AREA) > 3000


# -- bars ----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("decision", [*Decision, None])
def test_every_verdict_has_its_mark(paper, decision):
    pencil, image = paper
    draw_mark(pencil, 100, 100, decision)
    assert (ink(image, QRectF(60, 80, 120, 40)) > 10) == (decision is not None)


def test_a_bar_holds_its_window_its_dots_and_its_doubt(paper, state_of):
    pencil, image = paper
    found = finish_of(state_of("2036"), 1).of("Rvk")
    end = scale_end([found], found.window)
    assert end > max(found.most, found.window.high) and scale_end([], None) == 1.25
    draw_bar(pencil, QRectF(0, 0, 700, 40), found, [found.least, found.most], MM)
    assert coloured(image, "tight", QRectF(0, 0, 700, 40)) > 10
    draw_bar(pencil, QRectF(0, 100, 700, 40), replace(found, window=None, decision=None, side=""), [found.mean], MM)
    assert ink(image, QRectF(0, 100, 700, 40)) > 100


# -- the plateau ---------------------------------------------------------------------------------------------------


@pytest.fixture(scope="module")
def forecast_of(demo_master, shipped):
    from redline_bore.job.kinds.fold import fold
    from redline_bore.store.logbook import Logbook

    book = Logbook(demo_master)
    states = {n: fold(book.ledger(book.job_id(n)), shipped) for n in ("2036", "2029")}
    book.close()
    return plateau.foretold(states["2036"], 1, plateau.twice_traced(states["2029"]))


def test_the_path_reaches_as_far_as_it_is_of_use(forecast_of):
    assert last_stroke(forecast_of) >= forecast_of.had - forecast_of.begins + 6.0


def test_the_path_with_a_stop_still_ahead(paper, forecast_of):
    pencil, image = paper
    before = replace(forecast_of, had=0.0)
    assert before.stop_at > 0
    draw_path(pencil, AREA, before, [], MM)
    assert coloured(image, "tight") > 60 and coloured(image, "sound") > 10


def test_the_path_of_a_wall_that_reaches_nothing_has_no_bracket(paper, forecast_of):
    pencil, image = paper
    lost = replace(forecast_of, stretch_um=None)
    assert lost.strokes is None and lost.sure is None and lost.stop_at is None
    draw_path(pencil, AREA, lost, [(12.0, {"Rpk": 0.2, "Rk": 0.8, "Rvk": 1.3})], Show(Units.INCH))
    assert ink(image, AREA) > 3000


def test_several_traces_shade_the_path(paper, forecast_of):
    pencil, image = paper
    wide = {n: tuple((low * 0.8, high * 1.2) for low, high in rows) for n, rows in forecast_of.band.items()}
    draw_path(pencil, AREA, forecast_of, [], MM)
    narrow = ink(image, AREA)
    draw_path(pencil, AREA, replace(forecast_of, band=wide), [], MM)
    assert ink(image, AREA) >= narrow


# -- probability, twins, crosshatch ----------------------------------------------------------------------------------


def kneed():
    """A wall with a plain knee: a fine plateau, and deep valleys over a sixth of it."""
    chance = np.random.default_rng(3)
    z = np.where(chance.random(11201) < 0.16, -np.abs(chance.normal(0.0, 1.6, 11201)), chance.normal(0.0, 0.12, 11201))
    return texture_of(even_trace(0.5, z))


def test_a_knee_is_drawn_and_named_and_its_absence_said(paper, texture):
    pencil, image = paper
    found = kneed()
    assert found.paper.Rmq is not None and 70.0 < found.paper.Rmq < 95.0 and found.paper.Rvq > 3 * found.paper.Rpq
    draw_paper(pencil, AREA, found, MM)
    with_knee = coloured(image, "tight")
    image.fill(0xFFFFFF)
    draw_paper(pencil, AREA, texture, MM)
    assert texture.paper.Rmq is None and coloured(image, "tight") < with_knee


def test_two_walls_share_one_scale(paper, texture):
    pencil, image = paper
    other = kneed()
    span = (min(span_of(texture)[0], span_of(other)[0]), max(span_of(texture)[1], span_of(other)[1]))
    for i, wall in enumerate((texture, other)):
        draw_twin(pencil, QRectF(350 * i, 0, 350, 400), wall, f"wall {i}", span, MM)
    assert ink(image, QRectF(0, 0, 350, 400)) > 2000 and ink(image, QRectF(350, 0, 350, 400)) > 2000


def test_families_lie_over_the_picture_and_over_nothing_where_there_is_none(paper):
    pencil, image = paper
    grey = QImage(200, 150, QImage.Format.Format_Grayscale8)
    grey.fill(120)
    draw_picture(pencil, QRectF(0, 0, 400, 300), grey, (17.0, -16.0), "as seen")
    assert coloured(image, "tight") > 20 and coloured(image, "open") > 20
    draw_picture(pencil, QRectF(420, 0, 250, 200), None, (15.0, -15.0), "no picture")
    assert ink(image, QRectF(420, 0, 250, 200)) > 200


def test_the_rose_marks_what_is_wanted_on_both_sides(paper):
    pencil, image = paper
    histogram = [0.0] * 180
    for at in (107, 73):
        histogram[at] = 0.5
    draw_rose(pencil, QRectF(0, 0, 700, 140), histogram, 17.0, 17.0, (30.0, 40.0))
    left, right = ink(image, QRectF(0, 0, 350, 140)), ink(image, QRectF(350, 0, 350, 140))
    assert left == pytest.approx(right, rel=0.2)
    draw_rose(pencil, QRectF(0, 200, 700, 140), [], 17.0, 17.0, (30.0, 40.0))


# -- the sheets ----------------------------------------------------------------------------------------------------


def test_the_sheets_have_a_picture_of_every_wall_traced(state_of):
    sheet = sheet_of(state_of("2029"))
    customer, shop = (sheet_pictures(sheet, Units.METRIC, a) for a in (CUSTOMER, SHOP))
    assert set(customer) == {f"finish_{c}" for c in range(1, 5)}
    assert set(shop) == set(customer) | {f"wall_{c}" for c in range(1, 5)}
    assert customer["finish_1"].width < shop["finish_1"].width
    svg = customer["finish_2"].svg()
    assert svg.startswith("<svg") and "Finish of cylinder 2" in svg and svg.count("<poly") + svg.count("<path") > 5


def test_a_job_without_traces_has_no_picture_of_them(state_of):
    assert set(sheet_pictures(sheet_of(state_of("2041")), Units.METRIC, CUSTOMER)) == set()
    assert sheet_pictures(sheet_of(state_of("2047")), Units.METRIC, SHOP) == {}
