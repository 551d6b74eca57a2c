"""Both places a logbook can stand in: a file, and a database on a real server."""

import pytest

from redline_bore.store.logbook import Draft, Logbook
from redline_bore.store.prepare import prepare
from tests.servers import BENCH, OTHER_BENCH, Server, binaries


@pytest.fixture(scope="session")
def server():
    """A server that runs for as long as the tests do. Skipped, and said so, where this machine has none."""
    programs = binaries()
    if programs is None:
        pytest.skip(
            "no PostgreSQL server on this machine: apt-get install postgresql, then the tests of the server run too"
        )
    running = Server(programs)
    for who in (BENCH, OTHER_BENCH):
        running.sql(f"CREATE ROLE {who} LOGIN")
    yield running
    running.end()


@pytest.fixture(scope="session")
def demo_database(server, demo_master):
    """A database with the sample jobs, made ready for two benches; others are made like it."""
    name = server.database()
    prepare(server.url(name))
    for who in (BENCH, OTHER_BENCH):
        server.sql(f"GRANT redline_benches TO {who}")
    made, book = Logbook(demo_master), Logbook(server.url(name))
    for line in reversed(made.jobs()):
        ledger = made.ledger(line.job_id)
        drafts = [Draft(r.entry, r.person, r.instrument, r.block_c, r.typed, r.at) for r in ledger]
        book.take_ledger(drafts, made.photos_of(ledger))
    made.close()
    book.close()
    return name


@pytest.fixture
def bench_url(server, demo_database):
    """A server's logbook with the sample jobs for this test alone, as a bench opens it."""
    return server.url(server.database(demo_database), BENCH)


@pytest.fixture(params=["file", "server"])
def shared(request):
    """A logbook with the sample jobs, in a file and then on a server."""
    where = request.getfixturevalue("demo_path" if request.param == "file" else "bench_url")
    book = Logbook(where)
    book.again = lambda: Logbook(where)  # another bench at the same logbook
    yield book
    book.close()
