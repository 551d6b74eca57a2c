"""Swept volume and compression ratio (methods 7). Bore, stroke and thicknesses in mm, volumes in cm3."""

from __future__ import annotations

import math

from redline_bore.core.errors import InputError
from redline_bore.core.frozen import frozen


@frozen(often=True)
class Chamber:
    """What lies above a piston at the top: chamber and dish (dome minus) in cm3; gasket and deck clearance in mm."""

    chamber_cm3: float
    dish_cm3: float
    gasket_bore_mm: float
    gasket_thickness_mm: float
    deck_clearance_mm: float


def swept_cm3(bore_mm: float, stroke_mm: float) -> float:
    """Swept volume of one cylinder, cm3."""
    return math.pi / 4.0 * bore_mm**2 * stroke_mm / 1000.0


def compression_ratio(bore_mm: float, stroke_mm: float, above: Chamber) -> float:
    """(swept + clearance volume) / clearance volume; deck clearance counts over the bore. Methods 7."""
    clearance = above.chamber_cm3 + above.dish_cm3
    clearance += math.pi / 4000.0 * above.gasket_bore_mm**2 * above.gasket_thickness_mm
    clearance += math.pi / 4000.0 * bore_mm**2 * above.deck_clearance_mm
    if clearance <= 0:
        raise InputError("The clearance volume comes out under nought; check the dome and the chamber")
    return (swept_cm3(bore_mm, stroke_mm) + clearance) / clearance
