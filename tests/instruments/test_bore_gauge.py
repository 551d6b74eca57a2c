"""The gauge at the port: what it says is understood or refused, and its going away harms nothing."""

import contextlib
import json
import os
import queue
import subprocess
import sys
import tty

import pytest
from hypothesis import given
from hypothesis import strategies as st

from redline_bore.core.errors import EnvironmentTrouble
from redline_bore.demo.walls import wall_2041
from redline_bore.instruments.bore_gauge import BoreGauge, Unplugged
from redline_bore.instruments.line_protocol import (
    Garbage,
    GaugeReading,
    Hello,
    Trouble,
    format_place,
    format_reading,
    parse_line,
)
from redline_bore.instruments.simulated.bore_gauge import StandIn
from redline_bore.instruments.simulated.bore_gauge import main as stand_in_main
from redline_bore.instruments.simulated.true_wall import TrueWall


@given(st.floats(-2, 2), st.floats(-10, 60), st.floats(-10, 60))
def test_a_reading_written_is_the_reading_read(value, part, body):
    found = parse_line(format_reading(value, part, body))
    assert isinstance(found, GaugeReading)
    assert found.from_zero_mm == pytest.approx(value, abs=6e-5)
    assert (found.part_c, found.body_c) == (pytest.approx(part, abs=0.06), pytest.approx(body, abs=0.06))


def test_inches_are_taken_as_inches():
    assert parse_line("reading +0.0100 in").from_zero_mm == pytest.approx(0.254)


@pytest.mark.parametrize(
    "line, kind",
    [
        ("hello two-point mm", Hello),
        ("trouble not rocked through", Trouble),
        ("trouble", Trouble),
        ("reading +0.2140", Garbage),  # no unit: nothing is guessed
        ("reading +0.2140 furlong", Garbage),
        ("reading +0.21 mm part", Garbage),  # a half line
        ("reading +0.21 mm part 900", Garbage),
        ("reading x mm", Garbage),
        ("hello", Garbage),
        ("", Garbage),
        ("q" * 500, Garbage),
    ],
)
def test_lines_that_mean_something_and_lines_that_do_not(line, kind):
    assert isinstance(parse_line(line), kind)


@given(st.text(max_size=60))
def test_no_line_is_ever_an_exception(line):
    assert parse_line(line) is not None


def test_the_stand_in_measures_the_true_wall():
    import random

    inside = StandIn(wall_2041(), 105.0, 0.0, 20.0, random.Random(1))
    inside.answer(format_place(4, 24.0, 90.0, False))
    read = parse_line(inside.answer("read"))
    assert 105.0 + read.from_zero_mm == pytest.approx(wall_2041().cylinders[3].diameter(24.0, 90.0, False), abs=3e-4)
    inside.answer(format_place(9, 24.0, 90.0, False))
    assert isinstance(parse_line(inside.answer("read")), Trouble)
    assert isinstance(parse_line(inside.answer("at x y z off")), Trouble)
    assert inside.answer("sing") is None


def test_a_true_wall_goes_through_json():
    assert TrueWall.from_json(wall_2041().to_json()) == wall_2041()


def test_a_stand_in_without_a_wall_says_so(tmp_path, capsys):
    (tmp_path / "w.json").write_text(json.dumps({"cylinders": 3}))
    assert stand_in_main(["--wall", str(tmp_path / "w.json"), "--zero", "105"]) == 2
    assert "not a true wall" in capsys.readouterr().err


@pytest.fixture
def port():
    master, slave = os.openpty()
    tty.setraw(slave)
    heard: queue.Queue = queue.Queue()
    gauge = BoreGauge(os.ttyname(slave), heard.put)
    os.close(slave)
    yield master, heard, gauge
    gauge.close()
    with contextlib.suppress(OSError):  # a test may have closed it
        os.close(master)


def test_half_lines_garbage_and_repeats(port):
    master, heard, _gauge = port
    os.write(master, b"reading +0.2")
    with pytest.raises(queue.Empty):
        heard.get(timeout=0.3)
    os.write(master, b"140 mm\r\nreading +0.2140 mm\r\n\xff\xfe\x00\r\n")
    first, second, third = (heard.get(timeout=2) for _ in range(3))
    assert first == second and first.from_zero_mm == 0.214
    assert isinstance(third, Garbage)


def test_unplugging_in_the_middle_of_a_reading_is_told_once(port):
    master, heard, gauge = port
    os.write(master, b"reading +0.2")
    os.close(master)
    told = [heard.get(timeout=3)]
    while not isinstance(told[-1], Unplugged):
        told.append(heard.get(timeout=3))
    assert all(isinstance(t, (Garbage, Unplugged)) for t in told)  # never a reading out of half a line
    gauge.read()
    with pytest.raises(queue.Empty):
        heard.get(timeout=0.3)


def test_a_port_that_is_not_there_is_a_sentence():
    with pytest.raises(EnvironmentTrouble, match="No gauge answers at /dev/nothing"):
        BoreGauge("/dev/nothing", print)


def test_the_stand_in_process_answers_at_its_port(tmp_path):
    (tmp_path / "w.json").write_text(wall_2041().to_json())
    command = [
        sys.executable,
        "-m",
        "redline_bore.instruments.simulated.bore_gauge",
        "--wall",
        str(tmp_path / "w.json"),
    ]
    process = subprocess.Popen([*command, "--zero", "105.0", "--seed", "7"], stdout=subprocess.PIPE, text=True)
    heard: queue.Queue = queue.Queue()
    gauge = BoreGauge(process.stdout.readline().strip(), heard.put)
    try:
        assert isinstance(heard.get(timeout=5), Hello)
        gauge.place(4, 24.0, 90.0, False)
        gauge.read()
        read = heard.get(timeout=5)
        assert read.part_c == 20.4 and 0.19 < read.from_zero_mm < 0.26
    finally:
        gauge.close()
        process.kill()
        process.wait()
        process.stdout.close()
