"""Set-up: the stone in the hole, moving when asked; the crosshatch by depth; turns, strokes and angle."""

from __future__ import annotations

import time

from PyQt6.QtCore import QRectF, QTimer
from PyQt6.QtWidgets import QVBoxLayout

from redline_bore.core.late import np
from redline_bore.core.stroke import local_angle_by_depth
from redline_bore.job.card import Advice
from redline_bore.job.hone.set_up import angle_aim, kinematics_of, stone_mm
from redline_bore.job.kinds.hone import hone_example, stones_example
from redline_bore.job.kinds.phrase import At
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.proposals import StepProposals
from redline_bore.job.words import hone_pages as hone_page_advice
from redline_bore.ui import verbs
from redline_bore.ui.paint.angle_chart import draw_angle_by_depth
from redline_bore.ui.paint.pencil import LEFT, TOP, Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import LineText
from redline_bore.ui.steps.hone_pages.stock import SectionView
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.verbs import Deeds
from redline_bore.ui.walls import Walls

FRAME_MS = 33


class AngleView(Picture):
    """Included angle down the wall, with the window that is wanted and how the scratches would lie."""

    topics = LEDGER | {"selection", "step", "page"}

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme, "Crosshatch by depth")

    def said(self) -> str:
        if self.session.state is None:
            return ""
        hatch = kinematics_of(self.session.state).hatch
        return (
            "no angle: the rate of strokes is not set"
            if hatch is None
            else f"{hatch.included_deg:.0f} degrees included"
        )

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, state = pencil.px, self.session.job
        pencil.heading(px(4), px(6), "Crosshatch", "included, down the wall; from the horizontal it is half")
        k, h = kinematics_of(state), state.honing.run
        box = area.adjusted(px(8), px(40), -px(12), -px(6))
        if k.hatch is None or k.motion is None or k.stroke is None or h is None:
            told = (
                "By hand the angle is the pacer's: V to its page."
                if k.pace is not None
                else "M, then hone vertical proposes turns and strokes."
            )
            pencil.text(box, told, 15, "graphite", align=LEFT | TOP)
            return
        depths = np.linspace(1.0, state.block.length_mm - 1.0, 60)
        angles = local_angle_by_depth(
            state.block.bore_mm, h.rpm, k.motion, stone_mm(state), k.stroke.over_top_mm, depths
        )
        draw_angle_by_depth(
            pencil, box, depths, angles, angle_aim(state), k.hatch, state.block.length_mm, self.session.show
        )


class SetUpPage(StepPage):
    """J lets the stone move at its own pace, and stops it."""

    name, title = "set_up", "Set-up"

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, walls)
        self.section, self.angle = SectionView(session, theme), AngleView(session, theme)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.section, 46)
        column.addWidget(self.angle, 54)
        self._timer, self._began = QTimer(self), 0.0
        self._timer.setInterval(FRAME_MS)
        self._timer.timeout.connect(self._frame)

    @property
    def moving(self) -> bool:
        return self._timer.isActive()

    def deeds(self) -> Deeds:
        """J lets the stone move."""
        return {verbs.STROKE: self.toggle_stroke}

    def toggle_stroke(self) -> str:
        """J: let the stone move, or stop it."""
        if self.moving:
            self._timer.stop()
            self.section.share = None
            self.section.update()
            return "The stone stands."
        self._began = time.monotonic()
        self._timer.start()
        return "The stone moves at its own pace; J stops it."

    def _frame(self) -> None:
        if not self.isVisible() or self.session.state is None:
            self._timer.stop()
            self.section.share = None
            return
        k = kinematics_of(self.session.state)
        period = (
            k.motion.period_s if k.motion is not None else 60.0 / (k.pace.double_strokes_per_min if k.pace else 45.0)
        )
        share = ((time.monotonic() - self._began) % period) / period
        if k.motion is not None:
            place, _ = k.motion.half_stroke(200)
            near = place[min(int((share if share < 0.5 else 1.0 - share) * 2.0 * 200), 199)] / k.motion.stroke_mm
            self.section.share = float(near)
        else:
            self.section.share = 2.0 * share if share < 0.5 else 2.0 - 2.0 * share
        self.section.update()

    def advice(self) -> Advice:
        return hone_page_advice.set_up(self.session.job, self.session.show)

    def line_text(self) -> LineText | None:
        h, at = self.session.job.honing.run, At(self.session.job, self.session.where, StepProposals())
        where = "The hone is not set up" if h is None else f"{h.machine.capitalize()} hone, {h.rpm:g} turns"
        return LineText(
            where, f"M, then {stones_example(at)}; {hone_example(at)}; angle 30",
            "J moves the stone", "—",
        )  # fmt: skip
