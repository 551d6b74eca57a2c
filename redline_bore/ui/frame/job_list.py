"""The jobs of the logbook, found by number, owner or engine."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QLabel, QLineEdit, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from redline_bore.core.when import local
from redline_bore.job.state.job_state import STEP_TITLES
from redline_bore.ui.session import Session


class JobList(QWidget):
    """A list with a search line. ``chosen`` carries the job's number."""

    chosen = pyqtSignal(str)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setObjectName("work")
        self.search = QLineEdit()
        self.search.setPlaceholderText("number, owner or engine")
        self.search.setAccessibleName("Find a job")
        self.list = QListWidget()
        self.list.setAccessibleName("Jobs")
        self.none = QLabel()
        self.heading = QLabel("Jobs in the logbook")
        self.heading.setStyleSheet("font-weight: bold;")
        column = QVBoxLayout(self)
        for widget in (self.heading, self.search, self.none, self.list):
            column.addWidget(widget)
        self.search.textChanged.connect(self.refresh)
        self.search.returnPressed.connect(self.choose_current)
        self.list.itemActivated.connect(self._choose)
        self.list.itemClicked.connect(self._choose)

    def refresh(self) -> None:
        """List what is found."""
        self.list.clear()
        for line in self.session.logbook.jobs(self.search.text()):
            at, last = local(line.last_at), STEP_TITLES.get(line.step, line.step).lower()
            when = line.last_at[:40] if at is None else f"{at:%d %b %Y %H:%M}"
            text = f"{line.number}   {line.owner}\n{line.engine} · {last} stamped last · {when}"
            item = QListWidgetItem(text)
            item.setData(Qt.ItemDataRole.UserRole, line.number)
            self.list.addItem(item)
        empty = self.list.count() == 0
        words = (
            f"No job holds “{self.search.text()}” in its number, owner or engine."
            if self.search.text()
            else "No job yet. Ctrl+N books one in."
        )
        self.none.setText(words)
        self.none.setVisible(empty)
        if not empty:
            self.list.setCurrentRow(0)

    def step(self, down: int) -> None:
        """Up and down in the list while typing in the search."""
        self.list.setCurrentRow(min(max(self.list.currentRow() + down, 0), self.list.count() - 1))

    def choose_current(self) -> None:
        item = self.list.currentItem()
        if item is not None:
            self._choose(item)

    def _choose(self, item: QListWidgetItem) -> None:
        self.chosen.emit(str(item.data(Qt.ItemDataRole.UserRole)))
