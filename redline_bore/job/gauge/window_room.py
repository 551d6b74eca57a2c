"""The clearance window against what has to fit into it, told before the bar cuts (methods 7)."""

from __future__ import annotations

from redline_bore.core.frozen import frozen
from redline_bore.job.gauge.doubt import clearance_doubt
from redline_bore.job.gauge.hole import hole_limits
from redline_bore.job.redline import leading_window
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.job_state import JobState


@frozen
class WindowRoom:
    """The clearance window against what has to fit into it, mm: the limit of shape by duty, and U at both ends."""

    window_mm: float
    shape_mm: float
    u_mm: float

    @property
    def enough(self) -> bool:
        """A hole at its limit of shape surely has both ends inside."""
        return self.window_mm > self.shape_mm + 2.0 * self.u_mm - 1e-9


@once_a_state
def window_room(state: JobState) -> WindowRoom:
    """Whether the window is wide enough for the shape and the gauge; told before the bar cuts."""
    window, limits = leading_window(state), hole_limits(state)
    bore = state.block.bore_mm
    return WindowRoom(
        window.high_mm - window.low_mm, max(limits.taper_mm, limits.out_of_round_mm), clearance_doubt(state, bore, bore)
    )
