"""The size ladder: cylinders side by side, diameter upwards, clean-up bars, piston rungs, wall ceilings, the redline."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QRectF

from redline_bore.core.frozen import frozen
from redline_bore.core.show import Show
from redline_bore.job.call.ladder import Column, Fate, FateWay, Ladder
from redline_bore.job.call.looked_at import LookedAt
from redline_bore.job.state.calling import Apart
from redline_bore.job.words.fares import worn_words
from redline_bore.ui.paint.pencil import CENTRE, MIDDLE, RIGHT, Pencil


@frozen
class LadderScale:
    """From oversize in mm to the screen and back."""

    box: QRectF
    low_mm: float
    high_mm: float

    def y(self, oversize_mm: float) -> float:
        share = (oversize_mm - self.low_mm) / (self.high_mm - self.low_mm)
        return self.box.bottom() - share * self.box.height()

    def oversize(self, y: float) -> float:
        return self.low_mm + (self.box.bottom() - y) / self.box.height() * (self.high_mm - self.low_mm)


def ladder_scale(area: QRectF, ladder: Ladder, scale: float) -> LadderScale:
    """How the ladder lies in an area."""
    top = max([*ladder.rungs_mm, *(c.cleanup.high_mm - ladder.nominal_mm for c in ladder.columns if c.cleanup), 0.3])
    box = area.adjusted(84 * scale, 8 * scale, -36 * scale, -50 * scale)
    return LadderScale(box, -0.07 * top, 1.09 * top)


def column_box(scale: LadderScale, index: int, count: int) -> QRectF:
    """The lane of a cylinder."""
    width = scale.box.width() / count
    return QRectF(scale.box.left() + index * width, scale.box.top(), width, scale.box.height())


def draw_size_ladder(
    pencil: Pencil, area: QRectF, ladder: Ladder, oversize_mm: float, selected: int, show: Show,
    apart: Sequence[Apart] = (), beside: LookedAt | None = None,
) -> None:  # fmt: skip
    """Draw the ladder with the redline at ``oversize_mm`` over nominal, some cylinders apart from it, and another call
    put beside it as a thin broken line."""
    px, scale = pencil.px, ladder_scale(area, ladder, pencil.theme.scale)
    count = len(ladder.columns)
    pencil.rect(scale.box, "sheet", "rule")
    lane = column_box(scale, selected - 1, count)
    pencil.rect(lane.adjusted(px(3), px(2), -px(3), px(46)), "sheet", "ink", 1.6)
    _draw_rungs(pencil, scale, ladder, oversize_mm, show)
    for i, column in enumerate(ladder.columns):
        _draw_ceiling(pencil, scale, column_box(scale, i, count), column, ladder)
    fates = ladder.fates(oversize_mm, apart)
    for i, column in enumerate(ladder.columns):
        _draw_column(pencil, scale, column_box(scale, i, count), column, ladder)
    if beside is not None:
        for i, fate in enumerate(ladder.fates(beside.oversize_mm, beside.apart)):
            box = column_box(scale, i, count)
            y = scale.y(fate.oversize_mm)
            pencil.line(box.left() + px(6), y, box.right() - px(6), y, "redline", 1.2, "dash")
    _draw_redline(pencil, scale, oversize_mm, show)
    for i, column in enumerate(ladder.columns):
        _draw_figures(pencil, scale, column_box(scale, i, count), column, ladder, oversize_mm, show)
    for i, fate in enumerate(fates):
        _draw_apart(pencil, scale, column_box(scale, i, count), fate, show)
        _draw_foot(pencil, scale, column_box(scale, i, count), fate.column)


def _draw_apart(pencil: Pencil, scale: LadderScale, lane: QRectF, fate: Fate, show: Show) -> None:
    """A cylinder that leaves the common size: its own short redline, or a sleeve standing in the hole."""
    px = pencil.px
    if fate.common:
        return
    if fate.way is FateWay.OWN:
        y = scale.y(fate.oversize_mm)
        pencil.line(lane.left() + px(8), y, lane.right() - px(8), y, "redline", 3.0)
        pencil.label(
            lane.right() - px(8),
            y - px(11),
            f"own {show.step(fate.oversize_mm)}",
            12,
            "redline",
            True,
            RIGHT,
            ground="sheet",
            crowd=False,
        )
        return
    top, base, wide = scale.y(fate.oversize_mm), scale.y(0.0), min(px(52), lane.width() * 0.46)
    for side in (-1.0, 1.0):
        x = lane.center().x() + side * wide / 2
        pencil.rect(QRectF(x - px(3), top, px(6), base - top + px(10)), "graphite", "ink")
    pencil.label(lane.center().x(), (top + base) / 2, "sleeve", 13, "ink", True, CENTRE, ground="sheet", crowd=False)


def _draw_rungs(pencil: Pencil, scale: LadderScale, ladder: Ladder, oversize_mm: float, show: Show) -> None:
    px = pencil.px
    for rung in (0.0, *ladder.rungs_mm):
        y = scale.y(rung)
        pencil.line(scale.box.left(), y, scale.box.right(), y, "graphite", 1.0, "dash")
        if abs(rung - oversize_mm) > 1e-6:
            text = show.step(rung) if rung else "nominal"
            pencil.label(scale.box.left() - px(8), y, text, 14, "ink", align=RIGHT)


def _draw_ceiling(pencil: Pencil, scale: LadderScale, lane: QRectF, column: Column, ladder: Ladder) -> None:
    px = pencil.px
    box = lane.adjusted(lane.width() * 0.12, 0, -lane.width() * 0.12, 0)
    if column.ceiling_mm is None:
        pencil.label(lane.center().x(), scale.box.top() + px(10), "wall not read", 12, "graphite", align=CENTRE)
        return
    over = column.ceiling_mm - ladder.nominal_mm
    y = max(scale.y(over), scale.box.top())
    if y > scale.box.top() + px(2):
        pencil.hatch(QRectF(box.left(), scale.box.top(), box.width(), y - scale.box.top()))


def _draw_column(pencil: Pencil, scale: LadderScale, lane: QRectF, column: Column, ladder: Ladder) -> None:
    px, nominal = pencil.px, ladder.nominal_mm
    wide = min(px(34), lane.width() * 0.3)
    left = lane.center().x() - wide / 2
    if column.cleanup is None:
        y = scale.y(0.0)
        pencil.rect(QRectF(left, y - px(60), wide, px(60)), "", "graphite", 1.0, "dash")
        pencil.text(QRectF(left, y - px(60), wide, px(60)), "?", 22, "graphite", align=CENTRE | MIDDLE)
        return
    c = column.cleanup
    low, usual, high = (scale.y(v - nominal) for v in (c.low_mm, c.usual_mm, c.high_mm))
    base = scale.y(0.0)
    pencil.rect(QRectF(left, low, wide, base - low), "iron", "graphite")
    fade = pencil.theme.colour("tight", 0.45)
    pencil.rect(QRectF(left, high, wide, low - high), fade, "tight")
    pencil.line(left - px(7), usual, left + wide + px(7), usual, "tight", 2.6)
    if not c.is_bound:  # open upward: there is no bound
        pencil.polyline([(left, high), (left + wide / 2, high - px(14)), (left + wide, high)], "tight", 1.6, "dash")


def _draw_figures(
    pencil: Pencil, scale: LadderScale, lane: QRectF, column: Column, ladder: Ladder, oversize_mm: float, show: Show
) -> None:
    """What a cylinder needs at most and how far its wall allows, over bars, hatching and redline, and off the redline."""
    px, line, x = pencil.px, scale.y(oversize_mm), lane.center().x()
    taken = [line]

    def free(y: float, way: float) -> float:
        while any(abs(y - other) < px(13) for other in taken):
            y += way * px(2)
        taken.append(y)
        return y

    if column.cleanup is not None:
        c = column.cleanup
        y = free(scale.y(c.high_mm - ladder.nominal_mm) - px(11), -1.0)
        pencil.label(
            x,
            y,
            show.size(c.high_mm) if c.is_bound else "no bound",
            12,
            "tight",
            align=CENTRE,
            ground="sheet",
            crowd=False,
        )
    if column.ceiling_mm is not None:
        over = column.ceiling_mm - ladder.nominal_mm
        y = free(max(scale.y(over) + px(9), scale.box.top() + px(10)), 1.0)
        pencil.label(x, y, f"wall to {show.step(over)}", 12, "graphite", align=CENTRE, ground="sheet", crowd=False)


def _draw_redline(pencil: Pencil, scale: LadderScale, oversize_mm: float, show: Show) -> None:
    px, y = pencil.px, scale.y(oversize_mm)
    pencil.line(scale.box.left(), y, scale.box.right() + px(6), y, "redline", 3.0)
    plate = QRectF(scale.box.left() - px(76), y - px(12), px(74), px(24))
    pencil.rect(plate, "redline")
    pencil.text(plate, show.step(oversize_mm), 15, "on_redline", True, CENTRE | MIDDLE)
    right = scale.box.right() + px(6)
    pencil.polygon([(right, y), (right + px(18), y - px(10)), (right + px(18), y + px(10))], "redline")


def _draw_foot(pencil: Pencil, scale: LadderScale, lane: QRectF, column: Column) -> None:
    px, y = pencil.px, scale.box.bottom()
    pencil.text(
        QRectF(lane.left(), y + px(2), lane.width(), px(24)), str(column.cylinder), 19, bold=True, align=CENTRE | MIDDLE
    )
    pencil.text(
        QRectF(lane.left(), y + px(25), lane.width(), px(18)), worn_words(column), 12, "graphite", align=CENTRE | MIDDLE
    )
