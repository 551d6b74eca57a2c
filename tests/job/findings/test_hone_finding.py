"""The hone's finding over every case and boundary: which is told first, and at which figure it turns."""

import itertools
from types import SimpleNamespace

import pytest

from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.core.stroke_track import Between, Track
from redline_bore.job.card import Mark
from redline_bore.job.gauge.hole import HoleShape, Out
from redline_bore.job.hone import finding
from redline_bore.job.hone.finding import HoneCall, HoneFinding, WallBefore, judge
from redline_bore.job.hone.progress import Progress
from redline_bore.job.hone.shape import ShapeAtHone
from redline_bore.job.hone.track import Aim, Ends
from redline_bore.job.kinds.hone import HoneSet
from redline_bore.job.missing import Lack, Missing
from redline_bore.job.redline import WrongPiston
from redline_bore.job.state.honing import Check
from redline_bore.job.words import hone as words

C, W = HoneCall, WallBefore
TINY = 1e-7
ENDS = Ends(80.0, 79.985, 80.015, 0.005)


def check(strokes=0.0, size=79.95, warm=None, plate=False, places=3, angles=2):
    sizes = (size,) * places
    across = sizes if angles == 2 else ()
    return Check(
        seq=1, cylinder=1, step=0, strokes=strokes, sizes_mm=sizes, across_mm=across, block_c=warm, at="", person="RM", plate_on=plate
    )  # fmt: skip


def tracked(to_aim=0.05, bite=10, least=20, most=40, looks=3, rate=0.001, expected=0.001):
    aim = Aim(80.0 - 0.001, 80.0 - 0.001, 0.0, 0.0015, 0.0)
    return SimpleNamespace(
        track=Track(79.95, rate, 1e-7, 0.0, 1e-9), aim=aim, bite=bite, between=Between(least, least + 1.0, most), to_aim_mm=to_aim, looks=looks,
        expected_mm=expected, prior_from="the book", new_stones=False,
    )  # fmt: skip


def progress(size=79.95, step=0, checks=None, track="usual", done=False, known=True, steps=3, provisional=False):
    """A cylinder that was read at ``size`` last, in a step of three; ``known``: its redline is."""
    checks = (check(size=size),) if checks is None else tuple(checks)
    practice = SimpleNamespace(steps=tuple(f"step {i}" for i in range(steps)))
    redline = SimpleNamespace(
        size_mm=80.0 if known else None, missing=Missing(Lack.PISTON, 1), piston=None, provisional=provisional
    )
    last = checks[-1] if checks else None
    left = None if last is None or not known else 80.0 - last.mean_mm
    track = tracked() if track == "usual" else track
    return Progress(1, redline, ENDS if known else None, practice, step, checks, last, 79.999, left, track, None, done)


def shape(out=(), ends_out=(), set_to=None):
    return ShapeAtHone(HoleShape(0.0, 0.0, 0.0, tuple(out), ()), tuple(ends_out), 0.0, 0.0, 40.0, set_to)


SET = HoneSet(machine="vertical", rpm=170.0, strokes_per_min=50.0, over_top_mm=20.0, over_bottom_mm=20.0)


@pytest.fixture
def judged(monkeypatch, shipped):
    """Judge a cylinder that stands so; ``bores``: the call is to bore; sizing: the step that brings it to size."""

    def judged(p, wall=W.TRACED, bores=True, warm=None, peaks=False, form=None, sizing=1, cracked=False, wrong=()):
        monkeypatch.setattr(finding, "wrong_pistons", lambda state: wrong)
        monkeypatch.setattr(finding, "stopped_by_crack", lambda state, cylinder: cracked)
        monkeypatch.setattr(finding, "progress_of", lambda state, cylinder: p)
        monkeypatch.setattr(finding, "bores_nothing", lambda state: not bores)
        monkeypatch.setattr(finding, "too_warm", lambda state, p: warm)
        monkeypatch.setattr(finding, "in_plateau", lambda state, p: peaks)
        monkeypatch.setattr(finding, "shape_at_hone", lambda state, cylinder: form)
        monkeypatch.setattr(finding, "sizing_step", lambda state: sizing)
        monkeypatch.setattr(finding, "seconds_a_stroke", lambda state, step: None)
        monkeypatch.setattr(finding, "light_strokes", lambda state: shipped.row("honing.plateau_strokes"))
        honing = SimpleNamespace(fresh=(), fresh_between=lambda after, before: False)
        return judge(SimpleNamespace(figures=shipped, honing=honing), 1, wall)

    return judged


@pytest.mark.parametrize(
    "p, wanted",
    [
        (progress(known=False), C.NO_REDLINE), (progress(checks=()), C.CHECK_FIRST), (progress(track=None), C.CHECK_FIRST),
        (progress(80.005 + TINY), C.PAST), (progress(80.005 - TINY, step=2, done=True), C.AT_REDLINE), (progress(80.0 + TINY, step=2, done=True), C.AT_REDLINE),
        (progress(80.0, step=2, done=True), C.AT_SIZE), (progress(79.99, step=2, done=True), C.AT_SIZE), (progress(79.99, done=True), C.STEP_DONE),
        (progress(track=tracked(looks=1)), C.FIRST_BITE), (progress(track=tracked(looks=2)), C.STROKES), (progress(80.01, step=2, done=True), C.PAST),
    ],
)  # fmt: skip
def test_what_is_told_at_every_figure_where_it_turns(judged, p, wanted):
    assert judged(p).call is wanted


@pytest.mark.parametrize(
    "p", [progress(known=False), progress(checks=()), progress(80.02), progress(80.0, step=2, done=True), progress()]
)
@pytest.mark.parametrize("bores", [True, False])
def test_a_crack_stops_the_hone_whatever_else_there_is(judged, p, bores):
    found = judged(p, cracked=True, bores=bores)
    sentence, mark = words.say(found, Show(Units.METRIC))
    assert found.call is C.CRACKED and mark is Mark.STOP and sentence.startswith("No stroke in cylinder 1")


@pytest.mark.parametrize(
    "known, cylinder, wanted", [(False, 1, C.WRONG_PISTON), (False, 2, C.NO_REDLINE), (True, 2, C.STROKES)]
)
def test_no_stroke_is_told_by_a_piston_that_is_none_of_the_call(judged, known, cylinder, wanted):
    found = judged(progress(known=known), wrong=(WrongPiston(cylinder, 80.45, 0.5, 0.0),))
    assert found.call is wanted and bool(found.bite) is (wanted is C.STROKES)
    if wanted is C.WRONG_PISTON:
        sentence, mark = words.say(found, Show(Units.METRIC))
        assert mark is Mark.STOP and "as +0.50 over pistons do, and the call is standard" in sentence


def test_a_place_past_the_top_of_its_window_is_past_whatever_the_mean(judged):
    wide = Check(1, 1, 0, 9.0, (79.95, 79.95, 80.015 + 0.005 + 2 * TINY), None, "", "RM")
    assert judged(progress(checks=(wide,))).call is C.PAST
    less = Check(1, 1, 0, 9.0, (79.95, 79.95, 80.015 + 0.005 - TINY), None, "", "RM")
    assert judged(progress(checks=(less,))).call is C.STROKES
    found = judged(progress(checks=(wide,)))
    assert "at its largest place" in words.say(found, Show(Units.METRIC)).sentence
    assert "the redline" in words.say(judged(progress(80.02)), Show(Units.METRIC)).sentence


@pytest.mark.parametrize("bite", [0, 1, 7])
def test_a_bite_is_told_with_the_strokes_to_the_end(judged, bite):
    found = judged(progress(track=tracked(bite=bite, least=12, most=30)))
    assert (found.bite, found.least, found.most) == (max(bite, 1), 12, 30)
    sentence = words.say(found, Show(Units.METRIC)).sentence
    assert sentence.startswith("12 to 30 more strokes. ") and f"{'One' if bite < 2 else bite} stroke" in sentence
    assert "12 or more more strokes" not in sentence
    assert "12 or more" in words.say(judged(progress(track=tracked(least=12, most=None))), Show(Units.METRIC)).sentence


@pytest.mark.parametrize(
    "to_aim, creeps", [(0.010, True), (0.010 + TINY, False), (0.002, True), (0.05, False), (0.0, False)]
)
def test_it_creeps_from_a_hundredth(judged, to_aim, creeps):
    assert judged(progress(track=tracked(to_aim))).creeping is creeps


@pytest.mark.parametrize("p", [progress(), progress(done=True), progress(79.99, step=2, done=True)])
def test_a_warm_block_cools_first(judged, p):
    found = judged(p, warm=26.0)
    assert found.call is C.COOL and found.warm_c == 26.0


@pytest.mark.parametrize(
    "warms, strokes, to_aim, wanted",
    [((20.0, 23.0), (0, 9), 0.01, None), ((20.0, 23.1), (0, 9), 0.01, 23.1), ((20.0, 23.1), (0, 9), 0.0101, None), ((20.0, 23.1), (9, 9), 0.01, None),
     ((14.0, 19.9), (0, 9), 0.01, None), ((14.0, 20.1), (0, 9), 0.01, 20.1), ((30.0, 30.0), (0, 9), 0.01, None), ((30.0, None), (0, 9), 0.01, None)],
)  # fmt: skip
def test_cooling_is_asked_once_near_size_of_a_block_that_has_warmed(shipped, warms, strokes, to_aim, wanted):
    checks = [check(float(n), warm=w) for n, w in zip(strokes, warms, strict=True)]
    state = SimpleNamespace(figures=shipped, honing=SimpleNamespace(checks_of=lambda c: tuple(checks)))
    assert finding.too_warm(state, progress(checks=checks, track=tracked(to_aim))) == wanted


@pytest.mark.parametrize(
    "places, angles, wanted",
    [(3, 2, C.AT_SIZE), (3, 1, C.READ_ENDS), (2, 2, C.READ_ENDS), (1, 1, C.READ_ENDS), (4, 2, C.AT_SIZE)],
)
def test_at_size_is_said_only_of_a_hole_read_at_both_ends_and_both_angles(judged, places, angles, wanted):
    one = check(size=79.995, places=places, angles=angles)
    assert judged(progress(checks=(one,), step=2, done=True)).call is wanted
    early = check(size=79.99, places=places, angles=angles)
    assert judged(progress(checks=(early,), done=True)).call is C.STEP_DONE, "an earlier step only goes on"


@pytest.mark.parametrize(
    "plates, differs",
    [
        ((True, True), False),
        ((True, False), True),
        ((False, True), True),
        ((False, False), False),
        ((True, False, False), False),
        ((False,), False),
    ],
)
def test_a_check_with_the_plate_otherwise_than_before_allows_no_stroke(judged, plates, differs):
    checks = tuple(check(10.0 * n, 79.93 + 0.01 * n, plate=on) for n, on in enumerate(plates))
    found = judged(progress(checks=checks))
    assert (found.call is C.PLATE_DIFFERS) is differs and (found.bite == 0) is differs
    over = tuple(check(float(n), 80.02, plate=on) for n, on in enumerate(plates))
    assert judged(progress(80.02, checks=over)).call is C.PAST, "past is told first"


def test_past_the_redline_is_told_before_anything_warm_or_done(judged):
    found = judged(progress(80.02, step=2, done=True), warm=40.0, peaks=True, wall=W.VALLEYS_MISSING)
    assert found.call is C.PAST and found.over_mm == pytest.approx(0.02)


@pytest.mark.parametrize("step, form, wanted", [
    (0, shape(out=(Out.TAPER,)), C.STEP_DONE), (1, shape(out=(Out.TAPER,)), C.TIGHT), (2, shape(out=(Out.OVAL,)), C.TIGHT),
    (2, shape(ends_out=(Out.TIGHT,)), C.TIGHT), (2, shape(), C.AT_SIZE), (1, shape(), C.STEP_DONE), (2, None, C.AT_SIZE),
])  # fmt: skip
def test_at_size_leave_it_is_never_said_of_a_hole_that_is_out_of_shape(judged, step, form, wanted):
    assert judged(progress(79.995, step=step, done=True), form=form).call is wanted


@pytest.mark.parametrize("out, told", [
    (Out.TAPER, "taper"), (Out.BULGE, "hourglass"), (Out.OVAL, "out of round"), (Out.TIGHT, "seize"), (Out.WIDE, "over its window"),
])  # fmt: skip
def test_what_is_out_is_said(judged, out, told):
    ends = (out,) if out in (Out.TIGHT, Out.WIDE) else ()
    found = judged(progress(79.995, step=2, done=True), form=shape(out=() if ends else (out,), ends_out=ends))
    sentence, mark = words.say(found, Show(Units.METRIC))
    assert told in sentence and mark is Mark.STOP


def test_a_tight_end_is_put_right_while_there_is_stock_and_not_once_it_is_done(judged):
    assert judged(progress(), form=shape(set_to=SET)).call is C.TRUE_UP
    assert judged(progress(done=True), form=shape(set_to=SET)).call is C.STEP_DONE
    assert judged(progress(), form=shape(set_to=SET), peaks=True).call is not C.TRUE_UP


def test_stones_that_give_no_metal_are_told_after_two_bites_that_took_none(judged):
    flat = [check(0.0, 79.90), check(10.0, 79.91), check(30.0, 79.9105), check(50.0, 79.911)]
    assert judged(progress(checks=flat)).call is C.NO_METAL and judged(progress(checks=flat[1:])).call is C.NO_METAL
    for checks in (
        flat[:3],
        flat[2:],
        [*flat[:3], check(50.0, 79.915)],
        [*flat[:2], check(10.0, 79.91), check(10.0, 79.91)],
    ):
        assert judged(progress(checks=checks)).call is C.STROKES
    assert judged(progress(checks=flat, track=tracked(expected=0.0002))).call is C.STROKES, (
        "light stones take that little"
    )


PLATEAU = [
    # strokes done, wall before, light strokes the size allows -> call, bite, most (8 to 20 are wanted)
    (0, W.VALLEYS_MISSING, 40, C.VALLEYS_MISSING, 0, 0), (1, W.VALLEYS_MISSING, 40, C.PLATEAU_GO, 7, 19),
    (0, W.NOT_TRACED, 40, C.PLATEAU_TRACE_FIRST, 8, 20), (0, W.TRACED, 40, C.PLATEAU_GO, 8, 20), (5, W.NOT_TRACED, 40, C.PLATEAU_GO, 3, 15),
    (0, W.TRACED, 7, C.PLATEAU_SHORT, 7, 7), (0, W.TRACED, 8, C.PLATEAU_GO, 8, 8), (0, W.NOT_TRACED, 7, C.PLATEAU_SHORT, 7, 7),
    (0, W.TRACED, 0, C.PLATEAU_SHORT, 0, 0), (7, W.TRACED, 1, C.PLATEAU_GO, 1, 1), (6, W.TRACED, 1, C.PLATEAU_SHORT, 1, 1),
]  # fmt: skip


@pytest.mark.parametrize("done, wall, allowed, wanted, bite, most", PLATEAU)
def test_the_plateau(judged, done, wall, allowed, wanted, bite, most):
    checks = (check(size=79.995), *([check(float(done), 79.995)] if done else []))
    found = judged(progress(step=2, checks=checks, track=tracked(0.004, allowed)), wall, peaks=True)
    assert (found.call, found.bite, found.most) == (wanted, bite, most)


@pytest.mark.parametrize("allowed, wanted", [(5, C.PLATEAU_DONE), (0, C.AT_SIZE)])
def test_a_plateau_that_had_its_strokes_is_done(judged, allowed, wanted):
    found = judged(
        progress(79.995, step=2, checks=(check(8.0, 79.995),), track=tracked(0.004, allowed), done=True), peaks=True
    )
    assert found.call is wanted


def test_trace_it_first_is_never_said_once_the_plateau_began(judged):
    for done, wall in itertools.product(range(1, 8), W):
        checks = (check(size=79.995), check(float(done), 79.995))
        assert judged(progress(step=2, checks=checks), wall, peaks=True).call is C.PLATEAU_GO


LIGHT = [
    # checks (strokes, size) -> call, least, most; ten to twenty strokes, five microns at most
    ((), C.LIGHT_GO, 10, 20), (((0, 80.0),), C.LIGHT_GO, 10, 20), (((0, 80.0), (6, 80.001)), C.LIGHT_GO, 4, 14),
    (((0, 80.0), (15, 80.0)), C.LIGHT_GO, 1, 5), (((0, 80.0), (19, 80.0)), C.LIGHT_GO, 1, 1), (((0, 80.0), (20, 80.0)), C.LIGHT_DONE, 0, 0),
    (((0, 80.0), (25, 80.0)), C.LIGHT_DONE, 0, 0), (((0, 80.0), (6, 80.00499)), C.LIGHT_GO, 4, 14), (((0, 80.0), (6, 80.0051)), C.LIGHT_GROWN, 0, 0),
    (((0, 80.0), (20, 80.0051)), C.LIGHT_GROWN, 0, 0),
]  # fmt: skip


@pytest.mark.parametrize("size, done, step, wanted", [
    (79.95, False, 1, C.STROKES), (80.02, False, 1, C.WAITS_FOR_PISTON), (79.999, True, 1, C.WAITS_FOR_PISTON), (79.95, True, 0, C.STEP_DONE),
    (80.02, False, 0, C.WAITS_FOR_PISTON),
])  # fmt: skip
def test_a_hole_without_its_piston_is_honed_no_further_than_any_piston_allows(judged, size, done, step, wanted):
    p = progress(size=size, done=done, step=step, provisional=True)
    assert judged(p).call is wanted


@pytest.mark.parametrize("checks, wanted, least, most", LIGHT)
def test_a_deglaze_counts_strokes_and_takes_no_size(judged, checks, wanted, least, most):
    found = judged(progress(known=False, checks=[check(float(n), size) for n, size in checks]), bores=False)
    assert (found.call, found.least, found.most) == (wanted, least, most)


MARKS = {
    C.CRACKED: Mark.STOP, C.LIGHT_GROWN: Mark.STOP, C.LIGHT_DONE: Mark.LOOK, C.LIGHT_GO: Mark.PLAIN, C.NO_REDLINE: Mark.LOOK, C.WRONG_PISTON: Mark.STOP, C.CHECK_FIRST: Mark.PLAIN,
    C.PAST: Mark.STOP, C.PLATE_DIFFERS: Mark.LOOK, C.READ_ENDS: Mark.LOOK, C.COOL: Mark.LOOK, C.AT_SIZE: Mark.SOUND, C.AT_REDLINE: Mark.SOUND, C.TIGHT: Mark.STOP, C.STEP_DONE: Mark.SOUND,
    C.WAITS_FOR_PISTON: Mark.LOOK, C.TRUE_UP: Mark.LOOK, C.VALLEYS_MISSING: Mark.STOP, C.PLATEAU_DONE: Mark.SOUND, C.PLATEAU_SHORT: Mark.LOOK, C.PLATEAU_TRACE_FIRST: Mark.PLAIN,
    C.PLATEAU_GO: Mark.PLAIN, C.FIRST_BITE: Mark.PLAIN, C.NO_METAL: Mark.LOOK, C.STROKES: Mark.PLAIN,
}  # fmt: skip


WRONG = WrongPiston(1, 80.45, 0.5, 0.0)


@pytest.mark.parametrize("call", C)
def test_every_call_has_its_words_and_its_mark(call):
    form = shape(out=(Out.TAPER,), set_to=SET)
    sentence, mark = words.say(HoneFinding(call, progress(), 3, 5, 9, shape=form, wrong=WRONG), Show(Units.METRIC))
    assert mark is MARKS[call] and sentence.endswith(".") and sentence[0].isupper() or sentence[0].isdigit()
    assert not sentence.startswith("Stop")  # the card says it, wherever the mark is a stop
    creeping = HoneFinding(call, progress(), 3, 5, 9, creeping=True, shape=form, wrong=WRONG)
    assert words.say(creeping, Show(Units.METRIC)).sentence == f"Creep. {sentence}"


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


@pytest.mark.parametrize(
    "to_aim, bite, rate, across, plateau, wanted",
    [
        (0.060, 10, 0.002, True, False, True), (0.040, 10, 0.002, True, False, False), (0.0401, 10, 0.002, True, False, True),  # 0.020 likely left
        (0.060, 10, 0.002, False, False, False), (0.060, 10, 0.002, True, True, False), (0.005, 0, 0.002, True, False, False),
    ],
)  # fmt: skip
def test_one_direction_is_enough_only_far_from_the_end_and_once_both_were_read(
    monkeypatch, shipped, to_aim, bite, rate, across, plateau, wanted
):
    tracked = SimpleNamespace(to_aim_mm=to_aim, bite=bite, track=SimpleNamespace(rate_mm=rate))
    monkeypatch.setattr(finding, "progress_of", lambda state, c: SimpleNamespace(tracked=tracked, last="a check"))
    monkeypatch.setattr(finding, "in_plateau", lambda state, p: plateau)
    checks = (SimpleNamespace(across_mm=(92.0,) if across else ()),)
    state = SimpleNamespace(figures=shipped, honing=SimpleNamespace(checks_of=lambda c: checks))
    assert finding.one_way_does(state, 1) is wanted


@pytest.mark.parametrize(
    "set_at, wanted", [([], False), ([5], False), ([10], False), ([11], True), ([11, 12], True), ([5, 11], True)]
)
def test_the_gauge_is_set_on_its_master_once_a_cylinder(set_at, wanted):
    spans = tuple(SimpleNamespace(start_seq=s) for s in set_at)
    state = SimpleNamespace(
        honing=SimpleNamespace(checks_of=lambda c: (SimpleNamespace(seq=10),)),
        gauging=SimpleNamespace(zero_spans=spans),
    )
    assert finding.zeroed_for(state, 1) is wanted
    assert not finding.zeroed_for(
        SimpleNamespace(honing=SimpleNamespace(checks_of=lambda c: ()), gauging=state.gauging), 1
    )
