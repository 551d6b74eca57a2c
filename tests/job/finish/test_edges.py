"""Edges that random faults went unseen at, each worked by hand: the plateau and the judgement."""

from types import SimpleNamespace as Some

import pytest

from redline_bore.job.finish import judgement, plateau


def test_traces_before_the_plateau_stand_from_the_top_down():
    traces = [Some(plateau_strokes=0.0, depth_mm=d) for d in (None, 90.0, 10.0)] + [
        Some(plateau_strokes=8.0, depth_mm=50.0)
    ]
    state = Some(finishing=Some(traces_of=lambda c: traces))
    assert [t.depth_mm for t in judgement.traces_before(state, 1)] == [10.0, 90.0, None]


def test_a_coarser_stone_is_the_one_whose_middle_marks_are_deep_enough(monkeypatch, shipped):
    marks = {"fine": (4.0, 6.0), "middle": (10.0, 14.0), "coarse": (30.0, 50.0)}
    monkeypatch.setattr(plateau, "finish_windows", lambda state: {"Rvk": Some(low=2.0), "Rz": Some(low=11.0)})
    monkeypatch.setattr(plateau, "texture_at", lambda t: Some(Rz=8.0))
    monkeypatch.setattr(plateau, "stone_names", lambda figures: tuple(marks))
    monkeypatch.setattr(plateau, "stones_said", str)
    monkeypatch.setattr(plateau, "rz_of", lambda state, s: marks[s])
    monkeypatch.setattr(plateau, "progress_of", lambda state, c: Some(left_mm=0.03))
    found = plateau.coarser_for(Some(figures=shipped), 1, [object()], 4.0)
    assert found.stones == "middle" and found.metal_mm == pytest.approx(2.0 * 12.0 / 1000.0)
    deep = plateau.coarser_for(Some(figures=shipped), 1, [object()], 0.4)  # 40 um are wanted
    assert deep.stones == "coarse"


@pytest.mark.parametrize("nearest, strokes", [(None, 0.0), (1.2, 6.0), (0.0, 0.0)])
def test_the_strokes_to_the_place_that_comes_nearest(nearest, strokes):
    found = plateau.PlateauForecast.nearest_strokes.fget(Some(nearest_um=nearest, rate=Some(um=0.2)))
    assert found == pytest.approx(strokes)
