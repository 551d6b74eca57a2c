"""What commands may take hold of in the window: its parts, not its class."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, Protocol

from PyQt6.QtCore import QSettings
from PyQt6.QtWidgets import QWidget

from redline_bore.ui.frame.gauge_line import GaugeLine
from redline_bore.ui.frame.panel import Panel
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import StepView
from redline_bore.ui.theme.theme import Theme

if TYPE_CHECKING:
    from collections.abc import Callable

    from redline_bore.job.kinds.kind import Kind
    from redline_bore.job.kinds.phrase import At, Phrase
    from redline_bore.ui.background import Runner
    from redline_bore.ui.frame.chest import Drawer, More
    from redline_bore.ui.instruments import Instruments


class WindowParts(Protocol):
    """The window as a command sees it."""

    session: Session
    theme: Theme
    settings: QSettings
    line: GaugeLine
    instruments: Instruments
    runner: Runner

    @property
    def step(self) -> StepView | None:
        """The step on the screen; None while a list is."""

    @property
    def panel(self) -> Panel:
        """The sheet laid over the work."""

    @property
    def widget(self) -> QWidget:
        """The window itself, for dialogs to lie over."""

    def enter(self) -> None:
        """Book what is typed, or what the button says."""

    def walk(self, by: int) -> None:
        """To the step before or after."""

    def show_jobs(self) -> None:
        """The list of jobs."""

    def show_figures(self, search: str = "") -> None:
        """The shop's figures, at the one that is looked for."""

    def open_job(self, number: str) -> None:
        """Open a job by its number."""

    def behind(self, name: str, work: Callable[[Any], Any], then: Callable[[Any], None]) -> None:
        """Work off the interface thread; what came of it is handed to ``then``, a fault is said."""

    def do(self, name: str) -> None:
        """Do a command by its name; what is refused is said."""

    def look_among(
        self, heading: str, drawers: list[Drawer], somebody: Callable[[str], Drawer | None] | None = None, more: More | None = None
    ) -> None:  # fmt: skip
        """Look for something among drawers; ``somebody``: a drawer made of what is typed; ``more``: looks elsewhere."""

    def hang_tag(self, kind: Kind, phrase: Phrase, step: str, at: Callable[[], At]) -> None:
        """Hang the tag of a line beside the work."""

    def left_what_lay_over(self) -> bool:
        """Whether a chest or a tag lay over the work; it is put away."""

    def close_all(self) -> None:
        """Leave the program."""
