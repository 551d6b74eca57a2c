"""What the sign-off says: what keeps the job from being signed, the clearances, the finish."""

from __future__ import annotations

from redline_bore.core.fit import Decision
from redline_bore.core.show import Show, count_word, cylinders
from redline_bore.job.card import Advice, FigureLine, Mark, Note, Said, WorkLine
from redline_bore.job.gauge.plate_wanted import plate_changes
from redline_bore.job.sign_off.sheet import (
    OpenPoint,
    PointFound,
    Sheet,
    SheetRow,
    SignCall,
    SignFinding,
    can_sign,
    judge,
    said_before_0_7,
)
from redline_bore.job.state.job_state import JobState

CARE = "Wash with hot soapy water until a white cloth stays white; dry and oil at once."


def point_words(point: PointFound) -> str:
    """An open point in a sentence."""
    return said_before_0_7(point)


def advise(state: JobState, show: Show) -> Advice:
    """What keeps the job from being signed off, or that it can be."""
    found = judge(state)
    sheet, (sentence, mark) = found.sheet, say(found)
    button = "" if state.signing.closed or not can_sign(sheet) else "Sign off"
    numbered = tuple(f"{i}. {point_words(point)}" for i, point in enumerate(sheet.open_points, start=1))
    how: tuple[str, ...] = (
        (Note("Close a point, or take it upon yourself: M, accept 1 and why."),)
        if numbered and not state.signing.closed
        else ()
    )
    if how and _plate_alone(state, sheet):
        how = ("No plate in this shop? C wants it only where it would change the answer: here it would not.", *how)
    return Advice(
        "Call · block", sentence, (*(_line(r, show) for r in sheet.rows[:8]), _finish_line(sheet)), (*numbered, *how), _working(sheet, show),
        button, CARE, mark, unsure=mark is not Mark.SOUND,
    )  # fmt: skip


def _plate_alone(state: JobState, sheet: Sheet) -> bool:
    """A plate is asked for by the school alone: what the head does would change no answer."""
    points = {p.what for p in sheet.open_points} & {OpenPoint.PLATE_OFF_ONLY, OpenPoint.NOT_GAUGED_PLATED}
    return bool(points) and not any(plate_changes(state, c) for c in state.cylinders)


def say(f: SignFinding) -> Said:
    """What stands between the job and its signature, in a sentence, and its mark."""
    c, which, count = SignCall, cylinders(list(f.cylinders)) if f.cylinders else "", len(f.sheet.open_points)
    stamp = f.sheet.state.signing.stamp("sign_off")
    signed = f"Signed off by {stamp.initials}" if stamp is not None else ""
    out = f"The clearance of {which} is out of its window."
    close = f"{which.capitalize()}: too close to call with this gauge."
    return Said(*{
        c.SIGNED: (f"{signed}.", Mark.SOUND),
        c.SIGNED_BUT_OUT: (f"{signed}, but look: {out}", Mark.STOP),
        c.SIGNED_BUT_CLOSE: (f"{signed}, but look: {close}", Mark.LOOK),
        c.NOT_FINISHED: (f"Not finished: {which} without a final size.", Mark.LOOK),
        c.POINTS_OPEN: (f"{count_word(count).capitalize()} open point{'s' * (count > 1)} before it can be signed off.", Mark.LOOK),
        c.NOTHING_BORED: ("Nothing was bored. Sign off.", Mark.SOUND),
        c.CLEARANCE_OUT: (out, Mark.STOP),
        c.CLEARANCE_CLOSE: (close, Mark.LOOK),
        c.READY: ("Every clearance is in its window at both ends. Sign off.", Mark.SOUND),
    }[f.call])  # fmt: skip


def _line(row: SheetRow, show: Show) -> FigureLine:
    if row.clearance_mm is None or row.doubt_mm is None:
        return FigureLine(f"{row.cylinder} clearance", "not known", Mark.LOOK)
    if row.short:
        return FigureLine(f"{row.cylinder} clearance", "not at size yet", Mark.LOOK)
    marks = {Decision.IN: Mark.SOUND, Decision.OUT: Mark.STOP, Decision.TOO_CLOSE: Mark.LOOK, None: Mark.LOOK}
    return FigureLine(f"{row.cylinder} clearance", clearance_words(row, show), marks[row.decision])


def clearance_words(row: SheetRow, show: Show) -> str:
    """Clearance at the smallest and at the largest place, with U."""
    if row.clearance_mm is None or row.most_mm is None or row.doubt_mm is None:
        return "not known"
    return f"{show.between(row.clearance_mm, row.most_mm)} ± {show.doubt(row.doubt_mm)}"


def _finish_line(sheet: Sheet) -> FigureLine:
    """The finish of all walls in a word."""
    stages = [r.finish for r in sheet.rows]
    if not all(f.current for f in stages):
        return FigureLine("finish of the walls", "not traced", Mark.LOOK)
    if any(f.where(Decision.OUT) for f in stages):
        return FigureLine("finish of the walls", "out of a window", Mark.STOP)
    fine = all(f.fine for f in stages)
    return FigureLine(
        "finish of the walls", "in its windows" if fine else "too close", Mark.SOUND if fine else Mark.LOOK
    )


def _working(sheet: Sheet, show: Show) -> tuple[WorkLine, ...]:
    w = sheet.window
    lines = [WorkLine(f"window {show.size(w.low_mm)}–{show.size(w.high_mm)}", w.source)]
    for row in sheet.rows:
        piston = sheet.state.calling.piston(row.cylinder)
        if row.smallest_mm is None or row.largest_mm is None or piston is None:
            continue
        lines.append(
            WorkLine(
                f"{row.cylinder}: {show.between(row.smallest_mm, row.largest_mm)} − piston {show.size(piston.size_mm)} = "
                f"{clearance_words(row, show)}: {row.decision}",
                "smallest and largest place, guard band, ISO 14253-1",
            )
        )
    return tuple(lines)
