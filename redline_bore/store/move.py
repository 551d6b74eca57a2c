"""Carrying a whole logbook to another place, from a file to a server or back: row by row as it stands, hashes and times with it, resumable."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import sqlalchemy as sa

from redline_bore.core.errors import InputError
from redline_bore.store.job_list import Asked
from redline_bore.store.logbook import Logbook
from redline_bore.store.tables import (
    aside_table,
    entry_table,
    figure_set_table,
    figure_table,
    job_table,
    kept_table,
    line_table,
    photo_table,
)

Tick = Callable[[int, int], None]
MANY = 2000  # rows at a time


def move(source: Logbook, target: Logbook, tick: Tick | None = None) -> int:
    """Carry every job of ``source`` into ``target``, which is empty or holds the beginning of the same; returns how many jobs there are.

    Each job goes whole or not at all; broken off, it goes on where it was. Nothing is taken away from ``source``. Raises InputError where the
    target holds something else, EnvironmentTrouble.
    """
    if source.where == target.where or (source.is_file and target.is_file and source.path.samefile(target.path)):
        raise InputError(f"{target.where} is the logbook itself; nothing was moved")
    return copied(source, target, tick)


def copied(source: Logbook, target: Logbook, tick: Tick | None = None) -> int:
    """``move``, for a copy that is made of a logbook."""
    _same_beginning(source, target)
    _whole_table(source, target, figure_set_table, "sha256")
    _whole_table(source, target, photo_table, "sha256")
    ids = list(reversed(source.job_ids(Asked(by_due=False))))
    for i, job_id in enumerate(ids, start=1):
        _job(source, target, job_id)
        if tick is not None:
            tick(i, len(ids))
    _whole_table(source, target, figure_table, "id")
    _whole_table(source, target, aside_table, "id")
    target.go_on_numbering()
    return len(ids)


def _same_beginning(source: Logbook, target: Logbook) -> None:
    theirs = {line.number: line.job_id for line in source.jobs()}
    for line in target.jobs():
        if theirs.get(line.number) != line.job_id:
            raise InputError(
                f"{target.where} holds job {line.number}, which is not that of {source.where}; take an empty one, or merge the two"
            )


def _whole_table(source: Logbook, target: Logbook, table: sa.Table, key: str) -> None:
    """Rows of a table that the target does not have yet."""
    there = {row[0] for row in target.rows(sa.select(table.c[key]))}
    for row in source.rows(sa.select(table.c[key]).order_by(table.c[key])):
        if row[0] not in there:
            whole = source.rows(sa.select(table).where(table.c[key] == row[0]))[0]
            target.run(lambda connection, whole=whole: _put(connection, table, [whole]))  # type: ignore[misc]  # as it stands in this turn


def _job(source: Logbook, target: Logbook, job_id: int) -> None:
    """One job, as it stands; what the target has of it stays, and what came in since is added."""
    e = entry_table.c
    last = target.rows(sa.select(sa.func.max(e.seq)).where(e.job_id == job_id))[0][0] or 0
    ends = [x.rows(sa.select(e.hash).where(e.job_id == job_id, e.seq == last)) for x in (source, target)]
    if last and [tuple(row) for row in ends[0]] != [tuple(row) for row in ends[1]]:
        number = target.lines([job_id])[0].number
        raise InputError(
            f"Job {number} was worked on in {target.where} too, and is not what {source.where} has; merge the two"
        )
    rows = source.rows(sa.select(entry_table).where(e.job_id == job_id, e.seq > last).order_by(e.seq))
    job = [] if last else source.rows(sa.select(job_table).where(job_table.c.id == job_id))
    line = source.rows(sa.select(line_table).where(line_table.c.job_id == job_id))
    kept = source.rows(sa.select(kept_table).where(kept_table.c.job_id == job_id))
    if not rows and line[0].seq == last and target.lines([job_id])[0].aside == line[0].aside:
        return

    def put(connection: sa.Connection) -> None:
        _put(connection, job_table, job)
        _put(connection, entry_table, rows)
        for table in (kept_table, line_table) if last else ():
            connection.execute(sa.delete(table).where(table.c.job_id == job_id))
        _put(connection, kept_table, kept)
        target.put_line(connection, dict(line[0]._mapping))

    target.run(put)


def _put(connection: sa.Connection, table: sa.Table, rows: list[Any]) -> None:
    names = [c.name for c in table.columns]
    for first in range(0, len(rows), MANY):
        connection.execute(sa.insert(table), [dict(zip(names, row, strict=True)) for row in rows[first : first + MANY]])
