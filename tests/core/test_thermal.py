import pytest
from hypothesis import given
from hypothesis import strategies as st

from redline_bore.core.thermal import GaugeSetting, gauge_size_at_20, gauge_size_at_part, size_at, size_at_20
from tests.vectors import cases, check, mm


@pytest.mark.parametrize("case", cases("02", "size_at_20"))
def test_size_at_20(case):
    given_ = case["inputs"]
    check(case, size_20=size_at_20(mm(case, "size"), given_["coefficient_1e6_per_c"], given_["part_c"]))


@pytest.mark.parametrize("case", cases("02", "gauge_size_at_20"))
def test_gauge_size_at_20(case):
    g = case["inputs"]
    setting = GaugeSetting(
        mm(case, "master_20"), g["master_1e6_per_c"], g["master_c"], g.get("gauge_1e6_per_c"), g.get("gauge_at_zero_c")
    )
    reading, at_read = mm(case, "reading_from_zero"), g.get("gauge_at_read_c")
    check(
        case,
        size_20=gauge_size_at_20(setting, reading, g["part_1e6_per_c"], g["part_c"], at_read),
        size_at_part_temperature=gauge_size_at_part(setting, reading, at_read),
    )


@given(st.floats(20, 200), st.floats(-20, 60), st.sampled_from([11.0, 21.5]))
def test_there_and_back(size, temperature, coefficient):
    assert size_at_20(size_at(size, coefficient, temperature), coefficient, temperature) == pytest.approx(
        size, rel=1e-12
    )


def test_a_warm_block_reads_big():
    assert size_at_20(106.05, 11.0, 22.9) < 106.05
    assert 106.05 - size_at_20(106.05, 11.0, 22.9) == pytest.approx(0.0034, abs=1e-4)


def test_unknown_gauge_temperature_is_no_correction_at_all():
    with_body = GaugeSetting(92.0, 11.5, 21.0, 11.5, 21.0)
    assert gauge_size_at_part(with_body, 0.1, None) == gauge_size_at_part(GaugeSetting(92.0, 11.5, 21.0), 0.1, 36.0)
