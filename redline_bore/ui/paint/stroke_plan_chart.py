"""A stroke plan: the wall before, as it is predicted, as it was measured since, and the load by depth."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QRectF

from redline_bore.core.show import Show
from redline_bore.job.hone.model import Forecast
from redline_bore.ui.paint.pencil import CENTRE, LEFT, MIDDLE, RIGHT, Pencil, ticks


def draw_stroke_plan(
    pencil: Pencil, area: QRectF, found: Forecast, measured: tuple[tuple[float, ...], tuple[float, ...]] | None,
    length_mm: float, show: Show,
) -> None:  # fmt: skip
    """Distance to the end of the step across (the end as a line at the right), depth down; load beside it."""
    px = pencil.px
    box = QRectF(area.left() + px(50), area.top() + px(24), area.width() * 0.62 - px(60), area.height() - px(70))
    load = QRectF(area.left() + area.width() * 0.66, box.top(), area.width() * 0.34 - px(10), box.height())
    honed, least = found.plan.honed, min(found.wall.sizes_mm)
    before = [(d, s - found.target_mm) for d, s in zip(found.wall.depths_mm, found.wall.sizes_mm, strict=True)]
    after = [
        (float(z), least + 2.0 * float(e) - found.target_mm)
        for z, e in zip(honed.depth_mm, honed.excess_mm, strict=True)
    ]
    since = [] if measured is None else [(d, s - found.target_mm) for d, s in zip(*measured, strict=True)]
    low = min(v for _, v in [*before, *after, *since])
    high = max(0.10 * abs(low), 0.002, *(v for _, v in since)) if since else max(0.10 * abs(low), 0.002)
    low -= 0.06 * (high - low)

    def x_of(value: float) -> float:
        return box.left() + box.width() * (value - low) / (high - low)

    def y_of(depth: float) -> float:
        return box.top() + box.height() * depth / length_mm

    pencil.rect(box, "sheet", "rule")
    _scales(pencil, box, low, high, length_mm, x_of, y_of, show)
    pencil.line(x_of(0.0), box.top() - px(4), x_of(0.0), box.bottom() + px(4), "redline", 2.5)
    pencil.label(x_of(0.0) + px(6), box.top() + px(12), "its end", 12, "redline", True, LEFT)
    pencil.polyline([(x_of(v), y_of(d)) for d, v in before], "graphite", 1.6, "dash")
    pencil.polyline([(x_of(v), y_of(d)) for d, v in after], "tight", 2.8)
    for d, v in before:
        pencil.circle(x_of(v), y_of(d), px(3.5), "sheet", "graphite", 1.6)
    for d, v in since:
        pencil.circle(x_of(v), y_of(d), px(5), "ink", "sheet", 1.4)
    _key(pencil, box, bool(since))
    _load(pencil, load, found, length_mm, show)


def _scales(
    pencil: Pencil,
    box: QRectF,
    low: float,
    high: float,
    length: float,
    x_of: Callable[[float], float],
    y_of: Callable[[float], float],
    show: Show,
) -> None:
    px, unit = pencil.px, float(show.units.mm)
    for value in ticks(low / unit, high / unit, 5):
        x = x_of(value * unit)
        pencil.line(x, box.top(), x, box.bottom(), "rule")
        pencil.label(
            x,
            box.bottom() + px(13),
            (f"{value:+.6f}".rstrip("0").replace("-", "−")) if value else "0",
            12,
            "graphite",
            align=CENTRE,
        )
    for value in ticks(0.0, length / unit, 6):
        pencil.label(box.left() - px(6), y_of(value * unit), f"{value:.4g}", 12, "graphite", align=RIGHT)
    told = f"on diameter, {show.units.mark}; depth down the left"
    pencil.text(
        QRectF(box.left(), box.bottom() + px(22), box.width(), px(16)), told, 12, "graphite", align=CENTRE | MIDDLE
    )


def _key(pencil: Pencil, box: QRectF, measured: bool) -> None:
    px = pencil.px
    rows = [("before", "graphite", "dash", 1.6), ("predicted", "tight", "", 2.8)]
    x, y = box.left(), box.top() - px(13)
    for word, colour, dash, width in rows:
        pencil.line(x, y, x + px(24), y, colour, width, dash)
        pencil.text(QRectF(x + px(30), y - px(9), px(100), px(18)), word, 12, "ink", align=LEFT | MIDDLE)
        x += px(44) + pencil.width_of(word, 12)
    if measured:
        pencil.circle(x + px(6), y, px(5), "ink", "sheet", 1.4)
        pencil.text(QRectF(x + px(16), y - px(9), px(140), px(18)), "measured since", 12, "ink", align=LEFT | MIDDLE)


def _load(pencil: Pencil, box: QRectF, found: Forecast, length: float, show: Show) -> None:
    """Mean pressure by depth, as bars from the left."""
    px, honed = pencil.px, found.plan.honed
    pencil.text(QRectF(box.left(), box.top() - px(22), box.width(), px(18)), "load by depth", 12, "graphite")
    pencil.rect(box, "sheet", "rule")
    most = max(float(honed.load_mpa.max()), 1e-9)
    high = box.height() / honed.load_mpa.size
    for z, load in zip(honed.depth_mm, honed.load_mpa, strict=True):
        y = box.top() + box.height() * float(z) / length
        pencil.rect(
            QRectF(box.left(), y - high * 0.45, box.width() * 0.92 * float(load) / most, high * 0.9), "tight", alpha=0.5
        )
    pencil.text(
        QRectF(box.left(), box.bottom() + px(22), box.width(), px(16)),
        f"at most {show.stress(most, digits=2)}",
        12,
        "graphite",
        align=CENTRE | MIDDLE,
    )
