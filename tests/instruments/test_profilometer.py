"""The profilometer's lines, whole and broken, and its stand-in over the serial protocol."""

import queue
import subprocess
import sys

import pytest
from hypothesis import given
from hypothesis import strategies as st

from redline_bore.core.texture.parameters import texture_of
from redline_bore.core.texture.profile import even_trace
from redline_bore.instruments.line_protocol import Garbage, Hello, LineReader, TraceReading, parse_line
from redline_bore.instruments.port import Instrument, Silent
from redline_bore.instruments.simulated.profilometer import ProfilometerStandIn
from redline_bore.instruments.simulated.true_texture import POINTS, STEP_UM, TrueTexture
from redline_bore.instruments.trace_lines import format_trace
from tests.patience import PATIENCE_S

WALL = TrueTexture(0.6, 2.0, 60.0, takes_um=0.015, fine_um=0.15)


def read(lines):
    reader = LineReader()
    return [m for line in lines if (m := reader.feed(line)) is not None]


@given(st.lists(st.floats(-500.0, 500.0), min_size=3, max_size=80))
def test_what_is_sent_is_heard(heights):
    (found,) = read(format_trace(0.5, heights))
    assert isinstance(found, TraceReading) and found.step_um == 0.5
    assert found.heights_um == pytest.approx(heights, abs=6e-4)


def test_nanometres_are_told_apart():
    (found,) = read(["trace begin 3 0.5 nm", "heights 100 200 300", "trace end"])
    assert found.heights_um == pytest.approx((0.1, 0.2, 0.3))


@pytest.mark.parametrize(
    "lines, reason",
    [
        (["trace begin 4 0.5 um", "heights 1 2 3", "trace end"], "3 of 4 heights"),
        (["trace begin 3 0.5 um", "heights 1 2 3 4"], "more heights than were announced"),
        (["trace begin 3 0.5 um", "heights 1 nan 3"], "broke off"),
        (["trace begin 3 0.5 um", "heights 1 x 3"], ""),
        (["heights 1 2 3"], ""),
        (["trace end"], ""),
        (["trace begin -3 0.5 um"], ""),
        (["trace begin 999999999 0.5 um"], "999999999 heights"),
        (["trace begin 3 nan um"], ""),
        (["trace begin 3 0.5 furlongs"], "um or nm"),
        (["trace begin 3 0.5"], ""),
    ],
)
def test_broken_traces_are_garbage_with_a_reason(lines, reason):
    found = read(lines)
    assert found and all(isinstance(m, Garbage) for m in found) and reason in found[-1].reason


def test_a_trace_begun_anew_drops_the_one_before():
    found = read(["trace begin 3 0.5 um", "heights 1 2", "trace begin 3 0.5 um", "heights 4 5 6", "trace end"])
    assert found[-1].heights_um == (4.0, 5.0, 6.0)


def test_the_same_place_is_the_same_wall_and_strokes_take_its_top():
    inside = ProfilometerStandIn((WALL,), 5)
    assert parse_line(inside.answer("hello")[0]) == Hello("profilometer", "um")
    (first,), (again,) = read(inside.answer("read")), read(inside.answer("read"))
    assert first == again and len(first.heights_um) == POINTS
    inside.answer("had 12")
    (after,) = read(inside.answer("read"))
    inside.answer("at 1 90 0 off")
    (elsewhere,) = read(inside.answer("read"))
    assert elsewhere.heights_um != after.heights_um
    before, later = (texture_of(even_trace(STEP_UM, m.heights_um)).family for m in (first, after))
    assert later.Rpk < before.Rpk and later.Rk < before.Rk and later.Rvk == pytest.approx(before.Rvk, rel=0.3)


@pytest.mark.parametrize("line", ["at x 1 0 off", "had many"])
def test_what_it_does_not_understand_it_says(line):
    assert ProfilometerStandIn((WALL,), 5).answer(line) == ["trouble place not understood"]


def test_no_such_cylinder_is_trouble():
    inside = ProfilometerStandIn((WALL,), 5)
    inside.answer("at 3 10 0 off")
    assert inside.answer("read") == ["trouble no cylinder 3 here"] and inside.answer("sing") == []


@pytest.mark.parametrize("text", ["{}", "[]", '{"walls": [{"x": 1}], "seed": 1}', '{"walls": 3, "seed": 1}'])
def test_a_wall_that_is_none_is_refused(text):
    with pytest.raises((ValueError, KeyError, TypeError)):
        ProfilometerStandIn.from_json(text)


def test_the_stand_in_traces_over_its_port(tmp_path):
    path = tmp_path / "w.json"
    path.write_text(ProfilometerStandIn((WALL,), 5).to_json())
    command = [
        sys.executable,
        "-m",
        "redline_bore.instruments.simulated",
        "--kind",
        "profilometer",
        "--wall",
        str(path),
    ]
    process = subprocess.Popen(command, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True)
    heard: queue.Queue = queue.Queue()
    port = Instrument(process.stdout.readline().strip(), heard.put)
    try:
        assert heard.get(timeout=PATIENCE_S).kind == "profilometer"
        port.place(1, 10.0, 0.0, False)
        port.wall_has_had(12.0)
        port.read()
        found = heard.get(timeout=PATIENCE_S)
        while isinstance(found, Silent):  # said while a slow machine is still at it
            found = heard.get(timeout=PATIENCE_S)
        assert isinstance(found, TraceReading) and len(found.heights_um) == POINTS
    finally:
        port.close()
        process.kill()
        process.wait()
        process.stdin.close()
        process.stdout.close()
