"""The figures of a trace by name, and their units (ISO 21920-2, ISO 13565-2 and -3)."""

from __future__ import annotations

NAMES = ("Ra", "Rq", "Rz", "Rt", "Rsk", "Rku", "Rk", "Rpk", "Rvk", "Mr1", "Mr2", "A1", "A2", "Vo", "Rpq", "Rvq", "Rmq")
UNITLESS, PERCENT, AREAS, OIL = ("Rsk", "Rku"), ("Mr1", "Mr2", "Rmq"), ("A1", "A2"), "Vo"


def unit_of(name: str) -> str:
    """The unit a figure is worked out in: um (areas: um3 over um2), %, mm3/cm2 for the oil volume; shapes have none."""
    return "" if name in UNITLESS else "%" if name in PERCENT else "mm3/cm2" if name == OIL else "um"
