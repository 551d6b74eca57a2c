"""The large logbook on a server of the system's own packages: copied there table by table, measured as a bench works in it."""

from __future__ import annotations

import sqlite3
import subprocess
import sys
import time
from collections.abc import Mapping
from pathlib import Path

import psycopg

from bench.booking import SLOW_BOOKING, SLOW_US
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


def _printed(module: str, there: list[str], env: Mapping[str, str]) -> str:
    line = [sys.executable, "-m", module, *there]
    return subprocess.run(line, env=env, capture_output=True, text=True, check=True).stdout


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
        there = [server.url(name, BENCH), server.url(name)]
        printed = _printed("bench.large_measures", there, env)
        for line in (
            f"commit_delay = {SLOW_US}",
            "commit_siblings = 0",
        ):  # as on a disk that takes so long for an fsync
            server.sql(f"ALTER SYSTEM SET {line}")
        server.sql("SELECT pg_reload_conf()")
        time.sleep(1.0)
        return f"{printed}{SLOW_BOOKING}|{_printed('bench.booking', there, env).strip()}|1.0\n"
    finally:
        server.end()
