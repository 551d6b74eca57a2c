"""The block plan at the hone never ticks what the card beside it does not."""

import pytest

from redline_bore.job.calls import hone_call
from redline_bore.job.card import Mark
from redline_bore.job.hone.finding import HoneCall
from redline_bore.ui.frame.block_plan import _at_size


@pytest.mark.parametrize("number", ["2029", "2036", "2044"])
def test_only_what_was_read_at_both_ends_and_two_angles_is_ticked(state_of, number):
    state = state_of(number)
    for cylinder in state.cylinders:
        found = hone_call(state, cylinder)
        if found.call in (HoneCall.NO_REDLINE, HoneCall.CHECK_FIRST):
            continue
        word, mark = _at_size(state, cylinder)
        assert (mark is Mark.SOUND) == (word == "at size")
        if found.call is HoneCall.READ_ENDS:
            assert (word, mark) == ("read ends", Mark.LOOK)


@pytest.mark.parametrize(
    ("call", "word", "mark"),
    [
        (HoneCall.AT_SIZE, "at size", Mark.SOUND), (HoneCall.AT_REDLINE, "at size", Mark.SOUND), (HoneCall.CRACKED, "cracked", Mark.STOP),
        (HoneCall.WAITS_FOR_PISTON, "no piston", Mark.LOOK), (HoneCall.PLATE_DIFFERS, "wrong plate", Mark.LOOK), (HoneCall.COOL, "warm", Mark.LOOK),
    ],
)  # fmt: skip
@pytest.mark.parametrize("both_ends", [True, False])
@pytest.mark.parametrize("out", [True, False])
def test_what_the_plan_says_of_every_call_at_size(monkeypatch, call, word, mark, both_ends, out):
    class Thing:
        def __init__(self, **said):
            self.__dict__.update(said)

    monkeypatch.setattr("redline_bore.job.calls.hone_call", lambda *_a: Thing(call=call))
    monkeypatch.setattr("redline_bore.job.hone.shape.shape_at_hone", lambda *_a: Thing(out=out))
    monkeypatch.setattr(
        "redline_bore.job.hone.progress.progress_of", lambda *_a: Thing(last=Thing(both_ends=both_ends))
    )
    expected = (word, mark) if both_ends or mark is not Mark.SOUND else ("read ends", Mark.LOOK)
    assert _at_size(None, 1) == (("out of shape", Mark.STOP) if out else expected)


def test_the_sample_twin_whose_checks_were_at_one_angle_is_told_so_on_card_and_plan(state_of):
    state = state_of("2036")
    assert hone_call(state, 1).call is HoneCall.READ_ENDS and _at_size(state, 1) == ("read ends", Mark.LOOK)
