"""Sample job 2029: a vee-four air compressor cleaned up at 0.50 over last year, complete and signed off; its family teaches."""

from __future__ import annotations

import random

from redline_bore.core.block import BlockSpec, Layout
from redline_bore.core.figures import Figures
from redline_bore.core.lengths import Units
from redline_bore.demo.textures import trace_wall
from redline_bore.demo.walls import FINISH_2029, wall_2029
from redline_bore.demo.writer import GAUGE_SD_MM, NORTH, SEED, WHO, Writer, gauging
from redline_bore.job.kinds.book_in import JobOpened
from redline_bore.job.kinds.bore import BarSet, HoleBored
from redline_bore.job.kinds.call import ClearanceStated, PistonMeasured
from redline_bore.job.kinds.defects import WallRead
from redline_bore.job.kinds.finish import HatchSeen
from redline_bore.job.kinds.gauge import BlockTemperature, GaugeSet, MasterChecked, PlanChosen
from redline_bore.job.kinds.hone import CheckLogged, HoneSet, HoneStepBegan, StonesSet
from redline_bore.job.kinds.plate import PlateChanged
from redline_bore.job.kinds.sign_off import CARE_WORDS, CareTaken, FinalGauged, RingsGapped, StepStamped
from redline_bore.job.state.booking import BookIn
from redline_bore.store.logbook import Logbook
from redline_bore.truth.wall import TrueWall

PLATEAU_STROKES = 10.0
FINAL_AT_MM = (18.0, 70.0, 125.0)
HATCHES = {  # as read from demo/pictures
    1: (17.51, 17.05, 1.31, 0.890), 2: (17.29, 18.08, 1.27, 0.855), 3: (17.98, 17.41, 1.34, 0.864), 4: (16.76, 17.37, 1.29, 0.874),
}  # fmt: skip
CLEARANCE_MM = 0.070


def job_2029(logbook: Logbook, figures: Figures) -> None:
    """Write the job. Raises InputError when its number is taken."""
    block = BlockSpec(
        Layout.VEE,
        4,
        92.0,
        76.0,
        140.0,
        "grey_iron",
        pitch_mm=112.0,
        room_below_mm=18.0,
        ring_top_mm=12.0,
        ring_pack_mm=12.0,
    )
    book_in = BookIn(
        owner="Fellside brewery", engine="vee-four air compressor", block=block, duty="compressor", piston_alloy="piston_cast",
        oversizes_mm=(0.25, 0.50, 0.75, 1.00),
    )  # fmt: skip
    opening = JobOpened(number="2029", units=Units.METRIC, book_in=book_in, figures=figures.plain())
    w = Writer(logbook, opening, "2025-10-06T08:05:00.000+00:00", figures)
    w.book(StepStamped(step="book_in", initials=WHO))
    _gauge(w)
    w.book(
        ClearanceStated(source="piston sheet", low_mm=0.060, high_mm=0.080), typed="sheet 0.060 0.080", after_s=600.0
    )
    w.decide(0.50)
    for cylinder, finish in enumerate(FINISH_2029, start=1):
        size = round(finish - CLEARANCE_MM, 4)
        w.book(PistonMeasured(cylinder=cylinder, size_mm=size, piston_c=20.0), typed=f"{size:.3f} 20 C", after_s=1800.0)
    _bore(w)
    _hone(w)
    _finish(w)
    w.book(StepStamped(step="sign_off", initials=WHO), after_s=600.0)
    w.flush()


def _gauge(w: Writer) -> None:
    depths, clocks = (12.0, 22.0, 60.0, 105.0, 130.0), (0.0, 45.0, 90.0, 135.0)
    w.book(PlanChosen(name="own", depths_mm=depths, clocks_deg=clocks))
    w.book(GaugeSet(master_20_mm=92.0, master_c=20.0), block_c=20.0)
    w.book(BlockTemperature(block_c=20.0))
    for plate_on in (False, True):
        w.book(PlateChanged(on=plate_on), after_s=900.0)
        for entry, typed in gauging(wall_2029((), True), depths, clocks, plate_on, 20.0, SEED + 29 + plate_on):
            w.book(entry, 20.0, typed, 8.0)
    w.book(MasterChecked(from_zero_mm=0.0, master_c=20.0), 20.0, "master 0", 30.0)
    for cylinder in range(1, 5):
        for clock, zone, thick in ((90.0, "thrust", 6.4), (270.0, "thrust", 6.2), (0.0, "elsewhere", 5.6)):
            wall = WallRead(cylinder=cylinder, clock_deg=clock, depth_mm=60.0, wall_mm=thick, zone=zone)  # type: ignore[arg-type]
            w.book(wall, 20.0, f"wall {thick} at 60 clock {clock:g}")
    w.book(StepStamped(step="gauge", initials=WHO))


def _bore(w: Writer) -> None:
    w.book(NORTH, typed="machine north thick 60 reach 250 speeds 110 150 210 300 420 600 850 1200", after_s=60.0)
    w.book(
        BarSet(insert="TPG 321", nose_radius_mm=0.396875, rake="positive", feed_mm=0.0762, rpm=850.0, machine="north"),
        typed="bar TPG 321 rpm 850 mains",
        after_s=1200.0,
    )
    for cylinder, (finish, over) in enumerate(zip(FINISH_2029, (0.013, 0.002, 0.001, 0.002), strict=True), start=1):
        came = finish - 0.080
        sizes = tuple(round(came + tip, 4) for tip in (0.001, 0.0, -0.0005))
        w.book(
            HoleBored(cylinder=cylinder, set_mm=round(came - over, 4), sizes_mm=sizes),
            20.0,
            " ".join(f"{s:.3f}" for s in sizes),
            1100.0,
        )
    w.book(StepStamped(step="bore", initials=WHO))


def _hone(w: Writer) -> None:
    """Coarse to a hair under, a trace, then ten plateau strokes."""
    chance = random.Random(SEED + 290)
    w.book(
        StonesSet(stones="vitrified_150", count=4, width_mm=10.0, length_mm=85.0),
        typed="stones vitrified 150 4 x 10 long 85",
    )
    w.book(
        HoneSet(machine="vertical", rpm=170.0, strokes_per_min=80.0, over_top_mm=24.0, over_bottom_mm=18.0, load=20.0),
        typed="hone vertical rpm 170 strokes 80 over 24 18 load 20",
    )
    for cylinder, finish in enumerate(FINISH_2029, start=1):
        for strokes, left in ((0, 0.079), (10, 0.060), (20, 0.0405), (30, 0.0215), (40, 0.0025)):
            sizes = tuple(round(finish - left - tip + chance.gauss(0.0, 0.0004), 4) for tip in (0.0008, 0.0, 0.001))
            w.book(CheckLogged(cylinder=cylinder, strokes=float(strokes), sizes_mm=sizes), 20.0, f"{strokes}", 240.0)
        w.book(HoneStepBegan(cylinder=cylinder, step=1))
    w.book(
        StonesSet(stones="brush_600", count=4, width_mm=10.0, length_mm=85.0),
        typed="stones brush 600 4 x 10 long 85",
        after_s=600.0,
    )
    for cylinder, finish in enumerate(FINISH_2029, start=1):
        trace_wall(w, "2029", cylinder, 0.0, ("middle",))
        for light, left in ((0.0, 0.0025), (PLATEAU_STROKES, 0.0005)):
            sizes = tuple(round(finish - left - tip, 4) for tip in (0.0004, 0.0, 0.0005))
            w.book(CheckLogged(cylinder=cylinder, strokes=light, sizes_mm=sizes), 20.0, f"{light:g}", 1200.0)
    w.book(StepStamped(step="hone", initials=WHO))


def _finish(w: Writer) -> None:
    chance, wall = random.Random(SEED + 291), wall_2029(FINISH_2029, False)
    for cylinder in range(1, 5):
        trace_wall(w, "2029", cylinder, PLATEAU_STROKES, ("top", "middle", "bottom"))
    for cylinder, (up, down, u, confidence) in HATCHES.items():
        w.picture(
            HatchSeen(cylinder=cylinder, up_deg=up, down_deg=down, u_deg=u, confidence=confidence),
            f"2029-{cylinder}.png",
        )
    w.book(StepStamped(step="finish", initials=WHO))
    for cylinder in range(1, 5):
        sizes, over = _finals(wall, cylinder, True, chance, 0.0), _finals(wall, cylinder, True, chance, 90.0)
        typed = "final " + " ".join(f"{s:.3f}" for s in sizes)
        w.book(FinalGauged(cylinder=cylinder, sizes_mm=sizes, across_mm=over, plate_on=True), 20.0, typed, 120.0)
        w.book(RingsGapped(cylinder=cylinder, top_mm=0.28, second_mm=0.31), typed="rings 0.28 0.31", after_s=240.0)
    for what in CARE_WORDS:
        w.book(CareTaken(what=what), typed=what, after_s=1200.0)


def _finals(
    wall: TrueWall, cylinder: int, plate_on: bool, chance: random.Random, clock_deg: float
) -> tuple[float, ...]:
    """The finished hole as the gauge reads it along one angle, mm, top to bottom."""
    true = (wall.diameter_at(cylinder, depth, clock_deg, plate_on, 20.0) for depth in FINAL_AT_MM)
    return tuple(round(size + chance.gauss(0.0, GAUGE_SD_MM / 2), 4) for size in true)
