"""A choice among words that keeps the keys typed at it: letters pick, arrows move, Space opens it, and none of them does anything else."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QComboBox

MOVE = {Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Home, Qt.Key.Key_End, Qt.Key.Key_PageUp, Qt.Key.Key_PageDown}


class Choices(QComboBox):
    """A combo box whose own keys never go to the window's shortcuts."""

    def event(self, event: QEvent | None) -> bool:
        if isinstance(event, QKeyEvent) and event.type() is QEvent.Type.ShortcutOverride:
            letters = bool(event.text()) and event.text().isprintable()
            plain = event.modifiers() in (Qt.KeyboardModifier.NoModifier, Qt.KeyboardModifier.ShiftModifier)
            if plain and (letters or event.key() in MOVE):
                event.accept()
                return True
        return super().event(event)
