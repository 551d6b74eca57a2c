"""A reading is sacred: the logbook keeps it, numbers it, and lets nobody change it."""

import contextlib
import json
import shutil
import sqlite3
import subprocess
import sys
import threading

import pytest

from redline_bore.core.errors import EnvironmentTrouble, FaultyInput, InputError, LogbookBusy, LogbookGone
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.kinds.book_in import BookInRevised
from redline_bore.job.kinds.codec import to_plain
from redline_bore.job.kinds.entry import Draft
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.gauge import ReadingBooked
from redline_bore.job.kinds.kind import entry_words
from redline_bore.store import file_connection, quick_read
from redline_bore.store.logbook import Logbook


def reading(size=105.1):
    return Draft(
        ReadingBooked(cylinder=1, depth_mm=24.0, clock_deg=0.0, diameter_mm=size, plate_on=True),
        "RM",
        typed=f"{size}",
    )


def test_what_is_booked_comes_back_with_what_was_typed(shared):
    job = shared.job_id("2041")
    last = shared.ledger(job)[-1].seq
    new = shared.append(job, last, [reading(105.123)])
    assert [r.seq for r in new] == [last + 1]
    with contextlib.closing(shared.again()) as other:
        again = other.ledger(job, last)
    assert again == new and again[0].typed == "105.123" and again[0].entry.diameter_mm == 105.123


@pytest.mark.parametrize(
    "act",
    [
        "UPDATE entry SET body = '{}'",
        "DELETE FROM entry",
        "DELETE FROM shop_figure",
        "UPDATE shop_figure SET value = '1'",
    ],
)
def test_nothing_is_changed_or_deleted_even_by_hand(logbook, act):
    logbook.set_figure("cleanup.skin", 0.02, "RM")
    with sqlite3.connect(logbook.path) as raw, pytest.raises(sqlite3.IntegrityError, match="nothing in a logbook"):
        raw.execute(act)


def test_it_is_written_through(logbook):
    logbook.say_present("bench 1", "RM", 0)  # which need not outlive a power cut; what comes behind it must
    with logbook._writing() as connection:
        assert connection.exec_driver_sql("PRAGMA journal_mode").scalar() == "wal"
        assert connection.exec_driver_sql("PRAGMA synchronous").scalar() == 2  # FULL


def test_what_is_given_up_leaves_nothing_and_the_next_is_booked(shared):
    """On the connection that is kept for writing: a check that refuses, a statement that fails, a number that is taken."""
    job = shared.job_id("2041")
    last = shared.ledger(job)[-1].seq

    def refuse(_others):
        raise InputError("not now")

    def fail(_new):
        raise ZeroDivisionError

    for _turn in range(3):
        with pytest.raises(InputError, match="not now"):
            shared.append(job, last, [reading()], check=refuse)
        with pytest.raises(ZeroDivisionError):
            shared.append(job, last, [reading()], beside=fail)
        with pytest.raises(InputError, match="in this logbook already"):
            shared.take_ledger([Draft(shared.ledger(job)[0].entry, "RM")])
        with pytest.raises(EnvironmentTrouble):
            shared.run(lambda connection: connection.connection.cursor().execute("SELECT nothing FROM nowhere"))
        assert shared.ledger(job, last) == ()
    assert [r.seq for r in shared.append(job, last, [reading()])] == [last + 1]
    with contextlib.closing(shared.again()) as other:
        assert len(other.ledger(job, last)) == 1


def test_one_that_is_closed_holds_nothing(shared):
    job, closed = shared.job_id("2041"), shared.again()
    closed.append(job, 0, [reading()])
    closed.close()
    assert closed._base._hands == [] and closed._base.engine.pool.checkedout() == 0


def test_two_programs_on_one_job_lose_nothing(shared):
    one, two = shared, shared.again()
    job = one.job_id("2041")
    known = one.ledger(job)[-1].seq
    mine = one.append(job, known, [reading(105.1)])
    theirs = two.append(job, known, [reading(105.2)])  # does not know of the first one yet
    assert [r.seq for r in theirs] == [known + 1, known + 2] and theirs[0] == mine[0]
    two.close()


def test_many_at_once_are_numbered_without_a_gap(shared):
    def work():
        book = shared.again()
        for _ in range(10):
            booked = False
            while (
                not booked
            ):  # a busy machine holds the logbook for longer than one waits: nothing was booked, and it is tried again
                with contextlib.suppress(LogbookBusy):
                    book.append(job, before, [reading()])
                    booked = True
        book.close()

    job, before = shared.job_id("2041"), len(shared.ledger(shared.job_id("2041")))
    threads = [threading.Thread(target=work) for _ in range(4)]
    for t in threads:
        t.start()
    for t in threads:
        t.join()
    assert [r.seq for r in shared.ledger(job)] == list(range(1, before + 41))


def test_search_by_number_owner_and_engine(shared):
    assert [j.number for j in shared.jobs()] == ["2041", "2047", "2044", "2036", "2029"]
    assert [j.number for j in shared.jobs("marigold")] == ["2036"]
    assert [j.number for j in shared.jobs("twin 2036")] == ["2036"]
    assert [j.number for j in shared.jobs("straight five")] == ["2041"]
    assert shared.jobs("100%") == ()


def test_a_number_is_used_once(shared, ledger_of):
    with pytest.raises(InputError, match="in this logbook already"):
        shared.open_job(ledger_of("2041")[0].entry, "RM")
    with pytest.raises(InputError, match="2036, 2041, 2044, 2047"):
        shared.job_id("77")


def test_revised_names_are_found(shared, ledger_of):
    from dataclasses import replace

    book_in = ledger_of("2041")[0].entry.book_in
    shared.append(shared.job_id("2041"), 0, [Draft(BookInRevised(book_in=replace(book_in, owner="Tarn mill")), "RM")])
    assert [j.number for j in shared.jobs("tarn")] == ["2041"]


def test_the_quick_reader_says_the_same(logbook, ledger_of):
    assert file_connection.is_current(logbook.path)
    assert quick_read.find_job(logbook.path, "2036") == (logbook.job_id("2036"), ledger_of("2036"))
    assert quick_read.find_job(logbook.path, None)[0] == logbook.job_id("2041")
    assert quick_read.find_job(logbook.path, "77") is None


def test_the_shops_own_figures_are_kept_and_taken_back(shared):
    assert shared.set_figure("cleanup.skin", 0.02, "RM").number("cleanup.skin") == 0.02
    assert not shared.is_file or quick_read.own_figures(shared.path) == {"cleanup.skin": 0.02}
    with contextlib.closing(shared.again()) as other:
        assert other.figures().number("cleanup.skin") == 0.02
    assert shared.set_figure("cleanup.skin", None, "RM").number("cleanup.skin") == 0.013
    with pytest.raises(FaultyInput, match="number"):
        shared.set_figure("cleanup.skin", "thin", "RM")
    with pytest.raises(InputError):
        shared.set_figure("cleanup.nose", 1.0, "RM")


def test_trouble_with_the_file_is_a_sentence(tmp_path):
    with pytest.raises(EnvironmentTrouble, match="cannot be used"):
        Logbook(tmp_path / "file" / "x.sqlite") if (tmp_path / "file").write_text("x") else None
    other = tmp_path / "notes.txt"
    other.write_text("a shopping list that is no logbook at all " * 40)
    with pytest.raises(EnvironmentTrouble, match="not a logbook"):
        Logbook(other)
    assert other.read_text().startswith("a shopping list")


@pytest.mark.parametrize("change", [
    "body = '{not json'", "body = replace(body, '1', '2')", "typed = typed || ' '", "person = 'XX'", "at = '2020-01-01T00:00:00.000+00:00'",
    "block_c = 21.5", "block_c = 'warm'", "instrument = 'another'", "version = 2", "hash = ''", "hash = substr(hash, 2) || 'x'", "person = NULL", "body = NULL",
])  # fmt: skip
def test_a_changed_entry_is_shown_as_damaged_and_believed_by_nobody(logbook, shipped, change):
    job = logbook.job_id("2041")
    whole = logbook.ledger(job)
    number = next(r.seq for r in whole if isinstance(r.entry, ReadingBooked) and "1" in json.dumps(to_plain(r.entry)))
    with sqlite3.connect(logbook.path) as raw:
        raw.execute("DROP TRIGGER entry_no_update")
        raw.execute("PRAGMA writable_schema = ON")
        raw.execute("UPDATE sqlite_master SET sql = replace(sql, ' NOT NULL', '') WHERE name = 'entry'")
    with sqlite3.connect(logbook.path) as raw:
        raw.execute(f"UPDATE entry SET {change} WHERE seq = {number} AND job_id = {job}")
    for ledger in (logbook.ledger(job), quick_read.find_job(logbook.path, "2041")[1]):
        damaged = [r.seq for r in ledger if r.entry.kind == "entry_damaged"]
        after_it = (
            [number + 1] if change.startswith("hash") else []
        )  # what follows was linked to the hash that was there
        assert damaged == [number, *after_it] and len(ledger) == len(whole)
        assert "DAMAGED" in entry_words(ledger[number - 1].entry, Show(Units.METRIC))
        assert fold(ledger, shipped).last_seq == whole[-1].seq
    assert logbook.append(job, whole[-1].seq, [reading()])[-1].entry == reading().entry


@pytest.mark.parametrize("change", ["body = '{not json'", "body = replace(body, '1', '2')", "typed = typed || ' '", "person = 'XX'", "block_c = 21.5", "hash = ''"])  # fmt: skip
def test_a_changed_entry_is_believed_nowhere(shared, shipped, change):
    job = shared.job_id("2041")
    whole = shared.ledger(job)
    number = next(r.seq for r in whole if isinstance(r.entry, ReadingBooked) and "1" in json.dumps(to_plain(r.entry)))
    shared.spoil(f"UPDATE entry SET {change} WHERE seq = {number} AND job_id = {job}")
    ledger = shared.ledger(job)
    damaged = [r.seq for r in ledger if r.entry.kind == "entry_damaged"]
    assert damaged == ([number, number + 1] if change.startswith("hash") else [number]) and len(ledger) == len(whole)
    assert fold(ledger, shipped).last_seq == whole[-1].seq


def test_a_missing_entry_is_shown_as_missing(shared):
    job = shared.job_id("2041")
    count = len(shared.ledger(job))
    shared.spoil(f"DELETE FROM entry WHERE seq IN (7, 8) AND job_id = {job}")
    ledger = shared.ledger(job)
    assert [r.seq for r in ledger] == list(range(1, count + 1))
    assert [r.seq for r in ledger if r.entry.kind == "entry_damaged"] == [
        7,
        8,
        9,
    ]  # the one after them is linked to what is gone


@pytest.mark.parametrize("name", ["a ?b.sqlite", "50%20 #2.sqlite", "um\u00e4 \u20ac.sqlite", "a&mode=ro.sqlite"])
def test_any_name_opens_its_own_file_and_no_other(tmp_path, name):
    path = tmp_path / name
    Logbook(path).close()
    assert [p.name for p in tmp_path.iterdir() if p.suffix == ".sqlite"] == [name] and file_connection.is_current(path)
    assert quick_read.find_job(path, None) is None


def test_another_programs_database_is_left_alone(tmp_path):
    path = tmp_path / "theirs.sqlite"
    with sqlite3.connect(path) as raw:
        raw.execute("CREATE TABLE recipes (name TEXT)")
    before = path.read_bytes()
    with pytest.raises(EnvironmentTrouble, match="file of another program"):
        Logbook(path)
    assert path.read_bytes() == before


@pytest.mark.parametrize("mark", ["application_id", "user_version"])
def test_another_programs_database_without_tables_is_left_alone(tmp_path, mark):
    path = tmp_path / "theirs.sqlite"
    with contextlib.closing(sqlite3.connect(path)) as raw:
        raw.execute(f"PRAGMA {mark} = 7")
    before = path.read_bytes()
    with pytest.raises(EnvironmentTrouble, match="file of another program"):
        Logbook(path)
    assert before and path.read_bytes() == before


def test_one_that_was_killed_before_its_tables_were_made_is_made_now(tmp_path):
    path = tmp_path / "x.sqlite"
    with contextlib.closing(sqlite3.connect(path)) as raw:
        raw.execute("PRAGMA journal_mode=WAL")
    assert path.stat().st_size > 0 and not file_connection.is_current(path)
    with contextlib.closing(Logbook(path)) as made:
        assert made.jobs() == [] or made.jobs() == ()
    assert file_connection.is_current(path)


def test_one_that_was_killed_half_way_is_taken_back_before_it_is_read(demo_path, tmp_path):
    """With a journal of the database beside it, that must be played back: reading alone could not."""
    killed = tmp_path / "killed.sqlite"
    with contextlib.closing(Logbook(demo_path)) as book:
        whole = book.ledger(book.job_id("2041"))
    raw = sqlite3.connect(demo_path, isolation_level=None)
    raw.execute("PRAGMA journal_mode=DELETE")
    raw.execute("PRAGMA cache_size=1")  # so that what is changed reaches the file before its end
    raw.execute("BEGIN IMMEDIATE")
    raw.execute("UPDATE job_line SET notes = ?, owner = 'Nobody'", ("x" * 20_000,))
    for end in ("", "-journal"):
        shutil.copy(f"{demo_path}{end}", f"{killed}{end}")
    raw.close()
    with (
        contextlib.closing(sqlite3.connect(f"file:{killed}?mode=ro", uri=True)) as only_reads,
        pytest.raises(sqlite3.OperationalError, match="readonly"),
    ):
        only_reads.execute("SELECT * FROM job").fetchall()
    assert file_connection.is_current(killed)
    assert quick_read.find_job(killed, "2041")[1] == whole
    with contextlib.closing(Logbook(killed)) as book:
        assert "Nobody" not in {job.owner for job in book.jobs()} and book.ledger(book.job_id("2041")) == whole


def test_a_mistyped_place_makes_no_folders(tmp_path):
    with pytest.raises(EnvironmentTrouble, match="There is no folder"):
        Logbook(tmp_path / "a" / "b" / "x.sqlite")
    with pytest.raises(EnvironmentTrouble, match="There is no logbook"):
        Logbook(tmp_path / "x.sqlite", make=False)
    assert list(tmp_path.iterdir()) == []


def test_it_is_nobody_elses_to_read(tmp_path):
    Logbook(tmp_path / "own" / "x.sqlite").close()
    assert (tmp_path / "own").stat().st_mode & 0o777 == 0o700 and (
        tmp_path / "own" / "x.sqlite"
    ).stat().st_mode & 0o777 == 0o600


@pytest.mark.parametrize("fate", ["deleted", "replaced", "log deleted", "log replaced"])
def test_nothing_is_booked_into_a_file_that_is_not_the_one_opened(demo_path, tmp_path, fate):
    book = Logbook(demo_path)
    job = book.job_id("2041")
    book.append(job, 0, [reading()])
    at = demo_path if fate in ("deleted", "replaced") else demo_path.with_name(f"{demo_path.name}-wal")
    copy = tmp_path / "copy"
    copy.write_bytes(at.read_bytes())
    at.unlink()
    if fate.endswith("replaced"):
        at.write_bytes(copy.read_bytes())
    with pytest.raises(LogbookGone, match="not there any more, or another file"):
        book.append(job, 0, [reading()])


def test_a_busy_logbook_is_told_and_a_reader_never_waits(demo_path, monkeypatch):
    monkeypatch.setattr("redline_bore.store.base.BUSY_S", 0.05)
    book = Logbook(demo_path)
    job = book.job_id("2041")
    with sqlite3.connect(demo_path, isolation_level=None) as other:
        other.execute("BEGIN IMMEDIATE")
        with pytest.raises(LogbookBusy, match="try it again"):
            book.append(job, 0, [reading()])
        assert len(book.ledger(job)) > 100 and book.jobs()
        other.execute("ROLLBACK")
    assert book.append(job, 0, [reading()])


def test_migrations_make_what_the_program_expects(tmp_path):
    """The tables that the migrations make are those that store.tables declares."""
    from redline_bore.store.tables import metadata

    Logbook(tmp_path / "new.sqlite").close()
    with sqlite3.connect(tmp_path / "new.sqlite") as raw:
        for table in metadata.sorted_tables:
            found = [row[1] for row in raw.execute(f"PRAGMA table_info({table.name})")]
            assert found == [c.name for c in table.columns]


BOOKING = """
import sys
from pathlib import Path
from PyQt6.QtCore import QSettings, Qt
from PyQt6.QtTest import QTest
from redline_bore.app import application, build_window
app = application()
window = build_window(Path(sys.argv[1]), "2041", QSettings(sys.argv[1] + ".ini", QSettings.Format.IniFormat))
window.show()
window.session.go("gauge")
while not window.isActiveWindow():
    app.processEvents()
print("ready", flush=True)
size = 105000 + int(sys.argv[2])
while True:
    size += 1
    QTest.keyClicks(window.line.field, f"{size / 1000:.3f}")
    QTest.keyClick(window.line.field, Qt.Key.Key_Return)  # the cylinder is fully read: asked
    QTest.keyClick(window.line.field, Qt.Key.Key_Return)  # and booked
    app.processEvents()
    print(window.line.kept.text().rsplit(" ", 1)[1], f"{size / 1000:.3f}", flush=True)  # as confirmed on the screen
"""


@pytest.mark.parametrize("round_", range(4))
def test_what_the_screen_confirmed_survives_kill_9(demo_path, round_):
    process = subprocess.Popen(
        [sys.executable, "-c", BOOKING, str(demo_path), str(round_ * 1000)], stdout=subprocess.PIPE, text=True
    )
    assert process.stdout.readline() == "ready\n"
    confirmed = [process.stdout.readline().split() for _ in range(5 + 9 * round_)]
    process.kill()
    rest = process.stdout.read().splitlines()
    process.wait()
    process.stdout.close()
    confirmed += [line.split() for line in rest if len(line.split()) == 2]
    book = Logbook(demo_path)
    kept = {r.seq: r for r in book.ledger(book.job_id("2041"))}
    for seq, size in confirmed:
        assert kept[int(seq)].typed.split()[0] == size and kept[int(seq)].entry.diameter_mm == float(size)
    book.close()
    with sqlite3.connect(demo_path) as raw:
        assert raw.execute("PRAGMA integrity_check").fetchone() == ("ok",)


def test_a_connection_that_comes_back_late_is_let_go_of_too(shared):
    late = shared.again()
    given = late._base.engine.connect()  # by a thread that still reads
    driver = given.connection.driver_connection
    late.close()
    given.close()
    with pytest.raises(late._base.driver_error):
        driver.cursor().execute("SELECT 1")


def test_no_new_connection_is_made_to_a_file_that_stands_in_its_place(demo_path, tmp_path):
    book, other = Logbook(demo_path), tmp_path / "other.sqlite"
    shutil.copy(demo_path, other)
    job, before = book.job_id("2041"), book.ledger(book.job_id("2041"))[-1].seq
    book._base.engine.dispose()  # as where the connections broke
    other.replace(demo_path)
    with pytest.raises(LogbookGone):
        book.append(job, before, [reading()])
    book.close()
    again = Logbook(demo_path)
    assert again.ledger(job)[-1].seq == before
    again.close()


@pytest.mark.parametrize("gone", [False, True])
def test_where_the_file_goes_meanwhile_that_is_said_and_not_what_the_disk_made_of_it(demo_path, monkeypatch, gone):
    book = Logbook(demo_path)
    job = book.job_id("2041")

    def broken(*_given):
        if gone:
            demo_path.rename(demo_path.with_suffix(".gone"))
        raise sqlite3.OperationalError("disk I/O error")

    monkeypatch.setattr(book._base, "begin", broken)
    with pytest.raises(EnvironmentTrouble) as told:
        book.append(job, 0, [reading()])
    assert isinstance(told.value, LogbookGone) is gone and ("disk I/O error" in str(told.value)) is not gone
    book.close()
