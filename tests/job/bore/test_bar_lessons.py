"""What holes teach the bar, what the shelf holds, what the run sheet asks; over one job and over many."""

from dataclasses import replace

import pytest

from redline_bore.core.block import Bottom
from redline_bore.core.errors import InputError
from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.bore.plan import chatters, correction_of, deck_lean, minutes_left, plan_of, stop_of
from redline_bore.job.bore.run import setting_now
from redline_bore.job.bore.tool_lessons import HoleFault, ProofWant, bar_misses, faults_in, next_setting, proof_wants
from redline_bore.job.bore.tools import cut_on_job, metal_cut, shelf_of, shelf_of_job, stated_on_job, taught
from redline_bore.job.card import Mark
from redline_bore.job.kinds.book_in import BookInRevised, PracticeChosen
from redline_bore.job.kinds.bore import (
    BarSet,
    CutNoted,
    EdgeTurned,
    HoleBored,
    InsertShelved,
    MachineStated,
    RunChecked,
)
from redline_bore.job.kinds.call import DecisionTaken, PistonMeasured
from redline_bore.job.kinds.fold import fold, struck_entries
from redline_bore.job.kinds.gauge import BlockTemperature
from redline_bore.job.kinds.phrase import Where
from redline_bore.job.kinds.sleeve import DeckRead
from redline_bore.job.kinds.strikes import EntryStruck
from redline_bore.job.state.calling import Apart
from redline_bore.job.words.bore import advise
from redline_bore.job.words.bore_run import centring, run_of
from redline_bore.job.words.inserts import chatter_words
from redline_bore.job.words.run_sheet import next_stamp
from redline_bore.job.words.tool_lessons import HOLE_FAULTS, say_next
from tests.job.benches import after, longer, one_typed

MM, DAY = Show(Units.METRIC), "2026-11-24"
BAR = BarSet(insert="TPG 321", nose_radius_mm=0.396875, rake="positive", feed_mm=0.1, rpm=850.0, machine="north")
NORTH = MachineStated(name="north", thick_mm=60.0, reach_mm=250.0, speeds_rpm=(300.0, 850.0, 1200.0))
LARGE = BarSet(insert="radius 0.8 positive", nose_radius_mm=0.8, rake="positive", feed_mm=0.2, rpm=850.0)


@pytest.fixture
def called(ledger_of):
    """2041 called at 0.75 over, its pistons measured, the bar set up."""
    pistons = [PistonMeasured(cylinder=c, size_mm=105.67, piston_c=20.0) for c in range(1, 6)]
    return longer(ledger_of("2041"), DecisionTaken(oversize_mm=0.75, sentence="Bore."), *pistons, NORTH, BAR)


def hole(cylinder, *sizes, setting=105.63, across=()):
    return HoleBored(cylinder=cylinder, set_mm=setting, sizes_mm=sizes, across_mm=across)


def typed(state, text, cylinder=1):
    return one_typed("bore", text, state, Where(cylinder, Place(0, 0), Units.METRIC))


def notes(state, cylinder=1):
    return " ".join(advise(state, cylinder, MM, DAY).changes)


# -- lessons -----------------------------------------------------------------------------------------------------------


def test_a_first_hole_is_proved_at_three_places_and_two_angles(called, shipped):
    hurried = after(called, shipped, hole(2, 105.643)).boring.holes[0]
    assert proof_wants(hurried) == (ProofWant.THREE_PLACES, ProofWant.SECOND_ANGLE)
    assert proof_wants(replace(hurried, sizes_mm=(105.6,) * 3, across_mm=(105.6,) * 3)) == ()
    assert advise(after(called, shipped, hole(2, 105.643)), 2, MM, DAY).mark is Mark.LOOK


def test_a_second_angle_counts_towards_the_largest_and_the_mean(called, shipped):
    state = after(called, shipped, hole(2, 105.640, 105.640, 105.640, across=(105.650, 105.640, 105.640)))
    assert state.boring.holes[0].largest_mm == pytest.approx(105.650) and state.boring.holes[
        0
    ].mean_mm == pytest.approx(105.64167, abs=1e-4)
    assert faults_in(state, state.boring.holes[0])[0] is HoleFault.ANGLES_DIFFER


@pytest.mark.parametrize(
    ("sizes", "setting", "word"),
    [
        ((105.660, 105.650, 105.640), 105.64, "the bar's taper"),
        ((105.640, 105.650, 105.660), 105.64, "wider at the bottom"),
        ((105.700, 105.700, 105.700), 105.63, "the micrometer comes first"),
    ],
)
def test_taper_and_a_wrong_micrometer_are_told_from_one_hole(called, shipped, sizes, setting, word):
    state = after(called, shipped, hole(2, *sizes, setting=setting, across=sizes))
    assert word in " ".join(HOLE_FAULTS[f] for f in faults_in(state, state.boring.holes[0])) and word in notes(state, 2)


def test_a_cold_tool_is_told_apart_and_the_next_setting_says_why(called, shipped):
    state = after(called, shipped, hole(2, 105.643, 105.643, 105.643, across=(105.643,) * 3))
    told = say_next(next_setting(state, DAY), MM)
    assert told.startswith("Next, cylinder 4: set 105.640; +0.013 of cylinder 2 was a cold tool's")
    later = after(called, shipped, hole(2, 105.643), hole(4, 105.634, 105.634, 105.634, across=(105.634,) * 3))
    assert "came +0.004 over" in say_next(next_setting(later, DAY), MM)
    assert next_setting(fold(called, shipped), DAY) is None


def test_how_far_a_bar_misses_is_known_from_two_holes_on(called, shipped):
    assert bar_misses(after(called, shipped, hole(2, 105.643), hole(4, 105.634))) is None
    state = after(called, shipped, hole(2, 105.643), hole(4, 105.634), hole(1, 105.640))
    usual = correction_of(state).usual_mm
    assert bar_misses(state) == pytest.approx(max(abs(0.004 - usual), abs(0.010 - usual)))


def test_another_tool_s_holes_teach_this_one_nothing(called, shipped):
    state = after(called, shipped, hole(2, 105.643), hole(4, 105.650), LARGE)
    assert correction_of(state).holes == 0 and correction_of(state).usual_mm == 0.0
    back = after(called, shipped, hole(2, 105.643), hole(4, 105.650), LARGE, BAR)
    assert correction_of(back).holes == 1


def test_a_hole_measured_warm_is_told_at_20_c(called, shipped):
    warm = after(called, shipped, hole(2, 105.66, 105.66, 105.66, across=(105.66,) * 3), block_c=34.0)
    figures = {f.label: f.value for f in advise(warm, 2, MM, DAY).figures}
    assert figures["came out, 20 °C"].split(", ")[0] == f"{105.66 / (1.0 + 11e-6 * 14.0):.3f}"
    assert figures["measured warm, at"] == "34 °C"
    before = after(called, shipped, BlockTemperature(block_c=34.0))
    reads = next(f for f in advise(before, 2, MM, DAY).figures if f.label == "reads, at 34 °C")
    assert reads.mark is Mark.LOOK and float(reads.value) > plan_of(before, 2).target_mm


# -- jobs before -------------------------------------------------------------------------------------------------------


def test_what_a_bar_was_taught_goes_with_its_set_up(called, shipped, state_of):
    jobs = [cut_on_job(state_of("2036")), cut_on_job(state_of("2044"))]
    bar = taught(BAR, jobs, fold(called, shipped))
    assert bar.taught_by == ("2036", "2044") and bar.firsts == 2 and bar.holes == 2
    assert 0.008 < bar.first_mm < 0.013 and abs(bar.usual_mm) < 0.002
    state = after(called, shipped, bar)
    assert correction_of(state).first_mm == pytest.approx(bar.first_mm)
    source = advise(state, 2, MM, DAY).working[1].source
    assert "2036, 2044" in source


def test_a_bar_learns_only_from_its_own_insert_machine_and_metal(called, shipped, state_of):
    jobs, now = [cut_on_job(state_of("2036")), cut_on_job(state_of("2044"))], fold(called, shipped)
    assert cut_on_job(now) is None
    assert taught(BAR, [replace(jobs[0], number=now.number)], now) == BAR
    assert taught(LARGE, jobs, now) == LARGE
    assert taught(replace(BAR, machine="south"), jobs, now).taught_by == ()
    assert metal_cut(state_of("2044")) == metal_cut(now) == "grey_iron"  # an iron sleeve is iron


def shelves(*ledgers):
    return [shelf_of_job(x, struck_entries(x)) for x in ledgers]


def test_edges_are_counted_and_struck_ones_do_not_count(ledger_of):
    demo = [ledger_of("2036"), ledger_of("2044")]
    assert [(s.insert, s.edges, s.used, s.left) for s in shelf_of(shelves(*demo), "TPG 321")] == [
        ("TPG 321", 15, 1, 14)
    ]
    more = longer(ledger_of("2044"), EdgeTurned(insert="TPG 321"), InsertShelved(
        insert="SNMG 433", nose_radius_mm=1.19, rake="negative", edges=8, grade="plain", count=2))  # fmt: skip
    found = {s.insert: s for s in shelf_of(shelves(ledger_of("2036"), more))}
    assert found["TPG 321"].used == 2 and found["SNMG 433"].left == 16
    struck = longer(more, EntryStruck(seq=len(more) - 1))
    assert {s.insert: s.used for s in shelf_of(shelves(ledger_of("2036"), struck))}["TPG 321"] == 1


def test_an_insert_nobody_counted_is_not_called_plenty(called):
    line = next(s for s in shelf_of(shelves(longer(called, LARGE))) if s.insert == LARGE.insert)
    assert (line.edges, line.left) == (0, 0)


def test_the_machine_of_a_job_is_the_one_stated_last(ledger_of, called):
    assert stated_on_job(ledger_of("2036"), frozenset()).machine.name == "north"
    assert stated_on_job(ledger_of("2047"), frozenset()) is None
    both = longer(called, replace(NORTH, name="south"))
    assert stated_on_job(both, frozenset()).machine.name == "south"
    assert stated_on_job(both, frozenset({both[-1].seq})).machine.name == "north"


# -- set-up and run ----------------------------------------------------------------------------------------------------


def test_the_stop_stays_in_the_room_below(called, shipped):
    assert stop_of(fold(called, shipped)) == (216.0, 4.0, True)
    book_in = called[0].entry.book_in
    blind = replace(book_in.block, bottom=Bottom.BLIND, room_below_mm=1.5)
    state = after(called, shipped, BookInRevised(book_in=replace(book_in, block=blind)))
    assert stop_of(state) == (213.5, 1.5, True) and "stop 1.50 under the hole" in notes(state)
    unknown = replace(book_in.block, room_below_mm=None)
    state = after(called, shipped, BookInRevised(book_in=replace(book_in, block=unknown)))
    assert not stop_of(state)[2] and "once the room below is measured" in run_of(state, 1, MM)[3].words


def test_squared_to_a_deck_that_is_out_the_holes_lean(called, shipped):
    assert deck_lean(fold(called, shipped)) is None
    deck = DeckRead(bank=0, rows_mm=((0.0, 0.05), (0.08, 0.15)))
    state = after(called, shipped, deck, replace(BAR, based_on="deck"))
    assert deck_lean(state) == pytest.approx(0.15 * 212.0 / (5 * 128.0))
    assert "leans it by up to 0.050" in notes(state)
    assert "only as square to the crank as the deck" in notes(after(called, shipped, replace(BAR, based_on="deck")))


@pytest.mark.parametrize(
    ("axis", "words"),
    [
        ("unworn bottom", "in the unworn bottom"),
        ("under the ridge", "just under the ridge"),
        ("crank line", "on the crank line and the bore spacing, not in the hole"),
        ("least metal", "it is not swept"),
    ],
)
def test_where_the_bar_is_centred_follows_the_practice(called, shipped, axis, words):
    state = after(called, shipped, PracticeChosen(topic="axis", name=axis))
    assert words in centring(state, 1, MM)
    assert words in " ".join(item.words for item in run_of(state, 1, MM))


def test_a_swept_hole_is_centred_off_its_own_centre(called, shipped):
    state = after(called, shipped, PracticeChosen(topic="axis", name="least metal"))
    assert "from the hole's own centre" in centring(state, 2, MM)


def test_settings_of_several_passes_are_stamped_one_by_one(called, shipped):
    far = DecisionTaken(oversize_mm=0.75, sentence="Bore.", apart=(Apart(cylinder=1, way="own", oversize_mm=2.0),))
    deep = longer(called, far, PistonMeasured(cylinder=1, size_mm=107.0, piston_c=20.0))
    state = fold(deep, shipped)
    plan = plan_of(state, 1, DAY)
    assert len(plan.settings_mm) == 2 and setting_now(state, 1, DAY) == (plan.settings_mm[0], 1, 2)
    one = after(deep, shipped, RunChecked(step="bore", cylinder=1, check="pass 1"))
    assert setting_now(one, 1, DAY) == (plan.setting_mm, 2, 2)
    assert [i.key for i in run_of(state, 1, MM)][:6] == ["faces", "feeler", "centred", "stop", "pass 1", ""]


def test_the_edge_at_the_top_is_broken_past_the_finish(called, shipped):
    chamfer = run_of(fold(called, shipped), 1, MM)[-1]
    assert chamfer.key == "chamfer" and f"Ø {105.745 + 1.6:.3f}" in chamfer.words


def test_the_time_for_the_block_falls_as_holes_are_done(called, shipped):
    before, one = minutes_left(fold(called, shipped)), minutes_left(after(called, shipped, hole(2, 105.643)))
    assert before > one > 0.0
    done = after(called, shipped, *(hole(c, 105.64) for c in range(1, 6)))
    assert minutes_left(done) == 0.0


def test_a_long_thin_bar_sings(called, shipped):
    thin = MachineStated(name="thin", thick_mm=40.0, reach_mm=260.0, speeds_rpm=(850.0,))
    sings = chatters(after(called, shipped, thin, BAR))
    assert sings is not None and sings.slender == pytest.approx(6.5) and "6.5 times" in chatter_words(sings)
    assert chatters(fold(called, shipped)) is None and chatter_words(None) == ""
    rubs = replace(LARGE, feed_mm=0.05)
    assert "rubs" in chatter_words(chatters(after(called, shipped, rubs)))


def test_both_banks_of_a_vee_are_set_up_apart(ledger_of, shipped):
    items = run_of(fold(ledger_of("2044"), shipped), 2, Show(Units.INCH))
    assert "bank 2" in items[0].words and items[0].key == "faces 2" and items[0].done
    assert next_stamp(items) is None


# -- typing ------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("text", "entry"),
    [
        ("machine South thick 40 reach 220 speeds 900 200 500",
         MachineStated(name="south", thick_mm=40.0, reach_mm=220.0, speeds_rpm=(200.0, 500.0, 900.0))),
        ("insert radius 0.8 positive edges 3 plain 4",
         InsertShelved(insert="radius 0.8 positive", nose_radius_mm=0.8, rake="positive", edges=3, grade="plain", count=4)),
        ("turn", EdgeTurned(insert="TPG 321", why="worn")),
        ("turn broken", EdgeTurned(insert="TPG 321", why="broken")),
        ("note webs at 190", CutNoted(cylinder=1, what="web", depth_mm=190.0)),
        ("note ridge", CutNoted(cylinder=1, what="ridge")),
        ("105.61 105.60 across 105.62 105.61",
         HoleBored(cylinder=1, set_mm=105.625, sizes_mm=(105.61, 105.60), across_mm=(105.62, 105.61))),
    ],
)  # fmt: skip
def test_what_is_typed_at_the_bar(called, shipped, text, entry):
    assert typed(fold(called, shipped), text) == entry


def test_feed_and_speed_are_proposed_inside_the_window(called, shipped):
    state = fold(called, shipped)
    coated, plain = typed(state, "bar TPG 321"), typed(state, "bar TPG 321 plain deck")
    assert 0.05 <= coated.feed_mm <= 0.15 and coated.rpm == 850.0
    assert plain.rpm == 300.0 and (plain.grade, plain.based_on) == ("plain", "deck")
    hand = typed(state, "bar radius 0.8 positive feed 0.25")
    assert hand.feed_mm == 0.25 and hand.insert == "radius 0.8 positive"
    half = after(called, shipped, PracticeChosen(topic="hone_allowance", name="half thou"))
    fine = typed(half, "bar radius 0.4 positive")
    assert 6.0 * fine.feed_mm**2 / (8.0 * 0.4) <= 0.013 + 1e-3  # what the hone is left takes the marks out


@pytest.mark.parametrize(
    ("text", "why"),
    [
        ("machine north", "write it like: "),
        ("machine x thick 2 reach 220 speeds 300", "check the unit"),
        ("machine x thick 40 reach 220 speeds 0 9000", "speeds of a bar"),
        ("insert TPG 321", "write it like: "),
        ("insert radius 0.8 positive coated 4", "How many edges"),
        ("insert TPG 321 coated 0", "1 to 500"),
        ("turn purple", "worn, chipped or broken"),
        ("note bang", "A note is"),
        ("note web at 900", "is not in a cylinder, nor just below"),
        ("bar TPG 321 feed", "The bar is typed by"),
        ("bar feed 0.1", "The bar is typed by"),
        ("bar TPG 321 rpm fast", "is no number"),
        ("105.61 across 105.61 105.60", "As many sizes across"),
        ("across 105.61", "As many sizes across"),
    ],
)
def test_what_is_refused_at_the_bar_has_its_reason(called, shipped, text, why):
    with pytest.raises(InputError, match=why):
        typed(fold(called, shipped), text)


def test_an_edge_cannot_be_turned_in_an_empty_bar(ledger_of, shipped):
    with pytest.raises(InputError, match="Nothing is in the bar"):
        typed(fold(ledger_of("2041"), shipped), "turn")


def test_what_was_heard_is_said_with_what_it_means(called, shipped):
    state = after(
        called, shipped, CutNoted(cylinder=1, what="hit and skip", depth_mm=120.0), CutNoted(cylinder=1, what="web"),
        CutNoted(cylinder=1, what="ridge"), CutNoted(cylinder=2, what="web"),
    )  # fmt: skip
    told = notes(state)
    assert "Hit and skip 120 mm down" in told and told.count("Webs noted") == 1 and "Ridge noted" in told
