"""The logbook: every job's ledger in one SQLite file, append-only, kept through a power cut.

WAL with full synchronisation: when ``append`` returns, the entry is on the disk. Two programs may work in one
logbook: each append takes the write lock, learns what the other wrote, and numbers its entries after it.
"""

from __future__ import annotations

import json
import os
import sqlite3
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import sqlalchemy as sa
from sqlalchemy.exc import DatabaseError, IntegrityError

from redline_bore.core.errors import BenchError, EnvironmentTrouble, InputError, LogbookBusy, LogbookGone
from redline_bore.core.figures import Figures
from redline_bore.core.frozen import frozen
from redline_bore.job.kinds.book_in import BookInRevised, JobOpened
from redline_bore.job.kinds.codec import to_plain
from redline_bore.job.kinds.defects import PhotoAttached
from redline_bore.job.kinds.entry import Entry, Record
from redline_bore.job.kinds.sign_off import StepStamped
from redline_bore.store.chain import link, read_ledger
from redline_bore.store.photos import PhotoBytes
from redline_bore.store.places import default_logbook
from redline_bore.store.quick_read import connected, is_current, newest_figures, text_of
from redline_bore.store.schema import ENTRY_COLUMNS
from redline_bore.store.shop import shipped_figures

BUSY_S = 2.0  # how long another program is waited for

metadata = sa.MetaData()
job_table = sa.Table(
    "job",
    metadata,
    sa.Column("id", sa.Integer, primary_key=True),
    sa.Column("number", sa.String, nullable=False, unique=True),
    sa.Column("owner", sa.String, nullable=False),
    sa.Column("engine", sa.String, nullable=False),
    sa.Column("opened_at", sa.String, nullable=False),
    sa.Column("step", sa.String, nullable=False),
)
entry_table = sa.Table(
    "entry",
    metadata,
    sa.Column("job_id", sa.ForeignKey("job.id"), primary_key=True),
    sa.Column("seq", sa.Integer, primary_key=True),
    sa.Column("at", sa.String, nullable=False),
    sa.Column("person", sa.String, nullable=False),
    sa.Column("instrument", sa.String, nullable=False),
    sa.Column("block_c", sa.Float),
    sa.Column("typed", sa.String, nullable=False),
    sa.Column("kind", sa.String, nullable=False),
    sa.Column("version", sa.Integer, nullable=False),
    sa.Column("body", sa.Text, nullable=False),
    sa.Column("hash", sa.String, nullable=False),
)
photo_table = sa.Table(
    "photo",
    metadata,
    sa.Column("sha256", sa.String, primary_key=True),
    sa.Column("media", sa.String, nullable=False),
    sa.Column("data", sa.LargeBinary, nullable=False),
)
figure_table = sa.Table(
    "shop_figure",
    metadata,
    sa.Column("id", sa.Integer, primary_key=True),
    sa.Column("at", sa.String, nullable=False),
    sa.Column("person", sa.String, nullable=False),
    sa.Column("key", sa.String, nullable=False),
    sa.Column("value", sa.Text, nullable=False),
)
aside_table = sa.Table(
    "job_aside",
    metadata,
    sa.Column("id", sa.Integer, primary_key=True),
    sa.Column("at", sa.String, nullable=False),
    sa.Column("person", sa.String, nullable=False),
    sa.Column("job_id", sa.ForeignKey("job.id"), nullable=False),
    sa.Column("aside", sa.Boolean, nullable=False),
)


@dataclass(frozen=True)
class Draft:
    """An entry about to be booked, with what goes beside it. ``at`` empty: now."""

    entry: Entry
    person: str
    instrument: str = ""
    block_c: float | None = None
    typed: str = ""
    at: str = ""


@dataclass(frozen=True)
class JobLine:
    """A job as the list shows it."""

    job_id: int
    number: str
    owner: str
    engine: str
    opened_at: str
    last_at: str
    step: str
    aside: str = ""  # who set it aside, and when; empty: it stands in the list


@frozen
class Glance:
    """A job as its strip shows it. done: the steps that are stamped; promised: the day, empty where none was; waits_for: what nobody at
    the bench can do; people: who booked in it, the
    newest first; machines: those that were stated in it."""

    done: tuple[str, ...] = ()
    promised: str = ""
    people: tuple[str, ...] = ()
    machines: tuple[str, ...] = ()
    waits_for: str = ""


def now() -> str:
    """The time as the ledger writes it: ISO 8601, UTC, to the millisecond."""
    return datetime.now(UTC).isoformat(timespec="milliseconds")


class Logbook:
    """One open logbook. Every method raises EnvironmentTrouble when the file cannot be read or written."""

    def __init__(self, path: Path, make: bool = True) -> None:
        self.path = Path(path)
        if not make and not self.path.exists():
            raise EnvironmentTrouble(f"There is no logbook {self.path}; nothing was made")
        current = is_current(self.path)
        with _told(self.path):
            _private(self.path)
        self.read_only = not os.access(self.path, os.W_OK) or not os.access(self.path.parent, os.W_OK)
        self._engine = sa.create_engine("sqlite://", creator=self._connected)
        sa.event.listen(self._engine, "begin", _begin)
        if not current:
            self._migrate()
        with _told(self.path):
            self._files = self._seen()

    def close(self) -> None:
        """Let go of the file."""
        self._engine.dispose()

    def _connected(self) -> sqlite3.Connection:
        if self.read_only:
            return connected(self.path)
        connection = sqlite3.connect(str(self.path), timeout=BUSY_S)
        connection.text_factory = text_of
        connection.isolation_level = None  # transactions are begun below, not by the driver
        for pragma in ("journal_mode=WAL", "synchronous=FULL", "foreign_keys=ON"):
            connection.execute(f"PRAGMA {pragma}")
        return connection

    def _seen(self) -> tuple[tuple[int, int], ...]:
        """What the file and its log are, so that another in their place is noticed."""
        if self.read_only:
            return ()
        with self._engine.begin() as connection:  # the log is there as long as somebody has it open
            connection.exec_driver_sql("SELECT 1 FROM job LIMIT 1").fetchall()
            return tuple(_identity(path) for path in (self.path, self.path.with_name(f"{self.path.name}-wal")))

    def _still_there(self) -> None:
        """Raises LogbookGone where the file, or its log, is not the one that was opened."""
        try:
            now = tuple(_identity(path) for path in (self.path, self.path.with_name(f"{self.path.name}-wal")))
        except OSError:
            now = ()
        if now != self._files:
            raise LogbookGone(
                f"The logbook {self.path} is not there any more, or another file stands in its place. Nothing was booked into it"
            )

    def _migrate(self) -> None:
        from alembic import command  # here: half a second that only a new or old logbook needs
        from alembic.config import Config
        from alembic.util import CommandError

        config = Config()
        config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
        with self._writing(migrating=True) as connection:
            config.attributes["connection"] = connection
            try:
                command.upgrade(config, "head")
            except CommandError as error:
                raise EnvironmentTrouble(
                    f"The logbook {self.path} was written by a newer version of this program; nothing in it was touched"
                ) from error

    @contextmanager
    def _reading(self) -> Iterator[sa.Connection]:
        """One look at everything as it stands: no lock that anybody waits for."""
        with _told(self.path), self._engine.begin() as connection:
            yield connection

    @contextmanager
    def _writing(self, migrating: bool = False) -> Iterator[sa.Connection]:
        """The write lock, in the file that was opened and in no other."""
        if self.read_only:
            raise EnvironmentTrouble(f"The logbook {self.path} can only be read. Nothing was booked")
        if not migrating:
            self._still_there()
        with _told(self.path), self._engine.connect() as raw:
            connection = raw.execution_options(writes=True)
            with connection.begin():
                yield connection
            if not migrating:
                self._still_there()

    def open_job(self, opening: JobOpened, person: str, at: str = "") -> int:
        """Begin a job and its ledger; returns its id. Raises InputError when the number is taken."""
        return self.take_ledger([Draft(opening, person, at=at or now())])

    def take_ledger(self, drafts: Sequence[Draft], photos: Sequence[PhotoBytes] = ()) -> int:
        """Write a whole new job at once, its opening first, with the photos it names; returns its id.

        Raises InputError when the number is taken.
        """
        opening = drafts[0].entry
        if not isinstance(opening, JobOpened):
            raise InputError("A ledger begins with the opening of a job")
        row = {"number": opening.number, "owner": opening.book_in.owner, "engine": opening.book_in.engine}
        try:
            with self._writing() as connection:
                result = connection.execute(sa.insert(job_table).values(**row, opened_at=drafts[0].at, step="book_in"))
                key = result.inserted_primary_key
                assert key is not None
                job_id = int(key[0])
                for photo in photos:
                    self._keep_photo(connection, photo)
                before = ""
                for seq, draft in enumerate(drafts, start=1):
                    before = self._insert(connection, job_id, seq, draft, before)
        except IntegrityError as error:
            raise InputError(
                f"Job {opening.number} is in this logbook already; take another number or open it"
            ) from error
        return job_id

    def append(
        self,
        job_id: int,
        known_seq: int,
        drafts: Sequence[Draft],
        check: Callable[[tuple[Record, ...]], None] | None = None,
    ) -> tuple[Record, ...]:
        """Book entries; returns all records after ``known_seq``, another program's among them, oldest first.

        check: is handed what others booked after ``known_seq``, inside the transaction; when it raises, nothing is booked.
        When this returns the entries are on the disk.
        """
        with self._writing() as connection:
            if check is not None:
                check(self._records(connection, job_id, known_seq))
            last = connection.execute(
                sa.select(entry_table.c.seq, entry_table.c.hash)
                .where(entry_table.c.job_id == job_id)
                .order_by(entry_table.c.seq.desc())
                .limit(1)
            ).first()
            seq, before = (0, "") if last is None else (int(last[0]), str(last[1]))
            for i, draft in enumerate(drafts, start=1):
                before = self._insert(connection, job_id, seq + i, draft, before)
            return self._records(connection, job_id, known_seq)

    def _insert(self, connection: sa.Connection, job_id: int, seq: int, draft: Draft, before: str) -> str:
        """Write an entry and link it to the one before; returns its hash."""
        plain, at = to_plain(draft.entry), draft.at or now()
        body = json.dumps(plain, allow_nan=False)
        linked = link(before, seq, at, draft.person, draft.instrument, draft.block_c, draft.typed, 1, body)
        connection.execute(
            sa.insert(entry_table).values(
                job_id=job_id, seq=seq, at=at, person=draft.person, instrument=draft.instrument,
                block_c=draft.block_c, typed=draft.typed, kind=plain["kind"], version=1, body=body, hash=linked,
            )
        )  # fmt: skip
        change: dict[str, Any] = {}
        if isinstance(draft.entry, BookInRevised):
            change = {"owner": draft.entry.book_in.owner, "engine": draft.entry.book_in.engine}
        elif isinstance(draft.entry, StepStamped):
            change = {"step": draft.entry.step}
        if change:
            connection.execute(sa.update(job_table).where(job_table.c.id == job_id).values(**change))
        return linked

    def ledger(self, job_id: int, after: int = 0) -> tuple[Record, ...]:
        """Records of a job after place ``after``, oldest first."""
        with self._reading() as connection:
            return self._records(connection, job_id, after)

    def ledgers_with(self, kinds: Sequence[str]) -> tuple[tuple[Record, ...], ...]:
        """The ledgers of every job that holds an entry of one of these kinds, the oldest job first."""
        query = sa.select(entry_table.c.job_id).where(entry_table.c.kind.in_(kinds)).distinct()
        with self._reading() as connection:
            found = sorted(connection.execute(query).scalars())
            return tuple(self._records(connection, job_id, 0) for job_id in found)

    def _records(self, connection: sa.Connection, job_id: int, after: int) -> tuple[Record, ...]:
        columns, mine = [entry_table.c[name] for name in ENTRY_COLUMNS], entry_table.c.job_id == job_id
        before = ""
        if after:
            linked = sa.select(entry_table.c.hash).where(mine, entry_table.c.seq == after)
            before = str(connection.execute(linked).scalar() or "")
        query = sa.select(*columns).where(mine, entry_table.c.seq > after).order_by(entry_table.c.seq)
        return tuple(read_ledger((tuple(row) for row in connection.execute(query)), before, after))

    def damage(self) -> tuple[str, ...]:
        """What the database finds wrong with its own file, a sentence each: pages, indexes, rows that no index knows."""
        with self._reading() as connection:
            found = [str(row[0]) for row in connection.exec_driver_sql("PRAGMA integrity_check(20)")]
        return tuple(line for line in found if line != "ok")

    def jobs(self, search: str = "") -> tuple[JobLine, ...]:
        """Jobs whose number, owner or engine holds every word of ``search``, the one worked on last first."""
        j, last = job_table.c, sa.func.max(entry_table.c.at).label("last_at")
        query = sa.select(j.id, j.number, j.owner, j.engine, j.opened_at, last, j.step)
        query = query.join(entry_table, entry_table.c.job_id == j.id).group_by(j.id).order_by(last.desc())
        for word in search.split():
            query = query.where(sa.or_(*(c.icontains(word, autoescape=True) for c in (j.number, j.owner, j.engine))))
        with self._reading() as connection:
            aside = {row[0]: f"{row[1]} {row[2]}" for row in self._aside(connection) if row[3]}
            return tuple(JobLine(*row, aside.get(row[0], "")) for row in connection.execute(query))

    def at_a_glance(self) -> dict[int, Glance]:
        """What the list shows of every job, by its id. Nothing is folded: the few entries that say it are read, those struck out left."""
        e, kinds = entry_table.c, (*_GLANCED, "entry_struck", "entry_restored", "job_reopened")
        query = sa.select(e.job_id, e.seq, e.kind, e.body).where(e.kind.in_(kinds)).order_by(e.job_id, e.seq)
        who = sa.select(e.job_id, e.person).group_by(e.job_id, e.person).order_by(e.job_id, sa.func.max(e.seq).desc())
        told: dict[int, dict[int, tuple[str, dict[str, Any]]]] = {}
        people: dict[int, list[str]] = {}
        with self._reading() as connection:
            for job_id, seq, kind, body in connection.execute(query):
                of, plain = told.setdefault(job_id, {}), _plain(body)
                if kind == "entry_struck":
                    of[-int(plain.get("seq") or 0)] = of.pop(int(plain.get("seq") or 0), ("", {}))
                elif kind == "entry_restored":
                    of[int(plain.get("seq") or 0)] = of.pop(-int(plain.get("seq") or 0), ("", {}))
                elif kind == "job_reopened":
                    told[job_id] = {q: t for q, t in of.items() if t[1].get("step") != "sign_off"}
                else:
                    of[seq] = (kind, plain)
            for job_id, person in connection.execute(who):
                people.setdefault(job_id, []).append(str(person))
        return {job: _glance(told.get(job, {}), tuple(people.get(job, ()))) for job in people}

    def _aside(self, connection: sa.Connection) -> list[tuple[int, str, str, bool]]:
        """The last word on every job that was set aside or brought back: its id, who, when, which of the two."""
        a = aside_table.c
        last = sa.select(sa.func.max(a.id)).group_by(a.job_id)
        found = connection.execute(sa.select(a.job_id, a.person, a.at, a.aside).where(a.id.in_(last)))
        return [(int(row[0]), str(row[1]), str(row[2]), bool(row[3])) for row in found]

    def set_aside(self, number: str, person: str, aside: bool = True) -> None:
        """Set a job aside, or bring it back: it is kept as it stands and no list shows it unasked.

        Raises InputError where there is no such job, or it is so already.
        """
        job_id = self.job_id(number)
        with self._writing() as connection:
            if aside == any(row[0] == job_id and row[3] for row in self._aside(connection)):
                raise InputError(f"Job {number} is {'set aside already' if aside else 'in the list as it is'}")
            connection.execute(sa.insert(aside_table).values(at=now(), person=person, job_id=job_id, aside=aside))

    def newest_entry(self) -> tuple[int, int, str] | None:
        """What was booked last: its job, its place and its link; None in an empty logbook."""
        query = "SELECT job_id, seq, hash FROM entry ORDER BY rowid DESC LIMIT 1"
        with self._reading() as connection:
            row = connection.exec_driver_sql(query).first()
            return None if row is None else (int(row[0]), int(row[1]), str(row[2]))

    def has_entry(self, job_id: int, seq: int, link: str) -> bool:
        """Whether that entry is here, with that link."""
        e = entry_table.c
        query = sa.select(e.hash).where(e.job_id == job_id, e.seq == seq)
        with self._reading() as connection:
            return connection.execute(query).scalar() == link

    def job_id(self, number: str) -> int:
        """The id of a job. Raises InputError naming near numbers when there is none."""
        with self._reading() as connection:
            found = connection.execute(sa.select(job_table.c.id).where(job_table.c.number == number)).scalar()
            if found is None:
                others = [
                    row[0] for row in connection.execute(sa.select(job_table.c.number).order_by(job_table.c.number))
                ]
                listed = ", ".join(others[:12]) if others else "none yet"
                raise InputError(f"There is no job {number} in this logbook; jobs: {listed}")
            return int(found)

    def figures(self) -> Figures:
        """Shipped figures with the shop's own laid over."""
        query = sa.select(figure_table.c.key, figure_table.c.value).order_by(figure_table.c.id)
        with self._reading() as connection:
            own = newest_figures(tuple(row) for row in connection.execute(query))
        return shipped_figures().with_own(own)

    def set_figure(self, key: str, value: Any, person: str) -> Figures:
        """Book the shop's own figure (None takes it back). Raises FaultyInput when it does not fit."""
        if value is not None:
            shipped_figures().with_own({key: value})
        else:
            shipped_figures().figure(key)
        with self._writing() as connection:
            connection.execute(
                sa.insert(figure_table).values(at=now(), person=person, key=key, value=json.dumps(value))
            )
        return self.figures()

    def keep_photo(self, photo: PhotoBytes) -> None:
        """Keep a picture; when this returns it is on the disk. Kept once, however often it is used."""
        with self._writing() as connection:
            self._keep_photo(connection, photo)

    def _keep_photo(self, connection: sa.Connection, photo: PhotoBytes) -> None:
        there = sa.select(photo_table.c.media).where(photo_table.c.sha256 == photo.sha256)
        if connection.execute(there).scalar() is None:
            connection.execute(sa.insert(photo_table).values(sha256=photo.sha256, media=photo.media, data=photo.data))

    def photo(self, sha256: str) -> PhotoBytes:
        """A kept picture. Raises InputError when there is none under that hash."""
        query = sa.select(photo_table.c.media, photo_table.c.data).where(photo_table.c.sha256 == sha256)
        with self._reading() as connection:
            row = connection.execute(query).first()
        if row is None:
            raise InputError(f"The photo {sha256[:12]} is not in this logbook")
        return PhotoBytes(sha256, row[0], bytes(row[1]))

    def photos_of(self, ledger: Sequence[Record]) -> tuple[PhotoBytes, ...]:
        """Every picture that a ledger names and that is here, once each; one that is missing keeps no job from going out."""
        named = dict.fromkeys(r.entry.sha256 for r in ledger if isinstance(r.entry, PhotoAttached))
        found = []
        for sha256 in named:
            with suppress(InputError):
                found.append(self.photo(sha256))
        return tuple(found)


_GLANCED = ("step_stamped", "promised", "waits_for", "machine_stated", "hone_set")


def _glance(told: dict[int, tuple[str, dict[str, Any]]], people: tuple[str, ...]) -> Glance:
    """What entries say of a job at a glance; those under a number below nought are struck out."""
    stand = [told[seq] for seq in sorted(told) if seq > 0]
    steps = dict.fromkeys(str(x.get("step", "")) for kind, x in stand if kind == "step_stamped")
    days = [str(x.get("day", "")) for kind, x in stand if kind == "promised"]
    machines = [str(x.get("name", "")) for kind, x in stand if kind == "machine_stated"]
    machines += [f"{x.get('machine', '')} hone" for kind, x in stand if kind == "hone_set"]
    waits = [str(x.get("what", "")) for kind, x in stand if kind == "waits_for"]
    done = tuple(dict.fromkeys(m for m in machines if m))
    return Glance(tuple(steps), days[-1] if days else "", people, done, waits[-1] if waits else "")


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


def _plain(body: str) -> dict[str, Any]:
    """An entry's figures as they are written; nothing where they are damaged."""
    try:
        found = json.loads(body)
    except ValueError:
        return {}
    return found if isinstance(found, dict) else {}


def _identity(path: Path) -> tuple[int, int]:
    found = os.stat(path)
    return found.st_dev, found.st_ino


def _begin(connection: sa.Connection) -> None:
    writes = connection.get_execution_options().get("writes", False)
    connection.exec_driver_sql("BEGIN IMMEDIATE" if writes else "BEGIN")


@contextmanager
def _told(path: Path) -> Iterator[None]:
    """Turn what the database or the disk says into a sentence."""
    try:
        yield
    except (IntegrityError, BenchError):
        raise
    except DatabaseError as error:
        if "locked" in str(error.orig) or "busy" in str(error.orig):
            raise LogbookBusy(f"Another program holds the logbook {path}. Nothing was booked; try it again") from error
        raise EnvironmentTrouble(f"The logbook {path} cannot be used: {error.orig}. Nothing was booked") from error
    except (sqlite3.Error, UnicodeDecodeError) as error:
        raise EnvironmentTrouble(f"The logbook {path} cannot be used: {error}. Nothing was booked") from error
    except OSError as error:
        raise EnvironmentTrouble(
            f"The logbook {path} cannot be used: {error.strerror or error}. Nothing was booked"
        ) from error
