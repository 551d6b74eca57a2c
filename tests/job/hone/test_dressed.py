"""Stones that were dressed cut afresh: no bite is planned at the rate they had come to."""

import pytest

from redline_bore.core.stroke_track import Seen, TrackRules, begun, followed, renewed
from redline_bore.job.calls import hone_call
from redline_bore.job.hone.finding import HoneCall
from redline_bore.job.hone.track import tracked_of
from redline_bore.job.kinds.call import DecisionTaken, PistonMeasured
from redline_bore.job.kinds.hone import CheckLogged, HoneSet, HoneStepBegan, StonesDressed
from tests.job.benches import after, longer

RULES = TrackRules(0.06, 0.13, 0.18, 3.3, 1.35)


@pytest.fixture
def glazed(ledger_of):
    """2029 honed from 92.20 by stones that took 0.4 um a stroke, then hardly any: 40 um to go."""
    book = ledger_of("2029")
    first = next(
        (i for i, r in enumerate(book) if isinstance(r.entry, (CheckLogged, HoneStepBegan, HoneSet))), len(book)
    )
    checks = [(0, 92.200), (60, 92.224), (160, 92.236), (300, 92.2410), (450, 92.2414), (600, 92.2416)]
    return longer(
        book[:first], DecisionTaken(oversize_mm=0.25, sentence="x"), PistonMeasured(cylinder=1, size_mm=92.245, piston_c=20.0),
        *[CheckLogged(cylinder=1, strokes=float(n), sizes_mm=(s,) * 3, across_mm=(s,) * 3) for n, s in checks],
    )  # fmt: skip


def test_no_metal_is_told_and_the_bite_after_it_is_that_of_fresh_stones(glazed, shipped):
    state = after(glazed, shipped)
    found = hone_call(state, 1)
    assert found.call is HoneCall.NO_METAL
    tracked = tracked_of(state, 1)
    assert tracked.track.rate_mm >= tracked.expected_mm and found.bite * 4.0 * tracked.expected_mm < 0.05


@pytest.mark.parametrize("dressed", [True, False])
def test_once_dressed_no_bite_rests_on_what_the_stones_had_come_to(glazed, shipped, dressed):
    """Also where nobody booked it: it was told."""
    more = [StonesDressed()] if dressed else []
    state = after(glazed, shipped, *more)
    found = hone_call(state, 1)
    assert found.call is (HoneCall.FIRST_BITE if dressed else HoneCall.NO_METAL)
    a_little = CheckLogged(cylinder=1, strokes=600.0 + found.bite, sizes_mm=(92.2430,) * 3, across_mm=(92.2430,) * 3)
    tracked = tracked_of(after(glazed, shipped, *more, a_little), 1)
    assert tracked.track.rate_mm > 10.0 * (0.0006 / 300.0)


def test_a_dressing_between_two_checks_resets_the_rate():
    seen = [
        Seen(0.0, 80.0, 1e-8),
        Seen(100.0, 80.02, 1e-8),
        Seen(300.0, 80.022, 1e-8),
        Seen(310.0, 80.0245, 1e-8, fresh=True),
    ]
    dull = [*seen[:3], Seen(310.0, 80.0245, 1e-8)]
    with_it, without = followed(seen, 0.0003, 0.6, RULES), followed(dull, 0.0003, 0.6, RULES)
    assert with_it.rate_mm == pytest.approx(0.00025, rel=0.2) and without.rate_mm < 0.8 * with_it.rate_mm


@pytest.mark.parametrize("was, first, rate", [(0.0001, 0.0003, 0.0003), (0.0005, 0.0003, 0.0005)])
def test_fresh_stones_take_what_was_expected_or_what_they_took_whichever_is_more(was, first, rate):
    found = renewed(begun(80.0, 1e-8, was, 0.1), first, 0.6)
    assert found.rate_mm == rate and found.rate_log_sd == pytest.approx(0.6) and found.mean_mm == 80.0
