"""A run sheet on paper: what is done with who and when, the next thing lit, what is still to come."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtCore import QRectF

from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.words.run_sheet import RunItem, lit
from redline_bore.ui.paint.pencil import LEFT, MIDDLE, RIGHT, Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.session import Session
from redline_bore.ui.theme.theme import Theme


class RunView(Picture):
    """The run sheet of the cylinder that is looked at."""

    topics = LEDGER | {"selection", "step", "page"}

    def __init__(self, session: Session, theme: Theme, items: Callable[[], Sequence[RunItem]]) -> None:
        super().__init__(session, theme, "Run sheet")
        self._items = items

    def said(self) -> str:
        if self.session.state is None:
            return ""
        ahead = lit(self._items())
        return "all done" if ahead is None else f"next: {ahead.words}"

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, items = pencil.px, self._items()
        pencil.heading(px(4), px(6), f"Cylinder {self.session.bench.cylinder}", "K stamps the check that is lit")
        ahead, top = lit(items), area.top() + px(42)
        high = min(px(58), (area.height() - px(50)) / max(len(items), 1))
        pencil.line(
            area.left() + px(17), top + high / 2, area.left() + px(17), top + high * (len(items) - 0.5), "rule", 2.0
        )
        for i, item in enumerate(items):
            _item(pencil, QRectF(area.left() + px(4), top + high * i, area.width() - px(12), high), item, item is ahead)


def _item(pencil: Pencil, r: QRectF, item: RunItem, is_next: bool) -> None:
    px, y = pencil.px, r.center().y()
    if is_next:
        pencil.rect(r.adjusted(0, px(3), 0, -px(3)), "look_ground", "ink", 1.6)
    x = r.left() + px(13)
    pencil.circle(x, y, px(9), "sheet", "ink" if item.done or is_next else "rule", 1.6)
    if item.done:
        pencil.tick_mark(x - px(5), y, 10)
    told = item.done or ("K" if item.key else item.how)
    room = r.width() - px(32) - pencil.width_of(told, 13, bool(item.done)) - px(24)
    where = QRectF(r.left() + px(32), r.top(), room, r.height())
    upper = where.adjusted(0, 0, 0, -r.height() * 0.36) if item.why else where
    size = pencil.sized(item.words, room, 16.0 if is_next else 15.0, is_next)
    pencil.text(upper, item.words, size, "ink" if item.done or is_next else "graphite", is_next, LEFT | MIDDLE)
    if item.why:
        lower = where.adjusted(0, r.height() * 0.46, 0, 0)
        pencil.text(lower, pencil.fitted(item.why, room), 12, "graphite", align=LEFT | MIDDLE)
    end = r.adjusted(0, 0, -px(10), 0)
    pencil.text(end, told, 13, "ink" if item.done else "graphite", bool(item.done), RIGHT | MIDDLE)
