"""Edges that random faults went unseen at, each worked by hand: the way that is picked, the grip that counts."""

from types import SimpleNamespace as Some

import pytest

from redline_bore.core.block import Bottom
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.call.option import MAY, NO, SURE
from redline_bore.job.sleeve import fit as fit_of
from redline_bore.job.sleeve import match, ways
from redline_bore.job.sleeve import run as sleeve_run
from redline_bore.job.sleeve.ways import SleeveDoing
from redline_bore.job.words import sleeve_run as run_words


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


@pytest.mark.parametrize(
    "stock, standing",
    [(0.010, NO), (0.0199, NO), (0.021, MAY), (0.039, MAY), (0.041, SURE), (0.059, SURE)],
)
def test_what_is_left_to_finish_covers_the_oval_twice_to_be_sure(monkeypatch, stock, standing):
    monkeypatch.setattr(ways, "redline_of", lambda state, c: Some(size_mm=100.0, missing=None))
    monkeypatch.setattr(ways, "predicted_bore", lambda fit: (99.9, 100.0 - stock))
    weighed = ways._Weighing()
    ways._finish(None, Some(cylinder=1, oval_mm=0.020), weighed)
    assert weighed.standing is standing


@pytest.mark.parametrize("outside, rules_out", [(104.0, True), (107.9, True), (108.1, False), (112.0, False)])
def test_a_sleeve_whose_wall_is_too_thin_is_ruled_out(monkeypatch, shipped, outside, rules_out):
    figures = shipped.with_own({"sleeves.wall_least": 4.0, "sleeves.parent_least": 3.0})
    monkeypatch.setattr(ways, "wanted_interference", lambda state, parent: (0.03, 0.05, 0.07))
    monkeypatch.setattr(ways, "outside_when_bored", lambda state, was, to: (130.0,) * 4)
    monkeypatch.setattr(ways, "_real_grip", lambda *a: False)
    for name in ("_hoop", "_finish", "_parent_wall"):
        monkeypatch.setattr(ways, name, lambda *a: None)
    reached = []

    class Reached(Exception):
        pass

    def grip(*given):
        reached.append(given)
        raise Reached

    monkeypatch.setattr(ways, "grip_of", grip)
    fit = Some(cylinder=1, parent_mm=103.0, sleeve=Some(bore_mm=100.0, outside_mm=105.0), grip=None)
    way = SleeveDoing.OVERSIZE
    args = (Some(figures=figures), fit, way, outside - 0.05, ways.SleeveWhy.TO_BE_HAD, outside)
    if rules_out:
        found = ways._bored(*args)
        assert found.standing is NO and found.reasons[0].why is ways.SleeveWhy.SLEEVE_THIN
        assert found.reasons[0].mm == pytest.approx(((outside - 100.0) / 2.0, 4.0))
    else:
        with pytest.raises(Reached):
            ways._bored(*args)


@pytest.mark.parametrize("cuts, told", [((0.2,), False), ((0.2, 0.3), True)])
def test_one_cut_is_no_steps(monkeypatch, state_of, cuts, told):
    way = Some(way="bore to it", parent_mm=101.0, cuts=cuts)
    monkeypatch.setattr(run_words, "chosen_way", lambda state, c: way)
    monkeypatch.setattr(run_words, "parent_done", lambda fit, way: False)
    items = run_words.run_of(state_of("2041"), 4, Show(Units.METRIC))
    (bored,) = [i for i in items if i.words.startswith("Parent bored to 101")]
    assert ("in 2 steps; " in bored.why) is told and bored.why.endswith("lower half of the speeds; measure again")


@pytest.mark.parametrize(
    "stands, ready", [(0.02, True), (0.08, True), (0.0199, False), (0.0801, False), (0.05, True), (None, False)]
)
def test_a_sleeve_sits_where_it_stands_in_its_window_ends_and_all(stands, ready):
    assert sleeve_run.seat_ready(Some(protrusion_mm=(0.02, 0.08), stands_mm=stands)) is ready
    assert sleeve_run.seat_ready(None)


@pytest.mark.parametrize("bottom, flange, push, wanted", [
    (Bottom.OPEN, None, 100.0, True), (Bottom.OPEN, None, 5000.0, False), (Bottom.OPEN, 4.0, 100.0, False), (Bottom.BLIND, None, 100.0, False),
])  # fmt: skip
def test_a_step_is_left_where_the_grip_alone_would_not_hold(shipped, bottom, flange, push, wanted):
    state = Some(block=Some(bottom=bottom), figures=shipped.with_own({"sleeves.hold_least": 1000.0}))
    assert fit_of.step_wanted(state, Some(grip=Some(hot_push_n=(push, push)), sleeve=Some(flange_mm=flange))) is wanted
    assert not fit_of.step_wanted(state, Some(grip=None, sleeve=Some(flange_mm=flange)))


def test_a_match_needs_parents_and_sleeves(monkeypatch):
    monkeypatch.setattr(match, "sleeved_cylinders", lambda state: (1,))
    monkeypatch.setattr(match, "wanted_interference", lambda state, parent: (0.03, 0.05, 0.07))
    for parents, sleeves, there in (
        ({}, {}, False),
        ({1: 90.0}, {}, False),
        ({}, {1: 90.05}, False),
        ({1: 90.0}, {1: 90.05}, True),
    ):
        monkeypatch.setattr(match, "fit_of", lambda s, c, p=parents: Some(parent_mm=p.get(c)))
        sleeve_of = lambda c, p=sleeves: Some(outside_mm=p[c]) if c in p else None  # noqa: E731
        state = Some(memo={}, cylinders=(1,), sleeving=Some(sleeve_of=sleeve_of))
        assert (match.match_of(state) is not None) is there
