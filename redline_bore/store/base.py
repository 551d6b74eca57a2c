"""Where a logbook stands: what a file and a server do each in their own way."""

from __future__ import annotations

import os
import sqlite3
import time
from abc import ABC, abstractmethod
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import sqlalchemy as sa
from sqlalchemy.exc import DatabaseError, IntegrityError

from redline_bore.core.errors import BenchError, EnvironmentTrouble, LogbookBusy, LogbookGone
from redline_bore.store.file_connection import connected, text_of, version_of
from redline_bore.store.places import default_logbook
from redline_bore.store.schema import SCHEMA_VERSION

BUSY_S = 2.0  # how long another program is waited for
LOOK_S = 0.1  # between two looks whether another program booked


class Base(ABC):
    """A place that holds a logbook. where: as it is told to people. read_only: nothing can be booked there."""

    where: str
    engine: sa.Engine
    read_only: bool = False
    version: str  # of its tables; empty: it has none yet
    driver_error: type[Exception]  # what its driver raises by itself

    def __init__(self) -> None:
        self._hands: list[sa.Connection] = []  # connections that write, kept from one booking to the next
        self._closed = False

    @property
    def new(self) -> bool:
        """It holds nothing yet."""
        return not self.version

    @property
    def current(self) -> bool:
        """Its tables are those of this program."""
        return self.version == SCHEMA_VERSION

    @contextmanager
    def told(self) -> Iterator[None]:
        """Turn what the database, the disk or the network says into a sentence. Raises LogbookBusy, EnvironmentTrouble."""
        try:
            yield
        except Exception as error:
            told = self._as_told(error)
            if told is error:
                raise
            raise told from error

    def _as_told(self, error: BaseException) -> BaseException:
        """What an error is told as; itself where it is not the place's."""
        if isinstance(error, (IntegrityError, BenchError)):
            return error
        its = isinstance(error, (DatabaseError, self.driver_error, UnicodeDecodeError, OSError))
        return self.trouble(error) if its else error  # type: ignore[arg-type]

    @contextmanager
    def writing(self, lasting: bool) -> Iterator[sa.Connection]:
        """A transaction that writes: given up where an exception leaves it, else kept when this ends. lasting: it must outlive a power cut.

        On a connection that stays at hand: to fetch one and to give it back costs more than a booking itself. Raises LogbookGone where it would be, or
        was, written into what is not there any more, LogbookBusy, EnvironmentTrouble.
        """
        self.still_there(first=True)
        hand = self._hand()
        driver = hand.connection.driver_connection
        assert driver is not None
        try:
            self.begin(driver, lasting)
            yield hand
            (hand if hand.in_transaction() else driver).commit()
            self.end(driver, lasting)
        except BaseException as error:
            self._give_up(hand, driver, lasting)
            told = self._as_told(error)
            if told is error:
                raise
            self.still_there()
            raise told from error
        self._hands.append(hand)
        if self._closed:
            self.close()
        self.still_there()

    def _hand(self) -> sa.Connection:
        try:
            return self._hands.pop()
        except IndexError:  # none, or another thread was quicker
            with self.told():
                return self.engine.connect()

    def _give_up(self, hand: sa.Connection, driver: Any, lasting: bool) -> None:
        try:
            driver.rollback()
            self.end(driver, lasting)
        except self.driver_error:  # it leads nowhere any more
            hand.invalidate()
        hand.close()

    def begin(self, driver: Any, lasting: bool) -> None:  # noqa: B027  (a server's driver begins by itself)
        """Take the write lock. lasting: see ``writing``; a server holds one row, nobody waits for it."""

    def end(self, driver: Any, lasting: bool) -> None:  # noqa: B027
        """The transaction has ended, whichever way."""

    def _pooled(self, engine: sa.Engine) -> sa.Engine:
        """An engine whose connections are let go of, too, that another thread gives back after this was closed."""

        def come_back(_driver: Any, record: Any) -> None:
            if self._closed:
                record.invalidate()

        sa.event.listen(engine, "checkin", come_back)
        return engine

    def close(self) -> None:
        """Let go of every connection."""
        self._closed = True
        while self._hands:
            self._hands.pop().close()
        self.engine.dispose()

    @abstractmethod
    def trouble(self, error: Exception) -> EnvironmentTrouble:
        """What an error of the place comes to."""

    def opened(self) -> None:  # noqa: B027  (a server need not be known again)
        """Note what place this is, so that another in its stead is noticed."""

    def still_there(self, first: bool = False) -> None:  # noqa: B027
        """Raises LogbookGone where it is not the place that was opened. first: nothing is written yet, so that its log may be asked about after."""

    def hold(self, connection: sa.Connection, job_id: int) -> None:  # noqa: B027  (a file is held whole)
        """Keep every other bench from booking into this job until the transaction ends."""

    def say(self, connection: sa.Connection, job_id: int) -> None:  # noqa: B027
        """Tell the other benches, once it is kept, that something was booked into a job."""

    def hold_and_say(self, connection: sa.Connection, job_id: int) -> None:
        """Keep every other bench from booking into this job until the transaction ends; once it is kept, tell them of it."""
        self.hold(connection, job_id)
        self.say(connection, job_id)

    def rows(self, connection: sa.Connection, find: Callable[[], Any]) -> list[Any]:  # noqa: ARG002  (a file has its own way)
        """The rows that a statement finds, by the driver's own cursor."""
        return list(find().fetchall())

    def number_behind(self, connection: sa.Connection) -> None:  # noqa: B027  (a file numbers behind the largest by itself)
        """Number new rows behind those that came in with numbers of their own."""

    @abstractmethod
    def damage(self, connection: sa.Connection) -> tuple[str, ...]:
        """What the database finds wrong with its own pages and indexes, a sentence each."""

    def listen(self, seconds: float) -> bool:
        """Wait so long at the most; whether something was booked meanwhile, by whomever. Raises EnvironmentTrouble."""
        raise NotImplementedError

    def stop_listening(self) -> None:  # noqa: B027
        """Listen no more."""

    @abstractmethod
    def keep_copy(self) -> None:
        """Keep a copy of the logbook as it is, before its tables are changed."""

    @abstractmethod
    def words(self, connection: sa.Connection, job_id: int, words: str) -> None:
        """Put what a job is searched by into the full text index."""

    @abstractmethod
    def holding(self, word: str, line: sa.Table) -> sa.ColumnElement[bool]:
        """That a job holds a word in its number, owner, engine or notes."""


class SqliteFile(Base):
    """A logbook in a file of this machine. WAL with full synchronisation: what was committed is on the disk."""

    driver_error = sqlite3.Error

    def __init__(self, path: Path, make: bool = True, busy_s: float | None = None) -> None:
        super().__init__()
        self.path, self.where, self._log = path, str(path), f"{path}-wal"
        self._busy_s = BUSY_S if busy_s is None else busy_s
        if not make and not path.exists():
            raise EnvironmentTrouble(f"There is no logbook {path}; nothing was made")
        self.version = version_of(path)
        with self.told():
            _private(path)
        self.read_only = not os.access(path, os.W_OK) or not os.access(path.parent, os.W_OK)
        self.engine = self._pooled(
            sa.create_engine("sqlite://", creator=self._connected, poolclass=sa.QueuePool, pool_size=3)
        )
        sa.event.listen(self.engine, "begin", _begin)
        self._files: tuple[tuple[int, int], ...] = ()
        self._ear: sqlite3.Connection | None = None
        self._seen_change = 0

    def listen(self, seconds: float) -> bool:
        """The file counts its changes; looking at the count costs nothing."""
        try:
            if self._ear is None:
                self._ear = connected(self.path)
                self._seen_change = self._changes()
                return True  # what came before nobody heard
            until = time.monotonic() + seconds
            while time.monotonic() < until:
                if (now := self._changes()) != self._seen_change:
                    self._seen_change = now
                    return True
                time.sleep(LOOK_S)
        except sqlite3.Error as error:
            raise self.trouble(error) from error
        return False

    def _changes(self) -> int:
        assert self._ear is not None
        return int(self._ear.execute("PRAGMA data_version").fetchone()[0])

    def stop_listening(self) -> None:
        if self._ear is not None:
            self._ear.close()
            self._ear = None

    def begin(self, driver: Any, lasting: bool) -> None:
        if not lasting:  # written, and the disk not waited for; the next entry's commit takes it along
            driver.execute("PRAGMA synchronous=NORMAL")
        driver.execute("BEGIN IMMEDIATE")

    def end(self, driver: Any, lasting: bool) -> None:
        if not lasting:
            driver.execute("PRAGMA synchronous=FULL")

    def _connected(self) -> sqlite3.Connection:
        if self.read_only:
            return connected(self.path)
        connection = sqlite3.connect(str(self.path), timeout=self._busy_s, check_same_thread=False)
        connection.text_factory = text_of
        connection.isolation_level = None  # transactions are begun below, not by the driver
        for pragma in ("journal_mode=WAL", "synchronous=FULL", "foreign_keys=ON"):
            connection.execute(f"PRAGMA {pragma}")
        return connection

    def trouble(self, error: Exception) -> EnvironmentTrouble:
        said = error.orig if isinstance(error, DatabaseError) else error
        if isinstance(error, OSError):
            said = error.strerror or error  # type: ignore[assignment]
        if not isinstance(error, OSError) and ("locked" in str(said) or "busy" in str(said)):
            return LogbookBusy(f"Another program holds the logbook {self.path}. Nothing was booked; try it again")
        return EnvironmentTrouble(f"The logbook {self.path} cannot be used: {said}. Nothing was booked")

    def opened(self) -> None:
        if self.read_only:
            return
        with self.engine.begin() as connection:  # the log is there as long as somebody has it open
            connection.exec_driver_sql("SELECT 1 FROM job LIMIT 1").fetchall()
            self._files = self._seen()

    def _seen(self) -> tuple[tuple[int, int], ...]:
        """What the file and its log are."""
        return _identity(self.where), _identity(self._log)

    def still_there(self, first: bool = False) -> None:
        if not self._files:  # not opened yet: its tables are being made
            return
        known = self._files[:1] if first else self._files
        try:
            seen = (_identity(self.where),) if first else self._seen()
        except OSError:
            seen = ()
        if seen != known:
            raise LogbookGone(
                f"The logbook {self.path} is not there any more, or another file stands in its place. Nothing was booked into it"
            )

    def rows(self, connection: sa.Connection, find: Callable[[], Any]) -> list[Any]:
        """Texts are read by the driver itself; where one is no text any more, with its damage in it."""
        driver = connection.connection.driver_connection
        assert isinstance(driver, sqlite3.Connection)
        try:
            driver.text_factory = str
            return list(find().fetchall())
        except sqlite3.OperationalError:
            driver.text_factory = text_of
            return list(find().fetchall())
        finally:
            driver.text_factory = text_of

    def damage(self, connection: sa.Connection) -> tuple[str, ...]:
        found = [str(row[0]) for row in connection.exec_driver_sql("PRAGMA integrity_check(20)")]
        return tuple(line for line in found if line != "ok")

    def keep_copy(self) -> None:
        stamp = datetime.now(UTC).strftime("%Y%m%d-%H%M%S")
        copy = self.path.with_name(f"{self.path.stem}-before-upgrade-{stamp}{self.path.suffix}")
        with self.told():
            os.close(os.open(copy, os.O_CREAT | os.O_RDWR, 0o600))
            source, target = sqlite3.connect(str(self.path)), sqlite3.connect(str(copy))
            try:
                source.backup(target)
            finally:
                source.close()
                target.close()

    def words(self, connection: sa.Connection, job_id: int, words: str) -> None:
        connection.exec_driver_sql("DELETE FROM job_words WHERE rowid = ?", (job_id,))
        connection.exec_driver_sql("INSERT INTO job_words (rowid, words) VALUES (?, ?)", (job_id, words))

    def holding(self, word: str, line: sa.Table) -> sa.ColumnElement[bool]:
        if len(word) < 3:  # the index knows three letters and more
            return sa.or_(*(line.c[n].icontains(word, autoescape=True) for n in ("number", "owner", "engine", "notes")))
        quoted = '"{}"'.format(word.replace('"', '""'))
        return line.c.job_id.in_(sa.text("SELECT rowid FROM job_words WHERE job_words MATCH :w").bindparams(sa.bindparam("w", quoted, unique=True)))  # fmt: skip


def _identity(path: str) -> tuple[int, int]:
    found = os.stat(path)
    return found.st_dev, found.st_ino


def _begin(connection: sa.Connection) -> None:
    driver = connection.connection.driver_connection
    if driver is not None and not driver.in_transaction:  # one that writes has begun
        driver.execute("BEGIN")


def _private(path: Path) -> None:
    """Make the file, and its own folder, for nobody but the person whose they are; no other folder is made."""
    if path.exists():
        return
    if not path.parent.exists():
        if path.parent.parent.exists() or path == default_logbook():
            path.parent.mkdir(mode=0o700, parents=True)
        else:
            raise EnvironmentTrouble(f"There is no folder {path.parent}; nothing was made")
    os.close(os.open(path, os.O_CREAT | os.O_RDWR, 0o600))
