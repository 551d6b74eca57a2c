"""The ways that bore nothing: leave it, deglaze it, re-ring it; and when a drill hone is to stop."""

from __future__ import annotations

import math

from redline_bore.job.call.clearance_there import There, clearance_there
from redline_bore.job.call.ladder import Ladder, OutOfLimits, against_limits
from redline_bore.job.call.option import MAY, NO, SURE, UNKNOWN, Option, OptionKind, Weighed, minutes_for
from redline_bore.job.call.reason import Measure, Reason, ToMeasure, Why
from redline_bore.job.gauge.readings import gap_taper
from redline_bore.job.profiles.purpose import purpose
from redline_bore.job.redline import leading_window
from redline_bore.job.state.calling import Way
from redline_bore.job.state.gauging import Defect
from redline_bore.job.state.job_state import JobState

LIGHT: tuple[tuple[OptionKind, Way, str], ...] = (
    (OptionKind.LEAVE, "leave", "everyday"),
    (OptionKind.DEGLAZE, "deglaze", "deglaze"),
    (OptionKind.RERING, "rering", "rering"),
)


LIGHT_KEYS: tuple[Way, ...] = tuple(key for _, key, _ in LIGHT)


UNKNOWN_NEEDS = {  # what would tell, by what is not known
    OutOfLimits.MAY_HIDE_OVAL: Measure.FOUR_ANGLES,
    OutOfLimits.TOO_FEW_DEPTHS: Measure.MIDDLE_TOO,
}


def light_options(state: JobState, ladder: Ladder) -> list[Option]:
    """Leaving, deglazing and re-ringing."""
    return [_light(state, ladder, *light) for light in LIGHT]


def _light(state: JobState, ladder: Ladder, kind: OptionKind, key: Way, limits: str) -> Option:
    """Leaving, deglazing, re-ringing: nothing is bored, and the hole must be inside its limits."""
    against = against_limits(state, limits)
    inside, out = against.inside, Reason(Why.OUT_OF_LIMITS, (against.cylinder,), limit=against.why)
    needs: list[ToMeasure] = []
    reasons: list[Reason] = []
    standing = SURE if inside else NO
    if kind is not OptionKind.LEAVE:
        reasons += [
            Reason(Why.FLAW_STAYS, (d.cylinder,), named=(d.what, d.accepted))
            for d in state.gauging.defects
            if d.accepted
        ]
    if inside:
        reasons.append(Reason(Why.INSIDE_LIMITS, named=(key,)))
    elif inside is None and kind is not OptionKind.LEAVE and (told := by_ring_gaps(state, limits)) is not None:
        standing, reasons = told.standing, list(told.reasons)
        if standing is not NO:  # worn past it by its taper alone: a bore gauge would say no other
            needs.append(ToMeasure(Measure.BORE_GAUGE))
    elif inside is None:
        standing, reasons = UNKNOWN, [out]
        unknown = ToMeasure(UNKNOWN_NEEDS.get(against.why or OutOfLimits.NOT_GAUGED, Measure.GAUGE_FULLY))
        needs.append(_first_need(ladder) or unknown)
    else:
        reasons.append(out)
        mark = _may_stay(state, against.cylinder) if against.why is OutOfLimits.MARKED else ""
        if mark and kind is not OptionKind.LEAVE:
            needs.append(ToMeasure(Measure.OWNER_ACCEPTS, against.cylinder, named=mark))
    if standing == SURE and kind is not OptionKind.LEAVE and (felt := _felt(state)) is not None:
        standing = MAY  # 20 strokes and a look; nobody knows yet whether it goes
        reasons.append(Reason(Why.FLAW_FELT, (felt.cylinder,), named=(felt.what,)))
        needs.append(ToMeasure(Measure.OWNER_ACCEPTS, felt.cylinder, named=felt.what))
    if standing == SURE and (
        kind is not OptionKind.DEGLAZE or clearance_there(state).stands in (There.TIGHT, There.WIDE)
    ):
        clearance = _clearance(state)
        standing = clearance.standing
        reasons += clearance.reasons
        needs += clearance.needs
    if kind is not OptionKind.LEAVE and standing in (SURE, MAY):
        reasons.append(stop_rule(state))
    count = state.block.cylinders
    minutes = 0.0 if kind is OptionKind.LEAVE else minutes_for(state, "hone") * count
    minutes += minutes_for(state, "wash") + minutes_for(state, "sheet")
    return Option(
        kind, key, standing, None, (), tuple(reasons), tuple(needs), (0.0,) * count, None, 0, 0, minutes,
        key == purpose(state.book_in.purpose).light,
    )  # fmt: skip


def _felt(state: JobState) -> Defect | None:
    """A flaw that can be felt, and that the owner has not accepted."""
    least = state.figures.row("cleanup.can_feel")[0]
    return next(
        (d for d in state.gauging.defects if d.is_cut_out and not d.accepted and d.deep_high_mm > least + 1e-9), None
    )


def _may_stay(state: JobState, cylinder: int) -> str:
    """A flaw that may stay by the owner's word; empty where there is none."""
    return next((d.what for d in state.gauging.defects_of(cylinder) if not d.is_crack and not d.accepted), "")


def by_ring_gaps(state: JobState, limits: str) -> Weighed | None:
    """Where nothing but ring gaps was read: what their taper says against a set of limits; None without two gaps each."""
    tapers = [gap_taper(state, c) for c in state.cylinders]
    if any(t is None for t in tapers):
        return None
    limit = state.figures.number(f"limits.{limits}_taper")
    u = math.sqrt(2.0) * state.figures.number("gauging.feeler_u") / math.pi
    worst = max(abs(t) for t in tapers if t is not None)
    figures = (worst, u, limit)
    if worst > limit + u:
        return Weighed(NO, (Reason(Why.GAP_TAPER, mm=figures),))
    return Weighed(MAY, (Reason(Why.GAP_TAPER_CLOSE if worst > limit - u else Why.GAP_TAPER, mm=figures),))


def stop_rule(state: JobState) -> Reason:
    """When a drill hone is to stop: after so many strokes, or as soon as it takes size, told by a ring's gap."""
    f = state.figures
    return Reason(Why.STOP_RULE, mm=(f.number("honing.deglaze_most"),), strokes=f.row("honing.deglaze_strokes"))


def _clearance(state: JobState) -> Weighed:
    """Whether the pistons there are may go on in the holes there are."""
    there, window = clearance_there(state), leading_window(state).source
    need = (ToMeasure(Measure.MEASURE_PISTONS),)
    standing, why, needs = {
        There.TIGHT: (NO, Why.CLEARANCE_UNDER, ()),
        There.WIDE: (NO, Why.CLEARANCE_OVER, ()),
        There.NOT_MEASURED: (MAY, Why.PISTONS_UNMEASURED, need),
        There.CLOSE: (MAY, Why.CLEARANCE_CLOSE, need),
        There.IN: (SURE, Why.CLEARANCE_IN, ()),
    }[there.stands]
    return Weighed(standing, (Reason(why, tuple(there.cylinders), named=(window,)),), needs)


def _first_need(ladder: Ladder) -> ToMeasure | None:
    first = next((c for c in ladder.columns if c.cleanup is None), None)
    return None if first is None else ToMeasure(Measure.GAUGE_BECAUSE, first.cylinder, named=first.reason)
