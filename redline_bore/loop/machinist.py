"""An obedient machinist: books through the desk only what a person would, and does literally what the program says, step by step.

Every time the advice leaves open what to do, ``guessed`` says where: each is a gap to close.
"""

from __future__ import annotations

import random
from collections.abc import Callable
from dataclasses import dataclass, field

import numpy as np

from redline_bore.core.errors import BenchError
from redline_bore.core.gauging import next_place
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.core.thermal import size_at
from redline_bore.desk.desk import Desk
from redline_bore.desk.open_job import OpenJob
from redline_bore.job.bore.finding import BoreCall
from redline_bore.job.bore.finding import judge as bore_call
from redline_bore.job.bore.plan import still_to_bore
from redline_bore.job.call.asks import Ask, AskFor, first_rung
from redline_bore.job.call.finding import CallVerdict
from redline_bore.job.call.finding import judge as call_at
from redline_bore.job.call.ladder import based_on
from redline_bore.job.calls import hone_call
from redline_bore.job.gauge.analysis import places_read
from redline_bore.job.gauge.places import check_places
from redline_bore.job.hone.finding import HoneCall, HoneFinding, creeping
from redline_bore.job.hone.progress import progress_of
from redline_bore.job.hone.set_up import proposed_hone, stone_mm
from redline_bore.job.hone.steps import stones_of
from redline_bore.job.hone.track import tracked_of
from redline_bore.job.kinds.book_in import JobOpened, PracticeChosen
from redline_bore.job.kinds.bore import BarSet, HoleBored
from redline_bore.job.kinds.call import ClearanceStated, DecisionTaken, PistonMeasured
from redline_bore.job.kinds.defects import DefectMarked, WallRead
from redline_bore.job.kinds.entry import Entry
from redline_bore.job.kinds.gauge import (
    BlockTemperature,
    GaugeSet,
    MasterChecked,
    PlanChosen,
    ReadingBooked,
    RingStopRead,
    SpindleSet,
    SweepBooked,
)
from redline_bore.job.kinds.hone import CheckLogged, HoneSet, HoneStepBegan, StonesSet
from redline_bore.job.kinds.plans import standard_plan
from redline_bore.job.kinds.plate import PlateChanged
from redline_bore.job.kinds.sign_off import FinalGauged
from redline_bore.job.state.booking import BookIn
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words import call as call_words
from redline_bore.job.words import hone as hone_words
from redline_bore.truth.block import TrueBlock
from redline_bore.truth.hole import TrueHole
from redline_bore.truth.tools import TrueBar, TrueGauge, TrueHone, sweep_of

MOST_TURNS, MOST_CHECKS = 80, 40
GO_ON = {  # what the card may say while there is something to do
    HoneCall.CHECK_FIRST, HoneCall.STEP_DONE, HoneCall.COOL, HoneCall.TRUE_UP, HoneCall.FIRST_BITE, HoneCall.STROKES, HoneCall.PLATEAU_GO,
    HoneCall.PLATEAU_TRACE_FIRST, HoneCall.NO_METAL,
}  # fmt: skip
SHOW = Show(Units.METRIC)


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
    finished: bool = False
    four_steps: bool = False
    story: list[str] = field(default_factory=list)


class Machinist:
    """Works one block from book-in to the final gauging."""

    def __init__(self, desk: Desk, block: TrueBlock) -> None:
        self.block, self.chance, self.desk = block, random.Random(block.seed * 7919 + 13), desk
        c = self.chance
        self.gauge = TrueGauge(c, c.uniform(0.0008, 0.0022), 0.0008, 0.00002)
        self.therm_off = c.uniform(-0.5, 0.5)
        self.mic_off = c.gauss(0.0, 0.0008)
        self.warm_c = block.block_c
        self.stones_cut: dict[int, float] = {}  # how these stones cut against the book, by step
        self.work = Work(block)
        self.job: OpenJob

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
        true = self.hole(cylinder).diameter(depth_mm, clock_deg, plate_on)
        return self.gauge.shows(size_at(true, self.block.coefficient_1e6, self.warm_c))

    # -- the path --------------------------------------------------------------------------------------------------------

    def run(self) -> Work:
        """Book in, gauge, call, bore, hone, gauge again."""
        try:
            self._book_in()
            self._gauge()
            if self._call():
                self._bore_all()
                if not self.work.given_up:
                    self._hone_all()
                    self._finals()
        except BenchError as error:
            self.work.endless = f"{type(error).__name__}: {error}"
        return self.work

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

    # -- the call --------------------------------------------------------------------------------------------------------

    def _call(self) -> bool:
        """Follow the ladder's card until it can be taken; False where nothing is bored."""
        over = first_rung(self.state)
        for _ in range(MOST_TURNS):
            found = call_at(self.state, over)
            self.tell(f"Call at +{over:g}: {call_words.say(found, SHOW).sentence}")
            if found.verdict is CallVerdict.LEAVE:
                self.work.left = True
                return False
            if found.asks and found.verdict in (CallVerdict.MAY_SHADOW, CallVerdict.BORE, CallVerdict.NOT_KNOWN):
                self._answer(found.asks[0])
                over = first_rung(self.state)
                continue
            if found.verdict in (CallVerdict.TOO_THIN, CallVerdict.WILL_NOT, CallVerdict.NO_RUNGS):
                self.work.given_up = found.verdict.name
                return False
            if found.verdict is CallVerdict.MAY_SHADOW:
                sure = found.ladder.smallest_sure
                if sure is not None and sure > over:
                    over = sure
                    continue
            return self._take(over, found.sure)
        self.work.endless = "the call asks without end"
        return False

    def _take(self, over: float, sure: bool) -> bool:
        found = call_at(self.state, over)
        self.work.called_mm, self.work.sure = over, sure
        sentence = call_words.say(found, SHOW).sentence
        self.book(DecisionTaken(oversize_mm=over, sentence=sentence, based_on=based_on(found.ladder, over, ())))
        for cylinder in self.state.cylinders:
            self._piston(cylinder, over)
        return True

    def _answer(self, ask: Ask) -> None:
        """Read what is asked for."""
        do: dict[AskFor, Callable[[Ask], None]] = {
            AskFor.GAUGE: lambda a: self._read_plan(a.cylinder), AskFor.MARK: self._measure_mark, AskFor.RING_STOP: self._ring_stop,
            AskFor.SWEEP: self._sweep, AskFor.CHORDS: self._chords, AskFor.WALL: self._wall, AskFor.WALL_AGAIN: self._wall,
            AskFor.WALL_THROUGH: self._no_guess, AskFor.PISTON: lambda a: self._piston(a.cylinder, first_rung(self.state)),
        }  # fmt: skip
        do[ask.what](ask)

    def _no_guess(self, ask: Ask) -> None:
        self.work.guessed.append(ask.what.name)

    def _measure_mark(self, ask: Ask) -> None:
        assert ask.mark is not None
        mark = ask.mark
        flaw = min(
            self.hole(ask.cylinder).flaws, key=lambda f: abs(f.top_mm - mark.top_mm) + abs(f.clock_deg - mark.clock_deg)
        )
        deep = round(max(flaw.deep_mm + self.chance.gauss(0.0, 0.004), 0.001), 3)
        self.job.strike(mark.seq, "measured")
        self.book(self._flaw(ask.cylinder, flaw, deep, deep, ""))

    def _ring_stop(self, _ask: Ask) -> None:
        self.book(RingStopRead(depth_mm=round(self.block.stop_mm + self.chance.uniform(-0.5, 0.5), 1)))
        for cylinder in self.state.cylinders:
            self._read_plan(cylinder)  # the plan has its level under the stop now

    def _sweep(self, ask: Ask) -> None:
        self.book(SpindleSet(cylinder=ask.cylinder, zero_radius_mm=self.block.spec.bore_mm / 2.0, based_on="mains"))
        held = [s.depth_mm for s in self.state.gauging.sweeps_of(ask.cylinder)]
        depths = sorted({*ask.depths_mm, *held})  # one set-up carries them all
        for depth in depths:
            clocks, radii = sweep_of(self.hole(ask.cylinder), depth, self.plate_on, 72, 0.001, self.chance)
            warm = tuple(round(size_at(r, self.block.coefficient_1e6, self.warm_c), 4) for r in radii)
            self.book(
                SweepBooked(
                    cylinder=ask.cylinder, depth_mm=depth, clock_deg=clocks, radius_mm=warm, plate_on=self.plate_on
                )
            )
            self.work.sweeps += 1

    def _chords(self, ask: Ask) -> None:
        entries = []
        for depth in ask.depths_mm:
            for clock in (0.0, 45.0, 90.0, 135.0):
                size = self.read(ask.cylinder, depth, clock, self.plate_on)
                entries.append(
                    ReadingBooked(
                        cylinder=ask.cylinder, depth_mm=depth, clock_deg=clock, diameter_mm=size, plate_on=self.plate_on
                    )
                )
        self.book(*entries)

    def _wall(self, ask: Ask) -> None:
        times = 2 if ask.what is AskFor.WALL_AGAIN else 1
        entries = []
        for place in ask.places:
            for _ in range(times):
                wall = self.hole(ask.cylinder).wall_at(place.depth_mm, place.clock_deg) + self.chance.gauss(0.0, 0.04)
                across = min(abs(place.clock_deg - 90.0), abs(place.clock_deg - 270.0)) <= 45.0
                entries.append(
                    WallRead(
                        cylinder=ask.cylinder, clock_deg=place.clock_deg, depth_mm=place.depth_mm, wall_mm=round(wall, 2),
                        zone="thrust" if across else "elsewhere", through="liner" if self.block.wall_is_liner else "",
                    )
                )  # fmt: skip
        self.book(*entries)

    def _piston(self, cylinder: int, over: float) -> None:
        """Measure the piston meant for a cylinder, of those that are sold for a size."""
        true = self.work.pistons.get(cylinder, (0.0, 0.0))[0]
        name = self.block.spec.bore_mm + over
        if abs(true + self.block.pistons_under_mm - name) > 0.05:
            true = name - self.block.pistons_under_mm + self.chance.gauss(0.0, 0.003)
        read = round(true + self.mic_off + self.chance.gauss(0.0, 0.0008), 3)
        self.work.pistons[cylinder] = (true, read)
        self.book(PistonMeasured(cylinder=cylinder, size_mm=read, piston_c=20.0))

    # -- the bar ---------------------------------------------------------------------------------------------------------

    def _bore_all(self) -> None:
        c = self.chance
        bar = TrueBar(c, c.gauss(0.004, 0.004), c.uniform(0.0, 0.013), 0.002, 0.004, c.gauss(0.0, 0.003))
        self.book(PlateChanged(on=False))
        self.book(
            BarSet(insert="TPG 321", nose_radius_mm=0.4, rake="positive", feed_mm=0.08, rpm=900.0, machine="north")
        )
        for _ in range(MOST_TURNS):
            order = [n for bank in still_to_bore(self.state) for n in bank]
            if not order:
                return
            if not self._bore(order[0], bar):
                return
        self.work.endless = "the bar is told without end"

    def _bore(self, cylinder: int, bar: TrueBar) -> bool:
        for _ in range(8):
            found = bore_call(self.state, cylinder, "2026-11-29")
            if found.call is BoreCall.AGAINST_CALL:
                return self._call_again()
            if found.call in (BoreCall.DONE, BoreCall.LITTLE_LEFT, BoreCall.MUCH_LEFT, BoreCall.UNPROVED):
                return True
            if found.call is BoreCall.OVER:
                self.tell(f"{cylinder}: the bar went over")
                return True
            if found.call not in (BoreCall.SET, BoreCall.PASS, BoreCall.RECUT):
                self.work.endless = f"the bar: {found.call.name} {found.plan.missing}"
                return False
            setting = found.plan.setting_mm if found.call is not BoreCall.RECUT else found.setting_mm
            assert setting is not None
            hole = self.hole(cylinder)
            bar.cut(hole, setting, (float(hole.centre_mm[-3, 0]), float(hole.centre_mm[-3, 1])))
            at = check_places(self.state)
            down, across = (tuple(self.read(cylinder, d, a, False) for d in at.depths_mm) for a in at.clocks_deg)
            self.book(HoleBored(cylinder=cylinder, set_mm=setting, sizes_mm=down, across_mm=across))
        return True

    def _call_again(self) -> bool:
        """The call does not stand: what the call page says of it now; then on, or given up."""
        taken = self.state.calling.decision
        assert taken is not None
        over = taken.oversize_mm
        for _ in range(MOST_TURNS):
            found = call_at(self.state, over)
            self.tell(f"Call again at +{over:g}: {call_words.say(found, SHOW).sentence}")
            if found.asks:
                self._answer(found.asks[0])
                continue
            sure = found.ladder.smallest_sure
            if not found.sure and sure is not None and sure > over:
                over = sure
                continue
            if found.verdict in (CallVerdict.TOO_THIN, CallVerdict.WILL_NOT):
                self.work.given_up = found.verdict.name
                return False
            return self._take(over, found.sure)
        self.work.endless = "the call asks again without end"
        return False

    # -- the hone --------------------------------------------------------------------------------------------------------

    def _hone_all(self) -> None:
        self.plate_on = True
        self.book(PlateChanged(on=True))
        self._set_gauge()
        for cylinder in self.state.cylinders:
            self._hone(cylinder)
        self.work.finished = True

    def _set_hone(self, step: int, new: bool) -> None:
        length, name = self.block.spec.length_mm, stones_of(self.state)[step]
        self.book(StonesSet(stones=name, count=4, width_mm=10.0, length_mm=round(0.6 * length), bedded=not new))
        run: HoneSet = proposed_hone(self.state, "vertical")
        self.book(run)

    def _true_hone(self, step: int, new: bool) -> TrueHone:
        c, stones = self.chance, stones_of(self.state)[step]
        usual = self.state.figures.number(f"stones.{stones}_rate") * 1e-3
        soft = {"grey_iron": 1.0, "ductile_iron": 0.7, "iron_in_aluminium": 1.0}[self.block.spec.material]
        if step not in self.stones_cut:
            self.stones_cut[step] = float(np.exp(c.gauss(0.0, 0.45)))
        rate = (
            usual * soft * 100.0 / self.block.spec.bore_mm * self.stones_cut[step] * float(np.exp(c.gauss(0.0, 0.15)))
        )
        return TrueHone(
            c, rate, new, self.block.spec.band_mm, c.uniform(0.8, 1.2), c.uniform(0.8, 1.2), c.uniform(0.03, 0.08), c.uniform(0.06, 0.15), c.uniform(0.1, 0.4),
            c.uniform(0.0, 0.4),
        )  # fmt: skip

    def _hone(self, cylinder: int) -> None:
        """Do what the card says until it says that the cylinder is done, or to stop."""
        went, step, warm = self.work.hones.setdefault(cylinder, Hone()), -1, self.warm_c
        hone = self._true_hone(0, False)
        for _ in range(MOST_TURNS):
            at = self.state.honing.step_of(cylinder)
            if at != step:
                step, new = at, cylinder == 1 and self.chance.random() < 0.25  # the same stones go from hole to hole
                hone = self._true_hone(step, new)
                self._set_hone(step, new)
            found = hone_call(self.state, cylinder)
            self.tell(
                f"{cylinder}, step {step}: {hone_words.say(found, SHOW).sentence}   [true mean {self._true_mean(cylinder):.4f}]"
            )
            if found.call not in GO_ON and not (found.call is HoneCall.PLATEAU_SHORT and found.bite > 0):
                went.ended = found.call
                break
            self._obey(cylinder, hone, found, step, warm)
            if found.call is HoneCall.PLATEAU_SHORT:
                went.ended = found.call
                break
            if went.checks > MOST_CHECKS:
                self.work.endless = f"cylinder {cylinder} is checked without end: {found.call.name}"
                break
            self.warm_c = min(self.warm_c, warm + 14.0)
        self.warm_c = warm + (self.warm_c - warm) * 0.3

    def _obey(self, cylinder: int, hone: TrueHone, found: HoneFinding, step: int, cool_c: float) -> None:
        c = HoneCall
        if found.call is c.CHECK_FIRST:
            self._check(cylinder, 0)
        elif found.call is c.STEP_DONE:
            self.book(HoneStepBegan(cylinder=cylinder, step=step + 1))
        elif found.call is c.COOL:
            self.warm_c = cool_c
            self._check(cylinder, self._strokes(cylinder))
        elif found.call is c.TRUE_UP:
            assert found.shape is not None and found.shape.set_to is not None
            self.book(found.shape.set_to)
        else:
            if found.call is c.NO_METAL:
                hone.glaze, hone.life = 0.0, max(hone.life, -0.2)  # dressed
            self._bite(cylinder, hone, found)

    def _true_mean(self, cylinder: int) -> float:
        travel = self.state.travel
        hole = self.hole(cylinder)
        rows = hole.rows_between(travel.top_mm, travel.bottom_mm)
        return 2.0 * float(hole.radius_mm[rows].mean())

    def _strokes(self, cylinder: int) -> int:
        checks = self.state.honing.checks_of(cylinder, self.state.honing.step_of(cylinder))
        return int(checks[-1].strokes) if checks else 0

    def _check(self, cylinder: int, strokes: int) -> None:
        if creeping(self.state, progress_of(self.state, cylinder)):
            self._set_gauge()  # as the page asks near size
        at = check_places(self.state)
        down, across = (tuple(self.read(cylinder, d, a, True) for d in at.depths_mm) for a in at.clocks_deg)
        self.book(BlockTemperature(block_c=round(self.warm_c + self.therm_off, 1)))
        self.book(CheckLogged(cylinder=cylinder, strokes=float(strokes), sizes_mm=down, across_mm=across))
        self.work.hones[cylinder].checks += 1

    def _bite(self, cylinder: int, hone: TrueHone, found: HoneFinding) -> None:
        run, before, done, bite = (
            self.state.honing.run,
            self._true_mean(cylinder),
            self._strokes(cylinder),
            max(found.bite, 1),
        )
        assert run is not None
        aim = None if (tracked := tracked_of(self.state, cylinder)) is None else tracked.aim.mean_mm
        over, dwell = (run.over_top_mm or 0.0, run.over_bottom_mm or 0.0), (run.dwell_top_s, run.dwell_bottom_s)
        hone.cut(self.hole(cylinder), bite, stone_mm(self.state), over, dwell, run.strokes_per_min or 50.0)
        self.warm_c += 0.012 * bite
        after = self._true_mean(cylinder)
        if found.call is HoneCall.STROKES and aim is not None and after > before:
            rate = (after - before) / bite
            self.work.hones[cylinder].told.append(Told(found.least, found.most, (aim - before) / rate))
        self._check(cylinder, done + bite)

    # -- the end ---------------------------------------------------------------------------------------------------------

    def _finals(self) -> None:
        self.warm_c = self.block.block_c
        self._set_gauge()
        at = check_places(self.state)
        for cylinder in self.state.cylinders:
            down, across = (tuple(self.read(cylinder, d, a, True) for d in at.depths_mm) for a in at.clocks_deg)
            self.book(FinalGauged(cylinder=cylinder, sizes_mm=down, across_mm=across, plate_on=True))
