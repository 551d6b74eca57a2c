"""The run sheet of the bar: one cylinder at a time, the next thing lit, each check stamped by one key."""

from __future__ import annotations

from PyQt6.QtWidgets import QHBoxLayout

from redline_bore.core.when import now
from redline_bore.job.card import Advice
from redline_bore.job.words import bore as bore_advice
from redline_bore.job.words.bore_run import run_of
from redline_bore.job.words.run_sheet import RunItem
from redline_bore.ui.paint.run_list import RunView
from redline_bore.ui.session import Session
from redline_bore.ui.steps.bore_pages.cut import SettingView
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import Walls


class RunPage(StepPage):
    """The list at the machine, the setting beside it."""

    name, title = "run", "Run sheet"

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, walls)
        self.view, self.setting = RunView(session, theme, self._items), SettingView(session, theme)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(self.view, 64)
        row.addWidget(self.setting, 36)

    def _items(self) -> tuple[RunItem, ...]:
        return run_of(self.session.job, self.session.bench.cylinder, self.session.show)

    def advice(self) -> Advice:
        return bore_advice.advise(self.session.job, self.session.bench.cylinder, self.session.show, now())
