"""Logbooks for the tests of the store: what holds of one in a file holds of one on a server."""

import sqlite3
from contextlib import closing

import psycopg
import pytest

from redline_bore.store.logbook import Logbook


@pytest.fixture(params=["file", "server"])
def shared(request):
    """A logbook with the sample jobs, in a file and then on a server.

    ``again``: another bench at it. ``spoil``: what nobody may do, done past every guard; what it found is given back.
    """
    on_server = request.param == "server"
    where = request.getfixturevalue("bench_url" if on_server else "demo_path")
    book = Logbook(where)
    book.again = lambda: Logbook(where)
    book.spoil = _past_the_server(request.getfixturevalue("server"), where) if on_server else _past_the_file(where)
    yield book
    book.close()


def _past_the_file(path):
    def spoil(*lines):
        with closing(sqlite3.connect(path)) as raw, raw:
            for (name,) in raw.execute(
                "SELECT name FROM sqlite_master WHERE type = 'trigger' AND name LIKE '%_no_%'"
            ).fetchall():
                raw.execute(f"DROP TRIGGER {name}")
            return [raw.execute(line).fetchall() for line in lines]

    return spoil


def _past_the_server(server, url):
    def spoil(*lines):
        with psycopg.connect(server.url(str(url).rsplit("/", 1)[1]), autocommit=True) as raw:
            raw.execute("SET session_replication_role = replica")  # no trigger
            done = [raw.execute(line) for line in lines]
            return [d.fetchall() if d.description else [] for d in done]

    return spoil
