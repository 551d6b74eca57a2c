"""Metal a stroke, side by side: this job's cylinders by step, then earlier jobs in the same metal."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QRectF

from redline_bore.core.frozen import frozen
from redline_bore.core.show import Show
from redline_bore.job.hone.stock_ledger import Ledger
from redline_bore.ui.paint.pencil import LEFT, MIDDLE, Pencil

ROW_PX, NAME_PX = 26.0, 300.0


@frozen
class RateRow:
    """A name, and metal on diameter a double stroke, mm. own: of this job."""

    name: str
    rate_mm: float
    own: bool


def rate_rows(ledger: Ledger) -> tuple[RateRow, ...]:
    """The rates of a ledger: what was honed with counted strokes, then the family's."""
    own = [
        RateRow(f"cylinder {row.cylinder}, {c.step}, {c.stones or 'stones not booked'}", c.removed_mm / c.strokes, True)
        for row in ledger.rows
        for c in row.cells
        if c.strokes and c.removed_mm > 0.0
    ]
    return (*own, *(RateRow(f"{f.number}, {f.step}, {f.stones}", f.rate_mm, False) for f in ledger.family))


def draw_rates(pencil: Pencil, area: QRectF, rows: Sequence[RateRow], show: Show) -> None:
    """A line a rate, all on one scale from nought; as many as there is room for."""
    px = pencil.px
    pencil.heading(
        area.left() - px(4),
        area.top(),
        "Metal a double stroke",
        f"on diameter, {show.units.mark}; below the line: earlier jobs in this metal",
    )
    most = max(r.rate_mm for r in rows)
    fit = int((area.height() - px(34)) // px(ROW_PX))
    left, y = area.left() + px(NAME_PX), area.top() + px(34)
    wide = area.width() - px(NAME_PX) - px(110)
    for i, row in enumerate(rows[: max(fit, 0)]):
        if i and not row.own and rows[i - 1].own:
            pencil.line(area.left(), y, area.right(), y, "rule")
        middle = y + px(ROW_PX) / 2
        pencil.text(
            QRectF(area.left(), y, px(NAME_PX - 12), px(ROW_PX)),
            pencil.fitted(row.name, px(NAME_PX - 16), 13),
            13,
            "ink" if row.own else "graphite",
        )
        pencil.line(left, middle, left + wide * row.rate_mm / most, middle, "tight" if row.own else "graphite", 2.0)
        pencil.circle(left + wide * row.rate_mm / most, middle, px(4.5), "tight" if row.own else "sheet", "ink")
        pencil.text(
            QRectF(left + wide * row.rate_mm / most + px(12), y, px(100), px(ROW_PX)),
            show.rate(row.rate_mm),
            13,
            "ink",
            row.own,
            LEFT | MIDDLE,
        )
        y += px(ROW_PX)
