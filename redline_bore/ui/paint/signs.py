"""What a sign means, told where it stands: to a pointer that rests on it, or to a finger that stays on it."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtCore import QEvent, QObject, QPoint, QPointF, QRectF, Qt, QTimer
from PyQt6.QtGui import QHelpEvent, QMouseEvent
from PyQt6.QtWidgets import QToolTip, QWidget

from redline_bore.ui.paint.pencil import Sign

MEANINGS = {
    Sign.SOUND: "Tick: sure. It lies inside its limits by more than it is doubted.",
    Sign.LIKELY: "Dial: likely, and not proven. Being wrong costs less than being sure.",
    Sign.LOOK: "Triangle: look here. It is not sure, not known yet, or near a limit.",
    Sign.STOP: "Hatched: it must not be entered, or it does not go.",
}
HELD_MS, NEAR_PX, STILL_PX = 600, 6.0, 8.0

Signs = Sequence[tuple[QRectF, Sign]]


def meaning_at(signs: Signs, at: QPointF, near: float = NEAR_PX) -> str:
    """What the sign at a place means, the smallest of several; empty where there is none."""
    under = [(r, s) for r, s in signs if r.adjusted(-near, -near, near, near).contains(at)]
    return MEANINGS[min(under, key=lambda f: f[0].width() * f[0].height())[1]] if under else ""


class SignTeller(QObject):
    """Tells on ``widget`` what the sign under pointer or finger means."""

    def __init__(self, widget: QWidget, signs: Callable[[], Signs]) -> None:
        super().__init__(widget)
        self.widget, self._signs, self._at = widget, signs, QPoint()
        self._held = QTimer(self)
        self._held.setSingleShot(True)
        self._held.setInterval(HELD_MS)
        self._held.timeout.connect(lambda: self.tell(self._at))
        widget.installEventFilter(self)

    def tell(self, at: QPoint) -> bool:
        """Tell what stands at a place of the widget; whether a sign does."""
        text = meaning_at(self._signs(), QPointF(at))
        if text:
            QToolTip.showText(self.widget.mapToGlobal(at), text, self.widget)
        return bool(text)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if isinstance(event, QHelpEvent) and event.type() == QEvent.Type.ToolTip:
            return self.tell(event.pos())
        if isinstance(event, QMouseEvent):
            here = event.position().toPoint()
            if event.type() == QEvent.Type.MouseButtonPress and event.button() == Qt.MouseButton.LeftButton:
                self._at = here
                self._held.start()
            elif (
                event.type() == QEvent.Type.MouseButtonRelease or (here - self._at).manhattanLength() > STILL_PX
            ):  # let go, or dragged
                self._held.stop()
        return False
