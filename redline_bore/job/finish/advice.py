"""What to do now at the finish: trace, stop, more plateau strokes, or a coarser step; and what each figure means."""

from __future__ import annotations

from redline_bore.core.fit import Decision
from redline_bore.core.show import Show, cylinders
from redline_bore.job.finish.judgement import (
    SPOTS,
    Judged,
    WallFinish,
    finish_of,
    finish_windows,
    missing_valleys,
    spot_name,
    spots_of,
    strokes_had,
    texture_at,
)
from redline_bore.job.lessons import REACHED, STROKES, lesson_words
from redline_bore.job.state.job_state import JobState
from redline_bore.job.texture_words import texture_figure, texture_unit
from redline_bore.job.words.card import Advice, FigureLine, Mark, WorkLine

CARE = "Nothing may touch the table while it traces. Wipe the wall first: a speck is a peak to the stylus."
MARKS = {Decision.IN: Mark.SOUND, Decision.OUT: Mark.STOP, Decision.TOO_CLOSE: Mark.LOOK, None: Mark.PLAIN}


def advise(state: JobState, cylinder: int, show: Show) -> Advice:
    """What the finish step says of a cylinder."""
    found = finish_of(state, cylinder)
    sentence, mark = _sentence(state, found, show)
    return Advice(
        f"Call · cylinder {cylinder}", sentence, _figures(state, found, show), _changes(state, found, show),
        _working(state, found, show), _button(state, cylinder), CARE, mark,
    )  # fmt: skip


def not_traced(state: JobState) -> list[int]:
    """The cylinders without a trace of their finished wall."""
    return [c for c in state.cylinders if not finish_of(state, c).current]


def _button(state: JobState, cylinder: int | None = None) -> str:
    """Onward: to the next wall that wants a trace, or out of the step."""
    missing = not_traced(state)
    if missing:
        return "" if cylinder is None or cylinder in missing else f"Go to cylinder {missing[0]}"
    return "Go to sign off" if state.signing.stamp("finish") is not None else "Stamp and sign off"


def _sentence(state: JobState, found: WallFinish, show: Show) -> tuple[str, Mark]:
    c = found.cylinder
    if found.stage == "none":
        before = strokes_had(state, c) == 0.0
        return f"Trace cylinder {c}" + (
            " before its plateau: valleys not there now never will be." if before else "."
        ), Mark.LOOK
    if found.since:
        return f"Cylinder {c} has had {found.since:g} plateau strokes since it was traced. Trace it again.", Mark.LOOK
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
    c = found.cylinder
    short = missing_valleys(found)
    if short is not None and short.window is not None:
        told = f"{short.parameter} {texture_figure(short.mean, show)} is under {texture_figure(short.window.low, show)}"
        return f"Stop before the plateau: {told}. A coarser step first.", Mark.STOP
    close = next((j for j in found.where(Decision.TOO_CLOSE) if j.side == "low"), None)
    if close is not None:
        return (
            f"Too close: {close.parameter} of cylinder {c} may be under its window. Trace another spot before the plateau.",
            Mark.LOOK,
        )
    if any(j.side == "high" for j in (*found.where(Decision.OUT), *found.where(Decision.TOO_CLOSE))):
        return (
            f"Deep marks in cylinder {c}: Rz is over its window, or may be. A longer plateau; see its page.",
            Mark.LOOK,
        )
    return f"Cylinder {c} has the valleys it needs. The Plateau page says how many strokes.", Mark.SOUND


def _names(judged: tuple[Judged, ...]) -> str:
    return ", ".join(j.parameter for j in judged)


def _figures(state: JobState, found: WallFinish, show: Show) -> tuple[FigureLine, ...]:
    if found.stage == "none":
        return (FigureLine(f"cylinder {found.cylinder}", "not traced", Mark.LOOK),)
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
        f"{j.parameter} {'over' if j.side == 'high' else 'under'}{'' if j.decision is Decision.OUT else ', perhaps'}: {j.meaning}."
        for j in found.judged
        if j.decision in (Decision.OUT, Decision.TOO_CLOSE) and j.meaning and not found.since
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
    if state.booking.practice("finish") != "rk family":
        notes.append(
            "Judged by Ra and Rz alone: two walls of the same Ra can be nothing alike. C judges by the family."
        )
    if missing_valleys(found) is not None:
        notes.append("V, Plateau: which stone brings them, what it takes, and whether what is left allows it.")
    return tuple(notes) if found.traces else (*notes, *family_notes(state, show))


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
    out = [f.cylinder for f in found if f.current and f.where(Decision.OUT)]
    shallow = [f.cylinder for f in found if missing_valleys(f) is not None]
    missing = not_traced(state)
    if len(fine) == len(found):
        sentence, mark = "Every cylinder is in its windows.", Mark.SOUND
    elif shallow:
        sentence, mark = f"Stop before the plateau: {cylinders(shallow)} without the valleys wanted.", Mark.STOP
    elif out:
        sentence, mark = f"{cylinders(out).capitalize()}: out of a window.", Mark.STOP
    elif missing:
        sentence, mark = f"{cylinders(missing).capitalize()}: not traced as they are now.", Mark.LOOK
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


def family_notes(state: JobState, show: Show) -> tuple[str, ...]:
    """What the signed jobs of this family needed and reached."""
    wanted = (STROKES, REACHED)
    return tuple(f"This family before: {lesson_words(x, show)}." for x in state.booking.lessons if x.what in wanted)


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
