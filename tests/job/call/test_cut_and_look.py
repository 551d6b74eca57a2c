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
from redline_bore.job.call.ladder import ladder_of, seen
from redline_bore.job.gauge.doubtful import doubt_in
from redline_bore.job.kinds.bore import BarSet, HoleBored, HoleLooked
from redline_bore.job.kinds.phrase import Where
from redline_bore.job.state.boring import Looked
from redline_bore.job.state.calling import Apart
from redline_bore.job.words.doubtful import asked_of
from tests.job.benches import after, but, one_typed
from tests.job.findings.test_call_finding import FITS, NEAR, NEEDS_MORE, NOT_READ, SHADOW, THIN, FakeLadder, column

NEED = CleanUp(80.30, 80.40, 80.50, 3, True)
OPEN = CleanUp(80.30, 80.40, 80.50, 3, False)


@pytest.fixture
def state(monkeypatch, shipped):
    """A job as far as the rule asks of it; chances: of each cylinder."""
    monkeypatch.setattr(asks, "hones_out", lambda state: False)
    made = SimpleNamespace(chances={}, figures=shipped)
    monkeypatch.setattr(asks, "chance_in", lambda state, c, over, apart: made.chances.get(c, 0.5))
    return made


MORE = column(9, high=80.6)


@pytest.mark.parametrize(
    "columns, chances, wanted",
    [
        ((FITS, SHADOW), {4: 0.5}, (4,)),
        ((FITS, SHADOW), {4: 0.9799}, (4,)),
        ((FITS, SHADOW), {4: 0.98}, ()),  # so likely that no look pays
        ((SHADOW, MORE), {4: 0.6, 9: 0.3}, (9, 4)),  # the likeliest to fail first
        ((MORE, SHADOW), {4: 0.3, 9: 0.6}, (4, 9)),
        ((SHADOW, MORE), {4: None, 9: 0.3}, ()),  # of one too little is known
        ((FITS,), {}, ()),  # proven
        ((FITS, NEEDS_MORE, SHADOW), {4: 0.5}, ()),  # one is known not to come out
        ((FITS, THIN, SHADOW), {4: 0.5}, ()),
        ((FITS, NOT_READ, SHADOW), {4: 0.5}, (4,)),  # a wall nobody read is unknown, and stops no look
        ((FITS, NEAR, SHADOW), {4: 0.5}, (4,)),
    ],
)
def test_which_holes_are_looked_into_once_bored(state, columns, chances, wanted):
    state.chances = chances
    assert look_first(state, FakeLadder(columns), 0.5) == wanted


def test_no_look_where_nothing_is_bored_and_none_into_a_sleeve(state, monkeypatch):
    sleeved = FakeLadder((FITS, SHADOW))
    assert look_first(state, sleeved, 0.5, (Apart(cylinder=4, way="sleeve"),)) == ()
    assert look_first(state, sleeved, 0.5, (Apart(cylinder=1, way="sleeve"),)) == (4,)
    monkeypatch.setattr(asks, "hones_out", lambda state: True)
    assert look_first(state, FakeLadder((FITS, SHADOW)), 0.5) == ()


def looked(*looks, allowance=(0.06, 0.10)):
    found = tuple(
        Looked(10 + i, number, clean, size, size, deep_mm=deep[0] if deep else None)
        for i, (number, clean, size, *deep) in enumerate(looks)
    )
    figures = SimpleNamespace(number=lambda key: {"cleanup.patch_doubt": 0.010}[key])
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
        (((1, False, 80.34),), NEED, 80.34, 80.50, True),  # a patch is no verdict: it needs more than it was bored to
        (((1, False, 80.34),), OPEN, 80.34, 80.50, False),
        (((1, False, 80.56),), NEED, 80.56, 80.56, True),
        (((1, False, 80.10),), NEED, 80.30, 80.50, True),
        (((1, False, 80.30), (1, True, 80.47)), NEED, 80.30, 80.47, True),
        (((1, False, 80.34, 0.03),), NEED, 80.39, 80.50, False),  # gauged: twice its depth more, and its doubt
        (((1, False, 80.34, 0.10),), NEED, 80.53, 80.55, False),
        (((1, False, 80.34, 0.10), (1, False, 80.34, 0.02)), NEED, 80.53, 80.55, False),  # the deepest of them decides
        (((1, False, 80.34, 0.10), (1, False, 80.60)), NEED, 80.60, 80.60, True),  # cut since
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


def test_a_patch_is_typed_with_its_place_and_depth(ledger_of, shipped):
    hole = HoleBored(cylinder=2, set_mm=105.4, sizes_mm=(105.41, 105.40, 105.42))
    state = after(ledger_of("2041"), shipped, hole)
    at = Where(2, Place(0, 0), Units.METRIC)
    typed = one_typed("bore", "look shadow at 30 240 deep 0.02", state, at)
    assert typed == HoleLooked(cylinder=2, found="shadow", depth_mm=30.0, clock_deg=240.0, deep_mm=0.02)
    assert one_typed("bore", "look shadow deep 0.02", state, at) == HoleLooked(cylinder=2, found="shadow", deep_mm=0.02)
    with pytest.raises(InputError, match="a hole in the wall"):
        one_typed("bore", "look shadow deep 1.2", state, at)
    column = ladder_of(after(ledger_of("2041"), shipped, hole, typed)).columns[1]
    assert column.cleanup.low_mm == pytest.approx(105.40 + 0.04 - 0.010) and not column.cleanup.is_bound


def test_nothing_is_to_be_looked_at_without_a_call(ledger_of, shipped):
    state = after(ledger_of("2041"), shipped)
    assert to_look_at(but(state, calling={"decision": None})) == ()


@pytest.mark.parametrize("size, asked", [(105.6, False), (105.0, True)])
def test_a_clean_look_at_a_hole_that_cannot_be_is_asked_once(ledger_of, shipped, size, asked):
    state = after(ledger_of("2041"), shipped, HoleBored(cylinder=2, set_mm=size, sizes_mm=(size, size, size)))
    told = asked_of(state, [HoleLooked(cylinder=2, found="clean")], Show(Units.METRIC))
    assert ("touched it all over" in told) is asked
    assert doubt_in(state, [HoleLooked(cylinder=2, found="shadow")], Units.METRIC) is None
