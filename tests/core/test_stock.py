import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from redline_bore.core.errors import FitError
from redline_bore.core.stock import block_off_temperature, rate_change, robust_line, taper_growth, theil_sen
from tests.vectors import cases, check, mm


@pytest.mark.parametrize("case", cases("12", "strokes_left"))
def test_rate(case):
    rate = theil_sen(case["inputs"]["strokes"], mm(case, "diameter_20"))
    check(case, rate=rate.mm, rate_low=rate.low_mm, rate_high=rate.high_mm)


@pytest.mark.parametrize("case", cases("12", "strokes_left_with_gauge"))
def test_now_on_the_robust_line(case):
    line = robust_line(case["inputs"]["strokes"], mm(case, "diameter_20"), mm(case, "gauge_sd"))
    check(case, now=line.now_mm, now_sd=line.now_sd_mm)


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


@given(st.floats(0.0002, 0.003), st.integers(3, 12))
def test_an_even_cut_is_found_exactly(rate, checks):
    strokes = np.arange(checks) * 10.0
    line = robust_line(strokes, 92.0 + rate * strokes, 0.001)
    assert line.rate.mm == pytest.approx(rate, rel=1e-6) and line.now_mm == pytest.approx(92.0 + rate * strokes[-1])
    assert line.now_sd_mm < 0.001 * (1.0 + 1e-9)


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


@given(st.lists(st.tuples(st.integers(0, 90), st.floats(92.0, 92.2)), min_size=3, max_size=8, unique_by=lambda c: c[0]))
def test_a_slope_asks_for_no_order(checks):
    strokes, sizes = zip(*checks, strict=True)
    turned = theil_sen(strokes[::-1], sizes[::-1])
    assert turned.mm == pytest.approx(theil_sen(strokes, sizes).mm, abs=1e-12)
    x, y = np.array(strokes, dtype=float), np.array(sizes)
    i, j = np.triu_indices(x.size, k=1)
    assert turned.mm == pytest.approx(float(np.median((y[j] - y[i]) / (x[j] - x[i]))), abs=1e-12)


def test_a_taper_that_turns_over_is_counted_by_its_size():
    assert taper_growth([92.00, 92.01], [92.00, 92.03]) == pytest.approx(0.02)
    assert taper_growth([92.00, 92.01], [92.02, 92.00]) == pytest.approx(0.01)
    assert taper_growth([92.02, 92.00], [92.00, 92.01]) == pytest.approx(-0.01)


def test_the_size_on_the_plain_line_is_less_sure_the_further_its_last_check_lies_off():
    line = robust_line([0.0, 5.0, 40.0], [92.0, 92.01, 92.08], 0.003)
    assert line.now_sd_mm == pytest.approx(0.003 * (1 / 3 + 25.0**2 / (15.0**2 + 10.0**2 + 25.0**2)) ** 0.5)
    assert line.now_mm == pytest.approx(92.08) and line.rate.mm == pytest.approx(0.002)
