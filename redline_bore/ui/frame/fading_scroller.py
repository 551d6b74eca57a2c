"""What rolls, fading out where it goes on below: no line is cut through its middle, and one sees that there is more."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QScrollArea, QWidget

from redline_bore.ui.theme.theme import Theme

FADE_PX = 34.0  # two lines of small type: half a one is never plain to read
WHOLE_AT = 0.7  # of the way down, nothing shows through any more


class _Fade(QWidget):
    """The ground of the card, from clear at its top to whole at its bottom; touches go through."""

    def __init__(self, theme: Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self._theme = theme
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.hide()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, width, whole = QPainter(self), self.width(), round(WHOLE_AT * self.height())
        for y in range(whole):  # line by line: the first use of a gradient of Qt's takes a hundredth of the start
            painter.fillRect(0, y, width, 1, self._theme.colour("sheet", round(y / whole, 2)))
        painter.fillRect(0, whole, width, self.height() - whole, self._theme.colour("sheet"))
        painter.end()


class FadingScroller(QScrollArea):
    """A scroll area whose lower edge fades while there is more below it."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme, self.fade = theme, _Fade(theme, self)
        bar = self.verticalScrollBar()
        assert bar is not None
        bar.valueChanged.connect(lambda _value: self._place())
        bar.rangeChanged.connect(lambda _low, _high: self._place())

    def _place(self) -> None:
        bar, view = self.verticalScrollBar(), self.viewport()
        assert bar is not None and view is not None
        high = self._theme.px(FADE_PX)
        self.fade.setGeometry(view.x(), view.y() + view.height() - high, view.width(), high)
        self.fade.setVisible(bar.value() < bar.maximum())
        self.fade.raise_()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._place()
