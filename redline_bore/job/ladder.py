"""The size ladder: what each cylinder needs and allows, what a call does with it, whether a call still stands."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from redline_bore.core.cleanup import CleanUp, Verdict
from redline_bore.job.advice import Show
from redline_bore.job.analysis import CylinderShape, shape_of
from redline_bore.job.entries import Apart, BasedOn
from redline_bore.job.need import Need, need_of, unread_zones, wall_ceiling
from redline_bore.job.state import JobState

SLEEVED, TOO_THIN, NOT_KNOWN = "sleeved", "wall too thin", "not known"


@dataclass(frozen=True)
class Column:
    """One cylinder on the ladder. cleanup None: not known, and ``reason`` says why."""

    cylinder: int
    shape: CylinderShape
    cleanup: CleanUp | None
    ceiling_mm: float | None
    reason: str
    note: str
    need: Need
    unread: tuple[str, ...]

    def verdict(self, size_mm: float) -> Verdict | None:
        return self.cleanup.verdict(size_mm) if self.cleanup else None

    def too_thin(self, size_mm: float) -> bool:
        return self.ceiling_mm is not None and size_mm > self.ceiling_mm + 1e-9


@dataclass(frozen=True)
class Fate:
    """What a call does with one cylinder: to which size (mm over nominal), how, and whether that cleans it up."""

    column: Column
    oversize_mm: float
    way: str  # "common", "own" or "sleeve"
    verdict: Verdict | None
    too_thin: bool

    @property
    def cylinder(self) -> int:
        return self.column.cylinder

    @property
    def sound(self) -> bool:
        """It surely comes out: a new sleeve does, else it surely cleans up and is not known to be too thin."""
        return self.way == "sleeve" or (self.verdict is Verdict.CLEANS_UP and not self.too_thin)

    @property
    def fails(self) -> bool:
        """It is known not to come out."""
        return self.way != "sleeve" and (self.verdict is Verdict.WILL_NOT or self.too_thin)

    @property
    def word(self) -> str:
        if self.way == "sleeve":
            return SLEEVED
        if self.too_thin:
            return TOO_THIN
        return str(self.verdict) if self.verdict is not None else NOT_KNOWN


@dataclass(frozen=True)
class Ladder:
    """All cylinders side by side over the rungs (steps over nominal, mm) that pistons exist for."""

    nominal_mm: float
    rungs_mm: tuple[float, ...]
    columns: tuple[Column, ...]

    @property
    def unknown(self) -> list[int]:
        return [c.cylinder for c in self.columns if c.cleanup is None]

    def fates(self, oversize_mm: float, apart: Sequence[Apart] = ()) -> tuple[Fate, ...]:
        """What a call at a common rung, with some cylinders apart, does with each cylinder."""
        left = {a.cylinder: a for a in apart}
        return tuple(self._fate(column, oversize_mm, left.get(column.cylinder)) for column in self.columns)

    def _fate(self, column: Column, oversize_mm: float, apart: Apart | None) -> Fate:
        way = "common" if apart is None else apart.way
        own = oversize_mm if apart is None or apart.oversize_mm is None else apart.oversize_mm
        size = self.nominal_mm + own
        return Fate(column, own, way, column.verdict(size), column.too_thin(size))

    def where(self, oversize_mm: float, verdict: Verdict) -> list[int]:
        return [f.cylinder for f in self.fates(oversize_mm) if f.verdict is verdict]

    def thin(self, oversize_mm: float) -> list[int]:
        return [f.cylinder for f in self.fates(oversize_mm) if f.too_thin]

    def sure(self, oversize_mm: float, apart: Sequence[Apart] = ()) -> bool:
        """Every cylinder surely comes out."""
        return all(f.sound for f in self.fates(oversize_mm, apart))

    def possible(self, oversize_mm: float, apart: Sequence[Apart] = ()) -> bool:
        """No cylinder is known to fail, and all that are not sleeved are known."""
        fates = self.fates(oversize_mm, apart)
        return not any(f.fails or (f.way != "sleeve" and f.verdict is None) for f in fates)

    @property
    def smallest_sure(self) -> float | None:
        return next((r for r in self.rungs_mm if self.sure(r)), None)

    @property
    def smallest_possible(self) -> float | None:
        return next((r for r in self.rungs_mm if self.possible(r)), None)

    def smallest_sure_without(self, cylinder: int) -> float | None:
        """The smallest rung that surely does for all the others."""
        away = (Apart(cylinder=cylinder, way="sleeve"),)
        return next((r for r in self.rungs_mm if self.sure(r, away)), None)

    @property
    def worst(self) -> Column | None:
        """The cylinder that needs most."""
        known = [c for c in self.columns if c.cleanup is not None]
        return max(known, key=lambda c: c.cleanup.high_mm if c.cleanup else 0.0, default=None)


def ladder_of(state: JobState) -> Ladder:
    """The size ladder of a job."""
    return state.remembered("ladder", lambda: _ladder_now(state))


def _ladder_now(state: JobState) -> Ladder:
    return Ladder(
        state.block.bore_mm,
        tuple(sorted(state.book_in.oversizes_mm)),
        tuple(_column(state, cylinder) for cylinder in state.cylinders),
    )


def _column(state: JobState, cylinder: int) -> Column:
    need = need_of(state, cylinder)
    return Column(
        cylinder, need.shape, need.cleanup, wall_ceiling(state, cylinder), need.reason, _note(state, need.shape), need,
        unread_zones(state, cylinder),
    )  # fmt: skip


def _note(state: JobState, shape: CylinderShape) -> str:
    if not shape.levels:
        return "not gauged"
    if shape.deciding_defect is not None:
        return shape.deciding_defect.what
    if shape.wear is None:
        return "no unworn place read"
    axis = next((v.fit.long_axis_deg for v in shape.levels if v.fit.long_axis_deg is not None), None)
    worst = shape.worst_level
    if worst is not None and worst.fit.long_axis_deg is not None:
        axis = worst.fit.long_axis_deg
    if axis is None:
        return "worn"
    return "thrust wear" if 60.0 <= axis <= 120.0 else "pin-axis wear" if not 30.0 < axis < 150.0 else "wear askew"


def based_on(ladder: Ladder, oversize_mm: float, apart: Sequence[Apart]) -> tuple[BasedOn, ...]:
    """What each cylinder needs and allows now, to be kept with a decision."""
    return tuple(
        BasedOn(
            cylinder=f.cylinder, verdict=f.word, low_mm=f.column.cleanup.low_mm if f.column.cleanup else None,
            high_mm=f.column.cleanup.high_mm if f.column.cleanup else None, ceiling_mm=f.column.ceiling_mm,
        )
        for f in ladder.fates(oversize_mm, apart)
    )  # fmt: skip


def contradictions(state: JobState, show: Show) -> tuple[str, ...]:
    """Where readings booked since the call was taken speak against it; empty while it stands."""
    decision = state.decision
    if decision is None or not decision.based_on:
        return ()
    ladder = ladder_of(state)
    then = {b.cylinder: b for b in decision.based_on}
    return tuple(
        text
        for fate in ladder.fates(decision.oversize_mm, decision.apart)
        if (text := _against(fate, then.get(fate.cylinder), show))
    )


_RANK = {
    str(Verdict.WILL_NOT): 0,
    TOO_THIN: 0,
    str(Verdict.MAY_SHADOW): 1,
    NOT_KNOWN: 1,
    str(Verdict.CLEANS_UP): 2,
    SLEEVED: 3,
}


def _against(fate: Fate, then: BasedOn | None, show: Show) -> str:
    if then is None or _RANK[fate.word] >= _RANK.get(then.verdict, 1):
        return ""
    now, why = fate.column.cleanup, ""
    if fate.too_thin and fate.column.ceiling_mm is not None:
        why = f"its wall allows {show.size(fate.column.ceiling_mm)}"
    elif now is not None and then.high_mm is not None:
        why = f"it needed {show.size(then.high_mm)} at most, now {show.size(now.high_mm)}"
    return f"Cylinder {fate.cylinder} at {show.step(fate.oversize_mm)}: {fate.word}, was {then.verdict}; {why or 'its readings changed'}."


def first_rung(state: JobState) -> float:
    """Where the redline stands before anyone moves it: the decision, else the smallest sure or possible rung."""
    ladder = ladder_of(state)
    if state.decision is not None:
        return state.decision.oversize_mm
    for rung in (ladder.smallest_sure, ladder.smallest_possible):
        if rung is not None:
            return rung
    return ladder.rungs_mm[-1] if ladder.rungs_mm else 0.0


def within_limits(state: JobState, kind: str = "rering") -> bool:
    """Every cylinder is gauged, known, without defects, and inside a set of limits on the hole.

    kind: everyday (nothing to do), deglaze, or rering.
    """
    limit = {key: state.figures.number(f"limits.{kind}_{key}") for key in ("out_of_round", "taper", "bulge")}
    for cylinder in state.cylinders:
        shape = shape_of(state, cylinder)
        if (
            shape.axial is None
            or shape.wear is None
            or shape.axial.bulge_mm is None
            or (shape.cleanup is not None and not shape.cleanup.is_bound)
        ):
            return False
        oval = max(v.fit.out_of_round_raw_mm for v in shape.levels)
        wear_ok = shape.wear.largest_reading_mm <= limit["taper"]
        shape_ok = abs(shape.axial.taper_mm) <= limit["taper"] and abs(shape.axial.bulge_mm) <= limit["bulge"]
        if not (wear_ok and shape_ok and oval <= limit["out_of_round"]) or _marked_deep(state, cylinder, kind):
            return False
    return True


def _marked_deep(state: JobState, cylinder: int, kind: str) -> bool:
    """A defect that more than shows: what can just be felt may stay in a hole that is not cut anyway."""
    allowed = 0.0 if kind == "everyday" else state.figures.row("cleanup.can_feel")[1]
    return any(d.deep_high_mm > allowed + 1e-9 or d.what.startswith("crack") for d in state.defects_of(cylinder))
