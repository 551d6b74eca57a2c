"""The route strip: an engraved scale whose graduations are the steps of this job, with the job plate beside it."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QResizeEvent
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from redline_bore.core.show import Show
from redline_bore.core.when import clock
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.state.job_state import STEP_TITLES
from redline_bore.job.state.signing import Stamp
from redline_bore.ui.paint.pencil import CENTRE, LEFT, MIDDLE, RIGHT, Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.session import Session
from redline_bore.ui.theme.theme import Theme

PLATE_PX, RIGHT_PX = 292.0, 372.0


class RouteStrip(Picture):
    """The strip. A click on a graduation goes there; on the block's temperature, ``warmth``."""

    warmth = pyqtSignal()

    needs_job = False
    topics = LEDGER | {"step", "new_job", "person"}
    _who_shown: bool | None = None

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme, "Route of the job")
        self.setObjectName("strip")
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.buttons = QWidget(self)
        row = QHBoxLayout(self.buttons)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        self.units, self.plate, self.menu, self.finder = (
            QPushButton(),
            QPushButton(),
            QPushButton("Menu"),
            QPushButton("Find F"),
        )
        self.finder.setAccessibleName("Find")
        for button, keys in ((self.units, "U"), (self.plate, "P"), (self.finder, "F"), (self.menu, "")):
            button.setAccessibleDescription(f"Key {keys}" if keys else "")
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            row.addWidget(button)
        self.who = QPushButton(self)
        self.who.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        theme.changed.connect(self.restyle)
        self.restyle()

    def restyle(self) -> None:
        self.setFixedHeight(self.theme.px(60))
        self.buttons.adjustSize()
        self.refresh()
        self._place_buttons()

    def _place_buttons(self) -> None:
        px = self.theme.px
        high = self.theme.target(34)
        self.buttons.setGeometry(self.width() - px(RIGHT_PX - 4), (self.height() - high) // 2 - px(1), px(254), high)
        wide = self.theme.target(40)
        self.who.setGeometry(self.width() - px(112), (self.height() - wide) // 2 - px(1), wide, wide)
        c = self.theme.palette
        narrow = f"QPushButton {{ padding: {px(4)}px {px(6)}px; min-width: 0; min-height: {high - 2 * px(4) - 2}px; }}"
        edge = "solid" if self.session.who_is_said else "dashed"
        self.buttons.setStyleSheet(narrow)
        self.who.setStyleSheet(
            f"QPushButton {{ border: {px(2)}px {edge} {c.ink}; border-radius: {wide // 2}px; padding: 0; min-height: {wide - 2 * px(2)}px; min-width: {wide - 2 * px(2)}px; background: {c.iron}; font-size: {px(13)}px; font-weight: bold; }}"
        )

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self._place_buttons()
        super().resizeEvent(event)

    def refresh(self) -> None:
        state = self.session.state
        if state is not None:
            self.units.setText(self.session.bench.units.mark)
            self.plate.setText("plate on" if state.clamped.plate_on else "plate off")
            self.units.setAccessibleName(f"Units: {self.units.text()}")
            self.plate.setAccessibleName(f"Torque plate: {'on' if state.clamped.plate_on else 'off'}")
        said = self.session.who_is_said
        self.who.setText(self.session.person if said else "?")
        self.who.setAccessibleName(f"Who is working: {self.session.person}" if said else "Who is working: nobody said")
        self.who.setToolTip("Who is working (Q)")
        if said != self._who_shown:
            self._who_shown = said
            self._place_buttons()
        there = state is not None and not self.session.bench.new_job
        self.units.setVisible(there)
        self.plate.setVisible(there)
        super().refresh()

    def said(self) -> str:
        state = self.session.state
        if state is None:
            return "No job is open"
        done = ", ".join(STEP_TITLES[s.step] for s in state.signing.stamps) or "nothing"
        return f"Job {state.number}, at {STEP_TITLES[self.session.bench.step]}. Stamped: {done}"

    def _x(self, index: int) -> float:
        px = self.theme.px
        left, right = px(PLATE_PX + 30), self.width() - px(RIGHT_PX + 34)
        return left + (right - left) * index / (len(self.session.steps) - 1)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self.session.state is None:
            return
        if event.position().x() > self.width() - self.theme.px(72) and not self.session.bench.new_job:
            self.warmth.emit()
            return
        steps = self.session.steps
        near = min(range(len(steps)), key=lambda i: abs(self._x(i) - event.position().x()))
        if abs(self._x(near) - event.position().x()) < self.theme.px(44):
            self.session.go(steps[near])

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        pencil.rect(area, "sheet")
        pencil.line(0, area.bottom() - 1, area.right(), area.bottom() - 1, "graphite", 1.0)
        self._draw_plate(pencil)
        if self._x(1) - self._x(0) > pencil.px(12):  # else there is no room for it between plate and buttons
            self._draw_scale(pencil)
        if not self.session.bench.new_job and self.session.state is not None:
            self._draw_warmth(pencil, area)

    def _draw_plate(self, pencil: Pencil) -> None:
        state, px = self.session.state, pencil.px
        if self.session.bench.new_job or state is None:
            pencil.text(QRectF(px(16), px(6), px(240), px(26)), "New job", 20, bold=True)
            return
        pencil.text(QRectF(px(16), px(5), px(90), px(26)), state.number, 20, bold=True)
        left = px(16) + pencil.width_of(state.number, 20, True) + px(10)
        room, owner = px(PLATE_PX - 24), state.book_in.owner_said
        pencil.text(
            QRectF(left, px(6), px(PLATE_PX) - left, px(26)), pencil.fitted(owner, px(PLATE_PX - 8) - left, 14), 14
        )
        show, b = Show(self.session.bench.units), state.block
        practice = "practice · " if state.simulated else ""  # simulated instruments sent readings of it
        size = f" · {show.rough(b.bore_mm)} × {show.rough(b.stroke_mm)}"
        engine = pencil.fitted(f"{practice}{state.book_in.engine_said}", room - pencil.width_of(size, 12), 12)
        gone = self.session.open is not None and self.session.open.rescued_to is not None
        small = "RESCUE: kept at this bench" if gone else f"{engine}{size}"
        pencil.text(QRectF(px(16), px(32), room, px(20)), small, 12, "graphite")

    def _draw_scale(self, pencil: Pencil) -> None:
        state, px, base = self.session.state, pencil.px, pencil.px(34)
        stamps = {} if self.session.bench.new_job or state is None else {s.step: s for s in state.signing.stamps}
        steps = self.session.steps
        here = steps.index(self.session.bench.step)
        pencil.line(self._x(0), base, self._x(len(steps) - 1), base, "graphite")
        first, last = self._x(0), self._x(len(steps) - 1)
        for i in range((len(steps) - 1) * 10 + 1):
            x = first + (last - first) * i / ((len(steps) - 1) * 10)
            passed = steps[i // 10] in stamps and i % 10
            high = 13 if i % 10 == 0 else 7 if i % 5 == 0 else 4
            pencil.line(
                x,
                base,
                x,
                base - px(high),
                "ink" if passed or steps[min(i // 10, len(steps) - 1)] in stamps else "rule",
            )
        for i in sorted(
            range(len(steps)), key=lambda i: abs(i - here)
        ):  # where it is narrow, those nearest keep their words
            self._draw_step(pencil, i, i == here, base, stamps.get(steps[i]))
        x = self._x(here)
        pencil.polygon([(x, base), (x - px(6), base - px(13)), (x + px(6), base - px(13))], "ink")

    def _draw_step(self, pencil: Pencil, i: int, on: bool, base: float, stamp: Stamp | None) -> None:
        px, x, last = pencil.px, self._x(i), len(self.session.steps) - 1
        name = STEP_TITLES[self.session.steps[i]]
        pencil.label(x, base + px(12), name, 14, "ink" if on else "graphite", on, CENTRE)
        if stamp is None:
            return
        close = self._x(1) - self._x(0) < px(84)  # many steps in a narrow window: the time alone
        words = clock(stamp.at) if close else f"{stamp.initials} {clock(stamp.at)}"
        side = (
            CENTRE if 0 < i < last else RIGHT if i else LEFT
        )  # the ends stand inside, clear of the plate and the buttons
        pencil.label(x, base - px(23), words, 12, "graphite", align=side)

    def _draw_warmth(self, pencil: Pencil, area: QRectF) -> None:
        state, px = self.session.job, pencil.px
        box = QRectF(area.right() - px(72), px(8), px(64), px(18))
        pencil.text(box, "block", 12, "graphite", align=RIGHT | MIDDLE)
        under = QRectF(box.left(), px(26), px(64), px(22))
        if state.clamped.block_c is None:
            pencil.text(under, "?", 16, "look", align=RIGHT | MIDDLE)
            pencil.triangle_mark(under.right() - px(28), under.center().y(), 10)
        else:
            pencil.text(under, self.session.show.warm(state.clamped.block_c), 16, align=RIGHT | MIDDLE)
