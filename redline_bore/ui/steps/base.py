"""What every step's view offers to the window: advice, what Enter does, and how keys move in it."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QWidget

from redline_bore.core.errors import InputError
from redline_bore.core.frozen import frozen
from redline_bore.job.card import Advice
from redline_bore.job.kinds.bore import HoleBored
from redline_bore.job.kinds.gauge import ReadingBooked
from redline_bore.job.kinds.hone import CheckLogged
from redline_bore.ui.verbs import Deeds

if TYPE_CHECKING:
    from redline_bore.ui.steps.declared import StepParts


READINGS = (ReadingBooked, HoleBored, CheckLogged)  # seen at once where they were read


@frozen
class LineText:
    """What the gauge line says: where to, what Enter does, which keys matter, and the hint in the empty field."""

    where: str
    what: str
    keys: str
    hint: str


@frozen
class Heard:
    """What a message of an instrument came to: text for the field, ready for Enter, or a remark on what was booked."""

    field: str | None = None
    remark: str = ""


class StepView(QWidget):
    """Base of the steps. ``name`` is the step's name in the job; ``topics`` what it repaints for.

    reads: Space asks the instrument ``asks``; ``presses``: whose stand-in's button G presses. digits_pick: plain digits pick
    cylinders, in steps where figures are seldom typed. file_kinds, photo_title: what is asked for when a file is taken in. paper:
    what Ctrl+B writes.
    """

    name = ""
    topics: frozenset[str] = frozenset()
    reads = False
    asks = "gauge"
    digits_pick = False
    wheel_walks = False  # up and down pick from a row, and nothing that is read goes elsewhere for it
    file_kinds = "Readings and jobs (*.csv *.txt *.json)"
    photo_title = "A photo of the defect"
    paper = "quote"

    def __init__(self, parts: StepParts) -> None:
        super().__init__()
        self.session, self.theme = parts.session, parts.theme
        self.setObjectName("work")
        self.setAccessibleName(f"{self.name.replace('_', ' ').capitalize()} step")

    @property
    def shown_page(self) -> QWidget:
        """What is looked at: the step itself, or its page."""
        return self

    @property
    def shows_readings(self) -> bool:
        """Whether what is read shows at once; else it is said."""
        return True

    @property
    def presses(self) -> str:
        """The instrument whose stand-in's button is pressed."""
        return self.asks

    @property
    def others_readings(self) -> str:
        """Whose readings a file holds: another shop's, or ours (empty)."""
        return ""

    def deeds(self) -> Deeds:
        """What this step does when a key asks for it."""
        return {}

    def take_file(self, path: Path) -> str | None:
        """A file was chosen: take it in and remark; None where the step takes none of its own. Raises BenchError."""
        return None

    def take_picture(self, path: Path) -> str | None:
        """A picture was chosen: likewise."""
        return None

    def advice(self) -> Advice:
        """The advice of this step now."""
        raise AssertionError("a step gives its own advice")

    def line_text(self) -> LineText:
        """What the gauge line says in this step."""
        raise AssertionError("a step says what Enter does")

    def entered(self, text: str) -> str:
        """Enter with ``text`` typed: book it. Returns a remark, or nothing. Raises BenchError with the reason."""
        from redline_bore.desk.would import booked_words

        if not text.strip():
            return self.enter_empty()
        changed = self.session.book_typed(self.name, text, advance=lambda entry: isinstance(entry, ReadingBooked))
        if changed.remark or (self.shows_readings and isinstance(changed.newest.entry, READINGS)):
            return changed.remark
        return f"Booked: {booked_words([r.entry for r in changed.booked], ' '.join(text.split()), self.session.show)}."

    def would(self, text: str) -> str:
        """What Enter would do with ``text``, before it is pressed; empty where this step reads such a line in its own way."""
        from redline_bore.desk.would import would_book

        return would_book(self.name, text, self.session.job, self.session.where).words

    def enter_empty(self) -> str:
        """Enter with nothing typed: the main button."""
        raise InputError("Nothing is typed: take a reading with Space, or type one")

    def hear(self, message: object, pressed: bool, typed: str) -> Heard:
        """A message of an instrument. pressed: it came by the instrument's own button; typed: what stands in the field.

        Raises BenchError when it cannot be used here.
        """
        return Heard()

    def arrows(self, across: int, down: int) -> None:
        """Arrow keys."""

    def move_probe(self, across: int, down: int) -> None:
        """Shift and arrows: the place that is read off the maps."""

    def shown(self) -> None:
        """Called when the step comes on."""
