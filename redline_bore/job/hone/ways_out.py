"""Past the redline: what can still be done with a cylinder that was honed too far, with figures."""

from __future__ import annotations

from collections.abc import Sequence
from enum import Enum, auto

from redline_bore.core.fit import ClearanceWindow, Decision, guard_band_both
from redline_bore.core.frozen import frozen
from redline_bore.job.call.cut import walls_as_gauged
from redline_bore.job.call.ladder import ladder_of
from redline_bore.job.gauge.analysis import shape_of
from redline_bore.job.gauge.doubt import clearance_doubt
from redline_bore.job.gauge.hole import shape_of_hole
from redline_bore.job.hone.progress import Progress
from redline_bore.job.sleeve.fit import in_aluminium
from redline_bore.job.state.job_state import JobState
from redline_bore.job.state.two_angles import TwoAngles


class Out(Enum):
    """What can still be done with a hole that is past its redline. Which figures of a ``WayOut`` go with it stands beside it."""

    LEAVE = auto()  # mm: clearance least and most, U, window low and high
    READ_ENDS_FIRST = auto()  # the same: it may be left once its two ends are read
    TOO_CLOSE = auto()  # the same: by this gauge
    MATCHED_PISTON = auto()  # mm: the least and the most it may measure; cylinder: whose piston is one
    COATED_PISTON = auto()  # mm: of coating, what is usual, least and most
    NEXT_SIZE = auto()  # mm: over nominal, more from this cylinder; thin: cylinders too thin there
    SLEEVE = auto()  # mm: the parent, the wall behind it where that was read


@frozen
class WayOut:
    """One way out, with the figures it turns on."""

    out: Out
    mm: tuple[float, ...]
    cylinder: int = 0
    thin: tuple[int, ...] = ()


def ways_out(state: JobState, p: Progress) -> tuple[WayOut, ...]:
    """Every way out of a bore that is over its redline, the cheapest first; empty while it is not over."""
    if not p.over or p.last is None or p.redline.size_mm is None or p.redline.piston is None:
        return ()
    piston = p.redline.piston.size_mm
    hole = Hole(p.last.smallest_mm, p.last.largest_mm, clearance_doubt(state, p.last.mean_mm, piston))
    least, most = state.figures.row("honing.coating")
    coat = coating_for(hole, piston, p.redline.window, (least, most))
    found = [
        _leave(state, p, p.last, hole),
        _matched(state, p, hole),
        None if coat is None else WayOut(Out.COATED_PISTON, (coat, least, most)),
        _next(state, hole.largest_mm),
    ]
    return (*(w for w in found if w is not None), _sleeve(state, p.cylinder))


@frozen(often=True)
class Hole:
    """The smallest and the largest place of a hole, mm at 20 C, and U (k = 2) of a clearance in it: both ends count in every way out."""

    smallest_mm: float
    largest_mm: float
    u_mm: float


def pistons_for(hole: Hole, window: ClearanceWindow) -> tuple[float, float] | None:
    """The least and the most that a piston may measure, mm, for both ends of a hole to be surely inside its window; None: no piston does.

    The largest place asks for a piston that does not rattle, the smallest for one that does not seize. Source: ISO 14253-1.
    """
    least, most = hole.largest_mm - window.high_mm + hole.u_mm, hole.smallest_mm - window.low_mm - hole.u_mm
    return (least, most) if least < most else None


def coating_for(hole: Hole, piston_mm: float, window: ClearanceWindow, usual_mm: tuple[float, float]) -> float | None:
    """The thinnest coating, mm on diameter, within what is usual, that brings both ends surely inside; None: none does."""
    fits = pistons_for(hole, window)
    if fits is None:
        return None
    wants = max(fits[0] - piston_mm, usual_mm[0])
    return wants if wants <= min(usual_mm[1], fits[1] - piston_mm) else None


def _leave(state: JobState, p: Progress, read: TwoAngles, hole: Hole) -> WayOut | None:
    """To leave it as it stands: both ends in the window, and a shape that its duty allows."""
    assert p.redline.piston is not None
    least, most = hole.smallest_mm - p.redline.piston.size_mm, hole.largest_mm - p.redline.piston.size_mm
    window = p.redline.window
    call, shape = guard_band_both(least, most, window, hole.u_mm), shape_of_hole(state, read)
    if call is Decision.OUT or shape.out:
        return None
    figures = (least, most, hole.u_mm, window.low_mm, window.high_mm)
    if not read.both_ends:
        return WayOut(Out.READ_ENDS_FIRST, figures)
    return WayOut(Out.TOO_CLOSE if call is Decision.TOO_CLOSE or shape.close else Out.LEAVE, figures)


def _matched(state: JobState, p: Progress, hole: Hole) -> WayOut | None:
    fits = pistons_for(hole, p.redline.window)
    if fits is None:
        return None
    pistons = (state.calling.piston(c) for c in state.cylinders if c != p.cylinder)
    here = [q.cylinder for q in pistons if q is not None and fits[0] <= q.size_mm <= fits[1]]
    return WayOut(Out.MATCHED_PISTON, fits, here[0] if here else 0)


def _next(state: JobState, size: float) -> WayOut | None:
    nominal = state.block.bore_mm
    ahead = [r for r in sorted(state.book_in.oversizes_mm) if nominal + r > size]
    if not ahead:
        return None
    return WayOut(Out.NEXT_SIZE, (ahead[0], nominal + ahead[0] - size), thin=tuple(ladder_of(state).thin(ahead[0])))


def _sleeve(state: JobState, cylinder: int) -> WayOut:
    wall = state.figures.number("wall.sleeve_in_aluminium" if in_aluminium(state) else "wall.dry_sleeve_in_iron")
    parent = state.block.bore_mm + 2.0 * max(state.figures.number("sleeves.wall"), wall)
    reach = _outside(state, [cylinder]) or _outside(state, state.cylinders)
    return WayOut(Out.SLEEVE, (parent, min(reach) - parent / 2.0) if reach else (parent,))


def _outside(state: JobState, cylinders: Sequence[int]) -> list[float]:
    """How far out the block reaches where the wall was read, mm from the hole's axis."""
    found = []
    for c in cylinders:
        mean = shape_of(state, c).mean_mm
        found += [] if mean is None else [mean / 2.0 + w.wall_mm for w in walls_as_gauged(state, c)]
    return found
