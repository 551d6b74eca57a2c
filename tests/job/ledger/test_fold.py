"""The ledger remembers; the fold forgets nothing that counts."""

from dataclasses import replace

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from redline_bore.core.block import BlockSpec, Layout
from redline_bore.core.errors import InputError
from redline_bore.core.lengths import Units
from redline_bore.job.kinds.book_in import BookInRevised, JobOpened
from redline_bore.job.kinds.call import ClearanceStated, PistonMeasured
from redline_bore.job.kinds.codec import record_from_plain, record_to_plain
from redline_bore.job.kinds.entry import Record
from redline_bore.job.kinds.fold import fold, fold_on, last_struck, last_undoable
from redline_bore.job.kinds.gauge import ReadingBooked
from redline_bore.job.kinds.hone import CheckLogged, HoneStepBegan
from redline_bore.job.kinds.kind import KINDS
from redline_bore.job.kinds.strikes import EntryRestored, EntryStruck
from redline_bore.job.state.booking import BookIn
from redline_bore.store.shop import shipped_figures

OPENING = JobOpened(
    number="1",
    units=Units.METRIC,
    book_in=BookIn(
        owner="o", engine="e", block=BlockSpec(Layout.INLINE, 2, 92.0, 90.0, 150.0), oversizes_mm=(0.25, 0.5)
    ),
)


def ledger(*entries, block_c=None):
    return tuple(
        Record(i, f"2026-01-01T10:{i:02d}:00.000+00:00", "RM", entry, block_c=block_c)
        for i, entry in enumerate((OPENING, *entries), start=1)
    )


def reading(size=92.1, cylinder=1, clock=0.0):
    return ReadingBooked(cylinder=cylinder, depth_mm=20.0, clock_deg=clock, diameter_mm=size, plate_on=False)


def test_a_reading_is_taken_to_20_degrees_with_the_blocks_own_warmth(shipped):
    cold, warm = fold(ledger(reading()), shipped), fold(ledger(reading(), block_c=30.0), shipped)
    assert cold.gauging.readings[0].size_mm == 92.1
    assert warm.gauging.readings[0].size_mm == pytest.approx(92.1 / (1 + 110e-6))
    assert warm.gauging.readings[0].raw_mm == 92.1


def test_striking_leaves_the_entry_in_the_ledger_and_out_of_the_state(shipped):
    book = ledger(reading(92.1), reading(92.2), EntryStruck(seq=2))
    state = fold(book, shipped)
    assert [r.size_mm for r in state.gauging.readings] == [92.2] and len(book) == 4
    assert state.struck == {2}


def test_restoring_brings_the_very_entry_back(shipped):
    before = fold(ledger(reading(92.1), reading(92.2)), shipped)
    after = fold(ledger(reading(92.1), reading(92.2), EntryStruck(seq=2), EntryRestored(seq=2)), shipped)
    assert after.gauging.readings == before.gauging.readings


def test_undo_walks_back_and_redo_walks_forward():
    book = ledger(reading(), reading(), EntryStruck(seq=3), EntryStruck(seq=2))
    assert last_undoable(book) is None  # never the opening of the job
    assert last_struck(book) == 2
    book = ledger(reading(), reading(), EntryStruck(seq=3), EntryStruck(seq=2), EntryRestored(seq=2))
    assert last_struck(book) == 3
    assert last_struck(ledger(reading(), EntryStruck(seq=2), reading())) is None  # something was booked since


def test_a_ledger_must_begin_with_its_opening(shipped):
    with pytest.raises(InputError, match="opening"):
        fold(ledger(reading())[1:], shipped)


def test_the_job_keeps_the_figures_it_was_opened_with(shipped):
    kept = shipped.plain() | {"cleanup.skin": 0.02}
    state = fold((replace(ledger()[0], entry=replace(OPENING, figures=kept)),), shipped)
    assert state.figures.number("cleanup.skin") == 0.02
    assert shipped.number("cleanup.skin") == 0.013


def test_a_material_corrected_later_corrects_every_reading(shipped):
    aluminium = replace(OPENING.book_in, block=replace(OPENING.book_in.block, material="aluminium_hypo"))
    state = fold(ledger(reading(), BookInRevised(book_in=aluminium), reading(), block_c=30.0), shipped)
    assert state.gauging.readings[0].size_mm == state.gauging.readings[1].size_mm == pytest.approx(92.1 / (1 + 215e-6))


def test_folding_on_is_folding_from_the_start(ledger_of, shipped):
    for number in ("2029", "2041", "2036", "2047"):
        book = ledger_of(number)
        for cut in (1, len(book) // 3, len(book) - 1):
            assert fold_on(fold(book[:cut], shipped), book, shipped) == fold(book, shipped)


def test_checks_belong_to_the_step_their_cylinder_is_in(shipped):
    check = CheckLogged(cylinder=1, strokes=10.0, sizes_mm=(92.2,))
    state = fold(ledger(check, HoneStepBegan(cylinder=1, step=1), check), shipped)
    assert [c.step for c in state.honing.checks] == [0, 1]


def test_the_newest_piston_and_clearance_count(shipped):
    state = fold(
        ledger(
            PistonMeasured(cylinder=1, size_mm=92.4, piston_c=30.0),
            PistonMeasured(cylinder=1, size_mm=92.41),
            ClearanceStated(source="manual", low_mm=0.03, high_mm=0.05),
            ClearanceStated(source="manual", low_mm=0.04, high_mm=0.06),
        ),
        shipped,
    )
    assert state.calling.piston(1).size_mm == 92.41 and state.calling.piston(2) is None
    assert [(w.low_mm, w.high_mm) for w in state.calling.windows] == [(0.04, 0.06)]


def test_every_kind_of_entry_survives_the_logbook(ledger_of):
    for number in ("2029", "2041", "2036", "2047"):
        for record in ledger_of(number):
            assert record_from_plain(record_to_plain(record)) == record


def test_an_unknown_kind_is_told_not_skipped():
    plain = record_to_plain(ledger()[0])
    plain["entry"]["kind"] = "block_painted"
    with pytest.raises(InputError, match="block_painted"):
        record_from_plain(plain)
    assert len(KINDS) == 77


strikes = st.lists(st.tuples(st.sampled_from(["read", "strike", "restore"]), st.integers(2, 9)), max_size=12)


@given(strikes)
def test_any_history_folds_the_same_as_its_surviving_readings(shipped_acts):
    book = list(ledger())
    for act, seq in shipped_acts:
        entry = {
            "read": reading(92.0 + len(book) / 1000),
            "strike": EntryStruck(seq=seq),
            "restore": EntryRestored(seq=seq),
        }[act]
        book.append(Record(len(book) + 1, "2026-01-01T10:00:00.000+00:00", "RM", entry))
    state = fold(book, shipped_figures())
    assert fold_on(fold(book[: len(book) // 2 + 1], shipped_figures()), book, shipped_figures()) == state
    kept = [r.entry.diameter_mm for r in book if isinstance(r.entry, ReadingBooked) and r.seq not in state.struck]
    assert [r.raw_mm for r in state.gauging.readings] == kept


booked = st.builds(
    ReadingBooked,
    cylinder=st.integers(1, 2),
    depth_mm=st.sampled_from([20.0, 60.0]),
    clock_deg=st.sampled_from([0.0, 45.0, 180.0]),
    diameter_mm=st.floats(92.0, 92.3),
    plate_on=st.booleans(),
    gauge=st.sampled_from(["two-point", "three-point"]),
)
acts = st.one_of(booked, booked, st.builds(EntryStruck, seq=st.integers(2, 9)), st.builds(EntryRestored, seq=st.integers(2, 9)), st.just(HoneStepBegan(cylinder=1, step=1)))  # fmt: skip


def grown(readings):
    return {key: (tuple(rows), rows.levels) for key, rows in readings.by.items()}, readings.spans


@given(st.lists(st.tuples(acts, st.sampled_from([None, 20.0, 34.0])), max_size=25))
@settings(suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_readings_folded_at_once_are_readings_folded_one_by_one(monkeypatch, history):
    monkeypatch.setattr("redline_bore.job.kinds.fold.MARK_EVERY", 4)
    book, shipped = list(ledger()), shipped_figures()
    for entry, block_c in history:
        at = f"2026-01-01T10:{len(book):02d}:00.000+00:00"
        book.append(Record(len(book) + 1, at, "RM", entry, "simulated gauge" if block_c else "", block_c))
    marks = []
    at_once = fold(book, shipped, marks)
    singly = fold(book[:1], shipped)
    for count in range(2, len(book) + 1):
        singly = fold_on(singly, book[:count], shipped)
    assert at_once == singly
    assert grown(at_once.gauging.readings) == grown(singly.gauging.readings)
    assert grown(at_once.gauging.three_points) == grown(singly.gauging.three_points)
    for mark in marks:
        count = [r for r in book[: mark.last_seq] if r.seq not in at_once.struck]
        up_to = [r for r in count if not isinstance(r.entry, (EntryStruck, EntryRestored))]
        assert grown(mark.gauging.readings) == grown(fold(up_to, shipped).gauging.readings)
    assert all(b.last_seq - a.last_seq <= 9 + len(at_once.struck) for a, b in zip(marks, marks[1:], strict=False))
