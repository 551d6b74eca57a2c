"""How sure this job's readings are: from the gauge study, else the starting U; the drift of the zero; temperature."""

from __future__ import annotations

import math
from bisect import bisect_left
from enum import Enum, auto

from redline_bore.core.block import RingTravel
from redline_bore.core.doubt import AxialDoubt, LevelDoubt, ReadingDoubt, axial_doubt, level_doubt
from redline_bore.core.errors import FitError
from redline_bore.core.fit import GaugeDoubt, clearance_uncertainty
from redline_bore.core.frozen import frozen
from redline_bore.core.gauge_study import StudyResult, drift_sd_mm, study
from redline_bore.job.gauge.analysis import CylinderShape
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.comparing import Study
from redline_bore.job.state.job_state import JobState

GAUGE_RESOLUTION_MM = 0.001


def result_of(taken: Study) -> StudyResult | None:
    """What a study found; None while its readings do not carry a result."""
    try:
        return study(taken.values, taken.resolution_mm)
    except FitError:
        return None


@once_a_state
def study_of(state: JobState) -> StudyResult | None:
    """The newest gauge study of this job that carries a result."""
    return next((r for s in reversed(state.comparing.studies) if (r := result_of(s))), None)


def drift_of(state: JobState, seq: int | None = None) -> float | None:
    """Largest drift in mm of the zero under an entry, or under all readings; None: the master was not looked at since."""
    if seq is not None:
        span = state.gauging.zero_span(seq)
        return None if span is None else span.drift_mm
    return _largest_drift(state)


@once_a_state
def _largest_drift(state: JobState) -> float | None:
    """Of the spans in which anything was read; None where one of them is not known, or something was read before the first."""
    g, found = state.gauging, list[float]()
    for rows in (g.readings, g.three_points):
        if rows and g.zero_span(rows[0].seq) is None:
            return None
        ends = [*(z.start_seq for z in g.zero_spans[1:]), math.inf]
        for span, end in zip(g.zero_spans, ends, strict=False):  # no span, and nothing read, has one end
            first = bisect_left(rows, span.start_seq, key=lambda r: r.seq)
            if first < len(rows) and rows[first].seq < end:  # something was read in it
                if span.drift_mm is None:
                    return None
                found.append(span.drift_mm)
    return max(found, default=None)


def reading_doubt(state: JobState, seq: int | None = None) -> ReadingDoubt:
    """Standard deviations of a reading of this job, mm; ``seq`` names one reading, None takes the worst of all.

    The starting U of the gauge holds its master in it; once a study stands, the master's own U is added. Drift counts
    where it is known; where it is not, ``drift_of`` says so and the sheet and card tell it.
    """
    f, found = state.figures, study_of(state)
    size = state.block.bore_mm
    warm = size * state.coefficient_1e6 * 1e-6 * f.number("gauging.temperature_doubt")
    drift = drift_sd_mm(known_drift(state, seq))
    if found is None:
        return ReadingDoubt(f.number("gauging.bore_gauge_u") / 2.0, math.hypot(warm, drift))
    master = f.number("gauging.master_u") / 2.0
    return ReadingDoubt(found.reading_sd_mm, math.sqrt(warm**2 + drift**2 + master**2))


def known_drift(state: JobState, seq: int | None = None) -> float:
    """The drift that is known to have been under an entry, or under any, mm; nought where nobody looked."""
    if seq is not None:
        span = state.gauging.zero_span(seq)
        return 0.0 if span is None else (span.drift_mm or abs(span.start_off_mm))
    return max((abs(v) for z in state.gauging.zero_spans for v in (z.start_off_mm, z.end_off_mm or 0.0)), default=0.0)


@frozen
class ShapeDoubt:
    """Expanded uncertainty (k = 2), mm, of what a cylinder's readings say. None: the figure itself is not known."""

    reading: ReadingDoubt
    levels: tuple[LevelDoubt, ...]
    axial: AxialDoubt | None
    wear_mm: float | None
    ridge_mm: float | None


def shape_doubt(state: JobState, shape: CylinderShape) -> ShapeDoubt:
    """How sure each figure of a shape is. What all readings share cancels in the differences."""
    doubt = reading_doubt(state)
    levels = tuple(
        level_doubt([s.clock_deg for s in v.spots], [s.count for s in v.spots], v.fit, doubt.own_mm)
        for v in shape.levels
    )
    inside = _inside(shape, state.travel)
    axial, wear, ridge = None, None, None
    if len(inside) >= 2 and shape.axial is not None:
        depths = [shape.levels[i].depth_mm for i in inside]
        axial = axial_doubt(depths, [levels[i].mean_mm for i in inside], state.travel.length_mm)
    if shape.wear is not None:
        outside = [levels[i].mean_mm for i in range(len(levels)) if i not in inside]
        reference = min(outside) if outside else doubt.own_mm
        wear = 2.0 * math.hypot(doubt.own_mm, reference)
        if shape.wear.ridge_mm is not None:
            ridge = 2.0 * math.hypot(levels[inside[0]].mean_mm, levels[inside[0] - 1].mean_mm)
    return ShapeDoubt(doubt, levels, axial, wear, ridge)


def _inside(shape: CylinderShape, travel: RingTravel) -> list[int]:
    return [i for i, v in enumerate(shape.levels) if travel.top_mm - 1e-6 <= v.depth_mm <= travel.bottom_mm + 1e-6]


class ZeroLacks(Enum):
    """What has to be said of the gauge's zero."""

    NOT_BOOKED = auto()
    DRIFTED = auto()  # by more than the limit between looks at the master
    STANDS_OFF = auto()  # its master: set the gauge on it again
    NOT_CHECKED = auto()  # since the readings


def zero_lacks(state: JobState) -> ZeroLacks | None:
    """What has to be said of the gauge's zero; None when it is set, checked and steady."""
    if state.gauging.zero is None:
        return ZeroLacks.NOT_BOOKED
    limit, spans = state.figures.number("gauging.drift_limit"), state.gauging.zero_spans
    read = bool(state.gauging.readings or state.gauging.three_points)
    drift = drift_of(state) if read else None
    if drift is not None and drift > limit:
        return ZeroLacks.DRIFTED
    if spans and abs(spans[-1].start_off_mm) > limit:
        return ZeroLacks.STANDS_OFF
    return ZeroLacks.NOT_CHECKED if read and drift is None else None


def clearance_doubt(state: JobState, bore_mm: float, piston_mm: float) -> float:
    """Expanded uncertainty (k = 2), mm, of a clearance measured in this shop.

    The gauge's starting U stands for repeatability and master together until a gauge study replaces it; the drift of
    its zero counts as far as it is known.
    """
    f, found, drift = state.figures, study_of(state), drift_sd_mm(known_drift(state))
    doubt_c = f.number("gauging.temperature_doubt")
    own = f.number("gauging.bore_gauge_u") / 2.0 if found is None else found.reading_sd_mm
    master = 0.0 if found is None else f.number("gauging.master_u")
    resolution = GAUGE_RESOLUTION_MM if found is None else 0.0  # a study holds it already
    bore = GaugeDoubt(own, resolution, math.hypot(master, 2.0 * drift), state.coefficient_1e6, doubt_c)
    alloy = f.number(f"thermal.{state.book_in.piston_alloy}")
    piston = GaugeDoubt(f.number("gauging.micrometer_u") / 2.0, GAUGE_RESOLUTION_MM, 0.0, alloy, doubt_c)
    return clearance_uncertainty(bore_mm, bore, piston_mm, piston)
