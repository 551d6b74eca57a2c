"""A second opinion of a hole that was honed is held place by place, and what the plate may do is named as a cause."""

import pytest

from redline_bore.core.errors import InputError
from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.gauge.second_opinion import comparisons
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.hone import CheckLogged
from redline_bore.job.kinds.opinions import OtherReadingBooked, SecondOpinionOpened
from redline_bore.job.kinds.phrase import Where
from redline_bore.job.kinds.plate import PlateChanged
from redline_bore.job.words import second_opinion as words
from tests.job.benches import after, longer, one_typed

IN = 25.4
INCH = Show(Units.INCH)


@pytest.fixture
def honed(ledger_of):
    """A hole that reads 92.0 all over at both angles, with the plate on."""
    sizes = (92.0, 92.0, 92.0)
    return longer(
        ledger_of("2029"), PlateChanged(on=True), CheckLogged(cylinder=1, strokes=0.0, sizes_mm=sizes, across_mm=sizes)
    )


def opened(book, *readings, plate=True):
    return longer(book, SecondOpinionOpened(who="Marigold", plate_on=plate, block_c=20.0, piston_c=20.0), *readings)


def read(size, clock=None, depth=None):
    return OtherReadingBooked(who="Marigold", cylinder=1, diameter_mm=size, depth_mm=depth, clock_deg=clock)


def test_two_angles_that_differ_from_ours_are_each_told_and_not_their_mean(honed, shipped):
    state = fold(opened(honed, read(92.018, 0.0, 60.0), read(91.980, 90.0, 60.0)), shipped)
    rows = comparisons(state)
    assert [round(r.opinion.left_over_mm, 3) for r in rows] == [-0.018, 0.020]
    assert not any(r.opinion.explained for r in rows)
    assert "at 90°" in words.advise(state, 1, INCH).sentence


@pytest.mark.parametrize("clock, depth, axis, deep", [
    (0.0, 10.0, 0.0125, 0.0075), (90.0, 10.0, -0.0125, 0.0125), (90.0, 500.0, -0.0125, -0.0125), (20.0, None, 0.0125, 0.0), (45.0, 10.0, 0.0, 0.0),
    (None, 10.0, 0.0, 0.01), (None, None, 0.0, 0.0), (178.0, None, 0.0125, 0.0),
])  # fmt: skip
def test_what_the_angle_and_the_depth_they_read_at_explain_comes_from_our_own_sizes(
    ledger_of, shipped, clock, depth, axis, deep
):
    check = CheckLogged(cylinder=1, strokes=0.0, sizes_mm=(92.02, 92.015, 92.0025), across_mm=(92.0, 91.9875, 91.975))
    state = fold(opened(longer(ledger_of("2029"), PlateChanged(on=True), check), read(92.0, clock, depth)), shipped)
    (row,) = comparisons(state)
    assert row.b.spot_axis_over_mm == pytest.approx(axis, abs=1e-6) and row.b.spot_depth_over_mm == pytest.approx(
        deep, abs=1e-6
    )


@pytest.mark.parametrize("plate, named", [(False, True), (True, False)])
def test_the_plate_is_offered_as_the_cause_where_nobody_read_what_it_does(ledger_of, shipped, plate, named):
    sizes = (78.1, 78.1, 78.1)
    check = CheckLogged(cylinder=1, strokes=0.0, sizes_mm=sizes, across_mm=sizes)
    book = longer(ledger_of("2047"), PlateChanged(on=True), check)
    state = fold(opened(book, read(78.130, 0.0, 60.0), plate=plate), shipped)
    assert ("The plate was off at theirs: it may be that." in words.advise(state, 1, INCH).sentence) is named


def typed(state, text):
    return one_typed("gauge", text, state, Where(1, Place(0, 0), Units.INCH))


def test_a_condition_without_a_name_is_of_the_one_that_measured_last(honed, shipped):
    state = fold(opened(honed), shipped)
    more = typed(state, "other aim 0.0047")
    assert (more.who, more.plate_on, more.block_c) == ("Marigold", True, 20.0) and more.aim_mm == pytest.approx(
        0.0047 * IN
    )
    again = typed(after(opened(honed), shipped, more), "other Marigold plate off")
    assert again.aim_mm == pytest.approx(0.0047 * IN) and not again.plate_on
    with pytest.raises(InputError, match="Say first who measured"):
        typed(fold(honed, shipped), "other aim 0.0047")
