"""The state of a job, folded from its ledger. Everything here is frozen; sizes are at 20 C unless the name says not."""

from __future__ import annotations

from collections.abc import Callable, Hashable
from dataclasses import field
from functools import cached_property
from typing import TYPE_CHECKING, Any, TypeVar

from redline_bore.core.block import BlockSpec, RingTravel, ring_travel
from redline_bore.core.clamping import ClampSetUp
from redline_bore.core.figures import Figures
from redline_bore.core.fit import ClearanceWindow
from redline_bore.core.frozen import frozen
from redline_bore.core.gauging import LevelPlan
from redline_bore.core.lengths import Units
from redline_bore.core.thermal import GaugeSetting
from redline_bore.job.ledger.entries import (
    TWO_POINT,
    AngleWanted,
    Apart,
    BarSet,
    BasedOn,
    BookIn,
    ChamberStated,
    FinishWindowStated,
    HoneSet,
    Lesson,
    MachineStated,
    OtherReadingBooked,
    OwnHoning,
    RingsGapped,
    SecondOpinionOpened,
    StonesSet,
)
from redline_bore.job.ledger.finish_state import Accepted, Final, HatchRead, TakenCare, WallTrace
from redline_bore.job.ledger.sleeve_state import Sleeving

if TYPE_CHECKING:
    from redline_bore.core.gauge_study import StudyValue

T = TypeVar("T")
STEP_TITLES = {
    "book_in": "Book in", "gauge": "Gauge", "call": "Call", "bore": "Bore", "sleeve": "Sleeve", "hone": "Hone",
    "finish": "Finish", "sign_off": "Sign off",
}  # fmt: skip
STEPS = tuple(STEP_TITLES)


@frozen(often=True)
class Reading:
    """A reading: as read, and at 20 C (block_c None: not known, taken as 20 C). ``clock_deg`` repeats every 180
    degrees with a two-point gauge, every 120 with a three-point one."""

    seq: int
    cylinder: int
    depth_mm: float
    clock_deg: float
    size_mm: float
    raw_mm: float
    plate_on: bool
    block_c: float | None
    person: str
    at: str
    gauge: str = TWO_POINT

    def __hash__(self) -> int:
        return self.seq  # readings are looked up often; equality still compares everything


@frozen
class Sweep:
    """Radii in mm at 20 C from the axis of spindle set-up ``set_up``."""

    seq: int
    cylinder: int
    set_up: int
    depth_mm: float
    clock_deg: tuple[float, ...]
    radius_mm: tuple[float, ...]
    plate_on: bool


@frozen
class SpindleSetUp:
    seq: int
    cylinder: int
    zero_radius_mm: float
    based_on: str


@frozen
class ZeroSpan:
    """A stretch of the ledger between looks at the master: how far the zero was off at its start and at its end, mm.

    end_off_mm None: not looked at since, so the drift of what was read in it is not known.
    """

    start_seq: int
    start_off_mm: float
    end_seq: int | None = None
    end_off_mm: float | None = None

    @property
    def drift_mm(self) -> float | None:
        return None if self.end_off_mm is None else max(abs(self.start_off_mm), abs(self.end_off_mm))


@frozen
class Photo:
    seq: int
    of_seq: int
    name: str
    media: str
    sha256: str


@frozen
class SecondOpinion:
    """What somebody else measured: under which conditions, their readings as written, their pistons by cylinder."""

    conditions: SecondOpinionOpened
    readings: tuple[OtherReadingBooked, ...] = ()
    pistons: tuple[tuple[int, float], ...] = ()


@frozen
class Study:
    """A gauge study: every reading of it. ``resolution_mm``: the gauge's last digit."""

    seq: int
    instrument: str
    resolution_mm: float
    values: tuple[StudyValue, ...] = ()


@frozen
class Tightened:
    at: str
    person: str
    order: tuple[int, ...]
    torques_nm: tuple[float, ...]


@frozen
class RingGap:
    cylinder: int
    depth_mm: float
    gap_mm: float


@frozen
class Defect:
    cylinder: int
    what: str
    top_mm: float
    bottom_mm: float
    clock_deg: float
    width_deg: float
    deep_low_mm: float
    deep_high_mm: float
    feel: str = ""
    seq: int = 0

    @property
    def measured(self) -> bool:
        return self.deep_low_mm == self.deep_high_mm


@frozen
class WallReading:
    cylinder: int
    clock_deg: float
    depth_mm: float
    wall_mm: float
    zone: str
    seq: int = 0


@frozen
class Piston:
    """A measured piston, at 20 C. ``warm_known``: its temperature was taken."""

    seq: int
    cylinder: int
    size_mm: float
    typed: str
    warm_known: bool


@frozen
class Check:
    """A hone check: double strokes in its step, sizes top to bottom at 20 C, block temperature, torque plate and the hone's load then."""

    seq: int
    cylinder: int
    step: int
    strokes: float
    sizes_mm: tuple[float, ...]
    block_c: float | None
    at: str
    person: str
    stones: str = ""
    plate_on: bool = False
    load: float | None = None

    @property
    def largest_mm(self) -> float:
        """The size that meets the redline first."""
        return max(self.sizes_mm)


@frozen
class Compensation:
    """What the machine says it has taken on diameter in a step, mm."""

    seq: int
    cylinder: int
    step: int
    taken_mm: float


@frozen
class LoadByDepth:
    seq: int
    cylinder: int
    depths_mm: tuple[float, ...]
    loads: tuple[float, ...]
    strokes: float


@frozen
class Stamp:
    step: str
    initials: str
    at: str
    seq: int = 0


@frozen
class Decision:
    seq: int
    oversize_mm: float
    sentence: str
    figures: tuple[str, ...]
    at: str
    person: str
    apart: tuple[Apart, ...] = ()
    based_on: tuple[BasedOn, ...] = ()
    way: str = "bore"

    @property
    def bores(self) -> bool:
        """Whether the call is to cut to a size; else the hole stays as it is but for its finish."""
        return self.way == "bore"


@frozen
class Bored:
    """A hole as it came off the bar, sizes in mm at 20 C, top to bottom; ``day`` as YYYY-MM-DD.

    across_mm: the same places at a second angle. block_c: how warm it was. ``tool``: machine and insert.
    """

    seq: int
    cylinder: int
    set_mm: float
    sizes_mm: tuple[float, ...]
    day: str
    across_mm: tuple[float, ...] = ()
    block_c: float | None = None
    tool: tuple[str, str] = ("", "")

    @property
    def all_mm(self) -> tuple[float, ...]:
        return (*self.sizes_mm, *self.across_mm)

    @property
    def largest_mm(self) -> float:
        """The size that meets the redline first."""
        return max(self.all_mm)

    @property
    def mean_mm(self) -> float:
        return sum(self.all_mm) / len(self.all_mm)


@frozen
class RunCheck:
    """A check of a run sheet; cylinder 0: it counts for the whole set-up."""

    seq: int
    step: str
    cylinder: int
    check: str
    person: str
    at: str


@frozen
class CutNote:
    seq: int
    cylinder: int
    what: str
    depth_mm: float | None


@frozen
class JobState:
    """All that counts of a job now. Mappings by cylinder are plain tuples to stay hashable."""

    number: str
    units: Units
    book_in: BookIn
    figures: Figures
    practices: tuple[tuple[str, str], ...]
    plan: LevelPlan
    own_plans: tuple[LevelPlan, ...] = ()
    plate_on: bool = False
    block_c: float | None = None
    gauge: GaugeSetting | None = None
    gauge_kind: str = TWO_POINT
    zero_spans: tuple[ZeroSpan, ...] = ()
    readings: tuple[Reading, ...] = ()
    three_points: tuple[Reading, ...] = ()
    spindle: SpindleSetUp | None = None
    sweeps: tuple[Sweep, ...] = ()
    ring_gaps: tuple[RingGap, ...] = ()
    defects: tuple[Defect, ...] = ()
    wall_readings: tuple[WallReading, ...] = ()
    photos: tuple[Photo, ...] = ()
    clamping: tuple[tuple[str, ClampSetUp], ...] = ()
    tightened: Tightened | None = None
    second_opinions: tuple[SecondOpinion, ...] = ()
    studies: tuple[Study, ...] = ()
    windows: tuple[ClearanceWindow, ...] = ()
    pistons: tuple[Piston, ...] = ()
    chamber: ChamberStated | None = None
    decision: Decision | None = None
    machine: MachineStated | None = None
    bar: BarSet | None = None
    bored: tuple[Bored, ...] = ()
    run_checks: tuple[RunCheck, ...] = ()
    cut_notes: tuple[CutNote, ...] = ()
    sleeving: Sleeving = Sleeving()
    hone_steps: tuple[tuple[int, int], ...] = ()  # cylinder, step it is in
    checks: tuple[Check, ...] = ()
    stones: StonesSet | None = None
    hone: HoneSet | None = None
    hone_since: int = 0  # entry of that set-up: checks after it were honed with it
    angle: AngleWanted | None = None
    own_honing: OwnHoning | None = None
    compensations: tuple[Compensation, ...] = ()
    loads: tuple[LoadByDepth, ...] = ()
    traces: tuple[WallTrace, ...] = ()
    finish_windows: tuple[FinishWindowStated, ...] = ()
    hatches: tuple[HatchRead, ...] = ()
    finals: tuple[Final, ...] = ()
    rings: tuple[RingsGapped, ...] = ()
    cares: tuple[TakenCare, ...] = ()
    accepted: tuple[Accepted, ...] = ()
    lessons: tuple[Lesson, ...] = ()
    reopened: int = 0  # entry that opened a signed job again
    stamps: tuple[Stamp, ...] = ()
    struck: frozenset[int] = field(default_factory=frozenset)
    last_seq: int = 0
    memo: dict[Hashable, Any] = field(default_factory=dict, compare=False, repr=False)

    def remembered(self, key: Hashable, work: Callable[[], T]) -> T:
        """``work()``, worked out once for this state: the state never changes, so neither does the answer."""
        if key not in self.memo:
            self.memo[key] = work()
        found: T = self.memo[key]
        return found

    @property
    def block(self) -> BlockSpec:
        return self.book_in.block

    @property
    def cylinders(self) -> range:
        return range(1, self.block.cylinders + 1)

    @property
    def travel(self) -> RingTravel:
        f = self.figures
        return ring_travel(self.block, f.number("gauging.ring_top"), f.number("gauging.ring_pack"))

    @cached_property
    def _readings_by(self) -> dict[tuple[int, bool | None], tuple[Reading, ...]]:
        found: dict[tuple[int, bool | None], list[Reading]] = {}
        for reading in self.readings:
            for plate in (None, reading.plate_on):
                found.setdefault((reading.cylinder, plate), []).append(reading)
        return {key: tuple(rows) for key, rows in found.items()}

    @property
    def coefficient_1e6(self) -> float:
        """Expansion coefficient of the bore, 1e-6 per C."""
        return self.figures.number(f"thermal.{self.block.material}")

    def practice(self, topic: str) -> str:
        return dict(self.practices)[topic]

    def piston(self, cylinder: int) -> Piston | None:
        """The piston last measured for a cylinder."""
        return next((p for p in reversed(self.pistons) if p.cylinder == cylinder), None)

    def readings_of(self, cylinder: int, plate_on: bool | None = None) -> tuple[Reading, ...]:
        return self._readings_by.get((cylinder, plate_on), ())

    def three_points_of(self, cylinder: int, plate_on: bool | None = None) -> tuple[Reading, ...]:
        return tuple(r for r in self.three_points if r.cylinder == cylinder and plate_on in (None, r.plate_on))

    def sweeps_of(self, cylinder: int, plate_on: bool | None = None) -> tuple[Sweep, ...]:
        """Sweeps of a cylinder's last spindle set-up: only those share an axis."""
        own = [s for s in self.sweeps if s.cylinder == cylinder and plate_on in (None, s.plate_on)]
        return tuple(s for s in own if s.set_up == own[-1].set_up)

    def held_down(self, part: str) -> ClampSetUp:
        """How the plate or the head is held down, as far as it was stated."""
        return dict(self.clamping).get(part, ClampSetUp())

    def zero_span(self, seq: int) -> ZeroSpan | None:
        """The stretch between looks at the master that an entry lies in; None before the gauge was first zeroed."""
        return next((z for z in reversed(self.zero_spans) if z.start_seq <= seq), None)

    def photos_of(self, seq: int) -> tuple[Photo, ...]:
        return tuple(p for p in self.photos if p.of_seq == seq)

    def defects_of(self, cylinder: int) -> tuple[Defect, ...]:
        return tuple(d for d in self.defects if d.cylinder == cylinder)

    def hone_step(self, cylinder: int) -> int:
        return dict(self.hone_steps).get(cylinder, 0)

    def checks_of(self, cylinder: int, step: int | None = None) -> tuple[Check, ...]:
        return tuple(c for c in self.checks if c.cylinder == cylinder and step in (None, c.step))

    @property
    def closed(self) -> bool:
        """Signed off, and not opened again since."""
        signed = self.stamp("sign_off")
        return signed is not None and signed.seq > self.reopened

    def final_of(self, cylinder: int, plate_on: bool) -> Final | None:
        """The finished hole as gauged last, under the plate or without it; None where the hone was in it since."""
        checks = self.checks_of(cylinder)
        since = checks[-1].seq if checks else 0
        return next(
            (f for f in reversed(self.finals) if f.cylinder == cylinder and f.plate_on == plate_on and f.seq > since),
            None,
        )

    def traces_of(self, cylinder: int) -> tuple[WallTrace, ...]:
        return tuple(t for t in self.traces if t.cylinder == cylinder)

    def rings_of(self, cylinder: int) -> RingsGapped | None:
        return next((r for r in self.rings if r.cylinder == cylinder), None)

    def hatch_of(self, cylinder: int) -> HatchRead | None:
        return next((h for h in reversed(self.hatches) if h.cylinder == cylinder), None)

    def stamp(self, step: str) -> Stamp | None:
        return next((s for s in reversed(self.stamps) if s.step == step), None)
