"""Paints the gauge step while readings arrive at 20 a second; prints the middle and the 95th percentile of the time its
pictures take to paint for one reading, in ms at the reference pace (bench/pace.py), what a bare picture takes that
only fills its ground, and the pace."""

import os
import sys
import time
from pathlib import Path

from PyQt6.QtCore import QSettings
from PyQt6.QtGui import QImage, QPaintEvent

from bench.pace import fill_ms, report, spin
from redline_bore.app import application, build_window
from redline_bore.job.kinds.gauge import ReadingBooked
from redline_bore.ui.paint.picture import Picture

READINGS, EVERY_S = 120, 0.05

path = Path(sys.argv[1])
app = application()
window = build_window(path, "2041", QSettings(str(path) + ".ini", QSettings.Format.IniFormat))
window.show()
while not window.isActiveWindow():
    app.processEvents()
window.session.go("gauge")
while window.runner._tokens:
    app.processEvents()
step = window.steps["gauge"]
pictures = [p for p in step.findChildren(Picture) if p.isVisible()]
spent: list[float] = []
drawn = Picture.paintEvent


def timed(picture: Picture, event: QPaintEvent | None) -> None:
    start = time.perf_counter()
    drawn(picture, event)
    if picture in pictures:
        spent.append((time.perf_counter() - start) * 1000)


Picture.paintEvent = timed  # type: ignore[method-assign]
floor = QImage(step.size(), QImage.Format.Format_RGB32)
plan, times, floors, paces = window.session.job.gauging.plan, [], [], []
places = plan.places()
next_at = time.perf_counter()
for i in range(READINGS):
    place = places[i % len(places)]
    depth, clock = plan.depths_mm[place.level], plan.clocks_deg[place.clock]
    window.session.book(
        ReadingBooked(cylinder=1, depth_mm=depth, clock_deg=clock, diameter_mm=105.05 + i / 9000, plate_on=True),
        advance=True,
    )
    paces.append(spin())
    spent.clear()
    while len(spent) < len(pictures):
        app.processEvents()
    times.append(sum(spent))
    floors.append(fill_ms(floor, window.theme.colour("paper")))
    next_at += EVERY_S
    while time.perf_counter() < next_at:
        app.processEvents()
report(times, floors, paces)
os._exit(0)
