"""Edges that random faults went unseen at, each worked by hand: what is doubted and what is asked."""

import math
from dataclasses import replace
from types import SimpleNamespace as Some

import pytest

from redline_bore.core.errors import InputError
from redline_bore.core.gauging import LevelPlan
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.gauge import analysis, doubt, doubtful, plate, second_opinion, two_ends
from redline_bore.job.gauge import round as rounds
from redline_bore.job.gauge.doubtful import DoubtOf
from redline_bore.job.kinds.bore import HoleBored
from redline_bore.job.kinds.call import PistonMeasured
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.gauge import BlockTemperature, ReadingBooked
from redline_bore.job.kinds.hone import CheckLogged, StonesDressed
from redline_bore.job.state.readings import Readings
from redline_bore.job.words import readings as readings_words
from redline_bore.job.words.doubtful import say_doubt
from tests.job.benches import after, but, longer

METRIC = Show(Units.METRIC)


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
        **({} if read else {"gauging": {"readings": Readings()}}),
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


@pytest.mark.parametrize("shrunk, asked", [(0.0, False), (0.0055, False), (0.0065, True), (0.14, True), (-0.1, False)])
@pytest.mark.parametrize("warm", [None, 30.0])
def test_a_hole_does_not_come_smaller_from_the_bar_than_it_was(ledger_of, shipped, shrunk, asked, warm):
    state = fold(longer(ledger_of("2041"), HoleBored(cylinder=1, set_mm=105.5, sizes_mm=(105.5,) * 3)), shipped)
    scale = 1.0 if warm is None else 1.0 + state.coefficient_1e6 * 1e-6 * (warm - 20.0)
    there = but(state, clamped={"block_c": warm})

    def found(cylinder):
        sizes = ((state.boring.holes[-1].mean_mm - shrunk) * scale,) * 3
        return doubtful.doubt_in(there, [HoleBored(cylinder=cylinder, set_mm=105.5, sizes_mm=sizes)], Units.METRIC)

    assert (found(1) is not None and found(1).what is DoubtOf.HOLE_SHRUNK) is asked and found(2) is None


@pytest.mark.parametrize(
    "grown, asked",
    [(0.0, False), (0.249, False), (0.251, True), (5.27, True), (-0.0195, False), (-0.0205, True)],
)
@pytest.mark.parametrize("warm", [None, 30.0])
def test_the_first_check_of_a_hone_is_held_against_the_hole_from_the_bar(ledger_of, shipped, grown, asked, warm):
    state = fold(longer(ledger_of("2041"), HoleBored(cylinder=1, set_mm=105.5, sizes_mm=(105.5,) * 3)), shipped)
    scale = 1.0 if warm is None else 1.0 + state.coefficient_1e6 * 1e-6 * (warm - 20.0)
    there = but(state, clamped={"block_c": warm})
    bored = state.boring.holes[-1].mean_mm

    def found(cylinder):
        entry = CheckLogged(cylinder=cylinder, strokes=0.0, sizes_mm=((bored + grown) * scale,) * 3)
        return doubtful.doubt_in(there, [entry], Units.METRIC)

    told = found(1)
    assert (told is not None) is asked and found(2) is None, "a hole that was never bored is not held against another"
    if told is not None:
        assert told.what is DoubtOf.NOT_AS_BORED
        assert told.mm == pytest.approx((bored, bored + grown))


def test_a_sleeve_begins_a_hole_anew():
    hole = Some(cylinder=1, seq=5, mean_mm=110.0)
    there = Some(boring=Some(holes=(hole,)), as_read=lambda size: size, sleeving=Some(after_of=lambda c: Some(seq=9)))
    entry = HoleBored(cylinder=1, set_mm=105.0, sizes_mm=(105.0,))
    assert doubtful._of_hole(there, entry) is None
    there.sleeving = Some(after_of=lambda c: Some(seq=4))
    assert doubtful._of_hole(there, entry).what is DoubtOf.HOLE_SHRUNK


@pytest.mark.parametrize("under, could", [(0.0, True), (0.14, True), (0.16, False), (-0.9, True)])
def test_a_first_reading_a_little_under_nominal_may_be_of_this_block(state_of, under, could):
    state = state_of("2041")
    assert doubtful._could_be_worn(state, state.block.bore_mm - under) is could


@pytest.mark.parametrize(
    "clock, there",
    [(0.0, True), (1.0, True), (1.1, False), (179.0, True), (178.9, False), (91.0, True), (89.0, True), (88.9, False)],
)
def test_a_reading_counts_for_a_place_a_degree_off(clock, there):
    plan = LevelPlan("two", (10.0, 50.0), (0.0, 90.0))
    found = analysis._places.__wrapped__(plan, frozenset({(50.0, clock)}), 180.0)
    assert bool(found) is there and all(p.level == 1 for p in found)


def test_a_final_gauging_is_held_against_the_last_check_and_no_other(monkeypatch, shipped):
    checks = (Some(mean_mm=100.0, plate_on=True), Some(mean_mm=100.020, plate_on=True))
    monkeypatch.setattr(two_ends, "reading_doubt", lambda state: Some(expanded_u_mm=0.003))
    monkeypatch.setattr(two_ends, "_without_plate", lambda state, c, bare: Some(mean_mm=bare, plate_doubt_mm=0.0))
    monkeypatch.setattr(two_ends, "_as_read", lambda state, hole, by: Some(mean_mm=hole, plate_doubt_mm=0.0))
    for bare, apart in ((100.021, None), (100.0, -0.020), (100.05, 0.03)):
        state = Some(memo={}, honing=Some(checks_of=lambda c: checks), final_of=lambda c, on, b=bare: None if on else b)
        found = two_ends.final_apart(state, 1)
        assert found == (None if apart is None else pytest.approx(apart))
        state = Some(memo={}, honing=Some(checks_of=lambda c: checks), final_of=lambda c, on, b=bare: b if on else None)
        found = two_ends.final_apart(state, 1)
        assert found == (None if apart is None else pytest.approx(apart))


def test_the_newest_sweep_of_a_depth_counts():
    sweeps = tuple(
        Some(depth_mm=d, name=n) for d, n in ((50.0, "first"), (50.04, "again"), (90.0, "low"), (50.2, "other"))
    )
    state = Some(memo={}, gauging=Some(sweeps_of=lambda c, plate: sweeps))
    asked = []

    def swept(sweep):
        asked.append(sweep.name)
        return sweep

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(rounds, "_swept", swept)
        found = rounds.swept_levels(state, 1)
    assert asked == ["again", "other", "low"] and [s.depth_mm for s in found] == [50.04, 50.2, 90.0]


def test_once_a_study_stands_the_masters_own_doubt_warmth_and_drift_add_up(monkeypatch, shipped):
    figures = shipped.with_own({"gauging.master_u": 0.002, "gauging.temperature_doubt": 1.0})
    monkeypatch.setattr(doubt, "known_drift", lambda state, seq: 0.003)
    monkeypatch.setattr(doubt, "drift_sd_mm", lambda drift: 0.004)
    state = Some(figures=figures, block=Some(bore_mm=100.0), coefficient_1e6=20.0)
    monkeypatch.setattr(doubt, "study_of", lambda state: Some(reading_sd_mm=0.0007))
    found = doubt.reading_doubt(state)
    assert found.own_mm == 0.0007 and found.shared_mm == pytest.approx(math.sqrt(0.002**2 + 0.004**2 + 0.001**2))
    monkeypatch.setattr(doubt, "study_of", lambda state: None)
    assert doubt.reading_doubt(state).shared_mm == pytest.approx(math.hypot(0.002, 0.004))


@pytest.mark.parametrize(
    "means, taper", [((80.0,), None), ((80.02, 80.01), "0.010"), ((80.02, 80.05, 80.005), "0.015")]
)
def test_a_taper_by_three_points_wants_two_depths_the_ends(monkeypatch, means, taper):
    levels = [Some(depth_mm=10.0 * i, fit=Some(mean_mm=m)) for i, m in enumerate(means, 1)]
    monkeypatch.setattr(readings_words, "three_point_levels", lambda state, c, plate: levels)
    lines = readings_words._three_point_figures(Some(clamped=Some(plate_on=True)), 1, Show(Units.METRIC))
    found = [f.value for f in lines if f.label == "taper, three points"]
    assert (found == []) if taper is None else (taper in found[0])
    monkeypatch.setattr(readings_words, "three_point_levels", lambda state, c, plate: [])
    assert readings_words._three_point_figures(Some(clamped=Some(plate_on=True)), 1, Show(Units.METRIC)) == ()


@pytest.mark.parametrize(
    ("oversizes", "share", "over", "asked"),
    [  # share of the bore that it is smaller than nominal by; over: mm beyond the largest oversize there is
        ((0.25, 1.0), 0.0, None, False), ((0.25, 1.0), 0.0049, None, False), ((0.25, 1.0), 0.0051, None, True), ((0.25, 1.0), None, -0.03, False),
        ((0.25, 1.0), None, 0.099, False), ((0.25, 1.0), None, 0.101, True), ((1.0, 0.25), None, 0.05, False), ((), -0.0049, None, False),
        ((), -0.0051, None, True), ((), 0.0051, None, True),
    ],
)  # fmt: skip
def test_a_piston_that_was_made_for_no_size_of_this_block_is_asked(state_of, oversizes, share, over, asked):
    state = state_of("2041")
    there = but(state, booking={"book_in": replace(state.book_in, oversizes_mm=oversizes)})
    bore = state.block.bore_mm
    size = bore * (1.0 - share) if over is None else bore + max(oversizes) + over
    entries = [PistonMeasured(cylinder=1, size_mm=bore), PistonMeasured(cylinder=2, size_mm=size)]
    found = doubtful.doubt_in(there, entries, Units.METRIC)
    assert (found is not None) is asked
    if found is not None:
        assert found.what is DoubtOf.NO_PISTON_HERE and found.mm == pytest.approx((size, size - bore))
        said = say_doubt(found, Show(Units.METRIC))
        assert f"{Show(Units.METRIC).size(size)} is" in said and said.endswith("?")


@pytest.mark.parametrize(
    ("warm_c", "asked"),
    [(None, False), (20.0, False), (34.9, False), (35.1, True), (60.0, True), (5.1, False), (4.9, True)],
)
def test_a_piston_as_warm_as_no_shop_is_asked_about(state_of, warm_c, asked):
    state = state_of("2041")
    size = state.block.bore_mm
    found = doubtful.doubt_in(state, [PistonMeasured(cylinder=1, size_mm=size, piston_c=warm_c)], Units.METRIC)
    assert (found is not None) is asked
    if found is not None:
        assert found.what is DoubtOf.PISTON_WARM and found.mm[0] == size and found.celsius == warm_c
        assert (found.mm[1] < size) is (warm_c > 20.0)  # it is counted at 20 C
        said = say_doubt(found, Show(Units.INCH))
        assert "°F" in said and said.endswith("all through?")


@pytest.mark.parametrize(
    ("over", "apart", "asked"),
    [
        (0.0, 0.0, None), (0.149, 0.0, None), (0.151, 0.0, DoubtOf.NOT_AS_SET), (-0.149, 0.0, None), (-0.151, 0.0, DoubtOf.NOT_AS_SET),
        (0.0, 0.149, None), (0.0, 0.151, DoubtOf.PLACES_APART), (0.5, 0.5, DoubtOf.PLACES_APART),
    ],
)  # fmt: skip
@pytest.mark.parametrize("warm", [None, 30.0])
def test_a_hole_far_from_the_bars_setting_or_of_two_sizes_is_asked(state_of, over, apart, asked, warm):
    state = state_of("2041")
    scale = 1.0 if warm is None else 1.0 + state.coefficient_1e6 * 1e-6 * (warm - 20.0)
    there = but(state, clamped={"block_c": warm})
    down = tuple((105.4 + over + part) * scale for part in (apart / 2.0, 0.0, -apart / 2.0))
    found = doubtful.doubt_in(there, [HoleBored(cylinder=1, set_mm=105.4, sizes_mm=down)], Units.METRIC)
    assert (found and found.what) == asked
    if found is not None:
        assert found.mm == pytest.approx(
            (105.4, 105.4 + over) if asked is DoubtOf.NOT_AS_SET else (apart * scale,), abs=1e-6
        )
        assert say_doubt(found, Show(Units.METRIC)).endswith("?")


@pytest.mark.parametrize(
    ("apart", "bored", "asked"), [(0.149, True, False), (0.151, True, True), (0.151, False, False)]
)
def test_places_of_a_check_that_are_far_apart_are_asked_once_the_bar_has_been_there(
    ledger_of, shipped, apart, bored, asked
):
    state = fold(longer(ledger_of("2041"), HoleBored(cylinder=1, set_mm=105.5, sizes_mm=(105.5,) * 3)), shipped)
    size, cylinder = state.boring.holes[-1].mean_mm, 1 if bored else 2
    check = CheckLogged(cylinder=cylinder, strokes=0.0, sizes_mm=(size + apart / 2.0, size, size - apart / 2.0))
    found = doubtful.doubt_in(state, [check], Units.METRIC)
    assert (found is not None and found.what is DoubtOf.PLACES_APART) is asked


@pytest.mark.parametrize(
    "rows, more, grown, wanted",
    [
        (((0, 0.0), (10, 0.02), (20, 0.04)), 10, 0.069, None),  # 0.010 and three times what it took
        (((0, 0.0), (10, 0.02), (20, 0.04)), 10, 0.071, DoubtOf.LEAPT),
        (((0, 0.0), (10, 0.03), (20, 0.04)), 10, 0.099, None),  # the fastest bite counts
        (((0, 0.0), (10, 0.03), (20, 0.04)), 10, 0.101, DoubtOf.LEAPT),
        (((0, 0.0), (10, 0.0), (20, 0.0)), 10, 0.011, DoubtOf.LEAPT),  # dull, and nobody dressed them
        (((0, 0.0), (10, 0.02)), 10, 0.2, None),  # one bite tells no rate
        (((0, 0.0), (10, 0.2), (20, 0.4)), 10, 0.26, DoubtOf.LEAPT),  # so much never
    ],
)
@pytest.mark.parametrize("fresh", [False, True])
def test_a_check_is_held_against_what_its_bites_took(ledger_of, shipped, rows, more, grown, wanted, fresh):
    checks = [CheckLogged(cylinder=5, strokes=float(n), sizes_mm=(105.2 + by,) * 3) for n, by in rows]
    state = after(ledger_of("2041"), shipped, *checks, *([StonesDressed()] if fresh else []))
    last = rows[-1]
    found = doubtful.doubt_in(
        state, [CheckLogged(cylinder=5, strokes=float(last[0] + more), sizes_mm=(105.2 + last[1] + grown,) * 3)], Units.METRIC
    )  # fmt: skip
    assert (found and found.what) == (wanted if not fresh or grown > 0.25 else None)
