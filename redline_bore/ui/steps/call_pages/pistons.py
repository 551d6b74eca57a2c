"""Pistons and clearance: the windows side by side, and every cylinder against them."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QMouseEvent
from PyQt6.QtWidgets import QVBoxLayout

from redline_bore.core.fit import Decision
from redline_bore.job.call import pistons
from redline_bore.job.card import Advice
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.redline import leading_window, windows
from redline_bore.job.words import pistons as pistons_words
from redline_bore.ui.paint.pencil import CENTRE, LEFT, MIDDLE, RIGHT, Pencil, ticks
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import LineText
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import Walls

UNDER_SHARE = 0.35  # of the clearances over none, how much is drawn under it where a hole is still too small


class ClearanceView(Picture):
    """Clearance across, sources and cylinders down. A click picks a cylinder."""

    topics = LEDGER | {"selection", "page"}

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme, "Clearance")

    def said(self) -> str:
        if self.session.state is None:
            return ""
        return "; ".join(
            f"cylinder {f.cylinder} {f.decision or 'no clearance yet'}" for f in pistons.fits_of(self.session.state)
        )

    def _rows(self) -> tuple[float, float, float]:
        """Top of the cylinders' rows, their height, and how many windows stand above."""
        px, state = self.theme.px, self.session.job
        top = px(40) + px(30) * len(windows(state)) + px(52)
        room = self.height() - top - px(10)
        return top, min(px(62), room / max(len(state.cylinders), 1)), float(len(windows(state)))

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, state, show = pencil.px, self.session.job, self.session.show
        pencil.heading(
            px(4),
            px(6),
            "Clearance",
            f"{show.units.mark} on diameter at {show.reference}; band: who leads, bar: ± U, dots: one size for all",
        )
        fits, found, lead = pistons.fits_of(state), windows(state), leading_window(state)
        common = pistons.common_size(state)
        values = [w.high_mm for w in found] + [f.most_mm for f in fits if f.most_mm is not None]
        high = 1.25 * max(values + ([max(common.clearances_mm)] if common else []))
        small = any(f.clearance_mm is not None and f.clearance_mm < 0.0 for f in fits)  # holes that are still to grow
        low = -UNDER_SHARE * high if small else 0.0
        box = QRectF(area.left() + px(150), area.top() + px(40), area.width() - px(290), 0.0)
        box.setBottom(self._rows()[0] + self._rows()[1] * len(fits) + px(8))

        def x_of(value: float) -> float:
            """Where a clearance lies; far under none, at the edge: how much is still to come stands beside it."""
            return max(box.left() + box.width() * (value - low) / (high - low), box.left() + px(8))

        top, row_high, _ = self._rows()
        pencil.rect(box, "sheet", "rule")
        pencil.rect(
            QRectF(x_of(lead.low_mm), box.top(), x_of(lead.high_mm) - x_of(lead.low_mm), box.height()),
            "iron",
            alpha=0.7,
        )
        pencil.line(x_of(lead.aim_mm), box.top(), x_of(lead.aim_mm), box.bottom(), "redline", 1.5)
        unit = float(show.units.mm)
        for value in ticks(low / unit, high / unit, 6):
            pencil.label(x_of(value * unit), top - px(14), f"{value:.4g}", 12, "graphite", align=CENTRE)
            pencil.line(x_of(value * unit), top - px(4), x_of(value * unit), box.bottom(), "rule")
        for i, w in enumerate(found):
            y = box.top() + px(16) + px(30) * i
            name = QRectF(area.left(), y - px(10), px(142), px(20))
            pencil.text(name, w.source, 13, "ink" if w == lead else "graphite", w == lead, RIGHT | MIDDLE)
            pencil.rect(
                QRectF(x_of(w.low_mm), y - px(6), x_of(w.high_mm) - x_of(w.low_mm), px(12)),
                "tight" if w == lead else "graphite",
            )
            pencil.text(
                QRectF(box.right() + px(8), y - px(10), px(130), px(20)),
                f"{show.size(w.low_mm)}–{show.size(w.high_mm)}",
                13,
                "ink",
                align=LEFT | MIDDLE,
            )
        for i, fit in enumerate(fits):
            self._fit(
                pencil, QRectF(area.left(), top + row_high * i, area.width() - px(8), row_high), fit, x_of, common
            )

    def _fit(
        self,
        pencil: Pencil,
        r: QRectF,
        fit: pistons.Fit,
        x_of: Callable[[float], float],
        common: pistons.CommonSize | None,
    ) -> None:
        px, show, y = pencil.px, self.session.show, r.center().y()
        if fit.cylinder == self.session.bench.cylinder:
            pencil.rect(r.adjusted(px(2), 2, -px(2), -2), "", "ink", 1.6)
        pencil.text(
            QRectF(r.left() + px(12), r.top(), px(30), r.height()), str(fit.cylinder), 17, "ink", True, LEFT | MIDDLE
        )
        text = "not measured" if fit.piston_mm is None else show.size(fit.piston_mm)
        pencil.text(
            QRectF(r.left() + px(34), r.top(), px(108), r.height()),
            text,
            14,
            "ink" if fit.piston_mm else "graphite",
            align=RIGHT | MIDDLE,
        )
        if common is not None:
            x = x_of(common.clearances_mm[fit.cylinder - 1])
            pencil.line(x, y - px(9), x, y + px(9), "graphite", 1.5, "dot")  # with one common size
        if fit.clearance_mm is None or fit.most_mm is None or fit.doubt_mm is None:
            if fit.finish_mm is not None:
                pencil.text(
                    QRectF(r.right() - px(126), r.top(), px(120), r.height()),
                    f"to {show.size(fit.finish_mm)}",
                    14,
                    "ink",
                    True,
                    LEFT | MIDDLE,
                )
            return
        least, most, u = x_of(fit.clearance_mm), x_of(fit.most_mm), fit.doubt_mm
        ends = x_of(fit.clearance_mm - u), x_of(fit.most_mm + u)
        pencil.line(ends[0], y, ends[1], y, "ink", 2.5)  # from the smallest place to the largest, and U beyond each
        pencil.circle(least, y, px(5), "sheet", "ink", 2.0)
        pencil.circle(most, y, px(5), "sheet", "ink", 2.0)
        at, middle = r.right() - px(126), fit.to_come_mm
        if middle is not None:
            told = f"{show.size(middle)} to come"
        else:
            words = {Decision.IN: "inside", Decision.OUT: "out", Decision.TOO_CLOSE: "too close"}
            told = f"{show.size(fit.clearance_mm)} {words[fit.decision] if fit.decision else ''}"
            self._mark(pencil, at, y, fit.decision)
        pencil.text(QRectF(at + px(18), r.top(), px(108), r.height()), told, 13, "ink", align=LEFT | MIDDLE)

    def _mark(self, pencil: Pencil, x: float, y: float, decision: Decision | None) -> None:
        """Inside, over, or too close to call."""
        px = pencil.px
        if decision is Decision.IN:
            pencil.tick_mark(x, y)
        elif decision is Decision.OUT:
            pencil.hatch(QRectF(x - px(1), y - px(7), px(14), px(14)), "ink", "ink")
        else:
            pencil.triangle_mark(x, y, 12)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self.session.state is None:
            return
        top, row_high, _ = self._rows()
        row = int((event.position().y() - top) // row_high) + 1
        if event.position().y() >= top:
            self.session.select(row)


class PistonsPage(StepPage):
    """Up and down walk the cylinders; a figure typed is the piston of the one that is lit."""

    name, title = "pistons", "Pistons"

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, walls)
        self.view = ClearanceView(session, theme)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.view)

    def advice(self) -> Advice:
        return pistons_words.advise(self.session.job, self.session.bench.cylinder, self.session.show)

    def line_text(self) -> LineText | None:
        s = self.session
        example = s.show.size(s.job.block.bore_mm - 0.08)
        return LineText(
            f"Piston {s.bench.cylinder} · at its gauge point", f"M, then {example} {s.show.warm_typed(21.0)}; sheet, manual or habit with a window",
            "C whose clearance leads", "—",
        )  # fmt: skip

    def arrows(self, across: int, down: int) -> bool:
        count = self.session.job.block.cylinders
        self.session.select((self.session.bench.cylinder - 1 + (down or across)) % count + 1)
        return True
