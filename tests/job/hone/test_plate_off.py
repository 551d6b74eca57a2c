"""With the plate off nothing that is said of a hole's shape holds once the head is on: the sentence begins with it, and nothing is ticked."""

import pytest

from redline_bore.core.frozen import replace
from redline_bore.job.calls import hone_call
from redline_bore.job.card import Mark
from redline_bore.job.hone.finding import HoneCall
from redline_bore.job.kinds.book_in import PracticeChosen
from redline_bore.job.kinds.plate import PlateChanged
from redline_bore.job.words import hone
from tests.job.benches import after
from tests.job.hone.the_hone import MM, steady

# what takes metal, or leaves the hole as it stands; the rest stops, waits, or is of a deglaze, which goes by the ring's gap
OF_SHAPE = {
    "AT_SIZE", "AT_REDLINE", "READ_ENDS", "STEP_DONE", "TRUE_UP", "PLATEAU_DONE", "PLATEAU_SHORT", "PLATEAU_TRACE_FIRST", "PLATEAU_GO",
    "FIRST_BITE", "NO_METAL", "STROKES",
}  # fmt: skip


@pytest.fixture
def honed(set_up, shipped):
    """2041 at the hone with checks, the plate on or off, by a school."""
    return lambda on, school="always": after(
        set_up, shipped, PlateChanged(on=on), PracticeChosen(topic="plate", name=school), *steady()
    )


@pytest.mark.parametrize("call", HoneCall)
def test_the_sentence_begins_with_it_where_it_is_of_the_hole_and_is_never_ticked(monkeypatch, honed, call):
    told = []
    for on in (True, False):
        state = honed(on)
        found = replace(hone_call(state, 1), call=call)
        monkeypatch.setattr(hone, "hone_call", lambda _state, _cylinder, f=found: f)
        told.append(hone.advise(state, 1, MM))
    on, off = told
    assert not on.sentence.startswith("Plate off")
    if call.name in OF_SHAPE:
        assert off.sentence == f"Plate off: put it on first. {on.sentence}" and off.mark is Mark.LOOK
    elif call is HoneCall.PLATE_DIFFERS:  # which way about
        assert off.sentence.startswith("This check was without the plate")
    else:
        assert off.sentence == on.sentence and off.mark is on.mark


@pytest.mark.parametrize("changes", [True, False])
def test_where_only_weak_decks_want_one_it_is_said_where_it_could_change_the_answer(monkeypatch, honed, changes):
    from redline_bore.job.gauge import plate_wanted

    monkeypatch.setattr(plate_wanted, "plate_changes", lambda _state, _cylinder: changes)
    assert hone.advise(honed(False, "weak decks"), 1, MM).sentence.startswith("Plate off: put it on first. ") is changes
    assert hone.advise(honed(False), 1, MM).sentence.startswith("Plate off: put it on first. ")
