"""The crosshatch down the wall: angle by depth against what is wanted, and the scratches as they would lie."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from PyQt6.QtCore import QRectF

from redline_bore.core.show import Show
from redline_bore.core.stroke import Crosshatch
from redline_bore.job.hone.set_up import AngleAim
from redline_bore.ui.paint.pencil import CENTRE, MIDDLE, RIGHT, Pencil, ticks

if TYPE_CHECKING:
    import numpy as np
    from numpy.typing import NDArray

    Array = NDArray[np.float64]


def draw_angle_by_depth(
    pencil: Pencil, area: QRectF, depth_mm: Array, angle_deg: Array, aim: AngleAim, hatch: Crosshatch, length_mm: float,
    show: Show,
) -> None:  # fmt: skip
    """Depth across (deck at the left), included angle up; at the right a patch of wall with both families, to the angle."""
    px = pencil.px
    patch = min(px(190), area.width() * 0.3)
    box = QRectF(area.left() + px(44), area.top() + px(6), area.width() - patch - px(76), area.height() - px(44))
    high = 1.15 * max(aim.high_deg, float(angle_deg[angle_deg == angle_deg].max()))

    def x_of(depth: float) -> float:
        return box.left() + box.width() * depth / length_mm

    def y_of(angle: float) -> float:
        return box.bottom() - box.height() * angle / high

    pencil.rect(box, "sheet", "rule")
    wanted = QRectF(box.left(), y_of(aim.high_deg), box.width(), y_of(aim.low_deg) - y_of(aim.high_deg))
    pencil.rect(wanted, "iron")
    pencil.label(box.right() - px(6), wanted.top() + px(10), "wanted", 12, "graphite", align=RIGHT)
    for value in ticks(0.0, high, 5):
        pencil.line(box.left(), y_of(value), box.right(), y_of(value), "rule")
        pencil.label(box.left() - px(6), y_of(value), f"{value:.0f}°", 12, "graphite", align=RIGHT)
    unit = float(show.units.mm)
    for value in ticks(0.0, length_mm / unit, 6):
        pencil.label(x_of(value * unit), box.bottom() + px(13), f"{value:.4g}", 12, "graphite", align=CENTRE)
    below = QRectF(box.left(), box.bottom() + px(22), box.width(), px(16))
    pencil.text(below, f"down from the deck, {show.units.mark}", 12, "graphite", align=CENTRE | MIDDLE)
    points = [(x_of(float(z)), y_of(float(a))) for z, a in zip(depth_mm, angle_deg, strict=True) if a == a]
    if len(points) > 1:
        pencil.polyline(points, "tight", 2.6)
    mean = y_of(hatch.included_deg)
    pencil.line(box.left(), mean, box.right(), mean, "ink", 1.2, "dash")
    pencil.label(box.left() + px(6), mean - px(9), f"mean {hatch.included_deg:.0f}°", 12, "ink", ground="sheet")
    _patch(pencil, QRectF(area.right() - patch, box.top(), patch, box.height()), hatch)


def _patch(pencil: Pencil, r: QRectF, hatch: Crosshatch) -> None:
    """A patch of the wall, bore axis upright, with both families of scratches."""
    px = pencil.px
    pencil.rect(r, "sheet", "graphite")
    pencil.p.save()
    pencil.p.setClipRect(r)
    slope = math.tan(math.radians(hatch.from_horizontal_deg))
    step = px(13)
    count = int((r.height() + r.width() * slope) / step) + 2
    for i in range(-count, count + 1):
        y = r.top() + step * i
        pencil.line(r.left(), y, r.right(), y + r.width() * slope, "graphite", 1.2)
        pencil.line(r.left(), y, r.right(), y - r.width() * slope, "graphite", 1.2)
    pencil.p.restore()
    words = f"{hatch.included_deg:.0f}° included"
    pencil.label(r.center().x(), r.center().y() - px(9), words, 14, "ink", True, CENTRE, ground="sheet")
    half = f"{hatch.from_horizontal_deg:.0f}° from flat"
    pencil.label(r.center().x(), r.center().y() + px(10), half, 13, "ink", align=CENTRE, ground="sheet", crowd=False)
