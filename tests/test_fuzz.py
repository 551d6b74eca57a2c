"""Every parser under a few hundred random mutations: a planned refusal or nothing. `make fuzz` gives them minutes."""

import pytest

from redline_bore.core.lengths import LengthError, Units, parse_length
from tools.fuzz.run import Count, held, mutated
from tools.fuzz.targets import TARGETS


@pytest.mark.parametrize("name", list(TARGETS))
def test_a_parser_refuses_by_name_or_takes(name):
    count = mutated(name, 150, 1)
    assert count.inputs >= 150
    assert not [
        f for f in count.faults if "s of CPU" not in f and " MB" not in f
    ]  # time and memory: make fuzz, on a quiet machine


@pytest.mark.parametrize("text", ["9" * 150, "9" * 5000, "1e9999", "0." + "1" * 300, "1000001"])
def test_a_length_longer_than_the_shop_is_refused(text):
    with pytest.raises(LengthError):
        parse_length(text, Units.METRIC)


def test_a_kilometre_is_the_longest_length():
    assert parse_length("1000000", Units.METRIC).mm == 1e6


@pytest.mark.parametrize("text", ["cold -74.. C", "cold ,. F", "cold -1.2.3 C"])
def test_a_temperature_that_is_none_is_refused(text):
    """Found by the campaign: two points in a figure."""
    found = Count()
    held("typed_sleeve", text.encode(), found)
    assert (found.refused, found.faults) == (1, [])
