"""How the hone is set: stones, stroke, crosshatch, and what stands in the way (methods 10)."""

from __future__ import annotations

from dataclasses import dataclass
from functools import partial

from redline_bore.core.block import room_below
from redline_bore.core.errors import InputError
from redline_bore.core.stroke import (
    Crosshatch,
    HandPace,
    Motion,
    StrokeLength,
    crosshatch,
    hand_pace,
    snapped_strokes,
    stroke_length,
)
from redline_bore.job.entries import HoneSet, StonesSet
from redline_bore.job.state import JobState

HAND = ("drill", "ball")
DRILL_STONE_SHARE = 0.5


@dataclass(frozen=True)
class AngleAim:
    """The crosshatch that is wanted, included: window, aim, and where it comes from."""

    low_deg: float
    high_deg: float
    aim_deg: float
    source: str


@dataclass(frozen=True)
class Kinematics:
    """What the set-up does. None: the machine has no such figure, or it is not known. ``stops``: what must not be run as
    it is set; ``looks``: what wants a look."""

    stroke: StrokeLength | None
    hatch: Crosshatch | None
    motion: Motion | None
    pace: HandPace | None
    stops: tuple[str, ...]
    looks: tuple[str, ...]


def stone_names(state: JobState) -> tuple[str, ...]:
    """Every stone that figures exist for, as abrasive_grit."""
    return tuple(n.removesuffix("_rate") for n in state.figures.names("stones") if n.endswith("_rate"))


def stones_said(name: str) -> str:
    """A stone as it is said: vitrified 150."""
    return name.replace("_", " ")


def rate_of(state: JobState, stones: str) -> float:
    """Metal on diameter a double stroke at roughing load in this block, mm: a starting point until checks replace it."""
    f = state.figures
    cuts = f.number(f"stones.{state.block.material}_cuts")
    scale = f.number("stones.reference_bore") / state.block.bore_mm  # the same stones cover less of a larger wall
    return f.number(f"stones.{stones}_rate") * 1e-3 * cuts * scale


def rz_of(state: JobState, stones: str) -> tuple[float, float]:
    """Rz that a stone leaves in grey iron, um, low and high."""
    low, high = state.figures.row(f"stones.{stones}_rz")
    return low, high


def angle_aim(state: JobState) -> AngleAim:
    """The crosshatch wanted: as stated, else by hand or by duty."""
    if state.angle is not None:
        a = state.angle.included_deg
        return AngleAim(a - 2.0, a + 2.0, a, f"as stated, {state.angle.quoted}")
    by_hand = state.hone is not None and state.hone.machine in HAND
    duties = state.figures.names("crosshatch")
    name = "hand" if by_hand else state.book_in.duty if state.book_in.duty in duties else "everyday"
    low, high = state.figures.row(f"crosshatch.{name}")
    return AngleAim(low, high, (low + high) / 2.0, f"crosshatch.{name}")


def stone_mm(state: JobState) -> float:
    """Length of the stones: as set, else the usual share of the hole."""
    if state.stones is not None:
        return state.stones.length_mm
    return state.figures.number("honing.stone_share") * state.block.length_mm


def usual_over(state: JobState) -> tuple[float, float]:
    """Usual overstroke at top and bottom, mm, the bottom kept inside the room below."""
    usual = state.figures.number("honing.overstroke_share") * stone_mm(state)
    room = room_below(state.block)
    return usual, usual if room is None else min(usual, room)


def proposed_hone(state: JobState, machine: str, rpm: float | None = None) -> HoneSet:
    """A set-up to begin with: turns for the surface speed, strokes for the angle, steps of the machine. Each machine has
    only the figures it has."""
    f = state.figures
    speed = f.row("honing.surface_speed_diamond" if _diamond(state.stones) else "honing.surface_speed_vitrified")
    middle = 1000.0 * sum(speed) / 2.0 / (3.14159265 * state.block.bore_mm)
    if machine in HAND or machine == "manual":
        turns = rpm if rpm is not None else _nearest(middle, f.row("honing.hone_speeds"))
        return HoneSet(machine=machine, rpm=turns)  # type: ignore[arg-type]
    turns = rpm if rpm is not None else _nearest(middle, f.row("honing.hone_speeds"))
    top, bottom = usual_over(state)
    stroke = stroke_length(state.block.length_mm, stone_mm(state), top, bottom).stroke_mm
    strokes = snapped_strokes(
        state.block.bore_mm, stroke, turns, angle_aim(state).aim_deg, f.row("honing.hone_strokes")
    )
    return HoneSet(
        machine="vertical", rpm=turns, strokes_per_min=strokes, over_top_mm=top, over_bottom_mm=bottom,
        load=f.number("honing.rough_load"),
    )  # fmt: skip


def _nearest(wanted: float, steps: tuple[float, ...]) -> float:
    return min(steps, key=partial(_apart, wanted))


def _apart(wanted: float, step: float) -> float:
    return abs(step - wanted)


def _diamond(stones: StonesSet | None) -> bool:
    return stones is not None and stones.stones.startswith("diamond")


def kinematics_of(state: JobState) -> Kinematics:
    """The set-up as it stands."""
    return state.remembered("kinematics", lambda: _kinematics_now(state))


def _kinematics_now(state: JobState) -> Kinematics:
    h = state.hone
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
    looks = (*_angle_looks(state, hatch), *_speed_looks(state, h, hatch), *_stone_looks(state))
    return Kinematics(stroke, hatch, motion, pace, (*stops, *_openings(state, stroke)), looks)


def _stroke(state: JobState, h: HoneSet) -> tuple[StrokeLength | None, tuple[str, ...]]:
    usual_top, usual_bottom = usual_over(state)
    top = usual_top if h.over_top_mm is None else h.over_top_mm
    bottom = usual_bottom if h.over_bottom_mm is None else h.over_bottom_mm
    try:
        stroke = stroke_length(state.block.length_mm, stone_mm(state), top, bottom)
    except InputError as error:
        return None, (str(error),)
    room, cap = room_below(state.block), state.figures.number("honing.overstroke_cap") * stone_mm(state)
    stops = []
    if room is None:
        stops.append("the room below is not known: measure it before a stone goes through")
    elif bottom > room + 1e-9:
        stops.append(f"the stone would crash: {bottom:.1f} mm out below, {room:.1f} mm of room")
    if max(top, bottom) > cap + 1e-9:
        stops.append(f"more than {cap:.1f} mm of overstroke bells the end and may throw a stone")
    return stroke, tuple(stops)


def _openings(state: JobState, stroke: StrokeLength) -> tuple[str, ...]:
    """Openings and webs in the wall that a stone's end would turn round at, or strike."""
    near = state.figures.number("honing.pin_hole_near")
    low_end = state.block.length_mm + stroke.over_bottom_mm
    turns = (low_end, low_end - stone_mm(state), stone_mm(state) - stroke.over_top_mm)
    found = []
    for note in state.cut_notes:
        at = note.depth_mm
        if at is None:
            continue
        if note.what == "web" and at < low_end:
            found.append(f"webs at {at:.0f} mm stand in the stone's way: cut them back first")
        if note.what == "pin hole" and any(abs(turn - at) < near for turn in turns):
            found.append(f"a stone's end turns round at the opening at {at:.0f} mm and would drop into it")
    return tuple(dict.fromkeys(found))


def _angle_looks(state: JobState, hatch: Crosshatch | None) -> list[str]:
    aim = angle_aim(state)
    if hatch is None or aim.low_deg - 0.05 <= hatch.included_deg <= aim.high_deg + 0.05:
        return []
    way = (
        "flat: it holds oil and drags it up"
        if hatch.included_deg < aim.low_deg
        else "steep: it drains, and turns the rings"
    )
    return [f"{hatch.included_deg:.0f}° is {way}; {aim.low_deg:.0f}–{aim.high_deg:.0f}° is wanted"]


def _speed_looks(state: JobState, h: HoneSet, hatch: Crosshatch | None) -> list[str]:
    if hatch is None or h.machine != "vertical":
        return []
    kind = "diamond" if _diamond(state.stones) else "vitrified"
    found = []
    for value, name, word in (
        (hatch.rotary_m_per_min, f"surface_speed_{kind}", "at the wall"),
        (hatch.axial_m_per_min, "axial_speed", "up and down"),
    ):
        low, high = state.figures.row(f"honing.{name}")
        if not low - 0.5 <= value <= high + 0.5:
            found.append(f"{value:.0f} m/min {word}; {low:.0f}–{high:.0f} is usual")
    return found


def _stone_looks(state: JobState) -> list[str]:
    share = stone_mm(state) / state.block.length_mm
    found = []
    if state.stones is None:
        found.append("which stones are in is not booked")
    elif not state.stones.bedded:
        found.append("new stones cut under size until they are bedded in: gauge before trusting the rate")
    if not 0.5 <= share <= 0.75:
        found.append(f"the stone is {share:.2f} of the hole; 0.5 to 0.75 is usual")
    return found
