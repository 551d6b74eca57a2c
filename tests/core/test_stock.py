import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from redline_bore.core.errors import FitError
from redline_bore.core.stock import block_off_temperature, rate_change, strokes_left, taper_growth, theil_sen
from tests.vectors import cases, check, mm


@pytest.mark.parametrize("case", cases("12", "strokes_left", "strokes_left_with_gauge"))
def test_strokes_left(case):
    left = strokes_left(case["inputs"]["strokes"], mm(case, "diameter_20"), mm(case, "target_20"), mm(case, "gauge_sd"))
    check(case, strokes_left=left.strokes, strokes_left_low=left.low, strokes_left_high=left.high)
    if case["op"] == "strokes_left":
        check(case, rate=left.rate.mm, rate_low=left.rate.low_mm, rate_high=left.rate.high_mm)
    else:
        check(case, now=left.now_mm, now_sd=left.now_sd_mm)


@pytest.mark.parametrize("case", cases("12", "ledger_flags"))
def test_flags(case):
    g = case["inputs"]
    change = rate_change(g["strokes"], mm(case, "diameter_20"), g["fallen_below"], g["risen_above"])
    check(case, rate_now_over_start=change.now_over_start, rate_fallen=change.fallen, rate_risen=change.risen)
    if "block_c" in g:
        check(case, block_off_temperature=[block_off_temperature(c, 3.0, g["reference_c"]) for c in g["block_c"]])
    if first := mm(case, "level_diameter_first"):
        growth = taper_growth(first, mm(case, "level_diameter_last"))
        check(case, taper_growing=growth > mm(case, "taper_growth_limit"))


@given(st.floats(0.0002, 0.003), st.integers(3, 12), st.floats(0.005, 0.1))
def test_an_even_cut_is_projected_exactly(rate, checks, to_go):
    strokes = np.arange(checks) * 10.0
    sizes = 92.0 + rate * strokes
    left = strokes_left(strokes, sizes, float(sizes[-1] + to_go))
    assert left.strokes == pytest.approx(to_go / rate, rel=1e-6)
    assert left.low == pytest.approx(left.high, rel=1e-6)


@given(st.lists(st.floats(-0.002, 0.002), min_size=5, max_size=10))
def test_gauge_doubt_only_widens(noise):
    strokes = np.arange(len(noise)) * 10.0
    sizes = 92.0 + 0.001 * strokes + np.array(noise)
    sharp, dull = (strokes_left(strokes, sizes, 92.2, sd) for sd in (0.0005, 0.003))
    assert dull.low <= sharp.low
    assert dull.high is None or dull.high >= sharp.high


def test_few_checks_say_so():
    assert not theil_sen([0, 10, 20], [92, 92.01, 92.02]).is_interval
    assert theil_sen([0, 10, 20, 30, 40], [92, 92.01, 92.02, 92.03, 92.04]).is_interval


@pytest.mark.parametrize("strokes, sizes", [([0], [92.0]), ([10, 10], [92.0, 92.1]), ([0, 10], [92.0, float("nan")])])
def test_no_rate_without_strokes(strokes, sizes):
    with pytest.raises(FitError):
        theil_sen(strokes, sizes)


def test_unknown_temperature_is_not_called_off():
    assert not block_off_temperature(None, 3.0)
    assert block_off_temperature(23.4, 3.0)
