"""The further pages of the finish: the plateau foretold, the crosshatch, probability paper."""

from __future__ import annotations

from redline_bore.core.fit import Decision, decide
from redline_bore.core.show import Show, capital
from redline_bore.job.card import Advice, FigureLine, Mark, Note, Said, WorkLine
from redline_bore.job.finish.finding import FinishCall, judge
from redline_bore.job.finish.judgement import (
    Side,
    TraceStage,
    Twins,
    finish_of,
    texture_at,
)
from redline_bore.job.finish.plateau import PlateauForecast
from redline_bore.job.hone.finding import plateau_rate
from redline_bore.job.hone.progress import progress_of
from redline_bore.job.hone.set_up import angle_aim, kinematics_of
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words.finish import CARE, family_notes, onward, say
from redline_bore.job.words.texture import texture_figure, texture_unit


def plateau_page(
    state: JobState, cylinder: int, found: PlateauForecast | None, missing: str, busy: bool, show: Show
) -> Advice:
    """How many plateau strokes, or that no number of them will do."""
    if found is None:
        said = "The path of this wall is being worked out." if busy else f"{capital(missing)}."
        return Advice(f"Call · plateau {cylinder}", said, care=CARE, mark=Mark.PLAIN if busy else Mark.LOOK)
    sentence, mark = _plateau_sentence(state, found, show)
    button, leads_on = onward(state, cylinder) if wall_is_done(state, found) else ("Go to the hone", True)
    return Advice(
        f"Call · plateau {cylinder}", sentence, _plateau_figures(state, found, show), _plateau_notes(state, found, show),
        _plateau_working(found, show), button, CARE, mark, leads_on,
    )  # fmt: skip


def wall_is_done(state: JobState, f: PlateauForecast) -> bool:
    """Traced after its strokes, and every figure in its window: nothing is left to do to it at the hone."""
    wall = finish_of(state, f.cylinder)
    return f.stretch_um is not None and f.had - f.begins >= (f.stop_at or 0) and wall.current and wall.fine


def _plateau_sentence(state: JobState, f: PlateauForecast, show: Show) -> Said:
    wall, said = judge(state, f.cylinder), None if f.stretch_um is not None else _unreached(f, show)
    if wall.call is FinishCall.VALLEYS_MISSING and (said is None or said.mark is not Mark.STOP):
        return say(wall, show)  # as the trace page says: one judgement
    if said is not None:
        return said
    assert f.stretch_um is not None
    done = f.had - f.begins
    stop = f.stop_at or 0
    if f.stretch_um[0] <= 0.0 and done <= 0.0:
        return Said("It is in its windows as traced. No stroke more than the size needs.", Mark.SOUND)
    if f.stretch_um[1] < done * f.rate.low_um:
        return Said("By now it is past its windows. Stop, and trace it.", Mark.STOP)
    if done >= stop and finish_of(state, f.cylinder).current:
        fine = finish_of(state, f.cylinder).fine
        told = "every figure is in its window" if fine else "not every figure is in its window"
        return Said(f"Traced after {f.had:g} strokes: {told}.", Mark.SOUND if fine else Mark.LOOK)
    if done >= stop:
        return Said("The strokes for the windows are done. Trace it.", Mark.SOUND)
    more = stop - int(done)
    if f.sure is not None:
        return Said(
            f"{more} more plateau strokes, then trace: {f.sure[0]} to {f.sure[1]} in all reach every window.",
            Mark.PLAIN,
        )
    return Said(
        f"{more} more plateau strokes, no more, then trace again: strokes to metal is not known well.", Mark.LOOK
    )


def _unreached(f: PlateauForecast, show: Show) -> Said:
    """No number of strokes brings every figure into its window: which one stands in the way, and what comes nearest."""
    first = f.failing[0]
    if first.side is Side.APART:
        name, value, end, side = f.worst_at_nearest
        beyond = "under" if side is Side.LOW else "over"
        return Said(
            f"Never all at once: nearest at {f.nearest_strokes:.0f} strokes, {name} {texture_figure(value, show)} {beyond} "
            f"{texture_figure(end, show)}.",
            Mark.LOOK,
        )
    shallow = next((x for x in f.failing if (x.parameter, x.side) == ("Rvk", Side.LOW)), None)
    if shallow is None or f.coarser is None:
        return Said(
            f"{first.parameter} never comes into its window: {texture_figure(first.nearest, show)} at the nearest.",
            Mark.STOP,
        )
    if f.coarser.fits is False:
        return Said(
            "Unreachable from here, and what is left before the redline does not allow a coarser step.", Mark.STOP
        )
    return Said(
        f"Unreachable from here: Rvk comes to {texture_figure(shallow.nearest, show)} at most. A coarser step first.",
        Mark.STOP,
    )


def _plateau_figures(state: JobState, f: PlateauForecast, show: Show) -> tuple[FigureLine, ...]:
    lines = []
    if f.strokes is not None:
        lines.append(FigureLine("in the windows from, to", f"{f.strokes[0]:.0f}–{f.strokes[1]:.0f} strokes"))
    lines.append(FigureLine("had by now", f"{f.had:g}"))
    lines.append(
        FigureLine(
            "a stroke, a side", f"{show.height(f.rate.um, digits=3)} ({show.height(f.rate.low_um, f.rate.high_um, digits=3).split()[0]})",
            Mark.PLAIN if len(f.rate.pairs) > 1 else Mark.LOOK,
        )
    )  # fmt: skip
    at = f.stop_at
    after = finish_of(state, f.cylinder)
    if after.current and f.had > f.begins:
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
        enough = f.left_mm is None or size <= f.left_mm
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
    missing = judge(state, f.cylinder).call is FinishCall.VALLEYS_MISSING
    if not missing and f.failing and f.failing[0].side is Side.APART and f.had - f.begins < f.nearest_strokes:
        notes.append(
            f"{f.nearest_strokes:.0f} strokes and no more, then trace: as near as this wall comes; the sign-off asks who accepts it."
        )
    if f.coarser is not None:
        c = f.coarser
        room = "what is left is not known" if c.left_mm is None else f"{show.size(c.left_mm)} is left"
        take = f"take {c.stones}" if c.deep_enough else f"no listed stone will do, {c.stones} comes nearest"
        notes.append(f"For Rz {texture_figure(c.rz_um, show)} {take}: {show.size(c.metal_mm)} on diameter; {room}.")
        if c.fits is False:
            notes.append(
                "Past the redline are only the ways out of the hone step: the next piston, a coated one, a sleeve."
            )
    for x in f.failing:
        if x.side is not Side.APART:
            notes.append(
                f"{x.parameter} {texture_figure(x.nearest, show)} at the nearest; window {texture_figure(x.window.low, show)}–{texture_figure(x.window.high, show)}."
            )
    notes.append(Note("Rk may rise before it falls: the whole path is followed, nothing is drawn out beyond it."))
    return (*notes, *family_notes(state, show))


def _plateau_working(f: PlateauForecast, show: Show) -> tuple[WorkLine, ...]:
    lines = [
        WorkLine(
            "the trace is cut along its reference line, given the fine tool's texture, and filtered again",
            "Rpk and Rvk of what is left, ISO 21920-2",
        ),
        WorkLine(
            f"{show.height(f.rate.um, digits=4)} a stroke a side, {show.height(f.rate.low_um, f.rate.high_um, digits=4)} at k = 2",
            f.rate.source,
        ),
    ]
    lines += [
        WorkLine(
            f"job {p.job}, cylinder {p.cylinder}: {show.height(p.removed_um, digits=3)} in {p.strokes:g} strokes",
            "placed on its own path",
        )
        for p in f.rate.pairs[:8]
    ]
    if f.stretch_um is not None:
        lines.append(
            WorkLine(f"in every window from {show.height(*f.stretch_um, digits=3)} a side", "path and windows")
        )
    for n, w in f.windows.items():
        lines.append(WorkLine(f"{n} {texture_figure(w.low, show)}–{texture_figure(w.high, show)}", w.source))
    return tuple(lines)


def hatch_page(state: JobState, cylinder: int) -> Advice:
    """The crosshatch as seen against the one wanted."""
    seen, aim = state.finishing.hatch_of(cylinder), angle_aim(state)
    wanted = FigureLine("wanted, included", f"{aim.low_deg:.0f}–{aim.high_deg:.0f}°")
    source = WorkLine(f"wanted {aim.low_deg:g}–{aim.high_deg:g}° included", aim.source)
    if seen is None:
        return Advice(
            f"Call · crosshatch {cylinder}", "No picture of this wall. Light it from the side, axis upright; Ctrl+I takes the file.",
            (wanted,), (), (source,), "", CARE, Mark.PLAIN,
        )  # fmt: skip
    f = state.figures
    notes: list[str] = []
    stands = decide(seen.included_deg, aim.low_deg, aim.high_deg, seen.u_deg)
    mark = Mark.SOUND if stands is Decision.IN else Mark.LOOK
    sentence = f"The crosshatch of cylinder {cylinder} is {seen.included_deg:.0f}° included, as wanted."
    if stands is Decision.TOO_CLOSE:
        sentence = f"Crosshatch {seen.included_deg:.0f}° ± {seen.u_deg:.0f}° lies at the edge of what is wanted."
    elif stands is Decision.OUT:
        flat = seen.included_deg < aim.low_deg
        sentence = f"Crosshatch {seen.included_deg:.0f}° is too {'flat' if flat else 'steep'}."
        notes.append(
            Note("Flat holds the oil and drags it up to burn.")
            if flat
            else Note("Steep drains the oil, turns the rings fast and wears them.")
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
            FigureLine("confidence", f"{seen.confidence:.0%}", Mark.PLAIN if seen.confidence > f.number("finish.sure_picture") else Mark.LOOK),
        ),
        tuple(notes), (source, WorkLine("the picture's waves by direction; two families add in it", "two-dimensional Fourier transform")), "", CARE, mark,
    )  # fmt: skip


def paper_page(state: JobState, cylinder: int, twins: Twins | None, show: Show) -> Advice:
    """Probability paper, and two walls of one Ra."""
    found = finish_of(state, cylinder)
    if found.stage is TraceStage.NONE:
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
    if twins is not None and twins.times > state.figures.number("finish.unlike"):
        a, b = (texture_at(t) for t in (twins.first, twins.second))
        lines.append(
            FigureLine(
                f"Ra of both, {texture_unit(show)}", f"{texture_figure(a.Ra, show)}, {texture_figure(b.Ra, show)}"
            )
        )
        notes.append(
            Note(
                f"Two traces agree in Ra and differ {twins.times:.1f} times in their family: Ra alone would call them alike."
            )
        )
    return Advice(
        f"Call · cylinder {cylinder}", sentence, tuple(lines), tuple(notes),
        (WorkLine("two straight parts on probability paper, told only where five ways of finding the knee agree", "ISO 13565-3"),), "", CARE,
        Mark.PLAIN,
    )  # fmt: skip
