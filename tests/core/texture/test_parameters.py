"""Every figure of a trace, against the reference traces and against shapes whose figures are known by pencil."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from redline_bore.core.errors import InputError
from redline_bore.core.texture.curve import curve_of, family_of, family_of_curve
from redline_bore.core.texture.parameters import PARAMETERS, texture_of, unit_of
from redline_bore.core.texture.probability import paper_of
from redline_bore.core.texture.profile import (
    MOST_POINTS,
    even_trace,
    fast_length,
    half_kernel,
    levelled,
    mean_line,
    profile_of,
    trace_from,
)
from redline_bore.store.traces.files import read_trace
from tests.vectors.texture_cases import HERE, close, document, traces

STEP = 0.5
X_MM = np.arange(11201) * STEP / 1000.0
FLAGS = {"form": "arc"}


@pytest.mark.parametrize("path, case, tolerances", traces("ok", "expected", "plateau"))
def test_the_reference_traces(path, case, tolerances):
    found = texture_of(read_trace(path))
    for name, want in case["values"].items():
        close(name, found.value(name), want, tolerances[name])
    assert set(found.flags) == {FLAGS.get(f, f) for f in case["flags"]}
    assert found.profile.form_order == case["form_order"]
    assert len(found.profile.roughness) * found.profile.step_um / 1000.0 == pytest.approx(case["eval_mm"], abs=1e-4)
    assert len(found.profile.family) * found.profile.step_um / 1000.0 == pytest.approx(case["eval_rk_mm"], abs=1e-4)
    lines = case.get("lines")
    if lines:
        assert found.family.upper == pytest.approx(lines["upper"], abs=0.01)
        assert found.family.lower == pytest.approx(lines["lower"], abs=0.01)


@pytest.mark.parametrize("path, case, _tolerances", traces("refuse", "expected"))
def test_what_cannot_be_evaluated_is_refused_with_its_reason(path, case, _tolerances):
    words = {"missing": "26 points are missing", "spacing": "not evenly spaced", "short": "too short"}
    with pytest.raises(InputError, match=words[case["reason"]]):
        read_trace(path)


def test_a_straight_line_alone_leaves_the_arc_in():
    case = document("expected")["traces"]["around_bore.csv"]
    found = texture_of(read_trace(HERE / "around_bore.csv"), form_order=1)
    assert found.Ra == pytest.approx(case["info"]["straight_line_only"]["Ra"], rel=0.01)
    straight, curved = (p.roughness.mean() for p in (found.profile, profile_of(read_trace(HERE / "around_bore.csv"))))
    assert straight < -0.2 and abs(curved) < 0.05 and "arc" not in found.flags


def test_one_trace_in_three_formats_is_one_trace():
    texts = [texture_of(read_trace(HERE / f"everyday.{kind}")) for kind in ("csv", "x3p", "sdf")]
    for name in PARAMETERS:
        values = [t.value(name) for t in texts]
        assert values == [None] * 3 or values == pytest.approx([values[0]] * 3, rel=2e-3, abs=1e-4), name


# -- the filter ----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("case", document("curves")["filter"], ids=lambda c: f"{c['wavelength_mm']} mm")
def test_the_filter_passes_waves_as_it_should(case):
    z = np.cos(2.0 * math.pi * (X_MM - X_MM[5600]) / case["wavelength_mm"])
    line = mean_line(z, case["step_um"])
    gain = line[len(line) // 2]
    assert case["accept"][0] <= gain <= case["accept"][1]
    assert gain == pytest.approx(case["mean_line_gain_kernel_half_cutoff"], abs=1e-4)


def test_the_filter_is_a_straightforward_weighted_mean():
    z = np.random.default_rng(3).normal(size=3000)
    half = half_kernel(2.0)
    x = np.arange(-half, half + 1) * 2.0
    weights = np.exp(-math.pi * (x / (math.sqrt(math.log(2.0) / math.pi) * 800.0)) ** 2)
    plain = np.convolve(z, weights / weights.sum(), mode="valid")
    assert np.allclose(mean_line(z, 2.0), plain, atol=1e-12) and len(plain) == 3000 - 2 * half


@given(st.floats(-5.0, 5.0), st.floats(-3.0, 3.0))
def test_a_mean_line_keeps_a_slope_and_a_level(level, slope):
    z = level + slope * X_MM
    assert np.allclose(mean_line(z, STEP), z[800:-800], atol=1e-9)


@given(st.integers(1, 40000))
def test_a_fast_length_is_enough_and_has_small_factors(count):
    found = fast_length(count)
    assert count <= found < 2 * count + 2
    for prime in (2, 3, 5):
        while found % prime == 0:
            found //= prime
    assert found == 1


@given(st.floats(-20.0, 20.0), st.floats(-5.0, 5.0))
def test_figures_do_not_hang_on_tilt_or_level(level, slope):
    z = 0.4 * np.sin(2.0 * math.pi * X_MM / 0.05)
    plain, tilted = texture_of(even_trace(STEP, z)), texture_of(even_trace(STEP, z + level + slope * X_MM))
    for name in ("Ra", "Rq", "Rz", "Rt", "Rk", "Rvk"):
        assert tilted.value(name) == pytest.approx(plain.value(name), abs=1e-6), name


@given(st.floats(0.05, 20.0))
def test_lengths_scale_with_the_wall_and_shapes_do_not(factor):
    z = np.cumsum(np.random.default_rng(5).normal(size=11201)) * 0.01
    one, other = texture_of(even_trace(STEP, z), 1), texture_of(even_trace(STEP, z * factor), 1)
    for name in ("Ra", "Rq", "Rz", "Rt", "Rk", "Rpk", "Rvk", "A1", "A2", "Vo"):
        assert other.value(name) == pytest.approx(factor * one.value(name), rel=1e-6, abs=1e-9), name
    for name in ("Rsk", "Rku", "Mr1", "Mr2"):
        assert other.value(name) == pytest.approx(one.value(name), rel=1e-6, abs=1e-6), name


def test_a_sine_has_the_figures_of_a_sine():
    found = texture_of(even_trace(STEP, 2.0 * np.sin(2.0 * math.pi * X_MM / 0.08)))
    assert found.Ra == pytest.approx(4.0 / math.pi, rel=2e-3) and found.Rq == pytest.approx(math.sqrt(2.0), rel=2e-3)
    assert found.Rz == pytest.approx(4.0, rel=2e-3) and found.Rt == pytest.approx(4.0, rel=2e-3)
    assert found.Rku == pytest.approx(1.5, rel=5e-3) and abs(found.Rsk) < 0.01
    assert found.family.Vo == pytest.approx(found.family.A2 / 10.0, rel=1e-9)


def test_an_arc_is_seen_and_a_bow_within_the_noise_is_not():
    fine = 0.3 * np.random.default_rng(1).normal(size=len(X_MM))
    sag = ((X_MM - 2.8) / 2.8) ** 2
    assert levelled(even_trace(STEP, fine + 40.0 * sag))[1] == 2
    assert levelled(even_trace(STEP, fine + 0.5 * sag))[1] == 1
    assert profile_of(even_trace(STEP, fine + 40.0 * sag)).form_order == 2


# -- the curve -----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("case", document("curves")["curves"], ids=lambda c: c["name"])
def test_curves_of_known_corners(case):
    found = family_of_curve(case["mr_pct"], case["c_um"])
    for name, want in case["expected"].items():
        close(name, getattr(found, name), want, document("curves")["tolerances"][name])


def test_the_heights_themselves_are_the_curve():
    case = next(c for c in document("curves")["curves"] if c["name"] == "kinked_a")
    ratios = (np.arange(8001) + 0.5) / 80.01
    heights = np.interp(ratios, case["mr_pct"], case["c_um"])
    np.random.default_rng(2).shuffle(heights)
    found = family_of(heights)
    for name, want in case["expected"].items():
        close(name, getattr(found, name), want, document("curves")["tolerances"][name])
    mr, c = curve_of(heights)
    assert mr[0] == 0.0 and mr[-1] == 100.0 and np.all(np.diff(c) <= 0.0)


@given(st.integers(0, 50), st.floats(0.0, 3.0), st.floats(0.0, 6.0))
def test_the_family_keeps_its_books(seed, peaks, valleys):
    z = np.random.default_rng(seed).normal(size=2000)
    z = np.where(z > 0, z * peaks, z * valleys)
    f = family_of(z)
    assert f.Rk >= 0.0 and f.Rpk >= 0.0 and f.Rvk >= 0.0 and 0.0 <= f.Mr1 <= f.Mr2 <= 100.0
    assert f.upper - f.lower == pytest.approx(f.Rk, abs=1e-9)
    assert pytest.approx(np.maximum(z - f.upper, 0.0).mean(), abs=1e-6) == f.A1
    assert pytest.approx(np.maximum(f.lower - z, 0.0).mean(), abs=1e-6) == f.A2


def test_too_little_is_no_curve():
    with pytest.raises(InputError, match="hundred points"):
        family_of(np.zeros(99))
    with pytest.raises(InputError, match="ratios that grow"):
        family_of_curve([0, 50, 40], [1, 0, -1])


@pytest.mark.parametrize("case", document("curves")["probability_paper"], ids=lambda c: c["name"])
def test_probability_paper_of_two_normal_parts(case):
    from statistics import NormalDist

    want, n = case["expected"], case["n"]
    s = np.array([NormalDist().inv_cdf((i + 0.5) / n) for i in range(n)])
    knee = NormalDist().inv_cdf(want["Rmq"] / 100.0)
    found = paper_of(np.where(s < knee, -want["Rpq"] * (s - knee), -want["Rvq"] * (s - knee)))
    for name, value in want.items():
        close(name, getattr(found, name), value, case["tolerance"][name])


def test_a_wall_without_a_knee_has_no_figures_of_the_paper():
    one = paper_of(np.random.default_rng(8).normal(size=8001))
    assert (one.Rpq, one.Rvq, one.Rmq) == (None, None, None)


def test_two_walls_of_equal_ra_are_told_apart():
    chance = np.random.default_rng(4)
    flat = 0.08 * chance.normal(size=len(X_MM))
    grooved = flat - sum(3.0 * np.exp(-(((X_MM - at) / 0.012) ** 2)) for at in np.arange(0.05, 5.6, 0.11))
    peaked = -grooved
    a, b = (texture_of(even_trace(STEP, z)) for z in (grooved, peaked))
    assert a.Ra == pytest.approx(b.Ra, rel=0.02)
    assert a.family.Rvk > 5 * b.family.Rvk and b.family.Rpk > 5 * a.family.Rpk and a.Rsk < -1.0 < 1.0 < b.Rsk


# -- what is no trace ----------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    "x, z, words",
    [
        ([0, 1], [0, 1], "this is none"),
        ([0, 1, 2], [0, 1], "this is none"),
        (X_MM, np.where(np.arange(11201) == 7, np.nan, 0.0), "1 points are missing"),
        (np.roll(X_MM, 1), np.zeros(11201), "do not grow"),
        (np.append(X_MM[:-1], 9.0), np.zeros(11201), "not evenly spaced"),
        (X_MM * 1000.0, np.zeros(11201), "unit of its length"),
        (X_MM / 1e6, np.zeros(11201), "unit of its length"),
        (X_MM, np.linspace(0, 3000.0, 11201), "look at their unit"),
        (X_MM[:9000], np.zeros(9000), "too short: 4.5 mm"),
        (np.arange(MOST_POINTS + 1) * 1e-3, np.zeros(MOST_POINTS + 1), "more than a trace has"),
    ],
)  # fmt: skip
def test_what_is_no_trace_is_refused(x, z, words):
    with pytest.raises(InputError, match=words):
        trace_from(x, z)


def test_a_figure_that_does_not_exist_is_an_error():
    with pytest.raises(KeyError):
        texture_of(even_trace(STEP, np.sin(X_MM * 90))).value("Rxx")


def test_every_figure_has_its_unit():
    assert {unit_of(n) for n in PARAMETERS} == {"um", "%", "", "mm3/cm2"}
    assert (unit_of("Rvk"), unit_of("Mr2"), unit_of("Rsk"), unit_of("Vo"), unit_of("A1")) == (
        "um",
        "%",
        "",
        "mm3/cm2",
        "um",
    )


def test_dirt_is_said_and_stays_in_the_figures():
    spiked = texture_of(read_trace(HERE / "dirt_spike.csv"))
    info = document("expected")["traces"]["dirt_spike.csv"]["info"]["without_spike"]
    assert "spike" in spiked.flags and spiked.Rt > info["Rt"] + 2.0
