"""The entries of gauging: plan, zero and master, temperature, readings, spindle and sweeps, ring gaps.

Lengths in mm, temperatures in C, angles in degrees from the front, clockwise from above. A size is what was read, at the part's own
temperature; the fold takes it to 20 C.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import Literal, cast

from redline_bore.core.errors import FormError, InputError
from redline_bore.core.frozen import changed, frozen
from redline_bore.core.gauging import LevelPlan, checked_plan
from redline_bore.core.lengths import parse_length, with_unit
from redline_bore.core.show import Show
from redline_bore.core.thermal import GaugeSetting, gauge_size_at_part, master_drift
from redline_bore.core.told import Unit, told
from redline_bore.job.kinds.entry import Entry, Record
from redline_bore.job.kinds.folding import Folding
from redline_bore.job.kinds.kind import ANY_STEP, Into, Wrong, declare
from redline_bore.job.kinds.measures import behind, bore_size, clock, depth, plain, temperature
from redline_bore.job.kinds.phrase import ANYWHERE, At, Phrase, Where
from redline_bore.job.kinds.plans import STANDARD_PLANS, standard_plan
from redline_bore.job.kinds.topics import Topic
from redline_bore.job.state import fields
from redline_bore.job.state.booking import Booking
from redline_bore.job.state.clamped import Clamped
from redline_bore.job.state.gauging import Gauging, RingGap, SpindleSetUp, Sweep, ZeroSpan
from redline_bore.job.state.job_state import JobState
from redline_bore.job.state.readings import TWO_POINT, Reading

READINGS, SLICE = "gauge/readings", "gauge/slice"
GAUGE = ("gauge",)
_WARM = r"(?:\s+(?P<warm>-?[\d.,]+\s*°?\s*[cf]))?"
_ZERO = r"(?:(?P<gauge>two-point|three-point)\s+)?(?P<size>\S+?)" + _WARM
_DIAL = r"(?P<depth>\S+?):?\s+(?P<values>.+)"
LEAST_ROUND, MOST_DIAL_MM = 8, 5.0
_MASTER = r"(?P<read>[+\-−]?\S+?)" + _WARM


def plate_words(on: bool) -> str:
    """Plate on, plate off."""
    return "plate on" if on else "plate off"


# -- the plan ----------------------------------------------------------------------------------------------------------


@frozen(kw_only=True)
class PlanChosen(Entry):
    """The depths and clock angles that are read from now on, by name."""

    name: str = fields.words("plan", READINGS)
    depths_mm: tuple[float, ...] = fields.depth("depths", READINGS, many=2)
    clocks_deg: tuple[float, ...] = fields.clock("clock angles", READINGS, many=2)
    kind: Literal["plan_chosen"] = "plan_chosen"


def _plan_folded(s: Gauging, x: PlanChosen, on: Folding) -> Gauging:
    plan = LevelPlan(x.name, x.depths_mm, x.clocks_deg)
    if plan.name in STANDARD_PLANS:
        return changed(s, plan=plan)
    return changed(s, plan=plan, own_plans=(*(p for p in s.own_plans if p.name != plan.name), plan))


def _chosen(plan: LevelPlan) -> tuple[Entry, ...]:
    return (PlanChosen(name=plan.name, depths_mm=plan.depths_mm, clocks_deg=plan.clocks_deg),)


def _plan(text: str, at: At) -> tuple[Entry, ...]:
    rest, state = behind(text), at.state
    own = next((p for p in state.gauging.own_plans if p.name == rest), None)
    if own is not None:
        return _chosen(own)
    if rest.lower() not in STANDARD_PLANS:
        names = ", ".join((*STANDARD_PLANS, *(p.name for p in state.gauging.own_plans)))
        raise InputError(f"“plan {rest}” is not known here: {names}; or a new one, levels 10 24 60 as tall")
    return _chosen(standard_plan(state.book_in, state.figures, rest.lower()))


def _levels(text: str, at: At) -> tuple[Entry, ...]:
    figures, name = _named(behind(text))
    depths = tuple(depth(word, at.state, at.where) for word in figures)
    plan = LevelPlan(name, depths, at.state.gauging.plan.clocks_deg)
    return _chosen(checked_plan(_few(plan), at.state.block.length_mm))


def _clocks(text: str, at: At) -> tuple[Entry, ...]:
    figures, name = _named(behind(text))
    plan = LevelPlan(name, at.state.gauging.plan.depths_mm, tuple(clock(word) for word in figures))
    return _chosen(checked_plan(_few(plan), at.state.block.length_mm))


def _few(plan: LevelPlan) -> LevelPlan:
    if not 2 <= len(plan.depths_mm) <= 20 or not 2 <= len(plan.clocks_deg) <= 36:
        raise InputError("A plan has 2 to 20 levels and 2 to 36 angles")
    return plan


def _named(rest: str) -> tuple[list[str], str]:
    figures, _, name = rest.partition(" as ")
    return figures.split(), name.strip() or "own"


def _levels_example(at: At) -> str:
    say, hole = at.show.rough, at.state.block.length_mm
    return f"levels {' '.join(say(share * hole) for share in (0.1, 0.3, 0.6, 0.9))} as tall"


declare(
    PlanChosen, Topic.PLAN, "gauge",
    lambda x, s: f"plan {x.name}: {len(x.depths_mm)} levels by {len(x.clocks_deg)} angles",
    into=(Into("gauging", _plan_folded),),
    phrases=(
        Phrase(GAUGE, ("plan",), "plan NAME", "quick, full or race, or one of your own by its name", lambda at: "plan race", _plan,
               lambda at: {"NAME": (*STANDARD_PLANS, *(p.name for p in at.state.gauging.own_plans))}),
        Phrase(GAUGE, ("levels",), "levels DEPTH ... [as NAME]", "a plan of your own by its depths; its name brings it back on other jobs", _levels_example, _levels),
        Phrase(GAUGE, ("clocks",), "clocks ANGLE ... [as NAME]", "the clock angles of your own plan", lambda at: "clocks 0 45 90 135", _clocks),
    ),
)  # fmt: skip


# -- zero and master ---------------------------------------------------------------------------------------------------


@frozen(kw_only=True)
class GaugeSet(Entry):
    """The gauge was zeroed on a master of ``master_20_mm`` at 20 C. ``gauge``: two-point or three-point."""

    master_20_mm: float = fields.size("master", READINGS)
    master_c: float = fields.warmth("master's temperature", READINGS)
    master_1e6: float = told(
        "master's expansion",
        Unit.EXPANSION,
        least=0.0,
        most=40.0,
        why="no expansion of a master, millionths a degree",
        shown=READINGS,
        default=11.5,
    )
    gauge_c: float | None = fields.warmth("gauge's temperature", READINGS, default=None)
    gauge_1e6: float | None = told("gauge's expansion", Unit.EXPANSION, shown=READINGS, default=None)
    gauge: str = told("gauge", Unit.CHOICE, choices=("two-point", "three-point"), shown=READINGS, default=TWO_POINT)
    kind: Literal["gauge_set"] = "gauge_set"  # fmt: skip


@frozen(kw_only=True)
class MasterChecked(Entry):
    """The gauge was put on its master again and read ``from_zero_mm``: it bounds the drift since it was zeroed."""

    from_zero_mm: float = told("reads from zero", Unit.LENGTH, shown=READINGS)
    master_c: float | None = fields.warmth("master's temperature", READINGS, default=None)
    gauge_c: float | None = fields.warmth("gauge's temperature", READINGS, default=None)
    kind: Literal["master_checked"] = "master_checked"


def _zeroed(s: Gauging, x: GaugeSet, on: Folding) -> Gauging:
    zero = GaugeSetting(x.master_20_mm, x.master_1e6, x.master_c, x.gauge_1e6, x.gauge_c)
    return changed(s, zero=zero, gauge_kind=x.gauge, zero_spans=(*s.zero_spans, ZeroSpan(on.record.seq, 0.0)))


def _looked_at_master(s: Gauging, x: MasterChecked, on: Folding) -> Gauging:
    if s.zero is None or not s.zero_spans:
        return s  # a check without a zero bounds nothing
    off, last = master_drift(s.zero, x.from_zero_mm, x.master_c, x.gauge_c), s.zero_spans[-1]
    over = ZeroSpan(last.start_seq, last.start_off_mm, on.record.seq, off)
    return changed(s, zero_spans=(*s.zero_spans[:-1], over, ZeroSpan(on.record.seq, off)))


def _zero(text: str, at: At) -> tuple[Entry, ...]:
    found = re.fullmatch(_ZERO, behind(text), re.IGNORECASE)
    if found is None:
        raise FormError("Zeroing is the master's size, and its temperature if it is known")
    warm = temperature(found["warm"]) if found["warm"] else None
    steel = at.state.figures.number("thermal.steel")
    return (
        GaugeSet(
            master_20_mm=bore_size(found["size"], at.state, at.where), master_c=20.0 if warm is None else warm, master_1e6=steel,
            gauge_1e6=steel, gauge_c=warm, gauge=(found["gauge"] or at.state.gauging.gauge_kind).lower(),
        ),
    )  # fmt: skip


def _master(text: str, at: At) -> tuple[Entry, ...]:
    if at.state.gauging.zero is None:
        raise InputError(
            f"There is no zero to check: “zero {at.show.size(at.state.block.bore_mm)} {at.show.warm_typed(20.4)}” books the master it was set on"
        )
    found = re.fullmatch(_MASTER, behind(text), re.IGNORECASE)
    if found is None:
        raise FormError("A check is what the gauge reads on its master")
    off = parse_length(found["read"], at.where.units).mm
    if abs(off) > 0.02 * at.state.block.bore_mm:
        raise FormError(f"{found['read']} from zero on its own master? The distance from zero is typed")
    warm = temperature(found["warm"]) if found["warm"] else None
    return (MasterChecked(from_zero_mm=off, master_c=warm, gauge_c=warm),)


declare(
    GaugeSet, Topic.GAUGE, "gauge", lambda x, s: f"{x.gauge} gauge zeroed on {s.size(x.master_20_mm)} at {s.warm(x.master_c)}",
    into=(Into("gauging", _zeroed),),
    phrases=(
        Phrase(GAUGE, ("zero",), "zero [three-point] SIZE [TEMPERATURE]", "the gauge was zeroed on a master of that size",
               lambda at: f"zero {at.show.size(at.state.block.bore_mm)} {at.show.warm_typed(20.4)}", _zero),
    ),
)  # fmt: skip
declare(
    MasterChecked, Topic.GAUGE, "gauge", lambda x, s: f"gauge reads {s.fine(x.from_zero_mm)} from zero on its master",
    into=(Into("gauging", _looked_at_master),),
    phrases=(
        Phrase(GAUGE, ("master",), "master FROM-ZERO [TEMPERATURE]", "back on the master: what it reads there",
               lambda at: f"master {at.show.away(0.001)} {at.show.warm_typed(20.6)}", _master),
    ),
)  # fmt: skip


# -- temperature -------------------------------------------------------------------------------------------------------


@frozen(kw_only=True)
class BlockTemperature(Entry):
    """The block was found at this temperature; readings from now on are taken at it."""

    block_c: float = fields.warmth("block temperature", "frame/strip")
    kind: Literal["block_temperature"] = "block_temperature"


def _warmed(s: Clamped, x: BlockTemperature, on: Folding) -> Clamped:
    return changed(s, block_c=x.block_c)


def _warm(text: str, at: At) -> tuple[Entry, ...]:
    warm = temperature(text)
    if warm is None:
        raise InputError(f"Only a block temperature is typed here, like {at.show.warm_typed(22.9)}")
    return (BlockTemperature(block_c=round(warm, 2)),)


TEMPERATURE = Phrase(
    ANYWHERE, (), "TEMPERATURE", "the block's temperature, with C or F", lambda at: at.show.warm_typed(22.9), _warm
)
declare(
    BlockTemperature, Topic.TEMPERATURE, ANY_STEP, lambda x, s: f"block at {s.warm(x.block_c)}",
    into=(Into("clamped", _warmed),), phrases=(TEMPERATURE,),
)  # fmt: skip


# -- readings ----------------------------------------------------------------------------------------------------------


@frozen(kw_only=True, often=True)
class ReadingBooked(Entry):
    """A diameter at the block's own temperature, by a two-point or a three-point gauge (``clock_deg``: its first leg).

    gauge_c: temperature of the gauge's body, None when not known.
    """

    cylinder: int = fields.cylinder(READINGS)
    depth_mm: float = fields.depth(shown=READINGS)
    clock_deg: float = fields.clock(shown=READINGS)
    diameter_mm: float = fields.size("reading", READINGS)
    plate_on: bool = fields.flag("plate on", READINGS)
    gauge: str = told("gauge", Unit.CHOICE, choices=("two-point", "three-point"), shown=READINGS, default=TWO_POINT)
    gauge_c: float | None = fields.warmth("gauge's temperature", READINGS, default=None)
    kind: Literal["reading_booked"] = "reading_booked"


@frozen(kw_only=True)
class RingGapRead(Entry):
    """End gap of a ring pushed down square, for taper without a bore gauge."""

    cylinder: int = fields.cylinder(READINGS)
    depth_mm: float = fields.depth(shown=READINGS)
    gap_mm: float = told(
        "ring gap", Unit.LENGTH, above=0.0, most=50.0, why="no ring gap; look at the unit", shown=READINGS
    )
    kind: Literal["ring_gap_read"] = "ring_gap_read"


def _read(s: Gauging, _x: ReadingBooked, on: Folding) -> Gauging:
    return _all_read(s, (on.record,), on)


def _all_read(s: Gauging, records: Sequence[Record], on: Folding) -> Gauging:
    two, three = list[Reading](), list[Reading]()
    for record in records:
        x = cast(ReadingBooked, record.entry)
        by_two = x.gauge == TWO_POINT
        (two if by_two else three).append(Reading(
            record.seq, x.cylinder, x.depth_mm, x.clock_deg % (180.0 if by_two else 120.0), on.at_20(x.diameter_mm, record.block_c),
            x.diameter_mm, x.plate_on, record.block_c, record.person, record.at, x.gauge,
        ))  # fmt: skip
    if two:
        s = changed(s, readings=s.readings.with_all(two))
    return changed(s, three_points=s.three_points.with_all(three)) if three else s


def _gapped(s: Gauging, x: RingGapRead, on: Folding) -> Gauging:
    return changed(s, ring_gaps=(*s.ring_gaps, RingGap(x.cylinder, x.depth_mm, x.gap_mm)))


def size_from_typed(text: str, state: JobState, where: Where) -> float:
    """A diameter in mm at the part's temperature: a size, an oversize (+21), or a distance from the gauge's zero.

    ``where.from_zero``: the figure came off a gauge, so a sign always means from its zero. Raises InputError.
    """
    if (read := where.read_mm(text)) is not None:
        return read
    nominal = state.block.bore_mm
    length = parse_length(text, where.units, None if where.from_zero else nominal)
    if length.signed and abs(length.mm) < 0.25 * nominal:
        return size_from_zero(length.mm, state, where, text.strip())
    return parse_length(text, where.units, nominal, "reading").mm


def size_from_zero(from_zero_mm: float, state: JobState, where: Where, typed: str = "") -> float:
    """A diameter in mm at the part's temperature from a gauge's distance from its zero, mm. ``typed``: as it was written, for the
    refusal. Raises InputError."""
    nominal = state.block.bore_mm
    zero = state.gauging.zero or GaugeSetting(nominal, 11.5, 20.0)
    size = gauge_size_at_part(zero, from_zero_mm, where.body_c)
    if not 0.8 * nominal <= size <= 1.25 * nominal:
        away = typed or Show(where.units).away(from_zero_mm)
        raise InputError(f"{away} from the gauge's zero gives {with_unit(size, where.units)}: check the zero")
    return size


def _size(text: str, at: At) -> tuple[Entry, ...]:
    return (reading_at(size_from_typed(text, at.state, at.where), at.state, at.where),)


def reading_at(size_mm: float, state: JobState, where: Where) -> ReadingBooked:
    """A reading of that size, mm, at the place where the gauge stands."""
    plan = state.gauging.plan
    return ReadingBooked(
        cylinder=where.cylinder, depth_mm=plan.depths_mm[where.place.level], clock_deg=plan.clocks_deg[where.place.clock],
        diameter_mm=size_mm, plate_on=state.clamped.plate_on, gauge=state.gauging.gauge_kind, gauge_c=where.body_c,
    )  # fmt: skip


def _gap(text: str, at: At) -> tuple[Entry, ...]:
    found = re.fullmatch(r"gap\s+(?P<gap>.+?)\s+at\s+(?P<depth>.+)", text.strip(), re.IGNORECASE)
    if found is None:
        raise FormError("A ring gap is typed with its depth")
    deep = depth(found["depth"], at.state, at.where)
    return (RingGapRead(cylinder=at.where.cylinder, depth_mm=deep, gap_mm=plain(found["gap"], at.where)),)


def _reading_words(x: ReadingBooked, s: Show) -> str:
    kind = "" if x.gauge == TWO_POINT else f", {x.gauge}"
    return (
        f"{x.cylinder}: {s.fine(x.diameter_mm)} {s.down(x.depth_mm)}, {x.clock_deg:g}°, {plate_words(x.plate_on)}{kind}"
    )


READING = Phrase(
    GAUGE, (), "{SIZE | +FROM-ZERO}", "a reading: a size, or from the gauge's zero with its sign",
    lambda at: at.show.size(at.state.block.bore_mm + 0.2), _size,
)  # fmt: skip
declare(
    ReadingBooked,
    Topic.READINGS,
    "gauge",
    _reading_words,
    into=(Into("gauging", _read, _all_read),),
    phrases=(READING,),
    beside=False,
)
declare(
    RingGapRead, Topic.READINGS, "gauge", lambda x, s: f"{x.cylinder}: ring gap {s.size(x.gap_mm)} {s.down(x.depth_mm)}",
    into=(Into("gauging", _gapped),),
    phrases=(
        Phrase(GAUGE, ("gap",), "gap GAP at DEPTH", "a ring's end gap at a depth: taper without a bore gauge",
               lambda at: f"gap {at.show.size(0.56)} at {at.show.rough(0.1 * at.state.block.length_mm)}", _gap),
    ),
)  # fmt: skip


# -- ring travel -------------------------------------------------------------------------------------------------------


@frozen(kw_only=True)
class RingStopRead(Entry):
    """Where the top ring stops, as it was measured: depth from the deck. Wear is deepest just under it."""

    depth_mm: float = fields.depth("the top ring stops at", READINGS)
    kind: Literal["ring_stop_read"] = "ring_stop_read"


def _stopped(s: Booking, x: RingStopRead, on: Folding) -> Booking:
    return changed(s, book_in=changed(s.book_in, block=changed(s.book_in.block, ring_top_mm=x.depth_mm)))


def _plan_of_stop(s: Gauging, x: RingStopRead, on: Folding) -> Gauging:
    """A standard plan has its level just under the stop. It folds first: ``on.booking`` is the one before."""
    if s.plan.name not in STANDARD_PLANS:
        return s
    return changed(s, plan=standard_plan(_stopped(on.booking, x, on).book_in, on.figures, s.plan.name))


def _stop(text: str, at: At) -> tuple[Entry, ...]:
    found = depth(behind(text), at.state, at.where)
    if found > 0.5 * at.state.block.length_mm:
        raise InputError(f"The top ring does not stop {behind(text)} down: that is below the middle of the hole")
    return (RingStopRead(depth_mm=found),)


declare(
    RingStopRead, Topic.BOOK_IN, "gauge", lambda x, s: f"the top ring stops {s.down(x.depth_mm)}",
    into=(Into("gauging", _plan_of_stop), Into("booking", _stopped)),
    phrases=(
        Phrase(("gauge", "call", "bore"), ("stop",), "stop DEPTH", "where the top ring stops, as measured: wear is deepest just under it",
               lambda at: f"stop {at.show.rough(at.state.travel.top_mm)}", _stop),
    ),
)  # fmt: skip


# -- spindle and sweeps ------------------------------------------------------------------------------------------------


@frozen(kw_only=True)
class SpindleSet(Entry):
    """A spindle with an indicator was set up over a cylinder; sweeps from now on share its axis, till the next one."""

    cylinder: int = fields.cylinder(SLICE)
    zero_radius_mm: float = told(
        "zeroed at radius", Unit.LENGTH, above=0.0, most=2000.0, why="no radius of a bore", shown=SLICE
    )
    based_on: str = told("squared to", Unit.CHOICE, choices=("mains", "deck"), shown=SLICE, default="mains")
    kind: Literal["spindle_set"] = "spindle_set"


@frozen(kw_only=True)
class SweepBooked(Entry):
    """Radius against clock angle from the spindle's axis at one depth, at the block's own temperature."""

    cylinder: int = fields.cylinder(SLICE)
    depth_mm: float = fields.depth(shown=SLICE)
    clock_deg: tuple[float, ...] = fields.clock("angles", SLICE)
    radius_mm: tuple[float, ...] = told("radii", Unit.LENGTH, shown=SLICE)
    plate_on: bool = fields.flag("plate on", SLICE)
    kind: Literal["sweep_booked"] = "sweep_booked"


def _spindle_folded(s: Gauging, x: SpindleSet, on: Folding) -> Gauging:
    return changed(s, spindle=SpindleSetUp(on.record.seq, x.cylinder, x.zero_radius_mm, x.based_on))


def _swept(s: Gauging, x: SweepBooked, on: Folding) -> Gauging:
    seq = on.record.seq
    set_up = s.spindle.seq if s.spindle is not None and s.spindle.cylinder == x.cylinder else seq
    radii = on.all_to_20(x.radius_mm)
    return changed(s, sweeps=s.sweeps.plus(Sweep(seq, x.cylinder, set_up, x.depth_mm, x.clock_deg, radii, x.plate_on)))


def _spindle(text: str, at: At) -> tuple[Entry, ...]:
    words, bore = behind(text).lower().split(), at.state.block.bore_mm
    if not words or words[0] not in ("mains", "deck"):
        raise InputError("Say what the spindle is set up on: spindle mains, or spindle deck")
    radius = plain(words[1], at.where) if len(words) > 1 else bore / 2.0
    if not 0.4 <= radius / bore <= 0.625:
        raise InputError(f"{words[1]} is no radius of this bore; half the bore is {bore / 2:g} mm")
    return (SpindleSet(cylinder=at.where.cylinder, zero_radius_mm=radius, based_on=words[0]),)


def _dial(text: str, at: At) -> tuple[Entry, ...]:
    """A ring read off a dial on the spindle: what it stands over its zero at even angles, from the front on, plus is further out."""
    found, spindle = re.fullmatch(_DIAL, behind(text), re.IGNORECASE), at.state.gauging.spindle
    if spindle is None or spindle.cylinder != at.where.cylinder:
        raise InputError(f"Say first that the spindle stands over cylinder {at.where.cylinder}: spindle mains")
    values = [] if found is None else found["values"].split()
    if found is None or len(values) < LEAST_ROUND:
        raise FormError(
            f"A ring off a dial is its depth, then {LEAST_ROUND} figures or more at even angles, the first at the front"
        )
    away = tuple(parse_length(v, at.where.units).mm for v in values)
    if max(abs(a) for a in away) > MOST_DIAL_MM:
        raise InputError("A dial goes no such way; its figures are what it stands over its zero, on radius")
    return (
        SweepBooked(
            cylinder=at.where.cylinder, depth_mm=depth(found["depth"], at.state, at.where),
            clock_deg=tuple(360.0 * i / len(away) for i in range(len(away))),
            radius_mm=tuple(spindle.zero_radius_mm + a for a in away), plate_on=at.state.clamped.plate_on,
        ),
    )  # fmt: skip


def _dial_example(at: At) -> str:
    say, deep = at.show.away, at.show.rough(0.3 * at.state.block.length_mm)
    return f"dial {deep}: " + " ".join(
        say(v).replace("−", "-") for v in (0.0, 0.01, 0.02, 0.03, 0.02, 0.01, 0.0, -0.01)
    )


def _rows_match(x: SweepBooked) -> list[Wrong]:
    return [] if len(x.clock_deg) == len(x.radius_mm) else [Wrong("radius_mm", "as many radii as angles")]


declare(
    SpindleSet, Topic.GAUGE, "gauge", lambda x, s: f"{x.cylinder}: spindle set up on the {x.based_on}",
    into=(Into("gauging", _spindle_folded),),
    phrases=(
        Phrase(GAUGE, ("spindle",), "spindle {mains | deck} [RADIUS]", "a spindle with an indicator stands over this cylinder",
               lambda at: "spindle mains", _spindle),
    ),
)  # fmt: skip
declare(
    SweepBooked, Topic.READINGS, "gauge",
    lambda x, s: f"{x.cylinder}: sweep of {len(x.clock_deg)} points {s.down(x.depth_mm)}, {plate_words(x.plate_on)}",
    into=(Into("gauging", _swept),), wrong=_rows_match,
    phrases=(
        Phrase(GAUGE, ("dial",), "dial DEPTH: FIGURE ...", "a ring off a dial on the spindle: over its zero on radius, at even angles from the front", _dial_example, _dial),
    ),
)  # fmt: skip
