"""What is typed at the bench becomes the entry that was meant, or a sentence."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from redline_bore.core.errors import BenchError, InputError
from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.desk.would import booked_words, would_book
from redline_bore.job.kinds.call import ClearanceStated, PistonMeasured
from redline_bore.job.kinds.defects import DefectMarked, WallRead
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.gauge import BlockTemperature, ReadingBooked, RingGapRead, RingStopRead, size_from_typed
from redline_bore.job.kinds.hone import CheckLogged, check_example
from redline_bore.job.kinds.measures import temperature
from redline_bore.job.kinds.phrase import At, Where
from redline_bore.job.proposals import StepProposals, entries_from_typed
from redline_bore.store.shop import shipped_figures
from tests.job.benches import after, but, one_typed
from tests.job.ledger.test_fold import ledger

HERE = Where(2, Place(1, 3), Units.METRIC)


@pytest.fixture
def state(state_of):
    return state_of("2041")


@pytest.mark.parametrize(
    "text, size",
    [("105.214", 105.214), ("+0.214", 105.214), ("+21", 105.21), ("-0.004", 104.996), ("4.1423in", 105.21442)],
)
def test_a_reading_may_be_a_size_a_distance_or_an_oversize(state, text, size):
    entry = one_typed("gauge", text, state, HERE)
    assert isinstance(entry, ReadingBooked) and (entry.cylinder, entry.depth_mm, entry.clock_deg) == (2, 21.0, 90.0)
    assert entry.diameter_mm == pytest.approx(size, abs=6e-4)  # the master was zeroed at 20.4 C


def test_distances_count_from_the_master_as_warm_as_it_was(state):
    master = 105.0 * (1 + 11.5e-6 * 0.4)
    assert size_from_typed("+0.1", state, HERE) == pytest.approx(master + 0.1, abs=1e-9)


@pytest.mark.parametrize(
    "step, text, kind",
    [
        ("gauge", "22.9 C", BlockTemperature),
        ("hone", "73F", BlockTemperature),
        ("gauge", "gap 0.56 at 14", RingGapRead),
        ("gauge", "wall 4.6 at 60 clock 90", WallRead),
        ("gauge", "rust 0.18 at 60 to 75 clock 250 wide 60", DefectMarked),
        ("gauge", "score catches at 30 to 90 clock 90", DefectMarked),
        ("call", "105.92", PistonMeasured),
        ("call", "piston 105.92 21 C", PistonMeasured),
        ("gauge", "block 22.9 C", BlockTemperature),
        ("call", "block is 73 F", BlockTemperature),
        ("call", "stop 16", RingStopRead),
        ("bore", "stop 16", RingStopRead),
        ("call", "sheet 0.065 0.085", ClearanceStated),
        ("hone", "42 105.612 105.610", CheckLogged),
    ],
)
def test_words_of_the_bench(state, step, text, kind):
    assert isinstance(one_typed(step, text, state, HERE), kind)


def test_pistons_are_typed_all_together_cylinder_1_first(state):
    sizes = [105.91, 105.92, 105.93, 105.94, 105.95]
    line = " ".join(f"{s:g}" for s in sizes)
    booked = entries_from_typed("call", f"pistons {line} 21 C", state, HERE)
    assert [(x.cylinder, x.size_mm, x.piston_c) for x in booked] == [(c, s, 21.0) for c, s in enumerate(sizes, 1)]
    assert [x.piston_c for x in entries_from_typed("call", f"pistons {line}", state, HERE)] == [None] * 5
    for wrong, count in ((line.rpartition(" ")[0], 4), (f"{line} 105.9", 6), ("", 0)):
        with pytest.raises(InputError, match=rf"(5 sizes, cylinder 1 first; not {count}|Pistons)"):
            entries_from_typed("call", f"pistons {wrong}", state, HERE)
    with pytest.raises(InputError, match="cannot be mm"):
        entries_from_typed("call", f"pistons {line.replace('105.93', '4.17')}", state, HERE)


@pytest.mark.parametrize("text", ["block 22", "block", "block warm"])
def test_a_temperature_without_its_unit_is_asked_for_it(state, text):
    with pytest.raises(InputError, match="with its unit"):
        entries_from_typed("hone", text, state, HERE)


def test_a_word_that_fits_is_not_said_to_be_another(state):
    with pytest.raises(InputError) as told:
        entries_from_typed("call", "piston 3.62", state, HERE)
    assert "was meant" not in str(told.value).replace("if in were meant", "")


@pytest.mark.parametrize(
    ("line", "field", "mm"), [("room 20", "room_below_mm", 20.0), ("pack 11.5", "ring_pack_mm", 11.5)]
)
@pytest.mark.parametrize("step", ["book_in", "bore", "hone"])
def test_a_figure_of_the_block_is_typed_wherever_it_is_asked_for(state, step, line, field, mm):
    entry = one_typed(step, line, state, HERE)
    assert getattr(entry.book_in.block, field) == mm
    assert replace(entry.book_in.block, **{field: getattr(state.block, field)}) == state.block


@pytest.mark.parametrize(
    ("line", "reason"),
    [
        ("pack 400", "does not lie"),
        ("room wide", "write it like: room 20"),
        ("room", "Nothing is typed|is not a length|length"),
    ],
)
def test_a_figure_of_the_block_that_cannot_be_is_refused(state, line, reason):
    with pytest.raises(InputError, match=reason):
        one_typed("bore", line, state, HERE)


def test_figures_in_the_words(state):
    defect = one_typed("gauge", "score catches at 90 to 30 clock 90", state, HERE)
    assert (defect.top_mm, defect.bottom_mm, defect.deep_low_mm, defect.deep_high_mm) == (30.0, 90.0, 0.013, 0.050)
    assert one_typed("call", "105.92 70F", state, HERE).piston_c == pytest.approx(21.1, abs=0.02)
    assert one_typed("gauge", "wall 4.6 at 60 clock 180", state, HERE).zone == "elsewhere"
    assert temperature("105.2") is None


@pytest.mark.parametrize(
    "step, text, reason",
    [
        ("gauge", "", "Nothing is typed"),
        ("gauge", "4.1423", "write 4.1423in"),
        ("gauge", "1052.14", "too far"),
        ("gauge", "gap 0.5 at 900", "not in a cylinder"),
        ("gauge", "rust 90 at 60 to 75 clock 250", "check the unit"),
        ("gauge", "rust 0.1 at 60 to 75 clock 400", "clock"),
        ("gauge", "250 C", "no temperature"),
        ("call", "sheet 0.085 0.065", "low end first"),
        ("call", "sheet 6 8", "check the unit"),
        ("call", "92.00 and a bit", "not a"),
        ("hone", "105.612", "double strokes"),
        ("hone", "many 105.6", "no count"),
        ("hone", "-4 105.6", "Strokes come first"),
        ("hone", "12 4.16", "write 4.16in"),
        ("sign_off", "105.6", "it begins with final, rings"),
        ("book_in", "105.6", "it begins with length, numbered, room, pack, owner"),
    ],
)
def test_refusals_say_what_was_meant(state, step, text, reason):
    with pytest.raises(InputError, match=reason):
        one_typed(step, text, state, HERE)


def test_strokes_do_not_run_backwards(state_of):
    state = state_of("2036")
    with pytest.raises(InputError, match="less than"):
        one_typed("hone", "3 3.2702", state, Where(1, Place(0, 0), Units.INCH))


@given(st.sampled_from(["gauge", "call", "hone", "book_in"]), st.text(max_size=30))
def test_any_typing_is_an_entry_or_a_sentence(step, text):
    try:
        one_typed(step, text, _state(), HERE)
    except BenchError as error:
        assert str(error)  # noqa: PT017  (either way is right; a sentence is what is asked of one)


_kept = []


def _state():
    if not _kept:
        _kept.append(fold(ledger(), shipped_figures()))
    return _kept[0]


@pytest.mark.parametrize(
    "text, number, low_um, high_um",
    [
        ("window Ra 6 25", "2044", 6 * 0.0254, 25 * 0.0254),
        ("window Ra 6 25 uin", "2044", 6 * 0.0254, 25 * 0.0254),
        ("window Ra 0.2 0.6 um", "2044", 0.2, 0.6),
        ("window Rvk 1.2 2.0", "2041", 1.2, 2.0),
        ("window Rvk 47 79 uin", "2041", 47 * 0.0254, 79 * 0.0254),
    ],
)
def test_a_finish_window_is_in_the_units_of_the_job_where_nothing_is_said(state_of, text, number, low_um, high_um):
    state = state_of(number)
    window = one_typed("finish", text, state, Where(1, Place(0, 0), state.units))
    assert (window.low_um, window.high_um) == (pytest.approx(low_um), pytest.approx(high_um))


@pytest.mark.parametrize("warm", [None, 34.0])
def test_the_example_of_a_check_is_written_as_the_gauge_reads_it_on_the_warm_block(state_of, warm):
    state = but(state_of("2036"), clamped={"block_c": warm})
    at = At(state, Where(1, Place(0, 0), Units.METRIC), StepProposals())
    last = state.honing.checks_of(1, state.honing.step_of(1))[-1].sizes_mm[0]
    grown = 1.0 if warm is None else 1.0 + state.coefficient_1e6 * 1e-6 * (warm - 20.0)
    assert float(check_example(at).split()[1]) == pytest.approx(last * grown, abs=6e-4)
    assert state.as_read(100.0) == pytest.approx(100.0 * grown)


@pytest.mark.parametrize(
    ("step", "line", "told"),
    [
        ("bore", "room  20", "Enter books: room 20"),
        ("call", "piston 105.92", "Enter books: piston 2: 105.920"),
        ("call", "pistons 105.92 105.92 105.92 105.92 105.92", "Enter books: piston 1: 105.920; piston 2: 105.920; piston 3: 105.920; piston 4: 105.920; piston 5: 105.920"),
    ],
)  # fmt: skip
def test_what_a_line_would_book_is_said_as_it_is_booked(state, step, line, told):
    assert would_book(step, line, state, HERE).words == told


def test_more_than_the_line_has_room_for_is_counted(state):
    words = booked_words([PistonMeasured(cylinder=c, size_mm=105.9) for c in range(1, 9)], "", Show(Units.METRIC))
    assert words == "piston 1: 105.900; and 7 more"


def test_a_pressure_test_of_the_wrong_cylinder_says_where_the_crack_is(ledger_of, shipped):
    marked = after(
        ledger_of("2041"),
        shipped,
        *entries_from_typed(
            "gauge", "crack at 20 to 30 clock 90", fold(ledger_of("2041"), shipped), replace(HERE, cylinder=4)
        ),
    )
    with pytest.raises(InputError, match="cylinder 1; one is in 4: go to that cylinder first"):
        entries_from_typed("call", "tested leaks", marked, replace(HERE, cylinder=1))
    assert entries_from_typed("call", "tested leaks", marked, replace(HERE, cylinder=4))


@pytest.mark.parametrize(
    ("line", "odd"), [("parent 108.2 108.3 across 108.2", "across"), ("gap wide at 14", "wide"), ("stop low", "low")]
)
def test_a_word_where_a_figure_stands_brings_the_example_of_its_line(state, line, odd):
    step = "sleeve" if line.startswith("parent") else "gauge"
    with pytest.raises(InputError, match=f"“{odd}” has no place there; write it like: {line.split()[0]} "):
        entries_from_typed(step, line, state, HERE)
