"""What is said of the sample jobs along their ledgers, against what was said before: no sentence or figure changes unseen."""

import pytest

from tests.job.said.everything import HERE, JOBS, said


@pytest.mark.parametrize("number", JOBS)
def test_everything_that_is_said_is_what_was_said(ledger_of, shipped, number):
    before = (HERE / f"{number}.txt").read_text("utf-8").splitlines()
    now = said(ledger_of(number), shipped)
    assert [x for x in now if x not in set(before)] == [], "said now and not before"
    assert [x for x in before if x not in set(now)] == [], "said before and not now"
