"""How straight and round a hole is at the hone, by its last check, against the limits of its duty; and where it is tight."""

from __future__ import annotations

from typing import NamedTuple

from redline_bore.core.frozen import frozen
from redline_bore.job.gauge.doubt import reading_doubt
from redline_bore.job.gauge.hole import HoleShape, Out, hole_limits, shape_of_hole
from redline_bore.job.gauge.places import places_of_checks
from redline_bore.job.hone.set_up import room_kept, stone_mm, usual_over
from redline_bore.job.hone.steps import PEAKS_ONLY, stones_of
from redline_bore.job.hone.track import ends_of, sizing_step, tracked_of
from redline_bore.job.kinds.hone import HoneSet
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.honing import Check
from redline_bore.job.state.job_state import JobState


@frozen
class ShapeAtHone:
    """The shape at the last check, and what to do about it. tight_top_mm, tight_bottom_mm: by how much each end is tighter than the middle, on
    diameter, minus is open; ends_out: those ends of the window that a place is out of, beyond U; depth_mm: of the tightest place.
    set_to: how the hone is to go from now on, so that it comes straight; None: as it goes."""

    hole: HoleShape
    ends_out: tuple[Out, ...]
    tight_top_mm: float
    tight_bottom_mm: float
    depth_mm: float
    set_to: HoneSet | None

    @property
    def out(self) -> tuple[Out, ...]:
        """All that is out."""
        return (*self.hole.out, *self.ends_out)


@once_a_state
def shape_at_hone(state: JobState, cylinder: int) -> ShapeAtHone | None:
    """The shape of a cylinder at its last check; None before there is one, or without a redline."""
    checks, ends, tracked = state.honing.checks_of(cylinder), ends_of(state, cylinder), tracked_of(state, cylinder)
    if not checks or ends is None or tracked is None:
        return None
    last = checks[-1]
    sizing = state.honing.step_of(cylinder) >= sizing_step(state)
    near_end = sizing and tracked.to_aim_mm <= state.figures.number("honing.creep_from")
    ends_out = [Out.TIGHT] if last.smallest_mm < ends.low_mm - ends.u_mm and near_end else []
    ends_out += [Out.WIDE] if last.largest_mm > ends.top_mm + ends.u_mm else []
    sizes = last.by_depth_mm
    at = min(range(len(sizes)), key=lambda i: sizes[i])
    depth = places_of_checks(state, len(sizes))[at]
    middle = sizes[1:-1] or sizes
    mid = sum(middle) / len(middle)
    top, bottom = mid - sizes[0], mid - sizes[-1]
    return ShapeAtHone(
        shape_of_hole(state, last), tuple(ends_out), top, bottom, depth, _set_to(state, cylinder, last, top, bottom)
    )


def _set_to(state: JobState, cylinder: int, last: Check, top_mm: float, bottom_mm: float) -> HoneSet | None:
    """How the hone is to go so that tight ends open and open ends close: overstroke first, then dwell; None where it is well as it
    goes, where nothing was honed with this set-up yet, near size, or at a hone that has neither."""
    run, f, stones = state.honing.run, state.figures, stones_of(state)
    peaks = stones[min(state.honing.step_of(cylinder), len(stones) - 1)] in PEAKS_ONLY
    if run is None or run.machine != "vertical" or peaks or len(last.sizes_mm) < 3 or not _honed_so(state, cylinder):
        return None
    limits, own = hole_limits(state), reading_doubt(state).own_mm
    told = max(f.number("honing.trued_from") * min(limits.taper_mm, limits.bulge_mm), 2.0 * own)
    each = max(f.number("honing.trued_by") * min(limits.taper_mm, limits.bulge_mm), 2.0 * own)
    stone, room = stone_mm(state), room_kept(state)
    cap = f.number("honing.overstroke_cap") * stone
    below = cap if room is None else min(cap, room)
    usual = usual_over(state)
    over_top, dwell_top = _end(state, top_mm, told, each, _known(run.over_top_mm, usual[0]), run.dwell_top_s, cap)
    over_bottom, dwell_bottom = _end(
        state, bottom_mm, told, each, _known(run.over_bottom_mm, usual[1]), run.dwell_bottom_s, below
    )
    found = HoneSet(
        machine="vertical", rpm=run.rpm, strokes_per_min=run.strokes_per_min, over_top_mm=over_top, over_bottom_mm=over_bottom,
        dwell_top_s=dwell_top, dwell_bottom_s=dwell_bottom, load=run.load,
    )  # fmt: skip
    now = (_known(run.over_top_mm, usual[0]), _known(run.over_bottom_mm, usual[1]), run.dwell_top_s, run.dwell_bottom_s)
    return None if _alike((over_top, over_bottom, dwell_top, dwell_bottom), now) else found


def _known(value: float | None, usual: float) -> float:
    return usual if value is None else value


def _alike(a: tuple[float, ...], b: tuple[float, ...]) -> bool:
    return all(abs(x - y) < 1e-6 for x, y in zip(a, b, strict=True))


def _honed_so(state: JobState, cylinder: int) -> bool:
    """Whether this cylinder was honed and read since the hone was set as it is: before that nothing is known of the set-up."""
    since = [c for c in state.honing.checks_of(cylinder) if c.seq > state.honing.run_since]
    return len(since) >= 2 and since[-1].strokes > since[0].strokes or (len(since) == 1 and since[0].strokes > 0)


class EndSet(NamedTuple):
    """An end of the stroke: how far the stone goes out, mm, and how long it waits, s."""

    over_mm: float
    dwell_s: float


def _end(
    state: JobState, tight_mm: float, told_mm: float, own_mm: float, over_mm: float, dwell_s: float, cap_mm: float
) -> EndSet:
    """One end of the stroke, put right by a step: out further where it is tight, and dwell once it is as far out as it may be."""
    f = state.figures
    if abs(tight_mm) <= told_mm:
        return EndSet(over_mm, dwell_s)
    steps = min(abs(tight_mm) / own_mm, f.number("honing.true_steps"))
    move, wait = steps * f.number("honing.over_step") * stone_mm(state), steps * f.number("honing.dwell_step")
    if tight_mm > 0.0:
        if over_mm < cap_mm - 0.5:
            return EndSet(round(min(over_mm + move, cap_mm), 1), dwell_s)
        return EndSet(over_mm, round(min(dwell_s + wait, f.number("honing.longest_dwell")), 1))
    if dwell_s > 0.0:
        return EndSet(over_mm, round(max(dwell_s - wait, 0.0), 1))
    return EndSet(
        round(
            max(over_mm - move, f.number("honing.over_least") * stone_mm(state), 0.0)
            if over_mm > f.number("honing.over_least") * stone_mm(state)
            else over_mm,
            1,
        ),
        0.0,
    )
