"""The window: the frame's fixed parts around the step at hand, and the keys that drive them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial
from typing import TYPE_CHECKING, Any

from PyQt6.QtCore import QSettings, QTimer
from PyQt6.QtGui import QAction, QCloseEvent, QKeySequence, QResizeEvent, QWheelEvent
from PyQt6.QtWidgets import (
    QApplication,
    QHBoxLayout,
    QLineEdit,
    QMainWindow,
    QMenu,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from redline_bore.core.errors import BenchError, FaultyInput, LogbookBusy
from redline_bore.core.written import shown, typed
from redline_bore.job.card import Advice, Mark, no_advice
from redline_bore.job.kinds.entry import Record
from redline_bore.job.words.closed import told_closed
from redline_bore.store.kept_answers import keep_answers
from redline_bore.ui.background import Runner
from redline_bore.ui.commands import Command, commands
from redline_bore.ui.commands.command import Group
from redline_bore.ui.commands.menu import fill
from redline_bore.ui.commands.words import word_typed
from redline_bore.ui.frame.block_plan import BlockPlan
from redline_bore.ui.frame.call_card import CallCard
from redline_bore.ui.frame.gauge_line import GaugeLine
from redline_bore.ui.frame.panel import Panel, faults_html, working_html
from redline_bore.ui.frame.place import keep_place, take_place
from redline_bore.ui.frame.route_strip import RouteStrip
from redline_bore.ui.instruments import Instruments, hear
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import StepView
from redline_bore.ui.steps.declared import STEPS, StepParts
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.waiting import Waiting

if TYPE_CHECKING:
    from redline_bore.desk.tag import Said
    from redline_bore.desk.typed import Filled
    from redline_bore.instruments.line_protocol import Message
    from redline_bore.job.kinds.kind import Kind
    from redline_bore.job.kinds.phrase import At, Phrase
    from redline_bore.ui.frame.chest import Chest, Drawer, More
    from redline_bore.ui.frame.guide import GuideTag
    from redline_bore.ui.frame.job_list import JobList
    from redline_bore.ui.frame.shop_figures import ShopFigures
    from redline_bore.ui.frame.tag_view import TagView

SHELF = "Alt+A in the list sets it aside"
READINGS = ("GaugeReading", "SweepReading", "TraceReading")  # what may not be lost without a word


PLAN_FROM_PX = 800.0  # at 100 %: narrower than that, the plan is not shown


HELD = "Another program holds the logbook. It stays here and is booked as soon as it is free."
SUPPOSED_AFTER_MS = 120  # what a tag would change is worked out once it rests


class MainWindow(QMainWindow):
    """The one window of the program."""

    def __init__(self, session: Session, theme: Theme, settings: QSettings) -> None:
        super().__init__()
        self.session, self.theme, self.settings = session, theme, settings
        self.setStyleSheet(theme.style_sheet())  # before there are widgets: each is dressed once
        self.setFont(theme.font())
        self.runner, self.instruments = Runner(), Instruments(session)
        self.strip, self.plan = RouteStrip(session, theme), BlockPlan(session, theme)
        self.card, self.line = CallCard(theme), GaugeLine(session, theme)
        self.jobs: JobList | None = None  # the lists are made when they are first asked for
        self.figures: ShopFigures | None = None
        self.stack = QStackedWidget()
        self.steps: dict[str, StepView] = {}
        self._against: tuple[str, ...] = ()
        self._build()
        self.guide: GuideTag | None = None
        self.waiting, self._waits_typed = Waiting(self), False
        self.endings: list[Callable[[], None]] = []  # what ends with the window
        self.did: set[str] = set()  # the commands that were given, for the guide
        self._panel: Panel | None = None
        self._chest: Chest | None = None
        self._tag: TagView | None = None
        self._supposing = QTimer(self)
        self._supposing.setSingleShot(True)
        self._supposing.setInterval(SUPPOSED_AFTER_MS)
        self._supposing.timeout.connect(self._tell_change)
        self._typed_before = ""  # what stood in the field when something was looked for
        self._from_stand_in: list[str] = []  # words in the field that a simulated instrument sent
        self._connect()
        self._make_actions()
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
        for widget, stretch in ((self.stack, 1), (self.card, 0)):
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
        self.session.rescued.connect(lambda told: QTimer.singleShot(0, lambda: self.line.tell(f"{told}.", True)))
        self.theme.changed.connect(self._restyle)
        self.card.pressed.connect(self.enter)
        self.card.rows.picked.connect(self.change)
        self.strip.warmth.connect(partial(self.change, "block_temperature"))
        for signal, name in (
            (self.card.working, "working"), (self.card.keys, "keys"), (self.card.by_hand, "by_hand"), (self.strip.units.clicked, "units"),
            (self.strip.plate.clicked, "plate"), (self.strip.finder.clicked, "find"), (self.strip.who.clicked, "who"),
        ):  # fmt: skip
            signal.connect(partial(self._run_named, name))
        self.instruments.said.connect(self.line.tell)
        self.instruments.heard.connect(self.hear)
        self.line.field.space_reads = self._space_reads
        self.line.field.complete = self._complete
        self.line.field.textEdited.connect(self._typed)

    def _make_actions(self) -> None:
        for each in commands():
            action = QAction(each.words, self)
            action.setObjectName(each.name)
            action.setShortcuts([QKeySequence(k) for k in each.keys])
            action.triggered.connect(partial(self._run_named, each.name))
            self.addAction(action)
        for name, across, down in (("Left", -1, 0), ("Right", 1, 0), ("Up", 0, -1), ("Down", 0, 1)):
            self._add_key(name, name, partial(self.move_in_step, across, down))
            self._add_key(f"probe {name}", f"Shift+{name}", partial(self.move_probe, across, down))
        for number in range(1, 25):
            digit = number % 10
            shift = "Shift+" * (number > 10)
            if number <= 20:
                self._add_key(f"cylinder {number}", f"Alt+{shift}{digit}", partial(self._pick, number))
            if number <= 10:
                self._add_key(f"digit {number}", f"{digit}", partial(self.session.select, number))
        menu = QMenu(self)
        menu.aboutToShow.connect(lambda: fill(menu, self))
        self.strip.menu.setMenu(menu)

    def _pick(self, number: int) -> None:
        """Alt and a digit: a drawer while something is looked for, else a cylinder."""
        if self.is_looking:
            self.chest.open_at(number)
        else:
            self.session.select(number)

    def behind(self, name: str, work: Callable[[Any], Any], then: Callable[[Any], None]) -> None:
        """Work off the interface thread; a fault is said."""
        self.runner.start(name, work, then, lambda error: self.line.tell(f"{error}.", True))

    def do(self, name: str) -> None:
        """Do a command by its name."""
        self._run_named(name)

    def _run_named(self, name: str, *_checked: bool) -> None:
        self.run(next(c for c in commands() if c.name == name))

    def run(self, wanted: Command) -> None:
        """Do what a command does; what is refused is said in the gauge line, never in a box."""
        self.did.add(wanted.name)
        try:
            remark = wanted.act(self)
        except FaultyInput as error:
            self.panel.lay("faults", "Nothing was taken in", faults_html(error))
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

    def _add_key(self, name: str, sequence: str, act: Callable[[], None]) -> None:
        action = QAction(name, self)
        action.setShortcut(QKeySequence(sequence))
        action.triggered.connect(lambda _checked: act())
        self.addAction(action)

    def _complete(self, text: str) -> str:
        """A word that Tab completes; nothing while something is looked for."""
        from redline_bore.desk.would import completed

        return "" if self.step is None or self.is_looking else completed(self.step.name, text)

    def _typed(self, text: str) -> None:
        """Say what Enter would book, while it is typed."""
        ready = self.session.state is not None and not self.session.bench.new_job and self.step is not None
        if not ready or self.is_looking or self.has_tag or self.step is None:
            return
        self.line.pencil(self.step.would(typed(text)) if text.strip() else "")

    @property
    def panel(self) -> Panel:
        """The panel over the work, made when it is first needed."""
        if self._panel is None:
            self._panel = Panel(self.stack, self.theme)
        return self._panel

    @property
    def widget(self) -> QWidget:
        """The window itself, for dialogs to lie over."""
        return self

    def _space_reads(self) -> bool:
        """Whether Space asks an instrument, and is no blank."""
        return self.step is not None and self.step.reads and self.instruments.asked(self.step.asks).connected

    # -- looked for, and changed by hand -------------------------------------------------------------------------------

    @property
    def chest(self) -> Chest:
        """The chest of drawers over the work, made when something is first looked for."""
        if self._chest is None:
            from redline_bore.ui.frame.chest import Chest

            self._chest = Chest(self.stack, self.theme)
            self._chest.left.connect(self._looked)
            self._chest.opened.connect(self._open_drawer)
            self.line.field.textEdited.connect(self._look_for)
        return self._chest

    @property
    def tag(self) -> TagView:
        """The tag beside the work, made when something is first changed by hand."""
        if self._tag is None:
            from redline_bore.ui.frame.tag_view import TagView

            self._tag = TagView(self.stack, self.theme)
            self._tag.booked.connect(self._book_tag)
            self._tag.pencilled.connect(self._pencilled)
            self._tag.left.connect(self._leave_tag)
        return self._tag

    @property
    def is_looking(self) -> bool:
        """Whether something is being looked for."""
        return self._chest is not None and self._chest.isVisible()

    @property
    def has_tag(self) -> bool:
        """Whether a tag hangs beside the work."""
        return self._tag is not None and self._tag.isVisible()

    def look_among(
        self, heading: str, drawers: list[Drawer], somebody: Callable[[str], Drawer | None] | None = None, more: More | None = None
    ) -> None:  # fmt: skip
        """Look for something among drawers by what is typed into the gauge line. somebody: a drawer made of what is typed; more: looks elsewhere."""
        self._put_all_away()
        field = self.line.field
        self._typed_before = field.text()
        field.clear()
        field.words, field.arrows_bring_back = True, False
        field.setFocus()
        self.chest.lay(heading, drawers, somebody, more)
        self.card.button.hide()
        self.line.clear_remark()
        self.line.say(
            "Finding",
            "The shop's words, a page, a figure, a job's number; what is locked says why",
            "Enter opens · ↑ ↓ · Alt 1–9 · Esc back",
        )

    def _look_for(self, text: str) -> None:
        if self.is_looking:
            self.chest.ask(text)

    def _looked(self) -> None:
        field = self.line.field
        field.setText(self._typed_before)
        field.words, field.arrows_bring_back = bool(self._typed_before), True
        self.refresh_words()

    def _open_drawer(self, drawer: Drawer) -> None:
        self.chest.put_away()
        try:
            drawer.open()
        except BenchError as error:
            self.line.tell(f"{error}.", True)

    def hang_tag(self, kind: Kind, phrase: Phrase, step: str, at: Callable[[], At]) -> None:
        """Hang the tag of a line beside the work, begun with what stands."""
        from redline_bore.desk.tag import tag_for

        self._put_all_away()
        self.did.add("tag")
        session = self.session
        self.card.button.hide()
        self.tag.open(tag_for(kind, phrase, step, at(), session.records, session.job.struck), at)

    def _pencilled(self, said: Said) -> None:
        line = said.line or "…"
        self.line.say("The same, typed", line, "Enter books · Tab next · ↑ ↓ a step · Esc leaves it")
        self._supposing.start()

    def _tell_change(self) -> None:
        """What the tag would change on the card, once it rests."""
        from redline_bore.desk.changes import would_change

        if not self.has_tag or self.step is None or self.session.state is None:
            return
        said = self.tag.said()
        if not said.can or not said.entries:
            self.tag.tell_change(None)
            return
        try:
            before = self.step.advice()
            with self.session.supposing(said.entries):
                after = self.step.advice()
        except BenchError:  # it cannot stand so: the preview says why where it would be booked
            self.tag.tell_change(None)
            return
        self.tag.tell_change(would_change(before, after))

    def _book_tag(self, filled: Filled) -> None:
        """Book a filled tag: its line is read and booked as a typed one is."""
        tag = self.tag.tag
        assert tag is not None
        try:
            changed = self.session.book_filled(tag.step, filled)
        except BenchError as error:
            self.tag.refuse(f"{error}{'' if str(error).endswith('?') else '.'}")
            return
        self.tag.put_away()
        everywhere = ", for every cylinder" if filled.for_all else ""
        self.line.tell(changed.remark or f"Booked: {filled.line}{everywhere}", False)

    def change(self, kind: str) -> None:
        """A figure that is stated was touched: its tag hangs."""
        from redline_bore.ui.commands.find import hang_of

        if self.session.state is not None:
            hang_of(self, kind)

    def _leave_tag(self) -> None:
        self.line.field.setFocus()
        self.refresh_words()

    def left_what_lay_over(self) -> bool:
        """Put the chest or the tag away; whether there was one."""
        there = self.is_looking or self.has_tag
        if there:
            self._put_all_away()
        return there

    def _put_all_away(self) -> None:
        """Nothing lies over the work any more."""
        if self._panel is not None:
            self._panel.put_away()
        if self._chest is not None:
            self._chest.put_away()
        if self._tag is not None:
            self._tag.put_away()

    # -- what is on ------------------------------------------------------------------------------------------------

    @property
    def step(self) -> StepView | None:
        """The step on the screen; None while a list is."""
        widget = self.stack.currentWidget()
        return widget if isinstance(widget, StepView) else None

    def _restyle(self) -> None:
        self._make_room()
        self._make_pad()
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
            self.stack.addWidget(self.steps[name])
        return self.steps[name]

    def _export(self, name: str) -> None:
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
        self.stack.setCurrentWidget(view)
        self._put_all_away()
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
            if self.session.state is not None and not self.session.bench.new_job:
                advice = told_closed(self.session.state, view.name, advice)
        except Exception as error:  # whatever it is: what stood there before is of another state, and must not stay
            self.card.show_advice(no_advice(self.session.bench.cylinder, error))
            raise
        self.card.show_advice(advice)
        if self._panel is not None:
            self._panel.renew("working", working_html(advice, self.theme))
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
        if turned and self.step is not None and self.step.wheel_walks and not self.has_tag:
            self.move_in_step(0, -1 if turned > 0 else 1)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._make_room()
        for lain in (self._panel, self._chest, self._tag):
            if lain is not None:
                lain.fit()

    def _make_room(self) -> None:
        """At a large scale in a small window the block plan gives way to the work: the card and the keys name the cylinder."""
        self.plan.setVisible(self.width() >= self.theme.px(PLAN_FROM_PX))

    # -- doing -----------------------------------------------------------------------------------------------------

    def enter(self) -> None:
        """Enter: book what is typed, or what the button says. A refusal keeps what was typed."""
        if self.is_looking:
            self.chest.open_current()
            return
        if self.has_tag:
            self.tag.enter()
            return
        if self.jobs is not None and self.stack.currentWidget() is self.jobs:
            self.jobs.choose_current()
            return
        if self.figures is not None and self.stack.currentWidget() is self.figures:
            self.figures.keep_value()
            return
        view = self.step
        if view is None:
            return
        text = typed(self.line.field.text())
        if not len(self.waiting):
            self._enter(view, text)
        elif not self._waits_typed:  # behind what came before it
            self._waits_typed = True
            self.waiting.do(partial(self._enter_again, text, self._stands()))

    def _stands(self) -> tuple[object, ...]:
        """Where what is typed or read belongs: the job, the step, the cylinder."""
        return self.session.job_id, self.session.bench.step, self.session.bench.cylinder

    def _enter_again(self, text: str, at: tuple[object, ...]) -> None:
        """What was entered while another program held the logbook; where it was typed over, or one went elsewhere, it is left."""
        view, self._waits_typed = self.step, False
        if view is not None and typed(self.line.field.text()) == text and self._stands() == at:
            self._waits_typed = True
            self._enter(view, text, again=True)
            self._waits_typed = False

    def _enter(self, view: StepView, text: str, again: bool = False) -> None:
        try:
            with self.session.sent_by(any(word in self._from_stand_in for word in text.split())):
                remark = word_typed(self, text) or view.entered(text)
        except LogbookBusy:
            if again:
                raise
            self._waits_typed = True
            self.waiting.do(partial(self._enter_again, text, self._stands()))
            self.line.tell(HELD, True)
            return
        except BenchError as error:
            self.line.tell(f"{error}.".replace("..", "."), True)
            self.line.field.selectAll()  # typing replaces it; Enter tries it again
            return
        self.line.field.keep(shown(text))
        self.line.field.clear()
        self.line.field.words = False
        self.line.clear_remark()
        if remark:
            self.line.tell(remark, False)

    def hear(self, message: Message, pressed: bool) -> None:
        """An instrument has sent something: what was asked for goes into the field, ready for Enter; the rest is booked at once."""
        what, at = getattr(message, "line", "") or "a reading", self._stands()
        if not self.waiting.do(partial(self._hear, message, pressed, at)):
            self.line.tell(f"“{what[:60]}”: {HELD[:1].lower()}{HELD[1:]}", True)

    def _hear(self, message: Message, pressed: bool, at: tuple[object, ...]) -> None:
        field, what = self.line.field, getattr(message, "line", "") or "a reading"
        if self._stands() != at and type(message).__name__ in READINGS:
            self.line.tell(
                f"“{what[:60]}” came while the logbook was held, and you went on: it was not booked. Read it again.",
                True,
            )
            return
        try:
            with self.session.sent_by(self.instruments.by_stand_in):
                heard = hear(message, pressed, typed(field.text()), self.session, self.step, self._to_hear)
        except LogbookBusy:
            raise
        except BenchError as error:
            self.line.tell(f"{error}.", True)
            return
        if heard.field is None and not heard.remark and type(message).__name__ in READINGS:
            self.line.tell(
                f"“{what[:60]}” came, and nothing on this page takes it: it was not booked. Go to where it belongs and read again.",
                True,
            )
        if heard.field is not None:
            field.setText(shown(heard.field))
            self._from_stand_in = heard.field.split() if self.instruments.by_stand_in else []
            self.line.clear_remark()
        if heard.remark:
            self.line.tell(heard.remark, False)

    def _to_hear(self, name: str, make: bool) -> StepView | None:
        return self._made(name) if make else self.steps.get(name)

    def move_in_step(self, across: int, down: int) -> None:
        """Arrow keys, wherever they mean something."""
        if self.is_looking:
            self.chest.move_by(down)
        elif self._panel is not None and self._panel.isVisible():
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
        except Exception as error:  # whatever a ledger holds: the job that is open stays, and it is said
            self.line.tell(f"Job {number} cannot be shown ({type(error).__name__}: {error}). {SHELF}", True)

    def show_jobs(self) -> None:
        """The list of jobs."""
        if self.jobs is None:
            from redline_bore.ui.frame.job_list import JobList

            self.jobs = JobList(self.session, self.theme, self.runner)
            self.jobs.chosen.connect(self.open_job)
            self.jobs.said.connect(self.line.tell)
            self.stack.addWidget(self.jobs)
        self._show_list(self.jobs, self.jobs.search, "Jobs in the logbook", "Type to search; Enter opens the job")

    def show_figures(self, search: str = "") -> None:
        """The shop's figures; ``search``: the one that is looked for."""
        if self.figures is None:
            from redline_bore.ui.frame.shop_figures import ShopFigures

            self.figures = ShopFigures(self.session)
            self.stack.addWidget(self.figures)
        self._show_list(
            self.figures, self.figures.search, "Shop figures", "Enter keeps what is typed as the shop's own"
        )
        if search:
            self.figures.search.setText(search)

    def _show_list(self, widget: JobList | ShopFigures, search: QWidget, where: str, what: str) -> None:
        self._put_all_away()
        if isinstance(search, QLineEdit):
            search.selectAll()  # what was looked for last is replaced by typing
        widget.refresh()
        self.stack.setCurrentWidget(widget)
        search.setFocus()
        self.card.button.hide()
        self.line.say(where, what, "Esc goes back")

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
        self.instruments.let_go()
        self.runner.stop()
        keep_place(self, self.settings)
        self.settings.sync()
        self.session.close()
        super().closeEvent(event)
