"""The jobs of the logbook, found by number, owner or engine."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeySequence, QShortcut
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

from redline_bore.core.errors import BenchError
from redline_bore.core.when import local, moment
from redline_bore.job.state.booking import ENGINE_NOT_SAID, OWNER_NOT_SAID
from redline_bore.job.state.job_state import STEPS
from redline_bore.ui.frame.job_strip import STRIP, Strip, StripDelegate
from redline_bore.ui.session import Session
from redline_bore.ui.theme.theme import Theme

if TYPE_CHECKING:
    from redline_bore.store.logbook import JobLine


class JobList(QWidget):
    """A list with a search line. ``chosen`` carries the job's number, ``said`` a line for the gauge line and whether it is bad."""

    chosen = pyqtSignal(str)
    said = pyqtSignal(str, bool)

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session = session
        self._delegate = StripDelegate(theme)
        self.setObjectName("work")
        self.search = QLineEdit()
        self.search.setPlaceholderText("number, owner or engine")
        self.search.setAccessibleName("Find a job")
        self.list = QListWidget()
        self.list.setAccessibleName("Jobs")
        self.list.setItemDelegate(self._delegate)
        self.none = QLabel()
        self.heading = QLabel("Jobs in the logbook")
        self.heading.setStyleSheet("font-weight: bold;")
        column = QVBoxLayout(self)
        self.shelf, self.put_aside = QPushButton(), QPushButton()
        self.shelf.setCheckable(True)
        for widget in (self.heading, self.search, self.none, self.list):
            column.addWidget(widget)
        row = QHBoxLayout()
        row.addWidget(self.put_aside)
        row.addStretch(1)
        row.addWidget(self.shelf)
        column.addLayout(row)
        self.put_aside.clicked.connect(self._set_aside)
        self.shelf.toggled.connect(self.refresh)
        QShortcut(QKeySequence("Alt+A"), self, self._set_aside)
        QShortcut(QKeySequence("Alt+S"), self, self.shelf.toggle)
        self.search.textChanged.connect(self.refresh)
        self.search.returnPressed.connect(self.choose_current)
        self.list.itemActivated.connect(self._choose)
        self.list.itemClicked.connect(self._choose)

    def refresh(self) -> None:
        """List what is found."""
        self.list.clear()
        found = self.session.logbook.jobs(self.search.text())
        aside = self.shelf.isChecked()
        stamped = self.session.logbook.stamped()
        for line in (j for j in found if bool(j.aside) == aside):
            strip = _strip(line, stamped.get(line.job_id, ()))
            item = QListWidgetItem(strip.text)
            item.setData(Qt.ItemDataRole.UserRole, line.number)
            item.setData(STRIP, strip)
            self.list.addItem(item)
        self._name_buttons(sum(bool(j.aside) for j in found))
        empty = self.list.count() == 0
        words = (
            f"No job holds “{self.search.text()}” in its number, owner or engine."
            if self.search.text()
            else "No job is set aside."
            if aside
            else "No job yet. Ctrl+N books one in."
        )
        self.none.setText(words)
        self.none.setVisible(empty)
        if not empty:
            self.list.setCurrentRow(0)

    def _name_buttons(self, count: int) -> None:
        aside = self.shelf.isChecked()
        self.heading.setText("Jobs set aside" if aside else "Jobs in the logbook")
        self.put_aside.setText("Bring it back  Alt+A" if aside else "Set this job aside  Alt+A")
        self.shelf.setText("Back to the list  Alt+S" if aside else f"Set aside: {count}  Alt+S")
        self.shelf.setVisible(aside or count > 0)
        self.put_aside.setVisible(self.list.count() > 0)

    def _set_aside(self) -> None:
        """Set the job that is lit aside, or bring it back; it is kept either way."""
        item, back = self.list.currentItem(), self.shelf.isChecked()
        if item is None:
            return
        number = str(item.data(Qt.ItemDataRole.UserRole))
        try:
            self.session.desk.set_aside(number, not back)
        except BenchError as error:
            self.said.emit(f"{error}.", True)
            return
        self.refresh()
        self.search.setFocus()
        self.said.emit(
            f"Job {number} is in the list again."
            if back
            else f"Job {number} is set aside: kept as it stands, under “Set aside”.",
            False,
        )

    def step(self, down: int) -> None:
        """Up and down in the list while typing in the search."""
        self.list.setCurrentRow(min(max(self.list.currentRow() + down, 0), self.list.count() - 1))

    def choose_current(self) -> None:
        item = self.list.currentItem()
        if item is not None:
            self._choose(item)

    def _choose(self, item: QListWidgetItem) -> None:
        self.chosen.emit(str(item.data(Qt.ItemDataRole.UserRole)))


def _strip(line: JobLine, done: tuple[str, ...]) -> Strip:
    at = local(line.last_at)
    when = line.last_at[:40] if at is None else f"{at:%d %b %Y %H:%M}"
    aside = ""
    if line.aside:
        who, since = line.aside.rsplit(" ", 1)
        aside = f"set aside by {who or 'somebody'}, {moment(since)}"
    if line.step not in STEPS:
        aside = aside or f"stands at “{line.step[:20]}”, no step of this trade"
    return Strip(line.number, line.owner or OWNER_NOT_SAID, line.engine or ENGINE_NOT_SAID, done, when, aside)
