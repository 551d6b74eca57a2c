"""What the checks and the family taught the hone, by hand."""

import pytest

from redline_bore.job.hone.model import learned_of, task_of, wall_now
from redline_bore.job.hone.progress import progress_of
from redline_bore.job.kinds.fold import fold
from tests.job.benches import after
from tests.job.hone.the_hone import checks, steady


def test_the_spread_of_a_familys_lessons_is_carried_into_the_rate(set_up, shipped):
    """Two sd each way from three jobs on; the shop's wide figure with fewer, or where they did not tell it."""
    from redline_bore.job.lessons import RATE
    from redline_bore.job.profiles.stones import stones_said
    from redline_bore.job.state.booking import Lesson
    from tests.job.benches import but

    state = fold(set_up, shipped)
    wide = state.figures.number("honing.few_lessons_spread")
    for sd, count, spread in ((0.0002, 3, 0.2), (0.0002, 2, wide), (None, 3, wide), (0.0001, 9, 0.1)):
        lesson = Lesson(RATE, stones_said("vitrified_150"), 0.002, sd, count, ("2036",))
        found = learned_of(but(state, booking={"lessons": (lesson,)}), 1)
        assert found.rate_mm == pytest.approx(0.002) and found.family == ("2036",) and found.checks == 0
        assert (found.low_mm, found.high_mm) == pytest.approx((0.002 / (1.0 + spread), 0.002 * (1.0 + spread)))
        assert (found.top, found.bottom) == (1.0, 1.0)


def test_without_lessons_the_starting_point_is_halved_and_doubled(set_up, shipped):
    found = learned_of(fold(set_up, shipped), 1)
    assert (found.low_mm, found.high_mm) == pytest.approx((0.5 * found.rate_mm, 2.0 * found.rate_mm))


def test_the_middle_cylinder_teaches_one_that_has_no_checks(set_up, shipped):
    rates = {2: 0.001, 3: 0.002, 4: 0.003}
    more = [e for c, rate in rates.items() for e in steady(rate, cylinder=c)]
    assert learned_of(after(set_up, shipped, *more), 1).rate_mm == pytest.approx(0.002, rel=1e-3)


@pytest.mark.parametrize("strokes, counts", [((0, 10, 20), 3), ((0, 10), 0)])
def test_three_checks_teach_and_two_do_not(set_up, shipped, strokes, counts):
    assert learned_of(after(set_up, shipped, *steady(strokes=strokes)), 1).checks == counts


def test_ends_that_cut_alike_are_learned_alike_and_one_place_teaches_no_ends(set_up, shipped):
    even = learned_of(after(set_up, shipped, *steady(shape=(0.0, 0.0, 0.0))), 1)
    assert even.top == pytest.approx(even.bottom, rel=0.5)
    one = learned_of(after(set_up, shipped, *checks((0, 105.640), (10, 105.655), (20, 105.670))), 1)
    assert (one.top, one.bottom) == (1.0, 1.0) and one.checks == 3
    still = learned_of(
        after(
            set_up,
            shipped,
            *checks((20, 105.64, 105.64, 105.64), (20, 105.64, 105.64, 105.64), (20, 105.64, 105.64, 105.64)),
        ),
        1,
    )
    assert (still.top, still.bottom) == (1.0, 1.0)


def test_the_turn_round_before_the_planner_is_the_hones_own(set_up, shipped):
    from dataclasses import replace as changed_to

    from tests.job.benches import but

    state = fold(set_up, shipped)
    usual = state.figures.number("honing.turn_round")
    for strokes in (45.0, 250.0):
        task = task_of(but(state, honing={"run": changed_to(state.honing.run, strokes_per_min=strokes)}), 1).task
        assert task.reversal_s == pytest.approx(min(usual, 0.45 * 60.0 / strokes))
        assert task.double_strokes_per_min == strokes
    assert task_of(state, 1).task.target_mm == pytest.approx(
        (progress_of(state, 1).target_mm - min(wall_now(state, 1).sizes_mm)) / 2.0
    )
