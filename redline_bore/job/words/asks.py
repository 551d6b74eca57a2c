"""What to read next, in words."""

from __future__ import annotations

from collections.abc import Sequence

from redline_bore.core.figures import Figures
from redline_bore.core.show import Show, listed
from redline_bore.job.call.asks import CHORDS_ASKED, Ask, AskFor
from redline_bore.job.call.finding import CallFinding
from redline_bore.job.call.walls import WallPlace
from redline_bore.job.call.ways_there import Road, WayThere
from redline_bore.job.card import Note
from redline_bore.job.state.job_state import JobState


def ask_words(ask: Ask, show: Show) -> str:
    """What to read, as an order that goes on in a sentence: "sweep cylinder 4 at 21, 84 and 182 mm down"."""
    c, at = ask.cylinder, f"cylinder {ask.cylinder}"
    return {
        AskFor.GAUGE: f"gauge {at}",
        AskFor.MARK: f"measure how deep the {'flaw' if ask.mark is None else ask.mark.what} in {c} is",
        AskFor.RING_STOP: f"measure where the top ring stops, to {show.unit(show.depth(1.0))}: stop {show.depth(16.0)} books it",
        AskFor.SWEEP: f"sweep {at} at {show.downs(ask.depths_mm)}",
        AskFor.CHORDS: f"read {at} at {CHORDS_ASKED} angles or more {show.downs(ask.depths_mm)}",
        AskFor.WALL: f"read the wall of {at}, {places_words(ask.places, show)}",
        AskFor.WALL_THROUGH: f"say what the wall readings of {at} went through: the liner, or both",
        AskFor.WALL_AGAIN: f"read the wall of {at} again, {places_words(ask.places, show)}",
        AskFor.PISTON: f"measure piston {c}, one of {_sold(ask.over_mm, show)}",
    }[ask.what]


def places_words(places: Sequence[WallPlace], show: Show) -> str:
    """Places of a wall by depth: 53 mm down at 0, 90 and 270°, and 159 mm down at 90°."""
    by_depth: dict[float, list[int]] = {}
    for place in places:
        by_depth.setdefault(place.depth_mm, []).append(round(place.clock_deg))
    return ", and ".join(f"{show.down(depth)} at {listed(clocks)}°" for depth, clocks in by_depth.items())


def _sold(over_mm: float, show: Show) -> str:
    """Pistons by the size they are sold for."""
    return f"those {show.step(over_mm).lstrip('+')} over" if over_mm else "the standard ones"


MAY_CHANGE = {  # what reading it could change, and what leaving it out risks
    AskFor.GAUGE: ("it may need more than the others", "a size is called of a hole that nobody read"),
    AskFor.MARK: ("a size up or down hangs on it", "a cut that does not reach under it: a second cut"),
    AskFor.SWEEP: ("a size up or down hangs on it", "a cut that leaves a shadow, with its pistons bought"),
    AskFor.WALL: ("a thin wall means a sleeve, or a smaller size", "a wall that is too thin is found by the owner"),
    AskFor.WALL_AGAIN: (
        "a thin wall means a sleeve, or a smaller size",
        "a wall that is too thin is found by the owner",
    ),
    AskFor.WALL_THROUGH: (
        "read through both, the liner itself is unknown",
        "a liner that is too thin is found by the owner",
    ),
}


def minutes_of(ask: Ask, figures: Figures) -> float:
    """Rough minutes of what is asked."""
    if ask.what is AskFor.SWEEP:
        return figures.number("cleanup.sweep_minutes")
    if ask.what is AskFor.MARK:
        return figures.number("cleanup.mark_minutes")
    if ask.what is AskFor.GAUGE:
        return figures.number("bench_time.gauge_full")
    return figures.number("wall.place_minutes") * max(len(ask.places), 1)


def before_metal(state: JobState, found: CallFinding, show: Show) -> list[str]:
    """All that is worth reading before metal, once: what, how long, what it could change, and how it is left out; then what was left out."""
    told = []
    for ask in found.asks:
        change, risk = MAY_CHANGE[ask.what]
        told.append(
            f"Before metal: {ask_words(ask, show)}, {minutes_of(ask, state.figures):.0f} min: {change}. "
            f"{left_out_line(ask)} leaves it; the risk: {risk}."
        )
    return told + [
        Note(f"Left out, cylinder {c}: {LEFT_NAMES[what]}; the risk: {MAY_CHANGE[AskFor[what.upper()]][1]}.")
        for what, c in state.calling.left_out
        if what.upper() in AskFor.__members__
    ]


LEFT_NAMES = {"mark": "flaw", "sweep": "sweep", "wall": "wall", "wall_again": "wall again", "wall_through": "liner"}


def left_out_line(ask: Ask) -> str:
    """How an ask is left out, as it is typed."""
    return f"leave out {LEFT_NAMES.get(ask.what.name.lower(), 'gauging')} {ask.cylinder}"


def beside_words(found: CallFinding, show: Show) -> list[str]:
    """The ways to a size beside one another, by the minutes each likely costs, the cheapest first."""
    if not found.ways:
        return []
    told = [f"{_road_words(w, show)} {w.minutes:.0f}" for w in found.ways]
    return [Note(f"Minutes likely lost, by way: {', '.join(told)}.")]


def proof_words(found: CallFinding, show: Show) -> list[str]:
    """What would prove it, where nobody asks for it."""
    wanted = list(dict.fromkeys(ask_words(a, show) for a in found.proofs if a not in found.asks))
    if not wanted:
        return []
    more = "" if len(wanted) == 1 else f", and {len(wanted) - 1} more like it"
    return [Note(f"Would prove it: {wanted[0]}{more}.")]


def _road_words(w: WayThere, show: Show) -> str:
    if w.way is Road.GO_ON:
        return "bore all and go on"
    if w.way is Road.LOOK:
        return f"bore {w.cylinder} first and look"
    if w.way is Road.MEASURE and w.ask is not None:
        return "measure first"
    return f"{show.step(w.oversize_mm or 0.0).lstrip('+')} at once"
