"""A pad to type on with a finger: digits and signs, or letters, into whatever field has the focus. Enter is the card's own button."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QEvent, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QApplication, QGridLayout, QLineEdit, QPushButton, QWidget

from redline_bore.ui.frame.bench_field import BenchField
from redline_bore.ui.theme.theme import TOUCH_PX, Theme

WIDE = 5
RUB, SPACE, OTHER, LEAVE = (
    "←",
    "blank",
    "other",
    "Esc",
)  # faces that the shipped type has: another would be a box on some machines
FIGURES = ("7", "8", "9", "+", RUB, "4", "5", "6", "-", "x", "1", "2", "3", "/", ":", "0", ".", SPACE, OTHER, LEAVE)
LETTERS = (*"abcdefghijklmnopqrstuvwxyz", RUB, SPACE, OTHER, LEAVE)
CODES = {RUB: Qt.Key.Key_Backspace, SPACE: Qt.Key.Key_Space, LEAVE: Qt.Key.Key_Escape}
CALLED = {
    RUB: "rub out",
    SPACE: "blank",
    LEAVE: "leave",
    "+": "plus",
    "-": "minus",
    "/": "over",
    ":": "colon",
    ".": "point",
}


class NumberPad(QWidget):
    """Keys of 44 pixels. field: where they go while nothing else that is typed into has the focus; leave: what Esc does."""

    def __init__(self, card: QWidget, theme: Theme, field: Callable[[], BenchField], leave: Callable[[], None]) -> None:
        super().__init__(card)  # never without: it would stand on the screen by itself, and take the focus
        self.theme, self._field, self._leave = theme, field, leave
        self.setAccessibleName("Pad to type on")
        self._letters = False
        self.grid = QGridLayout(self)
        self.grid.setContentsMargins(0, 0, 0, 0)
        self.keys: dict[str, QPushButton] = {}
        theme.changed.connect(self.restyle)
        self.lay()

    def lay(self) -> None:
        """Lay out figures, or letters."""
        for button in self.keys.values():
            self.grid.removeWidget(button)
            button.deleteLater()
        self.keys = {}
        for i, key in enumerate(LETTERS if self._letters else FIGURES):
            button = QPushButton(self._face(key))
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            button.setAccessibleName(self._face(key) if key == OTHER else CALLED.get(key, key))
            button.clicked.connect(lambda _checked, k=key: self.press(k))
            self.grid.addWidget(button, i // WIDE, i % WIDE)
            self.keys[key] = button
        self.restyle()

    def _face(self, key: str) -> str:
        if key == OTHER:
            return "123" if self._letters else "abc"
        return key

    def restyle(self) -> None:
        px, c = self.theme.px, self.theme.palette
        self.grid.setSpacing(px(2))
        self.setVisible(self.theme.touch)
        self.keys[SPACE].setStyleSheet(f"font-size: {px(14)}px;")  # a word: it stays inside its key
        self.setStyleSheet(
            f"QPushButton {{ padding: 0; min-width: 0; min-height: {px(TOUCH_PX) - 2}px; font-size: {px(18)}px; font-weight: bold; background: {c.iron}; }}"
        )

    def press(self, key: str) -> None:
        """Type a key into the field that has the focus."""
        if key == OTHER:
            self._letters = not self._letters
            self.lay()
            return
        if key == LEAVE:
            self._leave()
            return
        focus = QApplication.focusWidget()
        at = focus if isinstance(focus, QLineEdit) else self._field()
        if isinstance(at, BenchField) and key.isalpha() and len(key) == 1 and key != "x":
            at.words = True
        code = CODES.get(key, Qt.Key.Key_unknown)
        text = " " if key == SPACE else "" if key == RUB else key
        for kind in (QEvent.Type.KeyPress, QEvent.Type.KeyRelease):
            QApplication.sendEvent(at, QKeyEvent(kind, code, Qt.KeyboardModifier.NoModifier, text))
