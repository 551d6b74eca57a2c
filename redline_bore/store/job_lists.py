"""The jobs of a logbook: found by their numbers, listed, sifted, set aside."""

from __future__ import annotations

import json
from collections.abc import Sequence
from typing import Any

import sqlalchemy as sa

from redline_bore.core.errors import InputError
from redline_bore.core.when import now
from redline_bore.store.job_list import EVERY, Asked, JobLine, ids_asked, line_from, lines_asked, lines_by
from redline_bore.store.opened import Opened
from redline_bore.store.statements import NextTurn
from redline_bore.store.tables import (
    aside_table,
    entry_table,
    job_table,
    line_table,
)


class JobLists(Opened):
    """Finds jobs; no ledger is read for it."""

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

    def put_line(self, connection: sa.Connection, row: dict[str, Any]) -> None:
        """Put a line that was kept in another logbook, as the one that was worked on last here."""
        connection.execute(sa.insert(line_table).values(**row | {"turn": NextTurn()}))
        self._base.words(
            connection, row["job_id"], "\n".join(row[name] for name in ("number", "owner", "engine", "notes"))
        )

    def go_on_numbering(self) -> None:
        """After rows came in with their own numbers: new ones are numbered behind them."""
        self.run(self._base.number_behind)
