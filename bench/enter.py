"""Types readings into the real window; prints the 95th percentile and the middle of Enter to painted and durable,
and the middle of a raw fsync of the same disk, in ms, at the reference pace (bench/pace.py)."""

import os
import statistics
import sys
import time
from pathlib import Path

from PyQt6.QtCore import QEvent, QObject, QSettings, Qt
from PyQt6.QtTest import QTest

from bench.pace import REFERENCE_SPIN_S, spin
from redline_bore.app import application, build_window

WANTED, AT_MOST = 80, 500  # samples taken at the machine's own speed; tries


def raw_fsync(folder: Path) -> float:
    times = []
    with open(folder / "fsync", "wb") as out:
        for _ in range(60):
            start = time.perf_counter()
            out.write(b"x" * 400)
            out.flush()
            os.fsync(out.fileno())
            times.append(time.perf_counter() - start)
    return statistics.median(times) * 1000


path = Path(sys.argv[1])
app = application()
window = build_window(path, "2041", QSettings(str(path) + ".ini", QSettings.Format.IniFormat))
window.show()
while not window.isActiveWindow():
    app.processEvents()
window.session.go("gauge")
_ = window.session.logbook


class Painted(QObject):
    """Counts the paintings of the reading ring."""

    count = 0

    def eventFilter(self, widget: QObject | None, event: QEvent | None) -> bool:
        if event is not None and event.type() == QEvent.Type.Paint:
            self.count += 1
        return False


painted = Painted()
window.steps["gauge"].page.ring.installEventFilter(painted)  # type: ignore[attr-defined]
field = window.line.field
times: list[tuple[float, float]] = []


def steady() -> list[float]:
    """Times of the samples beside which the machine ran at its own speed."""
    best = min(s for _, s in times)
    return sorted(t for t, s in times[5:] if s <= 1.3 * best)


for i in range(AT_MOST):
    if i > WANTED and len(steady()) >= WANTED:
        break
    QTest.keyClicks(field, f"{105.1 + i / 9000:.4f}")
    there = window.session.records[-1].seq
    QTest.keyClick(field, Qt.Key.Key_Return)
    if window.session.records[-1].seq > there:
        continue  # a place that had none; of all the others it is asked once whether they are read again
    start = time.perf_counter()
    before = spin()
    painted.count = 0
    QTest.keyClick(field, Qt.Key.Key_Return)
    while not (painted.count and window.line.kept.text().endswith(f" {window.session.records[-1].seq}")):
        app.processEvents()
        if time.perf_counter() - start > 10.0:
            raise SystemExit(f"the reading was not booked: {window.line.what.text()}")
    assert window.session.records[-1].seq == there + 1
    took = (time.perf_counter() - start) * 1000
    times.append((took, max(before, spin())))
    while window.runner._tokens:
        app.processEvents()  # the wall map follows in its own time; the next reading is timed without it
    app.processEvents()  # and is painted
found = steady()
pace = min(s for _, s in times) / REFERENCE_SPIN_S
print(
    found[int(0.95 * len(found))] / pace,
    statistics.median(found) / pace,
    raw_fsync(path.parent),
    len(found),
    pace,
    flush=True,
)
os._exit(0)
