"""Moves the redline up and down the size ladder; prints the middle and the 95th percentile of the time until the
ladder, the block plan and the call card are painted anew, in ms at the reference pace (bench/pace.py), what a bare
picture takes that only fills the window's ground, and the pace."""

import os
import sys
import time
from pathlib import Path

from PyQt6.QtCore import QSettings
from PyQt6.QtGui import QImage

from bench.pace import fill_ms, report, spin
from redline_bore.app import application, build_window

MOVES = 60

path = Path(sys.argv[1])
app = application()
window = build_window(path, "2041", QSettings(str(path) + ".ini", QSettings.Format.IniFormat))
window.show()
while not window.isActiveWindow():
    app.processEvents()
window.session.go("call")
while window.runner._tokens:
    app.processEvents()
floor = QImage(window.size(), QImage.Format.Format_RGB32)
rungs, times, floors, paces = window.session.job.book_in.oversizes_mm, [], [], []
for i in range(MOVES):
    paces.append(spin())
    start = time.perf_counter()
    window.session.set_rung(rungs[i % len(rungs)])
    window.repaint()  # all of it, at once: what a drag asks for, and more
    times.append((time.perf_counter() - start) * 1000)
    app.processEvents()
    floors.append(fill_ms(floor, window.theme.colour("paper")))
report(times, floors, paces)
os._exit(0)
