"""Probability paper for the spot that is lit, and two walls of one Ra shown for what they are."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QRectF
from PyQt6.QtWidgets import QHBoxLayout

from redline_bore.job.card import Advice
from redline_bore.job.finish.judgement import Twins, spot_name, texture_at
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.state.finishing import WallTrace
from redline_bore.job.words import finish_pages as finish_page_advice
from redline_bore.ui.behind import Behind
from redline_bore.ui.paint.pencil import LEFT, TOP, Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.paint.probability_chart import draw_paper, draw_twin
from redline_bore.ui.paint.trace_chart import span_of
from redline_bore.ui.session import Session
from redline_bore.ui.steps.finish_pages.trace import trace_looked_at
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import Walls

TOPICS = LEDGER | {"selection", "step", "page", "spot"}


class PaperView(Picture):
    """The curve on probability paper."""

    topics = TOPICS

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme, "Probability paper")

    def said(self) -> str:
        trace = None if self.session.state is None else trace_looked_at(self.session)
        if trace is None:
            return "not traced"
        paper = texture_at(trace).paper
        return "no plain knee" if paper.Rmq is None else f"knee at {paper.Rmq:.0f} percent"

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, trace = pencil.px, trace_looked_at(self.session)
        pencil.heading(px(4), px(6), "On probability paper", "two straight parts: plateau, valleys")
        box = area.adjusted(px(4), px(40), -px(4), -px(4))
        if trace is None:
            pencil.text(box, "Not traced yet.", 16, "graphite", align=LEFT | TOP)
            return
        draw_paper(pencil, box, texture_at(trace), self.session.show)


class TwinsView(Picture):
    """Two walls whose Ra agree."""

    topics = TOPICS

    def __init__(self, session: Session, theme: Theme, found: Callable[[], Twins | None]) -> None:
        super().__init__(session, theme, "Two walls of one Ra")
        self._found = found

    def said(self) -> str:
        twins = None if self.session.state is None else self._found()
        return "no two traces agree in Ra" if twins is None else f"their family differs {twins.times:.1f} times"

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, twins = pencil.px, self._found()
        pencil.heading(px(4), px(6), "Two walls of one Ra", "one height scale")
        box = area.adjusted(0, px(40), 0, -px(4))
        if twins is None:
            pencil.text(
                box.adjusted(px(8), 0, -px(8), 0),
                "No trace of this job agrees in Ra with another one, of any job, within a tenth.",
                14,
                "graphite",
                align=LEFT | TOP,
                wrap=True,
            )
            return
        pair = [texture_at(t) for t in (twins.first, twins.second)]
        spans = [span_of(t) for t in pair]
        span = (min(s[0] for s in spans), max(s[1] for s in spans))
        high = box.height() / 2.0
        for i, (trace, texture) in enumerate(zip((twins.first, twins.second), pair, strict=True)):
            part = QRectF(box.left(), box.top() + i * high, box.width(), high - px(6))
            draw_twin(
                pencil,
                part,
                texture,
                self._words(trace, twins.second_job if i else self.session.job.number),
                span,
                self.session.show,
            )

    def _words(self, trace: WallTrace, job: str) -> str:
        had = trace.plateau_strokes
        stage = "" if had is None else ", before the plateau" if had == 0.0 else f", {had:g} plateau strokes"
        if job != self.session.job.number:
            return f"Job {job}, cylinder {trace.cylinder}{stage}"
        return f"Cylinder {trace.cylinder}, {spot_name(self.session.job, trace.depth_mm) or 'spot not said'}{stage}"


class PaperPage(StepPage):
    """Probability paper beside the two walls of one Ra."""

    name, title = "paper", "Probability"

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, walls)
        self._twins = Behind[Twins | None](
            walls.runner, "twins", lambda: session.changed.emit(frozenset({"selection"}))
        )
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(PaperView(session, theme), 54)
        row.addWidget(TwinsView(session, theme, self.twins), 46)

    def twins(self) -> Twins | None:
        """The two walls of one Ra, looked for among the traces of every job; once for each state of this one."""
        state = self.session.job
        return self._twins.of((state.number, state.last_seq), lambda: self.session.desk.twins(state))

    def advice(self) -> Advice:
        s = self.session
        return finish_page_advice.paper_page(s.job, s.bench.cylinder, self.twins(), s.show)
