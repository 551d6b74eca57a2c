"""Where the gauge stands when something is typed, and in which units figures without a unit are meant."""

from __future__ import annotations

from dataclasses import dataclass

from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units


@dataclass(frozen=True)
class Where:
    """Where the gauge stands, and in which units figures without a unit are meant."""

    cylinder: int
    place: Place
    units: Units
    from_zero: bool = False
    body_c: float | None = None
