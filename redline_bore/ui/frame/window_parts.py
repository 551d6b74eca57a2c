"""What commands may take hold of in the window: its parts, not its class."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, Protocol

from PyQt6.QtCore import QSettings
from PyQt6.QtWidgets import QWidget

from redline_bore.ui.frame.gauge_line import GaugeLine
from redline_bore.ui.frame.laid_over import LaidOver
from redline_bore.ui.frame.lists import Lists
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import StepView
from redline_bore.ui.theme.theme import Theme

if TYPE_CHECKING:
    from collections.abc import Callable

    from redline_bore.ui.background import Runner
    from redline_bore.ui.instruments import Instruments


class WindowParts(Protocol):
    """The window as a command sees it."""

    session: Session
    theme: Theme
    settings: QSettings
    line: GaugeLine
    runner: Runner
    over: LaidOver
    lists: Lists

    @property
    def instruments(self) -> Instruments:
        """The instruments of the bench."""

    @property
    def step(self) -> StepView | None:
        """The step on the screen; None while a list is."""

    @property
    def widget(self) -> QWidget:
        """The window itself, for dialogs to lie over."""

    def enter(self) -> None:
        """Book what is typed, or what the button says."""

    def walk(self, by: int) -> None:
        """To the step before or after."""

    def open_job(self, number: str) -> None:
        """Open a job by its number."""

    def behind(self, name: str, work: Callable[[Any], Any], then: Callable[[Any], None]) -> None:
        """Work off the interface thread; what came of it is handed to ``then``, a fault is said."""

    def do(self, name: str) -> None:
        """Do a command by its name; what is refused is said."""

    def close_all(self) -> None:
        """Leave the program."""
