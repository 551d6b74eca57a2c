"""What has to be said of the gauge's zero."""

from __future__ import annotations

from redline_bore.core.lengths import default_step
from redline_bore.core.show import Show
from redline_bore.job.gauge.doubt import ZeroLacks, zero_lacks
from redline_bore.job.state.job_state import JobState


def zero_note(state: JobState, show: Show) -> str:
    """What has to be said of the gauge's zero; empty when it is set, checked and steady."""
    lacks, spans = zero_lacks(state), state.gauging.zero_spans
    if lacks is None:
        return ""
    off = show.away(spans[-1].start_off_mm) if spans else ""
    step = show.away(float(default_step(show.units) * show.units.mm))
    return {
        ZeroLacks.NOT_BOOKED: f"The gauge's zero was not booked: “zero {show.size(state.block.bore_mm)} {show.warm_typed(20.0)}” says which master it was set on.",
        ZeroLacks.DRIFTED: "The zero drifted by more than the limit between looks at the master: read again what matters.",
        ZeroLacks.STANDS_OFF: f"The zero stands {off} off on its master: set the gauge on it again before the next reading.",
        ZeroLacks.NOT_CHECKED: f"The zero has not been checked since: put the gauge on its master and type “master {step}”.",
    }[lacks]
