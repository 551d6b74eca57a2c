"""An indicator on a spindle that sweeps a true wall: radius against clock angle, from the spindle's own axis."""

from __future__ import annotations

from dataclasses import dataclass

from redline_bore.instruments.line_protocol import format_sweep
from redline_bore.instruments.simulated.bore_gauge import STEP_MM, BoreGaugeStandIn


@dataclass
class SpindleStandIn(BoreGaugeStandIn):
    """As a bore gauge, with a sweep of ``points`` for an answer; ``zero_mm`` is the radius it was zeroed to."""

    kind: str = "spindle"
    points: int = 72

    def answer(self, line: str) -> list[str]:
        words = line.split()
        if words == ["read"]:
            return self.sweep()
        return super().answer(line)

    def sweep(self) -> list[str]:
        """The lines of a sweep where it stands."""
        cylinder, depth, _clock, plate = self.place
        clocks = tuple(360.0 * i / self.points for i in range(self.points))
        try:
            radii = [self.wall.radius_from_spindle(cylinder, depth, t, plate, self.block_c) for t in clocks]
        except IndexError:
            return [f"trouble no cylinder {cylinder} here"]
        read = tuple(round((r - self.zero_mm + self.noise.gauss(0.0, self.sd_mm)) / STEP_MM) * STEP_MM for r in radii)
        return format_sweep(clocks, read, self.block_c)
