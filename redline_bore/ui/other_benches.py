"""The other benches at one logbook: what they book comes in, who is at this job is known, and a server that went away is looked for.

All of it on a thread of its own: the window waits for no other machine.
"""

from __future__ import annotations

import threading
import time
from contextlib import suppress
from os import getpid
from platform import node

from PyQt6.QtCore import QObject, pyqtSignal

from redline_bore.core.errors import BenchError, LogbookBusy, ServerAway
from redline_bore.desk.open_job import SERVER_AWAY
from redline_bore.ui.session import Session

LISTEN_S = 0.5  # at a stretch; what was booked elsewhere is on the screen within a second
AWAY_S = 2.0  # between two tries to reach a server
PRESENT_S = 15.0  # between two words of being here
LOOK_S = 2.0  # between two looks at who else is


class OtherBenches(QObject):
    """heard: a job's id and the records that others booked in it. present: who else is at this job. back: the server can be reached again.
    trouble: what keeps this bench from hearing anything, empty once it hears again."""

    heard = pyqtSignal(int, object)
    present = pyqtSignal(object)
    back = pyqtSignal()
    trouble = pyqtSignal(str)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session, self._logbook = session, session.logbook
        self._bench = f"{node()[:40]} {getpid()} {id(self):x}"
        self._stop, self._deaf = threading.Event(), ""
        self._told_at, self._told_job, self._looked_at = -PRESENT_S, 0, -LOOK_S
        self._others: tuple[str, ...] = ()
        self._thread = threading.Thread(target=self._listen, name="other benches", daemon=True)

    def begin(self) -> None:
        """Listen from here on. Not before whoever hears it is connected: what the first look finds is said once."""
        self._thread.start()

    def stop(self) -> None:
        """Stop listening."""
        self._stop.set()
        self._thread.join()

    def _listen(self) -> None:
        try:
            while not self._stop.is_set():
                self._turn()
        finally:
            self._logbook.stop_listening()

    def _turn(self) -> None:
        job = self._session.open
        try:
            if job is not None and job.waits_for_server:
                self._say_others(())  # who is there now nobody here can know
                self._look_for_server()
                return
            news = self._logbook.heard(LISTEN_S)
            if job is not None and (news or self._deaf):
                records = self._logbook.ledger(job.job_id, job.records[-1].seq)
                if records:
                    self.heard.emit(job.job_id, records)
            self._say_present(0 if job is None else job.job_id)
            self._hear("")
        except BenchError as error:
            self._hear(SERVER_AWAY if isinstance(error, ServerAway) else str(error))
            self._stop.wait(AWAY_S)

    def _hear(self, trouble: str) -> None:
        if bool(trouble) != bool(self._deaf):
            self.trouble.emit(trouble)
        self._deaf = trouble

    def _look_for_server(self) -> None:
        try:
            self._logbook.reach()
        except ServerAway:
            self._stop.wait(AWAY_S)
            return
        self.back.emit()
        self._stop.wait(AWAY_S)

    def _say_present(self, job_id: int) -> None:
        """Say who is here, now and then and when another job is taken up; and learn who else is at it."""
        now, read_only = time.monotonic(), self._logbook.read_only
        tell = not read_only and (now - self._told_at >= PRESENT_S or job_id != self._told_job)
        if not tell and now - self._looked_at < LOOK_S:
            return
        if tell:
            with suppress(LogbookBusy):  # then it is said in the next turn
                self._logbook.say_present(self._bench, self._session.person, job_id)
                self._told_at, self._told_job = now, job_id
        self._looked_at = now
        self._say_others(self._logbook.who_is_at(job_id, self._bench) if job_id else ())

    def _say_others(self, others: tuple[str, ...]) -> None:
        if others != self._others:
            self._others = others
            self.present.emit(others)
