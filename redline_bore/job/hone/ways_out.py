"""Past the redline: what can still be done with a cylinder that was honed too far, with figures."""

from __future__ import annotations

from dataclasses import dataclass

from redline_bore.core.fit import Decision, guard_band
from redline_bore.core.show import Show
from redline_bore.job.call.ladder import ladder_of
from redline_bore.job.gauge.doubt import clearance_doubt
from redline_bore.job.hone.progress import Progress
from redline_bore.job.sleeve.fit import in_aluminium
from redline_bore.job.state.job_state import JobState


@dataclass(frozen=True)
class WayOut:
    """One way out: what it is, and the figures it turns on."""

    title: str
    told: str


def ways_out(state: JobState, p: Progress, show: Show) -> tuple[WayOut, ...]:
    """Every way out of a bore that is over its redline, the cheapest first; empty while it is not over."""
    if not p.over or p.redline.size_mm is None or p.redline.piston is None or p.left_mm is None:
        return ()
    size = p.redline.size_mm - p.left_mm
    found = [
        _leave(state, p, size, show),
        _matched(state, p, size, show),
        _coated(state, p, size, show),
        _next(state, size, show),
    ]
    return (*(w for w in found if w is not None), _sleeve(state, size, show))


def _leave(state: JobState, p: Progress, size: float, show: Show) -> WayOut | None:
    assert p.redline.piston is not None
    clearance, window = size - p.redline.piston.size_mm, p.redline.window
    u = clearance_doubt(state, size, p.redline.piston.size_mm)
    call = guard_band(clearance, window, u)
    told = (
        f"clearance {show.size(clearance)} ± {show.size(u)} in {show.size(window.low_mm)}–{show.size(window.high_mm)}"
    )
    if call is Decision.IN:
        return WayOut("Leave it", f"{told}: still inside the window")
    return WayOut("Ask", f"{told}: too close to call with this gauge") if call is Decision.TOO_CLOSE else None


def _matched(state: JobState, p: Progress, size: float, show: Show) -> WayOut:
    window = p.redline.window
    low, high = size - window.high_mm, size - window.low_mm
    fits = [
        q.cylinder
        for c in state.cylinders
        if (q := state.calling.piston(c)) and c != p.cylinder and low <= q.size_mm <= high
    ]
    own = f"; the piston of {fits[0]} is one" if fits else ""
    return WayOut("A matched piston", f"one that measures {show.size(low)} to {show.size(high)}{own}")


def _coated(state: JobState, p: Progress, size: float, show: Show) -> WayOut | None:
    assert p.redline.piston is not None
    over = size - p.redline.size_mm if p.redline.size_mm is not None else 0.0
    least, most = state.figures.row("honing.coating")
    if over > most:
        return None
    wants = max(over, least)
    return WayOut(
        "A coated piston", f"{show.size(wants)} of coating on diameter, {show.size(least)}–{show.size(most)} is usual"
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
