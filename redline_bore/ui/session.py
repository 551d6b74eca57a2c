"""Session: the one object between the ledger and the window. It books, refolds, and says what changed."""

from __future__ import annotations

import getpass
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, pyqtSignal

from redline_bore.core.errors import InputError
from redline_bore.core.figures import Figures
from redline_bore.core.gauging import Place, next_place
from redline_bore.core.lengths import Units
from redline_bore.job.advice import Show
from redline_bore.job.gauge.analysis import places_read
from redline_bore.job.ledger import entries as e
from redline_bore.job.ledger.fold import fold, fold_on, last_struck, last_undoable, standard_plan
from redline_bore.job.ledger.state import JobState
from redline_bore.job.route import first_step, sleeved_cylinders, steps_of
from redline_bore.job.sign_off.closing import check_open

if TYPE_CHECKING:
    from redline_bore.job.bore.tools import ShelfLine
    from redline_bore.store.logbook import Logbook
    from redline_bore.store.readings_csv import ReadRow

TOPICS: dict[type, str] = {
    e.BookInRevised: "book_in",
    e.PlanChosen: "plan",
    e.GaugeSet: "gauge",
    e.MasterChecked: "gauge",
    e.SpindleSet: "gauge",
    e.SweepBooked: "readings",
    e.PhotoAttached: "readings",
    e.ClampingStated: "plate",
    e.PlateTightened: "plate",
    e.SecondOpinionOpened: "opinions",
    e.OtherReadingBooked: "opinions",
    e.OtherPistonBooked: "opinions",
    e.StudyBegan: "study",
    e.StudyReadingBooked: "study",
    e.BlockTemperature: "temperature",
    e.PlateChanged: "plate",
    e.ReadingBooked: "readings",
    e.RingGapRead: "readings",
    e.DefectMarked: "readings",
    e.WallRead: "readings",
    e.PracticeChosen: "practice",
    e.ClearanceStated: "practice",
    e.PistonMeasured: "pistons",
    e.ChamberStated: "pistons",
    e.DecisionTaken: "decision",
    e.MachineStated: "bore",
    e.InsertShelved: "bore",
    e.EdgeTurned: "bore",
    e.BarSet: "bore",
    e.HoleBored: "bore",
    e.RunChecked: "bore",
    e.CutNoted: "bore",
    e.OldSleeveMeasured: "sleeve",
    e.ParentRead: "sleeve",
    e.ParentOutsideStated: "sleeve",
    e.SleeveMeasured: "sleeve",
    e.DeckRead: "sleeve",
    e.DeckFaced: "sleeve",
    e.CounterboreRead: "sleeve",
    e.ProtrusionStated: "sleeve",
    e.SleeveWayTaken: "sleeve",
    e.SleeveCold: "sleeve",
    e.AfterPressRead: "sleeve",
    e.StonesSet: "checks",
    e.HoneSet: "checks",
    e.AngleWanted: "checks",
    e.OwnHoning: "checks",
    e.CompensationRead: "checks",
    e.LoadSeen: "checks",
    e.HoneStepBegan: "checks",
    e.CheckLogged: "checks",
    e.TraceBooked: "finish",
    e.FinishWindowStated: "finish",
    e.HatchSeen: "finish",
    e.FinalGauged: "sign_off",
    e.RingsGapped: "sign_off",
    e.CareTaken: "sign_off",
    e.PointAccepted: "sign_off",
    e.JobReopened: "stamps",
    e.FamilyOffered: "book_in",
    e.StepStamped: "stamps",
}
LEDGER = frozenset(TOPICS.values())


@dataclass
class Bench:
    """What is being looked at: no Qt in it, and never in the ledger."""

    step: str = "book_in"
    cylinder: int = 1
    place: Place = Place(0, 0)
    units: Units = Units.METRIC
    rung_mm: float | None = None  # None: nobody has moved the redline yet
    pages: dict[str, str] = field(default_factory=dict)  # which page of each step that has pages
    apart: tuple[e.Apart, ...] | None = None  # cylinders that leave the common size; None: as the call taken has it
    beside: tuple[float, tuple[e.Apart, ...]] | None = None  # a call that was put beside the one looked at
    option: int = 0  # which option is looked at
    probe: tuple[float, float] | None = None  # depth mm and clock degrees that are read off the maps
    row: int = 0  # which reading of the second opinion is looked at
    defect: int = 0  # which defect of the cylinder is looked at
    spot: int = 1  # where on the wall is traced: 0 top, 1 middle, 2 bottom
    pulled: int | None = None  # how many pulls of the wrench are done; None: nobody is tightening
    new_job: bool = False
    unsaid: dict[str, str] = field(default_factory=dict)  # what was typed and not yet booked, by step

    def page_of(self, step: str, usual: str) -> str:
        """The page of a step that is on; its first one until another was chosen."""
        return self.pages.setdefault(step, usual)

    @property
    def page(self) -> str:
        """The page of the step that is on; empty where it has none."""
        return self.pages.get(self.step, "")


class Session(QObject):
    """Holds one open job of one logbook. ``changed`` carries topics; views repaint for those they show."""

    changed = pyqtSignal(frozenset)
    kept = pyqtSignal(object)  # the newest Record, once it is on the disk

    def __init__(self, path: Path, figures: Figures, open_logbook: Callable[[], Logbook]):
        super().__init__()
        self.path, self.figures = path, figures
        self.bench = Bench()
        self.person = _initials()
        self.job_id: int | None = None
        self.records: tuple[e.Record, ...] = ()
        self.state: JobState | None = None
        self._open_logbook = open_logbook
        self._logbook: Logbook | None = None

    @property
    def logbook(self) -> Logbook:
        """The logbook, opened when it is first needed."""
        if self._logbook is None:
            self._logbook = self._open_logbook()
        return self._logbook

    @property
    def job(self) -> JobState:
        """The open job's state. Raises InputError when none is open."""
        if self.state is None:
            raise InputError("No job is open; choose one from the list or book one in")
        return self.state

    @property
    def show(self) -> Show:
        return Show(self.bench.units)

    @property
    def steps(self) -> tuple[str, ...]:
        """The steps of the open job's route."""
        return steps_of(None if self.bench.new_job else self.state)

    def close(self) -> None:
        if self._logbook is not None:
            self._logbook.close()

    def load(self, job_id: int, records: tuple[e.Record, ...]) -> None:
        """Take up a job whose ledger has been read."""
        state = fold(records, self.figures)
        self.job_id, self.records, self.state = job_id, records, state
        self.bench = Bench(step=first_step(state), units=state.units)
        self.bench.cylinder = _first_cylinder(state, self.bench.step)
        self.bench.place = self._next_place()
        self.changed.emit(LEDGER | {"job", "selection", "step", "units", "rung"})

    def open_job(self, number: str) -> None:
        """Open a job of the logbook by its number. Raises InputError when there is none."""
        job_id = self.logbook.job_id(number)
        self.load(job_id, self.logbook.ledger(job_id))

    def new_job(self, opening: e.JobOpened) -> None:
        """Book a new job in and open it. Raises InputError when its number is taken."""
        plan = self._family_plan(opening)
        self.logbook.open_job(opening, self.person)
        self.open_job(opening.number)
        if plan is not None:
            self.book(plan, typed=f"plan of {opening.book_in.engine}")
        lessons = self.lessons(opening.book_in.engine)
        if lessons:
            self.book(e.FamilyOffered(lessons=lessons), typed=f"family {opening.book_in.engine}")

    def book(
        self, *entries: e.Entry, typed: str = "", instrument: str = "", block_c: float | None = None, advance: bool = False
    ) -> e.Record:  # fmt: skip
        """Append entries; when this returns they are on the disk. Returns the newest record.

        advance: put the gauge at the next place not read, in the same breath.
        """
        from redline_bore.store.logbook import Draft

        if self.job_id is None or self.state is None:
            raise InputError("No job is open; choose one from the list or book one in")
        check_open(self.state, entries)
        warm = block_c if block_c is not None else self.state.block_c
        drafts = [Draft(entry, self.person, instrument, warm, typed) for entry in entries]
        new = self.logbook.append(self.job_id, self.records[-1].seq, drafts)
        self._take(new, advance)
        self.kept.emit(self.records[-1])
        return self.records[-1]

    def book_rows(self, rows: Sequence[ReadRow], source: str) -> None:
        """Book readings from a file, all at once, each with who, what with and how warm."""
        from redline_bore.store.logbook import Draft

        check_open(self.job, [r.entry for r in rows])
        warm = self.job.block_c
        drafts = [
            Draft(
                r.entry,
                r.person or self.person,
                r.instrument or source,
                r.block_c if r.block_c is not None else warm,
                r.typed,
            )
            for r in rows
        ]
        assert self.job_id is not None
        self._take(self.logbook.append(self.job_id, self.records[-1].seq, drafts))
        self.kept.emit(self.records[-1])
        self.to_next_place()

    def _take(self, new: Sequence[e.Record], advance: bool = False) -> None:
        if not new:
            return
        self.records += tuple(new)
        assert self.state is not None
        self.state = fold_on(self.state, self.records, self.figures)
        topics = frozenset(TOPICS.get(type(r.entry), "all") for r in new)
        if advance:
            self.bench.place = self._next_place()
        if self.bench.step not in self.steps:  # the step was needed only by what was struck
            self.bench.step, topics = "call", topics | {"step"}
        self.changed.emit(LEDGER | topics if "all" in topics else topics)

    def look_again(self) -> None:
        """Take in what another program may have booked into this job meanwhile."""
        if self.job_id is not None and self._logbook is not None:
            self._take(self._logbook.ledger(self.job_id, self.records[-1].seq))

    def undo(self) -> e.Record | None:
        """Strike the newest entry that counts; returns it, or None when there is none."""
        record = last_undoable(self.records)
        if record is not None:
            self.book(e.EntryStruck(seq=record.seq, reason="taken back"))
        return record

    def redo(self) -> int | None:
        """Let the entry struck last count again; returns its place, or None."""
        seq = last_struck(self.records)
        if seq is not None:
            self.book(e.EntryRestored(seq=seq))
        return seq

    def families(self) -> tuple[JobState, ...]:
        """The newest job of every engine family in the logbook, the one worked on last first."""
        found: dict[str, JobState] = {}
        for line in self.logbook.jobs():
            if line.engine not in found:
                found[line.engine] = fold(self.logbook.ledger(line.job_id), self.figures)
        return tuple(found.values())

    def lessons(self, engine: str) -> tuple[e.Lesson, ...]:
        """What the signed jobs of an engine family taught."""
        from redline_bore.store.family import lessons_in

        return lessons_in(self.logbook, engine, self.figures)

    def jobs_with(self, *kinds: str) -> tuple[JobState, ...]:
        """The jobs whose ledger holds an entry of one of these kinds, the oldest first."""
        return tuple(fold(ledger, self.figures) for ledger in self.logbook.ledgers_with(kinds))

    def _family_plan(self, opening: e.JobOpened) -> e.PlanChosen | None:
        """The level plan last chosen for this engine family, where it fits this block; None when none was."""
        last = next((f for f in self.families() if f.book_in.engine == opening.book_in.engine), None)
        if last is None or last.block.length_mm != opening.book_in.block.length_mm:
            return None
        if last.plan == standard_plan(opening.book_in, self.figures, "full"):
            return None
        return e.PlanChosen(name=last.plan.name, depths_mm=last.plan.depths_mm, clocks_deg=last.plan.clocks_deg)

    def tool_ledgers(self) -> tuple[tuple[e.Record, ...], ...]:
        """The ledgers of every job in which a machine, an insert or a bar was booked."""
        from redline_bore.job.bore.tools import KINDS

        return self.logbook.ledgers_with(KINDS)

    def shelf(self) -> tuple[ShelfLine, ...]:
        """The shop's inserts, counted over all jobs."""
        from redline_bore.job.bore.tools import shelf_of

        in_bar = "" if self.job.bar is None else self.job.bar.insert
        return self.job.remembered("shelf", lambda: shelf_of(self.tool_ledgers(), in_bar))

    def shop_machine(self) -> e.MachineStated | None:
        """The boring bar that was stated last in any job."""
        from redline_bore.job.bore.tools import last_machine

        return last_machine(self.tool_ledgers())

    def taught(self, entry: e.BarSet) -> e.BarSet:
        """A bar's set-up with what its machine and insert taught on the other jobs of the logbook."""
        from redline_bore.job.bore.tools import taught

        jobs = [fold(ledger, self.figures) for ledger in self.tool_ledgers()]
        return taught(entry, jobs, self.job)

    def select(self, cylinder: int) -> None:
        """Look at another cylinder."""
        if self.state is not None and cylinder in self.state.cylinders and cylinder != self.bench.cylinder:
            self.bench.cylinder = cylinder
            self.bench.place = self._next_place()
            self.changed.emit(frozenset({"selection", "place"}))

    def go(self, step: str) -> None:
        """Go to a step of the route."""
        if step in self.steps:
            self.bench.step = step
            self.bench.new_job = False
            self.changed.emit(frozenset({"step"}))

    def set_spot(self, spot: int) -> None:
        """Trace at another spot of the wall: 0 top, 1 middle, 2 bottom."""
        self.bench.spot = min(max(spot, 0), 2)
        self.changed.emit(frozenset({"spot"}))

    def begin_new_job(self) -> None:
        """Show an empty book-in; nothing is written until it is booked."""
        self.bench.step, self.bench.new_job = "book_in", True
        self.changed.emit(frozenset({"step", "new_job"}))

    def set_units(self, units: Units) -> None:
        self.bench.units = units
        self.changed.emit(frozenset({"units"}))

    @property
    def rung_mm(self) -> float:
        """Where the redline of the call stands, mm over nominal: as moved, else as the call has it."""
        if self.bench.rung_mm is not None:
            return self.bench.rung_mm
        from redline_bore.job.call.ladder import first_rung

        return self.job.remembered("first rung", lambda: first_rung(self.job))

    @property
    def call_mm(self) -> float | None:
        """The common size of the call looked at, mm over nominal; None while the call taken, to bore nothing, stands."""
        decision = self.job.decision
        stands = self.bench.rung_mm is None and decision is not None and not decision.bores
        return None if stands else self.rung_mm

    def set_rung(self, oversize_mm: float) -> None:
        """Move the redline of the call; mm over nominal."""
        self.bench.rung_mm = oversize_mm
        self.changed.emit(frozenset({"rung"}))

    @property
    def apart(self) -> tuple[e.Apart, ...]:
        """Cylinders that leave the common size: as moved, else as the call taken has it."""
        if self.bench.apart is not None:
            return self.bench.apart
        decision = self.job.decision
        return () if decision is None else decision.apart

    def set_apart(self, cylinder: int, way: e.Apart | None) -> None:
        """Take a cylinder out of the common size, or (None) put it back."""
        rest = tuple(a for a in self.apart if a.cylinder != cylinder)
        self.bench.apart = rest if way is None else tuple(sorted((*rest, way), key=lambda a: a.cylinder))
        self.changed.emit(frozenset({"rung"}))

    def set_call(self, oversize_mm: float, apart: tuple[e.Apart, ...]) -> None:
        """Look at a whole call: the common rung and who leaves it."""
        self.bench.rung_mm, self.bench.apart = oversize_mm, apart
        self.changed.emit(frozenset({"rung"}))

    def put_beside(self) -> None:
        """Keep the call looked at, to be compared with the next one; again takes it away."""
        now = (self.rung_mm, self.apart)
        self.bench.beside = None if self.bench.beside == now else now
        self.changed.emit(frozenset({"rung"}))

    def set_option(self, index: int) -> None:
        """Look at another option."""
        self.bench.option = max(index, 0)
        self.changed.emit(frozenset({"option"}))

    def set_place(self, place: Place) -> None:
        """Put the gauge at a place of the plan."""
        self.bench.place = place
        self.changed.emit(frozenset({"place"}))

    def set_person(self, initials: str) -> None:
        """Who books from now on."""
        self.person = initials
        self.changed.emit(frozenset({"person"}))

    def set_page(self, page: str) -> None:
        """Show another page of the gauge step."""
        self.bench.pages[self.bench.step] = page
        self.changed.emit(frozenset({"page"}))

    def set_probe(self, depth_mm: float, clock_deg: float) -> None:
        """Read the maps and the slice at a depth (kept in the cylinder) and a clock angle."""
        length = self.job.block.length_mm
        self.bench.probe = (min(max(depth_mm, 0.0), length), clock_deg % 360.0)
        self.changed.emit(frozenset({"probe"}))

    def set_defect(self, index: int) -> None:
        """Look at another defect of the cylinder."""
        count = len(self.job.defects_of(self.bench.cylinder))
        self.bench.defect = min(max(index, 0), max(count - 1, 0))
        self.changed.emit(frozenset({"defect"}))

    def set_row(self, row: int, cylinder: int) -> None:
        """Look at another reading of the second opinion, and at its cylinder."""
        self.bench.row, self.bench.cylinder = row, cylinder
        self.changed.emit(frozenset({"row", "selection"}))

    def set_pulled(self, pulled: int | None) -> None:
        """How far the tightening of the plate has come; None ends it."""
        self.bench.pulled = pulled
        self.changed.emit(frozenset({"pulled"}))

    def to_next_place(self) -> None:
        """Put the gauge at the next place that has no reading."""
        self.set_place(self._next_place())

    def _next_place(self) -> Place:
        assert self.state is not None
        taken = places_read(self.state, self.bench.cylinder, self.state.plate_on, self.state.gauge_kind)
        return next_place(self.state.plan, taken) or Place(0, 0)


def today() -> str:
    """The day as the ledger counts it."""
    return datetime.now(UTC).date().isoformat()


def _first_cylinder(state: JobState, step: str) -> int:
    if step == "gauge":
        full = frozenset(state.plan.places())
        return next((c for c in state.cylinders if places_read(state, c, state.plate_on, state.gauge_kind) != full), 1)
    if step == "bore":
        holes = {b.cylinder for b in state.bored}
        return next((c for c in state.cylinders if c not in holes), 1)
    if step == "sleeve":
        return next(iter(sleeved_cylinders(state)), 1)
    if step == "hone":
        return next((c for c in state.cylinders if not state.checks_of(c)), 1)
    return 1


def _initials() -> str:
    """Who is at the bench: the login name's first letters, until the shop says otherwise."""
    try:
        name = getpass.getuser()
    except (OSError, KeyError):
        return "?"
    return name[:3].upper()
