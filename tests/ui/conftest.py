"""The real window on the sample jobs, driven by keys and mouse; leftovers are named."""

import os
import shutil
import subprocess
import threading
import time
from functools import partial

import pytest
from PyQt6.QtCore import QSettings, Qt
from PyQt6.QtGui import QImage, QPainter
from PyQt6.QtWidgets import QApplication

from redline_bore.job.sign_off.sheet import sheet_of
from redline_bore.ui.commands.command import Command, Group
from tests.patience import PATIENCE_S


@pytest.fixture(scope="session")
def qapp():
    from redline_bore.app import application

    return application()


@pytest.fixture
def paper(qapp):
    """A pencil in the light theme, and the white image it draws on."""
    from redline_bore.ui.paint.pencil import Pencil
    from redline_bore.ui.theme.theme import Theme

    image = QImage(700, 500, QImage.Format.Format_RGB32)
    image.fill(0xFFFFFF)
    painter = QPainter(image)
    yield Pencil(painter, Theme()), image
    painter.end()


def left_running(before):
    """The names of threads that were begun since and still run; those that Qt's own pool was seen in are its own."""
    now = [t for t in threading.enumerate() if t not in before and not isinstance(t, threading._DummyThread)]
    return [t.name for t in now if t.is_alive()]


@pytest.fixture(autouse=True)
def patient(monkeypatch):
    """What is read off the interface thread is waited for, however slow the machine."""
    monkeypatch.setattr("redline_bore.ui.background.QUICK_S", 10.0)


@pytest.fixture(autouse=True)
def nothing_left_behind(qapp):
    before = set(threading.enumerate())
    yield
    shown = [w for w in QApplication.topLevelWidgets() if w.isVisible()]
    assert not shown, f"still on the screen: {shown}"
    assert not (left := left_running(before)), f"still running: {left}"


class Bench:
    """A person at the bench: types, presses keys, looks."""

    def __init__(self, window, qtbot):
        self.window, self.bot = window, qtbot

    @property
    def session(self):
        return self.window.session

    @property
    def field(self):
        return self.window.line.field

    @property
    def said(self):
        return self.window.line.what.text()

    @property
    def call(self):
        return self.window.card.sentence.text()

    def key(self, key, modifier=Qt.KeyboardModifier.NoModifier, on=None):
        self.bot.keyClick(on or QApplication.focusWidget() or self.window, key, modifier)

    def take_call(self):
        """Enter; where the call is not sure yet it is asked once, and Enter again takes it."""
        self.key(Qt.Key.Key_Return)
        if "Enter again books it" in self.said:
            self.key(Qt.Key.Key_Return)

    def type(self, text, enter=True):
        self.field.setFocus()
        if text[:1].isalpha() or self.field.digits_pick:
            self.key(Qt.Key.Key_M)
        self.bot.keyClicks(self.field, text)
        if enter:
            self.key(Qt.Key.Key_Return)

    def surely(self, text):
        """Type and enter what is asked back, and enter it again."""
        self.type(text)
        assert "Enter again books it" in self.said
        self.key(Qt.Key.Key_Return)

    def go(self, step):
        self.session.go(step)
        self.settle()

    def take_points_on(self):
        """At sign off: rings, washing and oiling are booked, every other open point is accepted."""
        for cylinder in self.session.state.cylinders:
            self.session.select(cylinder)
            self.type("rings 0.40 0.45")
        self.type("washed")
        self.type("oiled")
        for _ in range(len(sheet_of(self.session.state).open_points)):
            self.type("accept 1 as agreed with the owner")
        assert sheet_of(self.session.state).open_points == ()
        self.settle()

    def do(self, deed, *given):
        """Have a command's work done, as if its file had been chosen; what it says, or refuses, is said in the gauge line."""
        self.window.run(Command(deed.__name__, "", (), Group.FILES, 0, lambda window: deed(window, *given)))

    def settle(self):
        self.bot.waitUntil(lambda: not self.window.runner._tokens)
        QApplication.processEvents()

    def colours(self, widget):
        """Every colour in the picture of a widget, as #rrggbb, with its count."""
        image = widget.grab().toImage()
        found = {}
        for y in range(0, image.height(), 2):
            for x in range(0, image.width(), 2):
                name = image.pixelColor(x, y).name()
                found[name] = found.get(name, 0) + 1
        return found


@pytest.fixture
def qtbot(qtbot):
    """pytest-qt's own, with the patience of all tests."""
    qtbot.waitUntil = partial(qtbot.waitUntil, timeout=int(PATIENCE_S * 1000))
    return qtbot


@pytest.fixture
def bench_on(qtbot, demo_path, tmp_path):
    from redline_bore.app import build_window

    made = []

    def opened(number="2041", path=None):
        settings = QSettings(str(tmp_path / "settings.ini"), QSettings.Format.IniFormat)
        window = build_window(path or demo_path, number, settings)
        made.append(window)
        window.session.person = "RM"
        window.show()
        qtbot.waitUntil(window.isActiveWindow)
        bench = Bench(window, qtbot)
        bench.settle()
        return bench

    yield opened
    for window in made:
        window.close()


@pytest.fixture
def bench(bench_on):
    return bench_on()


@pytest.fixture
def gauging(bench):
    bench.go("gauge")
    return bench


X_PROGRAMS = ("Xvfb", "openbox", "xdotool")


@pytest.fixture
def display():
    """A screen that nobody sees, with something that gives windows the focus."""
    missing = [p for p in X_PROGRAMS if shutil.which(p) is None]
    assert not missing, f"install {missing}: make test does"
    read, write = os.pipe()
    server = subprocess.Popen(
        ["Xvfb", "-displayfd", str(write), "-screen", "0", "1280x800x24", "-nolisten", "tcp"],
        pass_fds=[write],
        stderr=subprocess.DEVNULL,
    )
    os.close(write)
    with os.fdopen(read) as said:
        name = f":{said.readline().strip()}"
    manager = subprocess.Popen(
        ["openbox"], env={**os.environ, "DISPLAY": name}, stderr=subprocess.DEVNULL, stdout=subprocess.DEVNULL
    )
    there, until = ["xdotool", "get_num_desktops"], time.monotonic() + PATIENCE_S
    while subprocess.run(there, env={**os.environ, "DISPLAY": name}, capture_output=True).returncode:
        assert time.monotonic() < until and manager.poll() is None, "nothing gives windows the focus"
        time.sleep(0.05)
    yield name
    for process in (manager, server):
        process.terminate()
        process.wait()
