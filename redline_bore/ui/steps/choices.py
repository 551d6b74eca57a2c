"""A choice among words that keeps the keys typed at it: letters pick, Down and Space open it, and none of them does anything else."""

from __future__ import annotations

from PyQt6.QtCore import QEvent
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QComboBox


class Choices(QComboBox):
    """A combo box whose letters never go to the window's shortcuts. The wheel moves it only while it has the focus."""

    def event(self, event: QEvent | None) -> bool:
        if (
            isinstance(event, QKeyEvent)
            and event.type() is QEvent.Type.ShortcutOverride
            and event.text().isprintable()
            and event.text()
        ):
            event.accept()
            return True
        return super().event(event)
