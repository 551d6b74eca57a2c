"""The hone's finding over every case and boundary: which is told first, and at which figure it turns."""

import itertools
from types import SimpleNamespace

import pytest

from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.card import Mark
from redline_bore.job.hone import finding
from redline_bore.job.hone.finding import HoneCall, HoneFinding, WallBefore, judge
from redline_bore.job.hone.progress import AT_SIZE_MM, HAIR_MM, Progress
from redline_bore.job.state.honing import Check
from redline_bore.job.words import hone as words

C, W = HoneCall, WallBefore
TINY = 1e-7


def check(strokes=0.0, size=80.0):
    return Check(seq=1, cylinder=1, step=0, strokes=strokes, sizes_mm=(size,), block_c=None, at="", person="RM")


CHECKED = (check(),)


def progress(left=0.05, to_end=None, step=0, checks=CHECKED, projection=None, size=80.0, steps=3):
    """A cylinder with so much left: to the redline, and to the end of its step (the redline unless said)."""
    target = None if size is None or left is None else size - (left - (left if to_end is None else to_end))
    practice = SimpleNamespace(steps=tuple(f"step {i}" for i in range(steps)))
    redline = SimpleNamespace(size_mm=size, missing="no piston")
    return Progress(1, redline, practice, step, tuple(checks), target, left, projection, None)


def projected(strokes, low, high, rate=0.001):
    return SimpleNamespace(strokes=strokes, low=low, high=high, rate=SimpleNamespace(mm=rate))


@pytest.fixture
def judged(monkeypatch, shipped):
    """Judge a cylinder that stands so; ``bores``: the call is to bore."""

    def judged(p, wall=W.TRACED, bores=True, warm=None, peaks=False):
        monkeypatch.setattr(finding, "progress_of", lambda state, cylinder: p)
        monkeypatch.setattr(finding, "bores_nothing", lambda state: not bores)
        monkeypatch.setattr(finding, "too_warm", lambda state, p: warm)
        monkeypatch.setattr(finding, "in_plateau", lambda state, p: peaks)
        monkeypatch.setattr(finding, "plateau_rate", lambda state, p: 0.0005)
        return judge(SimpleNamespace(figures=shipped), 1, wall)

    return judged


@pytest.mark.parametrize(
    "p, wanted",
    [
        (progress(size=None, left=None), C.NO_REDLINE), (progress(left=None), C.CHECK_FIRST), (progress(checks=()), C.CHECK_FIRST),
        (progress(left=-HAIR_MM - TINY), C.PAST), (progress(left=-0.01, step=2), C.PAST),
        (progress(left=-HAIR_MM + TINY, step=2), C.AT_SIZE), (progress(left=AT_SIZE_MM - TINY, step=2), C.AT_SIZE),
        (progress(left=AT_SIZE_MM + TINY, step=2), C.FEW_THEN_GAUGE), (progress(left=0.02, to_end=0.0), C.STEP_DONE),
        (progress(left=0.02, to_end=AT_SIZE_MM - TINY), C.STEP_DONE), (progress(left=0.02, to_end=AT_SIZE_MM + TINY), C.FEW_THEN_GAUGE),
        (progress(left=0.02, to_end=-0.03), C.STEP_DONE), (progress(), C.FEW_THEN_GAUGE),
        (progress(projection=projected(None, None, None)), C.NO_METAL), (progress(projection=projected(5.0, None, 6.0)), C.NO_METAL),
        (progress(projection=projected(1.0, 0.99, 2.0)), C.ONE_AT_A_TIME), (progress(projection=projected(1.0, 1.0, 2.0)), C.STROKES),
        (progress(projection=projected(5.0, 4.2, None)), C.UNSTEADY), (progress(projection=projected(5.0, 4.2, 6.7)), C.STROKES),
    ],
)  # fmt: skip
def test_what_is_told_at_every_figure_where_it_turns(judged, p, wanted):
    assert judged(p).call is wanted


def test_strokes_are_rounded_down_to_stop_at_and_up_to_go_to(judged):
    found = judged(progress(projection=projected(5.0, 4.9, 6.1)))
    assert (found.least, found.most, found.creeping) == (4, 7, False)
    assert judged(progress(projection=projected(5.0, 4.0, 4.0))).most == 4
    assert judged(progress(projection=projected(5.0, 4.9, 6.0))).most == 6


@pytest.mark.parametrize("left, creeps", [(0.010, True), (0.010 + TINY, False), (0.002, True), (0.05, False)])
def test_it_creeps_from_a_hundredth(judged, left, creeps):
    assert judged(progress(left=left)).creeping is creeps


@pytest.mark.parametrize(
    "to_end, warm, wanted",
    [(0.010, 24.0, C.COOL), (0.010 + TINY, 24.0, C.FEW_THEN_GAUGE), (AT_SIZE_MM + TINY, 24.0, C.COOL),
     (AT_SIZE_MM - TINY, 24.0, C.STEP_DONE), (0.010, None, C.FEW_THEN_GAUGE)],
)  # fmt: skip
def test_a_warm_block_cools_before_the_last_of_it(judged, to_end, warm, wanted):
    found = judged(progress(left=0.05, to_end=to_end), warm=warm)
    assert found.call is wanted and found.warm_c == (warm if wanted is C.COOL else 0.0)


def test_past_the_redline_is_told_before_anything_warm_or_done(judged):
    found = judged(progress(left=-0.02, step=2), warm=40.0, peaks=True, wall=W.VALLEYS_MISSING)
    assert found.call is C.PAST and found.over_mm == pytest.approx(0.02)


PLATEAU = [
    # strokes done, wall before, metal to the end -> call, least, most (0.0005 mm a light stroke; 8 to 20 wanted)
    (0, W.VALLEYS_MISSING, 0.02, C.VALLEYS_MISSING, 0, 0), (1, W.VALLEYS_MISSING, 0.02, C.PLATEAU_GO, 7, 19),
    (0, W.NOT_TRACED, 0.02, C.PLATEAU_TRACE_FIRST, 8, 20), (0, W.TRACED, 0.02, C.PLATEAU_GO, 8, 20),
    (5, W.NOT_TRACED, 0.02, C.PLATEAU_GO, 3, 15), (19, W.TRACED, 0.02, C.PLATEAU_GO, 1, 1), (20, W.TRACED, 0.02, C.PLATEAU_DONE, 0, 0),
    (25, W.NOT_TRACED, 0.02, C.PLATEAU_DONE, 0, 0), (20, W.VALLEYS_MISSING, 0.02, C.PLATEAU_DONE, 0, 0),
    (0, W.TRACED, 0.0039, C.PLATEAU_SHORT, 0, 7), (0, W.TRACED, 0.00401, C.PLATEAU_GO, 8, 8), (0, W.NOT_TRACED, 0.0039, C.PLATEAU_SHORT, 0, 7),
    (8, W.TRACED, 0.0021, C.PLATEAU_GO, 1, 4), (6, W.TRACED, 0.0015 + TINY, C.PLATEAU_GO, 2, 3),
]  # fmt: skip


@pytest.mark.parametrize("done, wall, to_end, wanted, least, most", PLATEAU)
def test_the_plateau(judged, done, wall, to_end, wanted, least, most):
    found = judged(progress(left=to_end, step=2, checks=(check(), check(float(done)))), wall, peaks=True)
    assert (found.call, found.least, found.most) == (wanted, least, most)


def test_trace_it_first_is_never_said_once_the_plateau_began(judged):
    for done, wall in itertools.product(range(1, 20), W):
        assert (
            judged(progress(left=0.02, step=2, checks=(check(), check(float(done)))), wall, peaks=True).call
            is C.PLATEAU_GO
        )


LIGHT = [
    # checks (strokes, size) -> call, least, most; ten to twenty strokes, five microns at most
    ((), C.LIGHT_GO, 10, 20), (((0, 80.0),), C.LIGHT_GO, 10, 20), (((0, 80.0), (6, 80.001)), C.LIGHT_GO, 4, 14),
    (((0, 80.0), (15, 80.0)), C.LIGHT_GO, 1, 5), (((0, 80.0), (19, 80.0)), C.LIGHT_GO, 1, 1), (((0, 80.0), (20, 80.0)), C.LIGHT_DONE, 0, 0),
    (((0, 80.0), (25, 80.0)), C.LIGHT_DONE, 0, 0), (((0, 80.0), (6, 80.00499)), C.LIGHT_GO, 4, 14), (((0, 80.0), (6, 80.0051)), C.LIGHT_GROWN, 0, 0),
    (((0, 80.0), (20, 80.0051)), C.LIGHT_GROWN, 0, 0),
]  # fmt: skip


@pytest.mark.parametrize("checks, wanted, least, most", LIGHT)
def test_a_deglaze_counts_strokes_and_takes_no_size(judged, checks, wanted, least, most):
    found = judged(progress(size=None, left=None, checks=[check(float(n), size) for n, size in checks]), bores=False)
    assert (found.call, found.least, found.most) == (wanted, least, most)


MARKS = {
    C.LIGHT_GROWN: Mark.STOP, C.LIGHT_DONE: Mark.LOOK, C.LIGHT_GO: Mark.PLAIN, C.NO_REDLINE: Mark.LOOK, C.CHECK_FIRST: Mark.PLAIN,
    C.PAST: Mark.STOP, C.COOL: Mark.LOOK, C.AT_SIZE: Mark.SOUND, C.STEP_DONE: Mark.SOUND, C.VALLEYS_MISSING: Mark.STOP,
    C.PLATEAU_DONE: Mark.LOOK, C.PLATEAU_SHORT: Mark.LOOK, C.PLATEAU_TRACE_FIRST: Mark.PLAIN, C.PLATEAU_GO: Mark.PLAIN,
    C.FEW_THEN_GAUGE: Mark.PLAIN, C.NO_METAL: Mark.LOOK, C.ONE_AT_A_TIME: Mark.LOOK, C.UNSTEADY: Mark.LOOK, C.STROKES: Mark.PLAIN,
}  # fmt: skip


@pytest.mark.parametrize("call", C)
def test_every_call_has_its_words_and_its_mark(call):
    sentence, mark = words.say(HoneFinding(call, progress(), 3, 5, 2), Show(Units.METRIC))
    assert mark is MARKS[call] and sentence.endswith(".")
    assert sentence.startswith("Stop") is (mark is Mark.STOP)
    assert (
        words.say(HoneFinding(call, progress(), 3, 5, 2, creeping=True), Show(Units.METRIC))[0] == f"Creep. {sentence}"
    )


@pytest.mark.parametrize("step, wanted", [(0, "step 1"), (1, "step 2"), (2, "step 2")])
def test_the_step_after_is_never_one_too_many(step, wanted):
    assert HoneFinding(C.STEP_DONE, progress(step=step)).next_step == wanted


@pytest.mark.parametrize("which, wanted", [(1, (2, 3)), (2, (3, 1)), (3, (1, 2))])
def test_the_cylinders_behind_come_first(monkeypatch, which, wanted):
    stands = {1: (True, False), 2: (False, False), 3: (False, False), 4: (False, True)}
    stands[which] = (True, False)
    others = {c: SimpleNamespace(at_size=a, over=o) for c, (a, o) in stands.items()}
    others[1] = SimpleNamespace(at_size=which == 1, over=False)
    monkeypatch.setattr(finding, "progress_of", lambda state, c: others[c])
    assert finding.still_to_hone(SimpleNamespace(cylinders=(1, 2, 3, 4)), which) == wanted
