"""Kinds of entry: every line's example means what it is declared for, every range holds at both ends; the parts under the state."""

import dataclasses

import pytest
from hypothesis import given
from hypothesis import strategies as st

from redline_bore.core.errors import InputError
from redline_bore.core.frozen import changed, frozen
from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.core.told import Of, Told, Unit
from redline_bore.job.kinds import kind as kinds
from redline_bore.job.kinds.codec import entry_from_plain, to_plain
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.grammar import phrases_at
from redline_bore.job.kinds.kind import KINDS, kind_of
from redline_bore.job.kinds.phrase import At, Where
from redline_bore.job.proposals import StepProposals
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.job_state import STEPS
from redline_bore.job.state.rows import Rows
from tests.job.benches import but

ALONE = {
    "reopen",
    "accept",
    "tested",
    "strike",
    "restore",
    "master",
    "other",
    "turn",
    "look",
    "after",
    "steps",
    "dial",
}  # these need something that the job may not have yet


@pytest.mark.parametrize("number", ["2029", "2036", "2041", "2044", "2047"])
@pytest.mark.parametrize("units", Units)
@pytest.mark.parametrize("step", STEPS)
def test_every_example_books_a_kind_that_declares_it(ledger_of, shipped, number, units, step):
    """In metric and inch, in every sample job: what is typed is kept, read back alike, and of a kind that lists the line."""
    state = fold(ledger_of(number), shipped)
    at = At(state, Where(1, Place(0, 0), units), StepProposals(), "2026-11-24")
    for phrase in phrases_at(step):
        text = phrase.example(at)
        try:
            entries = phrase.read(text, at)
        except InputError:
            assert text.split()[0] in ALONE, text
            continue
        assert entries
        for entry in entries:
            assert entry_from_plain(to_plain(entry)) == entry
            if not kinds.wrongs(entry, state.block):
                assert kind_of(entry).said(entry, at.show)
        assert any(phrase in kind_of(e).phrases for e in entries), text


@pytest.mark.parametrize("kind", KINDS.values(), ids=lambda k: k.name)
def test_every_range_holds_at_both_ends_and_says_why(kind, state_of):
    block = state_of("2041").block
    scale = {Of.ITSELF: 1.0, Of.BORE: block.bore_mm, Of.HOLE: block.length_mm}
    for name, told in kind.fields.items():
        if told.many or told.choices:
            continue
        for edge, out in ((told.least, -1e-6), (told.most, 1e-6)):
            if edge is not None:
                value = edge * scale[told.of]
                assert kinds._outside(told, value, block) == "", name
                assert told.why in kinds._outside(told, value + out * max(abs(value), 1.0), block), name
        if told.above is not None:
            limit = told.above * scale[told.of]
            assert told.why in kinds._outside(told, limit, block)
            assert kinds._outside(told, limit + 1e-6 * max(abs(limit), 1.0), block) == "" or told.most is not None


def test_a_choice_takes_its_words_only():
    told = Told("way", Unit.CHOICE, choices=("in", "out"))
    assert kinds._outside(told, "in", None) == "" and "is none of in, out" in kinds._outside(told, "up", None)


def test_a_value_that_is_no_number_is_outside_every_range():
    told = Told("warmth", Unit.TEMPERATURE, least=-40.0, most=150.0, why="is no temperature")
    assert kinds._outside(told, float("nan"), None) != ""


# -- records ----------------------------------------------------------------------------------------------------------


@frozen
class Spot:
    """For these tests."""

    level: int
    clock: float = 0.0


def test_a_record_with_some_figures_changed_is_another():
    spot = Spot(1, 90.0)
    moved = changed(spot, clock=45.0)
    assert (moved.level, moved.clock, spot.clock) == (1, 45.0, 90.0) and moved == Spot(1, 45.0) != spot
    assert changed(spot) == spot == dataclasses.replace(moved, clock=90.0)
    with pytest.raises(TypeError):
        changed(spot, depth=3.0)
    with pytest.raises(dataclasses.FrozenInstanceError):
        spot.clock = 1.0


@given(st.lists(st.lists(st.integers(), max_size=5), max_size=8))
def test_rows_are_what_was_put_on_and_never_change(steps):
    rows, plain, kept = Rows(), [], []
    for step in steps:
        kept.append((rows, tuple(plain)))
        rows = rows.plus(*step)
        plain += step
    kept.append((rows, tuple(plain)))
    for found, wanted in kept:
        assert tuple(found) == wanted and len(found) == len(wanted) and list(reversed(found)) == list(reversed(wanted))
        assert found == Rows(wanted) and hash(found) == hash(Rows(wanted)) and found[:2] == wanted[:2]
        if wanted:
            assert found[-1] == wanted[-1] and found[0] == wanted[0]
        with pytest.raises(IndexError):
            found[len(wanted)]


def test_an_answer_is_worked_out_once_a_state_and_never_kept_where_it_failed(state_of):
    asked = []

    @once_a_state
    def double(state, number, by=2):
        asked.append(number)
        if number < 0:
            raise InputError("no")
        return state.block.cylinders * 0 + number * by

    state = state_of("2047")
    assert (double(state, 2), double(state, 2), double(state, 2, by=3), double(state, 3)) == (4, 4, 6, 6)
    assert asked == [2, 2, 3]
    assert double(but(state), 2) == 4 and asked == [2, 2, 3, 2], "another state is asked anew"
    for _ in range(2):
        with pytest.raises(InputError):
            double(state, -1)
    assert asked[-2:] == [-1, -1]


@pytest.mark.parametrize(
    "unit, row, named",
    [
        (Unit.DEPTH, (20.0, 400.0, 300.0), "400"),  # below the hole: the deepest
        (Unit.DEPTH, (20.0, -3.0), "-3"),
        (Unit.CYLINDER, (1, 9, 7), "is 9; the block has 1 to 5"),
        (Unit.LENGTH, (1.0, 60.0, 55.0), "60"),  # beyond what may be: the first
        (Unit.LENGTH, (1.0, 2.0), ""),
    ],
)
def test_of_a_row_the_figure_that_cannot_be_is_named(unit, row, named, state_of):
    told = Told("row", unit, least=0.0, most=50.0 if unit is Unit.LENGTH else 1e9, why="no such place")
    said = kinds._outside(told, row, state_of("2041").block)
    assert said.startswith(named) if named else said == ""


def test_figures_that_were_written_whole_come_back_as_figures():
    bored = entry_from_plain({"kind": "hole_bored", "cylinder": 1, "sizes_mm": [92, 92.5], "set_mm": 92})
    assert bored.sizes_mm == (92.0, 92.5) and [type(v) for v in (*bored.sizes_mm, bored.set_mm)] == [float] * 3
    warm = entry_from_plain({"kind": "block_temperature", "block_c": 20})
    assert type(warm.block_c) is float
