"""Piston to wall: finish size, clearance windows, uncertainty and guard band, rings (methods 7).

Clearance is on diameter, mm, piston measured at its gauge point, everything at 20 C unless a temperature is given.
"""

from __future__ import annotations

import math
from enum import StrEnum

from redline_bore.core.errors import InputError
from redline_bore.core.frozen import frozen
from redline_bore.core.thermal import size_at


class Decision(StrEnum):
    """A figure against its window, by guard band."""

    IN = "in"
    OUT = "out"
    TOO_CLOSE = "too close to call"


@frozen
class ClearanceWindow:
    """A clearance window in mm and where it comes from (piston sheet, manual, habit, or a fraction of the bore)."""

    low_mm: float
    high_mm: float
    source: str

    def __post_init__(self) -> None:
        if not 0.0 <= self.low_mm <= self.high_mm:
            raise InputError(
                f"A clearance window from {self.low_mm:g} to {self.high_mm:g} mm does not make sense: low end first"
            )

    @property
    def aim_mm(self) -> float:
        """What to hone for: the middle of the window."""
        return (self.low_mm + self.high_mm) / 2.0


def window_from_bore(bore_mm: float, fraction: tuple[float, ...], added: float, source: str) -> ClearanceWindow:
    """A cold window as a share of the bore, for when no sheet is at hand. fraction: (low, high); added: for duty."""
    return ClearanceWindow(bore_mm * (fraction[0] + added), bore_mm * (fraction[1] + added), source)


def finish_size(piston_20_mm: float, clearance_mm: float) -> float:
    """Finish size in mm at 20 C: the measured piston plus the clearance, never a nominal number. Methods 7.

    >>> round(finish_size(91.93, 0.07), 3)
    92.0
    """
    return piston_20_mm + clearance_mm


@frozen
class GaugeDoubt:
    """Doubt of one measurement: repeatability and resolution in mm, master U (k = 2) in mm, temperature sd in C."""

    repeatability_sd_mm: float
    resolution_mm: float
    master_u_k2_mm: float
    coefficient_1e6: float
    temperature_sd_c: float
    readings_averaged: int = 1

    def variance(self, size_mm: float, with_master: bool = True) -> float:
        """Standard uncertainty squared, mm2, of a size in mm. GUM (JCGM 100) 5.1.2."""
        parts = [
            # Repeats average out; the master, the thermometer and the last digit do not, for they are the same each time.
            self.repeatability_sd_mm / math.sqrt(self.readings_averaged),
            self.resolution_mm / math.sqrt(12.0),
            size_mm * self.coefficient_1e6 * 1e-6 * self.temperature_sd_c,
        ]
        if with_master:
            parts.append(self.master_u_k2_mm / 2.0)
        return sum(part * part for part in parts)


def clearance_uncertainty(
    bore_mm: float, bore: GaugeDoubt, piston_mm: float, piston: GaugeDoubt, same_master: bool = False
) -> float:
    """Expanded uncertainty (k = 2) in mm of bore less piston; one micrometer for both cancels its own error.

    Source: methods 7; GUM (JCGM 100).
    """
    # Set by one micrometer, both sizes carry its error alike, and the difference carries it not at all.
    variance = bore.variance(bore_mm, not same_master) + piston.variance(piston_mm, not same_master)
    return 2.0 * math.sqrt(variance)


def guard_band(clearance_mm: float, window: ClearanceWindow, expanded_u_mm: float) -> Decision:
    """A clearance against its window by the guard band of ``decide``."""
    return decide(clearance_mm, window.low_mm, window.high_mm, expanded_u_mm)


def decide(value: float, low: float, high: float, expanded_u: float) -> Decision:
    """In if inside by more than U, out if outside by more than U, else too close to call; all in one unit. ISO 14253-1.

    >>> decide(0.060, 0.05, 0.09, 0.004)
    <Decision.IN: 'in'>
    >>> decide(0.053, 0.05, 0.09, 0.004)
    <Decision.TOO_CLOSE: 'too close to call'>
    """
    # On the line is not inside: what is equal is told as too close, in both directions.
    if low + expanded_u < value < high - expanded_u:
        return Decision.IN
    if value < low - expanded_u or value > high + expanded_u:
        return Decision.OUT
    return Decision.TOO_CLOSE


def guard_band_both(smallest_mm: float, largest_mm: float, window: ClearanceWindow, expanded_u_mm: float) -> Decision:
    """The clearances at a hole's smallest and largest place against their window: in only if both are, out if either is.

    The smallest place seizes the piston, the largest lets it rattle. Source: ISO 14253-1.

    >>> guard_band_both(0.013, 0.1905, ClearanceWindow(0.15, 0.20, "sheet"), 0.005)
    <Decision.OUT: 'out'>
    """
    # One bad end makes it out, whatever the other is; only two sure ends make it in.
    ends = {guard_band(c, window, expanded_u_mm) for c in (smallest_mm, largest_mm)}
    if Decision.OUT in ends:
        return Decision.OUT
    return Decision.IN if ends == {Decision.IN} else Decision.TOO_CLOSE


def could_be_in(window: ClearanceWindow, expanded_u_mm: float) -> bool:
    """False when the window is narrower than twice U, so that no reading could ever be called in. ISO 14253-1."""
    return window.high_mm - window.low_mm > 2.0 * expanded_u_mm + 1e-9  # a nanometre: rounding is not room


def hot_clearance(
    bore_20_mm: float, bore_1e6: float, bore_c: float, piston_20_mm: float, piston_1e6: float, piston_c: float
) -> float:
    """Free-growth clearance in mm at running temperatures: for comparing alloys, never a verdict of seizure.

    >>> round(hot_clearance(92.0, 11.0, 120.0, 91.93, 19.4, 180.0), 3)
    -0.114
    """
    return size_at(bore_20_mm, bore_1e6, bore_c) - size_at(piston_20_mm, piston_1e6, piston_c)


def taper_from_gaps(gap_top_mm: float, gap_bottom_mm: float) -> float:
    """Taper on diameter, mm (plus: open at the top), from a ring's end gap at two depths: change of gap over pi."""
    # A ring's gap is what its length leaves of the round: it changes by pi times the diameter.
    return (gap_top_mm - gap_bottom_mm) / math.pi


def wanted_gap(bore_mm: float, factor: float) -> float:
    """Ring end gap in mm wanted in a bore of ``bore_mm``: factor by duty times bore."""
    return bore_mm * factor
