"""All cylinders side by side on one colour scale, to see the odd one."""

from __future__ import annotations

from collections.abc import Iterable

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QMouseEvent, QPainter, QPixmap

from redline_bore.job.card import Advice
from redline_bore.job.gauge import side_by_side
from redline_bore.job.words import side_by_side as side_by_side_words
from redline_bore.ui.paint.pencil import MIDDLE, RIGHT, Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.paint.wall_map import SMALL, draw_wall_map, wall_box
from redline_bore.ui.paint.wall_picture import WallKey, WallPicture
from redline_bore.ui.session import Session
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import TOPICS as WALL_TOPICS
from redline_bore.ui.walls import Walls

TOPICS = WALL_TOPICS | {"selection", "probe", "page"}


class SmallMaps(Picture):
    """A small map a cylinder; a click picks it, moving over it reads the value in all of them at that place."""

    topics = TOPICS

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, "All walls")
        self._walls = walls
        self._drawn: dict[int, tuple[object, QPixmap]] = {}
        self._as_pixels = True
        walls.ready.connect(self.refresh)

    def said(self) -> str:
        if self.session.state is None:
            return ""
        lines = side_by_side.lines_of(self.session.state, self.session.state.clamped.plate_on)
        return "; ".join(
            f"cylinder {v.cylinder}: {side_by_side_words.odd_words(v.odd) or 'like the others'}" for v in lines
        )

    def box_of(self, cylinder: int) -> QRectF:
        """Where a cylinder's map lies with its words."""
        count = self.session.job.block.cylinders
        columns = 1 if count == 1 else 2 if count <= 4 else 3 if count <= 9 else 4
        rows = -(-count // columns)
        area = QRectF(self.rect()).adjusted(0, self.theme.px(36), -self.theme.px(8), -self.theme.px(4))
        wide, high = area.width() / columns, min(area.height() / rows, area.height() * 0.62)
        i = cylinder - 1
        return QRectF(area.left() + wide * (i % columns), area.top() + high * (i // columns), wide, high)

    def _map_box(self, cylinder: int) -> QRectF:
        px = self.theme.px
        return self.box_of(cylinder).adjusted(px(4), px(24), -px(8), -px(24))

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        self._as_pixels = True
        self._draw(pencil)

    def draw_vectors(self, pencil: Pencil, area: QRectF) -> None:
        self._as_pixels = False
        self._draw(pencil)

    def _draw(self, pencil: Pencil) -> None:
        px, state = pencil.px, self.session.job
        plate = "on" if state.clamped.plate_on else "off"
        pencil.heading(
            px(4), px(6), "All walls", f"one scale, {self.session.show.units.mark} over nominal, plate {plate}"
        )
        for line in side_by_side.lines_of(state, state.clamped.plate_on):
            self._one(pencil, line)

    def _one(self, pencil: Pencil, line: side_by_side.Line) -> None:
        px, box, cylinder = pencil.px, self.box_of(line.cylinder), line.cylinder
        if cylinder == self.session.bench.cylinder:
            pencil.rect(box.adjusted(1, 1, -px(4), -2), "sheet", "ink", 2.0)
        head = QRectF(box.left() + px(8), box.top() + px(3), box.width() - px(22), px(20))
        pencil.text(head, str(cylinder), 16, "ink", True)
        value = self._value_text(cylinder)
        words = value or (line.shape.axial.shape_class if line.shape.axial else "")
        pencil.text(head, words, 13, "ink" if value else "graphite", bool(value), RIGHT | MIDDLE)
        key = WallKey("now", cylinder)
        picture, place = self._walls.picture(key), self._map_box(cylinder)
        if picture is None:
            wall = wall_box(self.theme, place, SMALL)
            pencil.rect(wall, "sheet", "rule", dash="dash")
            reason = self._walls.reason(key) or "Working out the wall."
            pencil.text(wall.adjusted(px(8), 0, -px(8), 0), reason, 12, "graphite", wrap=True)
        else:
            self._pixmap(pencil, place, cylinder, picture)
        foot = QRectF(box.left() + px(8), box.bottom() - px(24), box.width() - px(22), px(18))
        if line.odd:
            pencil.triangle_mark(foot.left(), foot.center().y(), 11)
            pencil.text(
                foot.adjusted(px(17), 0, 0, 0),
                pencil.fitted(side_by_side_words.odd_words(line.odd), foot.width() - px(20), 12),
                12,
                "ink",
            )
        elif line.wear_mm is not None:
            pencil.text(foot, f"wear {self.session.show.size(line.wear_mm)}", 12, "graphite")
        self._mark(pencil, place, picture is not None)

    def _pixmap(self, pencil: Pencil, place: QRectF, cylinder: int, picture: WallPicture) -> None:
        show = self.session.show
        if not self._as_pixels:
            draw_wall_map(pencil, place, picture, show, SMALL)
            return
        key = (id(picture), place.width(), place.height(), self.theme.palette, self.theme.scale, show.units)
        if cylinder not in self._drawn or self._drawn[cylinder][0] != key:
            ratio = self.devicePixelRatioF()
            pixmap = QPixmap(place.size().toSize() * ratio)
            pixmap.setDevicePixelRatio(ratio)
            pixmap.fill(Qt.GlobalColor.transparent)
            painter = QPainter(pixmap)
            draw_wall_map(
                Pencil(painter, self.theme), QRectF(0, 0, place.width(), place.height()), picture, show, SMALL
            )
            painter.end()
            self._drawn[cylinder] = (key, pixmap)
        pencil.p.drawPixmap(place.topLeft(), self._drawn[cylinder][1])

    def _value_text(self, cylinder: int) -> str:
        probe, picture = self.session.bench.gauge.probe, self._walls.picture(WallKey("now", cylinder))
        if probe is None or picture is None:
            return ""
        value = picture.at(*probe)
        return "not read" if value is None else self.session.show.away(value)

    def _mark(self, pencil: Pencil, place: QRectF, known: bool) -> None:
        probe = self.session.bench.gauge.probe
        if probe is None or not known:
            return
        wall = wall_box(self.theme, place, SMALL)
        x = wall.left() + wall.width() * probe[1] / 360.0
        y = wall.top() + wall.height() * probe[0] / self.session.job.block.length_mm
        pencil.circle(x, y, pencil.px(4), "", "ink", 1.5)

    def _under(self, x: float, y: float) -> int | None:
        return next((c for c in self.session.job.cylinders if self.box_of(c).contains(x, y)), None)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self.session.state is not None:
            cylinder = self._under(event.position().x(), event.position().y())
            if cylinder is not None:
                self.session.select(cylinder)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self.session.state is None:
            return
        x, y = event.position().x(), event.position().y()
        cylinder = self._under(x, y)
        if cylinder is None:
            return
        place = self._map_box(cylinder)
        wall = place.adjusted(self.theme.px(4), self.theme.px(4), -self.theme.px(4), -self.theme.px(20))
        if wall.contains(x, y):
            depth = (y - wall.top()) / wall.height() * self.session.job.block.length_mm
            self.session.set_probe(depth, (x - wall.left()) / wall.width() * 360.0)


class AllPage(StepPage):
    """Arrows walk the cylinders; Shift and arrows read one place in all of them."""

    name, title = "all", "All cylinders"

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, walls)
        from PyQt6.QtWidgets import QVBoxLayout

        self.maps = SmallMaps(session, theme, walls)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.maps)

    def wanted(self) -> Iterable[WallKey]:
        return [WallKey("now", c) for c in self.session.job.cylinders]

    def advice(self) -> Advice:
        return side_by_side_words.advise(self.session.job, self.session.show)

    def arrows(self, across: int, down: int) -> bool:
        step = across or down
        cylinders = self.session.job.block.cylinders
        self.session.select(min(max(self.session.bench.cylinder + step, 1), cylinders))
        return True
