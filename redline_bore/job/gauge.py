"""Advice at the gauge: where to read next, what the readings say so far, and what this gauge cannot see."""

from __future__ import annotations

from redline_bore.core.fit import taper_from_gaps
from redline_bore.core.gauging import next_place
from redline_bore.job.advice import Advice, FigureLine, Mark, Show, WorkLine
from redline_bore.job.analysis import CylinderShape, Rules, bound_needs, places_read, rules_of, shape_of
from redline_bore.job.state import JobState

CARE_RIDGE = "Deburr the ridge before you reach in. Stop the machine before gauging."


def advise(state: JobState, cylinder: int, show: Show) -> Advice:
    """What to read next in ``cylinder`` with the plate as it stands, and what is known of it."""
    shape, rules = shape_of(state, cylinder, state.plate_on), rules_of(state)
    taken = places_read(state, cylinder, state.plate_on, state.gauge_kind)
    return Advice(
        f"Call · cylinder {cylinder}",
        _sentence(state, cylinder, taken == frozenset(state.plan.places())),
        _figures(state, shape, rules, show),
        _changes(state, shape, show),
        _working(state, shape, rules, show),
        _button(state, cylinder),
        CARE_RIDGE,
    )


def _sentence(state: JobState, cylinder: int, full: bool) -> str:
    plan, taken = state.plan, places_read(state, cylinder, state.plate_on, state.gauge_kind)
    place = next_place(plan, taken)
    if place is not None:
        ahead = f"Read level {plan.letter(place.level)} at {plan.clocks_deg[place.clock]:g}°"
        last = place.level == len(plan.depths_mm) - 1
        return f"{ahead}." if last else f"{ahead}, then {plan.letter(place.level + 1)}."
    waiting = waiting_cylinders(state)
    if waiting:
        return f"Cylinder {cylinder} is read. Go to cylinder {waiting[0]}."
    return "All cylinders are read. Go to the call."


def waiting_cylinders(state: JobState) -> list[int]:
    """Cylinders that have places of the plan left to read, with the plate as it stands."""
    full = frozenset(state.plan.places())
    return [c for c in state.cylinders if places_read(state, c, state.plate_on, state.gauge_kind) != full]


def _button(state: JobState, cylinder: int) -> str:
    """What Enter does with nothing typed, once this cylinder is read; else it books."""
    waiting = waiting_cylinders(state)
    if cylinder in waiting:
        return "Book reading"
    return f"Go to cylinder {waiting[0]}" if waiting else "Go to the call"


def _figures(state: JobState, shape: CylinderShape, rules: Rules, show: Show) -> tuple[FigureLine, ...]:
    if not shape.levels:
        return _gap_figures(state, shape.cylinder, show)
    lines, nominal = [], state.block.bore_mm
    largest, worst = shape.largest, shape.worst_level
    if largest is not None:
        where = f"{show.down(largest.depth_mm)}, {largest.clock_deg:g}°"
        lines.append(FigureLine("largest", f"{show.away(largest.size_mm - nominal)} at {where}"))
    if shape.wear is not None:
        lines.append(FigureLine("wear", show.unit(show.size(shape.wear.largest_reading_mm))))
        if shape.wear.ridge_mm is not None:
            lines.append(FigureLine("ridge at the top", f"{show.size(shape.wear.ridge_mm)} step"))
    if worst is not None:
        lines.append(_oval_line(worst.fit.out_of_round_raw_mm, worst.fit.long_axis_deg, rules, show))
    if shape.axial is not None:
        look = abs(shape.axial.taper_mm) > rules.limits.taper_mm
        value = f"{show.size(abs(shape.axial.taper_mm))}, {shape.axial.shape_class}"
        lines.append(FigureLine("taper", value, Mark.LOOK if look else Mark.SOUND))
    for d in state.defects_of(shape.cylinder)[:2]:
        deep = show.size(d.deep_high_mm) if d.measured else f"{show.size(d.deep_low_mm)}–{show.size(d.deep_high_mm)}"
        lines.append(FigureLine(d.what, f"{show.unit(deep)} deep", Mark.LOOK))
    spread = max((s.spread_mm for s in shape.spots), default=0.0)
    if spread > 0.0:
        bad = spread > state.figures.number("gauging.repeat_limit")
        lines.append(FigureLine("gauge repeats to", show.fine(spread), Mark.LOOK if bad else Mark.SOUND))
    return tuple(lines)


def _oval_line(raw_mm: float, axis_deg: float | None, rules: Rules, show: Show) -> FigureLine:
    if axis_deg is None:
        return FigureLine("out of round, two axes", f"{show.size(raw_mm)}, may hide more", Mark.LOOK)
    mark = Mark.LOOK if raw_mm > rules.out_of_round_mm else Mark.SOUND
    return FigureLine("out of round, raw", f"{show.size(raw_mm)}, long at {axis_deg:.0f}°", mark)


def gap_taper(state: JobState, cylinder: int) -> float | None:
    """Taper in mm from ring gaps at the shallowest and the deepest place read; None with fewer than two."""
    gaps = sorted((g for g in state.ring_gaps if g.cylinder == cylinder), key=lambda g: g.depth_mm)
    return taper_from_gaps(gaps[0].gap_mm, gaps[-1].gap_mm) if len(gaps) > 1 else None


def _gap_figures(state: JobState, cylinder: int, show: Show) -> tuple[FigureLine, ...]:
    gaps = sorted((g for g in state.ring_gaps if g.cylinder == cylinder), key=lambda g: g.depth_mm)
    lines = [FigureLine(f"ring gap {show.down(g.depth_mm)}", show.unit(show.size(g.gap_mm))) for g in gaps]
    taper = gap_taper(state, cylinder)
    if taper is not None:
        lines.append(FigureLine("taper by ring gap", show.unit(show.size(taper)), Mark.LOOK))
    lines.append(FigureLine("diameter", "not read", Mark.LOOK))
    return tuple(lines)


def _changes(state: JobState, shape: CylinderShape, show: Show) -> tuple[str, ...]:
    notes = []
    if needs := bound_needs(shape, show):
        notes.append(f"Two axes can hide an oval at 45°: {needs}.")
    if shape.levels and (why := shape.why_not("wear")):
        notes.append(f"{why}.")
    if shape.twisted:
        notes.append("The long axis turns between top and bottom: a twisted hole.")
    if state.block_c is None:
        notes.append("The block's temperature is not known; sizes are taken as at 20 °C.")
    matters = state.figures.number("thermal.matters_from_20")
    if state.block_c is not None and abs(state.block_c - 20.0) > matters:
        moved = state.block.bore_mm * state.coefficient_1e6 * 1e-6 * (state.block_c - 20.0)
        notes.append(f"The block is at {state.block_c:g} °C and reads {show.away(moved)} off; sizes here are at 20 °C.")
    if any(not d.measured for d in state.defects_of(shape.cylinder)):
        notes.append("A defect is known by feel only; measure its depth.")
    if gap_taper(state, shape.cylinder) is not None and not shape.levels:
        notes.append(
            "Ring gaps give taper and no size: they cannot show out of round. Borrow a bore gauge before deciding."
        )
    notes.append("Two points cannot show three lobes or a crooked bore; sweep it if the rings never seated.")
    return tuple(notes)


def _working(state: JobState, shape: CylinderShape, rules: Rules, show: Show) -> tuple[WorkLine, ...]:
    lines = []
    if shape.wear is not None and shape.largest is not None:
        w = shape.wear
        lines.append(
            WorkLine(
                f"wear = largest in ring travel {show.fine(w.reference_mm + w.largest_reading_mm)} − unworn "
                f"{show.fine(w.reference_mm)} ({w.reference_from} ring travel) = {show.fine(w.largest_reading_mm)}",
                "methods 4",
            )
        )
    if shape.axial is not None:
        inside = [v for v in shape.levels if rules.travel.top_mm <= v.depth_mm <= rules.travel.bottom_mm]
        top, bottom = inside[0], inside[-1]
        lines.append(
            WorkLine(
                f"taper = mean {show.down(top.depth_mm)} {show.fine(top.fit.mean_mm)} − mean {show.down(bottom.depth_mm)} "
                f"{show.fine(bottom.fit.mean_mm)} = {show.fine(shape.axial.taper_mm)}; limit {show.size(rules.limits.taper_mm)}",
                "methods 4; limits.toml, starting point",
            )
        )
    for level in shape.levels:
        fit = level.fit
        axis = f", long axis {fit.long_axis_deg:.0f}°" if fit.long_axis_deg is not None else ", no oval can be told"
        lines.append(
            WorkLine(
                f"{show.down(level.depth_mm)}: mean {show.size(fit.mean_mm)}, raw out of round "
                f"{show.size(fit.out_of_round_raw_mm)}{axis}; {fit.distinct_chords} chords, {fit.harmonics_used} harmonics",
                "methods 3, least squares on cos 2kt, sin 2kt",
            )
        )
    taper = gap_taper(state, shape.cylinder)
    if taper is not None:
        lines.append(WorkLine(f"taper = change of gap / π = {show.away(taper)}", "methods 7"))
    u = state.figures.figure("gauging.bore_gauge_u")
    lines.append(WorkLine(f"a single reading is sure to ± {show.size(float(u.value))} (k = 2)", u.source))  # type: ignore[arg-type]
    return tuple(lines)
