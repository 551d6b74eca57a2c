"""What waits for the logbook: while another program holds it, what was typed or read stays on the screen and is booked as soon as it is free, in order."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable

from PyQt6.QtCore import QObject, QTimer

from redline_bore.core.errors import LogbookBusy

AGAIN_MS = 250

Deed = Callable[[], None]  # raises LogbookBusy while it cannot be done


class Waiting(QObject):
    """Deeds in the order they came; each is tried again until the logbook takes it."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._deeds: deque[Deed] = deque()
        self._timer = QTimer(self)
        self._timer.setInterval(AGAIN_MS)
        self._timer.timeout.connect(self._try)

    def __len__(self) -> int:
        return len(self._deeds)

    def do(self, deed: Deed) -> bool:
        """Do it now, or behind those that wait; returns whether it was done."""
        if not self._deeds:
            try:
                deed()
                return True
            except LogbookBusy:
                pass
        self._deeds.append(deed)
        self._timer.start()
        return False

    def _try(self) -> None:
        while self._deeds:
            try:
                self._deeds[0]()
            except LogbookBusy:
                return
            except BaseException:
                self._deeds.popleft()  # it was refused for another reason, and that is told
                raise
            self._deeds.popleft()
        self._timer.stop()
