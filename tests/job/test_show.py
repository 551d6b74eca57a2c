"""Figures are written as the trade says them, in both unit systems."""

import pytest

from redline_bore.core.lengths import Units
from redline_bore.core.show import Show, count_word, cylinders, every, listed
from redline_bore.job.profiles.practice import PRACTICE_TOPICS, PRACTICES, SHOP_DEFAULT, options, practice

MM, IN = Show(Units.METRIC), Show(Units.INCH)


@pytest.mark.parametrize(
    "how, mm, metric, inch",
    [
        ("size", 105.0004, "105.000", "4.1339"),
        ("away", -0.0125, "−0.012", "−0.0005"),
        ("step", 0.508, "+0.51", "+0.020"),
        ("rough", 92.254, "92.25", "3.632"),
        ("fine", 0.00123, "0.0012", "0.00005"),
        ("rate", 0.00072, "0.00072", "0.000028"),
        ("depth", 16.04, "16.0", "0.63"),
        ("down", 24.0, "24 mm down", "0.94 in down"),
        ("down", 24.5, "24.5 mm down", "0.96 in down"),
    ],
)
def test_each_way_of_writing(how, mm, metric, inch):
    assert getattr(MM, how)(mm) == metric and getattr(IN, how)(mm) == inch


def test_units_as_mark_and_word():
    assert MM.unit("0.10") == "0.10 mm" and (MM.words, IN.words) == ("millimetres", "inches")


def test_counts_and_lists_are_said():
    assert (every(1), every(2), every(5)) == ("it", "both", "all five")
    assert (listed([]), listed([4]), listed([1, 2, 5])) == ("", "4", "1, 2 and 5")
    assert (cylinders([4]), cylinders([1, 3])) == ("cylinder 4", "cylinders 1 and 3")
    assert count_word(16) == "16"


def test_every_practice_has_its_reason_and_a_default(shipped):
    for topic in PRACTICE_TOPICS:
        assert SHOP_DEFAULT[topic] in {p.name for p in options(topic)} and len(options(topic)) > 1
    for p in (way for ways in PRACTICES.values() for way in ways):
        assert p.reason and p.topic in PRACTICE_TOPICS
        if p.figures:
            assert len(shipped.row(p.figures)) == (len(p.steps) if p.topic == "honing" else 2)
    assert practice("honing", "a way nobody knows").name == SHOP_DEFAULT["honing"]


@pytest.mark.parametrize("units, mm, said", [
    (Units.INCH, 0.00381, "0.00015"), (Units.INCH, 0.0381, "0.0015"), (Units.METRIC, 0.05, "0.050"), (Units.METRIC, 0.0025, "0.0025"), (Units.METRIC, 0.0, "0.000"),
])  # fmt: skip
def test_a_target_keeps_the_last_digit_it_was_set_with(units, mm, said):
    assert Show(units).target(mm) == said
