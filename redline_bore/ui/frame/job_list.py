"""The jobs of the logbook, found by number, owner or engine."""

from __future__ import annotations

from datetime import datetime
from functools import partial
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
from redline_bore.store.logbook import Glance
from redline_bore.ui.frame.job_strip import STRIP, Strip, StripDelegate
from redline_bore.ui.session import Session
from redline_bore.ui.theme.theme import Theme

if TYPE_CHECKING:
    from redline_bore.store.logbook import JobLine


ONLY = {"state": "T", "person": "W", "machine": "M"}  # what the list is narrowed by, and the letter of each


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
        self._seen: dict[int, Glance] = {}
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
        self.search.textChanged.connect(self.refresh)
        self.search.returnPressed.connect(self.choose_current)
        self.list.itemActivated.connect(self._choose)
        self.list.itemClicked.connect(self._choose)

    def refresh(self) -> None:
        """List what is found."""
        self.list.clear()
        found = self.session.logbook.jobs(self.search.text())
        aside = self.shelf.isChecked()
        strips = [_strip(j, self._seen.get(j.job_id, Glance())) for j in found if bool(j.aside) == aside]
        self._name_chips(strips)
        for strip in sorted((s for s in strips if self._wanted(s)), key=lambda s: s.order):
            item = QListWidgetItem(strip.text)
            item.setData(Qt.ItemDataRole.UserRole, strip.number)
            item.setData(STRIP, strip)
            self.list.addItem(item)
        self._name_buttons(sum(bool(j.aside) for j in found))
        empty = self.list.count() == 0
        words = (
            f"No job holds “{self.search.text()}” in its number, owner or engine."
            if self.search.text()
            else "No job is so; Alt and the letter on a button lets all in again."
            if any(self.picked.values())
            else "No job is set aside."
            if aside
            else "No job yet. Ctrl+N books one in."
        )
        self.none.setText(words)
        self.none.setVisible(empty)
        if not empty:
            self.list.setCurrentRow(0)

    def look_anew(self) -> None:
        """Read what the strips show; typing in the search looks among that."""
        self._seen = self.session.logbook.at_a_glance()
        self.refresh()

    def _wanted(self, strip: Strip) -> bool:
        state, person, machine = (self.picked[n] for n in ONLY)
        stands = {"": True, "open": bool(strip.next), "signed off": not strip.next, "late": strip.late}[state]
        return stands and (not person or person in strip.people) and (not machine or machine in strip.machines)

    def _choices(self, strips: list[Strip]) -> dict[str, tuple[str, ...]]:
        people = dict.fromkeys(p for s in strips for p in s.people if p)
        machines = dict.fromkeys(m for s in strips for m in s.machines)
        return {
            "state": ("open", "late", "signed off"),
            "person": tuple(sorted(people)),
            "machine": tuple(sorted(machines)),
        }

    def turn(self, name: str) -> None:
        """The next choice of a filter; after the last one all are let in again."""
        strips = [_strip(j, self._seen.get(j.job_id, Glance())) for j in self.session.logbook.jobs()]
        ways = ("", *self._choices(strips)[name])
        now = ways.index(self.picked[name]) if self.picked[name] in ways else 0
        self.picked[name] = ways[(now + 1) % len(ways)]
        self.refresh()

    def _name_chips(self, strips: list[Strip]) -> None:
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


def _strip(line: JobLine, seen: Glance) -> Strip:
    at = local(line.last_at)
    when = line.last_at[:40] if at is None else f"{at:%d %b %Y %H:%M}"
    aside = ""
    if line.aside:
        who, since = line.aside.rsplit(" ", 1)
        aside = f"set aside by {who or 'somebody'}, {moment(since)}"
    if line.step not in STEPS:
        aside = aside or f"stands at “{line.step[:20]}”, no step of this trade"
    return Strip(
        line.number,
        line.owner or OWNER_NOT_SAID,
        line.engine or ENGINE_NOT_SAID,
        seen.done,
        when,
        aside,
        seen.promised,
        datetime.now().astimezone().date().isoformat(),
        seen.people,
        seen.machines,
        seen.waits_for,
    )
