"""The analysis of a large block, and its floor."""

import numpy as np

from redline_bore.core.block import BlockSpec, Layout
from redline_bore.core.lengths import Units
from redline_bore.job.gauge import analysis as a
from redline_bore.job.kinds.book_in import JobOpened
from redline_bore.job.kinds.entry import Record
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.gauge import ReadingBooked
from redline_bore.job.state.booking import BookIn
from redline_bore.job.state.job_state import JobState
from redline_bore.store.shop import shipped_figures

DEPTHS = np.linspace(10.0, 200.0, 8)
CLOCKS = np.arange(0.0, 180.0, 30.0)


def _state() -> JobState:
    block = BlockSpec(Layout.VEE, 12, 105.0, 125.0, 212.0, ring_top_mm=16.0, ring_pack_mm=12.0)
    opening = JobOpened(number="1", units=Units.METRIC, book_in=BookIn(owner="o", engine="e", block=block))
    ledger = [Record(1, "2026-01-01T00:00:00+00:00", "RM", opening)]
    chance = np.random.default_rng(1)
    for cylinder in range(1, 13):
        for depth in DEPTHS:
            for clock in CLOCKS:
                size = (
                    105.0 + 0.1 * np.exp(-depth / 60.0) * (1 - np.cos(2 * np.deg2rad(clock))) + chance.normal(0, 0.001)
                )
                reading = ReadingBooked(
                    cylinder=cylinder,
                    depth_mm=float(depth),
                    clock_deg=float(clock),
                    diameter_mm=float(size),
                    plate_on=True,
                )
                ledger.append(Record(len(ledger) + 1, "2026-01-01T00:00:00+00:00", "RM", reading))
    return fold(ledger, shipped_figures())


STATE = _state()


def analyse_all() -> None:
    """Shape, wear and clean-up of every cylinder, from nothing."""
    a._shape.cache_clear()
    STATE.memo.clear()
    for cylinder in STATE.cylinders:
        shape = a.shape_of(STATE, cylinder)
        assert shape.cleanup is not None and len(shape.levels) == 8


def bare_fits() -> None:
    """As many plain least-squares solutions of that size, and nothing else."""
    t = np.deg2rad(CLOCKS)
    design = np.column_stack([np.ones_like(t), np.cos(2 * t), np.sin(2 * t), np.cos(4 * t), np.sin(4 * t)])
    for i in range(96):
        np.linalg.lstsq(design, 105.0 + 0.001 * i + 0.01 * t, rcond=None)
