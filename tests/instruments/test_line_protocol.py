"""What instruments say is understood or refused; nothing is guessed, and no line is ever an exception."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from redline_bore.core.errors import InputError
from redline_bore.instruments.line_protocol import (
    Garbage,
    GaugeReading,
    Hello,
    LinePattern,
    LineReader,
    SweepReading,
    Temperature,
    Trouble,
    format_reading,
    format_sweep,
    parse_line,
)


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
        ("hello spindle mm", Hello),
        ("hello kettle mm", Garbage),
        ("trouble not rocked through", Trouble),
        ("trouble", Trouble),
        ("temperature block 22.9 C", Temperature),
        ("temperature block 73 F", Temperature),
        ("temperature block 900 C", Garbage),
        ("temperature kettle 90 C", Garbage),
        ("temperature block", Garbage),
        ("reading +0.2140", Garbage),  # no unit: nothing is guessed
        ("reading +0.2140 furlong", Garbage),
        ("reading +0.21 mm part", Garbage),  # a half line
        ("reading +0.21 mm part 900", Garbage),
        ("reading x mm", Garbage),
        ("sweep", Garbage),
        ("sweep begin 72", Garbage),
        ("sweep begin 99999 mm", Garbage),
        ("point 5", Garbage),
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
    LineReader().feed(line)
    assert LinePattern("two-point", "mm", "N {skip} {value}").read(line) is not None


def fed(*lines, reader=None):
    reader = reader or LineReader()
    return [m for line in lines if (m := reader.feed(line)) is not None]


CLOCKS, VALUES = (0.0, 90.0, 180.0, 270.0), (0.01, -0.02, 0.0, 0.005)


def test_a_sweep_is_one_reading():
    (found,) = fed(*format_sweep(CLOCKS, VALUES, 21.5))
    assert isinstance(found, SweepReading) and found.clock_deg == CLOCKS and found.part_c == 21.5
    assert found.from_zero_mm == pytest.approx(VALUES)


@pytest.mark.parametrize(
    "lines, reason",
    [
        (format_sweep(CLOCKS, VALUES, 20)[:3] + ["sweep end"], "2 of 4 points"),
        (format_sweep(CLOCKS, VALUES, 20)[1:3], "without the beginning"),
        (["sweep end"], "no beginning"),
        (format_sweep(CLOCKS, VALUES, 20)[:3] + ["reading +0.1 mm"], "broke off after 2"),
        (format_sweep(CLOCKS, VALUES, 20)[:3] + ["sweep begin 4 mm"], "cut off"),
        (["sweep begin 1 mm", "point 0.0 x", "sweep end"], "not a length"),
    ],
)
def test_a_sweep_that_lost_a_point_is_no_sweep(lines, reason):
    found = fed(*lines)
    assert found and all(isinstance(m, Garbage) for m in found) and reason in found[0].reason


def test_a_thermometer_may_speak_in_the_middle_of_a_sweep():
    lines = format_sweep(CLOCKS, VALUES, 20)
    found = fed(*lines[:2], "temperature block 21.0 C", *lines[2:])
    assert [type(m) for m in found] == [Temperature, SweepReading]


@pytest.mark.parametrize(
    "pattern, unit, line, value",
    [
        ("{value}", "mm", "+0.0125", 0.0125),
        ("{value}", "in", "-0.0005", -0.0127),
        ("N {skip} {value} {skip}", "mm", "N 007   +0.120 OK", 0.120),
        ("ID{skip},{value},{skip}", "mm", "ID7,0,214,mm", None),  # a decimal comma would be read two ways
        ("ID{skip},{value},{skip}", "mm", "ID7,0.214,mm", 0.214),
        ("{value} t{part}", "mm", "0.033 t24.5", 0.033),
    ],
)
def test_a_gauge_of_ones_own_is_read_by_its_pattern(pattern, unit, line, value):
    found = LinePattern("two-point", unit, pattern).read(line)
    if value is None:
        assert isinstance(found, Garbage) or found.from_zero_mm == pytest.approx(0.214)
    else:
        assert found.from_zero_mm == pytest.approx(value)
    assert LinePattern("two-point", "mm", "{value} t{part}").read("0.033 t24.5").part_c == 24.5


@pytest.mark.parametrize(
    "kind, unit, pattern, reason",
    [
        ("kettle", "mm", "{value}", "which gauge"),
        ("two-point", "furlong", "{value}", "which unit"),
        ("two-point", "mm", "reading", "once"),
        ("two-point", "mm", "{value} {value}", "once"),
        ("two-point", "mm", "{value} {colour}", "colour"),
    ],
)
def test_a_pattern_that_cannot_be_used_says_why(kind, unit, pattern, reason):
    with pytest.raises(InputError, match=reason):
        LinePattern(kind, unit, pattern)


def test_a_line_that_does_not_fit_the_pattern_is_no_reading():
    reader = LineReader(LinePattern("two-point", "mm", "N {value}"))
    assert isinstance(reader.feed("M 0.120"), Garbage) and isinstance(reader.feed("N 0.1"), GaugeReading)


def test_a_load_of_the_hone_is_its_place_and_its_load():
    from redline_bore.instruments.line_protocol import HoneLoad, format_load

    found = parse_line(format_load(-21.0, 23.4))
    assert isinstance(found, HoneLoad) and (found.upper_mm, found.load) == (-21.0, 23.4)
    assert parse_line("stroke -0.5 in load 12").upper_mm == pytest.approx(-12.7)


@pytest.mark.parametrize(
    "line",
    ["stroke", "stroke 12", "stroke 12 mm", "stroke 12 mm load", "stroke 12 mm load x", "stroke 12 cm load 3", "stroke 99999 mm load 3", "stroke 1 mm load 900", "stroke 1 mm load nan", "stroke 1 mm force 3"],
)  # fmt: skip
def test_a_load_that_is_none_is_garbage(line):
    assert isinstance(parse_line(line), Garbage)
