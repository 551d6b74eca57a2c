"""A logbook's file by Python's own sqlite3: whether it is one, of which schema, and reading it. Nothing heavy is needed for it."""

from __future__ import annotations

import os
import sqlite3
from contextlib import closing, suppress
from pathlib import Path
from urllib.parse import quote

from redline_bore.core.errors import EnvironmentTrouble
from redline_bore.store.schema import SCHEMA_VERSION, TABLES

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
        with closing(connected(path)) as connection:  # left to itself it lives until what nobody holds is looked for
            names = {row[0] for row in connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
            if not names and _is_nobodys(connection):
                return ""  # not begun yet, or killed as it was being made
            if not names.issuperset((*TABLES, "alembic_version")):
                raise EnvironmentTrouble(f"{path} is a file of another program; nothing in it was touched")
            row = connection.execute("SELECT version_num FROM alembic_version").fetchone()
    except DAMAGE as error:
        raise EnvironmentTrouble(
            f"{path} is not a logbook of this program, or is damaged ({error}); nothing in it was touched"
        ) from error
    return "0000" if row is None else str(row[0])


def _is_nobodys(connection: sqlite3.Connection) -> bool:
    """An empty file, or one in which no program has put its mark."""
    return not any(connection.execute(f"PRAGMA {mark}").fetchone()[0] for mark in ("application_id", "user_version"))


def connected(path: Path) -> sqlite3.Connection:
    """A connection that only reads. Where the file or its folder cannot be written, as it lies there."""
    uri = f"file:{quote(str(path.absolute()))}"
    if not os.access(path, os.W_OK) or not os.access(path.parent, os.W_OK):
        return _opened(f"{uri}?mode=ro&immutable=1")
    connection = _opened(f"{uri}?mode=ro")
    try:
        connection.execute("PRAGMA schema_version").fetchone()
    except sqlite3.OperationalError as error:
        if "readonly" in str(error):
            _mend(f"{uri}?mode=rw")
    return connection  # of whatever else is wrong whoever reads in it is told


def _mend(uri: str) -> None:
    """Let the database take back what a kill left half done: it must write for that."""
    with closing(_opened(uri)) as mending, suppress(sqlite3.OperationalError):
        mending.execute("PRAGMA schema_version").fetchone()


def _opened(uri: str) -> sqlite3.Connection:
    connection = sqlite3.connect(
        uri, uri=True, timeout=5.0, check_same_thread=False
    )  # a pool hands it on from thread to thread
    connection.text_factory = text_of
    return connection


def text_of(raw: bytes) -> str:
    """A text of the file; what is no text any more is read with its damage in it, and the chain tells it."""
    return raw.decode("utf-8", "replace")
