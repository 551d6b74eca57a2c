"""What came of a block, and the person who gauges it: books through the desk only what a person would."""

from __future__ import annotations

import random
from dataclasses import dataclass, field

from redline_bore.core.gauging import next_place
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.core.thermal import size_at
from redline_bore.desk.desk import Desk
from redline_bore.desk.open_job import OpenJob
from redline_bore.job.gauge.analysis import places_read
from redline_bore.job.hone.finding import HoneCall
from redline_bore.job.kinds.book_in import JobOpened, PracticeChosen
from redline_bore.job.kinds.call import ClearanceStated
from redline_bore.job.kinds.defects import DefectMarked
from redline_bore.job.kinds.entry import Entry
from redline_bore.job.kinds.gauge import (
    GaugeSet,
    MasterChecked,
    PlanChosen,
    ReadingBooked,
)
from redline_bore.job.kinds.plans import standard_plan
from redline_bore.job.kinds.plate import PlateChanged
from redline_bore.job.state.booking import BookIn
from redline_bore.job.state.job_state import JobState
from redline_bore.truth.block import TrueBlock
from redline_bore.truth.hole import TrueHole
from redline_bore.truth.tools import TrueGauge

MOST_TURNS = 80  # more turns at one thing are without end
SHOW = Show(Units.METRIC)
# minutes of bench, as a shop counts them
SWEEP_MIN, CHORDS_MIN, PLACE_MIN, CHECK_MIN, MASTER_MIN = 12.0, 2.0, 1.0, 3.0, 1.0
RESET_MIN, BORE_MIN, LOOK_MIN, RECUT_MIN, GAUGE_MIN = (
    3.0,
    12.0,
    1.0,
    10.0,
    10.0 / 30.0,
)  # the last a reading: a full plan takes ten minutes


@dataclass
class Told:
    """Strokes that were told for a cylinder, and what then came of it: least, most, and the strokes at which the aim was truly reached."""

    least: int
    most: int | None
    truly: float | None = None


@dataclass
class Hone:
    """How a cylinder went at the hone."""

    checks: int = 0
    ended: HoneCall | None = None
    told: list[Told] = field(default_factory=list)


@dataclass
class Work:
    """What came of a block. called_mm: the size in name; sure: the call stood with a tick; given_up: cylinders the program would not bore."""

    block: TrueBlock
    called_mm: float | None = None
    sure: bool = False
    left: bool = False
    given_up: str = ""
    sweeps: int = 0
    hones: dict[int, Hone] = field(default_factory=dict)
    pistons: dict[int, tuple[float, float]] = field(default_factory=dict)  # true, and as measured
    guessed: list[str] = field(default_factory=list)
    endless: str = ""
    minutes: float = 0.0
    readings: int = 0
    requests: int = 0  # how often somebody is sent off to do something first; a check at the hone is none
    looks: int = 0
    again: int = 0  # how often the call had to be taken anew
    first_mm: float | None = None  # the first call
    first_sure: bool = False
    chance: float | None = None  # that was reckoned of the call when it was taken
    said: float | None = None  # the same, where it was told in figures
    finished: bool = False
    four_steps: bool = False
    story: list[str] = field(default_factory=list)


class Gauger:
    """A person with a gauge at one block: books it in, reads what the plan asks, and books what was read."""

    def __init__(self, desk: Desk, block: TrueBlock) -> None:
        self.block, self.chance, self.desk = block, random.Random(block.seed * 7919 + 13), desk
        c = self.chance
        self.gauge = TrueGauge(c, c.uniform(0.0008, 0.0022), 0.0008, 0.00002)
        self.therm_off = c.uniform(-0.5, 0.5)
        self.mic_off = c.gauss(0.0, 0.0008)
        self.warm_c = block.block_c
        self._cut: set[int] = set()
        self._zeroed: set[int] = set()
        self.stones_cut: dict[int, float] = {}  # how these stones cut against the book, by step
        self.work = Work(block)
        self.job: OpenJob
        self.began = ""  # when the block was booked in

    # -- small things ----------------------------------------------------------------------------------------------------

    @property
    def state(self) -> JobState:
        """The job as it stands."""
        return self.job.state

    def book(self, *entries: Entry) -> None:
        """Book what a person would."""
        self.job.book(*entries, block_c=round(self.warm_c + self.therm_off + self.chance.gauss(0.0, 0.1), 1))

    def tell(self, text: str) -> None:
        """A line of the story."""
        self.work.story.append(text)

    def hole(self, cylinder: int) -> TrueHole:
        """The true hole of a cylinder."""
        return self.block.holes[cylinder - 1]

    def read(self, cylinder: int, depth_mm: float, clock_deg: float, plate_on: bool) -> float:
        """A diameter as the gauge shows it, the block as warm as it is."""
        self.work.readings += 1
        true = self.hole(cylinder).diameter(depth_mm, clock_deg, plate_on)
        return self.gauge.shows(size_at(true, self.block.coefficient_1e6, self.warm_c))

    # -- gauging ---

    def _book_in(self) -> None:
        b = self.block
        book_in = BookIn(
            owner="loop",
            engine=f"loop {b.seed}",
            block=b.spec,
            duty=b.duty,
            piston_alloy=b.alloy,
            oversizes_mm=b.oversizes_mm,
        )
        opening = JobOpened(number=f"L{b.seed}", units=Units.METRIC, book_in=book_in, figures=self.desk.figures.plain())
        self.job = self.desk.book_in(opening).job
        self.began = self.job.records[0].at
        self.job.clock = lambda: self.began  # a block is worked in one day, whenever the campaign is run
        self.work.four_steps = self.chance.random() < 0.3
        if self.work.four_steps:
            self.book(PracticeChosen(topic="honing", name="four steps"))
        low, high = b.window_mm
        self.book(ClearanceStated(source="piston sheet", low_mm=low, high_mm=high))
        s = b.spec
        self.tell(
            f"Block {b.seed}: {s.layout} of {s.cylinders}, {s.bore_mm:g} x {s.length_mm:g}, {s.material}, {s.wall}, worn: {b.wear}; "
            f"duty {b.duty}; window {low:g}-{high:g}; pistons under their name by {b.pistons_under_mm:.3f}"
        )  # fmt: skip

    def _gauge(self) -> None:
        plan = self.chance.choices(("quick", "full", "race"), (2, 6, 1))[0]
        chosen = standard_plan(self.state.book_in, self.state.figures, plan)
        self.book(PlanChosen(name=plan, depths_mm=chosen.depths_mm, clocks_deg=chosen.clocks_deg))
        self.plate_on = self.chance.random() < 0.6
        self.book(PlateChanged(on=self.plate_on))
        self._set_gauge()
        for cylinder in self.state.cylinders:
            self._read_plan(cylinder)
        self.book(MasterChecked(from_zero_mm=round(self.gauge.zero_mm, 3)))
        for cylinder in self.state.cylinders:
            self._mark_flaws(cylinder)
        self.tell(f"Gauged by the {plan} plan, plate {'on' if self.plate_on else 'off'}, block at {self.warm_c:.1f}")

    def _set_gauge(self) -> None:
        self.work.minutes += MASTER_MIN
        self.gauge.set_on_master()
        self.book(GaugeSet(master_20_mm=self.block.spec.bore_mm, master_c=20.0))

    def _read_plan(self, cylinder: int) -> None:
        """Every place of the plan that has no reading yet, in its order."""
        entries: list[Entry] = []
        plan, taken = self.state.gauging.plan, set(places_read(self.state, cylinder, self.plate_on))
        while (place := next_place(plan, taken)) is not None:
            taken.add(place)
            depth, clock = plan.depths_mm[place.level], plan.clocks_deg[place.clock]
            size = self.read(cylinder, depth, clock, self.plate_on)
            entries.append(
                ReadingBooked(
                    cylinder=cylinder, depth_mm=depth, clock_deg=clock, diameter_mm=size, plate_on=self.plate_on
                )
            )
        self.work.minutes += GAUGE_MIN * len(entries)
        if entries:
            self.book(*entries)

    def _mark_flaws(self, cylinder: int) -> None:
        for flaw in self.hole(cylinder).flaws:
            if not flaw.can_be_found:
                continue
            low, high, feel = flaw.deep_mm, flaw.deep_mm, ""
            felt = flaw.deep_mm * self.chance.uniform(0.75, 1.3)
            for name in ("cant_feel", "can_feel", "catches", "catches_hard"):
                low, high = self.state.figures.row(f"cleanup.{name}")
                feel = name
                if felt <= high:
                    break
            self.book(self._flaw(cylinder, flaw, low, high, feel))

    def _flaw(self, cylinder: int, flaw: object, low: float, high: float, feel: str) -> DefectMarked:
        f = flaw
        return DefectMarked(
            cylinder=cylinder, what=f.what, top_mm=round(f.top_mm, 1), bottom_mm=round(f.bottom_mm, 1), clock_deg=round(f.clock_deg) % 360,  # type: ignore[attr-defined]
            width_deg=round(f.width_deg) + 4.0, deep_low_mm=low, deep_high_mm=high, feel=feel,  # type: ignore[attr-defined]
        )  # fmt: skip
