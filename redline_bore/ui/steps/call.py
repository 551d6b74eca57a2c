"""Call: the size ladder. The redline moves by keys or by dragging, and everything follows."""

from __future__ import annotations

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QMouseEvent
from PyQt6.QtWidgets import QVBoxLayout

from redline_bore.core.errors import InputError
from redline_bore.job import call
from redline_bore.job.advice import Advice
from redline_bore.job.entries import DecisionTaken, PracticeChosen, StepStamped
from redline_bore.job.practices import options
from redline_bore.job.redline import leading_window
from redline_bore.ui.paint.pencil import Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.paint.size_ladder import column_box, draw_size_ladder, ladder_scale
from redline_bore.ui.session import LEDGER, Session
from redline_bore.ui.steps.base import LineText, StepView
from redline_bore.ui.theme.theme import Theme


class LadderView(Picture):
    """The ladder; drag the redline, or click a lane to select its cylinder."""

    topics = LEDGER | {"rung", "selection", "step"}

    def __init__(self, session: Session, theme: Theme):
        super().__init__(session, theme, "Size ladder")
        self._dragging = False

    def _area(self) -> QRectF:
        px = self.theme.px
        return QRectF(self.rect()).adjusted(0, px(36), 0, -px(6))

    def said(self) -> str:
        if self.session.state is None:
            return ""
        ladder, size = call.ladder_of(self.session.state), self.session.state.block.bore_mm + self.session.rung_mm
        parts = [f"cylinder {c.cylinder} {c.verdict(size) or 'not known'}" for c in ladder.columns]
        return f"Redline at {self.session.show.step(self.session.rung_mm)}: " + ", ".join(parts)

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        pencil.heading(
            pencil.px(4), pencil.px(6), "Size ladder", "what each cylinder needs, about the unworn bottom of the hole"
        )
        ladder = call.ladder_of(self.session.job)
        draw_size_ladder(
            pencil, self._area(), ladder, self.session.rung_mm, self.session.bench.cylinder, self.session.show
        )

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self.session.state is None:
            return
        ladder = call.ladder_of(self.session.state)
        scale = ladder_scale(self._area(), ladder, self.theme.scale)
        at = event.position()
        self._dragging = abs(at.y() - scale.y(self.session.rung_mm)) < self.theme.px(16)
        if not self._dragging:
            lanes = [column_box(scale, i, len(ladder.columns)) for i in range(len(ladder.columns))]
            hit = next((i + 1 for i, lane in enumerate(lanes) if lane.left() <= at.x() <= lane.right()), None)
            if hit is not None:
                self.session.select(hit)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or not self._dragging:
            return
        ladder = call.ladder_of(self.session.job)
        wanted = ladder_scale(self._area(), ladder, self.theme.scale).oversize(event.position().y())
        if ladder.rungs_mm:
            near = min(ladder.rungs_mm, key=lambda r: abs(r - wanted))
            if near != self.session.rung_mm:
                self.session.set_rung(near)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        self._dragging = False


class CallStep(StepView):
    """The call step: moves the redline, books pistons and clearance, takes the decision."""

    name = "call"
    topics = LadderView.topics
    digits_pick = True

    def __init__(self, session: Session, theme: Theme):
        super().__init__(session, theme)
        self.ladder = LadderView(session, theme)
        QVBoxLayout(self).addWidget(self.ladder)

    def advice(self) -> Advice:
        bench = self.session.bench
        return call.advise(self.session.job, bench.cylinder, self.session.rung_mm, self.session.show)

    def line_text(self) -> LineText:
        state, bench, show = self.session.job, self.session.bench, self.session.show
        window, piston = leading_window(state), state.piston(bench.cylinder)
        measured = f"piston {show.size(piston.size_mm)}" if piston else "piston not measured"
        where = f"Cylinder {bench.cylinder} · {measured} · clearance {show.size(window.low_mm)}–{show.size(window.high_mm)} by {window.source}"
        what = "↑ ↓ move the redline · type a piston after M · sheet 0.065 0.085 states a clearance"
        if bench.units.mark == "in":
            what = what.replace("0.065 0.085", "0.0024 0.0034")
        return LineText(where, what, "Enter takes the call · C changes whose clearance", "—")

    def move(self, across: int, down: int) -> None:
        if across:
            count = self.session.job.block.cylinders
            self.session.select((self.session.bench.cylinder - 1 + across) % count + 1)
            return
        rungs, now = call.ladder_of(self.session.job).rungs_mm, self.session.rung_mm
        if down < 0:
            up = [r for r in rungs if r > now + 1e-9]
            self.session.set_rung(up[0] if up else now)
        else:
            below = [r for r in rungs if r < now - 1e-9]
            self.session.set_rung(below[-1] if below else now)

    def enter_empty(self) -> str:
        advice = self.advice()
        if not advice.button:
            raise InputError(
                f"No call can be taken at {self.session.show.step(self.session.rung_mm)}: {advice.sentence}"
            )
        figures = tuple(f"{f.label}: {f.value}" for f in advice.figures)
        decision = DecisionTaken(oversize_mm=self.session.rung_mm, sentence=advice.sentence, figures=figures)
        self.session.book(decision, StepStamped(step="call", initials=self.session.person))
        return f"Call taken: {advice.sentence}"

    def next_practice(self) -> str:
        """Let the next source of clearance lead; recorded on the job."""
        names = [p.name for p in options("clearance")]
        now = names.index(self.session.job.practice("clearance"))
        chosen = options("clearance")[(now + 1) % len(names)]
        self.session.book(PracticeChosen(topic="clearance", name=chosen.name))
        return f"Clearance by {chosen.title}: {chosen.reason}."
