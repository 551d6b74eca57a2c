"""Both places a logbook can stand in: a file, and a database on a real server."""

import pytest

from redline_bore.store.logbook import Logbook


@pytest.fixture(params=["file", "server"])
def shared(request):
    """A logbook with the sample jobs, in a file and then on a server."""
    where = request.getfixturevalue("demo_path" if request.param == "file" else "bench_url")
    book = Logbook(where)
    book.again = lambda: Logbook(where)  # another bench at the same logbook
    yield book
    book.close()
