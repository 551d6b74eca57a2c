"""What stands in the way of a hone's set-up, and what of it wants a look, in words."""

from __future__ import annotations

from redline_bore.core.show import Show
from redline_bore.job.hone.set_up import SetUpReason, SetUpWhy
from redline_bore.job.kinds.book_in import room_line

_WORDS = {
    SetUpWhy.NO_STROKE: "{told}",
    SetUpWhy.ROOM_UNKNOWN: "the room below is not known: measure it before a stone goes through; {room} books it",
    SetUpWhy.CRASH: "{what} would crash: {rough[0]} out below, {unit[1]} of room",
    SetUpWhy.BELLS: "more than {unit[0]} of overstroke bells the end and may throw a stone",
    SetUpWhy.WEBS: "webs {down} stand in the stone's way: cut them back first",
    SetUpWhy.PIN_HOLE: "a stone's end turns round at the opening {down} and would drop into it",
    SetUpWhy.NEAR_BOTTOM: "{what} {comes} {below}; {rough[1]} is kept from it: set it out {rough[2]} there",
    SetUpWhy.NEAREST_STEPS: "{deg[0]}° is as near {deg[1]}–{deg[2]}° as the steps of gearbox and stroker come",
    SetUpWhy.FLAT: "{deg[0]}° is flat: it holds oil and drags it up; {deg[1]}–{deg[2]}° is wanted",
    SetUpWhy.STEEP: "{deg[0]}° is steep: it drains, and turns the rings; {deg[1]}–{deg[2]}° is wanted",
    SetUpWhy.TURNS: "{speed} at the wall; {usual} is usual",
    SetUpWhy.STROKES: "{speed} up and down; {usual} is usual",
    SetUpWhy.NO_STONES: "which stones are in is not booked",
    SetUpWhy.NEW_STONES: "new stones cut under size until they are bedded in: gauge before trusting the rate",
    SetUpWhy.STONE_SHARE: "the stone is {share:.2f} of the hole; 0.5 to 0.75 is usual",
}


def say_set_up(reason: SetUpReason, show: Show) -> str:
    """One thing about a set-up, as part of a sentence.

    >>> from redline_bore.core.lengths import Units
    >>> say_set_up(SetUpReason(SetUpWhy.FLAT, deg=(18.0, 30.0, 45.0)), Show(Units.METRIC))
    '18° is flat: it holds oil and drags it up; 30–45° is wanted'
    """
    mm, speeds = reason.mm, reason.m_per_min
    return _WORDS[reason.why].format(
        told=reason.told, share=reason.share, deg=[f"{d:.0f}" for d in reason.deg],
        rough=[show.rough(v) for v in mm], unit=[show.unit(show.rough(v)) for v in mm], down=show.down(mm[0]) if mm else "",
        what="what hangs under the stone" if reason.hangs else "the stone",
        comes=_comes(mm[0], show) if mm else "", below="the blind bottom" if reason.blind else "what is below",
        room=room_line(show), speed=show.speed(speeds[0]) if speeds else "", usual=show.speed(*speeds[1:]) if speeds else "",
    )  # fmt: skip


def _comes(left_mm: float, show: Show) -> str:
    """How near it comes: what rounds to nothing touches."""
    return "touches" if float(show.rough(left_mm)) == 0.0 else f"comes within {show.unit(show.rough(left_mm))} of"
