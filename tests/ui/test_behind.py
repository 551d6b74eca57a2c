"""What is asked of the logbook off the interface thread, where the answer comes later."""

import threading

import pytest

from redline_bore.core.errors import BenchError, InputError
from redline_bore.ui import background
from redline_bore.ui.background import Runner
from redline_bore.ui.behind import Behind


@pytest.fixture
def slow(monkeypatch):
    """Nothing is there at once."""
    monkeypatch.setattr(background, "QUICK_S", 0.0)


@pytest.fixture
def asked(qtbot):
    runner, told = Runner(), []
    yield Behind(runner, "asked", lambda: told.append(1)), told
    runner.stop()


def test_an_answer_that_is_there_at_once_is_told_by_nobody(asked):
    question, told = asked
    assert question.of("a", lambda: 7) == 7 and question.of("a", lambda: 8) == 7 and not told
    assert question.of("b", lambda: 8) == 8


def test_an_answer_that_comes_later_is_told_and_none_is_ever_another_keys(asked, slow, qtbot):
    question, told = asked
    gate = threading.Event()

    def first():
        gate.wait(10.0)
        return "of a"

    assert question.of("a", first) is None
    assert question.of("b", lambda: "of b") is None
    gate.set()
    qtbot.waitUntil(lambda: question.of("b", lambda: "again") == "of b")
    assert len(told) == 1, "what was asked before is dropped"
    assert question.of("a", lambda: "of a, again") is None, "and what stood is not shown for another"
    qtbot.waitUntil(lambda: question.of("a", lambda: "") == "of a, again")


def test_a_logbook_that_cannot_be_read_leaves_no_answer_and_a_mistake_is_raised(asked):
    question, told = asked

    def away():
        raise InputError("the logbook is away")

    assert question.of("a", away) is None and not told
    assert question.of("a", lambda: 7) == 7, "it is asked again"
    assert issubclass(InputError, BenchError)
    with pytest.raises(ZeroDivisionError):
        question.of("b", lambda: 1 // 0)


def test_a_job_that_takes_longer_to_open_is_said_and_then_shown(bench_on, slow, qtbot):
    bench = bench_on("2041")
    bench.window.open_job("2044")
    assert bench.said.startswith("Opening job 2044") and bench.session.job.number == "2041"
    qtbot.waitUntil(lambda: bench.session.job.number == "2044")
    assert "Opening" not in bench.said


def test_nothing_goes_into_the_job_that_is_left_while_another_is_opened(bench_on, slow, qtbot):
    from redline_bore.instruments.line_protocol import GaugeReading

    bench = bench_on("2041")
    bench.go("gauge")
    before = len(bench.session.records)
    bench.window.open_job("2044")
    bench.field.setText("105.2")
    bench.window.enter()
    assert "Job 2044 is being opened. Nothing was booked." in bench.said and bench.field.text() == "105.2"
    bench.window.instruments.heard.emit(GaugeReading.__new__(GaugeReading), True)
    assert "read it again" in bench.said and len(bench.session.records) == before
    qtbot.waitUntil(lambda: bench.session.job.number == "2044")
    assert bench.session.logbook.ledger(bench.session.logbook.job_id("2041"))[-1].seq == before


def test_of_two_jobs_asked_for_the_last_one_is_opened(bench_on, slow, qtbot, monkeypatch):
    bench = bench_on("2041")
    desk, gate, opened = bench.session.desk, threading.Event(), []
    real = desk.open

    def held(number):
        if number == "2036":
            gate.wait(10.0)
        job = real(number)
        opened.append(number)
        return job

    monkeypatch.setattr(desk, "open", held)
    bench.window.open_job("2036")
    bench.window.open_job("2044")
    gate.set()
    qtbot.waitUntil(lambda: "2044" in opened and bench.session.job.number == "2044")
    bench.window.runner.stop()
    assert bench.session.job.number == "2044"


def test_a_job_that_is_not_there_is_said_when_it_is_known(bench_on, slow, qtbot):
    bench = bench_on("2041")
    bench.window.open_job("9999")
    qtbot.waitUntil(lambda: "9999" in bench.said and "Opening" not in bench.said)
    assert bench.session.job.number == "2041"


def test_the_next_number_and_the_families_come_into_the_card_later(bench_on, slow, qtbot):
    bench = bench_on("2041")
    bench.session.begin_new_job()
    card = bench.window.steps["book_in"]
    assert card.draft()["number"] == "" and card.library.count() == 0
    card.fields["owner"].setText("Tarn mill")
    qtbot.waitUntil(lambda: card.draft()["number"] == "2048")
    assert card.library.count() >= 4 and card.draft()["owner"] == "Tarn mill"


def test_a_number_that_was_typed_meanwhile_stays(bench_on, slow, qtbot):
    bench = bench_on("2041")
    bench.session.begin_new_job()
    card = bench.window.steps["book_in"]
    card.fields["number"].setText("77")
    qtbot.waitUntil(lambda: card.library.count() >= 4)
    assert card.draft()["number"] == "77"
