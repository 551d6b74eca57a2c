"""The path of a wall under plateau strokes: each figure against strokes, its window as a band, where all are inside."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtCore import QRectF

from redline_bore.core.show import Show
from redline_bore.core.texture.plateau import FIGURES
from redline_bore.job.finish.judgement import Side
from redline_bore.job.finish.plateau import PlateauForecast
from redline_bore.job.words.texture import texture_figure, texture_unit
from redline_bore.ui.paint.pencil import CENTRE, LEFT, MIDDLE, RIGHT, Pencil, ticks

MeasuredFinish = Sequence[tuple[float, dict[str, float]]]


def last_stroke(f: PlateauForecast) -> float:
    """The right end of the picture, strokes beyond the traced wall."""
    wanted = [30.0, f.had - f.begins + 6.0]
    if f.strokes is not None:
        wanted.append(1.15 * f.strokes[1])
    return min(max(wanted), f.path[-1].removed_um / f.rate.um)


def draw_path(pencil: Pencil, area: QRectF, f: PlateauForecast, measured: MeasuredFinish, show: Show) -> None:
    """Three strips under one another sharing the strokes; ``measured``: figures traced after so many strokes."""
    px, end = pencil.px, last_stroke(f)
    left, gap = area.left() + px(92), px(10)
    high = (area.height() - px(48) - 2 * gap) / 3.0
    width = area.width() - px(102)

    def x_of(strokes: float) -> float:
        return left + width * min(max(strokes, 0.0), end) / end

    whole = QRectF(left, area.top(), width, 3 * high + 2 * gap)
    for i, name in enumerate(FIGURES):
        box = QRectF(left, area.top() + i * (high + gap), width, high)
        _strip(pencil, box, f, name, measured, x_of, end, show)
    _zone(pencil, whole, f, x_of)
    for value in ticks(0.0, end, 8):
        pencil.label(x_of(value), whole.bottom() + px(15), f"{value:g}", 12, "graphite", align=CENTRE)
    told = f"plateau strokes{'' if f.begins == 0.0 else f' beyond {f.begins:g}'}, at {show.height(f.rate.um, digits=3)} of metal each, a side"
    pencil.text(QRectF(left, whole.bottom() + px(24), width, px(18)), told, 12, "graphite", align=CENTRE | MIDDLE)


def _zone(pencil: Pencil, whole: QRectF, f: PlateauForecast, x_of: Callable[[float], float]) -> None:
    """Where all figures are inside: by the mean rate as a bracket, by every rate as the thick part; where the wall is now."""
    px = pencil.px
    if f.strokes is not None:
        y = whole.bottom() + px(2)
        pencil.line(x_of(f.strokes[0]), y, x_of(f.strokes[1]), y, "sound", 3.0)
        if f.sure is not None:
            pencil.line(x_of(f.sure[0]), y + px(1), x_of(f.sure[1]), y + px(1), "sound", 7.0)
        for edge in f.strokes:
            pencil.line(x_of(edge), whole.top(), x_of(edge), whole.bottom(), "sound", 1.2, "dot")
    elif f.nearest_um is not None and f.failing[0].side is Side.APART:
        near = x_of(f.nearest_strokes)
        pencil.line(near, whole.top() - px(2), near, whole.bottom(), "look", 2.0, "dash")
        pencil.label(near, whole.top() - px(10), "nearest", 12, "look", True, CENTRE, "paper")
    now = f.had - f.begins
    pencil.line(x_of(now), whole.top() - px(2), x_of(now), whole.bottom(), "ink", 1.6)
    pencil.label(x_of(now), whole.top() - px(10), "now", 12, "ink", True, CENTRE, "paper")
    stop = f.stop_at
    if stop is not None and stop > now:
        pencil.line(x_of(stop), whole.top() - px(2), x_of(stop), whole.bottom(), "tight", 2.0, "dash")
        pencil.label(x_of(stop), whole.top() - px(10), f"stop at {stop} and trace", 12, "tight", True, CENTRE, "paper")


def _strip(
    pencil: Pencil, box: QRectF, f: PlateauForecast, name: str, measured: MeasuredFinish, x_of: Callable[[float], float], end: float,
    show: Show,
) -> None:  # fmt: skip
    px, window = pencil.px, f.windows[name]
    shown = [(c.removed_um / f.rate.um, c.value(name), band) for c, band in zip(f.path, f.band[name], strict=True)]
    shown = [row for row in shown if row[0] <= 1.05 * end]
    values = [v for _, v, _ in shown] + [window.high] + [m[name] for _, m in measured]
    top = 1.12 * max(values)

    def y_of(value: float) -> float:
        return box.bottom() - box.height() * value / top

    pencil.rect(box, "sheet", "rule")
    band = QRectF(box.left(), y_of(window.high), box.width(), y_of(window.low) - y_of(window.high))
    pencil.rect(band, "sound", alpha=0.14)
    for value in (window.low, window.high):
        pencil.line(box.left(), y_of(value), box.right(), y_of(value), "sound", 1.2)
        pencil.label(box.left() - px(6), y_of(value), texture_figure(value, show), 12, "graphite", align=RIGHT)
    pencil.p.save()
    pencil.p.setClipRect(box)
    if any(high - low > 1e-9 for _, _, (low, high) in shown):
        edge = [(x_of(s), y_of(high)) for s, _, (_, high) in shown] + [
            (x_of(s), y_of(low)) for s, _, (low, _) in reversed(shown)
        ]
        pencil.polygon(edge, "tight", alpha=0.14)
    pencil.polyline([(x_of(s), y_of(v)) for s, v, _ in shown], "tight", 2.6)
    pencil.p.restore()
    for strokes, figures in measured:
        pencil.circle(x_of(strokes), y_of(figures[name]), px(4.5), "ink", "sheet", 1.4)
    pencil.text(QRectF(box.left() - px(90), box.top(), px(46), px(22)), name, 16, bold=True, align=LEFT | MIDDLE)
    pencil.text(
        QRectF(box.left() - px(90), box.top() + px(20), px(40), px(18)),
        texture_unit(show),
        12,
        "graphite",
        align=LEFT | MIDDLE,
    )
