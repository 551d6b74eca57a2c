"""A ring typed off a dial on the spindle is the sweep that an indicator would have sent."""

import math

import pytest

from redline_bore.core.errors import InputError
from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.phrase import Where
from tests.job.benches import after, one_typed


def typed(state, text, units=Units.METRIC):
    return one_typed("gauge", text, state, Where(1, Place(0, 0), units))


@pytest.fixture
def spindled(ledger_of, shipped):
    book = ledger_of("2047")
    return after(book, shipped, typed(fold(book, shipped), "spindle mains 39"))


@pytest.mark.parametrize("text", ["dial 40: {}", "dial 40 {}", "DIAL 40: {}"])
def test_a_ring_off_a_dial_says_where_the_hole_stands(spindled, text):
    away = [0.02 * math.cos(math.radians(45.0 * i)) for i in range(8)]
    sweep = typed(spindled, text.format(" ".join(f"{a:+.4f}" for a in away)))
    assert sweep.depth_mm == 40.0 and sweep.clock_deg == tuple(45.0 * i for i in range(8))
    assert sweep.radius_mm == pytest.approx([39.0 + a for a in away], abs=1e-4)


def test_an_inch_dial_is_read_in_inches(spindled):
    sweep = typed(spindled, "dial 1.5: 0 0.001 0.002 0.001 0 -0.001 -0.002 -0.001", Units.INCH)
    assert sweep.depth_mm == pytest.approx(38.1) and sweep.radius_mm[2] - sweep.radius_mm[6] == pytest.approx(
        0.004 * 25.4
    )


@pytest.mark.parametrize("text, why", [
    ("dial 40: 0 0.01 0.02", "8 figures or more at even angles"), ("dial", "8 figures or more"), ("dial 400: 0 0 0 0 0 0 0 0", "not in a cylinder"),
    ("dial 40: 0 0 0 0 0 0 0 6", "A dial goes no such way"), ("dial 40: 0 0 0 0 0 0 0 x", "no place there"),
])  # fmt: skip
def test_what_is_no_ring_is_refused(spindled, text, why):
    with pytest.raises(InputError, match=why):
        typed(spindled, text)


def test_without_a_spindle_there_is_no_ring(ledger_of, shipped):
    with pytest.raises(InputError, match="Say first that the spindle stands over cylinder 1"):
        typed(fold(ledger_of("2047"), shipped), "dial 40: 0 0 0 0 0 0 0 0")
