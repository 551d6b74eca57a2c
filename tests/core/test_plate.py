"""Clamp force, tightening order and what a plate does to a hole: reference cases and what theory says."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from redline_bore.core.clamping import NM_PER_LBF_FT, ClampSetUp, clamp_force_kn
from redline_bore.core.errors import FitError, InputError
from redline_bore.core.plate import (
    Nearest,
    bearing_deg,
    compare_clamping,
    customer_reads,
    nearest_bearings,
    on_off_level,
    tightening_order,
    tightening_rings,
)
from tests.vectors import cases, check, mm

HEAD = ClampSetUp(12.0, 110.0, "engine oil", 0.16, 22.0, "steel shim", (0.5, 0.75, 1.0), True)


@pytest.mark.parametrize("case", cases("16", "clamp_force"))
def test_clamp_force_vectors(case):
    i, d = case["inputs"], mm(case, "fastener_diameter")

    def force(prefix):
        torque = i.get(f"{prefix}torque_nm") or i[f"{prefix}torque_lbf_ft"] * NM_PER_LBF_FT
        return clamp_force_kn(torque, i[f"{prefix}nut_factor"], d)

    found = {"force_kn": force("")}
    if "head_force_kn" in case["expected"]:
        found |= {"head_force_kn": force("head_"), "plate_over_head": force("") / force("head_")}
    check(case, **found)


@pytest.mark.parametrize("case", cases("16", "tightening_order"))
def test_tightening_vectors(case):
    i = case["inputs"]
    rings = tightening_rings(i["x_mm"], i["y_mm"], i["ring_tolerance_mm"])
    assert [[k + 1 for k in ring] for ring in rings] == case["expected"]["rings"]
    order = tightening_order(i["x_mm"], i["y_mm"], i["ring_tolerance_mm"])
    assert [k + 1 for k in order] == case["expected"]["order"]
    check(case, stages_nm=[i["final_torque_nm"] * share for share in i["stage_shares"]])


@pytest.mark.parametrize("case", cases("16", "on_off_map"))
def test_on_off_vectors(case):
    on, off, clocks = mm(case, "diameter_on"), mm(case, "diameter_off"), case["inputs"]["clock_deg"]
    levels = [on_off_level(clocks, a, b) for a, b in zip(on, off, strict=True)]
    check(
        case,
        map=[list(v.moved_mm) for v in levels],
        second_harmonic=[v.second_mm for v in levels],
        second_harmonic_axis_deg=[v.second_axis_deg for v in levels],
        fourth_harmonic=[v.fourth_mm for v in levels],
        customer_reads=[customer_reads(mm(case, "finished_under_plate"), v.moved_mm).tolist() for v in levels],
    )


@given(st.lists(st.tuples(st.integers(-300, 300), st.integers(-100, 100)), min_size=1, max_size=24, unique=True))
def test_every_fastener_is_tightened_once_and_never_an_outer_ring_first(places):
    x, y = [float(p[0]) for p in places], [float(p[1]) for p in places]
    order, rings = tightening_order(x, y), tightening_rings(x, y)
    assert sorted(order) == list(range(len(places)))
    ring_of = {i: n for n, ring in enumerate(rings) for i in ring}
    assert [ring_of[i] for i in order] == sorted(ring_of.values())


@given(st.floats(0.001, 0.02), st.floats(0, 179), st.floats(-0.01, 0.01))
def test_what_the_plate_does_is_found_whatever_the_hole_was_before(pull, axis, mean):
    clocks = np.arange(0, 180, 30.0)
    before = 92.0 + 0.03 * np.cos(np.deg2rad(2 * clocks - 50)) + 0.01 * np.cos(np.deg2rad(4 * clocks))
    level = on_off_level(clocks, before + mean + pull * np.cos(2 * np.deg2rad(clocks - axis)), before)
    assert level.second_mm == pytest.approx(pull, abs=1e-9) and level.mean_mm == pytest.approx(mean, abs=1e-9)
    assert level.fourth_mm == pytest.approx(0.0, abs=1e-9)


def test_a_plate_that_is_the_head_again_agrees():
    match = compare_clamping(HEAD, HEAD, 0.05)
    assert match.agrees is True and match.force_ratio == 1.0


@pytest.mark.parametrize(
    "change, name",
    [
        ({"torque_nm": 100.0}, "clamp force"),
        ({"lubricant": "moly paste"}, "lubricant"),
        ({"engagement_mm": 18.0}, "thread engagement"),
        ({"gasket": "none"}, "gasket"),
        ({"stages": (1.0,)}, "stages"),
        ({"mains_torqued": False}, "mains torqued"),
    ],
)
def test_each_mismatch_is_named(change, name):
    match = compare_clamping(ClampSetUp(**(HEAD.__dict__ | change)), HEAD, 0.05)
    assert match.agrees is False and [v.name for v in match.lines if v.same is False] == [name]


def test_what_is_not_known_never_agrees():
    assert compare_clamping(ClampSetUp(), HEAD, 0.05).agrees is None
    split = compare_clamping(HEAD, HEAD, 0.05, split_case=True)
    assert split.agrees is None and split.lines[-1].name == "halves bolted"


def test_bearings_are_clock_angles():
    assert [bearing_deg(*p) for p in ((-1, 0), (0, 1), (1, 0), (0, -1))] == [0.0, 90.0, 180.0, 270.0]
    assert nearest_bearings(50.0, [45.0, 135.0]) == Nearest(0, 5.0)
    assert nearest_bearings(310.0, [45.0, 135.0]) == Nearest(1, 5.0)


def test_no_fastener_no_order_no_force():
    with pytest.raises(FitError):
        tightening_order([], [])
    with pytest.raises(InputError):
        clamp_force_kn(100.0, 0.0, 12.0)
