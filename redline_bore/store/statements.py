"""The few statements that every booking needs, put into the database's own words once: making them anew costs more than carrying them out."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

import sqlalchemy as sa
from sqlalchemy.ext.compiler import compiles
from sqlalchemy.sql.functions import FunctionElement

from redline_bore.store.schema import ENTRY_COLUMNS
from redline_bore.store.tables import LINE_SAYS, entry_table, kept_table, line_table

_e, _x, _k = entry_table.c, line_table.c, kept_table.c
_of_job: sa.BindParameter[Any] = sa.bindparam("of_job")
_of_name: sa.BindParameter[Any] = sa.bindparam("of_name")
_NEWEST = ("last_at", "seq", "link")  # what every booking changes of a line
_LINE = (*LINE_SAYS, *_NEWEST)


class NextTurn(FunctionElement[int]):
    """The turn of a booking: larger than that of any before it. Told by the database as it writes, so that no question goes before."""

    type = sa.Integer()
    inherit_cache = True


@compiles(NextTurn, "sqlite")
def _of_file(_element: NextTurn, _compiler: Any, **_given: Any) -> str:
    return "(SELECT coalesce(max(turn), 0) + 1 FROM job_line)"


@compiles(NextTurn, "postgresql")
def _of_server(_element: NextTurn, _compiler: Any, **_given: Any) -> str:
    return "nextval('booking_turn')"


_last: sa.ScalarSelect[Any] = sa.select(_x.job_id).order_by(_x.turn.desc()).limit(1).scalar_subquery()
# The newest entry of a job, and whether that job was booked into last.
NEWEST = sa.select(_e.seq, _e.hash, _last == _of_job).where(_e.job_id == _of_job).order_by(_e.seq.desc()).limit(1)
LINKED = sa.select(_e.hash).where(_e.job_id == _of_job, _e.seq == sa.bindparam("place"))
LEDGER = sa.select(*(_e[name] for name in ENTRY_COLUMNS)).where(_e.job_id == _of_job, _e.seq > sa.bindparam("place")).order_by(_e.seq)  # fmt: skip
BOOK = sa.insert(entry_table).values({c.name: sa.bindparam(c.name) for c in entry_table.columns})


def _line_with(names: tuple[str, ...], **more: Any) -> sa.Update:
    said: dict[str, Any] = {name: sa.bindparam(name) for name in names}
    return sa.update(line_table).where(_x.job_id == _of_job).values({**said, **more})


LINE = _line_with(_LINE, turn=NextTurn())
TURN = _line_with(_NEWEST, turn=NextTurn())  # where the line says what it said
NEXT = _line_with(_NEWEST)  # and where its job was booked into last
KEPT = sa.update(kept_table).where(_k.job_id == _of_job, _k.name == _of_name).values(key=sa.bindparam("key"), body=sa.bindparam("body"))  # fmt: skip
KEEP = sa.insert(kept_table).values(job_id=_of_job, name=_of_name, key=sa.bindparam("key"), body=sa.bindparam("body"))

Run = Callable[[Any, Mapping[str, Any]], Any]
InWords = tuple[str, dict[str, Any]]  # a statement as it is sent, and what is given by itself
_MADE: dict[str, dict[int, InWords]] = {}  # by dialect and statement


def runner(connection: sa.Connection) -> Run:
    """Carries statements out on a connection, within its transaction; each gives the driver's own cursor, to be read before the next."""
    dialect, cursor = connection.dialect, connection.connection.cursor()
    made = _MADE.setdefault(dialect.name, {})

    def run(statement: Any, given: Mapping[str, Any]) -> Any:
        found = made.get(id(statement))
        if found is None:
            found = made[id(statement)] = _in_words(statement, dialect)
        sql, usual = found
        cursor.execute(sql, {**usual, **given} if usual else given)
        return cursor

    return run


def _in_words(statement: Any, dialect: sa.Dialect) -> InWords:
    made: Any = type(dialect)
    by_name = made(paramstyle="named") if dialect.positional else dialect
    compiled = statement.compile(dialect=by_name)
    return str(compiled), {name: value for name, value in compiled.params.items() if value is not None}
