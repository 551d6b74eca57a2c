"""The entries of boring: how the bar is set up, and what each hole came out at. Lengths in mm."""

from __future__ import annotations

from typing import Literal

from redline_bore.core.frozen import frozen


@frozen(kw_only=True)
class BarSet:
    """The bar's insert (nose radius, rake), feed in mm a turn, turns a minute, and what the block is squared to."""

    insert: str
    nose_radius_mm: float
    rake: Literal["positive", "negative"]
    feed_mm: float
    rpm: float
    based_on: Literal["mains", "deck"] = "mains"
    kind: Literal["bar_set"] = "bar_set"


@frozen(kw_only=True)
class HoleBored:
    """A cylinder was bored with the setting micrometer at ``set_mm``; sizes top to bottom, at the block's own warmth."""

    cylinder: int
    set_mm: float
    sizes_mm: tuple[float, ...]
    kind: Literal["hole_bored"] = "hole_bored"
