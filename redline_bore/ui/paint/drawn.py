"""A widget that paints itself, and is told to a screen reader as the picture that it is."""

from __future__ import annotations

from PyQt6.QtCore import QSize
from PyQt6.QtGui import QPixmap
from PyQt6.QtWidgets import QLabel


class Drawn(QLabel):
    """Qt tells a label that holds a picture as one, and every other widget as a thing of no kind. The one it holds here is empty: what is seen
    is painted over it, and it asks for no room."""

    def __init__(self) -> None:
        super().__init__()
        self.setPixmap(QPixmap(1, 1))

    def sizeHint(self) -> QSize:
        """None: whoever lays it out gives it its room."""
        return QSize()

    def minimumSizeHint(self) -> QSize:
        """None."""
        return QSize()
