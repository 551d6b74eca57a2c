"""What instruments send, booked: a reading, a sweep, a trace, a temperature. Lengths in mm from the gauge's zero."""

from __future__ import annotations

from typing import TYPE_CHECKING

from redline_bore.core.gauging import Place
from redline_bore.desk.changed import Changed
from redline_bore.desk.open_job import OpenJob
from redline_bore.job.kinds.finish import TraceBooked
from redline_bore.job.kinds.gauge import BlockTemperature, SpindleSet, SweepBooked, reading_at, size_from_zero
from redline_bore.job.kinds.phrase import Where

if TYPE_CHECKING:
    from redline_bore.core.texture.profile import Trace


def size_read(job: OpenJob, from_zero_mm: float, where: Where) -> float:
    """A diameter in mm at the block's own temperature, from what a gauge reads off its zero. Raises InputError."""
    return round(size_from_zero(from_zero_mm, job.state, where), 5)


def book_reading(
    job: OpenJob, from_zero_mm: float, where: Where, line: str, block_c: float | None, instrument: str = "bore gauge"
) -> Changed:
    """Book what a bore gauge sent, at the place where it stands. ``line``: as it came. Raises InputError."""
    entry = reading_at(size_read(job, from_zero_mm, where), job.state, where)
    return job.book(entry, typed=line, instrument=instrument, block_c=block_c)


def book_sweep(
    job: OpenJob, cylinder: int, place: Place, clock_deg: tuple[float, ...], from_zero_mm: tuple[float, ...], line: str,
    block_c: float | None,
) -> Changed:  # fmt: skip
    """Book what an indicator on a spindle sent; the spindle is taken to stand on the mains where nobody set it up here."""
    state = job.state
    spindle = state.gauging.spindle
    if spindle is None or spindle.cylinder != cylinder:
        job.book(SpindleSet(cylinder=cylinder, zero_radius_mm=state.block.bore_mm / 2.0), typed="spindle mains")
        spindle = job.state.gauging.spindle
    assert spindle is not None
    entry = SweepBooked(
        cylinder=cylinder, depth_mm=state.gauging.plan.depths_mm[place.level], clock_deg=clock_deg,
        radius_mm=tuple(round(spindle.zero_radius_mm + v, 5) for v in from_zero_mm), plate_on=state.clamped.plate_on,
    )  # fmt: skip
    return job.book(entry, typed=line, instrument="spindle indicator", block_c=block_c)


def book_trace(
    job: OpenJob, cylinder: int, trace: Trace, depth_mm: float, plateau_strokes: float | None, source: str, typed: str
) -> Changed:
    """Book a trace of a wall. plateau_strokes: what it had had by then; None: not known."""
    from redline_bore.core.texture.packed import packed  # a trace is heavy: not before one comes

    entry = TraceBooked(
        cylinder=cylinder, step_um=round(trace.step_um, 6), heights=packed(trace.heights_um), depth_mm=depth_mm,
        plateau_strokes=plateau_strokes, source=source,
    )  # fmt: skip
    return job.book(entry, typed=typed, instrument=source)


def book_temperature(job: OpenJob, celsius: float, line: str) -> Changed:
    """Book the block's temperature as a thermometer sent it, C."""
    return job.book(BlockTemperature(block_c=round(celsius, 2)), typed=line, instrument="thermometer")
