"""The window: the frame's fixed parts around the step at hand, and the keys that drive them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import TYPE_CHECKING

from PyQt6.QtCore import QSettings, QTimer
from PyQt6.QtGui import QAction, QCloseEvent, QKeySequence, QResizeEvent
from PyQt6.QtWidgets import QHBoxLayout, QMainWindow, QMenu, QStackedWidget, QVBoxLayout, QWidget

from redline_bore.core.errors import BenchError, InputError
from redline_bore.job.kinds.entry import Record
from redline_bore.job.kinds.gauge import BlockTemperature
from redline_bore.job.sign_off.closing import told_closed
from redline_bore.job.words.card import Advice, Mark
from redline_bore.ui.background import Runner
from redline_bore.ui.commands import Commands
from redline_bore.ui.frame.block_plan import BlockPlan
from redline_bore.ui.frame.call_card import CallCard
from redline_bore.ui.frame.gauge_line import GaugeLine
from redline_bore.ui.frame.keys import KEYS
from redline_bore.ui.frame.panel import Panel, working_html
from redline_bore.ui.frame.route_strip import RouteStrip
from redline_bore.ui.instrument_link import InstrumentLink
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import StepView
from redline_bore.ui.theme.theme import Theme

if TYPE_CHECKING:
    from redline_bore.instruments.line_protocol import HoneLoad, Message, Temperature, TraceReading
    from redline_bore.ui.frame.job_list import JobList
    from redline_bore.ui.frame.shop_figures import ShopFigures

OTHER_PROGRAM_MS = 2500


def make_step(name: str, window: MainWindow) -> StepView:
    """The view of a step. Imported when it is first shown: the first picture must not wait for the others."""
    session, theme = window.session, window.theme
    if name == "book_in":
        from redline_bore.ui.steps.book_in import BookInStep

        return BookInStep(session, theme)
    if name == "gauge":
        from redline_bore.ui.steps.gauge import GaugeStep

        step = GaugeStep(session, theme, window.runner)
        step.proposed.connect(window.propose)
        return step
    if name == "call":
        from redline_bore.ui.steps.call import CallStep

        return CallStep(session, theme, window.runner)
    if name == "bore":
        from redline_bore.ui.steps.bore import BoreStep

        bore_step = BoreStep(session, theme, window.runner)
        bore_step.proposed.connect(window.propose)
        return bore_step
    if name == "sleeve":
        from redline_bore.ui.steps.sleeve import SleeveStep

        sleeve_step = SleeveStep(session, theme, window.runner)
        sleeve_step.proposed.connect(window.propose)
        return sleeve_step
    if name == "hone":
        from redline_bore.ui.steps.hone import HoneStep

        hone_step = HoneStep(session, theme, window.runner)
        hone_step.proposed.connect(window.propose)
        return hone_step
    if name == "finish":
        from redline_bore.ui.steps.finish import FinishStep

        finish_step = FinishStep(session, theme, window.runner)
        finish_step.proposed.connect(window.propose)
        return finish_step
    from redline_bore.ui.steps.sign_off import SignOffStep

    return SignOffStep(session, theme, window.runner, window.commands.export_one)


PLAN_FROM_PX = 800.0  # at 100 %: narrower than that, the plan is not shown


class MainWindow(QMainWindow):
    """The one window of the program."""

    def __init__(self, session: Session, theme: Theme, settings: QSettings):
        super().__init__()
        self.session, self.theme, self.settings = session, theme, settings
        self.setStyleSheet(theme.style_sheet())  # before there are widgets: each is dressed once
        self.setFont(theme.font())
        self.runner, self.gauge = Runner(), InstrumentLink(session)
        self.thermometer, self.hone = InstrumentLink(session, "thermometer"), InstrumentLink(session, "hone")
        self.profilometer = InstrumentLink(session, "profilometer")
        self.commands = Commands(self)
        self.strip, self.plan = RouteStrip(session, theme), BlockPlan(session, theme)
        self.card, self.line = CallCard(theme), GaugeLine(session, theme)
        self.jobs: JobList | None = None  # the lists are made when they are first asked for
        self.figures: ShopFigures | None = None
        self.stack = QStackedWidget()
        self.steps: dict[str, StepView] = {}
        self._against: tuple[str, ...] = ()
        self._build()
        self._panel: Panel | None = None
        self._connect()
        self._make_actions()
        self.setMinimumSize(1000, 640)
        self.resize(1280, 800)

    # -- building --------------------------------------------------------------------------------------------------

    def _build(self) -> None:
        middle = QHBoxLayout()
        middle.setSpacing(0)
        for widget, stretch in ((self.plan, 0), (self.stack, 1), (self.card, 0)):
            middle.addWidget(widget, stretch)
        column = QVBoxLayout()
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.strip)
        column.addLayout(middle, 1)
        column.addWidget(self.line)
        centre = QWidget()
        centre.setLayout(column)
        self.setCentralWidget(centre)

    def _connect(self) -> None:
        self.session.changed.connect(self._heard)
        self.session.kept.connect(self._tell_doubts)
        self.theme.changed.connect(self._restyle)
        self.card.pressed.connect(self.enter)
        self.card.working.connect(self.commands.working)
        self.card.keys.connect(self.commands.keys)
        self.strip.units.clicked.connect(self.commands.units)
        self.strip.plate.clicked.connect(self.commands.plate)
        self.hone.garbled.connect(self._garbled_load)
        for instrument in (self.gauge, self.thermometer, self.hone, self.profilometer):
            instrument.said.connect(self.line.tell)
            instrument.read.connect(self.take_reading)
        self.line.field.space_reads = lambda: (
            self.step is not None and self.step.reads and self.asked(self.step).connected
        )
        self._other = QTimer(self)
        self._other.setInterval(OTHER_PROGRAM_MS)
        self._other.timeout.connect(self.session.look_again)
        self._other.start()

    def _make_actions(self) -> None:
        menu, group = QMenu(self), ""
        for key in KEYS:
            action = QAction(key.words, self)
            action.setObjectName(key.name)
            action.setShortcuts([QKeySequence(k) for k in key.keys])
            action.setShortcutVisibleInContextMenu(True)
            action.triggered.connect(lambda _checked, name=key.name: self.commands.run(name))
            self.addAction(action)
            if key.group != group and not menu.isEmpty():
                menu.addSeparator()
            group = key.group
            menu.addAction(action)
        for name, sequence, across, down in (
            ("Left", "Left", -1, 0),
            ("Right", "Right", 1, 0),
            ("Up", "Up", 0, -1),
            ("Down", "Down", 0, 1),
        ):
            self._add_key(name, sequence, lambda a=across, d=down: self.move_in_step(a, d))
            self._add_key(f"probe {name}", f"Shift+{sequence}", lambda a=across, d=down: self.move_probe(a, d))
        for number in range(1, 25):
            digit = number % 10
            shift = "Shift+" * (number > 10)
            if number <= 20:
                self._add_key(f"cylinder {number}", f"Alt+{shift}{digit}", lambda n=number: self.session.select(n))
            if number <= 10:
                self._add_key(f"digit {number}", f"{digit}", lambda n=number: self.session.select(n))
        self.strip.menu.setMenu(menu)

    def _add_key(self, name: str, sequence: str, act: Callable[[], None]) -> None:
        action = QAction(name, self)
        action.setShortcut(QKeySequence(sequence))
        action.triggered.connect(lambda _checked: act())
        self.addAction(action)

    @property
    def panel(self) -> Panel:
        """The panel over the work, made when it is first needed."""
        if self._panel is None:
            self._panel = Panel(self.stack, self.theme)
        return self._panel

    def asked(self, view: StepView) -> InstrumentLink:
        """The instrument that Space asks in a step."""
        return self.profilometer if view.asks == "profilometer" else self.gauge

    # -- what is on ------------------------------------------------------------------------------------------------

    @property
    def step(self) -> StepView | None:
        """The step on the screen; None while a list is."""
        widget = self.stack.currentWidget()
        return widget if isinstance(widget, StepView) else None

    def _restyle(self) -> None:
        self._make_room()
        self.setStyleSheet(self.theme.style_sheet())
        self.setFont(self.theme.font())
        for step in self.steps.values():
            step.update()
        self.session.changed.emit(frozenset({"theme"}))

    def _heard(self, topics: frozenset[str]) -> None:
        if topics & {"job", "step", "new_job"}:
            self.show_step()
        if "page" in topics:
            self.line.clear_remark()
        self.refresh_words()

    def show_step(self) -> None:
        """Bring the session's step on, with the field ready for typing."""
        if self.session.state is None and not self.session.bench.new_job:
            return
        name = self.session.bench.step
        if name not in self.steps:
            self.steps[name] = make_step(name, self)
            self.stack.addWidget(self.steps[name])
        view = self.steps[name]
        before = self.step
        if before is not None and before is not view:
            self.session.bench.unsaid[before.name] = self.line.field.text()
        self.stack.setCurrentWidget(view)
        if self._panel is not None:
            self._panel.put_away()
        if before is not view:
            self.line.field.setText(self.session.bench.unsaid.get(name, ""))
            self.line.clear_remark()
        self.line.field.digits_pick = view.digits_pick
        self.line.field.setFocus()
        view.shown()

    def refresh_words(self) -> None:
        """The card and the gauge line, from the step at hand."""
        view = self.step
        ready = self.session.state is not None or self.session.bench.new_job
        self.setWindowTitle(
            "Redline Bore" if self.session.state is None else f"{self.session.state.number} – Redline Bore"
        )
        if view is None or not ready:
            return
        advice = self._with_doubts(view.advice())
        if self.session.state is not None and not self.session.bench.new_job:
            advice = told_closed(self.session.state, view.name, advice)
        self.card.show_advice(advice)
        if self._panel is not None:
            self._panel.renew("working", working_html(advice, self.theme))
        text = view.line_text()
        self.line.say(text.where, text.what, text.keys)
        self.line.field.setPlaceholderText(text.hint)

    def propose(self, text: str) -> None:
        """Put words into the field, to be finished and booked with Enter."""
        self.line.field.words = True
        self.line.field.setText(text)
        self.line.field.setFocus()

    def _with_doubts(self, advice: Advice) -> Advice:
        """The advice, with what speaks against the call that was taken at the head of what would change it."""
        state, view = self.session.state, self.step
        if state is None or state.calling.decision is None or self.session.bench.new_job:
            return advice
        from redline_bore.job.call.stand_by import contradictions

        against = contradictions(state, self.session.show)
        if not against or (view is not None and view.name == "call" and self.session.bench.page == "ladder"):
            return advice
        head = tuple(f"The call no longer stands. {text}" for text in against)
        return replace(advice, changes=head + advice.changes, mark=advice.mark or Mark.LOOK)

    def _tell_doubts(self, record: Record) -> None:
        """Say at once when what was just booked speaks against the call."""
        from redline_bore.job.call.stand_by import contradictions

        state = self.session.state
        if state is None or state.calling.decision is None or record.seq <= state.calling.decision.seq:
            self._against = ()
            return
        against = contradictions(state, self.session.show)
        if against and against != self._against:
            QTimer.singleShot(0, lambda: self.line.tell(f"The call no longer stands. {against[0]}", True))
        self._against = against

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._make_room()
        if self._panel is not None:
            self._panel.fit()

    def _make_room(self) -> None:
        """At a large scale in a small window the block plan gives way to the work: the card and the keys name the cylinder."""
        self.plan.setVisible(self.width() >= self.theme.px(PLAN_FROM_PX))

    # -- doing -----------------------------------------------------------------------------------------------------

    def enter(self) -> None:
        """Enter: book what is typed, or what the button says. A refusal keeps what was typed."""
        if self.jobs is not None and self.stack.currentWidget() is self.jobs:
            self.jobs.choose_current()
            return
        if self.figures is not None and self.stack.currentWidget() is self.figures:
            self.figures.keep_value()
            return
        view = self.step
        if view is None:
            return
        text = self.line.field.text()
        try:
            remark = self.commands.word_typed(text) or view.entered(text)
        except BenchError as error:
            self.line.tell(f"{error}.".replace("..", "."), True)
            return
        self.line.field.clear()
        self.line.field.words = False
        self.line.clear_remark()
        if remark:
            self.line.tell(remark, False)

    def take_reading(self, message: Message, pressed: bool) -> None:
        """An instrument has read: what was asked for goes into the field, ready for Enter; a press of the
        instrument's own button is booked at once; a temperature is booked as the block's."""
        from redline_bore.instruments.line_protocol import HoneLoad, Temperature, TraceReading

        view, field = self.step, self.line.field
        try:
            if isinstance(message, HoneLoad):
                self._hear_load(message)
            elif isinstance(message, TraceReading):
                self._take_trace(message)
            elif isinstance(message, Temperature):
                self._take_temperature(message)
            elif view is None or self.session.state is None:
                return
            elif pressed and view.books_presses:
                self.line.tell(view.pressed(message), False)
            else:
                text = view.take(message, field.text())
                if text is not None:
                    field.setText(text)
                    self.line.clear_remark()
        except BenchError as error:
            self.line.tell(f"{error}.", True)

    def _hear_load(self, message: HoneLoad) -> None:
        """The hone strokes: its load goes to the hone step, whatever is on the screen."""
        if self.session.state is not None and "hone" in self.steps:
            self.steps["hone"].hear_load(message)  # type: ignore[attr-defined]

    def _take_trace(self, message: TraceReading) -> None:
        """A trace came: it is booked where the profilometer stands, whatever is on the screen."""
        if self.session.state is None:
            return
        if "finish" not in self.steps:
            self.steps["finish"] = make_step("finish", self)
            self.stack.addWidget(self.steps["finish"])
        self.line.tell(self.steps["finish"].traced(message), False)  # type: ignore[attr-defined]

    def _garbled_load(self) -> None:
        if "hone" in self.steps:
            self.steps["hone"].garbled()  # type: ignore[attr-defined]

    def _take_temperature(self, message: Temperature) -> None:
        if message.what != "block":
            raise InputError(f"A temperature of the {message.what} is written behind its size, not booked by itself")
        if self.session.state is not None:
            self.session.book(
                BlockTemperature(block_c=round(message.celsius, 2)), typed=message.line, instrument="thermometer"
            )
            self.line.tell(f"The block is at {message.celsius:.1f} °C; it is booked.", False)

    def move_in_step(self, across: int, down: int) -> None:
        """Arrow keys, wherever they mean something."""
        if self._panel is not None and self._panel.isVisible():
            self._panel.scroll_by(down)
        elif self.jobs is not None and self.stack.currentWidget() is self.jobs:
            self.jobs.step(down)
        elif self.step is not None and self.session.state is not None and not self.session.bench.new_job:
            self.step.arrows(across, down)

    def move_probe(self, across: int, down: int) -> None:
        """Shift and arrows, where a map can be read off."""
        if self.step is not None and self.session.state is not None and not self.session.bench.new_job:
            self.step.move_probe(across, down)

    def walk(self, by: int) -> None:
        """To the step before or after."""
        if self.session.state is not None:
            steps = self.session.steps
            place = steps.index(self.session.bench.step) + by
            self.session.go(steps[min(max(place, 0), len(steps) - 1)])

    def open_job(self, number: str) -> None:
        try:
            self.session.open_job(number)
        except BenchError as error:
            self.line.tell(f"{error}.", True)

    def closeEvent(self, event: QCloseEvent | None) -> None:
        self._other.stop()
        self.gauge.let_go()
        self.thermometer.let_go()
        self.hone.let_go()
        self.profilometer.let_go()
        self.runner.stop()
        self.settings.sync()
        self.session.close()
        super().closeEvent(event)
