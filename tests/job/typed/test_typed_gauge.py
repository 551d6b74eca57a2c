"""Words at the gauge: plans, zero and master, spindle, plate and head, other shops; each refused with the reason."""

import pytest

from redline_bore.core.errors import BenchError
from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.job.kinds.entry import Record
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.gauge import PlanChosen, SpindleSet
from redline_bore.job.kinds.phrase import Where
from tests.job.benches import one_typed

HERE, INCH = Where(2, Place(1, 3), Units.METRIC), Where(1, Place(0, 0), Units.INCH)


@pytest.fixture
def state(state_of):
    return state_of("2041")


def typed(state, text, where=HERE):
    return one_typed("gauge", text, state, where)


def test_plans_are_chosen_made_and_named(state):
    assert (len(typed(state, "plan race").depths_mm), len(typed(state, "plan race").clocks_deg)) == (8, 12)
    tall = typed(state, "levels 12 40 90 150 200 as tall")
    assert tall.name == "tall" and tall.depths_mm == (12, 40, 90, 150, 200) and len(tall.clocks_deg) == 6
    assert typed(state, "clocks 0 45 90 135").clocks_deg == (0, 45, 90, 135)


def test_a_plan_of_ones_own_is_chosen_again_by_its_name(ledger_of, shipped):
    ledger = ledger_of("2041")
    chosen = PlanChosen(name="tall", depths_mm=(12.0, 90.0, 200.0), clocks_deg=(0.0, 90.0))
    more = [Record(ledger[-1].seq + 1, ledger[-1].at, "RM", chosen)]
    more.append(Record(ledger[-1].seq + 2, ledger[-1].at, "RM", typed(fold(ledger, shipped), "plan quick")))
    state = fold((*ledger, *more), shipped)
    assert state.gauging.plan.name == "quick" and typed(state, "plan tall") == chosen


def test_zero_and_master(state):
    zero = typed(state, "zero 105.002 21.5 C")
    assert (zero.master_20_mm, zero.master_c, zero.gauge_c, zero.gauge) == (105.002, 21.5, 21.5, "two-point")
    assert typed(state, "zero three-point 105").gauge == "three-point"
    check = typed(state, "master -0.001 20.8 C")
    assert (check.from_zero_mm, check.master_c) == (-0.001, 20.8)


def test_an_indicator_on_a_spindle(state):
    assert typed(state, "spindle deck") == SpindleSet(cylinder=2, zero_radius_mm=52.5, based_on="deck")
    assert typed(state, "spindle mains 52.6").zero_radius_mm == 52.6


def test_plate_and_head_are_stated_line_by_line(state):
    plate = typed(
        state,
        "plate fastener M12 torque 110 Nm lubricant oil threads 22 gasket steel shim stages 50 75 100 mains yes halves no",
    )
    s = plate.set_up
    assert plate.part == "plate" and (s.fastener_mm, s.torque_nm, s.lubricant, s.nut_factor) == (
        12,
        110,
        "engine oil",
        0.16,
    )
    assert (s.engagement_mm, s.gasket, s.stages, s.mains_torqued, s.halves_bolted) == (
        22, "steel shim", (0.5, 0.75, 1.0), True, False,
    )  # fmt: skip
    assert typed(state, "head same").set_up == state.clamped.held_down("plate")
    own = typed(state, "head lubricant goose grease k 0.13").set_up
    assert (own.lubricant, own.nut_factor, own.fastener_mm) == ("goose grease", 0.13, 16.0)  # the rest stays as stated


def test_torque_goes_by_the_units_of_the_job(state):
    assert typed(state, "plate torque 80 lbf ft").set_up.torque_nm == pytest.approx(108.465, abs=1e-3)
    assert typed(state, "plate torque 80", INCH).set_up.torque_nm == pytest.approx(108.465, abs=1e-3)


def test_another_shop_and_what_it_read(state, state_of):
    opened = typed(
        state, "other Weir works plate off block 58 F pistons 14.5 C aim 0.080 gauge over 0.002 corrected no"
    )
    assert opened.who == "Weir works" and opened.block_c == pytest.approx(14.444, abs=1e-3)
    assert (opened.piston_c, opened.aim_mm, opened.bore_gauge_over_mm, opened.plate_on) == (14.5, 0.08, 0.002, False)
    marigold = state_of("2036")
    reading = typed(marigold, "other 2 3.2702 at 2.0 clock 45", INCH)
    assert (reading.who, reading.cylinder, reading.clock_deg) == ("owner", 2, 45.0)
    assert reading.depth_mm == pytest.approx(50.8)
    assert typed(marigold, "other 1 3.2702", INCH).depth_mm is None
    assert typed(marigold, "other piston 1 3.2671", INCH).size_mm == pytest.approx(3.2671 * 25.4)


@pytest.mark.parametrize(
    "text, reason",
    [
        ("plan enormous", "plan enormous"),
        ("levels 10", "2 to 20"),
        ("levels 60 24", "grow"),
        ("levels 10 999", "not in a cylinder"),
        ("clocks 0 190", "180"),
        ("zero", "master's size"),
        ("zero 10", "too far"),
        ("master 5", "distance from zero"),
        ("spindle roof", "spindle mains"),
        ("spindle mains 90", "no radius"),
        ("plate", "not understood"),
        ("plate bolt 12", "not understood"),
        ("plate torque much", "not a torque"),
        ("plate torque 9000", "check the unit"),
        ("plate torque 1,,,1", "no torque"),
        ("plate lubricant goose grease", "K for"),
        ("plate k 7", "between"),
        ("plate stages 100 50", "grow"),
        ("plate mains maybe", "yes or no"),
        ("other 1 105.1", "Say first who"),
        ("other Weir works plate sideways", "on or off"),
        ("other Weir works block cold", "temperature"),
    ],
)
def test_what_cannot_be_meant_is_refused_with_the_reason(state, text, reason):
    with pytest.raises(BenchError, match=reason):
        typed(state, text)


def test_a_check_without_a_zero_is_refused(state_of):
    with pytest.raises(BenchError, match="no zero"):
        typed(state_of("2047"), "master +0.001")
