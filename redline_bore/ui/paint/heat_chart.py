"""Temperature against assembly gap: how hot the block has to be for each cold of the sleeve, and for how long."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QRectF

from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.core.thermal import REFERENCE_C
from redline_bore.job.sleeve.heat import Cold, HeatPlan
from redline_bore.ui.paint.pencil import CENTRE, LEFT, MIDDLE, RIGHT, Pencil, ticks

COLDEST_C, WARMEST_C = -200.0, 30.0
COLDS = {
    Units.METRIC: (-196.0, -150.0, -100.0, -50.0, 0.0, 20.0),
    Units.INCH: (-320.0, -240.0, -160.0, -80.0, 0.0, 68.0),
}
Scale = Callable[[float], float]  # a temperature, C, to a place on the picture


def draw_heat_chart(pencil: Pencil, area: QRectF, plan: HeatPlan, show: Show) -> None:
    """Sleeve temperature across, block temperature up; above the full line the sleeve drops in with its gap."""
    px = pencil.px
    box = QRectF(area.left() + px(58), area.top() + px(10), area.width() - px(80), area.height() - px(64))
    top_c = max(1.15 * plan.hottest_c, min(1.05 * max(c.block_c for c in plan.colds), 2.0 * plan.hottest_c))

    def x_of(c: float) -> float:
        return box.left() + box.width() * (c - COLDEST_C) / (WARMEST_C - COLDEST_C)

    def y_of(c: float) -> float:
        return box.bottom() - box.height() * (c - 0.0) / top_c

    pencil.rect(box, "sheet", "rule")
    over = QRectF(box.left(), box.top(), box.width(), max(y_of(plan.hottest_c) - box.top(), 0.0))
    pencil.hatch(over)
    pencil.label(box.left() + px(8), over.bottom() - px(12), f"the block is not heated over {show.warm(plan.hottest_c, digits=0)}", 12, "ink",
                 align=LEFT, ground="sheet")  # fmt: skip
    for value in ticks(show.in_degrees(0.0), show.in_degrees(top_c), 6):
        y = y_of(show.in_celsius(value))
        pencil.line(box.left(), y, box.right(), y, "rule")
        pencil.label(box.left() - px(8), y, f"{value:.0f}", 12, "graphite", align=RIGHT)
    for value in COLDS[show.units]:
        x = x_of(show.in_celsius(value))
        pencil.label(x, box.bottom() + px(13), f"{value:.0f}".replace("-", "−"), 12, "graphite", align=CENTRE)
    below = QRectF(box.left(), box.bottom() + px(24), box.width(), px(18))
    pencil.text(below, f"sleeve, {show.degrees}", 12, "graphite", align=CENTRE | MIDDLE)
    pencil.text(QRectF(area.left(), box.top() - px(8), px(120), px(16)), f"block, {show.degrees}", 12, "graphite")
    pencil.line(box.left(), y_of(20.0), box.right(), y_of(20.0), "graphite", 1.0, "dot")
    pencil.label(
        box.left() + px(8), y_of(REFERENCE_C) + px(12), f"the shop, {show.reference}", 12, "graphite", align=LEFT
    )
    _line(pencil, box, x_of, y_of, plan, plan.gap_mm, "tight", 2.6, "")
    _line(pencil, box, x_of, y_of, plan, 0.0, "graphite", 1.4, "dash")
    at = plan.drop.parent_c_for(0.0, 0.0)
    pencil.label(x_of(0.0), y_of(at) + px(18), "touches", 12, "graphite", align=CENTRE, ground="sheet")
    for cold in plan.colds:
        _mark(pencil, box, x_of, y_of, cold, abs(cold.sleeve_c - plan.chosen.sleeve_c) < 0.5, show)
    if all(abs(cold.sleeve_c - plan.chosen.sleeve_c) >= 0.5 for cold in plan.colds):
        _mark(pencil, box, x_of, y_of, plan.chosen, True, show)
    told = f"full line: drops in with {show.unit(show.size(plan.gap_mm))} to spare"
    pencil.text(
        QRectF(box.right() - px(330), box.bottom() - px(26), px(322), px(18)), told, 12, "tight", align=RIGHT | MIDDLE
    )


def _line(
    pencil: Pencil,
    box: QRectF,
    x_of: Scale,
    y_of: Scale,
    plan: HeatPlan,
    gap: float,
    colour: str,
    width: float,
    dash: str,
) -> None:
    points = []
    for i in range(61):
        sleeve = -196.0 + (20.0 + 196.0) * i / 60
        y = y_of(plan.drop.parent_c_for(gap, sleeve))
        if box.top() <= y <= y_of(20.0):
            points.append((x_of(sleeve), y))
    if len(points) > 1:
        pencil.polyline(points, colour, width, dash)


def _mark(pencil: Pencil, box: QRectF, x_of: Scale, y_of: Scale, cold: Cold, chosen: bool, show: Show) -> None:
    px = pencil.px
    x, y = x_of(cold.sleeve_c), max(y_of(cold.block_c), box.top() + px(16))
    if chosen:
        pencil.line(x, y, x, box.bottom(), "ink", 1.4, "dot")
        pencil.line(box.left(), y, x, y, "ink", 1.4, "dot")
    pencil.circle(x, y, px(8 if chosen else 5), "ink" if chosen else "sheet", "ink", 2.0)
    held = "too hot" if cold.too_hot else f"{show.warm(cold.block_c, digits=0)}, {cold.time}"
    near_right, near_left = x > box.right() - px(120), x < box.left() + px(90)
    side = RIGHT if near_right else LEFT if near_left else CENTRE
    shift = -px(14) if near_right else px(14) if near_left else 0.0
    up = -px(34) if side == CENTRE else -px(30)
    pencil.label(x + shift, y + up, cold.name, 13, "ink", chosen, side, ground="sheet", crowd=False)
    pencil.label(x + shift, y + up + px(16), held, 13, "ink", chosen, side, ground="sheet", crowd=False)
