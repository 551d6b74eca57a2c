"""What a boring bar is set to, learned from what it cut (methods 8). Diameters in mm at 20 C."""

from __future__ import annotations

from collections.abc import Iterable

from redline_bore.core.frozen import frozen, replace

WEIGHT = 0.4


@frozen
class BoredHole:
    """What the setting micrometer said and what the hole measured at 20 C."""

    set_mm: float
    measured_mm: float
    first_of_day: bool
    speed: float = 1.0  # of the speed that first holes are told at: a spindle warms and grows with its speed


@frozen
class Correction:
    """How much a bar cuts over its setting, plus is bigger; the first hole of a day by so much more, in proportion to the speed.

    ``holes``, ``firsts``: how many taught each; nought means nothing was learned yet.
    """

    usual_mm: float = 0.0
    first_mm: float = 0.0
    holes: int = 0
    firsts: int = 0

    def setting_mm(self, target_mm: float, first_of_day: bool = False, speed: float = 1.0) -> float:
        """The figure for the setting micrometer that should bring ``target_mm``; speed as a share of the one first holes are told at."""
        return target_mm - self.usual_mm - (self.first_mm * speed if first_of_day else 0.0)


def learned(holes: Iterable[BoredHole], start: Correction | None = None, weight: float = WEIGHT) -> Correction:
    """The correction after some holes, in their order.

    Exponentially weighted, first holes kept apart so that a cold machine never spoils the usual figure. Source:
    methods 8.
    """
    found = start or Correction()
    for hole in holes:
        over = hole.measured_mm - hole.set_mm
        if hole.first_of_day:
            more = (1.0 - weight) * found.first_mm + weight * (over - found.usual_mm) / hole.speed
            found = replace(found, first_mm=more, firsts=found.firsts + 1)
        else:
            usual = (1.0 - weight) * found.usual_mm + weight * over
            found = replace(found, usual_mm=usual, holes=found.holes + 1)
    return found
