"""What was worked out another day is the same to its last bit, through the text it is kept as."""

import json
import threading

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from redline_bore.core import worked_out as kept
from redline_bore.core.cleanup_bound import BoundTerms, Lacks, Mark
from redline_bore.core.doubt import level_doubt
from redline_bore.core.errors import FitError
from redline_bore.core.shape import fit_level
from redline_bore.core.sweep import fit_sweep
from redline_bore.core.swept_cleanup import CutAxis, PointDefect, Turn, WallPoint, bound_of_sweeps, cut_of_sweeps
from redline_bore.core.wall import WallRow, outside_round
from redline_bore.core.worked_out import fields_of, worked_out

CLOCKS = tuple(float(c) for c in range(0, 360, 15))
SIZES = st.floats(91.9, 92.3, allow_nan=False)


@pytest.fixture(autouse=True)
def nothing_known(monkeypatch):
    for name in ("_known", "_asked"):
        monkeypatch.setattr(kept, name, type(getattr(kept, name))())


def same_another_day(work):
    """``work`` today and another day, when nothing may be worked out anew."""
    first = work()
    answers = kept.worth_keeping()
    assert answers
    kept._known.clear()
    kept._asked.clear()
    kept.take_in(json.loads(json.dumps(answers)))
    again = work()
    assert kept.worth_keeping().keys() == answers.keys()
    return first, again


@settings(max_examples=30, deadline=None)
@given(st.lists(SIZES, min_size=1, max_size=8))
def test_a_level_and_its_doubt(sizes):
    clocks = [180.0 * i / len(sizes) for i in range(len(sizes))]

    def both():
        fit = fit_level(clocks, sizes)
        return fit, level_doubt(clocks, [1] * len(sizes), fit, 0.001)

    first, again = same_another_day(both)
    assert first == again and type(again[0].cos_mm) is tuple


@settings(max_examples=20, deadline=None)
@given(st.lists(st.floats(45.95, 46.1), min_size=24, max_size=24))
def test_a_sweep(radii):
    first, again = same_another_day(lambda: fit_sweep(CLOCKS, radii))
    assert first == again and first.clock_deg == again.clock_deg and first.radius_mm == again.radius_mm
    assert np.array_equal(first.points_mm, again.points_mm) and first.roundness_mz_mm == again.roundness_mz_mm


def turns(lean=0.0):
    t = np.deg2rad(CLOCKS)
    return tuple(
        Turn(z, CLOCKS, tuple((46.0 + 0.03 * np.cos(2 * t) + lean * z * np.cos(t)).tolist()))
        for z in (15.0, 60.0, 110.0)
    )


@pytest.mark.parametrize("about", [CutAxis(0.01, 0.0, 0.02, -0.01), "square", "leaning"])
def test_a_cut_about_an_axis(about):
    flaw = (PointDefect(60.0, 90.0, 0.1),)

    def work():
        cut_of_sweeps.cache_clear()
        return cut_of_sweeps(turns(1e-4), flaw, 0.013, about)

    first, again = same_another_day(work)
    assert first == again and first.size_mm > 92.0


def test_a_bound_from_sweeps_with_what_it_lacks():
    terms = BoundTerms(0.013, 0.01, 0.02, 0.003, 0.01, 1.1, 0.004, 0.002)
    beyond = (WallPoint(46.01, 0.0, 10.0), WallPoint(46.02, 130.0, 20.0))
    marks = (Mark(60.0, 90.0, 0.02, None),)

    def work():
        bound_of_sweeps.cache_clear()
        return bound_of_sweeps(
            turns(), CutAxis(0.0, 0.0, 0.0, 0.0), beyond, 46.0, marks, terms, True, (Lacks.STOP_NOT_MEASURED,)
        )

    first, again = same_another_day(work)
    assert first == again and again.lacks == (Lacks.STOP_NOT_MEASURED, Lacks.MARK_DEPTH)


def test_a_wall_row():
    row = WallRow(40.0, (0.0, 90.0, 180.0, 270.0), (5.0, 4.2, 5.1, 6.0), 46.0)
    first, again = same_another_day(lambda: outside_round(row, [10.0, 200.0]))
    assert first == again


def test_figures_that_differ_in_their_last_bit_are_other_figures():
    asked = []
    work = worked_out(lambda *x: x, list)(lambda *x: asked.append(x) or x)
    assert work(0.1, 0.2) == (0.1, 0.2) and work(0.1, 0.2) == (0.1, 0.2) and len(asked) == 1
    assert work(0.1, np.nextafter(0.2, 1.0).item()) != (0.1, 0.2) and len(asked) == 2


def test_functions_of_one_name_in_two_modules_do_not_answer_for_each_other():
    def one(x):
        return (x,)

    def other(x):
        return (x + 1.0,)

    other.__qualname__, other.__module__ = one.__qualname__, "elsewhere"
    make = lambda *x: x  # noqa: E731
    assert worked_out(make, list)(one)(1.0) == (1.0,) and worked_out(make, list)(other)(1.0) == (2.0,)


def test_what_failed_is_not_kept():
    with pytest.raises(FitError):
        fit_sweep(CLOCKS[:8], [46.0] * 8)
    assert not kept.worth_keeping()


def test_as_many_as_are_worth_it_the_last_asked_at_the_end(monkeypatch):
    monkeypatch.setattr(kept, "MOST", 3)
    work = worked_out(lambda *x: x, list)(lambda x: (x,))
    kept.take_in({"old": [1.0], "older": [2.0]})
    for x in (1.0, 2.0):
        work(x)
    assert list(kept.worth_keeping())[0] == "older" and len(kept.worth_keeping()) == 3
    for x in range(40):
        work(float(x))
    assert len(kept._asked) <= 12 and list(kept.worth_keeping().values())[-1] == [39.0]


def test_several_threads_ask_at_once(monkeypatch):
    monkeypatch.setattr(kept, "MOST", 4)
    work, wrong = worked_out(lambda *x: x, list)(lambda x: (x,)), []

    def ask():
        try:
            for x in range(3000):
                if work(float(x % 50)) != (float(x % 50),):
                    wrong.append(x)
                kept.worth_keeping()
        except Exception as error:
            wrong.append(error)

    threads = [threading.Thread(target=ask) for _i in range(4)]
    [t.start() for t in threads]
    [t.join() for t in threads]
    assert not wrong


def test_the_fields_of_an_answer_stand_in_their_order():
    fit = fit_level([0.0, 60.0, 120.0], [92.0, 92.02, 92.01])
    assert fields_of(fit)[0] == fit.mean_mm and fields_of(fit)[-1] == fit.residual_sd_mm
