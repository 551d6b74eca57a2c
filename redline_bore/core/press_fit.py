"""A sleeve pressed into its parent bore: pressure, stress, how its bore closes, heat, assembly (methods 9).

Thick cylinders by Lame, plane stress, elastic. Diameters and interference (on diameter) in mm, stresses in MPa, forces
in N, coefficients in millionths per C. Temperatures in C; free growth counts from 20 C.
"""

from __future__ import annotations

import math

from redline_bore.core.errors import InputError
from redline_bore.core.frozen import frozen

ROOM_C = 20.0
NO_BLOCK_C = 300.0  # no block in service, and none in a shop, gets so hot: a grip lost beyond it is lost never
SHELL_MM = 0.19  # a side, left of the old sleeve when it is bored out to be peeled


@frozen(often=True)
class Material:
    """Young's modulus in MPa, Poisson's ratio, growth in millionths per C."""

    modulus_mpa: float
    poisson: float
    growth_1e6: float = 0.0


@frozen(often=True)
class PressFit:
    """A sleeve in its parent.

    ``parent_outside_mm`` is an effective one: water jacket and ribs make it uncertain, so a pressure is shown for
    a range of it.
    """

    interface_mm: float
    sleeve_bore_mm: float
    parent_outside_mm: float
    sleeve: Material
    parent: Material

    def __post_init__(self) -> None:
        if not 0.0 < self.sleeve_bore_mm < self.interface_mm < self.parent_outside_mm:
            raise InputError("A sleeve's bore, its outside and its parent's outside have to grow in that order")

    def pressure_mpa(self, interference_mm: float) -> float:
        """Pressure between the two; nought where there is no interference."""
        d, di, do = self.interface_mm, self.sleeve_bore_mm, self.parent_outside_mm
        outer = ((do**2 + d**2) / (do**2 - d**2) + self.parent.poisson) / self.parent.modulus_mpa
        inner = ((d**2 + di**2) / (d**2 - di**2) - self.sleeve.poisson) / self.sleeve.modulus_mpa
        return max(interference_mm, 0.0) / (d * (outer + inner))

    def parent_hoop_mpa(self, pressure_mpa: float) -> float:
        """Pull round the parent at the interface: what cracks it."""
        d, do = self.interface_mm, self.parent_outside_mm
        return pressure_mpa * (do**2 + d**2) / (do**2 - d**2)

    def sleeve_hoop_mpa(self, pressure_mpa: float) -> float:
        """Stress round the sleeve's bore; minus: it is pressed."""
        d, di = self.interface_mm, self.sleeve_bore_mm
        return -2.0 * pressure_mpa * d**2 / (d**2 - di**2)

    def closes_mm(self, pressure_mpa: float) -> float:
        """By how much the sleeve's bore gets smaller, on diameter."""
        d, di = self.interface_mm, self.sleeve_bore_mm
        return 2.0 * pressure_mpa * d**2 * di / (self.sleeve.modulus_mpa * (d**2 - di**2))

    def push_n(self, pressure_mpa: float, friction: float, length_mm: float) -> float:
        """Force along the axis that the grip holds, or that pressing it in takes."""
        return pressure_mpa * friction * math.pi * self.interface_mm * length_mm

    def hot_interference_mm(self, interference_mm: float, sleeve_c: float, parent_c: float) -> float:
        """Interference once both have grown freely; minus: a gap."""
        sleeve = self.sleeve.growth_1e6 * (sleeve_c - ROOM_C)
        parent = self.parent.growth_1e6 * (parent_c - ROOM_C)
        return interference_mm + self.interface_mm * (sleeve - parent) * 1e-6

    def grip_lost_c(self, interference_mm: float) -> float | None:
        """Temperature of both at which nothing holds the sleeve but its flange or step; None: at none that a block reaches."""
        apart = (self.parent.growth_1e6 - self.sleeve.growth_1e6) * 1e-6
        lost = ROOM_C + interference_mm / (self.interface_mm * apart) if apart > 0.0 else math.inf
        return lost if lost <= NO_BLOCK_C else None

    def bore_grows_mm(self, interference_mm: float, sleeve_c: float, parent_c: float) -> float:
        """Fitted sleeve bore hot, less the same at 20 C: free growth, and the grip that lets go."""
        hot = self.pressure_mpa(self.hot_interference_mm(interference_mm, sleeve_c, parent_c))
        free = self.sleeve_bore_mm * self.sleeve.growth_1e6 * 1e-6 * (sleeve_c - ROOM_C)
        return free + self.closes_mm(self.pressure_mpa(interference_mm)) - self.closes_mm(hot)

    def bore_coefficient_1e6(self, interference_mm: float, at_c: float) -> float:
        """Growth of a fitted sleeve's bore in millionths per C.

        Neither the sleeve's own nor the block's. Raises InputError at 20 C, where nothing has grown.
        """
        if abs(at_c - ROOM_C) < 1e-9:
            raise InputError("A growth per degree needs another temperature than 20 C")
        fitted = self.sleeve_bore_mm - self.closes_mm(self.pressure_mpa(interference_mm))
        return self.bore_grows_mm(interference_mm, at_c, at_c) / fitted / (at_c - ROOM_C) * 1e6

    def parent_c_for(self, interference_mm: float, gap_mm: float, sleeve_c: float) -> float:
        """How hot the block has to be for the sleeve at ``sleeve_c`` to drop in with ``gap_mm`` to spare."""
        return ROOM_C + self._apart(interference_mm + gap_mm, self.sleeve, sleeve_c, self.parent)

    def sleeve_c_for(self, interference_mm: float, gap_mm: float, parent_c: float) -> float:
        """How cold the sleeve has to be for a block at ``parent_c``."""
        return ROOM_C + self._apart(-interference_mm - gap_mm, self.parent, parent_c, self.sleeve)

    def _apart(self, wanted_mm: float, known: Material, known_c: float, sought: Material) -> float:
        if sought.growth_1e6 <= 0.0:
            raise InputError("How much it grows with heat is not known")
        grown = wanted_mm / self.interface_mm + known.growth_1e6 * 1e-6 * (known_c - ROOM_C)
        return grown / (sought.growth_1e6 * 1e-6)


def bending_mpa_per_mm(sleeve: Material, wall_mm: float, radius_mm: float, order: int) -> float:
    """Pressure that bending a ring into ``order`` lobes takes, per mm of the lobe on radius: E t^3 (n^2-1)^2 / (12 R^4)."""
    return sleeve.modulus_mpa * wall_mm**3 * (order**2 - 1) ** 2 / (12.0 * radius_mm**4)


def peel_bore_mm(old_outside_mm: float, shell_mm: float = SHELL_MM) -> float:
    """What an old sleeve is bored to, so that a shell is left that can be peeled.

    >>> round(peel_bore_mm(96.5), 2)
    96.12
    """
    return old_outside_mm - 2.0 * shell_mm
