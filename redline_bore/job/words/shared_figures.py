"""Figures that several pages show: one name each, made here."""

from __future__ import annotations

from redline_bore.core.cleanup import CleanUp
from redline_bore.core.show import Show
from redline_bore.job.card import FigureLine

SIZE_IN_NAME = "to size, in name"


def cleanup_line(cylinder: int, found: CleanUp, show: Show) -> FigureLine:
    """The size at which a cylinder cleans up: from the least that may do to the one that surely does, where there is a bound."""
    upper = f"–{show.size(found.high_mm)}" if found.is_bound else " or more"
    return FigureLine(f"{cylinder} cleans up at", f"{show.size(found.low_mm)}{upper}")


def redline_by_piston(cylinder: int, size_mm: float, show: Show) -> FigureLine:
    """The finish size that a measured piston asks for, mm."""
    return FigureLine(f"redline by piston {cylinder}", show.size(size_mm))
