"""What speaks at a port: speeds tried in turn, lines taken apart."""

import pytest

from redline_bore.core.errors import EnvironmentTrouble
from redline_bore.instruments.line_protocol import GaugeReading, LinePattern
from redline_bore.instruments.listening import LIKELIEST, HeardLine, listen_at, pattern_of, understood
from redline_bore.instruments.port import BAUDS


class Port:
    """A gauge at one speed: at any other what it sends is noise."""

    def __init__(self, right, line):
        self.right, self.line = right, line

    def __call__(self, port, baud, **_how):
        self.left = self.line if baud == self.right else bytes(b ^ 0x9C for b in self.line)
        return self

    def __enter__(self):
        return self

    def __exit__(self, *_):
        return None

    def reset_input_buffer(self):
        pass

    in_waiting = 0

    def read(self, count):
        found, self.left = self.left[:count], self.left[count:]
        return found


@pytest.mark.parametrize("right", BAUDS)
def test_the_speed_is_found_by_what_makes_sense(right):
    gauge = Port(right, b"reading +0.014 mm\r")
    heard = [listen_at("/dev/x", baud, lambda: False, 0.05, gauge) for baud in LIKELIEST]
    found = [h for h in heard if h is not None]
    assert found == [HeardLine(right, "reading +0.014 mm", "reading {value} mm", "mm")]
    assert sorted(LIKELIEST) == sorted(BAUDS)


def test_nothing_and_a_word_to_stop_end_it():
    assert listen_at("/dev/x", 9600, lambda: False, 0.05, Port(9600, b"")) is None
    assert listen_at("/dev/x", 9600, lambda: True, 60.0, Port(9600, b"+0.014\r\n")) is None
    with pytest.raises(EnvironmentTrouble, match="cannot be listened to"):
        listen_at("/dev/there_is_none", 9600, lambda: False, 0.1)


@pytest.mark.parametrize(
    "line, pattern, unit, value",
    [
        ("+0.0140", "{value}", "", 0.014), ("01A+00014.05", "01A{value}", "", 14.05), ("A 12 -0.5 in", "A {skip} {value} in", "in", -0.5), ("0.014mm", "{value}mm", "mm", 0.014),
        ("N:3 D=0.0120 OK", "{skip} D={value} OK", "", 0.012), ("7", "{value}", "", 7.0), ("no figure", None, None, None),
    ],
)  # fmt: skip
def test_a_line_is_taken_apart_and_its_pattern_reads_it_back(line, pattern, unit, value):
    found = pattern_of(line)
    assert found == (None if pattern is None else (pattern, unit))
    if pattern is not None:
        read = LinePattern("two-point", unit or "mm", pattern).read(line)
        assert isinstance(read, GaugeReading)
        assert read.from_zero_mm == pytest.approx(value * (25.4 if unit == "in" else 1.0))


@pytest.mark.parametrize("came", [b"", b"\r\n", b"\xf0\x9d\x81 0.5\r", b"hello\r\n"])
def test_noise_is_no_line(came):
    assert understood(came, 9600) is None
