"""What random faults went unseen in, worked by hand."""

import math
from dataclasses import replace
from types import SimpleNamespace

import pytest

from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.bore import run as bar_run
from redline_bore.job.call import stand_by
from redline_bore.job.call.ladder import Fares
from redline_bore.job.hone import progress
from redline_bore.job.state.readings import Readings
from redline_bore.job.words.stand_by import say_against
from tests.job.benches import but

METRIC = Show(Units.METRIC)


def test_a_sleeve_is_ordered_over_its_bore_by_two_walls(state_of):
    from redline_bore.job.state.calling import Apart
    from redline_bore.job.words.quote import order_lines

    state = state_of("2041")
    found = next(
        line for line in order_lines(state, 0.5, (Apart(cylinder=2, way="sleeve"),), METRIC) if line.what == "sleeves"
    )
    outside = state.block.bore_mm + 0.5 + 2.0 * state.figures.number("sleeves.wall")
    assert METRIC.rough(outside) in found.size and found.count == 1 and "2" in found.remark


def test_a_deck_out_leans_every_hole_by_its_length_over_the_bank(state_of):
    from redline_bore.job.bore.plan import deck_lean

    state = state_of("2041")
    deck = SimpleNamespace(rows_mm=((0.0, 0.02), (0.05, 0.01)))
    for pitch in (120.0, None):
        block = replace(state.block, pitch_mm=pitch)
        there = but(state, booking={"book_in": replace(state.book_in, block=block)}, sleeving={"decks": (deck,)})
        span = block.cylinders * (pitch or 1.2 * block.bore_mm)
        assert deck_lean(there) == pytest.approx(0.05 * block.length_mm / span)
    assert deck_lean(but(state, sleeving={"decks": ()})) is None


@pytest.mark.parametrize(
    "settings, done, wanted",
    [
        ((), None, None),
        ((80.1, 80.2), object(), None),
        ((80.1, 80.2), None, (80.1, 1, 2)),
        ((80.2,), None, (80.2, 1, 1)),
    ],
)
def test_the_setting_that_is_next(monkeypatch, state_of, settings, done, wanted):
    monkeypatch.setattr(bar_run, "plan_of", lambda state, c, day: SimpleNamespace(settings_mm=settings, done=done))
    assert bar_run.setting_now(but(state_of("2041"), boring={"run_checks": ()}), 1, "") == wanted


@pytest.mark.parametrize(
    "colds, wanted",
    [
        (((False, 60.0), (False, 90.0)), 0),
        (((False, 5.0), (False, 90.0)), 1),
        (((True, 60.0), (False, 90.0)), 1),
        (((True, 60.0), (True, 90.0)), 1),
        (((False, 12.0), (False, 90.0)), 1),
        (((False, 12.1), (False, 90.0)), 0),
    ],
)
def test_the_mildest_cold_that_leaves_time(colds, wanted):
    from redline_bore.job.sleeve.heat import _mildest

    found = [SimpleNamespace(too_hot=hot, seconds=s) for hot, s in colds]
    assert _mildest(tuple(found), 10.0) is found[wanted]


@pytest.mark.parametrize(
    "practice, own, judged", [("ra and rz", False, False), ("ra and rz", True, True), ("rk family", False, True)]
)
def test_rz_is_judged_where_the_practice_goes_by_it_or_the_job_says_so(state_of, practice, own, judged):
    from redline_bore.job.finish.judgement import FinishWindow, _judged, texture_at

    state = state_of("2036")
    practices = tuple((t, practice if t == "finish" else n) for t, n in state.booking.practices)
    there = but(state, booking={"practices": practices})
    textures = [texture_at(t) for t in state.finishing.traces[:2]]
    for name in ("Rz", "Rk"):
        window = FinishWindow(name, 0.1, 100.0, "x", own)
        assert (_judged(there, name, textures, window).decision is not None) is (judged or name == "Rk")


def test_traces_are_told_from_the_top_down_however_they_were_booked(state_of):
    from redline_bore.job.finish.judgement import counting_traces, traces_before

    state = state_of("2036")
    turned = but(state, finishing={"traces": tuple(reversed(tuple(state.finishing.traces)))})
    several = 0
    for cylinder in state.cylinders:
        for found in (counting_traces(turned, cylinder), traces_before(turned, cylinder)):
            depths = [t.depth_mm for t in found]
            several += len(depths) > 1
            assert depths == sorted(depths)
    assert several


def test_a_lost_call_is_spoken_against_where_it_is_not_known_any_more():
    column = SimpleNamespace(cleanup=None, ceiling_mm=None, cracked=False)
    fate = SimpleNamespace(fares=Fares.NOT_KNOWN, column=column, too_thin=False, cylinder=1, oversize_mm=0.5)
    found = stand_by._against(None, fate, SimpleNamespace(verdict="cleans up", high_mm=80.4))
    assert "its readings changed" in say_against(found, METRIC)
    assert stand_by._against(None, fate, SimpleNamespace(verdict="may leave a shadow", high_mm=80.4)) is None


@pytest.mark.parametrize(
    "counted, running, says",
    [(12, True, "stop"), (11, True, "1 more strokes"), (13, False, "stop"), (0, False, "Enter starts")],
)
def test_the_pacer_stops_at_its_count(monkeypatch, state_of, counted, running, says):
    from redline_bore.job.words import hone_pages

    pace = SimpleNamespace(
        possible=True,
        double_strokes_per_min=50.0,
        drill_rpm_for_hand=200.0,
        angle_at_hand_deg=40.0,
        seconds_per_double_stroke=1.2,
    )
    monkeypatch.setattr(hone_pages, "kinematics_of", lambda state: SimpleNamespace(pace=pace))
    state = state_of("2047")
    assert says in hone_pages.pacer(state, progress.progress_of(state, 1), counted, running, 12).sentence


def test_a_drill_turns_in_the_middle_of_the_usual_surface_speeds(state_of):
    from redline_bore.job.hone.set_up import proposed_hone

    state = but(state_of("2047"), honing={"stones": None})
    slow, fast = state.figures.row("honing.surface_speed_vitrified")
    wanted = 1000.0 * (slow + fast) / 2.0 / (math.pi * state.block.bore_mm)
    steps = state.figures.row("honing.hone_speeds")
    assert proposed_hone(state, "drill").rpm == min(steps, key=lambda s: abs(s - wanted))


@pytest.mark.parametrize(
    "loads, depth",
    [
        ((20.0, 20.0, 20.0), None),
        ((20.0, 20.0, 60.0), 90.0),
        ((math.nan, 20.0, 60.0), 90.0),
        ((60.0, 20.0, math.nan), 10.0),
        ((0.0, 0.0, 0.0), None),
    ],
)
def test_where_the_load_is_tightest(loads, depth):
    from redline_bore.job.hone.load import LoadPicture

    picture = LoadPicture(1, (10.0, 50.0, 90.0), loads, 3, 5.0, None, 100.0, 0.004)
    assert (None if picture.tight is None else picture.tight.depth_mm) == depth
    assert LoadPicture(1, (10.0,), (20.0,), 0, 5.0, None, 100.0, 0.004).tight is None


@pytest.mark.parametrize("turn, told", [(22.4, "30° ± 45°"), (22.5, "not told"), (0.2, "30° ± 1°"), (5.0, "30° ± 10°")])
def test_a_long_axis_is_told_while_its_doubt_leaves_it_a_direction(shipped, turn, told):
    from redline_bore.core.extremes import Extreme
    from redline_bore.job.gauge.extremes import Extremes
    from redline_bore.job.words.readings import _oval_lines

    fit = SimpleNamespace(out_of_round_raw_mm=0.02, long_axis_deg=30.0)
    doubt, rules = SimpleNamespace(long_axis_deg=turn), SimpleNamespace(out_of_round_mm=0.02)

    def ends(low, high):
        return Extremes(Extreme(low, high), None, None, None, None)

    oval, axis = _oval_lines(fit, doubt, rules, ends(0.016, 0.02), METRIC)
    assert axis.value == told and str(oval.mark) == "sound" and oval.value == "0.018 ± 0.002"
    over, _ = _oval_lines(fit, doubt, rules, ends(0.016, 0.0201), METRIC)
    assert str(over.mark) == "look here", "sure only where its high end is within"
    (under,) = _oval_lines(fit, doubt, rules, ends(0.0, 0.004), METRIC)
    assert under.value == "under 0.004", "what is not out of round has no long axis"
    (hidden,) = _oval_lines(fit, doubt, rules, Extremes(None, Extreme(0.0, 0.006), None, None, None), METRIC)
    assert hidden.value == "under 0.006, may hide more" and str(hidden.mark) == "look here"
    (unsure,) = _oval_lines(fit, SimpleNamespace(long_axis_deg=None), rules, ends(0.016, 0.02), METRIC)
    assert unsure.label == "out of round"


@pytest.mark.parametrize(
    "stamped, wanted", [((), "book_in"), (("book_in",), "gauge"), (("book_in", "gauge"), "call"), (("gauge",), "call")]
)
def test_a_job_opens_at_the_step_after_its_last_stamp(state_of, stamped, wanted):
    from redline_bore.job.route import first_step

    state = but(state_of("2041"), signing={"stamps": tuple(SimpleNamespace(step=s) for s in stamped)})
    assert first_step(state) == wanted


def test_three_point_readings_are_of_their_own_cylinder_and_plate(state_of):
    state = state_of("2041")
    rows = tuple(
        SimpleNamespace(seq=1, cylinder=c, plate_on=p, depth_mm=20.0, clock_deg=0.0, size_mm=105.0)
        for c in (1, 2)
        for p in (True, False)
    )
    found = but(state, gauging={"three_points": Readings(rows)}).gauging
    assert [len(found.three_points_of(1, p)) for p in (True, False, None)] == [1, 1, 2]
    assert all(r.cylinder == 2 for r in found.three_points_of(2))


def test_a_purpose_that_says_nothing_bores_and_sleeves_nothing():
    from redline_bore.job.profiles.purpose import Purpose

    assert (Purpose("x").bores, Purpose("x").sleeves, Purpose("x").light) == (True, False, "")


def test_their_sizes_are_taken_at_20_where_they_did_not_say(ledger_of, shipped):
    from redline_bore.job.gauge.second_opinion import Assumed, comparisons
    from redline_bore.job.kinds.opinions import OtherReadingBooked, SecondOpinionOpened
    from redline_bore.job.kinds.sign_off import JobReopened
    from tests.job.benches import after

    state = after(
        ledger_of("2036"), shipped, JobReopened(reason="x"), SecondOpinionOpened(who="Weir", plate_on=False, aim_mm=0.07),
        OtherReadingBooked(who="Weir", cylinder=1, diameter_mm=83.06),
    )  # fmt: skip
    (found,) = comparisons(state)
    assert (found.b.block_c, found.b.piston_c) == (20.0, 20.0) and found.b.piston_mm == pytest.approx(found.a.piston_mm)
    assert Assumed.BLOCK_AT_20 in found.assumed
