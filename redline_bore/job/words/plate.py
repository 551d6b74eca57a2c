"""What the plate does to the hole, whether it is clamped like the head, and the order of tightening, in words."""

from __future__ import annotations

from redline_bore.core.plate import (
    ClampLine,
    ClampMatch,
)
from redline_bore.core.show import Show, cylinders
from redline_bore.core.when import moment
from redline_bore.job.card import Advice, FigureLine, Mark, Note, Said, WorkLine
from redline_bore.job.gauge.plate import (
    PlateMap,
    match_of,
    move_doubt,
    places_in_order,
    plate_map,
    tightening,
    towards,
    without_plate,
)
from redline_bore.job.profiles.practice import practice
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words.missing import say_missing

CARE = "Plates and heads are heavy: lift with help. Stand clear of the wrench."


def advise(state: JobState, cylinder: int, show: Show, pulled: int | None = None) -> Advice:
    """What the plate does, whether it stands in for the head, and the next pull of the wrench."""
    found, match = plate_map(state, cylinder), match_of(state)
    steps = tightening(state)
    sentence, mark = _sentence(state, found, match, show)
    button = "Tighten the plate"
    if pulled is not None and pulled < len(steps):
        step = steps[pulled]
        torque = "" if step.torque_nm is None else f" to {show.torque(step.torque_nm)}"
        place = places_in_order(state)[step.fastener]
        sentence, mark = f"Fastener {place} in the order{torque}, stage {step.stage}.", Mark.PLAIN
        button = "Done, next" if pulled + 1 < len(steps) else "Done: the plate is on"
    return Advice(
        f"Call · plate, cylinder {cylinder}", sentence, _figures(state, found, match, show), _changes(state, match, show),
        _working(state, found, show), button, CARE, mark,
    )  # fmt: skip


def _sentence(state: JobState, found: PlateMap, match: ClampMatch, show: Show) -> Said:
    if match.agrees is False:
        names = [line.name for line in match.lines if line.same is False]
        return Said(f"The plate is not the head: {', '.join(names)}.", Mark.LOOK)
    worst = found.worst
    if worst is None:
        return Said(f"What the plate does is not known: {say_missing(found.missing)}.", Mark.LOOK)
    most = max(worst.moved.moved_mm, key=abs)
    if abs(most) <= move_doubt(state):
        return Said(f"What the plate does to cylinder {found.cylinder} is less than this gauge can tell.", Mark.PLAIN)
    way = "opens" if most > 0 else "closes"
    return Said(
        f"The plate {way} cylinder {found.cylinder} by {show.unit(show.size(abs(most)))}, {show.down(worst.depth_mm)}.",
        Mark.PLAIN,
    )


UNTOLD = "less than can be told"


def _figures(state: JobState, found: PlateMap, match: ClampMatch, show: Show) -> tuple[FigureLine, ...]:
    lines = []
    worst = found.worst
    if worst is not None:
        moved = worst.moved
        least = move_doubt(state) / 2.0  # a mean and an amplitude over several directions are surer than one of them
        if moved.second_mm is not None and moved.second_axis_deg is not None:
            value = f"{show.size(moved.second_mm)} along {moved.second_axis_deg:.0f}°"
            lines.append(FigureLine("oval, either way", value if moved.second_mm > least else UNTOLD))
        if moved.fourth_mm is not None:
            value = show.unit(show.size(moved.fourth_mm))
            lines.append(FigureLine("four lobes, either way", value if moved.fourth_mm > least else UNTOLD))
        else:
            lines.append(FigureLine("four lobes, either way", "needs five directions", Mark.LOOK))
        mean = found.mean_mm or 0.0
        lines.append(FigureLine("mean moves", show.unit(show.away(mean)) if abs(mean) > least else UNTOLD))
        if (aim := towards(state, found.cylinder, worst)) is not None:
            places = places_in_order(state)
            numbers = ", ".join(str(places[n]) for n in aim.fasteners)
            named = f", fasteners {numbers}" if aim.fasteners else ", between fasteners"
            lines.append(FigureLine("opens towards", f"{aim.clock_deg:.0f}°{named}"))
    if (off := without_plate(state, found.cylinder)) is not None:
        lines.append(FigureLine("reads, plate off", f"{show.size(off[0])}–{show.size(off[1])}"))
    plate, head = (state.clamped.held_down(part).force_kn for part in ("plate", "head"))
    if plate is not None and head is not None and match.force_ratio is not None:
        mark = Mark.SOUND if match.lines[0].same else Mark.LOOK
        lines.append(
            FigureLine(
                "clamp, plate / head",
                f"{show.force(1000.0 * plate, digits=1)} / {show.force(1000.0 * head, digits=1)}",
                mark,
            )
        )
    else:
        lines.append(FigureLine("clamp, plate / head", "not known", Mark.LOOK, "clamping_stated"))
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
            show.force(1000.0 * value, digits=1)
            if name == "clamp force"
            else show.unit(show.depth(value) if show.units.mark == "mm" else show.size(value))
        )
    return str(value)


def _changes(state: JobState, match: ClampMatch, show: Show) -> tuple[str, ...]:
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
    notes.append(Note(f"A movement under {show.unit(show.size(move_doubt(state)))} is within the gauge's doubt."))
    school = practice("plate", state.booking.practice("plate"))
    notes.append(Note(f"A torque plate is wanted {school.title}: {school.reason}. C changes it."))
    if state.clamped.tightened is None:
        notes.append(Note("The order of tightening is by the usual pattern of the deck; the engine's own order wins."))
    else:
        notes.append(Note(f"Tightened by {state.clamped.tightened.person}, {moment(state.clamped.tightened.at)}."))
    return tuple(notes)


def _working(state: JobState, found: PlateMap, show: Show) -> tuple[WorkLine, ...]:
    lines = []
    for part in ("plate", "head"):
        c = state.clamped.held_down(part)
        if c.force_kn is not None:
            lines.append(
                WorkLine(
                    f"{part}: F = T / (K d) = {show.torque(c.torque_nm or 0.0)} / ({c.nut_factor:g} × {show.unit(show.size(c.fastener_mm or 0.0))}) = {show.force(1000.0 * c.force_kn, digits=1)}",
                    f"shop figure: nut factor K of {c.lubricant or 'what is on the threads'}, a starting point",
                )
            )
    for level in found.levels:
        moved = " ".join(
            f"{clock:.0f}° {show.away(m)}" for clock, m in zip(level.clocks_deg, level.moved.moved_mm, strict=True)
        )
        lines.append(
            WorkLine(
                f"{show.down(level.depth_mm)}, on − off: {moved}", f"both at {show.reference}, direction by direction"
            )
        )
    return tuple(lines)


def same_line(line: ClampLine) -> str:
    """A line of the comparison in a word."""
    return "same" if line.same else "not known" if line.same is None else "differs"
