"""The torque plate: does it stand in for the head, in which order is it tightened, what does it do to the holes."""

from __future__ import annotations

import math
from dataclasses import dataclass

from redline_bore.core.block import Layout, bore_positions, fastener_positions
from redline_bore.core.plate import (
    ClampLine,
    ClampMatch,
    PlateLevel,
    bearing_deg,
    compare_clamping,
    customer_reads,
    nearest_bearings,
    on_off_level,
    tightening_order,
)
from redline_bore.core.show import Show, cylinders
from redline_bore.job.gauge.analysis import SAME_DEPTH_MM, Level, shape_of
from redline_bore.job.gauge.doubt import reading_doubt
from redline_bore.job.redline import redline_of
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words.card import Advice, FigureLine, Mark, WorkLine

CARE = "Plates and heads are heavy: lift with help. Stand clear of the wrench."
AWKWARD_DEG = 30.0


@dataclass(frozen=True)
class MapLevel:
    """Plate on less plate off at one depth, at the chords read both ways."""

    depth_mm: float
    clocks_deg: tuple[float, ...]
    moved: PlateLevel


@dataclass(frozen=True)
class PlateMap:
    """What the plate does to one cylinder. ``missing`` says what to read where nothing can be compared."""

    cylinder: int
    levels: tuple[MapLevel, ...]
    missing: str

    @property
    def worst(self) -> MapLevel | None:
        """The level that moves most."""
        return max(self.levels, key=lambda v: max(abs(m) for m in v.moved.moved_mm), default=None)

    @property
    def mean_mm(self) -> float | None:
        return sum(v.moved.mean_mm for v in self.levels) / len(self.levels) if self.levels else None

    def at(self, depth_mm: float, clock_deg: float) -> float | None:
        """What the plate adds to the diameter nearest to a place, mm; None without a map."""
        if not self.levels:
            return None
        level = min(self.levels, key=lambda v: abs(v.depth_mm - depth_mm))
        chord = min(
            range(len(level.clocks_deg)),
            key=lambda i: abs((level.clocks_deg[i] - clock_deg + 90.0) % 180.0 - 90.0),
        )
        return level.moved.moved_mm[chord]


@once_a_state
def plate_map(state: JobState, cylinder: int) -> PlateMap:
    """Compare the two gaugings of a cylinder, chord by chord."""
    on, off = (shape_of(state, cylinder, plate) for plate in (True, False))
    levels = []
    for level in on.levels:
        other = next((v for v in off.levels if abs(v.depth_mm - level.depth_mm) < SAME_DEPTH_MM), None)
        if other is not None and (row := _compared(level, other)) is not None:
            levels.append(row)
    missing = ""
    if not levels:
        lacking = [word for word, shape in (("on", on), ("off", off)) if not shape.levels]
        missing = (
            f"gauge it with the plate {' and '.join(lacking)}"
            if lacking
            else "read the same levels and chords both ways"
        )
    return PlateMap(cylinder, tuple(levels), missing)


def _compared(on: Level, off: Level) -> MapLevel | None:
    sizes = {round(s.clock_deg, 1): s.size_mm for s in off.spots}
    both = [(s.clock_deg, s.size_mm, sizes[round(s.clock_deg, 1)]) for s in on.spots if round(s.clock_deg, 1) in sizes]
    if not both:
        return None
    clocks = tuple(b[0] for b in both)
    return MapLevel(on.depth_mm, clocks, on_off_level(clocks, [b[1] for b in both], [b[2] for b in both]))


def bearings(state: JobState, cylinder: int) -> dict[int, float]:
    """Clock angles, seen from a bore's centre, of the fasteners nearest to it, by fastener number (from 1)."""
    bore = bore_positions(state.block)[cylinder - 1]
    reach, found = 1.2 * state.block.bore_mm, {}
    for number, f in enumerate(fastener_positions(state.block), start=1):
        along, across = f.along_mm - bore.along_mm, f.across_mm - bore.across_mm
        if f.bank == bore.bank and (along**2 + across**2) ** 0.5 <= reach:
            found[number] = bearing_deg(along, across)
    return found


def towards(state: JobState, cylinder: int, level: MapLevel) -> tuple[float, list[int]] | None:
    """The clock angle along which the plate opens the hole most, and the fasteners that lie there; None: not told."""
    if level.moved.second_axis_deg is None:
        return None
    best = max(range(len(level.clocks_deg)), key=lambda i: level.moved.moved_mm[i])
    clock, around = level.clocks_deg[best], bearings(state, cylinder)
    numbers = list(around)
    _, apart = nearest_bearings(clock, [around[n] for n in numbers])
    if apart > AWKWARD_DEG:
        return clock, []
    return clock, [n for n in numbers if nearest_bearings(clock, [around[n]])[1] <= apart + 1.0]


def match_of(state: JobState) -> ClampMatch:
    """Plate against head, line by line."""
    split = state.block.layout is Layout.FLAT
    share = state.figures.number("fasteners.force_share")
    return compare_clamping(state.clamped.held_down("plate"), state.clamped.held_down("head"), share, split)


def order_of(state: JobState, bank: int = 0) -> tuple[int, ...]:
    """Fastener numbers (from 1) of a bank in the order of tightening."""
    all_of = list(enumerate(fastener_positions(state.block), start=1))
    own = [(n, f) for n, f in all_of if f.bank == bank]
    order = tightening_order([f.along_mm for _, f in own], [f.across_mm for _, f in own])
    return tuple(own[i][0] for i in order)


def places_in_order(state: JobState) -> dict[int, int]:
    """For each fastener its place in the order of tightening, from 1 on each bank: the number it is called by."""
    banks = sorted({b.bank for b in bore_positions(state.block)})
    return {fastener: place for bank in banks for place, fastener in enumerate(order_of(state, bank), start=1)}


def move_doubt(state: JobState) -> float:
    """U (k = 2) in mm of a movement: the difference of two readings, without what they share."""
    return 2.0 * math.sqrt(2.0) * reading_doubt(state).own_mm


@dataclass(frozen=True)
class TighteningStep:
    """One pull of the wrench: which fastener, to which torque (None: none is stated), in which stage (from 1)."""

    fastener: int
    stage: int
    torque_nm: float | None


def tightening(state: JobState) -> tuple[TighteningStep, ...]:
    """Every pull in turn, both banks, stage by stage."""
    plate = state.clamped.held_down("plate")
    shares = plate.stages or state.figures.row("fasteners.stages")
    banks = sorted({b.bank for b in bore_positions(state.block)})
    return tuple(
        TighteningStep(number, stage, None if plate.torque_nm is None else plate.torque_nm * share)
        for stage, share in enumerate(shares, start=1)
        for bank in banks
        for number in order_of(state, bank)
    )


def without_plate(state: JobState, cylinder: int) -> tuple[float, float] | None:
    """Smallest and largest diameter in mm that will be read with the plate off, of a hole finished to its redline."""
    found, size = plate_map(state, cylinder), redline_of(state, cylinder).size_mm
    if size is None:
        mean = shape_of(state, cylinder, True).mean_mm
        size = mean
    if size is None or not found.levels:
        return None
    reads = [float(v) for level in found.levels for v in customer_reads(size, level.moved.moved_mm)]
    return min(reads), max(reads)


def advise(state: JobState, cylinder: int, show: Show, pulled: int | None = None) -> Advice:
    """What the plate does, whether it stands in for the head, and the next pull of the wrench."""
    found, match = plate_map(state, cylinder), match_of(state)
    steps = tightening(state)
    sentence, mark = _sentence(state, found, match, show)
    button = "Tighten the plate"
    if pulled is not None and pulled < len(steps):
        step = steps[pulled]
        torque = "" if step.torque_nm is None else f" to {step.torque_nm:.0f} N m"
        place = places_in_order(state)[step.fastener]
        sentence, mark = f"Fastener {place} in the order{torque}, stage {step.stage}.", Mark.PLAIN
        button = "Done, next" if pulled + 1 < len(steps) else "Done: the plate is on"
    return Advice(
        f"Call · plate, cylinder {cylinder}", sentence, _figures(state, found, match, show), _changes(state, found, match, show),
        _working(state, found, match, show), button, CARE, mark,
    )  # fmt: skip


def _sentence(state: JobState, found: PlateMap, match: ClampMatch, show: Show) -> tuple[str, Mark]:
    if match.agrees is False:
        names = [line.name for line in match.lines if line.same is False]
        return f"The plate is not the head: {', '.join(names)}.", Mark.LOOK
    worst = found.worst
    if worst is None:
        return f"What the plate does is not known: {found.missing}.", Mark.LOOK
    most = max(worst.moved.moved_mm, key=abs)
    if abs(most) <= move_doubt(state):
        return f"What the plate does to cylinder {found.cylinder} is less than this gauge can tell.", Mark.PLAIN
    way = "opens" if most > 0 else "closes"
    return (
        f"The plate {way} cylinder {found.cylinder} by {show.unit(show.size(abs(most)))}, {show.down(worst.depth_mm)}.",
        Mark.PLAIN,
    )


def _figures(state: JobState, found: PlateMap, match: ClampMatch, show: Show) -> tuple[FigureLine, ...]:
    lines = []
    worst = found.worst
    if worst is not None:
        moved = worst.moved
        if moved.second_mm is not None and moved.second_axis_deg is not None:
            told = moved.second_mm > move_doubt(state) / 2.0  # an amplitude over several chords is surer than one chord
            value = (
                f"{show.size(moved.second_mm)} along {moved.second_axis_deg:.0f}°" if told else "less than can be told"
            )
            lines.append(FigureLine("2nd harmonic", value))
        if moved.fourth_mm is not None:
            lines.append(FigureLine("4th harmonic", show.unit(show.size(moved.fourth_mm))))
        else:
            lines.append(FigureLine("4th harmonic", "needs five chords", Mark.LOOK))
        lines.append(FigureLine("mean moves", show.unit(show.away(found.mean_mm or 0.0))))
        if (aim := towards(state, found.cylinder, worst)) is not None:
            places = places_in_order(state)
            numbers = ", ".join(str(places[n]) for n in aim[1])
            named = f", fasteners {numbers}" if aim[1] else ", between fasteners"
            lines.append(FigureLine("opens towards", f"{aim[0]:.0f}°{named}"))
    if (off := without_plate(state, found.cylinder)) is not None:
        lines.append(FigureLine("reads, plate off", f"{show.size(off[0])}–{show.size(off[1])}"))
    plate, head = (state.clamped.held_down(part).force_kn for part in ("plate", "head"))
    if plate is not None and head is not None and match.force_ratio is not None:
        mark = Mark.SOUND if match.lines[0].same else Mark.LOOK
        lines.append(FigureLine("clamp, plate / head", f"{plate:.1f} / {head:.1f} kN", mark))
    else:
        lines.append(FigureLine("clamp, plate / head", "not known", Mark.LOOK))
    return tuple(lines)


def clamp_text(name: str, value: object, show: Show) -> str:
    """A line of a clamping set-up as it is read."""
    if value is None or value == "" or value == ():
        return "not stated"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, tuple):
        return " ".join(f"{100 * share:.0f}" for share in value) + " %"
    if isinstance(value, float):
        return (
            f"{value:.1f} kN"
            if name == "clamp force"
            else show.unit(show.depth(value) if show.units.mark == "mm" else show.size(value))
        )
    return str(value)


def _changes(state: JobState, found: PlateMap, match: ClampMatch, show: Show) -> tuple[str, ...]:
    notes = []
    for line in match.lines:
        if line.same is False:
            notes.append(
                f"{line.name.capitalize()}: plate {clamp_text(line.name, line.plate, show)}, head {clamp_text(line.name, line.head, show)}."
            )
    unknown = [line.name for line in match.lines if line.same is None]
    if unknown:
        notes.append(f"Not stated, so not the same: {', '.join(unknown)}.")
    missing = [c for c in state.cylinders if not plate_map(state, c).levels]
    if missing:
        notes.append(f"Not read both ways: {cylinders(missing)}.")
    notes.append(f"A movement under {show.unit(show.size(move_doubt(state)))} is within the gauge's doubt.")
    if state.clamped.tightened is None:
        notes.append("The order of tightening is by the usual pattern of the deck; the engine's own order wins.")
    else:
        notes.append(
            f"Tightened by {state.clamped.tightened.person}, {state.clamped.tightened.at[:16].replace('T', ' ')}."
        )
    return tuple(notes)


def _working(state: JobState, found: PlateMap, match: ClampMatch, show: Show) -> tuple[WorkLine, ...]:
    lines = []
    for part in ("plate", "head"):
        c = state.clamped.held_down(part)
        if c.force_kn is not None:
            lines.append(
                WorkLine(
                    f"{part}: F = T / (K d) = {c.torque_nm:g} N m / ({c.nut_factor:g} × {c.fastener_mm:g} mm) = {c.force_kn:.2f} kN",
                    f"methods 16; K for {c.lubricant or 'what is on the threads'}, fasteners.toml, starting point",
                )
            )
    for level in found.levels:
        moved = " ".join(
            f"{clock:.0f}° {show.away(m)}" for clock, m in zip(level.clocks_deg, level.moved.moved_mm, strict=True)
        )
        lines.append(WorkLine(f"{show.down(level.depth_mm)}, on − off: {moved}", "both at 20 °C, chord by chord"))
    return tuple(lines)


def same_line(line: ClampLine) -> str:
    """A line of the comparison in a word."""
    return "same" if line.same else "not known" if line.same is None else "differs"
