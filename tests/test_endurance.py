"""A short run of what an hour is given to, and that its counting can fail."""

import json

import pytest

from tools.endurance.jobs import made_jobs
from tools.endurance.soak import judged, soak
from tools.endurance.together import counted, together


def test_two_windows_two_gauges_and_a_command_line_at_once(tmp_path):
    found = together(tmp_path, 4.0, 4.0)
    assert found.faults == () and found.readings >= 5 and found.lines >= 1


def test_a_gauge_that_is_pressed_twenty_times_a_second(tmp_path):
    found = soak(tmp_path, 4.0, 20.0)
    assert (
        found.faults == () and found.readings >= 8 and found.frames > 8 and found.longest_ms > found.late_ms / 2 > 0.0
    )


@pytest.fixture(scope="module")
def booked(tmp_path_factory):
    folder = tmp_path_factory.mktemp("booked")
    assert soak(folder, 1.5, 10.0).readings >= 6
    return folder / "RM"


@pytest.fixture
def worked(booked):
    """A logbook in which one bench booked a few readings, and what it says it sent."""
    return booked / "logbook.sqlite", json.loads((booked / "RM.json").read_text())


@pytest.mark.parametrize(
    "hurt, told",
    [
        (lambda t: t["sent"].append([0.9, "5000", 1]), "lost"),
        (lambda t: t["sent"].pop(), "doubled, or nobody sent it"),
        (lambda t: t["sent"][0].__setitem__(2, 7), "lost"),
        (lambda t: t["refused"].append("no"), "refused: no"),
    ],
)
def test_what_is_lost_doubled_misplaced_or_refused_is_counted(worked, hurt, told):
    path, bench = worked
    assert counted(path, {"RM": bench}, [], []).faults == ()
    hurt(bench)
    assert any(fault.startswith(told) for fault in counted(path, {"RM": bench}, [], []).faults)


def test_a_line_that_was_booked_once_and_said_twice_is_counted(worked):
    path, bench = worked
    assert any("a line" in f for f in counted(path, {"RM": bench}, [("5000", 18.0)], []).faults)


def test_growth_is_the_slope_after_the_first_minutes():
    flat = {
        "memory_mb": [(t, 200.0 + 50.0 * (t < 300)) for t in range(0, 3600, 5)],
        "frames": [0] * 100 + [98] + [0] * 99 + [2],
    }
    found = judged(flat, flat, 1, [])
    assert abs(found.growth_mb) < 0.1 and not found.faults and found.over == 0
    assert (found.frames, found.late_ms) == (100, 20.0)
    grows = {"memory_mb": [(t, 200.0 + t / 100.0) for t in range(0, 3600, 5)]}
    assert judged(flat, grows, 1, []).growth_mb == pytest.approx(32.9, abs=0.3), "either of the two"
    assert any("grew" in fault for fault in judged(grows, flat, 1, []).faults)


@pytest.mark.parametrize(
    "one, other, over, both, longest_both",
    [
        ([30.0, 20.0], [30.0, 20.0], 0, 0, 30.0),
        ([40.0, 20.0], [12.0, 50.0], 1, 0, 20.0),  # the machine's, at different readings
        ([40.0, 20.0], [36.0, 9.0], 1, 1, 36.0),
        ([40.0, 41.0, 90.0], [36.0, 50.0], 3, 2, 41.0),  # one came further than the other
        ([33.0], [33.0], 0, 0, 33.0),
    ],
)
@pytest.mark.parametrize("name", ["longest_ms", "walks_ms"])
def test_a_frame_is_the_programs_where_two_that_do_the_same_both_have_it(one, other, over, both, longest_both, name):
    found = judged({name: one}, {name: other}, 1, [])
    assert (found.over, found.over_both, found.longest_both_ms) == (over, both, longest_both)
    assert found.longest_ms == max(one) and not found.faults, "the campaign judges it, no test does"


def test_every_job_is_empty_and_large(tmp_path):
    from redline_bore.store.logbook import Logbook

    numbers = made_jobs(tmp_path / "l.sqlite", 3)
    book = Logbook(tmp_path / "l.sqlite")
    assert {j.number for j in book.jobs()} == set(numbers) and len(numbers) == 3
    book.close()
