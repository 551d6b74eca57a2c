"""The stand-ins measure the true wall as theory says, and speak the protocol of the real thing."""

import json
import queue
import random
import subprocess
import sys

import numpy as np
import pytest

from redline_bore.core.axis import fit_cylinder
from redline_bore.demo.walls import wall_2036, wall_2041
from redline_bore.instruments.line_protocol import (
    Hello,
    LineReader,
    SweepReading,
    Temperature,
    Trouble,
    format_place,
    parse_line,
)
from redline_bore.instruments.port import Instrument
from redline_bore.instruments.simulated.__main__ import main as stand_in_main
from redline_bore.instruments.simulated.bore_gauge import BoreGaugeStandIn
from redline_bore.instruments.simulated.spindle import SpindleStandIn
from redline_bore.instruments.simulated.thermometer import ThermometerStandIn
from redline_bore.truth.wall import TrueCylinder, TrueWall
from tests.patience import PATIENCE_S


def test_the_two_point_gauge_measures_the_chord():
    inside = BoreGaugeStandIn(wall_2041(), 105.0, 0.0, 20.0, random.Random(1))
    inside.answer(format_place(4, 24.0, 90.0, False))
    read = parse_line(inside.answer("read")[0])
    assert 105.0 + read.from_zero_mm == pytest.approx(wall_2041().cylinders[3].diameter(24.0, 90.0, False), abs=3e-4)
    inside.answer(format_place(9, 24.0, 90.0, False))
    assert isinstance(parse_line(inside.answer("read")[0]), Trouble)
    assert isinstance(parse_line(inside.answer("at x y z off")[0]), Trouble)
    assert inside.answer("sing") == [] and parse_line(inside.answer("hello")[0]) == Hello("two-point", "mm")
    assert parse_line(inside.answer("master")[0]).from_zero_mm == 0.0


def test_three_points_see_three_lobes_and_no_oval():
    def spread(kind, **shape):
        wall = TrueWall((TrueCylinder(92.0, 10.0, 100.0, **shape),), 11.0)
        inside = BoreGaugeStandIn(wall, 92.0, 0.0, 20.0, random.Random(1), kind)
        values = []
        for clock in range(0, 180, 15):
            inside.answer(format_place(1, 50.0, float(clock), False))
            values.append(parse_line(inside.answer("read")[0]).from_zero_mm)
        return np.ptp(values)

    assert spread("three-point", oval=0.02) < 0.002 and spread("two-point", oval=0.02) > 0.07
    assert spread("two-point", lobe=0.02) < 0.002 and spread("three-point", lobe=0.02) > 0.07


def test_the_spindle_finds_the_lean_that_was_built_in():
    wall = TrueWall((TrueCylinder(92.0, 10.0, 100.0, lean_x=0.05, lean_y=-0.03),), 11.0)
    inside, sweeps = SpindleStandIn(wall, 46.0, 0.0, 20.0, random.Random(1)), []
    for depth in (10.0, 60.0, 110.0):
        inside.answer(format_place(1, depth, 0.0, False))
        reader = LineReader()
        (sweep,) = [m for line in inside.answer("read") if (m := reader.feed(line)) is not None]
        assert isinstance(sweep, SweepReading) and len(sweep.clock_deg) == 72
        sweeps.append(sweep)
    fit = fit_cylinder(
        [10.0, 60.0, 110.0], [s.clock_deg for s in sweeps], [[46.0 + v for v in s.from_zero_mm] for s in sweeps]
    )
    assert fit.axis.drift_mm == pytest.approx(np.hypot(0.05, 0.03), abs=1e-3)
    inside.answer(format_place(7, 10.0, 0.0, False))
    assert isinstance(parse_line(inside.answer("read")[0]), Trouble)


def test_a_hole_finished_under_the_plate_is_round_under_it_only():
    wall = wall_2036((83.066, 83.0685), False)
    on, off = ([wall.diameter_at(1, 18.0, t, plate, 20.0) for t in range(0, 180, 15)] for plate in (True, False))
    assert np.ptp(on) < 0.003 and np.ptp(off) > 0.015


def test_the_thermometer_says_the_blocks_temperature():
    inside = ThermometerStandIn(24.0, random.Random(1))
    assert parse_line(inside.answer("hello")[0]) == Hello("thermometer", "C")
    read = parse_line(inside.answer("read")[0])
    assert isinstance(read, Temperature) and read.what == "block" and read.celsius == pytest.approx(24.0, abs=0.5)
    assert inside.answer("sing") == []


def test_a_true_wall_goes_through_json():
    assert TrueWall.from_json(wall_2041().to_json()) == wall_2041()


@pytest.mark.parametrize("arguments, reason", [([], "--wall and --zero"), (["--zero", "105"], "not a true wall")])
def test_a_stand_in_without_a_wall_says_so(tmp_path, capsys, arguments, reason):
    (tmp_path / "w.json").write_text(json.dumps({"cylinders": 3}))
    assert stand_in_main(arguments + (["--wall", str(tmp_path / "w.json")] if arguments else [])) == 2
    assert reason in capsys.readouterr().err


@pytest.mark.parametrize("kind", ["two-point", "thermometer"])
def test_the_stand_in_process_answers_at_its_port_and_at_its_button(tmp_path, kind):
    (tmp_path / "w.json").write_text(wall_2041().to_json())
    command = [sys.executable, "-m", "redline_bore.instruments.simulated", "--kind", kind, "--seed", "7"]
    command += ["--wall", str(tmp_path / "w.json"), "--zero", "105.0"]
    process = subprocess.Popen(command, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True)
    heard: queue.Queue = queue.Queue()
    gauge = Instrument(process.stdout.readline().strip(), heard.put)
    try:
        assert heard.get(timeout=PATIENCE_S).kind == kind
        gauge.place(4, 24.0, 90.0, False)
        gauge.read()
        read = heard.get(timeout=PATIENCE_S)
        process.stdin.write("press\n")
        process.stdin.flush()
        assert type(heard.get(timeout=PATIENCE_S)) is type(read)
        if kind == "two-point":
            assert read.part_c == 20.4 and 0.19 < read.from_zero_mm < 0.26
    finally:
        gauge.close()
        process.kill()
        process.wait()
        process.stdin.close()
        process.stdout.close()


def test_the_hone_strokes_all_the_way_and_feels_a_tight_place():
    from redline_bore.instruments.line_protocol import HoneLoad, parse_line
    from redline_bore.instruments.simulated.hone import SAMPLES_A_STROKE, HoneStandIn

    wall = tuple((10.0 * i, 100.0 - 0.02 * (i > 11)) for i in range(16))
    hone = HoneStandIn(70.0, 20.0, 10.0, 150.0, 45.0, 20.0, wall, random.Random(1), sd=0.0)
    assert hone.tick() == [] and hone.answer("hello") == ["hello hone %"]
    hone.press()
    found = [parse_line(hone.tick()[0]) for _ in range(SAMPLES_A_STROKE)]
    assert all(isinstance(m, HoneLoad) for m in found)
    uppers = [m.upper_mm for m in found]
    assert min(uppers) == pytest.approx(-20.0, abs=8.0) and max(uppers) == pytest.approx(90.0, abs=8.0)
    deep, high = max(found, key=lambda m: m.upper_mm), min(found, key=lambda m: m.upper_mm)
    assert deep.load > high.load + 1.0
    hone.press()
    assert hone.tick() == []
