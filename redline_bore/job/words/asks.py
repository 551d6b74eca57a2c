"""What to read next, in words."""

from __future__ import annotations

from collections.abc import Sequence

from redline_bore.core.show import Show, listed
from redline_bore.job.call.asks import CHORDS_ASKED, Ask, AskFor
from redline_bore.job.call.walls import WallPlace


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
