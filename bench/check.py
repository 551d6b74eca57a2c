"""Books checks at the hone of job 2044; prints the middle and the 95th percentile of Enter to the projection painted
anew, in ms at the reference pace (bench/pace.py), what a bare picture takes that is only filled, and the pace."""

import os
import sys
import time
from pathlib import Path

from PyQt6.QtCore import QSettings, Qt
from PyQt6.QtGui import QImage
from PyQt6.QtTest import QTest

from bench.pace import fill_ms, report, spin
from redline_bore.app import application, build_window

CHECKS = 50

path = Path(sys.argv[1])
app = application()
window = build_window(path, "2044", QSettings(str(path) + ".ini", QSettings.Format.IniFormat))
window.show()
while not window.isActiveWindow():
    app.processEvents()
window.session.go("hone")
window.session.select(2)
_ = window.session.logbook
app.processEvents()
stock = window.steps["hone"].page.stock  # type: ignore[attr-defined]
floor = QImage(window.size(), QImage.Format.Format_RGB32)
times, floors, paces = [], [], []
for i in range(CHECKS):
    paces.append(spin())
    QTest.keyClicks(window.line.field, f"{31 + i * 0.02:.2f} {3.49836 + i * 0.000001:.6f}")
    start = time.perf_counter()
    QTest.keyClick(window.line.field, Qt.Key.Key_Return)
    stock.repaint()
    times.append((time.perf_counter() - start) * 1000)
    app.processEvents()
    floors.append(fill_ms(floor, window.theme.colour("paper")))
report(times, floors, paces)
os._exit(0)
