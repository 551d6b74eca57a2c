"""The list of jobs: what is asked of it, and the line of each. The database sorts, sifts and searches; nothing is folded."""

from __future__ import annotations

import json
from collections.abc import Sequence
from typing import Any

import sqlalchemy as sa

from redline_bore.core.frozen import frozen
from redline_bore.store.base import Base
from redline_bore.store.tables import line_table


@frozen
class Asked:
    """search: words, each to be held by number, owner, engine or notes. aside: True those set aside, False the others, None both. state: "open", "late",
    "signed off" or empty; today: the day by which late is judged, as 2026-12-12. by_due: what is promised first stands on top."""

    search: str = ""
    aside: bool | None = None
    state: str = ""
    person: str = ""
    machine: str = ""
    today: str = ""
    by_due: bool = True


EVERY = Asked()


@frozen
class JobLine:
    """A job as the list shows it. done: the steps that are stamped; promised: the day, empty where none was; waits_for: what nobody at the bench can
    do; people: who booked in it, the newest first; machines: those that were stated in it; aside: who set it aside, and when."""

    job_id: int
    number: str
    owner: str
    engine: str
    opened_at: str
    last_at: str
    step: str
    aside: str = ""
    done: tuple[str, ...] = ()
    promised: str = ""
    waits_for: str = ""
    people: tuple[str, ...] = ()
    machines: tuple[str, ...] = ()


_x = line_table.c
_COLUMNS = (
    _x.job_id, _x.number, _x.owner, _x.engine, _x.opened_at, _x.last_at, _x.step, _x.aside, _x.done, _x.promised, _x.waits_for, _x.people,
    _x.machines,
)  # fmt: skip


def line_from(row: Any) -> JobLine:
    """A line from a row of the database."""
    job_id, number, owner, engine, opened_at, last_at, step, aside, done, promised, waits_for, people, machines = row
    lists = (tuple(json.loads(text)) for text in (done, people, machines))
    stamped, persons, stated = lists
    return JobLine(
        job_id, number, owner, engine, opened_at, last_at, step, aside, stamped, promised, waits_for, persons, stated
    )


def ids_asked(base: Base, asked: Asked) -> sa.Select[Any]:
    """Finds the ids of the jobs asked for, in the order of the list."""
    return _sifted(sa.select(_x.job_id), base, asked)


def lines_asked(base: Base, asked: Asked) -> sa.Select[Any]:
    """Finds the lines of the jobs asked for, in the order of the list."""
    return _sifted(sa.select(*_COLUMNS), base, asked)


def lines_by(ids: Sequence[int]) -> sa.Select[Any]:
    """Finds the lines of some jobs."""
    return sa.select(*_COLUMNS).where(_x.job_id.in_(ids))


def _sifted(query: sa.Select[Any], base: Base, asked: Asked) -> sa.Select[Any]:
    for word in asked.search.split():
        query = query.where(base.holding(word, line_table))
    if asked.aside is not None:
        query = query.where((_x.aside != "") if asked.aside else (_x.aside == ""))
    signed = _x.done.contains('"sign_off"')
    if asked.state:
        query = query.where(signed if asked.state == "signed off" else sa.not_(signed))
    if asked.state == "late":
        query = query.where(_x.due != "", _x.due < asked.today)
    for column, word in ((_x.people, asked.person), (_x.machines, asked.machine)):
        if word:
            query = query.where(column.contains(json.dumps(word), autoescape=True))
    if asked.by_due:
        query = query.order_by((_x.due == "").asc(), _x.due.asc())
    return query.order_by(_x.turn.desc())
