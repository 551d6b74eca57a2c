"""A pencil: a QPainter with the theme's colours, type and scale, so that every picture is drawn by the same hand."""

from __future__ import annotations

import math
from collections.abc import Sequence
from enum import Enum, auto

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QBrush, QColor, QPainter, QPen, QPolygonF

from redline_bore.core.written import shown
from redline_bore.ui.paint.placer import Words, placed
from redline_bore.ui.theme.theme import Theme

LEFT, RIGHT, CENTRE = Qt.AlignmentFlag.AlignLeft, Qt.AlignmentFlag.AlignRight, Qt.AlignmentFlag.AlignHCenter
MIDDLE, TOP = Qt.AlignmentFlag.AlignVCenter, Qt.AlignmentFlag.AlignTop
DASHES = {"dash": [6.0, 4.0], "dot": [2.0, 3.0]}


class Sign(Enum):
    """The signs there are: each means one thing wherever it stands."""

    SOUND = auto()
    LIKELY = auto()
    LOOK = auto()
    STOP = auto()


class Pencil:
    """Draws with roles and pixels at 100 %; coordinates are device pixels, sizes of type and lines are scaled."""

    def __init__(self, painter: QPainter, theme: Theme) -> None:
        self.p, self.theme = painter, theme
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._taken: list[QRectF] = []
        self._labels: list[QRectF] = []
        self.signs: list[tuple[QRectF, Sign]] = []  # that were drawn, for whoever asks what one means
        self._held: list[Words] | None = None  # texts that wait for their place; None: each is drawn at once
        self._plain = painter.transform()
        self._pens: dict[tuple[str, float, str, float], QPen] = {}  # a picture takes up the same few over and over

    def hold_words(self) -> None:
        """Keep texts until ``place_words``: none will lie on another."""
        self._held = []

    def place_words(self) -> list[Words]:
        """Draw the texts that were kept, each where it has room; returns them as they stand."""
        held, self._held = placed(self._held or [], self._measure), None
        for w in held:
            self._take_up(w.size, w.bold, w.colour)
            metrics = self.theme.metrics(w.size, w.bold)
            self.p.drawText(QPointF(w.left, w.middle + (metrics.ascent() - metrics.descent()) / 2), w.text)
        return held

    def _measure(self, text: str, size: float, bold: bool) -> float:
        return self.theme.text_width(text, size, bold)

    def px(self, length: float) -> float:
        return length * self.theme.scale

    def pen(self, colour: str, width: float = 1.0, dash: str = "", alpha: float = 1.0) -> QPen:
        key = (colour, width, dash, alpha)
        if (kept := self._pens.get(key)) is not None:
            return kept
        pen = QPen(self.theme.colour(colour, alpha), self.px(width))
        pen.setCapStyle(Qt.PenCapStyle.FlatCap)
        if dash:
            pen.setDashPattern(DASHES[dash])
        self._pens[key] = pen
        return pen

    def line(
        self, x1: float, y1: float, x2: float, y2: float, colour: str = "ink", width: float = 1.0, dash: str = ""
    ) -> None:
        if width <= 1.0 and (x1 == x2 or y1 == y2):  # hairlines sit on half pixels
            x1, y1, x2, y2 = (math.floor(v) + 0.5 for v in (x1, y1, x2, y2))
        self.p.setPen(self.pen(colour, width, dash))
        self.p.drawLine(QPointF(x1, y1), QPointF(x2, y2))

    def polyline(
        self, points: Sequence[tuple[float, float]], colour: str = "ink", width: float = 1.0, dash: str = ""
    ) -> None:
        self.p.setPen(self.pen(colour, width, dash))
        self.p.setBrush(Qt.BrushStyle.NoBrush)
        self.p.drawPolyline(QPolygonF([QPointF(x, y) for x, y in points]))

    def polygon(
        self, points: Sequence[tuple[float, float]], fill: str | QColor, edge: str = "", alpha: float = 1.0
    ) -> None:
        self.p.setPen(self.pen(edge) if edge else Qt.PenStyle.NoPen)
        self.p.setBrush(self._brush(fill, alpha))
        self.p.drawPolygon(QPolygonF([QPointF(x, y) for x, y in points]))

    def _brush(self, fill: str | QColor, alpha: float = 1.0) -> QBrush:
        if not fill:
            return QBrush(Qt.BrushStyle.NoBrush)
        return QBrush(fill if isinstance(fill, QColor) else self.theme.colour(fill, alpha))

    def rect(
        self, r: QRectF, fill: str | QColor = "", edge: str = "", width: float = 1.0, dash: str = "", alpha: float = 1.0
    ) -> None:
        self.p.setPen(self.pen(edge, width, dash) if edge else Qt.PenStyle.NoPen)
        self.p.setBrush(self._brush(fill, alpha))
        self.p.drawRect(r)

    def circles(self, at: Sequence[tuple[float, float]], radius: float, fill: str, edge: str) -> None:
        """Many alike, with one pen."""
        self.p.setPen(self.pen(edge) if edge else Qt.PenStyle.NoPen)
        self.p.setBrush(self._brush(fill))
        for x, y in at:
            self.p.drawEllipse(QPointF(x, y), radius, radius)

    def circle(
        self,
        x: float,
        y: float,
        radius: float,
        fill: str | QColor = "",
        edge: str = "",
        width: float = 1.0,
        dash: str = "",
    ) -> None:
        self.p.setPen(self.pen(edge, width, dash) if edge else Qt.PenStyle.NoPen)
        self.p.setBrush(self._brush(fill))
        self.p.drawEllipse(QPointF(x, y), radius, radius)

    def hatch(self, r: QRectF, colour: str = "graphite", edge: str = "graphite") -> None:
        """Diagonal hatching: what must not be entered."""
        self.signs.append((QRectF(r), Sign.STOP))
        self.p.save()
        self.p.setClipRect(r)
        self.p.setPen(self.pen(colour, 0.8))
        step = self.px(7)
        x = r.left() - r.height()
        while x < r.right():
            self.p.drawLine(QPointF(x, r.bottom()), QPointF(x + r.height(), r.top()))
            x += step
        self.p.restore()
        self.rect(r, "", edge)

    def width_of(self, text: str, size: float = 14.0, bold: bool = False) -> float:
        return self.theme.text_width(shown(text), size, bold)

    def text(
        self, r: QRectF, text: str, size: float = 14.0, colour: str = "ink", bold: bool = False,
        align: Qt.AlignmentFlag = LEFT | MIDDLE, wrap: bool = False,
    ) -> None:  # fmt: skip
        """Text in a rectangle; never smaller than 12 px at 100 %. It may stand out of the rectangle, never be cut."""
        size, text = max(size, 12.0), shown(text)
        if wrap:
            self._take_up(size, bold, colour)
            self.p.drawText(r, align | Qt.TextFlag.TextWordWrap, text)
            return
        metrics = self.theme.metrics(size, bold)
        width = self.theme.text_width(text, size, bold)
        x = r.right() - width if align & RIGHT else r.center().x() - width / 2 if align & CENTRE else r.left()
        if self._held is not None and text.strip() and self.p.transform() == self._plain and not self.p.hasClipping():
            anchor = 1 if align & RIGHT else 0 if align & CENTRE else -1
            high = metrics.capHeight()
            self._held.append(Words(text, x, r.center().y(), width, high, size, bold, colour, anchor))
            return
        self._take_up(size, bold, colour)
        y = r.center().y() + (metrics.ascent() - metrics.descent()) / 2  # set by hand: twice as fast as a laid-out box
        self.p.drawText(QPointF(x, y), text)

    def _take_up(self, size: float, bold: bool, colour: str) -> None:
        self.p.setFont(self.theme.font(size, bold))
        self.p.setPen(self.theme.colour(colour))

    def fitted(self, text: str, room: float, size: float = 12.0) -> str:
        """As many whole words as there is room for, with dots where some had to go."""
        words = text.split(" ")
        while len(words) > 1 and self.width_of(text, size) > room:
            words.pop()
            text = " ".join(words).rstrip(",;") + " …"
        return text

    def sized(self, text: str, room: float, size: float, bold: bool = False, least: float = 12.0) -> float:
        """The size of type at which a text fits its room, ``size`` at most and ``least`` at least."""
        while size > least and self.width_of(text, size, bold) > room:
            size -= 0.5
        return size

    def label(
        self, x: float, y: float, text: str, size: float = 12.0, colour: str = "ink", bold: bool = False,
        align: Qt.AlignmentFlag = LEFT, ground: str = "", crowd: bool = True,
    ) -> bool:  # fmt: skip
        """A label whose anchor is (x, y), middle of its height. Left out when it would touch an earlier one.

        Returns whether it was drawn; crowd=False draws it whatever stands there.
        """
        size = max(size, 12.0)
        w, h = self.width_of(text, size, bold), self.theme.metrics(size, bold).height()
        left = x - w if align & RIGHT else x - w / 2 if align & CENTRE else x
        box = QRectF(left - 2, y - h / 2, w + 4, h)
        if crowd and any(box.intersects(other) for other in self._taken):
            return False
        self._taken.append(box)
        self._labels.append(box)
        if ground:
            self.rect(box, ground)
        self.text(box, text, size, colour, bold, CENTRE | MIDDLE)
        return True

    @property
    def labelled(self) -> tuple[QRectF, ...]:
        """Where labels stand."""
        return tuple(self._labels)

    def keep_clear(self, r: QRectF) -> None:
        """No label goes here."""
        self._taken.append(r)

    def heading(self, x: float, y: float, title: str, aside: str = "", until: float | None = None) -> None:
        """A picture's title, with a quiet remark behind it as far as there is room (``until``: an x; else to the edge)."""
        self.text(QRectF(x, y, self.px(400), self.px(24)), title, 17, bold=True)
        left = x + self.width_of(title, 17, True) + self.px(14)
        room = (self.p.viewport().width() if until is None else until) - left - self.px(4)
        if aside and room > self.px(60):
            self.text(QRectF(left, y + self.px(1), room, self.px(24)), self.fitted(aside, room, 13), 13, "graphite")

    def tick_mark(self, x: float, y: float, size: float = 9.0) -> None:
        """Sound: a tick."""
        s = self.px(size)
        self.signs.append((QRectF(x, y - s / 2, s, s), Sign.SOUND))
        self.polyline([(x, y), (x + s * 0.35, y + s * 0.4), (x + s, y - s * 0.5)], "sound", 2.0)

    def likely_mark(self, x: float, y: float, size: float = 9.0) -> None:
        """Likely, not proven: a gauge's dial whose needle stands short of the end of its scale."""
        s = self.px(size)
        self.signs.append((QRectF(x, y - s / 2, s, s), Sign.LIKELY))
        self.circle(x + s / 2, y, s / 2, "sheet", "sound", 1.4)
        self.line(x + s / 2, y, x + s * 0.78, y - s * 0.28, "sound", 1.6)

    def triangle_mark(self, x: float, y: float, size: float = 10.0) -> None:
        """Look here: a triangle."""
        s = self.px(size)
        self.signs.append((QRectF(x, y - s / 2, s, s), Sign.LOOK))
        points = [(x, y + s * 0.45), (x + s, y + s * 0.45), (x + s / 2, y - s * 0.5)]
        self.polygon(points, "look_ground", "look")
        self.line(x + s / 2, y - s * 0.15, x + s / 2, y + s * 0.2, "look", 1.5)


def nice_step(span: float, about: int = 5) -> float:
    """A step of 1, 2 or 5 times a power of ten that divides ``span`` into about ``about`` parts."""
    if span <= 0 or not math.isfinite(span):
        return 1.0
    raw = span / about
    power = 10.0 ** math.floor(math.log10(raw))
    return next(m * power for m in (1.0, 2.0, 5.0, 10.0) if m * power >= raw * 0.999)


def ticks(low: float, high: float, about: int = 5) -> list[float]:
    """Round figures from low to high."""
    step = nice_step(high - low, about)
    first = math.ceil(low / step - 1e-9)
    return [i * step for i in range(first, int(math.floor(high / step + 1e-9)) + 1)]
