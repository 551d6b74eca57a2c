"""How round a slice is, and what a gauge would not see of it, in words."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from redline_bore.core.figures import cited
from redline_bore.core.show import Show
from redline_bore.job.card import Advice, FigureLine, Mark, Note, Said, WorkLine
from redline_bore.job.gauge.analysis import Level
from redline_bore.job.gauge.doubt import reading_doubt
from redline_bore.job.gauge.round import Slice, axis_of, is_crooked, slice_at
from redline_bore.job.state.job_state import JobState

if TYPE_CHECKING:
    from redline_bore.core.axis import CylinderFit


BLIND = {
    "two-point": "Two points cannot see 3 or 5 lobes, nor a crooked hole.",
    "three-point": "Three points cannot see an oval, nor 4 lobes.",
    "sweep": "A sweep sees every lobe to the 15th at its own depth; between depths nothing is read.",
}


CARE = "Lock the spindle's drive before sweeping by hand. Fingers out of the hole while it turns."


def advise(state: JobState, cylinder: int, depth_mm: float, show: Show) -> Advice:
    """What the slice and the axis say."""
    plate = state.clamped.plate_on
    cut, (fit, why) = slice_at(state, cylinder, depth_mm, plate), axis_of(state, cylinder, plate)
    sentence, mark = _sentence(state, cylinder, cut, fit, show)
    return Advice(
        f"Call · cylinder {cylinder}, {show.down(cut.depth_mm)}", sentence, _figures(state, cut, fit, show),
        _changes(state, cut, why), _working(state, cut, fit, show), "", CARE, mark,
    )  # fmt: skip


def _sentence(state: JobState, cylinder: int, cut: Slice, fit: CylinderFit | None, show: Show) -> Said:
    if fit is not None and is_crooked(state, fit):
        where = f"{fit.axis.drift_direction_deg:.0f}°"
        return Said(f"Crooked: the axis leans {show.unit(show.size(fit.axis.drift_mm))} towards {where}.", Mark.LOOK)
    if cut.swept is not None and cut.swept.fit is not None:
        order = cut.swept.fit.largest_order
        name = {2: "an oval", 3: "three lobes", 4: "four lobes", 5: "five lobes"}.get(order, f"{order} lobes")
        size = cut.swept.fit.amplitudes_mm[order - 2]
        if show.is_nought(size):
            return Said("Here the hole is round, as far as a size can be told.", Mark.PLAIN)
        return Said(f"Here the hole is {name} of {show.unit(show.size(size))} on radius.", Mark.PLAIN)
    if cut.level is not None and cut.level.fit.long_axis_deg is not None:
        return Said(f"Oval, long at {cut.level.fit.long_axis_deg:.0f}°. Only a sweep tells the rest.", Mark.PLAIN)
    if cut.level is not None:
        return Said("Two directions only: an oval may hide between them.", Mark.LOOK)
    if cut.three is not None:
        return Said("Read by three points: the mean is sure, an oval is not seen.", Mark.LOOK)
    return Said(f"Nothing round is read in cylinder {cylinder} yet.", Mark.LOOK)


def _figures(state: JobState, cut: Slice, fit: CylinderFit | None, show: Show) -> tuple[FigureLine, ...]:
    lines: list[FigureLine] = []
    if cut.level is not None and cut.doubt is not None:
        f, d = cut.level.fit, cut.doubt
        lines.append(FigureLine("two-point mean", _with(f.mean_mm, d.mean_mm, show)))
        if f.out_of_round_second_harmonic_mm is not None and d.out_of_round_second_harmonic_mm is not None:
            value = _with(f.out_of_round_second_harmonic_mm, d.out_of_round_second_harmonic_mm, show)
            lines.append(FigureLine("oval, on diameter", value))
    if cut.three is not None:
        t = cut.three.fit
        lines.append(FigureLine("three-point mean", _with(t.mean_mm, reading_doubt(state).own_mm, show)))
        if t.lobe_mm is not None:
            lines.append(FigureLine("three lobes, on radius", show.unit(show.size(t.lobe_mm))))
    if cut.swept is not None and cut.swept.fit is not None:
        s = cut.swept.fit
        mean_sd = 0.0 if s.order_sd_mm is None else math.sqrt(2.0) * s.order_sd_mm
        lines.append(FigureLine("swept Ø, least squares", _with(s.least_squares.diameter_mm, mean_sd, show)))
        for name, found in (("least squares", s.roundness_ls_mm), ("minimum zone", s.roundness_mz_mm)):
            text = show.size(found) if s.roundness_sd_mm is None else _with(found, s.roundness_sd_mm, show)
            lines.append(FigureLine(f"roundness, {name}", text))
    if fit is not None:
        crooked = is_crooked(state, fit)
        value = _with(fit.axis.drift_mm, fit.drift_sd_mm, show)
        lines.append(FigureLine("axis drifts", value, Mark.LOOK if crooked else Mark.SOUND))
        lines.append(FigureLine("cylindricity, min. zone", show.size(fit.cylindricity_mz_mm)))
    else:
        lines.append(FigureLine("axis of the hole", "not known", Mark.LOOK))
    return tuple(lines)


def _with(value_mm: float, sd_mm: float, show: Show) -> str:
    return f"{show.size(value_mm)} ± {show.doubt(2.0 * sd_mm)}"


def _changes(state: JobState, cut: Slice, why_no_axis: str) -> tuple[str, ...]:
    notes = []
    if cut.level is not None:
        notes.append(BLIND["two-point"])
    if cut.three is not None:
        notes.append(BLIND["three-point"])
    if cut.swept is not None:
        notes.append(f"{cut.swept.why_not}." if cut.swept.why_not else Note(BLIND["sweep"]))
    if why_no_axis:
        notes.append(f"{why_no_axis}.")
    elif state.gauging.spindle is not None:
        notes.append(
            Note(
                f"The axis is against the spindle's, set up on the {state.gauging.spindle.based_on}: if that is out, so is this."
            )
        )
    return tuple(notes)


def _working(state: JobState, cut: Slice, fit: CylinderFit | None, show: Show) -> tuple[WorkLine, ...]:
    lines: list[WorkLine] = []
    if cut.level is not None:
        lines.append(_harmonics_line(cut.level, show))
    if cut.swept is not None and cut.swept.fit is not None:
        s = cut.swept.fit
        lines.append(
            WorkLine(
                f"sweep of {s.points} points: centre {show.away(s.least_squares.x_mm)} towards 0°, "
                f"{show.away(s.least_squares.y_mm)} towards 90° of the spindle",
                "least squares of true distances, ISO 12181",
            )
        )
        around, plug = s.circumscribed.diameter_mm, s.inscribed.diameter_mm
        lines.append(
            WorkLine(f"smallest circle around {show.size(around)}, largest plug {show.size(plug)}", "ISO 12181")
        )
        listed = ", ".join(f"{k}: {show.fine(a)}" for k, a in enumerate(s.amplitudes_mm[:6], start=2))
        lines.append(WorkLine(f"lobes on radius, by order: {listed}", "waves about the least-squares centre"))
    if fit is not None:
        lines.append(
            WorkLine(
                f"axis at the top {show.away(fit.axis.top_x_mm)}, {show.away(fit.axis.top_y_mm)}; at the bottom "
                f"{show.away(fit.axis.bottom_x_mm)}, {show.away(fit.axis.bottom_y_mm)}: it moves "
                f"{show.size(fit.axis.drift_mm)} over {show.depth(fit.length_mm)}",
                "least-squares cylinder, ISO 12180",
            )
        )
        lines.append(WorkLine(f"largest straight plug that goes in: {show.size(fit.plug_diameter_mm)}", "ISO 12180"))
        lines.append(
            WorkLine(
                f"cylindricity on radius: least squares {show.size(fit.cylindricity_ls_mm)}, minimum zone "
                f"{show.size(fit.cylindricity_mz_mm)}; crooked from {show.size(state.figures.number('gauging.crooked_drift'))}",
                f"ISO 12180; {cited('gauging.crooked_drift')}",
            )
        )
    return tuple(lines)


def _harmonics_line(level: Level, show: Show) -> WorkLine:
    f = level.fit
    sizes = [2.0 * math.hypot(a, b) for a, b in zip(f.cos_mm, f.sin_mm, strict=True)]
    told = (
        ", ".join(f"{2 * k} lobes {show.fine(size)}" for k, size in enumerate(sizes, start=1)) or "no lobe can be told"
    )
    return WorkLine(
        f"two points, {f.distinct_chords} directions: mean {show.fine(f.mean_mm)}; on diameter {told}",
        "least squares on cos 2kt, sin 2kt",
    )
