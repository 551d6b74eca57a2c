"""The crosshatch as a picture of the wall shows it, beside the one wanted and the one the strokes promised."""

from __future__ import annotations

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QImage
from PyQt6.QtWidgets import QVBoxLayout

from redline_bore.core.errors import BenchError
from redline_bore.job.card import Advice
from redline_bore.job.hone.set_up import angle_aim, kinematics_of
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.state.finishing import HatchRead
from redline_bore.job.words import finish_pages as finish_page_advice
from redline_bore.ui.background import Runner
from redline_bore.ui.behind import Behind
from redline_bore.ui.paint.hatch_chart import draw_picture, draw_rose
from redline_bore.ui.paint.pencil import LEFT, MIDDLE, Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import LineText
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import Walls


class HatchView(Picture):
    """The picture with both families over it, and the directions in it."""

    topics = LEDGER | {"selection", "step", "page"}

    def __init__(self, session: Session, theme: Theme, runner: Runner) -> None:
        super().__init__(session, theme, "Crosshatch")
        self._seen = Behind[tuple[QImage | None, tuple[float, ...]]](runner, "crosshatch", self.refresh)

    def said(self) -> str:
        seen = None if self.session.state is None else self.session.job.finishing.hatch_of(self.session.bench.cylinder)
        return "no picture" if seen is None else f"{seen.included_deg:.0f} degrees included"

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, s = pencil.px, self.session
        seen, aim = s.job.finishing.hatch_of(s.bench.cylinder), angle_aim(s.job)
        pencil.heading(
            px(4),
            px(6),
            f"Crosshatch of cylinder {s.bench.cylinder}",
            "both families from the horizontal; the green stretch is wanted",
        )
        top = area.adjusted(px(10), px(40), -px(10), -px(170))
        if seen is None:
            half = aim.aim_deg / 2.0
            draw_picture(pencil, top, None, (half, -half), f"no picture: as it is wanted, {aim.aim_deg:.0f}° included")
        else:
            image, histogram = self._looked_at(seen)
            told = "as seen" if image is not None else "the picture is not in this logbook: the angles as booked"
            draw_picture(pencil, top, image, (seen.up_deg, -seen.down_deg), told)
            rose = QRectF(top.left(), top.bottom() + px(14), top.width(), px(100))
            draw_rose(pencil, rose, histogram, seen.up_deg, seen.down_deg, (aim.low_deg, aim.high_deg))
        promised = kinematics_of(s.job).hatch
        told = "The strokes promise nothing: the hone's set-up is not booked."
        if promised is not None:
            told = f"The set-up of the hone promises {promised.included_deg:.0f}° included in the middle of the stroke."
        pencil.text(
            QRectF(area.left() + px(10), area.bottom() - px(28), area.width(), px(20)),
            told,
            13,
            "ink",
            align=LEFT | MIDDLE,
        )

    def _looked_at(self, seen: HatchRead) -> tuple[QImage | None, tuple[float, ...]]:
        """The kept picture and its directions; nothing where no picture is kept, or it is still being read."""
        photo = next(iter(self.session.job.gauging.photos_of(seen.seq)), None)
        logbook = self.session.logbook

        def read() -> tuple[QImage | None, tuple[float, ...]]:
            from redline_bore.ui.hatch_picture import hatch_of

            if photo is None:
                return None, ()
            try:
                data = logbook.photo(photo.sha256).data
            except BenchError:  # not in this logbook, or read by a newer program than this one
                return None, ()
            return QImage.fromData(data), hatch_of(data).histogram

        return self._seen.of((self.session.job.number, seen.seq), read) or (None, ())


class HatchPage(StepPage):
    """The crosshatch of a wall."""

    name, title = "hatch", "Crosshatch"

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, walls)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(HatchView(session, theme, walls.runner))

    def advice(self) -> Advice:
        return finish_page_advice.hatch_page(self.session.job, self.session.bench.cylinder)

    def line_text(self) -> LineText | None:
        return LineText(
            f"Cylinder {self.session.bench.cylinder} · crosshatch", "Ctrl+I takes a picture: lit from the side, axis upright",
            "V next page", "—",
        )  # fmt: skip
