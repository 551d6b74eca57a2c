"""Lobes by order, on radius: what each gauge sees as bars, what it cannot see hatched."""

from __future__ import annotations

import math

from PyQt6.QtCore import QRectF

from redline_bore.core.show import Show
from redline_bore.job.gauge.round import Slice
from redline_bore.ui.paint.pencil import CENTRE, RIGHT, Pencil, ticks

ORDERS = range(2, 16)


def lobes_of(cut: Slice) -> dict[int, float]:
    """Amplitude on radius in mm of every order that was seen: by a sweep, else by two points and three points."""
    if cut.swept is not None and cut.swept.fit is not None:
        return dict(enumerate(cut.swept.fit.amplitudes_mm, start=2))
    found: dict[int, float] = {}
    if cut.level is not None:
        rows = zip(cut.level.fit.cos_mm, cut.level.fit.sin_mm, strict=True)
        found |= {2 * k: math.hypot(a, b) / 2.0 for k, (a, b) in enumerate(rows, start=1)}
    if cut.three is not None and cut.three.fit.lobe_mm is not None:
        found[3] = cut.three.fit.lobe_mm
    return found


def draw_lobes(pencil: Pencil, area: QRectF, cut: Slice, show: Show) -> None:
    """Draw the bars; an order that no gauge saw is hatched, never drawn as nought."""
    px, seen = pencil.px, lobes_of(cut)
    box = area.adjusted(px(58), px(6), -px(10), -px(36))
    unit = float(show.units.mm)
    top = max([*seen.values(), 0.002]) * 1.15
    pencil.rect(box, "sheet", "rule")
    for value in ticks(0.0, top / unit, 3):
        y = box.bottom() - box.height() * value * unit / top
        pencil.line(box.left(), y, box.right(), y, "rule")
        pencil.label(box.left() - px(6), y, show.size(value * unit), 12, "graphite", align=RIGHT)
    wide = box.width() / len(ORDERS)
    for i, order in enumerate(ORDERS):
        x = box.left() + wide * i
        bar = QRectF(x + wide * 0.2, box.top(), wide * 0.6, box.height())
        if order in seen:
            high = box.height() * seen[order] / top
            pencil.rect(QRectF(bar.left(), box.bottom() - high, bar.width(), high), "open" if cut.swept else "tight")
        else:
            pencil.hatch(bar.adjusted(0, 0, 0, -1), "rule", "rule")
        pencil.label(x + wide / 2, box.bottom() + px(10), str(order), 12, "graphite", align=CENTRE)
    hidden = any(order not in seen for order in ORDERS)
    words = "hatched: not seen by this gauge" if hidden else "lobes round the hole"
    pencil.label(box.center().x(), box.bottom() + px(26), words, 12, "graphite", align=CENTRE)
