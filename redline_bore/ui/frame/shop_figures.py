"""Shop figures: every figure that ships, with its source; the shop's own is typed in its place and kept."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from redline_bore.core import written
from redline_bore.core.errors import BenchError, InputError
from redline_bore.core.figures import Figure, checked_value, figure_name
from redline_bore.ui.session import Session


def value_text(figure: Figure) -> str:
    """The value as it is typed: a row of figures with spaces between."""
    if isinstance(figure.value, tuple):
        return " ".join(f"{v:g}" for v in figure.value)
    return figure.value if isinstance(figure.value, str) else f"{figure.value:g}"


def value_from_text(figure: Figure, text: str) -> object:
    """What was typed as a value of the figure's kind. Raises InputError with what is wanted."""
    if isinstance(figure.value, str):
        return checked_value(figure, text)
    try:
        numbers = [float(word.replace(",", ".")) for word in text.split()]
    except ValueError:
        raise InputError(
            f"“{text.strip()}” is not a number; {value_text(figure)} {figure.unit} stands here now"
        ) from None
    found = checked_value(
        figure, numbers if isinstance(figure.value, tuple) else numbers[0] if len(numbers) == 1 else numbers
    )
    return list(found) if isinstance(found, tuple) else found


class ShopFigures(QWidget):
    """Find a figure, type the shop's own, Enter keeps it. A job keeps the figures it was opened with."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setObjectName("work")
        self.search, self.value = QLineEdit(), QLineEdit()
        self.search.setPlaceholderText("find a figure: skin, clearance, steel ...")
        self.search.setAccessibleName("Find a figure")
        self.value.setAccessibleName("The shop's own value")
        self.list = QListWidget()
        self.list.setAccessibleName("Figures")
        self.about, self.said = QLabel(), QLabel()
        self.about.setWordWrap(True)
        self.said.setWordWrap(True)
        self.back = QPushButton("Take the shipped figure again")
        self.keep = QPushButton("Keep as the shop's own")
        heading = QLabel("Shop figures")
        heading.setStyleSheet("font-weight: bold;")
        note = QLabel("Used for jobs booked in from now on. A job keeps the figures it was opened with.")
        row = QHBoxLayout()
        for part in (self.value, self.keep, self.back):
            row.addWidget(part)
        column = QVBoxLayout(self)
        for widget in (heading, note, self.search, self.list, self.about):
            column.addWidget(widget)
        column.addLayout(row)
        column.addWidget(self.said)
        self.search.textChanged.connect(self.refresh)
        self.list.currentItemChanged.connect(self._look)
        self.value.returnPressed.connect(self.keep_value)
        self.keep.clicked.connect(self.keep_value)
        self.back.clicked.connect(self.take_shipped)

    def refresh(self) -> None:
        """List the figures that hold the words searched for."""
        words, here = self.search.text().lower().split(), self._key()
        self.list.clear()
        for figure in self.session.figures:
            plain = f"{figure.key} {figure.note}".replace("_", " ").replace(".", " ").lower()
            if all(word in plain for word in words):
                mine = "   · the shop's own" if figure.own else ""
                shown = value_text(figure).replace(" ", "–" if figure.note == "range" else "  ")
                item = QListWidgetItem(written.shown(f"{figure_name(figure.key)}   {shown} {figure.unit}{mine}"))
                item.setData(Qt.ItemDataRole.UserRole, figure.key)
                self.list.addItem(item)
                if figure.key == here:
                    self.list.setCurrentItem(item)
        if self.list.currentRow() < 0 and self.list.count():
            self.list.setCurrentRow(0)

    def _key(self) -> str | None:
        item = self.list.currentItem()
        return None if item is None else str(item.data(Qt.ItemDataRole.UserRole))

    def _look(self) -> None:
        key = self._key()
        if key is None:
            return
        figure = self.session.figures.figure(key)
        note = f"{figure.note}. " if figure.note else ""
        self.about.setText(written.shown(f"{note}In {figure.unit}. Source: {figure.source}."))
        self.value.setText(written.shown(value_text(figure)))
        self.back.setEnabled(figure.own)

    def keep_value(self) -> None:
        """Book what is typed as the shop's own; a refusal says why and keeps what was typed."""
        key = self._key()
        if key is None:
            return
        try:
            self._set(key, value_from_text(self.session.figures.figure(key), written.typed(self.value.text())))
        except BenchError as error:
            self.said.setText(written.shown(f"Not kept: {error}."))

    def take_shipped(self) -> None:
        """Take the shop's own figure back."""
        key = self._key()
        if key is not None:
            self._set(key, None)

    def _set(self, key: str, value: object) -> None:
        self.session.desk.figures = self.session.logbook.set_figure(key, value, self.session.person)
        self.said.setText(f"Kept: {key} is {written.shown(value_text(self.session.figures.figure(key)))}.")
        self.refresh()
