"""The ways to a size and the next, each by the minutes it likely costs over knowing beforehand; the cheapest leads (methods 5). No words."""

from __future__ import annotations

from enum import Enum, auto

from redline_bore.core.frozen import frozen
from redline_bore.job.call.asks import Ask, AskFor, asks_at, look_first
from redline_bore.job.call.hone_out import hones_out
from redline_bore.job.call.ladder import ladder_of
from redline_bore.job.call.odds import chance_at, pistons_first, worth_taking
from redline_bore.job.state.calling import Apart
from redline_bore.job.state.job_state import JobState

MEASURED_LEAVES = 0.05  # chance of being wrong that is left once what decides was measured


class Road(Enum):
    """How one gets to a size."""

    GO_ON = auto()  # bore all, and hone
    LOOK = auto()  # bore the one that decides, look, then the others
    MEASURE = auto()  # what decides, before any metal
    NEXT = auto()  # the next size at once


@frozen
class WayThere:
    """A way, and what it likely costs in minutes over knowing beforehand. cylinder: the one that decides; ask: what is measured;
    oversize_mm: of the next size, over nominal."""

    way: Road
    minutes: float
    cylinder: int = 0
    ask: Ask | None = None
    oversize_mm: float | None = None


def ways_there(state: JobState, oversize_mm: float, apart: tuple[Apart, ...] = ()) -> tuple[WayThere, ...]:
    """The ways to a call that is not proven, the cheapest first; empty where it is proven, known to fail, or nothing is bored."""
    ladder, p = ladder_of(state), chance_at(state, oversize_mm, apart)
    if p is None or p <= 0.0 or hones_out(state) or ladder.sure(oversize_mm, apart):
        return ()
    f, wrong = state.figures, 1.0 - p
    fails = f.number("cleanup.order_fails" if pistons_first(state, ladder, oversize_mm) else "cleanup.look_fails")
    look = look_first(state, ladder, oversize_mm, apart)
    found = [WayThere(Road.GO_ON, wrong * f.number("cleanup.order_fails"))]
    if look:
        found.append(WayThere(Road.LOOK, len(look) * f.number("cleanup.look_minutes") + wrong * fails, look[0]))
    for ask in asks_at(state, ladder, oversize_mm, apart):
        if ask.what in (AskFor.MARK, AskFor.SWEEP):
            takes = f.number("cleanup.mark_minutes" if ask.what is AskFor.MARK else "cleanup.sweep_minutes")
            found.append(WayThere(Road.MEASURE, takes + min(wrong, MEASURED_LEAVES) * fails, ask.cylinder, ask))
    larger = next((r for r in ladder.rungs_mm if r > oversize_mm + 1e-9 and ladder.possible(r, apart)), None)
    if larger is not None:
        then = chance_at(state, larger, apart) or 0.0
        cost = p * f.number("cleanup.rung_worth") + (1.0 - then) * fails
        found.append(WayThere(Road.NEXT, cost, oversize_mm=larger))
    worth = worth_taking(
        state, ladder, oversize_mm, apart
    )  # what was seen in a hole may ask for more than the minutes do
    return tuple(sorted(found, key=lambda w: (not worth and w.way is not Road.NEXT, w.minutes)))
