"""What a bar or a hone made of a hole: the call that was cut, and what is read of the wall after it."""

from types import SimpleNamespace

import pytest

from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.call.asks import AskFor, asks_at, proofs_among
from redline_bore.job.call.cut import walls_as_gauged
from redline_bore.job.call.finding import CallVerdict, judge
from redline_bore.job.call.ladder import ladder_of
from redline_bore.job.call.need import axis_shift
from redline_bore.job.call.options import options_of
from redline_bore.job.call.reason import Why
from redline_bore.job.call.walls import wall_bound
from redline_bore.job.gauge.analysis import shape_of
from redline_bore.job.gauge.doubtful import DoubtOf, doubt_in
from redline_bore.job.hone.ways_out import _outside, _sleeve
from redline_bore.job.kinds.bore import HoleBored
from redline_bore.job.kinds.call import DecisionTaken, PistonMeasured
from redline_bore.job.kinds.defects import DefectMarked, WallRead
from redline_bore.job.kinds.gauge import ReadingBooked, SweepBooked
from redline_bore.job.kinds.hone import CheckLogged
from redline_bore.job.sleeve.ways import outer_radii
from redline_bore.job.state.hole import cut_mm
from redline_bore.job.words import call as words
from redline_bore.job.words.doubtful import asked_of
from tests.job.benches import after

MM = Show(Units.METRIC)
CALL = DecisionTaken(oversize_mm=0.5, sentence="Bore all five 0.50 over.")


def hole(cylinder, size=105.38):
    return HoleBored(cylinder=cylinder, set_mm=size, sizes_mm=(size, size, size))


def check(cylinder, strokes, size):
    return CheckLogged(cylinder=cylinder, strokes=strokes, sizes_mm=(size, size, size))


def wall(cylinder, thick, clock=90.0, depth=60.0):
    zone = "thrust" if clock in (90.0, 270.0) else "elsewhere"
    return WallRead(cylinder=cylinder, clock_deg=clock, depth_mm=depth, wall_mm=thick, zone=zone)


@pytest.fixture
def called(ledger_of, shipped):
    """2041, called at 0.50 over, its pistons measured."""
    pistons = [PistonMeasured(cylinder=c, size_mm=105.43, piston_c=20.0) for c in range(1, 6)]
    return lambda *entries: after(ledger_of("2041"), shipped, CALL, *pistons, *entries)


def test_what_a_hole_was_made_to_is_what_came_last(called):
    assert cut_mm(called(), 2) is None and cut_mm(called(check(2, 0, 105.1)), 2) is None
    assert cut_mm(called(hole(2)), 2) == pytest.approx(105.38) and cut_mm(called(hole(2)), 3) is None
    honed = called(hole(2), check(2, 0, 105.381), check(2, 20, 105.41), hole(3))
    assert cut_mm(honed, 2) == pytest.approx(105.41)
    before = honed.boring.holes[0].seq
    assert cut_mm(honed, 2, before) is None and cut_mm(honed, 2, before + 1) == pytest.approx(105.38)


def test_no_sweep_is_told_of_for_a_hole_that_is_cut(called):
    def swept(state):
        return {
            a.cylinder
            for a in proofs_among(state, ladder_of(state), ladder_of(state).fates(0.5))
            if a.what is AskFor.SWEEP
        }

    whole = swept(called())
    assert whole == {1, 4}
    assert swept(called(hole(4))) == whole - {4}
    every = called(*(hole(c) for c in range(1, 6)))
    found = judge(every, 0.5)
    assert found.verdict is CallVerdict.CUT and set(found.cylinders) == whole and not swept(every)
    assert "Look into 1 and 4 at the bar, before the hone" in words.say(found, MM).sentence
    honed = judge(called(*(hole(c) for c in range(1, 6)), *(check(c, 0, 105.38) for c in range(1, 6))), 0.5)
    assert honed.verdict is CallVerdict.CUT and honed.cylinders == ()


def test_a_size_that_a_hole_is_past_is_no_option_any_more(called):
    options = {o.key: o for o in options_of(called(hole(1, 105.45), hole(2, 105.45)))}
    assert options["rung:0.2500"].standing == "no"
    told = [r for r in options["rung:0.2500"].reasons if r.why is Why.CUT_LARGER]
    assert sorted(c for r in told for c in r.cylinders) == [1, 2]


@pytest.mark.parametrize("clock", [0.0, 90.0, 180.0, 270.0])
def test_a_wall_read_after_the_cut_says_what_it_would_have_said_before(called, clock):
    mean, (x, y) = shape_of(called(), 2).mean_mm, axis_shift(called(), 2, 60.0)
    off = {0.0: x, 90.0: y, 180.0: -x, 270.0: -y}[clock]  # cylinder 2 is swept, and bored about an axis of its own
    before = called(wall(2, 4.2, clock), hole(2, mean + 0.4))
    since = called(hole(2, mean + 0.4), wall(2, 4.0 - off, clock))
    assert walls_as_gauged(before, 2)[-1].wall_mm == pytest.approx(4.2)
    assert walls_as_gauged(since, 2)[-1].wall_mm == pytest.approx(4.2)
    assert wall_bound(since, 2).most_mm == pytest.approx(wall_bound(before, 2).most_mm)
    assert wall_bound(since, 2).sure_mm == pytest.approx(wall_bound(before, 2).sure_mm)
    assert min(_outside(since, [2])) == pytest.approx(min(_outside(before, [2])))
    assert abs(x) > 0.01 and min(_outside(before, [2])) == pytest.approx(mean / 2.0 + 4.05)


def test_a_wall_read_about_a_moved_axis_has_the_shift_put_back(called, monkeypatch):
    mean = shape_of(called(), 2).mean_mm
    monkeypatch.setattr("redline_bore.job.call.cut.axis_shift", lambda state, cylinder, depth: (0.0, 0.05))
    state = called(hole(2, mean + 0.4), wall(2, 4.0, 90.0), wall(2, 4.0, 270.0), wall(2, 4.0, 0.0))
    assert [w.wall_mm for w in walls_as_gauged(state, 2)][-3:] == pytest.approx([4.25, 4.15, 4.2])


@pytest.mark.parametrize("cut, asked", [((), False), ((hole(3),), False), ((hole(2),), True), ((check(2, 0, 105.1),), False), ((check(2, 0, 105.1), check(2, 9, 105.2)), True)])  # fmt: skip
@pytest.mark.parametrize("kind", ["two-point", "three-point", "sweep"])
def test_a_hole_that_was_cut_is_not_read_as_the_worn_one_unasked(called, cut, asked, kind):
    state = called(*cut)
    entry = ReadingBooked(cylinder=2, depth_mm=60.0, clock_deg=0.0, diameter_mm=105.007, plate_on=True, gauge=kind)
    if kind == "sweep":
        clocks = tuple(10.0 * i for i in range(36))
        entry = SweepBooked(cylinder=2, depth_mm=60.0, clock_deg=clocks, radius_mm=(52.5,) * 36, plate_on=True)
    found = doubt_in(state, [entry], Units.METRIC)
    assert (found is not None and found.what is DoubtOf.CUT_SINCE) is asked
    if asked:
        assert asked_of(state, [entry], MM).startswith(f"cylinder 2 was cut to {MM.size(cut_mm(state, 2))} since")


def pit(cylinder, low, high=None):
    return DefectMarked(
        cylinder=cylinder, what="pit", top_mm=55.0, bottom_mm=65.0, clock_deg=90.0, width_deg=10.0, deep_low_mm=low, deep_high_mm=low if high is None else high
    )  # fmt: skip


@pytest.mark.parametrize("cylinder", [2, 3])  # swept, and read at two points
def test_a_flaw_that_the_cut_laid_open_lies_under_the_cut(called, cylinder):
    """What it takes to get under it is the hole as cut and twice its depth, whatever the worn wall was there."""
    state = called(hole(cylinder), pit(cylinder, 0.2))
    column = ladder_of(state).columns[cylinder - 1]
    assert column.cleanup.low_mm == pytest.approx(105.38 + 2 * 0.2, abs=0.09)
    assert column.cleanup.high_mm == pytest.approx(105.38 + 2 * 0.2 + 0.1, abs=0.1)
    assert (
        judge(state, 0.5).verdict is CallVerdict.WILL_NOT and state.gauging.defects_of(cylinder)[0].deep_low_mm == 0.2
    )
    before = ladder_of(called(pit(cylinder, 0.2), hole(cylinder))).columns[cylinder - 1]
    assert before.cleanup.high_mm < column.cleanup.high_mm - 0.1


def test_a_felt_flaw_in_a_cut_hole_is_measured_before_anything_else(called):
    every = [hole(c) for c in range(1, 6)]
    state = called(*every, *(check(c, 0, 105.38) for c in range(1, 6)), pit(2, 0.02, 0.12))
    found = judge(state, 0.5)
    assert found.verdict is CallVerdict.MAY_SHADOW and [a.what for a in found.asks] == [AskFor.MARK]
    assert "measure how deep the pit in 2 is" in words.say(found, MM).sentence


def test_a_hone_that_breaks_the_glaze_makes_no_size(ledger_of, shipped):
    light = DecisionTaken(oversize_mm=0.0, way="deglaze", sentence="Deglaze only.")
    glazed = [check(2, 0, 105.1), check(2, 12, 105.1)]
    assert cut_mm(after(ledger_of("2041"), shipped, light, *glazed), 2) is None
    assert cut_mm(after(ledger_of("2041"), shipped, CALL, *glazed), 2) == pytest.approx(105.1)


def test_a_felt_flaw_of_the_worn_wall_is_not_asked_for_once_it_is_cut(called):
    def marks(*entries):
        state = called(*entries)
        return [a for a in asks_at(state, ladder_of(state), 0.5) if a.what is AskFor.MARK and a.cylinder == 3]

    felt = pit(3, 0.1, 0.3)
    assert marks(hole(3), felt) and not marks(felt, hole(3))


def test_the_wall_behind_a_sleeve_is_that_of_its_own_cylinder(called):
    state = called(hole(2), wall(2, 4.2), wall(3, 1.0))
    assert _sleeve(state, 2).mm[1] > _sleeve(state, 3).mm[1] + 2.0


def test_how_far_out_a_parent_reaches_is_told_by_a_wall_read_after_the_cut_too(called):
    state, fit = called(hole(2), wall(2, 4.2)), SimpleNamespace(cylinder=2, rings=(), parent_mm=None)
    mean = shape_of(state, 2).mean_mm
    assert outer_radii(state, fit)[-1] == pytest.approx(mean / 2.0 + walls_as_gauged(state, 2)[-1].wall_mm)
    assert walls_as_gauged(state, 2)[-1].wall_mm != pytest.approx(4.2, abs=0.01)
