"""What was read of the walls: plan, gauge, readings, sweeps, defects, walls, photos. Sizes in mm at 20 C unless the name says not."""

from __future__ import annotations

from redline_bore.core.frozen import frozen
from redline_bore.core.gauging import LevelPlan
from redline_bore.core.thermal import GaugeSetting
from redline_bore.job.state.readings import TWO_POINT, OfCylinder, Readings
from redline_bore.job.state.rows import Rows


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
    """The spindle over a cylinder, and what it is squared to."""

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
        """How far the zero drifted at the most, mm; None while nobody looked."""
        return None if self.end_off_mm is None else max(abs(self.start_off_mm), abs(self.end_off_mm))


@frozen
class Photo:
    """A picture that belongs to entry ``of_seq``."""

    seq: int
    of_seq: int
    name: str
    media: str
    sha256: str


@frozen
class RingGap:
    """The end gap of a ring pushed down square, mm."""

    cylinder: int
    depth_mm: float
    gap_mm: float


RECEIVER = "receiver"  # a groove cut on purpose for a sealing ring, above ring travel: never metal to cut out
TIGHT, LEAKS = "tight", "leaks"  # what a pressure test says
LINER, BOTH = "liner", "both"  # what a reading of the wall went through


@frozen
class Defect:
    """A defect on the wall; its depth on radius is an interval until it is measured."""

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
    accepted: str = ""  # why the owner lets it stay where nothing is cut; empty: nobody accepted it
    tested: str = ""  # of a crack or a weld, what the pressure test said: tight, or leaks; empty: nobody tested it

    @property
    def measured(self) -> bool:
        """Whether its depth was measured, not felt."""
        return self.deep_low_mm == self.deep_high_mm

    @property
    def is_crack(self) -> bool:
        """No size cleans a crack up; what lies behind a weld nobody knows: both are pressure-tested."""
        return self.what.startswith(("crack", "weld"))

    @property
    def stops(self) -> bool:
        """A crack or a weld that no pressure test found tight: no metal is taken."""
        return self.is_crack and self.tested != TIGHT

    @property
    def is_cut_out(self) -> bool:
        """Whether a cut is to reach under it: not of a crack, nor of a receiver groove, which is meant."""
        return not self.is_crack and self.what != RECEIVER


@frozen
class WallReading:
    """Wall thickness as read, mm; ``zone`` thrust or elsewhere; ``through``: the liner alone, liner and parent both, or "" where nobody
    said, or there is no liner."""

    cylinder: int
    clock_deg: float
    depth_mm: float
    wall_mm: float
    zone: str
    seq: int = 0
    through: str = ""


@frozen
class Gauging:
    """The slice of the gauge step; ``zero``: how the gauge was zeroed last."""

    plan: LevelPlan
    own_plans: tuple[LevelPlan, ...] = ()
    zero: GaugeSetting | None = None
    gauge_kind: str = TWO_POINT
    zero_spans: tuple[ZeroSpan, ...] = ()
    readings: Readings = Readings()
    three_points: Readings = Readings()
    spindle: SpindleSetUp | None = None
    sweeps: Rows[Sweep] = Rows()
    ring_gaps: tuple[RingGap, ...] = ()
    defects: tuple[Defect, ...] = ()
    wall_readings: Rows[WallReading] = Rows()
    photos: tuple[Photo, ...] = ()

    def readings_of(self, cylinder: int, plate_on: bool | None = None) -> OfCylinder:
        """Two-point readings of a cylinder; plate_on None: with the plate and without."""
        return self.readings.of(cylinder, plate_on)

    def three_points_of(self, cylinder: int, plate_on: bool | None = None) -> OfCylinder:
        """Three-point readings of a cylinder."""
        return self.three_points.of(cylinder, plate_on)

    def sweeps_of(self, cylinder: int, plate_on: bool | None = None) -> tuple[Sweep, ...]:
        """Sweeps of a cylinder's last spindle set-up: only those share an axis."""
        own = [s for s in self.sweeps if s.cylinder == cylinder and plate_on in (None, s.plate_on)]
        return tuple(s for s in own if s.set_up == own[-1].set_up)

    def zero_span(self, seq: int) -> ZeroSpan | None:
        """The stretch between looks at the master that an entry lies in; None before the gauge was first zeroed."""
        return next((z for z in reversed(self.zero_spans) if z.start_seq <= seq), None)

    def photos_of(self, seq: int) -> tuple[Photo, ...]:
        """The pictures of an entry."""
        return tuple(p for p in self.photos if p.of_seq == seq)

    def defects_of(self, cylinder: int) -> tuple[Defect, ...]:
        """The defects marked in a cylinder."""
        return tuple(d for d in self.defects if d.cylinder == cylinder)
