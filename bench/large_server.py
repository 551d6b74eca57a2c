"""The large logbook on a server of the system's own packages: copied there table by table, measured as a bench works in it."""

from __future__ import annotations

import sqlite3
import subprocess
import sys
from collections.abc import Mapping
from pathlib import Path

import psycopg

from redline_bore.store.prepare import prepare
from tools.servers import BENCH, Server, binaries

TABLES = ("figure_set", "job", "entry", "job_line", "job_kept", "shop_figure", "job_aside", "photo")
AT_ONCE = 5000


def copied(path: Path, url: str) -> None:
    """Put the tables of a logbook's file into an empty, prepared database."""
    raw = sqlite3.connect(path)
    with psycopg.connect(url) as there:
        for table in TABLES:
            rows = raw.execute(f"SELECT * FROM {table}")
            names = ", ".join(column[0] for column in rows.description)
            with there.cursor().copy(f"COPY {table} ({names}) FROM STDIN") as copy:
                while some := rows.fetchmany(AT_ONCE):
                    for row in some:
                        copy.write_row(row)
        there.execute("SELECT setval('booking_turn', (SELECT max(turn) + 1 FROM job_line))")
        for table in ("job", "shop_figure", "job_aside"):
            there.execute(
                f"SELECT setval(pg_get_serial_sequence('{table}', 'id'), (SELECT coalesce(max(id), 0) + 1 FROM {table}), false)"
            )
    raw.close()
    with psycopg.connect(url, autocommit=True) as there:
        there.execute("ANALYZE")


def measured(path: Path, env: Mapping[str, str]) -> str:
    """What ``bench.large_measures`` prints of the logbook on a server; empty where this machine has none."""
    programs = binaries()
    if programs is None:
        return ""
    server = Server(programs, durable=True)
    try:
        server.sql(f"CREATE ROLE {BENCH} LOGIN")
        name = server.database()
        prepare(server.url(name))
        server.sql(f"GRANT redline_benches TO {BENCH}")
        copied(path, server.url(name))
        line = [sys.executable, "-m", "bench.large_measures", server.url(name, BENCH), server.url(name)]
        return subprocess.run(line, env=env, capture_output=True, text=True, check=True).stdout
    finally:
        server.end()
