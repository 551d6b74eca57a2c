"""Edges that random faults went unseen at, each worked by hand: the way that is picked, the grip that counts."""

from types import SimpleNamespace as Some

import pytest

from redline_bore.job.call.option import MAY, NO, SURE
from redline_bore.job.sleeve import run as sleeve_run
from redline_bore.job.sleeve import ways
from redline_bore.job.sleeve.ways import SleeveDoing


@pytest.mark.parametrize(
    "way, standing, sure",
    [(SleeveDoing.TOUCH_UP, SURE, True), (SleeveDoing.TOUCH_UP, MAY, False), (SleeveDoing.OVERSIZE, SURE, False)],
)
def test_a_way_is_surely_picked_where_the_usual_one_surely_goes(monkeypatch, way, standing, sure):
    monkeypatch.setattr(sleeve_run, "fit_of", lambda state, c: Some(rings=(1,), grip=1, sleeve=1))
    monkeypatch.setattr(sleeve_run, "chosen_way", lambda state, c: None)
    monkeypatch.setattr(sleeve_run, "ways_of", lambda state, c: (Some(way=way, standing=standing),))
    stage = sleeve_run.stage_of(Some(sleeving=Some(after_of=lambda c: None)), 1)
    assert stage.key is sleeve_run.SleeveStage.WAY and stage.sure is sure


@pytest.mark.parametrize(
    "seq, way, wanted",
    [
        (11, SleeveDoing.OVERSIZE, True),
        (10, SleeveDoing.OVERSIZE, False),
        (9, SleeveDoing.OVERSIZE, False),
        (9, SleeveDoing.BORE_TO_IT, True),
        (11, SleeveDoing.REPAIR, False),
    ],
)
def test_the_grip_is_the_real_one_once_the_sleeve_for_the_way_was_measured(monkeypatch, seq, way, wanted):
    monkeypatch.setattr(ways, "wanted_interference", lambda state, parent: (0.03, 0.05, 0.07))
    state = Some(sleeving=Some(way_of=lambda c: Some(way=way, seq=10)))
    fit = Some(cylinder=1, sleeve=Some(seq=seq), parent_mm=90.0)
    assert ways._real_grip(state, fit, way, 90.01) is wanted
    assert not ways._real_grip(state, fit, way, 90.02)


def test_a_sleeve_too_small_for_a_round_parent_tells_what_it_would_take(monkeypatch):
    monkeypatch.setattr(ways, "_clean_mm", lambda *a: 90.10)
    fit = Some(cylinder=1, sleeve=Some(outside_mm=90.1), wanted_mm=90.05, parent_mm=90.0)
    found = ways._to_the_sleeve(Some(), fit)
    assert found.standing is NO and found.metal_mm == pytest.approx(0.05) and not found.step
