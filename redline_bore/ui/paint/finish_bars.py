"""A figure of the finish against its window: the band, each trace as a dot, the mean with its U."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtCore import QRectF

from redline_bore.core.fit import Decision
from redline_bore.core.show import Show
from redline_bore.job.finish.judgement import FinishWindow, Judged
from redline_bore.job.words.texture import texture_figure
from redline_bore.ui.paint.pencil import LEFT, MIDDLE, RIGHT, Pencil

LABEL_PX, VALUE_PX = 44.0, 128.0


def scale_end(judged: Sequence[Judged], window: FinishWindow | None) -> float:
    """The right end of a bar's scale, um."""
    most = [j.most + j.u for j in judged] + ([window.high] if window is not None else [])
    return 1.25 * max(most, default=1.0)


def draw_bar(
    pencil: Pencil, box: QRectF, judged: Judged, values: Sequence[float], show: Show, end: float | None = None
) -> None:
    """One row: its name at the left, the band and the dots, the figure and its mark at the right."""
    px = pencil.px
    pencil.text(QRectF(box.left(), box.top(), px(LABEL_PX), box.height()), judged.parameter, 14, bold=True)
    track = QRectF(box.left() + px(LABEL_PX), box.top(), box.width() - px(LABEL_PX + VALUE_PX), box.height())
    draw_track(pencil, track, judged, values, show, end or scale_end([judged], judged.window))
    told = f"{texture_figure(judged.mean, show)} ± {texture_figure(judged.u, show)}"
    right = QRectF(track.right() + px(10), box.top(), px(VALUE_PX - 34), box.height())
    pencil.text(right, told, 14, align=RIGHT | MIDDLE)
    draw_mark(pencil, right.right() + px(8), box.center().y(), judged.decision)


def draw_mark(pencil: Pencil, x: float, y: float, decision: Decision | None) -> None:
    """A tick, a triangle, or the word."""
    if decision is Decision.IN:
        pencil.tick_mark(x, y, 11)
    elif decision is Decision.TOO_CLOSE:
        pencil.triangle_mark(x, y, 12)
    elif decision is Decision.OUT:
        pencil.text(QRectF(x - pencil.px(2), y - pencil.px(8), pencil.px(30), pencil.px(16)), "out", 12, "ink", True)


def draw_track(
    pencil: Pencil, track: QRectF, judged: Judged, values: Sequence[float], show: Show, end: float, ends: bool = True
) -> None:
    """The scale from nought, the window as a band with its ends told, dots for traces, the mean and its U."""
    px, middle = pencil.px, track.center().y()

    def x_of(value: float) -> float:
        return track.left() + track.width() * min(value, end) / end

    pencil.line(track.left(), middle, track.right(), middle, "rule")
    window = judged.window
    if window is not None:
        band = QRectF(
            x_of(window.low), track.top() + px(3), x_of(window.high) - x_of(window.low), track.height() - px(6)
        )
        pencil.rect(band, "sound", alpha=0.16)
        for value, side in ((window.low, RIGHT), (window.high, LEFT)):
            pencil.line(x_of(value), band.top(), x_of(value), band.bottom(), "sound", 1.2)
            if ends:
                away = -px(4) if side is RIGHT else px(4)
                pencil.label(
                    x_of(value) + away,
                    band.bottom() - px(5),  # under the bar of the mean, which may reach over it
                    texture_figure(value, show),
                    12,
                    "graphite",
                    align=side,
                    ground="sheet",
                )
    draw_mean(pencil, track, judged, x_of)
    for value in values:
        pencil.circle(x_of(value), middle, px(2.6), "sheet", "ink", 1.2)


def draw_mean(pencil: Pencil, track: QRectF, judged: Judged, x_of: Callable[[float], float]) -> None:
    """The mean as a stroke, its U as a bar."""
    px, middle = pencil.px, track.center().y()
    low, high = x_of(max(judged.mean - judged.u, 0.0)), x_of(judged.mean + judged.u)
    pencil.line(low, middle, high, middle, "tight", 3.0)
    pencil.line(x_of(judged.mean), middle - px(8), x_of(judged.mean), middle + px(8), "tight", 3.0)
