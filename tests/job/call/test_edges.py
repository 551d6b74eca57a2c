"""Edges that random faults went unseen at, each worked by hand: what is asked, what counts, and what may be taken."""

from dataclasses import replace
from types import SimpleNamespace as Some

import numpy as np
import pytest

from redline_bore.core.cleanup_bound import Lacks
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.call import asks, options, shadow, swept
from redline_bore.job.call.asks import AskFor
from redline_bore.job.call.best import best_of
from redline_bore.job.call.finding import CallFinding, CallVerdict
from redline_bore.job.call.ladder import ladder_of
from redline_bore.job.call.option import MAY, NO, SURE, Option, OptionKind
from redline_bore.job.call.ways_there import Road, WayThere
from redline_bore.job.kinds.book_in import BookInRevised
from redline_bore.job.kinds.defects import WallRead
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.gauge import RingStopRead
from redline_bore.job.words import call as call_words
from redline_bore.job.words import shadow as shadow_words
from tests.job.benches import after, longer

METRIC = Show(Units.METRIC)


@pytest.mark.parametrize(
    "bored, looks, wanted",
    [
        ([(1, 5)], [(1, 6)], True), ([(1, 5)], [(2, 6)], False), ([(1, 5)], [(1, 4)], False), ([(1, 5)], [(1, 5)], False),
        ([], [(1, 6)], False), ([(2, 5)], [(1, 6)], False), ([(1, 5), (1, 8)], [(1, 6)], False), ([(1, 5)], [], False),
    ],
)  # fmt: skip
def test_a_look_counts_for_its_own_hole_as_it_stands(bored, looks, wanted):
    holes = [Some(cylinder=c, seq=s) for c, s in bored]
    state = Some(boring=Some(holes=holes, looks=[Some(cylinder=c, seq=s) for c, s in looks]))
    assert asks._looked_at(state, 1) is wanted


def fate_of(lacks=(), swept=None, measured=True, most=80.5, high=80.4, walls=None, least=80.4):
    column = Some(
        cleanup=Some(lacks=lacks, high_mm=high), need=Some(mark=None, swept=swept), shape="shape", walls=walls
    )
    return Some(
        cylinder=3,
        oversize_mm=0.5,
        column=column,
        end=Some(measured=measured, most_mm=most, least_mm=least),
        wall_stands=False,
    )


@pytest.mark.parametrize(
    "lacks, poor, swept, wanted",
    [
        ((Lacks.CHORDS,), 20.0, None, [AskFor.CHORDS, AskFor.SWEEP]), ((), 20.0, None, [AskFor.SWEEP]),
        ((Lacks.CHORDS,), None, None, [AskFor.SWEEP]), ((Lacks.CHORDS,), 20.0, object(), []),
        ((Lacks.STOP_NOT_MEASURED,), None, object(), [AskFor.RING_STOP]),
    ],
)  # fmt: skip
def test_chords_are_asked_where_they_are_what_is_lacking(monkeypatch, lacks, poor, swept, wanted):
    monkeypatch.setattr(asks, "sweeps_missing", lambda state, c: (20.0,))
    monkeypatch.setattr(asks, "poorest", lambda shape: poor)
    state = Some(gauging=Some(defects_of=lambda c: ()))
    assert [a.what for a in asks._of_cleanup(state, fate_of(lacks, swept))] == wanted


@pytest.mark.parametrize(
    "measured, most, wanted",
    [(False, 80.5, [AskFor.PISTON]), (False, 80.4, [AskFor.PISTON]), (False, 80.39, []), (True, 80.5, [])],
)
def test_a_piston_is_asked_where_it_could_reach_what_is_needed(measured, most, wanted):
    state = Some(gauging=Some(defects_of=lambda c: ()))
    found = asks._of_cleanup(state, fate_of((), object(), measured, most))
    assert [(a.what, a.over_mm) for a in found] == [(what, 0.5) for what in wanted]


@pytest.mark.parametrize(
    "measured, sure, least, wanted",
    [(False, 80.45, 80.4, True), (False, 80.4, 80.4, True), (False, 80.39, 80.4, False), (False, None, 80.4, False), (True, 80.45, 80.4, False)],
)  # fmt: skip
def test_a_piston_is_asked_where_it_could_keep_the_wall(monkeypatch, measured, sure, least, wanted):
    monkeypatch.setattr(asks, "sweeps_missing", lambda state, c: ())
    monkeypatch.setattr(asks, "thinnest_places", lambda state, c: ())
    walls = Some(to_read=False, through_missing=False, sure_mm=sure)
    found = asks._of_wall(Some(), fate_of((), object(), measured, walls=walls, least=least))
    assert [a.what for a in found] == ([AskFor.PISTON] if wanted else [])


def test_the_way_that_is_sure_without_it_may_be_the_very_next():
    def way(standing):
        return Option(OptionKind.RUNG, "rung", standing, 0.5, (), (), (), (0.4,), 2, 4, 0, 60.0)

    first, second = way(MAY), way(SURE)
    assert best_of([first, second]).otherwise is second


@pytest.mark.parametrize("of_doubt, standing", [(-1.1, NO), (-0.9, MAY), (0.9, MAY), (1.1, SURE)])
def test_a_parent_wall_is_judged_within_its_doubt(monkeypatch, shipped, of_doubt, standing):
    wall, least, about = (shipped.number(k) for k in ("sleeves.wall", "sleeves.parent_least", "wall.doubt"))
    monkeypatch.setattr(options, "places_to_read", lambda state, c: ())
    monkeypatch.setattr(options, "thinnest_places", lambda state, c: ())
    read = {2: (Some(wall_mm=wall + least + of_doubt * about),), 3: (Some(wall_mm=0.1),)}
    monkeypatch.setattr(options, "walls_as_gauged", lambda state, c: read[c])
    assert options._seat(Some(figures=shipped), Some(cylinder=2), False).standing is standing


def test_a_mark_stands_half_way_between_its_ends():
    (found,) = swept._points([Some(top_mm=20.0, bottom_mm=50.0, clock_deg=90.0, deep_high_mm=0.2)])
    assert (found.depth_mm, found.clock_deg, found.deep_mm) == (35.0, 90.0, 0.2)


def test_the_share_of_a_shadow_counts_what_is_known():
    assert shadow._share(np.array([[0.1, 0.0], [np.nan, 0.5]])) == pytest.approx(2 / 3)
    assert shadow._share(np.array([[np.nan]])) == 0.0
    assert [shadow_words._of_wall(s) for s in (0.0, 0.009, 0.01, 0.02)] == [
        "none",
        "under 1% of the wall",
        "1% of the wall",
        "2% of the wall",
    ]


def test_a_wall_reading_of_the_other_cylinders_is_not_this_ones(ledger_of, shipped):
    book = longer(ledger_of("2041"), WallRead(cylinder=5, clock_deg=90.0, depth_mm=60.0, wall_mm=0.5, zone="thrust"))
    before, now = fold(ledger_of("2041"), shipped), fold(book, shipped)
    fate = Some(cylinder=4)
    assert options._seat(now, fate, False) == options._seat(before, fate, False)


def test_a_call_that_is_sure_wants_nothing_more(ledger_of, shipped):
    from redline_bore.job.words.calls_beside import side_of
    from tests.job.benches import settled

    state = fold(settled(ledger_of("2041"), shipped), shipped)
    sure = {x.label: x.value for x in side_of(state, 0.5, (), METRIC).lines}
    unsure = {x.label: x.value for x in side_of(fold(ledger_of("2041"), shipped), 0.5, (), METRIC).lines}
    assert sure["to be sure"] == unsure["to be sure"] == "nothing more"  # what is likely enough asks for nothing


@pytest.mark.parametrize(
    "begun, wanted", [([], 50.0), ([70.0], 70.0), ([76.0], 50.0), ([25.0], 25.0), ([24.0], 50.0), ([30.0, 55.0], 55.0)]
)
def test_a_wall_is_read_on_where_it_was_begun_near_there(begun, wanted):
    from redline_bore.job.call import walls

    rows = [[Some(depth_mm=d)] for d in begun]
    assert walls._wanted_depth(Some(block=Some(length_mm=200.0)), 0.25, rows) == wanted


@pytest.mark.parametrize(
    "clock, sides",
    [(0.0, {0.0}), (25.0, {0.0}), (26.0, set()), (335.0, {0.0}), (334.0, set()), (65.0, {90.0}), (200.0, {180.0})],
)
def test_how_far_off_a_side_a_wall_may_be_read_and_count_for_it(clock, sides):
    from redline_bore.job.call import walls

    assert walls._sides([Some(clock_deg=clock)]) == sides


@pytest.mark.parametrize("look_first", [(), (4, 2)])
@pytest.mark.parametrize("verdict", CallVerdict)
@pytest.mark.parametrize("unread", [(), (2,)])
@pytest.mark.parametrize("may_be_thin", [(), (3,)])
@pytest.mark.parametrize("can", [False, True])
@pytest.mark.parametrize("asks", [(), ("the wall",)])
@pytest.mark.parametrize("road", [None, Road.LOOK, Road.NEXT])
def test_only_a_call_that_wants_nothing_more_is_lit(
    monkeypatch, look_first, verdict, unread, may_be_thin, can, asks, road
):
    monkeypatch.setattr(CallFinding, "can_be_taken", can)
    ways = () if road is None else (WayThere(road, 5.0),)
    fates = (Some(sleeved=False, sound=False),)
    found = CallFinding(
        verdict,
        None,
        0.5,
        (),
        fates,
        (),
        look_first=look_first,
        unread=unread,
        may_be_thin=may_be_thin,
        asks=asks,
        ways=ways,
    )
    sure = verdict in (CallVerdict.LEAVE, CallVerdict.CUT) or (
        verdict is CallVerdict.BORE and not unread and not may_be_thin
    )
    goes = verdict in (CallVerdict.BORE, CallVerdict.LIKELY, CallVerdict.CUT) or bool(look_first and road is Road.LOOK)
    lit = sure or (goes and not asks and not may_be_thin)
    assert found.sure is sure and found.settled is lit
    assert call_words._unsure(found) is not lit
    wanted = "Take it, bore 4 first" if look_first and lit else "Take the call" if lit else "Take it all the same"
    if verdict is CallVerdict.LEAVE:
        wanted = "Take the call"
    assert call_words._button(found) == (wanted if can or verdict is CallVerdict.LEAVE else "")


@pytest.mark.parametrize("below, sound", [(0.5, False), (1.0, False), (1.2, True), (-0.9, False), (-1.2, True)])
def test_a_wall_so_near_a_flaw_is_not_taken_for_sound(monkeypatch, below, sound):
    from redline_bore.job.call import swept

    kept = []

    def fitted(clocks, radii):
        kept.append(list(clocks))
        return Some(least_squares="of the sound wall")

    monkeypatch.setattr(swept, "fit_sweep", fitted)
    flaw = Some(top_mm=40.0, bottom_mm=40.0, clock_deg=350.0, width_deg=20.0)
    clocks = tuple(float(c) for c in range(0, 360, 5))
    level = Some(
        fit=Some(least_squares="of all"), sweep=Some(depth_mm=40.0 + below, clock_deg=clocks, radius_mm=(50.0,) * 72)
    )
    found = swept._sound_circle(Some(gauging=Some(defects_of=lambda c: (flaw,))), 1, level)
    assert found == ("of all" if sound else "of the sound wall")
    if not sound:  # ten degrees of the flaw and five beside it, across the front
        assert kept[0] == [c for c in clocks if 10.0 <= c <= 330.0]


@pytest.mark.parametrize("number", ["2041", "2044"])
@pytest.mark.parametrize("pack", [12.0, None])
def test_a_stop_that_was_measured_is_asked_for_no_more_whatever_else_is_not_known(
    ledger_of, shipped, state_of, number, pack
):
    book = state_of(number).book_in
    before = replace(book, block=replace(book.block, ring_top_mm=None, ring_pack_mm=pack))

    def asked(*entries):
        state = after(ledger_of(number), shipped, BookInRevised(book_in=before), *entries)
        ladder = ladder_of(state)
        lacks = {lack for column in ladder.columns if column.cleanup is not None for lack in column.cleanup.lacks}
        said = [a.what for over in ladder.rungs_mm for a in asks.asks_at(state, ladder, over)]
        return Lacks.STOP_NOT_MEASURED in lacks, AskFor.RING_STOP in said

    assert asked()[0] and asked(RingStopRead(depth_mm=state_of(number).travel.top_mm)) == (False, False)


def test_the_wall_beyond_the_sweeps_stands_off_a_cut_that_leans(monkeypatch):
    from redline_bore.core.swept_cleanup import CutAxis

    monkeypatch.setattr(swept, "_sound_circle", lambda state, c, level: level)
    levels = [Some(sweep=Some(depth_mm=z), x_mm=0.0, y_mm=0.001 * z) for z in (20.0, 60.0, 100.0)]
    axis = CutAxis(0.02, 0.0, 0.12, 0.1)  # at the deck, and at the deepest sweep
    deck, end = swept._beyond(Some(block=Some(length_mm=150.0)), 1, levels, axis, 46.0)
    assert (deck.depth_mm, end.depth_mm) == (0.0, 150.0)
    assert deck.radius_mm == pytest.approx(46.02) and deck.clock_deg == pytest.approx(180.0)
    assert end.radius_mm == pytest.approx(46.0 + 0.17) and end.clock_deg == pytest.approx(180.0)
