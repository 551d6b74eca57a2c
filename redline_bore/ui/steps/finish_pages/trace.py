"""The trace of a spot, its curve with the construction, and the wall's figures against their windows."""

from __future__ import annotations

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QMouseEvent
from PyQt6.QtWidgets import QVBoxLayout

from redline_bore.job.card import Advice
from redline_bore.job.finish.judgement import (
    SPOTS,
    TraceStage,
    finish_of,
    finish_windows,
    shown_parameters,
    spot_name,
    spots_of,
    texture_at,
)
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.state.finishing import WallTrace
from redline_bore.job.words import finish as finish_advice
from redline_bore.job.words.texture import texture_unit
from redline_bore.ui.paint.finish_bars import draw_bar
from redline_bore.ui.paint.pencil import CENTRE, LEFT, MIDDLE, TOP, Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.paint.trace_chart import draw_primary, draw_together
from redline_bore.ui.session import Session
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import Walls

TOPICS = LEDGER | {"selection", "step", "page", "spot"}


def trace_looked_at(session: Session) -> WallTrace | None:
    """The trace of the spot that is lit; where it has none, the nearest one of that wall."""
    state, bench = session.job, session.bench
    traces = finish_of(state, bench.cylinder).traces
    wanted = spots_of(state)[bench.spot]
    return min(traces, key=lambda t: abs((t.depth_mm if t.depth_mm is not None else wanted) - wanted), default=None)


class TraceView(Picture):
    """The trace above, roughness and curve on one height axis below it."""

    topics = TOPICS

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme, "Trace and curve")

    def said(self) -> str:
        trace = None if self.session.state is None else trace_looked_at(self.session)
        if trace is None:
            return "not traced"
        f = texture_at(trace).family
        return f"Rk {f.Rk:.2f}, Rpk {f.Rpk:.2f}, Rvk {f.Rvk:.2f} micrometres"

    def _spot_box(self, i: int) -> QRectF:
        px = self.theme.px
        each = min(px(82), (self.width() - px(84)) / len(SPOTS))
        return QRectF(self.width() - px(4) - (len(SPOTS) - i) * each, px(5), each - px(4), px(24))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self.session.state is None:
            return
        for i in range(len(SPOTS)):
            if self._spot_box(i).contains(event.position()):
                self.session.set_spot(i)

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, s = pencil.px, self.session
        trace = trace_looked_at(s)
        found = finish_of(s.job, s.bench.cylinder)
        stage = {TraceStage.NONE: "", TraceStage.BEFORE: "before its plateau", TraceStage.AFTER: "as it is now"}[
            found.stage
        ]
        long = f"The wall of cylinder {s.bench.cylinder}"
        fits = px(8) + pencil.width_of(long, 17, True) < self._spot_box(0).left()
        pencil.heading(px(4), px(6), long if fits else f"Wall {s.bench.cylinder}", stage, self._spot_box(0).left())
        self._draw_spots(pencil)
        box = area.adjusted(px(8), px(54), -px(8), -px(4))
        if trace is None:
            told = "Not traced yet. Space traces with the profilometer that is connected (Ctrl+6 connects the simulated one); Ctrl+O takes a file: CSV, X3P or SDF."
            pencil.text(box.adjusted(px(12), px(20), -px(40), 0), told, 16, "graphite", align=LEFT | TOP, wrap=True)
            return
        texture = texture_at(trace)
        top = QRectF(box.left() + px(40), box.top(), box.width() - px(42), box.height() * 0.26)
        draw_primary(pencil, top, texture, s.show)
        draw_together(
            pencil,
            QRectF(box.left(), top.bottom() + px(12), box.width(), box.bottom() - top.bottom() - px(14)),
            texture,
            s.show,
        )

    def _draw_spots(self, pencil: Pencil) -> None:
        """Top, middle, bottom: traced, lit, or still to trace."""
        px, s = pencil.px, self.session
        done = {spot_name(s.job, t.depth_mm) for t in finish_of(s.job, s.bench.cylinder).traces}
        for i, name in enumerate(SPOTS):
            box, lit = self._spot_box(i), i == s.bench.spot
            pencil.rect(box, "ink" if lit else "sheet", "ink" if name in done else "rule")
            pencil.text(box.adjusted(px(4), 0, -px(14), 0), name, 12, "sheet" if lit else "ink", lit, CENTRE | MIDDLE)
            if name in done and not lit:
                pencil.tick_mark(box.right() - px(15), box.center().y(), 9)
            elif name in done:
                pencil.circle(box.right() - px(11), box.center().y(), px(3), "sheet", "sheet")


class BarsView(Picture):
    """The wall's figures against their windows."""

    topics = TOPICS

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme, "Window bars")

    def said(self) -> str:
        if self.session.state is None:
            return ""
        judged = finish_of(self.session.job, self.session.bench.cylinder).judged
        return "; ".join(f"{j.parameter} {j.mean:.2f}, {j.decision or 'no window'}" for j in judged)

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, s = pencil.px, self.session
        found = finish_of(s.job, s.bench.cylinder)
        window = next(iter(finish_windows(s.job).values()))
        before = "before the plateau; " if found.stage is TraceStage.BEFORE else ""
        pencil.heading(px(4), px(4), "Against its windows", f"{texture_unit(s.show)}; {before}{window.source}")
        if not found.judged:
            names = ", ".join(shown_parameters(s.job, TraceStage.AFTER))
            pencil.text(area.adjusted(px(12), px(34), 0, 0), f"{names}: not known", 14, "graphite", align=LEFT | TOP)
            return
        top, high = px(34), min(px(32), (area.height() - px(36)) / len(found.judged))
        for i, judged in enumerate(found.judged):
            values = [v for t in found.traces if (v := texture_at(t).value(judged.parameter)) is not None]
            draw_bar(
                pencil,
                QRectF(area.left() + px(10), top + i * high, area.width() - px(16), high),
                judged,
                values,
                s.show,
            )


class TracePage(StepPage):
    """Trace, curve and bars."""

    name, title = "trace", "Trace and curve"

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, walls)
        self.view, self.bars = TraceView(session, theme), BarsView(session, theme)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.view, 70)
        column.addWidget(self.bars, 30)

    def advice(self) -> Advice:
        return finish_advice.advise(self.session.job, self.session.bench.cylinder, self.session.show)
