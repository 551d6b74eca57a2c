"""Sample job 2036: an upright twin bored 0.020 over, finished under the plate, traced, signed off, and measured again by its
owner without the plate."""

from __future__ import annotations

import random

from redline_bore.core.block import BlockSpec, Layout
from redline_bore.core.clamping import NM_PER_LBF_FT, ClampSetUp
from redline_bore.core.figures import Figures
from redline_bore.core.lengths import Units
from redline_bore.demo.textures import trace_wall
from redline_bore.demo.walls import FINISH_2036, wall_2036
from redline_bore.demo.writer import GAUGE_SD_MM, NORTH, SEED, WHO, Writer, gauging
from redline_bore.job.kinds.book_in import JobOpened, PracticeChosen
from redline_bore.job.kinds.bore import BarSet, EdgeTurned, HoleBored, InsertShelved
from redline_bore.job.kinds.call import ClearanceStated, PistonMeasured
from redline_bore.job.kinds.defects import WallRead
from redline_bore.job.kinds.finish import HatchSeen
from redline_bore.job.kinds.gauge import BlockTemperature, GaugeSet, MasterChecked, PlanChosen
from redline_bore.job.kinds.hone import CheckLogged, HoneSet, HoneStepBegan, StonesSet
from redline_bore.job.kinds.opinions import OtherReadingBooked, SecondOpinionOpened
from redline_bore.job.kinds.plate import ClampingStated, PlateChanged
from redline_bore.job.kinds.sign_off import CARE_WORDS, CareTaken, FinalGauged, RingsGapped, StepStamped
from redline_bore.job.state.booking import BookIn
from redline_bore.store.logbook import Logbook
from redline_bore.truth.wall import TrueWall

PLATEAU_STROKES = 12.0
FINAL_AT_MM = (18.0, 85.0, 140.0)
HATCHES = {1: (17.10, 16.44, 1.0, 0.840), 2: (16.95, 17.31, 1.01, 0.847)}  # as read from demo/pictures


def job_2036(logbook: Logbook, figures: Figures) -> None:
    block = BlockSpec(
        Layout.INLINE,
        2,
        82.55,
        95.25,
        160.0,
        "grey_iron",
        pitch_mm=100.0,
        room_below_mm=20.0,
        ring_top_mm=11.0,
        ring_pack_mm=10.0,
    )
    book_in = BookIn(
        owner="Canal launch Marigold", engine="upright twin", block=block, duty="marine", piston_alloy="piston_forged_4032",
        oversizes_mm=(0.254, 0.508, 0.762, 1.016),
    )  # fmt: skip
    opening = JobOpened(number="2036", units=Units.INCH, book_in=book_in, figures=figures.plain())
    w = Writer(logbook, opening, "2026-10-12T08:15:00.000+00:00", figures)
    w.book(StepStamped(step="book_in", initials=WHO))
    depths, clocks = (7.0, 18.0, 50.0, 85.0, 140.0), (0.0, 30.0, 60.0, 90.0, 120.0, 150.0)
    w.book(PlanChosen(name="own", depths_mm=depths, clocks_deg=clocks))
    w.book(GaugeSet(master_20_mm=82.55, master_c=20.0), block_c=20.0)
    w.book(BlockTemperature(block_c=20.0))
    for plate_on in (False, True):
        w.book(PlateChanged(on=plate_on))
        for entry, typed in gauging(wall_2036((), True), depths, clocks, plate_on, 20.0, SEED + 35 + plate_on):
            w.book(entry, 20.0, typed, 7.0)
    w.book(MasterChecked(from_zero_mm=-0.0005, master_c=20.0), 20.0, "master -0.00002", 30.0)
    held = ClampSetUp(11.1125, 62.0 * NM_PER_LBF_FT, "engine oil", 0.16, 20.0, "steel shim", (0.5, 0.75, 1.0), True)
    for part in ("head", "plate"):
        w.book(ClampingStated(part=part, set_up=held), typed=f"{part} fastener 7/16 torque 62")
    w.book(StepStamped(step="gauge", initials=WHO))
    for cylinder in (1, 2):
        for clock, zone, thick in ((90.0, "thrust", 6.1), (270.0, "thrust", 5.9), (0.0, "elsewhere", 5.4)):
            wall = WallRead(cylinder=cylinder, clock_deg=clock, depth_mm=50.0, wall_mm=thick, zone=zone)  # type: ignore[arg-type]
            w.book(wall, 20.0, f"wall {thick / 25.4:.3f} at 1.97 clock {clock:g}")
    w.book(ClearanceStated(source="piston sheet", low_mm=0.0610, high_mm=0.0865), after_s=600.0)
    w.decide(0.508)
    for cylinder, size in ((1, 82.9920), (2, 82.9945)):
        w.book(PistonMeasured(cylinder=cylinder, size_mm=size, piston_c=20.0), typed=f"{size:.4f}mm", after_s=3600.0)
    _bore_2036(w)
    _hone_2036(w)
    w.book(StepStamped(step="hone", initials=WHO))
    _finish_2036(w)
    w.book(StepStamped(step="sign_off", initials=WHO), after_s=600.0)
    _owner_2036(w)
    w.flush()


def _finish_2036(w: Writer) -> None:
    """Traced at three places, gauged under the plate and without it, rings gapped, washed and oiled."""
    chance = random.Random(SEED + 361)
    for cylinder in (1, 2):
        trace_wall(w, "2036", cylinder, PLATEAU_STROKES, ("top", "middle", "bottom"))
    for cylinder, (up, down, u, confidence) in HATCHES.items():
        w.picture(
            HatchSeen(cylinder=cylinder, up_deg=up, down_deg=down, u_deg=u, confidence=confidence),
            f"2036-{cylinder}.png",
        )
    w.book(StepStamped(step="finish", initials=WHO))
    wall = wall_2036(FINISH_2036, False)
    for plate_on in (True, False):
        w.book(PlateChanged(on=plate_on), after_s=900.0)
        for cylinder in (1, 2):
            sizes, over = (
                _finals(wall, cylinder, plate_on, chance, 0.0),
                _finals(wall, cylinder, plate_on, chance, 90.0),
            )
            typed = "final " + " ".join(f"{s / 25.4:.4f}" for s in sizes)
            w.book(
                FinalGauged(cylinder=cylinder, sizes_mm=sizes, across_mm=over, plate_on=plate_on), 20.0, typed, 120.0
            )
    for cylinder, top, second in ((1, 0.3302, 0.3810), (2, 0.3302, 0.3810)):
        w.book(RingsGapped(cylinder=cylinder, top_mm=top, second_mm=second), typed="rings 0.013 0.015", after_s=300.0)
    for what in CARE_WORDS:
        w.book(CareTaken(what=what), typed=what, after_s=1200.0)


def _owner_2036(w: Writer) -> None:
    """The owner measured in his shed: no plate, 58 F, along the pin axis and across it near the top, aiming looser."""
    chance, wall, cold = random.Random(SEED + 58), wall_2036(FINISH_2036, False), (58.0 - 32.0) / 1.8
    typed = "other owner plate off block 58 F pistons 58 F aim 0.0032"
    conditions = SecondOpinionOpened(
        who="owner", plate_on=False, block_c=round(cold, 2), piston_c=round(cold, 2), aim_mm=0.0032 * 25.4
    )
    w.book(conditions, typed=typed, after_s=86400.0)
    for cylinder in (1, 2):
        for clock in (0.0, 90.0):
            size = wall.diameter_at(cylinder, 18.0, clock, False, cold) + chance.gauss(0.0, 0.001)
            w.book(
                OtherReadingBooked(
                    who="owner", cylinder=cylinder, diameter_mm=round(size / 2.54e-3) * 2.54e-3, depth_mm=18.0,
                    clock_deg=clock,
                ),
                typed=f"other {cylinder} {size / 25.4:.4f} at 0.71 clock {clock:g}",
            )  # fmt: skip


def _bore_2036(w: Writer) -> None:
    """A fine bore in one pass a hole; the first came out bigger than it was set, as first holes do."""
    w.book(PracticeChosen(topic="hone_allowance", name="fine bore"))
    w.book(NORTH, typed="machine north thick 2.362 reach 9.84 speeds 110 150 210 300 420 600 850 1200", after_s=60.0)
    shelved = InsertShelved(
        insert="TPG 321", nose_radius_mm=0.396875, rake="positive", edges=3, grade="coated", count=5
    )
    w.book(shelved, typed="insert TPG 321 coated 5")
    bar = BarSet(
        insert="TPG 321", nose_radius_mm=0.396875, rake="positive", feed_mm=0.0762, rpm=1200.0, machine="north"
    )
    w.book(bar, typed="bar TPG 321 feed 0.003 rpm 1200 mains", after_s=1200.0)
    for cylinder, (finish, over) in enumerate(zip(FINISH_2036, (0.012, 0.001), strict=True), start=1):
        came = finish - 0.061
        sizes = tuple(round(came + tip, 4) for tip in (0.001, 0.0, -0.0005))
        hole = HoleBored(cylinder=cylinder, set_mm=round(came - over, 4), sizes_mm=sizes)
        w.book(hole, 20.0, " ".join(f"{s / 25.4:.4f}" for s in sizes), 900.0)
    w.book(EdgeTurned(insert="TPG 321", why="worn"), typed="turn worn")
    w.book(StepStamped(step="bore", initials=WHO))


def _hone_2036(w: Writer) -> None:
    """Coarse in even bites to a hair under, then a plateau of light strokes; sizes as read in a slightly warm block."""
    chance = random.Random(SEED + 360)
    w.book(
        StonesSet(stones="diamond_200", count=4, width_mm=6.0, length_mm=95.0),
        typed="stones diamond 200 4 x 6mm long 95mm",
    )
    hone = HoneSet(
        machine="vertical", rpm=230.0, strokes_per_min=80.0, over_top_mm=26.0, over_bottom_mm=20.0, load=20.0
    )
    w.book(hone, typed="hone vertical rpm 230 strokes 80 over 26mm 20mm load 20")
    for cylinder, finish in enumerate(FINISH_2036, start=1):
        warm = 1.0 + 11.0e-6 * 1.5
        for strokes, left in ((0, 0.060), (15, 0.045), (30, 0.031), (45, 0.0165), (55, 0.0075), (60, 0.0025)):
            sizes = tuple(
                round((finish - left - tip) * warm + chance.gauss(0.0, 0.0003), 4) for tip in (0.0005, 0.0, 0.001)
            )
            w.book(CheckLogged(cylinder=cylinder, strokes=float(strokes), sizes_mm=sizes), 21.5, f"{strokes}", 180.0)
        w.book(HoneStepBegan(cylinder=cylinder, step=1))
    brush = StonesSet(stones="brush_600", count=4, width_mm=6.0, length_mm=95.0)
    w.book(brush, typed="stones brush 600 4 x 6mm long 95mm", after_s=600.0)
    for cylinder, finish in enumerate(FINISH_2036, start=1):
        trace_wall(w, "2036", cylinder, 0.0, ("middle",))
        for light, left in ((0.0, 0.0025), (PLATEAU_STROKES, 0.0006)):
            sizes = tuple(round(finish - left - tip, 4) for tip in (0.0003, 0.0, 0.0004))
            w.book(CheckLogged(cylinder=cylinder, strokes=float(light), sizes_mm=sizes), 20.0, f"{light}", 1800.0)


def _finals(
    wall: TrueWall, cylinder: int, plate_on: bool, chance: random.Random, clock_deg: float
) -> tuple[float, ...]:
    """The finished hole as the gauge reads it along one angle, mm, top to bottom."""
    true = (wall.diameter_at(cylinder, depth, clock_deg, plate_on, 20.0) for depth in FINAL_AT_MM)
    return tuple(round(size + chance.gauss(0.0, GAUGE_SD_MM / 2), 4) for size in true)
