"""Times are kept in UTC and shown as they are here; what leaves the shop says which zone."""

import os
import time

import pytest

from redline_bore.core.when import clock, day, hours_between, local, moment, now, zoned

AT = "2026-10-12T23:15:00.000+00:00"


@pytest.fixture
def berth(monkeypatch):
    """A place two hours and a half east, and back."""
    was = os.environ.get("TZ", "UTC")
    monkeypatch.setenv("TZ", "HERE-2:30")
    time.tzset()
    yield
    os.environ["TZ"] = was
    time.tzset()


def test_a_time_is_shown_as_it_is_here(berth):
    assert (day(AT), moment(AT), zoned(AT)) == ("2026-10-13", "2026-10-13 01:45", "2026-10-13 01:45 HERE")
    assert local(AT).hour == 1 and clock(AT) == "01:45"


def test_what_is_no_time_is_shown_as_it_stands():
    assert (day("yesterday"), zoned(""), clock("x" * 99)) == ("yesterday", "", "x" * 40) and local("yesterday") is None


def test_a_sheet_says_the_zone():
    assert zoned(AT) == "2026-10-12 23:15 UTC" and day(AT) == "2026-10-12"


@pytest.mark.parametrize(
    ("before", "after", "hours"),
    [
        ("2026-11-24T08:00:00.000+00:00", "2026-11-24T09:30:00.000+00:00", 1.5),
        ("2026-11-24T23:45:00.000+00:00", "2026-11-25T00:15:00.000+00:00", 0.5),
        ("2026-11-24T08:00:00.000+00:00", "2026-11-24T07:00:00.000+00:00", -1.0),
        ("2026-11-24T08:00:00.000+02:00", "2026-11-24T08:00:00.000+00:00", 2.0),
        ("2026-11-24", "2026-11-24T06:00:00.000+00:00", 6.0),
        ("yesterday", "2026-11-24T06:00:00.000+00:00", None),
        ("2026-11-24T06:00:00.000+00:00", "", None),
    ],
)
def test_hours_between_two_times(before, after, hours):
    assert hours_between(before, after) == (None if hours is None else pytest.approx(hours))


def test_now_is_written_as_the_ledger_writes_it():
    assert now().endswith("+00:00") and len(now()) == len("2026-11-24T08:00:00.000+00:00")
    assert 0.0 <= hours_between(now(), now()) < 0.01
