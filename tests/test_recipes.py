"""The recipes of CONTRIBUTING.md, followed word for word; and the documents that say where things are."""

import ast
import re
import subprocess
import sys
from pathlib import Path

import pytest

from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.kind import entry_words
from redline_bore.job.kinds.phrase import Where
from redline_bore.job.proposals import entries_from_typed
from tests.job.benches import after

ROOT = Path(__file__).parent.parent
METRIC = Show(Units.METRIC)

KIND = '''
"""The block's weight, as a recipe would add it."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

from redline_bore.core.frozen import frozen
from redline_bore.core.told import Unit, told
from redline_bore.job.kinds.entry import Entry
from redline_bore.job.kinds.folding import Folding
from redline_bore.job.kinds.kind import Into, declare
from redline_bore.job.kinds.measures import number
from redline_bore.job.kinds.phrase import Phrase
from redline_bore.job.kinds.topics import Topic


@frozen(kw_only=True)
class CraneUsed(Entry):
    """The block was lifted by a crane rated for so much."""

    rated_kg: float = told("rated load", Unit.COUNT, least=50.0, most=5000.0, why="no load of a crane for blocks: 50 to 5000 kg", shown="book_in/card")
    kind: Literal["crane_used"] = "crane_used"


def _kept(booking, entry, _f):
    return replace(booking, book_in=replace(booking.book_in, owner=f"{booking.book_in.owner}; crane {entry.rated_kg:g} kg"))


declare(
    CraneUsed, Topic.BOOK_IN, "book_in", lambda e, show: f"lifted by a crane of {e.rated_kg:g} kg", into=(Into("booking", _kept),),
    phrases=(Phrase(("book_in",), ("crane",), "crane LOAD", "the crane that lifted it", lambda at: "crane 500", lambda text, at: (CraneUsed(rated_kg=float(text.split()[1])),)),),
    sheet=("crane", lambda state, show: state.book_in.owner.rpartition("crane ")[2] if "crane" in state.book_in.owner else ""),
)
'''


@pytest.fixture
def crane(monkeypatch):
    """The recipe followed: one module, imported; taken away again."""
    from redline_bore.job.kinds import grammar, kind

    before = dict(kind.KINDS), dict(kind._BY_ENTRY)
    there: dict = {"__name__": "crane_recipe"}
    module = type(sys)("crane_recipe")
    sys.modules["crane_recipe"] = module
    exec(compile(KIND, "crane_recipe.py", "exec"), module.__dict__)
    there.update(module.__dict__)
    grammar.phrases_at.cache_clear()
    yield module.CraneUsed
    for table, was in zip((kind.KINDS, kind._BY_ENTRY), before, strict=True):
        table.clear()
        table.update(was)
    del sys.modules["crane_recipe"]
    grammar.phrases_at.cache_clear()


def test_an_entry_kind_in_one_file_is_typed_refused_kept_said_and_on_the_sheet(crane, ledger_of, shipped):
    from redline_bore.job.kinds.codec import entry_from_plain, to_plain
    from redline_bore.job.kinds.kind import sheet_lines, wrongs

    state = fold(ledger_of("2047"), shipped)
    where = Where(1, Place(0, 0), Units.METRIC)
    (entry,) = entries_from_typed("book_in", "crane 500", state, where)
    assert entry == crane(rated_kg=500.0) and entry_words(entry, METRIC) == "lifted by a crane of 500 kg"
    assert entry_from_plain(to_plain(entry)) == entry
    assert [w.reason for w in wrongs(crane(rated_kg=10.0), state.block)] == [
        "10 is no load of a crane for blocks: 50 to 5000 kg"
    ]
    now = after(ledger_of("2047"), shipped, entry)
    assert [(line.title, line.text) for line in sheet_lines(now, METRIC)] == [("crane", "500 kg")]
    assert sheet_lines(state, METRIC) == ()


@pytest.mark.parametrize(
    "was, becomes, lacks",
    [
        ('"book_in", lambda e', '"nowhere", lambda e', "its step"), ('into=(Into("booking", _kept),),', "", "a slice it folds into"),
        ('Into("booking"', 'Into("nothing"', "slices that the state has"), ('told("rated load", Unit.COUNT, least=50.0, most=5000.0, why="no load of a crane for blocks: 50 to 5000 kg", shown="book_in/card")', "1.0", "what “rated_kg” is called"),
        ('    """The block was lifted by a crane rated for so much."""\n', "", "a sentence saying what it is"), ('"the crane that lifted it"', '""', "words, a form and a help"),
        ('Literal["crane_used"] = "crane_used"', 'Literal["redline_set"] = "decision_taken"', "a name of its own"),
    ],
)  # fmt: skip
def test_a_kind_not_wholly_declared_fails_when_it_is_imported(was, becomes, lacks):
    assert was in KIND
    module = type(sys)("crane_broken")
    sys.modules["crane_broken"] = module
    try:
        with pytest.raises(TypeError, match=lacks):
            exec(compile(KIND.replace(was, becomes), "crane_broken.py", "exec"), module.__dict__)
    finally:
        del sys.modules["crane_broken"]


def test_a_range_without_its_reason_fails_when_it_is_imported():
    with pytest.raises(TypeError, match="no reason"):
        exec(
            compile(KIND.replace(', why="no load of a crane for blocks: 50 to 5000 kg"', ""), "x.py", "exec"),
            {"__name__": "x"},
        )


def test_a_figure_in_one_line():
    """A line in a table of defaults is read by its key, with its unit and the file's source."""
    import tomllib

    from redline_bore.core.figures import figures_from_tables

    text = (ROOT / "redline_bore" / "core" / "defaults" / "honing.toml").read_text("utf-8")
    line = 'crane_rated = { value = 500.0, unit = "kg", note = "the crane over the hone" }'
    found = figures_from_tables({"honing": tomllib.loads(f"{text}\n{line}\n")}).figure("honing.crane_rated")
    assert (found.value, found.unit, found.note) == (500.0, "kg", "the crane over the hone") and found.source


def test_a_texture_parameter_in_one_line(monkeypatch, state_of):
    """A line in the table: the working and the exported file have it."""
    from redline_bore.core.texture.parameters import PARAMETERS, Counted, Parameter
    from redline_bore.job.words import finish
    from redline_bore.store.finish_csv import finish_csv

    monkeypatch.setitem(PARAMETERS, "Rp", Parameter(Counted.HEIGHT, lambda t: float(t.profile.roughness.max())))
    state = state_of("2036")
    assert "Rp_um" in finish_csv(state).splitlines()[0]
    assert any(", Rp " in w.text for w in finish.advise(state, 1, METRIC).working)


def test_an_instrument_that_sends_what_is_known_already():
    """A gauge of another make sends the same line; what it sends is a reading."""
    from redline_bore.instruments.line_protocol import GaugeReading, parse_line

    assert isinstance(parse_line("reading +0.0123 mm part 20.4"), GaugeReading)


# -- documents ------------------------------------------------------------------------------------------------------


def words():
    rows = re.findall(
        r"^\|([^|]+)\|[^|]+\| `([^`]+)` \| `([^`]+)` \|$", (ROOT / "docs" / "words.md").read_text("utf-8"), re.M
    )
    return [(word.strip(), file, name) for word, file, name in rows]


@pytest.mark.parametrize(("word", "file", "name"), words())
def test_every_word_lives_where_the_table_says(word, file, name):
    tree = ast.parse((ROOT / "redline_bore" / file).read_text("utf-8"))
    assert name in {n.name for n in ast.walk(tree) if isinstance(n, (ast.ClassDef, ast.FunctionDef))}, word


def test_no_word_stands_twice():
    told = [w for row, _, _ in words() for w in row.split(", ")]
    assert sorted(w for w in set(told) if told.count(w) > 1) == []


def test_the_pictures_of_the_architecture_are_drawn_from_the_code():
    from tools import architecture

    text = architecture.TARGET.read_text("utf-8")
    assert architecture.filled(text) == text, "python -m tools.architecture draws them anew"


def test_a_circle_is_not_drawn():
    from tools.architecture import levels

    assert levels({"a": {"b"}, "b": set()}) == {"a": 2, "b": 1}
    with pytest.raises(ValueError, match="a, b"):
        levels({"a": {"b"}, "b": {"a"}})


@pytest.mark.parametrize(
    "document",
    ["README.md", "CONTRIBUTING.md", *(str(p.relative_to(ROOT)) for p in sorted((ROOT / "docs").rglob("*.md")))],
)
def test_what_a_document_points_to_is_there(document):
    path = ROOT / document
    text = path.read_text("utf-8")
    for target in re.findall(r"\]\(([^)#]+)\)", text):
        assert (path.parent / target).exists(), target
    for file in re.findall(r"`((?:core|job|ui|desk|store|instruments|cli|demo)/[\w/]+\.py)`", text):
        assert (ROOT / "redline_bore" / file).exists(), file
    for file in re.findall(r"`((?:tests|tools|docs)/[\w/.]+)`", text):
        assert (ROOT / file).exists(), file


def test_sections_of_methods_that_the_code_cites_are_there():
    there = set(re.findall(r"^## (\d+) ", (ROOT / "docs" / "methods.md").read_text("utf-8"), re.M))
    for path in (ROOT / "redline_bore").rglob("*.py"):
        for number in re.findall(r"[Mm]ethods (\d+)", path.read_text("utf-8")):
            assert number in there, (path, number)


def test_every_command_of_the_makefile_that_is_named_is_there():
    rules = subprocess.run(["make", "-qp"], cwd=ROOT, capture_output=True, text=True).stdout
    for document in ("README.md", "CONTRIBUTING.md"):
        for name in re.findall(r"`make ([a-z ]+)`", (ROOT / document).read_text("utf-8")):
            for rule in name.split():
                assert re.search(rf"^{rule}:", rules, re.M), rule
