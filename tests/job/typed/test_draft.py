import pytest

from redline_bore.core.errors import FaultyInput
from redline_bore.core.lengths import Units
from redline_bore.job.book_in.draft import (
    FIELDS,
    block_from_draft,
    book_in_from_draft,
    draft_of,
    empty_draft,
    in_other_units,
)
from redline_bore.job.book_in.family_settings import set_on


@pytest.fixture
def draft(shipped):
    return empty_draft(Units.METRIC, shipped) | {
        "number": "2050", "owner": "Tarn mill", "engine": "four", "bore_mm": "92", "stroke_mm": "90", "length_mm": "150",
    }  # fmt: skip


@pytest.mark.parametrize("layout, cylinders", [("single", "1"), ("inline", "6"), ("vee", "8"), ("flat", "4")])
def test_every_layout_can_be_booked(draft, layout, cylinders):
    book = book_in_from_draft(draft | {"layout": layout, "cylinders": cylinders})
    assert book.block.layout == layout and book.block.cylinders == int(cylinders)
    assert book.oversizes_mm == (0.25, 0.5, 0.75, 1.0, 1.5)


def test_inch_jobs_read_inches(draft, shipped):
    inch = draft | {
        "units": "inch",
        "bore_mm": "3 7/8",
        "stroke_mm": "3.2",
        "length_mm": "6",
        "oversizes": "0.020 30thou",
    }
    book = book_in_from_draft(inch)
    assert book.block.bore_mm == pytest.approx(98.425) and book.oversizes_mm == pytest.approx((0.508, 0.762))


def test_every_fault_is_told_under_its_field(draft):
    bad = draft | {
        "owner": " ",
        "number": " ",
        "bore_mm": "ninety",
        "stroke_mm": "",
        "cylinders": "x",
        "oversizes": "9 q",
    }
    with pytest.raises(FaultyInput) as caught:
        book_in_from_draft(bad)
    assert {f.path for f in caught.value.faults} >= {"bore_mm", "stroke_mm", "cylinders", "oversizes"}


def test_a_wild_oversize_is_asked_about(draft):
    with pytest.raises(FaultyInput, match="tenth of the bore"):
        book_in_from_draft(draft | {"oversizes": "25"})


def test_half_a_card_is_no_block_yet(shipped):
    spec, faults = block_from_draft(empty_draft(Units.METRIC, shipped))
    assert spec is None and {f.path for f in faults} == {"bore_mm", "stroke_mm"}


@pytest.mark.parametrize("number", ["2041", "2036", "2047"])
def test_a_job_goes_into_the_card_and_out_again_unchanged(state_of, number):
    state = state_of(number)
    draft = draft_of(set_on(state))
    assert set(draft) == {f.name for f in FIELDS}
    again = book_in_from_draft(draft)
    assert again.block.bore_mm == pytest.approx(state.block.bore_mm, abs=1e-9)
    assert again.oversizes_mm == pytest.approx(state.book_in.oversizes_mm, abs=2e-3)


def test_a_choice_that_does_not_exist_is_told_under_its_name(shipped):
    draft = empty_draft(Units.METRIC, shipped) | {"units": "furlongs", "wall": "cheese", "cylinders": "9" * 5000}
    spec, faults = block_from_draft(draft)
    assert spec is None
    assert {f.path for f in faults} == {"units", "wall"}
    with pytest.raises(FaultyInput) as told:
        book_in_from_draft(draft)
    assert {f.path for f in told.value.faults} >= {"units", "wall", "number"}


def test_a_count_of_thousands_of_digits_is_no_count(shipped):
    _, faults = block_from_draft(empty_draft(Units.METRIC, shipped) | {"cylinders": "9" * 5000})
    assert any(f.path == "cylinders" and len(f.reason) < 80 for f in faults)


def test_a_length_that_nobody_measured_is_marked_and_never_stands_for_one_that_was(draft, shipped):
    book = book_in_from_draft(draft | {"length_mm": ""})
    assert book.proposed == ("length_mm",) and book.length_wanted and book.block.length_mm == pytest.approx(144.0)
    assert not book_in_from_draft(draft).length_wanted
    assert (book_in_from_draft(draft | {"owner": "", "engine": ""}).owner_said, book.owner_said) == (
        "owner not said",
        "Tarn mill",
    )
    assert in_other_units(draft, Units.INCH, shipped)["oversizes"].split()[:2] == ["0.01", "0.02"]
    assert in_other_units(draft | {"oversizes": "0.4"}, Units.INCH, shipped)["oversizes"] == "0.4"
