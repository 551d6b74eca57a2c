"""Whatever a ledger holds, the window starts: it says which job cannot be shown and why, and shows the rest."""

import gc
import os
import sqlite3
import subprocess
import sys
from types import SimpleNamespace

import pytest
from PyQt6.QtCore import QObject, QRect, QSettings, Qt
from PyQt6.QtTest import QTest

from redline_bore.app import PLACE, build_window, warm_up
from redline_bore.core.errors import EnvironmentTrouble
from redline_bore.store.logbook import Logbook
from redline_bore.ui import collector
from redline_bore.ui.frame import place
from redline_bore.ui.paint.turns import Turns


@pytest.fixture
def started(qtbot, demo_path, tmp_path):
    windows = []

    def start(number=None):
        window = build_window(demo_path, number, QSettings(str(tmp_path / "s.ini"), QSettings.Format.IniFormat))
        windows.append(window)
        qtbot.addWidget(window)
        window.show()
        qtbot.wait(20)
        return window

    yield start
    for window in windows:
        window.session.close()


def hurt(path, number, change):
    with sqlite3.connect(path) as raw:
        raw.execute("DROP TRIGGER entry_no_update")
        raw.execute(f"UPDATE entry SET {change} AND job_id = (SELECT id FROM job WHERE number = ?)", (number,))


def test_a_job_whose_opening_is_damaged_is_told_and_the_others_are_there(started, demo_path):
    hurt(demo_path, "2041", "body = '{' WHERE seq = 1")
    window = started("2041")
    assert "cannot be shown" in window.line.what.text() and "2041" in window.line.what.text()
    window.session.open_job("2047")
    assert window.session.state.number == "2047"


def test_a_damaged_entry_is_shown_as_one_and_not_believed(started, demo_path):
    before = started("2041").session.state.gauging.readings
    seq = before[-1].seq
    hurt(demo_path, "2041", f"body = replace(body, '105.', '104.') WHERE seq = {seq}")
    window = started("2041")
    assert window.session.state.number == "2041"
    assert seq not in [r.seq for r in window.session.state.gauging.readings]
    assert len(window.session.state.gauging.readings) == len(before) - 1


@pytest.mark.parametrize("data", [b"no logbook at all" * 100, b"SQLite format 3\x00" + b"\xff" * 5000])
def test_a_file_that_is_no_logbook_is_told_and_left_as_it_is(qapp, tmp_path, data):
    path = tmp_path / "x.sqlite"
    path.write_bytes(data)
    with pytest.raises(EnvironmentTrouble, match="nothing in it was touched"):
        build_window(path, None, QSettings(str(tmp_path / "s.ini"), QSettings.Format.IniFormat))
    assert path.read_bytes() == data


def test_another_programs_database_is_not_taken_over(qapp, tmp_path):
    path = tmp_path / "notes.sqlite"
    with sqlite3.connect(path) as raw:
        raw.execute("CREATE TABLE note (text)")
    with pytest.raises(EnvironmentTrouble):
        Logbook(path)
    with sqlite3.connect(path) as raw:
        assert [row[0] for row in raw.execute("SELECT name FROM sqlite_master")] == ["note"]


def test_the_same_readings_taken_in_twice_are_told_and_not_doubled(demo_path, tmp_path, capsys):
    from redline_bore.cli import main

    file = tmp_path / "r.csv"
    file.write_text("cylinder,depth_mm,clock_deg,diameter_mm\n1,20,0,105.21\n1,20,90,105.22\n")
    taking = ["import", "--logbook", str(demo_path), str(file), "--job", "2041"]
    assert (main(taking), main(taking)) == (0, 2)
    book = Logbook(demo_path)
    kept = [r for r in book.ledger(book.job_id("2041")) if getattr(r.entry, "diameter_mm", 0) in (105.21, 105.22)]
    assert len(kept) == 2 and "in this job already" in capsys.readouterr().err
    assert main([*taking, "--again"]) == 0
    assert len(book.ledger(book.job_id("2041"))) == kept[-1].seq + 2
    book.close()


def test_a_job_whose_times_and_step_are_damaged_stands_in_the_list(started, demo_path):
    hurt(demo_path, "2041", "at = 'yesterday' WHERE seq > 300")
    with sqlite3.connect(demo_path) as raw:
        raw.execute("UPDATE job_line SET step = 'nowhere' WHERE number = '2047'")
        raw.execute("UPDATE job_line SET last_at = 'yesterday' WHERE number = '2041'")
    window = started("2041")
    window.lists.show_jobs()
    rows = [window.lists.jobs.list.strip(i).text for i in range(window.lists.jobs.list.count())]
    assert len(rows) == 5 and any("yesterday" in row for row in rows) and any("nowhere" in row for row in rows)


def test_nobody_is_said_to_be_at_the_bench_until_somebody_says_so(qtbot, demo_path, tmp_path):
    kept = QSettings(str(tmp_path / "who.ini"), QSettings.Format.IniFormat)
    window = build_window(demo_path, "2041", kept)
    qtbot.addWidget(window)
    assert not window.session.who_is_said
    window.session.close()
    kept.setValue("person", "KB")
    window = build_window(demo_path, "2041", kept)
    qtbot.addWidget(window)
    assert window.session.who_is_said and window.session.person == "KB"
    window.session.close()


def test_an_empty_logbook_says_how_to_begin(qtbot, tmp_path, monkeypatch):
    from redline_bore.app import _is_empty, _open_logbook
    from redline_bore.store.places import data_folder
    from redline_bore.ui.commands import begin

    path = tmp_path / "mine.sqlite"
    window = build_window(path, None, QSettings(str(tmp_path / "s.ini"), QSettings.Format.IniFormat))
    qtbot.addWidget(window)
    assert _is_empty(path)
    window.show()
    _open_logbook(window)
    assert not window.over.is_looking  # nothing comes over the form behind the first picture
    window.do("begin")  # as the start does, before the window is shown
    qtbot.keyClicks(window.line.field, "4.125")  # a size is no search: it goes to the job of one's own, whole
    assert not window.over.is_looking and window.line.field.text() == "4.125"
    window.line.field.clear()
    window.do("begin")
    assert window.over.is_looking and [d.kind for d in window.over.chest.found] == [
        "guide",
        "own",
        "look",
        "file",
        "who",
    ]
    window.over.chest.open_at(2)
    assert not window.over.is_looking and window.session.bench.new_job
    opened = []
    monkeypatch.setattr(begin, "open_window", lambda *what: opened.extend(what))
    window.do("begin")
    window.over.chest.open_at(1)
    assert opened == [data_folder() / begin.GUIDED, "--guide"]  # in a logbook of its own
    opened.clear()
    window.do("begin")
    window.over.chest.open_at(3)
    qtbot.waitUntil(lambda: bool(opened))
    samples = Logbook(opened[0])
    assert {j.number for j in samples.jobs()} == {"2029", "2036", "2041", "2044", "2047"} and opened[
        0
    ].parent == data_folder()
    samples.close()
    assert window.session.logbook.jobs() == ()
    window.session.close()


def test_the_old_generation_is_walked_in_a_turn_of_its_own_and_never_while_a_reading_is_booked(qtbot, monkeypatch):
    before = gc.get_threshold()
    try:
        walked: list[int] = []
        monkeypatch.setattr(collector, "EVERY_MS", 5)
        owner = QObject()
        kept = collector.Collector(owner)
        gc.callbacks.append(lambda phase, told: walked.append(told["generation"]) if phase == "start" else None)
        made = [[] for _ in range(20_000)]  # enough for many young collections
        assert 2 not in walked, "the old generation was walked in the middle of work"
        qtbot.waitUntil(lambda: 2 in walked)
        assert kept.timer.isActive() and len(made) == 20_000
    finally:
        gc.callbacks.pop()
        kept.timer.stop()
        gc.unfreeze()
        gc.set_threshold(*before)


def test_once_the_first_picture_stands_what_nobody_holds_is_looked_for_again(started, qtbot):
    window, before = started(), gc.get_threshold()
    gc.disable()  # as the command line does before it loads the window
    try:
        warm_up(window)
        assert gc.isenabled()
        qtbot.waitUntil(lambda: not window.runner._tokens and window.endings != [])  # the house behind it is up
    finally:
        gc.enable()
        for end in window.endings:
            end()
        window.endings.clear()
        gc.unfreeze()
        gc.set_threshold(*before)


PLACES = [
    {}, {"LANG": "C.UTF-8"}, {"LANG": "en_GB.UTF-8"}, {"LANG": "en_US.UTF-8"}, {"LANG": "en"}, {"LANG": "de_DE.UTF-8"}, {"LANG": "fr_CA.UTF-8"},
    {"LANG": "en_US.UTF-8", "LC_NUMERIC": "de_DE.UTF-8"}, {"LANG": "de_DE.UTF-8", "LC_NUMERIC": "en_US.UTF-8"}, {"LANG": "de_DE.UTF-8", "LC_ALL": "C"},
    {"LANG": "en_US.UTF-8", "LC_NUMERIC": "C"},
]  # fmt: skip
ASKED = """
from PyQt6.QtCore import QLocale
from redline_bore.app import as_here
here, land = QLocale.system(), QLocale.Country
print(as_here() == (here.decimalPoint() == ",", here.territory() in (land.UnitedStates, land.Canada, land.Mexico, land.Philippines)), *as_here())
"""


def test_a_place_is_known_as_qt_knows_it_without_asking_it():
    bare = {name: said for name, said in os.environ.items() if name not in PLACE}
    asked = [
        subprocess.Popen([sys.executable, "-c", ASKED], env=bare | place, stdout=subprocess.PIPE, text=True)
        for place in PLACES
    ]
    told = [process.communicate()[0].split() for process in asked]
    assert [t[0] for t in told] == ["True"] * len(PLACES)
    assert ["True", "True"] in [t[1:] for t in told] and ["False", "True"] in [t[1:] for t in told]


BEFORE = """
import os, sys
from pathlib import Path
from PyQt6.QtCore import QEvent, QObject, QSettings
from redline_bore.app import application, build_window
from redline_bore.store.kept_answers import keep_answers
app = application()
window = build_window(Path(sys.argv[1]), sys.argv[2], QSettings(sys.argv[1] + ".ini", QSettings.Format.IniFormat))
heavy = (
    "numpy", "scipy", "sqlalchemy", "tempfile", "PyQt6.QtPrintSupport", "PyQt6.QtSvg", "pydantic", "jinja2", "serial", "dataclasses", "inspect",
    "_hashlib", "redline_bore.ui.commands", "redline_bore.ui.instruments", "redline_bore.job.call.options",
)

class Painted(QObject):
    def eventFilter(self, widget, event):
        if event.type() is QEvent.Type.Paint:
            print(*(name for name in heavy if name in sys.modules), "end", flush=True)
            keep_answers()
            os._exit(0)
        return False

painted = Painted()
window.card.care.installEventFilter(painted)
window.show()
while True:
    app.processEvents()
"""


def test_the_first_picture_waits_for_nothing_it_does_not_show(demo_path):
    """Once the shipped figures are kept as they are read, and the answers of the last time."""

    def loaded(number):
        line = [sys.executable, "-c", BEFORE, str(demo_path), number]
        return subprocess.run(line, capture_output=True, text=True, check=True).stdout.split()

    for number in ("2036", "2041", "2044", "2047"):
        assert [loaded(number)[-1:], loaded(number)] == [["end"], ["end"]], number


def test_what_the_first_picture_does_not_use_comes_right_behind_it_and_once(qtbot, demo_path, tmp_path, monkeypatch):
    window = build_window(demo_path, "2041", QSettings(str(tmp_path / "s.ini"), QSettings.Format.IniFormat))
    qtbot.addWidget(window)
    stood, painted = [], []
    Turns.of(window.session).stands.connect(lambda: stood.append(len(window.plan.words)))
    monkeypatch.setattr(
        window.plan,
        "draw",
        lambda pencil, area, draw=window.plan.draw: (painted.append(len(window.strip.words)), draw(pencil, area)),
    )
    assert not window.actions() and "instruments" not in window.__dict__
    window.plan.grab()
    assert painted == []  # asked for the first time it gives way
    window.show()
    qtbot.waitUntil(lambda: bool(window.plan.words))  # the plan is painted behind what is worked on
    qtbot.waitUntil(lambda: bool(window.actions()))
    many = len(window.actions())
    window.make_keys()
    window.repaint()
    qtbot.wait(20)
    assert painted[0] > 0  # the strip was there before it
    assert many > 80 and len(window.actions()) == many and len(stood) == 1
    window.session.close()


def test_a_key_that_comes_before_the_first_picture_does_what_it_says(qtbot, demo_path, tmp_path, monkeypatch):
    monkeypatch.setattr(Turns, "painted", lambda _turns: None)
    window = build_window(demo_path, "2041", QSettings(str(tmp_path / "s.ini"), QSettings.Format.IniFormat))
    qtbot.addWidget(window)
    window.show()
    qtbot.waitUntil(window.isActiveWindow)
    field = window.line.field
    assert not window.actions()
    QTest.keyClick(field, Qt.Key.Key_4)
    assert window.session.bench.cylinder == 4 and field.text() == ""
    window.session.close()


@pytest.mark.parametrize(
    ("frame", "wanted"),
    [
        ((1280, 820), (1280, 780)),  # the desktop's frame is 20 high, the screen 800
        ((1290, 800), (1270, 800)),
        ((1300, 900), (1260, 700)),
        ((1280, 800), (1280, 800)),  # it fits
        ((900, 700), (1280, 800)),
    ],
)
def test_a_window_whose_frame_is_larger_than_the_screen_gives_way(monkeypatch, frame, wanted):
    moved = []
    window = SimpleNamespace(
        isMaximized=lambda: False, isFullScreen=lambda: False, frameGeometry=lambda: QRect(0, 0, *frame), width=lambda: 1280, height=lambda: 800,
        resize=lambda *size: moved.append(size), move=lambda at: moved.append((at.x(), at.y())),
    )  # fmt: skip
    monkeypatch.setattr(place, "room", lambda: QRect(3, 4, 1280, 800))
    place.fit_frame(window)
    assert moved == ([] if wanted == (1280, 800) else [wanted, (3, 4)])
    window.isMaximized = lambda: True
    moved.clear()
    place.fit_frame(window)
    assert not moved
