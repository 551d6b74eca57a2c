"""The frame: themes, scale, type, panels, lists, files, other programs, and faults."""

import html
import re
import sys

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QColor, QFontMetricsF
from PyQt6.QtWidgets import QFileDialog, QPushButton, QWidget

from redline_bore.app import catch_faults, fault_log
from redline_bore.ui.commands import commands
from redline_bore.ui.commands.command import Group, command
from redline_bore.ui.steps.paged import PageTabs
from redline_bore.ui.theme.palette import CLEAR, CLEAR_NIGHT, LIGHT, NIGHT, contrast
from redline_bore.ui.theme.theme import Theme

CTRL = Qt.KeyboardModifier.ControlModifier


@pytest.mark.parametrize(
    "palette, least",
    [(LIGHT, 4.5), (NIGHT, 4.5), (CLEAR, 7.0), (CLEAR_NIGHT, 7.0)],
    ids=["light", "night", "clear", "clear night"],
)
def test_text_can_be_read_in_every_theme(palette, least):
    for text, ground in (
        ("ink", "paper"),
        ("ink", "sheet"),
        ("graphite", "sheet"),
        ("graphite", "paper"),
        ("tight", "sheet"),
        ("sound", "sheet"),
        ("look", "look_ground"),
        ("on_bar", "bar"),
        ("on_bar_soft", "bar"),
        ("on_redline", "redline"),
        ("redline", "sheet"),
        ("ink", "look_ground"),
        ("ink", "iron"),
    ):
        assert contrast(getattr(palette, text), getattr(palette, ground)) >= least, (text, ground)


def test_the_shipped_type_is_used_and_digits_line_up(bench):
    theme = bench.window.theme
    metrics = QFontMetricsF(theme.font(28))
    assert metrics.horizontalAdvance("1111") == metrics.horizontalAdvance("0000")
    assert metrics.horizontalAdvance("iiii....") < metrics.horizontalAdvance("0000")  # not the monospaced cut
    assert all(metrics.inFont(c) for c in "µ°±Øˮ×–→≤≥Δπ½↑↓"[:5])


@pytest.mark.parametrize(
    ("number", "step"),
    [
        *((number, step) for number in ("2041", "2036", "2047") for step in ("book_in", "gauge", "call", "hone", "sign_off")),
        ("2041", "bore"), ("2036", "bore"), ("2044", "call"), ("2044", "bore"), ("2044", "sleeve"), ("2044", "hone"),
        ("2036", "finish"), ("2044", "finish"),
    ],
)  # fmt: skip
def test_every_step_draws_in_both_themes_and_every_scale(bench_on, step, number):
    bench = bench_on(number)
    bench.go(step)
    assert bench.session.bench.step == step
    for scale in (0.8, 1.25, 2.0):
        bench.window.theme.set_scale(scale)
        bench.settle()
        assert not bench.window.grab().isNull()
    bench.key(Qt.Key.Key_D, CTRL)
    bench.settle()
    assert bench.colours(bench.window).get(NIGHT.sheet.lower(), 0) > 100


def test_scale_is_remembered_and_stops_at_its_ends(bench):
    for _ in range(12):
        bench.key(Qt.Key.Key_Plus, CTRL)
    assert bench.window.theme.scale == 2.0 and bench.window.settings.value("scale") == 2.0
    for _ in range(12):
        bench.key(Qt.Key.Key_Minus, CTRL)
    assert bench.window.theme.scale == 0.8
    assert Theme(scale=0.8).stepped(-1) == 0.8


def test_a_key_or_a_name_taken_twice_fails_where_it_is_declared():
    with pytest.raises(TypeError, match="declared twice"):
        command(Group.BENCH, 99, "Something else", "P")(lambda window: "")
    assert len({key for c in commands() for key in c.keys}) == sum(len(c.keys) for c in commands())


def test_what_a_step_does_not_do_is_said_with_where_it_is_done(bench):
    bench.go("gauge")
    bench.key(Qt.Key.Key_S)
    assert "That is done in the call step" in bench.said
    bench.key(Qt.Key.Key_N)  # silent where no step of the honing is meant
    assert "done in" not in bench.window.line.what.text() or "call step" in bench.said


def test_working_comes_and_goes_and_follows_the_cylinder(bench):
    bench.go("gauge")
    bench.key(Qt.Key.Key_W)
    panel = bench.window.over.panel
    assert panel.isVisible() and "wear = largest" in panel.body.text()
    before = panel.body.text()
    bench.key(Qt.Key.Key_4, Qt.KeyboardModifier.AltModifier)
    assert panel.body.text() != before
    bench.key(Qt.Key.Key_W)
    assert not panel.isVisible()
    bench.key(Qt.Key.Key_Question)
    assert panel.isVisible() and "Backspace" in panel.body.text()
    bench.key(Qt.Key.Key_Escape)
    assert not panel.isVisible()


@pytest.mark.parametrize("number", ["2029", "2036", "2041", "2044", "2047"])
def test_the_ledger_is_read_without_rolling_sideways(bench_on, number):
    bench = bench_on(number)
    bench.key(Qt.Key.Key_L, CTRL)
    panel, newest = bench.window.over.panel, bench.session.records[-1]
    assert panel.isVisible() and not panel.scroller.horizontalScrollBar().isVisible()
    assert panel.body.text().count("<tr>") == min(len(bench.session.records), 400)
    lines = re.sub(r"\s+", " ", html.unescape(re.sub(r"<[^>]*>", " ", panel.body.text())))
    assert re.search(rf"\b{newest.seq} \d\d-\d\d \d\d:\d\d .*{newest.person}", lines)
    assert panel.body.heightForWidth(panel.scroller.viewport().width()) < 48 * len(
        bench.session.records
    )  # two lines an entry, mostly


def test_jobs_are_found_and_opened_by_keys(bench):
    bench.key(Qt.Key.Key_J, CTRL)
    jobs = bench.window.lists.jobs
    assert jobs.list.count() == 5 and not bench.window.card.button.isVisible()
    bench.bot.keyClicks(jobs.search, "marigold")
    assert jobs.list.count() == 1
    bench.key(Qt.Key.Key_Return)
    assert bench.session.state.number == "2036"
    bench.key(Qt.Key.Key_J, CTRL)
    jobs.search.setText("zeppelin")
    assert "No job holds" in jobs.none.text()
    bench.key(Qt.Key.Key_Escape)
    assert bench.window.step is not None and bench.session.state.number == "2036"


def test_a_click_on_the_plan_and_the_strip(bench):
    bench.go("gauge")
    bench.bot.mouseClick(bench.window.plan, Qt.MouseButton.LeftButton, pos=QPoint(86, 345))  # the middle of the third
    assert bench.session.bench.cylinder == 3
    strip = bench.window.strip
    bench.bot.mouseClick(strip, Qt.MouseButton.LeftButton, pos=QPoint(round(strip._x(2)), 40))
    assert bench.session.bench.step == "call"


def test_shop_figures_are_changed_for_jobs_to_come(bench):
    bench.key(Qt.Key.Key_Comma, CTRL)
    figures = bench.window.lists.figures
    bench.bot.keyClicks(figures.search, "cleanup skin")
    assert figures.list.count() == 1 and "starting point" in figures.about.text()
    figures.value.setText("thin")
    figures.keep_value()
    assert "not a number" in figures.said.text() and figures.value.text() == "thin"
    figures.value.setText("0.02")
    figures.keep_value()
    assert bench.session.figures.number("cleanup.skin") == 0.02
    assert bench.session.state.figures.number("cleanup.skin") == 0.013  # this job keeps its own
    figures.take_shipped()
    assert bench.session.figures.number("cleanup.skin") == 0.013


def test_files_come_in_through_the_menu(bench, tmp_path, monkeypatch):
    good, bad = tmp_path / "good.csv", tmp_path / "bad.csv"
    good.write_text("cylinder,depth_mm,clock_deg,diameter_mm\n1,24,0,105.101\n")
    bad.write_text("cylinder,depth_mm,clock_deg,diameter_mm\n9,24,0,105.101\n1,24,0,x\n")
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a: (str(bad), ""))
    before = len(bench.session.records)
    bench.key(Qt.Key.Key_O, CTRL)
    assert bench.window.over.panel.isVisible() and "line 2, cylinder" in bench.window.over.panel.body.text()
    assert len(bench.session.records) == before
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a: (str(good), ""))
    bench.key(Qt.Key.Key_O, CTRL)
    assert len(bench.session.records) == before + 1 and "1 reading taken in" in bench.said


def test_an_unexpected_fault_shows_one_plain_panel_and_goes_on(bench, monkeypatch, capsys):
    monkeypatch.setattr(sys, "excepthook", sys.excepthook)
    catch_faults(bench.window)
    bench.go("gauge")
    try:
        raise ZeroDivisionError("on purpose")
    except ZeroDivisionError as error:
        sys.excepthook(type(error), error, error.__traceback__)
    assert "made a mistake" in bench.window.over.panel.title.text() and "ZeroDivisionError" in fault_log().read_text()
    capsys.readouterr()
    before = len(bench.session.records)
    bench.key(Qt.Key.Key_Escape)
    bench.surely("105.111")
    assert len(bench.session.records) == before + 1


def test_a_full_disk_is_said_and_nothing_typed_is_lost(bench, monkeypatch):
    from redline_bore.core.errors import EnvironmentTrouble

    def full(*_args):
        raise EnvironmentTrouble("The logbook cannot be used: database or disk is full. Nothing was booked")

    bench.go("gauge")
    _ = bench.session.logbook
    monkeypatch.setattr(bench.session.logbook, "append", full)
    bench.surely("105.111")
    assert "disk is full" in bench.said and bench.field.text() == "105.111"


def test_everything_on_the_screen_has_a_name(bench):
    for step in ("book_in", "gauge", "call", "bore", "hone", "sign_off"):
        bench.go(step)
        for widget in bench.window.findChildren(QWidget):
            if (
                widget.isVisible()
                and widget.focusPolicy() != Qt.FocusPolicy.NoFocus
                and not widget.objectName().startswith("qt_")
            ):
                named = widget.accessibleName() or (widget.parentWidget() and widget.parentWidget().accessibleName())
                assert named, f"{type(widget).__name__} in {step}"


def test_no_word_is_cut_off_at_the_usual_size(bench):
    """Labels of the card and the line have the room their text asks for, in every step of the worked job."""
    for step in ("book_in", "gauge", "call", "bore", "hone", "sign_off"):
        bench.go(step)
        for label in (bench.window.line.where, bench.window.line.keys, bench.window.line.kept):
            assert label.sizeHint().width() <= label.width() + 1, f"{step}: {label.text()}"
        sentence = bench.window.card.sentence
        assert sentence.heightForWidth(sentence.width()) <= sentence.height() + 1, step


def test_at_a_large_scale_in_a_small_window_the_plan_and_far_tabs_give_way(bench_on):
    bench = bench_on("2036")
    bench.go("hone")
    tabs = bench.window.step.tabs
    assert bench.window.plan.isVisible() and tabs.more.text() == "+1, V"  # a machine hone needs no pacer
    bench.window.theme.set_scale(2.0)
    bench.settle()
    assert not bench.window.plan.isVisible() and tabs.buttons["stock"].isVisible() and tabs.more.text().endswith(", V")
    for _ in range(6):  # the tab that is on is always there
        bench.key(Qt.Key.Key_V)
        bench.settle()
        assert tabs.buttons[bench.session.bench.page].isVisible()
    bench.window.theme.set_scale(1.0)
    bench.settle()
    assert bench.window.plan.isVisible() and all(b.isVisible() for n, b in tabs.buttons.items() if n != "pacer")


def test_figures_and_notes_of_the_card_roll_together_where_it_is_low(bench_on):
    bench = bench_on("2044")
    bench.go("hone")
    bench.window.theme.set_scale(1.5)
    bench.settle()
    card = bench.window.card
    assert card.rows.height() == bench.window.theme.px(29.0 * len(card._advice.figures) + 4)  # never squeezed
    assert card.scroller.verticalScrollBar().maximum() > 0


def test_steps_that_were_not_on_follow_the_theme_when_they_come_on_again(bench):
    steps = ("book_in", "gauge", "call", "bore", "hone", "finish", "sign_off")
    for step in steps:
        bench.go(step)
    bench.go("gauge")
    bench.window.theme.set_scale(2.0)
    bench.window.theme.set_night(True)
    bench.settle()
    assert [name for name, view in bench.window.steps.items() if bench.window.stack.indexOf(view) >= 0] == ["gauge"]
    for step in (*steps, "gauge"):
        bench.go(step)
        view, px, colours = bench.window.steps[step], bench.window.theme.px, bench.window.theme.palette
        assert bench.window.stack.currentWidget() is view and view.isVisible()
        for tabs in view.findChildren(PageTabs):
            assert all(
                f"font-size: {px(13)}px" in b.styleSheet() and colours.paper in b.styleSheet()
                for b in tabs.buttons.values()
            )
        for plain in [b for b in view.findChildren(QPushButton) if not b.styleSheet() and b.isVisible()]:
            assert plain.font().pixelSize() == px(14), (step, plain.text())


def test_the_card_fades_where_it_goes_on_below_and_only_there(bench):
    """No line stands cut through its middle at the edge of what rolls."""
    bench.window.resize(1280, 800)
    bench.go("call")
    scroller = bench.window.card.scroller
    bench.window.card.changes.setText("<p>one line</p>" * 60)
    bench.bot.waitUntil(lambda: scroller.verticalScrollBar().maximum() > 0 and scroller.fade.isVisible())
    bottom = scroller.viewport().geometry().bottom()
    assert scroller.fade.geometry().bottom() == bottom and scroller.fade.width() == scroller.viewport().width()
    sheet = QColor(bench.window.theme.palette.sheet).rgb()
    image = scroller.grab().toImage()
    assert {image.pixel(x, bottom) for x in range(scroller.viewport().width())} == {sheet}
    scroller.verticalScrollBar().setValue(scroller.verticalScrollBar().maximum())
    assert not scroller.fade.isVisible()
    bench.window.card.changes.setText("")
    bench.window.card.notes.setText("")
    bench.bot.waitUntil(lambda: scroller.verticalScrollBar().maximum() == 0 or scroller.fade.isVisible())
