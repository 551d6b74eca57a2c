"""What is said holds no unit of the other system, and no name that only the program's own files know."""

import re

import pytest

from redline_bore.core.errors import BenchError
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.kinds.fold import fold
from tests.job.said.everything import HERE, JOBS, forecasts, lines_of, pages, widened

METRIC = re.compile(r"(?<![\w.])(mm|µm|um|MPa|kN|N m|m/min|cm³|mm³|nm|kJ)\b")
INCH = re.compile(r"(?<![\w.])(in³|µin|uin|psi|lbf|ft/min|BTU)\b|\d in down|\d in$")
# what a standard states in its own unit stays so
STANDARD = re.compile(r"ISO 21920|ISO 16610|Gaussian filter")
INTERNAL = re.compile(
    r"methods \d|\.toml|\b(?:crosshatch|honing|boring|sleeves|gauging|cleanup|limits|thermal|duty)\.[a-z_]+"
)


def _cards(state, show):
    for cylinder in state.cylinders:
        for made in (pages, forecasts):
            try:
                for page in made(state, cylinder, show):
                    try:
                        yield from lines_of(page())
                    except BenchError:
                        continue
            except BenchError:
                continue


@pytest.mark.parametrize(("number", "units"), [("2036", Units.INCH), ("2044", Units.INCH), ("2041", Units.METRIC)])
def test_a_job_shows_no_unit_of_the_other_system(ledger_of, shipped, number, units):
    ledger = list(ledger_of(number))
    foreign = METRIC if units is Units.INCH else INCH
    found = set()
    for records in (ledger[: len(ledger) // 2], ledger, widened(ledger, shipped, units)):
        state = fold(records, shipped)
        assert state.units is units
        found |= {x for x in _cards(state, Show(units)) if foreign.search(x) and not STANDARD.search(x)}
    assert sorted(found)[:20] == []


def test_what_the_test_looks_for_would_be_found():
    assert METRIC.search("at most 0.34 MPa") and METRIC.search("47 m/min") and not METRIC.search("0.0012 in")
    assert INCH.search("0.5 in down") and INTERNAL.search("25–35° is wanted, crosshatch.long_haul")


@pytest.mark.parametrize("number", JOBS)
def test_no_name_that_only_the_files_know_is_said(number):
    lines = (HERE / f"{number}.txt").read_text("utf-8").splitlines()
    assert [x for x in lines if INTERNAL.search(x)] == []
