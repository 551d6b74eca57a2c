"""What is known of the bar and what it cut. Sizes in mm at 20 C."""

from __future__ import annotations

from typing import Literal

from redline_bore.core.frozen import frozen
from redline_bore.core.told import Unit, told
from redline_bore.job.state.fields import words
from redline_bore.job.state.rows import Rows
from redline_bore.job.state.two_angles import TwoAngles

Rake = Literal["positive", "negative"]
Grade = Literal["coated", "plain"]
Based = Literal["mains", "deck"]
CUT, SHELF = "bore/cut", "bore/inserts"
FASTEST_RPM = 5000.0
SPEED_WHY = "no speed of a boring bar"


@frozen(kw_only=True)
class BoringMachine:
    """A boring bar of the shop: its thickness, how far it stands out, the steps of its gearbox in turns a minute."""

    name: str = words("machine", SHELF)
    thick_mm: float = told(
        "bar thickness", Unit.LENGTH, least=5.0, most=500.0, why="no thickness of a bar; check the unit", shown=SHELF
    )
    reach_mm: float = told(
        "reach", Unit.LENGTH, least=2.5, most=3000.0, why="no reach of a bar; check the unit", shown=SHELF
    )
    speeds_rpm: tuple[float, ...] = told(
        "speeds", Unit.TURNS, above=0.0, most=FASTEST_RPM, why=SPEED_WHY, many=1, shown=SHELF
    )


@frozen(kw_only=True)
class Bar:
    """The bar's insert (nose radius, rake, grade), feed in mm a turn, turns a minute, what the block is squared to.

    usual_mm, first_mm: what this machine and insert cut over their setting in this metal on the jobs in ``taught_by``;
    first_mm None: they never told. ``holes``, ``firsts``: how many taught it.
    """

    insert: str = words("insert", CUT)
    nose_radius_mm: float = told(
        "nose radius", Unit.LENGTH, above=0.0, most=10.0, why="no nose radius; check the unit", shown=CUT
    )
    rake: Rake = told("rake", Unit.CHOICE, choices=("positive", "negative"), shown=CUT)
    feed_mm: float = told(
        "feed a turn", Unit.LENGTH, above=0.0, most=1.0, why="a thread, not a cut; check the unit", shown=CUT
    )
    rpm: float = told("turns a minute", Unit.TURNS, above=0.0, most=FASTEST_RPM, why=SPEED_WHY, shown=CUT)
    based_on: Based = told("squared to", Unit.CHOICE, choices=("mains", "deck"), shown=CUT, default="mains")
    grade: Grade = told("carbide", Unit.CHOICE, choices=("coated", "plain"), shown=CUT, default="coated")
    machine: str = words("machine", CUT, default="")
    usual_mm: float = told("usually over its setting", Unit.LENGTH, shown=CUT, default=0.0)
    first_mm: float | None = told("first hole over its setting", Unit.LENGTH, shown=CUT, default=None)
    holes: int = told("holes that taught it", Unit.COUNT, shown=CUT, default=0)
    firsts: int = told("first holes that taught it", Unit.COUNT, shown=CUT, default=0)
    taught_by: tuple[str, ...] = words("jobs that taught it", CUT, default=())


@frozen
class Bored(TwoAngles):
    """A hole as it came off the bar, sizes in mm at 20 C, top to bottom; ``at``: when, as the ledger has it.

    across_mm: the same places at a second angle. block_c: how warm it was. ``tool``: machine and insert. rpm: None, nobody said.
    """

    seq: int
    cylinder: int
    set_mm: float
    sizes_mm: tuple[float, ...]
    at: str
    across_mm: tuple[float, ...] = ()
    block_c: float | None = None
    tool: tuple[str, str] = ("", "")
    rpm: float | None = None


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
    """What was heard or seen at the cut; None: not said where."""

    seq: int
    cylinder: int
    what: str
    depth_mm: float | None


@frozen
class Looked:
    """What a look into a hole just bored showed: clean all over, or a dark patch. size_mm, largest_mm: what it had come out at, 20 C.

    depth_mm, clock_deg: where the patch lies; deep_mm: how much deeper than the wall beside it, gauged; None: nobody did.
    """

    seq: int
    cylinder: int
    clean: bool
    size_mm: float
    largest_mm: float
    depth_mm: float | None = None
    clock_deg: float | None = None
    deep_mm: float | None = None


@frozen
class Boring:
    """The slice of the bore step; the run sheet's checks of the sleeve step are kept here too."""

    machine: BoringMachine | None = None
    bar: Bar | None = None
    holes: Rows[Bored] = Rows()
    run_checks: Rows[RunCheck] = Rows()
    cut_notes: tuple[CutNote, ...] = ()
    looks: tuple[Looked, ...] = ()
    allowance_mm: tuple[float, float] | None = None  # of the shop's own on this job, on diameter
    passes: tuple[tuple[int, tuple[float, ...]], ...] = ()  # own passes of a cylinder, on radius
    micrometer_since: int = 0  # entry that put the setting micrometer right: what was learned before it does not count
