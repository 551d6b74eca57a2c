"""What every test needs: the shipped figures, the sample jobs in a logbook of the test's own, no home folder touched."""

import os
import shutil
import time
from pathlib import Path

import pytest
from hypothesis import settings

os.environ["TZ"] = "UTC"
time.tzset()
SCREEN = Path(__file__).parent / "screen.json"
settings.register_profile("bench", deadline=None)  # a slow machine is not a wrong answer
settings.register_profile("few", deadline=None, max_examples=8)
settings.load_profile(os.environ.get("HYPOTHESIS_PROFILE", "bench"))
os.environ.setdefault("QT_QPA_PLATFORM", f"offscreen:configfile={SCREEN}")


@pytest.fixture(autouse=True)
def no_home(tmp_path, monkeypatch):
    """Nothing is written into anybody's home."""
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path / "config"))


@pytest.fixture(scope="session")
def shipped():
    from redline_bore.store.shop import shipped_figures

    return shipped_figures()


@pytest.fixture(scope="session")
def demo_master(tmp_path_factory, shipped):
    """The sample jobs, written once; where faults are tried, as they were written before."""
    if ready := os.environ.get("REDLINE_DEMO"):
        return Path(ready)
    from redline_bore.demo.jobs import write_demo
    from redline_bore.store.logbook import Logbook

    path = tmp_path_factory.mktemp("demo") / "logbook.sqlite"
    logbook = Logbook(path)
    write_demo(logbook, shipped)
    logbook.close()
    return path


@pytest.fixture
def demo_path(demo_master, tmp_path):
    """A logbook with the sample jobs, for this test alone."""
    path = tmp_path / "logbook.sqlite"
    shutil.copy(demo_master, path)
    return path


@pytest.fixture
def logbook(demo_path):
    from redline_bore.store.logbook import Logbook

    book = Logbook(demo_path)
    yield book
    book.close()


@pytest.fixture
def ledger_of(logbook):
    return lambda number: logbook.ledger(logbook.job_id(number))


@pytest.fixture
def state_of(ledger_of, shipped):
    from redline_bore.job.kinds.fold import fold

    return lambda number: fold(ledger_of(number), shipped)


@pytest.fixture(scope="session")
def server():
    """A server that runs for as long as the tests do. Skipped, and said so, where this machine has none."""
    from tools.servers import BENCH, OTHER_BENCH, Server, binaries

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
    from redline_bore.job.kinds.entry import Draft
    from redline_bore.store.logbook import Logbook
    from redline_bore.store.prepare import prepare
    from tools.servers import BENCH, OTHER_BENCH

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
    from tools.servers import BENCH

    return server.url(server.database(demo_database), BENCH)
