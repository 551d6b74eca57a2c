"""Heat and cold: which block temperature each cold of the sleeve wants, and how many seconds it leaves."""

from __future__ import annotations

from PyQt6.QtCore import QRectF
from PyQt6.QtWidgets import QVBoxLayout

from redline_bore.core.errors import InputError
from redline_bore.core.when import now
from redline_bore.job.card import Advice
from redline_bore.job.kinds.sleeve import SleeveCold
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.sleeve.fit import fit_of
from redline_bore.job.sleeve.heat import heat_plan
from redline_bore.job.words import sleeve as sleeve_advice
from redline_bore.job.words.missing import say_missing
from redline_bore.ui.paint.heat_chart import draw_heat_chart
from redline_bore.ui.paint.pencil import LEFT, TOP, Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import LineText
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import Walls


class HeatView(Picture):
    """The chart of temperatures."""

    topics = LEDGER | {"selection", "step", "page"}

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme, "Temperature against assembly gap")

    def said(self) -> str:
        plan = None if self.session.state is None else heat_plan(self.session.state, self.session.bench.cylinder)
        if plan is None:
            return "not known yet"
        return "; ".join(f"{c.name}: block {self.session.show.warm(c.block_c, digits=0)}, {c.time}" for c in plan.colds)

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, cylinder = pencil.px, self.session.bench.cylinder
        pencil.heading(
            px(4), px(6), f"Putting sleeve {cylinder} in", "seconds: until it grips, carried over and in the bore"
        )
        plan = heat_plan(self.session.job, cylinder)
        if plan is None:
            told = f"First: {say_missing(fit_of(self.session.job, cylinder).missing) or 'this cylinder keeps its own wall'}."
            pencil.text(area.adjusted(px(8), px(40), 0, 0), told, 15, "graphite", align=LEFT | TOP)
            return
        draw_heat_chart(pencil, area.adjusted(px(4), px(40), -px(8), -px(4)), plan, self.session.show)


class HeatPage(StepPage):
    """Up and down walk from one cold to the next; it is booked at once, as a plan for every sleeve of the job."""

    name, title = "heat", "Heat and cold"

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, walls)
        self.view = HeatView(session, theme)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.view)

    def advice(self) -> Advice:
        return sleeve_advice.advise(self.session.job, self.session.bench.cylinder, self.session.show, "heat", now())

    def line_text(self) -> LineText | None:
        return LineText(
            f"Sleeve {self.session.bench.cylinder} · heat and cold", f"↑ ↓ room, freezer, dry ice, nitrogen; or M, then cold {self.session.show.warm_typed(-40.0)}",
            "← → pick a cylinder · V next page", "—",
        )  # fmt: skip

    def arrows(self, across: int, down: int) -> bool:
        if not down:
            return False
        plan = heat_plan(self.session.job, self.session.bench.cylinder)
        if plan is None:
            raise InputError("Parent and sleeve are measured first")
        at = min(range(len(plan.colds)), key=lambda i: abs(plan.colds[i].sleeve_c - plan.chosen.sleeve_c))
        cold = plan.colds[min(max(at + down, 0), len(plan.colds) - 1)]
        if abs(cold.sleeve_c - plan.chosen.sleeve_c) > 0.5:
            self.session.book(SleeveCold(sleeve_c=cold.sleeve_c), typed=cold.name)
        return True
