"""What stands between a job and its signature, and the open points: every one alone, every one said, old ledgers read."""

import itertools
from dataclasses import replace
from types import SimpleNamespace

import pytest

from redline_bore.core.errors import InputError
from redline_bore.core.fit import Decision
from redline_bore.core.gauging import Place
from redline_bore.job.card import Mark
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.phrase import Where
from redline_bore.job.sign_off import sheet as sheets
from redline_bore.job.sign_off.sheet import (
    OpenPoint,
    PointFound,
    Sheet,
    SignCall,
    SignFinding,
    accepts,
    can_sign,
    judge,
)
from redline_bore.job.state.signing import Accepted
from redline_bore.job.words import sign_off as words
from tests.job.benches import one_typed

C, D, P = SignCall, Decision, OpenPoint


def sheet(*decisions, bores=True, closed=False, open_points=(), taken=True):
    """A sheet whose cylinders' clearances stand so; None: no final size."""
    stamp = SimpleNamespace(initials="RM", at="2026-11-24T08:00")
    state = SimpleNamespace(
        calling=SimpleNamespace(decision=SimpleNamespace(bores=bores) if taken else None),
        signing=SimpleNamespace(closed=closed, stamp=lambda step: stamp if closed else None),
    )
    rows = tuple(
        SimpleNamespace(cylinder=i, decision=d if isinstance(d, D) else None, final_mm=None if d is None else 80.0)
        for i, d in enumerate(decisions, start=1)
    )
    return Sheet(state, rows, None, (), tuple(open_points), ())


@pytest.fixture
def judged(monkeypatch):
    def judged(found):
        monkeypatch.setattr(sheets, "sheet_of", lambda state: found)
        return judge(found.state)

    return judged


POINT = PointFound(P.NOT_WASHED)
CASES = [
    (sheet(D.IN, D.IN), C.READY, ()), (sheet(D.IN, D.OUT), C.CLEARANCE_OUT, (2,)), (sheet(D.TOO_CLOSE, D.IN), C.CLEARANCE_CLOSE, (1,)),
    (sheet(D.TOO_CLOSE, D.OUT), C.CLEARANCE_OUT, (2,)), (sheet("not known", D.IN), C.CLEARANCE_CLOSE, (1,)),
    (sheet(D.IN, None), C.NOT_FINISHED, (2,)), (sheet(None, D.OUT, open_points=(POINT,)), C.NOT_FINISHED, (1,)),
    (sheet(D.IN, D.OUT, open_points=(POINT,)), C.POINTS_OPEN, ()), (sheet(D.IN, open_points=(POINT,)), C.POINTS_OPEN, ()),
    (sheet(None, None, bores=False), C.NOTHING_BORED, ()), (sheet(None, bores=False, open_points=(POINT,)), C.POINTS_OPEN, ()),
    (sheet(D.IN, closed=True), C.SIGNED, ()), (sheet(D.OUT, closed=True), C.SIGNED_BUT_OUT, (1,)), (sheet(D.TOO_CLOSE, closed=True), C.SIGNED_BUT_CLOSE, (1,)),
    (sheet(None, bores=False, closed=True), C.SIGNED, ()), (sheet(D.IN, open_points=(POINT,), closed=True), C.SIGNED, ()),
]  # fmt: skip


@pytest.mark.parametrize("found, wanted, about", CASES)
def test_what_stands_before_the_signature(judged, found, wanted, about):
    told = judged(found)
    assert (told.call, told.cylinders) == (wanted, about)


@pytest.mark.parametrize(
    "finals, bores, taken, points, can",
    [
        (f, b, t, p, (all(f) or (t and not b)) and not p)
        for f, b, t, p in itertools.product(
            ((True, True), (True, False), (False, False)), (True, False), (True, False), ((), (POINT,))
        )
    ],
)
def test_signed_only_with_every_size_or_nothing_bored_and_no_point_open(finals, bores, taken, points, can):
    found = sheet(*(D.IN if f else None for f in finals), bores=bores, taken=taken, open_points=points)
    assert can_sign(found) is can


MARKS = {C.SIGNED: Mark.SOUND, C.SIGNED_BUT_OUT: Mark.STOP, C.SIGNED_BUT_CLOSE: Mark.LOOK, C.NOT_FINISHED: Mark.LOOK, C.POINTS_OPEN: Mark.LOOK,
         C.NOTHING_BORED: Mark.SOUND, C.CLEARANCE_OUT: Mark.STOP, C.CLEARANCE_CLOSE: Mark.LOOK, C.READY: Mark.SOUND}  # fmt: skip


@pytest.mark.parametrize("call", C)
def test_every_call_has_its_words_and_its_mark(call):
    sentence, mark = words.say(SignFinding(call, sheet(D.IN, open_points=(POINT,), closed=True), (1,)))
    assert mark is MARKS[call] and sentence.endswith(".")


@pytest.mark.parametrize("point", P)
def test_every_open_point_is_said_and_found_again_by_its_key_or_by_what_was_said_before(point):
    found = PointFound(point, (1, 3)) if point not in OF_BLOCK else PointFound(point)
    said = words.point_words(found)
    assert said.endswith(".") and ("Cylinders 1 and 3" in said) is (point not in OF_BLOCK)
    now = Accepted(point=said, reason="x", person="RM", at="", about=found.key)
    before = Accepted(point=said, reason="x", person="RM", at="", about="")
    assert accepts(now, found) is accepts(before, found) is (point is not P.SIMULATED)
    if point not in OF_BLOCK:  # of other cylinders it is another point
        assert not accepts(now, PointFound(point, (2,)))
        assert not accepts(before, PointFound(point, (2,)))


OF_BLOCK = {P.NO_CALL, P.PLATE_OFF_ONLY, P.WINDOW_TOO_NARROW, P.NOT_WASHED, P.SIMULATED, P.NOT_OILED, P.OWNER_NOT_SAID}


def test_no_two_points_are_said_alike_or_have_one_key():
    found = [PointFound(p, () if p in OF_BLOCK else (1,)) for p in P]
    assert len({words.point_words(f) for f in found}) == len({f.key for f in found}) == len(P)


@pytest.fixture
def points_of(monkeypatch, shipped):
    """The open points of one cylinder, where everything is well but what is changed."""

    def points_of(bores=True, taken=("washed", "oiled"), decided=True, **changes):
        shape = SimpleNamespace(levels=changes.pop("levels", (1,)), plate_on=changes.pop("plate_on", True))
        finish = SimpleNamespace(current=changes.pop("traced", True), where=lambda d: (1,) if d is finish_is else ())
        finish_is = changes.pop("finish_is", None)
        progress = SimpleNamespace(over=changes.pop("over", False), redline=SimpleNamespace(window=None))
        row = SimpleNamespace(**{
            "cylinder": 1, "shape": shape, "progress": progress, "final_mm": 80.0, "final": object(), "short": False, "finish": finish,
            "doubt_mm": 0.004, "decision": D.IN, "rings": object(), "hole": SimpleNamespace(out=changes.pop("out", ())), "apart_mm": None, "both_ends": True,
        } | {k: v for k, v in changes.items() if k != "plate_wanted"})  # fmt: skip
        monkeypatch.setattr(sheets, "could_be_in", lambda window, doubt: doubt < 0.01)
        wanted, cracked = changes.pop("plate_wanted", True), changes.pop("cracked", False)
        monkeypatch.setattr(sheets, "stopped_by_crack", lambda state, c: cracked)
        monkeypatch.setattr(sheets, "plate_wanted", lambda state, c: wanted)
        monkeypatch.setattr(sheets, "_gap_short", lambda state, r: r.rings == "short")
        state = SimpleNamespace(
            simulated=changes.get("simulated", 0),
            book_in=SimpleNamespace(owner=changes.pop("owner", "Fellside brewery")),
            calling=SimpleNamespace(
                decision=SimpleNamespace(bores=bores) if decided else None,
                piston=lambda c: None if changes.get("piston") == "none" else object(),
            ),
            signing=SimpleNamespace(cares=[SimpleNamespace(what=w) for w in taken]),
        )
        return [p.what for p in sheets._open_points(state, (row,))]

    return points_of


@pytest.mark.parametrize(
    "changes, wanted",
    [
        ({}, []), ({"levels": ()}, [P.NOT_GAUGED]), ({"piston": "none"}, [P.PISTON_NOT_MEASURED]), ({"final_mm": None}, [P.NO_CHECK]),
        ({"short": True}, [P.NOT_AT_SIZE]), ({"over": True}, [P.PAST]), ({"cracked": True}, [P.CRACKED]), ({"cracked": True, "bores": False}, [P.CRACKED]),
        ({"out": ("taper",)}, [P.SHAPE_OUT]), ({"out": ("taper",), "short": True}, [P.NOT_AT_SIZE]), ({"out": ("taper",), "bores": False}, []), ({"hole": None}, []),
        ({"simulated": 1}, [P.SIMULATED]), ({"apart_mm": -0.01}, [P.FINAL_DIFFERS]), ({"both_ends": False}, [P.ENDS_NOT_READ]), ({"both_ends": False, "short": True}, [P.NOT_AT_SIZE]),
        ({"both_ends": False, "bores": False}, []), ({"both_ends": False, "final_mm": None}, [P.NO_CHECK]),
        ({"decision": D.OUT}, [P.CLEARANCE_OUT]), ({"decision": D.OUT, "short": True}, [P.NOT_AT_SIZE]), ({"decision": D.TOO_CLOSE}, [P.CLEARANCE_CLOSE]),
        ({"final": None}, [P.NOT_GAUGED_PLATED]), ({"traced": False}, [P.NOT_TRACED]), ({"finish_is": D.OUT}, [P.FINISH_OUT]),
        ({"finish_is": D.TOO_CLOSE}, [P.FINISH_CLOSE]), ({"finish_is": D.OUT, "traced": False}, [P.NOT_TRACED]), ({"rings": "short"}, [P.GAP_SHORT]),
        ({"rings": None}, [P.GAPS_NOT_BOOKED]), ({"plate_on": False}, [P.PLATE_OFF_ONLY]), ({"plate_on": False, "bores": False}, []),
        ({"final": None, "plate_on": False, "plate_wanted": False}, []), ({"doubt_mm": 0.02}, [P.WINDOW_TOO_NARROW]),
        ({"doubt_mm": None}, []), ({"taken": ("oiled",)}, [P.NOT_WASHED]), ({"taken": ("washed",)}, [P.NOT_OILED]), ({"owner": ""}, [P.OWNER_NOT_SAID]), ({"decided": False}, [P.NO_CALL]),
        ({"bores": False, "final_mm": None, "final": None, "traced": False, "piston": "none"}, []),
        ({"bores": False, "rings": None, "final_mm": None}, [P.GAPS_NOT_BOOKED]), ({"final_mm": None, "rings": None, "traced": False}, [P.NO_CHECK]),
    ],
)  # fmt: skip
def test_each_point_is_open_for_its_own_reason_and_no_other(points_of, changes, wanted):
    assert points_of(**changes) == wanted


@pytest.mark.parametrize("text", ["accept 1 it is only practice", "accept all it is only practice"])
def test_nobody_takes_simulated_readings_upon_himself(state_of, ledger_of, shipped, text):
    ledger = list(ledger_of("2036"))
    ledger = [
        replace(r, instrument="simulated two-point gauge") if r.entry.kind == "reading_booked" else r for r in ledger
    ]
    ledger = [r for r in ledger if not (r.entry.kind == "step_stamped" and r.entry.step == "sign_off")]
    ledger = [replace(r, seq=i) for i, r in enumerate(ledger, start=1)]
    state = fold(ledger, shipped)
    assert state.simulated > 0 and state_of("2036").simulated == 0
    assert [p.what for p in sheets.sheet_of(state).open_points] == [P.SIMULATED] and not sheets.can_sign(
        sheets.sheet_of(state)
    )
    with pytest.raises(InputError, match="nobody takes that upon himself"):
        one_typed("sign_off", text, state, Where(1, Place(0, 0), state.units))
