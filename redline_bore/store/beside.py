"""What stands beside the ledger: each job's line in the list and what is kept of it for others. Written with the entries, made anew at any time."""

from __future__ import annotations

import json
from collections.abc import Sequence
from typing import Any

import sqlalchemy as sa

from redline_bore.core.figures import Figures
from redline_bore.core.frozen import frozen
from redline_bore.job.kept.line import Line, line_of
from redline_bore.job.kept.models import MODELS, VERSION, Kept, kept_of
from redline_bore.job.kinds.book_in import BookInRevised, JobOpened
from redline_bore.job.kinds.entry import Record
from redline_bore.job.kinds.fold import fold
from redline_bore.store.base import Base
from redline_bore.store.statements import KEEP, KEPT, LINE, NEXT, TURN, NextTurn, Run, runner
from redline_bore.store.tables import line_table


@frozen(often=True)
class Beside:
    """What is written beside the entries of a job. kept: of the models that may have become another; words: those of the search may have; says: what
    the line says may have. whole: it was made from the whole ledger, and is right whatever stood there before."""

    line: Line
    kept: tuple[Kept, ...]
    words: bool = True
    says: bool = True
    whole: bool = True


def beside_of(records: Sequence[Record], shipped: Figures) -> Beside:
    """All of it, from a whole ledger. One that cannot be folded has a line that says what it was opened as, and nothing else."""
    try:
        state = fold(records, shipped)
        return Beside(line_of(state, records), kept_of(state, records))
    except Exception:  # whatever a ledger holds: opening that job, and verify, say what it is
        return Beside(_bare(records), tuple(Kept(model.name) for model in MODELS))


def _bare(records: Sequence[Record]) -> Line:
    people = tuple(dict.fromkeys(str(r.person) for r in reversed(records)))
    number, owner, engine = "", "", ""
    for entry in (r.entry for r in records):
        if isinstance(entry, JobOpened):
            number, owner, engine = entry.number, entry.book_in.owner, entry.book_in.engine
        elif isinstance(entry, BookInRevised):
            owner, engine = entry.book_in.owner, entry.book_in.engine
    return Line(number, owner, engine, people=people)


def write_newest(run: Run, job_id: int, newest: Record, link: str, last: bool) -> None:
    """Write which entry is the newest of a job whose line says what it said. last: nothing was booked into another since."""
    run(NEXT if last else TURN, {"last_at": newest.at, "seq": newest.seq, "link": link, "of_job": job_id})


def write_beside(
    base: Base, connection: sa.Connection, run: Run, job_id: int, newest: Record, link: str, beside: Beside, opened_at: str | None = None
) -> None:  # fmt: skip
    """Write a job's line and what is kept of it; the turn says that it was worked on last. opened_at: of a job that has no line yet."""
    line = beside.line
    row: dict[str, Any] = {"last_at": newest.at, "seq": newest.seq, "link": link}
    if opened_at is not None:
        row |= columns_of(line) | {
            "job_id": job_id,
            "number": line.number,
            "opened_at": opened_at,
            "aside": "",
            "models": VERSION,
            "turn": NextTurn(),
        }
        connection.execute(sa.insert(line_table).values(**row))
    elif not beside.says:
        write_newest(run, job_id, newest, link, last=False)
    else:
        run(LINE, row | columns_of(line) | {"of_job": job_id})
        if beside.whole:
            connection.execute(sa.update(line_table).where(line_table.c.job_id == job_id).values(models=VERSION))
    _write_rest(base, connection, job_id, beside)


def rewrite_beside(base: Base, connection: sa.Connection, job_id: int, beside: Beside) -> None:
    """Write it anew of a job in which nothing was booked."""
    row = columns_of(beside.line) | {"models": VERSION}
    connection.execute(sa.update(line_table).where(line_table.c.job_id == job_id).values(**row))
    _write_rest(base, connection, job_id, beside)


def _write_rest(base: Base, connection: sa.Connection, job_id: int, beside: Beside) -> None:
    if beside.words:
        base.words(connection, job_id, words_of(beside.line))
    for kept in beside.kept:
        write_kept(connection, job_id, kept)


def columns_of(line: Line) -> dict[str, Any]:
    """The line's own columns."""
    return {
        "owner": line.owner, "engine": line.engine, "notes": line.notes, "step": line.step, "done": json.dumps(line.done),
        "promised": line.promised, "due": line.due, "waits_for": line.waits_for, "people": json.dumps(line.people),
        "machines": json.dumps(line.machines),
    }  # fmt: skip


def words_of(line: Line) -> str:
    """What a job is searched by."""
    return "\n".join((line.number, line.owner, line.engine, line.notes))


def write_kept(connection: sa.Connection, job_id: int, kept: Kept) -> None:
    """Put what a model keeps of a job in the place of what it kept before; what says nothing leaves an empty row only where one was."""
    run, body = runner(connection), "" if kept.plain is None else json.dumps(kept.plain)
    row = {"of_job": job_id, "of_name": kept.name, "key": kept.key, "body": body}
    if not run(KEPT, row).rowcount and kept.key:
        run(KEEP, row)
