"""Figures are written as the trade says them, in both unit systems."""

import re

import pytest

from redline_bore.core.errors import BenchError
from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show, count_word, cylinders, every, listed
from redline_bore.job.kinds.book_in import RemarkLeft
from redline_bore.job.kinds.call import DecisionTaken
from redline_bore.job.kinds.kind import KINDS, entry_words
from redline_bore.job.kinds.phrase import At, Where
from redline_bore.job.profiles.practice import PRACTICE_TOPICS, PRACTICES, SHOP_DEFAULT, options, practice
from redline_bore.job.proposals import StepProposals
from redline_bore.job.sign_off.sheet import CUSTOMER, SHOP, sheet_of
from redline_bore.store.bench_html import bench_html
from redline_bore.store.sheet_html import sheet_html
from tests.job.said.everything import pages

OF_METRIC = re.compile(r"°C|\d C\b|\d (mm|µm|nm|kN|MPa|N m|m/min|kJ|cm³)(?![\w/])")
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


@pytest.mark.parametrize(
    "celsius, digits, metric, inch",
    [
        ((20.0,), 1, "20 °C", "68 °F"),
        ((22.3,), 1, "22.3 °C", "72.1 °F"),
        ((22.2222222,), 1, "22.2 °C", "72 °F"),
        ((-17.7777778,), 1, "−17.8 °C", "0 °F"),  # never −0
        ((-0.04,), 1, "0 °C", "31.9 °F"),
        ((-196.0,), 1, "−196 °C", "−320.8 °F"),
        ((156.6,), 0, "157 °C", "314 °F"),
        ((20.0, 24.0), 0, "20–24 °C", "68–75 °F"),
        ((-30.0, -20.0), 0, "−30 to −20 °C", "−22 to −4 °F"),
    ],
)
def test_a_temperature_follows_the_units(celsius, digits, metric, inch):
    assert MM.warm(*celsius, digits=digits) == metric and IN.warm(*celsius, digits=digits) == inch


def test_what_goes_with_a_temperature_follows_them_too():
    assert (MM.reference, IN.reference) == ("20 °C", "68 °F")
    assert (MM.warmer(2.5), IN.warmer(2.5)) == ("2.5 °C", "4.5 °F")  # a difference has no nought to start from
    assert (MM.warm_typed(20.4), IN.warm_typed(20.4)) == ("20.4 C", "69 F")
    assert (MM.growth(11.0), IN.growth(11.0)) == ("11 millionths a degree", "6.11 millionths a degree")
    assert IN.in_celsius(IN.in_degrees(34.0)) == pytest.approx(34.0) and MM.in_celsius(34.0) == 34.0


@pytest.mark.parametrize("number", ["2029", "2036", "2041", "2044", "2047"])
def test_an_inch_job_says_nothing_in_metric_units(number, state_of, ledger_of):
    for cylinder in state_of(number).cylinders:
        for page in pages(state_of(number), cylinder, IN):
            try:
                advice = page()
            except BenchError:
                continue
            assert not OF_METRIC.search(repr(advice)), page
    here = At(state_of(number), Where(1, Place(0, 0), Units.INCH), StepProposals())
    for kind in KINDS.values():
        for phrase in kind.phrases:
            assert not OF_METRIC.search(phrase.example(here)), phrase
    own_words = (DecisionTaken, RemarkLeft)  # kept as it was said
    told = [entry_words(r.entry, IN) for r in ledger_of(number) if not isinstance(r.entry, own_words)]
    assert not any(map(OF_METRIC.search, told))
    if state_of(number).units is Units.INCH:  # else the call stands on it as it was said
        sheets = [sheet_html(sheet_of(state_of(number)), IN, {}, audience) for audience in (SHOP, CUSTOMER)]
        assert not any(OF_METRIC.search(html) for html in sheets)
    assert not OF_METRIC.search(bench_html(state_of(number), 1, IN))


@pytest.mark.parametrize(
    "mm, nought, slight, doubt",
    [(0.0, True, "0.0000", "0.0001"), (0.0004, True, "+0.0004", "0.0004"), (-0.0004, True, "−0.0004", "0.0004"), (0.00004, True, "0.0000", "0.0001"),
     (0.0006, False, "+0.001", "0.001"), (-0.012, False, "−0.012", "0.012")],
)  # fmt: skip
def test_a_nought_is_said_to_a_digit_more(mm, nought, slight, doubt):
    assert MM.is_nought(mm) is nought and MM.slight(mm) == slight and MM.doubt(abs(mm)) == doubt
    assert IN.doubt(0.0) == "0.00001"


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
