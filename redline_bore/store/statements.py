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


NEWEST = (
    sa.select(_e.seq, _e.hash)
    .where(_e.job_id == _of_job)
    .order_by(_e.seq.desc())
    .limit(sa.bindparam("most", type_=sa.Integer))
)
LINKED = sa.select(_e.hash).where(_e.job_id == _of_job, _e.seq == sa.bindparam("place"))
LEDGER = sa.select(*(_e[name] for name in ENTRY_COLUMNS)).where(_e.job_id == _of_job, _e.seq > sa.bindparam("place")).order_by(_e.seq)  # fmt: skip
BOOK = sa.insert(entry_table).values({c.name: sa.bindparam(c.name) for c in entry_table.columns})


def _line_with(names: tuple[str, ...]) -> sa.Update:
    said: dict[str, Any] = {name: sa.bindparam(name) for name in names}
    return sa.update(line_table).where(_x.job_id == _of_job).values({**said, "turn": NextTurn()})


LINE, TURN = _line_with(_LINE), _line_with(_NEWEST)  # the second: where the line says what it said
KEPT = sa.update(kept_table).where(_k.job_id == _of_job, _k.name == _of_name).values(key=sa.bindparam("key"), body=sa.bindparam("body"))  # fmt: skip
KEEP = sa.insert(kept_table).values(job_id=_of_job, name=_of_name, key=sa.bindparam("key"), body=sa.bindparam("body"))

Run = Callable[[Any, Mapping[str, Any]], Any]
_MADE: dict[tuple[str, int], tuple[str, list[str] | None, dict[str, Any]]] = {}


def runner(connection: sa.Connection) -> Run:
    """Carries statements out on a connection, within its transaction; each gives the driver's own cursor."""
    dialect, cursor_of = connection.dialect, connection.connection.cursor

    def run(statement: Any, given: Mapping[str, Any]) -> Any:
        made = _MADE.get((dialect.name, id(statement)))
        if made is None:
            compiled = statement.compile(dialect=dialect)
            usual = {name: value for name, value in compiled.params.items() if value is not None}
            made = (str(compiled), list(compiled.positiontup) if compiled.positional else None, usual)
            _MADE[(dialect.name, id(statement))] = made
        sql, order, usual = made
        whole = {**usual, **given} if usual else given
        cursor = cursor_of()
        cursor.execute(sql, whole if order is None else [whole[name] for name in order])
        return cursor

    return run
