"""The floor for figures in milliseconds: a fixed bit of Python, timed in the same run.

Limits in ms are meant for a machine on which ``spin`` takes REFERENCE_SPIN_S (2 cores, Debian 12, nobody else on it).
Times are divided by how much slower this machine runs at this moment, so that a limit is a ratio to this floor.
"""

import statistics
import time

from PyQt6.QtGui import QColor, QImage, QPainter

REFERENCE_SPIN_S = 1.33e-3


def spin() -> float:
    """Seconds for a fixed bit of work."""
    start = time.perf_counter()
    total = 0
    for i in range(20000):
        total += i * i
    assert total
    return time.perf_counter() - start


def fill_ms(picture: QImage, colour: QColor) -> float:
    """Milliseconds to fill a bare picture with a colour: the floor of anything painted."""
    start = time.perf_counter()
    painter = QPainter(picture)
    painter.fillRect(picture.rect(), colour)
    painter.end()
    return (time.perf_counter() - start) * 1000


def report(times: list[float], floors: list[float], paces: list[float]) -> None:
    """Print middle, 95th percentile and floor in ms at the reference pace, and the pace; the first five are warming up."""
    pace, found = statistics.median(paces) / REFERENCE_SPIN_S, sorted(times[5:])
    shown = statistics.median(found), found[int(0.95 * len(found))], statistics.median(floors)
    print(*(v / pace for v in shown), pace, flush=True)
