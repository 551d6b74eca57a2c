"""The window in company: what other benches book is on the screen within a second, who is at this job shows, a server that went away and came back
is told, and the house is kept behind it all: what stands beside the ledgers, outboxes, the backup of the day."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtCore import QObject

from redline_bore.core.errors import BenchError
from redline_bore.desk.hand_in import BothRead, HandedIn
from redline_bore.job.kinds.entry import Record
from redline_bore.job.words.handed_in import both_read_words, handed_in_words
from redline_bore.store.backup_folder import backup_of_the_day
from redline_bore.store.rebuild import rebuild
from redline_bore.ui.background import Token
from redline_bore.ui.frame.window_parts import WindowParts
from redline_bore.ui.other_benches import OtherBenches

GIVES_WAY = 2.0  # what is made anew behind the window rests twice as long as it works


class Company(QObject):
    """Made once the logbook is open, behind the first picture; the window ends it when it is closed."""

    def __init__(self, window: WindowParts) -> None:
        super().__init__()
        self.window, self._handing_in = window, False
        self._back_is_told = False  # by what was handed in
        self.benches = OtherBenches(window.session)
        self.benches.heard.connect(self._hear)
        self.benches.present.connect(self._see)
        self.benches.back.connect(self._server_is_back)
        self.benches.trouble.connect(self._trouble)
        self.benches.begin()
        self._keep_house()

    def end(self) -> None:
        """Stop listening."""
        self.benches.stop()

    # -- what others do ------------------------------------------------------------------------------------------------

    def _hear(self, job_id: int, records: tuple[Record, ...]) -> None:
        self._say_both_read(self.window.session.take_in(job_id, records))

    def _say_both_read(self, found: Sequence[BothRead], before: str = "") -> None:
        if found:
            b = found[-1]
            show = self.window.session.show
            told = both_read_words(
                b.cylinder, b.depth_mm, b.clock_deg, (b.here_mm, b.by), (b.other_mm, b.other_by), show
            )
            self.window.line.tell(f"{before}{told}.", True)

    def _see(self, people: tuple[str, ...]) -> None:
        self.window.session.see_company(people)

    def _trouble(self, told: str) -> None:
        covers, self._back_is_told = not told and self._back_is_told, False
        if covers:  # what became of the entries stays to be read
            return
        if self.window.session.open is None or self.window.session.open.rescued_to is None:
            self.window.line.tell(f"{told}." if told else "The logbook can be reached again.", bool(told))

    # -- the server is back --------------------------------------------------------------------------------------------

    def _server_is_back(self) -> None:
        """Hand in what was kept here, off the interface thread; what came in meanwhile follows in a moment of its own."""
        job, desk = self.window.session.open, self.window.session.desk
        if self._handing_in or job is None or job.rescued_to is None:
            return
        self._handing_in, outbox = True, job.rescued_to
        self.window.runner.start(
            "hand in", lambda _token: desk.hand_in_outbox(outbox), self._handed_in, self._not_handed_in
        )

    def _handed_in(self, found: tuple[HandedIn, ...]) -> None:
        self._handing_in = False
        try:
            found = (*found, *self.window.session.back_at_server())
        except BenchError as error:
            self._not_handed_in(error)
            return
        told, self._back_is_told = f"The server is back: {_told(found)}", True
        self.window.line.show_kept(self.window.session.records[-1])  # its place is the server's now
        self.window.line.tell(told, any(x.refused for x in found))
        self._say_both_read([b for x in found for b in x.both_read], f"{told} ")

    def _not_handed_in(self, error: BaseException) -> None:
        self._handing_in = False
        if not isinstance(error, BenchError):
            raise error
        self.window.line.tell(f"{error}.", True)

    # -- behind it all -------------------------------------------------------------------------------------------------

    def _keep_house(self) -> None:
        desk, logbook = self.window.session.desk, self.window.session.logbook

        def work(token: Token) -> tuple[list[HandedIn], Path | None]:
            handed = list[HandedIn]()
            if logbook.read_only:
                return handed, None
            rebuild(logbook, lambda _done, _of: token.check(), all_of_them=False, rest=GIVES_WAY)
            for outbox in desk.outboxes():
                found = desk.hand_in_outbox(outbox)
                handed += found
                if not any(x.refused for x in found):
                    desk.put_away(outbox)
            return handed, backup_of_the_day(logbook)

        self.window.runner.start("keep house", work, self._house_kept, self._not_handed_in)

    def _house_kept(self, kept: tuple[list[HandedIn], Path | None]) -> None:
        handed, backup = kept
        if handed:
            self.window.session.look_again()
            odd = any(x.refused for x in handed)
            self.window.line.tell(f"Kept here while the server was away, handed in now: {_told(handed)}", odd)
        elif backup is not None:
            self.window.line.tell(f"The backup of the day is made: {backup}", False)


def _told(found: Sequence[HandedIn]) -> str:
    """What became of each job; one that was handed in in two goes is said once."""
    by_number: dict[str, HandedIn] = {}
    for x in found:
        if x.number not in by_number or x.taken or x.whole:
            by_number[x.number] = x
    return "; ".join(handed_in_words(x.number, x.whole, x.taken, x.there, x.refused) for x in by_number.values()) + "."
