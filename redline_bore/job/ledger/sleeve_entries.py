"""The entries of sleeving: the old sleeve, the parent, every new sleeve, deck, counterbores, what it read once in.

Lengths in mm at the part's own temperature unless the name says not, temperatures in C.
"""

from __future__ import annotations

from typing import Literal

from redline_bore.core.frozen import frozen

Way = Literal["touch up", "oversize outside", "repair sleeve"]


@frozen(kw_only=True)
class OldSleeveMeasured:
    """Outside diameter of the sleeve that is to come out."""

    cylinder: int
    outside_mm: float
    kind: Literal["old_sleeve_measured"] = "old_sleeve_measured"


@frozen(kw_only=True)
class ParentRead:
    """Two-point diameters of a parent bore at one depth, at angles spread evenly from 0 over half a turn."""

    cylinder: int
    depth_mm: float
    sizes_mm: tuple[float, ...]
    kind: Literal["parent_read"] = "parent_read"


@frozen(kw_only=True)
class ParentOutsideStated:
    """Effective outside of the parents, mm: a range, for water and ribs make it uncertain."""

    low_mm: float
    high_mm: float
    kind: Literal["parent_outside_stated"] = "parent_outside_stated"


@frozen(kw_only=True)
class SleeveMeasured:
    """The sleeve meant for a cylinder, as it lies on the bench at ``sleeve_c`` (None: not taken).

    flange_mm: thickness of its flange, None: it has none. length_mm: whole length, None: not measured.
    """

    cylinder: int
    outside_mm: float
    bore_mm: float
    flange_mm: float | None = None
    length_mm: float | None = None
    sleeve_c: float | None = None
    kind: Literal["sleeve_measured"] = "sleeve_measured"


@frozen(kw_only=True)
class DeckRead:
    """Heights of a bank's deck over any plane parallel to the mains: rows front to back, each left to right."""

    bank: int
    rows_mm: tuple[tuple[float, ...], ...]
    kind: Literal["deck_read"] = "deck_read"


@frozen(kw_only=True)
class DeckFaced:
    """The deck of a bank was faced, and so much came off it altogether."""

    bank: int
    cut_mm: float
    kind: Literal["deck_faced"] = "deck_faced"


@frozen(kw_only=True)
class CounterboreRead:
    """Depth of a counterbore from the deck as it stands."""

    cylinder: int
    depth_mm: float
    kind: Literal["counterbore_read"] = "counterbore_read"


@frozen(kw_only=True)
class ProtrusionStated:
    """How far the flanges are to stand above the deck, by the maker's sheet."""

    low_mm: float
    high_mm: float
    kind: Literal["protrusion_stated"] = "protrusion_stated"


@frozen(kw_only=True)
class SleeveWayTaken:
    """What is done about this cylinder's sleeve and parent."""

    cylinder: int
    way: Way
    step_left: bool = False
    kind: Literal["sleeve_way_taken"] = "sleeve_way_taken"


@frozen(kw_only=True)
class SleeveCold:
    """How cold the sleeves are made before they go in."""

    sleeve_c: float
    kind: Literal["sleeve_cold"] = "sleeve_cold"


@frozen(kw_only=True)
class AfterPressRead:
    """The bore of a sleeve once it sits and everything is at one temperature, top to bottom."""

    cylinder: int
    sizes_mm: tuple[float, ...]
    kind: Literal["after_press_read"] = "after_press_read"
