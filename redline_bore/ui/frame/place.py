"""Where the window stands on the screen: as large as it was left, and never larger than what there is."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QRect, QSettings, QSize
from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QWidget

USUAL, LEAST = QSize(1280, 800), QSize(1000, 640)


def room() -> QRect:
    """What the screen has for a window; without a screen, as much as is wanted."""
    screen = QGuiApplication.primaryScreen()
    if screen is None or QGuiApplication.platformName() == "offscreen":
        return QRect(0, 0, 10000, 10000)
    return screen.availableVirtualGeometry()


def take_place(window: QWidget, settings: QSettings) -> None:
    """Put a window where it was left; the first time 1280 by 800, or what the screen has."""
    there = room()
    window.setMinimumSize(LEAST.boundedTo(there.size()))
    size, at = settings.value("window/size"), settings.value("window/at")
    window.resize((size if isinstance(size, QSize) else USUAL).boundedTo(there.size()))
    if isinstance(at, QPoint) and there.contains(QRect(at, QSize(120, 60))):
        window.move(at)


def fit_frame(window: QWidget) -> None:
    """Once the desktop has put its frame around it: where both together are larger than the screen, the window gives way."""
    if window.isMaximized() or window.isFullScreen():
        return
    there, frame = room(), window.frameGeometry()
    wide, high = max(frame.width() - there.width(), 0), max(frame.height() - there.height(), 0)
    if wide or high:
        window.resize(window.width() - wide, window.height() - high)
        window.move(there.topLeft())


def keep_place(window: QWidget, settings: QSettings) -> None:
    """Keep where a window stands."""
    if not window.isMinimized() and not window.isMaximized() and not window.isFullScreen():
        settings.setValue("window/size", window.size())
        settings.setValue("window/at", window.pos())
