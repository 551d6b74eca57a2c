"""Sample job 2044: an opposed twin in aluminium, pressed iron sleeves, one parent out of round, honing with a warm block."""

from __future__ import annotations

import math
import random

from redline_bore.core.block import BlockSpec, Bottom, Layout, WallKind
from redline_bore.core.figures import Figures
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.demo.writer import GAUGE_SD_MM, NORTH, SEED, WHO, Writer
from redline_bore.job.kinds.book_in import JobOpened
from redline_bore.job.kinds.bore import BarSet, HoleBored, RunChecked
from redline_bore.job.kinds.call import ClearanceStated, PistonMeasured
from redline_bore.job.kinds.gauge import BlockTemperature, GaugeSet, MasterChecked, PlanChosen, ReadingBooked
from redline_bore.job.kinds.hone import CheckLogged, HoneSet, StonesSet
from redline_bore.job.kinds.plate import PlateChanged
from redline_bore.job.kinds.sign_off import StepStamped
from redline_bore.job.kinds.sleeve import (
    AfterPressRead,
    CounterboreRead,
    DeckFaced,
    DeckRead,
    OldSleeveMeasured,
    ParentOutsideStated,
    ParentRead,
    ProtrusionStated,
    SleeveCold,
    SleeveMeasured,
    SleeveWayTaken,
)
from redline_bore.job.sleeve.fit import fit_of, predicted_bore
from redline_bore.job.state.booking import BookIn
from redline_bore.job.state.calling import Apart
from redline_bore.job.words.bore_run import run_of as bar_run
from redline_bore.job.words.run_sheet import RunItem
from redline_bore.job.words.sleeve_run import run_of as sleeve_run
from redline_bore.store.logbook import Logbook

INCH = 25.4
FLANGE_IN, PROTRUSION_IN = 0.1580, (0.001, 0.003)
PARENTS_MM = ((95.5000, 0.004), (95.5060, 0.0019 * INCH))  # mean diameter, out of round on diameter
SLEEVES_MM = ((95.5800, 88.6000), (95.5860, 88.6010))  # outside, bore
PISTONS_MM = (88.8490, 88.8470)
DECKS_IN = (((0.0, 0.0018), (0.0031, 0.0060)), ((0.0004, 0.0), (0.0009, 0.0006)))
WARM_C, GROWS = 34.0, 17.0e-6


def job_2044(logbook: Logbook, figures: Figures) -> None:
    """Write the job. Raises InputError when its number is taken."""
    block = BlockSpec(
        Layout.FLAT, 2, 3.5 * INCH, 3.3 * INCH, 4.70 * INCH, "iron_in_aluminium", wall=WallKind.DRY_SLEEVE,
        bottom=Bottom.BLIND, room_below_mm=0.060 * INCH, ring_top_mm=10.0, ring_pack_mm=10.0,
    )  # fmt: skip
    book_in = BookIn(
        owner="Brackenfell light railway", engine="railcar B, opposed twin", block=block, purpose="sleeve",
        duty="long_haul", piston_alloy="piston_cast", oversizes_mm=(0.254, 0.508, 0.762),
    )  # fmt: skip
    opening = JobOpened(number="2044", units=Units.INCH, book_in=book_in, figures=figures.plain())
    w, chance = Writer(logbook, opening, "2026-11-16T07:50:00.000+00:00", figures), random.Random(SEED + 44)
    w.book(StepStamped(step="book_in", initials=WHO))
    _gauge(w, chance)
    sheet = ClearanceStated(source="piston sheet", low_mm=0.0016 * INCH, high_mm=0.0024 * INCH)
    w.book(sheet, typed="sheet 0.0016 0.0024", after_s=600.0)
    w.decide(0.0, tuple(Apart(cylinder=c, way="sleeve", oversize_mm=0.0) for c in (1, 2)))
    for cylinder, size in enumerate(PISTONS_MM, start=1):
        piston = PistonMeasured(cylinder=cylinder, size_mm=size, piston_c=20.0)
        w.book(piston, typed=f"{size / INCH:.4f}", after_s=7200.0)
    _parents(w, chance)
    _seats(w)
    _in(w, chance)
    _bore(w, chance)
    _hone(w, chance)
    w.flush()


def _gauge(w: Writer, chance: random.Random) -> None:
    """Quickly: the old sleeves are worn out at 0.060 over."""
    depths, clocks = (8.0, 14.0, 60.0, 114.0), (0.0, 90.0)
    w.book(PlanChosen(name="own", depths_mm=depths, clocks_deg=clocks))
    w.book(GaugeSet(master_20_mm=3.5 * INCH, master_c=20.0), block_c=20.0)
    w.book(BlockTemperature(block_c=20.0))
    worn = {8.0: 0.004, 14.0: 0.230, 60.0: 0.110, 114.0: 0.0}
    for cylinder in (1, 2):
        for depth in depths:
            for clock in clocks:
                share = 1.0 if clock == 90.0 else 0.35
                size = 90.424 + 0.01 * cylinder + worn[depth] * share + chance.gauss(0.0, GAUGE_SD_MM)
                entry = ReadingBooked(
                    cylinder=cylinder, depth_mm=depth, clock_deg=clock, diameter_mm=round(size, 4), plate_on=False
                )
                w.book(entry, 20.0, f"{size / INCH:.4f}", 9.0)
    w.book(MasterChecked(from_zero_mm=0.0005, master_c=20.0), 20.0, "master +0.00002", 30.0)
    w.book(StepStamped(step="gauge", initials=WHO))


def _stamp(w: Writer, step: str, items: tuple[RunItem, ...], until: str) -> None:
    """Stamp the checks of a run sheet from the one that is lit up to and with ``until``."""
    for item in items:
        if item.key and not item.done:
            w.book(RunChecked(step=step, cylinder=item.cylinder, check=item.key), 20.0, after_s=240.0)
        if item.key == until:
            break


def _parents(w: Writer, chance: random.Random) -> None:
    """Old sleeves bored to a shell and peeled; parents gauged at three depths and six angles, every sleeve measured."""
    for cylinder in (1, 2):
        old = PARENTS_MM[cylinder - 1][0] + 0.085
        w.book(OldSleeveMeasured(cylinder=cylinder, outside_mm=old), 20.0, f"old {old / INCH:.4f}", 300.0)
    w.book(ParentOutsideStated(low_mm=110.0, high_mm=118.0), 20.0, "outside 110mm to 118mm")
    for cylinder, (mean, oval) in enumerate(PARENTS_MM, start=1):
        _stamp(w, "sleeve", sleeve_run(w.state(), cylinder, Show(Units.INCH)), "clean")
        for depth in (12.0, 60.0, 112.0):
            sizes = tuple(
                round(
                    mean + oval / 2.0 * math.cos(math.radians(2.0 * (30.0 * i - 70.0))) + chance.gauss(0.0, 0.0006), 4
                )
                for i in range(6)
            )
            typed = f"parent {' '.join(f'{s / INCH:.4f}' for s in sizes)} at {depth / INCH:.2f}"
            w.book(ParentRead(cylinder=cylinder, depth_mm=depth, sizes_mm=sizes), 20.0, typed, 90.0)
    for cylinder, (outside, bore) in enumerate(SLEEVES_MM, start=1):
        sleeve = SleeveMeasured(
            cylinder=cylinder, outside_mm=outside, bore_mm=bore, flange_mm=FLANGE_IN * INCH, length_mm=4.75 * INCH,
            sleeve_c=20.0,
        )  # fmt: skip
        typed = f"sleeve {outside / INCH:.4f} x {bore / INCH:.4f} flange {FLANGE_IN:.4f} long 4.75 20 C"
        w.book(sleeve, 20.0, typed, 120.0)
    for cylinder in (1, 2):
        w.book(SleeveWayTaken(cylinder=cylinder, way="touch up"), 20.0, after_s=60.0)


def _seats(w: Writer) -> None:
    """Both decks faced parallel to the mains, the counterbores proved shallow and cut to depth from what stays."""
    w.book(
        ProtrusionStated(low_mm=PROTRUSION_IN[0] * INCH, high_mm=PROTRUSION_IN[1] * INCH),
        typed="protrusion 0.001 0.003",
    )
    for bank, rows in enumerate(DECKS_IN):
        heights = tuple(tuple(h * INCH for h in row) for row in rows)
        typed = "deck " + " / ".join(" ".join(f"{h:g}" for h in row) for row in rows)
        w.book(DeckRead(bank=bank, rows_mm=heights), 20.0, typed, 400.0)
    for bank, rows in enumerate(DECKS_IN):
        flat = [h * INCH for row in rows for h in row]
        cut = max(flat) - min(flat) + 0.013
        w.book(DeckFaced(bank=bank, cut_mm=round(cut, 4)), 20.0, f"faced {cut / INCH:.4f}", 1500.0)
    for cylinder in (1, 2):
        _stamp(w, "sleeve", sleeve_run(w.state(), cylinder, Show(Units.INCH)), "proving")
        depth = FLANGE_IN - 0.002
        w.book(CounterboreRead(cylinder=cylinder, depth_mm=depth * INCH), 20.0, f"counterbore {depth:.4f}", 900.0)


def _in(w: Writer, chance: random.Random) -> None:
    """Dry ice and a warm block; both seated, held, and read once they were cold."""
    w.book(SleeveCold(sleeve_c=-75.0), typed="dry ice")
    for cylinder in (1, 2):
        _stamp(w, "sleeve", sleeve_run(w.state(), cylinder, Show(Units.INCH)), "held")
    for cylinder in (1, 2):
        low, high = predicted_bore(fit_of(w.state(), cylinder)) or (0.0, 0.0)
        sizes = tuple(round((low + high) / 2.0 + tip + chance.gauss(0.0, 0.0006), 4) for tip in (0.001, 0.0, -0.002))
        typed = f"after {' '.join(f'{s / INCH:.4f}' for s in sizes)}"
        w.book(AfterPressRead(cylinder=cylinder, sizes_mm=sizes), 20.0, typed, 3600.0 * 8)
    w.book(StepStamped(step="sleeve", initials=WHO))


def _bore(w: Writer, chance: random.Random) -> None:
    """The sleeves bored with what is left for the hone after sleeving; the first hole proved at two angles."""
    bar = BarSet(
        insert="TPG 321", nose_radius_mm=0.396875, rake="positive", feed_mm=0.0762, rpm=1200.0, machine="north"
    )
    w.book(NORTH, 20.0, "the shop's machine as stated last", 1500.0)
    w.book(bar, 20.0, "bar TPG 321 feed 0.003 rpm 1200 mains")
    for cylinder, over in ((1, 0.011), (2, 0.001)):
        _stamp(w, "bore", bar_run(w.state(), cylinder, Show(Units.INCH)), "bit")
        came = PISTONS_MM[cylinder - 1] + 0.0020 * INCH - 0.115
        sizes, across = (
            tuple(round(came + tip + chance.gauss(0.0, 0.0004), 4) for tip in (0.0015, 0.0, 0.0005)) for _ in (0, 1)
        )
        told = " ".join(f"{s / INCH:.4f}" for s in sizes), " ".join(f"{s / INCH:.4f}" for s in across)
        hole = HoleBored(cylinder=cylinder, set_mm=round(came - over, 4), sizes_mm=sizes, across_mm=across)
        w.book(hole, 20.0, f"{told[0]} across {told[1]}", 1200.0)
        _stamp(w, "bore", bar_run(w.state(), cylinder, Show(Units.INCH)), "chamfer")
    w.book(StepStamped(step="bore", initials=WHO))


def _hone(w: Writer, chance: random.Random) -> None:
    """Under the plate, the block warm: cylinder 1 near size, cylinder 2 halfway."""
    w.book(PlateChanged(on=True), after_s=1800.0)
    w.book(BlockTemperature(block_c=WARM_C), typed=f"{WARM_C:g} C")
    stones = StonesSet(stones="vitrified_150", count=4, width_mm=0.375 * INCH, length_mm=2.70 * INCH)
    w.book(stones, WARM_C, "stones vitrified 150 4 x 0.375 long 2.70")
    hone = HoneSet(
        machine="vertical", rpm=170.0, strokes_per_min=80.0, over_top_mm=0.81 * INCH, over_bottom_mm=0.060 * INCH,
        dwell_bottom_s=0.25, load=20.0,
    )  # fmt: skip
    w.book(hone, WARM_C, "hone vertical rpm 170 strokes 80 over 0.81 0.06 dwell 0 0.25 load 20")
    rates = ((1, (0.112, 0.089, 0.0645, 0.0415, 0.0195, 0.0105, 0.0072)), (2, (0.110, 0.092, 0.0735, 0.056)))
    for cylinder, lefts in rates:
        redline = PISTONS_MM[cylinder - 1] + 0.0020 * INCH
        strokes = (0, 10, 20, 30, 40, 45, 47)
        for stroke, left in zip(strokes, lefts, strict=False):
            sizes = tuple(
                round((redline - left - tip) * (1.0 + GROWS * (WARM_C - 20.0)) + chance.gauss(0.0, 0.0004), 4)
                for tip in (0.0005, 0.0, 0.003)
            )
            check = CheckLogged(cylinder=cylinder, strokes=float(stroke), sizes_mm=sizes)
            w.book(check, WARM_C, f"{stroke} {' '.join(f'{s / INCH:.4f}' for s in sizes)}", 200.0)
