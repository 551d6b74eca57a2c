import tomllib
from importlib import resources

import pytest

from redline_bore.core.errors import FaultyInput, InputError
from redline_bore.core.figures import figures_from_tables

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
