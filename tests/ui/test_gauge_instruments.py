"""The gauge's own button, the other instruments, and the study, in the real window."""

import pytest
from PyQt6.QtCore import Qt

from redline_bore.core.gauging import Place
from redline_bore.job.gauge.readings import waiting_cylinders
from redline_bore.job.kinds.gauge import BlockTemperature, ReadingBooked
from tests.ui.gauging import connect, page, press

CTRL, SHIFT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier


# -- the gauge's own button --------------------------------------------------------------------------------------------


def test_five_cylinders_are_gauged_with_the_button_alone(bench):
    bench.go("gauge")
    bench.key(Qt.Key.Key_L)  # full to race or quick: until it is quick
    while bench.session.state.gauging.plan.name != "quick":
        bench.key(Qt.Key.Key_L)
    bench.session.book(BlockTemperature(block_c=20.4))
    connect(bench, Qt.Key.Key_G)
    waiting = sum(6 for _ in waiting_cylinders(bench.session.state))
    assert waiting == 30 or bench.session.state.gauging.readings
    bench.session.select(1)
    before = len(bench.session.records)
    presses = 0
    while waiting_cylinders(bench.session.state) and presses < 40:
        press(bench)
        presses += 1
    assert not waiting_cylinders(bench.session.state)
    booked = [r.entry for r in bench.session.records[before:]]
    assert len(booked) == presses and all(isinstance(x, ReadingBooked) for x in booked)
    assert bench.call == "All cylinders are read. Go to the call."


def test_a_press_is_struck_with_one_key(gauging):
    connect(gauging, Qt.Key.Key_G)
    before = len(gauging.session.state.gauging.readings)
    press(gauging)
    assert len(gauging.session.state.gauging.readings) == before + 1 and "booked by the button" in gauging.said
    gauging.key(Qt.Key.Key_Backspace)
    assert len(gauging.session.state.gauging.readings) == before


@pytest.mark.parametrize("word, told", [("noise", "no reading"), ("half", "no reading"), ("double", "counted once")])
def test_a_bad_line_is_said_and_books_nothing_wrong(gauging, word, told):
    connect(gauging, Qt.Key.Key_G)
    before = len(gauging.session.records)
    press(gauging, word)
    gauging.bot.waitUntil(lambda: told in gauging.said)
    assert len(gauging.session.records) - before == (1 if word == "double" else 0)


def test_a_gauge_in_the_wrong_unit_is_not_believed(gauging):
    connect(gauging, Qt.Key.Key_G)
    gauging.session.select(4)
    gauging.session.set_place(Place(1, 3))  # 0.22 over: in inches that would be 5.6 mm
    before = len(gauging.session.records)
    press(gauging, "inch")
    assert "other unit" in gauging.said and "Nothing was booked" in gauging.said
    assert len(gauging.session.records) == before


def test_a_silent_gauge_is_said(gauging):
    gauging.session.desk.figures = gauging.session.figures.with_own({"gauging.silent_s": 0.3})
    connect(gauging, Qt.Key.Key_G)
    gauging.window.instruments.gauge.tell_stand_in("silent")
    gauging.key(Qt.Key.Key_Space)
    gauging.bot.waitUntil(lambda: "silent" in gauging.said)
    gauging.surely("105.010")
    assert gauging.session.records[-1].typed.startswith("105.010 (asked: ")


def test_g_without_a_stand_in_says_what_to_do(gauging):
    gauging.key(Qt.Key.Key_G)
    assert "Ctrl+G connects one" in gauging.said


def test_a_spindle_sweeps_and_the_axis_follows(gauging):
    gauging.session.select(3)
    connect(gauging, Qt.Key.Key_4)
    view = page(gauging, "slice")
    gauging.key(Qt.Key.Key_Space)
    gauging.bot.waitUntil(lambda: "sweep of 72" in gauging.field.text())
    gauging.key(Qt.Key.Key_Return)
    assert len(gauging.session.state.gauging.sweeps_of(3)) == 1 and "two depths" in view.axis.said()
    press(gauging)
    assert len(gauging.session.state.gauging.sweeps_of(3)) == 2 and "axis moves" in view.axis.said()
    assert gauging.session.state.gauging.spindle.cylinder == 3


def test_a_three_point_gauge_reads_its_own_places(gauging):
    connect(gauging, Qt.Key.Key_3)
    assert gauging.session.state.gauging.gauge_kind == "three-point"
    press(gauging)
    assert len(gauging.session.state.gauging.three_points) == 1 and gauging.session.bench.place == Place(0, 1)
    assert len(gauging.window.step.page.ring.ring().readings) == 1
    assert "three-point" in gauging.window.line.what.text() or "booked by the button" in gauging.said


def test_the_thermometer_books_the_blocks_temperature(gauging):
    gauging.key(Qt.Key.Key_T, CTRL)
    gauging.bot.waitUntil(lambda: gauging.session.records[-1].instrument == "simulated thermometer")
    assert gauging.session.state.clamped.block_c == pytest.approx(20.4, abs=0.6) and "it is booked" in gauging.said


# -- gauge study -------------------------------------------------------------------------------------------------------


def test_the_study_is_read_with_the_button_and_replaces_the_starting_u(gauging):
    gauging.session.select(1)
    page(gauging, "study")
    connect(gauging, Qt.Key.Key_G)
    gauging.key(Qt.Key.Key_K)
    assert "no study with a result" in gauging.said
    gauging.key(Qt.Key.Key_Return)
    readings = len(gauging.session.state.gauging.readings)
    for _ in range(15):
        press(gauging)
    assert (
        len(gauging.session.state.comparing.studies[0].values) == 15
        and len(gauging.session.state.gauging.readings) == readings
    )
    assert gauging.call.startswith("A reading is sure to")
    gauging.key(Qt.Key.Key_K)
    assert "the shop's own" in gauging.said
    assert gauging.session.figures.figure("gauging.bore_gauge_u").own
    gauging.type("who TB")
    assert "TB reads B 0°" in gauging.window.line.where.text()


def test_a_study_is_typed_too_and_refuses_what_is_no_reading(gauging):
    page(gauging, "study")
    gauging.type("105.01")
    assert "Begin the study first" in gauging.said
    gauging.field.clear()
    gauging.key(Qt.Key.Key_Return)
    gauging.type("105.011")
    gauging.type("21.5 C")  # a temperature is still a temperature
    assert len(gauging.session.state.comparing.studies[0].values) == 1 and gauging.session.state.clamped.block_c == 21.5
    gauging.key(Qt.Key.Key_Return)
    assert "Take a reading" in gauging.said


def test_a_port_is_chosen_from_those_there_are_and_tried_before_it_books(gauging, monkeypatch):
    import os
    import tty

    from redline_bore.instruments import port as ports

    master, slave = os.openpty()
    tty.setraw(slave)
    mine = os.ttyname(slave)
    there = (
        ports.FoundPort(mine, "a gauge cable", ""),
        ports.FoundPort("/dev/ttyS9", "locked away", "no right to it: ask"),
    )
    monkeypatch.setattr(ports, "found_ports", lambda: there)
    gauging.window.do("port")
    assert [(d.title, d.locked) for d in gauging.window.over.chest.found] == [
        (mine, ""),
        ("/dev/ttyS9", "no right to it: ask"),
    ]
    gauging.key(Qt.Key.Key_Return)
    assert [d.kind for d in gauging.window.over.chest.found] == ["its own", "listen"]
    gauging.key(Qt.Key.Key_Return)
    assert gauging.window.instruments.gauge.connected and "is shown before anything is booked" in gauging.said
    before = len(gauging.session.records)
    for value in ("+0.0120", "+0.0130"):
        os.write(master, f"reading {value} mm part 21.0\r\n".encode())
        gauging.bot.waitUntil(lambda value=value: value in gauging.said or len(gauging.session.records) > before)
    assert len(gauging.session.records) == before + 1
    gauging.window.instruments.let_go()
    os.close(master)
    os.close(slave)


def test_ports_are_listed_without_opening_one(monkeypatch):
    from types import SimpleNamespace

    from serial.tools import list_ports

    from redline_bore.instruments.port import found_ports

    class Port(SimpleNamespace):
        def __lt__(self, other):
            return self.device < other.device

    some = [
        Port(device="/dev/null", description="n/a", manufacturer=None),
        Port(device="/dev/gone", description="USB gauge", manufacturer="x"),
    ]
    monkeypatch.setattr(list_ports, "comports", lambda: some)
    gone, null = found_ports()
    assert gone.what == "USB gauge x" and "no right" in gone.why_not
    assert null.what == "nothing says what is on it" and null.why_not == ""


def test_without_a_port_a_path_is_typed(gauging, monkeypatch):
    from redline_bore.instruments import port as ports

    monkeypatch.setattr(ports, "found_ports", lambda: ())
    gauging.window.do("port")
    assert "No serial port" in gauging.said
    gauging.bot.keyClicks(gauging.field, "/dev/nowhere")
    assert gauging.window.over.chest.current.title == "/dev/nowhere"
    gauging.key(Qt.Key.Key_Return)
    gauging.key(Qt.Key.Key_Return)
    assert "No instrument answers at /dev/nowhere" in gauging.said


# -- less to type ------------------------------------------------------------------------------------------------------


@pytest.fixture
def fresh_five(bench):
    """A straight five like the sample's, booked in and nothing read."""
    bench.key(Qt.Key.Key_N, CTRL | SHIFT)
    bench.key(Qt.Key.Key_Return)
    assert bench.session.state.block.cylinders == 5 and not bench.session.state.gauging.readings
    return bench


def to_quick(bench):
    keys = 0
    while bench.session.state.gauging.plan.name != "quick":
        bench.key(Qt.Key.Key_L)
        keys += 1
    return keys


def test_five_cylinders_typed_on_a_quick_plan_take_32_keystrokes_beside_the_digits(fresh_five):
    keys = to_quick(fresh_five)
    while waiting_cylinders(fresh_five.session.state):
        fresh_five.bot.keyClicks(fresh_five.field, "105.04")
        fresh_five.key(Qt.Key.Key_Return)
        keys += 1
        assert keys <= 32, fresh_five.said
    assert len(fresh_five.session.state.gauging.readings) == 30
    assert fresh_five.call == "All cylinders are read. Go to the call."
    fresh_five.key(Qt.Key.Key_Return)
    assert fresh_five.session.bench.step == "call"


def test_five_cylinders_by_the_button_on_a_quick_plan_take_30_presses(fresh_five):
    to_quick(fresh_five)
    fresh_five.session.book(BlockTemperature(block_c=20.4))
    connect(fresh_five, Qt.Key.Key_G)
    for _ in range(30):
        press(fresh_five)
    assert not waiting_cylinders(fresh_five.session.state) and len(fresh_five.session.state.gauging.readings) == 30


def test_who_reads_a_full_cylinder_again_stays_there(fresh_five):
    to_quick(fresh_five)
    for _ in range(6):
        fresh_five.bot.keyClicks(fresh_five.field, "105.04")
        fresh_five.key(Qt.Key.Key_Return)
    assert fresh_five.session.bench.cylinder == 2
    fresh_five.session.select(1)
    fresh_five.surely("105.05")
    assert fresh_five.session.bench.cylinder == 1


# -- a gauge of one's own, listened to ---------------------------------------------------------------------------------


def test_a_gauge_that_nobody_knows_is_listened_to_and_tried(gauging, monkeypatch):
    import os
    import tty

    from redline_bore.instruments import listening
    from redline_bore.instruments import port as ports

    monkeypatch.setattr(listening, "EACH_S", 1.0)
    monkeypatch.setattr(listening.listen_at, "__defaults__", (1.0, listening.serial.Serial))
    master, slave = os.openpty()
    tty.setraw(slave)
    mine = os.ttyname(slave)
    monkeypatch.setattr(ports, "found_ports", lambda: (ports.FoundPort(mine, "a cable", ""),))
    gauging.window.do("port")
    gauging.key(Qt.Key.Key_Return)
    gauging.bot.keyClicks(gauging.field, "listen")
    gauging.key(Qt.Key.Key_Return)
    gauging.bot.waitUntil(lambda: "at 9600" in gauging.said)
    gauging.bot.waitUntil(lambda: "at 4800" in gauging.said)  # nothing came: the next speed
    gauging.bot.wait(200)
    os.write(master, b"01A +00.0140 N\r\n")
    chest = gauging.window.over.chest
    gauging.bot.waitUntil(lambda: chest.isVisible() and len(chest.found) == 4)
    assert "read as {skip} {value} N, at 4800" in chest.found[0].note
    gauging.bot.keyClicks(gauging.field, "two-point millimetres")
    gauging.key(Qt.Key.Key_Return)
    before = len(gauging.session.records)
    gauging.bot.wait(1200)  # a line that had begun before the port was open is no line
    os.write(master, b"01A +00.0150 N\r\n")
    gauging.bot.waitUntil(lambda: "+0.015" in gauging.said)
    assert len(gauging.session.records) == before  # on trial: shown, not booked
    os.write(master, b"01A +00.0160 N\r\n")
    gauging.bot.waitUntil(lambda: len(gauging.session.records) == before + 1)
    kept = gauging.window.settings
    assert str(kept.value(f"baud/{mine.replace('/', '_')}")) == "4800"
    gauging.window.do("port")  # the next time it is known
    gauging.key(Qt.Key.Key_Return)
    assert gauging.window.over.chest.found[0].title.startswith("As before: two-point mm")
    gauging.key(Qt.Key.Key_Escape)
    gauging.window.instruments.let_go()
    os.close(master)
    os.close(slave)
