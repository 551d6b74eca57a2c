"""What a job was measured with, and how that was checked: for the sheet."""

from __future__ import annotations

from redline_bore.core.show import Show
from redline_bore.job.gauge.doubt import drift_of, reading_doubt, study_of
from redline_bore.job.state.job_state import JobState


def instruments_used(state: JobState, show: Show) -> tuple[str, ...]:
    """A sentence for each instrument: what it was set on, looked at, and how sure it is."""
    return tuple(s for s in (_gauge(state, show), _profilometer(state, show), _pictures(state)) if s)


def _gauge(state: JobState, show: Show) -> str:
    if state.gauging.zero is None:
        return "The bore gauge's zero was not booked." if state.gauging.readings else ""
    master = show.unit(show.size(state.gauging.zero.master_20_mm))
    drift, u = drift_of(state), 2.0 * reading_doubt(state).own_mm
    looked = (
        "its zero was not looked at afterwards" if drift is None else f"its zero moved by {show.unit(show.fine(drift))}"
    )
    by = "by its study" if study_of(state) is not None else "as a starting point"
    return f"Bore gauge, {state.gauging.gauge_kind}, zeroed on {master}; {looked}; U {show.unit(show.fine(u))} at k = 2 {by}."


def _profilometer(state: JobState, show: Show) -> str:
    if not state.finishing.traces:
        return ""
    sources = ", ".join(dict.fromkeys(t.source for t in state.finishing.traces))
    step = min(t.step_um for t in state.finishing.traces)
    return (
        f"{len(state.finishing.traces)} traces by {sources}, a point every {show.height(step, digits=2)}, Gaussian filter at {show.along(0.8)}; U of a figure "
        f"{state.figures.number('finish.doubt_share'):.0%} and the spread over the wall."
    )


def _pictures(state: JobState) -> str:
    if not state.finishing.hatches:
        return ""
    count = len(state.finishing.hatches)
    return f"Crosshatch read from {count} picture{'s' * (count > 1)} of the wall."
