"""Every cylinder side by side, figure by figure, against the windows of this duty."""

from __future__ import annotations

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QMouseEvent
from PyQt6.QtWidgets import QVBoxLayout

from redline_bore.job.card import Advice
from redline_bore.job.finish.judgement import (
    Judged,
    TraceStage,
    WallFinish,
    finish_of,
    finish_windows,
    shown_parameters,
    texture_at,
)
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.words import finish as finish_advice
from redline_bore.job.words.texture import texture_figure, texture_unit
from redline_bore.ui.paint.finish_bars import draw_mark, draw_track, scale_end
from redline_bore.ui.paint.pencil import LEFT, MIDDLE, RIGHT, Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.session import Session
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import Walls

HEAD_PX, TITLE_PX = 40.0, 24.0


class AllView(Picture):
    """A block of rows for each figure, a row for each cylinder. A click picks the cylinder."""

    topics = LEDGER | {"selection", "step", "page"}

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme, "All cylinders")

    def said(self) -> str:
        if self.session.state is None:
            return ""
        found = [finish_of(self.session.job, c) for c in self.session.job.cylinders]
        return "; ".join(f"cylinder {f.cylinder} {'in its windows' if f.fine else f.stage}" for f in found)

    def _layout(self) -> tuple[tuple[str, ...], float]:
        """The figures shown, and the height of a row."""
        px, state = self.theme.px, self.session.job
        names = shown_parameters(state, TraceStage.AFTER)
        room = self.height() - px(HEAD_PX) - len(names) * px(TITLE_PX + 8)
        return names, min(px(44), room / (len(names) * len(state.cylinders)))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self.session.state is None:
            return
        px, (names, high) = self.theme.px, self._layout()
        block = px(TITLE_PX + 8) + high * len(self.session.job.cylinders)
        into = (event.position().y() - px(HEAD_PX)) % block - px(TITLE_PX)
        cylinder = int(into // high) + 1
        if 0 <= event.position().y() - px(HEAD_PX) < block * len(names) and cylinder in self.session.job.cylinders:
            self.session.select(cylinder)

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, s = pencil.px, self.session
        found = {c: finish_of(s.job, c) for c in s.job.cylinders}
        windows = finish_windows(s.job)
        pencil.heading(
            px(4),
            px(6),
            "All cylinders",
            f"{texture_unit(s.show)}; {s.job.book_in.duty.replace('_', ' ')}; dots are traces, bars the mean ± U",
        )
        names, high = self._layout()
        y = area.top() + px(HEAD_PX)
        for name in names:
            rows = [j for f in found.values() if f.current and (j := f.of(name)) is not None]
            window = windows.get(name)
            told = (
                "no window"
                if window is None
                else f"{texture_figure(window.low, s.show)}–{texture_figure(window.high, s.show)}"
            )
            pencil.text(QRectF(area.left() + px(10), y, px(60), px(TITLE_PX)), name, 16, bold=True)
            whose = "" if window is None else " · " + ("own: " if window.own else "") + window.source
            pencil.text(QRectF(area.left() + px(62), y, area.width(), px(TITLE_PX)), told + whose, 12, "graphite")
            end = scale_end(rows, window)
            for i, cylinder in enumerate(s.job.cylinders):
                row = QRectF(area.left() + px(10), y + px(TITLE_PX) + i * high, area.width() - px(20), high)
                self._row(pencil, row, found[cylinder], found[cylinder].of(name), end, i == 0)
            y += px(TITLE_PX + 8) + high * len(found)

    def _row(
        self, pencil: Pencil, row: QRectF, wall: WallFinish, judged: Judged | None, end: float, ends: bool
    ) -> None:
        px, s = pencil.px, self.session
        lit = wall.cylinder == s.bench.cylinder
        if lit:
            pencil.rect(row, "sheet")
        pencil.text(
            QRectF(row.left(), row.top(), px(30), row.height()), str(wall.cylinder), 14, "ink", lit, LEFT | MIDDLE
        )
        track = QRectF(row.left() + px(34), row.top(), row.width() - px(170), row.height())
        if judged is None or not wall.current:
            told = (
                "stroked since it was traced"
                if wall.since
                else "traced before its plateau only"
                if wall.traces
                else "not traced"
            )
            pencil.text(track, told, 12, "look", align=LEFT | MIDDLE)
            pencil.triangle_mark(track.left() + pencil.width_of(told, 12) + px(8), track.center().y(), 11)
            return
        values = [v for t in wall.traces if (v := texture_at(t).value(judged.parameter)) is not None]
        draw_track(pencil, track, judged, values, s.show, end, ends)
        right = QRectF(track.right() + px(6), row.top(), px(96), row.height())
        pencil.text(
            right,
            f"{texture_figure(judged.mean, s.show)} ± {texture_figure(judged.u, s.show)}",
            14,
            align=RIGHT | MIDDLE,
        )
        draw_mark(pencil, right.right() + px(8), row.center().y(), judged.decision)


class AllPage(StepPage):
    """All cylinders against the windows."""

    name, title = "all", "All cylinders"

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, walls)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(AllView(session, theme))

    def advice(self) -> Advice:
        return finish_advice.windows_page(self.session.job, self.session.show)
