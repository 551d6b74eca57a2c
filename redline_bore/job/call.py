"""The call: which rung of the size ladder, per cylinder and for the block, with reasons (methods 5, 6, 7)."""

from __future__ import annotations

from dataclasses import dataclass

from redline_bore.core.cleanup import CleanUp, Verdict
from redline_bore.job.advice import Advice, FigureLine, Mark, Show, WorkLine, cylinders, every, listed
from redline_bore.job.analysis import CylinderShape, bound_needs, rules_of, shape_of, wall_ceiling
from redline_bore.job.redline import leading_window, redline_of
from redline_bore.job.state import JobState

CARE = "A cracked or thin cylinder is not a matter for opinion: pressure-test before boring."


@dataclass(frozen=True)
class Column:
    """One cylinder on the ladder. cleanup None: not known, and ``reason`` says why."""

    cylinder: int
    shape: CylinderShape
    cleanup: CleanUp | None
    ceiling_mm: float | None
    reason: str
    note: str

    def verdict(self, size_mm: float) -> Verdict | None:
        return self.cleanup.verdict(size_mm) if self.cleanup else None

    def too_thin(self, size_mm: float) -> bool:
        return self.ceiling_mm is not None and size_mm > self.ceiling_mm + 1e-9


@dataclass(frozen=True)
class Ladder:
    """All cylinders side by side over the rungs (steps over nominal, mm) that pistons exist for."""

    nominal_mm: float
    rungs_mm: tuple[float, ...]
    columns: tuple[Column, ...]

    @property
    def unknown(self) -> list[int]:
        return [c.cylinder for c in self.columns if c.cleanup is None]

    def where(self, oversize_mm: float, verdict: Verdict) -> list[int]:
        size = self.nominal_mm + oversize_mm
        return [c.cylinder for c in self.columns if c.verdict(size) is verdict]

    def thin(self, oversize_mm: float) -> list[int]:
        return [c.cylinder for c in self.columns if c.too_thin(self.nominal_mm + oversize_mm)]

    def sure(self, oversize_mm: float) -> bool:
        """Every cylinder surely cleans up, and none is known to be too thin."""
        clean = self.where(oversize_mm, Verdict.CLEANS_UP)
        return len(clean) == len(self.columns) and not self.thin(oversize_mm)

    def possible(self, oversize_mm: float) -> bool:
        """No cylinder is known to fail, and all are known."""
        return not (self.unknown or self.where(oversize_mm, Verdict.WILL_NOT) or self.thin(oversize_mm))

    @property
    def smallest_sure(self) -> float | None:
        return next((r for r in self.rungs_mm if self.sure(r)), None)

    @property
    def smallest_possible(self) -> float | None:
        return next((r for r in self.rungs_mm if self.possible(r)), None)


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
    shape = shape_of(state, cylinder)
    reason = "" if shape.cleanup else (shape.why_not("cleanup") or "not gauged yet")
    if not shape.levels:
        reason = "not gauged yet"
    return Column(cylinder, shape, shape.cleanup, wall_ceiling(state, cylinder), reason, _note(state, shape))


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


def first_rung(state: JobState) -> float:
    """Where the redline stands before anyone moves it: the decision, else the smallest sure or possible rung."""
    ladder = ladder_of(state)
    if state.decision is not None:
        return state.decision.oversize_mm
    for rung in (ladder.smallest_sure, ladder.smallest_possible):
        if rung is not None:
            return rung
    return ladder.rungs_mm[-1] if ladder.rungs_mm else 0.0


def within_leave_limits(state: JobState) -> bool:
    """Every cylinder is gauged, known, without defects, and inside the limits for leaving and re-ringing."""
    limit = {key: state.figures.number(f"limits.rering_{key}") for key in ("out_of_round", "taper", "bulge")}
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
        if not (wear_ok and shape_ok and oval <= limit["out_of_round"]) or state.defects_of(cylinder):
            return False
    return True


def advise(state: JobState, cylinder: int, oversize_mm: float, show: Show) -> Advice:
    """The call with the redline at ``oversize_mm`` over nominal, mm."""
    ladder = ladder_of(state)
    sentence, mark = sentence_for(state, ladder, oversize_mm, show)
    column = ladder.columns[cylinder - 1]
    return Advice(
        "Call · block",
        sentence,
        _figures(state, ladder, column, oversize_mm, show),
        _changes(state, ladder, oversize_mm, show),
        _working(state, column, oversize_mm, show),
        "Take the call" if can_take(ladder, oversize_mm) else "",
        CARE,
        mark,
    )


def can_take(ladder: Ladder, oversize_mm: float) -> bool:
    """A call can be taken when every cylinder is known and none is known to fail at that size."""
    return bool(ladder.rungs_mm) and ladder.possible(oversize_mm)


def sentence_for(state: JobState, ladder: Ladder, oversize_mm: float, show: Show) -> tuple[str, Mark]:
    """The call in one or two sentences."""
    step = show.step(oversize_mm).lstrip("+")
    if ladder.unknown:
        first = ladder.columns[ladder.unknown[0] - 1]
        if len(ladder.unknown) == len(ladder.columns) and not any(c.shape.levels for c in ladder.columns):
            return "Not gauged yet. No size can be called.", Mark.LOOK
        return f"Cylinder {first.cylinder} is not known: {first.reason[0].lower()}{first.reason[1:]}.", Mark.LOOK
    if within_leave_limits(state):
        return "Nothing asks for boring: leave it and re-ring.", Mark.SOUND
    if not ladder.rungs_mm:
        return "No piston sizes are listed. Ask which exist.", Mark.LOOK
    if thin := ladder.thin(oversize_mm):
        return f"{step} over leaves {cylinders(thin)} too thin.", Mark.STOP
    if fails := ladder.where(oversize_mm, Verdict.WILL_NOT):
        return f"{step} over will not clean up {cylinders(fails)}.", Mark.STOP
    return _possible_sentence(ladder, oversize_mm, show)


def _possible_sentence(ladder: Ladder, oversize_mm: float, show: Show) -> tuple[str, Mark]:
    step = show.step(oversize_mm).lstrip("+")
    many = every(len(ladder.columns))
    worst = max(ladder.columns, key=lambda c: c.cleanup.high_mm if c.cleanup else 0.0)
    if shadow := ladder.where(oversize_mm, Verdict.MAY_SHADOW):
        needs = next((n for n in (bound_needs(c.shape, show) for c in ladder.columns) if n), "")
        then = f" First {needs}." if needs else f" Measure {cylinders(shadow)} first."
        return f"{step} over may leave a shadow in {listed(shadow)}.{then}", Mark.LOOK
    smaller = ladder.smallest_possible
    if smaller is not None and smaller < oversize_mm:
        less = show.step(smaller).lstrip("+")
        return f"Bore {many} {step} over. Cylinder {worst.cylinder} decides it; {less} may do.", Mark.SOUND
    return f"Bore {many} {step} over. Cylinder {worst.cylinder} decides it.", Mark.SOUND


def _figures(state: JobState, ladder: Ladder, column: Column, oversize_mm: float, show: Show) -> tuple[FigureLine, ...]:
    size, lines = ladder.nominal_mm + oversize_mm, []
    if column.cleanup is not None:
        c = column.cleanup
        upper = f"–{show.size(c.high_mm)}" if c.is_bound else " or more"
        lines.append(FigureLine(f"{column.cylinder} cleans up at", f"{show.size(c.low_mm)}{upper}"))
        verdict = c.verdict(size)
        marks = {Verdict.CLEANS_UP: Mark.SOUND, Verdict.MAY_SHADOW: Mark.LOOK, Verdict.WILL_NOT: Mark.STOP}
        lines.append(FigureLine(f"{column.cylinder} at {show.step(oversize_mm)}", str(verdict), marks[verdict]))
    else:
        lines.append(FigureLine(f"cylinder {column.cylinder}", "not known", Mark.LOOK))
    window = leading_window(state)
    lines.append(FigureLine(f"clearance, {window.source}", f"{show.size(window.low_mm)}–{show.size(window.high_mm)}"))
    redline = redline_of(state, column.cylinder)
    if column.shape.mean_mm is not None:
        lines.append(FigureLine("stock on diameter", show.unit(show.rough(size - column.shape.mean_mm))))
    if redline.piston is not None:
        lines.append(
            FigureLine(f"finish to piston {column.cylinder}", show.size(redline.piston.size_mm + window.aim_mm))
        )
    if column.ceiling_mm is None:
        lines.append(FigureLine(f"wall left in {column.cylinder}", "not read: unknown", Mark.LOOK))
    else:
        thin = column.too_thin(size)
        lines.append(
            FigureLine(
                f"{column.cylinder} wall allows", show.size(column.ceiling_mm), Mark.STOP if thin else Mark.SOUND
            )
        )
    left = sum(r > oversize_mm + 1e-9 and not ladder.thin(r) for r in ladder.rungs_mm)
    lines.append(FigureLine("rebuilds left after", str(left)))
    return tuple(lines)


def _changes(state: JobState, ladder: Ladder, oversize_mm: float, show: Show) -> tuple[str, ...]:
    notes = []
    known = [c for c in ladder.columns if c.cleanup is not None]
    if known:
        worst = max(known, key=lambda c: c.cleanup.high_mm if c.cleanup else 0.0)
        rest = [c for c in known if c is not worst]
        smaller = next(
            (
                r
                for r in ladder.rungs_mm
                if rest and all(c.verdict(ladder.nominal_mm + r) is Verdict.CLEANS_UP for c in rest)
            ),
            None,
        )
        if smaller is not None and smaller < oversize_mm and len(rest) == len(ladder.columns) - 1:
            notes.append(f"Without cylinder {worst.cylinder} the rest clean up at {show.step(smaller)}.")
        if worst.shape.deciding_defect is not None and not worst.shape.deciding_defect.measured:
            notes.append(
                f"Measure the {worst.shape.deciding_defect.what} in {worst.cylinder}: it is known by feel only."
            )
    unread = [c.cylinder for c in ladder.columns if c.ceiling_mm is None]
    if unread:
        notes.append(f"The wall of {cylinders(unread)} is not read; read it before going up in size.")
    if state.decision is not None and abs(state.decision.oversize_mm - oversize_mm) > 1e-6:
        notes.append(f"The call taken is {show.step(state.decision.oversize_mm)}; Enter replaces it.")
    window = leading_window(state)
    if window.source != state.practice("clearance"):
        notes.append(f"No {state.practice('clearance')} is stated; clearance is by {window.source}.")
    notes.append("Sweep readings would narrow the bars: two points cannot say which side wore.")
    return tuple(notes)


def _working(state: JobState, column: Column, oversize_mm: float, show: Show) -> tuple[WorkLine, ...]:
    shape, rules = column.shape, rules_of(state)
    if column.cleanup is None or shape.wear is None or shape.deciding is None:
        return (WorkLine(f"cylinder {column.cylinder}: {column.reason}", "methods 5"),)
    c, spot, defect = column.cleanup, shape.deciding, shape.deciding_defect
    wear = spot.size_mm - shape.wear.reference_mm
    deep = defect.deep_high_mm if defect else 0.0
    ref, w, d, k = (show.fine(v) for v in (shape.wear.reference_mm, wear, deep, rules.skin_mm))
    share = state.figures.figure("cleanup.usual_share")
    lines = [
        WorkLine(
            f"cylinder {column.cylinder} decides {show.down(spot.depth_mm)}, {spot.clock_deg:g}°: {show.fine(spot.size_mm)}"
        ),
        WorkLine(
            f"wear w = {show.fine(spot.size_mm)} − unworn {ref} = {w}; defect {d} deep; skin {k} a side", "methods 5"
        ),
        WorkLine(f"high end: {ref} + 2 × {w} + 2 × ({d} + {k}) = {show.fine(c.high_mm)}", "all wear on one side"),
        WorkLine(
            f"usual: the same with {rules.usual_share:g} of the wear on the worse side = {show.fine(c.usual_mm)}",
            f"cleanup.usual_share, {share.source}",
        ),
        WorkLine(f"low end = {show.fine(c.low_mm)}", "wear even, or the defect on the side that wore least"),
        WorkLine(
            f"a cut of {show.size(oversize_mm)} on diameter is {show.size(oversize_mm / 2)} a side; "
            "the hone follows the bored axis, the unworn bottom of the hole",
        ),
    ]
    if column.ceiling_mm is not None:
        lines.append(
            WorkLine(
                f"wall allows {show.size(column.ceiling_mm)} about the present axis",
                "methods 6; wall.toml, starting point",
            )
        )
    return tuple(lines)
