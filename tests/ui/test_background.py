"""Work off the interface thread: newest wins, cancelled work says nothing, faults come back."""

import threading

import pytest
from PyQt6.QtWidgets import QWidget

from redline_bore.ui.background import Cancelled, Runner, Token


@pytest.fixture
def runner(qapp):
    made = Runner()
    yield made
    made.stop()


def test_the_result_arrives_on_the_interface_thread(runner, qtbot):
    got = []
    runner.start(
        "a", lambda token: threading.current_thread().name, lambda name: got.append((name, threading.current_thread()))
    )
    qtbot.waitUntil(lambda: bool(got))
    assert got[0][0] != threading.main_thread().name and got[0][1] is threading.main_thread()


def test_the_newest_of_a_name_wins(runner, qtbot):
    gate, got = threading.Event(), []

    def slow(token):
        gate.wait(5)
        token.check()
        return "old"

    runner.start("a", slow, got.append)
    runner.start("a", lambda token: "new", got.append)
    qtbot.waitUntil(lambda: got == ["new"])
    gate.set()
    runner._pool.waitForDone()
    qtbot.wait(50)
    assert got == ["new"]


def test_a_fault_is_handed_over(runner, qtbot):
    got = []
    runner.start("a", lambda token: 1 / 0, got.append, got.append)
    qtbot.waitUntil(lambda: bool(got))
    assert isinstance(got[0], ZeroDivisionError)


def test_busy_is_told_and_cancelling_ends_it(runner, qtbot):
    told = []
    runner.busy.connect(lambda name, on: told.append(on))
    gate = threading.Event()
    runner.start("a", lambda token: gate.wait(5), lambda _r: told.append("done"))
    runner.cancel("a")
    gate.set()
    runner._pool.waitForDone()
    qtbot.wait(30)
    assert told == [True, False]


def test_a_cancelled_token_stops_the_work():
    token = Token()
    token.cancel()
    with pytest.raises(Cancelled):
        token.check()


def test_work_that_waits_for_a_picture_begins_when_it_has_been_painted(runner, qtbot):
    widget, got = QWidget(), []
    qtbot.addWidget(widget)
    runner.start("a", lambda token: "old", got.append, painted=widget)
    runner.start("a", lambda token: "new", got.append, painted=widget)
    qtbot.wait(50)
    assert got == [] and "a" in runner._tokens
    widget.show()
    qtbot.waitUntil(lambda: got == ["new"])
    widget.update()
    qtbot.wait(50)
    assert got == ["new"]  # once


def test_work_for_a_picture_that_is_hidden_before_it_was_painted_is_given_up(runner, qtbot):
    widget, got = QWidget(), []
    qtbot.addWidget(widget)
    widget.show()
    runner.start("a", lambda token: "a", got.append, painted=widget)
    widget.hide()
    qtbot.waitUntil(lambda: not runner._tokens)
    widget.show()
    qtbot.wait(50)
    assert got == []
