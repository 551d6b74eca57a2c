"""What the hone removes: reference cases, volume balance, symmetry, belling, tight bottoms, taper coming out."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from redline_bore.core.errors import InputError
from redline_bore.core.removal import (
    Grid,
    Hole,
    Pack,
    Phase,
    ends_against_middle,
    k_from_rate,
    on_grid,
    over_strokes,
    simulate,
)
from tests.vectors import cases, check, mm

FINE = Grid(cells=300, steps=90)
HOLE, PACK = Hole(100.0, 150.0, 3.6e-5), Pack(70.0, 40.0, 150.0)
COARSE = Grid(cells=75, steps=30)


def phase(top=20.0, bottom=20.0, strokes=30, hole=HOLE, pack=PACK, **more):
    upper, lower = over_strokes(hole.length_mm, pack.stone_mm, top, bottom)
    usual = {"rpm": 170.0, "double_strokes_per_min": 45.0, "radial_force_n": 600.0, "reversal_s": 0.2}
    return Phase(upper, lower, strokes, **(usual | more))


@pytest.mark.parametrize("case", cases("11", "hone_meridian"))
def test_honing_vectors(case):
    i = case["inputs"]
    band = i.get("hard_band")
    bands = ((band["from_depth_mm"], band["to_depth_mm"], band["k_factor"]),) if band else ()
    hole = Hole(mm(case, "bore"), mm(case, "length"), i["k_mm3_per_n_mm"], bands)
    pack = Pack(
        mm(case, "stone"), mm(case, "stone_width_total"), i["stone_stiffness_mpa_per_mm"], i.get("stone_may_tip", False)
    )
    unit = 25.4 if i["units"] == "inch" else 1.0
    phases = []
    for p in i["phases"]:
        key = "in" if i["units"] == "inch" else "mm"
        upper, lower = over_strokes(
            hole.length_mm, pack.stone_mm, p[f"over_top_{key}"] * unit, p[f"over_bottom_{key}"] * unit
        )
        phases.append(
            Phase(upper, lower, p["double_strokes"], p["rpm"], p["double_strokes_per_min"], p["radial_force_n"],
                  p.get("reversal_s", 0.0), p.get("dwell_top_s", 0.0), p.get("dwell_bottom_s", 0.0))
        )  # fmt: skip
    start = on_grid(mm(case, "profile_depth"), mm(case, "profile_excess_radius"), FINE, hole.length_mm)
    found = simulate(hole, pack, start, phases, FINE)
    top, bottom = ends_against_middle(found, hole.length_mm)
    check(
        case, excess_radius_at_probe=np.interp(mm(case, "probe_depth"), found.depth_mm, found.excess_mm).tolist(),
        removed_radius_mean=found.mean_removed_mm, diameter_top_minus_middle=top, diameter_bottom_minus_middle=bottom,
        removed_volume_mm3=found.volume_mm3, integral_force_speed_n_mm=found.work_n_mm,
    )  # fmt: skip


def bored(hole=HOLE, pack=PACK, grid=COARSE, start=None, **more):
    flat = np.zeros(grid.cells) if start is None else start
    return simulate(hole, pack, flat, [phase(hole=hole, pack=pack, **more)], grid)


@settings(max_examples=12)
@given(st.floats(5.0, 26.0), st.floats(2.0, 26.0), st.integers(2, 12), st.booleans())
def test_what_comes_off_is_k_times_force_times_way(top, bottom, strokes, tips):
    pack = Pack(70.0, 40.0, 150.0, tips)
    found = bored(pack=pack, top=top, bottom=bottom, strokes=strokes)
    assert found.volume_mm3 == pytest.approx(HOLE.k_mm3_per_n_mm * found.work_n_mm, rel=1e-9)
    assert (found.removed_mm >= 0.0).all()


def test_even_overstrokes_leave_an_even_hole():
    found = bored()
    np.testing.assert_allclose(found.excess_mm, found.excess_mm[::-1], atol=2e-4)


def test_more_overstroke_opens_an_end_and_less_leaves_it_tight():
    ends = [ends_against_middle(bored(top=o, bottom=21.0), 150.0)[0] for o in (5.0, 14.0, 21.0, 28.0)]
    assert ends == sorted(ends) and ends[0] < 0.0 < ends[-1]


def test_a_blind_bottom_stays_tight_and_dwell_opens_it():
    tight = ends_against_middle(bored(bottom=1.5), 150.0)[1]
    dwelt = ends_against_middle(bored(bottom=1.5, dwell_bottom_s=0.4), 150.0)[1]
    assert tight < -0.005 and dwelt > tight + 0.004


def test_taper_comes_out():
    taper = on_grid([0.0, 150.0], [0.0, -0.02], COARSE, 150.0)
    before = taper[0] - taper[-1]
    stiff = bored(start=taper, strokes=60, pack=Pack(70.0, 40.0, 150.0, False)).excess_mm
    tipping = bored(start=taper, strokes=60).excess_mm
    assert abs(stiff[5] - stiff[-6]) < 0.35 * before
    assert abs(stiff[5] - stiff[-6]) < abs(tipping[5] - tipping[-6]) < before  # a pack that tips follows a taper


def test_an_oval_comes_out_and_a_tight_place_is_pressed_hardest():
    grid = Grid(cells=50, angles=24, steps=24)
    angles = np.deg2rad(np.arange(24) * 15.0)
    oval = np.repeat(0.01 * np.cos(2.0 * angles)[:, None], grid.cells, axis=1)
    found = simulate(HOLE, PACK, oval, [phase(strokes=40)], grid)
    assert found.excess_mm.shape == (24, 50)
    spread = lambda wall: float((wall.max(axis=0) - wall.min(axis=0)).mean())  # noqa: E731
    assert spread(found.excess_mm) < 0.6 * spread(oval)
    tight = found.removed_mm[6].mean()  # at 90 degrees it was tightest
    assert tight > found.removed_mm[0].mean()


def test_a_hard_band_is_cut_less_and_loads_more():
    hard = Hole(100.0, 150.0, 3.6e-5, ((0.0, 30.0, 0.5),))
    found = bored(hole=hard)
    soft = bored()
    assert found.removed_mm[:12].mean() < 0.9 * soft.removed_mm[:12].mean()
    assert found.load_mpa[5] > soft.load_mpa[5]


def test_short_strokes_work_where_they_are():
    upper, lower = 0.0, 20.0
    short = Phase(upper, lower, 30, 170.0, 60.0, 600.0, 0.1)
    found = simulate(HOLE, PACK, np.zeros(COARSE.cells), [short], COARSE)
    assert found.removed_mm[:40].mean() > 0.005 and found.removed_mm[-20:].max() == 0.0
    assert found.load_mpa[-1] == 0.0


def test_a_pack_that_is_fed_presses_harder_stroke_by_stroke():
    def fed(strokes):
        p = phase(strokes=strokes, advance_mm=0.0005, compliance_n_mm=20000.0)
        return simulate(HOLE, PACK, np.zeros(COARSE.cells), [p], COARSE)

    few, many = fed(10), fed(40)
    assert many.mean_removed_mm / 40 > few.mean_removed_mm / 10  # it bites in
    assert many.mean_removed_mm < 40 * 0.0005  # and never takes more than it was fed


def test_k_comes_back_from_the_rate_it_gives():
    p = phase(strokes=20, reversal_s=0.0)
    found = bored(strokes=20, reversal_s=0.0)
    rate = 2.0 * found.mean_removed_mm / 20
    assert k_from_rate(rate, HOLE, p, p.lower_mm - p.upper_mm) == pytest.approx(HOLE.k_mm3_per_n_mm, rel=0.01)


def test_it_can_be_broken_off_and_says_how_far_it_is():
    class Broken(Exception):
        pass

    seen = []

    def tick(share):
        seen.append(share)
        if len(seen) == 3:
            raise Broken

    with pytest.raises(Broken):
        simulate(HOLE, PACK, np.zeros(COARSE.cells), [phase(strokes=60)], COARSE, tick)
    assert seen == sorted(seen) and 0.0 < seen[-1] < 1.0


@pytest.mark.parametrize(
    "wrong",
    [
        lambda: Pack(0.0, 40.0, 150.0),
        lambda: Hole(100.0, -1.0, 1e-5),
        lambda: Phase(10.0, 5.0, 3, 170.0, 45.0, 600.0),
        lambda: Phase(0.0, 50.0, -1, 170.0, 45.0, 600.0),
        lambda: Phase(0.0, 50.0, 3, 170.0, 45.0, 600.0, advance_mm=0.001),
        lambda: simulate(HOLE, PACK, np.zeros(7), [phase()], COARSE),
        lambda: simulate(HOLE, PACK, np.full(COARSE.cells, np.nan), [phase()], COARSE),
        lambda: k_from_rate(0.0, HOLE, phase(), 100.0),
    ],
)
def test_what_cannot_be_honed_is_refused(wrong):
    with pytest.raises(InputError):
        wrong()
