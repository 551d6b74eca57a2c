"""The crosshatch: the picture with the families laid over it, directions as a half rose, what the strokes promised."""

from __future__ import annotations

import math
from collections.abc import Sequence

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QImage

from redline_bore.ui.paint.pencil import CENTRE, LEFT, RIGHT, Pencil

ACROSS = 5


def draw_picture(pencil: Pencil, box: QRectF, image: QImage | None, angles: Sequence[float], words: str) -> None:
    """A picture with lines of each family over it; only the lines where there is no picture."""
    px = pencil.px
    where = box
    if image is not None and not image.isNull():
        size = image.size().scaled(int(box.width()), int(box.height()), Qt.AspectRatioMode.KeepAspectRatio)
        where = QRectF(box.left() + (box.width() - size.width()) / 2.0, box.top(), size.width(), size.height())
        pencil.p.drawImage(where, image)
    else:
        pencil.rect(box, "sheet")
    pencil.rect(where, "", "rule")
    pencil.p.save()
    pencil.p.setClipRect(where)
    for angle, colour in zip(angles, ("tight", "open"), strict=False):
        _family(pencil, where, angle, colour)
    pencil.p.restore()
    pencil.label(where.left() + px(8), where.bottom() - px(12), words, 12, "ink", align=LEFT, ground="sheet")


def _family(pencil: Pencil, box: QRectF, angle_deg: float, colour: str) -> None:
    """Parallel lines at an angle from the horizontal, plus rising to the right."""
    slope, reach = math.tan(math.radians(angle_deg)), box.width()
    for i in range(-1, ACROSS + 2):
        y = box.top() + box.height() * (i + 0.5) / ACROSS
        middle = box.center().x()
        pencil.p.setPen(pencil.pen("sheet", 3.4, alpha=0.75))
        start, end = QPointF(middle - reach, y + slope * reach), QPointF(middle + reach, y - slope * reach)
        pencil.p.drawLine(start, end)
        pencil.p.setPen(pencil.pen(colour, 1.8))
        pencil.p.drawLine(start, end)


def draw_rose(
    pencil: Pencil, box: QRectF, histogram: Sequence[float], up_deg: float, down_deg: float, wanted: tuple[float, float]
) -> None:
    """Directions from -60 to 60 degrees as bars, both families marked, the stretch that is wanted on either side."""
    px, reach = pencil.px, 60.0

    def x_of(angle: float) -> float:
        return box.left() + box.width() * (angle + reach) / (2.0 * reach)

    pencil.rect(box, "sheet", "rule")
    for side in (-1.0, 1.0):
        ends = sorted(side * w / 2.0 for w in wanted)
        pencil.rect(QRectF(x_of(ends[0]), box.top(), x_of(ends[1]) - x_of(ends[0]), box.height()), "sound", alpha=0.16)
    if histogram:
        most, step = max(histogram), 180.0 / len(histogram)
        for i, value in enumerate(histogram):
            angle = -90.0 + i * step
            if -reach <= angle < reach:
                high = (box.height() - px(22)) * value / most
                pencil.rect(
                    QRectF(x_of(angle), box.bottom() - high, x_of(angle + step) - x_of(angle), high),
                    "graphite",
                    alpha=0.6,
                )
    for angle, colour, side in ((up_deg, "tight", LEFT), (-down_deg, "open", RIGHT)):
        pencil.line(x_of(angle), box.top(), x_of(angle), box.bottom(), colour, 2.2)
        away = px(5) if side is LEFT else -px(5)
        pencil.label(
            x_of(angle) + away, box.top() + px(10), f"{angle:+.1f}°".replace("-", "−"), 13, colour, True, side, "sheet"
        )
    for angle in (-45, -30, -15, 0, 15, 30, 45):
        pencil.label(x_of(angle), box.bottom() + px(11), f"{angle}°".replace("-", "−"), 12, "graphite", align=CENTRE)
