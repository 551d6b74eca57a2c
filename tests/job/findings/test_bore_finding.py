"""The bar's finding over every case and boundary, and its words."""

from types import SimpleNamespace

import pytest

from redline_bore.core.frozen import replace
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.bore import finding
from redline_bore.job.bore.finding import BoreCall, BoreFinding, judge
from redline_bore.job.bore.plan import BorePlan
from redline_bore.job.bore.tool_lessons import ProofWant as W
from redline_bore.job.bore.tool_lessons import proof_wants
from redline_bore.job.card import Mark
from redline_bore.job.missing import Lack, Missing
from redline_bore.job.words import bore as words

C = BoreCall
TINY = 2e-9


def hole(largest, smallest=None, both_ends=True):
    return SimpleNamespace(
        seq=10, cylinder=1, largest_mm=largest, smallest_mm=largest if smallest is None else smallest, sizes_mm=(largest,) * 3,
        across_mm=(largest,), both_ends=both_ends,
    )  # fmt: skip


def plan(redline=80.5, target=80.43, setting=80.43, passes=(0.1,), done=None):
    return BorePlan(1, redline, target, 0.4, passes, setting, (0.06, 0.08), Missing(Lack.PISTON, 1), done)


@pytest.fixture
def judged(monkeypatch, shipped):
    """Judge a cylinder with this plan; unproved, sleeve: whether the first hole proves nothing, and a sleeve is awaited."""

    def judged(
        p,
        bar=True,
        unproved="",
        sleeve=False,
        setting=None,
        holes=(),
        stands=True,
        look=(),
        looks=(),
        cracked=False,
        honing=(),
    ):
        monkeypatch.setattr(finding, "stopped_by_crack", lambda state, cylinder: cracked)
        monkeypatch.setattr(finding, "plan_of", lambda state, cylinder, day: p)
        monkeypatch.setattr(finding, "awaits_sleeve", lambda state, cylinder: sleeve)
        monkeypatch.setattr(finding, "unproved", lambda state, hole: unproved)
        monkeypatch.setattr(finding, "setting_now", lambda state, cylinder, day: setting)
        monkeypatch.setattr(finding, "call_stands", lambda state, cylinder: stands)
        monkeypatch.setattr(finding, "to_look_at", lambda state: look)
        monkeypatch.setattr(finding, "waits_for", lambda state, cylinder: () if cylinder in look else look)
        boring = SimpleNamespace(bar=bar or None, holes=holes, looks=looks)
        return judge(
            SimpleNamespace(boring=boring, figures=shipped, honing=SimpleNamespace(checks_of=lambda c: honing)), 1
        )

    return judged


@pytest.mark.parametrize(
    "left, unproved, wanted",
    [
        (-0.001, "", C.OVER), (0.0, "", C.OVER), (1e-6, "", C.LITTLE_LEFT), (0.06 - 1e-6, "", C.LITTLE_LEFT), (0.06 + TINY, "", C.DONE),
        (0.06, "", C.DONE), (0.07, "", C.DONE), (0.08, "", C.DONE), (0.08 + 1e-6, "", C.MUCH_LEFT), (0.07, "at a second angle", C.UNPROVED),
        (0.17 - TINY, "", C.MUCH_LEFT), (0.17 + TINY, "", C.RECUT), (0.4, "at a second angle", C.RECUT),
        (-0.001, "at a second angle", C.OVER), (0.03, "at a second angle", C.LITTLE_LEFT), (0.09, "at a second angle", C.MUCH_LEFT),
    ],
)  # fmt: skip
def test_a_bored_hole_by_what_is_left_for_the_hone(judged, left, unproved, wanted):
    found = judged(plan(redline=80.0, done=hole(80.0 - left)), unproved=unproved)
    assert found.call is wanted and found.left_mm == pytest.approx(left)


@pytest.mark.parametrize(
    ("left", "tight", "both_ends", "uneven", "mark"),
    [
        (0.07, 0.07, True, False, Mark.SOUND), (0.06, 0.09, True, False, Mark.SOUND), (0.06, 0.09 + 1e-6, True, True, Mark.LOOK),
        (0.07, 0.16, True, True, Mark.LOOK), (0.07, 0.07, False, False, Mark.PLAIN), (0.07, 0.16, False, True, Mark.LOOK),
    ],
)  # fmt: skip
def test_a_tick_is_for_a_hole_that_is_known_at_both_ends_and_as_wide_at_both(
    judged, left, tight, both_ends, uneven, mark
):
    found = judged(plan(redline=80.0, done=hole(80.0 - left, 80.0 - tight, both_ends)))
    assert (found.call, found.uneven, found.ends_read) == (C.DONE, uneven, both_ends)
    sentence, shown = words._left_there(found, Show(Units.METRIC))
    assert shown is mark and f"{left:.3f} mm is left" in sentence
    assert (f"{tight:.3f} mm at its tightest" in sentence) is uneven and ("Both ends are not known" in sentence) is (
        not both_ends and not uneven
    )


@pytest.mark.parametrize("done", [None, hole(80.3), hole(80.49), hole(80.6)])
@pytest.mark.parametrize(
    "more", [{}, {"bar": False}, {"stands": False}, {"look": (2,)}, {"unproved": "at a second angle"}]
)
def test_a_crack_stops_the_bar_whatever_else_there_is(judged, done, more):
    found = judged(plan(done=done), cracked=True, **more)
    assert found.call is C.CRACKED


def test_a_bored_hole_without_a_redline_is_not_judged(judged):
    assert judged(plan(redline=None, done=hole(80.0))).call is C.DONE_NO_REDLINE


@pytest.mark.parametrize(
    "p, bar, sleeve, setting, wanted",
    [
        (plan(), True, True, None, C.WAITS_FOR_SLEEVE), (plan(target=None), True, False, None, C.NOT_KNOWN),
        (plan(setting=None), True, False, None, C.NOT_KNOWN), (plan(passes=()), True, False, None, C.NOT_KNOWN),
        (plan(target=None), False, False, None, C.NOT_KNOWN), (plan(), False, False, None, C.NO_BAR), (plan(), True, False, None, C.SET),
        (plan(), True, False, (80.2, 1, 3), C.PASS), (plan(), True, False, (80.3, 2, 3), C.PASS), (plan(), True, False, (80.43, 3, 3), C.SET),
    ],
)  # fmt: skip
def test_a_hole_still_to_bore(judged, p, bar, sleeve, setting, wanted):
    assert judged(p, bar, sleeve=sleeve, setting=setting).call is wanted


def test_the_bar_is_not_set_while_something_speaks_against_the_call(judged):
    assert judged(plan(), stands=False).call is C.AGAINST_CALL
    assert judged(plan(target=None), stands=False).call is C.AGAINST_CALL
    assert (
        judged(plan(done=hole(80.43)), stands=False).call is C.DONE
        and judged(plan(), stands=False, sleeve=True).call is C.WAITS_FOR_SLEEVE
    )


@pytest.mark.parametrize("left", [-0.01, 0.03, 0.07, 0.12, 0.169])
def test_a_bored_hole_that_decides_the_size_is_looked_at_before_anything_else_is_said(judged, left):
    p = plan(redline=80.0, done=hole(80.0 - left))
    assert judged(p, look=(1,)).call is C.LOOK and judged(p, look=(1, 2)).call is C.LOOK
    assert judged(p, look=(2,)).call is not C.LOOK


def test_a_hole_that_came_small_is_cut_to_its_size_before_anybody_looks(judged):
    assert judged(plan(redline=80.0, done=hole(80.0 - 0.4)), look=(1,)).call is C.RECUT


@pytest.mark.parametrize(
    "look, sleeve, stands, wanted",
    [((2,), False, True, C.LOOK_FIRST), ((2, 3), False, True, C.LOOK_FIRST), ((1,), False, True, C.SET), ((1, 2), False, True, C.SET),
     ((), False, True, C.SET), ((2,), True, True, C.WAITS_FOR_SLEEVE), ((2,), False, False, C.AGAINST_CALL)],
)  # fmt: skip
def test_the_others_wait_until_the_one_that_decides_is_looked_at(judged, look, sleeve, stands, wanted):
    found = judged(plan(), look=look, sleeve=sleeve, stands=stands)
    assert found.call is wanted and bool(found.others == look and look) is (wanted is C.LOOK_FIRST)


def seen(seq, clean, cylinder=1, deep=None):
    return SimpleNamespace(seq=seq, clean=clean, cylinder=cylinder, deep_mm=deep, depth_mm=None, clock_deg=None)


@pytest.mark.parametrize(
    "looks, stands, wanted",
    [((seen(11, False),), False, C.GAUGE_PATCH), ((seen(11, False),), True, C.GAUGE_PATCH), ((seen(11, True),), False, C.DONE),
     ((seen(9, False),), False, C.DONE), ((seen(10, False),), False, C.DONE), ((seen(11, False, 2),), False, C.DONE),
     ((seen(11, True), seen(12, False)), False, C.GAUGE_PATCH), ((), False, C.DONE),
     ((seen(11, False), seen(12, False, deep=0.02)), False, C.AGAINST_CALL), ((seen(11, False), seen(12, False, deep=0.02)), True, C.DONE),
     ((seen(11, False, deep=0.02), seen(12, True)), False, C.DONE)],
)  # fmt: skip
def test_a_patch_is_gauged_and_stops_only_where_the_call_no_longer_stands(judged, looks, stands, wanted):
    assert judged(plan(done=hole(80.43)), stands=stands, looks=looks, honing=()).call is wanted


@pytest.mark.parametrize("deep, spare", [(0.02, 0.03), (0.035, 0.0), (0.034, 0.002)])
def test_what_the_hone_takes_under_the_deepest_patch(judged, deep, spare):
    found = judged(
        plan(redline=80.5, done=hole(80.43)), looks=(seen(11, False, deep=deep), seen(12, False, deep=0.001)), honing=()
    )
    assert found.patch_mm == pytest.approx(spare)
    assert found.call is C.DONE and words._left_there(found, Show(Units.METRIC))[1] is Mark.LIKELY


@pytest.mark.parametrize(
    "deep, provisional, wanted",
    [
        (0.034, False, C.DONE),
        (0.036, False, C.PATCH_STAYS),
        (0.036, True, C.DONE),  # a larger piston of the size may still come
        (0.067, True, C.DONE),
        (0.069, True, C.PATCH_STAYS),
    ],
)
def test_a_patch_out_of_the_hones_reach_is_a_stop_whatever_the_call_was_based_on(
    judged, monkeypatch, deep, provisional, wanted
):
    monkeypatch.setattr(finding, "all_bored", lambda state: False)
    p = replace(plan(redline=80.5, done=hole(80.43)), provisional=provisional)
    assert judged(p, looks=(seen(11, False, deep=deep),)).call is wanted


@pytest.mark.parametrize(
    "provisional, every, wanted", [(True, True, C.BUY_PISTONS), (True, False, C.DONE), (False, True, C.DONE)]
)
def test_pistons_are_bought_once_every_hole_is_bored_and_seen(judged, monkeypatch, provisional, every, wanted):
    monkeypatch.setattr(finding, "all_bored", lambda state: every)
    monkeypatch.setattr(finding, "any_patch_stays", lambda state: False)
    assert judged(replace(plan(done=hole(80.43)), provisional=provisional)).call is wanted


def test_a_hole_that_came_small_is_cut_again_to_the_same_setting(judged):
    assert judged(plan(redline=80.0, setting=79.93, done=hole(79.7))).setting_mm == 79.93


def test_a_pass_is_told_with_its_own_setting_and_the_last_with_the_plans(judged):
    one, last = judged(plan(), setting=(80.2, 1, 3)), judged(plan(), setting=(80.2, 3, 3))
    assert (one.setting_mm, one.pass_of) == (80.2, (1, 3)) and last.setting_mm == 80.43


@pytest.mark.parametrize("holes, first", [((), True), ((hole(80.0),), False)])
def test_only_the_first_hole_is_to_be_proved(judged, holes, first):
    assert judged(plan(), holes=holes).first is first


@pytest.mark.parametrize(
    "sizes, across, wanted",
    [((80.0,) * 3, (80.0,), ()), ((80.0,) * 2, (80.0,), (W.THREE_PLACES,)), ((80.0,) * 3, (), (W.SECOND_ANGLE,)),
     ((80.0,), (), (W.THREE_PLACES, W.SECOND_ANGLE)), ((80.0,) * 4, (80.0,), ())],
)  # fmt: skip
def test_what_a_first_hole_is_not_measured_for(sizes, across, wanted):
    assert proof_wants(SimpleNamespace(sizes_mm=sizes, across_mm=across)) == wanted


MARKS = {
    C.CRACKED: Mark.STOP, C.DONE_NO_REDLINE: Mark.LOOK, C.OVER: Mark.STOP, C.LITTLE_LEFT: Mark.LOOK, C.MUCH_LEFT: Mark.LOOK, C.RECUT: Mark.LOOK, C.AGAINST_CALL: Mark.STOP, C.UNPROVED: Mark.LOOK,
    C.DONE: Mark.SOUND, C.WAITS_FOR_SLEEVE: Mark.PLAIN, C.NOT_KNOWN: Mark.LOOK, C.NO_BAR: Mark.LOOK, C.LOOK: Mark.LOOK, C.GAUGE_PATCH: Mark.LOOK, C.BUY_PISTONS: Mark.PLAIN, C.PATCH_STAYS: Mark.STOP, C.LOOK_FIRST: Mark.LOOK, C.PASS: Mark.PLAIN, C.SET: Mark.PLAIN,
}  # fmt: skip


@pytest.mark.parametrize("call", C)
def test_every_call_has_its_words_and_its_mark(call, monkeypatch):
    monkeypatch.setattr(words, "against", lambda state, cylinder, show: "piston 1 is not of this call.")
    sentence, mark = words.say(None, BoreFinding(call, plan(), 0.07, (1, 2), 80.2, others=(4,)), Show(Units.METRIC))
    assert mark is MARKS[call] and sentence.endswith(".")
