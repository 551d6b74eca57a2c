"""What the call rests on and what it is: clearance windows, pistons, chamber, the decision. Lengths in mm, volumes in cm3."""

from __future__ import annotations

from typing import Literal

from redline_bore.core.fit import ClearanceWindow
from redline_bore.core.frozen import frozen
from redline_bore.core.told import Of, Unit, told
from redline_bore.job.state.rows import Rows

PISTONS = "call/pistons"
Way = Literal["bore", "hone", "leave", "deglaze", "rering"]


@frozen
class Piston:
    """A measured piston, at 20 C. ``warm_known``: its temperature was taken."""

    seq: int
    cylinder: int
    size_mm: float
    typed: str
    warm_known: bool


@frozen(kw_only=True)
class ChamberSpace:
    """What lies above a piston at the top of its stroke: volumes in cm3 (a dome is minus), the rest in mm."""

    chamber_cm3: float = told(
        "chamber", Unit.VOLUME, least=0.0, most=10000.0, why="no volume of a chamber, in cm3", shown=PISTONS
    )
    dish_cm3: float = told(
        "dish (a dome is minus)",
        Unit.VOLUME,
        least=-10000.0,
        most=10000.0,
        why="no volume of a piston's crown, in cm3",
        shown=PISTONS,
    )
    gasket_bore_mm: float = told(
        "gasket bore",
        Unit.LENGTH,
        least=0.9,
        most=1.3,
        of=Of.BORE,
        why="does not belong to this bore; check the unit",
        shown=PISTONS,
    )
    gasket_thickness_mm: float = told(
        "gasket thickness",
        Unit.LENGTH,
        least=0.0,
        most=0.1,
        of=Of.BORE,
        why="too thick for a gasket; the size is typed before the thickness: gasket 107 x 1.2",
        shown=PISTONS,
    )
    deck_clearance_mm: float = told("piston under the deck", Unit.LENGTH, shown=PISTONS)


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


@frozen
class Decision:
    """The call as it was taken: oversize in mm over nominal, who leaves it, what it was based on."""

    seq: int
    oversize_mm: float
    sentence: str
    figures: tuple[str, ...]
    at: str
    person: str
    apart: tuple[Apart, ...] = ()
    based_on: tuple[BasedOn, ...] = ()
    way: Way = "bore"

    @property
    def bores(self) -> bool:
        """Whether the call is to cut to a size; else the hole stays as it is but for its finish."""
        return self.by_bar or self.way == "hone"

    @property
    def by_bar(self) -> bool:
        """Whether the bar takes it there; else the hone alone."""
        return self.way == "bore"


@frozen
class Calling:
    """The slice of the call."""

    windows: tuple[ClearanceWindow, ...] = ()
    pistons: Rows[Piston] = Rows()
    chamber: ChamberSpace | None = None
    decision: Decision | None = None
    left_out: tuple[
        tuple[str, int], ...
    ] = ()  # what was asked for before metal and is not done, by what it is and its cylinder

    def piston(self, cylinder: int) -> Piston | None:
        """The piston last measured for a cylinder."""
        return next((p for p in reversed(self.pistons) if p.cylinder == cylinder), None)
