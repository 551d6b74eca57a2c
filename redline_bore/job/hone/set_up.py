"""How the hone is set: stones, stroke, crosshatch, and what stands in the way (methods 10)."""

from __future__ import annotations

import math
from enum import Enum, auto
from typing import NamedTuple

from redline_bore.core.block import Bottom, room_below
from redline_bore.core.errors import InputError
from redline_bore.core.figures import cited
from redline_bore.core.frozen import frozen
from redline_bore.core.stroke import (
    Crosshatch,
    HandPace,
    Motion,
    StrokeLength,
    crosshatch,
    hand_pace,
    stroke_length,
)
from redline_bore.job.kinds.hone import HoneSet
from redline_bore.job.lessons import OVER_BOTTOM, OVER_TOP, lesson_of
from redline_bore.job.profiles.duty import duty
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.honing import HoneRun, Stones
from redline_bore.job.state.job_state import JobState

HAND = ("drill", "ball")


@frozen(often=True)
class AngleAim:
    """The crosshatch that is wanted, included: window, aim, and where it comes from."""

    low_deg: float
    high_deg: float
    aim_deg: float
    source: str


class SetUpWhy(Enum):
    """What stands in the way of a set-up, or wants a look. Which figures of a ``SetUpReason`` go with it stands beside it."""

    NO_STROKE = auto()  # told: the error's own sentence
    ROOM_UNKNOWN = auto()
    CRASH = auto()  # mm: out below, the room there
    BELLS = auto()  # mm: the most overstroke
    WEBS = auto()  # mm: how deep
    PIN_HOLE = auto()  # mm: how deep
    NEAR_BOTTOM = auto()  # mm: what is left, what is kept, how far out it may be set
    NEAREST_STEPS = auto()  # deg: the angle, window
    FLAT = auto()  # the same
    STEEP = auto()  # the same
    TURNS = auto()  # m_per_min: the speed at the wall, what is usual
    STROKES = auto()  # m_per_min: up and down, what is usual
    NO_STONES = auto()
    NEW_STONES = auto()
    STONE_SHARE = auto()  # share of the hole


@frozen
class SetUpReason:
    """One thing about a set-up. hangs: it is what hangs under the stone that strikes. blind: against a blind bottom."""

    why: SetUpWhy
    mm: tuple[float, ...] = ()
    deg: tuple[float, ...] = ()
    m_per_min: tuple[float, ...] = ()
    share: float = 0.0
    hangs: bool = False
    blind: bool = False
    told: str = ""


@frozen(often=True)
class Kinematics:
    """What the set-up does. None: the machine has no such figure, or it is not known. ``stops``: what must not be run as
    it is set; ``looks``: what wants a look."""

    stroke: StrokeLength | None
    hatch: Crosshatch | None
    motion: Motion | None
    pace: HandPace | None
    stops: tuple[SetUpReason, ...]
    looks: tuple[SetUpReason, ...]


def rate_of(state: JobState, stones: str) -> float:
    """Metal on diameter a double stroke at roughing load in this block, mm: a starting point until checks replace it."""
    f = state.figures
    cuts = f.number(f"stones.{state.block.material}_cuts")
    scale = f.number("stones.reference_bore") / state.block.bore_mm  # the same stones cover less of a larger wall
    return f.number(f"stones.{stones}_rate") * 1e-3 * cuts * scale


def load_share(state: JobState, load: float | None) -> float:
    """A load against the roughing load, which rates are told at; 1 where the machine has no such figure or none was set."""
    return 1.0 if load is None else load / state.figures.number("honing.rough_load")


def rz_of(state: JobState, stones: str) -> tuple[float, float]:
    """Rz that a stone leaves in grey iron, um, low and high."""
    low, high = state.figures.row(f"stones.{stones}_rz")
    return low, high


def angle_aim(state: JobState) -> AngleAim:
    """The crosshatch wanted: as stated, else by hand or by duty."""
    if state.honing.angle is not None:
        a = state.honing.angle.included_deg
        return AngleAim(a - 2.0, a + 2.0, a, f"as stated, {state.honing.angle.quoted}")
    by_hand = state.honing.run is not None and state.honing.run.machine in HAND
    name = "hand" if by_hand else duty(state.book_in.duty).hatch
    low, high = state.figures.row(f"crosshatch.{name}")
    return AngleAim(low, high, (low + high) / 2.0, cited(f"crosshatch.{name}"))


def stone_mm(state: JobState) -> float:
    """Length of the stones: as set, else the usual share of the hole."""
    if state.honing.stones is not None:
        return state.honing.stones.length_mm
    return state.figures.number("honing.stone_share") * state.block.length_mm


def usual_over(state: JobState) -> tuple[float, float]:
    """Usual overstroke at top and bottom, mm: as it served this family before, else a share of the stones; the bottom kept
    inside the room below."""
    usual = state.figures.number("honing.overstroke_share") * stone_mm(state)
    top, bottom = (
        usual if (x := lesson_of(state.booking.lessons, end, "vertical")) is None else x.mean
        for end in (OVER_TOP, OVER_BOTTOM)
    )
    room = room_kept(state)
    return top, bottom if room is None else min(bottom, room)


def room_for_stone(state: JobState) -> float | None:
    """How far a stone may run out below before what hangs under it strikes, mm; None: the room below is not known."""
    room = room_below(state.block)
    hangs = 0.0 if state.honing.stones is None else state.honing.stones.hangs_mm
    return None if room is None else max(room - hangs, 0.0)


def room_kept(state: JobState) -> float | None:
    """The same, less what is kept from saddle, web and blind bottom: they are not planned to be touched."""
    room = room_for_stone(state)
    return None if room is None else max(room - state.figures.number("honing.room_margin"), 0.0)


def proposed_hone(
    state: JobState, machine: str, rpm: float | None = None, strokes: float | None = None
) -> HoneSet:  # fmt: skip
    """A set-up to begin with: whichever of turns and strokes is not given is found for the angle, on the machine's steps,
    inside the usual speeds where that goes. Each machine has only the figures it has."""
    f = state.figures
    slow, fast = f.row(
        "honing.surface_speed_diamond" if _diamond(state.honing.stones) else "honing.surface_speed_vitrified"
    )
    if machine != "vertical":
        turns = (
            rpm
            if rpm is not None
            else _nearest(500.0 * (slow + fast) / (math.pi * state.block.bore_mm), f.row("honing.hone_speeds"))
        )
        return HoneSet(machine=machine, rpm=turns)  # type: ignore[arg-type]
    top, bottom = usual_over(state)
    stroke = stroke_length(state.block.length_mm, stone_mm(state), top, bottom).stroke_mm
    aim = angle_aim(state).aim_deg
    axial = f.row("honing.axial_speed")

    wanted = angle_aim(state)

    def misses(pair: tuple[float, float]) -> tuple[float, float, float]:
        """How far a pair's angle lies outside what is wanted, then how far it is outside the usual speeds, then how far its angle is off."""
        hatch = crosshatch(state.block.bore_mm, stroke, *pair)
        off = max(wanted.low_deg - hatch.included_deg, hatch.included_deg - wanted.high_deg, 0.0)
        out = max(slow - hatch.rotary_m_per_min, hatch.rotary_m_per_min - fast, 0.0) / fast
        out += max(axial[0] - hatch.axial_m_per_min, hatch.axial_m_per_min - axial[1], 0.0) / axial[1]
        return round(off, 2), round(out, 3), abs(hatch.included_deg - aim)

    turns_offered = f.row("honing.hone_speeds") if rpm is None else (rpm,)
    strokes_offered = f.row("honing.hone_strokes") if strokes is None else (strokes,)
    turns, rate = min(((n, s) for n in turns_offered for s in strokes_offered), key=misses)
    return HoneSet(
        machine="vertical", rpm=turns, strokes_per_min=rate, over_top_mm=top, over_bottom_mm=bottom,
        load=f.number("honing.rough_load"),
    )  # fmt: skip


def _nearest(wanted: float, steps: tuple[float, ...]) -> float:
    return min(steps, key=lambda step: abs(step - wanted))


def _diamond(stones: Stones | None) -> bool:
    return stones is not None and stones.stones.startswith("diamond")


@once_a_state
def kinematics_of(state: JobState) -> Kinematics:
    """The set-up as it stands."""
    h = state.honing.run
    if h is None:
        return Kinematics(None, None, None, None, (), ())
    stroke, stops = _stroke(state, h)
    if stroke is None:
        return Kinematics(None, None, None, None, stops, ())
    hatch = motion = pace = None
    if h.strokes_per_min is not None:
        hatch = crosshatch(state.block.bore_mm, stroke.stroke_mm, h.rpm, h.strokes_per_min)
        turn = min(state.figures.number("honing.turn_round"), 0.45 * 60.0 / h.strokes_per_min)
        motion = Motion(stroke.stroke_mm, h.strokes_per_min, turn)
    elif h.machine != "vertical":
        most = state.figures.number("honing.hand_most")
        pace = hand_pace(state.block.bore_mm, stroke.stroke_mm, h.rpm, angle_aim(state).aim_deg, most)
    looks = (
        *_room_looks(state, stroke),
        *_angle_looks(state, hatch),
        *_speed_looks(state, h, hatch),
        *_stone_looks(state),
    )
    return Kinematics(stroke, hatch, motion, pace, (*stops, *_openings(state, stroke)), looks)


class StrokeFound(NamedTuple):
    """The stroke of a set-up, None where it has none, and what stands in its way."""

    stroke: StrokeLength | None
    stops: tuple[SetUpReason, ...]


def _hangs(state: JobState) -> bool:
    """Whether anything hangs under the stones."""
    return state.honing.stones is not None and state.honing.stones.hangs_mm > 0.0


def _stroke(state: JobState, h: HoneRun) -> StrokeFound:
    usual_top, usual_bottom = usual_over(state)
    top = usual_top if h.over_top_mm is None else h.over_top_mm
    bottom = usual_bottom if h.over_bottom_mm is None else h.over_bottom_mm
    try:
        stroke = stroke_length(state.block.length_mm, stone_mm(state), top, bottom)
    except InputError as error:
        return StrokeFound(None, (SetUpReason(SetUpWhy.NO_STROKE, told=str(error)),))
    room, cap = room_for_stone(state), state.figures.number("honing.overstroke_cap") * stone_mm(state)
    stops = []
    if room is None:
        stops.append(SetUpReason(SetUpWhy.ROOM_UNKNOWN))
    elif bottom > room + 1e-9:
        stops.append(SetUpReason(SetUpWhy.CRASH, (bottom, room), hangs=_hangs(state)))
    if max(top, bottom) > cap + 1e-9:
        stops.append(SetUpReason(SetUpWhy.BELLS, (cap,)))
    return StrokeFound(stroke, tuple(stops))


def _openings(state: JobState, stroke: StrokeLength) -> tuple[SetUpReason, ...]:
    """Openings and webs in the wall that a stone's end would turn round at, or strike."""
    near = state.figures.number("honing.pin_hole_near")
    low_end = state.block.length_mm + stroke.over_bottom_mm
    turns = (low_end, low_end - stone_mm(state), stone_mm(state) - stroke.over_top_mm)
    found = []
    for note in state.boring.cut_notes:
        at = note.depth_mm
        if at is None:
            continue
        if note.what == "web" and at < low_end:
            found.append(SetUpReason(SetUpWhy.WEBS, (at,)))
        if note.what == "pin hole" and any(abs(turn - at) < near for turn in turns):
            found.append(SetUpReason(SetUpWhy.PIN_HOLE, (at,)))
    return tuple(dict.fromkeys(found))


def _room_looks(state: JobState, stroke: StrokeLength) -> list[SetUpReason]:
    """A stone that comes nearer to what is below than is kept from it."""
    room, kept = room_for_stone(state), state.figures.number("honing.room_margin")
    if room is None or not room - kept + 1e-9 < stroke.over_bottom_mm <= room + 1e-9:
        return []
    figures = (max(room - stroke.over_bottom_mm, 0.0), kept, max(room - kept, 0.0))
    blind = state.block.bottom is Bottom.BLIND
    return [SetUpReason(SetUpWhy.NEAR_BOTTOM, figures, hangs=_hangs(state), blind=blind)]


def _angle_looks(state: JobState, hatch: Crosshatch | None) -> list[SetUpReason]:
    aim = angle_aim(state)
    if hatch is None or aim.low_deg - 0.05 <= hatch.included_deg <= aim.high_deg + 0.05:
        return []
    run, figures = state.honing.run, (hatch.included_deg, aim.low_deg, aim.high_deg)
    if run is not None and run.machine == "vertical":
        own = proposed_hone(state, "vertical")
        if (own.rpm, own.strokes_per_min) == (run.rpm, run.strokes_per_min):
            return [SetUpReason(SetUpWhy.NEAREST_STEPS, deg=figures)]
    return [SetUpReason(SetUpWhy.FLAT if hatch.included_deg < aim.low_deg else SetUpWhy.STEEP, deg=figures)]


def _speed_looks(state: JobState, h: HoneRun, hatch: Crosshatch | None) -> list[SetUpReason]:
    if hatch is None or h.machine != "vertical":
        return []
    kind = "diamond" if _diamond(state.honing.stones) else "vitrified"
    found = []
    for value, name, why in (
        (hatch.rotary_m_per_min, f"surface_speed_{kind}", SetUpWhy.TURNS),
        (hatch.axial_m_per_min, "axial_speed", SetUpWhy.STROKES),
    ):
        low, high = state.figures.row(f"honing.{name}")
        if not low - 0.5 <= value <= high + 0.5:
            found.append(SetUpReason(why, m_per_min=(value, low, high)))
    return found


def _stone_looks(state: JobState) -> list[SetUpReason]:
    share = stone_mm(state) / state.block.length_mm
    found = []
    if state.honing.stones is None:
        found.append(SetUpReason(SetUpWhy.NO_STONES))
    elif state.honing.stones.bedded is False:
        found.append(SetUpReason(SetUpWhy.NEW_STONES))
    if not 0.5 <= share <= 0.75:
        found.append(SetUpReason(SetUpWhy.STONE_SHARE, share=share))
    return found
