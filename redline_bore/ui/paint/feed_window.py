"""Feed a turn against nose radius: the windows that are known as boxes, this cut as a dot."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import QRectF

from redline_bore.core.cutting import Window
from redline_bore.core.show import Show
from redline_bore.job.state.boring import Bar
from redline_bore.ui.paint.pencil import CENTRE, MIDDLE, RIGHT, Pencil, ticks

PLACES = {
    "small_positive": (0.4, "1/64 +"),
    "large_positive": (0.8, "1/32 +"),
    "large_negative": (0.8, "1/32 −"),
}
WIDEST_MM, HIGHEST_MM = 1.3, 0.36


def draw_feed_windows(pencil: Pencil, area: QRectF, windows: Mapping[str, Window], bar: Bar | None, show: Show) -> None:
    """Draw the windows and the cut of the bar, mm a turn up, mm of nose radius across."""
    px = pencil.px
    box = QRectF(area.left() + px(52), area.top() + px(6), area.width() - px(60), area.height() - px(46))
    high = max(HIGHEST_MM, 1.1 * bar.feed_mm if bar else 0.0)
    wide = max(WIDEST_MM, 1.1 * bar.nose_radius_mm if bar else 0.0)
    pencil.rect(box, "sheet", "rule")

    def x_of(radius: float) -> float:
        return box.left() + box.width() * radius / wide

    def y_of(feed: float) -> float:
        return box.bottom() - box.height() * feed / high

    unit = float(show.units.mm)
    for value in ticks(0.0, high / unit, 5):
        pencil.line(box.left(), y_of(value * unit), box.right(), y_of(value * unit), "rule")
        pencil.label(box.left() - px(6), y_of(value * unit), f"{value:.3g}", 12, "graphite", align=RIGHT)
    for value in ticks(0.0, wide / unit, 5):
        pencil.label(x_of(value * unit), box.bottom() + px(12), f"{value:.3g}", 12, "graphite", align=CENTRE)
    for name, window in windows.items():
        radius, words = PLACES[name]
        shift = px(20) if name.endswith("negative") else -px(20) if name == "large_positive" else 0.0
        top = y_of(window.feed_high_mm)
        frame = QRectF(x_of(radius) - px(18) + shift, top, px(36), y_of(window.feed_low_mm) - top)
        pencil.rect(frame, "iron", "graphite", alpha=0.8)
        pencil.label(frame.center().x(), top - px(9), words, 12, "graphite", align=CENTRE)
    if bar is not None:
        x, y = x_of(bar.nose_radius_mm), y_of(bar.feed_mm)
        pencil.circle(x, y, px(6), "tight", "ink", 2.0)
        pencil.label(x, y + px(16), "this cut", 12, "tight", True, CENTRE, ground="sheet", crowd=False)
    pencil.text(
        QRectF(box.left(), box.bottom() + px(22), box.width(), px(18)),
        f"nose radius, {show.units.mark}; + and − rake",
        12,
        "graphite",
        align=CENTRE | MIDDLE,
    )
