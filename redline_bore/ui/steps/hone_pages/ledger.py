"""The stock ledger: what every cylinder gave up, by step, with strokes, stones, warmth and person."""

from __future__ import annotations

from PyQt6.QtCore import QRectF
from PyQt6.QtWidgets import QVBoxLayout

from redline_bore.core.show import Show
from redline_bore.job.card import Advice
from redline_bore.job.hone.stock_ledger import HonedOnJob, Ledger, LedgerCell, LedgerRow, ledger_of
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words import hone_pages as hone_page_advice
from redline_bore.ui.behind import Behind
from redline_bore.ui.paint.pencil import CENTRE, LEFT, MIDDLE, RIGHT, TOP, Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.paint.rate_rows import draw_rates, rate_rows
from redline_bore.ui.session import Session
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import Walls

FILLS = (("iron", 1.0), ("tight", 0.35), ("tight", 0.6), ("tight", 0.85), ("open", 0.35), ("open", 0.6))


class LedgerView(Picture):
    """A bar a cylinder, a piece a step, all on one scale."""

    topics = LEDGER | {"selection", "step", "page"}

    def __init__(self, session: Session, theme: Theme, found: LedgerPage) -> None:
        super().__init__(session, theme, "Stock ledger")
        self._page = found

    def said(self) -> str:
        if self.session.state is None:
            return ""
        rows = self._page.found().rows
        return (
            "; ".join(f"cylinder {r.cylinder} gave {self.session.show.size(r.total_mm)}" for r in rows)
            or "nothing taken"
        )

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, found, show = pencil.px, self._page.found(), self.session.show
        pencil.heading(
            px(4),
            px(6),
            "Stock ledger",
            f"on diameter, {show.units.mark}, at {show.reference}: bar, then every step of the hone",
        )
        if not found.rows:
            pencil.text(area.adjusted(px(8), px(44), 0, 0), "Nothing was taken yet.", 15, "graphite", align=LEFT | TOP)
            return
        most = max(max(r.total_mm, 1e-6) for r in found.rows)
        count = len(self.session.job.cylinders)
        high = min(px(120), (area.height() - px(60)) / count)
        for row in found.rows:
            r = QRectF(
                area.left() + px(8), area.top() + px(46) + high * (row.cylinder - 1), area.width() - px(20), high
            )
            _row(pencil, r, row, most, row.cylinder == self.session.bench.cylinder, self.session)
        rates, top = rate_rows(found), area.top() + px(64) + high * count
        if rates and area.bottom() - top > px(110):
            draw_rates(
                pencil, QRectF(area.left() + px(8), top, area.width() - px(20), area.bottom() - top), rates, show
            )


def _row(pencil: Pencil, r: QRectF, row: LedgerRow, most: float, here: bool, session: Session) -> None:
    px, show = pencil.px, session.show
    if here:
        pencil.rect(r.adjusted(-px(4), px(2), px(4), -px(2)), "", "ink", 1.6)
    pencil.text(
        QRectF(r.left() + px(4), r.top(), px(24), r.height()), str(row.cylinder), 18, "ink", True, LEFT | MIDDLE
    )
    bar = QRectF(r.left() + px(36), r.top() + px(12), r.width() - px(140), px(24))
    x = bar.left()
    for i, cell in enumerate(row.cells):
        wide = bar.width() * max(cell.removed_mm, 0.0) / most
        fill, alpha = FILLS[min(i, len(FILLS) - 1)]
        piece = QRectF(x, bar.top(), wide, bar.height())
        pencil.rect(piece, fill, "graphite", alpha=alpha)
        if wide > pencil.width_of(show.size(cell.removed_mm), 12) + px(8):
            pencil.text(piece, show.size(cell.removed_mm), 12, "ink", True, CENTRE | MIDDLE)
        x += wide
    pencil.text(
        QRectF(bar.right() + px(8), bar.top(), px(92), bar.height()),
        show.size(row.total_mm),
        17,
        "ink",
        True,
        RIGHT | MIDDLE,
    )
    told = "   ".join(_cell(c, show) for c in row.cells)
    below = QRectF(bar.left(), bar.bottom() + px(5), r.width() - px(44), r.bottom() - bar.bottom() - px(8))
    pencil.text(below, told, 12, "graphite", align=LEFT | TOP, wrap=True)


def _cell(c: LedgerCell, show: Show) -> str:
    parts = [f"{c.step} {show.size(c.removed_mm)}"]
    if c.strokes is not None:
        parts.append(f"{c.strokes:g} strokes")
    if c.stones:
        parts.append(c.stones)
    if c.block_c is not None:
        parts.append(show.warm(*c.block_c, digits=0))
    return ", ".join([*parts, *c.persons])


class LedgerPage(StepPage):
    """What was taken, and earlier jobs in the same metal in the card."""

    name, title = "ledger", "Stock ledger"

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, walls)
        self._found: tuple[JobState, object, Ledger] | None = None
        self._alike = Behind[tuple[HonedOnJob, ...]](
            walls.runner, "honed alike", lambda: session.changed.emit(frozenset({"selection"}))
        )
        self.view = LedgerView(session, theme, self)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.view)

    def found(self) -> Ledger:
        state = self.session.job
        alike = self._alike.of((state.number, state.last_seq), lambda: self.session.desk.honed_alike(state)) or ()
        if self._found is None or self._found[0] is not state or self._found[1] is not alike:
            self._found = (state, alike, ledger_of(state, alike))
        return self._found[2]

    def advice(self) -> Advice:
        return hone_page_advice.ledger(self.session.job, self.found(), self.session.show)
