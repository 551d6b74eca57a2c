"""What to do now at the finish: trace, stop, more plateau strokes, or a coarser step; and what each figure means."""

from __future__ import annotations

from redline_bore.core.fit import Decision
from redline_bore.job.advice import Advice, FigureLine, Mark, Show, WorkLine, cylinders
from redline_bore.job.finish import (
    SPOTS,
    Judged,
    Twins,
    WallFinish,
    finish_of,
    finish_windows,
    spot_name,
    spots_of,
    strokes_had,
    texture_at,
)
from redline_bore.job.finish_words import texture_figure, texture_unit
from redline_bore.job.hone import progress_of
from redline_bore.job.hone_advice import plateau_rate
from redline_bore.job.hone_setup import angle_aim, kinematics_of
from redline_bore.job.lessons import REACHED, STROKES, lesson_words
from redline_bore.job.plateau import PlateauForecast
from redline_bore.job.state import JobState

CARE = "Nothing may touch the table while it traces. Wipe the wall first: a speck is a peak to the stylus."
MARKS = {Decision.IN: Mark.SOUND, Decision.OUT: Mark.STOP, Decision.TOO_CLOSE: Mark.LOOK, None: Mark.PLAIN}


def advise(state: JobState, cylinder: int, show: Show) -> Advice:
    """What the finish step says of a cylinder."""
    found = finish_of(state, cylinder)
    sentence, mark = _sentence(state, found, show)
    return Advice(
        f"Call · cylinder {cylinder}", sentence, _figures(state, found, show), _changes(state, found, show),
        _working(state, found, show), _button(state), CARE, mark,
    )  # fmt: skip


def not_traced(state: JobState) -> list[int]:
    """The cylinders without a trace of their finished wall."""
    return [c for c in state.cylinders if finish_of(state, c).stage != "after"]


def _button(state: JobState) -> str:
    if not_traced(state):
        return ""
    return "Go to sign off" if state.stamp("finish") is not None else "Stamp and sign off"


def _sentence(state: JobState, found: WallFinish, show: Show) -> tuple[str, Mark]:
    c = found.cylinder
    if found.stage == "none":
        before = strokes_had(state, c) == 0.0
        return f"Trace cylinder {c}" + (
            " before its plateau: valleys not there now never will be." if before else "."
        ), Mark.LOOK
    if found.stage == "before":
        return _before(found, show)
    out, close = found.where(Decision.OUT), found.where(Decision.TOO_CLOSE)
    if not out and not close:
        if any(j.window is not None for j in found.judged):
            return f"The finish of cylinder {c} is in its windows.", Mark.SOUND
        return f"Cylinder {c} is traced. No window is known for {_names(found.judged)}.", Mark.PLAIN
    worst = out or close
    shallow = next((j for j in worst if (j.parameter, j.side) == ("Rvk", "low")), None)
    first = shallow or worst[0]
    said = "is" if out else "may be"
    where = "under" if first.side == "low" else "over"
    return f"{first.parameter} {said} {where} its window: {first.remedy}.", Mark.STOP if out else Mark.LOOK


def _before(found: WallFinish, show: Show) -> tuple[str, Mark]:
    rz = found.of("Rz")
    c = found.cylinder
    if rz is None or rz.window is None or rz.decision is Decision.IN:
        return f"Cylinder {c} has the valleys it needs. The Plateau page says how many strokes.", Mark.SOUND
    if rz.side == "low" and rz.decision is Decision.OUT:
        return (
            f"Stop before the plateau: Rz {texture_figure(rz.mean, show)} is under {texture_figure(rz.window.low, show)}. A coarser step first.",
            Mark.STOP,
        )
    if rz.side == "low":
        return (
            f"Too close: Rz of cylinder {c} may be under its window. Trace another spot before the plateau.",
            Mark.LOOK,
        )
    return f"Deep marks in cylinder {c}: Rz is over its window, or may be. A longer plateau; see its page.", Mark.LOOK


def _names(judged: tuple[Judged, ...]) -> str:
    return ", ".join(j.parameter for j in judged)


def _figures(state: JobState, found: WallFinish, show: Show) -> tuple[FigureLine, ...]:
    if found.stage == "none":
        return (FigureLine(f"cylinder {found.cylinder}", "not traced", Mark.LOOK),)
    lines = [
        FigureLine(
            f"{j.parameter}, {texture_unit(show)}",
            f"{texture_figure(j.mean, show)} ± {texture_figure(j.u, show)}",
            MARKS[j.decision],
        )
        for j in found.judged
    ]
    had = found.traces[0].plateau_strokes
    lines.append(FigureLine("plateau strokes then", "not known" if had is None else f"{had:g}"))
    spots = [spot_name(state, t.depth_mm) or "spot not said" for t in found.traces]
    lines.append(
        FigureLine("traced at", ", ".join(dict.fromkeys(spots)), Mark.PLAIN if len(found.traces) > 2 else Mark.LOOK)
    )
    return tuple(lines)


def _changes(state: JobState, found: WallFinish, show: Show) -> tuple[str, ...]:
    notes = [
        f"{j.parameter} {'over' if j.side == 'high' else 'under'}{'' if j.decision is Decision.OUT else ', perhaps'}: {j.meaning}."
        for j in found.judged
        if j.decision in (Decision.OUT, Decision.TOO_CLOSE) and j.meaning
    ]
    if found.traces and len(found.traces) < int(state.figures.number("finish.least_traces")):
        missing = [
            s for s, d in zip(SPOTS, spots_of(state), strict=True) if d not in [t.depth_mm for t in found.traces]
        ]
        told = " and ".join(missing[:2])
        notes.append(
            f"{len(found.traces)} trace{'s' * (len(found.traces) > 1)}: the wall's own spread is not known yet. Trace {told} too."
        )
    if "spike" in found.flags:
        notes.append(
            "One peak stands out far above all others: dirt perhaps. It is in the figures; wipe and trace again."
        )
    if "arc" in found.flags:
        notes.append("Taken around the bore: its arc was taken out by a parabola before the filter.")
    if "rk_short" in found.flags:
        notes.append("The trace is short of 5.6 mm: the family rests on less than 4 mm.")
    if state.practice("finish") != "rk family":
        notes.append(
            "Judged by Ra and Rz alone: two walls of the same Ra can be nothing alike. C judges by the family."
        )
    gone = {t.plateau_strokes for t in found.traces}
    had = strokes_had(state, found.cylinder)
    if had is not None and found.traces and None not in gone and had > max(g for g in gone if g is not None):
        notes.append(
            f"Since this trace the wall has had {had - max(g for g in gone if g is not None):g} more plateau strokes: trace it again."
        )
    return tuple(notes) if found.traces else (*notes, *_family_notes(state, show))


def _working(state: JobState, found: WallFinish, show: Show) -> tuple[WorkLine, ...]:
    unit = texture_unit(show)
    lines = [
        WorkLine(
            "levelled by least squares; Gaussian filter, cutoff 0.8 mm, 0.4 mm cut off each end a pass", "ISO 16610-21"
        ),
        WorkLine("Ra over the middle 4 mm; Rz the mean of five 0.8 mm sections", "ISO 21920-2"),
        WorkLine(
            "Rk family: valleys suppressed in two passes, flattest 40 % of the curve, equal-area triangles",
            "ISO 13565-1, -2",
        ),
    ]
    for j in found.judged:
        window = (
            ""
            if j.window is None
            else f"; window {texture_figure(j.window.low, show)}–{texture_figure(j.window.high, show)}: {j.decision}"
        )
        spread = (
            ""
            if j.count < 2
            else f", {texture_figure(j.least, show)}–{texture_figure(j.most, show)} over {j.count} traces"
        )
        lines.append(
            WorkLine(
                f"{j.parameter} = {texture_figure(j.mean, show)} ± {texture_figure(j.u, show)} {unit}{spread}{window}",
                "guard band, ISO 14253-1; window by " + ("nobody" if j.window is None else j.window.source),
            )
        )
    for t in found.traces:
        x = texture_at(t)
        told = ", ".join(
            f"{n} {texture_figure(v, show, n)}"
            for n in ("Rq", "Rt", "Rsk", "Rku", "Mr1", "Mr2", "A1", "A2", "Vo", "Rpq", "Rvq", "Rmq")
            if (v := x.value(n)) is not None
        )
        lines.append(WorkLine(f"{spot_name(state, t.depth_mm) or 'trace'}, entry {t.seq}: {told}", f"from {t.source}"))
    return tuple(lines)


def windows_page(state: JobState, show: Show) -> Advice:
    """All cylinders side by side."""
    found = [finish_of(state, c) for c in state.cylinders]
    fine = [f.cylinder for f in found if f.fine]
    out = [f.cylinder for f in found if f.where(Decision.OUT)]
    missing = not_traced(state)
    if len(fine) == len(found):
        sentence, mark = "Every cylinder is in its windows.", Mark.SOUND
    elif out:
        sentence, mark = f"{cylinders(out).capitalize()}: out of a window.", Mark.STOP
    elif missing:
        sentence, mark = f"{cylinders(missing).capitalize()}: not traced since the plateau.", Mark.LOOK
    else:
        close = [f.cylinder for f in found if f.where(Decision.TOO_CLOSE)]
        sentence, mark = f"{cylinders(close).capitalize()}: too close to call. Trace more spots.", Mark.LOOK
    windows = finish_windows(state)
    figures = tuple(
        FigureLine(
            f"{n}, {texture_unit(show)}",
            f"{texture_figure(w.low, show)}–{texture_figure(w.high, show)}" + (", own" if w.own else ""),
        )
        for n, w in windows.items()
    )
    notes = [f"Windows: {windows['Rk'].source}.", "The ring maker's own: M, then window Rvk 1.2 2.0 (µm)."]
    return Advice(
        "Call · block", sentence, figures, tuple(notes), _windows_working(state, show), _button(state), CARE, mark
    )


def _windows_working(state: JobState, show: Show) -> tuple[WorkLine, ...]:
    return tuple(
        WorkLine(f"{n} {texture_figure(w.low, show)}–{texture_figure(w.high, show)} {texture_unit(show)}", w.source)
        for n, w in finish_windows(state).items()
    )


def plateau_page(
    state: JobState, cylinder: int, found: PlateauForecast | None, missing: str, busy: bool, show: Show
) -> Advice:
    """How many plateau strokes, or that no number of them will do."""
    if found is None:
        said = "The path of this wall is being worked out." if busy else f"{missing[:1].upper()}{missing[1:]}."
        return Advice(f"Call · plateau {cylinder}", said, care=CARE, mark=Mark.PLAIN if busy else Mark.LOOK)
    sentence, mark = _plateau_sentence(state, found, show)
    return Advice(
        f"Call · plateau {cylinder}", sentence, _plateau_figures(state, found, show), _plateau_notes(state, found, show),
        _plateau_working(found, show), "Go to the hone", CARE, mark,
    )  # fmt: skip


def _plateau_sentence(state: JobState, f: PlateauForecast, show: Show) -> tuple[str, Mark]:
    if f.stretch_um is None:
        first = f.failing[0]
        if f.coarser is not None:
            if f.coarser.fits is False:
                return (
                    "Unreachable from here, and what is left before the redline does not allow a coarser step.",
                    Mark.STOP,
                )
            return (
                f"Unreachable from here: Rvk comes to {texture_figure(first.nearest, show)} at most. A coarser step first.",
                Mark.STOP,
            )
        if first.side == "apart":
            return "Each figure comes into its window, but never all at once.", Mark.LOOK
        return (
            f"{first.parameter} never comes into its window: {texture_figure(first.nearest, show)} at the nearest.",
            Mark.STOP,
        )
    done = f.had - f.begins
    stop = f.stop_at or 0
    if f.stretch_um[0] <= 0.0 and done <= 0.0:
        return "It is in its windows as traced. No stroke more than the size needs.", Mark.SOUND
    if f.stretch_um[1] < done * f.rate.low_um:
        return "By now it is past its windows. Stop, and trace it.", Mark.STOP
    if done >= stop and finish_of(state, f.cylinder).stage == "after":
        fine = finish_of(state, f.cylinder).fine
        told = "every figure is in its window" if fine else "not every figure is in its window"
        return f"Traced after {f.had:g} strokes: {told}.", Mark.SOUND if fine else Mark.LOOK
    if done >= stop:
        return "The strokes for the windows are done. Trace it.", Mark.SOUND
    more = stop - int(done)
    if f.sure is not None:
        return (
            f"{more} more plateau strokes, then trace: {f.sure[0]} to {f.sure[1]} in all reach every window.",
            Mark.PLAIN,
        )
    return f"{more} more plateau strokes, no more, then trace again: strokes to metal is not known well.", Mark.LOOK


def _plateau_figures(state: JobState, f: PlateauForecast, show: Show) -> tuple[FigureLine, ...]:
    lines = []
    if f.strokes is not None:
        lines.append(FigureLine("in the windows from, to", f"{f.strokes[0]:.0f}–{f.strokes[1]:.0f} strokes"))
    lines.append(FigureLine("had by now", f"{f.had:g}"))
    lines.append(
        FigureLine(
            "metal a stroke, a side", f"{f.rate.um * 1000:.0f} nm ({f.rate.low_um * 1000:.0f}–{f.rate.high_um * 1000:.0f})",
            Mark.PLAIN if len(f.rate.pairs) > 1 else Mark.LOOK,
        )
    )  # fmt: skip
    at = f.stop_at
    after = finish_of(state, f.cylinder)
    if after.stage == "after" and f.had > f.begins:
        told = f.figures_after(f.had - f.begins)
        traced = {n: sum(getattr(texture_at(t).family, n) for t in after.traces) / len(after.traces) for n in told}
        lines += [
            FigureLine(f"{n} foretold, traced", f"{texture_figure(told[n], show)}, {texture_figure(traced[n], show)}")
            for n in ("Rpk", "Rk", "Rvk")
        ]
    elif at is not None and at > 0:
        told = f.figures_after(at)
        lines += [
            FigureLine(f"{n} after {at}, {texture_unit(show)}", texture_figure(told[n], show))
            for n in ("Rpk", "Rk", "Rvk")
        ]
        size = at * plateau_rate(state, progress_of(state, f.cylinder))
        enough = f.left_mm is None or size <= f.left_mm + 0.0005
        lines.append(FigureLine(f"size {at} strokes take", show.fine(size), Mark.PLAIN if enough else Mark.LOOK))
    if f.left_mm is not None:
        lines.append(FigureLine("left before the redline", show.size(f.left_mm)))
    return tuple(lines)


def _plateau_notes(state: JobState, f: PlateauForecast, show: Show) -> tuple[str, ...]:
    notes = []
    if not f.rate.pairs:
        notes.append(
            "No pair of traces before and after has been booked in this metal with this tool: strokes are a starting point."
        )
    elif len(f.rate.pairs) == 1:
        notes.append("One pair of traces only: the spread is a guess.")
    if f.coarser is not None:
        c = f.coarser
        room = "what is left is not known" if c.left_mm is None else f"{show.size(c.left_mm)} is left"
        notes.append(
            f"For Rz {texture_figure(c.rz_um, show)} take {c.stones}: {show.size(c.metal_mm)} on diameter; {room}."
        )
        if c.fits is False:
            notes.append(
                "Past the redline are only the ways out of the hone step: the next piston, a coated one, a sleeve."
            )
    for x in f.failing:
        if x.side != "apart":
            notes.append(
                f"{x.parameter} {texture_figure(x.nearest, show)} at the nearest; window {texture_figure(x.window.low, show)}–{texture_figure(x.window.high, show)}."
            )
    notes.append("Rk may rise before it falls: the whole path is followed, nothing is drawn out beyond it.")
    return (*notes, *_family_notes(state, show))


def _family_notes(state: JobState, show: Show) -> tuple[str, ...]:
    """What the signed jobs of this family needed and reached."""
    wanted = (STROKES, REACHED)
    return tuple(f"This family before: {lesson_words(x, show)}." for x in state.lessons if x.what in wanted)


def _plateau_working(f: PlateauForecast, show: Show) -> tuple[WorkLine, ...]:
    lines = [
        WorkLine(
            "the trace is cut along its reference line, given the fine tool's texture, and filtered again", "methods 13"
        ),
        WorkLine(
            f"{f.rate.um * 1000:.1f} nm a stroke a side, {f.rate.low_um * 1000:.1f}–{f.rate.high_um * 1000:.1f} at k = 2",
            f.rate.source,
        ),
    ]
    lines += [
        WorkLine(
            f"job {p.job}, cylinder {p.cylinder}: {p.removed_um:.3f} µm in {p.strokes:g} strokes",
            "placed on its own path",
        )
        for p in f.rate.pairs[:8]
    ]
    if f.stretch_um is not None:
        lines.append(
            WorkLine(
                f"in every window from {f.stretch_um[0]:.3f} to {f.stretch_um[1]:.3f} µm a side", "path and windows"
            )
        )
    for n, w in f.windows.items():
        lines.append(WorkLine(f"{n} {texture_figure(w.low, show)}–{texture_figure(w.high, show)}", w.source))
    return tuple(lines)


def hatch_page(state: JobState, cylinder: int, show: Show) -> Advice:
    """The crosshatch as seen against the one wanted."""
    seen, aim = state.hatch_of(cylinder), angle_aim(state)
    wanted = FigureLine("wanted, included", f"{aim.low_deg:.0f}–{aim.high_deg:.0f}°")
    source = WorkLine(f"wanted {aim.low_deg:g}–{aim.high_deg:g}° included", aim.source)
    if seen is None:
        return Advice(
            f"Call · crosshatch {cylinder}", "No picture of this wall. Light it from the side, axis upright; Ctrl+I takes the file.",
            (wanted,), (), (source,), "", CARE, Mark.PLAIN,
        )  # fmt: skip
    f = state.figures
    notes, mark = [], Mark.SOUND
    sentence = f"The crosshatch of cylinder {cylinder} is {seen.included_deg:.0f}° included, as wanted."
    off = max(aim.low_deg - seen.included_deg, seen.included_deg - aim.high_deg, 0.0)
    if off > max(seen.u_deg, f.number("finish.apart_deg")):
        flat = seen.included_deg < aim.low_deg
        sentence, mark = f"Crosshatch {seen.included_deg:.0f}° is too {'flat' if flat else 'steep'}.", Mark.LOOK
        notes.append(
            "Flat holds the oil and drags it up to burn."
            if flat
            else "Steep drains the oil, turns the rings fast and wears them."
        )
    if abs(seen.lean_deg) > f.number("finish.lean_deg"):
        mark = Mark.LOOK
        notes.append(
            f"One family lies {abs(2.0 * seen.lean_deg):.0f}° steeper than the other: in and out were not at one speed."
        )
    promised = kinematics_of(state).hatch
    told = "not known"
    if promised is not None:
        told = f"{promised.included_deg:.1f}°"
        if abs(promised.included_deg - seen.included_deg) > max(seen.u_deg, f.number("finish.apart_deg")):
            mark = Mark.LOOK
            notes.append(
                f"The set-up promises {told}: look at the true turns and strokes, and that the picture's axis is upright."
            )
    return Advice(
        f"Call · crosshatch {cylinder}", sentence,
        (
            FigureLine("included", f"{seen.included_deg:.1f}° ± {seen.u_deg:.1f}°", mark),
            FigureLine("from the horizontal", f"{seen.up_deg:.1f}° and {seen.down_deg:.1f}°"),
            FigureLine("lean", f"{seen.lean_deg:+.1f}°".replace("-", "−")), wanted,
            FigureLine("promised by the set-up", told, Mark.PLAIN if promised is not None else Mark.LOOK),
            FigureLine("confidence", f"{seen.confidence:.0%}", Mark.PLAIN if seen.confidence > 0.5 else Mark.LOOK),
        ),
        tuple(notes), (source, WorkLine("the picture's waves by direction; two families add in it", "methods 15")), "", CARE, mark,
    )  # fmt: skip


def paper_page(state: JobState, cylinder: int, twins: Twins | None, show: Show) -> Advice:
    """Probability paper, and two walls of one Ra."""
    found = finish_of(state, cylinder)
    if found.stage == "none":
        return Advice(f"Call · cylinder {cylinder}", f"Trace cylinder {cylinder} first.", mark=Mark.LOOK, care=CARE)
    paper = texture_at(found.traces[len(found.traces) // 2]).paper
    lines = []
    if paper.Rpq is None or paper.Rvq is None or paper.Rmq is None:
        sentence = "No plain knee on probability paper: plateau and valleys run into one another."
        lines.append(FigureLine("Rpq, Rvq, Rmq", "not told", Mark.LOOK))
    else:
        sentence = f"The plateau carries {paper.Rmq:.0f} % of the wall."
        lines = [
            FigureLine(f"Rpq, {texture_unit(show)}", texture_figure(paper.Rpq, show)),
            FigureLine(f"Rvq, {texture_unit(show)}", texture_figure(paper.Rvq, show)),
            FigureLine("Rmq, %", f"{paper.Rmq:.1f}"),
        ]
    notes = []
    if twins is not None and twins.times > 1.3:
        a, b = (texture_at(t) for t in (twins.first, twins.second))
        lines.append(
            FigureLine(
                f"Ra of both, {texture_unit(show)}", f"{texture_figure(a.Ra, show)}, {texture_figure(b.Ra, show)}"
            )
        )
        notes.append(
            f"Two traces agree in Ra and differ {twins.times:.1f} times in their family: Ra alone would call them alike."
        )
    return Advice(
        f"Call · cylinder {cylinder}", sentence, tuple(lines), tuple(notes),
        (WorkLine("two straight parts on probability paper, told only where five ways of finding the knee agree", "ISO 13565-3"),), "", CARE,
        Mark.PLAIN,
    )  # fmt: skip


def booked_words(state: JobState, cylinder: int, depth_mm: float | None) -> str:
    """What a trace was booked as, and what is still to trace."""
    where = spot_name(state, depth_mm)
    done = {spot_name(state, t.depth_mm) for t in finish_of(state, cylinder).traces}
    ahead = [s for s in SPOTS if s not in done]
    told = f"Traced: cylinder {cylinder}" + (f", {where}." if where else ".")
    return told + (f" Still to trace: {', '.join(ahead)}." if ahead else "")


def next_spot(state: JobState, cylinder: int, spot: int) -> int:
    """The spot to trace after ``spot``: the next one not traced as the wall is now; the same where all are."""
    depths, done = spots_of(state), {t.depth_mm for t in finish_of(state, cylinder).traces}
    ahead = [i % len(depths) for i in range(spot + 1, spot + 1 + len(depths)) if depths[i % len(depths)] not in done]
    return ahead[0] if ahead else spot
