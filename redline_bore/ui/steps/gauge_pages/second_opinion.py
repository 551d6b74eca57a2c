"""Somebody else's readings of this block against ours, explained term by term."""

from __future__ import annotations

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QMouseEvent
from PyQt6.QtWidgets import QVBoxLayout

from redline_bore.job.card import Advice
from redline_bore.job.gauge import second_opinion
from redline_bore.job.gauge.second_opinion import Comparison
from redline_bore.job.words import second_opinion as second_opinion_words
from redline_bore.ui.paint.pencil import LEFT, MIDDLE, RIGHT, Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.paint.term_bars import draw_term_bars
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import LineText
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import TOPICS as WALL_TOPICS
from redline_bore.ui.walls import Walls

TOPICS = WALL_TOPICS | {"opinions", "selection", "page", "pistons", "checks", "row"}
ROW_PX = 30.0


class OtherRows(Picture):
    """Their readings, a line each: where, how far from ours, whether it is explained. A click picks one."""

    topics = TOPICS

    def __init__(self, page: SecondOpinionPage) -> None:
        super().__init__(page.session, page.theme, "Their readings")
        self._page = page

    def said(self) -> str:
        show = self.session.show
        return "; ".join(
            f"cylinder {r.other.cylinder}: {show.away(r.opinion.gap_mm)}, {'explained' if r.opinion.explained else 'not explained'}"
            for r in self._page.rows()
        )

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, rows = pencil.px, self._page.rows()
        shop = second_opinion.newest(self.session.job)
        aside = "" if shop is None else self._conditions()
        pencil.heading(px(4), px(6), "Second opinion", aside)
        if not rows:
            say = self.session.example
            words = (
                f"Nobody else's readings are booked. Say who and how: {say('second_opinion_opened')}. "
                f"Then each reading: {say('other_reading_booked')}. Or take in a CSV file of theirs."
            )
            pencil.text(area.adjusted(px(6), px(40), -px(20), 0), words, 14, "graphite", wrap=True)
            return
        fit = max(int((area.height() - px(40)) // px(ROW_PX)), 1)
        first = max(0, min(self._page.index - fit + 1, len(rows) - fit))
        for i, row in enumerate(rows[first : first + fit]):
            r = QRectF(area.left() + px(4), area.top() + px(38) + px(ROW_PX) * i, area.width() - px(16), px(ROW_PX) - 2)
            self._row(pencil, r, row, i + first == self._page.index)

    def _conditions(self) -> str:
        shop = second_opinion.newest(self.session.job)
        assert shop is not None
        c, show = shop.conditions, self.session.show
        warm = (
            f"corrected to {show.reference}"
            if c.at_20
            else "temperature not said"
            if c.block_c is None
            else f"block at {show.warm(c.block_c)}"
        )
        aim = "" if c.aim_mm is None else f", aiming at {show.size(c.aim_mm)}"
        return f"{c.who}: plate {'on' if c.plate_on else 'off'}, {warm}{aim}"

    def _row(self, pencil: Pencil, r: QRectF, row: Comparison, lit: bool) -> None:
        px, show, o = pencil.px, self.session.show, row.other
        pencil.rect(r, "sheet", "ink" if lit else "rule", 2.0 if lit else 1.0)
        depth = "depth not said" if o.depth_mm is None else show.down(o.depth_mm)
        clock = "clock not said" if o.clock_deg is None else f"{o.clock_deg:.0f}°"
        pencil.text(
            QRectF(r.left() + px(10), r.top(), px(60), r.height()), str(o.cylinder), 15, "ink", True, LEFT | MIDDLE
        )
        pencil.text(
            QRectF(r.left() + px(40), r.top(), px(220), r.height()),
            f"{depth}, {clock}",
            13,
            "graphite",
            align=LEFT | MIDDLE,
        )
        pencil.text(
            QRectF(r.left() + px(210), r.top(), px(110), r.height()),
            show.size(o.diameter_mm),
            15,
            "ink",
            align=RIGHT | MIDDLE,
        )
        gap = f"{show.away(row.opinion.gap_mm)} apart"
        pencil.text(QRectF(r.left() + px(330), r.top(), px(130), r.height()), gap, 14, "ink", align=RIGHT | MIDDLE)
        mark = r.right() - px(22)
        if row.opinion.explained:
            pencil.tick_mark(mark, r.center().y())
        else:
            pencil.triangle_mark(mark, r.center().y(), 12)
        words = "explained" if row.opinion.explained else f"{show.away(row.opinion.left_over_mm)} left over"
        pencil.text(QRectF(mark - px(170), r.top(), px(160), r.height()), words, 13, "graphite", align=RIGHT | MIDDLE)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self.session.state is not None:
            self._page.pick(int((event.position().y() - self.theme.px(38)) // self.theme.px(ROW_PX)))


class TermsView(Picture):
    """The gap of the row that is lit, as steps."""

    topics = TOPICS

    def __init__(self, page: SecondOpinionPage) -> None:
        super().__init__(page.session, page.theme, "What makes up the gap")
        self._page = page

    def said(self) -> str:
        row = self._page.row()
        if row is None:
            return ""
        return "; ".join(f"{name} {self.session.show.away(value)}" for name, value in row.opinion.terms)

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        row = self._page.row()
        if row is None:
            return
        what = "clearance over its aim" if row.clearances else "bore"
        pencil.heading(
            pencil.px(4),
            pencil.px(6),
            "What makes up the gap",
            f"cylinder {row.other.cylinder}, {what}, ours less theirs, {self.session.show.units.mark}",
        )
        draw_term_bars(pencil, area.adjusted(0, pencil.px(34), 0, 0), row, self.session.show)


class SecondOpinionPage(StepPage):
    """Up and down pick a reading of theirs; Ctrl+H writes the half page."""

    name, title = "second", "Second opinion"

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, walls)
        self.list, self.terms = OtherRows(self), TermsView(self)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.list, 38)
        column.addWidget(self.terms, 62)

    def rows(self) -> tuple[Comparison, ...]:
        """Their readings against ours."""
        return second_opinion.comparisons(self.session.job) if self.session.state is not None else ()

    @property
    def index(self) -> int:
        """Which row is lit."""
        return self.session.bench.gauge.row

    def row(self) -> Comparison | None:
        """The row that is lit."""
        rows = self.rows()
        return rows[min(self.index, len(rows) - 1)] if rows else None

    def pick(self, index: int) -> None:
        """Light another row; its cylinder is selected with it."""
        rows = self.rows()
        if rows:
            row = min(max(index, 0), len(rows) - 1)
            self.session.set_row(row, rows[row].other.cylinder)

    def advice(self) -> Advice:
        row = self.row()
        cylinder = self.session.bench.cylinder if row is None else row.other.cylinder
        return second_opinion_words.advise(self.session.job, cylinder, self.session.show)

    def line_text(self) -> LineText | None:
        return LineText(
            "Second opinion · what somebody else measured",
            f"{self.session.example('other_reading_booked')} · {self.session.example('other_piston_booked')}",
            "M types · Ctrl+H the half page",
            "—",
        )

    def arrows(self, across: int, down: int) -> bool:
        if down:
            self.pick(self.index + down)
        return True
