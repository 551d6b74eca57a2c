"""How a plate or a head is held down, and the force of one fastener (methods 16). Torque in N m, force in kN, mm."""

from __future__ import annotations

from redline_bore.core.errors import InputError
from redline_bore.core.frozen import frozen

NM_PER_LBF_FT = 1.3558179483314004


def clamp_force_kn(torque_nm: float, nut_factor: float, diameter_mm: float) -> float:
    """Clamp force of one fastener, F = T / (K d), kN. Not for fasteners turned by an angle. Raises InputError.

    >>> clamp_force_kn(90.0, 0.2, 11.0)
    40.90909090909091
    """
    if nut_factor <= 0.0 or diameter_mm <= 0.0:
        raise InputError("Clamp force needs the fastener's diameter and its nut factor, both above nought")
    return torque_nm / (nut_factor * diameter_mm)


@frozen
class ClampSetUp:
    """How a plate or a head is held down. None and empty words mean not known, never the same."""

    fastener_mm: float | None = None
    torque_nm: float | None = None
    lubricant: str = ""
    nut_factor: float | None = None
    engagement_mm: float | None = None
    gasket: str = ""
    stages: tuple[float, ...] = ()  # shares of the final torque
    mains_torqued: bool | None = None
    halves_bolted: bool | None = None

    @property
    def force_kn(self) -> float | None:
        """Clamp force of one fastener, kN; None while a figure for it is missing."""
        if self.fastener_mm is None or self.torque_nm is None or self.nut_factor is None:
            return None
        return clamp_force_kn(self.torque_nm, self.nut_factor, self.fastener_mm)
