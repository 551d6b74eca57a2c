"""The quick, full and race plan of a block."""

from __future__ import annotations

from redline_bore.core.block import ring_travel
from redline_bore.core.figures import Figures
from redline_bore.core.gauging import LevelPlan, plan_of
from redline_bore.job.state.booking import BookIn

STANDARD_PLANS = ("quick", "full", "race")


def standard_plan(book_in: BookIn, figures: Figures, name: str) -> LevelPlan:
    """The quick, full or race plan for a block."""
    travel = ring_travel(book_in.block, figures.number("gauging.ring_top"), figures.number("gauging.ring_pack"))
    levels, chords = (int(figures.number(f"gauging.{name}_{what}")) for what in ("levels", "chords"))
    return plan_of(book_in.block, travel, name, levels, chords)
