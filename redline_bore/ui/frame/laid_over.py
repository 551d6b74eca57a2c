"""What lies over the work: the panel that is read, the chest that is looked through, the tag that is filled in. One at a time."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Protocol

from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QWidget

from redline_bore.core.errors import BenchError
from redline_bore.ui.frame.call_card import CallCard
from redline_bore.ui.frame.gauge_line import GaugeLine
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import StepView
from redline_bore.ui.theme.theme import Theme

if TYPE_CHECKING:
    from redline_bore.desk.tag import Said
    from redline_bore.desk.typed import Filled
    from redline_bore.job.kinds.kind import Kind
    from redline_bore.job.kinds.phrase import At, Phrase
    from redline_bore.ui.frame.chest import Chest, More
    from redline_bore.ui.frame.drawer import Drawer
    from redline_bore.ui.frame.panel import Panel
    from redline_bore.ui.frame.tag_view import TagView

SUPPOSED_AFTER_MS = 120  # what a tag would change is worked out once it rests


class Under(Protocol):
    """The window, as far as what lies over it needs it."""

    session: Session
    theme: Theme
    ground: QWidget  # what it lies over
    card: CallCard
    line: GaugeLine
    did: set[str]

    @property
    def step(self) -> StepView | None:
        """The step on the screen."""

    def refresh_words(self) -> None:
        """The card and the gauge line, from the step at hand."""


class LaidOver:
    """Each is made when it is first needed."""

    def __init__(self, window: Under) -> None:
        self._window = window
        self._panel: Panel | None = None
        self._chest: Chest | None = None
        self._tag: TagView | None = None
        self._supposing = QTimer(window.ground)
        self._supposing.setSingleShot(True)
        self._supposing.setInterval(SUPPOSED_AFTER_MS)
        self._supposing.timeout.connect(self._tell_change)
        self._typed_before = ""  # what stood in the field when something was looked for

    @property
    def panel(self) -> Panel:
        """The panel over the work."""
        if self._panel is None:
            from redline_bore.ui.frame.panel import Panel

            self._panel = Panel(self._window.ground, self._window.theme)
        return self._panel

    @property
    def chest(self) -> Chest:
        """The chest of drawers over the work."""
        if self._chest is None:
            from redline_bore.ui.frame.chest import Chest

            self._chest = Chest(self._window.ground, self._window.theme)
            self._chest.left.connect(self._looked)
            self._chest.opened.connect(self._open_drawer)
            self._window.line.field.textEdited.connect(self._look_for)
        return self._chest

    @property
    def tag(self) -> TagView:
        """The tag beside the work."""
        if self._tag is None:
            from redline_bore.ui.frame.tag_view import TagView

            self._tag = TagView(self._window.ground, self._window.theme)
            self._tag.booked.connect(self._book_tag)
            self._tag.pencilled.connect(self._pencilled)
            self._tag.left.connect(self._leave_tag)
        return self._tag

    @property
    def is_read(self) -> bool:
        """Whether the panel is being read."""
        return self._panel is not None and self._panel.isVisible()

    @property
    def is_looking(self) -> bool:
        """Whether something is being looked for."""
        return self._chest is not None and self._chest.isVisible()

    @property
    def has_tag(self) -> bool:
        """Whether a tag hangs beside the work."""
        return self._tag is not None and self._tag.isVisible()

    def fit(self) -> None:
        """The window has another size."""
        for lain in (self._panel, self._chest, self._tag):
            if lain is not None:
                lain.fit()

    def put_away(self) -> None:
        """Nothing lies over the work any more."""
        for lain in (self._panel, self._chest, self._tag):
            if lain is not None:
                lain.put_away()

    def left(self) -> bool:
        """Put the chest or the tag away; whether there was one."""
        there = self.is_looking or self.has_tag
        if there:
            self.put_away()
        return there

    # -- the chest -------------------------------------------------------------------------------------------------

    def look_among(
        self, heading: str, drawers: list[Drawer], somebody: Callable[[str], Drawer | None] | None = None, more: More | None = None,
        sizes_go_on: bool = False,
    ) -> None:  # fmt: skip
        """Look for something among drawers by what is typed into the gauge line. somebody: a drawer made of what is typed; more: looks elsewhere;
        sizes_go_on: what begins with a digit is a size for the page under the chest, which goes away for it."""
        self.put_away()
        self._sizes_go_on = sizes_go_on
        field = self._window.line.field
        self._typed_before = field.text()
        field.clear()
        field.words, field.arrows_bring_back = True, False
        field.setFocus()
        self.chest.lay(heading, drawers, somebody, more)
        self._window.card.button.hide()
        self._window.line.clear_remark()
        self._window.line.say(
            "Finding",
            "The shop's words, a page, a figure, a job's number; what is locked says why",
            "Enter opens · ↑ ↓ · Alt 1–9 · Esc back",
        )

    def _look_for(self, text: str) -> None:
        if self.is_looking and self._sizes_go_on and text[:1].isdigit():
            self._typed_before = text
            self.put_away()
        elif self.is_looking:
            self.chest.ask(text)

    def _looked(self) -> None:
        field = self._window.line.field
        field.setText(self._typed_before)
        field.words, field.arrows_bring_back = bool(self._typed_before), True
        self._window.refresh_words()

    def _open_drawer(self, drawer: Drawer) -> None:
        self.chest.put_away()
        try:
            drawer.open()
        except BenchError as error:
            self._window.line.tell(f"{error}.", True)

    # -- the tag ---------------------------------------------------------------------------------------------------

    def hang_tag(self, kind: Kind, phrase: Phrase, step: str, at: Callable[[], At]) -> None:
        """Hang the tag of a line beside the work, begun with what stands."""
        from redline_bore.desk.tag import tag_for

        self.put_away()
        self._window.did.add("tag")
        session = self._window.session
        self._window.card.button.hide()
        self.tag.open(tag_for(kind, phrase, step, at(), session.records, session.job.struck), at)

    def _pencilled(self, said: Said) -> None:
        line = said.line or "…"
        self._window.line.say("The same, typed", line, "Enter books · Tab next · ↑ ↓ a step · Esc leaves it")
        self._supposing.start()

    def _tell_change(self) -> None:
        """What the tag would change on the card, once it rests."""
        from redline_bore.desk.changes import would_change

        step, session = self._window.step, self._window.session
        if not self.has_tag or step is None or session.state is None:
            return
        said = self.tag.said()
        if not said.can or not said.entries:
            self.tag.tell_change(None)
            return
        try:
            before = step.advice()
            with session.supposing(said.entries):
                after = step.advice()
        except BenchError:  # it cannot stand so: the preview says why where it would be booked
            self.tag.tell_change(None)
            return
        self.tag.tell_change(would_change(before, after))

    def _book_tag(self, filled: Filled) -> None:
        """Book a filled tag: its line is read and booked as a typed one is."""
        tag = self.tag.tag
        assert tag is not None
        try:
            changed = self._window.session.book_filled(tag.step, filled)
        except BenchError as error:
            self.tag.refuse(f"{error}{'' if str(error).endswith('?') else '.'}")
            return
        self.tag.put_away()
        everywhere = ", for every cylinder" if filled.for_all else ""
        self._window.line.tell(changed.remark or f"Booked: {filled.line}{everywhere}", False)

    def _leave_tag(self) -> None:
        self._window.line.field.setFocus()
        self._window.refresh_words()
