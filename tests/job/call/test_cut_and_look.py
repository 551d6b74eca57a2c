"""A shadow that no reading settles: the hole that decides is bored first and looked at, and what is seen counts from then on."""

from types import SimpleNamespace

import pytest

from redline_bore.core.cleanup import CleanUp, Verdict
from redline_bore.core.errors import InputError
from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.call import asks
from redline_bore.job.call.asks import look_first, to_look_at
from redline_bore.job.call.ladder import hone_takes, ladder_of, seen
from redline_bore.job.call.walls import WallBound
from redline_bore.job.gauge.doubtful import doubt_in
from redline_bore.job.kinds.bore import BarSet, HoleBored, HoleLooked
from redline_bore.job.kinds.phrase import Where
from redline_bore.job.state.boring import Looked
from redline_bore.job.state.calling import Apart
from redline_bore.job.words.doubtful import asked_of
from tests.job.benches import after, but, one_typed
from tests.job.findings.test_call_finding import FITS, NEAR, NEEDS_MORE, NOT_READ, SHADOW, THIN, FakeLadder, column

NEAR_LARGER, THIN_LARGER = (column(8, walls=WallBound(80.55, most, ())) for most in (80.9, 80.7))
NEED = CleanUp(80.30, 80.40, 80.50, 3, True)
OPEN = CleanUp(80.30, 80.40, 80.50, 3, False)


@pytest.fixture
def state(monkeypatch):
    """A job as far as the rule asks of it; nothing is left to read."""
    monkeypatch.setattr(asks, "asks_at", lambda state, ladder, over, apart=(): ())
    monkeypatch.setattr(asks, "hones_out", lambda state: False)
    return SimpleNamespace()


def ladder(*columns, sure=0.75):
    made = FakeLadder(columns)
    made.smallest_sure = sure
    return made


@pytest.mark.parametrize(
    "columns, sure, wanted",
    [
        ((FITS, SHADOW), 0.75, (4,)),
        ((SHADOW,), 0.75, (4,)),
        ((SHADOW,), None, ()),  # nothing larger is sure: a cut that shows a shadow would leave no way on
        ((SHADOW,), 0.5, ()),
        ((SHADOW,), 0.25, ()),
        ((FITS,), 0.75, ()),
        ((FITS, NEEDS_MORE, SHADOW), 0.75, ()),  # one is known not to come out
        ((FITS, THIN, SHADOW), 0.75, ()),
        ((FITS, NOT_READ, SHADOW), 0.75, ()),  # a wall nobody read
        ((FITS, NEAR, SHADOW), 0.75, ()),  # a wall that may not stand here
        ((FITS, NEAR_LARGER, SHADOW), 0.75, (4,)),  # one that may not stand at the larger size: all the more
        ((FITS, THIN_LARGER, SHADOW), 0.75, ()),  # one that is known not to stand there
    ],
)
def test_when_a_cut_and_a_look_are_offered(state, columns, sure, wanted):
    assert look_first(state, ladder(*columns, sure=sure), 0.5) == wanted


def test_never_while_a_reading_would_settle_it_nor_by_the_hone_nor_with_some_apart(state, monkeypatch):
    assert look_first(state, ladder(FITS, SHADOW), 0.5, (Apart(cylinder=1, way="sleeve"),)) == ()
    monkeypatch.setattr(asks, "hones_out", lambda state: True)
    assert look_first(state, ladder(FITS, SHADOW), 0.5) == ()
    monkeypatch.setattr(asks, "hones_out", lambda state: False)
    monkeypatch.setattr(asks, "asks_at", lambda state, ladder, over, apart=(): ("sweep it",))
    assert look_first(state, ladder(FITS, SHADOW), 0.5) == ()


def looked(*looks, allowance=(0.06, 0.10)):
    found = tuple(Looked(10 + i, number, clean, size, size) for i, (number, clean, size) in enumerate(looks))
    figures = SimpleNamespace(number=lambda key: {"boring.least_cut": 0.025}[key])
    return SimpleNamespace(boring=SimpleNamespace(looks=found, allowance_mm=allowance), figures=figures)


@pytest.mark.parametrize(
    "looks, need, low, high, bound",
    [
        ((), NEED, 80.30, 80.50, True),
        (((1, True, 80.42),), NEED, 80.30, 80.42, True),
        (((1, True, 80.42),), OPEN, 80.30, 80.42, True),  # seen clean: nothing is feared any more
        (((1, True, 80.60),), NEED, 80.30, 80.50, True),
        (((1, True, 80.60),), OPEN, 80.30, 80.60, True),
        (((1, True, 80.25),), NEED, 80.25, 80.25, True),  # what is seen goes before what was reckoned
        (((1, True, 80.181),), NEED, 80.181, 80.181, True),
        (((1, True, 80.179),), NEED, 80.30, 80.50, True),  # and not before what was read, 80.20
        (((1, True, 80.10),), OPEN, 80.30, 80.50, False),
        (
            ((1, False, 80.34),),
            NEED,
            80.491,
            80.50,
            True,
        ),  # all that the hone takes, and what is too little for another cut
        (((1, False, 80.34),), OPEN, 80.491, 80.50, False),
        (((1, False, 80.46),), NEED, 80.611, 80.611, True),
        (((1, False, 80.10),), NEED, 80.30, 80.50, True),
        (((1, False, 80.30), (1, True, 80.47)), NEED, 80.451, 80.47, True),
        (((2, True, 80.42),), NEED, 80.30, 80.50, True),
    ],
)
def test_what_is_seen_bounds_what_it_may_need(looks, need, low, high, bound):
    found = seen(looked(*looks), 1, need, SimpleNamespace(size_mm=80.20))
    assert (found.low_mm, found.high_mm, found.is_bound) == (pytest.approx(low), pytest.approx(high), bound)
    assert found.low_mm <= found.usual_mm <= found.high_mm


def test_of_what_is_not_known_a_look_says_nothing():
    assert seen(looked((1, True, 80.4)), 1, None, None) is None


@pytest.mark.parametrize("found", ["clean", "shadow"])
def test_it_is_typed_only_of_a_hole_that_is_bored(ledger_of, shipped, found):
    state = after(ledger_of("2041"), shipped)
    state = but(state, boring={"holes": type(state.boring.holes)()})
    with pytest.raises(InputError, match="not bored yet"):
        one_typed("bore", f"look {found}", state, Where(2, Place(0, 0), Units.METRIC))
    bored = after(
        ledger_of("2041"), shipped,
        BarSet(insert="TPG 321", nose_radius_mm=0.4, rake="positive", feed_mm=0.08, rpm=900.0),
        HoleBored(cylinder=2, set_mm=105.4, sizes_mm=(105.41, 105.40, 105.42), across_mm=(105.405,)),
    )  # fmt: skip
    entry = one_typed("bore", f"look {found}", bored, Where(2, Place(0, 0), Units.METRIC))
    assert entry == HoleLooked(cylinder=2, found=found)
    with pytest.raises(InputError, match="clean, or shadow"):
        one_typed("bore", "look well", bored, Where(2, Place(0, 0), Units.METRIC))


def test_a_look_is_of_the_smallest_size_the_hole_had(ledger_of, shipped):
    state = after(
        ledger_of("2041"), shipped, HoleBored(cylinder=2, set_mm=105.4, sizes_mm=(105.41, 105.40, 105.42), across_mm=(105.395,)),
        HoleLooked(cylinder=2, found="clean"),
    )  # fmt: skip
    (look,) = state.boring.looks
    assert look.clean and look.size_mm == pytest.approx(105.395, abs=1e-6)
    column = ladder_of(state).columns[1]
    assert column.cleanup is not None and column.cleanup.high_mm <= 105.395 + 1e-6 and column.cleanup.is_bound
    assert column.cleanup.verdict(105.4) is Verdict.CLEANS_UP


def test_a_shadow_is_taken_to_be_deeper_than_what_the_hone_takes(ledger_of, shipped):
    state = after(
        ledger_of("2041"), shipped, HoleBored(cylinder=2, set_mm=105.4, sizes_mm=(105.41, 105.40, 105.42)), HoleLooked(cylinder=2, found="shadow")
    )  # fmt: skip
    most = hone_takes(state)[1]
    assert ladder_of(state).columns[1].cleanup.low_mm >= 105.40 + most - 1e-9


def test_nothing_is_to_be_looked_at_without_a_call(ledger_of, shipped):
    state = after(ledger_of("2041"), shipped)
    assert to_look_at(but(state, calling={"decision": None})) == ()


@pytest.mark.parametrize("size, asked", [(105.6, False), (105.0, True)])
def test_a_clean_look_at_a_hole_that_cannot_be_is_asked_once(ledger_of, shipped, size, asked):
    state = after(ledger_of("2041"), shipped, HoleBored(cylinder=2, set_mm=size, sizes_mm=(size, size, size)))
    told = asked_of(state, [HoleLooked(cylinder=2, found="clean")], Show(Units.METRIC))
    assert ("touched it all over" in told) is asked
    assert doubt_in(state, [HoleLooked(cylinder=2, found="shadow")], Units.METRIC) is None
