"""What is known of the hone: stones, how the machine goes, the checks. Lengths in mm, sizes at 20 C."""

from __future__ import annotations

from typing import Literal

from redline_bore.core.frozen import frozen
from redline_bore.core.told import Of, Unit, told
from redline_bore.job.state.fields import flag, words
from redline_bore.job.state.rows import Rows
from redline_bore.job.state.two_angles import TwoAngles

Machine = Literal["vertical", "manual", "drill", "ball"]
SET_UP, STEPS = "hone/set_up", "hone/steps"
FASTEST_RPM, FASTEST_STROKES, LONGEST_DWELL_S = 3000.0, 300.0, 10.0
DWELL_WHY = "no dwell at every stroke; seconds are wanted, like 0.5"


@frozen(kw_only=True)
class Stones:
    """The stones in the pack: abrasive and grit (a key of the stones' figures), count, width and length of each.

    worn_mm: off their height. hangs_mm: how far clips or guides hang below a stone's end. bedded: they bear over their whole length; None: as the family has them, and nobody said of these.
    """

    stones: str = words("stones", SET_UP)
    count: int = told(
        "how many stones", Unit.COUNT, least=1, most=24, why="no pack; how many, x, how wide each", shown=SET_UP
    )
    width_mm: float = told(
        "width of a stone", Unit.LENGTH, least=1.0, most=60.0, why="no pack; how many, x, how wide each", shown=SET_UP
    )
    length_mm: float = told(
        "length of a stone",
        Unit.LENGTH,
        above=0.0,
        most=0.999999,
        of=Of.HOLE,
        why="as long as the hole; half to three quarters of it is usual",
        shown=SET_UP,
    )
    worn_mm: float = told(
        "worn off the stones",
        Unit.LENGTH,
        least=0.0,
        most=50.0,
        why="more than a stone is high; check the unit",
        shown=SET_UP,
        default=0.0,
    )
    hangs_mm: float = told(
        "hangs below the stone", Unit.LENGTH, least=0.0, most=100.0, why="more than clips or guides hang", shown=SET_UP, default=0.0
    )  # fmt: skip
    bedded: bool | None = flag("bedded in", SET_UP, default=True)


@frozen(kw_only=True)
class HoneRun:
    """How the hone goes: each machine has only the figures it has (None: it has none of that, or nobody said).

    load: per cent of the machine (vertical), the dial's figure (manual). Overstroke and dwell only where they are set.
    """

    machine: Machine = told("hone", Unit.CHOICE, choices=("vertical", "manual", "drill", "ball"), shown=SET_UP)
    rpm: float = told("turns a minute", Unit.TURNS, above=0.0, most=FASTEST_RPM, why="no speed of a hone", shown=SET_UP)
    strokes_per_min: float | None = told(
        "double strokes a minute",
        Unit.RATE,
        least=1.0,
        most=FASTEST_STROKES,
        why="no rate of a hone",
        shown=SET_UP,
        default=None,
    )
    over_top_mm: float | None = told("out at the top", Unit.LENGTH, shown=SET_UP, default=None)
    over_bottom_mm: float | None = told("out at the bottom", Unit.LENGTH, shown=SET_UP, default=None)
    dwell_top_s: float = told(
        "dwell at the top", Unit.SECONDS, least=0.0, most=LONGEST_DWELL_S, why=DWELL_WHY, shown=SET_UP, default=0.0
    )
    dwell_bottom_s: float = told(
        "dwell at the bottom", Unit.SECONDS, least=0.0, most=LONGEST_DWELL_S, why=DWELL_WHY, shown=SET_UP, default=0.0
    )
    load: float | None = told(
        "load", Unit.LOAD, above=0.0, most=1e6, why="no load of a hone", shown=SET_UP, default=None
    )

    @property
    def waits_share(self) -> float:
        """How much longer a double stroke takes by its dwell, 1 without."""
        return 1.0 + (self.dwell_top_s + self.dwell_bottom_s) * (self.strokes_per_min or 0.0) / 60.0

    @property
    def turns_a_stroke(self) -> float | None:
        """Turns of the stones in a double stroke, dwell counted; None where the pace is not known."""
        return None if not self.strokes_per_min else self.rpm / self.strokes_per_min * self.waits_share


@frozen(kw_only=True)
class Angle:
    """The crosshatch that is wanted, included; ``quoted`` as it was said, included or from the horizontal."""

    included_deg: float = told(
        "crosshatch, included",
        Unit.ANGLE,
        least=5.0,
        most=120.0,
        why="no crosshatch; 20 to 50° included is usual",
        shown=SET_UP,
    )
    quoted: Literal["included", "horizontal"] = told(
        "quoted", Unit.CHOICE, choices=("included", "horizontal"), shown=SET_UP, default="included"
    )


@frozen(kw_only=True)
class HoningWay:
    """A honing practice of the shop's own: its steps, how far short of the redline each ends, the stones of each."""

    steps: tuple[str, ...] = words("steps", STEPS, many=1)
    short_mm: tuple[float, ...] = told(
        "short of the redline",
        Unit.LENGTH,
        least=0.0,
        most=0.5,
        why="too far short of the redline for a step",
        many=1,
        shown=STEPS,
    )
    stones: tuple[str, ...] = words("stones", STEPS, many=1)


@frozen
class Check(TwoAngles):
    """A hone check: double strokes in its step, sizes top to bottom and at a second angle at 20 C, block temperature, torque plate
    and the hone's load then. bedded: None where nobody said which stones were in. turns: of the stones in a double stroke, dwell counted."""

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
    across_mm: tuple[float, ...] = ()
    bedded: bool | None = None
    turns: float | None = None


@frozen
class Compensation:
    """What the machine says it has taken on diameter in a step, mm."""

    seq: int
    cylinder: int
    step: int
    taken_mm: float


@frozen
class LoadByDepth:
    """Mean load by depth over so many double strokes."""

    seq: int
    cylinder: int
    depths_mm: tuple[float, ...]
    loads: tuple[float, ...]
    strokes: float


@frozen
class Honing:
    """The slice of the hone step. ``steps``: pairs of cylinder and the step it is in."""

    steps: tuple[tuple[int, int], ...] = ()
    checks: Rows[Check] = Rows()
    stones: Stones | None = None
    run: HoneRun | None = None
    run_since: int = 0  # entry of that set-up: checks after it were honed with it
    fresh: tuple[int, ...] = ()  # entries since which the stones cut afresh: dressed, or others in the pack
    angle: Angle | None = None
    own: HoningWay | None = None
    compensations: tuple[Compensation, ...] = ()
    loads: tuple[LoadByDepth, ...] = ()

    def fresh_between(self, after: int, before: int) -> bool:
        """Whether the stones were dressed or changed between two entries."""
        return any(after < seq < before for seq in self.fresh)

    def step_of(self, cylinder: int) -> int:
        """The step of its honing practice that a cylinder is in, from 0."""
        return dict(self.steps).get(cylinder, 0)

    def checks_of(self, cylinder: int, step: int | None = None) -> tuple[Check, ...]:
        """The checks of a cylinder, oldest first; step None: of every step."""
        return tuple(c for c in self.checks if c.cylinder == cylinder and step in (None, c.step))
