"""Fingers, eyes and ears: touch size with its pad, high contrast, what a screen reader hears, where the window stands."""

import pytest
from PyQt6.QtCore import QPoint, QRect, QSettings, QSize, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QAbstractButton, QApplication, QComboBox, QLineEdit, QWidget

from redline_bore.app import build_window
from redline_bore.ui.frame import place
from redline_bore.ui.steps.declared import STEPS

TOUCH = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier


@pytest.fixture
def fingers(bench):
    bench.key(Qt.Key.Key_T, TOUCH)
    bench.settle()
    return bench


def press(bench, *keys):
    for key in keys:
        bench.bot.mouseClick(bench.window.card.pad.keys[key], Qt.MouseButton.LeftButton)


def small_ones(window, least):
    """What is touched and is smaller than a finger."""
    found = []
    for widget in window.findChildren((QAbstractButton, QLineEdit, QComboBox)):
        if widget.isVisible() and widget.isEnabled() and min(widget.width(), widget.height()) < least:
            if widget.parent() is not None and isinstance(widget.parent(), QComboBox):
                continue
            found.append(
                (type(widget).__name__, widget.accessibleName() or getattr(widget, "text", str)(), widget.size())
            )
    return found


@pytest.mark.parametrize("size, scale", [((1280, 800), 1.0), ((1100, 700), 1.0), ((1280, 800), 1.25)])
def test_at_touch_size_every_target_of_every_page_is_a_fingers(fingers, size, scale):
    fingers.window.resize(*size)
    fingers.window.theme.set_scale(scale)
    for step in fingers.session.steps:
        fingers.go(step)
        view = fingers.window.step
        for page in getattr(view, "titles", {"": ""}):
            if page:
                fingers.session.set_page(page)
            fingers.settle()
            assert small_ones(fingers.window, round(44 * scale)) == [], (step, page)
    for open_ in ("find", "by_hand", "jobs", "new", "figures"):
        fingers.go("gauge")
        fingers.window.do(open_)
        fingers.settle()
        assert small_ones(fingers.window, round(44 * scale)) == [], open_


def test_a_reading_is_typed_and_booked_with_the_pad_alone(fingers):
    fingers.session.open_job("2047")
    fingers.go("gauge")
    before = len(fingers.session.state.gauging.readings)
    press(fingers, "7", "8", ".", "0", "5", "9", "←")
    assert fingers.field.text() == "78.05"
    fingers.bot.mouseClick(fingers.window.card.button, Qt.MouseButton.LeftButton)
    assert len(fingers.session.state.gauging.readings) == before + 1
    press(fingers, "other", *"taper", "blank", "Esc")
    assert fingers.field.text() == "" and "t" in fingers.window.card.pad.keys
    press(fingers, "other")
    assert "7" in fingers.window.card.pad.keys and "t" not in fingers.window.card.pad.keys


def test_the_pad_types_into_what_has_the_focus_and_there_is_one_book(fingers):
    fingers.window.do("new")
    fingers.window.steps["book_in"].fields["stroke_mm"].setFocus()
    press(fingers, "9", "0")
    assert fingers.window.steps["book_in"].fields["stroke_mm"].text() == "90" and fingers.field.text() == ""
    named = [b.text() for b in fingers.window.findChildren(QAbstractButton) if b.isVisible() and "↵" in b.text()]
    assert len(named) <= 1


def test_touch_size_and_high_contrast_are_remembered_and_left_again(fingers):
    fingers.key(Qt.Key.Key_D, TOUCH)
    kept = fingers.window.settings
    assert kept.value("touch") and kept.value("clear") and fingers.window.theme.palette.paper == "#FFFFFF"
    again = build_window(fingers.session.logbook.path, "2041", kept)
    fingers.bot.addWidget(again)
    assert again.theme.touch and again.theme.clear and again.card.pad is not None
    again.close()
    fingers.key(Qt.Key.Key_T, TOUCH)
    assert not fingers.window.card.pad.isVisible() and fingers.said == "As usual."


def test_a_reader_hears_the_sentence_the_refusal_and_what_enter_does(bench):
    bench.go("gauge")
    card, line = bench.window.card, bench.window.line
    assert card.sentence.accessibleName() == f"The call: {bench.call}"
    assert line.where.accessibleName().endswith(line.where.text()) and line.where.text()
    bench.type("nonsense")
    assert "Look here" in line.what.accessibleName() and "nonsense" in line.what.accessibleName()
    assert "<" not in card.changes.accessibleName()


@pytest.mark.parametrize("step", STEPS)
def test_every_picture_on_every_page_says_what_it_shows(bench_on, step):
    from redline_bore.ui.paint.picture import Picture

    bench = bench_on("2036")
    if step not in bench.session.steps:
        pytest.skip("this job does not go there")
    bench.go(step)
    for page in getattr(bench.window.step, "titles", {"": ""}):
        if page:
            bench.session.set_page(page)
        bench.settle()
        QApplication.processEvents()
        for picture in bench.window.findChildren(Picture):
            if picture.isVisible():
                picture._say()
                assert picture.accessibleName() and picture.accessibleDescription(), (page, picture)


def test_the_window_comes_back_where_it_was_left(qtbot, demo_path, tmp_path):
    kept = QSettings(str(tmp_path / "place.ini"), QSettings.Format.IniFormat)
    window = build_window(demo_path, "2041", kept)
    qtbot.addWidget(window)
    assert window.size() == QSize(1280, 800)
    window.show()
    window.resize(1100, 700)
    window.move(20, 30)
    window.close()
    again = build_window(demo_path, "2041", kept)
    qtbot.addWidget(again)
    again.show()
    assert (again.width(), again.height(), again.pos()) == (1100, 700, QPoint(20, 30))
    again.close()


def test_the_window_fits_the_screen_there_is(qtbot, demo_path, tmp_path, monkeypatch):
    kept = QSettings(str(tmp_path / "place.ini"), QSettings.Format.IniFormat)
    kept.setValue("window/at", QPoint(5000, 30))  # on a screen that is gone
    monkeypatch.setattr(place, "room", lambda: QRect(0, 0, 1024, 600))
    window = build_window(demo_path, "2041", kept)
    qtbot.addWidget(window)
    assert window.size() == QSize(1024, 600) and window.pos() != QPoint(5000, 30)
    window.close()


# -- what a sign means, and what a picture is drawn from -----------------------------------------------------------------


def test_a_sign_is_explained_where_it_stands_to_pointer_and_finger(bench_on, qapp, monkeypatch):
    from PyQt6.QtCore import QEvent, QPointF
    from PyQt6.QtGui import QHelpEvent

    from redline_bore.ui.paint import signs
    from redline_bore.ui.paint.pencil import Sign
    from redline_bore.ui.paint.signs import MEANINGS, meaning_at

    told = []
    monkeypatch.setattr(signs.QToolTip, "showText", lambda at, text, widget: told.append(text))

    bench = bench_on("2041")
    bench.session.go("call")
    qapp.processEvents()
    rows = bench.window.card.rows
    assert rows.signs and set(MEANINGS) == set(Sign)
    rect, sign = rows.signs[0]
    at = rect.center().toPoint()
    qapp.sendEvent(rows, QHelpEvent(QEvent.Type.ToolTip, at, rows.mapToGlobal(at)))
    assert told == [MEANINGS[sign]]
    assert meaning_at(rows.signs, QPointF(-500.0, -500.0)) == ""
    QTest.mousePress(rows, Qt.MouseButton.LeftButton, pos=at)  # a finger that stays
    QTest.qWait(750)
    assert told == [MEANINGS[sign]] * 2
    QTest.mouseRelease(rows, Qt.MouseButton.LeftButton, pos=at)
    plan = bench.window.findChild(QWidget, "plan")
    assert {s for _, s in plan.signs} <= set(Sign) and plan.teller.tell(plan.signs[0][0].center().toPoint())


@pytest.mark.parametrize("number", ["2029", "2041", "2044"])
def test_the_figures_of_every_page_stand_in_a_table_that_is_walked(bench_on, number):
    bench = bench_on(number)
    for step in bench.session.steps:
        bench.session.go(step)
        bench.window.do("table")
        table = bench.window.over.panel.table
        assert table.isVisible() and table.rowCount() and table.columnCount() > 1, step
        assert all(table.item(r, c) is not None for r in range(table.rowCount()) for c in range(table.columnCount()))
        QTest.keyClick(table, Qt.Key.Key_Right)
        head = table.horizontalHeaderItem(table.currentColumn()).text()
        assert table.item(0, table.currentColumn()).data(Qt.ItemDataRole.AccessibleTextRole).startswith(f"{head}: ")
        bench.window.do("table")
        assert not bench.window.over.panel.isVisible()


def turn(widget, by):
    from PyQt6.QtCore import QPointF
    from PyQt6.QtGui import QWheelEvent

    at = QPointF(widget.rect().center())
    none = Qt.MouseButton.NoButton
    QApplication.sendEvent(
        widget, QWheelEvent(at, widget.mapToGlobal(at), QPoint(), QPoint(0, by), none, Qt.KeyboardModifier.NoModifier, Qt.ScrollPhase.NoScrollPhase, False)
    )  # fmt: skip


def test_the_wheel_walks_where_something_is_picked_and_moves_no_place_of_a_reading(bench_on):
    bench = bench_on("2041")
    bench.session.go("call")
    bench.session.set_page("options")
    assert bench.session.bench.call.option == 0
    turn(bench.window, -120)
    assert bench.session.bench.call.option == 1
    turn(bench.window, 120)
    assert bench.session.bench.call.option == 0
    bench.session.go("gauge")
    place, records = bench.session.bench.gauge.place, len(bench.session.records)
    turn(bench.window, -120)  # what no picture takes comes to the window
    assert bench.session.bench.gauge.place == place and len(bench.session.records) == records


def test_a_pen_goes_the_pointers_way():
    """Qt makes pointer events of a pen's where nobody takes those, and nobody does."""
    from PyQt6.QtCore import QCoreApplication
    from PyQt6.QtWidgets import QWidget

    from redline_bore.ui.frame import chest, tag_view  # noqa: F401
    from redline_bore.ui.steps.gauge_pages import defects, maps, readings  # noqa: F401

    def below(kind):
        for each in kind.__subclasses__():
            yield each
            yield from below(each)

    ours = {each for each in below(QWidget) if each.__module__.startswith("redline_bore")}
    assert QCoreApplication.testAttribute(Qt.ApplicationAttribute.AA_SynthesizeMouseForUnhandledTabletEvents)
    assert len(ours) > 10 and not [each for each in ours if "tabletEvent" in vars(each)]
