"""What comes in at the gauge line: what is typed and what instruments send, in order, booked once; while another program holds the logbook it waits."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING, Protocol

from PyQt6.QtCore import QObject

from redline_bore.core.errors import BenchError, LogbookBusy
from redline_bore.core.written import shown, typed
from redline_bore.ui.steps.base import StepView
from redline_bore.ui.waiting import Waiting

if TYPE_CHECKING:
    from redline_bore.instruments.line_protocol import Message
    from redline_bore.ui.frame.window_parts import WindowParts

READINGS = ("GaugeReading", "SweepReading", "TraceReading")  # what may not be lost without a word
HELD = "Another program holds the logbook. It stays here and is booked as soon as it is free."


class Steps(Protocol):
    """The views of the steps, by their names."""

    def __call__(self, name: str, make: bool) -> StepView | None:
        """The view of a step, made where it must be."""


class Intake:
    """The window's door for readings. ``steps``: the views that may hear an instrument."""

    def __init__(self, window: WindowParts, parent: QObject, steps: Steps) -> None:
        self._window, self._steps = window, steps
        self._waiting, self._waits_typed = Waiting(parent), False
        self._from_stand_in: list[str] = []  # words in the field that a simulated instrument sent

    def _stands(self) -> tuple[object, ...]:
        """Where what is typed or read belongs: the job, the step, the cylinder."""
        session = self._window.session
        return session.job_id, session.bench.step, session.bench.cylinder

    # -- typed -----------------------------------------------------------------------------------------------------

    def enter(self, view: StepView) -> None:
        """Book what stands in the field, or do what the button says. A refusal keeps what was typed."""
        text = typed(self._window.line.field.text())
        if not len(self._waiting):
            self._enter(view, text)
        elif not self._waits_typed:  # behind what came before it
            self._waits_typed = True
            self._waiting.do(partial(self._enter_again, text, self._stands()))

    def _enter_again(self, text: str, at: tuple[object, ...]) -> None:
        """What was entered while another program held the logbook; where it was typed over, or one went elsewhere, it is left."""
        view, self._waits_typed = self._window.step, False
        if view is not None and typed(self._window.line.field.text()) == text and self._stands() == at:
            self._waits_typed = True
            self._enter(view, text, again=True)
            self._waits_typed = False

    def _enter(self, view: StepView, text: str, again: bool = False) -> None:
        from redline_bore.ui.commands.words import word_typed

        window, line = self._window, self._window.line
        try:
            with window.session.sent_by(any(word in self._from_stand_in for word in text.split())):
                remark = word_typed(window, text) or view.entered(text)
        except LogbookBusy:
            if again:
                raise
            self._waits_typed = True
            self._waiting.do(partial(self._enter_again, text, self._stands()))
            line.tell(HELD, True)
            return
        except BenchError as error:
            line.tell(f"{error}.".replace("..", "."), True)
            line.field.selectAll()  # typing replaces it; Enter tries it again
            return
        line.field.keep(shown(text))
        line.field.clear()
        line.field.words = False
        line.clear_remark()
        if remark:
            line.tell(remark, False)

    # -- read ------------------------------------------------------------------------------------------------------

    def hear(self, message: Message, pressed: bool) -> None:
        """An instrument has sent something: what was asked for goes into the field, ready for Enter; the rest is booked at once."""
        what, at = _words_of(message), self._stands()
        if not self._waiting.do(partial(self._hear, message, pressed, at)):
            self._window.line.tell(f"“{what}”: {HELD[:1].lower()}{HELD[1:]}", True)

    def _hear(self, message: Message, pressed: bool, at: tuple[object, ...]) -> None:
        from redline_bore.ui.instruments import hear

        window, line, what = self._window, self._window.line, _words_of(message)
        reading = type(message).__name__ in READINGS
        if self._stands() != at and reading:
            line.tell(
                f"“{what}” came while the logbook was held, and you went on: it was not booked. Read it again.", True
            )
            return
        by_stand_in = window.instruments.by_stand_in
        try:
            with window.session.sent_by(by_stand_in):
                heard = hear(message, pressed, typed(line.field.text()), window.session, window.step, self._steps)
        except LogbookBusy:
            raise
        except BenchError as error:
            line.tell(f"{error}.", True)
            return
        if heard.field is None and not heard.remark and reading:
            line.tell(
                f"“{what}” came, and nothing on this page takes it: it was not booked. Go to where it belongs and read again.",
                True,
            )
        if heard.field is not None:
            line.field.setText(shown(heard.field))
            self._from_stand_in = heard.field.split() if by_stand_in else []
            line.clear_remark()
        if heard.remark:
            line.tell(heard.remark, False)


def _words_of(message: Message) -> str:
    return (getattr(message, "line", "") or "a reading")[:60]
