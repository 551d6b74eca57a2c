"""Where a torque plate would change the answer, and where a shop without one is asked for it all the same."""

from types import SimpleNamespace as Some

import pytest

from redline_bore.core.fit import ClearanceWindow, Decision
from redline_bore.job.gauge import plate_wanted as pw
from redline_bore.job.gauge.hole import HoleLimits, Out

WINDOW, LIMITS = ClearanceWindow(0.030, 0.080, "piston sheet"), HoleLimits(0.013, 0.010, 0.013)


def shape(taper=0.003, bulge=0.002, oval=0.003, out=()):
    return Some(taper_mm=taper, bulge_mm=bulge, out_of_round_mm=oval, out=out)


GOOD = shape()


def call(least=0.050, most=0.060, u=0.004, decision=Decision.IN, hole=GOOD):
    return Some(least_mm=least, most_mm=most, u_mm=u, decision=decision, hole=Some(shape=hole))


@pytest.fixture
def bench(monkeypatch, shipped):
    def made(found, school="weak decks", moved=()):
        monkeypatch.setattr(pw, "ends_call", lambda state, c: found)
        monkeypatch.setattr(pw, "hole_limits", lambda state: LIMITS)
        monkeypatch.setattr(pw, "leading_window", lambda state: WINDOW)
        levels = [Some(moved=Some(moved_mm=row)) for row in moved]
        monkeypatch.setattr(pw, "plate_map", lambda state, c: Some(levels=levels))
        return Some(memo={}, figures=shipped, booking=Some(practice=lambda topic: {"plate": school}[topic]))

    return made


def test_by_the_one_school_it_is_always_wanted_by_the_other_where_it_changes_the_answer(bench):
    assert pw.plate_wanted(bench(call(), "always"), 1) and not pw.plate_changes(bench(call(), "always"), 1)
    assert pw.plate_wanted(bench(call(), "a school of another time"), 1)
    assert not pw.plate_wanted(bench(call()), 1)


@pytest.mark.parametrize(
    "found, changes",
    [
        (None, True),
        (call(hole=None), True),
        (call(decision=Decision.OUT, least=0.010), True),  # tight: it is honed on
        (call(decision=Decision.OUT, most=0.0839), True),
        (call(decision=Decision.OUT, most=0.0841), False),  # past: nothing brings it back
        (call(hole=shape(oval=0.030, out=(Out.OVAL,))), True),
        (call(decision=Decision.TOO_CLOSE, least=0.031), True),
        (call(least=0.042), False),  # 0.030 + hypot(0.004, 0.010) is 0.0408
        (call(least=0.040), True),
        (call(most=0.068), False),
        (call(most=0.070), True),
        (call(hole=shape(oval=0.008)), False),  # hypot(0.008, 0.010) is 0.0128
        (call(hole=shape(oval=0.009)), True),
        (call(hole=shape(oval=None)), True),
        (call(hole=shape(taper=-0.008)), False),
        (call(hole=shape(taper=-0.009)), True),
        (call(hole=shape(taper=None)), True),
        (call(hole=shape(bulge=-0.008)), False),  # hypot(0.008, 0.005) is 0.0094
        (call(hole=shape(bulge=-0.009)), True),
        (call(hole=shape(bulge=None)), True),
    ],
)
def test_what_the_head_could_change_of_a_stiff_deck(bench, found, changes):
    assert pw.plate_changes(bench(found), 1) is changes
    assert pw.plate_wanted(bench(found), 1) is changes


def test_a_deck_that_was_gauged_both_ways_moves_as_it_was_read(bench):
    stiff, soft = ((0.001, -0.002), (0.0, 0.001)), ((0.001, -0.002), (0.004, -0.020))
    assert pw.deck_moves(bench(call(), moved=stiff), 1) == 0.002
    assert pw.deck_moves(bench(call(), moved=soft), 1) == 0.020
    assert pw.deck_moves(bench(call()), 1) == pytest.approx(0.010), "the shop's figure, where nobody read it"
    close = call(least=0.036, hole=shape(oval=0.012))
    assert not pw.plate_changes(bench(close, moved=stiff), 1)
    assert pw.plate_changes(bench(close), 1)
    assert pw.plate_changes(bench(call(), moved=soft), 1)
