"""A plateau by seconds is seconds: typed, booked, told; and the steps of a practice stay once checks are booked."""

import pytest

from redline_bore.core.errors import InputError
from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.calls import hone_call
from redline_bore.job.hone.finding import HoneCall
from redline_bore.job.hone.steps import light_strokes, seconds_a_stroke
from redline_bore.job.kinds.book_in import PracticeChosen
from redline_bore.job.kinds.call import DecisionTaken, PistonMeasured
from redline_bore.job.kinds.hone import CheckLogged, HoneSet, HoneStepBegan
from redline_bore.job.kinds.phrase import Where
from redline_bore.job.words import hone as words
from tests.job.benches import after, longer, one_typed

MM = Show(Units.METRIC)
SIZES = (92.30, 92.30, 92.30)


def bare(book):
    """A ledger up to where its hone work begins."""
    first = next(
        (i for i, r in enumerate(book) if isinstance(r.entry, (CheckLogged, HoneStepBegan, HoneSet))), len(book)
    )
    return book[:first]


@pytest.fixture
def timed(ledger_of):
    """2029 without its hone work: two steps by time, and a hone that strokes 60 a minute."""
    book = bare(ledger_of("2029"))
    return longer(
        book, PracticeChosen(topic="honing", name="two steps by time"), DecisionTaken(oversize_mm=0.25, sentence="x"),
        PistonMeasured(cylinder=1, size_mm=92.25, piston_c=20.0),
        HoneSet(machine="vertical", rpm=170.0, strokes_per_min=40.0, over_top_mm=10.0, over_bottom_mm=10.0),
    )  # fmt: skip


@pytest.fixture
def plateau(timed):
    first = CheckLogged(cylinder=1, strokes=0.0, sizes_mm=SIZES, across_mm=SIZES)
    return longer(timed, first, HoneStepBegan(cylinder=1, step=1))


def typed(state, text):
    return one_typed("hone", text, state, Where(1, Place(0, 0), Units.METRIC))


@pytest.mark.parametrize(
    "text",
    [
        "7.5 s 92.302 92.302 92.302",
        "7.5s 92.302 92.302 92.302",
        "7,5 sec 92.302 92.302 92.302",
        "7.5 92.302 92.302 92.302",
    ],
)
def test_seconds_are_booked_as_seconds_and_count_the_strokes_they_are(plateau, shipped, text):
    entry = typed(after(plateau, shipped), text)
    assert entry.seconds == 7.5 and entry.strokes == pytest.approx(5.0) and len(entry.sizes_mm) == 3
    across = typed(after(plateau, shipped), f"{text} across 92.301 92.301 92.301")
    assert across.across_mm == (92.301,) * 3


@pytest.mark.parametrize(
    "text, why",
    [("7.5 s", "sizes from the top down"), ("4000 s 92.302", "3600 at most"), ("-3 s 92.3", "-3 double strokes")],
)
def test_what_is_no_time_is_refused(plateau, shipped, text, why):
    with pytest.raises(InputError, match=why):
        typed(after(plateau, shipped), text)


def test_seconds_without_a_hone_that_strokes_are_not_guessed(ledger_of, shipped):
    book = bare(ledger_of("2029"))
    with pytest.raises(InputError, match="how many strokes a minute"):
        typed(after(book, shipped), "7.5 s 92.302")


def test_the_coarse_step_counts_strokes(timed, shipped):
    entry = typed(after(timed, shipped), "12 92.302 92.302")
    assert entry.seconds is None and entry.strokes == 12.0 and seconds_a_stroke(after(timed, shipped), 0) is None


def test_the_plateau_is_told_in_seconds(plateau, shipped):
    state = after(plateau, shipped)
    assert light_strokes(state) == pytest.approx((4.0, 6.0 + 2.0 / 3.0)) and seconds_a_stroke(state, 1) == 1.5
    found = hone_call(state, 1)
    assert found.call in (HoneCall.PLATEAU_GO, HoneCall.PLATEAU_TRACE_FIRST)
    assert "6 to 10 s at the light load" in words.say(found, MM).sentence
    done = after(plateau, shipped, typed(state, "7.5 s 92.3005 92.3005 92.3005 across 92.3005 92.3005 92.3005"))
    assert hone_call(done, 1).call in (HoneCall.PLATEAU_DONE, HoneCall.AT_SIZE, HoneCall.AT_REDLINE)


def test_own_steps_stay_once_checks_are_booked(plateau, timed, shipped):
    assert typed(after(timed, shipped), "steps rough 0.05 vitrified 150, plateau 0 brush 600").short_mm == (0.05, 0.0)
    with pytest.raises(InputError, match="kept once checks are booked"):
        typed(after(plateau, shipped), "steps rough 0.05 vitrified 150, plateau 0 brush 600")
