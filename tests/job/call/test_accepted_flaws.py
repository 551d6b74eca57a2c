"""A flaw may stay where nothing is cut, once the owner accepted it by name; a crack never, and a cut counts it still."""

import pytest

from redline_bore.core.errors import InputError
from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.job.call.ladder import ladder_of
from redline_bore.job.call.light_options import light_options
from redline_bore.job.call.option import NO
from redline_bore.job.call.reason import Measure, Reason, Why
from redline_bore.job.kinds.defects import DefectMarked
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.gauge import ReadingBooked
from redline_bore.job.kinds.phrase import Where
from tests.job.benches import longer, one_typed


def flaw(what="rust", deep=0.3):
    return DefectMarked(
        cylinder=1,
        what=what,
        top_mm=60.0,
        bottom_mm=70.0,
        clock_deg=90.0,
        width_deg=40.0,
        deep_low_mm=deep,
        deep_high_mm=deep,
    )


@pytest.fixture
def sound(ledger_of):
    """2047 read round and straight, and marked in cylinder 1."""
    readings = [
        ReadingBooked(cylinder=1, depth_mm=d, clock_deg=c, diameter_mm=78.005 + 0.01 * (d < 90), plate_on=False)
        for d in (15.0, 40.0, 70.0, 106.0) for c in (0.0, 45.0, 90.0, 135.0)
    ]  # fmt: skip
    return lambda *flaws: longer(ledger_of("2047"), *readings, *flaws)


def typed(state, text, step="gauge"):
    return one_typed(step, text, state, Where(1, Place(0, 0), Units.METRIC))


def deglaze(book, shipped):
    state = fold(book, shipped)
    return next(o for o in light_options(state, ladder_of(state)) if o.key == "deglaze")


@pytest.mark.parametrize("step", ["gauge", "call"])
def test_a_marked_cylinder_may_be_ball_honed_once_it_is_accepted_by_name(sound, shipped, step):
    book = sound(flaw("pit"))
    before = deglaze(book, shipped)
    assert before.standing is NO and [(n.what, n.cylinder) for n in before.needs] == [(Measure.OWNER_ACCEPTS, 1)]
    entries = [
        typed(fold(book, shipped), f"accept {d.what} the owner knows", step)
        for d in fold(book, shipped).gauging.defects_of(1)
    ]
    after = deglaze(longer(book, *entries), shipped)
    assert after.standing is not NO and Reason(Why.FLAW_STAYS, (1,), named=("pit", "the owner knows")) in after.reasons
    leave = next(
        o
        for o in light_options(fold(longer(book, *entries), shipped), ladder_of(fold(longer(book, *entries), shipped)))
        if o.key == "leave"
    )
    assert leave.standing is NO  # what is not even deglazed is not given back with a pit


@pytest.mark.parametrize("text, why", [
    ("accept", "by its name, and why"), ("accept pit", "by its name, and why"), ("accept score the owner knows", "No score is marked"),
    ("accept crack the owner knows", "not accepted: pressure-test it"),
])  # fmt: skip
def test_what_cannot_be_accepted_is_told(sound, shipped, text, why):
    with pytest.raises(InputError, match=why):
        typed(fold(sound(flaw("crack")), shipped), text)


def test_a_cut_still_counts_an_accepted_flaw(sound, shipped):
    book = sound(flaw("pit"))
    taken = longer(book, typed(fold(book, shipped), "accept pit the owner knows"))
    before, after = (ladder_of(fold(b, shipped)).columns[0].cleanup for b in (book, taken))
    assert before.high_mm == after.high_mm
