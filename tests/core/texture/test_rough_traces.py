"""Traces as instruments send them: on the way back, in coarse heights."""

import numpy as np
import pytest

from redline_bore.core.errors import InputError
from redline_bore.core.texture.parameters import texture_of
from redline_bore.core.texture.profile import even_trace, height_step, trace_from


def test_a_trace_recorded_on_the_way_back_is_read_the_same():
    x = np.arange(12000) * 0.0005
    z = np.random.default_rng(4).normal(0.0, 0.4, len(x))
    there, back = trace_from(x, z), trace_from(x[::-1], z[::-1])
    assert np.array_equal(there.heights_um, back.heights_um) and there.step_um == pytest.approx(back.step_um)
    mixed = x.copy()
    mixed[10], mixed[11] = mixed[11], mixed[10]
    with pytest.raises(InputError, match="do not grow"):
        trace_from(mixed, z)


@pytest.mark.parametrize("heights, step", [
    ([0.0, 0.4, 0.8] * 40, 0.4), ([0.0, 0.4, 1.2] * 40, 0.4), ([0.0, 1.0] * 60, 0.0), ([0.0, 0.4, 0.55] * 40, 0.0), (list(range(120)), 0.0),
])  # fmt: skip
def test_coarse_heights_are_known_by_their_ladder(heights, step):
    assert height_step(heights) == pytest.approx(step)


@pytest.mark.parametrize("step", [0.1, 0.2, 0.4])
def test_coarse_heights_still_give_peaks_and_core_near_the_truth(step):
    chance = np.random.default_rng(2)
    fine = np.convolve(chance.normal(0.0, 0.25, 11200), np.ones(5) / 2.2, "same")
    deep = np.convolve(chance.normal(0.0, 1.6, 11200), np.ones(12) / 3.5, "same")
    z = np.minimum(fine, deep + 1.0)
    true, coarse = texture_of(even_trace(0.5, z)), texture_of(even_trace(0.5, np.round(z / step) * step))
    assert "coarse" in coarse.flags and coarse.height_step_um == pytest.approx(step) and "coarse" not in true.flags
    for name in ("Rpk", "Rk", "Rvk"):
        assert abs(coarse.value(name) - true.value(name)) < 0.5 * step, name
    assert coarse.value("Rpk") == texture_of(even_trace(0.5, np.round(z / step) * step)).value("Rpk")
