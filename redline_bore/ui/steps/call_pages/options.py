"""Every way the trade has, ranked, each with its standing and what it costs."""

from __future__ import annotations

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QMouseEvent
from PyQt6.QtWidgets import QVBoxLayout

from redline_bore.core.errors import InputError
from redline_bore.desk.calls import light_call
from redline_bore.job.call import options
from redline_bore.job.call.best import can_pick
from redline_bore.job.call.option import MAY, NO, SURE, Option
from redline_bore.job.card import Advice
from redline_bore.job.kinds.sign_off import StepStamped
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.words import options as options_advice
from redline_bore.job.words.call import NOT_SURE_YET
from redline_bore.job.words.options import title_of, told_of
from redline_bore.ui.paint.pencil import LEFT, MIDDLE, RIGHT, Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import LineText
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import Walls

ROW_PX = 39.0


class OptionList(Picture):
    """A row an option, the best on top. A click picks one."""

    topics = LEDGER | {"option", "page"}

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme, "Options")

    def said(self) -> str:
        if self.session.state is None:
            return ""
        return "; ".join(
            f"{title_of(o, self.session.show)}: {o.standing}" for o in options.options_of(self.session.state)
        )

    def _first(self, count: int) -> int:
        fit = max(int((self.height() - self.theme.px(36)) // self.theme.px(ROW_PX)), 1)
        return max(0, min(self.session.bench.call.option - fit + 1, count - fit))

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, rows = pencil.px, options.options_of(self.session.job)
        pencil.heading(px(4), px(6), "What can be done", "surest first, then by practice, then least metal")
        right, y = area.right() - px(22), area.top() + px(22)
        pencil.label(right, y, "bench", 12, "graphite", align=RIGHT, crowd=False)
        pencil.label(
            right - px(136), y, f"most stock, {self.session.show.units.mark}", 12, "graphite", align=RIGHT, crowd=False
        )
        most = max([o.most_stock_mm or 0.0 for o in rows] + [0.01])
        first = self._first(len(rows))
        for i, option in enumerate(rows[first:]):
            top = area.top() + px(36) + px(ROW_PX) * i
            if top + px(ROW_PX) > area.bottom() + 1:
                break
            r = QRectF(area.left() + px(4), top, area.width() - px(14), px(ROW_PX - 4))
            self._row(pencil, r, option, i + first == self.session.bench.call.option, most)

    def _row(self, pencil: Pencil, r: QRectF, o: Option, lit: bool, most_mm: float) -> None:
        px, show = pencil.px, self.session.show
        pencil.rect(r, "sheet", "ink" if lit else "rule", 2.0 if lit else 1.0)
        colour = "graphite" if o.standing == NO else "ink"
        mark_x, middle = r.left() + px(12), r.center().y()
        if o.standing == SURE:
            pencil.tick_mark(mark_x, middle)
        elif o.standing == NO:
            pencil.hatch(QRectF(mark_x - px(1), middle - px(7), px(14), px(14)), "ink", "ink")
        else:
            pencil.triangle_mark(mark_x, middle, 13)
        half = r.height() / 2
        told = told_of(o, show)
        title = pencil.fitted(told.title, px(400), 15)
        pencil.text(
            QRectF(r.left() + px(36), r.top() + px(1), px(420), half),
            title,
            15,
            colour,
            o.standing != NO,
            LEFT | MIDDLE,
        )
        words = told.reasons[0] if told.reasons else ""
        if o.standing == MAY and told.needs:
            words = f"{words}; {told.needs[0]}"
        room = r.width() - px(36) - px(70)
        pencil.text(
            QRectF(r.left() + px(36), r.top() + half - px(2), room, half),
            pencil.fitted(words, room, 12),
            12,
            "graphite",
            align=LEFT | MIDDLE,
        )
        right = r.right() - px(12)
        pencil.text(
            QRectF(right - px(60), r.top(), px(60), r.height()),
            f"{o.minutes / 60:.1f} h" if o.minutes else "—",
            14,
            colour,
            align=RIGHT | MIDDLE,
        )
        if o.oversize_mm is None:
            return
        if o.most_stock_mm is None or not o.bored_stock_mm:
            word = "?" if o.bored_stock_mm else "sleeves"
            pencil.text(
                QRectF(right - px(136), r.top() + px(1), px(66), half), word, 13, "graphite", align=LEFT | MIDDLE
            )
            return
        bar = QRectF(
            right - px(230), r.top() + px(1) + half / 2 - px(5), px(90), px(10)
        )  # metal to take, against the most of any option
        pencil.rect(bar, "iron", "rule")
        pencil.rect(
            QRectF(bar.left(), bar.top(), bar.width() * max(o.most_stock_mm, 0.0) / most_mm, bar.height()), "tight"
        )
        pencil.text(
            QRectF(bar.right() + px(4), r.top() + px(1), px(66), half),
            show.rough(o.most_stock_mm),
            13,
            colour,
            align=LEFT | MIDDLE,
        )

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self.session.state is None:
            return
        rows = options.options_of(self.session.state)
        row = int((event.position().y() - self.theme.px(36)) // self.theme.px(ROW_PX)) + self._first(len(rows))
        if 0 <= row < len(rows):
            self.session.set_option(row)


class OptionsPage(StepPage):
    """Up and down pick an option; Enter puts the redline there."""

    name, title = "options", "Options"

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, walls)
        self.list = OptionList(session, theme)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.list)

    def advice(self) -> Advice:
        return options_advice.advise(self.session.job, self.session.bench.call.option, self.session.show)

    def line_text(self) -> LineText | None:
        return LineText(
            "Options · the best on top",
            "↑ ↓ pick one; Enter puts the redline there, or takes a call that bores nothing",
            "V next page · W working",
            "—",
        )

    def arrows(self, across: int, down: int) -> bool:
        count = len(options.options_of(self.session.job))
        self.session.set_option(min(max(self.session.bench.call.option + down, 0), count - 1))
        return True

    def enter_empty(self) -> str | None:
        rows = options.options_of(self.session.job)
        chosen = rows[min(self.session.bench.call.option, len(rows) - 1)]
        if chosen.oversize_mm is None:
            return self._take(chosen)
        if not can_pick(chosen):
            told = told_of(chosen, self.session.show)
            raise InputError(f"{told.title}: {told.reasons[0]}")
        self.session.set_call(chosen.oversize_mm, chosen.apart)
        self.session.set_page("ladder")
        return f"{title_of(chosen, self.session.show)}: the redline stands there. Enter takes the call."

    def _take(self, chosen: Option) -> str:
        """A call that bores nothing."""
        s = self.session
        decision = light_call(s.job, chosen, s.show)
        if self.advice().unsure:
            s.ask_once((self.name, chosen.key), NOT_SURE_YET)
        s.book(decision, StepStamped(step="call", initials=s.person))
        return f"Call taken: {decision.sentence}"
