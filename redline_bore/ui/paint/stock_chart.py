"""Stock left against strokes, running down to the redline, with the projection and its spread."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QRectF

from redline_bore.core.frozen import frozen
from redline_bore.core.show import Show
from redline_bore.job.hone.progress import Progress
from redline_bore.ui.paint.pencil import CENTRE, LEFT, MIDDLE, RIGHT, Pencil, ticks


@frozen(often=True)
class StockScale:
    """From strokes and stock left (mm) to the screen."""

    box: QRectF
    strokes: float
    low_mm: float
    high_mm: float

    def x(self, strokes: float) -> float:
        return self.box.left() + self.box.width() * strokes / self.strokes

    def y(self, left_mm: float) -> float:
        return self.box.bottom() - self.box.height() * (left_mm - self.low_mm) / (self.high_mm - self.low_mm)


def stock_scale(area: QRectF, lines: list[Progress], scale: float) -> StockScale:
    """How the chart lies in an area: room for the furthest projection that is not out of all proportion."""
    done = max([c.strokes for p in lines for c in p.checks] + [10.0])
    ahead = [
        p.checks[-1].strokes + min(p.tracked.between.most or 3 * done, 3 * done)
        for p in lines
        if p.tracked and p.checks
    ]
    lefts = [p.redline.size_mm - c.mean_mm for p in lines if p.redline.size_mm for c in p.checks]
    top = max([*lefts, 0.01])
    ceiling = min([p.ends.redline_mm - p.ends.ceiling_mm for p in lines if p.ends is not None] + [0.0])
    box = area.adjusted(62 * scale, 6 * scale, -24 * scale, -40 * scale)
    return StockScale(box, 1.06 * max([done, *ahead]), min([*lefts, ceiling, 0.0]) - 0.12 * top, 1.12 * top)


def draw_stock_chart(pencil: Pencil, area: QRectF, lines: list[Progress], selected: int, show: Show) -> None:
    """Draw every cylinder's run; the selected one dark, with its projection."""
    scale = stock_scale(area, lines, pencil.theme.scale)
    pencil.rect(scale.box, "sheet", "rule")
    _draw_scales(pencil, scale, show)
    chosen = next(p for p in lines if p.cylinder == selected)
    _draw_projection(pencil, scale, chosen)
    _draw_redline(pencil, scale, chosen, show)
    _draw_big_figure(pencil, scale, chosen, show)
    for progress in sorted(lines, key=lambda p: p.cylinder == selected):
        _draw_run(pencil, scale, progress, progress.cylinder == selected)
    for progress in sorted(lines, key=lambda p: p.cylinder != selected):
        _draw_number(pencil, scale, progress, progress.cylinder == selected)


def _draw_scales(pencil: Pencil, scale: StockScale, show: Show) -> None:
    px, unit = pencil.px, float(show.units.mm)
    for value in ticks(0.0, scale.high_mm / unit, 6):
        y = scale.y(value * unit)
        pencil.line(scale.box.left(), y, scale.box.right(), y, "rule")
        if value:
            pencil.label(scale.box.left() - px(8), y, show.size(value * unit).rstrip("0"), 12, "graphite", align=RIGHT)
    for value in ticks(0.0, scale.strokes, 7):
        pencil.line(scale.x(value), scale.box.bottom(), scale.x(value), scale.box.bottom() + px(5), "graphite")
        pencil.label(scale.x(value), scale.box.bottom() + px(14), f"{value:g}", 12, "graphite", align=CENTRE)
    pencil.label(
        scale.box.right(), scale.box.bottom() + px(30), "double strokes in this step", 12, "graphite", align=RIGHT
    )


def _draw_run(pencil: Pencil, scale: StockScale, p: Progress, chosen: bool) -> None:
    size = p.redline.size_mm
    if size is None or not p.checks:
        return
    points = [(scale.x(c.strokes), scale.y(size - c.mean_mm)) for c in p.checks]
    colour, width, dot = ("ink", 2.6, 4.5) if chosen else ("graphite", 1.2, 3.0)
    if len(points) > 1:
        pencil.polyline(points, colour, width)
    for x, y in points:
        pencil.circle(x, y, pencil.px(dot), "sheet", colour, 2.0 if chosen else 1.3)


def _draw_number(pencil: Pencil, scale: StockScale, p: Progress, chosen: bool) -> None:
    size, colour = p.redline.size_mm, "ink" if chosen else "graphite"
    if size is None or not p.checks:
        return
    x, y = scale.x(p.checks[-1].strokes), scale.y(size - p.checks[-1].mean_mm)
    pencil.label(x + pencil.px(10), y - pencil.px(11), str(p.cylinder), 15 if chosen else 13, colour, True)


def _draw_projection(pencil: Pencil, scale: StockScale, p: Progress) -> None:
    t, size = p.tracked, p.redline.size_mm
    if t is None or size is None or p.target_mm is None or not p.checks:
        return
    if t.to_aim_mm <= 0.0 or p.done:  # nothing is left to take: nothing is foretold
        return
    s, at = t.between, p.checks[-1].strokes
    start = (scale.x(at), scale.y(size - t.track.mean_mm))
    end_y = scale.y(size - p.target_mm)
    furthest = min(at + (s.most if s.most is not None else 9e9), scale.strokes)
    if s.most is None:  # no upper figure: the spread stays open to the right
        fan = [start, (scale.x(at + s.least), end_y), (scale.x(furthest), end_y), (scale.x(furthest), start[1])]
    else:
        fan = [start, (scale.x(at + s.least), end_y), (scale.x(furthest), end_y)]
    pencil.p.save()
    pencil.p.setClipRect(scale.box)
    pencil.polygon(fan, "tight", alpha=0.28)
    pencil.polyline([start, (scale.x(min(at + s.likely, scale.strokes)), end_y)], "tight", 1.8, "dash")
    pencil.p.restore()


def in_the_way(along: float, above: float, px: Callable[[float], float]) -> bool:
    """Whether a curve that has come so far, pixels right of where a label begins and above its line, runs through the label."""
    return along < px(190) and above < px(40)


def _draw_redline(pencil: Pencil, scale: StockScale, p: Progress, show: Show) -> None:
    px, size = pencil.px, p.redline.size_mm
    y = scale.y(0.0)
    if p.ends is not None:  # no place may pass the ceiling: hatched ground above the redline
        over = scale.y(p.ends.redline_mm - p.ends.ceiling_mm)
        if over < scale.box.bottom():
            pencil.hatch(
                QRectF(scale.box.left(), over, scale.box.width(), scale.box.bottom() - over), "graphite", "rule"
            )
    pencil.line(scale.box.left() - px(4), y, scale.box.right(), y, "redline", 3.0)
    right = scale.box.right()
    pencil.polygon([(right, y), (right + px(14), y - px(9)), (right + px(14), y + px(9))], "redline")
    if size is not None:
        pencil.label(right - px(8), y + px(12), f"redline {show.unit(show.size(size))}", 14, "redline", True, RIGHT)
    if p.target_mm is not None and size is not None and size - p.target_mm > 1e-6:
        ty = scale.y(size - p.target_mm)
        pencil.line(scale.box.left(), ty, scale.box.right(), ty, "ink", 1.2, "dot")
        text = f"{p.step_name} ends {show.size(size - p.target_mm)} short"
        x, align = scale.box.left() + px(8), LEFT
        if p.checks and in_the_way(scale.x(p.checks[-1].strokes) - x, ty - scale.y(size - p.checks[-1].mean_mm), px):
            x, align = right - px(8), RIGHT
        pencil.label(x, ty - px(10), text, 13, "ink", align=align, ground="sheet")


def _draw_big_figure(pencil: Pencil, scale: StockScale, p: Progress, show: Show) -> None:
    px = pencil.px
    box = QRectF(scale.box.right() - px(380), scale.box.top() + px(2), px(368), px(74))
    if p.left_mm is None:
        return
    over = p.over
    figure = show.size(p.past_mm if over else abs(p.left_mm))
    pencil.text(box, figure, 62, "ink", True, RIGHT | MIDDLE)
    left = "left" if p.left_mm >= 0.0 else "beyond, within the gauge's doubt,"
    word = (
        f"{show.units.mark} past in cylinder {p.cylinder}: stop"
        if over
        else f"{left} in cylinder {p.cylinder}, {show.units.mark}"
    )
    under = QRectF(box.left(), box.bottom() - px(2), box.width(), px(20))
    pencil.text(under, word, 14, "graphite" if not over else "ink", over, RIGHT | MIDDLE)
    pencil.keep_clear(box.united(under).adjusted(px(60), 0, 0, 0))
    if over:
        pencil.hatch(QRectF(box.right() - px(230), under.bottom() + px(3), px(230), px(9)), "ink", "ink")
