"""What plateau strokes do to a wall: the cut, the path, finding another wall on it."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from redline_bore.core.errors import FitError, InputError
from redline_bore.core.texture.curve import family_of
from redline_bore.core.texture.packed import packed, unpacked
from redline_bore.core.texture.plateau import (
    Cut,
    at,
    deepest_cut,
    fine_texture,
    height_for,
    nearest_to,
    path_of,
    place_on,
    removed_at,
    stretch_inside,
)
from redline_bore.core.texture.profile import MOST_POINTS, profile_of
from redline_bore.store.traces.files import read_trace
from tests.vectors.texture_cases import HERE, close, document

VECTOR = document("plateau")


@pytest.fixture(scope="module")
def coarse():
    return profile_of(read_trace(HERE / "plateau_00.csv"))


@pytest.mark.parametrize("case", VECTOR["truncate"], ids=lambda c: f"{c['bearing_pct']:.0f} %")
def test_clipping_the_wall(coarse, case):
    height = float(coarse.family.max()) - case["c_um"]
    assert removed_at(coarse.family, height) == pytest.approx(case["removed_um"], rel=0.03)
    assert height_for(coarse.family, removed_at(coarse.family, height)) == pytest.approx(height, abs=1e-6)
    found = family_of(np.minimum(coarse.family, height))
    for name, want in case["expected"].items():
        if name == "Mr1" and case["expected"]["Rpk"] == 0.0:
            continue
        close(name, getattr(found, name), want, VECTOR["truncate_tolerance"][name])


def test_the_path_is_the_one_foretold_and_near_the_wall_as_it_came(coarse):
    worn = {n: c for n, c in VECTOR["traces"].items() if c.get("strokes")}
    path = path_of(coarse, [c["removed_um"] for c in worn.values()], VECTOR["fine_texture"]["Rq_um"])
    for cut, case in zip(path, worn.values(), strict=True):
        for name in ("Rk", "Rpk", "Rvk"):
            told = case["predicted_clip_then_filter"][name]
            close(name, cut.value(name), told, VECTOR["prediction_tolerance_to_predicted"][name])
            allowed = VECTOR["prediction_tolerance_to_trace"]["clip_then_filter"][name]
            close(name, cut.value(name), case["values"][name], allowed)


@pytest.mark.parametrize("name", ["plateau_04.csv", "plateau_08.csv", "plateau_12.csv", "plateau_18.csv"])
def test_a_wall_is_found_again_on_the_path(coarse, name):
    case = VECTOR["traces"][name]
    grid = deepest_cut(coarse) * np.linspace(0.0, 1.0, 16) ** 1.5
    path = path_of(coarse, grid.tolist(), VECTOR["fine_texture"]["Rq_um"])
    placed = place_on(path, case["values"])
    assert placed.removed_um == pytest.approx(case["removed_um"], rel=0.2) and placed.off < 2.0


def test_the_path_can_be_broken_off_and_ends_where_valleys_end(coarse):
    class Enough(Exception):
        pass

    def stop(share):
        if share > 0.4:
            raise Enough

    with pytest.raises(Enough):
        path_of(coarse, [0.0, 0.05, 0.1, 0.2], 0.07, stop)
    assert len(path_of(coarse, [0.0, 0.1, 50.0, 60.0], 0.07)) == 2
    with pytest.raises(FitError, match="no valleys"):
        height_for(coarse.family, 50.0)


@given(st.floats(0.001, 0.99), st.integers(0, 9))
def test_metal_and_height_of_a_cut_belong_together(share, seed):
    z = np.random.default_rng(seed).normal(size=500)
    most = removed_at(z, float(np.sort(z)[::-1][390]))
    assert removed_at(z, height_for(z, share * most)) == pytest.approx(share * most, rel=1e-6, abs=1e-9)


def test_nothing_removed_is_a_cut_at_the_highest_point(coarse):
    assert height_for(coarse.family, 0.0) == coarse.family.max()
    first = path_of(coarse, [0.0], 0.07)[0]
    assert (first.Rk, first.Rvk) == (family_of(coarse.family).Rk, family_of(coarse.family).Rvk)


def test_fine_texture_has_its_height_and_comes_again():
    one = fine_texture(4000, 0.5, 0.12, 5)
    assert one.std() == pytest.approx(0.12) and np.array_equal(one, fine_texture(4000, 0.5, 0.12, 5))
    assert not np.array_equal(one, fine_texture(4000, 0.5, 0.12, 6))


def path(*rows):
    return [Cut(removed, 0.0, 0.0, rpk, rk, rvk) for removed, rpk, rk, rvk in rows]


def test_the_stretch_in_the_windows():
    falls = path((0.0, 0.6, 2.0, 2.0), (0.1, 0.2, 1.0, 1.8), (0.2, 0.1, 0.5, 1.2))
    assert stretch_inside(falls, {"Rk": (0.6, 1.5)}) == pytest.approx((0.05, 0.18), abs=1e-3)
    assert stretch_inside(falls, {"Rk": (0.6, 1.5), "Rvk": (1.9, 3.0)}) == pytest.approx((0.05, 0.05), abs=2e-3)
    assert stretch_inside(falls, {"Rk": (0.6, 1.5), "Rvk": (1.95, 3.0)}) is None
    assert stretch_inside(falls, {"Rvk": (2.5, 3.0)}) is None
    assert at(falls, 0.15) == pytest.approx({"Rpk": 0.15, "Rk": 0.75, "Rvk": 1.5})
    with pytest.raises(FitError, match="too short"):
        place_on(falls[:2], {"Rpk": 1, "Rk": 1, "Rvk": 1})


# -- heights in the ledger -----------------------------------------------------------------------------------------


@given(st.lists(st.floats(-900.0, 900.0), max_size=300))
def test_heights_come_back_from_their_text(heights):
    assert np.allclose(unpacked(packed(heights)), heights, atol=0.51e-4)


@pytest.mark.parametrize("heights", [[np.nan], [np.inf], [2e6], [[1.0, 2.0]]])
def test_what_is_no_height_is_not_packed(heights):
    with pytest.raises(InputError):
        packed(heights)


def test_damaged_text_is_refused_and_a_bomb_does_not_go_off():
    import base64
    import zlib

    bomb = base64.b64encode(zlib.compress(bytes(60_000_000), 9)).decode()
    assert len(bomb) < 100_000 < MOST_POINTS
    for text in ("", "abc", "????", packed([1.0] * 50)[:-8], base64.b64encode(zlib.compress(b"abc")).decode(), bomb):
        with pytest.raises(InputError, match="damaged"):
            unpacked(text)


def test_the_nearest_place_is_where_the_worst_figure_misses_least():
    falls = path((0.0, 0.2, 2.0, 2.0), (0.1, 0.2, 1.0, 1.0), (0.2, 0.2, 0.5, 0.5))
    windows = {"Rk": (0.4, 0.9), "Rvk": (1.2, 3.0)}
    assert stretch_inside(falls, windows) is None
    x = nearest_to(falls, windows)
    told = at(falls, x)
    assert (told["Rk"] - 0.9) / 0.9 == pytest.approx((1.2 - told["Rvk"]) / 1.2, abs=0.02) and 0.08 < x < 0.11
    assert nearest_to(falls, {"Rk": (0.6, 0.8)}) == pytest.approx(0.14, abs=0.03)


# -- by hand, on paths and walls that can be worked on paper ---------------------------------------------------------

STRAIGHT = [Cut(x, 0.0, x / 4.0, 0.6 - 0.1 * x, 1.2 - 0.2 * x, 2.0 - 0.1 * x) for x in (0.0, 1.0, 2.0, 4.0)]


def test_nothing_removed_is_the_wall_as_it_came(coarse):
    (first,) = path_of(coarse, [0.0], 0.1)
    plain = family_of(coarse.family)
    assert (first.Rpk, first.Rk, first.Rvk) == (plain.Rpk, plain.Rk, plain.Rvk)
    assert first.bearing == pytest.approx(1.0 / len(coarse.family)) and first.height_um == coarse.family.max()


def test_the_deepest_cut_is_where_four_fifths_are_borne(coarse):
    deepest = deepest_cut(coarse)
    assert height_for(coarse.family, deepest * 0.999) > np.quantile(coarse.family, 0.2) - 0.01
    with pytest.raises(FitError):
        height_for(coarse.family, deepest * 1.05)
    ramp = coarse.__class__(
        **{n: getattr(coarse, n) for n in coarse.__dataclass_fields__} | {"family": np.linspace(1.0, 0.0, 101)}
    )
    assert deepest_cut(ramp) == pytest.approx(removed_at(ramp.family, ramp.family[78]), rel=1e-9)


def test_a_wall_placed_on_its_own_path_is_nowhere_off_it():
    placed = place_on(STRAIGHT, at(STRAIGHT, 1.5))
    assert placed.removed_um == pytest.approx(1.5, abs=0.01) and placed.off < 0.1


def test_how_far_off_the_path_is_told_in_what_walls_differ_by():
    """Every figure a whole weight away and the path flat: one off, by hand."""
    flat = [Cut(x, 0.0, 0.5, 0.5, 1.0, 2.0) for x in (0.0, 1.0, 2.0)]
    assert place_on(flat, {"Rpk": 0.55, "Rk": 1.0, "Rvk": 2.0}).off == pytest.approx(1.0 / np.sqrt(3.0))
    both = {"Rpk": 0.55, "Rk": 1.0 / 0.9, "Rvk": 2.0}
    assert place_on(flat, both).off == pytest.approx(np.sqrt(2.0 / 3.0))


def test_two_points_are_no_path():
    with pytest.raises(FitError, match="too short"):
        place_on(STRAIGHT[:2], at(STRAIGHT, 1.0))
    assert place_on(STRAIGHT[:3], at(STRAIGHT, 1.0)).removed_um == pytest.approx(1.0, abs=0.01)


@pytest.mark.parametrize(
    "windows, wanted",
    [
        ({"Rk": (0.8, 1.0)}, (1.0, 2.0)), ({"Rk": (0.8, 1.0), "Rpk": (0.0, 0.45)}, (1.5, 2.0)), ({"Rk": (0.0, 9.0)}, (0.0, 4.0)),
        ({"Rk": (0.0, 0.3)}, None), ({"Rk": (1.1, 9.0), "Rpk": (0.0, 0.45)}, None),
    ],
)  # fmt: skip
def test_the_stretch_inside_is_where_every_figure_is(windows, wanted):
    found = stretch_inside(STRAIGHT, windows)
    assert found is None if wanted is None else found == pytest.approx(wanted, abs=0.006)


@pytest.mark.parametrize("seed", [1, 2])
def test_fine_texture_has_the_roughness_asked_for_and_short_waves(seed):
    z = fine_texture(4000, 0.5, 0.12, seed)
    assert z.std() == pytest.approx(0.12) and abs(z.mean()) < 0.02
    near, far = (float(np.corrcoef(z[:-k], z[k:])[0, 1]) for k in (2, 40))
    assert near > 0.5 and abs(far) < 0.15


def test_a_cut_leaves_the_valleys_as_they_were(coarse):
    from redline_bore.core.texture.plateau import cut_profile, reference_line

    line, fine = reference_line(coarse), np.zeros(len(coarse.primary))
    cut = cut_profile(coarse, line, 0.1, fine)
    under = coarse.primary <= line + 0.1
    assert np.array_equal(cut[under], coarse.primary[under]) and np.allclose(cut[~under], (line + 0.1)[~under])
