"""A job's strip in the rack: number and owner, a small engraved route with what is done, the next thing in words, when it was worked on."""

from __future__ import annotations

from PyQt6.QtCore import QModelIndex, QPersistentModelIndex, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter
from PyQt6.QtWidgets import QStyle, QStyledItemDelegate, QStyleOptionViewItem

from redline_bore.core.frozen import frozen
from redline_bore.core.when import day_words
from redline_bore.job.state.job_state import STEP_TITLES, STEPS
from redline_bore.ui.paint.pencil import MIDDLE, RIGHT, Pencil
from redline_bore.ui.theme.theme import Theme

STRIP = Qt.ItemDataRole.UserRole + 1
HIGH_PX, ROUTE_PX = 52.0, 190.0


@frozen(often=True)
class Strip:
    """What a strip shows. done: the steps that are stamped; when: the last entry; odd: what stands in the place of the next step; promised: the day
    it is, waits_for: what nobody at the bench can do, today: that of the list, both as 2026-12-12."""

    number: str
    owner: str
    engine: str
    done: tuple[str, ...]
    when: str
    odd: str = ""
    promised: str = ""
    today: str = ""
    people: tuple[str, ...] = ()
    machines: tuple[str, ...] = ()
    waits_for: str = ""

    @property
    def next(self) -> str:
        """The step that waits: the first one after the last that is stamped; empty once it is signed."""
        if "sign_off" in self.done:
            return ""
        last = max((STEPS.index(s) for s in self.done if s in STEPS), default=-1)
        return STEPS[min(last + 1, len(STEPS) - 1)]

    @property
    def late(self) -> bool:
        """It was promised for a day that is gone, and is not signed off."""
        return bool(self.promised and self.next and self.promised < self.today)

    @property
    def due(self) -> str:
        """When it is promised, in words; empty where it is not, or is done."""
        if not self.promised or not self.next:
            return ""
        return f"late: promised {day_words(self.promised)}" if self.late else f"promised {day_words(self.promised)}"

    @property
    def order(self) -> tuple[bool, str]:
        """What is promised first stands on top, late or not; then what was worked on last."""
        return (not self.due, self.promised if self.due else "")

    @property
    def words(self) -> str:
        """The strip in words."""
        if self.odd:
            return self.odd
        if self.next and self.waits_for:
            return f"waits for {self.waits_for}"
        return "signed off" if not self.next else f"next: {STEP_TITLES[self.next].lower()}"

    @property
    def text(self) -> str:
        """All of it, to be read aloud and searched."""
        said = (self.engine, self.words, self.due, self.when)
        return f"{self.number}   {self.owner}\n{' · '.join(x for x in said if x)}"


class StripDelegate(QStyledItemDelegate):
    """Draws strips."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        return QSize(100, self.theme.px(HIGH_PX))

    def paint(
        self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        strip = index.data(STRIP)
        if painter is None or not isinstance(strip, Strip):
            return
        painter.save()
        pencil, px = Pencil(painter, self.theme), self.theme.px
        box = QRectF(option.rect).adjusted(px(10), px(2), -px(8), -px(2))
        on = bool(option.state & QStyle.StateFlag.State_Selected)
        pencil.rect(box, "sheet" if on else "paper", "ink" if on else "rule", 2.0 if on else 1.0)
        pencil.circle(box.left() + px(14), box.center().y(), px(5), "iron", "graphite")
        left, route = box.left() + px(30), box.right() - px(ROUTE_PX + 12)
        wide = route - left - px(14)
        number = pencil.width_of(strip.number, 16, True) + px(10)
        pencil.text(QRectF(left, box.top(), number, box.height() / 2), strip.number, 16, "ink", True, MIDDLE)
        owner = pencil.fitted(strip.owner, wide - number, 14)
        pencil.text(QRectF(left + number, box.top(), wide - number, box.height() / 2), owner, 14, "ink", align=MIDDLE)
        under = QRectF(left, box.center().y() - px(2), wide, box.height() / 2)
        when = strip.due or strip.when
        room = pencil.width_of(when, 12)
        pencil.text(under, pencil.fitted(strip.engine, wide - room - px(14), 13), 13, "graphite", align=MIDDLE)
        if strip.late:
            ground = QRectF(under.right() - room - px(6), under.top() + px(2), room + px(10), under.height() - px(4))
            pencil.rect(ground, "look_ground")
        pencil.text(under, when, 12, "ink" if strip.due else "graphite", align=RIGHT | MIDDLE)
        self._route(pencil, QRectF(route, box.top(), px(ROUTE_PX), box.height()), strip)
        painter.restore()

    def _route(self, pencil: Pencil, area: QRectF, strip: Strip) -> None:
        """Pins on what is done, a pointer at what waits; the words say it too."""
        px, base = pencil.px, area.top() + pencil.px(17)
        x = [area.left() + px(8) + (area.width() - px(16)) * i / (len(STEPS) - 1) for i in range(len(STEPS))]
        pencil.line(x[0], base, x[-1], base, "graphite")
        for at, step in zip(x, STEPS, strict=True):
            pencil.line(at, base, at, base - px(6), "graphite")
            if step in strip.done:
                pencil.circle(at, base, px(4), "ink", "ink")
            elif step == strip.next and strip.waits_for and not strip.odd:  # an hourglass: it waits
                for side in (-1, 1):
                    pencil.polygon(
                        [
                            (at, base - px(5)),
                            (at - px(5), base - px(5) + side * px(7)),
                            (at + px(5), base - px(5) + side * px(7)),
                        ],
                        "ink",
                    )
            elif step == strip.next and not strip.odd:
                pencil.polygon([(at, base), (at - px(5), base - px(10)), (at + px(5), base - px(10))], "ink")
        pencil.text(
            QRectF(area.left(), area.center().y(), area.width(), area.height() / 2),
            pencil.fitted(strip.words, area.width() - px(10), 13),
            13,
            "ink",
            align=RIGHT | MIDDLE,
        )
