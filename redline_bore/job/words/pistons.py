"""Pistons and clearances in words."""

from __future__ import annotations

from redline_bore.core.assign import Assignment
from redline_bore.core.fit import ClearanceWindow, Decision, could_be_in
from redline_bore.core.show import Show, cylinders
from redline_bore.core.volumes import compression_ratio, swept_cm3
from redline_bore.job.call.pistons import AssignmentLacks, Fit, assignment_of, common_size, fits_of, rings_of, to_file
from redline_bore.job.card import Advice, FigureLine, Mark, Note, Said, WorkLine
from redline_bore.job.kinds.call import chamber_line, chamber_of
from redline_bore.job.redline import leading_window, windows, wrong_pistons
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words.shared_figures import redline_by_piston
from redline_bore.job.words.stand_by import wrong_piston_words

CARE = "Measure a piston where its maker says, at the block's temperature. Handle it by the pin boss."

ASSIGNMENT = {
    AssignmentLacks.PISTONS: "Measure the pistons meant for {cylinders}.",
    AssignmentLacks.HONED: "Who fits where can be told once every bore is honed.",
    AssignmentLacks.GAUGED: "Gauge every bore first.",
    AssignmentLacks.NOT_AS_MANY: "There are not as many pistons as bores.",
}


def advise(state: JobState, cylinder: int, show: Show) -> Advice:
    """What the pistons ask for, and whether the clearances stand."""
    fits, window = fits_of(state), leading_window(state)
    fit = fits[cylinder - 1]
    sentence, mark = _sentence(state, fits, window, show)
    return Advice(
        f"Call · piston {cylinder}", sentence, _figures(state, fit, show), _changes(state, fit, window, show),
        _working(state, fit, window, show), "", CARE, mark,
    )  # fmt: skip


def _sentence(state: JobState, fits: tuple[Fit, ...], window: ClearanceWindow, show: Show) -> Said:
    wrong = wrong_pistons(state)
    if wrong:
        return Said(wrong_piston_words(wrong[0], show), Mark.STOP)
    missing = [f.cylinder for f in fits if f.piston_mm is None]
    if missing:
        return Said(f"Measure the pistons of {cylinders(missing)}. Have them in hand before the bar turns.", Mark.LOOK)
    best = assignment_of(state).best
    swaps = ""
    if best is not None and best.piston_for_bore != tuple(range(len(fits))) and all(f.bore_mm for f in fits):
        told = ", ".join(f"{p + 1} to bore {b + 1}" for b, p in enumerate(best.piston_for_bore) if p != b)
        swaps = f"Change pistons about: {told}."
    out = [f.cylinder for f in fits if f.decision is Decision.OUT and f.to_come_mm is None]
    if out:
        tight = [c for c in out if (fits[c - 1].clearance_mm or 0.0) < window.low_mm]
        side = "under" if tight == out else "over" if not tight else "out of"
        return Said(f"The clearance of {cylinders(out)} is {side} {window.source}. {swaps}".strip(), Mark.STOP)
    if to_come := [f for f in fits if f.to_come_mm is not None and f.decision is Decision.OUT]:
        left = ", ".join(show.size(f.to_come_mm or 0.0) for f in to_come)
        return Said(f"{cylinders([f.cylinder for f in to_come]).capitalize()}: {left} still to come off.", Mark.PLAIN)
    if swaps:
        return Said(swaps, Mark.LOOK)
    close = [f.cylinder for f in fits if f.decision is Decision.TOO_CLOSE]
    if close:
        return Said(f"{cylinders(close).capitalize()}: too close to call with this gauge.", Mark.LOOK)
    common = common_size(state)
    if common is not None and common.all_in:
        return Said(f"One size would do for all: {show.unit(show.size(common.size_mm))}.", Mark.SOUND)
    return Said("Each bore to its own piston: one common size would leave the window.", Mark.PLAIN)


def _figures(state: JobState, fit: Fit, show: Show) -> tuple[FigureLine, ...]:
    lines = []
    if fit.piston_mm is None or fit.finish_mm is None or fit.doubt_mm is None:
        lines.append(FigureLine(f"piston {fit.cylinder}", "not measured", Mark.LOOK, "piston_measured"))
    else:
        lines.append(
            FigureLine(f"piston {fit.cylinder} at {show.reference}", show.size(fit.piston_mm), by="piston_measured")
        )
        if fit.over_nominal_mm is not None:
            lines.append(
                FigureLine(
                    "against its size in name",
                    "as named" if show.is_nought(fit.over_nominal_mm) else show.away(fit.over_nominal_mm),
                )
            )
        lines.append(redline_by_piston(fit.cylinder, fit.finish_mm, show))
        if fit.clearance_mm is not None and fit.most_mm is not None:
            marks = {Decision.IN: Mark.SOUND, Decision.OUT: Mark.STOP, Decision.TOO_CLOSE: Mark.LOOK, None: Mark.LOOK}
            mark = Mark.PLAIN if fit.to_come_mm is not None else marks[fit.decision]
            lines.append(
                FigureLine(
                    f"{fit.cylinder} clearance",
                    f"{show.between(fit.clearance_mm, fit.most_mm)} ± {show.doubt(fit.doubt_mm)}",
                    mark,
                )
            )
        if fit.closes_hot_mm is not None:
            lines.append(FigureLine("closes hot, growing freely", show.unit(show.size(fit.closes_hot_mm))))
        rings = rings_of(state, fit.finish_mm)
        lines.append(FigureLine("ring gaps, top, 2nd", f"{show.size(rings.top_mm)}, {show.size(rings.second_mm)}"))
        if (off := to_file(state, fit.cylinder, fit.finish_mm)) is not None:
            lines.append(
                FigureLine(
                    "to file off the top ring", "nothing" if off <= 0.0 or show.is_nought(off) else show.size(off)
                )
            )
        lines += _volume_lines(state, fit.finish_mm, show)
    return tuple(lines)


def _volume_lines(state: JobState, finish_mm: float, show: Show) -> list[FigureLine]:
    """Swept volume before and after; compression too where the chamber was stated."""
    b = state.block
    before, after = (swept_cm3(size, b.stroke_mm) * b.cylinders for size in (b.bore_mm, finish_mm))
    lines = [FigureLine("swept, all", f"{show.volume(before).split()[0]} → {show.volume(after)}")]
    if state.calling.chamber is not None:
        above = chamber_of(state.calling.chamber)
        ratios = [compression_ratio(size, b.stroke_mm, above) for size in (b.bore_mm, finish_mm)]
        lines.append(FigureLine("compression to 1", f"{ratios[0]:.2f} → {ratios[1]:.2f}", by="chamber_stated"))
    return lines


def _changes(state: JobState, fit: Fit, window: ClearanceWindow, show: Show) -> tuple[str, ...]:
    notes = []
    others = [w for w in windows(state) if w.source != window.source]
    if others:
        told = "; ".join(f"{w.source} {show.size(w.low_mm)}–{show.size(w.high_mm)}" for w in others)
        notes.append(
            f"By {window.source} {show.size(window.low_mm)}–{show.size(window.high_mm)}. Others say: {told}. C changes who leads."
        )
    if fit.doubt_mm is not None and not could_be_in(window, fit.doubt_mm):
        notes.append("The window is narrower than twice the gauge's doubt: nothing can be called in.")
    if fit.hot_mm is not None and fit.hot_mm < 0.0:
        notes.append(
            Note(
                "How far it closes hot is free growth, for comparing alloys and duties: skirts are barrelled and yield, so it is no interference."
            )
        )
    if (
        state.calling.chamber is not None
        and fit.finish_mm is not None
        and state.calling.chamber.gasket_bore_mm < fit.finish_mm
    ):
        notes.append("The gasket is smaller than the finished bore: it would stand in the hole.")
    if state.calling.chamber is None:
        notes.append(Note(f"For the compression type M, {chamber_line(state.block, show)}."))
    found = assignment_of(state)
    if found.best is not None:
        notes.append(Note(_order_words(found.best, show)))
    elif found.lacks is not None:
        notes.append(ASSIGNMENT[found.lacks].format(cylinders=cylinders(list(found.cylinders))))
    piston = state.calling.piston(fit.cylinder)
    if piston is not None and not piston.warm_known:
        notes.append(f"The piston's temperature was not taken; it is counted as {show.reference}.")
    return tuple(notes)


def _order_words(best: Assignment, show: Show) -> str:
    """The best order of pistons, beside what taking the nearest one bore by bore would do."""
    order = ", ".join(f"{p + 1} to {b + 1}" for b, p in enumerate(best.piston_for_bore))
    miss = best.worst_miss_mm
    worst = "all on the aim" if show.is_nought(miss) else f"worst {show.size(miss)} off the aim"
    told = f"Best fit, piston to bore: {order}; {worst}."
    return told + (" Taking the nearest bore by bore would fit worse." if best.better_than_nearest else "")


def _working(state: JobState, fit: Fit, window: ClearanceWindow, show: Show) -> tuple[WorkLine, ...]:
    lines = [
        WorkLine(
            f"{w.source}: {show.size(w.low_mm)}–{show.size(w.high_mm)}, aim {show.size(w.aim_mm)}",
            "leads" if w == window else "",
        )
        for w in windows(state)
    ]
    if fit.piston_mm is not None and fit.finish_mm is not None:
        lines.append(
            WorkLine(
                f"finish = piston {show.size(fit.piston_mm)} + aim {show.size(window.aim_mm)} = {show.size(fit.finish_mm)}",
                "measured, never a size in name",
            )
        )
    if (common := common_size(state)) is not None:
        gaps = ", ".join(show.size(g) for g in common.clearances_mm)
        lines.append(
            WorkLine(
                f"one size for all {show.size(common.size_mm)}: clearances {gaps}; worst {show.size(common.worst_miss_mm)} off the aim",
                "",
            )
        )
    best = assignment_of(state).best
    if best is not None:
        told = ", ".join(f"bore {b + 1} piston {p + 1}" for b, p in enumerate(best.piston_for_bore))
        lines.append(
            WorkLine(f"best fit: {told}; worst miss {show.size(best.worst_miss_mm)}", "least sum of squared misses")
        )
        if best.nearest_first is not None:
            near = ", ".join(f"{b + 1}–{p + 1}" for b, p in enumerate(best.nearest_first))
            lines.append(WorkLine(f"nearest first would be {near}", "bore by bore, for comparison"))
    return tuple(lines)
