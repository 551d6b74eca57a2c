"""Pictures that want painting, one a turn of the event loop: a key or a reading that comes meanwhile never waits for more than one. And
what waits until the first one stands."""

from __future__ import annotations

from PyQt6 import sip
from PyQt6.QtCore import QObject, QTimer, pyqtSignal
from PyQt6.QtWidgets import QWidget


class Turns(QObject):
    """Asks widgets to paint themselves, one a turn, those that are worked on first. ``stands``: the first picture does, once."""

    stands = pyqtSignal()
    _begun = False

    def __init__(self, owner: QObject) -> None:
        super().__init__(owner)
        self._waiting: list[QWidget] = []
        self._timer = QTimer(self)
        self._timer.setInterval(0)
        self._timer.timeout.connect(self._next)

    @classmethod
    def of(cls, owner: QObject) -> Turns:
        """The turns of a window, by what all its pictures share."""
        return owner.findChild(cls) or cls(owner)

    def update(self, widget: QWidget, first: bool) -> None:
        """Paint it when its turn comes; once, however often it is asked for meanwhile."""
        if widget not in self._waiting:
            self._waiting.insert(0 if first else len(self._waiting), widget)
        if not self._timer.isActive():
            self._timer.start()

    def painted(self) -> None:
        """A picture was painted."""
        if not self._begun:
            self._begun = True
            QTimer.singleShot(0, self._say_it_stands)

    def _say_it_stands(self) -> None:
        if not sip.isdeleted(self):  # the window may be gone again
            self.stands.emit()

    def _next(self) -> None:
        while self._waiting:
            widget = self._waiting.pop(0)
            if not sip.isdeleted(widget) and widget.isVisible():  # what is hidden is painted when it is shown
                widget.repaint()
                break
        if not self._waiting:
            self._timer.stop()
