"""The entries of a job's ledger: frozen, typed, versioned. Nothing is edited or deleted; undo is another entry.

Lengths in mm, temperatures in C, angles in degrees from the front, clockwise from above. A size is what was read,
at the part's own temperature; the fold takes it to 20 C.
"""

from __future__ import annotations

from dataclasses import field
from typing import Literal

from redline_bore.core.block import BlockSpec
from redline_bore.core.clamping import ClampSetUp
from redline_bore.core.frozen import frozen
from redline_bore.core.lengths import Units
from redline_bore.job.ledger.bore_entries import (
    BarSet,
    CutNoted,
    EdgeTurned,
    HoleBored,
    InsertShelved,
    MachineStated,
    RunChecked,
)
from redline_bore.job.ledger.call_entries import (
    Apart,
    BasedOn,
    ChamberStated,
    ClearanceStated,
    DecisionTaken,
    PistonMeasured,
    PracticeChosen,
)
from redline_bore.job.ledger.finish_entries import (
    CareTaken,
    FamilyOffered,
    FinalGauged,
    FinishWindowStated,
    HatchSeen,
    JobReopened,
    Lesson,
    PointAccepted,
    RingsGapped,
    TraceBooked,
)
from redline_bore.job.ledger.hone_entries import (
    AngleWanted,
    CheckLogged,
    CompensationRead,
    HoneSet,
    HoneStepBegan,
    LoadSeen,
    OwnHoning,
    StonesSet,
)
from redline_bore.job.ledger.sleeve_entries import (
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

__all__ = [  # the entries that other modules import from here, those of the call, the bar and the sleeves among them
    "CareTaken", "FamilyOffered", "FinalGauged", "FinishWindowStated", "HatchSeen", "JobReopened", "Lesson", "PointAccepted",
    "RingsGapped", "TraceBooked", "AfterPressRead", "AngleWanted", "Apart", "BarSet", "CheckLogged", "CompensationRead", "HoneSet", "HoneStepBegan", "LoadSeen",
    "OwnHoning", "StonesSet", "BasedOn", "ChamberStated", "ClearanceStated", "CounterboreRead", "CutNoted",
    "DeckFaced", "DeckRead", "DecisionTaken", "EdgeTurned", "HoleBored", "InsertShelved", "MachineStated",
    "OldSleeveMeasured", "ParentOutsideStated", "ParentRead", "PistonMeasured", "PracticeChosen", "ProtrusionStated",
    "RunChecked", "SleeveCold", "SleeveMeasured", "SleeveWayTaken",
]  # fmt: skip

Plain = float | str | list[float]
TWO_POINT, THREE_POINT = "two-point", "three-point"


@frozen(kw_only=True)
class BookIn:
    """What is known when a job comes in. ``oversizes_mm``: steps over nominal that pistons exist for."""

    owner: str
    engine: str
    block: BlockSpec
    purpose: str = "bore oversize"
    duty: str = "everyday"
    piston_alloy: str = "piston_cast"
    oversizes_mm: tuple[float, ...] = ()


@frozen(kw_only=True)
class JobOpened:
    """The job exists. Keeps the figures and practices it is worked with, whatever the shop changes later."""

    number: str
    units: Units
    book_in: BookIn
    figures: dict[str, Plain] = field(default_factory=dict)
    practices: dict[str, str] = field(default_factory=dict)
    kind: Literal["job_opened"] = "job_opened"


@frozen(kw_only=True)
class BookInRevised:
    """What was booked in is corrected; everything already read is worked out anew with it."""

    book_in: BookIn
    kind: Literal["book_in_revised"] = "book_in_revised"


@frozen(kw_only=True)
class PlanChosen:
    """The depths and clock angles that are read from now on, by name."""

    name: str
    depths_mm: tuple[float, ...]
    clocks_deg: tuple[float, ...]
    kind: Literal["plan_chosen"] = "plan_chosen"


@frozen(kw_only=True)
class GaugeSet:
    """The gauge was zeroed on a master of ``master_20_mm`` at 20 C. ``gauge``: two-point or three-point."""

    master_20_mm: float
    master_c: float
    master_1e6: float = 11.5
    gauge_c: float | None = None
    gauge_1e6: float | None = None
    gauge: str = TWO_POINT
    kind: Literal["gauge_set"] = "gauge_set"


@frozen(kw_only=True)
class MasterChecked:
    """The gauge was put on its master again and read ``from_zero_mm``: it bounds the drift since it was zeroed."""

    from_zero_mm: float
    master_c: float | None = None
    gauge_c: float | None = None
    kind: Literal["master_checked"] = "master_checked"


@frozen(kw_only=True)
class BlockTemperature:
    """The block was found at this temperature; readings from now on are taken at it."""

    block_c: float
    kind: Literal["block_temperature"] = "block_temperature"


@frozen(kw_only=True)
class PlateChanged:
    """The torque plate goes on or comes off."""

    on: bool
    kind: Literal["plate_changed"] = "plate_changed"


@frozen(kw_only=True, often=True)
class ReadingBooked:
    """A diameter at the block's own temperature, by a two-point or a three-point gauge (``clock_deg``: its first leg).

    gauge_c: temperature of the gauge's body, None when not known.
    """

    cylinder: int
    depth_mm: float
    clock_deg: float
    diameter_mm: float
    plate_on: bool
    gauge: str = TWO_POINT
    gauge_c: float | None = None
    kind: Literal["reading_booked"] = "reading_booked"


@frozen(kw_only=True)
class SpindleSet:
    """A spindle with an indicator was set up over a cylinder; sweeps from now on share its axis, till the next one."""

    cylinder: int
    zero_radius_mm: float
    based_on: str = "mains"
    kind: Literal["spindle_set"] = "spindle_set"


@frozen(kw_only=True)
class SweepBooked:
    """Radius against clock angle from the spindle's axis at one depth, at the block's own temperature."""

    cylinder: int
    depth_mm: float
    clock_deg: tuple[float, ...]
    radius_mm: tuple[float, ...]
    plate_on: bool
    kind: Literal["sweep_booked"] = "sweep_booked"


@frozen(kw_only=True)
class RingGapRead:
    """End gap of a ring pushed down square, for taper without a bore gauge."""

    cylinder: int
    depth_mm: float
    gap_mm: float
    kind: Literal["ring_gap_read"] = "ring_gap_read"


@frozen(kw_only=True)
class DefectMarked:
    """A defect on the wall. Its depth on radius is an interval until it is measured (then both ends agree)."""

    cylinder: int
    what: str
    top_mm: float
    bottom_mm: float
    clock_deg: float
    width_deg: float
    deep_low_mm: float
    deep_high_mm: float
    feel: str = ""
    kind: Literal["defect_marked"] = "defect_marked"


@frozen(kw_only=True)
class PhotoAttached:
    """A picture kept with the job, belonging to entry ``seq``. Its bytes lie in the logbook under ``sha256``."""

    seq: int
    name: str
    media: str
    sha256: str
    kind: Literal["photo_attached"] = "photo_attached"


@frozen(kw_only=True)
class WallRead:
    """Ultrasonic wall thickness. ``zone`` is thrust or elsewhere."""

    cylinder: int
    clock_deg: float
    depth_mm: float
    wall_mm: float
    zone: Literal["thrust", "elsewhere"]
    kind: Literal["wall_read"] = "wall_read"


@frozen(kw_only=True)
class ClampingStated:
    """How the plate, or the head it stands in for, is held down."""

    part: Literal["plate", "head"]
    set_up: ClampSetUp
    kind: Literal["clamping_stated"] = "clamping_stated"


@frozen(kw_only=True)
class PlateTightened:
    """The plate's fasteners were gone through in this order (numbers from 1), at each of these torques in turn."""

    order: tuple[int, ...]
    torques_nm: tuple[float, ...]
    kind: Literal["plate_tightened"] = "plate_tightened"


@frozen(kw_only=True)
class SecondOpinionOpened:
    """Somebody else measured this block: who, and under which conditions (None: they did not say).

    at_20: their figures are corrected to 20 C already. ``*_over_mm``: their instrument is known to show that much too
    much. The same ``who`` again states the conditions anew.
    """

    who: str
    plate_on: bool = False
    block_c: float | None = None
    piston_c: float | None = None
    at_20: bool = False
    aim_mm: float | None = None
    bore_gauge_over_mm: float = 0.0
    micrometer_over_mm: float = 0.0
    kind: Literal["second_opinion_opened"] = "second_opinion_opened"


@frozen(kw_only=True)
class OtherReadingBooked:
    """A diameter that ``who`` read, as they wrote it down; None: they did not say where."""

    who: str
    cylinder: int
    diameter_mm: float
    depth_mm: float | None = None
    clock_deg: float | None = None
    kind: Literal["other_reading_booked"] = "other_reading_booked"


@frozen(kw_only=True)
class OtherPistonBooked:
    """A piston that ``who`` measured."""

    who: str
    cylinder: int
    size_mm: float
    kind: Literal["other_piston_booked"] = "other_piston_booked"


@frozen(kw_only=True)
class StudyBegan:
    """A gauge study begins: which gauge, and its last digit in mm."""

    instrument: str
    resolution_mm: float
    kind: Literal["study_began"] = "study_began"


@frozen(kw_only=True)
class StudyReadingBooked:
    """A reading of the gauge study under way, by whoever books it, of spot ``spot``."""

    spot: str
    value_mm: float
    kind: Literal["study_reading_booked"] = "study_reading_booked"


@frozen(kw_only=True)
class StepStamped:
    """A step of the route is stamped by whoever did it."""

    step: str
    initials: str
    kind: Literal["step_stamped"] = "step_stamped"


@frozen(kw_only=True)
class EntryStruck:
    """Entry ``seq`` no longer counts. It stays in the ledger, struck through."""

    seq: int
    reason: str = ""
    kind: Literal["entry_struck"] = "entry_struck"


@frozen(kw_only=True)
class EntryRestored:
    """Entry ``seq``, struck before, counts again."""

    seq: int
    kind: Literal["entry_restored"] = "entry_restored"


Entry = (
    JobOpened
    | BookInRevised
    | PlanChosen
    | GaugeSet
    | MasterChecked
    | BlockTemperature
    | PlateChanged
    | ReadingBooked
    | SpindleSet
    | SweepBooked
    | RingGapRead
    | DefectMarked
    | PhotoAttached
    | WallRead
    | ClampingStated
    | PlateTightened
    | SecondOpinionOpened
    | OtherReadingBooked
    | OtherPistonBooked
    | StudyBegan
    | StudyReadingBooked
    | PracticeChosen
    | ClearanceStated
    | PistonMeasured
    | ChamberStated
    | DecisionTaken
    | MachineStated
    | InsertShelved
    | EdgeTurned
    | BarSet
    | HoleBored
    | RunChecked
    | CutNoted
    | OldSleeveMeasured
    | ParentRead
    | ParentOutsideStated
    | SleeveMeasured
    | DeckRead
    | DeckFaced
    | CounterboreRead
    | ProtrusionStated
    | SleeveWayTaken
    | SleeveCold
    | AfterPressRead
    | StonesSet
    | HoneSet
    | AngleWanted
    | OwnHoning
    | CompensationRead
    | LoadSeen
    | HoneStepBegan
    | CheckLogged
    | TraceBooked
    | FinishWindowStated
    | HatchSeen
    | FinalGauged
    | RingsGapped
    | CareTaken
    | PointAccepted
    | JobReopened
    | FamilyOffered
    | StepStamped
    | EntryStruck
    | EntryRestored
)


@frozen(often=True)
class Record:
    """An entry as it stands in the ledger: its place (from 1), when (ISO 8601 with zone), who, with what, how warm,
    and what was typed."""

    seq: int
    at: str
    person: str
    entry: Entry
    instrument: str = ""
    block_c: float | None = None
    typed: str = ""
    version: int = 1
