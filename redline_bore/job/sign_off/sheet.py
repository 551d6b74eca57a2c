"""Sign off: is every cylinder at size, in its window, and what does the sheet say (job.md, sign off)."""

from __future__ import annotations

from enum import Enum, StrEnum, auto
from typing import NamedTuple

from redline_bore.core.fit import ClearanceWindow, Decision, could_be_in
from redline_bore.core.frozen import frozen
from redline_bore.core.show import cylinders
from redline_bore.job.call.pistons import rings_of
from redline_bore.job.finish.judgement import WallFinish, finish_of
from redline_bore.job.gauge.analysis import CylinderShape, shape_of
from redline_bore.job.gauge.hole import HoleShape
from redline_bore.job.gauge.plate import plate_map
from redline_bore.job.gauge.plate_wanted import plate_wanted
from redline_bore.job.gauge.two_ends import ends_call, final_apart, hole_now
from redline_bore.job.hone.progress import Progress, progress_of, stock_removed
from redline_bore.job.hone.steps import practice_of
from redline_bore.job.hone.stock_ledger import StepStock, step_stock
from redline_bore.job.profiles.practice import PRACTICE_TOPICS, Practice, practice
from redline_bore.job.route import stopped_by_crack
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.job_state import JobState
from redline_bore.job.state.signing import Accepted, Final, RingGaps

MOST_IN_TWOS, MOST_IN_THREES = 6, 12
CUSTOMER, SHOP = "customer", "shop"  # whose sheet


class OpenPoint(StrEnum):
    """What may keep a job from being signed off. The values stand in ledgers: they are kept."""

    NO_CALL = "no call"
    NOT_GAUGED = "not gauged"
    PISTON_NOT_MEASURED = "piston not measured"
    NO_CHECK = "no hone check"
    NOT_AT_SIZE = "not at size"
    PAST = "past the redline"
    CRACKED = "cracked"  # or welded, and not pressure-tested tight
    CLEARANCE_OUT = "clearance out"
    CLEARANCE_CLOSE = "clearance close"
    SHAPE_OUT = "shape out"
    FINAL_DIFFERS = "final differs"
    ENDS_NOT_READ = "both ends not read"
    NOT_GAUGED_PLATED = "not gauged under the plate"
    NOT_TRACED = "not traced"
    FINISH_OUT = "finish out"
    FINISH_CLOSE = "finish close"
    GAP_SHORT = "ring gap short"
    GAPS_NOT_BOOKED = "ring gaps not booked"
    PLATE_OFF_ONLY = "plate off only"
    WINDOW_TOO_NARROW = "window too narrow"
    SIMULATED = "simulated"  # nobody can take that upon himself
    OWNER_NOT_SAID = "owner not said"
    NOT_WASHED = "not washed"
    NOT_OILED = "not oiled"


class UnplatedBy(Enum):
    """How the size with no plate on is known."""

    MEASURED = auto()
    FORETOLD = auto()  # from the two gaugings of the worn hole
    NOT_KNOWN = auto()


@frozen
class PointFound:
    """An open point, and the cylinders it is about; none: the block."""

    what: OpenPoint
    cylinders: tuple[int, ...] = ()

    @property
    def key(self) -> str:
        """As an entry that accepts it keeps it."""
        return f"{self.what}: {' '.join(map(str, self.cylinders))}" if self.cylinders else str(self.what)


@frozen(often=True)
class SheetRow:
    """One cylinder on the sheet. None: not known, and it is written so.

    final: the finished hole as gauged under the plate. final_mm: its mean, smallest_mm and largest_mm its two ends; without one, of the
    final with the plate off, else of the last check at the hone. clearance_mm: at the smallest place, most_mm: at the largest.
    apart_mm: the final against the last check, where that is more than both doubts.
    unplated_mm: what the customer will read with no plate on, and how that is known.
    """

    cylinder: int
    shape: CylinderShape
    progress: Progress
    final: Final | None
    final_mm: float | None
    smallest_mm: float | None
    largest_mm: float | None
    hole: HoleShape | None
    both_ends: bool
    apart_mm: float | None
    unplated_mm: float | None
    unplated_by: UnplatedBy
    clearance_mm: float | None
    most_mm: float | None
    doubt_mm: float | None
    decision: Decision | None
    removed_mm: float | None
    steps: tuple[StepStock, ...]
    finish: WallFinish
    rings: RingGaps | None

    @property
    def short(self) -> bool:
        """There is a size, and metal left to take: no place is over the window, one is under it, and the mean is short of the redline by
        more than U."""
        p = self.progress
        if self.final_mm is None or p.ends is None or self.largest_mm is None or self.smallest_mm is None:
            return False
        if self.final is None and not (p.at_size or p.over or self.decision is Decision.IN):
            return True
        e = p.ends
        room = self.largest_mm <= e.ceiling_mm and self.final_mm < e.redline_mm - e.u_mm
        return room and self.smallest_mm < e.low_mm

    @property
    def stands(self) -> str:
        """How the clearance stands, in a word."""
        return "not at size" if self.short else "not known" if self.decision is None else str(self.decision)


@frozen(often=True)
class Sheet:
    """Everything that is printed. ``open_points`` says what is not known or not done, and nobody took upon themselves."""

    state: JobState
    rows: tuple[SheetRow, ...]
    window: ClearanceWindow
    practices: tuple[tuple[str, str, str], ...]
    open_points: tuple[PointFound, ...]
    accepted: tuple[Accepted, ...]


@once_a_state
def sheet_of(state: JobState) -> Sheet:
    """The sheet of a job as it stands."""
    rows = tuple(_row(state, c) for c in state.cylinders)
    chosen = tuple(
        (title, p.title, p.reason) for topic, title in PRACTICE_TOPICS.items() for p in [_practice(state, topic)]
    )
    points = _open_points(state, rows)
    taken = {p: a for p in points for a in state.signing.accepted if accepts(a, p)}
    open_points = tuple(p for p in points if p not in taken)
    accepted = tuple(taken[p] for p in points if p in taken)
    return Sheet(state, rows, rows[0].progress.redline.window, chosen, open_points, accepted)


def accepts(taken: Accepted, point: PointFound) -> bool:
    """Whether a point was taken upon somebody: by its key, or, in ledgers of before 0.7, by what was said then."""
    if point.what is OpenPoint.SIMULATED:
        return False
    return taken.about == point.key if taken.about else taken.point == said_before_0_7(point)


def said_before_0_7(point: PointFound) -> str:
    """An open point as ledgers kept it before they kept its key. Not to be changed: old entries are held against it."""
    p = OpenPoint
    of_block = {
        p.NO_CALL: "The call has not been taken.", p.PLATE_OFF_ONLY: "Gauged with the plate off only.",
        p.WINDOW_TOO_NARROW: "The clearance window is narrower than twice the gauge's doubt: no reading can be called in.",
        p.SIMULATED: "Simulated instruments sent readings of this job: it is practice, and no real work is signed on it.",
        p.NOT_WASHED: "Not washed until a white cloth stays white.", p.NOT_OILED: "Not dried and oiled.",
        p.OWNER_NOT_SAID: "Nobody said whose block it is.",
    }  # fmt: skip
    if point.what in of_block:
        return of_block[point.what]
    about = {
        p.NOT_GAUGED: "not gauged", p.PISTON_NOT_MEASURED: "piston not measured", p.NO_CHECK: "no hone check",
        p.NOT_AT_SIZE: "not at size", p.PAST: "over the redline", p.CRACKED: "cracked or welded, and not pressure-tested tight", p.CLEARANCE_OUT: "clearance out of its window",
        p.CLEARANCE_CLOSE: "clearance too close to its window's edge", p.SHAPE_OUT: "taper, straightness or out of round over its limit",
        p.FINAL_DIFFERS: "the final gauging differs from the last check, or with the plate off from that under it, by more than both doubts: set the gauge on its master, look at temperature and plate, gauge again",
        p.ENDS_NOT_READ: "not gauged at three depths and two angles: nothing is known of its smallest and its largest place",
        p.NOT_GAUGED_PLATED: "not gauged under the plate when finished", p.NOT_TRACED: "the finished wall is not traced",
        p.FINISH_OUT: "finish out of its window", p.FINISH_CLOSE: "finish too close to its window's edge",
        p.GAP_SHORT: "ring gap under the least for its duty: file it", p.GAPS_NOT_BOOKED: "ring gaps not booked",
    }[point.what]  # fmt: skip
    return f"{cylinders(list(point.cylinders)).capitalize()}: {about}."


def _practice(state: JobState, topic: str) -> Practice:
    return practice_of(state) if topic == "honing" else practice(topic, state.booking.practice(topic))


def _row(state: JobState, cylinder: int) -> SheetRow:
    progress = progress_of(state, cylinder)
    gauged, now, call = state.final_of(cylinder, True), hole_now(state, cylinder), ends_call(state, cylinder)
    hole = now if call is None else call.hole
    final = None if hole is None else hole.mean_mm
    unplated, by = unplated_of(state, cylinder, final)
    return SheetRow(
        cylinder=cylinder, shape=shape_of(state, cylinder), progress=progress, final=gauged, final_mm=final,
        smallest_mm=None if hole is None else hole.smallest_mm, largest_mm=None if hole is None else hole.largest_mm,
        hole=None if hole is None else hole.shape, both_ends=hole is not None and hole.both_ends, apart_mm=final_apart(state, cylinder), unplated_mm=unplated, unplated_by=by,
        clearance_mm=None if call is None else call.least_mm, most_mm=None if call is None else call.most_mm,
        doubt_mm=None if call is None else call.u_mm, decision=None if call is None else call.decision,
        removed_mm=stock_removed(state, cylinder), steps=step_stock(state, cylinder, progress), finish=finish_of(state, cylinder),
        rings=state.signing.rings_of(cylinder),
    )  # fmt: skip


class Unplated(NamedTuple):
    """The size that is read with no plate on, mm, and how that is known."""

    size_mm: float | None
    by: UnplatedBy


def unplated_of(state: JobState, cylinder: int, final_mm: float | None) -> Unplated:
    """The smallest size that will be read with no plate on, mm at 20 C, and how it is known: measured, or foretold from the
    two gaugings of the worn hole, the plate taken off again. None with what is missing."""
    off = state.final_of(cylinder, False)
    if off is not None:
        return Unplated(min(off.all_mm), UnplatedBy.MEASURED)
    moved = plate_map(state, cylinder)
    if final_mm is None or not moved.levels:
        return Unplated(None, UnplatedBy.NOT_KNOWN)
    return Unplated(final_mm - max(m for level in moved.levels for m in level.moved.moved_mm), UnplatedBy.FORETOLD)


def _open_points(state: JobState, rows: tuple[SheetRow, ...]) -> tuple[PointFound, ...]:
    """What is not known or not done, in the order it is told."""
    light, p = state.calling.decision is not None and not state.calling.decision.bores, OpenPoint
    window = rows[0].progress.redline.window
    doubts = [r.doubt_mm for r in rows if r.doubt_mm is not None]
    taken = {c.what for c in state.signing.cares}
    wanted = any(plate_wanted(state, r.cylinder) for r in rows)
    by_cylinder = (
        (p.NOT_GAUGED, [r for r in rows if not r.shape.levels]),
        (p.PISTON_NOT_MEASURED, [r for r in rows if not light and state.calling.piston(r.cylinder) is None]),
        (p.NO_CHECK, [r for r in rows if not light and r.final_mm is None]),
        (p.NOT_AT_SIZE, [r for r in rows if r.short]),
        (p.PAST, [r for r in rows if r.progress.over]),
        (p.CRACKED, [r for r in rows if stopped_by_crack(state, r.cylinder)]),
        (p.CLEARANCE_OUT, [r for r in rows if _clearance_is(r, Decision.OUT)]),
        (p.CLEARANCE_CLOSE, [r for r in rows if _clearance_is(r, Decision.TOO_CLOSE)]),
        (p.SHAPE_OUT, [r for r in rows if not light and r.hole is not None and r.hole.out and not r.short]),
        (p.FINAL_DIFFERS, [r for r in rows if r.apart_mm is not None]),
        (
            p.ENDS_NOT_READ,
            [r for r in rows if not light and r.final_mm is not None and not r.both_ends and not r.short],
        ),
        (
            p.NOT_GAUGED_PLATED,
            [r for r in rows if not light and _done(r) and r.final is None and plate_wanted(state, r.cylinder)],
        ),
        (p.NOT_TRACED, [r for r in rows if not light and _done(r) and not r.finish.current]),
        (p.FINISH_OUT, [r for r in rows if r.finish.current and r.finish.where(Decision.OUT)]),
        (p.FINISH_CLOSE, [r for r in rows if r.finish.current and r.finish.where(Decision.TOO_CLOSE)]),
        (p.GAP_SHORT, [r for r in rows if _gap_short(state, r)]),
        (p.GAPS_NOT_BOOKED, [r for r in rows if (light or _done(r)) and r.rings is None]),
    )
    of_block = (
        (p.PLATE_OFF_ONLY, bool(rows) and not light and not any(r.shape.plate_on for r in rows) and wanted),
        (p.WINDOW_TOO_NARROW, bool(doubts) and not could_be_in(window, max(doubts, default=0.0))),
        (p.SIMULATED, state.simulated > 0),
        (p.OWNER_NOT_SAID, not state.book_in.owner),
        (p.NOT_WASHED, "washed" not in taken),
        (p.NOT_OILED, "oiled" not in taken),
    )
    found = [PointFound(p.NO_CALL)] if state.calling.decision is None else []
    found += [PointFound(what, tuple(r.cylinder for r in about)) for what, about in by_cylinder if about]
    return (*found, *(PointFound(what) for what, so in of_block if so))


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


def can_sign(sheet: Sheet) -> bool:
    """Every cylinder has a final size, or the call was to bore nothing; and no point is open."""
    taken = sheet.state.calling.decision
    finished = all(r.final_mm is not None for r in sheet.rows) or (taken is not None and not taken.bores)
    return finished and not sheet.open_points


class SignCall(Enum):
    """What stands between the job and its signature."""

    SIGNED = auto()
    SIGNED_BUT_OUT = auto()
    SIGNED_BUT_CLOSE = auto()
    NOT_FINISHED = auto()
    POINTS_OPEN = auto()
    NOTHING_BORED = auto()
    CLEARANCE_OUT = auto()
    CLEARANCE_CLOSE = auto()
    READY = auto()


@frozen
class SignFinding:
    """``call``, and the cylinders it is about."""

    call: SignCall
    sheet: Sheet
    cylinders: tuple[int, ...] = ()


def judge(state: JobState) -> SignFinding:
    """What keeps the job from being signed off, or that it can be."""
    sheet, c = sheet_of(state), SignCall
    light = state.calling.decision is not None and not state.calling.decision.bores
    clearance = SignFinding(c.READY, sheet) if light else _clearances(sheet)
    if state.signing.closed:
        after = {c.READY: c.SIGNED, c.CLEARANCE_OUT: c.SIGNED_BUT_OUT, c.CLEARANCE_CLOSE: c.SIGNED_BUT_CLOSE}
        return SignFinding(after[clearance.call], sheet, clearance.cylinders)
    missing = tuple(r.cylinder for r in sheet.rows if r.final_mm is None)
    if not light and missing:
        return SignFinding(c.NOT_FINISHED, sheet, missing)
    if sheet.open_points:
        return SignFinding(c.POINTS_OPEN, sheet)
    return SignFinding(c.NOTHING_BORED, sheet) if light else clearance


def _clearances(sheet: Sheet) -> SignFinding:
    out = tuple(r.cylinder for r in sheet.rows if r.decision is Decision.OUT)
    close = tuple(r.cylinder for r in sheet.rows if r.decision in (Decision.TOO_CLOSE, None))
    if out:
        return SignFinding(SignCall.CLEARANCE_OUT, sheet, out)
    return SignFinding(SignCall.CLEARANCE_CLOSE, sheet, close) if close else SignFinding(SignCall.READY, sheet)
