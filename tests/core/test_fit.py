import pytest
from hypothesis import given
from hypothesis import strategies as st

from redline_bore.core import fit, volumes
from redline_bore.core.errors import InputError
from redline_bore.core.fit import ClearanceWindow, Decision, GaugeDoubt
from tests.vectors import cases, check, mm


@pytest.mark.parametrize("case", cases("07", "finish_size"))
def test_finish_size(case):
    check(case, finish_20=fit.finish_size(mm(case, "piston_20"), mm(case, "clearance")))


@pytest.mark.parametrize("case", cases("07", "clearance_uncertainty"))
def test_uncertainty(case):
    g = case["inputs"]

    def doubt(side):
        return GaugeDoubt(
            mm(case, f"{side}_repeatability_sd"), mm(case, f"{side}_resolution"), mm(case, f"{side}_master_u_k2"),
            g[f"{side}_1e6_per_c"], g[f"{side}_temperature_sd_c"], g[f"{side}_readings_averaged"],
        )  # fmt: skip

    same = g["same_micrometer_sets_gauge_and_measures_piston"]
    u = fit.clearance_uncertainty(mm(case, "bore_20"), doubt("bore"), mm(case, "piston_20"), doubt("piston"), same)
    check(case, expanded_k2=u, standard=u / 2)


@pytest.mark.parametrize("case", cases("07", "guard_band"))
def test_guard_band(case):
    window, u = ClearanceWindow(mm(case, "window_low"), mm(case, "window_high"), "sheet"), mm(case, "expanded_u")
    check(
        case,
        decision=str(fit.guard_band(mm(case, "clearance"), window, u)),
        any_reading_could_be_in=fit.could_be_in(window, u),
    )


@pytest.mark.parametrize("case", cases("07", "hot_clearance"))
def test_hot(case):
    g = case["inputs"]
    hot = fit.hot_clearance(
        mm(case, "bore_20"),
        g["bore_1e6_per_c"],
        g["bore_c"],
        mm(case, "piston_20"),
        g["piston_1e6_per_c"],
        g["piston_c"],
    )
    check(case, hot_clearance=hot, cold_clearance=mm(case, "bore_20") - mm(case, "piston_20"))


@pytest.mark.parametrize("case", cases("07", "ring_gap"))
def test_gaps(case):
    check(
        case,
        taper=fit.taper_from_gaps(mm(case, "gap_top"), mm(case, "gap_bottom")),
        wanted_gap=fit.wanted_gap(mm(case, "bore"), case["inputs"]["gap_factor"]),
    )


@pytest.mark.parametrize("case", cases("07", "volumes"))
def test_volumes(case):
    g = case["inputs"]
    for when in ("before", "after"):
        above = volumes.Chamber(
            g["chamber_cm3"],
            g["dish_cm3"],
            mm(case, "gasket_bore"),
            mm(case, "gasket_thickness"),
            mm(case, f"deck_clearance_{when}"),
        )
        bore, stroke = mm(case, f"bore_{when}"), mm(case, "stroke")
        swept = volumes.swept_cm3(bore, stroke)
        check(
            case,
            **{
                f"swept_one_cm3_{when}": swept,
                f"swept_all_cm3_{when}": swept * g["cylinders"],
                f"compression_ratio_{when}": volumes.compression_ratio(bore, stroke, above),
            },
        )


@given(st.floats(-0.02, 0.12), st.floats(0.0, 0.05), st.floats(0.0, 0.05), st.floats(0.0, 0.01))
def test_more_doubt_never_makes_a_surer_call(clearance, low, width, u):
    window = ClearanceWindow(low, low + width, "sheet")
    sharp, dull = fit.guard_band(clearance, window, u), fit.guard_band(clearance, window, u + 0.002)
    assert dull in (sharp, Decision.TOO_CLOSE)


def test_a_window_upside_down_is_refused():
    with pytest.raises(InputError, match="low end first"):
        ClearanceWindow(0.05, 0.04, "manual")


def test_a_dome_bigger_than_the_chamber_is_refused():
    with pytest.raises(InputError, match="dome"):
        volumes.compression_ratio(92, 90, volumes.Chamber(10, -40, 93, 1, 0.2))


@given(st.floats(-5.0, 5.0), st.floats(0.0, 2.0), st.floats(0.01, 2.0), st.floats(0.0, 1.0))
def test_a_figure_of_the_finish_is_decided_like_a_clearance(value, low, wide, u):
    found, high = fit.decide(value, low, low + wide, u), low + wide
    if found is Decision.IN:
        assert low + u < value < high - u
    elif found is Decision.OUT:
        assert value < low - u or value > high + u
    else:
        assert min(abs(value - low), abs(value - high)) <= u + 1e-12
    window = ClearanceWindow(low, high, "x")
    if u > 1e-6 and abs(abs(value - low) - u) > 1e-6 and abs(abs(value - high) - u) > 1e-6:
        assert found is fit.guard_band(value, window, u)
