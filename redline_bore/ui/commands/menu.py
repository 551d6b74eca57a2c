"""The menu: what this page does first, then the rest in groups of at most nine; what cannot be done now is grey and says why."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial

from PyQt6.QtWidgets import QMenu

from redline_bore.ui.commands.command import Command, commands
from redline_bore.ui.frame.window_parts import WindowParts

MOST = 9
GROUPS = (  # a letter behind & opens the group
    ("At the &bench", ("enter", "read", "press", "strike", "restore", "plate", "units", "field", "next_place")),
    ("By &hand", ("find", "by_hand", "note", "who", "leave")),
    ("&Looking", ("this_page", "working", "table", "ledger", "keys", "previous", "following")),
    ("&Size and light", ("touch", "larger", "smaller", "night", "clear", "comma", "paper")),
    ("&Jobs", ("begin", "jobs", "new", "another", "take_in", "backups", "figures", "quit")),
    ("&Papers and pictures", ("pdf", "quote", "half_page", "export", "pictures", "photo")),
    ("&Instruments", ("simulated", "simulated_three", "simulated_spindle", "simulated_hone", "simulated_profilometer", "simulated_thermometer", "port")),
    ("&Gauge, sleeve, hone", ("next_page", "page_before", "quick_plan", "defect", "swept", "keep_study", "next_step", "stroke", "practice")),
    ("The &call", ("sleeve", "beside", "axis", "wear_share", "hone_allowance", "odd_cylinder", "buying")),
)  # fmt: skip


def fill(menu: QMenu, window: WindowParts) -> None:
    """Make the menu anew for the page that is on."""
    menu.clear()
    by_name = {c.name: c for c in commands()}
    here = [c for c in commands() if c.name in _of_pages() and not c.why_not(window)]
    for each in here[:MOST]:
        _add(menu, window, each, "")
    if here:
        menu.addSeparator()
    for title, names in GROUPS:
        group = QMenu(title, menu)
        for name in names:
            _add(group, window, by_name[name], by_name[name].why_not(window))
        menu.addMenu(group)


def _of_pages() -> Sequence[str]:
    """What only some pages do."""
    return [name for title, names in GROUPS[-2:] for name in names if name not in ("next_page", "page_before")]


def _add(menu: QMenu, window: WindowParts, each: Command, why_not: str) -> None:
    words = f"{each.words} ({why_not})" if why_not else each.words
    key = f"\t{each.keys[0]}" if each.keys else ""
    action = menu.addAction(f"{words.replace('&', '&&')}{key}")
    assert action is not None
    action.setObjectName(f"menu {each.name}")
    action.setEnabled(not why_not)
    action.triggered.connect(partial(_do, window, each))


def _do(window: WindowParts, each: Command, _checked: bool = False) -> None:
    window.do(each.name)
