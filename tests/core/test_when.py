"""Times are kept in UTC and shown as they are here; what leaves the shop says which zone."""

import os
import time

import pytest

from redline_bore.core.when import clock, day, local, moment, zoned

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
