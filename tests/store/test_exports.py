"""The door out: whole or not at all, where the link points, with the rights that were there, nothing left about. And the door in."""

import csv
import os
import stat
import sys
import time

import pytest

from redline_bore.core.errors import EnvironmentTrouble, InputError
from redline_bore.store import exports
from redline_bore.store.exports import (
    cell,
    file_stem,
    read_bounded,
    read_text,
    typed_path,
    uncelled,
    write_bytes,
    write_text,
)


def left_about(folder):
    return [p.name for p in folder.iterdir() if p.name.endswith(".part")]


def test_a_file_is_written_with_the_rights_it_had(tmp_path):
    sheet = tmp_path / "sheet.html"
    sheet.write_text("before")
    sheet.chmod(0o640)
    write_text(sheet, "after")
    assert sheet.read_text() == "after" and stat.S_IMODE(sheet.stat().st_mode) == 0o640 and not left_about(tmp_path)


def test_a_link_stays_a_link(tmp_path):
    (tmp_path / "real").mkdir()
    real = tmp_path / "real" / "sheet.pdf"
    real.write_bytes(b"before")
    link = tmp_path / "link.pdf"
    link.symlink_to(real)
    write_bytes(link, b"after")
    assert link.is_symlink() and real.read_bytes() == b"after" and not left_about(tmp_path / "real")


@pytest.mark.parametrize("fails", ["fsync", "replace", "fchmod"])
def test_what_was_there_stays_when_the_disk_fails(tmp_path, monkeypatch, fails):
    sheet = tmp_path / "sheet.pdf"
    sheet.write_bytes(b"before")

    def full(*_given):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(exports.os, fails, full)
    with pytest.raises(EnvironmentTrouble, match="No space left"):
        write_bytes(sheet, b"after")
    monkeypatch.undo()
    assert sheet.read_bytes() == b"before" and not left_about(tmp_path)


def test_a_disk_that_took_half_is_told(tmp_path, monkeypatch):
    real = os.fdopen

    class Half:
        def __init__(self, handle, mode):
            self.out = real(handle, mode)

        def __enter__(self):
            return self

        def __exit__(self, *_):
            self.out.close()

        def write(self, data):
            self.out.write(data[: len(data) // 2])

        def __getattr__(self, name):
            return getattr(self.out, name)

    monkeypatch.setattr(exports.os, "fdopen", Half)
    with pytest.raises(EnvironmentTrouble, match="did not take all of it"):
        write_bytes(tmp_path / "sheet.pdf", b"after")
    assert not list(tmp_path.iterdir())


def test_what_a_kill_left_is_taken_away_by_the_next_and_what_another_writes_is_not(tmp_path):
    old, fresh, others = (tmp_path / name for name in (".a.pdf.x1.part", ".a.pdf.x2.part", ".b.pdf.x1.part"))
    for part in (old, fresh, others):
        part.write_bytes(b"half")
    for part in (old, others):
        os.utime(part, (time.time() - 3600, time.time() - 3600))
    write_bytes(tmp_path / "a.pdf", b"whole")
    assert sorted(p.name for p in tmp_path.iterdir()) == [".a.pdf.x2.part", ".b.pdf.x1.part", "a.pdf"]


def test_a_folder_that_is_not_there_is_told(tmp_path):
    with pytest.raises(EnvironmentTrouble, match="cannot be written"):
        write_bytes(tmp_path / "none" / "a.pdf", b"x")
    with pytest.raises(EnvironmentTrouble):
        write_bytes(tmp_path, b"x")


@pytest.mark.parametrize("words", ["../../climbed", "/etc/passwd", "..", "a\0b", "con\ntrol", "x" * 500, "", "~root"])
def test_no_name_leads_out_of_the_folder(words):
    stem = file_stem(words)
    assert stem and "/" not in stem and "\0" not in stem and not stem.startswith(".") and len(stem) <= 80


@pytest.mark.parametrize(
    ("word", "guarded"),
    [
        ("=cmd|' /C calc'!A0", True),
        ("+A1", True),
        ("-x", True),
        ("@SUM(A1)", True),
        ("-0.5", False),
        ("+0,75", False),
        ("RM", False),
        ("", False),
    ],
)
def test_a_word_that_would_be_a_formula_is_text_and_comes_back(word, guarded):
    assert cell(word).startswith("'") is guarded and uncelled(cell(word)) == word


def test_a_formula_in_a_name_is_text_in_every_table(after_job, tmp_path):
    from redline_bore.store.readings_csv import readings_to_csv

    text = readings_to_csv(after_job("=HYPERLINK(1)"))
    cells = [c for row in csv.reader(text.splitlines()) for c in row]
    assert "'=HYPERLINK(1)" in cells and not [c for c in cells if c.startswith(("=", "@"))]


@pytest.fixture
def after_job(ledger_of, shipped):
    from dataclasses import replace

    from redline_bore.job.kinds.fold import fold

    return lambda person: fold([replace(r, person=person) for r in ledger_of("2041")], shipped)


def test_nothing_larger_than_its_bound_is_read_and_no_pipe(tmp_path):
    big = tmp_path / "big.csv"
    big.write_bytes(b"1" * 101)
    assert len(read_bounded(big, 101)) == 101
    with pytest.raises(InputError, match="larger than"):
        read_bounded(big, 100)
    os.mkfifo(tmp_path / "pipe")
    with pytest.raises(InputError, match="no plain file"):
        read_bounded(tmp_path / "pipe")
    with pytest.raises(EnvironmentTrouble):
        read_bounded(tmp_path / "none")


@pytest.mark.parametrize("coding", ["utf-8", "utf-8-sig", "utf-16"])
def test_text_is_read_in_the_codings_of_spreadsheets(tmp_path, coding):
    (tmp_path / "t.csv").write_bytes("1,105.2 µm".encode(coding))
    assert read_text(tmp_path / "t.csv") == "1,105.2 µm"


def test_what_is_no_text_and_what_is_no_place_is_told(tmp_path):
    (tmp_path / "t.csv").write_bytes(b"\x80\x81\x82")
    with pytest.raises(EnvironmentTrouble, match="not a text file"):
        read_text(tmp_path / "t.csv")
    with pytest.raises(InputError, match="no place here"):
        typed_path("~nosuchuser/x.csv")


def test_nothing_in_a_ledger_works_the_terminal(capsys):
    from redline_bore.cli.main import Plain

    Plain(sys.stdout).write("Tarn\x1b[2J mill\x07\tin\n")
    assert capsys.readouterr().out == "Tarn\ufffd[2J mill\ufffd\tin\n"
