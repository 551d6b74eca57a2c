"""Clean-up as a bound: every term where it belongs, and walls of every kind held against it."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from redline_bore.core.cleanup_bound import (
    BoundTerms,
    Lacks,
    LevelRead,
    Mark,
    between_chords,
    bound_swept,
    bound_two_point,
    chord_gap_deg,
)
from redline_bore.core.errors import FitError

TERMS = BoundTerms(0.013, 0.008, 0.012, 0.010, 0.020, 1.10, 0.004, 0.008)
SIX, FOUR, THREE, TWO = ((tuple(i * 180.0 / n for i in range(n))) for n in (6, 4, 3, 2))
STOP = (14.0, 16.0)
DEPTHS = (15.0, 60.0, 110.0)


def level(depth, clocks, sizes):
    return LevelRead(depth, clocks, tuple(sizes) if np.ndim(sizes) else (float(sizes),) * len(clocks))


def read(clocks, worn=0.1):
    return [level(15.0, clocks, 92.0 + worn), level(60.0, clocks, 92.0 + worn / 2), level(110.0, clocks, 92.0)]


@pytest.mark.parametrize(
    "clocks, factor",
    [(SIX, 1.0718), (FOUR, 1.1716), (THREE, 1.3333), (TWO, 2.0), ((0.0,), 2.0), ((0.0, 20.0, 40.0), 2.0)],
)
def test_wear_between_chords_is_the_square_of_the_half_gap(clocks, factor):
    assert between_chords(clocks) == pytest.approx(factor, abs=1e-3)


def test_the_widest_gap_goes_round_the_half_turn():
    assert (
        chord_gap_deg([0.0, 170.0]) == 170.0
        and chord_gap_deg([10.0]) == 180.0
        and chord_gap_deg([0.0, 60.0, 300.0]) == 60.0
    )


def test_the_high_end_is_the_sum_of_its_terms_and_the_low_end_what_was_read():
    found = bound_two_point(92.0, read(SIX), (), TERMS, STOP)
    assert found.high_mm == pytest.approx(92.0 + 2 * (0.1 * between_chords(SIX) * 1.10 + 0.013 + 0.008 + 0.012 + 0.010))
    assert found.low_mm == pytest.approx(92.1 - 0.004) and found.lacks == () and (found.level, found.mark) == (0, -1)


@pytest.mark.parametrize(
    "levels, lacks",
    [
        (read(SIX), ()), (read(FOUR), ()), (read(THREE), ()), (read(TWO), (Lacks.CHORDS,)), (read(SIX)[1:], (Lacks.STOP_LEVEL,)),
        ([level(13.9, SIX, 92.1), *read(SIX)[1:]], (Lacks.STOP_LEVEL,)), ([level(14.0, SIX, 92.1), *read(SIX)[1:]], ()), ([level(16.0, SIX, 92.1), *read(SIX)[1:]], ()),
        ([level(16.1, SIX, 92.1), *read(SIX)[1:]], (Lacks.STOP_LEVEL,)), ([*read(SIX), level(80.0, TWO, 92.02)], ()),
        ([level(15.0, TWO, 92.1), *read(SIX)[1:]], (Lacks.CHORDS,)), ([level(15.0, SIX, 92.1), level(60.0, TWO, 92.0), level(110.0, TWO, 92.0)], (Lacks.CHORDS,)),
    ],
)  # fmt: skip
def test_what_keeps_it_from_being_a_bound(levels, lacks):
    assert bound_two_point(92.0, levels, (), TERMS, STOP).lacks == lacks
    assert bound_two_point(92.0, levels, (), TERMS, STOP, (Lacks.STANDING,)).lacks == (Lacks.STANDING, *lacks)


def test_a_stray_level_of_two_chords_counts_no_wider_than_the_fuller_ones():
    stray = bound_two_point(92.0, [*read(SIX, 0.02), level(80.0, TWO, 92.1)], (), TERMS, STOP)
    assert stray.high_mm == pytest.approx(92.0 + 2 * (0.1 * between_chords(SIX) * 1.10 + 0.043))


@pytest.mark.parametrize("high, lacks", [(0.05, ()), (None, (Lacks.MARK_DEPTH,))])
def test_a_mark_adds_its_depth_to_the_wear_where_it_lies(high, lacks):
    mark = Mark(60.0, 30.0, 0.03, high)
    found = bound_two_point(92.0, read(SIX, 0.02), (mark,), TERMS, STOP)
    worn = 0.01 * between_chords(SIX) * 1.10
    assert (
        found.high_mm == pytest.approx(92.0 + 2 * (worn + (0.03 if high is None else high) + 0.043))
        and found.lacks == lacks
    )
    assert found.low_mm == pytest.approx(92.06 - 0.004) and (found.level, found.mark) == (1, 0)
    few = bound_two_point(92.0, read(FOUR, 0.02), (mark,), TERMS, STOP)
    assert Lacks.MARK_CHORDS in few.lacks


def test_two_equal_marks_each_cost_what_one_does():
    one, two = ([Mark(60.0, c, 0.05, 0.05) for c in clocks] for clocks in ((30.0,), (30.0, 200.0)))
    assert (
        bound_two_point(92.0, read(SIX, 0.02), one, TERMS, STOP).high_mm
        == bound_two_point(92.0, read(SIX, 0.02), two, TERMS, STOP).high_mm
    )


def test_nothing_read_is_no_bound():
    with pytest.raises(FitError, match="gauged"):
        bound_two_point(92.0, [], (), TERMS, STOP)


# Walls of their own, read as a shop reads them: the truth about the unworn axis lies inside, whatever side wore and between whichever chords.
@settings(max_examples=300)
@given(
    st.floats(0.0, 0.3), st.floats(0.0, 360.0), st.floats(0.0, 1.0), st.sampled_from((THREE, FOUR, SIX)), st.floats(0.0, 0.012), st.floats(0.0, 6.28), st.floats(0.0, 0.008)
)  # fmt: skip
def test_no_wall_needs_more_than_the_high_end_nor_less_than_the_low(wear, side, other, clocks, lean, towards, lobe):
    t = np.deg2rad(np.arange(0.0, 360.0, 1.0))
    turn = t - math.radians(side)
    worn = wear * (np.maximum(np.cos(turn), 0.0) ** 2 + other * np.maximum(-np.cos(turn), 0.0) ** 2)

    def wall(share):
        return 46.0 + share * worn + lobe * np.cos(3.0 * t)

    def across(share, clock):
        r = wall(share)
        return float(r[int(clock) % 360] + r[int(clock + 180) % 360])

    levels = [level(15.0, clocks, [across(0.92, c) for c in clocks]), *read(clocks, 0.0)[1:]]
    found = bound_two_point(92.0, levels, (), TERMS, STOP)
    needs = 2.0 * float((wall(1.0) + lean * np.cos(t - towards)).max())
    assert needs <= found.high_mm and found.lacks == ()
    centred = 2.0 * float(wall(0.92).max())
    assert centred >= found.low_mm


def swept(worn=0.1, unworn=46.0):
    t = np.arange(0.0, 360.0, 5.0)
    rings = [
        (z, unworn + share * worn * np.maximum(np.cos(np.deg2rad(t - 90.0)), 0.0))
        for z, share in ((15.0, 1.0), (60.0, 0.5), (110.0, 0.0))
    ]
    return np.concatenate([r for _, r in rings]), np.repeat([z for z, _ in rings], t.size), np.tile(t, 3)


@pytest.mark.parametrize("crank", [False, True])
def test_a_swept_wall_is_bounded_about_its_axis(crank):
    found = bound_swept(46.0, *swept(), (), TERMS, crank)
    assert found.high_mm == pytest.approx(2 * (46.0 + 1.10 * 0.1 + 0.013 + 0.008 + 0.020 * crank))
    assert found.low_mm == pytest.approx(2 * 46.1 - 0.008) and (found.depth_mm, found.clock_deg) == (15.0, 90.0)


def test_a_mark_on_a_swept_wall_lies_on_the_wall_there():
    found = bound_swept(46.0, *swept(), (Mark(60.0, 90.0, 0.2, 0.22),), TERMS)
    assert found.high_mm == pytest.approx(2 * (46.0 + 1.10 * 0.05 + 0.22 + 0.021)) and found.mark == 0
    assert found.low_mm == pytest.approx(2 * (46.05 + 0.2) - 0.008)
    away = bound_swept(46.0, *swept(), (Mark(60.0, 270.0, 0.02, None),), TERMS, lacks=(Lacks.STOP_NOT_MEASURED,))
    assert away.mark == -1 and away.lacks == (Lacks.STOP_NOT_MEASURED, Lacks.MARK_DEPTH)


def test_a_place_inside_the_unworn_circle_asks_for_no_more():
    found = bound_swept(46.0, [46.02, 45.9], [15.0, 60.0], [0.0, 90.0], (), TERMS)
    assert found.high_mm == pytest.approx(2 * (46.0 + 1.10 * 0.02 + 0.021)) and found.depth_mm == 15.0


@pytest.mark.parametrize(("clock", "deep"), [(356.0, 46.05), (4.0, 46.05), (184.0, 46.0), (94.0, 46.03)])
def test_a_mark_lies_on_the_nearest_wall_over_the_top_of_the_clock_too(clock, deep):
    radii, clocks = [46.05, 46.03, 46.0, 46.01], [0.0, 90.0, 180.0, 270.0]
    found = bound_swept(46.0, radii, [60.0] * 4, clocks, (Mark(60.0, clock, 0.3, 0.3),), TERMS)
    assert found.low_mm == pytest.approx(2 * (deep + 0.3) - 0.008)


@pytest.mark.parametrize(("clock", "deep"), [(95.0, 46.05), (105.0, 46.0), (285.0, 46.05), (275.0, 46.0)])
def test_a_mark_far_from_every_sweep_lies_on_the_nearer_one_either_way_round(clock, deep):
    found = bound_swept(46.0, [46.05, 46.0], [60.0] * 2, [0.0, 200.0], (Mark(60.0, clock, 0.3, 0.3),), TERMS)
    assert found.low_mm == pytest.approx(2 * (deep + 0.3) - 0.008)
