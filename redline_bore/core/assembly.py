"""Putting a sleeve in with heat and cold: which temperatures leave a gap, and for how long (methods 9).

Lengths in mm, temperatures in C, times in seconds, heat transfer in W/(m2 K). A gap is on diameter, plus is free.
"""

from __future__ import annotations

import math

from redline_bore.core.errors import InputError
from redline_bore.core.frozen import frozen
from redline_bore.core.press_fit import ROOM_C
from redline_bore.core.thermal import COLDEST_C

STEP_S, LONGEST_S = 0.05, 120.0  # after two minutes nobody is still holding it


@frozen(often=True)
class Growth:
    """Mean growth of iron in millionths per C: above 20 C, and from 20 C down to -196 C; in between it falls evenly."""

    warm_1e6: float
    cold_1e6: float

    def share(self, at_c: float) -> float:
        """By what share of itself a part is longer than at 20 C. Raises InputError below -196 C."""
        if at_c >= ROOM_C:
            return self.warm_1e6 * 1e-6 * (at_c - ROOM_C)
        if at_c < COLDEST_C - 1e-9:
            raise InputError("Nothing on a bench is colder than liquid nitrogen, -196 C")
        fallen = (ROOM_C - at_c) / (ROOM_C - COLDEST_C)
        mean = self.warm_1e6 + (self.cold_1e6 - self.warm_1e6) * fallen
        return mean * 1e-6 * (at_c - ROOM_C)


@frozen(often=True)
class DropIn:
    """A sleeve of ``interface_mm`` with ``interference_mm``, both at 20 C, that is to drop into its parent."""

    interface_mm: float
    interference_mm: float
    sleeve: Growth
    parent: Growth

    def gap_mm(self, sleeve_c: float, parent_c: float) -> float:
        """Room between the two, mm on diameter; minus: it still grips."""
        return self.interface_mm * (self.parent.share(parent_c) - self.sleeve.share(sleeve_c)) - self.interference_mm

    def parent_c_for(self, gap_mm: float, sleeve_c: float) -> float:
        """How hot the parent has to be, C, for a sleeve at ``sleeve_c`` to have ``gap_mm``."""
        wanted = (self.interference_mm + gap_mm) / self.interface_mm + self.sleeve.share(sleeve_c)
        if self.parent.warm_1e6 <= 0.0:
            raise InputError("How much the block grows with heat is not known")
        if wanted >= 0.0:
            return ROOM_C + wanted / (self.parent.warm_1e6 * 1e-6)
        return _solve(self.parent, wanted)

    def sleeve_c_for(self, gap_mm: float, parent_c: float) -> float | None:
        """How cold the sleeve has to be, C; None where even liquid nitrogen does not do it."""
        wanted = self.parent.share(parent_c) - (self.interference_mm + gap_mm) / self.interface_mm
        if wanted >= 0.0:
            return ROOM_C + wanted / (self.sleeve.warm_1e6 * 1e-6)
        return None if wanted < self.sleeve.share(COLDEST_C) - 1e-12 else _solve(self.sleeve, wanted)


def _solve(metal: Growth, share: float) -> float:
    """The temperature below 20 C at which a metal has shrunk to ``share``, by halving."""
    low, high = COLDEST_C, ROOM_C
    for _ in range(60):
        middle = (low + high) / 2.0
        low, high = (middle, high) if metal.share(middle) < share else (low, middle)
    return (low + high) / 2.0


@frozen(often=True)
class Cooling:
    """What a cold sleeve takes up and a hot block gives off. One body each, still air, no frost.

    wall_mm: of the sleeve. air_w: in air. air_conducts: of the air in the gap, W/(m K). store: heat a cubic metre of the
    sleeve holds, J/(m3 K). block_s: time in which a hot block loses 63 % of its heat to the room.
    """

    wall_mm: float
    air_w: float
    air_conducts: float
    store: float
    block_s: float


def seconds_of_grace(drop: DropIn, cooling: Cooling, sleeve_c: float, parent_c: float, carry_s: float) -> float:
    """Seconds from taking the sleeve out until its gap is gone.

    Carried through the air for ``carry_s``, then held in the bore where the thin gap passes heat fast. Nought
    where there is no gap to begin with, never more than two minutes. Source: two lumped bodies, Newton's cooling;
    the sleeve takes heat on both faces in air, and through the gap in the bore.
    """
    if cooling.wall_mm <= 0.0 or cooling.block_s <= 0.0 or cooling.store <= 0.0:
        raise InputError("The sleeve's wall and the times of cooling have to be more than nought")
    holds = cooling.store * cooling.wall_mm * 1e-3  # J/(m2 K) of wall
    sleeve, parent, spent = sleeve_c, parent_c, 0.0
    while spent < LONGEST_S:
        gap = drop.gap_mm(sleeve, parent)
        if gap <= 0.0:
            return spent
        step, passes, towards = STEP_S, 2.0 * cooling.air_w, ROOM_C
        if spent >= carry_s:
            through = cooling.air_conducts / (gap * 1e-3 / 2.0)  # half of the gap on diameter stands on each side
            passes = through + cooling.air_w
            towards = (through * parent + cooling.air_w * ROOM_C) / passes
        sleeve += (towards - sleeve) * (1.0 - math.exp(-passes * step / holds))
        parent += (ROOM_C - parent) * (1.0 - math.exp(-step / cooling.block_s))
        spent += step
    return LONGEST_S
