"""The one field to type in. While it is empty, keys that no figure begins with go to the window as commands."""

from __future__ import annotations

from collections.abc import Callable
from functools import cache

from PyQt6.QtCore import QEvent, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QLineEdit

FIGURE_STARTS = "0123456789.,+-−"
MOST_KEPT = 50


@cache  # when the first key comes: the names of all keys take longer than a widget
def _command_keys() -> frozenset[int]:
    k = Qt.Key
    return _always_commands() | {k.Key_Left, k.Key_Right, k.Key_Backspace, k.Key_Space, k.Key_Home, k.Key_End}


@cache
def _always_commands() -> frozenset[int]:
    return frozenset({Qt.Key.Key_Up, Qt.Key.Key_Down})


@cache
def _undo_redo() -> frozenset[int]:
    return frozenset({Qt.Key.Key_Z, Qt.Key.Key_Y})


class BenchField(QLineEdit):
    """A line edit in big digits. ``digits_pick``: even digits are commands while it is empty; ``words``: none are."""

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("bench")
        self.digits_pick = False
        self.arrows_bring_back = True  # not while they choose among drawers
        self.words = False  # after M: whatever is typed goes in, letters that are commands too
        self.first_key: Callable[[], None] = lambda: None  # before any is asked what it does
        self.space_reads: Callable[[], bool] = lambda: False
        self.complete: Callable[[str], str] = lambda _text: ""
        self.history: list[str] = []  # what was entered, the newest last
        self._back = 0  # how far back in it
        self.setAccessibleName("Figure to book")

    def keep(self, text: str) -> None:
        """What was entered can be brought back."""
        if text.strip() and self.history[-1:] != [text]:
            self.history = [*self.history, text][-MOST_KEPT:]
        self._back = 0

    def focusNextPrevChild(self, forward: bool) -> bool:
        """Tab completes a word; where there is none to complete, it goes on."""
        if forward and self.words and (whole := self.complete(self.text())):
            self.setText(whole)
            self.textEdited.emit(whole)
            return True
        return super().focusNextPrevChild(forward)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and self._brings_back(event):
            step = 1 if event.key() == Qt.Key.Key_Up else -1
            self._back = min(max(self._back + step, 0), len(self.history))
            self.setText(self.history[-self._back] if self._back else "")
            self.textEdited.emit(self.text())
            return
        super().keyPressEvent(event)

    def _brings_back(self, event: QKeyEvent) -> bool:
        """Up and Down bring back what was entered, while words are typed and nothing is looked for."""
        return self.words and bool(self.history) and event.key() in _always_commands() and self.arrows_bring_back

    def event(self, event: QEvent | None) -> bool:
        if event is not None and event.type() == QEvent.Type.ShortcutOverride:
            assert isinstance(event, QKeyEvent)
            self.first_key()
            if self._brings_back(event):
                event.accept()
                return True
            if self._is_command(event):
                event.ignore()
                return False
        return super().event(event)

    def _is_command(self, event: QKeyEvent) -> bool:
        key, typed = Qt.Key(event.key()), event.text()
        if key in _always_commands():
            return True
        if key == Qt.Key.Key_Space and not self.words and self.space_reads():
            return self.text() == "" or self.text().endswith(" ")  # behind a figure it is a blank
        if self.text() or (self.words and typed):
            return False
        if key in _command_keys():
            return True
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            return key in _undo_redo()
        if typed and typed.isdecimal():
            return self.digits_pick
        return bool(typed) and typed not in FIGURE_STARTS
