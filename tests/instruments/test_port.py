"""An instrument at the port: half lines, noise, silence, bounces; and its going away harms nothing."""

import contextlib
import os
import queue
import time
import tty

import pytest

from redline_bore.core.errors import EnvironmentTrouble
from redline_bore.instruments.line_protocol import Garbage, GaugeReading, LinePattern
from redline_bore.instruments.port import Instrument, Repeated, Silent, Unplugged
from tests.patience import PATIENCE_S


@pytest.fixture
def opened():
    made = []

    def open_port(pattern=None, silent_s=3.0):
        master, slave = os.openpty()
        tty.setraw(slave)
        heard: queue.Queue = queue.Queue()
        instrument = Instrument(os.ttyname(slave), heard.put, pattern, silent_s)
        os.close(slave)
        made.append((master, instrument))
        return master, heard, instrument

    yield open_port
    for master, instrument in made:
        instrument.close()
        with contextlib.suppress(OSError):  # a test may have closed it
            os.close(master)


def test_half_lines_and_garbage(opened):
    master, heard, _ = opened()
    os.write(master, b"reading +0.2")
    with pytest.raises(queue.Empty):
        heard.get(timeout=0.3)
    os.write(master, b"140 mm\r\n\xff\xfe\x00\r\n")
    first, second = (heard.get(timeout=PATIENCE_S) for _ in range(2))
    assert first.from_zero_mm == 0.214 and isinstance(second, Garbage)


def test_a_bounce_is_one_reading_and_two_presses_are_two(opened):
    master, heard, _ = opened()
    os.write(master, b"reading +0.2140 mm\r\nreading +0.2140 mm\r\n")
    first, second = (heard.get(timeout=PATIENCE_S) for _ in range(2))
    assert isinstance(first, GaugeReading) and isinstance(second, Repeated)
    time.sleep(0.06)
    os.write(master, b"reading +0.2140 mm\r\n")  # the same figure, pressed again
    assert isinstance(heard.get(timeout=PATIENCE_S), GaugeReading)


def test_silence_after_asking_is_said_once(opened):
    _, heard, instrument = opened(silent_s=0.2)
    instrument.read()
    assert heard.get(timeout=PATIENCE_S) == Silent(0.2)
    with pytest.raises(queue.Empty):
        heard.get(timeout=0.5)


def test_an_answer_ends_the_waiting(opened):
    master, heard, instrument = opened(silent_s=0.3)
    instrument.read()
    os.write(master, b"reading +0.1 mm\r\n")
    assert isinstance(heard.get(timeout=PATIENCE_S), GaugeReading)
    with pytest.raises(queue.Empty):
        heard.get(timeout=0.6)


def test_a_line_without_an_end_does_not_grow_for_ever(opened):
    master, heard, _ = opened()
    for _ in range(6):
        os.write(master, b"q" * 1000)
        time.sleep(0.02)
    assert "without an end" in heard.get(timeout=PATIENCE_S).reason


def test_unplugging_in_the_middle_of_a_reading_is_told_once(opened):
    master, heard, instrument = opened()
    os.write(master, b"reading +0.2")
    os.close(master)
    told = [heard.get(timeout=PATIENCE_S)]
    while not isinstance(told[-1], Unplugged):
        told.append(heard.get(timeout=PATIENCE_S))
    assert all(isinstance(t, (Garbage, Unplugged)) for t in told)  # never a reading out of half a line
    instrument.read()
    with pytest.raises(queue.Empty):
        heard.get(timeout=0.3)


def test_a_gauge_with_its_own_pattern_is_read_and_asked_as_it_wants(opened):
    master, heard, instrument = opened(LinePattern("two-point", "in", "D{skip} {value}", "P"))
    instrument.place(1, 10.0, 0.0, True)  # nothing is sent that it would not understand
    instrument.read()
    assert os.read(master, 100).strip() == b"P"
    os.write(master, b"D1 +0.0010\r")
    assert heard.get(timeout=PATIENCE_S).from_zero_mm == pytest.approx(0.0254)


def test_a_gauge_that_cannot_be_asked_says_to_press_its_button(opened):
    _, _, instrument = opened(LinePattern("two-point", "mm"))
    with pytest.raises(EnvironmentTrouble, match="button"):
        instrument.read()


def test_a_port_that_is_not_there_is_a_sentence():
    with pytest.raises(EnvironmentTrouble, match="No instrument answers at /dev/nothing"):
        Instrument("/dev/nothing", print)


def test_a_line_that_had_begun_before_the_port_was_opened_is_no_reading(opened):
    """``-`` before, ``0.0140`` after: never +0.0140."""
    master, heard, _ = opened(LinePattern("two-point", "in", "{value}"))
    os.write(master, b"0.0140\r\n")
    first = heard.get(timeout=PATIENCE_S)
    assert isinstance(first, Garbage) and "had begun before" in first.reason
    os.write(master, b"-0.0140\r\n")
    assert heard.get(timeout=PATIENCE_S).from_zero_mm == pytest.approx(-0.0140 * 25.4)


@pytest.mark.parametrize("pattern", [None, LinePattern("two-point", "mm", "{value}")])
@pytest.mark.parametrize(
    "line",
    [
        b"9" * 400,
        b"reading " + b"9" * 150 + b" mm",
        b"reading 1e999 mm",
        b"\xff\xfe\x00" * 40,
        b"point 1e400 5",
        b"heights " + b"z" * 190,
    ],
)
def test_no_line_ends_the_listening(opened, pattern, line):
    master, heard, _ = opened(pattern)
    time.sleep(1.1 if pattern else 0.0)
    os.write(master, line + b"\n")
    os.write(master, b"+0.010\n" if pattern else b"reading +0.010 mm\n")
    found = heard.get(timeout=PATIENCE_S)
    while not isinstance(found, GaugeReading):
        found = heard.get(timeout=PATIENCE_S)
    assert found.from_zero_mm == pytest.approx(0.010)


def test_a_port_is_one_programs_at_a_time(opened):
    _master, _heard, first = opened(LinePattern("two-point", "mm"))
    with pytest.raises(EnvironmentTrouble, match="No instrument answers"):
        Instrument(first.port, print, LinePattern("two-point", "mm"))
