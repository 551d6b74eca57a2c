"""The route: a job shows the steps it needs, and no others."""

from redline_bore.job.kinds.bore import HoleBored
from redline_bore.job.kinds.call import DecisionTaken
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.sign_off import StepStamped
from redline_bore.job.kinds.strikes import EntryStruck
from redline_bore.job.route import first_step, next_step, sleeved_cylinders, steps_of
from redline_bore.job.state.calling import Apart
from tests.job.benches import after, longer

WITHOUT_SLEEVES = ("book_in", "gauge", "call", "bore", "hone", "finish", "sign_off")


def test_a_job_without_sleeves_has_no_sleeve_step(state_of):
    assert steps_of(state_of("2041")) == steps_of(state_of("2036")) == steps_of(None) == WITHOUT_SLEEVES


def test_a_sleeve_in_the_call_brings_the_step_and_striking_the_call_takes_it_away(ledger_of, shipped):
    apart = (Apart(cylinder=4, way="sleeve"),)
    ledger = longer(ledger_of("2041"), DecisionTaken(oversize_mm=0.5, sentence="x", apart=apart))
    state = fold(ledger, shipped)
    assert "sleeve" in steps_of(state) and sleeved_cylinders(state) == (4,)
    struck = fold(longer(ledger, EntryStruck(seq=len(ledger))), shipped)
    assert steps_of(struck) == WITHOUT_SLEEVES


def test_a_job_booked_in_for_sleeves_shows_the_step_before_the_call(ledger_of, shipped):
    opened = fold(ledger_of("2044")[:2], shipped)
    assert opened.calling.decision is None and "sleeve" in steps_of(opened) and sleeved_cylinders(opened) == (1, 2)


def test_a_job_that_is_only_deglazed_shows_no_bar(state_of, ledger_of, shipped):
    assert "bore" not in steps_of(state_of("2047"))
    called = after(ledger_of("2047"), shipped, DecisionTaken(oversize_mm=0.25, sentence="Bore."))
    assert "bore" in steps_of(called)
    light = after(ledger_of("2041"), shipped, DecisionTaken(oversize_mm=0.0, way="rering", sentence="x"))
    assert "bore" not in steps_of(light)


def test_what_was_bored_is_never_hidden(ledger_of, shipped):
    hole = HoleBored(cylinder=1, set_mm=105.6, sizes_mm=(105.61,))
    light = DecisionTaken(oversize_mm=0.0, way="leave", sentence="x")
    assert "bore" in steps_of(after(ledger_of("2041"), shipped, hole, light))


def test_the_next_step_is_the_first_without_a_stamp(state_of, ledger_of, shipped):
    state = state_of("2044")
    assert first_step(state) == "hone" and next_step(state, "bore") == next_step(state, "sleeve") == "hone"
    early = fold(
        [r for r in ledger_of("2044") if not (isinstance(r.entry, StepStamped) and r.entry.step == "sleeve")], shipped
    )
    assert next_step(early, "bore") == "sleeve"
