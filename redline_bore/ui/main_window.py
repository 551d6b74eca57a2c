"""The window: the frame's fixed parts around the step at hand, and the keys that drive them."""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property, partial
from typing import TYPE_CHECKING, Any

from PyQt6.QtCore import QSettings, QTimer
from PyQt6.QtGui import QCloseEvent, QResizeEvent, QWheelEvent
from PyQt6.QtWidgets import (
    QApplication,
    QHBoxLayout,
    QMainWindow,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from redline_bore.core.errors import BenchError, FaultyInput
from redline_bore.core.frozen import replace
from redline_bore.core.written import shown, typed
from redline_bore.job.card import Advice, Mark, no_advice
from redline_bore.job.kinds.entry import Record
from redline_bore.job.words.closed import told_closed
from redline_bore.store.kept_answers import keep_answers
from redline_bore.ui.background import Runner
from redline_bore.ui.frame.block_plan import BlockPlan
from redline_bore.ui.frame.call_card import CallCard
from redline_bore.ui.frame.gauge_line import GaugeLine
from redline_bore.ui.frame.laid_over import LaidOver
from redline_bore.ui.frame.lists import Lists
from redline_bore.ui.frame.place import fit_frame, keep_place, take_place
from redline_bore.ui.frame.route_strip import RouteStrip
from redline_bore.ui.intake import Intake
from redline_bore.ui.paint.turns import Turns
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import StepView
from redline_bore.ui.steps.declared import STEPS, StepParts
from redline_bore.ui.theme.theme import Theme

if TYPE_CHECKING:
    from redline_bore.desk.open_job import OpenJob
    from redline_bore.instruments.line_protocol import Message
    from redline_bore.ui.commands import Command
    from redline_bore.ui.frame.guide import GuideTag
    from redline_bore.ui.instruments import Instruments

SHELF = "Alt+A in the list sets it aside"
PLAN_FROM_PX = 800.0  # at 100 %: narrower than that, the plan is not shown


class MainWindow(QMainWindow):
    """The one window of the program."""

    def __init__(self, session: Session, theme: Theme, settings: QSettings) -> None:
        super().__init__()
        self.session, self.theme, self.settings = session, theme, settings
        self.setStyleSheet(theme.style_sheet())  # before there are widgets: each is dressed once
        self.setFont(theme.font())
        self.runner = Runner()
        self.strip, self.plan = RouteStrip(session, theme), BlockPlan(session, theme)
        self.card, self.line = CallCard(theme), GaugeLine(session, theme)
        self.stack, self.ground = QStackedWidget(), QWidget()
        self.steps: dict[str, StepView] = {}
        self._against: tuple[str, ...] = ()
        self._build()
        self.guide: GuideTag | None = None
        self.over, self.intake = LaidOver(self), Intake(self, self, self._to_hear)
        self.lists = Lists(session, theme, self.runner, self.stack, self.line, self.open_job, self._lay_bare)
        self._opening = ""  # the job that is being read
        self.endings: list[Callable[[], None]] = []  # what ends with the window
        self.did: set[str] = set()  # the commands that were given, for the guide
        self._connect()
        self._keys_made = False
        self.line.field.first_key = self.make_keys
        Turns.of(session).stands.connect(self.make_keys)
        Turns.of(session).stands.connect(lambda: fit_frame(self))
        self._make_pad()
        take_place(self, settings)

    def _make_pad(self) -> None:
        """The pad to type on is made when touch size is first asked for."""
        if self.theme.touch and self.card.pad is None:
            from redline_bore.ui.frame.number_pad import NumberPad

            self.card.take_pad(NumberPad(self.card, self.theme, lambda: self.line.field, lambda: self.do("leave")))

    # -- building --------------------------------------------------------------------------------------------------

    def _build(self) -> None:
        middle = QHBoxLayout()
        middle.setSpacing(0)
        self.beside = QVBoxLayout()
        self.beside.setSpacing(0)
        self.beside.addWidget(self.plan, 1)
        middle.addLayout(self.beside)
        self._ground_work()
        for widget, stretch in ((self.ground, 1), (self.card, 0)):
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

    def _ground_work(self) -> None:
        """The work stands on a ground of its own: of what lies over a stack a screen reader would hear nothing."""
        alone = QVBoxLayout(self.ground)
        alone.setContentsMargins(0, 0, 0, 0)
        alone.addWidget(self.stack)

    def _connect(self) -> None:
        self.session.changed.connect(self._heard)
        self.session.kept.connect(self._tell_doubts)
        self.session.rescued.connect(lambda told: QTimer.singleShot(0, lambda: self.line.tell(f"{told}.", True)))
        self.theme.changed.connect(self._restyle)
        self.card.pressed.connect(self.enter)
        self.card.rows.picked.connect(self.change)
        self.strip.warmth.connect(partial(self.change, "block_temperature"))
        for signal, name in (
            (self.card.working, "working"), (self.card.keys, "keys"), (self.card.by_hand, "by_hand"), (self.strip.units.clicked, "units"),
            (self.strip.plate.clicked, "plate"), (self.strip.finder.clicked, "find"), (self.strip.who.clicked, "who"),
        ):  # fmt: skip
            signal.connect(partial(self.run_named, name))
        self.line.field.space_reads = self._space_reads
        self.line.field.complete = self._complete
        self.line.field.textEdited.connect(self._typed)

    def make_keys(self) -> None:
        """What the keys do, and the menu: when the first picture stands, or when the first key comes."""
        if not self._keys_made:
            from redline_bore.ui.commands.keys import Hands, bind_keys

            self._keys_made = True
            hands = Hands(self.run_named, self.move_in_step, self.move_probe, self.pick, self.session.select)
            bind_keys(self, hands, self.strip.menu)

    def pick(self, number: int) -> None:
        """Alt and a digit: a drawer while something is looked for, else a cylinder."""
        if self.over.is_looking:
            self.over.chest.open_at(number)
        else:
            self.session.select(number)

    def behind(self, name: str, work: Callable[[Any], Any], then: Callable[[Any], None]) -> None:
        """Work off the interface thread; a fault is said."""
        self.runner.start(name, work, then, lambda error: self.line.tell(f"{error}.", True))

    def do(self, name: str) -> None:
        """Do a command by its name."""
        self.run_named(name)

    def run_named(self, name: str, *_checked: bool) -> None:
        from redline_bore.ui.commands import commands

        self.run(next(c for c in commands() if c.name == name))

    def run(self, wanted: Command) -> None:
        """Do what a command does; what is refused is said in the gauge line, never in a box."""
        self.did.add(wanted.name)
        try:
            remark = wanted.act(self)
        except FaultyInput as error:
            from redline_bore.ui.frame.panel import faults_html

            self.over.panel.lay("faults", "Nothing was taken in", faults_html(error))
        except BenchError as error:
            self.line.tell(f"{error}.".replace("..", "."), True)
        else:
            if remark:
                self.line.tell(remark, False)
        self._look_at_guide()

    def begin_guide(self) -> None:
        """Hang the guide of the first job beside the plan; it goes on as things are done."""
        from redline_bore.ui.frame.guide import GuideTag

        self.guide = GuideTag(self.theme)
        self.guide.left.connect(self.end_guide)
        self.beside.addWidget(self.guide)
        if self.session.state is None:
            self.session.begin_new_job()
        self._look_at_guide()

    def end_guide(self) -> None:
        """Put the guide away."""
        if self.guide is not None:
            self.beside.removeWidget(self.guide)
            self.guide.deleteLater()
            self.guide = None

    def _look_at_guide(self) -> None:
        if self.guide is None:
            return
        from redline_bore.ui.frame.guide import Facts

        session, bench = self.session, self.session.bench
        state = None if bench.new_job else session.state
        connected = self.instruments.asked("gauge").connected
        self.guide.look(Facts(session.who_is_said, state, bench.step, bench.page, connected, frozenset(self.did)))

    def _complete(self, text: str) -> str:
        """A word that Tab completes; nothing while something is looked for."""
        from redline_bore.desk.would import completed

        return "" if self.step is None or self.over.is_looking else completed(self.step.name, text)

    def _typed(self, text: str) -> None:
        """Say what Enter would book, while it is typed."""
        if not self._has_work or self.step is None or self.over.is_looking or self.over.has_tag:
            return
        self.line.pencil(self.step.would(typed(text)) if text.strip() else "")

    @cached_property
    def instruments(self) -> Instruments:
        """The instruments of the bench, once one is asked for."""
        from redline_bore.ui.instruments import Instruments

        made = Instruments(self.session)
        made.said.connect(self.line.tell)
        made.heard.connect(self._hear)
        return made

    @property
    def widget(self) -> QWidget:
        """The window itself, for dialogs to lie over."""
        return self

    def _space_reads(self) -> bool:
        """Whether Space asks an instrument, and is no blank."""
        return self.step is not None and self.step.reads and self.instruments.asked(self.step.asks).connected

    def change(self, kind: str) -> None:
        """A figure that is stated was touched: its tag hangs."""
        from redline_bore.ui.commands.find import hang_of

        if self.session.state is not None:
            hang_of(self, kind)

    def _lay_bare(self) -> None:
        """Before a list is shown."""
        self.over.put_away()
        self.card.button.hide()

    # -- what is on ------------------------------------------------------------------------------------------------

    @property
    def step(self) -> StepView | None:
        """The step on the screen; None while a list is."""
        widget = self.stack.currentWidget()
        return widget if isinstance(widget, StepView) else None

    @property
    def _has_work(self) -> bool:
        """Whether a job is open, and none is being booked in."""
        return self.session.state is not None and not self.session.bench.new_job

    def _restyle(self) -> None:
        self._make_room()
        self._make_pad()
        for step in self.steps.values():  # what is not on the screen takes the new style when it comes on again
            if step is not self.stack.currentWidget():
                self.stack.removeWidget(step)
                step.setParent(None)
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

    def _made(self, name: str) -> StepView:
        """The view of a step, made when it is first needed."""
        if name not in self.steps:
            parts = StepParts(self.session, self.theme, self.runner, self.propose, self._export)
            self.steps[name] = STEPS[name].make(parts)
        return self.steps[name]

    def _export(self, name: str) -> None:
        from redline_bore.ui.commands.command import Command, Group
        from redline_bore.ui.commands.files import export_one

        self.run(Command("export_one", "", (), Group.FILES, 0, lambda window: export_one(window, name)))

    def show_step(self) -> None:
        """Bring the session's step on, with the field ready for typing."""
        if self.session.state is None and not self.session.bench.new_job:
            return
        name = self.session.bench.step
        view, before = self._made(name), self.step
        if before is not None and before is not view:
            self.session.bench.unsaid[before.name] = self.line.field.text()
        if self.stack.indexOf(view) < 0:
            self.stack.addWidget(view)
        self.stack.setCurrentWidget(view)
        self.over.put_away()
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
        try:
            advice = self._with_doubts(view.advice())
            if self._has_work and self.session.state is not None:
                advice = told_closed(self.session.state, view.name, advice)
        except Exception as error:  # whatever it is: what stood there before is of another state, and must not stay
            self.card.show_advice(no_advice(self.session.bench.cylinder, error))
            raise
        self.card.show_advice(advice)
        if self.over.is_read:
            from redline_bore.ui.frame.panel import working_html

            self.over.panel.renew("working", working_html(advice, self.theme))
        self._look_at_guide()
        text = view.line_text()
        self.line.say(text.where, text.what, text.keys)
        self.line.field.setPlaceholderText(shown(text.hint))

    def propose(self, text: str) -> None:
        """Put words into the field, to be finished and booked with Enter."""
        self.line.field.words = True
        self.line.field.setText(shown(text))
        self.line.field.setFocus()

    def _with_doubts(self, advice: Advice) -> Advice:
        """The advice, with what speaks against the call that was taken at the head of what would change it."""
        state, view = self.session.state, self.step
        if state is None or state.calling.decision is None or self.session.bench.new_job:
            return advice
        from redline_bore.job.words.stand_by import against_words

        against = against_words(state, self.session.show)
        if not against or (view is not None and view.name == "call" and self.session.bench.page == "ladder"):
            return advice
        head = tuple(f"The call no longer stands. {text}" for text in against)
        return replace(advice, changes=head + advice.changes, mark=advice.mark or Mark.LOOK)

    def _tell_doubts(self, record: Record) -> None:
        """Say at once when what was just booked speaks against the call."""
        from redline_bore.job.words.stand_by import against_words

        state = self.session.state
        if state is None or state.calling.decision is None or record.seq <= state.calling.decision.seq:
            self._against = ()
            return
        against = against_words(state, self.session.show)
        if against and against != self._against:
            QTimer.singleShot(0, lambda: self.line.tell(f"The call no longer stands. {against[0]}", True))
        self._against = against

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """The wheel walks where something is picked from a row; where a reading would go elsewhere for it, it does nothing."""
        turned = 0 if event is None else event.angleDelta().y()
        if turned and self.step is not None and self.step.wheel_walks and not self.over.has_tag:
            self.move_in_step(0, -1 if turned > 0 else 1)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._make_room()
        self.over.fit()

    def _make_room(self) -> None:
        """At a large scale in a small window the block plan gives way to the work: the card and the keys name the cylinder."""
        self.plan.setVisible(self.width() >= self.theme.px(PLAN_FROM_PX))

    # -- doing -----------------------------------------------------------------------------------------------------

    def enter(self) -> None:
        """Enter: book what is typed, or what the button says. A refusal keeps what was typed."""
        if self.over.is_looking:
            self.over.chest.open_current()
        elif self.over.has_tag:
            self.over.tag.enter()
        elif not self.lists.enter() and self.step is not None and not self._is_opening("Nothing was booked"):
            self.intake.enter(self.step)

    def _hear(self, message: Message, pressed: bool) -> None:
        if not self._is_opening("What the instrument sent was not booked: read it again"):
            self.intake.hear(message, pressed)

    def _is_opening(self, what: str) -> bool:
        """Another job was asked for and is not on the screen yet: nothing goes into the one that still is."""
        if self._opening:
            self.line.tell(f"Job {self._opening} is being opened. {what}.", True)
        return bool(self._opening)

    def _to_hear(self, name: str, make: bool) -> StepView | None:
        return self._made(name) if make else self.steps.get(name)

    def move_in_step(self, across: int, down: int) -> None:
        """Arrow keys, wherever they mean something."""
        if self.over.is_looking:
            self.over.chest.move_by(down)
        elif self.over.is_read:
            self.over.panel.scroll_by(down)
        elif not self.lists.step(down) and self._has_work and self.step is not None:
            self.step.arrows(across, down)

    def move_probe(self, across: int, down: int) -> None:
        """Shift and arrows, where a map can be read off."""
        if self.step is not None and self._has_work:
            self.step.move_probe(across, down)

    def walk(self, by: int) -> None:
        """To the step before or after."""
        if self.session.state is not None:
            steps = self.session.steps
            place = steps.index(self.session.bench.step) + by
            self.session.go(steps[min(max(place, 0), len(steps) - 1)])

    def open_job(self, number: str) -> None:
        """Open a job by its number: read and folded behind, shown when it stands; until then the one that is open stays."""
        desk = self.session.desk

        def work(_token: object) -> OpenJob:
            job = desk.open(number)
            _ = job.state  # folded there, not here
            return job

        self._opening = number
        self.runner.quickly("open job", work, partial(self._opened, number), partial(self._not_opened, number))
        if self._opening:
            self.line.tell(f"Opening job {number}", False)

    def _opened(self, number: str, job: OpenJob) -> None:
        self._opening = ""
        self.line.clear_remark()
        try:
            self.session.show_job(job)
        except Exception as error:
            self._not_opened(number, error)

    def _not_opened(self, number: str, error: BaseException) -> None:
        """Whatever a ledger holds: the job that is open stays, and it is said."""
        self._opening = ""
        if isinstance(error, BenchError):
            self.line.tell(f"{error}.", True)
        else:
            self.line.tell(f"Job {number} cannot be shown ({type(error).__name__}: {error}). {SHELF}", True)

    def close_all(self) -> None:
        """Leave the program."""
        self.close()
        app = QApplication.instance()
        if app is not None:
            app.quit()

    def closeEvent(self, event: QCloseEvent | None) -> None:
        for end in self.endings:
            end()
        keep_answers()
        if "instruments" in self.__dict__:  # one was asked for
            self.instruments.let_go()
        self.runner.stop()
        keep_place(self, self.settings)
        self.settings.sync()
        self.session.close()
        super().closeEvent(event)
