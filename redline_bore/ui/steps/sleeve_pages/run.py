"""The run sheet of the sleeves: one cylinder at a time, its own numbers, each check stamped by one key."""

from __future__ import annotations

from PyQt6.QtWidgets import QHBoxLayout

from redline_bore.core.when import now
from redline_bore.job.card import Advice
from redline_bore.job.route import sleeved
from redline_bore.job.words import sleeve as sleeve_advice
from redline_bore.job.words.run_sheet import RunItem
from redline_bore.job.words.sleeve_run import run_of
from redline_bore.ui.paint.run_list import RunView
from redline_bore.ui.session import Session
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.steps.sleeve_pages.fit import GripView
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import Walls


class RunPage(StepPage):
    """The list at the machine, the grip beside it."""

    name, title = "run", "Run sheet"

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, walls)
        self.view, self.grip = RunView(session, theme, self._items), GripView(session, theme)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(self.view, 62)
        row.addWidget(self.grip, 38)

    def _items(self) -> tuple[RunItem, ...]:
        state, cylinder = self.session.job, self.session.bench.cylinder
        return run_of(state, cylinder, self.session.show) if sleeved(state, cylinder) else ()

    def advice(self) -> Advice:
        return sleeve_advice.advise(self.session.job, self.session.bench.cylinder, self.session.show, "run", now())
