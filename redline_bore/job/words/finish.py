"""What to do now at the finish: trace, stop, more plateau strokes, or a coarser step; and what each figure means."""

from __future__ import annotations

from redline_bore.core.fit import Decision
from redline_bore.core.show import Show, cylinders
from redline_bore.core.texture.parameters import PARAMETERS
from redline_bore.job.card import Advice, FigureLine, Mark, Note, Said, WorkLine
from redline_bore.job.finish.finding import (
    AllCall,
    AllFinding,
    FinishCall,
    FinishFinding,
    judge,
    judge_all,
    not_traced,
    spots_missing,
    wanted,
)
from redline_bore.job.finish.judgement import (
    FAMILY,
    PLAIN,
    SPOTS,
    Judged,
    Side,
    TraceStage,
    WallFinish,
    finish_of,
    finish_windows,
    missing_valleys,
    spot_name,
    spots_of,
    texture_at,
)
from redline_bore.job.lessons import REACHED, STROKES
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words.lessons import lesson_words
from redline_bore.job.words.texture import texture_figure, texture_unit

CARE = "Nothing may touch the table while it traces. Wipe the wall first: a speck is a peak to the stylus."
MARKS = {Decision.IN: Mark.SOUND, Decision.OUT: Mark.STOP, Decision.TOO_CLOSE: Mark.LOOK, None: Mark.PLAIN}


MEANING = {
    ("Rpk", Side.HIGH): "peaks are left for the rings to wear off: a slow run-in, and iron in the oil",
    ("Rpk", Side.LOW): "hardly any peaks: the rings may be long in seating",
    ("Rk", Side.HIGH): "the core is rough: friction, and wear of the rings",
    ("Rk", Side.LOW): "the core is so smooth that little oil stays under the ring",
    ("Rvk", Side.LOW): "the valleys are too shallow to hold the oil: it scuffs when it runs dry",
    ("Rvk", Side.HIGH): "the valleys hold more oil than the rings can leave: it is burnt",
    ("Ra", Side.HIGH): "rough on the whole; Ra does not say of what",
    ("Ra", Side.LOW): "smooth on the whole; Ra does not say of what",
    ("Rz", Side.LOW): "the valleys are not there; no plateau will bring them",
    ("Rz", Side.HIGH): "the marks are deep: a longer plateau, and more oil",
}
REMEDY = {
    ("Rpk", Side.HIGH): "a few more plateau strokes",
    ("Rpk", Side.LOW): "leave it; the next wall with fewer plateau strokes",
    ("Rk", Side.HIGH): "more plateau strokes",
    ("Rk", Side.LOW): "fewer plateau strokes next time; now only a coarser step brings it back",
    ("Rvk", Side.LOW): "only a coarser step and more metal bring it",
    ("Rvk", Side.HIGH): "more plateau strokes take a little of it; else a finer step before the plateau",
    ("Ra", Side.HIGH): "look at the family",
    ("Ra", Side.LOW): "look at the family",
    ("Rz", Side.LOW): "a coarser step before the plateau",
    ("Rz", Side.HIGH): "more plateau strokes, or a finer step before them",
}


def meaning(judged: Judged) -> str:
    """What it means that a figure lies where it does; empty inside its window."""
    return MEANING.get((judged.parameter, judged.side), "") if judged.decision is not Decision.IN else ""


def remedy(judged: Judged) -> str:
    """What is done about it."""
    return REMEDY.get((judged.parameter, judged.side), "") if judged.decision is not Decision.IN else ""


def advise(state: JobState, cylinder: int, show: Show) -> Advice:
    """What the finish step says of a cylinder."""
    f = judge(state, cylinder)
    sentence, mark = say(f, show)
    button, leads_on = onward(state, cylinder)
    return Advice(
        f"Call · cylinder {cylinder}", sentence, _figures(state, f.finish, show), _changes(state, f.finish, show),
        _working(state, f.finish, show), button, CARE, mark, leads_on,
    )  # fmt: skip


def onward(state: JobState, cylinder: int | None = None) -> tuple[str, bool]:
    """Onward: to the next wall that wants a trace, or out of the step; and whether it only leads on."""
    missing = not_traced(state)
    if missing:
        return ("", False) if cylinder is None or cylinder in missing else (f"Go to cylinder {missing[0]}", True)
    stamped = state.signing.stamp("finish") is not None
    return ("Go to sign off", True) if stamped else ("Stamp and sign off", False)


def say(f: FinishFinding, show: Show) -> Said:
    """A finding about a wall in a sentence, and its mark."""
    c, n, j = FinishCall, f.cylinder, f.figure
    name = "" if j is None else j.parameter
    what = "" if j is None else remedy(j)
    where = "under" if j is not None and j.side is Side.LOW else "over"
    mean = "" if j is None else texture_figure(j.mean, show)
    least = "" if j is None or j.window is None else texture_figure(j.window.low, show)
    return Said(*{
        c.TRACE_BEFORE: (f"Trace cylinder {n} before its plateau: valleys not there now never will be.", Mark.LOOK),
        c.TRACE: (f"Trace cylinder {n}.", Mark.LOOK),
        c.NOT_WANTED: (f"Nothing was bored: no trace of cylinder {n} is wanted. One that is taken is judged.", Mark.PLAIN),
        c.TRACE_AGAIN: (f"Cylinder {n} has had {f.finish.since:g} plateau strokes since it was traced. Trace it again.", Mark.LOOK),
        c.VALLEYS_MISSING: (f"No plateau yet: {name} {mean} is under {least}. A coarser step first.", Mark.STOP),
        c.VALLEYS_TOO_CLOSE: (f"Too close: {name} of cylinder {n} may be under its window. Trace another spot before the plateau.", Mark.LOOK),
        c.DEEP_MARKS: (f"Deep marks in cylinder {n}: Rz is over its window, or may be. A longer plateau; see its page.", Mark.LOOK),
        c.VALLEYS_THERE: (f"Cylinder {n} has the valleys it needs. The Plateau page says how many strokes.", Mark.SOUND),
        c.IN: (f"The finish of cylinder {n} is in its windows.", Mark.SOUND),
        c.NO_WINDOW: (f"Cylinder {n} is traced. No window is known for {_names(f.finish.judged)}.", Mark.PLAIN),
        c.OUT: (f"{name} is {where} its window: {what}.", Mark.STOP),
        c.MAY_BE_OUT: (f"{name} may be {where} its window: {what}.", Mark.LOOK),
    }[f.call])  # fmt: skip


def _names(judged: tuple[Judged, ...]) -> str:
    return ", ".join(j.parameter for j in judged)


def _figures(state: JobState, found: WallFinish, show: Show) -> tuple[FigureLine, ...]:
    if found.stage is TraceStage.NONE:
        return (
            FigureLine(f"cylinder {found.cylinder}", "not traced", Mark.LOOK if wanted(state, found) else Mark.PLAIN),
        )
    lines = [
        FigureLine(
            f"{j.parameter}, {texture_unit(show)}",
            f"{texture_figure(j.mean, show)} ± {texture_figure(j.u, show)}",
            Mark.PLAIN if found.since else MARKS[j.decision],
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
        f"{j.parameter} {'over' if j.side is Side.HIGH else 'under'}{'' if j.decision is Decision.OUT else ', perhaps'}: {meaning(j)}."
        for j in found.judged
        if j.decision in (Decision.OUT, Decision.TOO_CLOSE) and meaning(j) and not found.since
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
    if "coarse" in found.flags:
        notes.append(
            "Its heights come in coarse steps: peaks and core are doubtful by a step. Trace it again in a finer range."
        )
    if "arc" in found.flags:
        notes.append(Note("Taken around the bore: its arc was taken out by a parabola before the filter."))
    if "rk_short" in found.flags:
        notes.append(f"The trace is short of {show.along(5.6)}: the family rests on less than {show.along(4.0)}.")
    if state.booking.practice("finish") != "rk family":
        notes.append(
            "Judged by Ra and Rz alone: two walls of the same Ra can be nothing alike. C judges by the family."
        )
    if missing_valleys(found) is not None:
        notes.append(Note("V, Plateau: which stone brings them, what it takes, and whether what is left allows it."))
    return tuple(notes) if found.traces else (*notes, *family_notes(state, show))


def _working(state: JobState, found: WallFinish, show: Show) -> tuple[WorkLine, ...]:
    unit = texture_unit(show)
    lines = [
        WorkLine(
            f"levelled by least squares; Gaussian filter, cutoff {show.along(0.8)}, {show.along(0.4)} cut off each end a pass",
            "ISO 16610-21",
        ),
        WorkLine(
            f"Ra over the middle {show.along(4.0)}; Rz the mean of five {show.along(0.8)} sections", "ISO 21920-2"
        ),
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
            for n in PARAMETERS
            if n not in (*FAMILY, *PLAIN) and (v := x.value(n)) is not None
        )
        lines.append(WorkLine(f"{spot_name(state, t.depth_mm) or 'trace'}, entry {t.seq}: {told}", f"from {t.source}"))
    return tuple(lines)


def say_all(f: AllFinding) -> Said:
    """How the walls of a block stand together, in a sentence, and its mark."""
    a, which = AllCall, cylinders(list(f.cylinders))
    return Said(
        *{
            a.ALL_IN: ("Every cylinder is in its windows.", Mark.SOUND),
            a.VALLEYS_MISSING: (f"No plateau yet: {which} without the valleys wanted.", Mark.STOP),
            a.OUT: (f"{which.capitalize()}: out of a window.", Mark.STOP),
            a.NOT_TRACED: (f"{which.capitalize()}: not traced as they are now.", Mark.LOOK),
            a.TOO_CLOSE: (f"{which.capitalize()}: too close to call. Trace more spots.", Mark.LOOK),
            a.NOT_WANTED: ("Nothing was bored: no trace is wanted. One that is taken is judged.", Mark.PLAIN),
        }[f.call]
    )


def windows_page(state: JobState, show: Show) -> Advice:
    """All cylinders side by side."""
    sentence, mark = say_all(judge_all(state))
    windows = finish_windows(state)
    figures = tuple(
        FigureLine(
            f"{n}, {texture_unit(show)}",
            f"{texture_figure(w.low, show)}–{texture_figure(w.high, show)}" + (", own" if w.own else ""),
            by="finish_window_stated",
        )
        for n, w in windows.items()
    )
    button, leads_on = onward(state)
    notes = [
        Note(f"Windows: {windows['Rk'].source}."),
        Note(
            f"The ring maker's own: M, then window Rvk {texture_figure(1.2, show)} {texture_figure(2.0, show)} ({texture_unit(show)})."
        ),
    ]
    return Advice(
        "Call · block", sentence, figures, tuple(notes), _windows_working(state, show), button, CARE, mark, leads_on
    )


def _windows_working(state: JobState, show: Show) -> tuple[WorkLine, ...]:
    return tuple(
        WorkLine(f"{n} {texture_figure(w.low, show)}–{texture_figure(w.high, show)} {texture_unit(show)}", w.source)
        for n, w in finish_windows(state).items()
    )


def family_notes(state: JobState, show: Show) -> tuple[str, ...]:
    """What the signed jobs of this family needed and reached."""
    wanted = (STROKES, REACHED)
    return tuple(
        Note(f"This family before: {lesson_words(x, show)}.") for x in state.booking.lessons if x.what in wanted
    )


def booked_words(state: JobState, cylinder: int, depth_mm: float | None) -> str:
    """What a trace was booked as, and what is still to trace."""
    where = spot_name(state, depth_mm)
    ahead = spots_missing(state, finish_of(state, cylinder))
    told = f"Traced: cylinder {cylinder}" + (f", {where}." if where else ".")
    return told + (f" Still to trace: {', '.join(ahead)}." if ahead else "")
