"""The tag on the screen: a traveller tag beside the work, whose blanks are filled by hand. Ink is booked, pencil is not."""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import QEvent, QObject, QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QKeySequence, QPainter, QPaintEvent, QPolygonF, QShortcut
from PyQt6.QtWidgets import (
    QButtonGroup,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from redline_bore.core.show import capital, count_word
from redline_bore.core.written import shown, typed
from redline_bore.desk.changes import WouldChange
from redline_bore.desk.tag import Row, Said, Tag
from redline_bore.desk.typed import Filled
from redline_bore.job.card import Mark
from redline_bore.job.kinds.phrase import At
from redline_bore.ui.frame.tag_scale import TagScale
from redline_bore.ui.frame.told_label import ToldLabel
from redline_bore.ui.paint.pencil import Pencil
from redline_bore.ui.theme.theme import Theme

WIDE_PX, CORNER_PX, CHIPS_A_ROW = 470.0, 20.0, 4
LONG_WORD = 10  # letters: longer ones stand three in a row
OFF = ""
MARK_WORDS = {Mark.PLAIN: "", Mark.SOUND: "sound", Mark.LIKELY: "likely", Mark.LOOK: "look here", Mark.STOP: "stop"}


class TagView(QWidget):
    """One tag at a time over the right of the work. ``booked`` carries it as filled; ``pencilled`` what it would book; ``left``: put away."""

    booked = pyqtSignal(object)
    pencilled = pyqtSignal(object)
    left = pyqtSignal()

    def __init__(self, parent: QWidget, theme: Theme) -> None:
        super().__init__(parent)
        self.theme = theme
        self.tag: Tag | None = None
        self._at: Callable[[], At] | None = None
        self.filled: dict[str, str] = {}
        self.fields: dict[str, QLineEdit] = {}
        self.scales: dict[str, TagScale] = {}
        self._rows: dict[str, QWidget] = {}
        self.title, self.was, self.preview = (
            ToldLabel("Tag"),
            ToldLabel("What stands"),
            ToldLabel("What would be booked"),
        )
        self.change = ToldLabel("What it would change")
        for label in (self.title, self.was, self.preview, self.change):
            label.setWordWrap(True)
        self.alike = QPushButton()
        self.alike.setCheckable(True)
        QShortcut(QKeySequence("Alt+C"), self, self._all_or_one)
        self.alike.toggled.connect(self._changed)
        self.because = QLineEdit()
        self.because.setAccessibleName("Why it is booked all the same")
        self.because.setPlaceholderText("why it is booked all the same; that stays beside it")
        self.because.textChanged.connect(self._changed)
        self.book, self.leave = QPushButton("Book ↵"), QPushButton("Esc  leave it")
        self.book.setObjectName("main")
        self.book.clicked.connect(self.enter)
        self.leave.clicked.connect(self.put_away)
        self.scroller = QScrollArea()
        self.scroller.setWidgetResizable(True)
        self.scroller.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.scroller.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._lay_out()
        theme.changed.connect(self.restyle)
        self.hide()

    def _lay_out(self) -> None:
        self.column = QVBoxLayout(self)
        for widget in (self.title, self.was):
            self.column.addWidget(widget)
        self.column.addWidget(self.scroller, 1)
        for below in (self.preview, self.change, self.because, self.alike):
            self.column.addWidget(below)
        row = QHBoxLayout()
        row.addWidget(self.leave)
        row.addWidget(self.book, 1)
        self.column.addLayout(row)

    # -- opening and leaving -------------------------------------------------------------------------------------------

    def open(self, tag: Tag, at: Callable[[], At]) -> None:
        """Hang a tag; the first blank has the keys."""
        self.tag, self._at, self.filled = tag, at, tag.start()
        self.setAccessibleName(f"Tag: {tag.title}")
        self.title.setText(tag.title)
        self.was.setText(f"Booked last: {tag.was}" if tag.was else "Nothing of it is booked yet")
        for quiet in (self.alike, self.because):
            quiet.blockSignals(True)
        self.alike.setChecked(False)
        self.because.clear()
        for quiet in (self.alike, self.because):
            quiet.blockSignals(False)
        self.alike.setVisible(tag.for_all(at()))
        self.change.hide()
        self._make_rows()
        self.restyle()
        self.fit()
        self.show()
        self.raise_()
        self._changed()
        first = next(iter(self.fields.values()), None)
        target: QWidget = first if first is not None else self.book
        target.setFocus()
        if first is not None:
            first.selectAll()

    def put_away(self) -> None:
        """Leave what stands as it stands."""
        if self.isVisible():
            self.hide()
            self.left.emit()

    def enter(self) -> None:
        """Book what is filled in, by the same line that is typed."""
        said = self.said()
        if said.can and said.doubt and not self.because.text().strip():
            self.because.setFocus()
            return
        if said.can:
            self.booked.emit(
                Filled(said.line, self.alike.isVisible() and self.alike.isChecked(), self.because.text().strip())
            )
            return
        missing = next(
            (r for r in self._open_rows() if r.key in self.fields and not r.optional and not self.filled.get(r.key)),
            None,
        )
        if missing is not None:
            self.fields[missing.key].setFocus()

    def refuse(self, why: str) -> None:
        """It was not taken: why, where it would be booked."""
        self.preview.setText(why)
        self.preview.setStyleSheet(self._look())

    def _all_or_one(self) -> None:
        if self.alike.isVisible():
            self.alike.toggle()

    # -- the blanks ----------------------------------------------------------------------------------------------------

    def _open_rows(self) -> tuple[Row, ...]:
        return () if self.tag is None else self.tag.shown(self.filled)

    def _make_rows(self) -> None:
        inside = QWidget()
        self.fields, self.scales, self._rows = {}, {}, {}
        column = QVBoxLayout(inside)
        column.setContentsMargins(0, 0, self.theme.px(8), 0)
        column.setSpacing(self.theme.px(6))
        assert self.tag is not None
        for row in self.tag.rows:
            made = {"switch": self._switch, "choice": self._choice}.get(row.sort, self._blank)(row)
            self._rows[row.key] = made
            column.addWidget(made)
        column.addStretch(1)
        self.scroller.setWidget(inside)
        order = [
            w
            for row in self.tag.rows
            for w in self._rows[row.key].findChildren(QWidget)
            if w.focusPolicy() != Qt.FocusPolicy.NoFocus
        ]
        for before, after in zip(order, [*order[1:], self.book][: len(order)], strict=True):
            QWidget.setTabOrder(before, after)

    def _holder(self, row: Row) -> tuple[QWidget, QVBoxLayout]:
        holder = QWidget()
        column = QVBoxLayout(holder)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(self.theme.px(2))
        said = row.label + (", if wanted" if row.optional and row.sort != "switch" else "")
        label = QLabel(capital(said))
        label.setObjectName("soft")
        column.addWidget(label)
        return holder, column

    def _blank(self, row: Row) -> QWidget:
        holder, column = self._holder(row)
        line, field = QHBoxLayout(), QLineEdit(shown(row.start))
        field.setAccessibleName(row.label)
        field.setAccessibleDescription(
            " ".join(w for w in (f"was {row.was}" if row.was else "", row.unit, row.room) if w)
        )
        field.setPlaceholderText(_hint(row))
        field.textChanged.connect(partial(self._fill, row.key))
        self.fields[row.key] = field
        line.addWidget(field, 1)
        told = " ".join(w for w in (row.unit, f"· {row.room}" if row.room else "") if w)
        beside = QLabel(shown(told))
        beside.setObjectName("soft")
        was = QLabel(f"<s>{shown(row.was)}</s>" if row.was and row.start != row.was else "")
        was.setObjectName("soft")
        line.addWidget(was)
        line.addWidget(beside)
        column.addLayout(line)
        if row.picks:
            column.addWidget(self._chips(row.picks, partial(self._pick_word, row.key), None))
        if (scale := self._scale(row)) is not None:
            column.addWidget(scale)
        return holder

    def _scale(self, row: Row) -> TagScale | None:
        """The engraved scale of a figure that has a range; None where it has none, or is several figures."""
        about = _figure(row.was) if _figure(row.was) else _figure(row.example)
        if (
            row.sort != "figure"
            or row.many
            or row.ends == (None, None)
            or about is None
            or _figure(row.example) is None
        ):
            return None
        scale = TagScale(self.theme, row.ends, _figure(row.was), about, partial(self._drag, row.key))
        scale.setToolTip(f"Hatched: {row.why}" if row.why else "")
        self.scales[row.key] = scale
        self.fields[row.key].installEventFilter(self)
        return scale

    def _drag(self, key: str, value: float) -> None:
        step = self.scales[key].step
        digits = max(0, -math.floor(math.log10(step) + 1e-9)) + (
            0 if math.isclose(step, 10.0 ** round(math.log10(step))) else 1
        )
        self.fields[key].setText(shown(f"{value:.{digits}f}"))

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Up and down in a blank take a step on its scale."""
        if isinstance(event, QKeyEvent) and event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            key = next((k for k, f in self.fields.items() if f is watched), "")
            if key in self.scales and event.type() == QEvent.Type.ShortcutOverride:
                event.accept()  # here they are no arrows of the page
                return True
            if key in self.scales and event.type() == QEvent.Type.KeyPress:
                self.scales[key].by(1 if event.key() == Qt.Key.Key_Up else -1)
                return True
        return super().eventFilter(watched, event)

    def _switch(self, row: Row) -> QWidget:
        button = QPushButton(row.label)
        button.setCheckable(True)
        button.setChecked(row.start == "yes")
        button.setAccessibleName(row.label)
        button.toggled.connect(lambda on: self._fill(row.key, "yes" if on else OFF))
        return button

    def _choice(self, row: Row) -> QWidget:
        holder, column = self._holder(row)
        if not row.optional and not self.filled.get(row.key):
            self.filled[row.key] = "0"
        ways = ("not said", *row.ways) if row.optional else row.ways
        offset = 1 if row.optional else 0
        now = int(self.filled[row.key]) + offset if self.filled.get(row.key) else 0
        column.addWidget(self._chips(ways, lambda i: self._fill(row.key, OFF if i < offset else str(i - offset)), now))
        return holder

    def _chips(self, words: tuple[str, ...], act: Callable[[int], None], now: int | None) -> QWidget:
        """Drawers side by side; with ``now``, one of them is pulled."""
        holder = QWidget()
        grid = QGridLayout(holder)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(self.theme.px(4))
        a_row = 3 if max(map(len, words)) > LONG_WORD else CHIPS_A_ROW
        group = QButtonGroup(holder)
        group.setExclusive(now is not None)
        for i, word in enumerate(words):
            button = QPushButton(word)
            button.setAccessibleName(word)
            button.setCheckable(now is not None)
            button.setChecked(i == now)
            button.setObjectName("drawer")
            button.clicked.connect(partial(_act, act, i))
            group.addButton(button)
            grid.addWidget(button, i // a_row, i % a_row)
        return holder

    def _pick_word(self, key: str, index: int) -> None:
        assert self.tag is not None
        row = next(r for r in self.tag.rows if r.key == key)
        self.fields[key].setText(shown(row.picks[index]))
        self.fields[key].setFocus()

    def _fill(self, key: str, text: str) -> None:
        self.filled[key] = typed(text)
        if key in self.scales:
            self.scales[key].stand_at(_figure(self.filled[key]))
        self._changed()

    def said(self) -> Said:
        """What it would book as it stands."""
        if self.tag is None or self._at is None:
            return Said("", "", False)
        return self.tag.said(self.filled, self._at())

    def _changed(self) -> None:
        opened = {row.key for row in self._open_rows()}
        for key, widget in self._rows.items():
            widget.setVisible(key in opened)
        said, why = self.said(), self.because.text().strip()
        taken = dict(said.taken)
        for row in self._open_rows():
            if row.key in self.fields:
                left = taken.get(row.key)
                self.fields[row.key].setPlaceholderText(f"{shown(left)} if left empty" if left else _hint(row))
        words = f"It would book: {said.words}" if said.can else f"Not yet: {said.words}"
        if self.alike.isChecked() and self._at is not None and said.can:
            words += f", and so in all {count_word(self._at().state.block.cylinders)}"
        if said.doubt:
            words += f". But look: {said.doubt}"
        self.preview.setText(words)
        self.because.setVisible(bool(said.doubt))
        if self._at is not None:
            state, here = self._at().state, self._at().where.cylinder
            self.alike.setText(
                f"For all {count_word(state.block.cylinders)} · Alt+C"
                if self.alike.isChecked()
                else f"Cylinder {here} only · Alt+C for all {count_word(state.block.cylinders)}"
            )
        c, px = self.theme.palette, self.theme.px
        self.preview.setStyleSheet(
            f"font-style: italic; font-size: {px(15)}px; color: {c.ink};"
            if said.can and not said.doubt
            else self._look()
        )
        self.book.setEnabled(said.can and (not said.doubt or bool(why)))
        self.pencilled.emit(said)

    def tell_change(self, found: WouldChange | None) -> None:
        """What would be others on the card; None: nothing can be told."""
        self.change.setVisible(found is not None)
        if found is None:
            return
        c = self.theme.palette
        rows = "".join(
            f"<tr><td style='color:{c.graphite}'>{line.label}&nbsp;&nbsp;</td><td align='right' style='color:{c.graphite}'><s>{shown(line.was)}</s>&nbsp;&nbsp;</td>"
            f"<td align='right'><b><i>{shown(line.now) or '—'}</i></b></td><td>&nbsp;{MARK_WORDS[line.mark]}</td></tr>"
            for line in found.lines
        )
        head = "It would change nothing on this card" if found.nothing else "It would change"
        call = f"<p style='margin:2px 0'><i>{found.sentence}</i></p>" if found.sentence else ""
        rest = (
            f"<p style='margin:2px 0; color:{c.graphite}'>and {found.more} more on the card</p>" if found.more else ""
        )
        self.change.setText(
            f"<span style='color:{c.graphite}'>{head}</span>{call}<table cellspacing='0'>{rows}</table>{rest}"
        )

    def _look(self) -> str:
        c, px = self.theme.palette, self.theme.px
        return f"font-size: {px(14)}px; color: {c.ink}; background: {c.look_ground}; padding: {px(4)}px;"

    # -- how it looks --------------------------------------------------------------------------------------------------

    def restyle(self) -> None:
        c, px = self.theme.palette, self.theme.px
        self.column.setContentsMargins(px(24), px(34), px(20), px(16))
        self.column.setSpacing(px(8))
        self.title.setStyleSheet(f"font-size: {px(18)}px; font-weight: bold;")
        self.was.setStyleSheet(f"color: {c.graphite}; font-size: {px(13)}px;")
        self.setStyleSheet(
            f"QScrollArea, QScrollArea > QWidget > QWidget {{ background: {c.sheet}; }} QLabel#soft {{ color: {c.graphite}; font-size: {px(13)}px; }}"
            f"QLineEdit {{ font-size: {px(18)}px; font-weight: bold; font-style: italic; min-height: {px(28)}px; }}"
            f"QPushButton#drawer {{ padding: 0 {px(6)}px; min-height: {self.theme.target(30) - 2}px; }}"
        )
        self.fit()

    def fit(self) -> None:
        """Over the right of the work; where that is narrow, over all of it."""
        parent = self.parentWidget()
        if parent is not None:
            wide = min(self.theme.px(WIDE_PX), parent.width())
            self.setGeometry(parent.width() - wide, 0, wide, parent.height())

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        pencil = Pencil(painter, self.theme)
        corner, area = pencil.px(CORNER_PX), QRectF(self.rect()).adjusted(6, 4, -4, -6)
        outline = QPolygonF(
            [
                QPointF(area.left() + corner, area.top()), QPointF(area.right() - corner, area.top()), QPointF(area.right(), area.top() + corner),
                QPointF(area.right(), area.bottom()), QPointF(area.left(), area.bottom()), QPointF(area.left(), area.top() + corner),
            ]
        )  # fmt: skip
        painter.setPen(pencil.pen("ink", 1.6))
        painter.setBrush(self.theme.colour("sheet"))
        painter.drawPolygon(outline)
        middle = area.center().x()
        pencil.circle(middle, area.top() + pencil.px(14), pencil.px(8), "iron", "graphite")
        pencil.circle(middle, area.top() + pencil.px(14), pencil.px(3), "paper", "graphite")
        painter.end()


def _hint(row: Row) -> str:
    return f"like {shown(row.example)}" if row.example else ""


def _figure(text: str) -> float | None:
    """The figure a blank holds; None where it holds none, or more than one."""
    try:
        return float(text.replace("−", "-").removesuffix(" C").removesuffix(" F"))
    except ValueError:
        return None


def _act(act: Callable[[int], None], index: int, _checked: bool) -> None:
    act(index)
