"""The axis of a hole against depth: where the centre lies off the spindle's axis, level by level."""

from __future__ import annotations

from PyQt6.QtCore import QRectF

from redline_bore.core.axis import CylinderFit
from redline_bore.core.show import Show
from redline_bore.job.gauge.round import SweptLevel
from redline_bore.ui.paint.pencil import CENTRE, LEFT, RIGHT, Pencil, ticks

LINES = (("towards 0°, front", "ink", 2.0), ("towards 90°, thrust", "graphite", 1.5))


def draw_axis_drift(
    pencil: Pencil, area: QRectF, swept: tuple[SweptLevel, ...], fit: CylinderFit, length_mm: float, show: Show
) -> None:
    """Two traces over depth, with the straight axis through them."""
    px, unit = pencil.px, float(show.units.mm)
    rows = [(v.sweep.depth_mm, v.fit.least_squares) for v in swept if v.fit is not None]
    both = [[(d, c.x_mm) for d, c in rows], [(d, c.y_mm) for d, c in rows]]
    values = [v for line in both for _, v in line] + [0.0]
    pad = 0.15 * (max(values) - min(values)) + 0.002
    low, high = min(values) - pad, max(values) + pad
    box = area.adjusted(px(58), px(6), -px(12), -px(36))

    def x_of(value: float) -> float:
        return box.left() + box.width() * (value - low) / (high - low)

    def y_of(depth: float) -> float:
        return box.top() + box.height() * depth / length_mm

    pencil.rect(box, "sheet", "rule")
    for value in ticks(low / unit, high / unit, 4):
        x = x_of(value * unit)
        pencil.line(x, box.top(), x, box.bottom(), "ink" if abs(value) < 1e-12 else "rule")
        text = "spindle" if abs(value) < 1e-12 else f"{value:+.4g}".replace("-", "−")
        pencil.label(x, box.bottom() + px(10), text, 12, "graphite", align=CENTRE)
    for depth, _ in rows:
        pencil.label(box.left() - px(6), y_of(depth), show.depth(depth), 12, "graphite", align=RIGHT)
    a = fit.axis
    ends = ((a.top_x_mm, a.bottom_x_mm), (a.top_y_mm, a.bottom_y_mm))
    for i, (line, (top, bottom), (name, colour, width)) in enumerate(zip(both, ends, LINES, strict=True)):
        pencil.line(x_of(top), y_of(rows[0][0]), x_of(bottom), y_of(rows[-1][0]), colour, 1.0, "dash")
        pencil.polyline([(x_of(v), y_of(d)) for d, v in line], colour, width)
        for d, v in line:
            pencil.circle(x_of(v), y_of(d), px(3), "sheet", colour, 1.5)
        depth, at = line[-1] if i == 0 else line[len(line) // 2]  # apart, so that the names do not meet
        align = RIGHT if x_of(at) > box.center().x() else LEFT
        shift = -px(8) if align is RIGHT else px(8)
        pencil.label(x_of(at) + shift, y_of(depth), name, 12, colour, align=align, ground="sheet")
    pencil.label(
        box.center().x(),
        box.bottom() + px(26),
        f"{show.units.mark} off the spindle's axis",
        12,
        "graphite",
        align=CENTRE,
    )
