"""One figure has one name, whatever page it stands on."""

import re
from collections import defaultdict

import pytest

from redline_bore.core.errors import BenchError
from redline_bore.core.show import Show
from redline_bore.job.card import FigureLine
from redline_bore.job.kinds.fold import fold
from tests.job.said.everything import JOBS, forecasts, pages

# equal by chance or because one is given as the other, and yet two things: where it ends and what its piston asks for,
# a name and what was measured, two ends of one hole, two ways to work a form
TWO_THINGS = (
    {
        "ends at",
        "redline by piston",
        "to size, in name",
        "redline, the mean",
        "piston at 20 °C",
        "ceiling, every place",
    },
    {"largest, clearance", "smallest, clearance"},
    {"across", "came out, 20 °C", "bore to"},
    {"out of round", "oval, on diameter"},
    {"roundness, least squares", "roundness, minimum zone"},
    {"ridge at the top", "wear of a level"},
    {"out of round, worst", "U of a size at 20 °C", "its bore closed by"},
)


def _figures(state, cylinder):
    for made in (pages, forecasts):
        try:
            for page in made(state, cylinder, Show(state.units)):
                try:
                    yield from page().figures
                except BenchError:
                    continue
        except BenchError:
            continue


def _said(label):
    """The name without the cylinder that it is of, in the degrees of a metric job."""
    return re.sub(r"^\d+ |(?<=piston) \d+", "", label).replace("68 °F", "20 °C")


def _told_twice(state, cylinder):
    by_value = defaultdict(set)
    for f in _figures(state, cylinder):
        if len(re.sub(r"[^1-9]", "", f.value)) >= 4:  # what would hardly be equal by chance
            by_value[f.value].add(_said(f.label))
    return {
        (value, tuple(sorted(names)))
        for value, names in by_value.items()
        if len(names) > 1 and not any(names <= two for two in TWO_THINGS)
    }


@pytest.mark.parametrize("number", JOBS)
def test_the_same_figure_has_the_same_name_on_every_page(ledger_of, shipped, number):
    ledger = list(ledger_of(number))
    found = set()
    for records in (ledger[: len(ledger) // 2], ledger):
        state = fold(records, shipped)
        for cylinder in state.cylinders:
            found |= _told_twice(state, cylinder)
    assert sorted(found) == []


@pytest.mark.parametrize(
    "lines, found",
    [
        ([("finish to it", "92.571"), ("redline by piston 2", "92.571")], 1),
        ([("ends at", "92.571"), ("redline by piston 2", "92.571")], 0),
        ([("1 clearance", "0.0691–0.0712"), ("2 clearance", "0.0691–0.0712")], 0),
        ([("taper", "0.001"), ("left", "0.001")], 0),
    ],
)
def test_what_the_test_looks_for_would_be_found(monkeypatch, lines, found):
    monkeypatch.setattr(f"{__name__}._figures", lambda state, c: [FigureLine(*line) for line in lines])
    assert len(_told_twice(None, 1)) == found
