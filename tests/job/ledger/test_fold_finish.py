"""Entries of the finish and the sign-off, folded: the newest counts, struck ones do not, a job is closed as its ledger says."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from redline_bore.core.block import BlockSpec, Layout
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.core.texture.packed import packed
from redline_bore.job.kinds.book_in import FamilyOffered, JobOpened
from redline_bore.job.kinds.codec import record_from_plain, record_to_plain
from redline_bore.job.kinds.finish import FinishWindowStated, HatchSeen, TraceBooked
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.folding import SLICES
from redline_bore.job.kinds.kind import entry_words
from redline_bore.job.kinds.sign_off import CareTaken, FinalGauged, JobReopened, PointAccepted, RingsGapped, StepStamped
from redline_bore.job.kinds.strikes import EntryRestored, EntryStruck
from redline_bore.job.state.booking import BookIn, Lesson
from redline_bore.store.shop import shipped_figures
from tests.job.benches import after, longer

MM = Show(Units.METRIC)
FINISH = (
    TraceBooked(cylinder=1, step_um=0.5, heights=packed([0.1] * 9601), depth_mm=20.0, plateau_strokes=0.0),
    FinishWindowStated(parameter="Rk", low_um=0.6, high_um=0.9),
    HatchSeen(cylinder=1, up_deg=17.0, down_deg=16.0, u_deg=1.0, confidence=0.8),
    FinalGauged(cylinder=1, sizes_mm=(105.75, 105.751), across_mm=(105.752, 105.75), plate_on=True),
    RingsGapped(cylinder=1, top_mm=0.42, second_mm=0.46),
    CareTaken(what="washed"),
    PointAccepted(point="Not dried and oiled.", reason="the owner does"),
    JobReopened(reason="a ring"),
    FamilyOffered(lessons=(Lesson("removal rate", "vitrified 150", 0.002, 0.0001, 3, ("1", "2")),)),
)


@pytest.mark.parametrize("entry", FINISH, ids=lambda x: x.kind)
def test_every_entry_survives_the_logbook_and_can_be_told(entry, ledger_of):
    record = longer(ledger_of("2041"), entry)[-1]
    assert record_from_plain(record_to_plain(record)) == record
    assert len(entry_words(entry, MM)) > 5 and "_" not in entry_words(entry, MM)


@pytest.mark.parametrize("entry", FINISH, ids=lambda x: x.kind)
def test_a_struck_entry_leaves_no_trace_in_the_state(entry, ledger_of, shipped):
    book = ledger_of("2041")
    plain, struck = fold(book, shipped), after(longer(book, entry), shipped, EntryStruck(seq=len(book) + 1))
    for name in SLICES:
        assert getattr(plain, name) == getattr(struck, name), name
    again = after(longer(book, entry), shipped, EntryStruck(seq=len(book) + 1), EntryRestored(seq=len(book) + 1))
    assert any(getattr(again, name) != getattr(plain, name) for name in SLICES)


def test_the_newest_window_and_gaps_count(ledger_of, shipped):
    state = after(
        ledger_of("2041"), shipped, FinishWindowStated(parameter="Rk", low_um=0.1, high_um=0.2), FINISH[1],
        RingsGapped(cylinder=1, top_mm=0.1), FINISH[4], RingsGapped(cylinder=2, top_mm=0.3),
    )  # fmt: skip
    assert [(w.low_um, w.high_um) for w in state.finishing.windows] == [(0.6, 0.9)]
    assert (
        state.signing.rings_of(1).top_mm == 0.42
        and state.signing.rings_of(2).second_mm is None
        and state.signing.rings_of(3) is None
    )


def test_a_final_size_is_taken_back_to_20(ledger_of, shipped):
    warm = after(ledger_of("2041"), shipped, FINISH[3], block_c=30.0)
    final = warm.final_of(1, True)
    assert final.sizes_mm[0] == pytest.approx(105.75 / (1 + 10 * warm.coefficient_1e6 * 1e-6), abs=1e-6)
    assert final.taper_mm == pytest.approx(-0.001, abs=1e-5) and final.out_of_round_mm == pytest.approx(0.002, abs=1e-5)
    assert final.largest_mm == max(final.all_mm) and warm.final_of(1, False) is None
    single = after(
        ledger_of("2041"), shipped, FinalGauged(cylinder=1, sizes_mm=(105.7,), plate_on=False)
    ).signing.finals[0]
    assert single.taper_mm is None and single.out_of_round_mm is None


@given(st.lists(st.booleans(), max_size=8))
def test_a_job_is_closed_when_its_last_word_is_a_stamp(acts):
    block = BlockSpec(Layout.SINGLE, 1, 92.0, 76.0, 140.0)
    book = BookIn(owner="Tarn mill", engine="single", block=block)
    opening = JobOpened(number="9", units=Units.METRIC, book_in=book, figures=shipped_figures().plain())
    entries = [StepStamped(step="sign_off", initials="RM") if a else JobReopened(reason="x") for a in acts]
    state = fold(longer((), opening, *entries), shipped_figures())
    assert state.signing.closed == (bool(acts) and acts[-1])
