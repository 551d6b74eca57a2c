"""A gap explained: each cause as a step from nothing to the gap, and what is left over against the doubt."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QRectF

from redline_bore.core.frozen import frozen
from redline_bore.core.show import Show
from redline_bore.job.gauge.second_opinion import Comparison
from redline_bore.ui.paint.pencil import CENTRE, LEFT, MIDDLE, RIGHT, Pencil, ticks


@frozen(often=True)
class Step:
    """One row: from where to where, mm."""

    name: str
    start_mm: float
    end_mm: float


def steps_of(row: Comparison) -> list[Step]:
    """The causes in order, each beginning where the one before ended; the last is what is left over."""
    found, at = [], 0.0
    for name, value in row.opinion.terms:
        found.append(Step(name, at, at + value))
        at += value
    return [*found, Step("left over", at, row.opinion.gap_mm)]


def draw_term_bars(pencil: Pencil, area: QRectF, row: Comparison, show: Show) -> None:
    """Draw the steps, with the gap as a line to be reached."""
    px, unit, steps = pencil.px, float(show.units.mm), steps_of(row)
    u = row.opinion.expanded_u_mm
    ends = [v for s in steps for v in (s.start_mm, s.end_mm)] + [row.opinion.gap_mm + u, row.opinion.gap_mm - u]
    low, high = min(ends) - 0.001, max(ends) + 0.001
    box = area.adjusted(px(150), px(6), -px(84), -px(28))
    high_row = box.height() / (len(steps) + 1)

    def x_of(value: float) -> float:
        return box.left() + box.width() * (value - low) / (high - low)

    pencil.rect(box, "sheet", "rule")
    for value in ticks(low / unit, high / unit, 5):
        x = x_of(value * unit)
        pencil.line(x, box.top(), x, box.bottom(), "graphite" if abs(value) < 1e-12 else "rule")
        pencil.label(
            x, box.bottom() + px(12), f"{value:+.4g}".replace("-", "−") if value else "0", 12, "graphite", align=CENTRE
        )
    gap = x_of(row.opinion.gap_mm)
    band = QRectF(
        x_of(row.opinion.gap_mm - u),
        box.top(),
        x_of(row.opinion.gap_mm + u) - x_of(row.opinion.gap_mm - u),
        box.height(),
    )
    pencil.rect(band, "iron", alpha=0.6)
    pencil.line(gap, box.top(), gap, box.bottom(), "ink", 2.0)
    for i, step in enumerate(steps):
        y = box.top() + high_row * i
        _step(pencil, area, QRectF(box.left(), y, box.width(), high_row), step, x_of, show, i == len(steps) - 1)
        if i + 1 < len(steps):
            pencil.line(
                x_of(step.end_mm), y + high_row * 0.5, x_of(step.end_mm), y + high_row * 1.5, "graphite", 1.0, "dot"
            )
    foot = QRectF(area.left(), box.bottom() - high_row, px(142), high_row)
    pencil.text(foot, "the gap, ± U", 14, "ink", True, align=RIGHT | MIDDLE)
    pencil.text(
        QRectF(box.right() + px(8), foot.top(), px(80), high_row),
        show.away(row.opinion.gap_mm),
        14,
        "ink",
        True,
        LEFT | MIDDLE,
    )


def _step(
    pencil: Pencil, area: QRectF, r: QRectF, step: Step, x_of: Callable[[float], float], show: Show, last: bool
) -> None:
    px, value = pencil.px, step.end_mm - step.start_mm
    quiet = abs(value) < 0.00005 and not last
    pencil.text(
        QRectF(area.left(), r.top(), px(142), r.height()),
        step.name,
        13,
        "graphite" if quiet else "ink",
        align=RIGHT | MIDDLE,
    )
    x1, x2 = sorted((x_of(step.start_mm), x_of(step.end_mm)))
    bar = QRectF(x1, r.top() + r.height() * 0.2, max(x2 - x1, 1.5), r.height() * 0.6)
    if last:
        pencil.hatch(bar, "ink", "ink")
    else:
        pencil.rect(bar, "open" if value >= 0 else "tight")
    text = "0" if quiet else show.slight(value)
    pencil.text(
        QRectF(r.right() + px(8), r.top(), px(80), r.height()),
        text,
        13,
        "graphite" if quiet else "ink",
        align=LEFT | MIDDLE,
    )
