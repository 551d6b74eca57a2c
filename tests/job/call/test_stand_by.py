"""A call stands on figures; what is booked later and speaks against it is told with its reason."""

from dataclasses import replace

import pytest

from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.bore.finding import BoreCall
from redline_bore.job.bore.finding import judge as bore_call
from redline_bore.job.call.asks import first_rung
from redline_bore.job.call.ladder import based_on, ladder_of
from redline_bore.job.call.stand_by import call_stands, contradictions
from redline_bore.job.card import Mark
from redline_bore.job.kinds.call import DecisionTaken, PistonMeasured
from redline_bore.job.kinds.defects import DefectMarked, WallRead
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.gauge import RingGapRead
from redline_bore.job.kinds.sign_off import CareTaken, PointAccepted, RingsGapped
from redline_bore.job.redline import name_of_piston, planned_mm, redline_of, wrong_pistons
from redline_bore.job.state.calling import Apart, BasedOn
from redline_bore.job.words import bore as bore_words
from redline_bore.job.words import call as call
from redline_bore.job.words import hone as hone_advice
from redline_bore.job.words import sign_off
from redline_bore.job.words.stand_by import against_words
from tests.job.benches import after, longer, settled

MM = Show(Units.METRIC)


def taken(ledger, shipped, over, apart=()):
    state = fold(ledger, shipped)
    decision = DecisionTaken(
        oversize_mm=over, sentence="Bore.", apart=apart, based_on=based_on(ladder_of(state), over, apart)
    )
    return longer(ledger, decision)


LIGHT = DecisionTaken(
    oversize_mm=0.0, way="deglaze", sentence="Deglaze only.",
    based_on=(BasedOn(cylinder=1, verdict="may do", low_mm=None, high_mm=None, ceiling_mm=None),),
)  # fmt: skip


def test_nothing_speaks_against_a_call_that_stands(ledger_of, shipped):
    state = fold(taken(settled(ledger_of("2041"), shipped), shipped, 0.5), shipped)
    assert (
        contradictions(state) == () and first_rung(state) == 0.5 and all(call_stands(state, c) for c in state.cylinders)
    )
    assert [b.verdict for b in state.calling.decision.based_on] == ["cleans up"] * 5


def test_a_deeper_score_found_later_speaks_against_it(ledger_of, shipped):
    score = DefectMarked(
        cylinder=2, what="score", top_mm=30.0, bottom_mm=50.0, clock_deg=90.0, width_deg=10.0, deep_low_mm=0.4, deep_high_mm=0.4
    )  # fmt: skip
    state = after(taken(settled(ledger_of("2041"), shipped), shipped, 0.5), shipped, score)
    (told,) = against_words(state, MM)
    assert told.startswith("Cylinder 2 at +0.50: will not clean up, was cleans up; it needed 105.463 at most, now ")
    assert told in call.advise(state, 2, 0.5, MM).changes and not call_stands(state, 2) and call_stands(state, 1)


def piston(cylinder, size):
    return PistonMeasured(cylinder=cylinder, size_mm=size, piston_c=20.0)


@pytest.mark.parametrize(
    "size, sold, stands",
    [
        (104.94, 0.0, False),
        (105.19, 0.25, False),
        (105.40, 0.5, True),
        (105.45, 0.5, True),
        (105.70, 0.75, False),
        (105.36, 0.5, True),  # smaller than sold, and still likely
        (105.38, 0.5, True),
    ],
)
def test_pistons_are_held_against_the_call_before_the_bar_is_set(ledger_of, shipped, size, sold, stands):
    book = taken(settled(ledger_of("2041"), shipped), shipped, 0.5)
    state = after(book, shipped, piston(2, size))
    assert call_stands(state, 2) is stands and name_of_piston(state, size, 0.5) == sold
    assert bool(wrong_pistons(state)) is (sold != 0.5)
    if not stands:
        assert bore_call(state, 2).call is BoreCall.AGAINST_CALL
    if sold == 0.0:
        assert (
            "as standard pistons do: these are not the pistons of this call"
            in bore_words.advise(state, 2, MM, "").sentence
        )


def test_a_thin_wall_read_later_speaks_against_it(ledger_of, shipped):
    wall = WallRead(cylinder=5, clock_deg=90.0, depth_mm=60.0, wall_mm=3.9, zone="thrust")
    state = after(taken(ledger_of("2041"), shipped, 0.75), shipped, wall)
    (told,) = against_words(state, MM)
    assert "Cylinder 5 at +0.75: wall too thin" in told and "its wall allows" in told


def test_good_news_is_no_contradiction(ledger_of, shipped):
    book = taken(ledger_of("2041"), shipped, 0.5)  # 4 may shadow at that
    wall = WallRead(cylinder=5, clock_deg=90.0, depth_mm=60.0, wall_mm=9.0, zone="thrust")
    assert contradictions(after(book, shipped, wall)) == ()


def test_a_cylinder_that_is_sleeved_anyway_cannot_contradict(ledger_of, shipped):
    score = DefectMarked(
        cylinder=4, what="score", top_mm=30.0, bottom_mm=60.0, clock_deg=90.0, width_deg=10.0, deep_low_mm=0.9, deep_high_mm=0.9
    )  # fmt: skip
    book = taken(ledger_of("2041"), shipped, 0.5, (Apart(cylinder=4, way="sleeve"),))
    assert contradictions(after(book, shipped, score)) == ()


def test_calls_of_an_older_program_without_figures_are_left_alone(ledger_of, shipped):
    def older(record):
        bare = isinstance(record.entry, DecisionTaken)
        return replace(record, entry=replace(record.entry, based_on=())) if bare else record

    state = fold([older(r) for r in ledger_of("2036")], shipped)
    assert state.calling.decision.based_on == () and contradictions(state) == ()


def test_a_cylinder_at_its_own_size_is_honed_to_that(ledger_of, shipped):
    apart = (Apart(cylinder=4, way="own", oversize_mm=0.75),)
    state = fold(taken(ledger_of("2041"), shipped, 0.5, apart), shipped)
    assert planned_mm(state, 4) == 105.75 and planned_mm(state, 1) == 105.5


# -- a call that bores nothing -------------------------------------------------------------------------------------


def test_deglazing_gives_no_redline_and_says_how_to_stop(ledger_of, shipped):
    state = after(ledger_of("2047"), shipped, LIGHT)
    assert planned_mm(state, 1) is None and redline_of(state, 1).size_mm is None
    advice = hone_advice.advise(state, 1, MM)
    assert "then stop: wash, and measure the ring's gap" in advice.sentence and not advice.button
    assert not state.calling.decision.bores and first_rung(state) > 0.0


def test_deglazing_can_be_signed_off_without_a_size(ledger_of, shipped):
    book = longer(ledger_of("2047"), LIGHT)
    advice = sign_off.advise(fold(book, shipped), MM)
    assert not advice.button and "open points before it can be signed off" in advice.sentence
    assert not any("piston" in point or "hone check" in point for point in advice.changes)
    done = longer(
        book, RingsGapped(cylinder=1, top_mm=0.4), CareTaken(what="washed"), CareTaken(what="oiled"),
        *(PointAccepted(point=p, reason="deglazed only") for p in ("Cylinder 1: not gauged.", "Gauged with the plate off only.")),
    )  # fmt: skip
    advice = sign_off.advise(fold(done, shipped), MM)
    assert advice.button == "Sign off" and advice.mark is Mark.SOUND and "Nothing was bored" in advice.sentence


def test_a_gap_that_shows_wear_speaks_against_deglazing(ledger_of, shipped):
    book = longer(ledger_of("2047"), LIGHT)
    assert contradictions(fold(book, shipped)) == ()
    state = after(book, shipped, RingGapRead(cylinder=1, depth_mm=10.0, gap_mm=0.95))
    (told,) = against_words(state, MM)
    assert told.startswith("Deglaze only: no, was may do; taper by ring gaps 0.166")


def test_the_ladder_says_which_call_was_taken(ledger_of, shipped):
    state = after(ledger_of("2047"), shipped, LIGHT)
    assert "The call taken: Deglaze only. Enter replaces it." in call.advise(state, 1, 0.25, MM).changes


@pytest.mark.parametrize("way", ["leave", "deglaze", "rering"])
def test_every_light_call_survives_the_ledger_file(way):
    from redline_bore.job.kinds.codec import entry_from_plain, to_plain

    entry = DecisionTaken(oversize_mm=0.0, way=way, sentence="x")
    assert entry_from_plain(to_plain(entry)) == entry
