"""Reading a logbook through Python's own sqlite3, so that the first picture need not wait for SQLAlchemy.

Reads only, and only a logbook of the present schema; anything else is left to ``store.logbook``.
"""

from __future__ import annotations

import json
import os
import sqlite3
from collections.abc import Iterable
from functools import partial
from pathlib import Path
from typing import Any
from urllib.parse import quote

from redline_bore.core.errors import EnvironmentTrouble
from redline_bore.job.kinds.entry import Record
from redline_bore.store.chain import figures_of, read_ledger
from redline_bore.store.schema import ENTRY_COLUMNS, SCHEMA_VERSION, TABLES

DAMAGE = (
    sqlite3.DatabaseError,
    UnicodeDecodeError,
)  # the second: a message of the database that quotes what is damaged


def is_current(path: Path) -> bool:
    """True when ``path`` is a logbook of the present schema. Raises EnvironmentTrouble when it is no logbook of this program."""
    return version_of(path) == SCHEMA_VERSION


def version_of(path: Path) -> str:
    """The schema of a logbook; empty where there is none yet. Raises EnvironmentTrouble when it is no logbook of this program."""
    if not path.exists():
        return ""
    try:
        with connected(path) as connection:
            names = {row[0] for row in connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
            if not names and path.stat().st_size == 0:
                return ""
            if not names.issuperset((*TABLES, "alembic_version")):
                raise EnvironmentTrouble(f"{path} is a file of another program; nothing in it was touched")
            row = connection.execute("SELECT version_num FROM alembic_version").fetchone()
    except DAMAGE as error:
        raise EnvironmentTrouble(
            f"{path} is not a logbook of this program, or is damaged ({error}); nothing in it was touched"
        ) from error
    return "0000" if row is None else str(row[0])


def connected(path: Path) -> sqlite3.Connection:
    """A connection that only reads. Where the file or its folder cannot be written, as it lies there."""
    uri = f"file:{quote(str(path.absolute()))}?mode=ro"
    if not os.access(path, os.W_OK) or not os.access(path.parent, os.W_OK):
        uri += "&immutable=1"
    connection = sqlite3.connect(
        uri, uri=True, timeout=5.0, check_same_thread=False
    )  # a pool hands it on from thread to thread
    connection.text_factory = text_of
    return connection


def text_of(raw: bytes) -> str:
    """A text of the file; what is no text any more is read with its damage in it, and the chain tells it."""
    return raw.decode("utf-8", "replace")


def find_job(path: Path, number: str | None) -> tuple[int, tuple[Record, ...]] | None:
    """The job of a number (None: the one worked on last), with its ledger; None when there is no such job.

    Raises EnvironmentTrouble where the logbook cannot be read.
    """
    query = "SELECT id FROM job WHERE number = ?" if number else (
        "SELECT job_id FROM job_line WHERE aside = '' ORDER BY turn DESC LIMIT 1"
    )  # fmt: skip
    try:
        with connected(path) as connection:
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
        with connected(path) as connection:
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
