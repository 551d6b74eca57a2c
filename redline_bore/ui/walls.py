"""The walls of the open job, worked out off the interface thread and shared by every view that shows one."""

from __future__ import annotations

from collections.abc import Iterable
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, pyqtSignal

from redline_bore.core.errors import FitError
from redline_bore.ui.background import Runner, Token
from redline_bore.ui.session import Session

if TYPE_CHECKING:
    from redline_bore.ui.paint.wall_picture import WallKey, WallPicture

SOON_MS = 25  # a booked reading is painted before the walls are worked out anew
TOPICS = frozenset({"readings", "plan", "plate", "book_in", "temperature", "gauge", "job", "units", "all"})


class Walls(QObject):
    """What is wanted is worked out once and kept until the job changes; the newest request wins."""

    ready = pyqtSignal()

    def __init__(self, session: Session, runner: Runner) -> None:
        super().__init__()
        self._session, self.runner = session, runner
        self._found: dict[WallKey, WallPicture | str] = {}
        self._wanted: tuple[WallKey, ...] = ()
        session.changed.connect(self._heard)

    def picture(self, key: WallKey) -> WallPicture | None:
        """A wall, as far as it is worked out."""
        found = self._found.get(key)
        return None if isinstance(found, str) else found

    def reason(self, key: WallKey) -> str:
        """Why there is no such wall; empty while it is being worked out."""
        found = self._found.get(key)
        return found if isinstance(found, str) else ""

    def want(self, keys: Iterable[WallKey]) -> None:
        """Have these walls worked out, those that are not yet."""
        self._wanted = tuple(keys)
        self._work_out([key for key in self._wanted if key not in self._found])

    def _heard(self, topics: frozenset[str]) -> None:
        if "job" in topics or "units" in topics:
            self._found.clear()
        if topics & TOPICS and self._wanted and self._session.state is not None:
            cylinders = self._session.state.cylinders
            self._found = {k: v for k, v in self._found.items() if k in self._wanted}  # shown until the new ones stand
            self._work_out([key for key in self._wanted if key.cylinder in cylinders])

    def _work_out(self, keys: list[WallKey]) -> None:
        state, units = self._session.state, self._session.bench.units
        if not keys or state is None:
            return

        def work(token: Token) -> dict[WallKey, WallPicture | str]:
            from redline_bore.ui.paint.wall_picture import wall_of

            found: dict[WallKey, WallPicture | str] = {}
            for key in keys:
                token.check()
                try:
                    found[key] = wall_of(state, key, units)
                except FitError as error:
                    found[key] = f"{error}."
            return found

        self.runner.start("wall", work, self._take, after_ms=SOON_MS)

    def _take(self, found: dict[WallKey, WallPicture | str]) -> None:
        self._found |= found
        self.ready.emit()
