"""Edges that random faults went unseen at, each worked by hand: who is asked, what counts, and where a limit lies."""

import math
from dataclasses import replace
from types import SimpleNamespace as Some

import numpy as np
import pytest

from redline_bore.core.cleanup_bound import Lacks
from redline_bore.core.errors import InputError
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.bore.tools import shelf_of
from redline_bore.job.call import asks, light_options, need, options, shadow
from redline_bore.job.call.asks import AskFor
from redline_bore.job.call.best import best_of
from redline_bore.job.call.option import MAY, NO, SURE, Option, OptionKind
from redline_bore.job.call.reason import Why
from redline_bore.job.finish import judgement, plateau
from redline_bore.job.gauge import doubt, doubtful, plate, second_opinion
from redline_bore.job.gauge.doubtful import DoubtOf
from redline_bore.job.hone import model, progress, set_up, shape, steps, track
from redline_bore.job.hone.set_up import SetUpWhy
from redline_bore.job.kinds.bore import BarSet, EdgeTurned, InsertShelved, MachineStated
from redline_bore.job.kinds.defects import WallRead
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.gauge import BlockTemperature, ReadingBooked
from redline_bore.job.kinds.hone import CheckLogged
from redline_bore.job.kinds.plate import torque_nm
from redline_bore.job.redline import Redline
from redline_bore.job.sign_off import learned
from redline_bore.job.sleeve import run as sleeve_run
from redline_bore.job.sleeve import ways
from redline_bore.job.sleeve.ways import SleeveDoing
from redline_bore.job.words import hone as hone_words
from redline_bore.job.words import shadow as shadow_words
from tests.job.benches import after, but, longer, one_typed

METRIC = Show(Units.METRIC)


# -- the bar and its shelf -----------------------------------------------------------------------------------------


def test_the_insert_in_the_bar_is_the_one_that_is_marked():
    def record(seq, entry):
        return Some(seq=seq, entry=entry)

    told = {"nose_radius_mm": 0.4, "rake": "positive", "grade": "plain"}
    ledger = [
        record(1, InsertShelved(insert="a", edges=3, count=2, **told)),
        record(2, BarSet(insert="b", nose_radius_mm=0.4, rake="positive", feed_mm=0.1, rpm=300.0)),
        record(3, EdgeTurned(insert="a")),
    ]
    found = {line.insert: line for line in shelf_of([ledger], "b")}
    assert not found["a"].in_bar and found["b"].in_bar
    assert (found["a"].edges, found["a"].used, found["a"].left) == (6, 1, 5) and found["b"].left == 0


def test_two_speeds_stand_beside_the_one_that_is_set(state_of, ledger_of, shipped):
    from redline_bore.job.bore.plan import cuts_beside

    bar = BarSet(insert="TPG 321", nose_radius_mm=0.4, rake="positive", feed_mm=0.08, rpm=850.0)
    north = MachineStated(name="north", thick_mm=60.0, reach_mm=300.0, speeds_rpm=(750.0, 800.0, 850.0, 900.0, 950.0))
    own = [c for c in cuts_beside(after(ledger_of("2041"), shipped, north, bar)) if c.what == "TPG 321"]
    assert [c.rpm for c in own] == [850.0, 800.0, 900.0]


# -- what is asked -------------------------------------------------------------------------------------------------


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
        ((Lacks.CHORDS,), 20.0, None, [AskFor.SWEEP, AskFor.CHORDS]), ((), 20.0, None, [AskFor.SWEEP]),
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


@pytest.mark.parametrize(
    "past, standing, why",
    [
        (1.1, NO, Why.GAP_TAPER),
        (0.9, MAY, Why.GAP_TAPER_CLOSE),
        (-0.9, MAY, Why.GAP_TAPER_CLOSE),
        (-1.1, MAY, Why.GAP_TAPER),
    ],
)
def test_a_taper_by_ring_gaps_is_close_within_the_feelers_doubt(monkeypatch, shipped, past, standing, why):
    limit = shipped.number("limits.deglaze_taper")
    u = math.sqrt(2.0) * shipped.number("gauging.feeler_u") / math.pi
    monkeypatch.setattr(light_options, "gap_taper", lambda state, c: limit + past * u)
    found = light_options.by_ring_gaps(Some(cylinders=(1, 2), figures=shipped), "deglaze")
    assert (found.standing, found.reasons[0].why) == (standing, why)


@pytest.mark.parametrize("of_doubt, standing", [(-1.1, NO), (-0.9, MAY), (0.9, MAY), (1.1, SURE)])
def test_a_parent_wall_is_judged_within_its_doubt(monkeypatch, shipped, of_doubt, standing):
    wall, least, about = (shipped.number(k) for k in ("sleeves.wall", "sleeves.parent_least", "wall.doubt"))
    monkeypatch.setattr(options, "places_to_read", lambda state, c: ())
    monkeypatch.setattr(options, "thinnest_places", lambda state, c: ())
    read = (Some(cylinder=2, wall_mm=wall + least + of_doubt * about), Some(cylinder=3, wall_mm=0.1))
    state = Some(figures=shipped, gauging=Some(wall_readings=read))
    assert options._seat(state, Some(cylinder=2), False).standing is standing


def test_a_mark_stands_half_way_between_its_ends(monkeypatch):
    heard = []
    monkeypatch.setattr(need, "swept_wall", lambda depths, clocks, radii, marks: heard.extend(marks))
    need._wall([], [Some(top_mm=20.0, bottom_mm=50.0, clock_deg=90.0, deep_high_mm=0.2)])
    assert [(m.depth_mm, m.clock_deg, m.depth_of_mm if hasattr(m, "depth_of_mm") else 0.2) for m in heard] == [
        (35.0, 90.0, 0.2)
    ]


def test_the_share_of_a_shadow_counts_what_is_known():
    assert shadow._share(np.array([[0.1, 0.0], [np.nan, 0.5]])) == pytest.approx(2 / 3)
    assert shadow._share(np.array([[np.nan]])) == 0.0
    assert [shadow_words._of_wall(s) for s in (0.0, 0.009, 0.01, 0.02)] == [
        "none",
        "under 1% of the wall",
        "1% of the wall",
        "2% of the wall",
    ]


# -- the gauge -----------------------------------------------------------------------------------------------------


def test_a_level_at_the_very_end_of_the_travel_is_in_it():
    levels = [Some(depth_mm=d) for d in (9.0, 10.0, 50.0, 90.0, 91.0)]
    assert doubt._inside(Some(levels=levels), Some(top_mm=10.0, bottom_mm=90.0)) == [1, 2, 3]


def test_the_zero_that_stands_off_is_the_newest(shipped):
    limit = shipped.number("gauging.drift_limit")

    def state(*off):
        spans = tuple(Some(start_off_mm=o) for o in off)
        return Some(
            figures=shipped,
            units=Units.METRIC,
            gauging=Some(zero=object(), zero_spans=spans, readings=(), three_points=()),
        )

    assert doubt.zero_lacks(state(0.0, 2.0 * limit, 0.0)) is None
    assert doubt.zero_lacks(state(0.0, 0.0, 2.0 * limit)) is doubt.ZeroLacks.STANDS_OFF


def test_the_doubt_of_wear_joins_both_readings(state_of):
    from redline_bore.job.gauge.analysis import shape_of

    state = state_of("2041")
    for cylinder in state.cylinders:
        shape = shape_of(state, cylinder)
        found = doubt.shape_doubt(state, shape)
        inside = doubt._inside(shape, state.travel)
        outside = [found.levels[i].mean_mm for i in range(len(found.levels)) if i not in inside]
        assert found.wear_mm == pytest.approx(2.0 * math.hypot(found.reading.own_mm, min(outside)))


@pytest.mark.parametrize(
    "grown, wanted", [(-0.0065, DoubtOf.SHRUNK), (-0.0055, None), (0.0, None), (0.24, None), (0.26, DoubtOf.LEAPT)]
)
@pytest.mark.parametrize("warm", [None, 30.0])
def test_a_check_is_held_against_the_one_before_at_its_own_temperature(state_of, grown, warm, wanted):
    state = state_of("2036")
    last = state.honing.checks_of(1)[-1].mean_mm
    scale = 1.0 if warm is None else 1.0 + state.coefficient_1e6 * 1e-6 * (warm - 20.0)
    there = but(state, clamped={"block_c": warm})
    found = doubtful.doubt_in(
        there, [CheckLogged(cylinder=1, strokes=9.0, sizes_mm=((last + grown) * scale,) * 3)], Units.METRIC
    )
    assert (found and found.what) == wanted


@pytest.mark.parametrize("of_bore, wanted", [(1.029, True), (0.971, True), (1.032, False), (0.968, False)])
def test_a_count_of_strokes_like_the_bore_is_a_size(state_of, of_bore, wanted):
    state = but(state_of("2041"), honing={"checks": ()})
    strokes = round(state.block.bore_mm * of_bore, 1)
    found = doubtful.doubt_in(state, [CheckLogged(cylinder=1, strokes=strokes, sizes_mm=(105.6,))], Units.METRIC)
    assert (found is not None) is wanted


def test_a_reading_of_a_warm_block_is_doubted_as_it_would_be_cold(ledger_of, shipped, state_of):
    state = after(ledger_of("2041"), shipped, BlockTemperature(block_c=60.0))
    scale = 1.0 + state.coefficient_1e6 * 1e-6 * 40.0
    spot = state.gauging.readings_of(1, state.clamped.plate_on)[0]
    others = [r.size_mm for r in state.gauging.readings_of(1, spot.plate_on) if abs(r.depth_mm - spot.depth_mm) < 0.6]
    size = doubtful.median(others) * scale
    said = ReadingBooked(
        cylinder=1, depth_mm=spot.depth_mm, clock_deg=spot.clock_deg, diameter_mm=size, plate_on=spot.plate_on
    )
    found = doubtful.doubt_in(state, [said], Units.METRIC)
    assert found is None or found.what is DoubtOf.READ_ALREADY
    far = replace(said, diameter_mm=size + 2.0 * shipped.number("gauging.odd_reading"))
    found = doubtful.doubt_in(state, [far], Units.METRIC)
    assert found.what is DoubtOf.FAR_FROM_OTHERS and found.mm[1] == pytest.approx(
        2.0 * shipped.number("gauging.odd_reading") / scale, abs=1e-6
    )


@pytest.mark.parametrize("plate_on", [True, False])
def test_a_hole_smaller_than_it_was_gauged_either_way_was_not_touched(plate_on):
    hole = Some(cylinder=1, sizes_mm=(80.39, 80.41))

    def readings_of(cylinder, plate):
        return [Some(size_mm=80.40)] if plate is plate_on else []

    state = Some(boring=Some(holes=[hole]), gauging=Some(readings_of=readings_of))
    found = doubtful._of_look(state, Some(cylinder=1))
    assert found.what is DoubtOf.NOT_TOUCHED and found.mm == (80.39, 80.40)
    larger = Some(boring=Some(holes=[Some(cylinder=1, sizes_mm=(80.395, 80.41))]), gauging=state.gauging)
    assert doubtful._of_look(larger, Some(cylinder=1)) is None


def test_fasteners_are_near_by_both_directions(monkeypatch):
    bore = Some(along_mm=0.0, across_mm=0.0, bank=0)
    near = [
        Some(along_mm=x, across_mm=y, bank=b)
        for x, y, b in ((60, 70, 0), (70, 60, 0), (0, 96, 0), (0, 97, 0), (80, 80, 0), (10, 10, 1))
    ]
    monkeypatch.setattr(plate, "bore_positions", lambda block: [bore])
    monkeypatch.setattr(plate, "fastener_positions", lambda block: near)
    found = plate.bearings(Some(block=Some(bore_mm=80.0)), 1)
    assert set(found) == {1, 2, 3}


@pytest.mark.parametrize(
    "ours, theirs, aim, wanted",
    [(True, True, None, True), (True, False, 0.05, True), (True, False, None, False), (False, True, 0.05, False)],
)
def test_clearances_are_compared_where_both_have_a_piston_or_an_aim(state_of, ours, theirs, aim, wanted):
    from redline_bore.job.state.comparing import OtherConditions, OtherReading, SecondOpinion

    state = but(state_of("2036"), **({} if ours else {"calling": {"pistons": ()}}))
    shop = SecondOpinion(
        OtherConditions(who="Weir", plate_on=True, at_20=True, aim_mm=aim),
        (OtherReading(who="Weir", cylinder=1, diameter_mm=83.06),),
        ((1, 82.99),) if theirs else (),
    )
    found = second_opinion._compare(state, shop, shop.readings[0])
    assert found.clearances is wanted


# -- the hone ------------------------------------------------------------------------------------------------------


def test_a_hard_band_begins_at_the_deck(state_of):
    state = state_of("2036")
    with_band = but(state, booking={"book_in": replace(state.book_in, block=replace(state.block, band_mm=30.0))})
    assert model._hard_band(with_band) == ((0.0, 30.0, state.figures.number("stones.hard_band_cuts")),)
    without = but(state, booking={"book_in": replace(state.book_in, block=replace(state.block, band_mm=None))})
    assert model._hard_band(without) == ()


@pytest.mark.parametrize("past_u, over", [(1.0, False), (1.0 + 2e-6, True), (0.0, False), (-1.0, False)])
def test_it_is_over_once_it_is_past_by_more_than_u(past_u, over):
    ends = Some(redline_mm=80.0, top_mm=80.02, u_mm=0.005)
    last = Some(mean_mm=80.0 + past_u * 0.005, largest_mm=80.0 + past_u * 0.005)
    found = progress.Progress(1, None, ends, None, 0, (), last, None, None, None, None, False)
    assert found.over is over


def test_the_end_of_a_step_is_its_own(monkeypatch):
    monkeypatch.setattr(progress, "shorts_of", lambda state: (0.05, 0.012, 0.0))
    ends = Some(redline_mm=80.0)
    assert [progress._target(None, ends, s) for s in (0, 1, 2, 3)] == pytest.approx([79.95, 79.988, 80.0, 80.0])
    assert progress._target(None, None, 0) is None


def test_a_load_that_was_not_set_counts_as_the_roughing_load(shipped):
    state = Some(figures=shipped)
    rough = shipped.number("honing.rough_load")
    assert set_up.load_share(state, None) == 1.0 and set_up.load_share(state, rough / 2.0) == pytest.approx(0.5)


@pytest.mark.parametrize("turn", [0, 1, 2])
def test_a_stones_end_turns_round_at_three_places(monkeypatch, shipped, turn):
    monkeypatch.setattr(set_up, "stone_mm", lambda state: 60.0)
    stroke, near = Some(over_bottom_mm=10.0, over_top_mm=8.0), shipped.number("honing.pin_hole_near")
    places = (
        110.0,
        50.0,
        52.0,
    )  # of a hole of 100: the lower end at the bottom, the upper end there, the lower end at the top
    for off, wanted in ((0.0, True), (0.9 * near, True), (1.1 * near + 3.0, False)):
        note = Some(depth_mm=places[turn] + off, what="pin hole")
        state = Some(figures=shipped, block=Some(length_mm=100.0), boring=Some(cut_notes=(note,)))
        assert bool(set_up._openings(state, stroke)) is wanted


@pytest.mark.parametrize("edge, off, told", [(0, 0.4, False), (0, 0.6, True), (1, 0.4, False), (1, 0.6, True)])
def test_a_speed_is_told_half_a_metre_out_of_what_is_usual(shipped, edge, off, told):
    at = shipped.row("honing.axial_speed")[edge] + (off if edge else -off)
    inside = sum(shipped.row("honing.surface_speed_vitrified")) / 2.0
    state = Some(figures=shipped, honing=Some(stones=None))
    found = set_up._speed_looks(state, Some(machine="vertical"), Some(rotary_m_per_min=inside, axial_m_per_min=at))
    assert [r.why for r in found] == ([SetUpWhy.STROKES] if told else [])


@pytest.mark.parametrize("share, told", [(0.49, True), (0.5, False), (0.75, False), (0.76, True)])
def test_a_stone_is_half_to_three_quarters_of_the_hole(monkeypatch, share, told):
    monkeypatch.setattr(set_up, "stone_mm", lambda state: 200.0 * share)
    state = Some(block=Some(length_mm=200.0), honing=Some(stones=Some(bedded=True)))
    assert [r.why for r in set_up._stone_looks(state)] == ([SetUpWhy.STONE_SHARE] if told else [])


def test_an_open_end_is_closed_by_less_dwell_first(monkeypatch, shipped):
    monkeypatch.setattr(shape, "stone_mm", lambda state: 100.0)
    state, step = Some(figures=shipped), shipped.number("honing.dwell_step")
    waits = shape._end(state, -0.01, 0.005, 20.0, 1.0, 40.0)
    assert waits == (20.0, round(1.0 - 2.0 * step, 1))
    still = shape._end(state, -0.01, 0.005, 20.0, 0.0, 40.0)
    assert still.dwell_s == 0.0 and still.over_mm < 20.0
    assert shape._end(state, 0.004, 0.005, 20.0, 1.0, 40.0) == (20.0, 1.0)


@pytest.mark.parametrize("step, wanted", [(0, 0.012), (1, 0.0), (2, 0.0)])
def test_what_a_plateau_still_takes_is_kept_back_before_the_last_step(monkeypatch, step, wanted):
    monkeypatch.setattr(track, "shorts_of", lambda state: (0.012, 0.0))
    monkeypatch.setattr(track, "plateau_takes", lambda state: 0.02)
    monkeypatch.setattr(track, "between_places", lambda state, check: 0.001)
    ends = track.Ends(80.0, 79.98, 80.02, 0.005)
    aim = track.aim_of(None, ends, Some(largest_mm=79.9, mean_mm=79.9), step)
    assert aim.kept_mm == wanted


def test_the_window_of_a_hole_stands_on_its_piston(state_of):
    state = state_of("2036")
    for c in state.cylinders:
        ends, r = track.ends_of(state, c), progress.progress_of(state, c).redline
        piston = state.calling.piston(c).size_mm
        assert (ends.low_mm, ends.top_mm) == pytest.approx((piston + r.window.low_mm, piston + r.window.high_mm))
        assert ends.low_mm < ends.redline_mm < ends.top_mm


@pytest.mark.parametrize(
    "strokes, wanted",
    [((0.0, 20.0), True), ((0.0, 0.0), False), ((20.0, 10.0), False), ((0.0,), False), ((0.0, 10.0, 30.0), True)],
)
def test_how_fast_a_step_went_is_known_once_a_bite_of_it_was_read(monkeypatch, strokes, wanted):
    checks = [Some(strokes=s) for s in strokes]
    monkeypatch.setattr(track, "checks_in", lambda state, c, step: checks)
    monkeypatch.setattr(track, "_starting_rate", lambda *a: 0.001)
    monkeypatch.setattr(track, "_seen", lambda *a: [1, 2, 3, 4])
    monkeypatch.setattr(track, "_rules", lambda *a: None)
    monkeypatch.setattr(track, "followed", lambda seen, *a: Some(rate_mm=float(len(seen))))
    state = Some(last_seq=1, figures=Some(number=lambda k: 0.3))
    found = track._rates_of.__wrapped__(state, 1, 0)
    assert found == (track.StepRates(3.0, 4.0) if wanted else None)


def test_seconds_are_asked_of_the_last_step(monkeypatch, shipped):
    heard = []
    monkeypatch.setattr(steps, "practice_of", lambda state: Some(steps=("a", "b", "c")))
    monkeypatch.setattr(steps, "seconds_a_stroke", lambda state, step: heard.append(step))
    assert steps.light_strokes(Some(figures=shipped)) == shipped.row("honing.plateau_strokes") and heard == [2]


@pytest.mark.parametrize("by, word", [(0.01, "tight"), (0.6, "tight"), (-0.01, "open")])
def test_the_end_that_asks_for_it_is_named(by, word):
    form = Some(tight_top_mm=by, tight_bottom_mm=0.0)
    to = Some(over_top_mm=20.0, over_bottom_mm=20.0, dwell_top_s=0.0, dwell_bottom_s=0.0)
    assert word in hone_words._set_words(form, to, METRIC)


@pytest.mark.parametrize(
    "size, window, provisional, wanted",
    [(80.07, 0.07, True, 80.0), (80.07, 0.07, False, None), (None, 0.07, True, None)],
)
def test_the_piston_a_provisional_redline_is_for(size, window, provisional, wanted):
    found = Redline(size, None, None, Some(aim_mm=window), None, provisional).piston_mm
    assert found == (None if wanted is None else pytest.approx(wanted))


# -- the finish ----------------------------------------------------------------------------------------------------


def test_traces_before_the_plateau_stand_from_the_top_down():
    traces = [Some(plateau_strokes=0.0, depth_mm=d) for d in (None, 90.0, 10.0)] + [
        Some(plateau_strokes=8.0, depth_mm=50.0)
    ]
    state = Some(finishing=Some(traces_of=lambda c: traces))
    assert [t.depth_mm for t in judgement.traces_before(state, 1)] == [10.0, 90.0, None]


def test_a_coarser_stone_is_the_one_whose_middle_marks_are_deep_enough(monkeypatch, shipped):
    marks = {"fine": (4.0, 6.0), "middle": (10.0, 14.0), "coarse": (30.0, 50.0)}
    monkeypatch.setattr(plateau, "finish_windows", lambda state: {"Rvk": Some(low=2.0), "Rz": Some(low=11.0)})
    monkeypatch.setattr(plateau, "texture_at", lambda t: Some(Rz=8.0))
    monkeypatch.setattr(plateau, "stone_names", lambda figures: tuple(marks))
    monkeypatch.setattr(plateau, "stones_said", str)
    monkeypatch.setattr(plateau, "rz_of", lambda state, s: marks[s])
    monkeypatch.setattr(plateau, "progress_of", lambda state, c: Some(left_mm=0.03))
    found = plateau.coarser_for(Some(figures=shipped), 1, [object()], 4.0)
    assert found.stones == "middle" and found.metal_mm == pytest.approx(2.0 * 12.0 / 1000.0)
    deep = plateau.coarser_for(Some(figures=shipped), 1, [object()], 0.4)  # 40 um are wanted
    assert deep.stones == "coarse"


# -- lessons and sleeves -------------------------------------------------------------------------------------------


@pytest.mark.parametrize("count, taught", [(2, False), (3, True), (5, True)])
def test_a_rate_is_a_lesson_from_enough_checks(monkeypatch, shipped, count, taught):
    least = learned.LEAST_CHECKS
    checks = [
        Some(stones="", strokes=10.0 * i, mean_mm=80.0 + 0.01 * i, load=100.0 * (i + 1))
        for i in range(count - 3 + least)
    ]
    monkeypatch.setattr(learned, "stones_of", lambda state: ("vitrified_150",))
    monkeypatch.setattr(learned, "load_share", lambda state, load: load)
    state = Some(honing=Some(checks_of=lambda c, step: checks))
    rows = learned._honed(state, 1)
    assert bool(rows) is taught
    if taught:
        assert rows[0][2] == pytest.approx(0.001 / checks[-1].load)


@pytest.mark.parametrize(
    "way, standing, sure",
    [(SleeveDoing.TOUCH_UP, SURE, True), (SleeveDoing.TOUCH_UP, MAY, False), (SleeveDoing.OVERSIZE, SURE, False)],
)
def test_a_way_is_surely_picked_where_the_usual_one_surely_goes(monkeypatch, way, standing, sure):
    monkeypatch.setattr(sleeve_run, "fit_of", lambda state, c: Some(rings=(1,), grip=1, sleeve=1))
    monkeypatch.setattr(sleeve_run, "chosen_way", lambda state, c: None)
    monkeypatch.setattr(sleeve_run, "ways_of", lambda state, c: (Some(way=way, standing=standing),))
    stage = sleeve_run.stage_of(Some(sleeving=Some(after_of=lambda c: None)), 1)
    assert stage.key is sleeve_run.SleeveStage.WAY and stage.sure is sure


@pytest.mark.parametrize(
    "seq, way, wanted",
    [
        (11, SleeveDoing.OVERSIZE, True),
        (10, SleeveDoing.OVERSIZE, False),
        (9, SleeveDoing.OVERSIZE, False),
        (9, SleeveDoing.BORE_TO_IT, True),
        (11, SleeveDoing.REPAIR, False),
    ],
)
def test_the_grip_is_the_real_one_once_the_sleeve_for_the_way_was_measured(monkeypatch, seq, way, wanted):
    monkeypatch.setattr(ways, "wanted_interference", lambda state, parent: (0.03, 0.05, 0.07))
    state = Some(sleeving=Some(way_of=lambda c: Some(way=way, seq=10)))
    fit = Some(cylinder=1, sleeve=Some(seq=seq), parent_mm=90.0)
    assert ways._real_grip(state, fit, way, 90.01) is wanted
    assert not ways._real_grip(state, fit, way, 90.02)


def test_a_sleeve_too_small_for_a_round_parent_tells_what_it_would_take(monkeypatch):
    monkeypatch.setattr(ways, "_clean_mm", lambda *a: 90.10)
    fit = Some(cylinder=1, sleeve=Some(outside_mm=90.1), wanted_mm=90.05, parent_mm=90.0)
    found = ways._to_the_sleeve(Some(), fit)
    assert found.standing is NO and found.metal_mm == pytest.approx(0.05) and not found.step


# -- typed lines ---------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("text, ok", [("1 Nm", True), ("0.9 Nm", False), ("2000 Nm", True), ("2001 Nm", False)])
def test_a_torque_of_a_head_fastener(text, ok):
    if ok:
        assert torque_nm(text, Units.METRIC) == float(text.split()[0])
    else:
        with pytest.raises(InputError, match="no torque"):
            torque_nm(text, Units.METRIC)


@pytest.mark.parametrize(
    "step, text, ok",
    [
        ("bore", "machine old thick 60 reach 30 speeds 200 300", True), ("bore", "machine old thick 60 reach 29 speeds 200 300", False),
        ("bore", "machine old thick 60 reach 3000 speeds 200", True), ("bore", "machine old thick 60 reach 3001 speeds 200", False),
        ("sleeve", "deck 0 0.01 0.02", True), ("sleeve", "deck 0 0.01", False), ("sleeve", "deck 0 / 0.01 / 0.02", True),
    ],
)  # fmt: skip
def test_the_edges_of_what_may_be_typed(state_of, step, text, ok):
    from redline_bore.core.gauging import Place
    from redline_bore.job.kinds.phrase import Where

    where = Where(1, Place(0, 0), Units.METRIC)
    if ok:
        assert one_typed(step, text, state_of("2044"), where) is not None
    else:
        with pytest.raises(InputError):
            one_typed(step, text, state_of("2044"), where)


@pytest.mark.parametrize("levels, ok", [(2, True), (20, True), (21, False), (1, False)])
def test_a_plan_has_two_to_twenty_levels(levels, ok):
    from redline_bore.core.gauging import LevelPlan
    from redline_bore.job.kinds.gauge import _few

    plan = LevelPlan("own", tuple(float(i) for i in range(levels)), (0.0, 90.0))
    if ok:
        assert _few(plan) is plan
    else:
        with pytest.raises(InputError, match="2 to 20 levels"):
            _few(plan)


def test_a_wall_reading_of_the_other_cylinders_is_not_this_ones(ledger_of, shipped):
    book = longer(ledger_of("2041"), WallRead(cylinder=5, clock_deg=90.0, depth_mm=60.0, wall_mm=0.5, zone="thrust"))
    before, now = fold(ledger_of("2041"), shipped), fold(book, shipped)
    fate = Some(cylinder=4)
    assert options._seat(now, fate, False) == options._seat(before, fate, False)


@pytest.mark.parametrize(
    "layout, said, banks",
    [
        ("vee", "not said", [0, 0, 1, 1]), ("vee", "by bank", [0, 0, 1, 1]), ("vee", "across", [0, 1, 0, 1]),
        ("flat", "across", [0, 1, 0, 1]), ("inline", "across", [0, 0, 0, 0]), ("inline", "not said", [0, 0, 0, 0]),
    ],
)  # fmt: skip
def test_two_banks_are_counted_as_somebody_said(layout, said, banks):
    from redline_bore.core.block import BlockSpec, Layout, Numbering, bank_of, bore_positions

    block = BlockSpec(Layout(layout), 4, 80.0, 80.0, 130.0, numbering=Numbering(said))
    found = bore_positions(block)
    assert [b.number for b in found] == [1, 2, 3, 4] and [b.bank for b in found] == banks
    assert [bank_of(block, n) for n in (1, 2, 3, 4)] == banks
    front = [b for b in found if b.along_mm == 0.0]
    assert {b.bank for b in front} == set(banks)


@pytest.mark.parametrize(
    "layout, said, read, asked",
    [
        ("vee", "not said", False, True),
        ("vee", "across", False, False),
        ("vee", "not said", True, False),
        ("inline", "not said", False, False),
    ],
)
def test_how_two_banks_are_counted_is_asked_before_the_first_reading(state_of, layout, said, read, asked):
    from redline_bore.core.block import Layout, Numbering
    from redline_bore.job.words.readings import advise

    state = state_of("2029" if layout == "vee" else "2041")
    block = replace(state.block, layout=Layout(layout), numbering=Numbering(said))
    there = but(
        state,
        booking={"book_in": replace(state.book_in, block=block)},
        **({} if read else {"gauging": {"readings": ()}}),
    )
    lines = [f for f in advise(there, 1, METRIC).figures if f.label == "numbered"]
    assert bool(lines) is asked and all(f.by == "book_in_revised/numbered" for f in lines)


@pytest.mark.parametrize(
    "units, strokes, doubted",
    [(Units.METRIC, 12.5, False), (Units.METRIC, 12.55, True), (Units.METRIC, 12.0, False), (Units.INCH, 12.5, True), (Units.INCH, 12.0, False)],
)  # fmt: skip
def test_strokes_with_a_part_are_a_size_where_nobody_counts_parts(state_of, units, strokes, doubted):
    state = but(state_of("2041"), honing={"checks": ()})
    found = doubtful.doubt_in(state, [CheckLogged(cylinder=1, strokes=strokes, sizes_mm=(105.6,))], units)
    assert (found is not None and found.what is DoubtOf.STROKES_ARE_A_SIZE) is doubted


def test_a_second_opinion_without_readings_asks_for_them(state_of):
    shop = Some(conditions=Some(block_c=20.0, at_20=True))
    state = but(state_of("2041"), comparing={"second_opinions": (shop,)})
    assert second_opinion.settle_next(state, ()) is second_opinion.Settles.BOOK_THEIRS


def test_a_call_that_is_sure_wants_nothing_more(ledger_of, shipped):
    from redline_bore.job.words.calls_beside import side_of
    from tests.job.benches import settled

    state = fold(settled(ledger_of("2041"), shipped), shipped)
    sure = {x.name: x.value for x in side_of(state, 0.5, (), METRIC).lines}
    unsure = {x.name: x.value for x in side_of(fold(ledger_of("2041"), shipped), 0.5, (), METRIC).lines}
    assert sure["to be sure"] == "nothing more" and "sweep" in unsure["to be sure"]


@pytest.mark.parametrize("step, peaks", [(0, False), (1, True), (2, True)])
def test_no_set_up_is_told_where_only_peaks_are_cut(monkeypatch, state_of, step, peaks):
    state = state_of("2036")
    monkeypatch.setattr(shape, "stones_of", lambda state: ("vitrified_150", "brush_600"))
    monkeypatch.setattr(shape, "_honed_so", lambda state, c: True)
    run = replace(
        state.honing.run, machine="vertical", over_top_mm=10.0, over_bottom_mm=3.0, dwell_top_s=0.0, dwell_bottom_s=0.0
    )
    there = but(state, honing={"run": run})
    monkeypatch.setattr(type(there.honing), "step_of", lambda self, c: step)
    last = Some(sizes_mm=(83.0, 83.1, 83.0))
    assert (shape._set_to(there, 1, last, 0.1, 0.1) is None) is peaks


@pytest.mark.parametrize(
    "a, b, apart",
    [
        (0.0, 90.0, 90.0),
        (10.0, 170.0, 20.0),
        (0.0, 180.0, 0.0),
        (30.0, 330.0, 60.0),
        (350.0, 10.0, 20.0),
        (45.0, 60.0, 15.0),
    ],
)
def test_two_diameters_are_never_more_than_a_right_angle_apart(a, b, apart):
    assert second_opinion._between(a, b) == pytest.approx(apart)


@pytest.mark.parametrize("nearest, strokes", [(None, 0.0), (1.2, 6.0), (0.0, 0.0)])
def test_the_strokes_to_the_place_that_comes_nearest(nearest, strokes):
    found = plateau.PlateauForecast.nearest_strokes.fget(Some(nearest_um=nearest, rate=Some(um=0.2)))
    assert found == pytest.approx(strokes)


@pytest.mark.parametrize(
    "text, ok",
    [
        ("insert TPG 321 coated 1", True),
        ("insert TPG 321 coated 0", False),
        ("insert TPG 321 edges 1 coated 2", True),
        ("insert TPG 321 edges 17 coated 2", False),
    ],
)
def test_how_many_inserts_and_edges_there_can_be(state_of, text, ok):
    from redline_bore.core.gauging import Place
    from redline_bore.job.kinds.phrase import Where

    where = Where(1, Place(0, 0), Units.METRIC)
    if ok:
        assert one_typed("bore", text, state_of("2041"), where).count == int(text.split("coated ")[1].split()[0])
    else:
        with pytest.raises(InputError):
            one_typed("bore", text, state_of("2041"), where)


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


@pytest.mark.parametrize(
    "sizes, said",
    [
        (((83.0,), (83.0,)), False), (((83.02, 83.0), (83.03,)), False), (((83.00, 83.00), (83.04, 83.0)), True),
        (((83.04, 83.0), (83.00, 83.0)), False), (((83.0,), (83.0, 83.0), (83.0, 83.04)), True),
    ],
)  # fmt: skip
def test_a_taper_that_grows_is_told_of_checks_at_several_depths(state_of, sizes, said):
    checks = tuple(Some(sizes_mm=s, by_depth_mm=s) for s in sizes)
    notes = hone_words._taper_notes(state_of("2047"), Some(checks=checks, at_size=False), METRIC)
    assert bool(notes) is said
    if said:
        assert notes[0].startswith("Taper grew by 0.040") and ("bottom is tight" in notes[0]) is (
            sizes[-1][0] > sizes[-1][-1]
        )
    assert hone_words._taper_notes(state_of("2047"), Some(checks=checks, at_size=True), METRIC) == []


@pytest.mark.parametrize("look_first", [(), (4,)])
@pytest.mark.parametrize("may_shadow", [False, True])
@pytest.mark.parametrize("unread", [(), (2,)])
@pytest.mark.parametrize("may_be_thin", [(), (3,)])
def test_only_a_call_that_is_sure_is_lit(look_first, may_shadow, unread, may_be_thin):
    from redline_bore.job.call.finding import CallVerdict
    from redline_bore.job.words import call as call_words

    verdict = CallVerdict.MAY_SHADOW if may_shadow else CallVerdict.BORE
    found = Some(can_be_taken=True, look_first=look_first, verdict=verdict, unread=unread, may_be_thin=may_be_thin)
    sure = not (may_shadow or unread or may_be_thin)
    assert call_words._unsure(found) is (not look_first and not sure)
    wanted = "Take it, bore 4 first" if look_first else "Take the call" if sure else "Take it all the same"
    assert call_words._button(found) == wanted
