"""One drawer of the chest, as it is handed over by what has something to open."""

from __future__ import annotations

from collections.abc import Callable

from redline_bore.core.frozen import frozen


@frozen(often=True)
class Drawer:
    """Something that can be opened. kind: see, book, do, figure, job; lives: where it is; key: what opens it without the chest; words: what
    else it is called; locked: why not now, empty where it can be."""

    kind: str
    title: str
    note: str
    lives: str
    key: str
    words: str
    open: Callable[[], None]
    locked: str = ""
    here: bool = False
