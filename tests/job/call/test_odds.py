"""Decided by what it costs to be wrong: from which chance on a size is named, which way leads, what is asked before metal and left out."""

from types import SimpleNamespace as Some

import pytest

from redline_bore.core.errors import InputError
from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.call import asks, odds, walls, ways_there
from redline_bore.job.call.asks import Ask, AskFor, asks_at
from redline_bore.job.call.finding import judge
from redline_bore.job.call.ladder import ladder_of
from redline_bore.job.call.odds import (
    Likely,
    chance_at,
    chance_in,
    likeliest_to_fail,
    likely,
    needed_chance,
    odds_of,
    worth_taking,
)
from redline_bore.job.call.ways_there import Road
from redline_bore.job.kinds.call import AskLeft
from redline_bore.job.kinds.phrase import Where
from redline_bore.job.words import call as call_words
from tests.job.benches import after, one_typed, settled

MM = Show(Units.METRIC)


@pytest.mark.parametrize(
    "chance, said",
    [
        (1.0, Likely.WILL), (0.98, Likely.WILL), (0.9799, Likely.NINETEEN), (0.93, Likely.NINETEEN), (0.9299, Likely.NINE), (0.85, Likely.NINE),
        (0.8499, Likely.EIGHT), (0.75, Likely.EIGHT), (0.7499, Likely.MAY), (0.005, Likely.MAY), (0.0049, Likely.NO), (0.0, Likely.NO),
    ],
)  # fmt: skip
def test_what_is_said_of_a_chance_is_rounded_down(chance, said):
    assert likely(chance) is said


def look(clean, deep=None, cylinder=1):
    return Some(cylinder=cylinder, clean=clean, deep_mm=deep)


@pytest.mark.parametrize(
    "looks, first, wanted",
    [
        ((), False, 0.30), ((), True, 0.60), ((look(True),), False, 0.60), ((look(False),), False, 0.60), ((look(False), look(False, 0.02)), False, 0.80),
        ((look(False, 0.02), look(True)), False, 0.60), ((look(False, 0.02, 2),), False, 0.30), ((look(False, 0.02),), True, 0.80),
    ],
)  # fmt: skip
def test_how_likely_a_hole_has_to_be_by_what_was_seen_in_it(shipped, looks, first, wanted):
    assert needed_chance(Some(boring=Some(looks=looks), figures=shipped), 1, first) == wanted
    assert needed_chance(Some(boring=Some(looks=looks), figures=shipped), 1, first, last=True) == 0.05


@pytest.mark.parametrize(
    "first, block, each, wanted",
    [
        (False, 0.30, {1: 0.5, 2: 0.6}, True), (False, 0.29, {1: 0.5, 2: 0.6}, False), (True, 0.60, {1: 0.8, 2: 0.7}, True), (True, 0.59, {1: 0.8, 2: 0.7}, False),
        (False, 0.30, {1: 0.29, 2: 1.0}, False), (False, None, {1: 0.9, 2: 0.9}, False),
    ],
)  # fmt: skip
def test_a_size_is_worth_it_by_all_and_by_every_cylinder(monkeypatch, shipped, first, block, each, wanted):
    monkeypatch.setattr(odds, "chance_at", lambda state, over, apart=(): block)
    monkeypatch.setattr(odds, "chance_in", lambda state, c, over, apart=(): each[c])
    monkeypatch.setattr(odds, "pistons_first", lambda state, ladder, over: first)
    monkeypatch.setattr(odds, "is_last", lambda ladder, over, apart: False)
    fates = [Some(cylinder=c, sleeved=False, sound=False) for c in each]
    state, ladder = Some(boring=Some(looks=()), figures=shipped), Some(fates=lambda over, apart=(): fates)
    assert worth_taking(state, ladder, 0.5) is wanted
    monkeypatch.setattr(odds, "is_last", lambda ladder, over, apart: True)  # no larger size: the cut alone tells
    assert worth_taking(state, ladder, 0.5) is (block is not None)


@pytest.mark.parametrize("possible, last", [((0.25, 0.5, 0.75), False), ((0.25, 0.5), True), ((), True)])
def test_the_last_size_is_the_one_with_none_above_it_that_may_do(possible, last):
    ladder = Some(rungs_mm=(0.25, 0.5, 0.75), possible=lambda over, apart: over in possible)
    assert odds.is_last(ladder, 0.5) is last


@pytest.mark.parametrize(
    "p, first, worth, asked, wanted",
    [
        (0.9, False, True, (), [Road.LOOK, Road.GO_ON, Road.NEXT]),  # 1 + 3, 9, 59
        (0.3, False, True, (), [Road.NEXT, Road.LOOK, Road.GO_ON]),  # 20, 23, 64
        (0.5, False, True, (AskFor.MARK,), [Road.MEASURE, Road.LOOK, Road.NEXT, Road.GO_ON]),  # 5, 17, 33, 46
        (0.95, True, True, (AskFor.SWEEP,), [Road.GO_ON, Road.LOOK, Road.MEASURE, Road.NEXT]),  # 5, 6, 17, 63
        (0.9, False, False, (), [Road.NEXT, Road.LOOK, Road.GO_ON]),  # what was seen in a hole speaks against it
    ],
)  # fmt: skip
def test_the_cheapest_way_leads(monkeypatch, shipped, p, first, worth, asked, wanted):
    ladder = Some(sure=lambda over, apart: False, rungs_mm=(0.25, 0.5, 0.75), possible=lambda over, apart: True)
    monkeypatch.setattr(ways_there, "ladder_of", lambda state: ladder)
    monkeypatch.setattr(ways_there, "chance_at", lambda state, over, apart: p if over == 0.5 else 1.0)
    monkeypatch.setattr(ways_there, "hones_out", lambda state: False)
    monkeypatch.setattr(ways_there, "pistons_first", lambda state, ladder, over: first)
    monkeypatch.setattr(ways_there, "worth_taking", lambda state, ladder, over, apart: worth)
    monkeypatch.setattr(ways_there, "look_first", lambda state, ladder, over, apart: (2,))
    monkeypatch.setattr(ways_there, "asks_at", lambda state, ladder, over, apart: tuple(Ask(a, 2) for a in asked))
    found = ways_there.ways_there(Some(figures=shipped), 0.5)
    assert [w.way for w in found] == wanted
    assert all(w.oversize_mm == 0.75 for w in found if w.way is Road.NEXT)


def test_of_a_block_that_is_read_the_chances_grow_with_the_size_and_what_is_proven_needs_none(
    state_of, ledger_of, shipped
):
    state = state_of("2041")
    chances = [chance_at(state, over) for over in (0.25, 0.5, 0.75, 1.0)]
    assert chances[0] == 0.0 and chances == sorted(chances) and chances[-1] == 1.0
    assert likeliest_to_fail(state, 0.5) == 4 and chance_in(state, 2, 0.5) == 1.0
    assert chance_at(state, 0.5) <= chance_in(state, 4, 0.5) < 0.9
    assert not odds_of(state_of("2044")).told_in_figures
    proven = after(settled(ledger_of("2041"), shipped), shipped)
    assert odds_of(proven).told_in_figures and likeliest_to_fail(proven, 0.5) is None


def test_what_is_left_out_by_name_is_not_asked_again_and_its_risk_stands_on_the_card(ledger_of, shipped, monkeypatch):
    state = after(ledger_of("2041"), shipped)
    at = Where(1, Place(0, 0), Units.METRIC)
    typed = one_typed("call", "leave out wall again 2", state, at)
    assert typed == AskLeft(cylinder=2, what="wall_again")
    assert one_typed("call", "leave out flaw", state, at) == AskLeft(cylinder=1, what="mark")
    with pytest.raises(InputError, match="no cylinder 9"):
        one_typed("call", "leave out wall 9", state, at)
    asked = {a.cylinder for a in asks_at(state, ladder_of(state), 1.5) if a.what is AskFor.WALL_AGAIN}
    assert 2 in asked
    left = after(ledger_of("2041"), shipped, typed)
    assert {a.cylinder for a in asks_at(left, ladder_of(left), 1.5) if a.what is AskFor.WALL_AGAIN} == asked - {2}
    told = " ".join(call_words.advise(left, 2, 1.5, MM).changes)
    assert "Left out, cylinder 2: wall again; the risk: a wall that is too thin is found by the owner." in told
    assert "leave out wall again 1 leaves it" in told and " min: " in told


# -- walls: unknown, said, and asked for only where reading pays ------------------------------------------------------


@pytest.mark.parametrize(
    "duty, liner, over, cylinder, wanted",
    [
        ("everyday", False, 0.75, 1, False), ("everyday", False, 1.5, 1, False), ("everyday", False, 1.6, 1, True), ("performance", False, 0.25, 1, True),
        ("performance", False, 0.25, 2, False), ("performance", False, 0.25, 4, True), ("everyday", True, 0.25, 4, True), ("everyday", True, 0.25, 3, False),
    ],
)  # fmt: skip
def test_whose_wall_is_asked_for(monkeypatch, shipped, duty, liner, over, cylinder, wanted):
    monkeypatch.setattr(walls, "_close", lambda state, c, size: False)
    monkeypatch.setattr(walls, "has_liner", lambda state: liner)
    monkeypatch.setattr(walls, "end_cylinders", lambda state: (1, 4))
    state = Some(
        cylinders=(1, 2, 3, 4),
        book_in=Some(duty=duty, oversizes_mm=(0.5, 1.5)),
        block=Some(bore_mm=92.0),
        figures=shipped,
    )
    assert walls.wall_asked(state, cylinder, 92.0 + over) is wanted
    monkeypatch.setattr(walls, "_close", lambda state, c, size: c == 2)
    assert walls.wall_asked(state, cylinder, 92.0 + over)  # one stands close: all are read


@pytest.mark.parametrize("wall, close", [(4.24, False), (4.26, False), (4.24 - 0.0, False), (4.19, True), (3.5, True)])
def test_a_place_that_stands_close_to_its_limit_after_the_cut(monkeypatch, shipped, wall, close):
    monkeypatch.setattr(walls, "shape_of", lambda state, c: Some(mean_mm=92.0))
    monkeypatch.setattr(
        walls, "walls_as_gauged", lambda state, c: (Some(wall_mm=wall, zone="thrust", clock_deg=90.0, through=""),)
    )
    monkeypatch.setattr(walls, "wall_limits", lambda state, through: {"thrust": 3.8})
    assert walls._close(Some(figures=shipped), 1, 92.4) is close  # 0.2 a side goes, and 0.2 over the limit is close


def test_the_ends_of_every_bank_and_four_places_at_one_depth(state_of):
    assert walls.end_cylinders(state_of("2041")) == (1, 5) and walls.end_cylinders(state_of("2029")) == (1, 2, 3, 4)
    assert (
        len(walls.four_places(state_of("2047"), 1)) == 4
        and len({p.depth_mm for p in walls.four_places(state_of("2047"), 1)}) == 1
    )


def test_a_first_skim_of_a_casting_asks_for_no_wall(state_of, shipped):
    found = judge(state_of("2047"), 0.25)
    assert not any(a.what is AskFor.WALL for a in found.asks)
    assert (
        asks.asks_at(state_of("2041"), ladder_of(state_of("2041")), 0.25) == ()
    )  # known to fail: nothing is worth reading
