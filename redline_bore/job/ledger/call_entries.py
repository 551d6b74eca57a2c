"""The entries of the call: practices, clearances, pistons, the chamber, the decision. Lengths in mm, volumes in cm3."""

from __future__ import annotations

from typing import Literal

from redline_bore.core.frozen import frozen


@frozen(kw_only=True)
class PracticeChosen:
    """Where schools differ, this way is followed from now on."""

    topic: str
    name: str
    kind: Literal["practice_chosen"] = "practice_chosen"


@frozen(kw_only=True)
class ClearanceStated:
    """A clearance window off a piston sheet, a manual, or the machinist's habit."""

    source: str
    low_mm: float
    high_mm: float
    kind: Literal["clearance_stated"] = "clearance_stated"


@frozen(kw_only=True)
class PistonMeasured:
    """The piston meant for a cylinder, at its gauge point and its own temperature (None: not taken)."""

    cylinder: int
    size_mm: float
    piston_c: float | None = None
    kind: Literal["piston_measured"] = "piston_measured"


@frozen(kw_only=True)
class ChamberStated:
    """What lies above a piston at the top of its stroke: volumes in cm3 (a dome is minus), the rest in mm."""

    chamber_cm3: float
    dish_cm3: float
    gasket_bore_mm: float
    gasket_thickness_mm: float
    deck_clearance_mm: float
    kind: Literal["chamber_stated"] = "chamber_stated"


@frozen(kw_only=True)
class Apart:
    """A cylinder that leaves the common size: sleeved, or bored to its own step over nominal."""

    cylinder: int
    way: Literal["sleeve", "own"]
    oversize_mm: float | None = None


@frozen(kw_only=True)
class BasedOn:
    """What a cylinder was known to need and to allow when the call was taken, mm. None: not known."""

    cylinder: int
    verdict: str
    low_mm: float | None
    high_mm: float | None
    ceiling_mm: float | None


@frozen(kw_only=True)
class DecisionTaken:
    """The call: the rung over nominal that cylinders go to, those that leave it, and the figures it rests on.

    way: bored to ``oversize_mm``, or nothing is bored and it is left, deglazed or re-ringed (oversize 0).
    """

    oversize_mm: float
    way: Literal["bore", "leave", "deglaze", "rering"] = "bore"
    sentence: str
    figures: tuple[str, ...] = ()
    apart: tuple[Apart, ...] = ()
    based_on: tuple[BasedOn, ...] = ()
    kind: Literal["decision_taken"] = "decision_taken"
