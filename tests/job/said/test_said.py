"""What is said of the sample jobs along their ledgers, against what was said before: no sentence or figure changes unseen."""

import os

import pytest

from tests.job.said.everything import HERE, JOBS, UNITS_OF, of_the_kinds, said, widened
from tests.job.said.worked import SAID, STOPS, elsewhere, stories, worked

# where faults are tried by the hundred, two jobs have to do
ASKED = os.environ.get("REDLINE_SAID", " ".join(JOBS)).split()


@pytest.mark.parametrize("number", ASKED)
def test_everything_that_is_said_is_what_was_said(ledger_of, shipped, number):
    before = (HERE / f"{number}.txt").read_text("utf-8").splitlines()
    now = said(ledger_of(number), shipped)
    assert [x for x in now if x not in set(before)] == [], "said now and not before"
    assert [x for x in before if x not in set(now)] == [], "said before and not now"


@pytest.mark.parametrize(("number", "units"), [(n, u) for n, many in UNITS_OF.items() for u in many if n in ASKED])
def test_everything_that_is_said_once_every_line_was_typed(ledger_of, shipped, number, units):
    plain = set((HERE / f"{number}.txt").read_text("utf-8").splitlines())
    before = (HERE / f"{number}-{units.name.lower()}.txt").read_text("utf-8").splitlines()
    now = [x for x in said(widened(ledger_of(number), shipped, units), shipped, 1) if x not in plain]
    assert [x for x in now if x not in set(before)] == [], "said now and not before"
    assert [x for x in before if x not in set(now)] == [], "said before and not now"


def test_what_is_declared_of_the_kinds_is_what_was():
    assert of_the_kinds() == (HERE / "kinds.txt").read_text("utf-8").splitlines()


def test_blocks_worked_to_the_letter_are_told_as_they_were():
    before = (HERE / "stories.txt").read_text("utf-8").splitlines()
    assert stories() == before


@pytest.mark.parametrize("seed", SAID)
def test_everything_that_is_said_of_a_block_of_the_loop(shipped, seed):
    known = elsewhere()
    before = (HERE / f"block-{seed}.txt").read_text("utf-8").splitlines()
    now = [x for x in said(worked(seed)[1], shipped, STOPS) if x not in known]
    assert [x for x in now if x not in set(before)] == [], "said now and not before"
    assert [x for x in before if x not in set(now)] == [], "said before and not now"
