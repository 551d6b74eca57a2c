"""The plate: on, off and the difference, plate against head, and the tightening, pull by pull."""

from __future__ import annotations

from collections.abc import Iterable
from functools import partial

from PyQt6.QtCore import QRectF
from PyQt6.QtWidgets import QGridLayout

from redline_bore.job.card import Advice
from redline_bore.job.gauge import plate
from redline_bore.job.kinds.book_in import PracticeChosen
from redline_bore.job.kinds.plate import PlateChanged, PlateTightened
from redline_bore.job.profiles.practice import next_practice
from redline_bore.job.words import plate as plate_words
from redline_bore.ui import verbs
from redline_bore.ui.paint.clamp_lines import draw_clamp_lines
from redline_bore.ui.paint.pencil import Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.paint.wall_map import MapLook
from redline_bore.ui.paint.wall_picture import WallKey
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import LineText
from redline_bore.ui.steps.gauge_pages.maps import WallMapView
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.verbs import Deeds
from redline_bore.ui.walls import TOPICS as WALL_TOPICS
from redline_bore.ui.walls import Walls

SMALL, BARE = MapLook(small=True, defects=False), MapLook(defects=False)


class ClampView(Picture):
    """The clamping of plate and head, line by line."""

    topics = WALL_TOPICS | {"selection", "page"}

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme, "Plate against head")

    def said(self) -> str:
        if self.session.state is None:
            return ""
        return "; ".join(f"{v.name} {plate_words.same_line(v)}" for v in plate.match_of(self.session.state).lines)

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        pencil.heading(pencil.px(4), pencil.px(2), "Plate against head")
        box = area.adjusted(pencil.px(4), pencil.px(28), -pencil.px(12), -pencil.px(4))
        draw_clamp_lines(pencil, box, plate.match_of(self.session.job), self.session.show)


def next_plate_practice(session: Session) -> str:
    """C: whether a plate is wanted always, or only where it would change the answer. Recorded on the job."""
    chosen = next_practice("plate", session.job.booking.practice("plate"))
    session.book(PracticeChosen(topic="plate", name=chosen.name))
    return f"Torque plate {chosen.title}: {chosen.reason}."


class PlatePage(StepPage):
    """Enter goes through the tightening; the words plate and head state how each is held down."""

    name, title = "plate", "Plate"

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, walls)
        self.on = self._map("on", "Plate on", SMALL)
        self.off = self._map("off", "Plate off", SMALL)
        self.difference = self._map("plate", "What the plate does", BARE)
        self.clamp = ClampView(session, theme)
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.addWidget(self.on, 0, 0)
        grid.addWidget(self.off, 1, 0)
        grid.addWidget(self.clamp, 0, 1, 2, 1)
        grid.addWidget(self.difference, 2, 0, 1, 2)
        for row, share in enumerate((27, 27, 46)):
            grid.setRowStretch(row, share)
        grid.setColumnStretch(0, 45)
        grid.setColumnStretch(1, 55)

    def _map(self, kind: str, title: str, look: MapLook) -> WallMapView:
        return WallMapView(
            self.session,
            self.theme,
            self.walls,
            lambda: WallKey(kind, self.session.bench.cylinder),
            lambda: title,
            lambda: look,
        )

    def wanted(self) -> Iterable[WallKey]:
        return [WallKey(kind, self.session.bench.cylinder) for kind in ("on", "off", "plate")]

    def advice(self) -> Advice:
        bench = self.session.bench
        return plate_words.advise(self.session.job, bench.cylinder, self.session.show, bench.gauge.pulled)

    def deeds(self) -> Deeds:
        """C wants the plate by the other school."""
        return {verbs.PRACTICE: partial(next_plate_practice, self.session)}

    def line_text(self) -> LineText | None:
        bench, steps = self.session.bench, plate.tightening(self.session.job)
        if bench.gauge.pulled is not None:
            where = f"Tightening · pull {bench.gauge.pulled + 1} of {len(steps)}"
            return LineText(where, "Enter: this one is done, next", "← back · Esc breaks off", "—")
        return LineText(
            "Plate and head · what holds them down",
            f"{self.session.example('clamping_stated', 'plate').split(' threads')[0]} …, or head same",
            "Enter tightens · M types · C practice",
            "—",
        )

    def enter_empty(self) -> str | None:
        bench, steps = self.session.bench, plate.tightening(self.session.job)
        if bench.gauge.pulled is None:
            self.session.set_pulled(0)
            return "The first fastener is lit on the plan."
        if bench.gauge.pulled + 1 < len(steps):
            self.session.set_pulled(bench.gauge.pulled + 1)
            return ""
        return self._tightened(steps)

    def _tightened(self, steps: tuple[plate.TighteningStep, ...]) -> str:
        last = max(s.stage for s in steps)
        order = tuple(s.fastener for s in steps if s.stage == last)
        torques = tuple(dict.fromkeys(s.torque_nm for s in steps if s.torque_nm is not None))
        entries = [PlateTightened(order=order, torques_nm=torques)]
        self.session.set_pulled(None)
        if self.session.job.clamped.plate_on:
            self.session.book(*entries, typed="tightened")
        else:
            self.session.book(*entries, PlateChanged(on=True), typed="tightened")
        return "The plate is on and tightened; it is in the ledger."

    def arrows(self, across: int, down: int) -> bool:
        bench = self.session.bench
        if bench.gauge.pulled is not None:
            steps = plate.tightening(self.session.job)
            self.session.set_pulled(min(max(bench.gauge.pulled + across, 0), len(steps) - 1))
            return True
        return False
