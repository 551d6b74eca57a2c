"""Load by depth, live from the hone: tight places where they are on the wall, beside what the gauge found."""

from __future__ import annotations

from PyQt6.QtCore import QRectF
from PyQt6.QtWidgets import QVBoxLayout

from redline_bore.core.errors import InputError
from redline_bore.instruments.line_protocol import HoneLoad
from redline_bore.job.card import Advice
from redline_bore.job.hone.load import LoadPicture, picture_of
from redline_bore.job.kinds.hone import LoadSeen
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.words import hone_pages as hone_page_advice
from redline_bore.ui.instrument_link import GarbledLoad
from redline_bore.ui.paint.load_chart import draw_load_by_depth
from redline_bore.ui.paint.pencil import Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import LineText
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import Walls

MOST_SAMPLES = 2000


class LoadView(Picture):
    """The load down the wall."""

    topics = LEDGER | {"selection", "step", "page", "load"}

    def __init__(self, session: Session, theme: Theme, page: LoadPage) -> None:
        super().__init__(session, theme, "Load by depth")
        self._page = page

    def said(self) -> str:
        picture = self._page.picture()
        if not picture.samples:
            return "nothing is heard from the hone"
        tight = picture.tight
        return "even" if tight is None else f"tight {self.session.show.down(tight.depth_mm)}"

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px = pencil.px
        pencil.heading(
            px(4),
            px(6),
            f"Load in cylinder {self.session.bench.cylinder}",
            "by depth, as the hone sends it; the gauged wall beside it",
        )
        draw_load_by_depth(
            pencil,
            area.adjusted(px(8), px(40), -px(12), -px(6)),
            self._page.picture(),
            self._page.upper_mm,
            self.session,
        )


class LoadPage(StepPage):
    """Gathers what the hone sends for the cylinder that is looked at; Enter keeps its means with the job."""

    name, title = "load", "Load by depth"

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, walls)
        self._samples: dict[int, list[tuple[float, float]]] = {}
        self._turns: dict[int, float] = {}
        self.faults = 0
        self.upper_mm: float | None = None
        self.heard = False
        self.view = LoadView(session, theme, self)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.view)

    def picture(self) -> LoadPicture:
        """What was heard of this cylinder; what was kept with the job where nothing was heard since."""
        state, cylinder = self.session.job, self.session.bench.cylinder
        samples = self._samples.get(cylinder, [])
        return picture_of(state, cylinder, samples, self._turns.get(cylinder, 0.0), self.faults)

    def hear(self, message: HoneLoad | GarbledLoad) -> None:
        """A line of the hone; one that was not understood is counted, and left out."""
        if isinstance(message, GarbledLoad):
            self.faults += 1
            return
        cylinder = self.session.bench.cylinder
        samples = self._samples.setdefault(cylinder, [])
        if samples and self.upper_mm is not None:
            before = samples[-1][0]
            back = len(samples) > 1 and (before - samples[-2][0]) * (message.upper_mm - before) < 0.0
            self._turns[cylinder] = self._turns.get(cylinder, 0.0) + (0.5 if back else 0.0)
        samples.append((message.upper_mm, message.load))
        del samples[:-MOST_SAMPLES]
        self.upper_mm, self.heard = message.upper_mm, True
        self.session.changed.emit(frozenset({"load"}))

    def advice(self) -> Advice:
        return hone_page_advice.load(self.session.job, self.picture(), self.heard, self.session.show)

    def line_text(self) -> LineText | None:
        return LineText(
            f"Load in cylinder {self.session.bench.cylinder}", "Ctrl+5 connects the simulated hone, G starts and stops it; Enter keeps the load",
            "V next page", "—",
        )  # fmt: skip

    def enter_empty(self) -> str | None:
        picture = self.picture()
        if not picture.samples:
            raise InputError("Nothing was heard of the hone yet: Ctrl+5 connects the simulated one")
        known = [(d, v) for d, v in zip(picture.depths_mm, picture.loads, strict=True) if v == v]
        entry = LoadSeen(
            cylinder=picture.cylinder, depths_mm=tuple(round(d, 2) for d, _ in known), loads=tuple(round(v, 3) for _, v in known),
            strokes=picture.strokes,
        )  # fmt: skip
        self.session.book(entry, instrument="hone")
        self._samples.pop(picture.cylinder, None)
        self._turns.pop(picture.cylinder, None)
        return f"Kept: load of cylinder {picture.cylinder} over {picture.strokes:.0f} strokes."
