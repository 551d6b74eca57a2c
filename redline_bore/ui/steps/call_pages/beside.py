"""Two calls side by side, and what is to be ordered for the one that is looked at."""

from __future__ import annotations

from PyQt6.QtCore import QRectF
from PyQt6.QtWidgets import QVBoxLayout

from redline_bore.job.call.looked_at import LookedAt
from redline_bore.job.card import Advice
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.words import call as call
from redline_bore.job.words.calls_beside import side_of
from redline_bore.job.words.quote import order_lines
from redline_bore.ui.paint.pencil import LEFT, MIDDLE, RIGHT, Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import LineText
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import Walls

TOPICS = LEDGER | {"rung", "selection", "page"}


class CompareView(Picture):
    """Each cylinder on a line, the two calls in columns, and what they cost at the foot."""

    topics = TOPICS

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme, "Two calls")

    def said(self) -> str:
        if self.session.state is None:
            return ""
        beside = self.session.bench.call.beside
        return "One call only" if beside is None else "Two calls side by side"

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, s = pencil.px, self.session
        pencil.heading(px(4), px(6), "Two calls", "B on the ladder keeps one to compare with")
        calls = [c for c in (LookedAt(s.rung_mm, s.apart), s.bench.call.beside) if c is not None]
        sides = [side_of(s.job, c.oversize_mm, c.apart, s.show) for c in calls]
        names = px(172)
        width = (area.width() - names) / 2
        for i, side in enumerate(sides):
            left = area.left() + names + width * i
            head = QRectF(left, area.top() + px(38), width - px(12), px(44))
            pencil.text(head, pencil.fitted(side.title, head.width(), 15), 15, "ink", i == 0, LEFT | MIDDLE)
            pencil.text(
                QRectF(left, head.bottom() - px(6), width, px(18)),
                "looked at" if i == 0 else "put beside",
                12,
                "graphite",
            )
        labels = [line.label for line in sides[0].lines]
        high = min(px(34), (area.height() - px(110)) / (len(labels) + 1))  # the last is told on two lines
        for k, label in enumerate(labels):
            y = area.top() + px(98) + high * k
            pencil.line(area.left() + px(4), y, area.right() - px(12), y, "rule")
            pencil.text(QRectF(area.left(), y, names - px(10), high), label, 13, "graphite", align=RIGHT | MIDDLE)
            texts = [side.lines[k].value for side in sides]
            for i, side in enumerate(sides):
                rows = 2 if k == len(labels) - 1 else 1
                cell = QRectF(area.left() + names + width * i, y, width - px(12), high * rows)
                differs = len(set(texts)) > 1
                told = pencil.fitted(side.lines[k].value, cell.width() * (1.0 if rows == 1 else 1.7), 14)
                pencil.text(cell, told, 14, "ink", differs, LEFT | MIDDLE, wrap=rows > 1)


class OrderView(Picture):
    """The order list for the call that is looked at."""

    topics = TOPICS

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme, "Order list")

    def said(self) -> str:
        if self.session.state is None:
            return ""
        s = self.session
        return "; ".join(f"{v.count} {v.what} {v.size}" for v in order_lines(s.job, s.call_mm, s.apart, s.show))

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, s = pencil.px, self.session
        pencil.heading(px(4), px(6), "To order", "Ctrl+B writes the quote: PDF, HTML, or the list as CSV")
        for i, line in enumerate(order_lines(s.job, s.call_mm, s.apart, s.show)):
            y = area.top() + px(38) + px(42) * i
            if y + px(40) > area.bottom():
                break
            pencil.line(area.left() + px(4), y, area.right() - px(12), y, "rule")
            pencil.text(
                QRectF(area.left() + px(4), y, px(40), px(40)), str(line.count), 22, "ink", True, RIGHT | MIDDLE
            )
            pencil.text(QRectF(area.left() + px(56), y, px(130), px(40)), line.what, 15, "ink", align=LEFT | MIDDLE)
            pencil.text(
                QRectF(area.left() + px(190), y + px(2), px(460), px(20)), line.size, 14, "ink", align=LEFT | MIDDLE
            )
            pencil.text(
                QRectF(area.left() + px(190), y + px(20), px(520), px(18)),
                pencil.fitted(line.remark, px(500), 12),
                12,
                "graphite",
                align=LEFT | MIDDLE,
            )


class BesidePage(StepPage):
    """Two calls above, the order list below."""

    name, title = "beside", "Compare and order"

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, walls)
        self.compare, self.order = CompareView(session, theme), OrderView(session, theme)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.compare, 58)
        column.addWidget(self.order, 42)

    def advice(self) -> Advice:
        s = self.session
        return call.advise(s.job, s.bench.cylinder, s.rung_mm, s.show, s.apart)

    def line_text(self) -> LineText | None:
        return LineText(
            "Compare and order", "B keeps the call looked at, or lets it go", "Ctrl+B the quote · V next page", "—"
        )

    def arrows(self, across: int, down: int) -> bool:
        return True
