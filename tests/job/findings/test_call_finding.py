"""The call at a size, and the best of the ways: every verdict, which of them goes first, and their words."""

import itertools
from types import SimpleNamespace

import pytest

from redline_bore.core.cleanup import CleanUp, Verdict
from redline_bore.core.cleanup_bound import Lacks
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.call import finding
from redline_bore.job.call.asks import Ask, AskFor
from redline_bore.job.call.best import Best, BestFinding, best_of, can_pick
from redline_bore.job.call.clearance_there import ClearanceThere, There
from redline_bore.job.call.finding import CallVerdict, Smaller, judge
from redline_bore.job.call.finish_sizes import FinishSize
from redline_bore.job.call.ladder import Column, Fate, FateWay, Worn
from redline_bore.job.call.option import MAY, NO, SURE, UNKNOWN, Option, OptionKind
from redline_bore.job.call.reason import Measure, Reason, ToMeasure, Why
from redline_bore.job.call.walls import WallBound, WallPlace
from redline_bore.job.call.ways_there import Road, WayThere
from redline_bore.job.card import Mark
from redline_bore.job.words import call as words
from redline_bore.job.words import options as option_words
from redline_bore.job.words.fares import called_words, fate_words

V = CallVerdict
METRIC = Show(Units.METRIC)


READ = WallBound(81.0, 81.2, ())
PLACE = WallPlace(40.0, 90.0)


def column(cylinder, low=80.3, high=80.45, bound=True, walls=READ, levels=True, cut=None):
    lacks = () if bound else (Lacks.CHORDS,)
    need = None if low is None else CleanUp(low, (low + high) / 2.0, high, 0, bound, lacks)
    return Column(
        cylinder, SimpleNamespace(levels=levels, chords=4, cleanup=need), need, walls, "Not read", SimpleNamespace(swept=None, mark=None),
        Worn.ROUND, cut_mm=cut,
    )  # fmt: skip


def at(size):
    return FinishSize(size, size)


class FakeLadder:
    """Columns side by side; what is sure and what may do is stated."""

    def __init__(self, columns, rungs=(0.25, 0.5, 0.75), smallest=None, sure=False):
        self.columns, self.rungs_mm, self.nominal_mm = tuple(columns), rungs, 80.0
        self.smallest_possible, self._sure, self.worst, self.smallest_sure = smallest, sure, None, None

    def fates(self, over, apart=()):
        ways = {a.cylinder: a for a in apart}
        found = []
        for c in self.columns:
            away = ways.get(c.cylinder)
            way = FateWay.COMMON if away is None else FateWay.SLEEVE if away.oversize_mm is None else FateWay.OWN
            end = at(80.0 + over)
            found.append(Fate(c, over, end, way, c.verdict(end), c.too_thin(end), c.wall_stands(end)))
        return tuple(found)

    def sure(self, over):
        return self._sure

    def possible(self, over, apart=()):
        return not any(f.fails or (not f.sleeved and f.verdict is None) for f in self.fates(over, apart))


@pytest.fixture
def judged(monkeypatch):
    def judged(
        ladder, over=0.5, apart=(), within=False, asks=(), there=There.IN, hone=False, look=(), taken=None, honed=(),
        chance=0.5, ways=(), worth=True, told=False, stands=True, first=False,
    ):  # fmt: skip
        monkeypatch.setattr(finding, "ladder_of", lambda state: ladder)
        monkeypatch.setattr(finding, "hones_out", lambda state: hone)
        monkeypatch.setattr(finding, "within_limits", lambda state: within)
        monkeypatch.setattr(finding, "clearance_there", lambda state: ClearanceThere(there, (1,)))
        monkeypatch.setattr(finding, "asks_at", lambda state, ladder, over, apart: asks)
        monkeypatch.setattr(finding, "look_first", lambda state, ladder, over, apart: look)
        monkeypatch.setattr(finding, "chance_at", lambda state, over, apart: chance)
        monkeypatch.setattr(finding, "odds_told", lambda state: told)
        monkeypatch.setattr(finding, "proofs_among", lambda state, ladder, fates: ())
        monkeypatch.setattr(finding, "ways_there", lambda state, over, apart: ways)
        monkeypatch.setattr(finding, "pistons_first", lambda state, ladder, over: first)
        monkeypatch.setattr(finding, "worth_taking", lambda state, ladder, over: worth)
        monkeypatch.setattr(finding, "call_stands", lambda state, c: stands)
        honing = SimpleNamespace(checks_of=lambda cylinder: ("check",) if cylinder in honed else ())
        return judge(SimpleNamespace(calling=SimpleNamespace(decision=taken), honing=honing), over, apart)

    return judged


FITS, THIN, NEEDS_MORE = column(1), column(2, walls=WallBound(80.3, 80.49, ())), column(3, low=80.6, high=80.7)
SHADOW, UNKNOWN_ONE, NOT_READ = (
    column(4, high=80.6),
    column(5, low=None, levels=False),
    column(6, walls=WallBound(None, None, (PLACE,))),
)
NEAR = column(7, walls=WallBound(80.4, 80.6, ()))


def sleeve(cylinder):
    return SimpleNamespace(cylinder=cylinder, oversize_mm=None)


CASES = [
    # columns, cylinders apart, inside the limits -> verdict, about
    ((UNKNOWN_ONE,), (), False, V.NOT_GAUGED, (5,)), ((UNKNOWN_ONE,), (), True, V.NOT_GAUGED, (5,)), ((FITS, UNKNOWN_ONE), (), False, V.NOT_KNOWN, (5,)),
    ((column(1, low=None, levels=True),), (), False, V.NOT_KNOWN, (1,)), ((FITS, UNKNOWN_ONE), (sleeve(5),), False, V.BORE, (1,)),
    ((FITS,), (), True, V.LEAVE, ()), ((FITS, SHADOW), (), True, V.LEAVE, ()), ((FITS, NEEDS_MORE), (sleeve(3),), True, V.BORE, (1,)),
    ((FITS, THIN), (), False, V.TOO_THIN, (2,)), ((FITS, THIN, NEEDS_MORE), (), False, V.TOO_THIN, (2,)), ((FITS, THIN), (sleeve(2),), False, V.BORE, (1,)),
    ((FITS, NEEDS_MORE), (), False, V.WILL_NOT, (3,)), ((FITS, NEEDS_MORE, SHADOW), (), False, V.WILL_NOT, (3,)),
    ((FITS, SHADOW), (), False, V.MAY_SHADOW, (4,)), ((FITS, SHADOW), (sleeve(4),), False, V.BORE, (1,)), ((FITS,), (), False, V.BORE, (1,)),
    ((column(1, bound=False),), (), False, V.MAY_SHADOW, (1,)),
]  # fmt: skip


@pytest.mark.parametrize("columns, apart, within, verdict, about", CASES)
def test_the_verdict_at_a_size_and_which_goes_first(judged, columns, apart, within, verdict, about):
    found = judged(FakeLadder(columns), apart=apart, within=within)
    assert (found.verdict, found.cylinders) == (verdict, about)


@pytest.mark.parametrize(
    "there, verdict",
    [(There.IN, V.LEAVE), (There.NOT_MEASURED, V.LEAVE_ONCE_MEASURED), (There.CLOSE, V.LEAVE_TOO_CLOSE), (There.TIGHT, V.BORE), (There.WIDE, V.BORE)],
)  # fmt: skip
def test_a_hole_inside_its_limits_is_left_only_with_the_clearance_there_is(judged, there, verdict):
    found = judged(FakeLadder((FITS,)), within=True, there=there)
    assert found.verdict is verdict
    if verdict is V.LEAVE_ONCE_MEASURED:
        sentence, mark = words.say(found, METRIC)
        assert mark is Mark.LOOK and "measure piston 1" in sentence and not found.sure
    if verdict is V.LEAVE_TOO_CLOSE:
        sentence, mark = words.say(found, METRIC)
        assert mark is Mark.LOOK and "too close" in sentence and "again" in sentence and not found.sure


def called(over=0.5, apart=(), bores=True):
    return SimpleNamespace(oversize_mm=over, apart=apart, bores=bores)


BORED, DOUBTFUL = column(1, cut=80.45), column(4, high=80.6, cut=80.45)
THIN_WALL = column(1, cut=80.45, walls=WallBound(80.4, 80.6, ()))


@pytest.mark.parametrize(
    "columns, taken, honed, verdict, about, mark",
    [
        ((BORED,), called(), (), V.CUT, (), Mark.PLAIN), ((BORED, DOUBTFUL), called(), (), V.CUT, (4,), Mark.LOOK), ((BORED, DOUBTFUL), called(), (4,), V.CUT, (), Mark.PLAIN),
        ((BORED, FITS), called(), (), V.BORE, (1, 1), Mark.SOUND), ((BORED, SHADOW), called(), (), V.MAY_SHADOW, (4,), Mark.LOOK), ((BORED,), None, (), V.BORE, (1,), Mark.SOUND),
        ((BORED,), called(0.5 + 2e-6), (), V.BORE, (1,), Mark.SOUND), ((BORED,), called(0.75), (), V.BORE, (1,), Mark.SOUND), ((BORED,), called(bores=False), (), V.BORE, (1,), Mark.SOUND),
        ((BORED,), called(apart=(sleeve(2),)), (), V.BORE, (1,), Mark.SOUND), ((BORED, column(3, low=80.6, high=80.7, cut=80.45)), called(), (), V.WILL_NOT, (3,), Mark.STOP),
        ((THIN_WALL,), called(), (), V.CUT, (), Mark.LOOK), ((column(6, walls=WallBound(None, None, (PLACE,)), cut=80.45),), called(), (), V.CUT, (), Mark.LOOK),
    ],
)  # fmt: skip
@pytest.mark.parametrize("within", [False, True])
def test_what_is_cut_as_it_was_called_is_not_called_again(judged, columns, taken, honed, verdict, about, mark, within):
    found = judged(FakeLadder(columns), taken=taken, honed=honed, within=within and verdict is V.CUT)
    assert (found.verdict, found.cylinders) == (verdict, about)
    sentence, told = words.say(found, METRIC)
    assert told is mark and found.sure is (verdict is V.CUT or mark is Mark.SOUND)
    if verdict is V.CUT:
        assert sentence.startswith("Cut as it was called: bore ") and ("Look into 4" in sentence) is (about == (4,))
        told = {fate.cylinder: called_words(found, fate) for fate in found.fates}
        assert all((told[c] == ("look into it", Mark.LOOK)) is (c in about) for c in told)
        assert all(m is Mark.LOOK for _word, m in told.values()) or mark is Mark.PLAIN or about
        assert ("wall of cylinder" in sentence) is (mark is Mark.LOOK and not about)


@pytest.mark.parametrize(
    "cut, larger", [(None, False), (80.45, False), (80.55, False), (80.55 + 2e-9, True), (80.8, True)]
)
def test_no_size_is_called_that_a_hole_is_past_already(judged, cut, larger):
    found = judged(FakeLadder((column(1, cut=cut),)))
    assert (found.verdict is V.WILL_NOT) is larger and found.fates[0].cut_larger is larger
    sentence, _mark = words.say(found, METRIC)
    assert (sentence == "Cylinder 1 is cut larger than 0.50 over already.") is larger
    assert (fate_words(found.fates[0]) == ("cut larger", Mark.STOP)) is larger
    assert fate_words(found.fates[0], cut=True) == (("cut larger", Mark.STOP) if larger else ("cut", Mark.PLAIN))


def test_without_rungs_no_size_is_called_and_nothing_is_taken(judged):
    found = judged(FakeLadder((FITS,), rungs=()))
    assert found.verdict is V.NO_RUNGS and not found.can_be_taken and not found.sure


@pytest.mark.parametrize(
    "columns, sure, can", [((FITS,), True, True), ((NOT_READ,), False, True), ((column(1, walls=WallBound(81.0, 81.2, (PLACE,))),), False, True), ((column(1, walls=WallBound(81.0, 81.2, (), True)),), False, True),
                           ((NEAR,), False, True),
                           ((SHADOW,), False, True), ((THIN,), False, False), ((NEEDS_MORE,), False, False), ((UNKNOWN_ONE,), False, False)],
)  # fmt: skip
def test_sure_means_nothing_is_left_to_measure(judged, columns, sure, can):
    found = judged(FakeLadder(columns))
    assert found.sure is sure and found.can_be_taken is can


@pytest.mark.parametrize(
    "low, cut, sure, worth, wanted, mm",
    [
        (80.3, None, True, True, Smaller.NONE, None),  # under what it was read at
        (80.2, None, True, False, Smaller.WOULD, 0.25),
        (80.2, None, False, True, Smaller.MAY, 0.25),
        (80.2, None, False, False, Smaller.NONE, None),
        (80.2, 80.31, True, True, Smaller.NONE, None),  # a hole is cut larger already
    ],
)
def test_whether_a_smaller_size_would_do(judged, low, cut, sure, worth, wanted, mm):
    found = judged(FakeLadder((column(1, low=low, cut=cut),), sure=sure), worth=worth)
    assert (found.smaller, found.smaller_mm) == (wanted, mm)


@pytest.mark.parametrize(
    "sure, most, to_read, through, size, thin, stands",
    [
        (80.4, 80.5, (), False, 80.4, False, True), (80.4, 80.5, (), False, 80.4 + 2e-9, False, False), (80.4, 80.5, (), False, 80.5, False, False),
        (80.4, 80.5, (), False, 80.5 + 2e-9, True, False), (None, None, (PLACE,), False, 99.0, False, False), (80.4, 80.5, (PLACE,), False, 80.3, False, False),
        (80.4, 80.5, (), True, 80.3, False, False), (None, 80.5, (PLACE,), False, 80.6, True, False), (None, 80.5, (), False, 80.3, False, False),
    ],
)  # fmt: skip
def test_a_wall_stands_at_its_low_end_and_is_given_up_at_its_high(sure, most, to_read, through, size, thin, stands):
    one = column(1, walls=WallBound(sure, most, to_read, through))
    assert one.too_thin(at(size)) is thin and one.wall_stands(at(size)) is stands
    assert one.ceiling_mm == (most if sure is None else sure)


@pytest.mark.parametrize(
    "least, most, bound, verdict",
    [
        (80.45, 80.51, True, Verdict.CLEANS_UP), (80.45 - 2e-9, 80.51, True, Verdict.MAY_SHADOW), (80.45, 80.51, False, Verdict.MAY_SHADOW),
        (80.2, 80.3, True, Verdict.MAY_SHADOW), (80.2, 80.3 - 2e-9, True, Verdict.WILL_NOT), (80.2, 80.3 - 2e-9, False, Verdict.WILL_NOT),
    ],
)  # fmt: skip
def test_the_call_is_held_where_the_hole_will_end(least, most, bound, verdict):
    assert column(1, bound=bound).verdict(FinishSize(least, most)) is verdict


def test_a_smaller_size_that_turns_on_its_pistons_is_named():
    ladder = FakeLadder((FITS,))
    ladder.fates = lambda over, apart=(): tuple(
        Fate(FITS, over, end, FateWay.COMMON, FITS.verdict(end), False, True)
        for end in [FinishSize(79.9 + over, 79.97 + over)]
    )
    assert finding._with_pistons(ladder, 0.75) == 0.5, "79.97 + 0.5 reaches 80.45, 79.9 + 0.5 does not"
    assert finding._with_pistons(ladder, 0.5) is None


@pytest.mark.parametrize(
    "way, verdict, thin, stands", list(itertools.product(FateWay, (*Verdict, None), (False, True), (False, True)))
)
def test_what_a_fate_is_over_all_there_are(way, verdict, thin, stands):
    fate = Fate(FITS, 0.5, at(80.5), way, verdict, thin, stands)
    sleeved = way is FateWay.SLEEVE
    assert fate.sleeved is sleeved and fate.common is (way is FateWay.COMMON)
    assert fate.sound is (sleeved or (verdict is Verdict.CLEANS_UP and not thin))
    assert fate.sure is (sleeved or (verdict is Verdict.CLEANS_UP and not thin and stands))
    assert fate.fails is (not sleeved and (thin or verdict is Verdict.WILL_NOT))
    assert not (fate.sound and fate.fails)


MARKS = {V.CRACKED: Mark.STOP, V.NOT_GAUGED: Mark.LOOK, V.NOT_KNOWN: Mark.LOOK, V.LEAVE: Mark.SOUND, V.NO_RUNGS: Mark.LOOK, V.TOO_THIN: Mark.STOP,
         V.WILL_NOT: Mark.STOP, V.MAY_SHADOW: Mark.LOOK, V.BORE: Mark.SOUND}  # fmt: skip


@pytest.mark.parametrize(
    "columns, apart, within, verdict, about",
    [c for c in CASES if c[3] is not V.MAY_SHADOW and (c[3] is not V.NOT_KNOWN or c[4] == (1,))],
)
def test_every_verdict_has_its_words_and_its_mark(judged, columns, apart, within, verdict, about):
    sentence, mark = words.say(judged(FakeLadder(columns), apart=apart, within=within), METRIC)
    assert mark is MARKS[verdict] and sentence.endswith(".")


def test_a_bore_with_a_wall_unread_is_no_tick(judged):
    ask = Ask(AskFor.WALL, 6, places=(PLACE, WallPlace(40.0, 180.0)))
    sentence, mark = words.say(judged(FakeLadder((NOT_READ,)), asks=(ask,)), METRIC)
    assert mark is Mark.LOOK and "first read the wall of cylinder 6, 40 mm down at 90 and 180°" in sentence
    sentence, mark = words.say(judged(FakeLadder((NEAR,))), METRIC)
    assert mark is Mark.LOOK and "too close to its limit" in sentence


def test_a_shadow_says_what_is_cheapest(judged):
    ask, may = Ask(AskFor.SWEEP, 4, (21.0, 84.0)), "0.50 over may leave a shadow in 4."
    look, after = WayThere(Road.LOOK, 10.0, 4), WayThere(Road.NEXT, 5.0, oversize_mm=0.75)
    measure = WayThere(Road.MEASURE, 4.0, 4, ask)
    one = FakeLadder((SHADOW,))
    assert words.say(judged(one, asks=(ask,)), METRIC) == (
        f"{may} First sweep cylinder 4 at 21 and 84 mm down.",
        Mark.LOOK,
    )
    assert "Cut, and look" in words.say(judged(one), METRIC).sentence
    one.smallest_sure = 0.75
    assert words.say(judged(one), METRIC).sentence == f"{may} 0.75 is sure."
    assert words.say(judged(one, ways=(after, look), look=(4,)), METRIC).sentence == f"{may} 0.75 is the cheaper way."
    assert (
        words.say(judged(one, ways=(measure, look), look=(4,)), METRIC).sentence
        == f"{may} First sweep cylinder 4 at 21 and 84 mm down."
    )
    told = words.say(judged(one, ways=(look, after), look=(4,)), METRIC)
    assert told.sentence == f"{may} Bore it and look; buy the piston after that."
    both = FakeLadder((FITS, SHADOW))
    told = words.say(judged(both, ways=(look, after), look=(4,)), METRIC)
    assert told.sentence.endswith("Bore 4 first and look; buy pistons after the last look.")
    told = words.say(judged(both, ways=(look, after), look=(4,), first=True), METRIC)
    assert told.sentence.endswith(" Bore 4 first and look.")


@pytest.mark.parametrize(
    "chance, told, verdict, said",
    [
        (0.74, True, V.MAY_SHADOW, "may leave a shadow"), (0.75, False, V.LIKELY, "likely."), (0.75, True, V.LIKELY, "likely, 8 in 10."),
        (0.85, True, V.LIKELY, "likely, 9 in 10."), (0.93, True, V.LIKELY, "very likely, 19 in 20."), (0.93, False, V.LIKELY, "very likely."),
        (0.979, True, V.LIKELY, "very likely, 19 in 20."), (0.98, False, V.LIKELY, "it will clean up, by all that was read."), (None, True, V.MAY_SHADOW, "may leave a shadow"),
    ],
)  # fmt: skip
def test_likely_is_said_of_a_chance_and_never_ticked(judged, chance, told, verdict, said):
    found = judged(FakeLadder((FITS, SHADOW)), chance=chance, told=told)
    sentence, mark = words.say(found, METRIC)
    assert found.verdict is verdict and said in sentence
    assert mark is (Mark.LIKELY if verdict is V.LIKELY else Mark.LOOK) and not found.sure
    assert proven_stays(judged(FakeLadder((FITS,)), chance=chance, told=told))


def proven_stays(found):
    """What is proven is told so, whatever the chance."""
    return found.verdict is V.BORE and found.sure and words.say(found, METRIC).mark is Mark.SOUND


# -- the best of the ways -------------------------------------------------------------------------------------------


def option(standing, over=0.5, stock=0.4, needs=(), key="common", sleeves=0):
    kinds = {"common": "rung", "rung": "rung", "reround": "call"}
    kind = OptionKind(kinds.get(key.split(":")[0], key.split(":")[0]))
    asked = tuple(ToMeasure(Measure.READ_WALL, 1) for _ in needs)
    return Option(kind, key, standing, over, (), (Reason(Why.ANOTHER_WAY),), asked, (stock,), 2, 4, sleeves, 60.0)


@pytest.mark.parametrize(
    "standing, needs, wanted",
    [
        (NO, (), Best.NOTHING_KNOWN),
        (UNKNOWN, ("x",), Best.NOTHING_KNOWN),
        (MAY, ("x",), Best.MAY_DO),
        (MAY, (), Best.NOT_SURE),
        (SURE, (), Best.SURE),
    ],
)
def test_how_the_best_way_stands(standing, needs, wanted):
    assert best_of([option(standing, needs=needs)]).call is wanted


def test_where_the_best_may_fail_the_first_that_is_sure_is_named():
    may, sure, scrap = option(MAY, needs=("x",)), option(SURE, 0.75), option(SURE, None, key="scrap")
    assert best_of([may, option(MAY, 0.6), sure]).otherwise is sure
    assert best_of([may, scrap]).otherwise is None and best_of([sure, may]).otherwise is None


RANKED = [  # the one that stands above, and the one below it
    (option(SURE, 0.5, 0.4), option(SURE, 0.75, 0.6)), (option(MAY, 0.25, 0.2, ("sweep it",)), option(SURE, 0.5, 0.4)),
    (option(SURE, 0.5, 0.4), option(MAY, 0.25, 0.2)), (option(MAY, 0.25, 0.2), option(UNKNOWN, 0.25, 0.2, ("gauge it",))),
    (option(UNKNOWN, 0.25, 0.2), option(NO, 0.25, 0.2)), (option(SURE, 0.5, 0.4, key="rung:0.5"), option(SURE, 0.4, 0.3, key="custom:0.4")),
    (option(MAY, 0.75, 0.7, ("read the wall",)), option(SURE, 0.0, 0.0, key="sleeve_all", sleeves=1)), (option(NO, 0.5, 0.4), option(NO, None, 0.0, key="scrap")),
]  # fmt: skip


@pytest.mark.parametrize("above, below", RANKED)
def test_less_metal_stands_above_more_while_one_reading_may_make_it_sure(above, below):
    assert above.rank < below.rank


@pytest.mark.parametrize(
    "standing, over, key", list(itertools.product((SURE, MAY, UNKNOWN, NO), (0.5, None), ("common", "reround")))
)
def test_what_can_be_picked(standing, over, key):
    from redline_bore.job.call.light_options import LIGHT_KEYS

    wanted = standing is not NO if over is not None else key in LIGHT_KEYS and standing in (SURE, MAY)
    assert can_pick(option(standing, over, key=key)) is wanted


@pytest.mark.parametrize(
    "call, mark",
    [
        (Best.NOTHING_KNOWN, Mark.LOOK),
        (Best.MAY_DO, Mark.LOOK),
        (Best.SURE, Mark.SOUND),
        (Best.NOT_SURE, Mark.LOOK),
        (Best.LIKELY, Mark.LIKELY),
    ],
)
def test_every_best_has_its_words_and_its_mark(call, mark):
    sure = option(SURE, 0.75) if call in (Best.MAY_DO, Best.LIKELY, Best.NOT_SURE) else None
    sentence, found = option_words.say_best(BestFinding(call, option(SURE, needs=("read the wall",)), sure), METRIC)
    assert (
        found is mark
        and sentence.endswith(".")
        and ("Sure without it: bore it 0.75 over" in sentence) is (sure is not None)
    )


@pytest.mark.parametrize("rungs, sleeved, verdict, can", [
    ((), (1, 2), V.BORE, True), ((), (1,), V.NO_RUNGS, False), ((), (), V.NO_RUNGS, False), ((0.25,), (1, 2), V.BORE, True),
])  # fmt: skip
def test_all_sleeved_is_called_with_no_sizes_listed(judged, rungs, sleeved, verdict, can):
    found = judged(FakeLadder((FITS, column(2)), rungs=rungs), 0.0, tuple(sleeve(c) for c in sleeved))
    assert found.verdict is verdict and found.can_be_taken is can
    if can:
        assert words.say(found, METRIC).sentence.startswith("Sleeve both, back to nominal.")


@pytest.mark.parametrize("rungs, over, hone, verdict, can, said", [
    ((), 0.5, True, V.BORE, True, "Hone both 0.50 over."), ((0.5,), 0.5, True, V.BORE, True, "Hone both 0.50 over."),
    ((), 0.5, False, V.NO_RUNGS, False, "No piston sizes are listed."), ((0.5,), 0.5, False, V.BORE, True, "Bore both 0.50 over."),
])  # fmt: skip
def test_a_job_without_a_bar_is_honed(judged, rungs, over, hone, verdict, can, said):
    found = judged(FakeLadder((FITS, column(2)), rungs=rungs), over, hone=hone)
    assert found.verdict is verdict and found.can_be_taken is can and found.by_hone is hone
    assert words.say(found, METRIC).sentence.startswith(said)
