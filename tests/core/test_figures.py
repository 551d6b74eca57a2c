import tomllib
from importlib import resources

import pytest

from redline_bore.core.errors import FaultyInput, InputError
from redline_bore.core.figures import checked_value, figures_from_tables

TABLES = {
    "cleanup": {
        "source": "starting point",
        "skin": {"value": 0.013, "unit": "mm"},
        "feel": {"value": [0.0, 0.003], "unit": "mm", "note": "range"},
    }
}


def test_every_shipped_figure_has_a_unit_and_a_source():
    tables = {
        path.name.removesuffix(".toml"): tomllib.loads(path.read_text())
        for path in resources.files("redline_bore.core.defaults").iterdir()
        if path.name.endswith(".toml")
    }
    figures = figures_from_tables(tables)
    assert len(list(figures)) > 80
    assert all(f.unit and f.source for f in figures)


def test_the_shops_own_lies_over_and_says_so():
    own = figures_from_tables(TABLES).with_own({"cleanup.skin": 0.02})
    assert own.number("cleanup.skin") == 0.02
    assert own.figure("cleanup.skin").own and own.figure("cleanup.skin").source == "the shop's own"
    assert not own.figure("cleanup.feel").own


def test_bad_own_figures_are_all_named():
    with pytest.raises(FaultyInput) as caught:
        figures_from_tables(TABLES).with_own({"cleanup.skin": "thin", "cleanup.feel": [0.5, 0.1], "cleanup.nose": 1.0})
    assert len(caught.value.faults) == 3


def test_a_figure_without_a_unit_is_refused():
    with pytest.raises(InputError, match="unit"):
        figures_from_tables({"x": {"source": "s", "y": {"value": 1.0}}})


def test_kinds_are_not_mixed_up():
    figures = figures_from_tables(TABLES)
    for ask, key in ((figures.number, "cleanup.feel"), (figures.row, "cleanup.skin"), (figures.word, "cleanup.skin")):
        with pytest.raises(InputError):
            ask(key)


def test_every_shipped_figure_lies_in_its_own_bounds_and_what_is_far_out_does_not(shipped):
    """Whatever is a thousand times the shipped figure is another unit: told with the reason, for every figure there is."""
    for figure in shipped:
        if isinstance(figure.value, str):
            continue
        raw = list(figure.value) if isinstance(figure.value, tuple) else figure.value
        assert checked_value(figure, raw) == figure.value
        far = [1e6 * (abs(v) or 1.0) for v in raw] if isinstance(raw, list) else 1e6 * (abs(raw) or 1.0)
        if figure.unit != "money":
            with pytest.raises(InputError, match="is not between|is wanted"):
                checked_value(figure, far)


@pytest.mark.parametrize("key, value", [
    ("gauging.full_levels", 5_000_000), ("gauging.full_levels", 21), ("gauging.full_levels", 0), ("sleeves.friction", 3.0), ("wall.thrust", 1e5), ("honing.rough_load", 101.0),
])  # fmt: skip
def test_what_no_shop_has_is_refused_with_its_reason(shipped, key, value):
    if key in shipped.by_key:
        with pytest.raises(FaultyInput, match="is not between"):
            shipped.with_own({key: value})
