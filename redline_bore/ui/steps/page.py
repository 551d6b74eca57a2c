"""What every page of a step offers. A page that has nothing of its own to say leaves it to the step."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QWidget

from redline_bore.job.card import Advice
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import LineText
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.verbs import Deeds
from redline_bore.ui.walls import Walls

if TYPE_CHECKING:
    from redline_bore.instruments.line_protocol import GaugeReading
    from redline_bore.ui.paint.wall_picture import WallKey

DEPTH_STEP_MM, CLOCK_STEP_DEG = 2.0, 5.0


class StepPage(QWidget):
    """Base of the pages. ``name`` is its name in the session, ``title`` what stands on its tab."""

    name = ""
    title = ""

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__()
        self.session, self.theme, self.walls = session, theme, walls
        self.propose: Callable[[str], None] = lambda _text: None  # set by the step: puts words into the field
        self.setAccessibleName(f"{self.title} page")

    def advice(self) -> Advice:
        """What this page advises."""
        raise AssertionError("a page gives its own advice")

    def line_text(self) -> LineText | None:
        """What the gauge line says; None: where the next reading goes, as usual."""
        return None

    def deeds(self) -> Deeds:
        """What this page does when a key asks for it."""
        return {}

    def want(self) -> None:
        """The page comes on: have worked out what it shows."""

    def wanted(self) -> Iterable[WallKey]:
        """The walls this page shows."""
        return ()

    def entered(self, text: str) -> str | None:
        """Enter with something typed: a remark when the page has booked it, None when it is for the step."""
        return None

    def takes(self, text: str) -> bool:
        """Whether the page books such a line itself."""
        return False

    def enter_empty(self) -> str | None:
        """Enter with nothing typed: the page's own button; None when it has none."""
        return None

    def take(self, reading: GaugeReading) -> str | None:
        """A reading meant for this page and not for the plan: book it and remark; None: it is for the plan."""
        return None

    def arrows(self, across: int, down: int) -> bool:
        """Arrow keys; False when they are for the reading ring."""
        return False

    def pictures(self) -> tuple[Picture, ...]:
        """The pictures on this page, for writing them out."""
        return tuple(self.findChildren(Picture))

    def move_probe(self, across: int, down: int) -> None:
        """Shift and arrows: the place that is read off the maps."""
        place = self.session.bench.place
        plan = self.session.job.gauging.plan
        depth, clock = self.session.bench.gauge.probe or (plan.depths_mm[place.level], plan.clocks_deg[place.clock])
        self.session.set_probe(depth + down * DEPTH_STEP_MM, clock + across * CLOCK_STEP_DEG)
