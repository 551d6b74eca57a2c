"""The size ladder, with the practices it is worked by."""

from __future__ import annotations

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QMouseEvent
from PyQt6.QtWidgets import QVBoxLayout

from redline_bore.job.call.hone_out import hones_out
from redline_bore.job.call.ladder import ladder_of
from redline_bore.job.card import Advice
from redline_bore.job.kinds.book_in import PracticeChosen
from redline_bore.job.kinds.sign_off import StepStamped
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.profiles.practice import PRACTICE_TOPICS, next_practice, practice
from redline_bore.job.state.calling import Apart
from redline_bore.job.words import call as call
from redline_bore.job.words.fares import fate_words
from redline_bore.ui import verbs
from redline_bore.ui.paint.pencil import Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.paint.size_ladder import column_box, draw_size_ladder, ladder_scale
from redline_bore.ui.session import Session
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.verbs import Deeds
from redline_bore.ui.walls import Walls

LADDER_TOPICS = LEDGER | {"rung", "selection", "step", "page"}
PRACTICE_KEYS = {
    "axis": "A",
    "wear_side": "Y",
    "hone_allowance": "H",
    "odd_cylinder": "O",
    "pistons": "X",
    "clearance": "C",
}


class LadderView(Picture):
    """The ladder; drag the redline, or click a lane to select its cylinder."""

    topics = LADDER_TOPICS

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme, "Size ladder")
        self._dragging = False

    def _area(self) -> QRectF:
        px = self.theme.px
        return QRectF(self.rect()).adjusted(0, px(36), 0, -px(66))

    def said(self) -> str:
        if self.session.state is None:
            return ""
        fates = ladder_of(self.session.state).fates(self.session.rung_mm, self.session.apart)
        parts = [f"cylinder {f.cylinder} {fate_words(f)[0]}" for f in fates]
        return f"Redline at {self.session.show.step(self.session.rung_mm)}: " + ", ".join(parts)

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, state = pencil.px, self.session.job
        swept = any(c.need.swept is not None for c in ladder_of(state).columns)
        axis = practice("axis", state.booking.practice("axis")).title
        about = (
            f"what each cylinder needs, about {axis}" if swept else "what each cylinder needs, about the unworn bottom"
        )
        pencil.heading(px(4), px(6), "Size ladder", about)
        draw_size_ladder(
            pencil, self._area(), ladder_of(state), self.session.rung_mm, self.session.bench.cylinder, self.session.show,
            self.session.apart, self.session.bench.call.beside,
        )  # fmt: skip
        self._draw_practices(pencil, area)

    def _draw_practices(self, pencil: Pencil, area: QRectF) -> None:
        """The practices that matter here, each with its key."""
        px, state = pencil.px, self.session.job
        x, y = area.left() + px(6), area.bottom() - px(62)
        for topic, key in PRACTICE_KEYS.items():
            title = practice(topic, state.booking.practice(topic)).title
            words = f"{PRACTICE_TOPICS[topic].lower()} {title}"
            wide = px(22) + pencil.width_of(words, 12)
            if x + wide > area.right() - px(6):
                x, y = area.left() + px(6), y + px(20)
            pencil.rect(QRectF(x, y, px(17), px(17)), "sheet", "graphite")
            pencil.text(QRectF(x + px(4), y, px(14), px(17)), key, 12, "ink", True)
            pencil.text(QRectF(x + px(22), y, wide, px(17)), words, 12, "graphite")
            x += wide + px(14)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self.session.state is None:
            return
        ladder = ladder_of(self.session.state)
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
        ladder = ladder_of(self.session.job)
        wanted = ladder_scale(self._area(), ladder, self.theme.scale).oversize(event.position().y())
        if ladder.rungs_mm:
            near = min(ladder.rungs_mm, key=lambda r: abs(r - wanted))
            if near != self.session.rung_mm:
                self.session.set_rung(near)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        self._dragging = False


class LadderPage(StepPage):
    """Up and down move the redline, Shift with them moves one cylinder alone, S sleeves it; Enter takes the call."""

    name, title = "ladder", "Size ladder"

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, walls)
        self.ladder = LadderView(session, theme)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.ladder)

    def advice(self) -> Advice:
        s = self.session
        return call.advise(s.job, s.bench.cylinder, s.rung_mm, s.show, s.apart)

    def arrows(self, across: int, down: int) -> bool:
        if across:
            count = self.session.job.block.cylinders
            self.session.select((self.session.bench.cylinder - 1 + across) % count + 1)
        else:
            self.session.set_rung(self._stepped(self.session.rung_mm, down))
        return True

    def _stepped(self, now: float, down: int) -> float:
        """The next rung up or down from a size; the same at the end of the ladder."""
        rungs = ladder_of(self.session.job).rungs_mm
        if hones_out(self.session.job):
            rungs = (0.0, *rungs)  # honed to nominal
        if down < 0:
            return next((r for r in rungs if r > now + 1e-9), now)
        return next((r for r in reversed(rungs) if r < now - 1e-9), now)

    def move_probe(self, across: int, down: int) -> None:
        """Shift and up or down: this cylinder goes to a size of its own; back at the common size it joins the rest."""
        if not down:
            return
        cylinder = self.session.bench.cylinder
        now = next((a.oversize_mm for a in self.session.apart if a.cylinder == cylinder and a.way == "own"), None)
        size = self._stepped(self.session.rung_mm if now is None else now, down)
        same = abs(size - self.session.rung_mm) < 1e-9
        self.session.set_apart(cylinder, None if same else Apart(cylinder=cylinder, way="own", oversize_mm=size))

    def deeds(self) -> Deeds:
        """S sleeves the cylinder."""
        return {verbs.SLEEVE: self.toggle_sleeve}

    def toggle_sleeve(self) -> str:
        """S: this cylinder is sleeved, or goes with the rest again."""
        cylinder = self.session.bench.cylinder
        sleeved = any(a.cylinder == cylinder and a.way == "sleeve" for a in self.session.apart)
        self.session.set_apart(cylinder, None if sleeved else Apart(cylinder=cylinder, way="sleeve"))
        return f"Cylinder {cylinder} goes with the rest again." if sleeved else f"Cylinder {cylinder} is sleeved."

    def cycle_practice(self, topic: str) -> str:
        """The next practice of a topic; recorded on the job, its effect visible at once."""
        chosen = next_practice(topic, self.session.job.booking.practice(topic))
        self.session.book(PracticeChosen(topic=topic, name=chosen.name))
        return f"{PRACTICE_TOPICS[topic]} {chosen.title}: {chosen.reason}."

    def enter_empty(self) -> str | None:
        from redline_bore.desk.calls import call_at

        s = self.session
        decision = call_at(s.job, s.bench.cylinder, s.rung_mm, s.apart, s.show)
        if self.advice().unsure:
            s.ask_once((self.name, s.rung_mm, s.apart), call.NOT_SURE_YET)
        s.book(decision, StepStamped(step="call", initials=s.person))
        return f"Call taken: {decision.sentence}"
