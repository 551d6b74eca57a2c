"""The pictures, on a painter of their own: scales that hold, labels that do not touch, nothing that is not known."""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PyQt6 import sip
from PyQt6.QtCore import QObject, QRectF
from PyQt6.QtWidgets import QWidget

from redline_bore.core.block import BlockSpec, Bottom, Layout, WallKind, bore_positions, ring_travel
from redline_bore.core.errors import FitError
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.call.ladder import ladder_of
from redline_bore.job.hone.progress import progress_of
from redline_bore.job.sign_off.sheet import CUSTOMER, SHOP, OpenPoint, PointFound, sheet_of
from redline_bore.ui.frame.block_plan import looks_of
from redline_bore.ui.paint.deck_plan import bore_at, draw_deck_plan, plan_scale
from redline_bore.ui.paint.hole_across import draw_hole_across, stone_of
from redline_bore.ui.paint.pencil import CENTRE, RIGHT, nice_step, ticks
from redline_bore.ui.paint.sheet_pictures import sheet_pictures
from redline_bore.ui.paint.sheet_print import SheetPages, html_document
from redline_bore.ui.paint.size_ladder import ladder_scale
from redline_bore.ui.paint.stock_chart import stock_scale
from redline_bore.ui.paint.turns import Turns
from redline_bore.ui.paint.wall_map import draw_wall_map
from redline_bore.ui.paint.wall_picture import contours_of, wall_picture
from redline_bore.ui.theme.theme import Theme

AREA = QRectF(0, 0, 700, 500)


def ink(image, box):
    """How many pixels of a box are not white."""
    return sum(
        image.pixelColor(x, y).lightness() < 250
        for x in range(round(box.left()), round(box.right()))
        for y in range(round(box.top()), round(box.bottom()))
    )


@given(st.floats(1e-4, 1e4), st.integers(3, 9))
def test_steps_are_one_two_or_five(span, about):
    step = nice_step(span, about)
    lead = step / 10 ** math.floor(math.log10(step) + 1e-9)
    assert round(lead, 6) in (1.0, 2.0, 5.0, 10.0) and span / about <= step * 1.001


def test_ticks_cover_the_range_and_nought():
    assert ticks(-0.05, 0.21, 4) == pytest.approx([0.0, 0.1, 0.2])
    assert nice_step(0.0) == 1.0


def test_labels_never_touch(paper):
    pencil, _image = paper
    assert pencil.label(100, 100, "first", 12)
    assert not pencil.label(104, 104, "second", 12)
    assert pencil.label(100, 130, "third", 12, align=CENTRE) and pencil.label(400, 104, "fourth", 12, align=RIGHT)
    assert pencil.label(104, 104, "told anyway", 12, crowd=False)


def test_no_type_is_under_twelve(paper):
    pencil, _image = paper
    pencil.text(QRectF(0, 0, 100, 20), "small", 7)
    assert pencil.p.font().pixelSize() == 12


@pytest.mark.parametrize(
    "layout, cylinders", [(Layout.SINGLE, 1), (Layout.INLINE, 6), (Layout.VEE, 8), (Layout.FLAT, 4)]
)
def test_a_click_on_a_bore_of_any_layout_finds_it(layout, cylinders):
    block, area = BlockSpec(layout, cylinders, 92.0, 90.0, 150.0), QRectF(6, 40, 240, 640)
    scale = plan_scale(area, block, 1.0)
    for bore in bore_positions(block):
        x, y = scale.at(bore)
        assert area.contains(x, y) and bore_at(area, block, x, y, 1.0) == bore.number
    assert bore_at(area, block, 239, 39, 1.0) is None


@pytest.mark.parametrize("step", ["gauge", "call", "bore", "hone", "finish", "sign_off"])
def test_the_plan_draws_every_step(paper, state_of, step):
    pencil, image = paper
    state = state_of("2041")
    looks = looks_of(state, step, Show(Units.METRIC), 0.75)
    draw_deck_plan(pencil, QRectF(0, 0, 240, 480), state.block, looks, 4, 0.2)
    assert len(looks) == 5 and all(look.word for look in looks) and ink(image, QRectF(0, 0, 240, 480)) > 3000


def test_the_ladder_reads_back_where_it_was_drawn(state_of):
    ladder = ladder_of(state_of("2041"))
    scale = ladder_scale(AREA, ladder, 1.0)
    for rung in ladder.rungs_mm:
        assert scale.oversize(scale.y(rung)) == pytest.approx(rung)
        assert AREA.top() <= scale.y(rung) <= AREA.bottom()
    assert scale.y(1.0) < scale.y(0.5)  # diameter grows upwards


def test_the_stock_chart_has_room_for_every_check_and_the_redline(state_of):
    state = state_of("2036")
    lines = [progress_of(state, c) for c in state.cylinders]
    scale = stock_scale(AREA, lines, 1.0)
    for p in lines:
        for check in p.checks:
            assert scale.box.contains(scale.x(check.strokes), scale.y(p.redline.size_mm - check.largest_mm))
    assert scale.box.top() < scale.y(0.0) < scale.box.bottom()


@pytest.mark.parametrize("wall", list(WallKind))
@pytest.mark.parametrize("room", [None, 0.0, 14.0, 200.0])
def test_the_section_draws_what_is_known(paper, wall, room):
    pencil, image = paper
    block = BlockSpec(Layout.SINGLE, 1, 78.0, 68.0, 118.0, wall=wall, room_below_mm=room, band_mm=30.0)
    stone = stone_of(block, 0.6, 0.3, 1.5)
    draw_hole_across(pencil, AREA, block, ring_travel(block, 16.0, 12.0), stone, (), Show(Units.METRIC))
    assert ink(image, AREA) > 5000
    assert stone.out_mm == pytest.approx(
        stone.wanted_mm if room is None else min(stone.wanted_mm, max(room - 1.5, 0.0))
    )


def test_a_blind_bottom_gives_a_stone_no_room():
    block = BlockSpec(Layout.SINGLE, 1, 78.0, 68.0, 118.0, bottom=Bottom.BLIND)
    assert stone_of(block, 0.6, 0.3, 1.5).out_mm == 0.0


def test_what_was_not_read_is_not_coloured(paper, state_of):
    pencil, image = paper
    picture = wall_picture(state_of("2041"), 4, True)
    wall = draw_wall_map(pencil, AREA, picture, Show(Units.METRIC))
    unread = image.pixelColor(round(wall.left() + wall.width() * 0.25), round(wall.bottom() - 8))
    worn = image.pixelColor(round(wall.left() + wall.width() * 0.25), round(wall.top() + wall.height() * 26 / 212))
    assert worn.red() > worn.blue() + 60 and abs(unread.red() - unread.blue()) < 30
    assert np.isnan(picture.deviation_mm[0]).all() and not np.isnan(picture.profile_mm).any()


def test_contours_are_round_figures_of_the_units_looked_at():
    grid = np.outer(np.linspace(0, 0.2, 110), np.ones(181))
    for units in Units:
        unit = float(units.mm)
        levels = {c.deviation_mm / unit for c in contours_of(grid, units)}
        step = nice_step(0.2 / unit, 6)
        assert levels and all(abs(v / step - round(v / step)) < 1e-6 for v in levels)


def test_one_level_is_no_wall(state_of):
    with pytest.raises(FitError, match="two levels"):
        wall_picture(state_of("2047"), 1)


def test_the_wall_goes_out_as_vectors(state_of, qapp):
    svg = sheet_pictures(sheet_of(state_of("2041")), Units.METRIC, SHOP)["wall_4"].svg()
    assert svg.startswith("<svg") and svg.count("<poly") > 5 and "rust ring" in svg


def test_the_shop_sheet_has_a_map_for_each_cylinder_on_paper_and_in_html(state_of, qapp):
    sheet, show = sheet_of(state_of("2041")), Show(Units.METRIC)
    assert html_document(sheet, show, SHOP).count("<svg") == 5
    pages = SheetPages(sheet, show, SHOP)
    assert 2 <= pages.count <= 5
    assert ink(pages.image(0, 600), QRectF(40, 40, 500, 200)) > 1500
    assert SheetPages(sheet_of(state_of("2047")), show, SHOP).count <= 2  # nothing gauged: no maps, and no empty page


@pytest.mark.parametrize("number", ["2029", "2036", "2041", "2044", "2047"])
def test_the_customer_gets_two_pages_at_most(state_of, qapp, number):
    sheet = sheet_of(state_of(number))
    for units in Units:
        assert SheetPages(sheet, Show(units), CUSTOMER).count <= 2
    assert html_document(sheet, Show(Units.METRIC), CUSTOMER).count("<svg") == sum(
        bool(r.finish.traces) for r in sheet.rows
    )


@pytest.mark.parametrize("times", [2, 3, 4, 5, 6, 8])
def test_a_block_of_many_cylinders_still_goes_on_two_pages(state_of, qapp, times):
    sheet = sheet_of(state_of("2036"))
    rows = tuple(replace(r, cylinder=i + 1) for i, r in enumerate(sheet.rows * times))
    assert len(rows) == 2 * times
    many = replace(sheet, rows=rows, open_points=tuple(PointFound(p) for p in list(OpenPoint)[:8]))
    assert SheetPages(many, Show(Units.METRIC), CUSTOMER).count <= 2


def test_no_heading_is_left_at_the_foot_of_a_page(state_of, qapp):
    for number in ("2029", "2036"):
        pages = SheetPages(sheet_of(state_of(number)), Show(Units.METRIC), SHOP)
        layout, block, height = pages._document.documentLayout(), pages._document.begin(), pages.page.height()
        while block.isValid() and block.next().isValid():
            if block.blockFormat().headingLevel():
                tops = [layout.blockBoundingRect(b).center().y() // height for b in (block, block.next())]
                assert tops[0] == tops[1], block.text()
            block = block.next()


def test_a_cylinder_that_is_not_known_is_a_question_not_a_bar(paper, state_of):
    from redline_bore.ui.paint.size_ladder import draw_size_ladder

    pencil, image = paper
    ladder = ladder_of(state_of("2047"))
    draw_size_ladder(pencil, AREA, ladder, 0.25, 1, Show(Units.METRIC))
    assert ladder.columns[0].cleanup is None and ink(image, AREA) > 2000
    tight = Theme().colour("tight").name()
    assert all(image.pixelColor(x, 300).name() != tight for x in range(700))


def test_the_map_has_the_same_middle_and_ends_in_both_themes(qapp):
    for night in (False, True):
        theme = Theme(night=night)
        colours = theme.map_colours()
        assert len(colours) == 255
        assert colours[0].name() == theme.palette.tight.lower() and colours[-1].name() == theme.palette.open.lower()
        assert colours[127].name() == theme.palette.map_middle.lower()
        assert theme.map_colour(-9.0).name() == colours[0].name() and theme.map_colour(9.0).name() == colours[-1].name()


def test_units_on_the_map_follow_the_view(paper, state_of):
    pencil, _image = paper
    state = state_of("2036")
    for units in Units:
        picture = wall_picture(state, 1, True, units)
        assert draw_wall_map(pencil, AREA, replace(picture, defects=()), Show(units)).width() > 500


def test_pictures_are_painted_one_a_turn_those_worked_on_first_and_once(qtbot):
    painted = []

    class Plain(QWidget):
        def paintEvent(self, event):
            painted.append(self)

    owner = QObject()
    turns = Turns.of(owner)
    assert Turns.of(owner) is turns
    first, second, hidden, gone = (Plain() for _ in range(4))
    for widget in (first, second, gone):
        qtbot.addWidget(widget)
        widget.show()
        qtbot.waitExposed(widget)
    qtbot.addWidget(hidden)
    qtbot.wait(30)
    painted.clear()
    turns.update(second, first=False)
    turns.update(hidden, first=False)
    turns.update(gone, first=False)
    turns.update(first, first=True)
    turns.update(second, first=False)
    sip.delete(gone)
    assert painted == [], "none in the turn that asks"
    turns._next()
    assert painted == [first]
    turns._next()
    assert painted == [first, second]
    turns._next()
    assert painted == [first, second] and not turns._timer.isActive(), "what is hidden is painted when it is shown"
