"""A logbook of today's program as an older one would have written it, for the tests of what an upgrade keeps."""

from __future__ import annotations

import json
import sqlite3
from contextlib import closing
from pathlib import Path

from redline_bore.store.chain import link

_LINKED = "job_id, seq, at, person, instrument, block_c, typed, version, body"


def as_written_before(path: Path, version: str) -> None:
    """Turn a logbook back to the tables of schema ``version``, "0001" to "0004"; its entries say what they said."""
    with closing(sqlite3.connect(path, isolation_level=None)) as raw:
        raw.execute("BEGIN")
        _without_what_stands_beside(raw)
        if version < "0004":
            raw.execute("DROP TABLE job_aside")
        if version < "0003":
            raw.execute("DROP TRIGGER entry_no_update")
            raw.execute("ALTER TABLE entry DROP COLUMN hash")
            _guard(raw)
        if version < "0002":
            raw.execute("DROP TABLE photo")
        raw.execute("UPDATE alembic_version SET version_num = ?", (version,))
        raw.execute("COMMIT")
        raw.execute("PRAGMA wal_checkpoint(TRUNCATE)")


def _without_what_stands_beside(raw: sqlite3.Connection) -> None:
    for column in ("owner", "engine", "step"):
        raw.execute(f"ALTER TABLE job ADD COLUMN {column} VARCHAR NOT NULL DEFAULT ''")
        raw.execute(f"UPDATE job SET {column} = (SELECT {column} FROM job_line WHERE job_id = job.id)")
    raw.execute("DROP TRIGGER entry_no_update")
    figures = {sha: json.loads(body) for sha, body in raw.execute("SELECT sha256, body FROM figure_set")}
    job, before = None, ""
    for row in raw.execute(f"SELECT {_LINKED} FROM entry ORDER BY job_id, seq").fetchall():
        if row[0] != job:
            job, before = row[0], ""
        plain = json.loads(row[-1])
        if plain.get("kind") == "job_opened" and plain.get("figures"):
            plain["figures"] = next(iter(figures[sha] for sha in plain["figures"].values()))
        body = json.dumps(plain)
        before = link(before, *row[1:-1], body)
        raw.execute("UPDATE entry SET body = ?, hash = ? WHERE job_id = ? AND seq = ?", (body, before, row[0], row[1]))
    _guard(raw)
    for table in ("job_words", "job_kept", "job_line", "figure_set", "bench"):
        raw.execute(f"DROP TABLE {table}")


def _guard(raw: sqlite3.Connection) -> None:
    raw.execute(
        "CREATE TRIGGER entry_no_update BEFORE UPDATE ON entry BEGIN SELECT RAISE(ABORT, 'nothing in a ledger is changed or deleted'); END"
    )
