"""A shadow over the wall map: close hatching where it stays for sure, open hatching where it may."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF
from PyQt6.QtGui import QImage

from redline_bore.core.late import np
from redline_bore.job.call.shadow import Shadow
from redline_bore.ui.paint.pencil import Pencil

CLOSE_PX, OPEN_PX = 5, 11


def shadow_image(shadow: Shadow, width: int, height: int, colour: int, scale: float) -> QImage:
    """The hatching as an image with a clear ground, ``width`` by ``height`` pixels."""
    rows = np.minimum((np.arange(height) + 0.5) / height * shadow.sure_mm.shape[0], shadow.sure_mm.shape[0] - 1).astype(
        int
    )
    columns = np.minimum(
        (np.arange(width) + 0.5) / width * shadow.sure_mm.shape[1], shadow.sure_mm.shape[1] - 1
    ).astype(int)
    sure, may = (np.nan_to_num(g, nan=-1.0)[np.ix_(rows, columns)] > 0.0 for g in (shadow.sure_mm, shadow.may_mm))
    across = np.subtract.outer(np.arange(height), np.arange(width))  # leans against the hatching of defects
    close, wide = max(round(CLOSE_PX * scale), 3), max(round(OPEN_PX * scale), 5)
    hatched = (sure & (across % close == 0)) | (may & ~sure & (across % wide == 0))
    edge = may & ~(np.roll(may, 1, 0) & np.roll(may, -1, 0) & np.roll(may, 1, 1) & np.roll(may, -1, 1))
    pixels = np.where(hatched | edge, np.uint32(colour), np.uint32(0))
    return QImage(pixels.tobytes(), width, height, 4 * width, QImage.Format.Format_ARGB32).copy()


def draw_shadow(pencil: Pencil, wall: QRectF, shadow: Shadow) -> None:
    """Draw the shadow into the rectangle of the wall."""
    colour = pencil.theme.colour("ink").rgba()
    image = shadow_image(shadow, max(round(wall.width()), 1), max(round(wall.height()), 1), colour, pencil.theme.scale)
    pencil.p.drawImage(QPointF(round(wall.left()), round(wall.top())), image)
