"""Which ways there are with a block, in which order, and what would have to be measured."""

import itertools

import pytest

from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.call.asks import asks_at
from redline_bore.job.call.best import Best, best_of, can_pick
from redline_bore.job.call.ladder import ladder_of
from redline_bore.job.call.light_options import by_ring_gaps, stop_rule
from redline_bore.job.call.need import need_of
from redline_bore.job.call.option import MAY, NO, SURE, UNKNOWN
from redline_bore.job.call.options import call_as_option, options_of
from redline_bore.job.call.reason import Measure, Reason, ToMeasure, Why
from redline_bore.job.call.sweeps import sweeps_missing
from redline_bore.job.call.swept import swept_cut
from redline_bore.job.card import Mark
from redline_bore.job.kinds.book_in import PracticeChosen
from redline_bore.job.kinds.bore import HoleBored
from redline_bore.job.kinds.call import DecisionTaken
from redline_bore.job.kinds.defects import DefectMarked, WallRead
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.gauge import PlanChosen, ReadingBooked, RingGapRead
from redline_bore.job.profiles.practice import PRACTICE_TOPICS, SHOP_DEFAULT, options, shop_practices
from redline_bore.job.state.calling import Apart
from redline_bore.job.words import options as options_advice
from redline_bore.job.words import readings as readings_advice
from redline_bore.job.words.options import title_of
from redline_bore.job.words.reasons import say_reason
from tests.job.benches import after, settled, spindle, swept, unread

MM = Show(Units.METRIC)


def found(state, key):
    return next(o for o in options_of(state) if o.key == key)


def sweeps_of_four(bias):
    """Cylinder 4 swept: its wear all on one side by ``bias`` of it, as round as it was at the bottom."""
    return [spindle(4)] + [swept(4, d, 105.017, 0.0, w * bias) for d, w in ((21.0, 0.23), (84.0, 0.12), (182.5, 0.0))]


# -- what there is -------------------------------------------------------------------------------------------------


def test_every_way_the_trade_has_is_weighed(state_of):
    keys = {o.key.split(":")[0] for o in options_of(state_of("2041"))}
    assert keys == {"leave", "deglaze", "rering", "custom", "rung", "sleeve", "repair", "own", "sleeve_all", "scrap"}
    rungs = [o for o in options_of(state_of("2041")) if o.key.startswith("rung")]
    assert len(rungs) == 6


def test_the_order_is_what_may_be_made_sure_then_least_metal(state_of):
    rows = options_of(state_of("2041"))
    ranks = [o.standing_rank for o in rows]
    assert ranks == sorted(ranks) and title_of(rows[0], MM) == "Bore all five 0.50 over" and rows[0].standing == MAY
    metal = [o.rank[2] for o in rows if o.standing_rank == 0 and o.key != "scrap"]
    assert metal == sorted(metal)
    assert [o.key for o in rows].index("sleeve_all") > [o.key for o in rows].index("rung:0.7500"), (
        "a sleeve takes more than a rung"
    )


def test_an_option_says_what_it_costs(ledger_of, shipped):
    state = fold(settled(ledger_of("2041"), shipped), shipped)
    best = options_of(state)[0]
    assert (
        best.standing in (SURE, MAY)
        and best.only_walls
        and best.pistons == 5
        and best.sleeves == 0
        and best.rebuilds_left == 4
    )
    assert best.most_stock_mm == pytest.approx(
        0.512, abs=0.005
    )  # to where it really ends: name, pistons as sold, clearance
    ladder = ladder_of(state)
    least = min(c.ceiling_mm - f.end.most_mm for c, f in zip(ladder.columns, ladder.fates(0.5), strict=True)) / 2.0
    assert best.wall_left_mm == pytest.approx(least)
    sleeved = found(state_of_2041 := fold(ledger_of("2041"), shipped), "sleeve:4")
    assert sleeved.sleeves == 1 and sleeved.minutes > options_of(state_of_2041)[0].minutes
    assert len(sleeved.bored_stock_mm) == 4


def test_own_pistons_go_to_the_nearest_hundredth_or_thousandth(state_of):
    metric, inch = next(o for o in options_of(state_of("2041")) if o.key.startswith("custom")), state_of("2036")
    high = max(c.cleanup.high_mm for c in ladder_of(state_of("2041")).columns)
    assert 0.0 <= 105.0 + metric.oversize_mm - high <= 0.01
    custom = next(o for o in options_of(inch) if o.key.startswith("custom"))
    assert (custom.oversize_mm / 0.0254) == pytest.approx(round(custom.oversize_mm / 0.0254))
    assert Reason(Why.LEAST_SIZE) in custom.reasons


def test_a_sleeve_needs_parent_wall_and_an_unread_wall_is_no_yes(state_of, ledger_of, shipped):
    assert found(state_of("2041"), "repair:4").standing == NO
    first = found(state_of("2041"), "repair:4").reasons[0]
    assert first.why is Why.PARENT_TOO_THIN and "1.25 mm of parent" in say_reason(first, MM)
    bare = found(fold(unread(ledger_of("2036")), shipped), "sleeve_all")
    assert bare.standing == MAY and bare.needs == (ToMeasure(Measure.READ_WALL, 1), ToMeasure(Measure.READ_WALL, 2))


def test_a_cracked_block_is_pressure_tested_before_anything(ledger_of, shipped):
    crack = DefectMarked(
        cylinder=2, what="crack", top_mm=40.0, bottom_mm=70.0, clock_deg=10.0, width_deg=4.0, deep_low_mm=0.5, deep_high_mm=2.0
    )  # fmt: skip
    option = found(after(ledger_of("2041"), shipped, crack), "scrap")
    assert option.standing == MAY and option.reasons == (Reason(Why.CRACKED, (2,)),)


def test_when_nothing_else_works_the_block_is_not_used(ledger_of, shipped):
    thin = [WallRead(cylinder=c, clock_deg=90.0, depth_mm=60.0, wall_mm=2.0, zone="thrust") for c in range(1, 6)]
    state = after(ledger_of("2041"), shipped, *thin)
    assert found(state, "scrap").standing == SURE and options_of(state)[0].key == "scrap"


# -- 2041 turns on cylinder 4 --------------------------------------------------------------------------------------


def test_the_call_on_2041_turns_on_four(state_of):
    state = state_of("2041")
    assert ladder_of(state).worst.cylinder == 4
    best = best_of(options_of(state))
    assert best.call is Best.NOT_SURE and best.best.oversize_mm == 0.5 and best.best.worth
    advice = options_advice.advise(state, 0, MM)
    assert advice.sentence.startswith("Bore all five 0.50 over: it may do; the cut and a look settle it.")
    assert "Sure without it: sleeve all five" in advice.sentence


def test_all_read_that_was_asked_for_makes_it_half_a_millimetre(ledger_of, shipped):
    state = fold(settled(ledger_of("2041"), shipped), shipped)
    best = options_of(state)[0]
    assert (
        need_of(state, 4).swept is not None and best.oversize_mm == 0.5 and best.only_walls
    )  # clean for sure; walls 2 and 3 stand close


def test_a_wall_worn_on_one_side_wants_more(ledger_of, shipped):
    state = after(ledger_of("2041"), shipped, *sweeps_of_four(1.3))
    assert found(state, "rung:0.5000").standing == NO and options_of(state)[0].oversize_mm == 0.75


def test_sweeps_that_miss_the_worst_place_do_not_carry_the_need(ledger_of, shipped):
    state = after(ledger_of("2041"), shipped, spindle(4), swept(4, 84.0, 105.05), swept(4, 182.5, 105.02))
    assert need_of(state, 4).swept is None and sweeps_missing(state, 4) == (21.0,)


def test_the_crank_line_is_asked_for_before_it_is_used(ledger_of, shipped):
    line = PracticeChosen(topic="axis", name="crank line")
    state = after(ledger_of("2041"), shipped, *sweeps_of_four(0.5), line)
    assert need_of(state, 4).swept is None and "spindle set up on the mains" in need_of(state, 4).why_two_point


@pytest.mark.parametrize("axis", [p.name for p in options("axis") if p.name != "crank line"])
def test_least_metal_never_asks_for_more_than_another_axis(ledger_of, shipped, axis):
    shifted = [spindle(4), swept(4, 21.0, 105.25, 0.05, 0.05), swept(4, 84.0, 105.15, 0.04), swept(4, 182.5, 105.02)]
    about = {
        a: swept_cut(after(ledger_of("2041"), shipped, *shifted), 4, a).size_mm for a in (axis, "least metal, leaning")
    }
    assert about["least metal, leaning"] <= about[axis] + 1e-6


# -- practices -----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("name", "key"), [("is sleeved", "sleeve:4"), ("own size", "own:4"), ("goes with all", "rung:0.5000")]
)
def test_the_school_for_one_odd_cylinder_decides_among_equals(ledger_of, shipped, name, key):
    state = after(ledger_of("2041"), shipped, PracticeChosen(topic="odd_cylinder", name=name))
    assert options_of(state)[0].key == key


def test_taking_all_wear_on_one_side_leaves_nothing_on_trust(ledger_of, shipped):
    trusting, strict = (
        after(ledger_of("2041"), shipped, PracticeChosen(topic="wear_side", name=name))
        for name in ("usual share", "all on one side")
    )
    usual = [ladder_of(s).columns[3].cleanup.usual_mm for s in (trusting, strict)]
    assert usual[0] < usual[1] <= ladder_of(strict).columns[3].cleanup.high_mm
    assert ladder_of(trusting).columns[3].cleanup.high_mm == ladder_of(strict).columns[3].cleanup.high_mm, (
        "the bound trusts nobody"
    )


def test_the_shop_sets_its_own_way_and_nonsense_is_not_taken(shipped):
    assert shop_practices(shipped) == SHOP_DEFAULT
    own = shipped.with_own({"practices.axis": "least metal"})
    assert shop_practices(own)["axis"] == "least metal"
    assert shop_practices(shipped.with_own({"practices.axis": "by eye"}))["axis"] == SHOP_DEFAULT["axis"]
    assert set(PRACTICE_TOPICS) == set(SHOP_DEFAULT)


# -- 2047: a drill hone, and when to stop --------------------------------------------------------------------------


def test_a_drill_hone_may_save_2047_and_stops_by_the_gap(state_of):
    state = state_of("2047")
    advice = options_advice.advise(state, 0, MM)
    assert options_of(state)[0].key == "deglaze" and advice.sentence.startswith("Deglaze only: it may do.")
    assert advice.mark is Mark.LOOK and "borrow a bore gauge" in advice.sentence
    assert "stop for good when a ring's gap has grown by 0.016 mm" in say_reason(stop_rule(state), MM)


DEPTHS, CLOCKS = (20.0, 30.0, 60.0, 80.0, 110.0), (0.0, 45.0, 90.0, 135.0)


def readings_2047(shipped, worn):
    depths, clocks = DEPTHS, CLOCKS
    return [
        ReadingBooked(
            cylinder=1, depth_mm=d, clock_deg=c, diameter_mm=78.0 + (worn if d == 20.0 else 0.0), plate_on=False
        )
        for d in depths
        for c in clocks
    ]


def test_one_reading_with_a_bore_gauge_flips_2047(ledger_of, state_of, shipped):
    plan = PlanChosen(name="own", depths_mm=DEPTHS, clocks_deg=CLOCKS)
    sound = after(ledger_of("2047"), shipped, plan, *readings_2047(shipped, 0.01))
    worn = after(ledger_of("2047"), shipped, plan, *readings_2047(shipped, 0.12))
    assert found(sound, "deglaze").standing == MAY, "its rust is felt: strokes and a look, never sure"
    assert options_of(sound)[0].key == "deglaze"
    assert found(worn, "deglaze").standing == NO and options_of(worn)[0].key.startswith(("rung", "custom"))


def test_a_quick_gauging_will_do_for_what_cuts_no_size(ledger_of, shipped):
    plan = PlanChosen(name="own", depths_mm=DEPTHS, clocks_deg=(0.0, 90.0))
    readings = [r for r in readings_2047(shipped, 0.01) if r.clock_deg in (0.0, 90.0)]
    state = after(ledger_of("2047"), shipped, plan, *readings)
    assert found(state, "leave").standing == NO, "it is marked with rust"
    assert found(state, "deglaze").standing == MAY and found(state, "rering").standing == MAY
    assert options_of(state)[0].key == "deglaze"


def test_ring_gaps_tell_taper_three_ways(ledger_of, shipped):
    wide = RingGapRead(cylinder=1, depth_mm=10.0, gap_mm=0.90)
    assert by_ring_gaps(after(ledger_of("2047"), shipped), "deglaze").standing == MAY
    assert by_ring_gaps(after(ledger_of("2047"), shipped, wide), "deglaze").standing == NO
    assert by_ring_gaps(after(ledger_of("2041"), shipped), "deglaze") is None  # no gaps were read there


# -- the advice ----------------------------------------------------------------------------------------------------


def test_what_is_not_known_is_no_nought(state_of):
    unknown = found(state_of("2047"), "rung:0.2500")
    assert unknown.most_stock_mm is None and unknown.standing == UNKNOWN
    advice = options_advice.advise(
        state_of("2047"), [o.key for o in options_of(state_of("2047"))].index(unknown.key), MM
    )
    assert any(f.value == "not read: unknown" and f.mark is Mark.LOOK for f in advice.figures)


def test_the_working_says_that_a_cut_is_half_a_side(state_of):
    advice = options_advice.advise(state_of("2041"), 0, MM)
    assert any("on diameter" in w.text and "a side" in w.text for w in advice.working)
    assert any(w.source == "shop figures: minutes of each work" for w in advice.working)
    assert any(c.startswith("Counted about the unworn bottom") for c in advice.changes)


def test_what_can_be_picked(state_of):
    picks = {o.key: can_pick(o) for o in options_of(state_of("2041"))}
    assert picks["rung:0.7500"] and picks["rung:0.5000"] and not picks["rung:0.2500"]
    assert not picks["leave"] and not picks["scrap"]
    assert can_pick(found(state_of("2047"), "deglaze"))


def test_any_call_can_be_weighed(state_of):
    apart = (Apart(cylinder=4, way="own", oversize_mm=0.75),)
    option = call_as_option(state_of("2041"), 0.5, apart)
    assert (
        option.standing == MAY
        and option.pistons == 5
        and [n.ask for n in option.needs] == list(asks_at(state_of("2041"), ladder_of(state_of("2041")), 0.5, apart))
    )
    assert call_as_option(state_of("2041"), 0.25, ()).standing == NO


def test_an_unread_wall_is_asked_for_before_the_bar_turns(ledger_of, shipped):
    from redline_bore.job.words import call as call

    to_the_call = itertools.takewhile(lambda r: not isinstance(r.entry, (DecisionTaken, HoleBored)), ledger_of("2036"))
    advice = call.advise(fold(unread(list(to_the_call)), shipped), 1, 0.508, Show(Units.INCH))
    assert (
        advice.mark is Mark.LOOK and "But first read the wall of cylinder 1" in advice.sentence
    )  # of a forged, hard worked engine
    assert not any(c.startswith("Without cylinder 1") for c in advice.changes)  # it holds nobody back there


def test_the_working_sets_the_axes_side_by_side(state_of):
    from redline_bore.job.words import call as call

    advice = call.advise(state_of("2041"), 2, 0.75, MM)
    told = {w.text.split(":")[0]: w.text for w in advice.working if w.text.startswith("about ")}
    assert set(told) == {f"about {p.title}" for p in options("axis") if p.name != "unworn bottom"}
    sizes = {k: float(v.rsplit(" ", 1)[1]) for k, v in told.items()}
    assert min(sizes, key=sizes.get) == "about least metal, leaning with the hole"
    assert any("bored about the unworn bottom of the hole" in c for c in advice.changes)


@pytest.mark.parametrize("gap, asked", [(None, True), (0.90, False)])
def test_a_bore_gauge_is_asked_for_only_where_it_could_say_another(ledger_of, shipped, gap, asked):
    """Job 2047 has ring gaps alone; once their taper is far past the limit, no other gauge would take that back."""
    wide = [] if gap is None else [RingGapRead(cylinder=1, depth_mm=10.0, gap_mm=gap)]
    state = after(ledger_of("2047"), shipped, *wide)
    assert (ToMeasure(Measure.BORE_GAUGE) in found(state, "deglaze").needs) is asked
    assert (found(state, "deglaze").standing == NO) is not asked
    past_a_ring = by_ring_gaps(state, "rering").standing == NO
    notes = readings_advice.advise(state, 1, MM).changes
    assert any("Borrow a bore gauge" in n for n in notes) is not past_a_ring
    assert any("worn past what new rings take" in n for n in notes) is past_a_ring


@pytest.mark.parametrize("feel, standing", [("cant_feel", "sure"), ("can_feel", "may do")])
def test_a_flaw_that_is_felt_is_worth_strokes_and_a_look_and_never_sure(monkeypatch, shipped, feel, standing):
    from types import SimpleNamespace

    from redline_bore.job.call import light_options

    low, high = shipped.row(f"cleanup.{feel}")
    flaw = SimpleNamespace(cylinder=2, what="rust", is_cut_out=True, accepted="", deep_low_mm=low, deep_high_mm=high)
    state = SimpleNamespace(figures=shipped, gauging=SimpleNamespace(defects=(flaw,)))
    found = light_options._felt(state)
    assert (found is None) is (standing == "sure")
    accepted = SimpleNamespace(**vars(flaw) | {"accepted": "the owner knows"})
    assert light_options._felt(SimpleNamespace(figures=shipped, gauging=SimpleNamespace(defects=(accepted,)))) is None


@pytest.mark.parametrize("lobes, inside", [(2, False), (3, True), (4, False)])
def test_lobes_that_are_no_oval_count_against_the_limits(lobes, inside):
    """0.08 on diameter in four lobes leaves the second harmonic at nought, and the hole is out of round all the same; two points see no three."""
    import math

    from redline_bore.core.shape import fit_level
    from redline_bore.job.call import ladder

    clocks = [0.0, 30.0, 60.0, 90.0, 120.0, 150.0]
    sizes = [92.0 + (0.0 if lobes % 2 else 0.04 * math.cos(math.radians(lobes * c))) for c in clocks]
    level = type("Level", (), {"fit": fit_level(clocks, sizes)})
    shape = type("Shape", (), {"levels": (level,)})
    doubt = type("Doubt", (), {"own_mm": 0.0015})
    with pytest.MonkeyPatch.context() as patched:
        patched.setattr(ladder, "reading_doubt", lambda state: doubt)
        assert (ladder._lobed(None, shape) < 0.025) is inside


@pytest.mark.parametrize(
    "there, standing", [("TIGHT", NO), ("WIDE", NO), ("NOT_MEASURED", SURE), ("CLOSE", SURE), ("IN", SURE)]
)
def test_a_deglaze_is_not_sound_with_a_clearance_outside_its_window(monkeypatch, ledger_of, shipped, there, standing):
    from redline_bore.job.call import light_options
    from redline_bore.job.call.clearance_there import ClearanceThere, There

    monkeypatch.setattr(light_options, "_felt", lambda state: None)
    monkeypatch.setattr(light_options, "clearance_there", lambda state: ClearanceThere(There[there], (1,)))
    plan = PlanChosen(name="own", depths_mm=DEPTHS, clocks_deg=CLOCKS)
    state = after(ledger_of("2047"), shipped, plan, *readings_2047(shipped, 0.01))
    assert found(state, "deglaze").standing == standing
