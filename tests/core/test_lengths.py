"""What a machinist types is what the program takes, or it says why not."""

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from redline_bore.core.lengths import LengthError, Units, format_length, parse_length, with_unit
from tests.vectors import cases, check


@pytest.mark.parametrize("case", cases("01", "parse_length"))
def test_parse_vectors(case):
    given_ = case["inputs"]
    try:
        found = parse_length(
            given_["text"], Units(given_["units"]), given_.get("nominal_mm"), given_.get("kind", "length")
        )
    except LengthError as error:
        check(case, refused=True, guess=str(error.guess) if error.guess else None)
    else:
        check(case, refused=False, value=found.mm)
        assert found.typed == given_["text"]


@pytest.mark.parametrize("case", cases("01", "display_length"))
def test_display_vectors(case):
    given_ = case["inputs"]
    exact = parse_length(given_["text"], Units(given_["typed_units"])).exact
    check(case, text=format_length(exact, Units(given_["units"]), given_["step"]))
    assert format_length(float(exact), Units(given_["units"]), given_["step"]) == case["expected"]["text"]


@pytest.mark.parametrize(
    "text, reason",
    [
        ("", "Nothing is typed"),
        ("92.2.5", "not a length"),
        ("92 furlongs", "not a unit"),
        ("nan", "not a length"),
        ("3 7/0", "nought"),
        ("92.25 92.26", "not a length"),
        ("1,250", "two ways"),
        ("920", "too far"),
        ("12 thou", "too far"),
    ],
)
def test_refusals_say_what_is_wrong(text, reason):
    with pytest.raises(LengthError, match=reason):
        parse_length(text, Units.METRIC, 92.0, "bore")


def test_the_guess_is_offered_in_words():
    with pytest.raises(LengthError, match="write 3.622in") as caught:
        parse_length("3.622", Units.METRIC, 92.0, "bore")
    assert caught.value.guess is Units.INCH


@pytest.mark.parametrize(
    "text, mm",
    [
        ("+0.5", 0.5),
        ("+.030", 0.03),
        ("-0,25", -0.25),
        ("0,125", 0.125),
        ("½".replace("½", "1/2"), 12.7),
        ("4µm", 0.004),
        ("-3 tenths", -0.00762),
    ],
)
def test_plain_lengths_beside_oversizes(text, mm):
    assert parse_length(text, Units.METRIC, 92.0).mm == pytest.approx(mm, abs=1e-12)


def test_oversize_without_a_nominal_is_a_length():
    assert parse_length("+30", Units.METRIC).mm == 30.0


def test_least_is_kept():
    with pytest.raises(LengthError, match="more than 0.000"):
        parse_length("-2", Units.METRIC, least_mm=0.0)


@given(st.integers(1, 9_999_999), st.sampled_from(list(Units)))
def test_what_is_shown_reads_back_the_same(count, units):
    grain = Fraction(1, 10000) if units is Units.INCH else Fraction(1, 1000)
    shown = with_unit(count * grain * units.mm, units)
    assert parse_length(shown, units.other).exact == count * grain * units.mm


@given(st.floats(-500, 500, allow_nan=False), st.sampled_from(list(Units)))
def test_display_is_never_off_by_more_than_half_a_digit(value, units):
    shown = format_length(value, units, signed=True).replace("−", "-")
    half = (0.0001 * 25.4 if units is Units.INCH else 0.001) / 2
    assert abs(float(Fraction(shown) * units.mm) - value) <= half + 1e-9


def test_nan_is_never_shown_as_a_figure():
    with pytest.raises(LengthError):
        format_length(float("nan"), Units.METRIC)


@given(st.text(max_size=20))
def test_any_typing_is_either_a_length_or_a_sentence(text):
    try:
        parse_length(text, Units.INCH, 101.6, "bore")
    except LengthError as error:
        assert len(str(error)) > 10  # noqa: PT017  (either way is right; the sentence is what is asked of one)


@pytest.mark.parametrize(
    "text, inches", [("4-1/8", 4.125), ("3-7/8", 3.875), ("4–1/8", 4.125), ("4 1/8", 4.125), ("4-1/8 + .001", 4.126), ("10-3/16", 10.1875), ("4.060-1/8", 3.935)]
)  # fmt: skip
def test_a_mixed_number_with_a_dash_is_no_difference(text, inches):
    for units in Units:
        shown = text if units is Units.INCH or "." not in text else None
        if shown is not None:
            assert parse_length(shown, units).mm == pytest.approx(inches * 25.4)


def test_a_range_whose_ends_show_alike_is_one_size():
    from redline_bore.core.show import Show

    inch, mm = Show(Units.INCH), Show(Units.METRIC)
    assert inch.between(82.55, 82.5501) == inch.size(82.55) and mm.between(82.55, 82.5504) == "82.550"
    assert mm.between(82.55, 82.553) == "82.550–82.553"
