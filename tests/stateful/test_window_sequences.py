"""Keys, pointer, lines and gauges at random in the real window: it never breaks, never shows advice of another state, never loses a word."""

import shutil
import sys
import tempfile
from pathlib import Path

import pytest
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, rule, run_state_machine_as_test
from PyQt6.QtCore import QPoint, QPointF, QSettings, Qt
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QFileDialog

from redline_bore.core.written import write_with_comma
from redline_bore.instruments.line_protocol import GaugeReading, Temperature
from redline_bore.job.kinds.entry import Draft
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.gauge import BlockTemperature
from redline_bore.store.logbook import Logbook
from tests.stateful.lines import examples_of, picks, sizes, slips

JOBS = ("2041", "2047", "2029", "2036", "2044")
K, NONE, CTRL, SHIFT, ALT = (
    Qt.Key,
    Qt.KeyboardModifier.NoModifier,
    *(getattr(Qt.KeyboardModifier, f"{name}Modifier") for name in ("Control", "Shift", "Alt")),
)
KEYS = (
    *(getattr(K, f"Key_{c}") for c in "ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789"),
    K.Key_Return, K.Key_Return, K.Key_Escape, K.Key_Tab, K.Key_Backtab, K.Key_Up, K.Key_Down, K.Key_Left, K.Key_Right,
    K.Key_Backspace, K.Key_Delete, K.Key_Space, K.Key_Question, K.Key_Slash, K.Key_Plus, K.Key_Minus, K.Key_Period,
    K.Key_PageUp, K.Key_PageDown, K.Key_Home, K.Key_End, K.Key_F1, K.Key_F2, K.Key_F3, K.Key_F5, K.Key_F11,
)  # fmt: skip
LEAVES = {(K.Key_Q, CTRL), (K.Key_W, CTRL), (K.Key_F4, ALT)}  # these close the window: no more sequence after


class Hands(RuleBasedStateMachine):
    """One window on a logbook of its own."""

    master: Path
    figures = None

    def __init__(self):
        super().__init__()
        self.folder = Path(tempfile.mkdtemp())
        self.path = Path(shutil.copy(self.master, self.folder / "logbook.sqlite"))
        self.window, self.broken, self.kept = None, [], []

    @initialize(
        number=st.sampled_from(JOBS),
        wide=st.sampled_from((1000, 1280, 1920)),
        scale=st.sampled_from((1.0, 1.0, 1.5, 2.0)),
        looks=st.sets(st.sampled_from(("touch", "comma", "clear", "night"))),
    )
    def start(self, number, wide, scale, looks):
        from redline_bore.app import build_window

        sys.excepthook = lambda kind, error, trace: self.broken.append(error.with_traceback(trace))
        settings = QSettings(str(self.folder / "settings.ini"), QSettings.Format.IniFormat)
        settings.setValue("scale", scale)
        for name in looks:
            settings.setValue(name, True)
        self.window = build_window(self.path, number, settings)
        self.window.session.person = "RM"
        self.window.session.kept.connect(self.kept.append)
        self.window.resize(wide, int(wide * 0.625))
        self.window.show()
        assert self.window.session.logbook is not None  # opened behind the first picture, as in the program
        self.settle()

    def settle(self):
        for _ in range(300):
            QApplication.processEvents()
            if not self.window.runner._tokens:
                break
            QTest.qWait(5)
        QApplication.processEvents()

    @rule(
        keys=st.lists(
            st.tuples(st.sampled_from(KEYS), st.sampled_from((NONE, NONE, NONE, CTRL, SHIFT, ALT))),
            min_size=1,
            max_size=6,
        )
    )
    def press(self, keys):
        for key, modifier in keys:
            if (key, modifier) not in LEAVES:
                QTest.keyClick(QApplication.focusWidget() or self.window, key, modifier)
                self.close_menus()

    @rule(pick=picks, slip=slips, twice=st.booleans())
    def type_a_line(self, pick, slip, twice):
        session, field = self.window.session, self.window.line.field
        forms = examples_of(session.job, session.bench.step, session.bench.cylinder, session.bench.units) or ["22.4 C"]
        self.type_and_enter(forms[pick % len(forms)] + slip, 1 + twice)
        assert field is self.window.line.field

    @rule(
        name=st.sampled_from(
            (
                "touch",
                "comma",
                "clear",
                "paper",
                "another",
                "find",
                "by_hand",
                "jobs",
                "begin",
                "this_page",
                "who",
                "table",
            )
        )
    )
    def give_a_command(self, name):
        self.window.do(name)

    @rule(picks=st.lists(st.integers(0, 40), min_size=1, max_size=6))
    def press_the_pad(self, picks):
        pad = self.window.card.pad
        if pad is not None and pad.isVisible():
            for pick in picks:
                keys = list(pad.keys.values())
                QTest.mouseClick(keys[pick % len(keys)], Qt.MouseButton.LeftButton)

    @rule(
        pick=picks,
        drags=st.lists(st.integers(0, 400), max_size=3),
        text=st.sampled_from(("", "12", "0.1 0.05", "99999", "21 C", "-3", "words")),
        all_of=st.booleans(),
        why=st.booleans(),
    )
    def fill_a_tag(self, pick, drags, text, all_of, why):
        """Hang the tag of some line, drag its scales, write into it, for one or for all, and book it with or without a reason."""
        from redline_bore.desk.tag import phrases_of
        from redline_bore.ui.commands.find import hang

        window = self.window
        if window.session.state is None or window.session.bench.new_job:
            return
        lines = list(phrases_of(window.session.bench.step))
        kind, phrase = lines[pick % len(lines)]
        hang(window, window.session.bench.step, kind, phrase)
        tag = window.over.tag
        for scale, at in zip(tag.scales.values(), drags, strict=False):
            QTest.mouseClick(scale, Qt.MouseButton.LeftButton, pos=QPoint(at, 20))
        for field in list(tag.fields.values())[: 1 + pick % 2]:
            if text:
                field.setText(text)
        tag.alike.setChecked(all_of and tag.alike.isVisible())
        if why and tag.because.isVisible():
            tag.because.setText("read twice")
        QTest.qWait(130)  # until what it would change is told
        before, filed = len(window.session.records), tag.said()
        tag.enter()
        self.settle()
        if not filed.can:
            assert len(window.session.records) == before

    @rule(turns=st.lists(st.sampled_from((-120, 120)), min_size=1, max_size=3))
    def turn_the_wheel(self, turns):
        window, before = self.window, len(self.window.session.records)
        at = QPointF(window.rect().center())
        for turn in turns:
            event = QWheelEvent(
                at, at, QPoint(), QPoint(0, turn), Qt.MouseButton.NoButton, NONE, Qt.ScrollPhase.NoScrollPhase, False
            )
            QApplication.sendEvent(window, event)
        assert len(window.session.records) == before

    @rule(sizes=st.lists(sizes, min_size=1, max_size=4))
    def type_figures(self, sizes):
        self.type_and_enter(" ".join(sizes), 1)

    def type_and_enter(self, text, times):
        field = self.window.line.field
        field.setFocus()
        field.words = True
        field.setText(text)
        for _ in range(times):
            QTest.keyClick(field, K.Key_Return)

    @rule(across=st.floats(0.0, 0.999), down=st.floats(0.0, 0.999), twice=st.booleans())
    def touch(self, across, down, twice):
        at = QPoint(int(across * self.window.width()), int(down * self.window.height()))
        widget = self.window.childAt(at) or self.window
        click = QTest.mouseDClick if twice else QTest.mouseClick
        click(
            widget,
            Qt.MouseButton.LeftButton,
            NONE,
            widget.mapFrom(self.window, at) if widget is not self.window else at,
        )
        self.close_menus()

    @rule(
        across=st.floats(0.0, 0.999),
        down=st.floats(0.0, 0.999),
        to=st.tuples(st.floats(0.0, 0.999), st.floats(0.0, 0.999)),
    )
    def drag(self, across, down, to):
        at, until = (
            QPoint(int(x * self.window.width()), int(y * self.window.height())) for x, y in ((across, down), to)
        )
        widget = self.window.childAt(at) or self.window
        QTest.mousePress(widget, Qt.MouseButton.LeftButton, NONE, widget.mapFrom(self.window, at))
        QTest.mouseMove(widget, widget.mapFrom(self.window, until))
        QTest.mouseRelease(widget, Qt.MouseButton.LeftButton, NONE, widget.mapFrom(self.window, until))
        self.close_menus()

    @rule(wide=st.integers(1000, 1900), high=st.integers(640, 1200))
    def resize(self, wide, high):
        self.window.resize(wide, high)

    @rule(off=st.integers(-900, 900), pressed=st.booleans(), warm=st.none() | st.floats(10.0, 40.0))
    def the_gauge_sends(self, off, pressed, warm):
        self.window.instruments.heard.emit(GaugeReading(off / 1000.0, warm, None, f"reading {off}"), pressed)

    @rule(celsius=st.floats(-100.0, 200.0))
    def the_thermometer_sends(self, celsius):
        self.window.instruments.heard.emit(Temperature("block", celsius, f"temperature block {celsius}"), True)

    @rule(celsius=st.floats(15.0, 30.0))
    def another_bench_books(self, celsius):
        session = self.window.session
        book = Logbook(self.path, make=False)
        try:
            book.append(session.job_id, 0, [Draft(BlockTemperature(block_c=round(celsius, 1)), "KT")])
        finally:
            book.close()
        session.look_again()

    def close_menus(self):
        while (popup := QApplication.activePopupWidget()) is not None:
            QTest.keyClick(popup, K.Key_Escape)
            popup.close()
            QApplication.processEvents()

    @invariant()
    def nothing_broke(self):
        if self.window is None:
            return
        self.settle()
        assert not self.broken, repr(self.broken[0])
        shown = [w for w in QApplication.topLevelWidgets() if w.isVisible() and w is not self.window and w.isModal()]
        assert not shown, f"a box in the flow: {shown}"

    @invariant()
    def it_says_something(self):
        if self.window is None:
            return
        window = self.window
        assert window.line.where.text().strip()
        if window.step is not None:
            assert window.card.sentence.text().strip()
            assert not window.card.sentence.text().startswith("Stop. No advice could be worked out")

    @invariant()
    def kept_is_kept(self):
        if self.window is None:
            return
        session = self.window.session
        session.look_again()
        book = Logbook(self.path, make=False)
        try:
            there = book.ledger(session.job_id)
            every = {repr(r) for line in book.jobs() for r in book.ledger(line.job_id)} if len(self.kept) < 40 else None
        finally:
            book.close()
        assert session.records == there
        assert every is None or all(repr(r) in every for r in self.kept)

    def teardown(self):
        if self.window is not None:
            session = self.window.session
            assert repr(fold(session.records, self.figures)) == repr(session.state)
            self.window.close()
            self.window.deleteLater()
            QApplication.processEvents()
        write_with_comma(False)
        sys.excepthook = sys.__excepthook__
        shutil.rmtree(self.folder)


@pytest.mark.qt_log_ignore("This plugin does not support")
def test_one_window(demo_master, shipped, sequences, qapp, monkeypatch):
    for asks in ("getOpenFileName", "getSaveFileName"):
        monkeypatch.setattr(QFileDialog, asks, lambda *_given: ("", ""))
    from redline_bore.ui.commands import begin

    monkeypatch.setattr(begin, "open_window", lambda *_what: None)  # no other program is begun
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *_given: "")
    Hands.master, Hands.figures = demo_master, shipped
    run_state_machine_as_test(Hands, settings=sequences)
