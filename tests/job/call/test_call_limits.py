"""The call at its limits, on states made for it."""

from types import SimpleNamespace

import numpy as np
import pytest

from redline_bore.core.cleanup import Verdict
from redline_bore.core.fit import Decision
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.call import need, shadow, stand_by
from redline_bore.job.call.asks import first_rung
from redline_bore.job.call.ladder import Fares, Fate, FateWay, Worn, ladder_of, worn_how
from redline_bore.job.call.pistons import Fit
from redline_bore.job.card import Mark
from redline_bore.job.kinds.defects import DefectMarked
from redline_bore.job.kinds.fold import fold
from redline_bore.job.words.fares import WORN, fares_words, fate_words, worn_words
from redline_bore.job.words.missing import UNTESTED
from redline_bore.job.words.stand_by import say_against
from tests.job.benches import after

METRIC = Show(Units.METRIC)


@pytest.mark.parametrize(
    "axis, wanted", [(0.0, "pin-axis wear"), (30.0, "pin-axis wear"), (31.0, "wear at a slant"), (59.0, "wear at a slant"), (60.0, "thrust wear"), (90.0, "thrust wear"),
                     (120.0, "thrust wear"), (121.0, "wear at a slant"), (149.0, "wear at a slant"), (150.0, "pin-axis wear"), (179.0, "pin-axis wear"), (None, "worn")],
)  # fmt: skip
def test_which_way_a_hole_is_worn(axis, wanted):
    level = SimpleNamespace(fit=SimpleNamespace(long_axis_deg=axis))
    shape = SimpleNamespace(levels=(level,), deciding_defect=None, wear=object(), worst_level=level)
    flawed = SimpleNamespace(**vars(shape) | {"deciding_defect": SimpleNamespace(what="score")})
    assert WORN[worn_how(shape)] == wanted
    assert worn_how(SimpleNamespace(**vars(shape) | {"wear": None})) is Worn.NO_UNWORN_PLACE
    assert worn_how(SimpleNamespace(**vars(shape) | {"levels": ()})) is Worn.NOT_GAUGED
    assert worn_how(flawed) is Worn.BY_DEFECT
    assert worn_words(SimpleNamespace(shape=flawed, worn=Worn.BY_DEFECT)) == "score"
    assert {*WORN} == {*Worn} - {Worn.BY_DEFECT}


@pytest.mark.parametrize(
    "left, decision, wanted",
    [
        (0.02, Decision.OUT, 0.02),
        (0.02, Decision.IN, None),
        (0.00399, Decision.OUT, None),
        (0.00401, Decision.OUT, 0.00401),
        (0.0, Decision.OUT, None),
        (-0.01, Decision.OUT, None),
        (0.02, None, 0.02),
    ],
)
def test_metal_left_for_a_piston(left, decision, wanted):
    fit = Fit(1, 79.93, 0.0, 80.0, 80.0 - left, 0.07, 0.072, 0.004, decision, 0.05)
    assert fit.to_come_mm == (None if wanted is None else pytest.approx(wanted))


def test_the_cuts_axis_off_the_hole_is_by_depth(monkeypatch):
    fits = {20.0: (0.01, 0.02), 100.0: (-0.02, 0.03)}
    levels = [
        SimpleNamespace(
            sweep=SimpleNamespace(depth_mm=d), fit=SimpleNamespace(least_squares=SimpleNamespace(x_mm=x, y_mm=y))
        )
        for d, (x, y) in fits.items()
    ]
    axis = SimpleNamespace(deck_x_mm=0.1, deck_y_mm=-0.1, deep_x_mm=0.3, deep_y_mm=0.2)
    monkeypatch.setattr(
        need, "need_of", lambda state, c: SimpleNamespace(swept=SimpleNamespace(axis=axis), why_two_point="")
    )
    monkeypatch.setattr(need, "swept_used", lambda state, c: levels)
    assert need.axis_shift(None, 1, 90.0) == pytest.approx((0.3 + 0.02, 0.2 - 0.03))
    assert need.axis_shift(None, 1, 10.0) == pytest.approx((0.1 + 0.2 * 0.2 - 0.01, -0.1 + 0.2 * 0.3 - 0.02))
    cut = need.cut_axis(None, 1)
    assert (cut.top_x_mm, cut.top_y_mm, cut.bottom_x_mm, cut.bottom_y_mm) == pytest.approx((0.14, -0.04, 0.3, 0.2))


@pytest.mark.parametrize(
    "clock, width, inside, outside",
    [
        (90.0, 20.0, (80.0, 90.0, 100.0), (79.0, 101.0, 270.0)),
        (0.0, 20.0, (350.0, 0.0, 10.0), (349.0, 11.0, 180.0)),
        (355.0, 20.0, (345.0, 5.0), (344.0, 6.0)),
    ],
)
def test_a_defect_lies_over_its_width_and_its_depths(clock, width, inside, outside):
    d = SimpleNamespace(
        top_mm=20.0, bottom_mm=40.0, clock_deg=clock, width_deg=width, deep_low_mm=0.03, deep_high_mm=0.05
    )
    depths, clocks = np.array([19.0, 20.0, 30.0, 40.0, 41.0]), np.arange(0.0, 360.0, 1.0)
    for end, deep in (("low", 0.03), ("high", 0.05)):
        grid = shadow._defects((d,), depths, clocks, end)
        assert all(grid[1:4, int(c)] == pytest.approx([deep] * 3) for c in inside)
        assert grid[:, [int(c) for c in outside]].max() == 0.0 and grid[[0, 4]].max() == 0.0


STANDS = {
    Fares.SLEEVED: 3,
    Fares.CLEANS_UP: 2,
    Fares.MAY_SHADOW: 1,
    Fares.NOT_KNOWN: 1,
    Fares.WILL_NOT: 0,
    Fares.TOO_THIN: 0,
    Fares.CRACKED: 0,
}


@pytest.mark.parametrize("was", [*map(str, Fares), "a word of another time"])
@pytest.mark.parametrize("now", Fares)
@pytest.mark.parametrize("chance", [0.29, 0.30, 0.59, 0.60, None])
def test_a_call_is_spoken_against_only_where_a_cylinder_stands_worse(monkeypatch, shipped, was, now, chance):
    monkeypatch.setattr(stand_by, "chance_in", lambda state, c, over, apart: chance)
    state = SimpleNamespace(
        calling=SimpleNamespace(decision=SimpleNamespace(oversize_mm=0.5, apart=())),
        boring=SimpleNamespace(looks=()),
        figures=shipped,
    )
    monkeypatch.setattr(stand_by, "ladder_of", lambda state: None)
    monkeypatch.setattr(stand_by, "is_last", lambda ladder, over, apart: False)
    says = STANDS[now] < {str(f): rank for f, rank in STANDS.items()}.get(was, 1)
    if now is Fares.MAY_SHADOW:  # what may keep a shadow stands while it is likely enough
        says = chance is not None and chance < (0.60 if was == str(Fares.CLEANS_UP) else 0.30)
    column = SimpleNamespace(cleanup=SimpleNamespace(high_mm=80.6), ceiling_mm=81.0, cracked=now is Fares.CRACKED)
    end = SimpleNamespace(least_mm=80.5)
    fate = SimpleNamespace(fares=now, column=column, too_thin=False, cylinder=1, oversize_mm=0.5, end=end)
    then = SimpleNamespace(verdict=was, high_mm=80.4)
    found = stand_by._against(state, fate, then)
    assert (found is not None) is says
    assert stand_by._against(state, fate, None) is None
    if found is not None:
        if now is Fares.CRACKED:
            assert f"{UNTESTED}." in say_against(found, METRIC)
            return
        assert "it needed 80.400 at most, now 80.600, and ends at 80.500" in say_against(found, METRIC)
        unread = stand_by._against(state, fate, SimpleNamespace(verdict=was, high_mm=None))
        assert "its readings changed" in say_against(unread, METRIC)
        if {str(f): rank for f, rank in STANDS.items()}.get(was, 1) == 0:  # it was no better before
            return
        thin = SimpleNamespace(**vars(fate) | {"too_thin": True, "fares": Fares.TOO_THIN})
        assert "its wall allows 81.000" in say_against(stand_by._against(state, thin, then), METRIC)
    assert FateWay.SLEEVE == "sleeve"


def test_a_wall_that_would_be_too_thin_comes_before_a_clean_up_on_the_card_too():
    whole, crack = SimpleNamespace(cracked=False), SimpleNamespace(cracked=True)
    for verdict in (*Verdict, None):
        thin = Fate(whole, 0.5, None, FateWay.COMMON, verdict, True, False)
        broken = Fate(crack, 0.5, None, FateWay.COMMON, verdict, False, True)
        assert broken.fares is Fares.CRACKED and broken.fails and not broken.sound and not broken.sure
        assert Fate(crack, 0.5, None, FateWay.SLEEVE, verdict, False, True).fares is Fares.SLEEVED
        assert thin.fares is Fares.TOO_THIN and fares_words(thin.fares) == ("wall too thin", Mark.STOP)
        kept = Fate(whole, 0.5, None, FateWay.OWN, verdict, False, True)
        assert kept.fares == (Fares.NOT_KNOWN if verdict is None else str(verdict))
        assert Fate(whole, 0.5, None, FateWay.SLEEVE, verdict, True, False).fares is Fares.SLEEVED
    assert [f for f in Fares if fares_words(f)[1] is Mark.SOUND] == [Fares.SLEEVED, Fares.CLEANS_UP]


@pytest.mark.parametrize("fares", Fares)
@pytest.mark.parametrize("stands", [False, True])
def test_what_cleans_up_and_may_leave_too_little_wall_is_not_ticked(fares, stands):
    word, mark = fate_words(SimpleNamespace(fares=fares, wall_stands=stands, cut_larger=False))
    if fares is Fares.CLEANS_UP and not stands:
        assert (word, mark) == ("wall not sure", Mark.LOOK)
    else:
        assert (word, mark) == fares_words(fares)


def test_a_crack_does_not_move_the_size_that_is_talked_about(ledger_of, shipped):
    crack = DefectMarked(
        cylinder=2,
        what="crack",
        top_mm=60.0,
        bottom_mm=60.0,
        clock_deg=95.0,
        width_deg=5.0,
        deep_low_mm=0.0,
        deep_high_mm=0.0,
    )
    before, after_it = fold(ledger_of("2041"), shipped), after(ledger_of("2041"), shipped, crack)
    assert first_rung(after_it) == first_rung(before)
    ladder = ladder_of(after_it)
    assert [c.cracked for c in ladder.columns] == [False, True, False, False, False]
    assert not any(c.cracked or c.untested for c in ladder.but_for_cracks().columns)
    plain = ladder_of(before)
    assert plain.but_for_cracks() is plain
