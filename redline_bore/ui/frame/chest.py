"""The chest of drawers: what was found, each with where it lives and its own key; the best pulled out, what is locked with its reason."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent, QWheelEvent
from PyQt6.QtWidgets import QWidget

from redline_bore.ui.frame.drawer import Drawer
from redline_bore.ui.paint.pencil import CENTRE, MIDDLE, RIGHT, Pencil
from redline_bore.ui.theme.theme import Theme

MOST, MOST_FIGURES = 9, 3
DRAWER_PX, GAP_PX, HEAD_PX, MARGIN_PX = 58.0, 8.0, 44.0, 84.0


More = Callable[
    [str, Callable[[list["Drawer"]], None]], None
]  # looks for what is asked elsewhere, and hands over what it found


def found_among(drawers: list[Drawer], asked: str) -> list[Drawer]:
    """The drawers that fit what was asked, the best first, those that are locked last: every word must begin a word of theirs."""
    wanted = asked.lower().replace("-", " ").split()
    fits = [(_how_far(d, wanted), i, d) for i, d in enumerate(drawers)]
    ranked = [(far, i, d) for far, i, d in sorted((f for f in fits if f[0] is not None), key=lambda f: (f[0], f[1]))]
    kept, figures = [], 0
    for _far, _i, d in ranked:
        figures += d.kind == "figure"
        if d.kind != "figure" or figures <= MOST_FIGURES or not wanted:
            kept.append(d)
    return kept[:MOST] if wanted else kept


def _how_far(d: Drawer, wanted: list[str]) -> tuple[int, ...] | None:
    """How far a drawer is from what was asked, the nearest least; None where it does not fit."""
    title, also, rest = _words(d.title), _words(d.words), _words(f"{d.note} {d.lives}")
    far = 0
    for q in wanted:
        places = [i for i, w in enumerate(title) if w.startswith(q)]
        if places:
            far += min(places[0], 6) + (title[places[0]] != q)
        elif any(w.startswith(q) for w in also):
            far += 3
        elif any(w.startswith(q) for w in rest):
            far += 9
        else:
            return None
    return (int(bool(d.locked)), far + 4 * (d.kind == "figure") * bool(wanted), int(not d.here))


def _words(text: str) -> list[str]:
    return [w.strip("“”\"'.,;:()") for w in text.lower().replace("-", " ").replace("/", " ").split()]


class Chest(QWidget):
    """Lies over the work while something is looked for. ``opened``: a drawer was; ``left``: none was."""

    opened = pyqtSignal(object)
    left = pyqtSignal()

    def __init__(self, parent: QWidget, theme: Theme) -> None:
        super().__init__(parent)
        self.theme = theme
        self.drawers: list[Drawer] = []
        self.found: list[Drawer] = []
        self.asked, self.heading, self.at, self.top = "", "", 0, 0
        self.somebody: Callable[[str], Drawer | None] = lambda _text: None  # what is made of words that nothing fits
        self.more: More = lambda _text, _then: None
        self.setAccessibleName("Find")
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.hide()

    def lay(
        self, heading: str, drawers: list[Drawer], somebody: Callable[[str], Drawer | None] | None = None, more: More | None = None
    ) -> None:  # fmt: skip
        """Open the chest. somebody: a drawer made of what is typed; more: drawers that are looked for elsewhere, by what is typed."""
        self.heading, self.drawers = heading, drawers
        self.somebody = somebody or (lambda _text: None)
        self.more = more or (lambda _text, _then: None)
        self.fit()
        self.show()
        self.raise_()
        self.ask("")

    def ask(self, text: str) -> None:
        """Look for what is typed."""
        self.asked, self.at, self.top = text, 0, 0
        self._find([])
        self.more(text, lambda others: self._find(others) if self.asked == text else None)

    def _find(self, others: list[Drawer]) -> None:
        self.found = found_among([*self.drawers, *others], self.asked)
        if self.asked.strip() and (new := self.somebody(self.asked.strip())) is not None:
            self.found = [*self.found, new]
        self._said()

    def move_by(self, down: int) -> None:
        """Pull out another drawer."""
        if self.found:
            self.at = min(max(self.at + down, 0), len(self.found) - 1)
            self.top = min(max(self.top, self.at - MOST + 1), self.at)
            self._said()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        if event is not None and event.angleDelta().y():
            self.move_by(-1 if event.angleDelta().y() > 0 else 1)

    @property
    def in_sight(self) -> list[tuple[int, Drawer]]:
        """The drawers in sight, with their places among those found."""
        return list(enumerate(self.found))[self.top : self.top + MOST]

    def _said(self) -> None:
        one = self.current
        told = "Nothing fits" if one is None else f"{one.title}. {one.locked or one.note}"
        self.setAccessibleDescription(f"{len(self.found)} found. {told}")
        self.update()

    @property
    def current(self) -> Drawer | None:
        """The drawer that is pulled out."""
        return self.found[self.at] if self.found else None

    def open_current(self) -> None:
        """Open it, where it is not locked."""
        if self.current is not None and not self.current.locked:
            self.opened.emit(self.current)

    def open_at(self, number: int) -> None:
        """Open the drawer of that number, from 1."""
        if 0 < number <= len(self.in_sight):
            self.at = self.in_sight[number - 1][0]
            self.open_current()

    def put_away(self) -> None:
        """Shut the chest."""
        if self.isVisible():
            self.hide()
            self.left.emit()

    def fit(self) -> None:
        """Lie over the work."""
        parent = self.parentWidget()
        if parent is not None:
            self.setGeometry(0, 0, parent.width(), parent.height())

    def _box(self, index: int) -> QRectF:
        px = self.theme.px
        room = (self.height() - px(HEAD_PX) - px(8)) / MOST
        high = min(px(DRAWER_PX), room - px(GAP_PX))
        return QRectF(
            px(MARGIN_PX),
            px(HEAD_PX) + index * min(room, px(DRAWER_PX + GAP_PX)),
            self.width() - px(MARGIN_PX + 14),
            high,
        )

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and (hit := self._hit(event)) is not None and hit != self.at:
            self.at = hit
            self._said()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and (hit := self._hit(event)) is not None:
            self.at = hit
            self._said()
            self.open_current()

    def _hit(self, event: QMouseEvent) -> int | None:
        return next((at for i, (at, _) in enumerate(self.in_sight) if self._box(i).contains(event.position())), None)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        pencil, px = Pencil(painter, self.theme), self.theme.px
        pencil.rect(QRectF(self.rect()), "paper")
        told = (
            f"{len(self.found)} drawer{'s' * (len(self.found) != 1)} for “{self.asked}”"
            if self.asked
            else "type a word of the shop, or choose"
        )
        if len(self.found) > MOST:
            told = f"{self.top + 1} to {self.top + len(self.in_sight)} of {len(self.found)}; ↓ goes on, or type a word"
        pencil.heading(
            px(12), px(8), self.heading, told if self.found else "nothing fits: another word, or fewer of them"
        )
        before = ""
        for i, (at, drawer) in enumerate(self.in_sight):
            kind = "not now" if drawer.locked else drawer.kind
            self._draw(pencil, self._box(i), i, drawer, kind if kind != before else "", at == self.at)
            before = kind
        painter.end()

    def _draw(self, pencil: Pencil, box: QRectF, index: int, drawer: Drawer, kind: str, on: bool) -> None:
        px = pencil.px
        if kind:
            pencil.text(
                QRectF(px(8), box.top(), px(MARGIN_PX - 18), box.height()), kind, 13, "graphite", align=RIGHT | MIDDLE
            )
        if on:
            box = box.adjusted(-px(8), -px(1), 0, px(1))
        pencil.rect(box, "sheet" if on else "paper", "ink" if on else "rule", 2.0 if on else 1.0)
        if drawer.locked:
            pencil.hatch(QRectF(box.left(), box.top(), px(10), box.height()), "rule", "graphite")
        key_wide = max(pencil.width_of(drawer.key, 13, True) + px(18), px(34)) if drawer.key else 0.0
        if drawer.key:
            key = QRectF(box.right() - key_wide - px(10), box.center().y() - px(13), key_wide, px(26))
            pencil.rect(key, "sheet", "graphite")
            pencil.text(key, drawer.key, 13, "ink", True, CENTRE | MIDDLE)
        pencil.text(
            QRectF(box.left() + px(18), box.top(), px(24), box.height()), str(index + 1), 14, "ink", True, MIDDLE
        )
        left, right = box.left() + px(46), box.right() - key_wide - px(20)
        lives = pencil.fitted(drawer.lives, (right - left) * 0.4, 12)
        wide = pencil.width_of(lives, 12)
        room = right - left - wide - px(12)
        ink = "graphite" if drawer.locked else "ink"
        pencil.text(
            QRectF(left, box.top() + px(4), room, box.height() / 2 - px(2)),
            pencil.fitted(drawer.title, room, 15),
            15,
            ink,
            True,
            MIDDLE,
        )
        under = drawer.locked or drawer.note
        pencil.text(
            QRectF(left, box.center().y(), room, box.height() / 2 - px(4)),
            pencil.fitted(under, room, 13),
            13,
            "graphite",
            align=MIDDLE,
        )
        pencil.text(QRectF(right - wide, box.top(), wide, box.height()), lives, 12, "graphite", align=MIDDLE)
