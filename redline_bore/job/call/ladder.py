"""The size ladder: what each cylinder needs and allows, and what a call does with it."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from enum import Enum, StrEnum, auto

from redline_bore.core.cleanup import CleanUp, Verdict
from redline_bore.core.frozen import frozen, replace
from redline_bore.job.call.finish_sizes import FinishSize, finish_size_at
from redline_bore.job.call.need import Need, need_of
from redline_bore.job.call.walls import WallBound, wall_bound
from redline_bore.job.gauge.analysis import CylinderShape, Spot, shape_of
from redline_bore.job.gauge.doubt import reading_doubt
from redline_bore.job.gauge.extremes import extremes_of
from redline_bore.job.profiles.practice import practice
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.calling import Apart, BasedOn
from redline_bore.job.state.hole import cut_mm
from redline_bore.job.state.job_state import JobState

PAST_MM = 0.05  # of its end: no hone goes so far past
NOT_TOUCHED_MM = 0.02  # a hole so much smaller than it was read was not touched all over, whoever looked
LEAST_FOR_LOBES = 5  # angles at a level, from which four lobes are told from an oval
NOISE_RANGE = 4.0  # of a level of six angles the noise alone spreads the fit by so many sd, in all but one in a hundred
QUICK_DOES = ("deglaze", "rering")  # what a quick gauging is enough for: no size is cut


class Worn(Enum):
    """How a cylinder is worn, as one says it of the whole hole."""

    NOT_GAUGED = auto()
    BY_DEFECT = auto()  # a flaw decides, not the wear
    NO_UNWORN_PLACE = auto()
    ROUND = auto()
    THRUST = auto()
    PIN_AXIS = auto()
    ASKEW = auto()


@frozen
class Column:
    """One cylinder on the ladder. cleanup None: not known, and ``reason`` says why. ends: where it would finish at each rung and at the
    common size looked at."""

    cylinder: int
    shape: CylinderShape
    cleanup: CleanUp | None
    walls: WallBound
    reason: str
    need: Need
    worn: Worn
    cracked: bool = False  # or welded, and no pressure test found it tight
    untested: bool = False  # and none was made
    cut_mm: float | None = None  # what a bar or a hone made of it since, mean

    @property
    def ceiling_mm(self) -> float | None:
        """Largest bore that surely leaves the wall its limits, mm; where it was not read all round, the one at which it is given up."""
        return self.walls.most_mm if self.walls.sure_mm is None else self.walls.sure_mm

    @property
    def unread(self) -> bool:
        """Whether the wall is still to be read somewhere, or what was read is not known."""
        return not self.walls.complete

    def verdict(self, end: FinishSize) -> Verdict | None:
        """What a cut does that finishes there."""
        if self.cut_larger(end):
            return Verdict.WILL_NOT
        return self.cleanup.verdict(end.least_mm, end.most_mm) if self.cleanup else None

    def cut_larger(self, end: FinishSize) -> bool:
        """It is larger than that already, by more than any hone goes past."""
        return self.cut_mm is not None and self.cut_mm > end.most_mm + PAST_MM

    def too_thin(self, end: FinishSize) -> bool:
        """A place of the wall is under its limit there, whatever the doubt."""
        return self.walls.too_thin(end.least_mm)

    def wall_stands(self, end: FinishSize) -> bool:
        """Every place of the wall surely keeps its limit there."""
        return self.walls.surely_stands(end.most_mm)


class FateWay(StrEnum):
    """How a cylinder is done: at the common size, at its own, or sleeved."""

    COMMON = "common"
    OWN = "own"
    SLEEVE = "sleeve"


class Fares(StrEnum):
    """How a cylinder fares under a call. The words stand in ledgers since 0.3: they are kept."""

    CRACKED = "cracked"  # or welded, and not pressure-tested tight
    SLEEVED = "sleeved"
    TOO_THIN = "wall too thin"
    NOT_KNOWN = "not known"
    CLEANS_UP = str(Verdict.CLEANS_UP)
    MAY_SHADOW = str(Verdict.MAY_SHADOW)
    WILL_NOT = str(Verdict.WILL_NOT)


@frozen(often=True)
class Fate:
    """What a call does with one cylinder: to which size in name (mm over nominal), where it ends, how, and whether that cleans it up.

    wall_stands: every place of the wall surely keeps its limit.
    """

    column: Column
    oversize_mm: float
    end: FinishSize
    way: FateWay
    verdict: Verdict | None
    too_thin: bool
    wall_stands: bool

    @property
    def cylinder(self) -> int:
        """The cylinder."""
        return self.column.cylinder

    @property
    def sleeved(self) -> bool:
        """It is sleeved, so what its old wall needs is no matter."""
        return self.way is FateWay.SLEEVE

    @property
    def cut_larger(self) -> bool:
        """A bar or a hone made it larger than that already."""
        return not self.sleeved and self.column.cut_larger(self.end)

    @property
    def common(self) -> bool:
        """It goes to the common size."""
        return self.way is FateWay.COMMON

    @property
    def sound(self) -> bool:
        """It surely comes out: a new sleeve does, else it surely cleans up and is not known to be too thin."""
        return self.sleeved or (self.verdict is Verdict.CLEANS_UP and not self.too_thin and not self.column.cracked)

    @property
    def sure(self) -> bool:
        """It surely comes out, and its wall surely stands."""
        return self.sleeved or (self.sound and self.wall_stands)

    @property
    def fails(self) -> bool:
        """It is known not to come out."""
        return not self.sleeved and (self.verdict is Verdict.WILL_NOT or self.too_thin or self.column.cracked)

    @property
    def fares(self) -> Fares:
        """What it comes to: its wall counts before its clean-up, a new sleeve before both."""
        if self.sleeved:
            return Fares.SLEEVED
        if self.column.cracked:
            return Fares.CRACKED
        if self.too_thin:
            return Fares.TOO_THIN
        return Fares.NOT_KNOWN if self.verdict is None else Fares(self.verdict)


@frozen
class Ladder:
    """All cylinders side by side over the rungs (steps over nominal, mm) that pistons exist for."""

    nominal_mm: float
    rungs_mm: tuple[float, ...]
    columns: tuple[Column, ...]
    ends: Callable[[int, float], FinishSize]

    @property
    def unknown(self) -> list[int]:
        return [c.cylinder for c in self.columns if c.cleanup is None]

    def fates(self, oversize_mm: float, apart: Sequence[Apart] = ()) -> tuple[Fate, ...]:
        """What a call at a common rung, with some cylinders apart, does with each cylinder."""
        left = {a.cylinder: a for a in apart}
        return tuple(self._fate(column, oversize_mm, left.get(column.cylinder)) for column in self.columns)

    def _fate(self, column: Column, oversize_mm: float, apart: Apart | None) -> Fate:
        way = FateWay.COMMON if apart is None else FateWay(apart.way)
        own = oversize_mm if apart is None or apart.oversize_mm is None else apart.oversize_mm
        end = self.ends(column.cylinder, own)
        return Fate(column, own, end, way, column.verdict(end), column.too_thin(end), column.wall_stands(end))

    def but_for_cracks(self) -> Ladder:
        """The ladder as it would be with every crack tight: what size is talked about does not hang on that."""
        if not any(c.cracked for c in self.columns):
            return self
        return replace(self, columns=tuple(replace(c, cracked=False, untested=False) for c in self.columns))

    def where(self, oversize_mm: float, verdict: Verdict) -> list[int]:
        return [f.cylinder for f in self.fates(oversize_mm) if f.verdict is verdict]

    def thin(self, oversize_mm: float) -> list[int]:
        return [f.cylinder for f in self.fates(oversize_mm) if f.too_thin]

    def sure(self, oversize_mm: float, apart: Sequence[Apart] = ()) -> bool:
        """Every cylinder surely comes out."""
        return all(f.sound for f in self.fates(oversize_mm, apart))

    def possible(self, oversize_mm: float, apart: Sequence[Apart] = ()) -> bool:
        """No cylinder is known to fail, and all that are not sleeved are known."""
        fates = self.fates(oversize_mm, apart)
        return not any(f.fails or (not f.sleeved and f.verdict is None) for f in fates)

    def least_mm(self, oversize_mm: float) -> float:
        """The smallest size at which any cylinder ends at a rung, mm."""
        return min(f.end.least_mm for f in self.fates(oversize_mm))

    @property
    def smallest_sure(self) -> float | None:
        return next((r for r in self.rungs_mm if self.sure(r)), None)

    @property
    def smallest_possible(self) -> float | None:
        return next((r for r in self.rungs_mm if self.possible(r)), None)

    def smallest_sure_without(self, cylinder: int) -> float | None:
        """The smallest rung that surely does for all the others."""
        away = (Apart(cylinder=cylinder, way="sleeve"),)
        return next((r for r in self.rungs_mm if self.sure(r, away)), None)

    @property
    def worst(self) -> Column | None:
        """The cylinder that needs most."""
        known = [c for c in self.columns if c.cleanup is not None]
        return max(known, key=lambda c: c.cleanup.high_mm if c.cleanup else 0.0, default=None)


@once_a_state
def ladder_of(state: JobState) -> Ladder:
    """The size ladder of a job."""
    return Ladder(
        state.block.bore_mm,
        tuple(sorted(state.book_in.oversizes_mm)),
        tuple(_column(state, cylinder) for cylinder in state.cylinders),
        lambda cylinder, oversize_mm: finish_size_at(state, cylinder, round(oversize_mm, 6)),
    )


def _column(state: JobState, cylinder: int) -> Column:
    need, stops = need_of(state, cylinder), [d for d in state.gauging.defects_of(cylinder) if d.stops]
    return Column(
        cylinder, need.shape, seen(state, cylinder, need.cleanup, need.shape.largest), wall_bound(state, cylinder), need.reason, need,
        worn_how(need.shape), bool(stops), any(not d.tested for d in stops), cut_mm(state, cylinder),
    )  # fmt: skip


def seen(state: JobState, cylinder: int, cleanup: CleanUp | None, largest: Spot | None) -> CleanUp | None:
    """What looks into the bored hole leave of what it may need: clean at a size is enough, whatever was reckoned of it, but for a size under the
    ``largest`` that was read, which no tool can have touched all over. A dark patch is no verdict: it says that the hole needs more than it
    was bored to, and once it was gauged across and beside, how much."""
    looks = [look for look in state.boring.looks if look.cylinder == cylinder]
    if cleanup is None or not looks:
        return cleanup
    low, high, is_bound = cleanup.low_mm, cleanup.high_mm, cleanup.is_bound
    read = 0.0 if largest is None else largest.size_mm
    clean = [look.size_mm for look in looks if look.clean and look.size_mm > read - NOT_TOUCHED_MM]
    if clean:
        high, is_bound = min(high, *clean) if is_bound else min(clean), True
    shadows = [look for look in looks if not look.clean]
    if shadows and not clean:
        here, doubt = (
            [k for k in shadows if k.size_mm == shadows[-1].size_mm],
            state.figures.number("cleanup.patch_doubt"),
        )
        low = max(low, here[0].size_mm)
        if gauged := [k.deep_mm for k in here if k.deep_mm is not None]:  # the deepest of them decides
            need = here[0].size_mm + 2.0 * max(gauged)
            low, high, is_bound = max(low, need - doubt), max(high, need + doubt), False
    low, high = (min(low, high), high) if clean else (low, max(low, high))
    return replace(cleanup, low_mm=low, usual_mm=min(max(cleanup.usual_mm, low), high), high_mm=high, is_bound=is_bound)


def hone_takes(state: JobState) -> tuple[float, float]:
    """What the bar leaves for the hone where no sleeve is, least and most, mm on diameter: as stated on this job, else by the practice."""
    if state.boring.allowance_mm is not None:
        return state.boring.allowance_mm
    low, high = state.figures.row(practice("hone_allowance", state.booking.practice("hone_allowance")).figures)
    return low, high


def worn_how(shape: CylinderShape) -> Worn:
    """How a cylinder is worn, by the long axis where it is worn most, else where it has one first."""
    if not shape.levels:
        return Worn.NOT_GAUGED
    if shape.deciding_defect is not None:
        return Worn.BY_DEFECT
    if shape.wear is None:
        return Worn.NO_UNWORN_PLACE
    axis = next((v.fit.long_axis_deg for v in shape.levels if v.fit.long_axis_deg is not None), None)
    worst = shape.worst_level
    if worst is not None and worst.fit.long_axis_deg is not None:
        axis = worst.fit.long_axis_deg
    if axis is None:
        return Worn.ROUND
    return Worn.THRUST if 60.0 <= axis <= 120.0 else Worn.PIN_AXIS if not 30.0 < axis < 150.0 else Worn.ASKEW


def based_on(ladder: Ladder, oversize_mm: float, apart: Sequence[Apart]) -> tuple[BasedOn, ...]:
    """What each cylinder needs and allows now, to be kept with a decision."""
    return tuple(
        BasedOn(
            cylinder=f.cylinder, verdict=f.fares, low_mm=f.column.cleanup.low_mm if f.column.cleanup else None,
            high_mm=f.column.cleanup.high_mm if f.column.cleanup else None, ceiling_mm=f.column.ceiling_mm,
        )
        for f in ladder.fates(oversize_mm, apart)
    )  # fmt: skip


class OutOfLimits(Enum):
    """What puts a cylinder outside a set of limits, or keeps it from being held against them."""

    MARKED = auto()  # with a defect that more than shows
    OUT_OF_ROUND = auto()
    WORN = auto()
    NOT_STRAIGHT = auto()
    NOT_GAUGED = auto()
    MAY_HIDE_OVAL = auto()
    TOO_FEW_DEPTHS = auto()


@frozen
class AgainstLimits:
    """inside: True, False, or None while it is not known; then ``why``, and of which cylinder."""

    inside: bool | None
    why: OutOfLimits | None = None
    cylinder: int = 0


def within_limits(state: JobState, kind: str = "rering") -> bool:
    """Every cylinder is gauged, known, without defects, and inside a set of limits on the hole."""
    return against_limits(state, kind).inside is True


@once_a_state
def against_limits(state: JobState, kind: str) -> AgainstLimits:
    """Whether every cylinder is inside a set of limits. kind: everyday (nothing to do), deglaze, or rering."""
    limit = {key: state.figures.number(f"limits.{kind}_{key}") for key in ("out_of_round", "taper", "bulge")}
    for cylinder in state.cylinders:
        if (outside := _outside(state, cylinder, kind, limit)) is not None:
            return AgainstLimits(False, outside, cylinder)
    for cylinder in state.cylinders:
        if (unknown := _unknown(state, cylinder, kind)) is not None:
            return AgainstLimits(None, unknown, cylinder)
    return AgainstLimits(True)


def _outside(state: JobState, cylinder: int, kind: str, limit: dict[str, float]) -> OutOfLimits | None:
    """What puts a cylinder outside its limits, as far as it is known."""
    shape = shape_of(state, cylinder)
    if _marked_deep(state, cylinder, kind):
        return OutOfLimits.MARKED
    ends = extremes_of(state, cylinder, shape.plate_on)
    oval = ends.oval or ends.two_directions
    if oval is not None and oval.middle_mm > limit["out_of_round"] or _lobed(state, shape) > limit["out_of_round"]:
        return OutOfLimits.OUT_OF_ROUND
    if shape.wear is not None and shape.wear.largest_reading_mm > limit["taper"]:
        return OutOfLimits.WORN
    axial = shape.axial
    bulged = axial is not None and axial.bulge_mm is not None and abs(axial.bulge_mm) > limit["bulge"]
    if bulged or axial is not None and abs(axial.taper_mm) > limit["taper"]:
        return OutOfLimits.NOT_STRAIGHT
    return None


def _lobed(state: JobState, shape: CylinderShape) -> float:
    """How far the worst level is out of round over every harmonic that its angles carry, the gauge's noise taken off, mm on diameter: four lobes,
    that a plate with four fasteners makes, are no oval. Source: methods 3."""
    own = reading_doubt(state).own_mm
    whole = [v.fit.out_of_round_whole_fit_mm for v in shape.levels if v.fit.distinct_chords >= LEAST_FOR_LOBES]
    seen = [w - NOISE_RANGE * own for w in whole if w is not None]
    return max(seen, default=0.0)


def _unknown(state: JobState, cylinder: int, kind: str) -> OutOfLimits | None:
    """What is not known yet of a cylinder that no limit can be held against. A quick gauging will do for what cuts no size."""
    shape = shape_of(state, cylinder)
    if not shape.levels or shape.wear is None or shape.axial is None:
        return OutOfLimits.NOT_GAUGED
    if kind in QUICK_DOES:
        return None
    if any(v.fit.oval_may_hide for v in shape.levels):
        return OutOfLimits.MAY_HIDE_OVAL
    return OutOfLimits.TOO_FEW_DEPTHS if shape.axial.bulge_mm is None else None


def _marked_deep(state: JobState, cylinder: int, kind: str) -> bool:
    """A defect that more than shows: what can just be felt may stay in a hole that is not cut anyway."""
    allowed = 0.0 if kind == "everyday" else state.figures.row("cleanup.can_feel")[1]
    stays = kind in QUICK_DOES  # where nothing is cut a flaw may stay, once it is accepted by name
    return any(
        d.stops or (d.deep_high_mm > allowed + 1e-9 and not (stays and d.accepted))
        for d in state.gauging.defects_of(cylinder)
    )
