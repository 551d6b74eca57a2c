"""The logbook: every job's ledger, append-only, kept through a power cut; in a file, or on a server that several benches book into.

When ``append`` returns, the entry is on the disk. Each append holds the job, learns what others wrote, numbers its entries after theirs, and writes
what stands beside the ledger in the same transaction. Reading waits for nobody and keeps nobody waiting.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Sequence
from functools import partial
from typing import Any

import sqlalchemy as sa
from sqlalchemy.exc import IntegrityError

from redline_bore.core.errors import InputError
from redline_bore.core.frozen import frozen
from redline_bore.core.when import now
from redline_bore.job.kept.models import VERSION, Model
from redline_bore.job.kinds.book_in import JobOpened
from redline_bore.job.kinds.codec import entry_from_plain, to_plain
from redline_bore.job.kinds.entry import Draft, Record
from redline_bore.store.beside import Beside, beside_of, rewrite_beside, write_beside, write_newest
from redline_bore.store.chain import figures_of, link, read_ledger, referring
from redline_bore.store.job_lists import JobLists
from redline_bore.store.photos import PhotoBytes
from redline_bore.store.shop import shipped_figures
from redline_bore.store.shop_book import ShopBook
from redline_bore.store.statements import BOOK, LEDGER, LINKED, NEWEST, Run, runner
from redline_bore.store.tables import (
    LINE_SAYS,
    entry_table,
    figure_set_table,
    job_table,
    kept_table,
    line_table,
)

TRIES = 3  # to fold a ledger while others book into it
_written = json.JSONEncoder(allow_nan=False, check_circular=False).encode


@frozen
class KeptRow:
    """What a model keeps of a job."""

    job_id: int
    number: str
    said: Any


class Logbook(JobLists, ShopBook):
    """One open logbook, in a file or on a server. Every method raises EnvironmentTrouble when it cannot be read or written."""

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
                run = runner(connection)
                records, linked = self._insert(connection, run, job_id, drafts, 0, "")
                beside = beside_of(records, shipped_figures())
                write_beside(self._base, connection, run, job_id, records[-1], linked, beside, records[0].at)
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
        beside: Callable[[tuple[Record, ...]], Beside | None] | None = None,
    ) -> tuple[Record, ...]:
        """Book entries; returns all records after ``known_seq``, another program's among them, oldest first.

        check: is handed what others booked after ``known_seq``, inside the transaction; when it raises, nothing is booked. beside: is handed all
        records after ``known_seq`` and says what stands beside the ledger now (None: what stood there); None: it is made from the whole of it.
        When this returns the entries are on the disk.
        """
        with self._writing() as connection:
            self._base.hold_and_say(connection, job_id)
            run = runner(connection)
            seq, before, last = _newest(run, job_id)
            others = self._records(connection, job_id, known_seq) if seq > known_seq else ()
            if check is not None:
                check(others)
            mine, linked = self._insert(connection, run, job_id, drafts, seq, before)
            new = others + mine
            if new:
                if beside is None:
                    found: Beside | None = beside_of(self._records(connection, job_id, 0), shipped_figures())
                else:
                    found = beside(new)
                if found is None:
                    write_newest(run, job_id, new[-1], linked, last)
                else:
                    write_beside(self._base, connection, run, job_id, new[-1], linked, found)
            return new

    def _insert(
        self, connection: sa.Connection, run: Run, job_id: int, drafts: Sequence[Draft], seq: int, before: str
    ) -> tuple[tuple[Record, ...], str]:
        """Write entries after place ``seq``, each linked to the one before; returns them, and the hash of the last."""
        records = []
        for draft in drafts:
            seq += 1
            plain, at = to_plain(draft.entry), draft.at or now()
            records.append(
                Record(seq, at, draft.person, entry_from_plain(plain), draft.instrument, draft.block_c, draft.typed)
            )
            if isinstance(draft.entry, JobOpened):
                plain = self._figures_apart(connection, plain)
            body = _written(plain)
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

    def outdated(self) -> list[int]:
        """The jobs of which another version of the program kept what stands beside them; the one worked on last first."""
        query = sa.select(line_table.c.job_id).where(line_table.c.models != VERSION).order_by(line_table.c.turn.desc())
        with self._reading() as connection:
            return list(connection.execute(query).scalars())

    def made_anew(self, job_id: int) -> str:
        """Make what stands beside a ledger anew; returns the job's number where something else stood there, empty where it was the same.

        A long ledger takes a while to fold: nobody waits for it, and where somebody booked meanwhile it is folded again.
        """
        for _turn in range(TRIES):
            records = self.ledger(job_id)
            found = beside_of(records, shipped_figures())
            with self._writing() as connection:
                self._base.hold(connection, job_id)
                if _newest(runner(connection), job_id)[0] == records[-1].seq:
                    return self._put_beside(connection, job_id, found)
        with self._writing() as connection:  # into this one is booked all the time
            self._base.hold(connection, job_id)
            found = beside_of(self._records(connection, job_id, 0), shipped_figures())
            return self._put_beside(connection, job_id, found)

    def _put_beside(self, connection: sa.Connection, job_id: int, found: Beside) -> str:
        before = _stands(connection, job_id)
        rewrite_beside(self._base, connection, job_id, found)
        after = _stands(connection, job_id)
        return "" if before == after else str(after[0][0])


def _newest(run: Run, job_id: int) -> tuple[int, str, bool]:
    """The place and the hash of a ledger's last entry, 0 and nothing where it has none; whether nothing was booked into another job since."""
    last = run(NEWEST, {"of_job": job_id}).fetchone()
    return (0, "", False) if last is None else (int(last[0]), str(last[1]), bool(last[2]))


def _stands(connection: sa.Connection, job_id: int) -> list[tuple[Any, ...]]:
    """All that stands beside a ledger, but for whose version it is."""
    x, k = line_table.c, kept_table.c
    own = [x[c] for c in ("number", *LINE_SAYS)]
    line = connection.execute(sa.select(*own).where(x.job_id == job_id)).fetchall()
    kept = sa.select(k.name, k.key, k.body).where(k.job_id == job_id, k.key != "").order_by(k.name)
    return [tuple(row) for row in (*line, *connection.execute(kept).fetchall())]
