"""The jobs of the logbook, found by number, owner, engine or a word of a note."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial

from PyQt6.QtCore import QModelIndex, pyqtSignal
from PyQt6.QtGui import QKeySequence, QShortcut
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QLineEdit, QPushButton, QVBoxLayout, QWidget

from redline_bore.core.errors import BenchError
from redline_bore.store.job_list import Asked, JobLine
from redline_bore.ui.background import Runner
from redline_bore.ui.frame.job_strip import StripDelegate
from redline_bore.ui.frame.rack import PAGE, Rack, RackModel, today
from redline_bore.ui.session import Session
from redline_bore.ui.theme.theme import Theme

ONLY = {"state": "T", "person": "W", "machine": "M"}  # what the list is narrowed by, and the letter of each


class JobList(QWidget):
    """A list with a search line. ``chosen`` carries the job's number, ``said`` a line for the gauge line and whether it is bad."""

    chosen = pyqtSignal(str)
    said = pyqtSignal(str, bool)

    def __init__(self, session: Session, theme: Theme, runner: Runner) -> None:
        super().__init__()
        self.session, self._runner = session, runner
        self._delegate = StripDelegate(theme)
        self.setObjectName("work")
        self.search = QLineEdit()
        self.search.setPlaceholderText("number, owner, engine or a word of a note")
        self.search.setAccessibleName("Find a job")
        self.list = Rack(RackModel(self._fetch))
        self.list.setAccessibleName("Jobs")
        self.list.setItemDelegate(self._delegate)
        self.none = QLabel()
        self.heading = QLabel("Jobs in the logbook")
        self.heading.setStyleSheet("font-weight: bold;")
        column = QVBoxLayout(self)
        self.shelf, self.put_aside = QPushButton(), QPushButton()
        self.shelf.setCheckable(True)
        self.only = {name: QPushButton() for name in ONLY}
        self.picked = dict.fromkeys(ONLY, "")
        for widget in (self.heading, self.search):
            column.addWidget(widget)
        chips = QHBoxLayout()
        for name, button in self.only.items():
            chips.addWidget(button)
            button.clicked.connect(lambda _checked, of=name: self.turn(of))
            QShortcut(QKeySequence(f"Alt+{ONLY[name]}"), self, partial(self.turn, name))
        chips.addStretch(1)
        column.addLayout(chips)
        column.addWidget(self.none)
        column.addWidget(self.list)
        row = QHBoxLayout()
        row.addWidget(self.put_aside)
        row.addStretch(1)
        row.addWidget(self.shelf)
        column.addLayout(row)
        self.put_aside.clicked.connect(self._set_aside)
        self.shelf.toggled.connect(self.refresh)
        QShortcut(QKeySequence("Alt+A"), self, self._set_aside)
        QShortcut(QKeySequence("Alt+S"), self, self.shelf.toggle)
        self._name_chips()
        self._name_buttons(0)
        self.search.textChanged.connect(self.refresh)
        self.search.returnPressed.connect(self.choose_current)
        self.list.activated.connect(self._choose)
        self.list.clicked.connect(self._choose)

    def refresh(self) -> None:
        """List what is found; the database sifts and searches."""
        logbook, asked = self.session.logbook, self._asked()
        if not self.list.count():
            self.none.setText("Looking.")

        def found(_token: object) -> tuple[list[int], tuple[JobLine, ...], int]:
            ids = logbook.job_ids(asked)
            return ids, logbook.lines(ids[:PAGE]), logbook.count_aside()

        self._runner.quickly("jobs", found, self._show, self._failed)

    def _asked(self) -> Asked:
        state, person, machine = (self.picked[name] for name in ONLY)
        return Asked(self.search.text(), self.shelf.isChecked(), state, person, machine, today())

    def _fetch(self, ids: Sequence[int], then: Callable[[tuple[JobLine, ...]], None]) -> None:
        logbook = self.session.logbook
        self._runner.quickly(f"job lines {ids[0]}", lambda _token: logbook.lines(ids), then, self._failed)

    def _failed(self, error: BaseException) -> None:
        if not isinstance(error, BenchError):
            raise error
        self.said.emit(f"{error}.", True)

    def _show(self, found: tuple[list[int], tuple[JobLine, ...], int]) -> None:
        ids, lines, aside = found
        self.list.rows.lay(ids, lines)
        self._name_chips()
        self._name_buttons(aside)
        empty = not ids
        words = (
            f"No job holds “{self.search.text()}” in its number, owner, engine or notes."
            if self.search.text()
            else "No job is so; Alt and the letter on a button lets all in again."
            if any(self.picked.values())
            else "No job is set aside."
            if self.shelf.isChecked()
            else "No job yet. Ctrl+N books one in."
        )
        self.none.setText(words)
        self.none.setVisible(empty)
        if not empty:
            self.list.setCurrentRow(0)

    def turn(self, name: str) -> None:
        """The next choice of a filter; after the last one all are let in again."""
        logbook = self.session.logbook

        def choices(_token: object) -> tuple[str, ...]:
            if name == "state":
                return ("open", "late", "signed off")
            return logbook.said_in({"person": "people", "machine": "machines"}[name])

        def turned(said: tuple[str, ...]) -> None:
            ways = ("", *said)
            now = ways.index(self.picked[name]) if self.picked[name] in ways else 0
            self.picked[name] = ways[(now + 1) % len(ways)]
            self.refresh()

        self._runner.quickly("job choices", choices, turned, self._failed)

    def _name_chips(self) -> None:
        for name, button in self.only.items():
            said = (
                self.picked[name]
                or {"state": "open and signed off", "person": "everybody", "machine": "every machine"}[name]
            )
            button.setText(f"{said}  Alt+{ONLY[name]}")
            button.setAccessibleName(f"Show by {name}: {said}")

    def _name_buttons(self, count: int) -> None:
        aside = self.shelf.isChecked()
        self.heading.setText("Jobs set aside" if aside else "Jobs in the logbook")
        self.put_aside.setText("Bring it back  Alt+A" if aside else "Set this job aside  Alt+A")
        self.shelf.setText("Back to the list  Alt+S" if aside else f"Set aside: {count}  Alt+S")
        self.shelf.setVisible(aside or count > 0)
        self.put_aside.setVisible(self.list.count() > 0)

    def _set_aside(self) -> None:
        """Set the job that is lit aside, or bring it back; it is kept either way."""
        strip, back = self.list.strip(self.list.currentRow()), self.shelf.isChecked()
        if strip is None:
            return
        try:
            self.session.desk.set_aside(strip.number, not back)
        except BenchError as error:
            self.said.emit(f"{error}.", True)
            return
        self.refresh()
        self.search.setFocus()
        self.said.emit(
            f"Job {strip.number} is in the list again."
            if back
            else f"Job {strip.number} is set aside: kept as it stands, under “Set aside”.",
            False,
        )

    def step(self, down: int) -> None:
        """Up and down in the list while typing in the search."""
        self.list.setCurrentRow(min(max(self.list.currentRow() + down, 0), self.list.count() - 1))

    def choose_current(self) -> None:
        """Open the job that is lit."""
        self._choose(self.list.currentIndex())

    def _choose(self, index: QModelIndex) -> None:
        strip = self.list.strip(index.row())
        if strip is not None:
            self.chosen.emit(strip.number)
