"""The grip of a sleeve round the clock: interference magnified outwards from the circle where nothing grips."""

from __future__ import annotations

import math
from collections.abc import Callable

from PyQt6.QtCore import QRectF

from redline_bore.core.late import np
from redline_bore.core.show import Show
from redline_bore.job.sleeve.fit import SleeveFit
from redline_bore.job.words.missing import say_missing
from redline_bore.ui.paint.pencil import CENTRE, MIDDLE, Pencil

INSIDE, OUTSIDE = 0.50, 0.92  # of the dial: no grip, and the most that is drawn


def draw_grip_dial(
    pencil: Pencil, area: QRectF, fit: SleeveFit, wanted_mm: tuple[float, float, float], show: Show
) -> None:
    """Draw the interference of ``fit`` where its parent is most out of round, with the ring that is wanted."""
    px = pencil.px
    if fit.unbored and fit.wanted_mm is not None and fit.parent_mm is not None:
        told = f"Not bored for this sleeve yet: it wants {show.size(fit.wanted_mm)}, {show.size(fit.wanted_mm - fit.parent_mm)} more."
        pencil.text(area, told, 15, "graphite", align=CENTRE | MIDDLE, wrap=True)
        return
    if fit.round_clock is None:
        pencil.text(area, f"{say_missing(fit.missing).capitalize()}.", 15, "graphite", align=CENTRE | MIDDLE)
        return
    grip = fit.round_clock
    x, y = area.center().x(), area.center().y()
    whole = min(area.width() / 2 - px(54), area.height() / 2 - px(22))
    high = 1.12 * max(wanted_mm[2], float(grip.interference_mm.max()), 1e-6)

    def radius(mm: float) -> float:
        return whole * (INSIDE + (OUTSIDE - INSIDE) * max(mm, -0.4 * high) / high)

    _ring(pencil, x, y, radius(wanted_mm[0]), radius(wanted_mm[2]))
    pencil.circle(x, y, radius(0.0), "sheet", "ink", 1.6)
    pencil.circle(x, y, radius(wanted_mm[1]), "", "graphite", 1.0, "dash")
    points = [
        (x + radius(float(v)) * math.sin(math.radians(c)), y - radius(float(v)) * math.cos(math.radians(c)))
        for c, v in zip(grip.clock_deg[::4], grip.interference_mm[::4], strict=True)
    ]
    pencil.polyline([*points, points[0]], "tight", 2.6)
    for side, word in ((-1, "270°"), (1, "90°")):
        pencil.line(x + side * whole * 0.96, y, x + side * whole * 1.04, y, "ink", 2.0)
        pencil.label(x + side * (whole + px(24)), y - px(14), word, 12, "graphite", align=CENTRE)
    pencil.label(x, y - whole - px(6), "0° front", 12, "graphite", align=CENTRE)
    _ends(pencil, x, y, radius, fit, show)
    wide = 2 * radius(0.0)
    inner = QRectF(x - wide / 2, y - px(30), wide, px(22))
    figure = show.size(grip.mean_interference_mm)
    size = min(22.0, 22.0 * 0.84 * wide / pencil.width_of(figure, 22, True))
    if size < 12.0 or wide < px(120):
        pencil.text(QRectF(x - wide / 2, y - px(11), wide, px(22)), figure, size, "ink", True, CENTRE | MIDDLE)
        return
    pencil.text(inner, figure, size, "ink", True, CENTRE | MIDDLE)
    pencil.text(inner.translated(0, px(24)), "grips, mean", 12, "graphite", align=CENTRE | MIDDLE)
    pencil.text(inner.translated(0, px(42)), show.down(fit.worst_depth_mm), 12, "graphite", align=CENTRE | MIDDLE)


def _ring(pencil: Pencil, x: float, y: float, inner: float, outer: float) -> None:
    """The interference that is wanted."""
    pencil.circle(x, y, outer, "iron", "rule")
    pencil.circle(x, y, inner, "sheet", "rule")


def _ends(pencil: Pencil, x: float, y: float, radius: Callable[[float], float], fit: SleeveFit, show: Show) -> None:
    """Where it grips least and most."""
    assert fit.round_clock is not None
    grip, px = fit.round_clock, pencil.px
    for at, word in ((int(np.argmin(grip.interference_mm)), "least"), (int(np.argmax(grip.interference_mm)), "most")):
        t, value = math.radians(float(grip.clock_deg[at]) % 180.0), float(grip.interference_mm[at])
        dx, dy = math.sin(t), -math.cos(t)
        pencil.circle(x + radius(value) * dx, y + radius(value) * dy, px(4.5), "sheet", "tight", 2.0)
        out = radius(value) + px(30)
        pencil.label(x + out * dx, y + out * dy, f"{word} {show.size(value)}", 13, "ink", True, CENTRE, ground="sheet")
