"""Edges that random faults went unseen at, each worked by hand: what a job teaches the next."""

from types import SimpleNamespace as Some

import pytest

from redline_bore.core.fit import Decision
from redline_bore.job.sign_off import learned
from redline_bore.job.sign_off.sheet import SheetRow, pictures_a_row


@pytest.mark.parametrize("count, taught", [(2, False), (3, True), (5, True)])
def test_a_rate_is_a_lesson_from_enough_checks(monkeypatch, shipped, count, taught):
    least = learned.LEAST_CHECKS
    checks = [
        Some(stones="", strokes=10.0 * i, mean_mm=80.0 + 0.01 * i, load=100.0 * (i + 1))
        for i in range(count - 3 + least)
    ]
    monkeypatch.setattr(learned, "stones_of", lambda state: ("vitrified_150",))
    monkeypatch.setattr(learned, "load_share", lambda state, load: load)
    state = Some(honing=Some(checks_of=lambda c, step: checks))
    rows = learned._honed(state, 1)
    assert bool(rows) is taught
    if taught:
        assert rows[0][2] == pytest.approx(0.001 / checks[-1].load)


@pytest.mark.parametrize(
    "short, decision, told",
    [
        (True, Decision.IN, "not at size"),
        (True, None, "not at size"),
        (False, None, "not known"),
        (False, Decision.IN, "in"),
        (False, Decision.OUT, "out"),
        (False, Decision.TOO_CLOSE, "too close to call"),
    ],
)
def test_how_a_clearance_stands_on_the_sheet(short, decision, told):
    assert SheetRow.stands.fget(Some(short=short, decision=decision)) == told


@pytest.mark.parametrize("count, a_row", [(1, 2), (6, 2), (7, 3), (12, 3), (13, 0)])
def test_so_many_pictures_stand_side_by_side(count, a_row):
    assert pictures_a_row(count) == a_row
