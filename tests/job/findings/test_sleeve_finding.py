"""The finding about a sleeve over every stage, and its words on the sample job with sleeves."""

from types import SimpleNamespace

import pytest

from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.call.option import MAY, NO, SURE, UNKNOWN
from redline_bore.job.card import Mark
from redline_bore.job.sleeve import finding
from redline_bore.job.sleeve.finding import SleeveCall, judge
from redline_bore.job.sleeve.run import SleeveStage, Stage
from redline_bore.job.words import sleeve as words

C, S = SleeveCall, SleeveStage


@pytest.fixture
def judged(monkeypatch):
    def judged(
        key,
        best=SURE,
        too_hot=None,
        closing=None,
        redline=80.0,
        bored=False,
        passes=(),
        target=79.93,
        start=79.95,
        sleeved=True,
        seat=None,
        after=None,
    ):
        heat = None if too_hot is None else SimpleNamespace(chosen=SimpleNamespace(too_hot=too_hot))
        plan = SimpleNamespace(done=object() if bored else None, passes_mm=passes, target_mm=target)
        for name, found in {
            "sleeved": sleeved, "stage_of": Stage(key, True), "ways_of": [SimpleNamespace(standing=best)], "heat_plan": heat,
            "closing_of": None if closing is None else SimpleNamespace(off=closing), "redline_of": SimpleNamespace(size_mm=redline),
            "plan_of": plan, "start_of": start, "seat_of": seat,
        }.items():  # fmt: skip
            monkeypatch.setattr(finding, name, lambda state, cylinder, found=found: found)
        return judge(SimpleNamespace(sleeving=SimpleNamespace(after_of=lambda c: after)), 1)

    return judged


def test_a_cylinder_that_keeps_its_wall_wants_nothing(judged):
    for key in S:
        assert judged(key, sleeved=False).call is C.KEEPS_WALL


@pytest.mark.parametrize(
    "key, wanted", [(S.OLD, C.MEASURE_OLD), (S.PARENT, C.GAUGE_PARENT), (S.SLEEVE, C.MEASURE_SLEEVE), (S.DOES_NOT_GO, C.WAY_DOES_NOT_GO),
                    (S.BORE_PARENT, C.BORE_PARENT), (S.READ, C.READ)],
)  # fmt: skip
def test_the_plain_stages(judged, key, wanted):
    assert judged(key).call is wanted


@pytest.mark.parametrize(
    "best, wanted", [(SURE, C.TAKE_WAY), (MAY, C.TAKE_WAY), (UNKNOWN, C.TAKE_WAY), (NO, C.NO_WAY_GOES)]
)
def test_a_way_is_taken_unless_none_goes(judged, best, wanted):
    assert judged(S.WAY, best=best).call is wanted


@pytest.mark.parametrize("too_hot, wanted", [(None, C.GO_IN), (False, C.GO_IN), (True, C.TOO_HOT)])
def test_a_sleeve_goes_in_unless_the_block_would_be_too_hot(judged, too_hot, wanted):
    assert judged(S.GO_IN, too_hot=too_hot).call is wanted


@pytest.mark.parametrize(
    "given, wanted, to_mm",
    [({"closing": True}, C.CLOSED_ODDLY, None), ({"closing": True, "redline": None, "bored": True}, C.CLOSED_ODDLY, None),
     ({"closing": False, "redline": None}, C.NO_REDLINE, None), ({"bored": True, "passes": (0.1,)}, C.BORED, None),
     ({"passes": (0.1,)}, C.BAR_NEXT, 79.93), ({"passes": (0.1,), "target": None}, C.HONE_NEXT, 0.05), ({}, C.HONE_NEXT, 0.05),
     ({"start": None}, C.HONE_NEXT, 0.0)],
)  # fmt: skip
def test_a_sleeve_that_is_in(judged, given, wanted, to_mm):
    found = judged(S.IN, **given)
    assert found.call is wanted and found.to_mm == (None if to_mm is None else pytest.approx(to_mm))


def cut(there, to_cut):
    return SimpleNamespace(there_mm=there, cut=SimpleNamespace(needs_shim=to_cut < 0.0, to_cut_mm=to_cut))


@pytest.mark.parametrize("seat, after, wanted, to_mm", [
    (cut(None, 6.2), None, C.CUT_SEAT, None), (cut(6.1, 0.1), None, C.CUT_SEAT, 0.1), (cut(6.4, -0.2), None, C.SEAT_TOO_DEEP, 0.2),
    (cut(None, 6.2), object(), C.IN_ON_NO_SEAT, None), (cut(6.1, 0.1), object(), C.IN_ON_NO_SEAT, 0.1), (cut(6.4, -0.2), object(), C.SEAT_TOO_DEEP, 0.2),
])  # fmt: skip
def test_the_seat_of_a_flange(judged, seat, after, wanted, to_mm):
    found = judged(S.SEAT, seat=seat, after=after)
    assert found.call is wanted and found.to_mm == to_mm


def test_every_stage_is_judged(judged):
    assert {judged(key).stage.key for key in S} == set(S)


@pytest.mark.parametrize("key", S)
@pytest.mark.parametrize("sure", [True, False])
def test_a_stage_is_marked_sound_only_where_it_surely_is(key, sure):
    mark = words.stage_mark(Stage(key, sure))
    assert words.stage_word(Stage(key, sure))
    wanted = {S.WAY: Mark.SOUND, S.IN: Mark.SOUND, S.DOES_NOT_GO: Mark.STOP, S.SEAT: Mark.LOOK}.get(key, Mark.PLAIN)
    assert mark is (wanted if sure or key is S.DOES_NOT_GO else Mark.LOOK)


def test_the_words_of_a_sleeve_all_along_its_job(ledger_of, shipped):
    """Every stage that the sample job with sleeves goes through has a sentence that ends, and a mark."""
    from redline_bore.job.kinds.fold import fold
    from redline_bore.job.route import sleeved_cylinders

    book, met = ledger_of("2044"), set()
    for end in range(1, len(book) + 1, 3):
        state = fold(book[:end], shipped)
        for cylinder in sleeved_cylinders(state):
            found = judge(state, cylinder)
            sentence, mark = words.say(state, found, Show(Units.METRIC))
            met.add(found.call)
            assert sentence.endswith(".") and isinstance(mark, Mark)
            assert (mark is Mark.STOP) is (
                found.call in (C.NO_WAY_GOES, C.WAY_DOES_NOT_GO, C.TOO_HOT, C.SEAT_TOO_DEEP, C.IN_ON_NO_SEAT)
            )
    assert len(met) >= 5
