"""The steps of the practice: what each takes a side, against the marks that the one before left."""

from __future__ import annotations

from PyQt6.QtCore import QRectF
from PyQt6.QtWidgets import QVBoxLayout

from redline_bore.job.card import Advice
from redline_bore.job.hone.set_up import rz_of
from redline_bore.job.hone.steps import PEAKS_ONLY, HoneStage, StageStands, practice_of, stages_of
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.profiles.stones import stones_said
from redline_bore.job.words import hone_pages as hone_page_advice
from redline_bore.job.words.stages import say_stage
from redline_bore.job.words.texture import texture_unit
from redline_bore.ui.paint.pencil import CENTRE, LEFT, MIDDLE, TOP, Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.paint.step_marks import draw_step_marks
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import LineText
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import Walls


class StagesView(Picture):
    """A strip a step, its stock to scale with the others, the marks before it drawn into it."""

    topics = LEDGER | {"selection", "step", "page"}

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme, "Steps of honing")

    def said(self) -> str:
        if self.session.state is None:
            return ""
        return "; ".join(
            f"{s.name}: {say_stage(s.call, self.session.show)}"
            for s in stages_of(self.session.state, self.session.bench.cylinder)
        )

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, state = pencil.px, self.session.job
        pencil.heading(
            px(4),
            px(6),
            practice_of(state).title[:1].upper() + practice_of(state).title[1:],
            f"metal a side, in {texture_unit(self.session.show)}; below: the wall before and after",
        )
        stages = stages_of(state, self.session.bench.cylinder)
        now = state.honing.step_of(self.session.bench.cylinder)
        high = min(px(300), (area.height() - px(50)) / max(len(stages), 1))
        most = max([s.a_side_um or 0.0 for s in stages] + [s.rz_before_um[1] for s in stages if s.rz_before_um] + [1.0])
        for i, stage in enumerate(stages):
            r = QRectF(area.left() + px(4), area.top() + px(44) + high * i, area.width() - px(14), high).adjusted(
                0, px(3), 0, -px(3)
            )
            pencil.rect(r, "sheet", "ink" if i == now else "rule", 2.0 if i == now else 1.0)
            _stage(pencil, r, stage, i + 1, most, self.session)


def _stage(pencil: Pencil, r: QRectF, stage: HoneStage, number: int, most: float, session: Session) -> None:
    px, show = pencil.px, session.show
    x, y = r.left() + px(12), r.top() + px(20)
    if stage.call.stands is StageStands.SOUND:
        pencil.tick_mark(x, y)
    elif stage.call.stands is StageStands.LOOK:
        pencil.triangle_mark(x, y)
    else:
        pencil.hatch(QRectF(x, y - px(6), px(12), px(12)), "ink", "ink")
    pencil.text(QRectF(x + px(20), y - px(11), px(220), px(22)), f"{number}. {stage.name}", 16, "ink", True)
    told = f"{stones_said(stage.stones)}; ends {show.target(stage.short_mm)} short"
    pencil.text(QRectF(x, y + px(14), px(250), px(20)), told, 13, "graphite")
    bar = QRectF(r.left() + px(266), r.top() + px(14), r.width() - px(290), px(26))
    if stage.a_side_um is None:
        pencil.text(bar, "not known where it starts", 13, "graphite")
    else:
        taken = QRectF(bar.left(), bar.top(), max(bar.width() * max(stage.a_side_um, 0.0) / most, 2.0), bar.height())
        pencil.rect(taken, "tight", alpha=0.55)
        if stage.rz_before_um is not None:
            low, high = (bar.left() + bar.width() * v / most for v in stage.rz_before_um)
            pencil.rect(QRectF(low, bar.top() - px(4), high - low, bar.height() + px(8)), "look_ground", "look")
        words = show.height(stage.a_side_um) if stage.a_side_um >= 0.0 else "past its end"
        room = pencil.width_of(words, 13, True)
        edge = max(
            taken.right(),
            bar.left() if stage.rz_before_um is None else bar.left() + bar.width() * stage.rz_before_um[1] / most,
        )
        inside = taken.width() > room + px(14)
        pencil.label(
            bar.left() + px(6) + room / 2 if inside else edge + px(8) + room / 2,
            bar.center().y(),
            words,
            13,
            "ink",
            True,
            CENTRE,
            ground="sheet",
            crowd=False,
        )
    below = QRectF(r.left() + px(266), r.top() + px(46), r.width() - px(280), r.height() - px(48))
    pencil.text(
        below, say_stage(stage.call, show), 13, "ink", align=LEFT | (TOP if r.height() > px(90) else MIDDLE), wrap=True
    )
    if r.height() > px(170) and stage.a_side_um is not None and stage.a_side_um > 0.0:
        under = QRectF(r.left() + px(14), r.top() + px(84), r.width() - px(28), r.height() - px(94))
        before = None if stage.rz_before_um is None else sum(stage.rz_before_um) / 2.0
        own = 0.0 if stage.stones in PEAKS_ONLY else sum(rz_of(session.job, stage.stones)) / 2.0
        draw_step_marks(pencil, under, stage.a_side_um, before, own, number, show)


class StepsPage(StepPage):
    """C goes to the next practice, before the first check."""

    name, title = "steps", "Steps"

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, walls)
        self.view = StagesView(session, theme)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.view)

    def advice(self) -> Advice:
        return hone_page_advice.steps(self.session.job, self.session.bench.cylinder, self.session.show)

    def line_text(self) -> LineText | None:
        return LineText(
            f"Honing by {practice_of(self.session.job).title}", f"C another practice; own ones: M, then steps rough {self.session.show.size(0.05)} vitrified 150, plateau 0 brush 600",
            "V next page", "—",
        )  # fmt: skip
