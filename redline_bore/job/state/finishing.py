"""What a job knows of its finish. Texture in um, angles in degrees."""

from __future__ import annotations

from typing import Literal

from redline_bore.core.frozen import frozen
from redline_bore.core.told import Unit, told
from redline_bore.job.state.fields import words
from redline_bore.job.state.rows import Rows

Parameter = Literal["Ra", "Rz", "Rpk", "Rk", "Rvk"]
PAPER = "finish/paper"
WINDOW_WHY = "no end of a finish window in µm"


@frozen
class WallTrace:
    """A trace, its heights packed. plateau_strokes None: not known how much of the plateau the wall had had."""

    seq: int
    cylinder: int
    step_um: float
    heights: str
    depth_mm: float | None
    plateau_strokes: float | None
    source: str
    person: str
    at: str


@frozen(kw_only=True)
class FinishWindow:
    """A window for a figure of the finish, um, and whose it is; it goes before the one by duty."""

    parameter: Parameter = told("figure", Unit.CHOICE, choices=("Ra", "Rz", "Rpk", "Rk", "Rvk"), shown=PAPER)
    low_um: float = told("from", Unit.TEXTURE, least=0.0, most=50.0, why=WINDOW_WHY, shown=PAPER)
    high_um: float = told("to", Unit.TEXTURE, above=0.0, most=50.0, why=WINDOW_WHY, shown=PAPER)
    source: str = words("whose", PAPER, default="ring maker's sheet")


@frozen
class HatchRead:
    """The crosshatch read from a picture, degrees from the horizontal."""

    seq: int
    cylinder: int
    up_deg: float
    down_deg: float
    u_deg: float
    confidence: float

    @property
    def included_deg(self) -> float:
        """The angle between the two families of scratches."""
        return self.up_deg + self.down_deg

    @property
    def lean_deg(self) -> float:
        """How far both lean to one side: uneven in and out speeds."""
        return (self.up_deg - self.down_deg) / 2.0


@frozen
class Finishing:
    """The slice of the finish step."""

    traces: Rows[WallTrace] = Rows()
    windows: tuple[FinishWindow, ...] = ()
    hatches: tuple[HatchRead, ...] = ()

    def traces_of(self, cylinder: int) -> tuple[WallTrace, ...]:
        """The traces of a cylinder, oldest first."""
        return tuple(t for t in self.traces if t.cylinder == cylinder)

    def hatch_of(self, cylinder: int) -> HatchRead | None:
        """The crosshatch read last of a cylinder."""
        return next((h for h in reversed(self.hatches) if h.cylinder == cylinder), None)
