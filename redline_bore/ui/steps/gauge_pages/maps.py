"""A wall map on the screen: drawn once, read off at the probe by pointer or keys."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import NamedTuple

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QMouseEvent, QPainter, QPixmap

from redline_bore.core.show import Show
from redline_bore.ui.paint.pencil import Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.paint.wall_map import FULL, MapLook, draw_wall_map, wall_box
from redline_bore.ui.paint.wall_picture import WallKey, WallPicture
from redline_bore.ui.session import Session
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import TOPICS, Walls

ASIDE = {
    "plate": "{unit} the plate adds to the diameter · blue closes, ochre opens",
    "swept": "{unit} on radius over half of nominal, about the largest plug that goes in · blue tight, ochre open",
}


class _Drawn(NamedTuple):
    """A map as it was drawn, and where its labels stand."""

    key: object
    pixmap: QPixmap
    labels: tuple[QRectF, ...]


class _Read(NamedTuple):
    """What is read off at the probe, which stands at x, y, and where it may be written, the best first."""

    x: float
    y: float
    text: str
    boxes: tuple[QRectF, ...]


def _lies_on(box: QRectF, labels: Sequence[QRectF]) -> bool:
    return any(label.intersects(box) for label in labels)


class WallMapView(Picture):
    """A map of the wall that ``key`` names now. Moving over it, or Shift and arrows, reads the value there."""

    topics = TOPICS | {"selection", "probe", "defect", "page"}

    def __init__(
        self, session: Session, theme: Theme, walls: Walls, key: Callable[[], WallKey], title: Callable[[], str],
        look: Callable[[], MapLook] = lambda: FULL,
    ) -> None:  # fmt: skip
        super().__init__(session, theme, "Wall, unrolled")
        self.walls, self._key, self._title, self._look = walls, key, title, look
        self._drawn: _Drawn | None = None  # until something it shows changes
        walls.ready.connect(self.refresh)

    @property
    def mapped(self) -> WallPicture | None:
        return self.walls.picture(self._key())

    def said(self) -> str:
        picture, key = self.mapped, self._key()
        if picture is None:
            return self.walls.reason(key)
        words = f"Wall of cylinder {picture.cylinder}, {len(picture.levels)} levels"
        if self.session.bench.gauge.probe is not None:
            words += f"; {self._probe_text(picture)}"
        return words

    def _box(self) -> QRectF:
        return QRectF(self.rect()).adjusted(0, self.theme.px(22 if self._look().small else 30), 0, 0)

    def wall(self) -> QRectF:
        """Where the wall itself lies on this widget."""
        return wall_box(self.theme, self._box(), self._look())

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        self._draw(pencil, area, as_pixels=True)

    def draw_vectors(self, pencil: Pencil, area: QRectF) -> None:
        self._draw(pencil, area, as_pixels=False)

    def _draw(self, pencil: Pencil, area: QRectF, as_pixels: bool) -> None:
        px, picture, show, look = pencil.px, self.mapped, self.session.show, self._look()
        if look.small:
            pencil.text(QRectF(px(4), 0, area.width(), px(20)), self._title(), 14, bold=True)
        else:
            kind = self._key().kind
            usual = "{unit} over " + show.size(self.session.job.block.bore_mm) + " · blue tight, ochre open"
            pencil.heading(px(4), px(4), self._title(), ASIDE.get(kind, usual).format(unit=show.units.mark))
        if picture is None:
            self._draw_reason(pencil, self.wall())
            return
        if not as_pixels:
            draw_wall_map(pencil, self._box(), picture, show, look)
            return
        key = (id(picture), self.size(), self.theme.palette, self.theme.scale, show.units, look)
        if self._drawn is None or self._drawn.key != key:
            self._drawn = self._draw_once(key, picture, show, look)
        read = self._read_off(pencil, picture)
        box, drawn = (None, self._drawn) if read is None else self._with_room(read, self._drawn, picture, show, look)
        pencil.p.drawPixmap(0, 0, drawn.pixmap)
        self.draw_over(pencil)
        if read is not None and box is not None:
            pencil.circle(read.x, read.y, px(4), "", "ink", 1.5)
            pencil.rect(box, "sheet")
            pencil.text(box.adjusted(2, 0, 0, 0), read.text, 13, "ink", True)

    def _with_room(
        self, read: _Read, drawn: _Drawn, picture: WallPicture, show: Show, look: MapLook
    ) -> tuple[QRectF, _Drawn]:
        """Where it is written what is read off, and the map around it: beside the labels, or they give way; a defect's own name stays."""
        free = next((box for box in read.boxes if not _lies_on(box, drawn.labels)), None)
        if free is not None:
            return free, drawn
        for box in read.boxes:
            around = self._draw_once(drawn.key, picture, show, look, box)
            if not _lies_on(box, around.labels):
                return box, around
        return read.boxes[0], drawn

    def _read_off(self, pencil: Pencil, picture: WallPicture) -> _Read | None:
        """What is read off where the probe stands, and where it may be written; None where it stands nowhere."""
        if self.session.bench.gauge.probe is None:
            return None
        depth, clock = self.session.bench.gauge.probe
        wall, px = self.wall(), pencil.px
        x, y = wall.left() + wall.width() * clock / 360.0, wall.top() + wall.height() * depth / picture.length_mm
        value = picture.at(depth, clock)
        short = "not read" if value is None else self.session.show.away(value)
        text = short if self._look().small else self._probe_text(picture)
        width, high = pencil.width_of(text, 13, True), px(18)
        middles = [y - px(16), y + px(16)] if y > wall.top() + px(26) else [y + px(16)]
        boxes = tuple(
            QRectF(max(min(left, wall.right() - width), wall.left()) - 2, middle - high / 2, width + 4, high)
            for left in (x + px(10), x - px(10) - width)
            for middle in middles
        )
        return _Read(x, y, text, boxes)

    def _draw_reason(self, pencil: Pencil, wall: QRectF) -> None:
        pencil.rect(wall, "sheet", "rule", dash="dash")
        reason = self.walls.reason(self._key()) or "Working out the wall."
        pencil.text(wall.adjusted(pencil.px(12), 0, -pencil.px(12), 0), reason, 13, "graphite", wrap=True)

    def _draw_once(
        self, key: object, picture: WallPicture, show: Show, look: MapLook, clear: QRectF | None = None
    ) -> _Drawn:
        """The map on a pixmap of its own: painted once, not at every repaint. clear: where none of its labels goes."""
        ratio = self.devicePixelRatioF()
        pixmap = QPixmap(self.size() * ratio)
        pixmap.setDevicePixelRatio(ratio)
        pixmap.fill(Qt.GlobalColor.transparent)
        painter = QPainter(pixmap)
        pencil = Pencil(painter, self.theme)
        if clear is not None:
            pencil.keep_clear(clear)
        draw_wall_map(pencil, self._box(), picture, show, look)
        painter.end()
        return _Drawn(key, pixmap, pencil.labelled)

    def _probe_text(self, picture: WallPicture) -> str:
        assert self.session.bench.gauge.probe is not None
        depth, clock = self.session.bench.gauge.probe
        value, show = picture.at(depth, clock), self.session.show
        return f"{show.down(round(depth, 1))}, {clock:.0f}°: " + ("not read" if value is None else show.away(value))

    def draw_over(self, pencil: Pencil) -> None:
        """Draw what lies over the map."""

    def place_at(self, x: float, y: float) -> tuple[float, float] | None:
        """Depth in mm and clock in degrees under a point of the widget; None beside the wall."""
        wall = self.wall()
        if not wall.contains(x, y):
            return None
        depth = (y - wall.top()) / wall.height() * self.session.job.block.length_mm
        return depth, (x - wall.left()) / wall.width() * 360.0

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self.session.state is None:
            return
        place = self.place_at(event.position().x(), event.position().y())
        if place is not None:
            self.session.set_probe(*place)
