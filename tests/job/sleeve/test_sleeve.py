"""Sleeving a cylinder: what fits, what holds, what to do next, and whether it came out as figured."""

import re
from dataclasses import replace
from itertools import pairwise

import pytest

from redline_bore.core.block import Bottom, WallKind
from redline_bore.core.errors import InputError
from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.core.press_fit import Material, PressFit
from redline_bore.core.show import Show
from redline_bore.job.bore.plan import awaits_sleeve, plan_of, still_to_bore
from redline_bore.job.card import Mark
from redline_bore.job.kinds.book_in import BookInRevised
from redline_bore.job.kinds.bore import HoleBored, RunChecked
from redline_bore.job.kinds.call import DecisionTaken, PistonMeasured
from redline_bore.job.kinds.defects import WallRead
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.gauge import BlockTemperature
from redline_bore.job.kinds.phrase import Where
from redline_bore.job.kinds.sleeve import (
    AfterPressRead,
    CounterboreRead,
    DeckFaced,
    DeckRead,
    OldSleeveMeasured,
    ParentOutsideStated,
    ParentRead,
    ProtrusionStated,
    SleeveCold,
    SleeveMeasured,
    SleeveWayTaken,
)
from redline_bore.job.missing import Lack, Missing
from redline_bore.job.sleeve.deck import deck_of, seat_of
from redline_bore.job.sleeve.fit import Holder, Hoop, fit_of, held_by, step_wanted, wanted_interference
from redline_bore.job.sleeve.heat import heat_plan
from redline_bore.job.sleeve.match import match_of
from redline_bore.job.sleeve.run import closing_of, peel_mm, seat_ready, stage_of
from redline_bore.job.sleeve.ways import chosen_way, left_next_time, parent_cuts, ways_of
from redline_bore.job.sleeve.why import SleeveReason, SleeveWhy
from redline_bore.job.state.calling import Apart
from redline_bore.job.words import sleeve as sleeve_advice
from redline_bore.job.words.run_sheet import left_out, lit, next_stamp
from redline_bore.job.words.sleeve_run import run_of
from redline_bore.job.words.sleeve_ways import whys_of
from tests.job.benches import after, longer, one_typed

MM = Show(Units.METRIC)
APART = (Apart(cylinder=4, way="sleeve"),)


def typed(state, text, cylinder=4, units=Units.METRIC):
    return one_typed("sleeve", text, state, Where(cylinder, Place(0, 0), units))


def parent(*sizes, depth=100.0, cylinder=4):
    return ParentRead(cylinder=cylinder, depth_mm=depth, sizes_mm=sizes)


def sleeve(outside=110.058, bore=104.6, cylinder=4, **more):
    return SleeveMeasured(cylinder=cylinder, outside_mm=outside, bore_mm=bore, sleeve_c=20.0, **more)


ROUND = [parent(110.0, 110.0, 110.0, 110.0, depth=d) for d in (20.0, 100.0, 180.0)]


@pytest.fixture
def called(ledger_of):
    """2041 with cylinder 4 to be sleeved, the rest bored 0.50 over, all pistons measured."""
    pistons = [PistonMeasured(cylinder=c, size_mm=105.42, piston_c=20.0) for c in range(1, 6)]
    return longer(ledger_of("2041"), DecisionTaken(oversize_mm=0.5, sentence="x", apart=APART), *pistons)


@pytest.fixture
def fitted(called):
    """The same, parent 110 round and straight, a sleeve 0.058 over it, the parent's outside stated."""
    return longer(called, ParentOutsideStated(low_mm=122.0, high_mm=128.0), *ROUND, sleeve())


def advise(state, cylinder=4, page="fit"):
    return sleeve_advice.advise(state, cylinder, MM, page)


def figure(advice, start):
    return next(f for f in advice.figures if f.label.startswith(start))


# -- what is known, what is asked for ----------------------------------------------------------------------------------


def test_what_to_measure_next_is_asked_for_in_the_order_of_the_bench(called, shipped):
    state = fold(called, shipped)
    assert stage_of(state, 4).key == "parent" and "Gauge the parent of 4" in advise(state).sentence
    read = after(called, shipped, *ROUND)
    assert stage_of(read, 4).key == "sleeve" and advise(read).sentence == "Measure the sleeve that goes in."
    ready = after(called, shipped, *ROUND, sleeve())
    assert stage_of(ready, 4).key == "way" and advise(ready).button == "Take this way"
    assert advise(ready, 1).sentence == "Cylinder 1 keeps its own wall."


def test_an_old_sleeve_is_bored_to_a_shell_first(called, shipped, ledger_of):
    opened = called[0].entry
    block = replace(opened.book_in.block, wall=WallKind.DRY_SLEEVE)
    dry = longer(called, BookInRevised(book_in=replace(opened.book_in, block=block)))
    state = fold(dry, shipped)
    assert stage_of(state, 4).key == "old" and "peel it" in advise(state).sentence
    measured = after(dry, shipped, OldSleeveMeasured(cylinder=4, outside_mm=110.06))
    assert peel_mm(measured, 4) == pytest.approx(110.06 - 0.38)
    assert "Bore the old sleeve to 109.680" in advise(measured).sentence
    assert "Old sleeve bored to 109.680" in run_of(measured, 4, MM)[0].words


def test_sizes_that_do_not_go_into_each_other_are_told(called, shipped):
    state = after(called, shipped, *ROUND, sleeve(outside=110.1, bore=110.05))
    assert fit_of(state, 4).grip is None and "do not go into each other" in advise(state).sentence
    assert advise(state).mark is Mark.LOOK and ways_of(state, 4) == () and heat_plan(state, 4) is None


def test_parents_and_sleeves_are_taken_to_20_c(called, shipped):
    warm = after(called, shipped, *ROUND, block_c=35.0)
    assert fit_of(warm, 4).parent_mm == pytest.approx(110.0 / (1.0 + 11e-6 * 15.0))
    cold = after(called, shipped, SleeveMeasured(cylinder=4, outside_mm=110.05, bore_mm=104.6, sleeve_c=10.0))
    assert cold.sleeving.sleeve_of(4).outside_mm == pytest.approx(110.05 / (1.0 - 11e-6 * 10.0))


def test_an_aluminium_parent_grows_as_aluminium_not_as_the_fitted_bore(ledger_of, shipped):
    ring = parent(95.6, 95.6, 95.6, depth=60.0, cylinder=1)
    warm = after(ledger_of("2044"), shipped, ring, block_c=30.0)
    assert warm.sleeving.parents[-1].sizes_mm[0] == pytest.approx(95.6 / (1.0 + 21.5e-6 * 10.0))


# -- grip ------------------------------------------------------------------------------------------------------------


def test_grip_is_a_range_while_the_parent_s_outside_is_uncertain(fitted, called, shipped):
    grip = fit_of(fold(fitted, shipped), 4).grip
    assert grip.interference_mm == pytest.approx(0.058) and grip.pressure_mpa[0] < grip.pressure_mpa[1]
    guess = after(called, shipped, *ROUND, sleeve())
    assert "outside is a guess" in " ".join(advise(guess).changes)
    assert "outside is a guess" not in " ".join(advise(fold(fitted, shipped)).changes)


@pytest.mark.parametrize("more", [0.005, 0.02, 0.05])
def test_more_interference_never_grips_less(fitted, shipped, more):
    weak, strong = (fit_of(after(fitted, shipped, sleeve(outside=110.058 + x)), 4).grip for x in (0.0, more))
    for name in ("pressure_mpa", "hoop_mpa", "closes_mm", "push_n", "hot_push_n"):
        assert getattr(strong, name)[0] > getattr(weak, name)[0], name


def test_wanted_interference_scales_with_the_diameter_and_knows_aluminium(fitted, state_of, shipped):
    assert wanted_interference(fold(fitted, shipped), 110.0) == pytest.approx((0.055, 0.0605, 0.0715))
    assert wanted_interference(state_of("2044"), 100.0) == pytest.approx((0.065, 0.085, 0.1))


def test_in_iron_the_grip_stays_when_hot_and_in_aluminium_it_goes(fitted, state_of, shipped):
    iron = fit_of(fold(fitted, shipped), 4).grip
    assert iron.lost_c is None and iron.hot_interference_mm > iron.interference_mm
    aluminium = fit_of(state_of("2044"), 1).grip
    assert aluminium.lost_c == pytest.approx(99.7, abs=1.0) and aluminium.hot_push_n[1] < 0.4 * aluminium.push_n[0]


def test_too_much_pull_round_the_parent_is_a_stop(fitted, shipped):
    hard = after(fitted, shipped, ParentOutsideStated(low_mm=113.0, high_mm=113.5), sleeve(outside=110.2))
    assert fit_of(hard, 4).grip.hoop is Hoop.OVER and figure(advise(hard), "pull, limit").mark is Mark.STOP
    way = next(w for w in ways_of(hard, 4) if w.way == "touch up")
    assert way.standing == "no" and "over its 60 MPa" in " ".join(whys_of(way, MM))


def test_what_holds_it_hot_is_named_or_a_step_is_asked_for(fitted, state_of, shipped, ledger_of):
    assert held_by(state_of("2044"), fit_of(state_of("2044"), 1)) is Holder.FLANGE
    loose = after(fitted, shipped, sleeve(outside=109.992))
    assert loose.block.bottom is Bottom.OPEN and held_by(loose, fit_of(loose, 4)) is None
    assert step_wanted(loose, fit_of(loose, 4)) and figure(advise(loose), "holds hot").mark is Mark.STOP
    stepped = after(
        fitted, shipped, sleeve(outside=109.992), SleeveWayTaken(cylinder=4, way="touch up", step_left=True)
    )
    assert held_by(stepped, fit_of(stepped, 4)) is Holder.STEP


# -- ways ------------------------------------------------------------------------------------------------------------


def test_a_sleeve_that_grips_all_round_just_goes_on(fitted, shipped):
    best = ways_of(fold(fitted, shipped), 4)[0]
    assert (best.way, best.standing, best.parent_mm) == ("touch up", "sure", None)


def test_too_loose_a_sleeve_does_not_go_and_the_next_outside_is_given(fitted, shipped):
    loose = after(
        fitted,
        shipped,
        sleeve(outside=110.01),
        *[WallRead(cylinder=4, clock_deg=90.0, depth_mm=60.0, wall_mm=6.0, zone="thrust")],
    )
    by = {w.way: w for w in ways_of(loose, 4)}
    assert by["touch up"].standing == "no" and by["touch up"].reasons[0].why is SleeveWhy.GRIPS_LITTLE
    best = ways_of(loose, 4)[0]
    assert best.way == "oversize outside" and best.parent_mm == pytest.approx(110.026)
    assert best.outside_mm == pytest.approx(best.parent_mm + 0.055 * best.parent_mm / 100.0)


def test_where_nothing_goes_it_says_stop_and_offers_no_button(fitted, shipped):
    thin = after(
        fitted,
        shipped,
        WallRead(cylinder=4, clock_deg=90.0, depth_mm=60.0, wall_mm=1.0, zone="thrust"),
        sleeve(outside=110.01),
    )
    assert {w.standing for w in ways_of(thin, 4)} == {"no"} and all(
        "parent" in whys_of(w, MM)[0] or "grips" in whys_of(w, MM)[0] for w in ways_of(thin, 4)
    )
    advice = advise(thin)
    assert advice.sentence.startswith("No way goes") and advice.mark is Mark.STOP and not advice.button


def test_an_oval_parent_is_weighed_against_what_is_left_to_finish(called, shipped):
    oval = [parent(110.05, 110.0, 109.95, 110.0, depth=d) for d in (20.0, 100.0, 180.0)]
    base = longer(called, ParentOutsideStated(low_mm=122.0, high_mm=128.0), *oval)
    state = after(base, shipped, sleeve(outside=110.06))
    fit = fit_of(state, 4)
    assert (
        fit.oval_mm == pytest.approx(0.1) and fit.least_mm == pytest.approx(0.01) and fit.most_mm == pytest.approx(0.11)
    )
    assert next(w for w in ways_of(state, 4) if w.way == "touch up").standing == "sure"  # 0.9 mm is left to finish
    little = after(base, shipped, sleeve(outside=110.06, bore=105.47))
    way = next(w for w in ways_of(little, 4) if w.way == "touch up")
    assert way.standing == "no" and {r.why for r in way.reasons} & {SleeveWhy.OVAL_OVER_FINISH}


def test_two_angles_never_make_a_parent_sure(called, shipped):
    rings = [parent(110.0, 110.0, depth=d) for d in (20.0, 180.0)]
    state = after(called, shipped, ParentOutsideStated(low_mm=122.0, high_mm=128.0), *rings, sleeve())
    assert fit_of(state, 4).oval_hidden and all(w.standing != "sure" for w in ways_of(state, 4))
    assert "four angles" in " ".join(advise(state).changes)


def test_the_wall_behind_a_parent_is_unknown_until_it_is_read(fitted, ledger_of, shipped):
    by = {w.way: w for w in ways_of(fold(fitted, shipped), 4)}
    assert by["repair sleeve"].standing == "no"  # read from the worn hole: 52.5 + 4.55 reaches no further
    sleeved = ways_of(fold(ledger_of("2044"), shipped), 2)
    unread = next(w for w in sleeved if w.way == "oversize outside")
    assert unread.standing == "may do" and SleeveReason(SleeveWhy.WALL_UNREAD) in unread.reasons
    inside = WallRead(cylinder=2, clock_deg=90.0, depth_mm=60.0, wall_mm=9.0, zone="thrust")
    read = ways_of(after(ledger_of("2044"), shipped, inside), 2)
    assert next(w for w in read if w.way == "oversize outside").standing == "sure"


def test_a_way_that_bores_the_parent_asks_for_the_bar_and_a_new_reading(fitted, shipped):
    wall = WallRead(cylinder=4, clock_deg=90.0, depth_mm=60.0, wall_mm=6.0, zone="thrust")
    book = longer(fitted, wall, sleeve(outside=110.01), SleeveWayTaken(cylinder=4, way="oversize outside"))
    state = fold(book, shipped)
    assert stage_of(state, 4).key == "bore parent" and "Bore the parent of 4 to 110.026" in advise(state).sentence
    assert figure(advise(state), "this bar misses by").mark is Mark.LOOK
    assert figure(advise(state), "may be off by").value == f"{0.055 * 1.10026 / 4:.3f}"


@pytest.mark.parametrize(
    "rings, outside, bore, wanted",
    [((97.0, 97.0, 97.0, 97.0), 102.05, 96.9, 101.994), ((95.280, 95.301, 95.278, 95.288), 100.089, 94.742, 100.034)],
)  # a block cast in one, bored out for a sleeve that lies on the bench
def test_the_sleeve_in_hand_says_what_its_parent_is_bored_to(ledger_of, shipped, rings, outside, bore, wanted):
    apart = tuple(Apart(cylinder=c, way="sleeve") for c in (1, 2, 3, 4, 5))
    book = longer(
        ledger_of("2041"), DecisionTaken(oversize_mm=0.0, sentence="x", apart=apart), parent(*rings), sleeve(outside=outside, bore=bore)
    )  # fmt: skip
    state = fold(book, shipped)
    best = ways_of(state, 4)[0]
    assert best.way == "bore to the sleeve" and best.parent_mm == pytest.approx(wanted, abs=0.002)
    assert best.outside_mm == outside and not best.to_order and best.standing != "no"
    assert len(best.cuts) == 2 and best.cuts[-1].size_mm == best.parent_mm and best.minutes == 35.0 + 2 * 8.0
    heat = heat_plan(state, 4)
    assert heat.interference_mm == pytest.approx(0.056, abs=0.002) and heat.chosen.block_c < 160.0
    taken = after(book, shipped, SleeveWayTaken(cylinder=4, way="bore to the sleeve"))
    assert stage_of(taken, 4).key == "bore parent"
    sentence = advise(taken).sentence
    assert f"to {best.parent_mm:.3f} in 2 steps, gauge it." in sentence and "measure the sleeve" not in sentence
    assert figure(advise(taken), "for the sleeve in hand").value == f"{outside:.3f} outside"
    steps = figure(advise(taken), "in steps to").value.replace(" (next holder)", "").split(", ")
    assert steps == [f"{c.size_mm:.3f}" for c in best.cuts]
    done = after(book, shipped, SleeveWayTaken(cylinder=4, way="bore to the sleeve"), parent(*[best.parent_mm] * 4))
    assert stage_of(done, 4).key == "go in" and fit_of(done, 4).grip.interference_mm == pytest.approx(0.056, abs=0.002)


def test_nothing_is_bored_for_a_sleeve_that_fits(fitted, shipped):
    assert "bore to the sleeve" not in [w.way for w in ways_of(fold(fitted, shipped), 4)]


def test_a_sleeve_too_small_for_a_round_parent_is_not_bored_for(called, shipped):
    worn = parent(110.0, 110.2, 110.0, 110.0)
    state = after(called, shipped, worn, sleeve(outside=110.13))
    by = {w.way: w for w in ways_of(state, 4)}
    assert by["bore to the sleeve"].standing == "no" and by["bore to the sleeve"].reasons[0].why is SleeveWhy.NOT_ROUND


@pytest.mark.parametrize("way, over, had, stage", [
    ("oversize outside", -0.1, None, "bore parent"), ("oversize outside", 0.0, None, "sleeve"), ("oversize outside", 0.0, 0.060, "go in"),
    ("oversize outside", 0.0, 0.030, "no"), ("oversize outside", 0.013, 0.060, "go in"), ("oversize outside", 0.06, None, "sleeve"),
    ("bore to the sleeve", -0.02, None, "bore parent"), ("bore to the sleeve", 0.0, None, "go in"), ("bore to the sleeve", 0.03, None, "way"),
])  # fmt: skip
def test_a_parent_that_was_bored_is_held_against_what_was_wanted_when_the_way_was_taken(
    fitted, shipped, way, over, had, stage
):
    wall = WallRead(cylinder=4, clock_deg=90.0, depth_mm=60.0, wall_mm=6.0, zone="thrust")
    first = sleeve(outside=110.01) if way == "oversize outside" else sleeve(outside=110.5)
    book = longer(fitted, wall, first)
    wanted = next(w for w in ways_of(fold(book, shipped), 4) if w.way == way).parent_mm
    bored = [parent(*[wanted + over] * 4, depth=d) for d in (20.0, 100.0, 180.0)]
    more = [] if had is None else [sleeve(outside=wanted + over + had)]
    state = after(book, shipped, SleeveWayTaken(cylinder=4, way=way), *bored, *more)
    assert stage_of(state, 4).key == stage
    assert "None" not in advise(state).sentence


def test_a_parent_is_bored_out_in_steps_that_holders_and_bar_can_span(fitted, shipped):
    cuts = parent_cuts(fold(fitted, shipped), 97.0, 111.9)
    sizes = [97.0, *(c.size_mm for c in cuts)]
    assert max(b - a for a, b in pairwise(sizes)) <= 3.0 + 1e-9 and 110.0 in sizes and sizes[-1] == 111.9
    assert [c.size_mm for c in cuts if c.new_holder] == [111.9]
    assert len(parent_cuts(fold(fitted, shipped), 100.0, 103.0)) == 1


def test_ways_cost_what_the_shop_says(fitted, shipped):
    state = fold(fitted, shipped)
    assert all(w.cost is None for w in ways_of(state, 4))
    rates = state.figures.with_own({"bench_time.hour_costs": 60.0, "bench_time.sleeve_costs": 80.0})
    by = {w.way: w for w in ways_of(replace(state, figures=rates, memo={}), 4)}
    assert by["touch up"].cost == pytest.approx(45.0) and by["oversize outside"].cost == pytest.approx(
        80.0 + 35.0 + 8.0 + 15.0
    )
    assert by["touch up"].rebuilds == left_next_time(state, 4, 110.058).rebuilds


@pytest.mark.parametrize(
    "lost_at, known",
    [(299.0, True), (301.0, False), (4978.0, False)],
)
def test_no_grip_is_said_to_be_lost_where_no_block_gets(lost_at, known):
    apart = (21.5 - 11.0) * 1e-6
    fit = PressFit(100.0, 95.0, 115.0, Material(110000.0, 0.26, 11.0), Material(72000.0, 0.33, 21.5))
    found = fit.grip_lost_c((lost_at - 20.0) * 100.0 * apart)
    assert (found == pytest.approx(lost_at)) if known else found is None


@pytest.mark.parametrize(
    "depth, ready, pressed, said",
    [
        (None, False, False, "First the seat of 4: nobody measured its counterbore"),
        (4.900, False, False, "First the seat of 4: 0.045 of counterbore is still to cut"),
        (4.945, True, False, "until it grips"),
        (5.400, False, False, "The counterbore of 4 is 0.455 too deep"),
        (None, False, True, "Sleeve 4 does not sit for sure"),
        (4.900, False, True, "Sleeve 4 does not sit for sure: 0.045 of counterbore is still to cut"),
        (4.945, True, True, "Sleeve 4 sits."),
    ],
)
def test_a_flanged_sleeve_sits_only_on_a_finished_seat(fitted, shipped, depth, ready, pressed, said):
    more = [sleeve(flange_mm=5.0), SleeveWayTaken(cylinder=4, way="touch up")]
    if depth is not None:
        more.append(CounterboreRead(cylinder=4, depth_mm=depth))
    if pressed:
        more.append(AfterPressRead(cylinder=4, sizes_mm=(104.560, 104.559, 104.561)))
    state = after(fitted, shipped, *more)
    assert seat_ready(seat_of(state, 4)) is ready
    assert said in advise(state).sentence and (advise(state).mark is not Mark.SOUND or ready)
    assert ("sits" in sleeve_advice.stage_word(stage_of(state, 4))) == (ready and pressed)


# -- heat, deck ------------------------------------------------------------------------------------------------------


def test_the_mildest_cold_that_the_block_allows_is_offered_first(fitted, shipped):
    plan = heat_plan(fold(fitted, shipped), 4)
    assert plan.chosen == plan.colds[0] and not plan.chosen.too_hot
    assert [c.block_c for c in plan.colds] == sorted((c.block_c for c in plan.colds), reverse=True)
    assert plan.drop.gap_mm(plan.chosen.sleeve_c, plan.chosen.block_c) == pytest.approx(plan.gap_mm, abs=1e-6)
    colder = after(fitted, shipped, SleeveCold(sleeve_c=-40.0))
    assert heat_plan(colder, 4).chosen.sleeve_c == -40.0 and "at −40 °C" in " ".join(
        i.words for i in run_of(colder, 4, MM)
    )


def test_a_block_that_would_get_too_hot_is_a_stop(fitted, shipped):
    tight = after(
        fitted,
        shipped,
        sleeve(outside=110.3),
        SleeveWayTaken(cylinder=4, way="touch up"),
        SleeveCold(sleeve_c=20.0),
    )
    plan = heat_plan(tight, 4)
    assert plan.chosen.too_hot and figure(advise(tight, page="heat"), "block").mark is Mark.STOP


def test_the_tightest_place_decides_the_heat_not_the_mean(ledger_of, shipped):
    state = fold(ledger_of("2044"), shipped)
    one, two = heat_plan(state, 1), heat_plan(state, 2)
    assert (
        two.interference_mm == pytest.approx(fit_of(state, 2).most_mm) and two.chosen.block_c > one.chosen.block_c + 5.0
    )


def test_the_deck_is_faced_by_what_it_is_out_and_counterbores_count_from_what_stays(fitted, shipped):
    book = longer(
        fitted, sleeve(flange_mm=5.0), DeckRead(bank=0, rows_mm=((0.0, 0.05), (0.08, 0.15))),
        CounterboreRead(cylinder=4, depth_mm=5.10), ProtrusionStated(low_mm=0.03, high_mm=0.07),
    )  # fmt: skip
    deck = deck_of(fold(book, shipped), 0)
    assert (
        deck.plan.cut_mm == pytest.approx(0.163) and deck.plan.passes_mm[-1] == pytest.approx(0.025) and not deck.done
    )
    seat = seat_of(fold(book, shipped), 4)
    assert seat.cut.depth_mm == pytest.approx(4.95) and seat.there_mm == pytest.approx(5.10 - 0.163)
    assert seat.proving_mm == pytest.approx(4.90) and seat.cut.to_cut_mm == pytest.approx(0.013)
    faced = after(book, shipped, DeckFaced(bank=0, cut_mm=0.163))
    assert deck_of(faced, 0).done and seat_of(faced, 4).there_mm == pytest.approx(5.10 - 0.163)
    again = after(book, shipped, DeckFaced(bank=0, cut_mm=0.163), CounterboreRead(cylinder=4, depth_mm=4.95))
    assert seat_of(again, 4).stands_mm == pytest.approx(0.05)


def test_a_counterbore_that_is_too_deep_is_a_stop(fitted, shipped):
    deep = after(fitted, shipped, sleeve(flange_mm=5.0), CounterboreRead(cylinder=4, depth_mm=5.4))
    assert seat_of(deep, 4).cut.needs_shim and figure(advise(deep, page="deck"), "too deep by").mark is Mark.STOP
    assert figure(advise(deep, page="deck"), "deck").mark is Mark.LOOK  # nobody read it


def test_without_a_flange_the_proud_top_is_faced(fitted, shipped):
    assert "was not measured" in " ".join(advise(fold(fitted, shipped)).changes)
    long = after(fitted, shipped, sleeve(length_mm=212.3))
    assert "0.30 proud" in " ".join(advise(long).changes)
    assert run_of(long, 4, MM)[-1].key == "faced" and seat_of(long, 4) is None
    short = after(fitted, shipped, sleeve(length_mm=211.0))
    assert "under the deck" in " ".join(advise(short).changes)


# -- the run ---------------------------------------------------------------------------------------------------------


def test_the_run_sheet_lights_what_is_next_and_tells_what_was_passed_over(fitted, shipped):
    items = run_of(fold(fitted, shipped), 4, MM)
    assert lit(items).words == "Parent clean and dry" and next_stamp(items).key == "clean"
    late = after(fitted, shipped, RunChecked(step="sleeve", cylinder=4, check="held"))
    assert [i.key for i in left_out(run_of(late, 4, MM))] == ["clean", "hot", "cold", "seated"]
    assert "Passed over, K stamps it: Parent clean and dry." in advise(late).changes


def test_a_check_counts_for_its_own_cylinder(ledger_of, shipped):
    book = [r for r in ledger_of("2044") if not (isinstance(r.entry, RunChecked) and r.entry.cylinder == 2)]
    state = fold(book, shipped)
    assert all(i.done for i in run_of(state, 1, MM)) and next_stamp(run_of(state, 2, MM)).key == "peeled"


def test_a_sleeve_is_read_once_it_is_cold_and_compared(fitted, shipped):
    fit = fit_of(fold(fitted, shipped), 4)
    closes = sum(fit.grip.closes_mm) / 2.0
    way = SleeveWayTaken(cylinder=4, way="touch up")
    held = longer(fitted, way, RunChecked(step="sleeve", cylinder=4, check="held"))
    assert stage_of(fold(held, shipped), 4).key == "read" and "Let it cool" in advise(fold(held, shipped)).sentence
    good = after(held, shipped, AfterPressRead(cylinder=4, sizes_mm=(104.6 - closes,) * 3))
    assert not closing_of(good, 4).off and stage_of(good, 4).sure
    assert "The bar finishes it to" in advise(good).sentence
    hung = after(held, shipped, AfterPressRead(cylinder=4, sizes_mm=(104.6,) * 3))
    assert closing_of(hung, 4).off and "Look why" in advise(hung).sentence and advise(hung).mark is Mark.LOOK


def test_the_bar_waits_for_the_sleeve_and_then_leaves_more_for_the_hone(fitted, shipped):
    state = fold(fitted, shipped)
    assert awaits_sleeve(state, 4) and plan_of(state, 4).missing == Missing(Lack.TO_BE_SLEEVED)
    assert 4 not in still_to_bore(state)[0]
    read = after(fitted, shipped, AfterPressRead(cylinder=4, sizes_mm=(104.57, 104.57, 104.57)))
    plan = plan_of(read, 4)
    assert plan.left_mm == (0.08, 0.15) and plan.stock_mm == pytest.approx(plan.target_mm - 104.57)
    assert 4 in still_to_bore(read)[0]


def test_a_hole_bored_before_the_sleeve_went_in_is_not_the_finished_one(fitted, shipped):
    early = HoleBored(cylinder=4, set_mm=105.0, sizes_mm=(105.01,))
    state = after(fitted, shipped, early, AfterPressRead(cylinder=4, sizes_mm=(104.57,) * 3))
    assert plan_of(state, 4).done is None


def test_sleeves_that_would_grip_more_evenly_elsewhere_are_told(ledger_of, shipped):
    swap = [
        SleeveMeasured(cylinder=1, outside_mm=95.588, bore_mm=88.6, sleeve_c=20.0),
        SleeveMeasured(cylinder=2, outside_mm=95.579, bore_mm=88.6, sleeve_c=20.0),
    ]
    before = [r for r in ledger_of("2044") if not isinstance(r.entry, AfterPressRead)]
    state = after(before, shipped, *swap)
    match = match_of(state)
    assert len(match.pairs) == 4 and not match.as_it_is and dict(match.best) == {1: 2, 2: 1}
    assert "grip more evenly as: 2 in 1, 1 in 2" in " ".join(sleeve_advice.advise(state, 1, MM).changes)
    assert match_of(fold(before, shipped)).as_it_is


def test_job_2044_says_what_it_is(state_of):
    state = state_of("2044")
    assert fit_of(state, 2).oval_mm == pytest.approx(0.0019 * 25.4, abs=0.003)
    assert deck_of(state, 0).out_mm == pytest.approx(0.006 * 25.4)
    for cylinder in (1, 2):
        assert stage_of(state, cylinder).key == "in" and chosen_way(state, cylinder).standing == "sure"
        assert "the hone is next" in sleeve_advice.advise(state, cylinder, MM).sentence
    assert "of the listed oversizes" in " ".join(sleeve_advice.advise(state, 1, MM).changes)


def test_care_is_for_cold_and_heat_when_they_are_near(fitted, shipped):
    going = after(fitted, shipped, SleeveWayTaken(cylinder=4, way="touch up"))
    assert "suffocate" in advise(going).care and "suffocate" in advise(fold(fitted, shipped), page="heat").care
    assert "lifting gear" in advise(fold(fitted, shipped)).care


# -- typing ----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("text", "entry"),
    [
        ("old 110.06", OldSleeveMeasured(cylinder=4, outside_mm=110.06)),
        (
            "parent 110.01 110.02 110.00 at 60",
            ParentRead(cylinder=4, depth_mm=60.0, sizes_mm=(110.01, 110.02, 110.0)),
        ),
        ("outside 122 to 128", ParentOutsideStated(low_mm=122.0, high_mm=128.0)),
        ("outside 125", ParentOutsideStated(low_mm=125.0, high_mm=125.0)),
        ("sleeve 110.058 x 104.6", SleeveMeasured(cylinder=4, outside_mm=110.058, bore_mm=104.6)),
        (
            "sleeve 110.058 x 104.6 flange 5.0 long 212.3 68 F",
            SleeveMeasured(
                cylinder=4, outside_mm=110.058, bore_mm=104.6, flange_mm=5.0, length_mm=212.3, sleeve_c=20.0
            ),
        ),
        ("deck 0 0.05 / 0.08 0.15", DeckRead(bank=0, rows_mm=((0.0, 0.05), (0.08, 0.15)))),
        ("faced 0.163", DeckFaced(bank=0, cut_mm=0.163)),
        ("counterbore 4.95", CounterboreRead(cylinder=4, depth_mm=4.95)),
        ("protrusion 0.03 to 0.07", ProtrusionStated(low_mm=0.03, high_mm=0.07)),
        ("cold -75 C", SleeveCold(sleeve_c=-75.0)),
        ("after 104.57 104.571 104.569", AfterPressRead(cylinder=4, sizes_mm=(104.57, 104.571, 104.569))),
        ("21 C", BlockTemperature(block_c=21.0)),
    ],
)
def test_what_is_typed_at_the_sleeves(fitted, shipped, text, entry):
    assert typed(fold(fitted, shipped), text) == entry


@pytest.mark.parametrize(
    ("text", "why"),
    [
        ("hammer 5", "begins with"),
        ("old", "figure is wanted"),
        ("old 104.9", "not outside the bore"),
        ("parent 110.0 112.5", "too far apart"),
        ("parent 110.0 110.0 at 300", "is not in a cylinder"),
        ("outside 128 to 122", "smaller outside comes first"),
        ("outside 90", "not outside the bore"),
        ("sleeve 110.058", "write it like: "),
        ("sleeve 104.6 x 110.058", "outside comes first"),
        ("sleeve 110.058 x 104.6 flange 50", "Check the unit"),
        ("sleeve 110.058 x 104.6 90 C", "no temperature"),
        ("deck 0 0.05", "three places or more"),
        ("deck 0 0.05 / 0.08", "as many in every row"),
        ("deck 0 5 / 1 2", "No deck is so far out"),
        ("faced 12", "Check the unit"),
        ("counterbore 80", "Check the unit"),
        ("protrusion 0.07", "Least and most"),
        ("protrusion 0.07 0.03", "least comes first"),
        ("cold 20", "How cold"),
        ("cold -250 C", "nitrogen"),
        ("after 103.1", "too far from the sleeve"),
        ("4.2", "begins with"),
    ],
)
def test_what_is_refused_at_the_sleeves_has_its_reason(fitted, shipped, text, why):
    with pytest.raises(InputError, match=why):
        typed(fold(fitted, shipped), text)


def test_what_closed_cannot_be_told_without_its_sleeve(called, shipped):
    with pytest.raises(InputError, match="No sleeve was measured"):
        typed(fold(called, shipped), "after 104.57")


@pytest.mark.parametrize("units", list(Units))
def test_an_example_of_the_parents_outside_is_in_the_units_of_the_job(called, shipped, units):
    state = after(called, shipped, *ROUND, sleeve())
    advice = sleeve_advice.advise(state, 4, Show(units), "fit")
    (told,) = {found for note in advice.changes for found in re.findall(r"outside [\d.]+ to [\d.]+", note)}
    read = one_typed("sleeve", told, state, Where(4, Place(0, 0), units))
    assert state.block.bore_mm < read.low_mm < read.high_mm < 2.0 * state.block.bore_mm
