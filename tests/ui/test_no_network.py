"""No socket is ever opened: a whole start, every step and page, instruments, sheets and files, under a ban."""

import socket
import sys

import pytest

from redline_bore.cli.main import main
from redline_bore.ui.steps.declared import STEPS

OPENS = (
    "socket.__new__",
    "socket.connect",
    "socket.bind",
    "socket.getaddrinfo",
    "socket.gethostbyname",
    "socket.sendto",
)
_ban = {"on": False, "seen": []}


def _audit(event, _given):
    if _ban["on"] and event in OPENS:
        _ban["seen"].append(event)
        raise OSError(f"no network here: {event}")


@pytest.fixture
def banned():
    """Python's own audit hook: it cannot be got round by an import. It cannot be taken away either, so it is switched off."""
    if "hooked" not in _ban:
        sys.addaudithook(_audit)
        _ban["hooked"] = True
    _ban["on"], _ban["seen"] = True, []
    yield _ban["seen"]
    _ban["on"] = False


def test_the_ban_bites(banned):
    with pytest.raises(OSError, match="no network"):
        socket.socket()
    assert banned


def test_a_whole_day_at_the_window_opens_none(banned, bench_on):
    bench = bench_on("2041")
    for number in ("2041", "2029", "2047"):
        bench.session.open_job(number)
        for step in bench.session.steps:
            bench.go(step)
            view = bench.window.step
            for page in getattr(view, "titles", {}):
                bench.session.set_page(page)
                bench.settle()
            bench.window.grab()
    assert set(STEPS) >= set(bench.window.steps) and len(bench.window.steps) >= 6
    assert banned == []


def test_files_and_sheets_open_none(banned, demo_path, tmp_path):
    of = ["--logbook", str(demo_path), "--job", "2036"]
    for name, file in (
        ("sheet", "s.pdf"),
        ("sheet", "s.html"),
        ("export", "j.json"),
        ("export", "r.csv"),
        ("finish", "f.csv"),
        ("stock", "k.csv"),
        ("quote", "q.pdf"),
    ):
        assert main([name, *of, "--to", str(tmp_path / file)]) == 0
    assert main(["call", *of]) == 0 and main(["verify", *of[:2]]) == 0 and main(["jobs", *of[:2]]) == 0
    assert banned == []


def test_an_instrument_opens_none(banned, bench):
    from PyQt6.QtCore import Qt

    bench.key(Qt.Key.Key_G, Qt.KeyboardModifier.ControlModifier)
    bench.bot.waitUntil(lambda: bench.window.instruments.gauge.connected)
    bench.window.instruments.let_go()
    assert banned == []
