"""A server's logbook while the wire is cut, the server dies or the bench does: what was acknowledged is there, once, in order, after all is back."""

from __future__ import annotations

import os
import random
import socket
import threading
import time
from contextlib import suppress
from dataclasses import replace
from functools import cache
from pathlib import Path

from redline_bore.core.errors import BenchError, ServerAway
from redline_bore.desk.desk import Desk
from redline_bore.desk.open_job import OpenJob
from redline_bore.job.kinds.book_in import JobOpened
from redline_bore.job.kinds.gauge import ReadingBooked
from redline_bore.store.job_file import job_from_json
from redline_bore.store.logbook import Logbook
from redline_bore.store.places import outboxes_of
from redline_bore.store.prepare import prepare
from redline_bore.store.rebuild import rebuild
from redline_bore.store.shop import shipped_figures
from redline_bore.store.verify import verified
from tools.faults.benches import WHO, Faults, Told, job_text, killed
from tools.servers import BENCH, Server, binaries

BOOKED = 6  # readings an open job is given
WHOLE_SHARE = 0.04  # of the kills of a server after which all of its logbook is looked at
MOST_BYTES = 9000  # that so many bookings send both ways
WHOLE = 10**9


class Wire:
    """Stands between a bench and the server, and is cut after so many bytes, wherever in the protocol that is."""

    def __init__(self, port: int) -> None:
        self._to, self._left, self._lock = port, WHOLE, threading.Lock()
        self._open: list[socket.socket] = []
        self._door = socket.create_server(("127.0.0.1", 0))
        self.port = int(self._door.getsockname()[1])
        threading.Thread(target=self._serve, daemon=True).start()

    def cut_after(self, count: int) -> None:
        """Cut it after so many bytes from here on."""
        with self._lock:
            self._left = count

    def mend(self) -> None:
        """Let everything through again."""
        self.cut_after(WHOLE)

    def _serve(self) -> None:
        while True:
            with suppress(OSError):
                near, _ = self._door.accept()
                if self._left <= 0:
                    near.close()
                    continue
                far = socket.create_connection(("127.0.0.1", self._to))
                for a, b in ((near, far), (far, near)):
                    threading.Thread(target=self._carry, args=(a, b), daemon=True).start()

    def _carry(self, a: socket.socket, b: socket.socket) -> None:
        with suppress(OSError):
            while data := a.recv(65536):
                with self._lock:
                    through, self._left = data[: max(self._left, 0)], self._left - len(data)
                b.sendall(through)
                if len(through) < len(data):
                    break
        for s in (a, b):
            with suppress(OSError):
                s.shutdown(socket.SHUT_RDWR)
            s.close()


@cache
def _place() -> tuple[Server, Wire, str]:
    """One server for a campaign, and the wire to it."""
    programs = binaries()
    assert programs is not None
    server = Server(programs)
    server.sql(f"CREATE ROLE {BENCH} LOGIN")
    name = server.database()
    prepare(server.url(name))
    server.sql(f"GRANT redline_benches TO {BENCH}")
    return server, Wire(server.port), name


@cache
def _opening() -> JobOpened:
    opening = job_from_json(job_text("0.6.0-2047"), shipped_figures()).ledger[0].entry
    assert isinstance(opening, JobOpened)
    return opening


def _new_job(folder: Path, number: str) -> str:
    """A job of that number at the server; returns the address through the wire. Outboxes go into ``folder``."""
    os.environ["XDG_DATA_HOME"] = str(folder)
    server, wire, name = _place()
    wire.mend()
    book = Logbook(server.url(name))
    book.open_job(replace(_opening(), number=number), WHO)
    book.close()
    return server.url(name, BENCH, wire.port)


def _reading(n: int) -> ReadingBooked:
    return ReadingBooked(cylinder=1, depth_mm=20.0, clock_deg=90.0, diameter_mm=78.0 + n / 1e6, plate_on=False)


def _number(chance: random.Random) -> str:
    return f"w{chance.getrandbits(60):x}"


def _back(desk: Desk, job: OpenJob) -> OpenJob:
    """Hand in until it is done, as the window does."""
    for _ in range(50):
        try:
            return desk.back_at_server(job)[0] if job.waits_for_server else job
        except ServerAway:
            time.sleep(0.02)
    raise AssertionError("the server is back, and nothing can be handed in")


def _as_booked(number: str, wanted: list[int], url: str) -> Faults:
    """What is wrong with a job at the server: the readings ``wanted``, once each, in order, and nothing else."""
    server, _wire, name = _place()
    book = Logbook(server.url(name))
    try:
        ledger = book.ledger(book.job_id(number))
        sizes = [round((r.entry.diameter_mm - 78.0) * 1e6) for r in ledger[1:] if isinstance(r.entry, ReadingBooked)]
        wrong = [] if sizes == wanted else [f"booked {wanted}, there {sizes}"]
        left = outboxes_of(url)
        return wrong + ([] if not left else [f"{len(left)} outboxes were left"])
    finally:
        book.close()


def wire_cut(folder: Path, chance: random.Random) -> Faults:
    """Cut while booking, and perhaps again while handing in; then everything is there once."""
    number = _number(chance)
    url = _new_job(folder, number)
    _server, wire, _name = _place()
    desk = Desk(lambda: Logbook(url), shipped_figures(), WHO)
    job = desk.open(number)
    wire.cut_after(chance.randrange(MOST_BYTES))
    for n in range(BOOKED):
        job.book(_reading(n))
    if chance.random() < 0.5:
        wire.cut_after(chance.randrange(MOST_BYTES))
        with suppress(ServerAway):
            job = desk.back_at_server(job)[0] if job.waits_for_server else job
    wire.mend()
    job = _back(desk, job)
    for n in range(BOOKED, BOOKED + 2):
        job.book(_reading(n))
    job = _back(desk, job)  # a connection that was cut while it lay idle is noticed now
    desk.close()
    return _as_booked(number, list(range(BOOKED + 2)), url)


def server_killed(folder: Path, chance: random.Random) -> Faults:
    """The server dies at once while a bench books, and is started again."""
    number = _number(chance)
    url = _new_job(folder, number)
    server, _wire, name = _place()
    desk = Desk(lambda: Logbook(url), shipped_figures(), WHO)
    job = desk.open(number)
    killer = threading.Timer(chance.uniform(0.0, 0.03), server.kill)
    killer.start()
    for n in range(4 * BOOKED):
        job.book(_reading(n))
    killer.join()
    server.start()
    job = _back(desk, job)
    job.book(_reading(4 * BOOKED))
    job = _back(desk, job)
    desk.close()
    book = Logbook(server.url(name))
    faults = [f"beside {n}: not as made anew" for n in [book.made_anew(book.job_id(number))] if n]
    if chance.random() < WHOLE_SHARE:  # it grows by a job a kill
        faults += list(verified(book).faults) + [f"beside {n}: not as made anew" for n in rebuild(book).other]
    book.close()
    return _as_booked(number, list(range(4 * BOOKED + 1)), url) + faults


def bench_killed(folder: Path, chance: random.Random) -> Faults:
    """The bench dies, the wire being cut or not; started again it hands in what it kept."""
    number, cut = _number(chance), chance.randrange(MOST_BYTES)
    url = _new_job(folder, number)
    _server, wire, _name = _place()

    def work(told: Told) -> None:
        desk = Desk(lambda: Logbook(url), shipped_figures(), WHO)
        try:
            job = desk.open(number)
        except (
            ServerAway
        ):  # a busy machine opens it so late that the wire is cut by then: nothing is told, nothing kept
            return
        told("open")
        for n in range(400):
            job.book(_reading(n))
            told(str(n))

    if chance.random() < 0.7:
        threading.Timer(0.1, wire.cut_after, (cut,)).start()
    told = killed(work, chance.uniform(0.05, 0.6))
    time.sleep(0.11)
    wire.mend()
    desk = Desk(lambda: Logbook(url), shipped_figures(), WHO)
    for outbox in desk.outboxes():
        if not any(x.refused for x in desk.hand_in_outbox(outbox)):
            desk.put_away(outbox)
    there = [round((r.entry.diameter_mm - 78.0) * 1e6) for r in desk.open(number).records[1:] if isinstance(r.entry, ReadingBooked)]  # fmt: skip
    desk.close()
    acknowledged = [int(line) for line in told if line.isdigit()]
    lost = sorted(set(acknowledged) - set(there))
    wrong = [f"{lost} were told and are not there"] if lost else []
    return wrong if there == list(range(len(there))) else [*wrong, f"not in order, or not once: {there}"]


def end_server() -> None:
    """End the server of the campaigns, where one was started."""
    if _place.cache_info().currsize:
        with suppress(BenchError):
            _place()[0].end()
        _place.cache_clear()


CAMPAIGNS = {"wire cut": wire_cut, "server killed": server_killed, "bench killed": bench_killed}
