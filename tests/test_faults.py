"""A short run of every fault campaign; `make faults` gives them thousands. And that a campaign can fail."""

import sqlite3
import time

import pytest

from redline_bore.store import chain, logbook
from redline_bore.store.logbook import Logbook
from redline_bore.store.verify import verified
from tools.faults import benches, disks, kills, wires
from tools.faults.__main__ import CAMPAIGNS, faults_of
from tools.faults.benches import killed, made_logbook


@pytest.mark.parametrize("name", list(CAMPAIGNS))
def test_nothing_told_is_lost_and_nothing_damaged_is_believed(name, tmp_path):
    count = 30 if name == "damaged" else 1 if name == "demo" else 3
    assert faults_of(name, count, 7, tmp_path) == []


@pytest.fixture(scope="module", autouse=True)
def no_server_left():
    yield
    wires.end_server()


def test_a_campaign_finds_a_writer_that_tears_files(tmp_path, monkeypatch):
    def slowly(path, data):
        path.write_bytes(data[: len(data) // 2])
        time.sleep(0.002)
        path.write_bytes(data)

    monkeypatch.setattr(kills, "write_bytes", slowly)
    assert any("torn file" in fault for fault in faults_of("export", 12, 1, tmp_path))


def test_a_campaign_finds_a_ledger_that_believes_what_was_changed(tmp_path, monkeypatch):
    for module in (chain, logbook):  # written without a link, and read without looking at one
        monkeypatch.setattr(module, "link", lambda *entry: "")
    assert any("believed" in fault for fault in faults_of("damaged", 60, 1, tmp_path))


def test_a_campaign_finds_a_reading_that_was_told_and_lost(tmp_path, monkeypatch):
    monkeypatch.setattr(
        disks, "ledgers_of", lambda path: {n: rows[:-2] for n, rows in benches.ledgers_of(path).items()}
    )
    assert any("were told" in fault for fault in faults_of("power cut", 6, 1, tmp_path))


def test_a_logbook_whose_last_entries_no_index_knows_is_told(tmp_path):
    path = made_logbook(tmp_path / "x.sqlite")
    with sqlite3.connect(path) as raw:
        page, root = raw.execute("PRAGMA page_size").fetchone()[0], None
        root = raw.execute("SELECT rootpage FROM sqlite_master WHERE name = 'sqlite_autoindex_entry_1'").fetchone()
        root = (
            root
            or raw.execute("SELECT rootpage FROM sqlite_master WHERE type = 'index' AND tbl_name = 'entry'").fetchone()
        )
        raw.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    data = bytearray(path.read_bytes())
    at = (root[0] - 1) * page
    cells = int.from_bytes(data[at + 3 : at + 5], "big")
    data[at + 3 : at + 5] = (cells - 1).to_bytes(2, "big")
    path.write_bytes(data)
    book = Logbook(path, make=False)
    assert any("The file itself" in fault for fault in verified(book).faults)
    book.close()


def test_an_exception_that_ends_the_killed_one_is_a_fault_and_no_kill():
    def work(told):
        told("1")
        raise ValueError("no such thing")

    with pytest.raises(RuntimeError, match="fault ValueError: no such thing"):
        killed(work, 0.5)
    assert killed(lambda told: (told("1"), time.sleep(9)), 0.3) == ["1"]
