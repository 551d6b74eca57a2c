"""Plate against head, line by line, as it would be ticked off on paper."""

from __future__ import annotations

from PyQt6.QtCore import QRectF

from redline_bore.core.plate import ClampMatch
from redline_bore.core.show import Show
from redline_bore.job.words.plate import clamp_text
from redline_bore.ui.paint.pencil import LEFT, MIDDLE, RIGHT, Pencil


def draw_clamp_lines(pencil: Pencil, area: QRectF, match: ClampMatch, show: Show) -> None:
    """A line each: what, plate, head, and whether they agree; what is not known is a triangle."""
    px = pencil.px
    high = min(px(24), area.height() / (len(match.lines) + 1))
    third = (area.width() - px(22) - px(132)) / 2
    for x, word in ((px(132), "plate"), (px(132) + third, "head")):
        pencil.text(QRectF(area.left() + x, area.top(), third, high), word, 12, "graphite", align=LEFT | MIDDLE)
    for i, line in enumerate(match.lines, start=1):
        y = area.top() + high * i
        pencil.line(area.left(), y, area.right(), y, "rule")
        pencil.text(QRectF(area.left(), y, px(130), high), line.name, 13, "graphite", align=LEFT | MIDDLE)
        for x, value in ((px(132), line.plate), (px(132) + third, line.head)):
            text = clamp_text(line.name, value, show)
            size = pencil.sized(text, third - px(4), 13.0)
            pencil.text(QRectF(area.left() + x, y, third, high), text, size, "ink", align=LEFT | MIDDLE)
        mark = area.right() - px(14)
        if line.same:
            pencil.tick_mark(mark, y + high / 2)
        elif line.same is None:
            pencil.triangle_mark(mark, y + high / 2, 11)
        else:
            pencil.text(QRectF(mark - px(30), y, px(44), high), "differs", 12, "look", True, RIGHT | MIDDLE)
