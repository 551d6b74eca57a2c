"""A second opinion: why two sets of readings of one block disagree, term by term (methods 17). Lengths in mm.

The gap is (clearance - aim) of shop A less that of shop B, each from its own readings. Every term is what one cause
adds to that gap; they add up, terms that cancel are shown, and the rest is left over.
"""

from __future__ import annotations

from redline_bore.core.frozen import frozen
from redline_bore.core.thermal import growth

TERM_NAMES = (
    "plate",
    "block temperature",
    "piston temperature",
    "bore gauge master",
    "piston micrometer",
    "axis read",
    "depth read",
    "clearance source",
)


@frozen(often=True)
class ShopReading:
    """One shop's bore and piston.

    ``*_over_mm``: the instrument shows that much too much; spot_*: how far the place read lies over the mean of
    the hole in that shop's own condition (None: not known, taken as nought and said).
    """

    bore_mm: float
    piston_mm: float
    aim_mm: float
    block_c: float = 20.0
    piston_c: float = 20.0
    plate_on: bool = False
    bore_at_20: bool = False
    piston_at_20: bool = False
    bore_gauge_over_mm: float = 0.0
    micrometer_over_mm: float = 0.0
    spot_axis_over_mm: float = 0.0
    spot_depth_over_mm: float = 0.0

    @property
    def over_aim_mm(self) -> float:
        """How far the clearance lies over what was aimed at, mm."""
        return self.bore_mm - self.piston_mm - self.aim_mm

    def bore_growth_mm(self, coefficient_1e6: float) -> float:
        """How much of the bore as read is warmth."""
        # Worked back to 20 C by the same rule as everywhere; a shop that says it corrected already is taken at its word.
        return 0.0 if self.bore_at_20 else self.bore_mm - self.bore_mm / growth(coefficient_1e6, self.block_c)

    def piston_growth_mm(self, coefficient_1e6: float) -> float:
        """How much of the piston as read is warmth, mm."""
        return 0.0 if self.piston_at_20 else self.piston_mm - self.piston_mm / growth(coefficient_1e6, self.piston_c)


@frozen(often=True)
class Opinion:
    """The gap and what makes it up, mm; ``terms`` in the order of TERM_NAMES."""

    gap_mm: float
    terms: tuple[tuple[str, float], ...]
    left_over_mm: float
    expanded_u_mm: float

    @property
    def explained(self) -> bool:
        """What is left over is no more than the two gauges' doubt."""
        return abs(self.left_over_mm) <= self.expanded_u_mm

    def term(self, name: str) -> float:
        """A term by its name, mm. Raises KeyError."""
        return dict(self.terms)[name]

    @property
    def largest(self) -> str:
        """The name of the term that explains most."""
        return max(self.terms, key=lambda t: abs(t[1]))[0]


def explain(
    a: ShopReading,
    b: ShopReading,
    bore_1e6: float,
    piston_1e6: float,
    plate_on_minus_off_mm: float,
    expanded_u_mm: float,
) -> Opinion:
    """Explain the gap between two shops.

    bore_1e6, piston_1e6: expansion, 1e-6 per C. plate_on_minus_off_mm: what the plate does to the diameter at the
    place read. expanded_u_mm: k = 2 doubt of the gap. A clearance source is a difference of aims, not of readings.
    Source: methods 17.
    """
    # Both with or both without it: the plate explains nothing between them.
    plate = (float(a.plate_on) - float(b.plate_on)) * plate_on_minus_off_mm
    values = (
        plate,
        a.bore_growth_mm(bore_1e6) - b.bore_growth_mm(bore_1e6),
        # A larger piston makes less clearance: everything of the piston's counts the other way round.
        b.piston_growth_mm(piston_1e6) - a.piston_growth_mm(piston_1e6),
        a.bore_gauge_over_mm - b.bore_gauge_over_mm,
        b.micrometer_over_mm - a.micrometer_over_mm,
        a.spot_axis_over_mm - b.spot_axis_over_mm,
        a.spot_depth_over_mm - b.spot_depth_over_mm,
        b.aim_mm - a.aim_mm,
    )
    # What is left is not spread over the terms: an honest rest says that a cause is missing.
    gap = a.over_aim_mm - b.over_aim_mm
    return Opinion(gap, tuple(zip(TERM_NAMES, values, strict=True)), gap - sum(values), expanded_u_mm)
