"""What is booked when a call is taken is what the card says: never a cut where it says to leave it."""

import pytest

from redline_bore.core.errors import InputError
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.desk.calls import call_at, light_call
from redline_bore.job.book_in.draft import book_in_from_draft, empty_draft
from redline_bore.job.call.finding import CallVerdict, judge
from redline_bore.job.call.option import MAY, SURE, OptionKind
from redline_bore.job.call.options import options_of
from redline_bore.job.kinds.book_in import JobOpened
from redline_bore.job.kinds.call import ClearanceStated, PistonMeasured
from redline_bore.job.kinds.entry import Record
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.gauge import ReadingBooked
from redline_bore.job.profiles.practice import shop_practices

SHOW = Show(Units.METRIC)


@pytest.fixture
def stands(shipped):
    """A block of two of 100 mm, as it stands after some entries."""
    draft = {
        "number": "1", "owner": "Tarn mill", "engine": "twin", "layout": "inline", "cylinders": "2", "bore_mm": "100", "stroke_mm": "90",
        "length_mm": "150",
    }  # fmt: skip
    book_in = book_in_from_draft(empty_draft(Units.METRIC, shipped) | draft)
    opened = JobOpened(
        number="1", units=Units.METRIC, book_in=book_in, figures=shipped.plain(), practices=shop_practices(shipped)
    )

    def stands(*entries):
        records = [
            Record(i, f"2026-11-29T10:00:{i % 60:02d}.000+00:00", "RM", e) for i, e in enumerate((opened, *entries), 1)
        ]
        return fold(records, shipped)

    return stands


def worn(state, by_mm):
    plan = state.gauging.plan
    return [
        ReadingBooked(
            cylinder=c, depth_mm=d, clock_deg=a, diameter_mm=100.0 + (by_mm if 10 < d < 120 else 0.0), plate_on=False
        )
        for c in state.cylinders
        for d in plan.depths_mm
        for a in plan.clocks_deg
    ]


def pistons(size_mm):
    return [PistonMeasured(cylinder=c, size_mm=size_mm, piston_c=20.0) for c in (1, 2)]


WINDOW = ClearanceStated(source="piston sheet", low_mm=0.040, high_mm=0.090)


@pytest.mark.parametrize("rung", [0.25, 0.5, 3.0])
def test_where_nothing_asks_for_boring_the_call_bores_nothing(stands, rung):
    state = stands(*worn(stands(), 0.02), *pistons(99.950), WINDOW)
    assert judge(state, rung).verdict is CallVerdict.LEAVE
    taken = call_at(state, 1, rung, (), SHOW)
    assert (taken.way, taken.oversize_mm, taken.apart) == ("rering", 0.0, ())
    assert "pistons there are" in taken.sentence and {b.verdict for b in taken.based_on} == {str(SURE)}
    assert not stands(*worn(stands(), 0.02), *pistons(99.950), WINDOW, taken).calling.decision.bores


def test_where_a_piston_is_still_to_be_measured_a_cut_is_still_a_cut(stands):
    state = stands(*worn(stands(), 0.02))
    assert judge(state, 0.5).verdict is CallVerdict.LEAVE_ONCE_MEASURED
    taken = call_at(state, 1, 0.5, (), SHOW)
    assert (taken.way, taken.oversize_mm) == ("bore", 0.5) and "First measure piston 1" in taken.sentence


def test_a_worn_block_is_bored_and_the_figures_are_of_the_cylinder_that_is_looked_at(stands):
    state = stands(*worn(stands(), 0.20))
    taken = call_at(state, 2, 0.5, (), SHOW)
    assert (taken.way, taken.oversize_mm) == ("bore", 0.5) and len(taken.based_on) == 2
    assert any(f.startswith("2 at +0.50: ") for f in taken.figures)


def test_what_cannot_be_taken_is_refused_with_the_reason(stands):
    with pytest.raises(InputError, match="No call can be taken at .*will not clean up"):
        call_at(stands(*worn(stands(), 0.60)), 1, 0.25, (), SHOW)
    with pytest.raises(InputError, match="Not gauged yet"):
        call_at(stands(), 1, 0.25, (), SHOW)


@pytest.mark.parametrize("kind", list(OptionKind))
def test_only_what_cuts_nothing_and_may_do_is_taken_light(stands, kind):
    state = stands(*worn(stands(), 0.02), *pistons(99.950), WINDOW)
    for option in (o for o in options_of(state) if o.kind is kind):
        if option.kind in (OptionKind.DEGLAZE, OptionKind.RERING, OptionKind.LEAVE) and option.standing in (SURE, MAY):
            taken = light_call(state, option, SHOW)
            assert taken.way == option.key and taken.oversize_mm == 0.0
        else:
            with pytest.raises(InputError):
                light_call(state, option, SHOW)
