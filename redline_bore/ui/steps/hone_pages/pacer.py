"""The pacer: a beat that can be seen (and heard where there is a device) for a hone held by hand."""

from __future__ import annotations

import math
import time

from PyQt6.QtCore import QRectF, QTimer
from PyQt6.QtWidgets import QApplication, QVBoxLayout

from redline_bore.core.errors import InputError
from redline_bore.job.card import Advice
from redline_bore.job.hone.progress import progress_of
from redline_bore.job.hone.set_up import kinematics_of
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.words import hone_pages as hone_page_advice
from redline_bore.ui.paint.pencil import CENTRE, MIDDLE, Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import LineText
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import Walls

FRAME_MS = 25


class BeatView(Picture):
    """A bar that goes up and down at the pace of the hand, the count beside it as big as the room allows."""

    topics = LEDGER | {"selection", "step", "page", "beat"}

    def __init__(self, session: Session, theme: Theme, page: PacerPage) -> None:
        super().__init__(session, theme, "Pacer")
        self._page = page

    def said(self) -> str:
        return f"{self._page.counted} strokes of {self._page.most()}"

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, page = pencil.px, self._page
        pencil.heading(px(4), px(6), "Pacer", "down and up with the bar; both halves alike")
        lane = QRectF(area.left() + px(40), area.top() + px(56), px(120), area.height() - px(100))
        pencil.rect(lane, "sheet", "graphite")
        for share in (0.0, 0.25, 0.5, 0.75, 1.0):
            y = lane.top() + lane.height() * share
            pencil.line(lane.left() - px(10), y, lane.left(), y, "graphite")
        high = px(46)
        y = lane.top() + (lane.height() - high) * page.place()
        pencil.rect(
            QRectF(lane.left() + px(4), y, lane.width() - px(8), high), "tight" if page.running else "iron", "ink", 2.0
        )
        word = "down" if page.going_down() else "up"
        bar = QRectF(lane.left(), y, lane.width(), high)
        pencil.text(
            bar, word if page.running else "ready", 17, "sheet" if page.running else "ink", True, CENTRE | MIDDLE
        )
        count = QRectF(
            lane.right() + px(30), area.top() + px(60), area.width() - lane.right() - px(50), area.height() - px(160)
        )
        text = str(page.counted)
        size = min(170.0, count.height() / self.theme.scale * 0.8)
        size *= min(1.0, count.width() / max(pencil.width_of(text, size, True), 1.0))
        pencil.text(count, text, size, "ink", True, CENTRE | MIDDLE)
        below = QRectF(count.left(), count.bottom(), count.width(), px(30))
        pencil.text(
            below,
            f"of {page.most()} double strokes, then stop, clean the stones, measure",
            16,
            "graphite",
            align=CENTRE | MIDDLE,
        )


class PacerPage(StepPage):
    """Enter starts and stops the beat; strokes are counted and stand in the field, ready for the size behind them."""

    name, title = "pacer", "Pacer"

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, walls)
        self.counted = 0
        self._for: tuple[str, int, int] = ("", 0, 0)
        self._began, self._halves = 0.0, 0
        self.view = BeatView(session, theme, self)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.view)
        self._timer = QTimer(self)
        self._timer.setInterval(FRAME_MS)
        self._timer.timeout.connect(self._frame)

    @property
    def running(self) -> bool:
        return self._timer.isActive()

    def most(self) -> int:
        """How many strokes until it stops."""
        if self.session.state is None:
            return 0
        return hone_page_advice.present_strokes(self.session.state, self.session.bench.cylinder)

    def _period(self) -> float:
        pace = kinematics_of(self.session.job).pace
        return 1.0 if pace is None else pace.seconds_per_double_stroke

    def _phase(self) -> float:
        return (time.monotonic() - self._began) / self._period() if self.running else 0.0

    def going_down(self) -> bool:
        return self._phase() % 1.0 < 0.5

    def place(self) -> float:
        """Where the hand should be: 0 at the top, 1 at the bottom; even speed with a soft turn-round."""
        return 0.5 - 0.5 * math.cos(2.0 * math.pi * (self._phase() % 1.0))

    def _frame(self) -> None:
        if not self.isVisible():
            self._halt()
            return
        halves = int(self._phase() * 2.0)
        if halves > self._halves:
            self._halves = halves
            QApplication.beep()  # where there is a device; the bar is seen in any case
            done = min(halves // 2, self.most())  # by the clock: a frame that came late loses no stroke
            if done > self.counted:
                self.counted = done
                if done >= self.most():
                    self._halt()
                self.session.changed.emit(frozenset({"beat"}))
        self.view.update()

    def _halt(self) -> None:
        """Stop the beat; what was counted goes before the size, ready to book."""
        if not self.running:
            return
        self._timer.stop()
        p = progress_of(self.session.job, self.session.bench.cylinder)
        before = p.checks[-1].strokes if p.checks else 0.0
        if self.counted:
            self.propose(f"{before + self.counted:g} ")
        self.session.changed.emit(frozenset({"beat"}))

    def advice(self) -> Advice:
        state, cylinder = self.session.job, self.session.bench.cylinder
        p = progress_of(state, cylinder)
        key = (state.number, cylinder, len(state.honing.checks_of(cylinder)))
        if key != self._for and not self.running:
            self._for, self.counted = key, 0
        return hone_page_advice.pacer(state, p, self.counted, self.running, self.most())

    def line_text(self) -> LineText | None:
        return LineText(
            f"Pacer · cylinder {self.session.bench.cylinder}", "Enter starts and stops the beat; then the size behind the strokes", "V next page", "—"
        )  # fmt: skip

    def enter_empty(self) -> str | None:
        if self.running:
            self._halt()
            return f"{self.counted} strokes. Measure, and type the size behind them."
        pace = kinematics_of(self.session.job).pace
        if pace is None:
            raise InputError("The pacer is for a hone held by hand: M, then hone drill rpm 150")
        if not pace.possible:
            raise InputError(f"No hand holds that: set the drill to {pace.drill_rpm_for_hand:.0f} turns and say so")
        self.counted, self._halves, self._began = 0, 0, time.monotonic()
        self._timer.start()
        self.session.changed.emit(frozenset({"beat"}))
        return "The beat runs."
