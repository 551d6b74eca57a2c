"""Reading a logbook through Python's own sqlite3, so that the first picture need not wait for SQLAlchemy.

Reads only, and only a logbook of the present schema; anything else is left to ``store.logbook``.
"""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Iterable
from contextlib import closing
from functools import partial
from pathlib import Path
from typing import Any

from redline_bore.core.errors import EnvironmentTrouble
from redline_bore.job.kinds.entry import Record
from redline_bore.store.chain import figures_of, read_ledger
from redline_bore.store.file_connection import DAMAGE, connected
from redline_bore.store.schema import ENTRY_COLUMNS


def find_job(path: Path, number: str | None) -> tuple[int, tuple[Record, ...]] | None:
    """The job of a number (None: the one worked on last), with its ledger; None when there is no such job.

    Raises EnvironmentTrouble where the logbook cannot be read.
    """
    query = "SELECT id FROM job WHERE number = ?" if number else (
        "SELECT job_id FROM job_line WHERE aside = '' ORDER BY turn DESC LIMIT 1"
    )  # fmt: skip
    try:
        with closing(connected(path)) as connection:  # left to itself it lives until what nobody holds is looked for
            row = connection.execute(query, (number,) if number else ()).fetchone()
            if row is None:
                return None
            columns = ", ".join(ENTRY_COLUMNS)
            rows: Iterable[Any] = connection.execute(f"SELECT {columns} FROM entry WHERE job_id = ? ORDER BY seq", row)
            return row[0], tuple(read_ledger(rows, figure_set=partial(_figure_set, connection)))
    except DAMAGE as error:
        raise EnvironmentTrouble(f"The logbook {path} is damaged ({error}); nothing in it was touched") from error


def _figure_set(connection: sqlite3.Connection, sha256: str) -> dict[str, Any] | None:
    row = connection.execute("SELECT body FROM figure_set WHERE sha256 = ?", (sha256,)).fetchone()
    return None if row is None else figures_of(sha256, row[0])


def own_figures(path: Path) -> dict[str, Any]:
    """The shop's own figures, the newest of each."""
    try:
        with closing(connected(path)) as connection:  # left to itself it lives until what nobody holds is looked for
            rows = connection.execute("SELECT key, value FROM shop_figure ORDER BY id").fetchall()
    except DAMAGE as error:
        raise EnvironmentTrouble(f"The logbook {path} is damaged ({error}); nothing in it was touched") from error
    return newest_figures(rows)


def newest_figures(rows: Iterable[Any]) -> dict[str, Any]:
    """Key to value from (key, JSON) rows in the order they were set; a null takes the shop's own figure back."""
    found = {}
    for key, value in rows:
        try:
            found[key] = json.loads(value)
        except ValueError:
            continue  # a damaged one: the one before it, else the shipped figure, counts
    return {key: value for key, value in found.items() if value is not None}
