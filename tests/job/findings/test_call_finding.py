"""The call at a size, and the best of the ways: every verdict, which of them goes first, and their words."""

import itertools
from types import SimpleNamespace

import pytest

from redline_bore.core.cleanup import CleanUp, Verdict
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.call import finding
from redline_bore.job.call.best import Best, BestFinding, best_of, can_pick, close_call
from redline_bore.job.call.finding import CallVerdict, Smaller, judge
from redline_bore.job.call.ladder import Column, Fate, FateWay
from redline_bore.job.call.option import MAY, NO, SURE, UNKNOWN, Option
from redline_bore.job.card import Mark
from redline_bore.job.words import call as words
from redline_bore.job.words import options as option_words

V = CallVerdict
METRIC = Show(Units.METRIC)


def column(cylinder, low=80.3, high=80.45, bound=True, ceiling=81.0, unread=(), levels=True):
    need = None if low is None else CleanUp(low, (low + high) / 2.0, high, 0, bound)
    return Column(
        cylinder, SimpleNamespace(levels=levels, chords=4, cleanup=need), need, ceiling, "Not read", "", None, unread
    )


class FakeLadder:
    """Columns side by side; what is sure and what may do is stated."""

    def __init__(self, columns, rungs=(0.25, 0.5, 0.75), smallest=None, sure=False):
        self.columns, self.rungs_mm, self.nominal_mm = tuple(columns), rungs, 80.0
        self.smallest_possible, self._sure, self.worst = smallest, sure, None

    def fates(self, over, apart):
        ways = {a.cylinder: a for a in apart}
        found = []
        for c in self.columns:
            away = ways.get(c.cylinder)
            way = FateWay.COMMON if away is None else FateWay.SLEEVE if away.oversize_mm is None else FateWay.OWN
            size = 80.0 + over
            found.append(Fate(c, over, way, c.verdict(size), c.too_thin(size)))
        return tuple(found)

    def sure(self, over):
        return self._sure

    def possible(self, over, apart):
        return not any(f.fails or (not f.sleeved and f.verdict is None) for f in self.fates(over, apart))


@pytest.fixture
def judged(monkeypatch):
    def judged(ladder, over=0.5, apart=(), within=False):
        monkeypatch.setattr(finding, "ladder_of", lambda state: ladder)
        monkeypatch.setattr(finding, "within_limits", lambda state: within)
        return judge(None, over, apart)

    return judged


FITS, THIN, NEEDS_MORE = column(1), column(2, ceiling=80.49), column(3, low=80.6, high=80.7)
SHADOW, UNKNOWN_ONE, NOT_READ = column(4, high=80.6), column(5, low=None, levels=False), column(6, ceiling=None)


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


def test_without_rungs_no_size_is_called_and_nothing_is_taken(judged):
    found = judged(FakeLadder((FITS,), rungs=()))
    assert found.verdict is V.NO_RUNGS and not found.can_be_taken and not found.sure


@pytest.mark.parametrize(
    "columns, sure, can", [((FITS,), True, True), ((NOT_READ,), False, True), ((column(1, unread=("thrust",)),), False, True),
                           ((SHADOW,), False, True), ((THIN,), False, False), ((NEEDS_MORE,), False, False), ((UNKNOWN_ONE,), False, False)],
)  # fmt: skip
def test_sure_means_nothing_is_left_to_measure(judged, columns, sure, can):
    found = judged(FakeLadder(columns))
    assert found.sure is sure and found.can_be_taken is can


@pytest.mark.parametrize(
    "smallest, sure, wanted",
    [
        (None, True, Smaller.NONE),
        (0.5, True, Smaller.NONE),
        (0.75, True, Smaller.NONE),
        (0.25, True, Smaller.WOULD),
        (0.25, False, Smaller.MAY),
    ],
)
def test_whether_a_smaller_size_would_do(judged, smallest, sure, wanted):
    assert judged(FakeLadder((FITS,), smallest=smallest, sure=sure)).smaller is wanted


@pytest.mark.parametrize(
    "ceiling, size, thin", [(80.5, 80.5, False), (80.5, 80.5 + 2e-9, True), (80.5, 80.4, False), (None, 99.0, False)]
)
def test_too_thin_is_over_the_ceiling_by_more_than_rounding(ceiling, size, thin):
    assert column(1, ceiling=ceiling).too_thin(size) is thin


@pytest.mark.parametrize("way, verdict, thin", list(itertools.product(FateWay, (*Verdict, None), (False, True))))
def test_what_a_fate_is_over_all_there_are(way, verdict, thin):
    fate = Fate(FITS, 0.5, way, verdict, thin)
    sleeved = way is FateWay.SLEEVE
    assert fate.sleeved is sleeved and fate.common is (way is FateWay.COMMON)
    assert fate.sound is (sleeved or (verdict is Verdict.CLEANS_UP and not thin))
    assert fate.fails is (not sleeved and (thin or verdict is Verdict.WILL_NOT))
    assert not (fate.sound and fate.fails)


MARKS = {V.NOT_GAUGED: Mark.LOOK, V.NOT_KNOWN: Mark.LOOK, V.LEAVE: Mark.SOUND, V.NO_RUNGS: Mark.LOOK, V.TOO_THIN: Mark.STOP,
         V.WILL_NOT: Mark.STOP, V.MAY_SHADOW: Mark.LOOK, V.BORE: Mark.SOUND}  # fmt: skip


@pytest.mark.parametrize(
    "columns, apart, within, verdict, about",
    [c for c in CASES if c[3] is not V.MAY_SHADOW and (c[3] is not V.NOT_KNOWN or c[4] == (1,))],
)
def test_every_verdict_has_its_words_and_its_mark(judged, columns, apart, within, verdict, about):
    sentence, mark = words.say(judged(FakeLadder(columns), apart=apart, within=within), METRIC)
    assert mark is MARKS[verdict] and sentence.endswith(".")


def test_a_bore_with_a_wall_unread_is_no_tick(judged):
    sentence, mark = words.say(judged(FakeLadder((NOT_READ,))), METRIC)
    assert mark is Mark.LOOK and "first read the wall" in sentence


# -- the best of the ways -------------------------------------------------------------------------------------------


def option(standing, over=0.5, stock=0.4, needs=(), key="common"):
    return Option(key, f"Bore {over}", standing, over, (), ("a reason",), needs, (stock,), 2, 4, 0, 60.0)


@pytest.mark.parametrize(
    "standing, wanted", [(NO, Best.NOTHING_KNOWN), (UNKNOWN, Best.NOTHING_KNOWN), (MAY, Best.MAY_DO), (SURE, Best.SURE)]
)
def test_how_the_best_way_stands(standing, wanted):
    assert best_of([option(standing)]).call is wanted


@pytest.mark.parametrize(
    "second, close",
    [(option(MAY, 0.25, 0.2, ("read the wall",)), True), (option(MAY, 0.25, 0.2), False), (option(SURE, 0.25, 0.2, ("x",)), False),
     (option(NO, 0.25, 0.2, ("x",)), False), (option(UNKNOWN, 0.25, 0.2, ("x",)), False), (option(MAY, 0.25, None, ("x",)), False),
     (option(MAY, 0.25, 0.4, ("x",)), False), (option(MAY, 0.25, 0.4 - 5e-7, ("x",)), False), (option(MAY, 0.25, 0.4 - 2e-6, ("x",)), True),
     (option(MAY, None, 0.0, ("x",)), False)],
)  # fmt: skip
def test_a_call_is_close_where_one_measurement_could_put_less_metal_first(second, close):
    found = best_of([option(SURE), second])
    assert (found.call is Best.CLOSE) is close and (found.runner_up is second) is close
    assert close_call([option(MAY), second]) is None


@pytest.mark.parametrize(
    "standing, over, key", list(itertools.product((SURE, MAY, UNKNOWN, NO), (0.5, None), ("common", "reround")))
)
def test_what_can_be_picked(standing, over, key):
    from redline_bore.job.call.light_options import LIGHT_KEYS

    wanted = standing is not NO if over is not None else key in LIGHT_KEYS and standing in (SURE, MAY)
    assert can_pick(option(standing, over, key=key)) is wanted


@pytest.mark.parametrize(
    "call, mark",
    [(Best.NOTHING_KNOWN, Mark.LOOK), (Best.MAY_DO, Mark.LOOK), (Best.SURE, Mark.SOUND), (Best.CLOSE, Mark.SOUND)],
)
def test_every_best_has_its_words_and_its_mark(call, mark):
    up = option(MAY, 0.25, 0.2, ("read the wall",)) if call is Best.CLOSE else None
    sentence, found = option_words.say_best(BestFinding(call, option(SURE, needs=("read the wall",)), up))
    assert found is mark and sentence.endswith(".") and ("A close call" in sentence) is (call is Best.CLOSE)
