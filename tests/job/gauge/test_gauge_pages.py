"""What the pages of the gauge step say: slice and axis, all side by side, plate, defects, second opinion, study."""

from dataclasses import replace
from types import SimpleNamespace

import pytest

from redline_bore.core.clamping import ClampSetUp
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.demo.walls import wall_2036, wall_2041
from redline_bore.job.card import Mark
from redline_bore.job.gauge import defects, plate, second_opinion, side_by_side
from redline_bore.job.gauge import round as rounds
from redline_bore.job.gauge import study as gauge_study
from redline_bore.job.gauge.second_opinion import Settles as S
from redline_bore.job.kinds.bore import HoleBored
from redline_bore.job.kinds.defects import DefectMarked
from redline_bore.job.kinds.entry import Record
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.gauge import ReadingBooked, SpindleSet, SweepBooked
from redline_bore.job.kinds.kind import entry_words
from redline_bore.job.kinds.opinions import OtherReadingBooked, SecondOpinionOpened, StudyBegan, StudyReadingBooked
from redline_bore.job.kinds.plate import ClampingStated
from redline_bore.job.missing import Lack, Missing
from redline_bore.job.words import defects as defects_words
from redline_bore.job.words import plate as plate_words
from redline_bore.job.words import round as round_words
from redline_bore.job.words import second_opinion as second_opinion_words
from redline_bore.job.words import side_by_side as side_by_side_words
from redline_bore.job.words import study as study_words
from tests.job.benches import but


@pytest.fixture
def on(ledger_of, shipped):
    def made(number, *entries):
        ledger = list(ledger_of(number))
        for entry in entries:
            ledger.append(Record(ledger[-1].seq + 1, ledger[-1].at, "RM", entry, block_c=20.4))
        return fold(ledger, shipped)

    return made


# -- slice and axis ----------------------------------------------------------------------------------------------------


def test_the_crooked_cylinder_is_found_by_its_sweeps(on):
    state = on("2041")
    fit, why = rounds.axis_of(state, 2, True)
    true = wall_2041().cylinders[1]
    leaned = (true.lean_x**2 + true.lean_y**2) ** 0.5 * (196 - 21) / 100
    assert fit.axis.drift_mm == pytest.approx(leaned, abs=0.025) and why == ""
    advice = round_words.advise(state, 2, 60.0, Show(state.units))
    assert advice.sentence.startswith("Crooked") and advice.mark is Mark.LOOK
    assert any("spindle" in note for note in advice.changes)


def test_without_sweeps_no_axis_is_made_up(on):
    state = on("2041")
    fit, why = rounds.axis_of(state, 4, True)
    assert fit is None and "cannot show a crooked hole" in why
    advice = round_words.advise(state, 4, 60.0, Show(state.units))
    assert ("axis of the hole", "not known") in [(f.label, f.value) for f in advice.figures]
    assert round_words.BLIND["two-point"] in advice.changes


def test_sweeps_of_two_set_ups_are_never_one_axis(on):
    clocks = tuple(float(t) for t in range(0, 360, 10))
    moved = [
        SpindleSet(cylinder=2, zero_radius_mm=52.5),
        SweepBooked(cylinder=2, depth_mm=24.0, clock_deg=clocks, radius_mm=(52.5,) * 36, plate_on=True),
    ]
    fit, why = rounds.axis_of(on("2041", *moved), 2, True)
    assert fit is None and "two depths" in why


def test_the_slice_is_the_nearest_depth_read_by_any_gauge(on):
    state = on("2041")
    cut = rounds.slice_at(state, 2, 150.0, True)
    assert cut.depth_mm == 153.0 and cut.level is None and cut.swept is not None  # swept there, not gauged
    assert rounds.slice_at(state, 2, 26.0, True).level is not None
    assert rounds.slice_at(on("2047"), 1, 30.0, False).depth_mm == 30.0


def test_a_bad_sweep_says_why_and_is_no_circle(on):
    bad = SweepBooked(cylinder=4, depth_mm=60.0, clock_deg=(0.0, 10.0, 20.0), radius_mm=(52.5,) * 3, plate_on=True)
    state = on("2041", bad)
    (level,) = rounds.swept_levels(state, 4, True)
    assert level.fit is None and "7 points" in level.why_not
    assert any("7 points" in note for note in round_words.advise(state, 4, 60.0, Show(state.units)).changes)


def test_three_points_tell_means_and_lobes_and_say_what_they_hide(on):
    rows = [
        ReadingBooked(cylinder=1, depth_mm=30.0, clock_deg=c, diameter_mm=d, plate_on=False, gauge="three-point")
        for c, d in ((0.0, 78.020), (30.0, 78.010), (60.0, 78.000), (90.0, 78.010))
    ]
    state = on("2047", *rows)
    cut = rounds.slice_at(state, 1, 30.0, False)
    assert cut.three.fit.lobe_mm == pytest.approx(0.005, abs=1e-5) and cut.three.fit.mean_mm == pytest.approx(
        78.010, abs=1e-3
    )
    assert round_words.BLIND["three-point"] in round_words.advise(state, 1, 30.0, Show(state.units)).changes


# -- side by side ------------------------------------------------------------------------------------------------------


def test_the_odd_cylinders_are_named_with_their_reason(on):
    lines = side_by_side.lines_of(on("2041"), True)
    odd = {v.cylinder: side_by_side_words.odd_words(v.odd) for v in lines if v.odd}
    assert "crooked by its sweeps" in odd[2] and "rust ring" in odd[4] and 1 not in odd and 5 not in odd


def test_two_cylinders_are_too_few_to_call_one_odd(on):
    state = on("2036")
    assert all(not v.odd for v in side_by_side.lines_of(state, True))
    assert "Three cylinders" in side_by_side_words.advise(state, Show(state.units)).sentence


def test_one_family_is_sure_only_where_every_cylinder_was_read(monkeypatch, on):
    state, show = on("2041"), Show(Units.METRIC)
    read, unread = (SimpleNamespace(levels=levels) for levels in ((1,), ()))

    def told(*shapes):
        lines = [side_by_side.Line(i, shape, ()) for i, shape in enumerate(shapes, 1)]
        monkeypatch.setattr(side_by_side_words, "lines_of", lambda _state, _plate: lines)
        monkeypatch.setattr(side_by_side_words, "_working", lambda line, _show: None)
        monkeypatch.setattr(side_by_side_words, "_figure", lambda line, _show: None)
        advice = side_by_side_words.advise(state, show)
        return advice.sentence, advice.mark

    assert told(read, read, read) == ("They are all of one family.", Mark.SOUND)
    assert told(read, read, read, unread) == ("Those that were read are of one family.", Mark.LOOK)
    assert told(read, read, unread)[1] is Mark.LOOK


def test_one_worn_far_beyond_the_rest_is_odd(on):
    state = on("2041")
    more = [
        ReadingBooked(cylinder=5, depth_mm=r.depth_mm, clock_deg=r.clock_deg, diameter_mm=r.raw_mm + 0.5, plate_on=True)
        for r in state.gauging.readings_of(5, True)
        if 16 < r.depth_mm < 153
    ]
    assert "wear" in side_by_side_words.odd_words(side_by_side.lines_of(on("2041", *more), True)[4].odd)


# -- plate -------------------------------------------------------------------------------------------------------------


def test_what_the_plate_does_is_found_from_the_two_gaugings(on):
    state = on("2036")
    found = plate.plate_map(state, 1)
    true = wall_2036((), True).cylinders[0]
    for clock in (0.0, 90.0):
        moved = true.diameter(18.0, clock, True) - true.diameter(18.0, clock, False)
        assert found.at(18.0, clock) == pytest.approx(moved, abs=0.003)
    assert (
        found.worst.moved.second_axis_deg % 180 == pytest.approx(0.0, abs=8) or found.worst.moved.second_axis_deg > 172
    )
    low, high = plate.without_plate(state, 1)
    assert low < 83.066 - 0.008 < 83.066 + 0.005 < high


def test_a_plate_gauged_one_way_only_says_what_to_read(on):
    state = on("2047", ReadingBooked(cylinder=1, depth_mm=30.0, clock_deg=0.0, diameter_mm=78.02, plate_on=False))
    found = plate.plate_map(state, 1)
    assert not found.levels and found.missing == Missing(Lack.PLATE, 1, (True,)) and found.at(30.0, 0.0) is None
    assert "not known" in plate_words.advise(state, 1, Show(state.units)).sentence


def test_a_mismatch_of_plate_and_head_is_the_sentence(on):
    state = on("2041")
    assert plate_words.advise(state, 1, Show(state.units)).sentence == "The plate is not the head: gasket."
    same = on("2041", ClampingStated(part="plate", set_up=state.clamped.held_down("head")))
    assert plate.match_of(same).agrees is True
    weak = replace(state.clamped.held_down("head"), torque_nm=150.0)
    told = plate_words.advise(on("2041", ClampingStated(part="plate", set_up=weak)), 1, Show(state.units))
    assert "clamp force" in told.sentence and any("kN" in note for note in told.changes)


def test_every_fastener_is_pulled_at_every_stage_from_the_middle_out(on):
    state = on("2041")
    steps = plate.tightening(state)
    assert len(steps) == 36 and [s.torque_nm for s in steps[::12]] == [95.0, 142.5, 190.0]
    assert sorted(s.fastener for s in steps[:12]) == list(range(1, 13))
    assert sorted(plate.places_in_order(state).values()) == list(range(1, 13))
    assert {s.fastener for s in steps[:4]} == {5, 6, 7, 8}


def test_both_banks_of_a_vee_have_their_own_order(on):
    state = on("2041")
    block = replace(state.block, layout="vee", cylinders=8)
    from redline_bore.core.block import Layout

    vee = but(state, booking={"book_in": replace(state.book_in, block=replace(block, layout=Layout.VEE))})
    assert plate.order_of(vee, 0) != plate.order_of(vee, 1) and len(plate.tightening(vee)) == 3 * 20


def test_bearings_point_at_the_fasteners_round_a_bore(on):
    angles = sorted(plate.bearings(on("2041"), 1).values())
    assert len(angles) == 4 and angles[0] == pytest.approx(42.6, abs=2) and angles[-1] == pytest.approx(317.4, abs=2)


def test_nothing_stated_is_not_the_same(on):
    state = on("2047")
    assert plate.match_of(state).agrees is None
    assert any("Not stated" in note for note in plate_words.advise(state, 1, Show(state.units)).changes)
    assert plate_words.clamp_text("gasket", "", Show(state.units)) == "not stated"
    assert ClampSetUp().force_kn is None


# -- defects -----------------------------------------------------------------------------------------------------------


def test_what_a_defect_costs_is_what_cleaning_up_would_need_less_without_it(on):
    state = on("2041")
    (effect,) = defects.effects_of(state, 4)
    assert effect.adds_high_mm == pytest.approx(0.139, abs=0.02) and effect.decides
    assert "costs up to" in defects_words.advise(state, 4, Show(state.units)).sentence


def test_a_crack_stops_the_job(on):
    crack = DefectMarked(
        cylinder=1,
        what="crack",
        top_mm=10,
        bottom_mm=60,
        clock_deg=90,
        width_deg=5,
        deep_low_mm=0.05,
        deep_high_mm=0.15,
    )
    advice = defects_words.advise(on("2041", crack), 1, Show(on("2041").units))
    assert advice.mark is Mark.STOP and "cracked" in advice.sentence


def test_no_defect_marked_is_not_called_none(on):
    state = on("2041")
    assert "not the same as none" in defects_words.advise(state, 1, Show(state.units)).sentence


def test_a_defect_in_a_hole_that_was_not_gauged_costs_an_unknown(on):
    pit = DefectMarked(
        cylinder=1,
        what="pit",
        top_mm=20,
        bottom_mm=25,
        clock_deg=10,
        width_deg=5,
        deep_low_mm=0.013,
        deep_high_mm=0.05,
        feel="catches",
    )
    state = on("2047", pit)
    effect = defects.effects_of(state, 1)[-1]
    assert effect.adds_high_mm is None and "catches the nail" in defects_words.depth_text(
        effect.defect, Show(state.units)
    )


# -- second opinion ----------------------------------------------------------------------------------------------------


def test_the_owners_readings_of_marigold_are_explained(on):
    state = on("2036")
    rows = second_opinion.comparisons(state)
    assert len(rows) == 4 and all(r.opinion.explained for r in rows)
    assert all(r.opinion.term("clearance source") == pytest.approx(0.00753, abs=1e-5) for r in rows)
    assert all(r.opinion.term("block temperature") > 0 > r.opinion.term("piston temperature") for r in rows)
    assert rows[0].opinion.term("plate") > 0.006 and rows[1].opinion.term("plate") < -0.004
    assert second_opinion_words.advise(state, 1, Show(state.units)).mark is Mark.SOUND


def test_what_is_left_over_is_said_with_what_to_measure(on):
    odd = OtherReadingBooked(who="owner", cylinder=1, diameter_mm=83.20, depth_mm=18.0, clock_deg=0.0)
    state = on("2036", odd)
    advice = second_opinion_words.advise(state, 1, Show(state.units))
    assert advice.mark is Mark.LOOK and "left over" in advice.sentence
    assert "one master" in advice.changes[0]


def test_bores_alone_are_compared_place_by_place(on):
    state = on("2041")
    ours = next(r for r in state.gauging.readings_of(4, True) if r.depth_mm == 21.0 and r.clock_deg == 90.0)
    told = [
        SecondOpinionOpened(who="Weir works", plate_on=True, at_20=True),
        OtherReadingBooked(
            who="Weir works", cylinder=4, diameter_mm=ours.size_mm - 0.01, depth_mm=21.0, clock_deg=90.0
        ),
    ]
    (row,) = second_opinion.comparisons(on("2041", *told))
    assert not row.clearances and row.opinion.gap_mm == pytest.approx(0.01, abs=0.002)
    assert row.ours_from is second_opinion.OursFrom.PLACE and row.plate_from is second_opinion.PlateFrom.BOTH_SAME
    assert not row.opinion.explained


def test_a_hole_that_came_off_the_bar_is_held_against_theirs_as_it_came(on):
    told = [
        HoleBored(cylinder=4, set_mm=105.4, sizes_mm=(105.4, 105.41, 105.42)),
        SecondOpinionOpened(who="Weir works", plate_on=False, at_20=True),
        OtherReadingBooked(who="Weir works", cylinder=4, diameter_mm=105.40),
    ]
    (row,) = second_opinion.comparisons(on("2041", *told))
    assert row.ours_from is second_opinion.OursFrom.BORED and row.opinion.gap_mm == pytest.approx(0.01, abs=0.001)


@pytest.mark.parametrize(
    "conditions, reading, asked",
    [
        ({}, {"depth_mm": 24.0, "clock_deg": 90.0}, S.TAKE_TEMPERATURE),
        ({"block_c": 20.0}, {}, S.ASK_WHERE),
        ({"block_c": 20.0, "plate_on": True}, {"depth_mm": 24.0, "clock_deg": 90.0}, S.ONE_MASTER),
    ],
)
def test_the_next_thing_to_settle_it(on, conditions, reading, asked):
    told = [
        SecondOpinionOpened(who="Weir works", **conditions),
        OtherReadingBooked(who="Weir works", cylinder=3, diameter_mm=104.9, **reading),
    ]
    state = on("2041", *told)
    assert second_opinion.settle_next(state, second_opinion.comparisons(state)) is asked


def test_a_plate_that_was_not_gauged_both_ways_is_asked_for(on):
    told = [
        ReadingBooked(cylinder=1, depth_mm=d, clock_deg=c, diameter_mm=78.02, plate_on=True)
        for d in (10.0, 60.0)
        for c in (0.0, 60.0, 120.0)
    ] + [
        SecondOpinionOpened(who="Weir works", block_c=20.0, plate_on=False),
        OtherReadingBooked(who="Weir works", cylinder=1, diameter_mm=78.0, depth_mm=10.0, clock_deg=0.0),
    ]
    state = on("2047", *told)
    assert second_opinion.settle_next(state, second_opinion.comparisons(state)) is S.GAUGE_BOTH_WAYS


def test_nobody_elses_readings_nothing_to_explain(on):
    state = on("2041")
    assert (
        second_opinion.comparisons(state) == ()
        and "Nobody" in second_opinion_words.advise(state, 1, Show(state.units)).sentence
    )


# -- gauge study -------------------------------------------------------------------------------------------------------


def test_the_study_leads_from_spot_to_spot(on):
    begun = [StudyBegan(instrument="two-point gauge", resolution_mm=0.001)]
    spots = gauge_study.spots_of(on("2041"))
    assert len(spots) == 3 and gauge_study.next_spot(on("2041"), "RM") is None
    assert gauge_study.next_spot(on("2041", *begun), "RM") == spots[0]
    five = [StudyReadingBooked(spot=spots[0].name, value_mm=105.0 + 0.001 * i) for i in range(5)]
    state = on("2041", *begun, *five)
    assert gauge_study.next_spot(state, "RM") == spots[1] and gauge_study.next_spot(state, "TB") == spots[0]
    rest = [StudyReadingBooked(spot=s.name, value_mm=105.0) for s in spots[1:] for _ in range(5)]
    state = on("2041", *begun, *five, *rest)
    advice = study_words.advise(state, "RM", Show(state.units))
    assert (
        advice.sentence.startswith("A reading is sure to")
        and "not known" in {f.label: f.value for f in advice.figures}["between persons"]
    )


# -- the ledger in words -----------------------------------------------------------------------------------------------


def test_every_entry_has_its_words(on, ledger_of):
    show = Show(on("2041").units)
    for number in ("2041", "2036", "2047"):
        assert all(entry_words(r.entry, show) for r in ledger_of(number))
