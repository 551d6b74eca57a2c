"""What the readings of a cylinder say, and where to read next."""

from __future__ import annotations

from redline_bore.core.block import Numbering
from redline_bore.core.doubt import LevelDoubt
from redline_bore.core.extremes import Extreme
from redline_bore.core.gauging import next_place
from redline_bore.core.shape import LevelFit
from redline_bore.core.show import Show
from redline_bore.job.call.asks import CHORDS_ASKED, poorest
from redline_bore.job.call.light_options import by_ring_gaps
from redline_bore.job.call.option import Standing
from redline_bore.job.card import Advice, FigureLine, Mark, Note, WorkLine
from redline_bore.job.gauge.analysis import CylinderShape, Rules, places_read, rules_of, shape_of
from redline_bore.job.gauge.doubt import reading_doubt, shape_doubt, study_of
from redline_bore.job.gauge.extremes import Extremes, extremes_of
from redline_bore.job.gauge.readings import gap_taper, waiting_cylinders
from redline_bore.job.gauge.round import axis_of, is_crooked, three_point_levels
from redline_bore.job.state.job_state import JobState
from redline_bore.job.state.readings import THREE_POINT
from redline_bore.job.words.round import BLIND
from redline_bore.job.words.zero import zero_note

CARE_RIDGE = "Deburr the ridge before you reach in. Stop the machine before gauging."


def advise(state: JobState, cylinder: int, show: Show) -> Advice:
    """What to read next in ``cylinder`` with the plate as it stands, and what is known of it."""
    if state.book_in.length_wanted:
        return _length_first(state, show)
    shape, rules = shape_of(state, cylinder, state.clamped.plate_on), rules_of(state)
    asked = [line for line in [_numbered(state)] if line is not None]
    return Advice(
        f"Call · cylinder {cylinder}",
        _sentence(state, cylinder),
        (*asked, *_figures(state, shape, rules, show)),
        (
            *(("Which hole is which comes first: it cannot be told from the sizes afterwards.",) if asked else ()),
            *_changes(state, shape, show),
        ),
        _working(state, shape, rules, show),
        _button(state, cylinder),
        CARE_RIDGE,
        leads_on=cylinder not in waiting_cylinders(state),
    )


def _length_first(state: JobState, show: Show) -> Advice:
    """A job that was booked in without its cylinders' length: asked here, where it first matters."""
    stands = show.unit(show.depth(state.block.length_mm))
    return Advice(
        "Call · block", "Measure how long a cylinder is, deck to bottom.",
        (FigureLine("cylinder length", "not known", Mark.LOOK, by="book_in_revised"), FigureLine("drawn as", stands, Mark.LOOK)),
        ("The levels to read at follow from it, and every depth.",), (WorkLine(f"drawn as 1.6 strokes = {stands}, and used for nothing else", "starting point"),),
        "Book the length", CARE_RIDGE, Mark.LOOK,
    )  # fmt: skip


def _numbered(state: JobState) -> FigureLine | None:
    """Which cylinder is which, where two banks are counted as nobody said, before the first is read."""
    b = state.block
    if not b.two_banks or b.numbering is not Numbering.NOT_SAID or state.gauging.readings:
        return None
    half = b.cylinders // 2
    ends = f"1 to {half} and {half + 1} to {b.cylinders}" if half > 1 else "1 and 2"
    return FigureLine("numbered", f"{ends}, as nobody said", Mark.LOOK, by="book_in_revised/numbered")


def _sentence(state: JobState, cylinder: int) -> str:
    plan, taken = state.gauging.plan, places_read(state, cylinder, state.clamped.plate_on, state.gauging.gauge_kind)
    place = next_place(plan, taken)
    if place is not None:
        ahead = f"Read level {plan.letter(place.level)} at {plan.clocks_deg[place.clock]:g}°"
        last = place.level == len(plan.depths_mm) - 1
        return f"{ahead}." if last else f"{ahead}, then {plan.letter(place.level + 1)}."
    waiting = waiting_cylinders(state)
    if waiting:
        return f"Cylinder {cylinder} is read. Go to cylinder {waiting[0]}."
    return "All cylinders are read. Go to the call."


def _button(state: JobState, cylinder: int) -> str:
    """What Enter does with nothing typed, once this cylinder is read; else it books."""
    waiting = waiting_cylinders(state)
    if cylinder in waiting:
        return "Book reading"
    return f"Go to cylinder {waiting[0]}" if waiting else "Go to the call"


def _figures(state: JobState, shape: CylinderShape, rules: Rules, show: Show) -> tuple[FigureLine, ...]:
    if not shape.levels:
        return _three_point_figures(state, shape.cylinder, show) or _gap_figures(state, shape.cylinder, show)
    lines, nominal, doubt = [], state.block.bore_mm, shape_doubt(state, shape)
    largest, worst = shape.largest, shape.worst_level
    ends = extremes_of(state, shape.cylinder, shape.plate_on)
    if largest is not None:
        where = f"{show.down(largest.depth_mm)}, {largest.clock_deg:g}°"
        lines.append(FigureLine("largest read", f"{show.away(largest.size_mm - nominal)} at {where}"))
    if ends.largest is not None:
        middle, half = show.away(ends.largest.middle_mm - nominal), show.size(ends.largest.half_mm)
        lines.append(FigureLine("largest, noise taken off", f"{middle} ± {half}"))
    if shape.wear is not None:
        value = show.size(shape.wear.largest_reading_mm) if ends.wear is None else _told(ends.wear, show)
        lines.append(FigureLine("wear of a level", value))
        if shape.wear.ridge_mm is not None:
            lines.append(FigureLine("ridge at the top", _sure(shape.wear.ridge_mm, doubt.ridge_mm, show)))
    if worst is not None:
        at = doubt.levels[shape.levels.index(worst)]
        lines += _oval_lines(worst.fit, at, rules, ends, show)
    if shape.axial is not None:
        look = abs(shape.axial.taper_mm) > rules.limits.taper_mm
        sd = None if doubt.axial is None else 2.0 * doubt.axial.taper_mm
        value = f"{_sure(abs(shape.axial.taper_mm), sd, show)}, {shape.axial.shape_class}"
        lines.append(FigureLine("taper", value, Mark.LOOK if look else Mark.SOUND))
    for d in state.gauging.defects_of(shape.cylinder)[:2]:
        deep = show.size(d.deep_high_mm) if d.measured else f"{show.size(d.deep_low_mm)}–{show.size(d.deep_high_mm)}"
        lines.append(FigureLine(d.what, f"{show.unit(deep)} deep", Mark.LOOK))
    spread = max((s.spread_mm for s in shape.spots), default=0.0)
    if spread > 0.0:
        bad = spread > state.figures.number("gauging.repeat_limit")
        lines.append(FigureLine("gauge repeats to", show.fine(spread), Mark.LOOK if bad else Mark.SOUND))
    return tuple(lines)


def _sure(value_mm: float, u_mm: float | None, show: Show) -> str:
    """A figure with its expanded uncertainty (k = 2)."""
    return show.size(value_mm) if u_mm is None else f"{show.size(value_mm)} ± {show.doubt(u_mm)}"


def _told(found: Extreme, show: Show) -> str:
    """A figure that cannot be under nought: told as an upper end where it is not to be told from none."""
    if found.low_mm <= 0.0:
        return f"under {show.size(found.high_mm)}"
    return _sure(found.middle_mm, found.half_mm, show)


def _oval_lines(fit: LevelFit, doubt: LevelDoubt, rules: Rules, ends: Extremes, show: Show) -> list[FigureLine]:
    if ends.oval is None:
        apart = show.size(fit.out_of_round_raw_mm) if ends.two_directions is None else _told(ends.two_directions, show)
        return [FigureLine("two directions differ by", f"{apart}, may hide more", Mark.LOOK)]
    mark = Mark.LOOK if ends.oval.high_mm > rules.out_of_round_mm else Mark.SOUND
    oval = FigureLine("out of round", _told(ends.oval, show), mark)
    if fit.long_axis_deg is None or doubt.long_axis_deg is None or ends.oval.low_mm <= 0.0:
        return [oval]
    turn = 2.0 * doubt.long_axis_deg
    axis = f"{fit.long_axis_deg:.0f}° ± {max(turn, 1.0):.0f}°" if turn < 45.0 else "not told"
    return [oval, FigureLine("long axis", axis)]


def _three_point_figures(state: JobState, cylinder: int, show: Show) -> tuple[FigureLine, ...]:
    """Means and taper of a three-point gauge, where nothing was read by two points."""
    levels = three_point_levels(state, cylinder, state.clamped.plate_on)
    if not levels:
        return ()
    lines = [FigureLine(f"mean {show.down(v.depth_mm)}", show.size(v.fit.mean_mm)) for v in levels[:5]]
    if len(levels) > 1:
        lines.append(FigureLine("taper, three points", show.away(levels[0].fit.mean_mm - levels[-1].fit.mean_mm)))
    return (*lines, FigureLine("out of round", "not seen", Mark.LOOK))


def _gap_figures(state: JobState, cylinder: int, show: Show) -> tuple[FigureLine, ...]:
    gaps = sorted((g for g in state.gauging.ring_gaps if g.cylinder == cylinder), key=lambda g: g.depth_mm)
    lines = [FigureLine(f"ring gap {show.down(g.depth_mm)}", show.unit(show.size(g.gap_mm))) for g in gaps]
    taper = gap_taper(state, cylinder)
    if taper is not None:
        lines.append(FigureLine("taper by ring gap", show.unit(show.size(taper)), Mark.LOOK))
    lines.append(FigureLine("diameter", "not read", Mark.LOOK))
    return tuple(lines)


def _changes(state: JobState, shape: CylinderShape, show: Show) -> tuple[str, ...]:
    notes = []
    if (poor := poorest(shape)) is not None:
        notes.append(f"Two axes can hide an oval at 45°: read {CHORDS_ASKED} angles or more {show.down(poor)}.")
    if shape.levels and (why := shape.why_not("wear")):
        notes.append(f"{why}.")
    if shape.twisted:
        notes.append(Note("The long axis turns between top and bottom: a twisted hole."))
    if state.clamped.block_c is None:
        notes.append(f"The block's temperature is not known; sizes are taken as at {show.reference}.")
    matters = state.figures.number("thermal.matters_from_20")
    if state.clamped.block_c is not None and abs(state.clamped.block_c - 20.0) > matters:
        moved = state.block.bore_mm * state.coefficient_1e6 * 1e-6 * (state.clamped.block_c - 20.0)
        notes.append(
            Note(
                f"The block is at {show.warm(state.clamped.block_c)} and reads {show.away(moved)} off; sizes here are at {show.reference}."
            )
        )
    if any(not d.measured for d in state.gauging.defects_of(shape.cylinder)):
        notes.append("A defect is known by feel only; measure its depth.")
    if gap_taper(state, shape.cylinder) is not None and not shape.levels:
        notes.append(_by_gaps(state))
    notes += _what_is_hidden(state, shape.cylinder, show)
    if note := zero_note(state, show):
        notes.append(note)
    return tuple(notes)


def _by_gaps(state: JobState) -> str:
    """What ring gaps alone can settle: that a hole is worn past a ring, and not that it is not."""
    told = by_ring_gaps(state, "rering")
    if told is not None and told.standing is Standing.NO:
        return (
            "Ring gaps alone show it worn past what new rings take; what size it wants is the call's, by a bore gauge."
        )
    return "Ring gaps give taper and no size: they cannot show out of round. Borrow a bore gauge before deciding."


def _what_is_hidden(state: JobState, cylinder: int, show: Show) -> list[str]:
    """What the gauges in use cannot see, or what a sweep has shown."""
    fit, _ = axis_of(state, cylinder, state.clamped.plate_on)
    if fit is not None:
        drift = show.unit(show.size(fit.axis.drift_mm))
        return (
            [Note(f"Swept: the hole is crooked by {drift}. The slice page shows it.")] if is_crooked(state, fit) else []
        )
    if state.gauging.gauge_kind == THREE_POINT:
        return [BLIND["three-point"]]
    return ["Two points cannot show three lobes or a crooked bore; sweep it if the rings never seated."]


def _axial_lines(state: JobState, shape: CylinderShape, show: Show) -> list[WorkLine]:
    """The straight line and the bulge, each with its uncertainty."""
    doubt = shape_doubt(state, shape).axial
    if doubt is None or shape.axial is None:
        return []
    line = _sure(shape.axial.line_taper_mm, 2.0 * doubt.line_taper_mm, show)
    lines = [
        WorkLine(
            f"taper by the straight line through all levels, over ring travel = {line}", "least squares; GUM, k = 2"
        )
    ]
    if shape.axial.bulge_mm is not None and doubt.bulge_mm is not None:
        word = "barrel" if shape.axial.bulge_mm > 0 else "hourglass"
        bulge = _sure(abs(shape.axial.bulge_mm), 2.0 * doubt.bulge_mm, show)
        lines.append(
            WorkLine(f"bulge, middle less ends of the parabola = {bulge}, {word}", "least squares; GUM, k = 2")
        )
    return lines


def _working(state: JobState, shape: CylinderShape, rules: Rules, show: Show) -> tuple[WorkLine, ...]:
    lines = []
    if shape.wear is not None and shape.largest is not None:
        w = shape.wear
        lines.append(
            WorkLine(
                f"wear = largest in ring travel {show.fine(w.reference_mm + w.largest_reading_mm)} − unworn "
                f"{show.fine(w.reference_mm)} ({w.reference_from} ring travel) = {show.fine(w.largest_reading_mm)}",
                "unworn: the smallest mean outside ring travel",
            )
        )
    if shape.axial is not None:
        inside = [v for v in shape.levels if rules.travel.top_mm <= v.depth_mm <= rules.travel.bottom_mm]
        top, bottom = inside[0], inside[-1]
        lines.append(
            WorkLine(
                f"taper = mean {show.down(top.depth_mm)} {show.fine(top.fit.mean_mm)} − mean {show.down(bottom.depth_mm)} "
                f"{show.fine(bottom.fit.mean_mm)} = {show.fine(shape.axial.taper_mm)}; limit {show.size(rules.limits.taper_mm)}",
                "shop figure: taper of a used bore, by duty",
            )
        )
        lines += _axial_lines(state, shape, show)
    for level in shape.levels:
        fit = level.fit
        axis = f", long axis {fit.long_axis_deg:.0f}°" if fit.long_axis_deg is not None else ", no oval can be told"
        lines.append(
            WorkLine(
                f"{show.down(level.depth_mm)}: mean {show.size(fit.mean_mm)}, raw out of round "
                f"{show.size(fit.out_of_round_raw_mm)}{axis}; {fit.distinct_chords} directions, {fit.harmonics_used} orders of lobes",
                "least squares on cos 2kt, sin 2kt",
            )
        )
    taper = gap_taper(state, shape.cylinder)
    if taper is not None:
        lines.append(WorkLine(f"taper = change of gap / π = {show.away(taper)}", "a ring in its bore, all round"))
    doubt, found = reading_doubt(state), study_of(state)
    source = "this job's gauge study" if found is not None else state.figures.figure("gauging.bore_gauge_u").source
    lines.append(
        WorkLine(
            f"a single size is sure to ± {show.doubt(doubt.expanded_u_mm)}: 2 √({show.fine(doubt.own_mm)}² + "
            f"{show.fine(doubt.shared_mm)}²); what all readings share cancels in wear, taper and out of round",
            f"{source}; temperature and drift, GUM (JCGM 100)",
        )
    )
    return tuple(lines)
