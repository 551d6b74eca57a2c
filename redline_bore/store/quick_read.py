"""Reading a logbook through Python's own sqlite3, so that the first picture need not wait for SQLAlchemy.

Reads only, and only a logbook of the present schema; anything else is left to ``store.logbook``.
"""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Iterable, Sequence
from pathlib import Path
from typing import Any

from redline_bore.core.errors import EnvironmentTrouble, InputError
from redline_bore.job.kinds.codec import entry_from_plain
from redline_bore.job.kinds.entry import Record
from redline_bore.store.schema import ENTRY_COLUMNS, SCHEMA_VERSION


def record_from_row(row: Sequence[Any]) -> Record:
    """A record from a row of ENTRY_COLUMNS. Raises InputError when the row cannot be read."""
    seq, at, person, instrument, block_c, typed, version, body = row
    try:
        entry = entry_from_plain(json.loads(body))
    except ValueError as error:
        raise InputError(f"Entry {seq} of this job is damaged: {error}") from error
    return Record(seq, at, person, entry, instrument, block_c, typed, version)


def is_current(path: Path) -> bool:
    """True when ``path`` is a logbook of the present schema. Raises EnvironmentTrouble when it is no logbook."""
    if not path.exists():
        return False
    try:
        with _connected(path) as connection:
            row = connection.execute("SELECT version_num FROM alembic_version").fetchone()
    except sqlite3.OperationalError:
        return False
    except sqlite3.DatabaseError as error:
        raise EnvironmentTrouble(f"{path} is not a logbook of this program ({error})") from error
    return row is not None and row[0] == SCHEMA_VERSION


def _connected(path: Path) -> sqlite3.Connection:
    return sqlite3.connect(f"file:{path}?mode=ro", uri=True, timeout=5.0)


def find_job(path: Path, number: str | None) -> tuple[int, tuple[Record, ...]] | None:
    """The job of a number (None: the one worked on last), with its ledger; None when there is no such job."""
    query = "SELECT id FROM job WHERE number = ?" if number else (
        "SELECT job.id FROM job JOIN entry ON entry.job_id = job.id GROUP BY job.id ORDER BY max(entry.at) DESC LIMIT 1"
    )  # fmt: skip
    with _connected(path) as connection:
        row = connection.execute(query, (number,) if number else ()).fetchone()
        if row is None:
            return None
        columns = ", ".join(ENTRY_COLUMNS)
        rows: Iterable[Any] = connection.execute(f"SELECT {columns} FROM entry WHERE job_id = ? ORDER BY seq", row)
        return row[0], tuple(record_from_row(r) for r in rows)


def own_figures(path: Path) -> dict[str, Any]:
    """The shop's own figures, the newest of each."""
    with _connected(path) as connection:
        rows = connection.execute("SELECT key, value FROM shop_figure ORDER BY id").fetchall()
    return newest_figures(rows)


def newest_figures(rows: Iterable[Any]) -> dict[str, Any]:
    """Key to value from (key, JSON) rows in the order they were set; a null takes the shop's own figure back."""
    found = {key: json.loads(value) for key, value in rows}
    return {key: value for key, value in found.items() if value is not None}
