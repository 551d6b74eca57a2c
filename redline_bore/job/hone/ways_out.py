"""Past the redline: what can still be done with a cylinder that was honed too far, with figures."""

from __future__ import annotations

from dataclasses import dataclass

from redline_bore.core.fit import ClearanceWindow, Decision, guard_band_both
from redline_bore.core.show import Show
from redline_bore.job.call.ladder import ladder_of
from redline_bore.job.gauge.doubt import clearance_doubt
from redline_bore.job.gauge.hole import shape_of_hole
from redline_bore.job.hone.progress import Progress
from redline_bore.job.sleeve.fit import in_aluminium
from redline_bore.job.state.job_state import JobState
from redline_bore.job.state.two_angles import TwoAngles


@dataclass(frozen=True)
class WayOut:
    """One way out: what it is, and the figures it turns on."""

    title: str
    told: str


def ways_out(state: JobState, p: Progress, show: Show) -> tuple[WayOut, ...]:
    """Every way out of a bore that is over its redline, the cheapest first; empty while it is not over."""
    if not p.over or p.last is None or p.redline.size_mm is None or p.redline.piston is None:
        return ()
    piston = p.redline.piston.size_mm
    hole = Hole(p.last.smallest_mm, p.last.largest_mm, clearance_doubt(state, p.last.mean_mm, piston))
    least, most = state.figures.row("honing.coating")
    coat = coating_for(hole, piston, p.redline.window, (least, most))
    found = [
        _leave(state, p, p.last, hole, show),
        _matched(state, p, hole, show),
        None if coat is None else _coated(coat, state, show),
        _next(state, hole.largest_mm, show),
    ]
    return (*(w for w in found if w is not None), _sleeve(state, p.last.mean_mm, show))


@dataclass(frozen=True)
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


def _leave(state: JobState, p: Progress, read: TwoAngles, hole: Hole, show: Show) -> WayOut | None:
    """To leave it as it stands: both ends in the window, and a shape that its duty allows."""
    assert p.redline.piston is not None
    least, most = hole.smallest_mm - p.redline.piston.size_mm, hole.largest_mm - p.redline.piston.size_mm
    window = p.redline.window
    call, shape = guard_band_both(least, most, window, hole.u_mm), shape_of_hole(state, read)
    if call is Decision.OUT or shape.out:
        return None
    low, high = show.size(window.low_mm), show.size(window.high_mm)
    told = f"clearance {show.size(least)} to {show.size(most)} ± {show.size(hole.u_mm)} in {low}–{high}"
    if not read.both_ends:
        return WayOut("Ask", f"{told}: gauge it at three depths and two angles before it is left")
    if call is Decision.TOO_CLOSE or shape.close:
        return WayOut("Ask", f"{told}: too close to call with this gauge")
    return WayOut("Leave it", f"{told}: still inside the window")


def _matched(state: JobState, p: Progress, hole: Hole, show: Show) -> WayOut | None:
    fits = pistons_for(hole, p.redline.window)
    if fits is None:
        return None
    here = [
        q.cylinder
        for c in state.cylinders
        if (q := state.calling.piston(c)) and c != p.cylinder and fits[0] <= q.size_mm <= fits[1]
    ]
    own = f"; the piston of {here[0]} is one" if here else ""
    return WayOut("A matched piston", f"one that measures {show.size(fits[0])} to {show.size(fits[1])}{own}")


def _coated(coat_mm: float, state: JobState, show: Show) -> WayOut:
    least, most = state.figures.row("honing.coating")
    return WayOut(
        "A coated piston", f"{show.size(coat_mm)} of coating on diameter, {show.size(least)}–{show.size(most)} is usual"
    )


def _next(state: JobState, size: float, show: Show) -> WayOut | None:
    nominal = state.block.bore_mm
    ahead = [r for r in sorted(state.book_in.oversizes_mm) if nominal + r > size]
    if not ahead:
        return None
    stock = nominal + ahead[0] - size
    thin = ladder_of(state).thin(ahead[0])
    told = (
        f"{show.step(ahead[0])}, about {show.size(stock)} more from this cylinder, and the others follow or stay apart"
    )
    return WayOut("The next size", f"{told}; too thin there: {', '.join(map(str, thin))}" if thin else told)


def _sleeve(state: JobState, size: float, show: Show) -> WayOut:
    wall = state.figures.number("wall.sleeve_in_aluminium" if in_aluminium(state) else "wall.dry_sleeve_in_iron")
    parent = state.block.bore_mm + 2.0 * max(state.figures.number("sleeves.wall"), wall)
    read = [w.wall_mm for w in state.gauging.wall_readings]
    behind = (
        "the wall behind was not read"
        if not read
        else f"{show.rough(min(read) - (parent - size) / 2.0)} of wall behind at least"
    )
    return WayOut("A sleeve", f"parent about {show.rough(parent)}, {behind}")
