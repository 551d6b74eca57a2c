"""A server's logbook: what a bench may do there and what it may not, two benches at one job, the server away and back."""

import threading

import psycopg
import pytest

from redline_bore.core.errors import EnvironmentTrouble, InputError, LogbookBusy, ServerAway
from redline_bore.desk.desk import Desk
from redline_bore.job.kinds.entry import Draft
from redline_bore.job.kinds.gauge import ReadingBooked
from redline_bore.store.logbook import Logbook
from redline_bore.store.prepare import prepare
from redline_bore.store.rebuild import rebuild
from redline_bore.store.tables import APPENDED
from redline_bore.store.verify import verified
from tools.servers import BENCH, OTHER_BENCH


def reading(n=0, who="RM"):
    return Draft(ReadingBooked(cylinder=1, depth_mm=24.0, clock_deg=0.0, diameter_mm=105.0 + n / 1e4, plate_on=True), who)  # fmt: skip


@pytest.fixture
def database(bench_url):
    return bench_url.rsplit("/", 1)[1]


@pytest.mark.parametrize("table", APPENDED)
@pytest.mark.parametrize("act", ["UPDATE {0} SET {1} = {1}", "DELETE FROM {0}", "TRUNCATE {0} CASCADE", "DROP TABLE {0} CASCADE", "ALTER TABLE {0} ADD COLUMN x int"])  # fmt: skip
def test_a_bench_may_append_and_read_and_nothing_else(server, database, table, act):
    column = {"photo": "sha256", "figure_set": "sha256", "entry": "body"}.get(table, "id")
    with pytest.raises((psycopg.errors.InsufficientPrivilege, psycopg.errors.RaiseException)):
        server.sql(act.format(table, column), database, BENCH)


@pytest.mark.parametrize("table", ["entry", "job_aside", "photo", "shop_figure", "figure_set"])
@pytest.mark.parametrize("act", ["UPDATE {0} SET {1} = {1}", "DELETE FROM {0}"])
def test_not_even_who_keeps_the_server_changes_a_row(server, database, table, act):
    rows = {
        "job_aside": "INSERT INTO job_aside (at, person, job_id, aside) VALUES ('x', 'x', 1, true)", "photo": "INSERT INTO photo VALUES ('a', 'b', '')",
        "shop_figure": "INSERT INTO shop_figure (at, person, key, value) VALUES ('x', 'x', 'x', 'x')",
    }  # fmt: skip
    if table in rows:
        server.sql(rows[table], database)
    column = {"photo": "media", "figure_set": "body", "entry": "body"}.get(table, "id")
    with pytest.raises(psycopg.errors.RaiseException, match="nothing in a logbook is changed or deleted"):
        server.sql(act.format(table, column), database)


def test_two_benches_at_one_job_are_numbered_by_the_server(server, database):
    one, two = (Logbook(server.url(database, who)) for who in (BENCH, OTHER_BENCH))
    job = one.job_id("2041")
    known = one.ledger(job)[-1].seq
    mine = one.append(job, known, [reading(1)])
    theirs = two.append(job, known, [reading(2, "KT")])
    assert [r.seq for r in theirs] == [known + 1, known + 2] and theirs[0] == mine[0]
    one.close()
    two.close()


def test_many_benches_at_once_are_refused_nothing(server, database, shipped):
    each, told, lock = 12, [], threading.Lock()

    def bench(who):
        desk = Desk(lambda: Logbook(server.url(database, BENCH)), shipped, who)
        job = desk.open("2041")
        for n in range(each):
            changed = job.book(reading(n, who).entry)
            with lock:
                told.append((changed.newest.seq, who, changed.newest.entry))
        desk.close()

    benches = [threading.Thread(target=bench, args=(who,)) for who in ("A", "B", "C")]
    for b in benches:
        b.start()
    for b in benches:
        b.join()
    book = Logbook(server.url(database))
    ledger = book.ledger(book.job_id("2041"))
    assert [r.seq for r in ledger] == list(range(1, len(ledger) + 1)) and len(told) == 3 * each
    assert all((ledger[seq - 1].person, ledger[seq - 1].entry) == (who, entry) for seq, who, entry in told)
    assert not verified(book).faults and rebuild(book).other == ()
    book.close()


def test_a_job_that_is_held_is_told_and_nothing_is_booked(server, database, monkeypatch):
    monkeypatch.setattr("redline_bore.store.server.HELD_MS", 100)
    book = Logbook(server.url(database, BENCH))
    job = book.job_id("2041")
    with psycopg.connect(server.url(database, OTHER_BENCH)) as other:
        other.execute("SELECT pg_advisory_xact_lock(%s)", (job,))
        with pytest.raises(LogbookBusy, match="Another bench"):
            book.append(job, 0, [reading()])
        assert len(book.ledger(job)) > 100 and book.jobs()  # a reader never waits
    assert book.append(job, 0, [reading()])
    book.close()


def test_a_server_that_goes_away_is_told_and_comes_back_by_itself(server, database):
    book = Logbook(server.url(database, BENCH))
    job = book.job_id("2041")
    before = book.ledger(job)
    server.kill()
    with pytest.raises(ServerAway, match="Nothing was booked"):
        book.append(job, 0, [reading()])
    with pytest.raises(ServerAway):
        book.jobs()
    server.start()
    assert book.ledger(job) == before and book.append(job, before[-1].seq, [reading()])[0].seq == before[-1].seq + 1
    book.close()


@pytest.mark.parametrize(
    ("url", "said"), [("postgresql://nobody@127.0.0.1:{port}/none", "none"), ("postgresql://{who}@127.0.0.1:1/x", "127.0.0.1"), ("postgresql://[", "cannot be used|no address")]
)  # fmt: skip
def test_a_server_that_is_none_is_told(server, url, said):
    with pytest.raises((EnvironmentTrouble, InputError), match=said):
        Logbook(url.format(port=server.port, who=BENCH))


def test_a_database_of_another_program_is_left_alone(server):
    name = server.database()
    server.sql("CREATE TABLE theirs (x int)", name)
    with pytest.raises(EnvironmentTrouble, match="another program"):
        Logbook(server.url(name))


def test_a_password_is_never_said(server, database):
    url = server.url(database, BENCH).replace(f"{BENCH}@", f"{BENCH}:very-secret@")
    book = Logbook(url)
    assert "very-secret" not in book.where and "very-secret" not in str(book.path)
    book.close()


def test_a_file_is_not_made_ready(tmp_path):
    with pytest.raises(InputError, match="only a server"):
        prepare(str(tmp_path / "x.sqlite"))


def test_a_bench_on_an_empty_database_says_who_must_prepare_it(server):
    name = server.database()
    with pytest.raises(EnvironmentTrouble, match="prepare"):
        Logbook(server.url(name, BENCH))


def test_the_same_line_twice_stands_twice_at_the_same_place(server, database, shipped):
    """Two people who read the same place: both readings stand."""
    desks = [Desk(lambda: Logbook(server.url(database, BENCH)), shipped, who) for who in ("A", "B")]
    jobs = [desk.open("2041") for desk in desks]
    jobs[0].book(reading(1).entry)
    jobs[1].book(reading(90).entry)
    assert [r.person for r in jobs[1].records[-2:]] == ["A", "B"]
    for desk in desks:
        desk.close()
