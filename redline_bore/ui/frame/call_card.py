"""The call card: what to do now, the figures behind it, what would change it, one main button, a line of care."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from redline_bore.job.card import Advice, FigureLine, Mark
from redline_bore.ui.frame.fading_scroller import FadingScroller
from redline_bore.ui.frame.told_label import ToldLabel
from redline_bore.ui.paint.drawn import Drawn
from redline_bore.ui.paint.pencil import MIDDLE, RIGHT, Pencil, Sign
from redline_bore.ui.paint.signs import SignTeller
from redline_bore.ui.theme.theme import TOUCH_PX, Theme, styled_anew

ROW_PX = 29.0


class FigureRows(Drawn):
    """Label and figure, line by line, with the mark of each drawn and said. ``picked``: the kind of entry that states the one touched."""

    picked = pyqtSignal(str)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self._lines: tuple[FigureLine, ...] = ()
        self.signs: list[tuple[QRectF, Sign]] = []
        self.teller = SignTeller(self, lambda: self.signs)
        self.setAccessibleName("Figures behind the call")
        self.setMouseTracking(True)

    def show_lines(self, lines: tuple[FigureLine, ...]) -> None:
        self._lines = lines
        self.setVisible(bool(lines))  # else it is told as a picture of nothing
        self.setFixedHeight(round(self.row_px * len(lines) + 4 * self.theme.scale))
        self.setAccessibleDescription(
            "; ".join(f"{k.label}: {k.value} {k.mark}".strip() + (", can be changed" if k.by else "") for k in lines)
        )
        self.update()

    @property
    def row_px(self) -> float:
        """Height of a line; a finger's, at touch size."""
        return (max(ROW_PX, TOUCH_PX) if self.theme.touch else ROW_PX) * self.theme.scale

    def _under(self, event: QMouseEvent) -> FigureLine | None:
        row = int(event.position().y() // self.row_px)
        return self._lines[row] if 0 <= row < len(self._lines) else None

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is not None:
            line = self._under(event)
            can = line is not None and bool(line.by)
            self.setCursor(Qt.CursorShape.PointingHandCursor if can else Qt.CursorShape.ArrowCursor)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and (line := self._under(event)) is not None and line.by:
            self.picked.emit(line.by)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        pencil = Pencil(painter, self.theme)
        right = float(self.width())
        for i, line in enumerate(self._lines):
            y = self.row_px * i
            pencil.line(0, y, right, y, "rule")
            row = QRectF(0, y + 1, right, self.row_px - 2)
            self._paint_line(pencil, row, line)
        self.signs = pencil.signs
        painter.end()

    def _paint_line(self, pencil: Pencil, row: QRectF, line: FigureLine) -> None:
        px, middle = pencil.px, row.center().y()
        value_right = row.right()
        if line.mark is Mark.SOUND:
            pencil.tick_mark(row.right() - px(12), middle)
            value_right -= px(18)
        elif line.mark is Mark.LIKELY:
            pencil.likely_mark(row.right() - px(13), middle, 12)
            value_right -= px(18)
        elif line.mark is Mark.LOOK:
            pencil.triangle_mark(row.right() - px(13), middle, 12)
            value_right -= px(18)
        elif line.mark is Mark.STOP:
            pencil.hatch(QRectF(row.right() - px(40), middle - px(9), px(40), px(18)), "rule", "ink")
            pencil.text(
                QRectF(row.right() - px(40), middle - px(9), px(36), px(18)), "stop", 12, "ink", True, RIGHT | MIDDLE
            )
            value_right -= px(46)
        label = pencil.fitted(line.label, value_right - pencil.width_of(line.value, 12) - px(8), 13)
        pencil.text(QRectF(0, row.top(), value_right, row.height()), label, 13, "graphite")
        room = value_right - pencil.width_of(label, 13) - px(8)
        size = 15.0
        while size > 12 and pencil.width_of(line.value, size) > room:
            size -= 0.5
        pencil.text(QRectF(0, row.top(), value_right, row.height()), line.value, size, "ink", align=RIGHT | MIDDLE)
        if line.by:  # dotted: it can be taken hold of
            wide = pencil.width_of(line.value, size)
            pencil.line(value_right - wide, middle + px(10), value_right, middle + px(10), "graphite", 1.4, "dot")


class CallCard(QWidget):
    """The card on the right. ``pressed`` is the main button; the rest only shows."""

    pressed = pyqtSignal()
    working = pyqtSignal()
    keys = pyqtSignal()
    by_hand = pyqtSignal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.setObjectName("card")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.scope, self.sentence = ToldLabel("Scope"), ToldLabel("The call")
        self.changes, self.notes = ToldLabel("What would change this"), ToldLabel("Notes")
        self.care = ToldLabel("Care")
        self.pad: QWidget | None = None  # laid over the button at touch size
        self.rows = FigureRows(theme)
        self.stop = QLabel("stop")
        self.button = QPushButton()
        self.button.setProperty("unsure", False)
        self.button.setObjectName("main")
        self.button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.button.clicked.connect(self.pressed)
        self._advice: Advice | None = None
        self._build()
        theme.changed.connect(self.restyle)
        self.restyle()

    def _build(self) -> None:
        for label in (self.scope, self.sentence, self.changes, self.notes, self.care):
            label.setWordWrap(True)
        for label in (self.changes, self.notes):
            label.setAlignment(Qt.AlignmentFlag.AlignTop)
        column = QVBoxLayout(self)
        self.scroller = FadingScroller(self.theme)
        self.scroller.setWidgetResizable(True)
        inside = QWidget()  # figures and what would change them roll together where the window is low
        self.inside = QVBoxLayout(inside)
        self.inside.setContentsMargins(0, 0, 0, 0)
        self.inside.addWidget(self.rows)
        self.inside.addWidget(self.changes)
        self.inside.addWidget(self.notes, 1)
        self.scroller.setWidget(inside)
        self.scroller.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.scroller.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        for widget in (self.scope, self.sentence):
            column.addWidget(widget)
        column.addWidget(self.scroller, 1)
        self.column = column
        column.addWidget(self.button)
        row = QHBoxLayout()
        self.show_working, self.change, self.all_keys = (
            QPushButton("W  working"),
            QPushButton("E  by hand"),
            QPushButton("?  keys"),
        )
        for button, signal in (
            (self.show_working, self.working),
            (self.change, self.by_hand),
            (self.all_keys, self.keys),
        ):
            button.setFlat(True)
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            button.clicked.connect(signal)
            row.addWidget(button)
        column.addLayout(row)
        column.addWidget(self.care)

    def take_pad(self, pad: QWidget) -> None:
        """A pad to type on, above the button."""
        self.pad = pad
        self.column.insertWidget(self.column.indexOf(self.button), pad)

    def restyle(self) -> None:
        c, px = self.theme.palette, self.theme.px
        high = self.theme.target(0) - px(6) if self.theme.touch else 0
        self.setFixedWidth(px(300))
        layout = self.layout()
        assert layout is not None
        layout.setContentsMargins(px(18), px(12), px(18), px(10))
        layout.setSpacing(px(8))
        self.inside.setSpacing(px(8))
        self.setStyleSheet(
            f"QWidget#card {{ background: {c.sheet}; border-left: 1px solid {c.rule}; }}"
            f"QScrollArea, QScrollArea > QWidget > QWidget {{ background: {c.sheet}; }}"
            f"QScrollBar:vertical {{ background: {c.sheet}; }}"
            f"QScrollBar::handle:vertical {{ margin-left: {px(5)}px; }}"  # clear of the figures
            f"QPushButton:flat {{ border: 0; padding: {px(3)}px 0; min-height: {high}px; color: {c.graphite}; font-size: {px(13)}px; background: {c.sheet}; }}"
        )
        self.scope.setStyleSheet(f"color: {c.graphite}; font-size: {px(13)}px;")
        self.care.setStyleSheet(
            f"color: {c.graphite}; font-size: {px(12)}px; border-top: 1px solid {c.rule}; padding-top: {px(6)}px;"
        )
        self.changes.setStyleSheet(f"color: {c.ink}; font-size: {px(13)}px;")
        self.notes.setStyleSheet(f"color: {c.graphite}; font-size: {px(13)}px;")
        if self._advice is not None:
            self.show_advice(self._advice)

    def _lines(self, lines: tuple[str, ...]) -> str:
        return "".join(f"<p style='margin:0 0 {self.theme.px(6)}px 0'>{line}</p>" for line in lines)

    def show_advice(self, advice: Advice) -> None:
        """Show a piece of advice."""
        self._advice = advice
        c, px = self.theme.palette, self.theme.px
        self.scope.setText(advice.scope)
        self.sentence.setText(advice.spoken)
        ground = f"background: {c.look_ground}; padding: {px(6)}px;" if advice.mark is Mark.LOOK else ""
        border = f"border: {px(3)}px dashed {c.ink}; padding: {px(6)}px;" if advice.mark is Mark.STOP else ""
        self.sentence.setStyleSheet(f"font-size: {px(20)}px; font-weight: bold; {ground}{border}")
        self.rows.show_lines(advice.figures)
        grey = f"<span style='color:{c.graphite}'>What would change this</span>" if advice.would_change else ""
        self.changes.setText(grey + self._lines(advice.would_change))
        self.notes.setText(self._lines(advice.notes))
        self.changes.setVisible(bool(advice.would_change))
        self.button.setText(f"{advice.button} ↵" if advice.button else "")
        if self.button.property("unsure") is not advice.unsure:  # before it is shown, which styles it
            self.button.setProperty("unsure", advice.unsure)
            styled_anew(self.button)
        self.button.setVisible(bool(advice.button))
        self.care.setText(advice.care)
