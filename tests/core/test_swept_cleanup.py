"""What cleans a swept hole up: reference cases, and what must hold whatever the hole."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from redline_bore.core.assign import assign_pistons
from redline_bore.core.errors import FitError
from redline_bore.core.swept_cleanup import (
    CutAxis,
    PointDefect,
    axis_through,
    least_metal,
    required_about,
    shadow_depth,
    swept_wall,
)
from tests.vectors import IN, cases, check, mm

TURN = np.arange(0.0, 360.0, 15.0)


def wall_of(case):
    i = case["inputs"]
    depths, radii = mm(case, "depth"), mm(case, "radius")
    scale = IN if i["units"] == "inch" else 1.0
    defects = [
        PointDefect(
            d.get("at_depth_mm", d.get("at_depth_in", 0) * scale), d["at_clock_deg"],
            d.get("defect_depth_mm", d.get("defect_depth_in", 0) * scale),
        )
        for d in i.get("defects", [])
    ]  # fmt: skip
    return swept_wall(depths, [i["clock_deg"]] * len(depths), radii, defects)


@pytest.mark.parametrize("case", cases("05", "cleanup_given_axis"))
def test_given_axis_vectors(case):
    axis = CutAxis(*(mm(case, f"axis_{w}_at_{end}") for end in ("deck", "deepest") for w in "xy"))
    cut = required_about(wall_of(case), axis, mm(case, "skin"))
    sizes = mm(case, "oversize_diameter")
    verdicts = ["cleans up" if size >= cut.size_mm - 1e-9 else "will not clean up" for size in sizes]
    check(case, required=cut.size_mm, deciding_clock_deg=cut.clock_deg, verdict=verdicts)
    assert cut.depth_mm == pytest.approx(
        case["expected"].get("deciding_depth_mm", case["expected"].get("deciding_depth_in", 0) * IN), abs=1e-3
    ) or case["id"] == "worn-at-45-true"  # every depth is alike there  # fmt: skip


@pytest.mark.parametrize("case", cases("05", "cleanup_least_metal"))
def test_least_metal_vectors(case):
    wall, skin = wall_of(case), mm(case, "skin")
    square, tilted = least_metal(wall, skin, False), least_metal(wall, skin, True)
    check(case, required_square=square.size_mm, required_tilted=tilted.size_mm)
    for name, found in (("axis_x", square.axis.deck_x_mm), ("axis_y", square.axis.deck_y_mm)):
        key = next(k for k in (f"{name}_mm", f"{name}_in") if k in case["expected"])
        if case["expected"][key] is not None:
            check(case, **{name: found})


@pytest.mark.parametrize("case", cases("07", "assign_pistons"))
def test_assignment_vectors(case):
    i = case["inputs"]
    forbidden = [(b - 1, p - 1) for b, p in i.get("forbidden_bore_piston", [])]
    arguments = (mm(case, "bore_20"), mm(case, "piston_20"), mm(case, "wanted_clearance"), forbidden)
    if not case["expected"]["possible"]:
        with pytest.raises(FitError, match="without a piston"):
            assign_pistons(*arguments)
        return
    found = assign_pistons(*arguments)
    assert [p + 1 for p in found.piston_for_bore] == case["expected"]["piston_for_bore"]
    unit = IN if i["units"] == "inch" else 1.0
    key = "in2" if unit == IN else "mm2"
    assert found.sum_of_squares_mm2 / unit**2 == pytest.approx(case["expected"][f"sum_of_squares_{key}"], rel=1e-4)
    assert found.nearest_first_mm2 / unit**2 == pytest.approx(case["expected"][f"nearest_first_sum_{key}"], rel=1e-4)
    assert found.better_than_nearest
    check(case, clearance=list(found.clearance_mm), worst_miss=found.worst_miss_mm)


def crooked(lean, worn, towards):
    depths = np.array([10.0, 60.0, 120.0])
    t = np.deg2rad(TURN)
    rows = [
        46.0 + worn * np.maximum(0, np.cos(t - np.deg2rad(towards))) ** 2 * (1 - z / 130) + lean * z / 120 * np.cos(t)
        for z in depths
    ]
    return swept_wall(depths, [TURN] * 3, rows)


walls = st.builds(crooked, st.floats(-0.2, 0.2), st.floats(0, 0.2), st.floats(0, 359))


@settings(max_examples=25)
@given(walls, st.floats(-0.3, 0.3), st.floats(-0.3, 0.3))
def test_no_axis_needs_less_than_least_metal_and_leaning_never_costs(wall, x, y):
    square, tilted = least_metal(wall, 0.013, False), least_metal(wall, 0.013, True)
    assert required_about(wall, axis_through(x, y), 0.013).size_mm >= square.size_mm - 1e-4
    assert tilted.size_mm <= square.size_mm + 1e-4


@settings(max_examples=25)
@given(walls, st.floats(0.0, 0.4))
def test_a_defect_never_makes_the_cut_smaller(wall, deep):
    axis = axis_through(0.0, 0.0)
    plain = required_about(wall, axis, 0.013).size_mm
    marked = swept_wall([10.0, 60.0], [TURN] * 2, [np.full(24, 46.0)] * 2, [PointDefect(60.0, 90.0, deep)])
    assert required_about(marked, axis, 0.013).size_mm == pytest.approx(2 * (46.0 + deep + 0.013), abs=1e-9)
    assert plain >= 92.0


def test_of_equal_axes_the_one_nearest_the_hole_is_taken():
    t = np.deg2rad(TURN)
    oval = swept_wall([20.0, 80.0], [TURN] * 2, [46.0 + 0.05 * np.cos(2 * t)] * 2)
    cut = least_metal(oval, 0.0, False)
    assert abs(cut.axis.deck_x_mm) < 1e-3 and abs(cut.axis.deck_y_mm) < 1e-3


def test_a_shadow_is_where_the_cut_does_not_reach():
    depth = shadow_depth([46.0, 46.2], 92.2, 0.013, [0.0, 0.0])
    assert depth[0] < 0 < depth[1]


def test_too_few_pistons_are_told():
    with pytest.raises(FitError, match="measure the rest"):
        assign_pistons([92.0, 92.1], [91.9], 0.05)


def test_nearest_first_may_end_in_a_dead_end():
    found = assign_pistons([92.0, 92.01], [91.95, 91.96], 0.05, [(1, 1)])
    assert found.piston_for_bore == (1, 0) and found.nearest_first is None and found.better_than_nearest
