"""Answers from one day to the next: taken in whole, or not at all."""

import subprocess
import sys

import pytest

import redline_bore.core
from redline_bore.core import worked_out as kept
from redline_bore.core.shape import fit_level
from redline_bore.store import kept_answers
from redline_bore.store.kept_answers import keep_answers, read_answers

LEVEL = ([0.0, 45.0, 90.0, 135.0], [92.02, 92.06, 92.10, 92.06])


@pytest.fixture(autouse=True)
def folder(monkeypatch, tmp_path):
    monkeypatch.setattr(kept_answers, "data_folder", lambda: tmp_path / "data")
    for name in ("_known", "_asked"):
        monkeypatch.setattr(kept, name, type(getattr(kept, name))())
    return tmp_path / "data"


@pytest.fixture
def written(folder):
    fit_level(*LEVEL)
    keep_answers()
    kept._known.clear()
    kept._asked.clear()
    return folder / kept_answers.FILE


def known_after_reading():
    read_answers()
    return len(kept._known)


def test_they_are_there_the_next_day(written):
    assert known_after_reading() == 1 and fit_level(*LEVEL).mean_mm == pytest.approx(92.06)


def test_another_version_is_not_answered_for(written, monkeypatch):
    monkeypatch.setattr(kept_answers, "__version__", "0.0.1")
    assert known_after_reading() == 0


def test_another_core_is_not_answered_for(written, monkeypatch, tmp_path):
    other = tmp_path / "core"
    (other / "texture").mkdir(parents=True)
    (other / "shape.py").write_text("# another")
    monkeypatch.setattr(redline_bore.core, "__path__", [str(other)])
    assert known_after_reading() == 0


@pytest.mark.parametrize("at", [0.2, 0.5, 0.9, 0.999])
def test_one_flipped_bit_throws_all_of_them_away(written, at):
    data = bytearray(written.read_bytes())
    place = int(at * (len(data) - 1))
    data[place] ^= 1
    written.write_bytes(data)
    assert known_after_reading() == 0


@pytest.mark.parametrize("text", ["", "one line", "a\nb", "a\nb\nc", "\n\n{}"])
def test_what_is_no_such_file_is_passed_over(folder, text):
    folder.mkdir()
    (folder / kept_answers.FILE).write_text(text)
    assert known_after_reading() == 0


def test_nothing_is_said_where_it_cannot_be_kept(written, monkeypatch):
    monkeypatch.setattr(kept_answers, "write_text", lambda *_given: (_ for _ in ()).throw(OSError("full")))
    keep_answers()


def test_numpy_is_not_loaded_to_ask_for_one(written):
    code = (
        "import sys; from pathlib import Path; from redline_bore.store import kept_answers as k; from redline_bore.core import shape\n"
        f"k.data_folder = lambda: Path({str(written.parent)!r}); k.read_answers()\n"
        f"print(round(shape.fit_level(*{LEVEL!r}).mean_mm, 3), 'numpy' in sys.modules)"
    )
    told = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True).stdout
    assert told.split() == ["92.06", "False"]
