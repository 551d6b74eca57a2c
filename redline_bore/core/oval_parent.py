"""A sleeve in a parent bore that is out of round: grip round the clock, and whether the sleeve follows (methods 9)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from redline_bore.core.frozen import frozen
from redline_bore.core.late import np
from redline_bore.core.press_fit import PressFit, bending_mpa_per_mm
from redline_bore.core.shape import LevelFit

if TYPE_CHECKING:
    from numpy.typing import NDArray

    Array = NDArray[np.float64]

STEP_DEG = 0.5


@frozen(often=True)
class OvalGrip:
    """Interference in mm on diameter and contact pressure in MPa round the clock, at ``clock_deg``, shape (720,).

    A thin sleeve bends after an oval and stays seated where the figures alone show a gap; its bore goes oval with it.
    """

    clock_deg: Array
    interference_mm: Array
    pressure_mpa: Array
    mean_interference_mm: float
    mean_pressure_mpa: float

    @property
    def share_without(self) -> float:
        """Share of the wall where the figures leave no interference."""
        return float((self.interference_mm <= 0.0).mean())

    @property
    def stays_seated(self) -> bool:
        """Every place still presses once the sleeve has bent after the parent."""
        return bool((self.pressure_mpa > 0.0).all())


def oval_grip(parent: LevelFit, outside_mm: float, fit: PressFit) -> OvalGrip:
    """Grip of a sleeve of ``outside_mm`` in a parent fitted by two points.

    Local interference is outside less local diameter, pressure that of the mean interference less what bending
    the sleeve into each lobe takes.
    """
    clocks = np.arange(0.0, 360.0, STEP_DEG)
    t = np.deg2rad(clocks)
    interference = np.full(clocks.shape, outside_mm - parent.mean_mm)
    mean = outside_mm - parent.mean_mm
    wall = (fit.interface_mm - fit.sleeve_bore_mm) / 2.0
    radius = (fit.interface_mm + fit.sleeve_bore_mm) / 4.0
    pressure = np.full(clocks.shape, fit.pressure_mpa(mean))
    # Two-point diameters hold the even lobes only; an odd one (three-cornered) does not show in them and is no part of this.
    for k, (a, b) in enumerate(zip(parent.cos_mm, parent.sin_mm, strict=True), start=1):
        lobe = a * np.cos(2 * k * t) + b * np.sin(2 * k * t)
        interference -= lobe
        # A thin sleeve gives way to a lobe and presses on; the pressure it takes to bend it grows with the lobe's order to the fourth, so fine
        # lobes lift it off where an oval does not.
        pressure -= bending_mpa_per_mm(fit.sleeve, wall, radius, 2 * k) * lobe / 2.0
    return OvalGrip(clocks, interference, pressure, mean, fit.pressure_mpa(mean))
