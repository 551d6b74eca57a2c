"""What the bar says of itself, at its limits, on states made for it."""

from types import SimpleNamespace

import pytest

from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.bore import tool_lessons
from redline_bore.job.state.boring import Bored
from redline_bore.job.words import bore_run as bar_run_words
from tests.job.benches import but

METRIC = Show(Units.METRIC)


D = tool_lessons.Diagnosis


def hole(sizes, set_mm=80.0, cylinder=1):
    return Bored(cylinder, cylinder, set_mm, tuple(sizes), "2026-11-23")


@pytest.fixture
def told(monkeypatch, shipped):
    def told(*holes):
        monkeypatch.setattr(tool_lessons, "that_teach", lambda state: [(h, False) for h in holes])
        return tool_lessons.diagnosis(
            SimpleNamespace(figures=shipped, boring=SimpleNamespace(holes=holes, micrometer=0))
        )

    return told


def test_what_holes_say_of_the_bar(told, shipped):
    f = shipped.number
    taper, warm, wrong, alike = (f(f"boring.{k}") for k in ("taper_told", "warming_told", "wrong_told", "alike"))
    wide = 80.0 + taper * 1.1
    assert told(hole((wide, 80.0)), hole((wide, 80.0))) is D.WIDE_TOP
    assert told(hole((80.0, wide)), hole((80.0, wide))) is D.WIDE_BOTTOM
    assert told(hole((wide, 80.0))) is told(hole((80.0 + 0.9 * taper, 80.0)), hole((80.0 + 0.9 * taper, 80.0))) is None
    assert told(hole((80.0 + 3.0 * taper, 80.0)), hole((80.0, 80.0 + taper * 0.5))) is None, "not all one way"
    grows = [hole((80.0 + warm * x,)) for x in (0.0, 0.6, 1.1)]
    assert told(*grows) is D.WARMING and told(*grows[:2]) is None
    assert told(*(hole((80.0 + warm * x,)) for x in (0.0, 0.6, 0.9))) is not D.WARMING
    off = [hole((80.0 + wrong * 1.2,)), hole((80.0 + wrong * 1.2 + alike * 0.5,))]
    assert told(*off) is D.WRONG_MICROMETER
    assert told(hole((80.0 + wrong * 1.2,)), hole((80.0 + wrong * 1.2 + alike * 1.5,))) is None
    assert told(hole((80.0 + wrong * 0.9,)), hole((80.0 + wrong * 0.9,))) is None


@pytest.mark.parametrize("first, asked", [((), (1, 2)), ((1,), (1,)), ((2,), (2,))])
def test_the_first_hole_is_proved_and_no_other(state_of, first, asked):
    state = state_of("2036")
    by_number = {h.cylinder: h for h in state.boring.holes}
    there = but(state, boring={"holes": tuple(by_number[c] for c in first)})
    said = {c for c in (1, 2) if any("First hole proved" in str(i) for i in bar_run_words.run_of(there, c, METRIC))}
    assert said == set(asked)
