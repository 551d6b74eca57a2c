"""The ways that bore nothing: leave it, deglaze it, re-ring it; and when a drill hone is to stop."""

from __future__ import annotations

import math

from redline_bore.core.show import Show, cylinders
from redline_bore.job.call.clearance_there import There, clearance_there
from redline_bore.job.call.ladder import Ladder, OutOfLimits, against_limits, limits_words
from redline_bore.job.call.option import MAY, NO, SURE, UNKNOWN, Option, Weighed, minutes_for
from redline_bore.job.gauge.readings import gap_taper
from redline_bore.job.profiles.purpose import purpose
from redline_bore.job.redline import leading_window
from redline_bore.job.state.calling import Way
from redline_bore.job.state.job_state import JobState

LIGHT: tuple[tuple[Way, str, str], ...] = (
    ("leave", "Leave it as it is", "everyday"),
    ("deglaze", "Deglaze only", "deglaze"),
    ("rering", "Re-ring with the pistons there are", "rering"),
)


LIGHT_KEYS: tuple[Way, ...] = tuple(key for key, _, _ in LIGHT)


UNKNOWN_NEEDS = {  # what would tell, by what is not known
    OutOfLimits.MAY_HIDE_OVAL: "read every level at four angles or more",
    OutOfLimits.TOO_FEW_DEPTHS: "read it in the middle of ring travel too",
}


def light_options(state: JobState, ladder: Ladder) -> list[Option]:
    """Leaving, deglazing and re-ringing."""
    return [_light(state, ladder, *light) for light in LIGHT]


def _light(state: JobState, ladder: Ladder, key: str, title: str, limits: str) -> Option:
    """Leaving, deglazing, re-ringing: nothing is bored, and the hole must be inside its limits."""
    against = against_limits(state, limits)
    inside, why = against.inside, limits_words(against)
    needs: list[str] = []
    reasons: list[str] = []
    standing = SURE if inside else NO
    if key != "leave":
        reasons += [f"the {d.what} in {d.cylinder} stays: {d.accepted}" for d in state.gauging.defects if d.accepted]
    if inside:
        reasons.append(f"every cylinder is inside the limits for {key.replace('rering', 're-ringing')}")
    elif inside is None and key != "leave" and (told := by_ring_gaps(state, limits)) is not None:
        standing, reasons = told.standing, list(told.reasons)
        if standing is not NO:  # worn past it by its taper alone: a bore gauge would say no other
            needs.append("borrow a bore gauge and read it: ring gaps show neither size nor out of round")
    elif inside is None:
        standing, reasons = UNKNOWN, [why]
        needs.append(_first_need(ladder) or UNKNOWN_NEEDS.get(against.why or OutOfLimits.NOT_GAUGED, "gauge it fully"))
    else:
        reasons.append(why)
        if against.why is OutOfLimits.MARKED and key != "leave" and (mark := _may_stay(state, against.cylinder)):
            needs.append(f"ask the owner: accept {mark} WHY, in {against.cylinder}, lets it stay")
    if standing == SURE and (key != "deglaze" or clearance_there(state).stands is There.TIGHT):
        clearance = _clearance(state)
        standing = clearance.standing
        reasons += clearance.reasons
        needs += clearance.needs
    if key != "leave" and standing in (SURE, MAY):
        reasons.append(stop_rule(state))
    count = state.block.cylinders
    minutes = {
        "leave": 0.0,
        "deglaze": minutes_for(state, "hone") * count,
        "rering": minutes_for(state, "hone") * count,
    }[key]
    minutes += minutes_for(state, "wash") + minutes_for(state, "sheet")
    return Option(
        key, title, standing, None, (), tuple(reasons), tuple(n for n in needs if n), (0.0,) * count, None, 0, 0, minutes,
        key == purpose(state.book_in.purpose).light,
    )  # fmt: skip


def _may_stay(state: JobState, cylinder: int) -> str:
    """A flaw that may stay by the owner's word; empty where there is none."""
    return next((d.what for d in state.gauging.defects_of(cylinder) if not d.is_crack and not d.accepted), "")


def by_ring_gaps(state: JobState, limits: str) -> Weighed | None:
    """Where nothing but ring gaps was read: what their taper says against a set of limits; None without two gaps each."""
    tapers = [gap_taper(state, c) for c in state.cylinders]
    if any(t is None for t in tapers):
        return None
    show, limit = Show(state.units), state.figures.number(f"limits.{limits}_taper")
    u = math.sqrt(2.0) * state.figures.number("gauging.feeler_u") / math.pi
    worst = max(abs(t) for t in tapers if t is not None)
    told = f"taper by ring gaps {show.size(worst)} ± {show.size(u)}, limit {show.size(limit)}"
    if worst > limit + u:
        return Weighed(NO, (told,))
    return Weighed(MAY, (f"{told}: too close to call with a ring and a feeler" if worst > limit - u else told,))


def stop_rule(state: JobState) -> str:
    """When a drill hone is to stop: after so many strokes, or as soon as it takes size, told by a ring's gap."""
    show, f = Show(state.units), state.figures
    low, high = f.row("honing.deglaze_strokes")
    most = f.number("honing.deglaze_most")
    return (
        f"by drill hone {low:.0f} to {high:.0f} strokes, even in and out, then stop and look; stop for good when a ring's gap has "
        f"grown by {show.unit(show.size(math.pi * most))}, which is {show.size(most)} of size"
    )


def _clearance(state: JobState) -> Weighed:
    """Whether the pistons there are may go on in the holes there are."""
    there, window = clearance_there(state), leading_window(state).source
    about = cylinders(list(there.cylinders))
    need = ("measure every piston at its gauge point",)
    return {
        There.TIGHT: Weighed(NO, (f"the clearance of {about} is under {window}: a piston would seize",)),
        There.WIDE: Weighed(NO, (f"the clearance of {about} would be over {window}",)),
        There.NOT_MEASURED: Weighed(MAY, ("the pistons there are have not all been measured",), need),
        There.CLOSE: Weighed(MAY, (f"the clearance of {about} is too close to call by {window}",), need),
        There.IN: Weighed(SURE, (f"the pistons there are stand inside {window}",)),
    }[there.stands]


def _first_need(ladder: Ladder) -> str:
    first = next((c for c in ladder.columns if c.cleanup is None), None)
    return "" if first is None else f"gauge cylinder {first.cylinder}: {first.reason[0].lower()}{first.reason[1:]}"
