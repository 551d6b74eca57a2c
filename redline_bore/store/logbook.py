"""The logbook: every job's ledger, append-only, kept through a power cut; in a file, or on a server that several benches book into.

When ``append`` returns, the entry is on the disk. Each append holds the job, learns what others wrote, numbers its entries after theirs, and writes
what stands beside the ledger in the same transaction. Reading waits for nobody and keeps nobody waiting.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager, suppress
from datetime import UTC, datetime, timedelta
from functools import partial
from pathlib import Path
from typing import Any

import sqlalchemy as sa
from sqlalchemy.exc import IntegrityError

from redline_bore.core.errors import EnvironmentTrouble, InputError
from redline_bore.core.figures import Figures
from redline_bore.core.frozen import frozen
from redline_bore.job.kept.models import VERSION, Model
from redline_bore.job.kinds.book_in import JobOpened
from redline_bore.job.kinds.codec import entry_from_plain, to_plain
from redline_bore.job.kinds.defects import PhotoAttached
from redline_bore.job.kinds.entry import Entry, Record
from redline_bore.store.base import Base, SqliteFile
from redline_bore.store.beside import Beside, beside_of, rewrite_beside, write_beside
from redline_bore.store.chain import figures_of, link, read_ledger, referring
from redline_bore.store.job_list import EVERY, Asked, JobLine, ids_asked, line_from, lines_asked, lines_by
from redline_bore.store.photos import PhotoBytes
from redline_bore.store.places import is_server, server_path
from redline_bore.store.quick_read import newest_figures
from redline_bore.store.schema import SCHEMA_VERSION
from redline_bore.store.shop import shipped_figures
from redline_bore.store.statements import BOOK, LEDGER, LINKED, NEWEST, NextTurn, runner
from redline_bore.store.tables import (
    LINE_SAYS,
    aside_table,
    bench_table,
    entry_table,
    figure_set_table,
    figure_table,
    job_table,
    kept_table,
    line_table,
    photo_table,
)

GONE_AFTER = timedelta(seconds=45)  # a bench that said nothing for so long is not there


@frozen(often=True)
class Draft:
    """An entry about to be booked, with what goes beside it. ``at`` empty: now."""

    entry: Entry
    person: str
    instrument: str = ""
    block_c: float | None = None
    typed: str = ""
    at: str = ""


@frozen
class KeptRow:
    """What a model keeps of a job."""

    job_id: int
    number: str
    said: Any


def now() -> str:
    """The time as the ledger writes it: ISO 8601, UTC, to the millisecond."""
    return datetime.now(UTC).isoformat(timespec="milliseconds")


class Logbook:
    """One open logbook, in a file or on a server. Every method raises EnvironmentTrouble when it cannot be read or written."""

    def __init__(self, where: Path | str, make: bool = True, busy_s: float | None = None) -> None:
        """busy_s: how long another program is waited for at an append; None: a few seconds."""
        self._base = base_of(where, make, busy_s)
        self._figure_sets: dict[str, dict[str, Any]] = {}
        try:
            if not self._base.current:
                self._migrate()
            with self._base.told():
                self._base.opened()
        except BaseException:
            self._base.engine.dispose()
            raise

    @property
    def path(self) -> Path:
        """The file; on a server, what a file kept for it here is named after."""
        return self._base.path if isinstance(self._base, SqliteFile) else server_path(self._base.where)

    @property
    def where(self) -> str:
        """Where it stands, as it is told to people."""
        return self._base.where

    @property
    def read_only(self) -> bool:
        """Whether it can only be looked at."""
        return self._base.read_only

    def close(self) -> None:
        """Let go of it."""
        self._base.engine.dispose()

    def _migrate(self) -> None:
        from alembic import command  # here: half a second that only a new or old logbook needs
        from alembic.config import Config
        from alembic.util import CommandError

        if self._base.version > SCHEMA_VERSION:
            raise EnvironmentTrouble(
                f"The logbook {self.where} was written by a newer version of this program; nothing in it was touched"
            )
        if not self._base.new and not self.read_only:
            self._base.keep_copy()
        config = Config()
        config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
        with self._writing(migrating=True) as connection:
            config.attributes["connection"] = connection
            try:
                command.upgrade(config, "head")
            except CommandError as error:
                raise EnvironmentTrouble(
                    f"The logbook {self.where} was written by a newer version of this program; nothing in it was touched"
                ) from error

    @contextmanager
    def _reading(self) -> Iterator[sa.Connection]:
        """One look at everything as it stands: no lock that anybody waits for."""
        with self._base.told(), self._base.engine.begin() as connection:
            yield connection

    @contextmanager
    def _writing(self, migrating: bool = False, lasting: bool = True) -> Iterator[sa.Connection]:
        """The write lock, in the file that was opened and in no other. lasting: it must outlive a power cut, and waits for the disk."""
        if self.read_only:
            raise EnvironmentTrouble(f"The logbook {self.where} can only be read. Nothing was booked")
        if not migrating:
            self._base.still_there()
        with self._base.told(), self._base.engine.connect() as raw:
            connection = raw.execution_options(writes=True)
            with self._base.quickly(raw, not lasting), connection.begin():
                yield connection
            if not migrating:
                self._base.still_there()

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
        try:
            with self._writing() as connection:
                made = sa.insert(job_table).values(number=opening.number, opened_at=drafts[0].at)
                key = connection.execute(made).inserted_primary_key
                assert key is not None
                job_id = int(key[0])
                for photo in photos:
                    self._keep_photo(connection, photo)
                records, linked = self._insert(connection, job_id, drafts, 0, "")
                beside = beside_of(records, shipped_figures())
                write_beside(self._base, connection, job_id, records[-1], linked, beside, records[0].at)
                self._base.say(connection, job_id)
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
        beside: Callable[[tuple[Record, ...]], Beside] | None = None,
    ) -> tuple[Record, ...]:
        """Book entries; returns all records after ``known_seq``, another program's among them, oldest first.

        check: is handed what others booked after ``known_seq``, inside the transaction; when it raises, nothing is booked. beside: is handed all
        records after ``known_seq`` and says what stands beside the ledger now; None: it is made from the whole of it.
        When this returns the entries are on the disk.
        """
        with self._writing() as connection:
            run = runner(connection)
            self._base.hold_and_say(connection, job_id)
            last = run(NEWEST, {"of_job": job_id, "most": 1}).fetchone()
            seq, before = (0, "") if last is None else (int(last[0]), str(last[1]))
            others = self._records(connection, job_id, known_seq) if seq > known_seq else ()
            if check is not None:
                check(others)
            mine, linked = self._insert(connection, job_id, drafts, seq, before)
            new = others + mine
            if new:
                found = (
                    beside(new)
                    if beside is not None
                    else beside_of(self._records(connection, job_id, 0), shipped_figures())
                )
                write_beside(self._base, connection, job_id, new[-1], linked, found)
            return new

    def _insert(
        self, connection: sa.Connection, job_id: int, drafts: Sequence[Draft], seq: int, before: str
    ) -> tuple[tuple[Record, ...], str]:
        """Write entries after place ``seq``, each linked to the one before; returns them, and the hash of the last."""
        records, run = [], runner(connection)
        for draft in drafts:
            seq += 1
            plain, at = to_plain(draft.entry), draft.at or now()
            records.append(
                Record(seq, at, draft.person, entry_from_plain(plain), draft.instrument, draft.block_c, draft.typed)
            )
            if isinstance(draft.entry, JobOpened):
                plain = self._figures_apart(connection, plain)
            body = json.dumps(plain, allow_nan=False)
            before = link(before, seq, at, draft.person, draft.instrument, draft.block_c, draft.typed, 1, body)
            run(BOOK, {
                "job_id": job_id, "seq": seq, "at": at, "person": draft.person, "instrument": draft.instrument, "block_c": draft.block_c,
                "typed": draft.typed, "kind": plain["kind"], "version": 1, "body": body, "hash": before,
            })  # fmt: skip
        return tuple(records), before

    def _figures_apart(self, connection: sa.Connection, plain: dict[str, Any]) -> dict[str, Any]:
        """An opening that refers to its figures, which are kept once for all jobs that are worked with the same."""
        plain, sha256, body = referring(plain)
        f = figure_set_table.c
        if sha256 and connection.execute(sa.select(f.sha256).where(f.sha256 == sha256)).scalar() is None:
            connection.execute(sa.insert(figure_set_table).values(sha256=sha256, body=body))
        return plain

    def ledger(self, job_id: int, after: int = 0) -> tuple[Record, ...]:
        """Records of a job after place ``after``, oldest first."""
        with self._reading() as connection:
            return self._records(connection, job_id, after)

    def entries(self, job_id: int, places: Sequence[int]) -> tuple[Record, ...]:
        """Records of a job by their places, as they were booked; what is not there is left out. Their hashes are checked when the job is opened."""
        e = entry_table.c
        query = sa.select(e.seq, e.at, e.person, e.instrument, e.block_c, e.typed, e.version, e.body)
        query = query.where(e.job_id == job_id, e.seq.in_(places)).order_by(e.seq)
        with self._reading() as connection:
            rows = connection.execute(query).fetchall()
        return tuple(Record(r[0], r[1], r[2], entry_from_plain(json.loads(r[7])), r[3], r[4], r[5], r[6]) for r in rows)

    def kept(self, model: Model, key: str | None = None, most: int | None = None) -> tuple[KeptRow, ...]:
        """What a model keeps of the jobs under a key (None: of all that say anything), the job worked on last first."""
        k, x = kept_table.c, line_table.c
        query = (
            sa.select(k.job_id, x.number, k.key, k.body)
            .join(line_table, x.job_id == k.job_id)
            .where(k.name == model.name)
        )
        query = query.where(k.key != "") if key is None else query.where(k.key == key)
        with self._reading() as connection:
            rows = connection.execute(query.order_by(x.turn.desc()).limit(most)).fetchall()
        return tuple(KeptRow(r[0], r[1], model.read(json.loads(r[3]))) for r in rows if r[3])

    def newest_of_each(self, model: Model) -> tuple[KeptRow, ...]:
        """What a model keeps of the job of each key that was worked on last, the newest first."""
        k, x = kept_table.c, line_table.c
        newest = (
            sa.select(sa.func.max(x.turn)).join(kept_table, k.job_id == x.job_id).where(k.name == model.name, k.key != "").group_by(k.key)
        )  # fmt: skip
        query = sa.select(k.job_id, x.number, k.body).join(line_table, x.job_id == k.job_id)
        query = query.where(k.name == model.name, x.turn.in_(newest)).order_by(x.turn.desc())
        with self._reading() as connection:
            rows = connection.execute(query).fetchall()
        return tuple(KeptRow(r[0], r[1], model.read(json.loads(r[2]))) for r in rows if r[2])

    def newest_kept(self, model: Model) -> Any:
        """What stands under the largest key of a model; None where nothing does."""
        k = kept_table.c
        query = sa.select(k.body).where(k.name == model.name, k.key != "").order_by(k.key.desc()).limit(1)
        with self._reading() as connection:
            body = connection.execute(query).scalar()
        return None if body is None else model.read(json.loads(body))

    def _records(self, connection: sa.Connection, job_id: int, after: int) -> tuple[Record, ...]:
        run, before = runner(connection), ""
        if after:
            row = run(LINKED, {"of_job": job_id, "place": after}).fetchone()
            before = "" if row is None else str(row[0])
        rows = self._base.rows(connection, partial(run, LEDGER, {"of_job": job_id, "place": after}))
        return tuple(read_ledger(rows, before, after, partial(self._figure_set, connection)))

    def _figure_set(self, connection: sa.Connection, sha256: str) -> dict[str, Any] | None:
        """Figures that jobs are worked with, read once; None where they are damaged or missing."""
        if sha256 not in self._figure_sets:
            query = sa.select(figure_set_table.c.body).where(figure_set_table.c.sha256 == sha256)
            body = connection.execute(query).scalar()
            found = None if body is None else figures_of(sha256, str(body))
            if found is None:
                return None
            self._figure_sets[sha256] = found
        return self._figure_sets[sha256]

    def damage(self) -> tuple[str, ...]:
        """What the database finds wrong with its own pages and indexes, a sentence each."""
        with self._reading() as connection:
            return self._base.damage(connection)

    @property
    def is_file(self) -> bool:
        """Whether it stands in a file of this machine."""
        return isinstance(self._base, SqliteFile)

    def rows(self, query: sa.Select[Any]) -> list[Any]:
        """What a query finds, for what carries a whole logbook elsewhere."""
        with self._reading() as connection:
            return list(connection.execute(query).fetchall())

    def put_line(self, connection: sa.Connection, row: dict[str, Any]) -> None:
        """Put a line that was kept in another logbook, as the one that was worked on last here."""
        connection.execute(sa.insert(line_table).values(**row | {"turn": NextTurn()}))
        self._base.words(
            connection, row["job_id"], "\n".join(row[name] for name in ("number", "owner", "engine", "notes"))
        )

    def go_on_numbering(self) -> None:
        """After rows came in with their own numbers: new ones are numbered behind them."""
        self.run(self._base.number_behind)

    def run(self, work: Callable[[sa.Connection], None]) -> None:
        """Whatever else must be done in the database itself, in one transaction."""
        with self._writing() as connection:
            work(connection)

    # -- other benches -------------------------------------------------------------------------------------------------

    def heard(self, seconds: float) -> bool:
        """Wait so long at the most; whether something was booked meanwhile, here or at another bench. For a thread of its own."""
        return self._base.listen(seconds)

    def stop_listening(self) -> None:
        """Listen no more."""
        self._base.stop_listening()

    def reach(self) -> None:
        """Raises ServerAway, EnvironmentTrouble where the logbook cannot be reached just now."""
        with self._reading() as connection:
            connection.execute(sa.select(sa.literal(1)))

    def say_present(self, bench: str, person: str, job_id: int) -> None:
        """Say who is at which job at a bench (0: at none); it is forgotten after a while."""
        b = bench_table.c
        row = {"person": person, "job_id": job_id, "at": now()}
        with self._writing(lasting=False) as connection:  # so that no reading waits for its way to the disk
            if not connection.execute(sa.update(bench_table).where(b.bench == bench).values(**row)).rowcount:
                connection.execute(sa.insert(bench_table).values(bench=bench, **row))

    def who_is_at(self, job_id: int, but: str = "") -> tuple[str, ...]:
        """Who is at a job just now, at other benches than ``but``; in the order of the alphabet."""
        b, since = bench_table.c, (datetime.now(UTC) - GONE_AFTER).isoformat(timespec="milliseconds")
        query = sa.select(b.person).where(b.job_id == job_id, b.bench != but, b.at > since).distinct()
        with self._reading() as connection:
            return tuple(sorted(connection.execute(query).scalars()))

    # -- beside the ledgers --------------------------------------------------------------------------------------------

    def outdated(self) -> list[int]:
        """The jobs of which another version of the program kept what stands beside them; the one worked on last first."""
        query = sa.select(line_table.c.job_id).where(line_table.c.models != VERSION).order_by(line_table.c.turn.desc())
        with self._reading() as connection:
            return list(connection.execute(query).scalars())

    def made_anew(self, job_id: int) -> str:
        """Make what stands beside a ledger anew; returns the job's number where something else stood there, empty where it was the same."""
        with self._writing() as connection:
            self._base.hold(connection, job_id)
            before = _stands(connection, job_id)
            records = self._records(connection, job_id, 0)
            rewrite_beside(self._base, connection, job_id, beside_of(records, shipped_figures()))
            after = _stands(connection, job_id)
        return "" if before == after else str(after[0][0])

    # -- the list ------------------------------------------------------------------------------------------------------

    def job_ids(self, asked: Asked = EVERY) -> list[int]:
        """The jobs that a list asks for, in its order."""
        with self._reading() as connection:
            return list(connection.execute(ids_asked(self._base, asked)).scalars())

    def lines(self, ids: Sequence[int]) -> tuple[JobLine, ...]:
        """The lines of some jobs, in the order of ``ids``."""
        with self._reading() as connection:
            found = {row[0]: line_from(row) for row in connection.execute(lines_by(ids))}
        return tuple(found[i] for i in ids if i in found)

    def jobs(self, search: str = "", aside: bool | None = None) -> tuple[JobLine, ...]:
        """Jobs whose number, owner, engine or notes hold every word of ``search``, the one worked on last first; aside None: those set aside too."""
        with self._reading() as connection:
            rows = connection.execute(lines_asked(self._base, Asked(search, aside, by_due=False)))
            return tuple(line_from(row) for row in rows)

    def count_aside(self) -> int:
        """How many jobs are set aside."""
        query = sa.select(sa.func.count()).select_from(line_table).where(line_table.c.aside != "")
        with self._reading() as connection:
            return int(connection.execute(query).scalar() or 0)

    def said_in(self, column: str) -> tuple[str, ...]:
        """Everything that stands in the lists of ``people`` or ``machines`` of any job, in the order of the alphabet."""
        query = sa.select(line_table.c[column]).distinct()
        with self._reading() as connection:
            found = {word for text in connection.execute(query).scalars() for word in json.loads(text)}
        return tuple(sorted(word for word in found if word))

    def newest_number(self) -> str | None:
        """The job that was worked on last and is not set aside; None where there is none."""
        x = line_table.c
        query = sa.select(x.number).where(x.aside == "").order_by(x.turn.desc()).limit(1)
        with self._reading() as connection:
            return connection.execute(query).scalar()

    def highest_number(self) -> int:
        """The largest of the numbers that are plain ones, of up to nine digits; 0 where none is."""
        with self._reading() as connection:
            numbers = connection.execute(sa.select(job_table.c.number)).scalars()
            return max((int(n) for n in numbers if n.isdecimal() and len(n) < 10), default=0)

    def set_aside(self, number: str, person: str, aside: bool = True) -> None:
        """Set a job aside, or bring it back: it is kept as it stands and no list shows it unasked.

        Raises InputError where there is no such job, or it is so already.
        """
        job_id, at = self.job_id(number), now()
        mine = line_table.c.job_id == job_id
        with self._writing() as connection:
            if aside == bool(connection.execute(sa.select(line_table.c.aside).where(mine)).scalar()):
                raise InputError(f"Job {number} is {'set aside already' if aside else 'in the list as it is'}")
            connection.execute(sa.insert(aside_table).values(at=at, person=person, job_id=job_id, aside=aside))
            connection.execute(sa.update(line_table).where(mine).values(aside=f"{person} {at}" if aside else ""))

    def newest_entry(self) -> tuple[int, int, str] | None:
        """What was booked last: its job, its place and its link; None in an empty logbook."""
        x = line_table.c
        query = sa.select(x.job_id, x.seq, x.link).order_by(x.turn.desc()).limit(1)
        with self._reading() as connection:
            row = connection.execute(query).first()
            return None if row is None else (int(row[0]), int(row[1]), str(row[2]))

    def has_entry(self, job_id: int, seq: int, link: str) -> bool:
        """Whether that entry is here, with that link."""
        e = entry_table.c
        query = sa.select(e.hash).where(e.job_id == job_id, e.seq == seq)
        with self._reading() as connection:
            return connection.execute(query).scalar() == link

    def find(self, number: str) -> int | None:
        """The id of a job; None where there is none of that number."""
        with self._reading() as connection:
            return connection.execute(sa.select(job_table.c.id).where(job_table.c.number == number)).scalar()

    def job_id(self, number: str) -> int:
        """The id of a job. Raises InputError naming near numbers when there is none."""
        with self._reading() as connection:
            found = connection.execute(sa.select(job_table.c.id).where(job_table.c.number == number)).scalar()
            if found is None:
                newest = sa.select(line_table.c.number).order_by(line_table.c.turn.desc()).limit(12)
                others = sorted(str(n) for n in connection.execute(newest).scalars())
                listed = ", ".join(others) if others else "none yet"
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


def _stands(connection: sa.Connection, job_id: int) -> list[tuple[Any, ...]]:
    """All that stands beside a ledger, but for whose version it is."""
    x, k = line_table.c, kept_table.c
    own = [x[c] for c in ("number", *LINE_SAYS)]
    line = connection.execute(sa.select(*own).where(x.job_id == job_id)).fetchall()
    kept = sa.select(k.name, k.key, k.body).where(k.job_id == job_id, k.key != "").order_by(k.name)
    return [tuple(row) for row in (*line, *connection.execute(kept).fetchall())]


def base_of(where: Path | str, make: bool = True, busy_s: float | None = None) -> Base:
    """The place a logbook is named by: the address of a server, else a file. Raises EnvironmentTrouble, InputError."""
    if is_server(where):
        from redline_bore.store.server import PostgresServer

        return PostgresServer(str(where), busy_s)
    return SqliteFile(Path(where), make, busy_s)
