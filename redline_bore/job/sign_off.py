"""Sign off: is every cylinder at size, in its window, and what does the sheet say (job.md, sign off)."""

from __future__ import annotations

from dataclasses import dataclass

from redline_bore.core.fit import ClearanceWindow, Decision, could_be_in, guard_band
from redline_bore.job.advice import Advice, FigureLine, Mark, Show, WorkLine, cylinders
from redline_bore.job.analysis import CylinderShape, shape_of, start_of
from redline_bore.job.bore import hole_of
from redline_bore.job.hone import Progress, progress_of, stock_removed
from redline_bore.job.hone_steps import practice_of
from redline_bore.job.practices import TOPICS, Practice, practice
from redline_bore.job.redline import clearance_doubt
from redline_bore.job.state import JobState

CARE = "Wash with hot soapy water until a white cloth stays white; dry and oil at once."


@dataclass(frozen=True)
class StepStock:
    """Metal the bar or a honing step took from a cylinder, mm on diameter; ``strokes`` None: it was the bar."""

    name: str
    strokes: float | None
    removed_mm: float


@dataclass(frozen=True)
class SheetRow:
    """One cylinder on the sheet. None: not known, and it is written so."""

    cylinder: int
    shape: CylinderShape
    progress: Progress
    final_mm: float | None
    clearance_mm: float | None
    doubt_mm: float | None
    decision: Decision | None
    removed_mm: float | None
    steps: tuple[StepStock, ...]


@dataclass(frozen=True)
class Sheet:
    """Everything that is printed. ``open_points`` says what is not known or not done."""

    state: JobState
    rows: tuple[SheetRow, ...]
    window: ClearanceWindow
    practices: tuple[tuple[str, str, str], ...]
    open_points: tuple[str, ...]


def sheet_of(state: JobState) -> Sheet:
    """The sheet of a job as it stands."""
    rows = tuple(_row(state, c) for c in state.cylinders)
    chosen = tuple((title, p.title, p.reason) for topic, title in TOPICS.items() for p in [_practice(state, topic)])
    return Sheet(state, rows, rows[0].progress.redline.window, chosen, _open_points(state, rows))


def _practice(state: JobState, topic: str) -> Practice:
    return practice_of(state) if topic == "honing" else practice(topic, state.practice(topic))


def _row(state: JobState, cylinder: int) -> SheetRow:
    progress, checks = progress_of(state, cylinder), state.checks_of(cylinder)
    final = checks[-1].largest_mm if checks else None
    piston = state.piston(cylinder)
    clearance = final - piston.size_mm if final is not None and piston is not None else None
    doubt = clearance_doubt(state, final, piston.size_mm) if final is not None and piston is not None else None
    decision = None
    if clearance is not None and doubt is not None:
        decision = guard_band(clearance, progress.redline.window, doubt)
    return SheetRow(
        cylinder, shape_of(state, cylinder), progress, final, clearance, doubt, decision,
        stock_removed(state, cylinder), step_stock(state, cylinder, progress),
    )  # fmt: skip


def step_stock(state: JobState, cylinder: int, progress: Progress) -> tuple[StepStock, ...]:
    """Metal taken by the bar and by each honing step, from the last size before it to the last size in it."""
    found: list[StepStock] = []
    before: float | None = None
    hole, worn = hole_of(state, cylinder), start_of(state, cylinder)
    if hole is not None and worn is not None:
        before = hole.largest_mm  # the hone begins where the bar left it, so that the steps add up
        found.append(StepStock("bored", None, before - worn))
    for step, name in enumerate(progress.practice.steps):
        checks = state.checks_of(cylinder, step)
        if not checks:
            continue
        start = checks[0].largest_mm if before is None else before
        found.append(StepStock(name, checks[-1].strokes, checks[-1].largest_mm - start))
        before = checks[-1].largest_mm
    return tuple(found)


def _open_points(state: JobState, rows: tuple[SheetRow, ...]) -> tuple[str, ...]:
    notes = []
    if state.decision is None:
        notes.append("The call has not been taken.")
    light = state.decision is not None and not state.decision.bores
    for text, numbers in (
        ("not gauged", [r.cylinder for r in rows if not r.shape.levels]),
        ("piston not measured", [r.cylinder for r in rows if not light and state.piston(r.cylinder) is None]),
        ("no hone check", [r.cylinder for r in rows if not light and r.final_mm is None]),
        (
            "not at size",
            [r.cylinder for r in rows if r.final_mm is not None and not (r.progress.at_size or r.progress.over)],
        ),
        ("over the redline", [r.cylinder for r in rows if r.progress.over and (r.progress.left_mm or 0) < -0.0005]),
    ):
        if numbers:
            notes.append(f"{cylinders(numbers).capitalize()}: {text}.")
    if rows and not any(r.shape.plate_on for r in rows):
        notes.append("Gauged with the plate off only.")
    window = rows[0].progress.redline.window
    doubts = [r.doubt_mm for r in rows if r.doubt_mm is not None]
    if doubts and not could_be_in(window, max(doubts)):
        notes.append("The clearance window is narrower than twice the gauge's doubt: no reading can be called in.")
    return tuple(notes)


def advise(state: JobState, show: Show) -> Advice:
    """What keeps the job from being signed off, or that it can be."""
    sheet, stamp = sheet_of(state), state.stamp("sign_off")
    done = [r for r in sheet.rows if r.final_mm is not None]
    if stamp is not None:
        later, mark = _all_done(sheet)
        sentence = (
            f"Signed off by {stamp.initials}."
            if mark is Mark.SOUND
            else f"Signed off by {stamp.initials}, but look: {later}"
        )
    elif state.decision is not None and not state.decision.bores:
        sentence, mark = "Nothing is bored here. Sign off once it is washed and its rings are gapped.", Mark.PLAIN
    elif len(done) < len(sheet.rows):
        missing = [r.cylinder for r in sheet.rows if r.final_mm is None]
        sentence, mark = f"Not finished: {cylinders(missing)} without a final size.", Mark.LOOK
    else:
        sentence, mark = _all_done(sheet)
    return Advice(
        "Call · block", sentence, tuple(_line(r, show) for r in sheet.rows[:8]), sheet.open_points,
        _working(sheet, show), "" if stamp is not None or not can_sign(sheet) else "Sign off", CARE, mark,
    )  # fmt: skip


def can_sign(sheet: Sheet) -> bool:
    """Every cylinder has a final size, or the call was to bore nothing."""
    taken = sheet.state.decision
    return all(r.final_mm is not None for r in sheet.rows) or (taken is not None and not taken.bores)


def _all_done(sheet: Sheet) -> tuple[str, Mark]:
    out = [r.cylinder for r in sheet.rows if r.decision is Decision.OUT]
    close = [r.cylinder for r in sheet.rows if r.decision in (Decision.TOO_CLOSE, None)]
    if out:
        return f"The clearance of {cylinders(out)} is out of its window.", Mark.STOP
    if close:
        return f"{cylinders(close).capitalize()}: too close to call with this gauge.", Mark.LOOK
    return "Every clearance is in its window. Sign off.", Mark.SOUND


def _line(row: SheetRow, show: Show) -> FigureLine:
    if row.clearance_mm is None or row.doubt_mm is None:
        return FigureLine(f"{row.cylinder} clearance", "not known", Mark.LOOK)
    marks = {Decision.IN: Mark.SOUND, Decision.OUT: Mark.STOP, Decision.TOO_CLOSE: Mark.LOOK, None: Mark.LOOK}
    return FigureLine(
        f"{row.cylinder} clearance", f"{show.size(row.clearance_mm)} ± {show.size(row.doubt_mm)}", marks[row.decision]
    )


def _working(sheet: Sheet, show: Show) -> tuple[WorkLine, ...]:
    w = sheet.window
    lines = [WorkLine(f"window {show.size(w.low_mm)}–{show.size(w.high_mm)}", w.source)]
    for row in sheet.rows:
        piston = sheet.state.piston(row.cylinder)
        if row.final_mm is None or piston is None or row.clearance_mm is None:
            continue
        lines.append(
            WorkLine(
                f"{row.cylinder}: {show.size(row.final_mm)} − piston {show.size(piston.size_mm)} = "
                f"{show.size(row.clearance_mm)} ± {show.size(row.doubt_mm or 0)}: {row.decision}",
                "guard band, ISO 14253-1; methods 7",
            )
        )
    return tuple(lines)
