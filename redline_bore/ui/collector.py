"""When unreachable objects are looked for: in a turn of the event loop of its own, never in the middle of a reading.

Python walks everything it holds whenever enough was made, which while gauging is while a reading is booked and drawn: 15 ms on top of the
longest frame. The young generations stay as they are (they are short); the old one is walked by a timer.
"""

from __future__ import annotations

import gc

from PyQt6.QtCore import QObject, QTimer

EVERY_MS = 10_000
NEVER = 1_000_000  # young collections before Python would walk everything by itself: days of gauging


class Collector(QObject):
    """Walks the old generation every few seconds, for as long as the window lives."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        young, middle, _old = gc.get_threshold()
        gc.set_threshold(young, middle, NEVER)
        gc.freeze()  # what is loaded by now stays: it need not be walked at all
        self.timer = QTimer(self)
        self.timer.setInterval(EVERY_MS)
        self.timer.timeout.connect(gc.collect)
        self.timer.start()
