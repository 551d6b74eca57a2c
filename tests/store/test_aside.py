"""A job set aside is kept and no list shows it; an older copy in a logbook's place is told."""

import json
import shutil

import pytest

from redline_bore.cli.main import main
from redline_bore.core.errors import InputError
from redline_bore.desk.desk import Desk
from redline_bore.job.kinds.gauge import BlockTemperature
from redline_bore.store import quick_read
from redline_bore.store.last_seen import MOST, missing_since
from redline_bore.store.logbook import Logbook
from redline_bore.store.verify import verified


def numbers(book, aside):
    return {j.number for j in book.jobs() if bool(j.aside) == aside}


def test_set_aside_and_brought_back(shared):
    every, ledger = numbers(shared, False), shared.ledger(shared.job_id("2041"))
    shared.set_aside("2041", "RM")
    assert numbers(shared, True) == {"2041"} and numbers(shared, False) == every - {"2041"}
    assert next(j for j in shared.jobs("2041")).aside.startswith("RM 2")
    with pytest.raises(InputError, match="already"):
        shared.set_aside("2041", "RM")
    assert shared.ledger(shared.job_id("2041")) == ledger
    shared.set_aside("2041", "KT", aside=False)
    assert numbers(shared, False) == every and not numbers(shared, True)
    with pytest.raises(InputError, match="as it is"):
        shared.set_aside("2041", "KT", aside=False)
    with pytest.raises(InputError, match="no job"):
        shared.set_aside("9999", "KT")


def test_the_window_does_not_begin_with_a_job_that_was_set_aside(logbook, demo_path):
    first = quick_read.find_job(demo_path, None)
    number = next(j.number for j in logbook.jobs() if j.job_id == first[0])
    logbook.set_aside(number, "RM")
    assert quick_read.find_job(demo_path, None)[0] != first[0]
    assert quick_read.find_job(demo_path, number)[0] == first[0]


def test_nothing_of_it_can_be_changed_or_deleted(logbook):
    logbook.set_aside("2041", "RM")
    for words in ("DELETE FROM job_aside", "UPDATE job_aside SET aside = 0"):
        with pytest.raises(Exception, match="changed or deleted"), logbook._writing() as raw:
            raw.exec_driver_sql(words)


def test_from_the_command_line(demo_path, capsys):
    assert main(["aside", "--logbook", str(demo_path), "2041", "--person", "RM"]) == 0
    assert main(["jobs", "--logbook", str(demo_path)]) == 0
    assert "2041" not in capsys.readouterr().out.partition("brings it back")[2]
    assert main(["jobs", "--aside", "--logbook", str(demo_path)]) == 0
    assert "2041" in capsys.readouterr().out
    assert main(["aside", "--back", "--logbook", str(demo_path), "2041"]) == 0
    assert main(["aside", "--logbook", str(demo_path), "9999"]) == 2


@pytest.fixture
def left(demo_path, tmp_path, shipped):
    """A logbook that was worked on and left, and a copy from before."""
    older = tmp_path / "older.sqlite"
    desk = Desk(lambda: Logbook(demo_path), shipped, "RM")
    job = desk.open("2041")
    shutil.copy(demo_path, older)
    job.book(BlockTemperature(block_c=22.7))
    desk.close()
    return demo_path, older


def test_as_it_was_left_nothing_is_said(left, shipped):
    desk = Desk(lambda: Logbook(left[0]), shipped, "RM")
    desk.open("2041").book(BlockTemperature(block_c=22.8))
    assert desk.missing == ""
    desk.close()


def test_an_older_copy_in_its_place_is_told_until_it_is_worked_on(left, shipped, capsys):
    path, older = left
    for tail in ("-wal", "-shm"):
        path.with_name(path.name + tail).unlink(missing_ok=True)
    shutil.copy(older, path)
    for _ in range(2):
        desk = Desk(lambda: Logbook(path), shipped, "RM")
        desk.open("2041")
        assert "older copy" in desk.missing
        desk.close()
    assert main(["verify", "--logbook", str(path)]) == 1
    assert "older copy" in capsys.readouterr().out
    assert main(["book", "--logbook", str(path), "--job", "2041", "--step", "gauge", "22.9 C"]) == 0
    assert "older copy" in capsys.readouterr().err
    desk = Desk(lambda: Logbook(path), shipped, "RM")
    desk.open("2041")
    desk.accept_as_it_is()
    desk.close()
    book = Logbook(path)
    assert missing_since(book) == "" and not verified(book).faults
    book.close()


@pytest.mark.parametrize(
    "text", ["", "{", "[]", '{"%s": 3}', '{"%s": {"job": "x"}}', '{"%s": {"job": 1, "seq": 2, "link": 5, "at": "no"}}']
)
def test_a_note_that_is_damaged_hinders_nothing(left, text, shipped):
    from redline_bore.store.places import data_folder

    path, _older = left
    (data_folder() / "left.json").write_text(text.replace("%s", str(path)))
    book = Logbook(path)
    assert missing_since(book) == "" or "older copy" in missing_since(book)
    book.close()


def test_only_so_many_logbooks_are_kept_in_mind_and_the_one_just_left_is(left, shipped):
    from redline_bore.store.places import data_folder

    path, _older = left
    note = data_folder() / "left.json"
    others = {
        f"/gone/{n:03}": {"job": 1, "seq": 2, "link": "x", "at": f"2026-01-01T00:{n // 60:02}:{n % 60:02}Z"}
        for n in range(MOST + 20)
    }
    note.write_text(json.dumps(others))
    desk = Desk(lambda: Logbook(path), shipped, "RM")
    desk.open("2041").book(BlockTemperature(block_c=22.9))
    desk.close()
    kept = json.loads(note.read_text())
    assert len(kept) == MOST and str(path) in kept and "/gone/020" not in kept and "/gone/021" in kept
