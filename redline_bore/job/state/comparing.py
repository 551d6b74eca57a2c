"""What others measured of this block, and what the shop's own gauge was proved to do."""

from __future__ import annotations

from typing import TYPE_CHECKING

from redline_bore.core.frozen import frozen
from redline_bore.core.told import Unit, told
from redline_bore.job.state.fields import clock, cylinder, depth, flag, size, warmth, words

if TYPE_CHECKING:
    from redline_bore.core.gauge_study import StudyValue

PAGE = "gauge/second"


@frozen(kw_only=True)
class OtherConditions:
    """Somebody else measured this block: who, and under which conditions (None: they did not say).

    at_20: their figures are corrected to 20 C already. ``*_over_mm``: their instrument is known to show that much too
    much.
    """

    who: str = words("who measured", PAGE)
    plate_on: bool = flag("plate on", PAGE, default=False)
    block_c: float | None = warmth("block temperature", PAGE, default=None)
    piston_c: float | None = warmth("piston temperature", PAGE, default=None)
    at_20: bool = flag("corrected for warmth", PAGE, default=False)
    aim_mm: float | None = told("clearance aimed at", Unit.LENGTH, shown=PAGE, default=None)
    bore_gauge_over_mm: float = told("bore gauge over", Unit.LENGTH, shown=PAGE, default=0.0)
    micrometer_over_mm: float = told("micrometer over", Unit.LENGTH, shown=PAGE, default=0.0)


@frozen(kw_only=True)
class OtherReading:
    """A diameter that ``who`` read, as they wrote it down; None: they did not say where."""

    who: str = words("who measured", PAGE)
    cylinder: int = cylinder(PAGE)
    diameter_mm: float = size("their reading", PAGE)
    depth_mm: float | None = depth(shown=PAGE, default=None)
    clock_deg: float | None = clock(shown=PAGE, default=None)


@frozen
class SecondOpinion:
    """What somebody else measured: under which conditions, their readings as written, their pistons by cylinder."""

    conditions: OtherConditions
    readings: tuple[OtherReading, ...] = ()
    pistons: tuple[tuple[int, float], ...] = ()


@frozen
class Study:
    """A gauge study: every reading of it. ``resolution_mm``: the gauge's last digit."""

    seq: int
    instrument: str
    resolution_mm: float
    values: tuple[StudyValue, ...] = ()


@frozen
class Comparing:
    """The slice of second opinions and gauge studies."""

    second_opinions: tuple[SecondOpinion, ...] = ()
    studies: tuple[Study, ...] = ()
