"""Defects: where they lie, how deep they may be, their photos, and what each does to the size that cleans up."""

from __future__ import annotations

from collections.abc import Iterable

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QImage, QMouseEvent
from PyQt6.QtWidgets import QVBoxLayout

from redline_bore.core.errors import BenchError
from redline_bore.job.card import Advice
from redline_bore.job.gauge import defects
from redline_bore.job.words import defects as defects_words
from redline_bore.ui.background import Runner
from redline_bore.ui.behind import Behind
from redline_bore.ui.paint.pencil import MIDDLE, RIGHT, Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.paint.wall_map import MapLook
from redline_bore.ui.paint.wall_picture import WallKey
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import LineText
from redline_bore.ui.steps.gauge_pages.maps import WallMapView
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import TOPICS as WALL_TOPICS
from redline_bore.ui.walls import Walls

TOPICS = WALL_TOPICS | {"selection", "defect", "page", "readings"}
ROW_PX = 74.0


class DefectMap(WallMapView):
    """The map; dragging over it marks out a defect."""

    def __init__(self, page: DefectsPage) -> None:
        super().__init__(
            page.session, page.theme, page.walls, lambda: WallKey("now", page.session.bench.cylinder), lambda: "Defects on the wall",
            lambda: MapLook(chosen=page.session.bench.gauge.defect),
        )  # fmt: skip
        self._page = page
        self._from: QPointF | None = None

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self.session.state is not None:
            self._from = event.position() if self.place_at(event.position().x(), event.position().y()) else None

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        super().mouseMoveEvent(event)
        if self._from is not None:
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        begun, self._from = self._from, None
        if event is None or begun is None:
            return
        ends = [self.place_at(p.x(), p.y()) for p in (begun, event.position())]
        if ends[0] is not None and ends[1] is not None:
            self._page.mark_out(ends[0], ends[1])


class DefectList(Picture):
    """A row a defect: place, depth, what it adds, its photo. A click picks it."""

    topics = TOPICS

    def __init__(self, session: Session, theme: Theme, runner: Runner) -> None:
        super().__init__(session, theme, "Defects of this cylinder")
        self._runner, self._photos = runner, dict[str, Behind[QImage]]()

    def said(self) -> str:
        if self.session.state is None:
            return ""
        show = self.session.show
        found = defects.effects_of(self.session.state, self.session.bench.cylinder)
        return "; ".join(
            f"{v.defect.what}, {defects_words.place_text(v.defect, show)}, {defects_words.depth_text(v.defect, show)}"
            for v in found
        )

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, state, bench = pencil.px, self.session.job, self.session.bench
        found = defects.effects_of(state, bench.cylinder)
        pencil.heading(px(4), px(2), "What each asks for", "on diameter, of the size that cleans up")
        if not found:
            words = (
                "Nothing is marked here. Drag over the map, or put the mark there with Shift and arrows and press D."
            )
            pencil.text(
                area.adjusted(px(6), px(30), -px(12), 0),
                words,
                14,
                "graphite",
                wrap=True,
                align=Qt.AlignmentFlag.AlignTop,
            )
            return
        for i, effect in enumerate(found):
            top = area.top() + px(30) + px(ROW_PX) * (i - self._first(len(found), area))
            if area.top() + px(28) <= top <= area.bottom() - px(20):
                self._row(
                    pencil,
                    QRectF(area.left() + px(4), top, area.width() - px(16), px(ROW_PX - 4)),
                    effect,
                    i == bench.gauge.defect,
                )

    def _first(self, count: int, area: QRectF) -> int:
        """The first row in sight, so that the chosen one is."""
        fit = max(int((area.height() - self.theme.px(30)) // self.theme.px(ROW_PX)), 1)
        return max(0, min(self.session.bench.gauge.defect - fit + 1, count - fit))

    def _row(self, pencil: Pencil, r: QRectF, effect: defects.Effect, lit: bool) -> None:
        px, show, d = pencil.px, self.session.show, effect.defect
        pencil.rect(r, "sheet", "ink" if lit else "rule", 2.0 if lit else 1.0)
        words = r.adjusted(px(12), 0, 0, 0)
        third = r.height() / 3
        pencil.text(QRectF(words.left(), r.top(), px(240), third), d.what, 16, "ink", True)
        pencil.text(
            QRectF(words.left(), r.top() + third, px(330), third), defects_words.place_text(d, show), 13, "graphite"
        )
        pencil.text(
            QRectF(words.left(), r.top() + 2 * third, px(330), third), defects_words.depth_text(d, show), 13, "ink"
        )
        right = r.right() - px(12)
        if effect.photos:
            right = self._photo(pencil, r, effect)
        box = QRectF(right - px(240), r.top(), px(232), r.height())
        if effect.adds_high_mm is None or effect.adds_low_mm is None:
            pencil.text(box, "size not known yet", 14, "graphite", align=RIGHT | MIDDLE)
        elif effect.decides:
            pencil.text(
                box,
                f"adds {show.size(effect.adds_low_mm)}–{show.size(effect.adds_high_mm)}",
                17,
                "ink",
                True,
                RIGHT | MIDDLE,
            )
        else:
            pencil.text(box, "adds nothing", 14, "graphite", align=RIGHT | MIDDLE)

    def _photo(self, pencil: Pencil, r: QRectF, effect: defects.Effect) -> float:
        image = self._image(effect.photos[-1].sha256)
        side = r.height() - pencil.px(8)
        box = QRectF(r.right() - side * 1.4 - pencil.px(4), r.top() + pencil.px(4), side * 1.4, side)
        pencil.rect(box, "iron", "graphite")
        if image.isNull():
            pencil.text(box, "photo?", 12, "graphite", align=Qt.AlignmentFlag.AlignCenter)
        else:
            scaled = image.scaled(
                box.size().toSize(), Qt.AspectRatioMode.KeepAspectRatio, Qt.TransformationMode.SmoothTransformation
            )
            pencil.p.drawImage(
                QPointF(box.center().x() - scaled.width() / 2, box.center().y() - scaled.height() / 2), scaled
            )
        return box.left() - pencil.px(8)

    def _image(self, sha256: str) -> QImage:
        """A photo as it is kept; none while it is still being read."""
        logbook = self.session.logbook

        def read() -> QImage:
            try:
                data = logbook.photo(sha256).data
            except BenchError:
                return QImage()
            image = QImage.fromData(data)
            return (
                image.scaledToWidth(600, Qt.TransformationMode.SmoothTransformation) if image.width() > 600 else image
            )

        if sha256 not in self._photos:
            self._photos[sha256] = Behind[QImage](self._runner, f"photo {sha256}", self.refresh)
        return self._photos[sha256].of(sha256, read) or QImage()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self.session.state is None:
            return
        count = len(self.session.state.gauging.defects_of(self.session.bench.cylinder))
        row = int((event.position().y() - self.theme.px(30)) // self.theme.px(ROW_PX))
        row += self._first(count, QRectF(self.rect()))
        if 0 <= row < count:
            self.session.set_defect(row)


class DefectsPage(StepPage):
    """Up and down pick a defect; D marks one at the probe; a photo goes to the one that is lit."""

    name, title = "defects", "Defects"

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, walls)
        self.map, self.list = DefectMap(self), DefectList(session, theme, walls.runner)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.map, 52)
        column.addWidget(self.list, 48)

    def wanted(self) -> Iterable[WallKey]:
        return [WallKey("now", self.session.bench.cylinder)]

    def advice(self) -> Advice:
        return defects_words.advise(self.session.job, self.session.bench.cylinder, self.session.show)

    def line_text(self) -> LineText | None:
        return LineText(
            f"Cylinder {self.session.bench.cylinder} · what was found on the wall",
            f"score catches at …, or by its depth: {self.session.example('defect_marked')}",
            "D marks at the probe · Ctrl+I photo",
            "—",
        )

    def arrows(self, across: int, down: int) -> bool:
        if down:
            self.session.set_defect(self.session.bench.gauge.defect + down)
        return True

    def mark_out(self, first: tuple[float, float], last: tuple[float, float]) -> None:
        """Put the words for a defect between two places into the field, to be finished and booked."""
        show = self.session.show
        top, bottom = sorted((first[0], last[0]))
        a, b = sorted((first[1], last[1]))
        length = self.session.job.block.length_mm
        top, bottom = max(top, 0.5), min(max(bottom, top + 1.0), length - 0.5)
        words = f"score catches at {show.depth(top)} to {show.depth(bottom)} clock {(a + b) / 2:.0f} wide {max(b - a, 5.0):.0f}"
        self.propose(words)
