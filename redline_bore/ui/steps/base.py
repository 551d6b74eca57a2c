"""What every step's view offers to the window: advice, what Enter does, and how keys move in it."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QWidget

from redline_bore.core.errors import InputError
from redline_bore.core.frozen import frozen
from redline_bore.job.kinds.gauge import ReadingBooked
from redline_bore.job.words.card import Advice
from redline_bore.ui.session import Session
from redline_bore.ui.theme.theme import Theme

if TYPE_CHECKING:
    from redline_bore.instruments.line_protocol import GaugeReading


@frozen
class LineText:
    """What the gauge line says: where to, what Enter does, which keys matter, and the hint in the empty field."""

    where: str
    what: str
    keys: str
    hint: str


class StepView(QWidget):
    """Base of the steps. ``name`` is the step's name in the job; ``topics`` what it repaints for."""

    name = ""
    topics: frozenset[str] = frozenset()
    reads = False  # whether a reading from the gauge means something here
    asks = "gauge"  # the instrument that Space asks
    books_presses = False  # whether a press of the gauge's own button is booked at once
    digits_pick = False  # plain digits pick cylinders: steps in which figures are seldom typed

    def __init__(self, session: Session, theme: Theme):
        super().__init__()
        self.session, self.theme = session, theme
        self.setObjectName("work")
        self.setAccessibleName(f"{self.name.replace('_', ' ').capitalize()} step")

    def advice(self) -> Advice:
        """The advice of this step now."""
        raise AssertionError("a step gives its own advice")

    def line_text(self) -> LineText:
        """What the gauge line says in this step."""
        raise AssertionError("a step says what Enter does")

    def entered(self, text: str) -> str:
        """Enter with ``text`` typed: book it. Returns a remark, or nothing. Raises BenchError with the reason."""
        if not text.strip():
            return self.enter_empty()
        changed = self.session.book_typed(self.name, text, advance=lambda entry: isinstance(entry, ReadingBooked))
        return changed.remark

    def enter_empty(self) -> str:
        """Enter with nothing typed: the main button."""
        raise InputError("Nothing is typed: take a reading with Space, or type one")

    def take(self, reading: GaugeReading, typed: str) -> str | None:
        """A reading came from the gauge: the text for the field, or None where a reading means nothing.

        typed: what stands in the field. Raises BenchError when the reading cannot be used here.
        """
        return None

    def pressed(self, reading: GaugeReading) -> str:
        """The gauge's own button was pressed: book at once, return a remark. Only where ``books_presses``."""
        raise AssertionError("a step that books presses books them itself")

    def arrows(self, across: int, down: int) -> None:
        """Arrow keys."""

    def move_probe(self, across: int, down: int) -> None:
        """Shift and arrows: the place that is read off the maps."""

    def shown(self) -> None:
        """Called when the step comes on."""
