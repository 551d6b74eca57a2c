"""Sign off: is every cylinder at size, in its window, and what does the sheet say (job.md, sign off)."""

from __future__ import annotations

from dataclasses import dataclass

from redline_bore.core.fit import ClearanceWindow, Decision, could_be_in, guard_band
from redline_bore.core.show import Show, count_word, cylinders
from redline_bore.job.call.pistons import rings_of
from redline_bore.job.finish.judgement import WallFinish, finish_of
from redline_bore.job.gauge.analysis import CylinderShape, shape_of
from redline_bore.job.gauge.plate import plate_map
from redline_bore.job.hone.progress import AT_SIZE_MM, HAIR_MM, Progress, progress_of, stock_removed
from redline_bore.job.hone.steps import practice_of
from redline_bore.job.hone.stock_ledger import StepStock, step_stock
from redline_bore.job.profiles.practice import PRACTICE_TOPICS, Practice, practice
from redline_bore.job.redline import clearance_doubt
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.job_state import JobState
from redline_bore.job.state.signing import Accepted, Final, RingGaps, Stamp
from redline_bore.job.words.card import Advice, FigureLine, Mark, WorkLine

MOST_IN_TWOS, MOST_IN_THREES = 6, 12
CUSTOMER, SHOP = "customer", "shop"  # whose sheet
CARES = {
    "washed": "Not washed until a white cloth stays white.",
    "oiled": "Not dried and oiled.",
}
CARE = "Wash with hot soapy water until a white cloth stays white; dry and oil at once."


@dataclass(frozen=True)
class SheetRow:
    """One cylinder on the sheet. None: not known, and it is written so.

    final: the finished hole as gauged under the plate; final_mm: its largest size, else the last check's at the hone.
    unplated_mm: what the customer will read with no plate on, and how that is known.
    """

    cylinder: int
    shape: CylinderShape
    progress: Progress
    final: Final | None
    final_mm: float | None
    unplated_mm: float | None
    unplated_by: str
    clearance_mm: float | None
    doubt_mm: float | None
    decision: Decision | None
    removed_mm: float | None
    steps: tuple[StepStock, ...]
    finish: WallFinish
    rings: RingGaps | None

    @property
    def short(self) -> bool:
        """There is a size, and metal left before the redline: by the last check, or by the final gauging beyond its doubt."""
        redline = self.progress.redline.size_mm
        if self.final is not None and redline is not None:
            return redline - self.final.largest_mm > (self.doubt_mm or 0.0) + AT_SIZE_MM
        return self.final_mm is not None and not (self.progress.at_size or self.progress.over)

    @property
    def stands(self) -> str:
        """How the clearance stands, in a word."""
        return "not at size" if self.short else "not known" if self.decision is None else str(self.decision)


@dataclass(frozen=True)
class Sheet:
    """Everything that is printed. ``open_points`` says what is not known or not done, and nobody took upon themselves."""

    state: JobState
    rows: tuple[SheetRow, ...]
    window: ClearanceWindow
    practices: tuple[tuple[str, str, str], ...]
    open_points: tuple[str, ...]
    accepted: tuple[Accepted, ...]


@once_a_state
def sheet_of(state: JobState) -> Sheet:
    """The sheet of a job as it stands."""
    rows = tuple(_row(state, c) for c in state.cylinders)
    chosen = tuple((title, p.title, p.reason) for topic, title in PRACTICE_TOPICS.items() for p in [_practice(state, topic)])
    points = _open_points(state, rows)
    taken = {a.point: a for a in state.signing.accepted}
    open_points = tuple(p for p in points if p not in taken)
    accepted = tuple(taken[p] for p in points if p in taken)
    return Sheet(state, rows, rows[0].progress.redline.window, chosen, open_points, accepted)


def _practice(state: JobState, topic: str) -> Practice:
    return practice_of(state) if topic == "honing" else practice(topic, state.booking.practice(topic))


def _row(state: JobState, cylinder: int) -> SheetRow:
    progress, checks = progress_of(state, cylinder), state.honing.checks_of(cylinder)
    gauged = state.final_of(cylinder, True)
    final = gauged.largest_mm if gauged is not None else checks[-1].largest_mm if checks else None
    piston = state.calling.piston(cylinder)
    clearance = final - piston.size_mm if final is not None and piston is not None else None
    doubt = clearance_doubt(state, final, piston.size_mm) if final is not None and piston is not None else None
    decision = None
    if clearance is not None and doubt is not None:
        decision = guard_band(clearance, progress.redline.window, doubt)
    unplated, by = unplated_of(state, cylinder, final)
    return SheetRow(
        cylinder, shape_of(state, cylinder), progress, gauged, final, unplated, by, clearance, doubt, decision,
        stock_removed(state, cylinder), step_stock(state, cylinder, progress), finish_of(state, cylinder), state.signing.rings_of(cylinder),
    )  # fmt: skip


def unplated_of(state: JobState, cylinder: int, final_mm: float | None) -> tuple[float | None, str]:
    """The smallest size that will be read with no plate on, mm at 20 C, and how it is known: measured, or foretold from the
    two gaugings of the worn hole, the plate taken off again. None with what is missing."""
    off = state.final_of(cylinder, False)
    if off is not None:
        return min(off.all_mm), "measured"
    moved = plate_map(state, cylinder)
    if final_mm is None or not moved.levels:
        return None, moved.missing or "not finished"
    return final_mm - max(m for level in moved.levels for m in level.moved.moved_mm), "foretold"


def _open_points(state: JobState, rows: tuple[SheetRow, ...]) -> tuple[str, ...]:
    light = state.calling.decision is not None and not state.calling.decision.bores
    notes = ["The call has not been taken."] if state.calling.decision is None else []
    for text, numbers in (
        ("not gauged", [r.cylinder for r in rows if not r.shape.levels]),
        ("piston not measured", [r.cylinder for r in rows if not light and state.calling.piston(r.cylinder) is None]),
        ("no hone check", [r.cylinder for r in rows if not light and r.final_mm is None]),
        ("not at size", [r.cylinder for r in rows if r.short]),
        ("over the redline", [r.cylinder for r in rows if r.progress.over and (r.progress.left_mm or 0) < -HAIR_MM]),
        ("clearance out of its window", [r.cylinder for r in rows if _clearance_is(r, Decision.OUT)]),
        (
            "clearance too close to its window's edge",
            [r.cylinder for r in rows if _clearance_is(r, Decision.TOO_CLOSE)],
        ),
        (
            "not gauged under the plate when finished",
            [r.cylinder for r in rows if not light and _done(r) and r.final is None],
        ),
        (
            "the finished wall is not traced",
            [r.cylinder for r in rows if not light and _done(r) and not r.finish.current],
        ),
        (
            "finish out of its window",
            [r.cylinder for r in rows if r.finish.current and r.finish.where(Decision.OUT)],
        ),
        (
            "finish too close to its window's edge",
            [r.cylinder for r in rows if r.finish.current and r.finish.where(Decision.TOO_CLOSE)],
        ),
        ("ring gap under the least for its duty: file it", [r.cylinder for r in rows if _gap_short(state, r)]),
        ("ring gaps not booked", [r.cylinder for r in rows if (light or _done(r)) and r.rings is None]),
    ):
        if numbers:
            notes.append(f"{cylinders(numbers).capitalize()}: {text}.")
    if rows and not any(r.shape.plate_on for r in rows):
        notes.append("Gauged with the plate off only.")
    window = rows[0].progress.redline.window
    doubts = [r.doubt_mm for r in rows if r.doubt_mm is not None]
    if doubts and not could_be_in(window, max(doubts)):
        notes.append("The clearance window is narrower than twice the gauge's doubt: no reading can be called in.")
    notes += [words for what, words in CARES.items() if what not in {c.what for c in state.signing.cares}]
    return tuple(notes)


def _clearance_is(row: SheetRow, decision: Decision) -> bool:
    """A hole that is short of its size is told of by that alone."""
    return row.decision is decision and not row.short


def _gap_short(state: JobState, row: SheetRow) -> bool:
    """A ring's gap lies under what its duty wants by more than the feeler leaves open."""
    if row.rings is None:
        return False
    least = rings_of(state, row.final_mm or state.block.bore_mm)
    room = state.figures.number("gauging.feeler_u")
    return row.rings.top_mm < least.top_mm - room or (row.rings.second_mm or least.second_mm) < least.second_mm - room


def _done(row: SheetRow) -> bool:
    return row.final_mm is not None


def pictures_a_row(cylinders_there: int) -> int:
    """Pictures of the finish side by side on the customer's sheet, so that it stays on two pages; nought: there is no room."""
    return 2 if cylinders_there <= MOST_IN_TWOS else 3 if cylinders_there <= MOST_IN_THREES else 0


def advise(state: JobState, show: Show) -> Advice:
    """What keeps the job from being signed off, or that it can be."""
    sheet, stamp = sheet_of(state), state.signing.stamp("sign_off")
    sentence, mark = _sentence(state, sheet, stamp)
    button = "" if state.signing.closed or not can_sign(sheet) else "Sign off"
    numbered = tuple(f"{i}. {point}" for i, point in enumerate(sheet.open_points, start=1))
    how = (
        ("Close a point, or take it upon yourself: M, accept 1 and why.",)
        if numbered and not state.signing.closed
        else ()
    )
    return Advice(
        "Call · block", sentence, (*(_line(r, show) for r in sheet.rows[:8]), _finish_line(sheet)), (*numbered, *how), _working(sheet, show),
        button, CARE, mark,
    )  # fmt: skip


def _sentence(state: JobState, sheet: Sheet, stamp: Stamp | None) -> tuple[str, Mark]:
    done = [r for r in sheet.rows if r.final_mm is not None]
    light = state.calling.decision is not None and not state.calling.decision.bores
    if stamp is not None and state.signing.closed:
        later, mark = ("", Mark.SOUND) if light else _all_done(sheet)
        signed = f"Signed off by {stamp.initials}"
        return (f"{signed}.", mark) if mark is Mark.SOUND else (f"{signed}, but look: {later}", mark)
    if not light and len(done) < len(sheet.rows):
        missing = [r.cylinder for r in sheet.rows if r.final_mm is None]
        return f"Not finished: {cylinders(missing)} without a final size.", Mark.LOOK
    if sheet.open_points:
        count = len(sheet.open_points)
        return f"{count_word(count).capitalize()} open point{'s' * (count > 1)} before it can be signed off.", Mark.LOOK
    if light:
        return "Nothing was bored. Sign off.", Mark.SOUND
    return _all_done(sheet)


def can_sign(sheet: Sheet) -> bool:
    """Every cylinder has a final size, or the call was to bore nothing; and no point is open."""
    taken = sheet.state.calling.decision
    finished = all(r.final_mm is not None for r in sheet.rows) or (taken is not None and not taken.bores)
    return finished and not sheet.open_points


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
    if row.short:
        return FigureLine(f"{row.cylinder} clearance", "not at size yet", Mark.LOOK)
    marks = {Decision.IN: Mark.SOUND, Decision.OUT: Mark.STOP, Decision.TOO_CLOSE: Mark.LOOK, None: Mark.LOOK}
    return FigureLine(
        f"{row.cylinder} clearance", f"{show.size(row.clearance_mm)} ± {show.size(row.doubt_mm)}", marks[row.decision]
    )


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
