"""The tag: where a figure stands on its scale, what it would change, for one cylinder or for all, and why it is booked all the same."""

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from redline_bore.core.lengths import Units
from redline_bore.desk.changes import would_change
from redline_bore.desk.tag import phrases_of
from redline_bore.job.card import Advice, FigureLine, Mark
from redline_bore.job.kinds.bore import PassesStated
from redline_bore.job.kinds.gauge import ReadingBooked
from redline_bore.ui.commands.find import hang
from redline_bore.ui.frame.tag_scale import TagScale, step_of, window_of

K = Qt.Key


@pytest.fixture
def bench(bench_on):
    return bench_on("2041")


def tag_on(bench, step, name, number="2041"):
    if bench.session.job.number != number:
        bench.session.open_job(number)
    kind, phrase = next((k, p) for k, p in phrases_of(step) if k.name == name)
    hang(bench.window, step, kind, phrase)
    return bench.window.over.tag


def row_of(tag, label):
    return next(r for r in tag.tag.rows if r.label == label)


def rest(bench):
    QTest.qWait(200)
    QApplication.processEvents()


# -- the scale -----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    "about, ends, wanted",
    [
        (80.0, (1.0, 300.0), (1.0, 300.0)), (170.0, (0.0, 3000.0), (68.0, 272.0)), (0.0, (0.0, 10.0), (0.0, 10.0)),
        (11.0, (0.0, None), (4.4, 17.6)), (5.0, (None, None), (2.0, 8.0)), (100.0, (90.0, 5000.0), (90.0, 160.0)),
    ],
)  # fmt: skip
def test_what_is_engraved_lies_about_the_figure(about, ends, wanted):
    assert window_of(about, ends) == pytest.approx(wanted)


@pytest.mark.parametrize("span, step", [(20.0, 5.0), (7.0, 1.0), (0.3, 0.05), (300.0, 50.0), (1e-3, 2e-4)])
def test_a_step_is_one_two_or_five(span, step):
    assert step_of(span) == pytest.approx(step)


def test_it_is_dragged_and_turned_and_never_past_its_ends(bench):
    told, theme = [], bench.window.theme
    scale = TagScale(theme, (0.0, 14.0), 11.0, 11.0, told.append)
    scale.resize(400, 46)
    scale.show()
    for value in (0.0, 7.0, 14.0):
        QTest.mouseClick(scale, Qt.MouseButton.LeftButton, pos=QPoint(round(scale.x_of(value)), 20))
        assert told[-1] == pytest.approx(value, abs=scale.step)
    QTest.mouseClick(scale, Qt.MouseButton.LeftButton, pos=QPoint(398, 20))
    assert told[-1] == 14.0
    QTest.mouseClick(scale, Qt.MouseButton.LeftButton, pos=QPoint(1, 20))
    assert told[-1] == 0.0
    scale.stand_at(11.0)
    for turn in (120, -120):
        at = QPointF(100.0, 20.0)
        event = QWheelEvent(
            at,
            at,
            QPoint(),
            QPoint(0, turn),
            Qt.MouseButton.NoButton,
            Qt.KeyboardModifier.NoModifier,
            Qt.ScrollPhase.NoScrollPhase,
            False,
        )
        scale.wheelEvent(event)
        assert told[-1] == pytest.approx(11.0 + (scale.step if turn > 0 else -scale.step))
    scale.close()


def test_keys_take_a_step_and_the_blank_follows_the_scale(bench):
    tag = tag_on(bench, "hone", "hone_set", "2029")
    key = row_of(tag, "double strokes a minute").key
    field, scale = tag.fields[key], tag.scales[key]
    was = float(field.text())
    QTest.keyClick(field, K.Key_Up)
    assert float(field.text()) == pytest.approx(was + scale.step) and scale.now == pytest.approx(was + scale.step)
    QTest.keyClick(field, K.Key_Down)
    assert float(field.text()) == pytest.approx(was)
    tag.put_away()


# -- what stands, and where tool and block would meet ----------------------------------------------------------------


def test_two_blanks_of_one_kind_each_begin_with_what_stands(bench):
    tag = tag_on(bench, "hone", "hone_set", "2029")
    run = bench.session.job.honing.run
    assert float(row_of(tag, "out at the top").start) == run.over_top_mm
    assert float(row_of(tag, "out at the bottom").start) == run.over_bottom_mm
    rest(bench)
    assert "would change nothing" in tag.change.text()
    tag.put_away()


def test_nobody_books_by_hand_that_the_stone_strikes(bench):
    tag = tag_on(bench, "hone", "hone_set", "2029")
    row = row_of(tag, "out at the bottom")
    tag.fields[row.key].setText(f"{row.ends[1] + 0.5:g}")
    assert not tag.said().can and "would strike" in tag.said().words and not tag.book.isEnabled()
    tag.fields[row.key].setText(f"{row.ends[1]:g}")
    assert tag.said().can
    tag.put_away()


# -- what it would change --------------------------------------------------------------------------------------------


def test_what_it_would_change_is_told_once_it_rests(bench):
    tag = tag_on(bench, "hone", "hone_set", "2029")
    bench.session.set_page("set_up")
    before = bench.window.step.advice()
    tag.fields[row_of(tag, "turns a minute").key].setText("120")
    rest(bench)
    text = tag.change.text()
    assert "crosshatch, included" in text and "It would change" in text
    assert bench.window.step.advice() == before, "nothing was booked by looking"
    was = next(f.value for f in before.figures if f.label == "crosshatch, included")
    assert f"<s>{was}</s>" in text
    tag.put_away()


LINE = FigureLine("bore to", "80.1")


@pytest.mark.parametrize(
    "before, after, sentence, lines, more",
    [
        (Advice("a", "x", (LINE,)), Advice("a", "x", (LINE,)), "", [], 0),
        (Advice("a", "x", (LINE,)), Advice("a", "y", (LINE,), mark=Mark.STOP), "Stop. y", [], 0),
        (Advice("a", "x", (LINE,)), Advice("a", "x", (FigureLine("bore to", "80.2", Mark.LOOK),)), "", [("bore to", "80.1", "80.2", Mark.LOOK)], 0),
        (Advice("a", "x", (LINE,)), Advice("a", "x", (FigureLine("bore to", "80.1", Mark.STOP),)), "", [("bore to", "80.1", "80.1", Mark.STOP)], 0),
        (Advice("a", "x", (LINE,)), Advice("a", "x"), "", [("bore to", "80.1", "", Mark.PLAIN)], 0),
        (Advice("a", "x"), Advice("a", "x", (LINE,)), "", [("bore to", "", "80.1", Mark.PLAIN)], 0),
        (Advice("a", "x"), Advice("a", "x", tuple(FigureLine(str(i), "1") for i in range(8))), "", [(str(i), "", "1", Mark.PLAIN) for i in range(6)], 2),
    ],
)  # fmt: skip
def test_the_card_before_and_after(before, after, sentence, lines, more):
    found = would_change(before, after)
    assert (found.sentence, [(x.label, x.was, x.now, x.mark) for x in found.lines], found.more) == (
        sentence,
        lines,
        more,
    )
    assert found.nothing is (not sentence and not lines)


# -- for one or for all, and in spite of a doubt -----------------------------------------------------------------------


def test_what_may_be_alike_is_booked_for_one_cylinder_or_for_all(bench):
    session = bench.session
    session.select(2)
    for all_of in (False, True):
        tag = tag_on(bench, "bore", "passes_stated")
        tag.fields[next(iter(tag.fields))].setText("0.1 0.05")
        assert tag.alike.isVisible() and "Cylinder 2 only" in tag.alike.text()
        if all_of:
            QTest.keyClick(tag.fields[next(iter(tag.fields))], K.Key_C, Qt.KeyboardModifier.AltModifier)
            assert tag.alike.isChecked() and "in all five" in tag.preview.text()
        before = len(session.records)
        QTest.mouseClick(tag.book, Qt.MouseButton.LeftButton)
        new = [r.entry for r in session.records[before:]]
        assert [e.cylinder for e in new] == (list(session.job.cylinders) if all_of else [2])
        assert all(isinstance(e, PassesStated) for e in new)


def test_what_speaks_against_it_is_booked_with_its_reason_beside_it(bench):
    session = bench.session
    tag = tag_on(bench, "gauge", "reading_booked")
    tag.fields[next(iter(tag.fields))].setText("105.9")
    assert tag.said().doubt and tag.because.isVisible() and not tag.book.isEnabled()
    before = len(session.records)
    tag.enter()
    assert len(session.records) == before and tag.isVisible()
    tag.because.setText("a pit")
    QTest.mouseClick(tag.book, Qt.MouseButton.LeftButton)
    record = session.records[-1]
    assert isinstance(record.entry, ReadingBooked) and "because: a pit" in record.typed and "asked:" in record.typed
    tag = tag_on(bench, "gauge", "reading_booked")
    assert not tag.because.text(), "the next tag has its own reasons"
    tag.put_away()


def test_a_temperature_is_engraved_in_the_units_that_are_looked_at(bench):
    tag = tag_on(bench, "gauge", "block_temperature")
    metric = tag.tag.rows[0].ends
    tag.put_away()
    bench.session.set_units(Units.INCH)
    tag = tag_on(bench, "gauge", "block_temperature")
    inch = tag.tag.rows[0].ends
    assert inch == pytest.approx([e * 1.8 + 32.0 for e in metric])
    tag.put_away()


def test_an_empty_blank_says_what_it_is_booked_as(bench_on):
    bench = bench_on("2041")
    bench.window.change("hone_set")
    tag = bench.window.over.tag
    fields = {row.label: tag.fields[row.key] for row in tag.tag.rows if row.key in tag.fields}
    assert fields["turns a minute"].placeholderText() == "170 if left empty"
    assert "55 strokes" in tag.preview.text() and any(
        f.placeholderText() == "55 if left empty" for f in fields.values()
    )
    fields["turns a minute"].setText("150")
    assert "150 turns" in tag.preview.text()
    fields["turns a minute"].clear()
    assert fields["turns a minute"].placeholderText() == "170 if left empty"
