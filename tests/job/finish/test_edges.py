"""Edges that random faults went unseen at, each worked by hand: the plateau and the judgement."""

from types import SimpleNamespace as Some

import pytest

from redline_bore.core.fit import Decision
from redline_bore.job.finish import judgement, plateau
from redline_bore.job.words import finish as finish_words


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


def test_without_pairs_of_traces_the_plateaus_own_stones_tell_what_a_light_stroke_takes(monkeypatch, shipped):
    monkeypatch.setattr(
        plateau, "stones_of", lambda state: ("vitrified_150", "vitrified_220", "vitrified_280", "brush_600")
    )
    asked = []
    monkeypatch.setattr(plateau, "rate_of", lambda state, stones: asked.append(stones) or 0.0001)
    found = plateau.rate_from(Some(figures=shipped), ())
    usual = 0.0001 * 1000.0 / 2.0 * shipped.number("honing.plateau_of_rough")  # um a side, at the plateau's load
    wide = shipped.number("finish.few_pairs_factor")
    assert asked == ["brush_600"] and found.pairs == ()
    assert (found.um, found.low_um, found.high_um) == pytest.approx((usual, usual / wide, usual * wide))


@pytest.mark.parametrize(
    "missing, cylinder, stamped, told",
    [
        ((2, 3), 2, False, ("", False)),
        ((2, 3), None, False, ("", False)),
        ((2, 3), 1, False, ("Go to cylinder 2", True)),
        ((), 1, False, ("Stamp and sign off", False)),
        ((), 1, True, ("Go to sign off", True)),
    ],
)
def test_onward_from_the_finish_books_a_stamp_or_only_leads_on(monkeypatch, missing, cylinder, stamped, told):
    monkeypatch.setattr(finish_words, "not_traced", lambda state: missing)
    state = Some(signing=Some(stamp=lambda step: "RM" if stamped else None))
    assert finish_words.onward(state, cylinder) == told


@pytest.mark.parametrize("decision, told", [(Decision.IN, False), (Decision.OUT, True), (Decision.TOO_CLOSE, True)])
def test_a_remedy_is_told_only_of_what_is_not_in_its_window(decision, told):
    (parameter, side), words = next(iter(finish_words.REMEDY.items()))
    judged = Some(parameter=parameter, side=side, decision=decision)
    assert finish_words.remedy(judged) == (words if told else "")
