"""The keys of the window, and its menu: made behind the first picture, or by the first key."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtGui import QAction, QKeySequence
from PyQt6.QtWidgets import QMenu, QPushButton, QWidget

from redline_bore.core.frozen import frozen
from redline_bore.ui.commands import commands
from redline_bore.ui.commands.menu import fill
from redline_bore.ui.frame.window_parts import WindowParts

MOST_BY_ALT, MOST_BY_DIGIT = 20, 10  # cylinders that have a key


@frozen
class Hands:
    """What keys do that are no commands. run: a command by its name; walk, probe: across and down; pick, select: a number."""

    run: Callable[..., None]
    walk: Callable[[int, int], None]
    probe: Callable[[int, int], None]
    pick: Callable[[int], None]
    select: Callable[[int], None]


def bind_keys(parts: WindowParts, hands: Hands, button: QPushButton) -> None:
    """Give every command its keys, the arrows and the digits theirs, and the menu its button."""
    window = parts.widget
    for each in commands():
        action = QAction(each.words, window)
        action.setObjectName(each.name)
        action.setShortcuts([QKeySequence(k) for k in each.keys])
        action.triggered.connect(partial(hands.run, each.name))
        window.addAction(action)
    for name, across, down in (("Left", -1, 0), ("Right", 1, 0), ("Up", 0, -1), ("Down", 0, 1)):
        _bind(window, name, name, partial(hands.walk, across, down))
        _bind(window, f"probe {name}", f"Shift+{name}", partial(hands.probe, across, down))
    for number in range(1, MOST_BY_ALT + 1):
        shift = "Shift+" * (number > MOST_BY_DIGIT)
        _bind(window, f"cylinder {number}", f"Alt+{shift}{number % 10}", partial(hands.pick, number))
        if number <= MOST_BY_DIGIT:
            _bind(window, f"digit {number}", f"{number % 10}", partial(hands.select, number))
    menu = QMenu(window)
    menu.aboutToShow.connect(lambda: fill(menu, parts))
    button.setMenu(menu)


def _bind(window: QWidget, name: str, sequence: str, act: Callable[[], None]) -> None:
    action = QAction(name, window)
    action.setShortcut(QKeySequence(sequence))
    action.triggered.connect(lambda _checked: act())
    window.addAction(action)
