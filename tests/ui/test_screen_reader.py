"""What a screen reader hears: the running program through the desktop's accessibility bus, asked by another program; driven by keys."""

import os
import subprocess
import sys
import time
from contextlib import contextmanager

import pytest

from tests.patience import PATIENCE_S
from tools.screen_reader import FOCUSABLE, FOCUSED, Desktop, ScreenReader, launcher

NAMED = {
    "push button",
    "button menu",
    "text",
    "combo box",
    "check box",
    "spin button",
    "slider",
    "list",
    "table",
    "graphic",
    "tool button",
}


@pytest.fixture(scope="module")
def desktop():
    if launcher() is None:
        pytest.skip(
            "no accessibility bus on this machine: apt-get install at-spi2-core dbus, then this is listened to too"
        )
    both = Desktop()
    yield both
    both.end()


@pytest.fixture
def program(display, desktop, demo_path):
    """The program on a job, a screen reader beside it, and a hand at the keys."""

    @contextmanager
    def started(job):
        env = {k: v for k, v in os.environ.items() if k != "QT_QPA_PLATFORM"}
        env |= {
            "DISPLAY": display,
            "DBUS_SESSION_BUS_ADDRESS": desktop.address,
            "QT_LINUX_ACCESSIBILITY_ALWAYS_ON": "1",
        }
        line = [sys.executable, "-m", "redline_bore", "--logbook", str(demo_path), "--job", job]
        running = subprocess.Popen(line, env=env, stderr=subprocess.DEVNULL)
        reader = ScreenReader(desktop.address)
        try:
            yield Bench(reader, reader.program("Redline Bore"), env)
        finally:
            running.kill()
            running.wait()
            reader.close()
            deadline = time.monotonic() + PATIENCE_S
            while time.monotonic() < deadline and _there(desktop):
                time.sleep(0.1)

    return started


def _there(desktop):
    reader = ScreenReader(desktop.address)
    try:
        return any(reader._property(at, "Name") == "Redline Bore" for at in reader.programs())
    except LookupError:
        return True  # going
    finally:
        reader.close()


class Bench:
    """What is heard, and keys."""

    def __init__(self, reader, at, env):
        self.reader, self.at, self.env = reader, at, env
        self.window = self._xdo("search", "--sync", "--onlyvisible", "--name", "Redline Bore").split()[0]
        self._xdo("windowactivate", "--sync", self.window)
        self.until(lambda all_of: any(FOCUSED in h.states for h in all_of))

    def _xdo(self, *words):
        return subprocess.run(["xdotool", *words], env=self.env, capture_output=True, text=True).stdout

    def key(self, *names):
        self._xdo("key", "--delay", "30", *names)

    def type(self, text):
        self._xdo("type", "--delay", "20", text)

    def all(self):
        return list(self.reader.all_of(self.at))

    def until(self, wanted, wait_s=PATIENCE_S):
        """All that is there, once it is as wanted."""
        deadline = time.monotonic() + wait_s
        while True:
            there = self.all()
            if wanted(there):
                return there
            assert time.monotonic() < deadline, "\n".join(f"{h.role}: {h.told}" for h in there)
            time.sleep(0.05)

    def label(self, name, there=None):
        """What follows a label's name."""
        found = [h.name for h in there or self.all() if h.name.startswith(f"{name}: ")]
        assert len(found) == 1, found
        return found[0].removeprefix(f"{name}: ")


def no_name(there):
    """Whatever somebody could want, and has no name."""
    return [h for h in there if (h.role in NAMED or FOCUSABLE in h.states) and not h.name]


def settled(there):
    """Whether every picture was put into words: that waits until it rests."""
    return all(h.description for h in there if h.role == "graphic")


def step_on(there):
    return next((h.name for h in there if h.name.endswith(" step")), "")


def page_on(there):
    return next((h.name for h in there if h.name.endswith(" page") and h.description == "shown"), "")


def judged(bench, there):
    """What is wrong with what is heard of a page."""
    wrong = [f"{h.role} without a name" for h in no_name(there)]
    wrong += [f"{h.name}: {h.description!r}" for h in there if h.role == "graphic" and len(h.description) < 8]
    for name, least in (("The call", 12), ("What Enter does", 3), ("Where it is booked", 3)):
        if len(bench.label(name, there)) < least:
            wrong.append(f"{name} says nothing")
    if bench.label("Units", there) not in ("in", "mm") or bench.label("Torque plate", there) not in ("on", "off"):
        wrong.append("units or plate")
    return wrong


def test_every_page_of_every_step_is_told(program):
    with program("2044") as bench:
        bench.key("Escape", *["Prior"] * 9)
        steps, wrong = [], {}
        while True:
            there = bench.until(lambda all_of: step_on(all_of) not in ("", *steps) and settled(all_of))
            step, pages = step_on(there), [page_on(there)]
            steps.append(step)
            wrong[step, pages[0]] = judged(bench, there)
            for _ in range(len([h for h in there if h.role == "push button" and h.name.endswith(" page")]) - 1):
                bench.key("v")
                there = bench.until(lambda all_of: page_on(all_of) not in ("", *pages) and settled(all_of))  # noqa: B023
                pages.append(page_on(there))
                wrong[step, pages[-1]] = judged(bench, there)
            if step == "Sign off step":
                break
            bench.key("Next")
        assert len(steps) == 8 and len(wrong) >= 25
        assert {where: what for where, what in wrong.items() if what} == {}


def test_what_is_typed_booked_and_refused_is_told_as_it_happens(program):
    with program("2047") as bench:
        bench.reader.listen()
        bench.type("78.013")
        field = next(h for h in bench.all() if h.role == "text" and FOCUSED in h.states)
        bench.until(lambda _all: bench.reader.text_of(field) == "78.013")
        assert field.name == "Figure to book"
        bench.key("Return")
        told = bench.reader.told_until(lambda name: name.startswith("Last entry kept: kept"))
        assert told[-1].startswith("Last entry kept: kept")
        before = bench.label("The call")
        bench.type("7801.3")
        bench.key("Return")
        told = bench.reader.told_until(lambda name: name.startswith("What Enter does: ") and "7801.3" in name)
        assert told[-1].endswith("is too far from the bore of 78.000 mm to be its size.")
        assert bench.label("The call") == before and bench.reader.text_of(field) == "7801.3", (
            "nothing was booked; it waits"
        )
        bench.key("Escape", "p")
        bench.reader.told_until(lambda name: name.startswith("Torque plate: "))
        assert bench.label("Torque plate") in ("on", "off")


def test_what_lies_over_the_work_is_told_too(program):
    """What a stack of pages holds besides its pages is hidden from a screen reader: help, tables, Find and tags once were."""
    with program("2041") as bench:
        bench.key("Escape", "shift+F1")
        there = bench.until(lambda all_of: any(h.role == "table" and FOCUSED in h.states for h in all_of))
        cells = [h.name for h in there if "cell" in h.role and "header" not in h.role]
        assert len(cells) >= 30 and all(": " in cell for cell in cells), cells[:5]
        assert [h.name for h in there if h.role == "column header"][:2] == ["cylinder", "worn by"]
        bench.key("Escape", "w")
        bench.until(lambda all_of: any(h.role == "label" and "decides" in h.name for h in all_of))
        bench.key("Escape", "f")
        bench.until(lambda all_of: any(h.name == "Find" and " found. " in h.description for h in all_of))
        bench.type("taper")
        bench.until(lambda all_of: any(h.name == "Find" and "taper" in h.description.lower() for h in all_of))
        bench.key("Escape", "Escape", "e", "Return")
        there = bench.until(lambda all_of: any(h.name.startswith("Tag: ") for h in all_of))
        assert no_name(there) == [] and any(h.role == "text" and FOCUSED in h.states for h in there)
        assert bench.label("What would be booked", there) and bench.label("What stands", there)
        bench.key("Escape", "ctrl+j")
        there = bench.until(lambda all_of: sum(h.role == "list item" for h in all_of) == 5)
        assert any("2036" in h.name and "Marigold" in h.name for h in there if h.role == "list item")
        assert no_name(there) == []
