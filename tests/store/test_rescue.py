"""What is kept beside a logbook that went away: under a name of its own, whole, and all of it in the one file when it gets another."""

import os
import sqlite3

import pytest

from redline_bore.core.errors import EnvironmentTrouble
from redline_bore.job.kinds.entry import Draft
from redline_bore.job.kinds.gauge import BlockTemperature
from redline_bore.store import file_connection, quick_read
from redline_bore.store.logbook import Logbook
from redline_bore.store.rescue import renamed, rescue_logbook


def held(path):
    """The files of this process that lie under one path, its log and its index too."""
    found = []
    for n in os.listdir("/proc/self/fd"):
        try:
            to = os.readlink(f"/proc/self/fd/{n}")
        except OSError:
            continue
        found += [to] if to.startswith(str(path)) else []
    return found


def test_a_logbook_that_is_closed_holds_no_file(demo_path):
    for _ in range(3):
        book = Logbook(demo_path)
        book.append(book.job_id("2041"), 0, [Draft(BlockTemperature(block_c=20.0), "RM")])
        quick_read.find_job(demo_path, "2041")
        quick_read.own_figures(demo_path)
        file_connection.is_current(demo_path)
        assert held(demo_path)
        book.close()
        assert held(demo_path) == [] and not demo_path.with_name(f"{demo_path.name}-wal").exists()


def test_no_two_rescues_have_one_name_however_quickly_they_come(tmp_path, ledger_of):
    names = set()
    for _ in range(4):
        book, _job = rescue_logbook(tmp_path / "gone.sqlite", ledger_of("2047"))
        names.add(book.path.name)
        book.close()
        book.path.unlink()
    assert len(names) == 4 and not list(tmp_path.glob(".*part*"))


def test_a_file_gets_another_name_with_all_that_is_in_its_log(tmp_path, ledger_of):
    book, job = rescue_logbook(tmp_path / "gone.sqlite", ledger_of("2047"))
    book.append(job, 0, [Draft(BlockTemperature(block_c=20.0), "RM")])
    count, to = len(book.ledger(job)), tmp_path / "done.sqlite"
    with pytest.raises(EnvironmentTrouble, match="open|locked"):
        renamed(book.path, to)  # somebody has it open
    assert book.path.exists() and not to.exists()
    book.close()
    raw = sqlite3.connect(book.path)  # and left its log behind, as a kill does
    raw.execute("PRAGMA journal_mode=WAL")
    raw.execute("CREATE TABLE later (x)")
    raw.commit()
    log = book.path.with_name(f"{book.path.name}-wal").read_bytes()
    raw.close()
    book.path.with_name(f"{book.path.name}-wal").write_bytes(log)
    renamed(book.path, to)
    again = Logbook(to)
    assert len(again.ledger(job)) == count and not book.path.with_name(f"{book.path.name}-wal").exists()
    again.close()
