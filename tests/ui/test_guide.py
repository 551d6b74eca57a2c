"""The guided first job, gone through by keys from who is working to the call, and what its tag asks for in turn."""

import pytest
from PyQt6.QtCore import Qt

from redline_bore.job.gauge.readings import waiting_cylinders
from redline_bore.ui.frame.guide import STAGES, Facts, stage_at
from tests.ui.gauging import connect, press

CTRL = Qt.KeyboardModifier.ControlModifier
NOTHING = Facts(False, None, "book_in", "", False, frozenset())


@pytest.fixture
def guided(bench_on, tmp_path):
    bench = bench_on(None, tmp_path / "guided.sqlite")
    bench.session.who_is_said = False
    bench.window.begin_guide()
    bench.settle()
    return bench


def asked(bench):
    bench.settle()
    return bench.window.guide.title.text().split(" · ")[0]


def test_the_first_job_is_gone_through_by_keys(guided):
    b = guided
    assert asked(b) == "Who is working" and "Press Q" in b.window.guide.words.text()
    b.field.setFocus()
    b.key(Qt.Key.Key_Q)
    b.bot.keyClicks(b.field, "LM")
    b.key(Qt.Key.Key_Return)
    assert b.session.person == "LM" and asked(b) == "Book a job in"
    fields = b.window.steps["book_in"].fields
    fields["layout"].setFocus()
    b.bot.keyClicks(fields["layout"], "s")
    fields["cylinders"].setText("1")
    for name, text in (("bore_mm", "78"), ("stroke_mm", "68"), ("number", "1")):
        fields[name].setFocus()
        fields[name].clear()
        b.bot.keyClicks(fields[name], text)
    b.key(Qt.Key.Key_Return)
    assert asked(b) == "How long it is"
    b.type("118")
    assert asked(b) == "How warm"
    b.type("21 C")
    assert asked(b) == "A gauge"
    connect(b, Qt.Key.Key_G)
    assert asked(b) == "The first reading"
    press(b)
    assert asked(b) == "Put right"
    b.field.setFocus()
    b.key(Qt.Key.Key_Backspace)
    assert asked(b) == "The whole hole"
    while b.session.state.gauging.plan.name != "quick":
        b.key(Qt.Key.Key_L)
    for _ in range(6):
        press(b)
    assert not waiting_cylinders(b.session.state) and asked(b) == "Look at it"
    b.key(Qt.Key.Key_V)
    assert asked(b) == "Where a figure comes from"
    b.key(Qt.Key.Key_W)
    b.key(Qt.Key.Key_Escape)
    assert asked(b) == "Find anything"
    b.key(Qt.Key.Key_F)
    b.key(Qt.Key.Key_Escape)
    assert asked(b) == "By hand"
    b.key(Qt.Key.Key_E)
    b.key(Qt.Key.Key_Escape)
    assert asked(b) == "The call"
    b.session.set_page("readings")
    b.key(Qt.Key.Key_Return)
    assert b.session.bench.step == "call" and asked(b) == "From here on"
    b.window.grab()
    b.bot.mouseClick(b.window.guide.leave, Qt.MouseButton.LeftButton)
    assert b.window.guide is None and b.session.bench.step == "call"


def test_what_was_done_before_is_not_asked_again_and_nothing_is_passed_over():
    assert stage_at(NOTHING) == 0
    told = [s.name for s in STAGES]
    assert len(set(told)) == len(told) and all(s.words for s in STAGES)
    assert stage_at(Facts(True, None, "book_in", "", False, frozenset({"find", "working"}))) == told.index(
        "Book a job in"
    )


def test_a_struck_reading_does_not_send_one_back(guided):
    guided.window.guide.at = told = [s.name for s in STAGES].index("The whole hole")
    guided.window.guide.look(NOTHING)
    assert guided.window.guide.at == told
