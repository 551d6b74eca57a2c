"""The engraved scale of a tag: where a figure stands in what may be written; what may not is hatched. It is also a handle to drag."""

from __future__ import annotations

import math
from collections.abc import Callable

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent, QWheelEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from redline_bore.ui.paint.pencil import CENTRE, MIDDLE, Pencil
from redline_bore.ui.theme.theme import Theme

HIGH_PX, MARGIN_PX, TICKS = 46.0, 10.0, 7
WHOLE = 6.0  # times the figure: a range that is no wider is engraved whole
BEYOND = 0.12  # of the window, so far is shown of what may not be written


def step_of(span: float) -> float:
    """The step that ticks, keys and wheel take over a span: one, two or five of a power of ten.

    >>> step_of(20.0), step_of(0.3), step_of(7.0)
    (2.0, 0.05, 1.0)
    """
    rough = span / TICKS
    power = 10.0 ** math.floor(math.log10(rough))
    return next(m * power for m in (1.0, 2.0, 5.0, 10.0) if m * power >= rough * 0.8)


def window_of(about: float, ends: tuple[float | None, float | None]) -> tuple[float, float]:
    """What stretch of a range is engraved: all of it where it is not wide against the figure, else what lies about the figure."""
    low, high = ends
    if low is not None and high is not None and (not about or high - low <= WHOLE * abs(about)):
        return low, high
    half = max(abs(about) * 0.6, 1e-3)
    return (about - half if low is None else max(low, about - half)), (
        about + half if high is None else min(high, about + half)
    )


class TagScale(QWidget):
    """ends: what may be written, None where it has no end. was: what stands. ``moved`` is told the figure it is dragged to."""

    def __init__(
        self, theme: Theme, ends: tuple[float | None, float | None], was: float | None, about: float, moved: Callable[[float], None]
    ) -> None:  # fmt: skip
        super().__init__()
        self.theme, self.ends, self.was, self._moved = theme, ends, was, moved
        self.now: float | None = was
        self.low, self.high = window_of(about, ends)
        self.step = step_of(max(self.high - self.low, 1e-9) / 5.0)
        self.setFixedHeight(int(theme.px(HIGH_PX)))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setCursor(Qt.CursorShape.SizeHorCursor)
        self.setAccessibleName("Scale")
        self.setAccessibleDescription(f"{self.low:g} to {self.high:g}; drag it, or turn the wheel")

    def sizeHint(self) -> QSize:
        return QSize(int(self.theme.px(200)), int(self.theme.px(HIGH_PX)))

    def stand_at(self, value: float | None) -> None:
        """The figure as it is written now; None: what is written is none."""
        self.now = value
        self.update()

    @property
    def _seen(self) -> tuple[float, float]:
        """What is shown: the window, and a little of what may not be written."""
        beyond = BEYOND * (self.high - self.low)
        return (
            self.low - (beyond if self.ends[0] == self.low else 0.0),
            self.high + (beyond if self.ends[1] == self.high else 0.0),
        )

    def x_of(self, value: float) -> float:
        """Where a figure stands, in pixels."""
        (low, high), room = self._seen, self.width() - 2.0 * self.theme.px(MARGIN_PX)
        return self.theme.px(MARGIN_PX) + room * (value - low) / (high - low)

    def value_at(self, x: float) -> float:
        """The figure at a place, on a step, inside what may be written."""
        (low, high), room = self._seen, self.width() - 2.0 * self.theme.px(MARGIN_PX)
        value = low + (high - low) * (x - self.theme.px(MARGIN_PX)) / max(room, 1.0)
        return self._allowed(round(value / self.step) * self.step)

    def _allowed(self, value: float) -> float:
        low, high = self.ends
        value = value if low is None else max(value, low)
        return value if high is None else min(value, high)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        pencil = Pencil(painter, self.theme)
        px, base = pencil.px, pencil.px(28)
        seen = self._seen
        allowed = QRectF(self.x_of(self.low), base - px(10), self.x_of(self.high) - self.x_of(self.low), px(10))
        pencil.rect(allowed, "iron")
        for a, b in ((seen[0], self.low), (self.high, seen[1])):
            if b > a:
                pencil.hatch(QRectF(self.x_of(a), base - px(10), self.x_of(b) - self.x_of(a), px(10)))
        pencil.line(self.x_of(seen[0]), base, self.x_of(seen[1]), base, "ink", 1.2)
        tick = step_of(self.high - self.low)
        first = math.ceil(self.low / tick - 1e-9)
        for n in range(first, math.floor(self.high / tick + 1e-9) + 1):
            x = self.x_of(n * tick)
            pencil.line(x, base, x, base - px(7), "ink", 1.0)
            pencil.text(
                QRectF(x - px(30), base + px(2), px(60), px(14)), f"{n * tick:g}", 12, "graphite", align=CENTRE | MIDDLE
            )
        if self.was is not None and seen[0] <= self.was <= seen[1]:
            x = self.x_of(self.was)
            pencil.polygon([(x - px(5), base - px(19)), (x + px(5), base - px(19)), (x, base - px(11))], "sheet", "ink")
        if self.now is not None:
            x = self.x_of(min(max(self.now, seen[0]), seen[1]))
            pencil.polygon(
                [
                    (x - px(6), base - px(24)),
                    (x + px(6), base - px(24)),
                    (x + px(6), base - px(16)),
                    (x, base - px(10)),
                    (x - px(6), base - px(16)),
                ],
                "ink",
                "ink",
            )
        painter.end()

    def _drag(self, event: QMouseEvent | None) -> None:
        if event is not None and event.buttons() & Qt.MouseButton.LeftButton:
            self._moved(self.value_at(event.position().x()))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        self._drag(event)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        self._drag(event)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        if event is not None and event.angleDelta().y():
            self.by(1 if event.angleDelta().y() > 0 else -1)
            event.accept()

    def by(self, steps: int) -> None:
        """A step up or down from where it stands."""
        now = self.now if self.now is not None else self.was if self.was is not None else (self.low + self.high) / 2.0
        self._moved(self._allowed((math.floor(now / self.step + 0.5) + steps) * self.step))
