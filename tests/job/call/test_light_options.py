"""Re-ringing with the pistons there are: inside the limits, and with a clearance that the window takes."""

import pytest

from redline_bore.core.block import BlockSpec, Layout
from redline_bore.core.lengths import Units
from redline_bore.job.call.clearance_there import There, clearance_there
from redline_bore.job.call.finding import CallVerdict, judge
from redline_bore.job.call.ladder import ladder_of
from redline_bore.job.call.light_options import light_options, stop_rule
from redline_bore.job.call.option import MAY, NO, SURE, UNKNOWN
from redline_bore.job.call.reason import Measure, Reason, ToMeasure, Why
from redline_bore.job.kinds.book_in import JobOpened
from redline_bore.job.kinds.call import ClearanceStated, PistonMeasured
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.gauge import BlockTemperature, PlanChosen, ReadingBooked
from redline_bore.job.state.booking import BookIn
from tests.job.benches import longer

DEPTHS, CLOCKS = (12.0, 20.0, 35.0, 50.0, 65.0, 80.0, 100.0, 120.0), (0.0, 45.0, 90.0, 135.0)


@pytest.fixture
def round_hole(shipped):
    """A single, gauged at eight levels and four angles: straight and round to a few microns, at ``size``."""

    def made(size=92.030, *more, oval=0.0, read=True):
        block = BlockSpec(Layout.SINGLE, 1, 92.0, 76.0, 140.0)
        book = BookIn(owner="Tarn mill", engine="single", block=block, purpose="re-ring")
        opening = JobOpened(number="9", units=Units.METRIC, book_in=book, figures=shipped.plain())
        readings = [
            ReadingBooked(cylinder=1, depth_mm=d, clock_deg=a, diameter_mm=size + oval * (a == 90.0), plate_on=False)
            for d in DEPTHS
            for a in CLOCKS
        ]
        plan = PlanChosen(name="own", depths_mm=DEPTHS, clocks_deg=CLOCKS)
        ledger = longer((), opening, plan, BlockTemperature(block_c=20.0), *(readings if read else ()), *more)
        return fold(ledger, shipped)

    return made


def option(state, key):
    return next(o for o in light_options(state, ladder_of(state)) if o.key == key)


def piston(size):
    return (
        ClearanceStated(source="piston sheet", low_mm=0.05, high_mm=0.09),
        PistonMeasured(cylinder=1, size_mm=size, piston_c=20.0),
    )


def test_a_good_hole_with_its_pistons_measured_may_be_re_rung(round_hole):
    found = option(round_hole(92.030, *piston(91.960)), "rering")
    assert found.standing == SURE and Reason(Why.CLEARANCE_IN, (1,), named=("piston sheet",)) in found.reasons
    assert stop_rule(round_hole()) in found.reasons  # when a drill hone is to stop


def test_pistons_that_are_not_measured_are_asked_for(round_hole):
    found = option(round_hole(), "rering")
    assert found.standing == MAY and ToMeasure(Measure.MEASURE_PISTONS) in found.needs


def test_a_clearance_that_is_too_wide_speaks_against_it(round_hole):
    found = option(round_hole(92.030, *piston(91.900)), "rering")
    assert found.standing == NO and Reason(Why.CLEARANCE_OVER, (1,), named=("piston sheet",)) in found.reasons


@pytest.mark.parametrize("key", ["leave", "deglaze", "rering"])
def test_a_piston_that_would_seize_speaks_against_every_light_way(round_hole, key):
    state = round_hole(92.030, *piston(92.032))
    found = option(state, key)
    assert found.standing == NO and Why.CLEARANCE_UNDER in [r.why for r in found.reasons]
    assert clearance_there(state).stands is There.TIGHT and judge(state, 0.5).verdict is not CallVerdict.LEAVE


@pytest.mark.parametrize(
    "size, stands",
    [(91.9885, There.TIGHT), (91.982, There.CLOSE), (91.978, There.CLOSE), (91.960, There.IN), (91.942, There.CLOSE), (91.938, There.CLOSE), (91.930, There.WIDE)],
)  # fmt: skip
def test_the_clearance_there_is_at_every_edge(round_hole, size, stands):
    assert clearance_there(round_hole(92.030, *piston(size))).stands is stands


def test_the_clearance_of_a_piston_nobody_measured_is_not_known(round_hole):
    there = clearance_there(round_hole())
    assert there.stands is There.NOT_MEASURED and there.cylinders == (1,) and there.least_mm is None


def test_a_hole_that_is_out_of_round_is_not_left(round_hole):
    state = round_hole(oval=0.2)
    assert {option(state, key).standing for key in ("leave", "deglaze", "rering")} == {NO}


def test_a_hole_that_was_not_read_is_unknown_and_says_what_to_gauge(round_hole):
    found = option(round_hole(read=False), "leave")
    assert found.standing == UNKNOWN and [(n.what, n.cylinder) for n in found.needs] == [(Measure.GAUGE_BECAUSE, 1)]
