"""Limits of what the steps work out, from both sides, on states made for it."""

import math
from dataclasses import replace
from types import SimpleNamespace

import numpy as np
import pytest

from redline_bore.core.block import bore_positions, fastener_positions
from redline_bore.core.cleanup import Verdict
from redline_bore.core.fit import Decision
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.bore import run as bar_run
from redline_bore.job.bore import tool_lessons
from redline_bore.job.call import need, shadow, stand_by
from redline_bore.job.call.ladder import FateWay, _note
from redline_bore.job.call.pistons import Fit
from redline_bore.job.finish import plateau
from redline_bore.job.gauge import defects as gauge_defects
from redline_bore.job.gauge import doubt as gauge_doubt
from redline_bore.job.gauge import plate, side_by_side, study
from redline_bore.job.hone import model, progress, stock_ledger, ways_out
from redline_bore.job.hone.load import _spread
from redline_bore.job.hone.set_up import _stroke
from redline_bore.job.hone.steps import PEAKS_ONLY, _judged
from redline_bore.job.sign_off import learned
from redline_bore.job.sleeve import ways
from redline_bore.job.sleeve.run import parent_done
from tests.job.benches import but

METRIC = Show(Units.METRIC)

# -- the bar --------------------------------------------------------------------------------------------------------


def hole(sizes, set_mm=80.0, cylinder=1):
    return SimpleNamespace(
        sizes_mm=sizes, set_mm=set_mm, mean_mm=sum(sizes) / len(sizes), cylinder=cylinder, across_mm=()
    )


@pytest.fixture
def told(monkeypatch, shipped):
    def told(*holes):
        monkeypatch.setattr(tool_lessons, "with_first", lambda state: [(h, False) for h in holes])
        return tool_lessons.diagnosis(SimpleNamespace(figures=shipped, boring=SimpleNamespace(holes=holes)))

    return told


def test_what_holes_say_of_the_bar(told, shipped):
    f = shipped.number
    taper, warm, wrong, alike = (f(f"boring.{k}") for k in ("taper_told", "warming_told", "wrong_told", "alike"))
    wide = 80.0 + taper * 1.1
    assert "wider at the top" in told(hole((wide, 80.0)), hole((wide, 80.0)))
    assert "wider at the bottom" in told(hole((80.0, wide)), hole((80.0, wide)))
    assert told(hole((wide, 80.0))) == told(hole((80.0 + 0.9 * taper, 80.0)), hole((80.0 + 0.9 * taper, 80.0))) == ""
    assert told(hole((80.0 + 3.0 * taper, 80.0)), hole((80.0, 80.0 + taper * 0.5))) == "", "not all one way"
    grows = [hole((80.0 + warm * x,)) for x in (0.0, 0.6, 1.1)]
    assert "warming" in told(*grows) and told(*grows[:2]) == ""
    assert told(*(hole((80.0 + warm * x,)) for x in (0.0, 0.6, 0.9))) == "" or warm * 0.9 > wrong
    off = [hole((80.0 + wrong * 1.2,)), hole((80.0 + wrong * 1.2 + alike * 0.5,))]
    assert "setting micrometer" in told(*off)
    assert told(hole((80.0 + wrong * 1.2,)), hole((80.0 + wrong * 1.2 + alike * 1.5,))) == ""
    assert told(hole((80.0 + wrong * 0.9,)), hole((80.0 + wrong * 0.9,))) == ""


@pytest.mark.parametrize("first, asked", [((), (1, 2)), ((1,), (1,)), ((2,), (2,))])
def test_the_first_hole_is_proved_and_no_other(state_of, first, asked):
    state = state_of("2036")
    by_number = {h.cylinder: h for h in state.boring.holes}
    there = but(state, boring={"holes": tuple(by_number[c] for c in first)})
    said = {c for c in (1, 2) if any("First hole proved" in str(i) for i in bar_run.run_of(there, c, METRIC))}
    assert said == set(asked)


# -- the call -------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    "axis, wanted", [(0.0, "pin-axis wear"), (30.0, "pin-axis wear"), (31.0, "wear askew"), (59.0, "wear askew"), (60.0, "thrust wear"), (90.0, "thrust wear"),
                     (120.0, "thrust wear"), (121.0, "wear askew"), (149.0, "wear askew"), (150.0, "pin-axis wear"), (179.0, "pin-axis wear"), (None, "worn")],
)  # fmt: skip
def test_which_way_a_hole_is_worn(axis, wanted):
    level = SimpleNamespace(fit=SimpleNamespace(long_axis_deg=axis))
    shape = SimpleNamespace(levels=(level,), deciding_defect=None, wear=object(), worst_level=level)
    assert _note(shape) == wanted
    assert _note(SimpleNamespace(**vars(shape) | {"wear": None})) == "no unworn place read"
    assert _note(SimpleNamespace(**vars(shape) | {"levels": ()})) == "not gauged"
    assert _note(SimpleNamespace(**vars(shape) | {"deciding_defect": SimpleNamespace(what="score")})) == "score"


@pytest.mark.parametrize(
    "left, decision, wanted",
    [
        (0.02, Decision.OUT, 0.02),
        (0.02, Decision.IN, None),
        (0.0, Decision.OUT, None),
        (-0.01, Decision.OUT, None),
        (0.02, None, 0.02),
    ],
)
def test_metal_left_for_a_piston(left, decision, wanted):
    fit = Fit(1, 79.93, 0.0, 80.0, 80.0 - left, 0.07, 0.004, decision, 0.05)
    assert fit.to_come_mm == (None if wanted is None else pytest.approx(wanted))


def test_the_cuts_axis_off_the_hole_is_by_depth(monkeypatch):
    fits = {20.0: (0.01, 0.02), 100.0: (-0.02, 0.03)}
    levels = [
        SimpleNamespace(
            sweep=SimpleNamespace(depth_mm=d), fit=SimpleNamespace(least_squares=SimpleNamespace(x_mm=x, y_mm=y))
        )
        for d, (x, y) in fits.items()
    ]
    axis = SimpleNamespace(deck_x_mm=0.1, deck_y_mm=-0.1, deep_x_mm=0.3, deep_y_mm=0.2)
    monkeypatch.setattr(
        need, "need_of", lambda state, c: SimpleNamespace(swept=SimpleNamespace(axis=axis), why_two_point="")
    )
    monkeypatch.setattr(need, "_levels", lambda state, c: levels)
    assert need.axis_shift(None, 1, 90.0) == pytest.approx((0.3 + 0.02, 0.2 - 0.03))
    assert need.axis_shift(None, 1, 10.0) == pytest.approx((0.1 + 0.2 * 0.2 - 0.01, -0.1 + 0.2 * 0.3 - 0.02))
    cut = need.cut_axis(None, 1)
    assert (cut.top_x_mm, cut.top_y_mm, cut.bottom_x_mm, cut.bottom_y_mm) == pytest.approx((0.14, -0.04, 0.3, 0.2))


@pytest.mark.parametrize(
    "clock, width, inside, outside",
    [
        (90.0, 20.0, (80.0, 90.0, 100.0), (79.0, 101.0, 270.0)),
        (0.0, 20.0, (350.0, 0.0, 10.0), (349.0, 11.0, 180.0)),
        (355.0, 20.0, (345.0, 5.0), (344.0, 6.0)),
    ],
)
def test_a_defect_lies_over_its_width_and_its_depths(clock, width, inside, outside):
    d = SimpleNamespace(
        top_mm=20.0, bottom_mm=40.0, clock_deg=clock, width_deg=width, deep_low_mm=0.03, deep_high_mm=0.05
    )
    depths, clocks = np.array([19.0, 20.0, 30.0, 40.0, 41.0]), np.arange(0.0, 360.0, 1.0)
    for end, deep in (("low", 0.03), ("high", 0.05)):
        grid = shadow._defects((d,), depths, clocks, end)
        assert all(grid[1:4, int(c)] == pytest.approx([deep] * 3) for c in inside)
        assert grid[:, [int(c) for c in outside]].max() == 0.0 and grid[[0, 4]].max() == 0.0


@pytest.mark.parametrize("was, now, says", [
    ("cleans up", Verdict.MAY_SHADOW, True), ("cleans up", Verdict.WILL_NOT, True), ("cleans up", Verdict.CLEANS_UP, False),
    ("may leave a shadow", Verdict.CLEANS_UP, False), ("may leave a shadow", Verdict.WILL_NOT, True), ("will not clean up", Verdict.WILL_NOT, False),
    ("sleeved", Verdict.CLEANS_UP, True), ("not known", Verdict.MAY_SHADOW, False),
])  # fmt: skip
def test_a_call_is_spoken_against_only_where_a_cylinder_stands_worse(was, now, says):
    column = SimpleNamespace(cleanup=SimpleNamespace(high_mm=80.6), ceiling_mm=81.0)
    fate = SimpleNamespace(word=str(now), column=column, too_thin=False, cylinder=1, oversize_mm=0.5)
    then = SimpleNamespace(verdict=was, high_mm=80.4)
    assert bool(stand_by._against(fate, then, METRIC)) is says
    assert stand_by._against(fate, None, METRIC) == ""
    if says:
        assert "it needed 80.400 at most, now 80.600" in stand_by._against(fate, then, METRIC)
        assert "its readings changed" in stand_by._against(fate, SimpleNamespace(verdict=was, high_mm=None), METRIC)
        thin = SimpleNamespace(**vars(fate) | {"too_thin": True, "word": "wall too thin"})
        assert "its wall allows 81.000" in stand_by._against(thin, then, METRIC)
    assert FateWay.SLEEVE == "sleeve"


# -- the gauge ------------------------------------------------------------------------------------------------------


def lines(*values, attribute="wear_mm", axis=None):
    usual = {"wear_mm": 0.01, "out_of_round_mm": 0.005, "taper_mm": 0.005, "long_axis_deg": axis}
    shape = SimpleNamespace(plate_on=False, twisted=False)
    return [SimpleNamespace(cylinder=i, shape=shape, **usual | {attribute: v}) for i, v in enumerate(values, start=1)]


@pytest.fixture
def odd(monkeypatch, state_of):
    state = but(state_of("2041"), gauging={"defects": ()})
    monkeypatch.setattr(side_by_side, "axis_of", lambda state, c, plate: (None, ""))
    return lambda found: side_by_side._odd(state, found[0], found)


@pytest.mark.parametrize(
    "attribute, name", [("wear_mm", "wear"), ("out_of_round_mm", "out of round"), ("taper_mm", "taper")]
)
def test_a_cylinder_is_odd_beyond_the_limit_and_the_others_usual_spread(odd, attribute, name):
    assert odd(lines(0.5, 0.01, 0.01, 0.01, attribute=attribute)) == [f"{name} above the others"]
    assert odd(lines(-0.5, 0.01, 0.01, 0.01, attribute=attribute)) == [f"{name} below the others"]
    assert odd(lines(0.5, 0.01, 0.01, attribute=attribute)) == [f"{name} above the others"], "two others are enough"
    assert odd(lines(0.5, 0.01, attribute=attribute)) == odd(lines(0.5, 0.01, None, attribute=attribute)) == []
    assert odd(lines(0.5, 0.0, 0.2, 0.4, attribute=attribute)) == [], "within four times how far the others lie apart"
    assert odd(lines(None, 0.0, 0.0, 0.0, attribute=attribute)) == []


@pytest.mark.parametrize(
    "own, others, told",
    [
        (0.0, (90.0, 90.0), True),
        (0.0, (90.0,), False),
        (0.0, (20.0, 25.0), False),
        (0.0, (31.0, 31.0, 31.0), True),
        (0.0, (29.0, 29.0, 90.0), False),
        (170.0, (10.0, 10.0), False),
    ],
)
def test_a_long_axis_turned_from_the_others(own, others, told):
    found = [SimpleNamespace(long_axis_deg=v) for v in (own, *others)]
    assert bool(side_by_side._turned(found[0], found)) is told


@pytest.mark.parametrize(
    "levels, wanted",
    [(1, {0}), (2, {0, 1}), (3, {1, 2}), (4, {1, 2, 3}), (5, {1, 2, 4}), (6, {1, 3, 5}), (7, {1, 3, 6})],
)
def test_a_study_reads_near_the_top_the_middle_and_the_bottom(levels, wanted):
    plan = SimpleNamespace(
        depths_mm=tuple(range(levels)), clocks_deg=(0.0, 90.0), letter=lambda level: "ABCDEFG"[level]
    )
    found = study.spots_of(SimpleNamespace(gauging=SimpleNamespace(plan=plan)))
    assert {s.level for s in found} == wanted and all(s.clock == 0 for s in found)


def test_what_a_defect_costs_is_the_size_with_it_less_the_size_without(monkeypatch, state_of):
    state = state_of("2041")
    cleanup = SimpleNamespace(low_mm=80.3, high_mm=80.5)
    for there, without, wanted in (
        (cleanup, SimpleNamespace(low_mm=80.2, high_mm=80.3), (0.1, 0.2)),
        (None, cleanup, (None, None)),
        (cleanup, None, (None, None)),
    ):
        monkeypatch.setattr(
            gauge_defects, "shape_with", lambda state, c, on, others, without=without: SimpleNamespace(cleanup=without)
        )
        shape = SimpleNamespace(cylinder=1, plate_on=False, cleanup=there)
        found = gauge_defects._effect(state, shape, SimpleNamespace(seq=1), ())
        got = tuple(vars(found).values())[2:4] if hasattr(found, "__dict__") else (found.low_mm, found.high_mm)
        assert got == (pytest.approx(wanted) if wanted[0] is not None else wanted)


@pytest.mark.parametrize(
    "start, end, drift, wanted",
    [(0.0, None, None, 0.0), (0.002, None, None, 0.002), (-0.003, None, None, 0.003), (0.001, 0.005, 0.004, 0.004)],
)
def test_the_drift_known_under_an_entry(start, end, drift, wanted):
    span = SimpleNamespace(start_off_mm=start, end_off_mm=end, drift_mm=drift)
    gauging = SimpleNamespace(zero_span=lambda seq: span if seq == 1 else None, zero_spans=(span,))
    state = SimpleNamespace(gauging=gauging)
    assert gauge_doubt.known_drift(state, 1) == wanted and gauge_doubt.known_drift(state, 2) == 0.0
    assert gauge_doubt.known_drift(state) == max(abs(start), abs(end or 0.0))


def test_tightening_goes_through_the_plates_own_stages_else_the_usual_ones(state_of):
    state = state_of("2036")
    order, own = plate.order_of(state, 0), plate.tightening(state)
    stages = state.clamped.held_down("plate").stages or state.figures.row("fasteners.stages")
    assert [(s.fastener, s.stage) for s in own] == [(n, i) for i in range(1, len(stages) + 1) for n in order]
    torque = state.clamped.held_down("plate").torque_nm
    assert [s.torque_nm for s in own][:: len(order)] == pytest.approx([torque * share for share in stages])


def test_fasteners_of_another_bank_are_never_a_bores_own(state_of):
    from redline_bore.core.block import Layout

    state = state_of("2041")
    vee = replace(state.block, layout=Layout.VEE, cylinders=6, bank_angle_deg=60.0)
    there = but(state, booking={"book_in": replace(state.book_in, block=vee)})
    bores, fasteners = bore_positions(vee), fastener_positions(vee)
    for cylinder in range(1, 7):
        found = plate.bearings(there, cylinder)
        assert len(found) == vee.fasteners and {fasteners[n - 1].bank for n in found} == {bores[cylinder - 1].bank}


# -- the hone -------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("count, wanted", [(1, (0.5,)), (2, (0.07, 0.93)), (3, (0.07, 0.5, 0.93))])
def test_sizes_from_the_top_down_stand_for_places(state_of, count, wanted):
    state = state_of("2036")
    assert model.places_of_checks(state, count) == pytest.approx([state.block.length_mm * w for w in wanted])


def test_friction_warms_the_wall_by_its_work_over_what_it_stores(state_of):
    state = state_of("2036")
    f, b = state.figures, state.block
    joule = f.number("honing.friction") * 1e6 * 1e-3 * f.number("honing.heat_into_wall")
    volume = math.pi * b.bore_mm * b.length_mm * f.number("honing.wall_warmed") * 1e-9
    assert model.warming(state, SimpleNamespace(work_n_mm=1e6)) == pytest.approx(joule / (model.STEEL_STORES * volume))


@pytest.mark.parametrize(
    "own, others, wanted",
    [
        (1.0, (1.0, 1.0, 1.0), False),
        (3.0, (1.0, 1.0, 1.0), True),
        (0.3, (1.0, 1.0, 1.0), True),
        (3.0, (), False),
        (-1.0, (1.0, 1.0), False),
        (1.0, (-1.0, -1.0, -1.0), False),
    ],
)
def test_a_rate_out_of_family(monkeypatch, shipped, own, others, wanted):
    rates = dict(enumerate((own, *others), start=1))

    def checks(cylinder, step):
        return [SimpleNamespace(strokes=s, largest_mm=80.0 + rates[cylinder] * s * 1e-3) for s in (0.0, 10.0, 20.0)]

    state = SimpleNamespace(
        cylinders=tuple(rates), honing=SimpleNamespace(checks_of=checks, step_of=lambda c: 0), figures=shipped
    )
    assert progress.out_of_family(state, 1) is wanted


def test_a_rate_of_two_checks_is_no_family(shipped):
    two = [SimpleNamespace(strokes=s, largest_mm=80.0 + 0.001 * s) for s in (0.0, 10.0)]
    three = [*two, SimpleNamespace(strokes=20.0, largest_mm=80.02)]
    rows = {1: two, 2: three, 3: three}
    state = SimpleNamespace(
        cylinders=(1, 2, 3),
        honing=SimpleNamespace(checks_of=lambda c, s: rows[c], step_of=lambda c: 0),
        figures=shipped,
    )
    assert progress.out_of_family(state, 1) is False


@pytest.mark.parametrize(
    "bottom, room, crash", [(20.0, 20.0, False), (20.0 + 2e-9, 20.0, True), (19.0, 20.0, False), (21.0, 20.0, True)]
)
def test_a_stone_crashes_beyond_its_room(monkeypatch, state_of, bottom, room, crash):
    from redline_bore.job.hone import set_up

    state = state_of("2036")
    monkeypatch.setattr(set_up, "room_below", lambda block: room)
    _, stops = _stroke(state, replace(state.honing.run, over_bottom_mm=bottom, over_top_mm=5.0))
    assert any("crash" in s for s in stops) is crash


@pytest.mark.parametrize("share, told", [(0.4, False), (0.401, True)])
def test_more_overstroke_than_the_cap_is_told_at_either_end(monkeypatch, state_of, share, told):
    from redline_bore.job.hone import set_up

    state = state_of("2036")
    monkeypatch.setattr(set_up, "room_below", lambda block: 500.0)
    cap = state.figures.number("honing.overstroke_cap") / 0.4 * share * set_up.stone_mm(state)
    for top, bottom in ((cap, 5.0), (5.0, cap)):
        _, stops = _stroke(state, replace(state.honing.run, over_top_mm=top, over_bottom_mm=bottom))
        assert any("bells the end" in s for s in stops) is told


PEAK = next(iter(sorted(PEAKS_ONLY)))


@pytest.mark.parametrize(
    "side_um, word",
    [
        (-0.1, "stop"),
        (0.0, "sound"),
        (1.0, "sound"),
        (1.5, "sound"),
        (1.6, "look here"),
        (2.99, "look here"),
        (3.0, "stop"),
        (4.0, "stop"),
    ],
)
def test_a_plateau_step_leaves_the_valleys_of_the_step_before(side_um, word):
    assert _judged(side_um / 500.0, 0.0, PEAK, (3.0, 5.0))[0] == word


def test_a_load_is_spread_over_the_stone_only_where_it_travelled():
    assert list(_spread(np.array([30.0, 30.0]), 150.0)) == [30.0, 30.0]
    assert list(_spread(np.array([30.0, 75.0, 120.0]), 150.0)) == [0.0, 75.0, 150.0]


def test_other_jobs_of_the_same_metal_are_ranked_by_engine_then_bore(state_of):
    state = state_of("2036")
    found = stock_ledger._family(state, (state, state_of("2029"), state_of("2044")))
    assert state.number not in {r.number for r in found}
    from redline_bore.job.hone.stock_ledger import metal_of

    assert all(metal_of(state_of(r.number)) == metal_of(state) for r in found)


@pytest.mark.parametrize("over_share, there", [(0.999, True), (1.001, False), (0.1, True)])
def test_a_coating_makes_up_so_much_and_no_more(state_of, over_share, there):
    state = state_of("2036")
    most = state.figures.row("honing.coating")[1]
    p = SimpleNamespace(redline=SimpleNamespace(piston=object(), size_mm=80.0))
    assert (ways_out._coated(state, p, 80.0 + most * over_share, METRIC) is not None) is there


def test_the_next_size_is_the_first_beyond_and_tells_the_metal(state_of):
    state = state_of("2041")
    steps = sorted(state.book_in.oversizes_mm)
    size = state.block.bore_mm + steps[0] + 0.01
    found = ways_out._next(state, size, METRIC)
    assert f"about {METRIC.size(steps[1] - steps[0] - 0.01)} more" in str(found)
    assert ways_out._next(state, state.block.bore_mm + steps[-1] + 0.01, METRIC) is None


# -- sleeves, the finish, lessons -------------------------------------------------------------------------------------


@pytest.mark.parametrize("off, done", [(0.0, True), (0.0099, True), (-0.0099, True), (0.0101, False), (-0.0101, False)])
def test_a_parent_is_done_within_a_quarter_of_the_interference(off, done):
    way = SimpleNamespace(parent_mm=86.0, outside_mm=86.04)
    assert parent_done(SimpleNamespace(parent_mm=86.0 + off), way) is done
    assert parent_done(SimpleNamespace(parent_mm=None), way) is True


@pytest.mark.parametrize("left, told", [(-0.1, "would stand"), (0.0, "nothing of the parent"), (0.9, "is the least")])
def test_the_parents_wall(monkeypatch, shipped, left, told):
    state = SimpleNamespace(figures=shipped, units=Units.METRIC)
    least = shipped.number("sleeves.parent_least")
    heard = []
    weighed = SimpleNamespace(worse=lambda standing, *said: heard.append((str(standing), said)))
    for reach, wanted in (
        ([43.0 + left * least], "no"),
        ([43.0 + least], None),
        ([43.0 + least + 1.0], None),
        ([], "may do"),
    ):
        heard.clear()
        monkeypatch.setattr(ways, "outer_radii", lambda state, fit, reach=reach: reach)
        ways._parent_wall(state, SimpleNamespace(cylinder=1), 86.0, weighed)
        assert [s for s, _ in heard] == ([] if wanted is None else [wanted])
        if wanted == "no":
            assert told in str(heard[0][1])


def test_wall_read_from_inside_the_parent_counts_from_it_and_an_older_one_from_the_worn_bore(state_of):
    from redline_bore.core.block import WallKind

    state = state_of("2044")
    read = [
        SimpleNamespace(cylinder=1, seq=5, wall_mm=6.0),
        SimpleNamespace(cylinder=1, seq=50, wall_mm=4.0),
        SimpleNamespace(cylinder=2, seq=50, wall_mm=1.0),
    ]
    there = but(state, gauging={"wall_readings": tuple(read)})
    fit = SimpleNamespace(cylinder=1, rings=(SimpleNamespace(seq=10),), parent_mm=90.0)
    cast = state.block.wall is WallKind.CAST
    found = ways.outer_radii(there, fit)
    assert found[-1] == pytest.approx(49.0) and len(found) == (2 if cast else 1)
    assert ways.outer_radii(there, SimpleNamespace(**vars(fit) | {"parent_mm": None}))[:1] == found[:1] or not cast


def pair(um_a_stroke, job="2036"):
    return plateau.Pair(job, 1, 10.0, 10.0 * um_a_stroke, 0.1)


def test_metal_a_stroke_from_pairs_by_hand(state_of):
    state = state_of("2036")
    f = state.figures
    one = plateau.rate_from(state, [pair(0.05)])
    wide = f.number("finish.one_pair_factor")
    assert (one.um, one.low_um, one.high_um) == pytest.approx((0.05, 0.05 / wide, 0.05 * wide))
    many = plateau.rate_from(state, [pair(0.04), pair(0.05), pair(0.06)])
    spread = 2.0 * 0.01 * math.sqrt(1.0 + 1.0 / 3.0)
    assert many.um == pytest.approx(0.05) and many.high_um == pytest.approx(0.05 + spread)
    assert many.low_um == pytest.approx(max(0.05 - spread, 0.05 / f.number("finish.few_pairs_factor")))
    none = plateau.rate_from(state, [])
    assert none.low_um < none.um < none.high_um and none.pairs == ()


def test_the_coarser_stone_is_the_one_whose_marks_come_nearest(state_of):
    from redline_bore.job.hone.set_up import rz_of
    from redline_bore.job.hone.steps import stone_names
    from redline_bore.job.profiles.stones import stones_said

    state = state_of("2036")
    traces = [t for t in state.finishing.traces if t.cylinder == 1]
    found = plateau.coarser_for(state, 1, traces, 1.0)
    cutting = {
        s: sum(rz_of(state, s)) / 2.0
        for s in stone_names(state.figures)
        if s not in PEAKS_ONLY and not s.startswith("ball")
    }
    enough = {s: v for s, v in cutting.items() if v >= found.rz_um} or cutting
    assert found.stones == stones_said(min(enough, key=lambda s: abs(enough[s] - found.rz_um)))
    assert found.deep_enough is any(v >= found.rz_um for v in cutting.values())


def test_a_lesson_is_the_mean_of_its_jobs_with_their_spread():
    found = learned._lesson("rate", "150", [("2029", 1.0), ("2029", 2.0), ("2036", 3.0)])
    assert (found.mean, found.sd, found.count, found.jobs) == (2.0, pytest.approx(1.0), 3, ("2029", "2036"))
    assert learned._lesson("rate", "150", [("2029", 1.0)]).sd is None


# -- what random faults still went unseen in --------------------------------------------------------------------------


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
    column = SimpleNamespace(cleanup=None, ceiling_mm=None)
    fate = SimpleNamespace(word="not known", column=column, too_thin=False, cylinder=1, oversize_mm=0.5)
    assert "its readings changed" in stand_by._against(fate, SimpleNamespace(verdict="cleans up", high_mm=80.4), METRIC)
    assert stand_by._against(fate, SimpleNamespace(verdict="may leave a shadow", high_mm=80.4), METRIC) == ""


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

    picture = LoadPicture(1, (10.0, 50.0, 90.0), loads, 3, 5.0, None, 100.0)
    assert (None if picture.tight is None else picture.tight.depth_mm) == depth
    assert LoadPicture(1, (10.0,), (20.0,), 0, 5.0, None, 100.0).tight is None


@pytest.mark.parametrize("turn, told", [(22.4, "30° ± 45°"), (22.5, "not told"), (0.2, "30° ± 1°"), (5.0, "30° ± 10°")])
def test_a_long_axis_is_told_while_its_doubt_leaves_it_a_direction(shipped, turn, told):
    from redline_bore.job.words.readings import _oval_lines

    fit = SimpleNamespace(out_of_round_raw_mm=0.02, long_axis_deg=30.0)
    doubt = SimpleNamespace(long_axis_deg=turn, out_of_round_raw_mm=0.001)
    rules = SimpleNamespace(out_of_round_mm=0.02)
    raw, axis = _oval_lines(fit, doubt, rules, METRIC)
    assert axis.value == told and str(raw.mark) == "sound"
    assert (
        str(_oval_lines(SimpleNamespace(out_of_round_raw_mm=0.021, long_axis_deg=30.0), doubt, rules, METRIC)[0].mark)
        == "look here"
    )
    (hidden,) = _oval_lines(SimpleNamespace(out_of_round_raw_mm=0.02, long_axis_deg=None), doubt, rules, METRIC)
    assert "may hide more" in hidden.value
    (unsure,) = _oval_lines(fit, SimpleNamespace(long_axis_deg=None, out_of_round_raw_mm=0.001), rules, METRIC)
    assert "may hide more" in unsure.value


@pytest.mark.parametrize(
    "stamped, wanted", [((), "book_in"), (("book_in",), "gauge"), (("book_in", "gauge"), "call"), (("gauge",), "call")]
)
def test_a_job_opens_at_the_step_after_its_last_stamp(state_of, stamped, wanted):
    from redline_bore.job.route import first_step

    state = but(state_of("2041"), signing={"stamps": tuple(SimpleNamespace(step=s) for s in stamped)})
    assert first_step(state) == wanted


def test_three_point_readings_are_of_their_own_cylinder_and_plate(state_of):
    state = state_of("2041")
    rows = tuple(SimpleNamespace(cylinder=c, plate_on=p) for c in (1, 2) for p in (True, False))
    found = but(state, gauging={"three_points": rows}).gauging
    assert [len(found.three_points_of(1, p)) for p in (True, False, None)] == [1, 1, 2]
    assert all(r.cylinder == 2 for r in found.three_points_of(2))


def test_a_purpose_that_says_nothing_bores_and_sleeves_nothing():
    from redline_bore.job.profiles.purpose import Purpose

    assert (Purpose("x").bores, Purpose("x").sleeves, Purpose("x").light) == (True, False, "")


def test_their_sizes_are_taken_at_20_where_they_did_not_say(ledger_of, shipped):
    from redline_bore.job.gauge.second_opinion import comparisons
    from redline_bore.job.kinds.opinions import OtherReadingBooked, SecondOpinionOpened
    from redline_bore.job.kinds.sign_off import JobReopened
    from tests.job.benches import after

    state = after(
        ledger_of("2036"), shipped, JobReopened(reason="x"), SecondOpinionOpened(who="Weir", plate_on=False, aim_mm=0.07),
        OtherReadingBooked(who="Weir", cylinder=1, diameter_mm=83.06),
    )  # fmt: skip
    (found,) = comparisons(state)
    assert (found.b.block_c, found.b.piston_c) == (20.0, 20.0) and found.b.piston_mm == pytest.approx(found.a.piston_mm)
    assert any("taken to be at 20" in a for a in found.assumed)
