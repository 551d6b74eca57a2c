import pytest
from hypothesis import given
from hypothesis import strategies as st

from redline_bore.core.cleanup import Verdict, cleanup_two_point
from redline_bore.core.errors import FitError
from redline_bore.core.wall import WallSpot, largest_diameter, wall_after
from tests.vectors import cases, check, mm


@pytest.mark.parametrize("case", cases("05", "cleanup_two_point"))
def test_two_point_vectors(case):
    g = case["inputs"]
    found = cleanup_two_point(
        mm(case, "unworn_reference"), mm(case, "diameter"), mm(case, "skin"), g["usual_share"],
        g["chords_per_level"], mm(case, "defect_depth"),
    )  # fmt: skip
    sizes = mm(case, "oversize_diameter")
    check(
        case,
        required_low=found.low_mm,
        required_usual=found.usual_mm,
        required_high=found.high_mm,
        deciding_point_high=found.deciding,
        verdict=[str(found.verdict(size)) for size in sizes],
        high_end_is_a_bound=found.is_bound,
        smallest_sure_oversize_index=found.smallest_sure(sizes),
    )


@pytest.mark.parametrize("case", cases("06", "wall_left"))
def test_wall_vectors(case):
    g = case["inputs"]
    unit = 25.4 if g["units"] == "inch" else 1.0
    key = "in" if g["units"] == "inch" else "mm"
    spots = [
        WallSpot(
            s["clock_deg"], s[f"depth_{key}"] * unit, s[f"wall_{key}"] * unit, s[f"radius_{key}"] * unit, s["zone"]
        )
        for s in g["spots"]
    ]
    check(case, wall_after=wall_after(spots, mm(case, "new_diameter"), mm(case, "axis_x"), mm(case, "axis_y")))


def test_wall_ceiling_leaves_just_the_limit_and_nothing_read_is_unknown():
    spots = [WallSpot(90, 40, 5.0, 46.0, "thrust"), WallSpot(0, 40, 4.2, 46.0, "elsewhere")]
    ceiling = largest_diameter(spots, {"thrust": 3.8, "elsewhere": 3.0})
    assert min(w - limit for w, limit in zip(wall_after(spots, ceiling), (3.8, 3.0), strict=True)) == pytest.approx(0.0)
    assert largest_diameter([], {"thrust": 3.8}) is None


shares = st.floats(0.5, 1.0)


@given(st.lists(st.floats(0.0, 0.3), min_size=1, max_size=20), st.floats(0, 0.2), st.floats(0, 0.05), shares)
def test_the_interval_is_ordered_and_grows_with_everything_bad(wear, defect, skin, share):
    d = [92.0 + w for w in wear]
    plain = cleanup_two_point(92.0, d, skin, share, 4)
    hurt = cleanup_two_point(92.0, d, skin, share, 4, [defect] * len(d))
    assert plain.low_mm <= plain.usual_mm + 1e-9 <= plain.high_mm + 2e-9
    assert hurt.low_mm >= plain.low_mm and hurt.high_mm >= plain.high_mm
    assert plain.low_mm >= max(d)  # the axis cannot go below the largest diameter


def test_two_chords_never_clean_up():
    found = cleanup_two_point(92.0, [92.01, 92.01], 0.013, 0.7, 2)
    assert found.verdict(93.0) is Verdict.MAY_SHADOW


def test_a_fingernail_class_opens_the_interval():
    found = cleanup_two_point(92.0, [92.05], 0.013, 0.7, 4, [0.013], [0.050])
    measured = cleanup_two_point(92.0, [92.05], 0.013, 0.7, 4, [0.013], [0.013])
    assert found.low_mm == measured.low_mm and found.high_mm == pytest.approx(measured.high_mm + 0.074)


def test_nothing_gauged_is_no_answer():
    with pytest.raises(FitError, match="gauged"):
        cleanup_two_point(92.0, [], 0.013, 0.7, 4)


def test_the_smallest_sure_size_is_the_one_at_the_high_end_itself():
    need = cleanup_two_point(92.0, [92.06, 92.10], 0.013, 0.7, 4)
    assert need.smallest_sure([92.75, need.high_mm, 92.5]) == 1 and need.smallest_sure([92.75, 92.1, 92.5]) == 2
    assert need.smallest_sure([need.high_mm - 1e-6]) is None and need.smallest_sure([]) is None
