"""The rack of jobs: a view on as many lines as there are, of which only those in sight are read."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtCore import QAbstractListModel, QModelIndex, Qt
from PyQt6.QtWidgets import QListView, QWidget

from redline_bore.core.when import day, local, moment, now
from redline_bore.job.state.booking import ENGINE_NOT_SAID, OWNER_NOT_SAID
from redline_bore.job.state.job_state import STEPS
from redline_bore.store.job_list import JobLine
from redline_bore.ui.frame.job_strip import STRIP, Strip

PAGE = 40  # lines read at a time
SHOWN = 200  # rows the view knows of at first; more come as one goes down: Qt asks after every row it knows of

Fetch = Callable[[Sequence[int], Callable[[tuple[JobLine, ...]], None]], None]


class RackModel(QAbstractListModel):
    """Jobs by their ids; the line of each is fetched when it is first looked at, a page at a time."""

    def __init__(self, fetch: Fetch) -> None:
        super().__init__()
        self._fetch = fetch
        self.ids: list[int] = []
        self._strips: dict[int, Strip] = {}
        self._asked: set[int] = set()
        self._shown = 0

    def lay(self, ids: list[int], lines: Sequence[JobLine]) -> None:
        """Other jobs, and the lines of the first of them."""
        self.beginResetModel()
        self._shown = min(len(ids), SHOWN)
        self.ids, self._strips, self._asked = ids, {line.job_id: strip_of(line) for line in lines}, set()
        self.endResetModel()

    def rowCount(self, parent: QModelIndex | None = None) -> int:
        """How many jobs there are."""
        return 0 if parent is not None and parent.isValid() else self._shown

    def canFetchMore(self, parent: QModelIndex) -> bool:
        """Whether there are more than the view knows of."""
        return not parent.isValid() and self._shown < len(self.ids)

    def fetchMore(self, parent: QModelIndex) -> None:
        """Let the view know of some more."""
        more = min(self._shown + SHOWN, len(self.ids))
        self.beginInsertRows(parent, self._shown, more - 1)
        self._shown = more
        self.endInsertRows()

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        """The text, the strip (STRIP) or the number (UserRole) of a job; nothing while its line is on the way."""
        if not 0 <= index.row() < len(self.ids):
            return None
        strip = self.strip(index.row())
        if strip is None:
            return "…" if role == Qt.ItemDataRole.DisplayRole else None
        said = {
            int(Qt.ItemDataRole.DisplayRole): strip.text, int(Qt.ItemDataRole.UserRole): strip.number, int(STRIP): strip,
            int(Qt.ItemDataRole.AccessibleTextRole): strip.text,
        }  # fmt: skip
        return said.get(int(role))

    def strip(self, row: int) -> Strip | None:
        """The strip of a row; None while its line is on the way."""
        job = self.ids[row]
        if job not in self._strips and job not in self._asked:
            first = row - row % PAGE
            wanted = [i for i in self.ids[first : first + PAGE] if i not in self._strips]
            self._asked.update(wanted)
            self._fetch(wanted, self._take)
        return self._strips.get(job)

    def _take(self, lines: tuple[JobLine, ...]) -> None:
        self._strips |= {line.job_id: strip_of(line) for line in lines}
        if self.ids:
            self.dataChanged.emit(self.index(0), self.index(self._shown - 1))


class Rack(QListView):
    """A view on the model, walked by rows."""

    def __init__(self, model: RackModel, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.rows = model
        model.setParent(self)  # so that it never ends before the view on it
        self.setModel(model)
        self.setUniformItemSizes(True)

    def count(self) -> int:
        """How many jobs there are."""
        return len(self.rows.ids)

    def currentRow(self) -> int:
        """The row that is lit, from 0; −1 for none."""
        return self.currentIndex().row()

    def setCurrentRow(self, row: int) -> None:
        """Light a row."""
        while row >= self.rows.rowCount() and self.rows.canFetchMore(QModelIndex()):
            self.rows.fetchMore(QModelIndex())
        self.setCurrentIndex(self.rows.index(row))

    def strip(self, row: int) -> Strip | None:
        """The strip of a row."""
        return self.rows.strip(row) if 0 <= row < self.count() else None


def strip_of(line: JobLine) -> Strip:
    """A line as the rack draws it."""
    at = local(line.last_at)
    when = line.last_at[:40] if at is None else f"{at:%d %b %Y %H:%M}"
    aside = ""
    if line.aside:
        who, since = line.aside.rsplit(" ", 1)
        aside = f"set aside by {who or 'somebody'}, {moment(since)}"
    if line.step not in STEPS:
        aside = aside or f"stands at “{line.step[:20]}”, no step of this trade"
    return Strip(
        line.number, line.owner or OWNER_NOT_SAID, line.engine or ENGINE_NOT_SAID, line.done, when, aside, line.promised, today(), line.people,
        line.machines, line.waits_for,
    )  # fmt: skip


def today() -> str:
    """The day by which late is judged, here."""
    return day(now())
