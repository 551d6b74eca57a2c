"""The findings about a wall and about all walls, over every case."""

import itertools
from types import SimpleNamespace

import pytest

from redline_bore.core.fit import Decision
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.card import Mark
from redline_bore.job.finish import finding
from redline_bore.job.finish.finding import AllCall, AllFinding, FinishCall, FinishFinding, judge, judge_all
from redline_bore.job.finish.judgement import FinishWindow, Judged, Side, TraceStage, WallFinish, missing_valleys
from redline_bore.job.words import finish as words

C, T, D = FinishCall, TraceStage, Decision
WINDOW = FinishWindow("Rk", 0.5, 1.0, "x")


def figure(parameter, decision, side=Side.NONE, window=WINDOW):
    return Judged(parameter, 0.7, 0.6, 0.8, 0.1, 3, window, decision, side)


def wall(stage, *judged, since=0.0, cylinder=1):
    return WallFinish(cylinder, stage, (), tuple(judged), (), since)


@pytest.fixture
def call_of(monkeypatch):
    def call_of(found, had=None):
        monkeypatch.setattr(finding, "finish_of", lambda state, cylinder: found)
        monkeypatch.setattr(finding, "strokes_had", lambda state, cylinder: had)
        monkeypatch.setattr(finding, "bores_nothing", lambda state: False)
        return judge(SimpleNamespace(), 1)

    return call_of


@pytest.mark.parametrize("had, wanted", [(0.0, C.TRACE_BEFORE), (None, C.TRACE), (1.0, C.TRACE), (12.0, C.TRACE)])
def test_a_wall_not_traced(call_of, had, wanted):
    assert call_of(wall(T.NONE), had).call is wanted


@pytest.mark.parametrize("stage", [T.BEFORE, T.AFTER])
def test_a_wall_stroked_since_is_traced_again_whatever_it_was(call_of, stage):
    assert call_of(wall(stage, figure("Rk", D.OUT, Side.HIGH), since=0.5)).call is C.TRACE_AGAIN


BEFORE = [
    ((figure("Rvk", D.OUT, Side.LOW),), C.VALLEYS_MISSING, "Rvk"), ((figure("Rz", D.OUT, Side.LOW),), C.VALLEYS_MISSING, "Rz"),
    ((figure("Rvk", D.TOO_CLOSE, Side.LOW),), C.VALLEYS_TOO_CLOSE, "Rvk"), ((figure("Rz", D.OUT, Side.HIGH),), C.DEEP_MARKS, "Rz"),
    ((figure("Rz", D.TOO_CLOSE, Side.HIGH),), C.DEEP_MARKS, "Rz"), ((figure("Rz", D.IN), figure("Rvk", D.IN)), C.VALLEYS_THERE, None),
    ((figure("Rz", D.OUT, Side.HIGH), figure("Rvk", D.TOO_CLOSE, Side.LOW)), C.VALLEYS_TOO_CLOSE, "Rvk"),
    ((figure("Rz", D.OUT, Side.HIGH), figure("Rvk", D.OUT, Side.LOW)), C.VALLEYS_MISSING, "Rvk"), ((), C.VALLEYS_THERE, None),
]  # fmt: skip


@pytest.mark.parametrize("judged, wanted, about", BEFORE)
def test_before_the_plateau_the_valleys_come_first(call_of, judged, wanted, about):
    found = call_of(wall(T.BEFORE, *judged))
    assert found.call is wanted and (None if found.figure is None else found.figure.parameter) == about


AFTER = [
    ((figure("Rk", D.IN),), C.IN, None), ((figure("Rk", None, window=None),), C.NO_WINDOW, None), ((), C.NO_WINDOW, None),
    ((figure("Rk", D.OUT, Side.HIGH),), C.OUT, "Rk"), ((figure("Rk", D.TOO_CLOSE, Side.HIGH),), C.MAY_BE_OUT, "Rk"),
    ((figure("Rk", D.OUT, Side.HIGH), figure("Rvk", D.OUT, Side.LOW)), C.OUT, "Rvk"),
    ((figure("Rk", D.OUT, Side.HIGH), figure("Rvk", D.OUT, Side.HIGH)), C.OUT, "Rk"),
    ((figure("Rk", D.TOO_CLOSE, Side.HIGH), figure("Rvk", D.TOO_CLOSE, Side.LOW)), C.MAY_BE_OUT, "Rvk"),
    ((figure("Rk", D.OUT, Side.HIGH), figure("Rvk", D.TOO_CLOSE, Side.LOW)), C.OUT, "Rk"),
]  # fmt: skip


@pytest.mark.parametrize("judged, wanted, about", AFTER)
def test_after_the_plateau_shallow_valleys_come_first(call_of, judged, wanted, about):
    found = call_of(wall(T.AFTER, *judged))
    assert found.call is wanted and (None if found.figure is None else found.figure.parameter) == about


@pytest.mark.parametrize("stage, since, decisions, fine", [
    (s, n, d, s is T.AFTER and n == 0.0 and len(d) > 0 and all(x is D.IN for x in d))
    for s, n, d in itertools.product(T, (0.0, 1.0), ((), (D.IN,), (D.OUT,), (D.TOO_CLOSE,), (D.IN, D.OUT), (D.IN, D.TOO_CLOSE), (D.IN, D.IN)))
])  # fmt: skip
def test_fine_is_traced_as_it_is_now_and_every_window_kept(stage, since, decisions, fine):
    assert wall(stage, *(figure("Rk", d) for d in decisions), since=since).fine is fine


def test_missing_valleys_are_told_before_the_plateau_only():
    short = figure("Rvk", D.OUT, Side.LOW)
    assert missing_valleys(wall(T.BEFORE, short)) is short
    assert missing_valleys(wall(T.BEFORE, figure("Rvk", D.OUT, Side.HIGH))) is None
    assert missing_valleys(wall(T.BEFORE, figure("Rvk", D.TOO_CLOSE, Side.LOW))) is None


GOOD, OUT, CLOSE = figure("Rk", D.IN), figure("Rk", D.OUT, Side.HIGH), figure("Rk", D.TOO_CLOSE, Side.HIGH)
ALL = [
    ((wall(T.AFTER, GOOD), wall(T.AFTER, GOOD)), AllCall.ALL_IN, (1, 2)),
    ((wall(T.AFTER, OUT), wall(T.BEFORE, figure("Rvk", D.OUT, Side.LOW))), AllCall.VALLEYS_MISSING, (2,)),
    ((wall(T.AFTER, OUT), wall(T.NONE)), AllCall.OUT, (1,)), ((wall(T.AFTER, OUT, since=1.0), wall(T.AFTER, GOOD)), AllCall.NOT_TRACED, (1,)),
    ((wall(T.AFTER, CLOSE), wall(T.NONE)), AllCall.NOT_TRACED, (2,)), ((wall(T.AFTER, CLOSE), wall(T.AFTER, GOOD)), AllCall.TOO_CLOSE, (1,)),
    ((wall(T.BEFORE, GOOD), wall(T.AFTER, GOOD)), AllCall.NOT_TRACED, (1,)),
]  # fmt: skip


@pytest.mark.parametrize("walls, wanted, about", ALL)
def test_all_walls_together(monkeypatch, walls, wanted, about):
    by_number = {i: WallFinish(i, w.stage, w.traces, w.judged, w.flags, w.since) for i, w in enumerate(walls, start=1)}
    monkeypatch.setattr(finding, "finish_of", lambda state, cylinder: by_number[cylinder])
    monkeypatch.setattr(finding, "bores_nothing", lambda state: False)
    found = judge_all(SimpleNamespace(cylinders=tuple(by_number)))
    assert (found.call, found.cylinders) == (wanted, about)


@pytest.mark.parametrize(
    ("walls", "wanted", "about", "missing"),
    [
        ((wall(T.NONE), wall(T.NONE)), AllCall.NOT_WANTED, (1, 2), []), ((wall(T.AFTER, GOOD), wall(T.NONE)), AllCall.ALL_IN, (1,), []),
        ((wall(T.AFTER, OUT), wall(T.NONE)), AllCall.OUT, (1,), []), ((wall(T.AFTER, GOOD, since=1.0), wall(T.NONE)), AllCall.NOT_TRACED, (1,), [1]),
    ],
)  # fmt: skip
def test_where_nothing_was_bored_only_what_was_traced_is_judged(monkeypatch, walls, wanted, about, missing):
    by_number = {i: WallFinish(i, w.stage, w.traces, w.judged, w.flags, w.since) for i, w in enumerate(walls, start=1)}
    monkeypatch.setattr(finding, "finish_of", lambda state, cylinder: by_number[cylinder])
    monkeypatch.setattr(finding, "bores_nothing", lambda state: True)
    state = SimpleNamespace(cylinders=tuple(by_number))
    found = judge_all(state)
    assert (found.call, found.cylinders) == (wanted, about) and finding.not_traced(state) == missing
    assert {c: judge(state, c).call is C.NOT_WANTED for c in by_number} == {
        i: w.stage is T.NONE for i, w in enumerate(walls, start=1)
    }


MARKS = {
    C.TRACE_BEFORE: Mark.LOOK, C.TRACE: Mark.LOOK, C.NOT_WANTED: Mark.PLAIN, C.TRACE_AGAIN: Mark.LOOK, C.VALLEYS_MISSING: Mark.STOP, C.VALLEYS_TOO_CLOSE: Mark.LOOK,
    C.DEEP_MARKS: Mark.LOOK, C.VALLEYS_THERE: Mark.SOUND, C.IN: Mark.SOUND, C.NO_WINDOW: Mark.PLAIN, C.OUT: Mark.STOP, C.MAY_BE_OUT: Mark.LOOK,
}  # fmt: skip
ALL_MARKS = {
    AllCall.ALL_IN: Mark.SOUND, AllCall.VALLEYS_MISSING: Mark.STOP, AllCall.OUT: Mark.STOP, AllCall.NOT_TRACED: Mark.LOOK,
    AllCall.TOO_CLOSE: Mark.LOOK, AllCall.NOT_WANTED: Mark.PLAIN,
}  # fmt: skip


@pytest.mark.parametrize("call, side", list(itertools.product(C, (Side.LOW, Side.HIGH))))
def test_every_call_has_its_words_and_its_mark(call, side):
    found = FinishFinding(call, wall(T.AFTER, OUT), figure("Rk", D.OUT, side))
    sentence, mark = words.say(found, Show(Units.METRIC))
    assert mark is MARKS[call] and sentence.endswith(".")
    where = "under" if side is Side.LOW else "over"
    assert (f"Rk is {where} its window" in sentence) is (call is C.OUT)
    assert (f"Rk may be {where} its window" in sentence) is (call is C.MAY_BE_OUT)


@pytest.mark.parametrize("call", AllCall)
def test_every_call_about_all_has_its_words_and_its_mark(call):
    sentence, mark = words.say_all(AllFinding(call, (1, 2)))
    assert mark is ALL_MARKS[call] and sentence.endswith(".")


@pytest.mark.parametrize(
    "spot, done, wanted",
    [
        (0, (), 1),
        (2, (), 0),
        (0, (50.0,), 2),
        (1, (50.0,), 2),
        (2, (10.0,), 1),
        (0, (10.0, 50.0, 90.0), 0),
        (1, (10.0, 90.0), 1),
    ],
)
def test_the_next_spot_is_the_next_not_traced(monkeypatch, spot, done, wanted):
    monkeypatch.setattr(finding, "spots_of", lambda state: (10.0, 50.0, 90.0))
    monkeypatch.setattr(
        finding, "finish_of", lambda state, c: SimpleNamespace(traces=[SimpleNamespace(depth_mm=d) for d in done])
    )
    assert finding.next_spot(None, 1, spot) == wanted
