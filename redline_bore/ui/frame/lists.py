"""The lists that take the place of the work: the rack of jobs and the shop's figures, made when they are first asked for."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QLineEdit, QStackedWidget, QWidget

from redline_bore.ui.background import Runner
from redline_bore.ui.frame.gauge_line import GaugeLine
from redline_bore.ui.session import Session
from redline_bore.ui.theme.theme import Theme

if TYPE_CHECKING:
    from redline_bore.ui.frame.job_list import JobList
    from redline_bore.ui.frame.shop_figures import ShopFigures


class Lists:
    """``opened``: what opens the job that was chosen; ``laid``: what is done before one of them is shown."""

    def __init__(
        self, session: Session, theme: Theme, runner: Runner, stack: QStackedWidget, line: GaugeLine,
        opened: Callable[[str], None], laid: Callable[[], None],
    ) -> None:  # fmt: skip
        self._session, self._theme, self._runner, self._stack, self._line = session, theme, runner, stack, line
        self._opened, self._laid = opened, laid
        self.jobs: JobList | None = None
        self.figures: ShopFigures | None = None

    def show_jobs(self) -> None:
        """The list of jobs."""
        if self.jobs is None:
            from redline_bore.ui.frame.job_list import JobList

            self.jobs = JobList(self._session, self._theme, self._runner)
            self.jobs.chosen.connect(self._opened)
            self.jobs.said.connect(self._line.tell)
            self._stack.addWidget(self.jobs)
        self._show(self.jobs, self.jobs.search, "Jobs in the logbook", "Type to search; Enter opens the job")

    def show_figures(self, search: str = "") -> None:
        """The shop's figures; ``search``: the one that is looked for."""
        if self.figures is None:
            from redline_bore.ui.frame.shop_figures import ShopFigures

            self.figures = ShopFigures(self._session)
            self._stack.addWidget(self.figures)
        said = "Enter keeps what is typed as the shop's own"
        self._show(self.figures, self.figures.search, "Shop figures", said)
        if search:
            self.figures.search.setText(search)

    def _show(self, widget: JobList | ShopFigures, search: QWidget, where: str, what: str) -> None:
        self._laid()
        if isinstance(search, QLineEdit):
            search.selectAll()  # what was looked for last is replaced by typing
        widget.refresh()
        self._stack.setCurrentWidget(widget)
        search.setFocus()
        self._line.say(where, what, "Esc goes back")

    def enter(self) -> bool:
        """Enter, where a list is on; whether one is."""
        on = self._stack.currentWidget()
        if on is not None and on is self.jobs:
            self.jobs.choose_current()
        elif on is not None and on is self.figures:
            self.figures.keep_value()
        else:
            return False
        return True

    def step(self, down: int) -> bool:
        """Up and down in the rack; whether it is on."""
        on = self.jobs is not None and self._stack.currentWidget() is self.jobs
        if on and self.jobs is not None:
            self.jobs.step(down)
        return on
