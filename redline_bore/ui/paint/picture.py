"""The base of every picture on the screen: a widget that paints with a pencil and can be read aloud."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt, QTimer
from PyQt6.QtGui import QPainter, QPaintEvent, QShowEvent
from PyQt6.QtWidgets import QSizePolicy

from redline_bore.ui.paint.drawn import Drawn
from redline_bore.ui.paint.pencil import Pencil, Sign
from redline_bore.ui.paint.placer import Words
from redline_bore.ui.paint.signs import SignTeller
from redline_bore.ui.paint.turns import Turns
from redline_bore.ui.session import Session
from redline_bore.ui.theme.theme import Theme

SAID_AFTER_MS = 120  # nobody is read to faster than that; a button pressed again and again is said once it rests


class Picture(Drawn):
    """Paints itself from the session. ``topics`` are the changes it repaints for."""

    topics: frozenset[str] = frozenset()
    needs_job = True  # nothing is drawn while no job is open
    behind = False  # it is painted after what is worked on

    def __init__(self, session: Session, theme: Theme, name: str) -> None:
        super().__init__()
        self.session, self.theme = session, theme
        self.words: list[Words] = []  # as they stand on the picture
        self.signs: list[tuple[QRectF, Sign]] = []
        self.teller = SignTeller(self, lambda: self.signs)
        self.setAccessibleName(name)
        self.setMouseTracking(True)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)  # the field to type in keeps it
        self._saying = QTimer(self)
        self._saying.setSingleShot(True)
        self._saying.setInterval(SAID_AFTER_MS)
        self._saying.timeout.connect(self._say)
        self._turns = Turns.of(session)
        self._was_painted = False
        session.changed.connect(self._heard)

    def _heard(self, topics: frozenset[str]) -> None:
        if topics & (self.topics | {"job", "units", "theme"}):
            self.refresh()

    def refresh(self) -> None:
        """Bring what is shown up to date; repaint first, then say it in words."""
        self._turns.update(self, first=not self.behind)
        self._saying.start()

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self._saying.start()

    def _say(self) -> None:
        """Say it in words, once it is looked at: what is hidden is not worked out."""
        if self.isVisible():
            self.setAccessibleDescription(self.said() or "Nothing to show here yet")

    def said(self) -> str:
        """The picture in words."""
        return ""

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self.behind and not self._was_painted:  # what is worked on stands first
            self._was_painted = True
            self._turns.update(self, first=False)
            return
        painter = QPainter(self)
        if self.session.state is not None or not self.needs_job:
            pencil = Pencil(painter, self.theme)
            pencil.hold_words()
            self.draw(pencil, QRectF(self.rect()))
            self.words = pencil.place_words()
            self.signs = pencil.signs
        painter.end()
        self._turns.painted()

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        """Paint the picture into ``area``."""
        raise AssertionError("a picture draws itself")

    def draw_vectors(self, pencil: Pencil, area: QRectF) -> None:
        """Paint the picture without anything kept as pixels: for paper and files."""
        self.draw(pencil, area)
