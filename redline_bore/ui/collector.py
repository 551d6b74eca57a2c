"""When unreachable objects are looked for: in a turn of the event loop of its own, never in the middle of a reading.

Python walks everything it holds whenever enough was made, which while gauging is while a reading is booked and drawn: 15 ms on top of the
longest frame. The young generations stay as they are (they are short); the old one is walked by a timer, and what the allocator holds for
nobody goes back to the system.
"""

from __future__ import annotations

import gc
from collections.abc import Callable

from PyQt6.QtCore import QObject, QTimer

EVERY_MS = 10_000
NEVER = 1_000_000  # young collections before Python would walk everything by itself: days of gauging
TRIM_EVERY = 6  # walks: a minute


class Collector(QObject):
    """Walks the old generation every few seconds, for as long as the window lives."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        young, middle, _old = gc.get_threshold()
        gc.set_threshold(young, middle, NEVER)
        gc.freeze()  # what is loaded by now stays: it need not be walked at all
        self._walks, self._trim = 0, _trimmer()
        self.timer = QTimer(self)
        self.timer.setInterval(EVERY_MS)
        self.timer.timeout.connect(self._walk)
        self.timer.start()

    def _walk(self) -> None:
        self._walks += 1
        if self._walks % TRIM_EVERY:
            gc.collect()
        else:
            self._trim()


def _trimmer() -> Callable[[], object]:
    """Gives free memory back to the system, where the C library can."""
    import ctypes  # the first picture needs none

    try:
        trim = ctypes.CDLL(None).malloc_trim
    except (OSError, AttributeError):
        return gc.collect
    trim.argtypes, trim.restype = [ctypes.c_size_t], ctypes.c_int
    return lambda: trim(0)
