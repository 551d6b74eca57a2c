"""Point or comma: what passes the doors, and what is left alone."""

import pytest

from redline_bore.core import written


@pytest.fixture(autouse=True)
def comma():
    written.write_with_comma(True)
    yield
    written.write_with_comma(False)


@pytest.mark.parametrize(
    "text, wanted",
    [
        ("105.214 mm", "105,214 mm"), ("21, 84 and 182.5 mm down.", "21, 84 and 182,5 mm down."), ("+0.50–0.75", "+0,50–0,75"), ("version 0.10.0", "version 0.10.0"),
        ("127.0.0.1", "127.0.0.1"), ("09:40. Then 3.", "09:40. Then 3."), ("no figure", "no figure"), ("Take 0.02. 3.5 is left", "Take 0,02. 3,5 is left"),
    ],
)  # fmt: skip
def test_figures_are_shown_with_a_comma_and_nothing_else_is(text, wanted):
    assert written.shown(text) == wanted


@pytest.mark.parametrize(
    "text, wanted",
    [
        ("105,214", "105.214"), ("12 105,214 105,215", "12 105.214 105.215"), (",5", ".5"), ("1, 2 and 3", "1, 2 and 3"), ("105.214", "105.214"), ("owner Smith, Jones", "owner Smith, Jones"),
        ("-,014", "-.014"),
    ],
)  # fmt: skip
def test_a_comma_between_digits_is_the_point(text, wanted):
    assert written.typed(text) == wanted


def test_marks_of_a_page_stay_as_they_are():
    html = "<style>p { margin: 0.5em }</style><p style='font-size:12.5px'>3.5 mm</p>"
    assert written.shown_html(html) == "<style>p { margin: 0.5em }</style><p style='font-size:12.5px'>3,5 mm</p>"


def test_a_table_has_semicolons_and_commas_in_its_figures_only():
    assert (
        written.table('a,b,c\n1,3.25,"x, 3.5"\n-0.5,2026-01-02T10:00:00.5,3\n')
        == "a;b;c\n1;3,25;x, 3.5\n-0,5;2026-01-02T10:00:00.5;3\n"
    )


def test_with_a_point_nothing_is_touched():
    written.write_with_comma(False)
    assert (
        written.shown("1.5") == written.typed("1.5") == "1.5"
        and written.typed("1,5") == "1,5"
        and written.table("a,b\n") == "a,b\n"
    )
    assert not written.with_comma() and written.shown_html("<p>1.5</p>") == "<p>1.5</p>"
