"""The sample jobs of this version: 2029, 2036, 2044, 2047 and 2041, written into a logbook entry by entry with a fixed seed."""

from __future__ import annotations

import random
import tempfile
from pathlib import Path
from typing import Literal

from redline_bore.core.block import BlockSpec, Bottom, Layout
from redline_bore.core.clamping import ClampSetUp
from redline_bore.core.figures import Figures
from redline_bore.core.frozen import replace
from redline_bore.core.lengths import Units
from redline_bore.demo.job_2029 import job_2029
from redline_bore.demo.job_2036 import job_2036
from redline_bore.demo.job_2044 import job_2044
from redline_bore.demo.walls import wall_2041
from redline_bore.demo.writer import GAUGE_SD_MM, SEED, WHO, Writer, gauging
from redline_bore.job.kinds.book_in import JobOpened
from redline_bore.job.kinds.call import ClearanceStated
from redline_bore.job.kinds.defects import DefectMarked, WallRead
from redline_bore.job.kinds.entry import Draft
from redline_bore.job.kinds.gauge import (
    BlockTemperature,
    GaugeSet,
    MasterChecked,
    PlanChosen,
    RingGapRead,
    SpindleSet,
    SweepBooked,
)
from redline_bore.job.kinds.hone import HoneSet
from redline_bore.job.kinds.plate import ClampingStated, PlateChanged
from redline_bore.job.kinds.sign_off import StepStamped
from redline_bore.job.state.booking import BookIn
from redline_bore.store.logbook import Logbook


def take_demo(logbook: Logbook, figures: Figures) -> tuple[str, ...]:
    """Take the sample jobs that a logbook does not have, each whole or not at all; returns their numbers."""
    there, taken = {line.number for line in logbook.jobs()}, []
    with tempfile.TemporaryDirectory(prefix="redline-bore-demo-") as folder:
        made = Logbook(Path(folder) / "logbook.sqlite")
        write_demo(made, figures)
        for line in reversed(made.jobs()):
            if line.number in there:
                continue
            ledger = made.ledger(line.job_id)
            drafts = [Draft(r.entry, r.person, r.instrument, r.block_c, r.typed, r.at) for r in ledger]
            logbook.take_ledger(drafts, made.photos_of(ledger))
            taken.append(line.number)
        made.close()
    return tuple(taken)


def write_demo(logbook: Logbook, figures: Figures) -> None:
    """Write the sample jobs. Raises InputError when one of their numbers is taken."""
    job_2029(logbook, figures)
    job_2036(logbook, figures)
    job_2044(logbook, figures)
    _job_2047(logbook, figures)
    _job_2041(logbook, figures)


def _job_2041(logbook: Logbook, figures: Figures) -> None:
    block = BlockSpec(
        Layout.INLINE,
        5,
        105.0,
        125.0,
        212.0,
        "grey_iron",
        pitch_mm=128.0,
        room_below_mm=14.0,
        ring_top_mm=16.0,
        ring_pack_mm=12.0,
    )
    book_in = BookIn(
        owner="Saltmarsh pumping station", engine="engine no. 2, straight five", block=block, purpose="bore oversize",
        duty="long_haul", piston_alloy="piston_cast", oversizes_mm=(0.25, 0.50, 0.75, 1.00, 1.25, 1.50),
    )  # fmt: skip
    opening = JobOpened(number="2041", units=Units.METRIC, book_in=book_in, figures=figures.plain())
    w = Writer(logbook, opening, "2026-11-23T09:40:00.000+00:00", figures)
    w.book(StepStamped(step="book_in", initials=WHO))
    depths, clocks = (10.0, 21.0, 60.0, 110.0, 196.0), (0.0, 30.0, 60.0, 90.0, 120.0, 150.0)
    w.book(PlanChosen(name="own", depths_mm=depths, clocks_deg=clocks))
    w.book(GaugeSet(master_20_mm=105.0, master_c=20.4, gauge_1e6=11.5, gauge_c=20.4), block_c=20.4)
    w.book(BlockTemperature(block_c=20.4))
    for plate_on in (False, True):
        w.book(PlateChanged(on=plate_on), after_s=900.0 if plate_on else 60.0)
        for entry, typed in gauging(wall_2041(), depths, clocks, plate_on, 20.4, SEED + plate_on):
            w.book(entry, 20.4, typed, 12.0)
    w.book(MasterChecked(from_zero_mm=0.0005, master_c=20.4, gauge_c=20.4), 20.4, "master +0.0005", 60.0)
    _sweep_2041(w)
    held = ClampSetUp(16.0, 190.0, "engine oil", 0.16, 26.0, "copper", (0.5, 0.75, 1.0), True)
    w.book(ClampingStated(part="head", set_up=held), typed="head fastener 16 torque 190 lubricant engine oil")
    w.book(ClampingStated(part="plate", set_up=replace(held, gasket="steel shim")), typed="plate gasket steel shim")
    w.book(
        DefectMarked(
            cylinder=4, what="rust ring", top_mm=60.0, bottom_mm=75.0, clock_deg=250.0, width_deg=80.0,
            deep_low_mm=0.18, deep_high_mm=0.18,
        ),
        typed="0.18 deep",
    )  # fmt: skip
    _walls_2041(w)
    w.book(ClearanceStated(source="piston sheet", low_mm=0.060, high_mm=0.090))
    w.book(ClearanceStated(source="manual", low_mm=0.080, high_mm=0.105))
    w.book(StepStamped(step="gauge", initials=WHO))
    w.flush()


def _walls_2041(w: Writer) -> None:
    """Every wall on four sides at two depths; thin between 2 and 3."""
    rows = (
        (1, 4.62, 4.88, 4.50, 4.60), (2, 4.55, 4.70, 4.45, 4.05), (3, 4.60, 4.75, 4.10, 4.50), (4, 4.55, 4.80, 4.55, 4.45), (5, 4.66, 4.90, 4.50, 4.60),
    )  # fmt: skip
    for cylinder, thrust, other, front, back in rows:
        for depth, more in ((60.0, 0.0), (150.0, 0.15)):
            for clock, wall in ((90.0, thrust), (270.0, other), (0.0, front), (180.0, back)):
                zone: Literal["thrust", "elsewhere"] = "thrust" if clock in (90.0, 270.0) else "elsewhere"
                read = WallRead(
                    cylinder=cylinder, clock_deg=clock, depth_mm=depth, wall_mm=round(wall + more, 2), zone=zone
                )
                w.book(read, typed=f"wall {wall + more:.2f} at {depth:g} clock {clock:g}")


def _sweep_2041(w: Writer) -> None:
    """Cylinder 2 never seated its rings: an indicator on a spindle set up on the mains, five depths, 36 points each."""
    chance, wall = random.Random(SEED + 2), wall_2041()
    w.book(SpindleSet(cylinder=2, zero_radius_mm=52.5), 20.4, "spindle mains", 1200.0)
    clocks = tuple(float(t) for t in range(0, 360, 10))
    for depth in (21.0, 60.0, 88.0, 153.0, 196.0):
        radii = tuple(
            round(wall.radius_from_spindle(2, depth, t, True, 20.4) + chance.gauss(0.0, GAUGE_SD_MM), 4) for t in clocks
        )
        entry = SweepBooked(cylinder=2, depth_mm=depth, clock_deg=clocks, radius_mm=radii, plate_on=True)
        w.book(entry, 20.4, "sweep of 36", 60.0)


def _job_2047(logbook: Logbook, figures: Figures) -> None:
    block = BlockSpec(Layout.SINGLE, 1, 78.0, 68.0, 118.0, "grey_iron", bottom=Bottom.OPEN)
    book_in = BookIn(
        owner="Orchard sprayer", engine="single, air cooled", block=block, purpose="deglaze", duty="everyday",
        oversizes_mm=(0.25, 0.50),
    )  # fmt: skip
    opening = JobOpened(
        number="2047", units=Units.METRIC, book_in=book_in, figures=figures.plain(), practices={"honing": "ball hone"}
    )
    w = Writer(logbook, opening, "2026-11-20T17:05:00.000+00:00", figures)
    w.book(StepStamped(step="book_in", initials=WHO))
    for depth, gap in ((14.0, 0.56), (100.0, 0.43)):
        w.book(RingGapRead(cylinder=1, depth_mm=depth, gap_mm=gap), typed=f"{gap}")
    rust = DefectMarked(
        cylinder=1, what="rust", top_mm=30.0, bottom_mm=52.0, clock_deg=200.0, width_deg=40.0, deep_low_mm=0.003,
        deep_high_mm=0.013, feel="can_feel",
    )  # fmt: skip
    w.book(rust, typed="rust can feel at 30 to 52 clock 200 wide 40")
    w.book(HoneSet(machine="ball", rpm=150.0), typed="hone ball rpm 150")
    w.flush()
