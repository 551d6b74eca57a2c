"""What the engine will do, and whose figures count for it."""

from __future__ import annotations

from enum import StrEnum

from redline_bore.core.frozen import frozen
from redline_bore.job.profiles.data import table


class ClearanceLoad(StrEnum):
    """Whether the clearance by share of the bore gets the added share of a hard duty."""

    USUAL = "usual"
    HARD = "hard"


class WallSet(StrEnum):
    """Which limits hold for the wall left (wall.toml)."""

    SERVICE = "service"
    PERFORMANCE = "performance"


class HoleSet(StrEnum):
    """Which limits hold for a finished hole (limits.toml)."""

    EVERYDAY = "everyday"
    PERFORMANCE = "performance"


@frozen
class Duty:
    """A duty and whose figures count: ``heat`` (duty.toml), ``finish`` (finish.toml), ``hatch`` (crosshatch.toml), ``gap``
    (pistons.toml)."""

    name: str
    clearance: ClearanceLoad
    wall: WallSet
    hole: HoleSet
    heat: str
    finish: str
    hatch: str
    gap: str

    @property
    def said(self) -> str:
        """The duty as it is said."""
        return self.name.replace("_", " ")


def _read(name: str) -> Duty:
    row = table("duty")[name]
    return Duty(
        name, ClearanceLoad(row["clearance"]), WallSet(row["wall"]), HoleSet(row["hole"]), row["heat"], row["finish"],
        row["hatch"], row["gap"],
    )  # fmt: skip


DUTIES = {name: _read(name) for name in table("duty")}
DUTY_NAMES = tuple(DUTIES)
EVERYDAY = "everyday"


def duty(name: str) -> Duty:
    """A duty by its name; everyday for one that a newer program wrote."""
    return DUTIES.get(name, DUTIES[EVERYDAY])
