"""A tag without a window: what it says of blanks that are left empty is what is booked of them."""

import pytest

from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.desk.tag import _leaves, phrases_of, tag_for
from redline_bore.job.kinds.forms import blanks_of, parsed
from redline_bore.job.kinds.phrase import At, Where
from redline_bore.job.proposals import StepProposals
from redline_bore.job.state.job_state import STEPS

LINES = [(step, kind, phrase) for step in STEPS for kind, phrase in phrases_of(step)]


def barely_filled(tag):
    """Only what cannot be left out, as in the example."""
    return {r.key: r.example for r in tag.shown({}) if not r.optional and r.example}


def alike(one, other):
    """Whether two entries say the same; figures as closely as they are written."""
    for (named, a), (_, b) in zip(_leaves(one), _leaves(other), strict=True):
        rows = [v if isinstance(v, tuple) else (v,) for v in (a, b)]
        for x, y in zip(*rows, strict=True):
            same = (
                x == pytest.approx(y, abs=6e-4, rel=6e-4) if isinstance(x, float) and isinstance(y, float) else x == y
            )
            if not same:
                return f"{named.told.name}: {x} and {y}"
    return ""


@pytest.mark.parametrize("units", list(Units))
@pytest.mark.parametrize("job", ["2041", "2044"])
def test_a_blank_that_is_left_empty_is_booked_as_it_says(ledger_of, state_of, job, units):
    records, state, told = ledger_of(job), state_of(job), set()
    at = At(state, Where(1, Place(0, 0), units), StepProposals(), "2026-11-24")
    for step, kind, phrase in LINES:
        tag = tag_for(kind, phrase, step, at, records, frozenset())
        filled = barely_filled(tag)
        said = tag.said(filled, at)
        if not said.taken:
            continue
        told.add(kind.name)
        assert {key for key, _ in said.taken} <= {b.key for b in blanks_of(parsed(phrase.form))} - set(filled)
        written = tag.said({**filled, **dict(said.taken)}, at)
        assert written.can and not written.taken, (written.line, written.words)
        for one, other in zip(said.entries, written.entries, strict=True):
            assert alike(one, other) == "", f"{said.line} | {written.line}: {alike(one, other)}"
    assert "hone_set" in told, told
