"""The call: which rung of the size ladder, per cylinder and for the block, with reasons (methods 5, 6, 7)."""

from __future__ import annotations

from collections.abc import Sequence

from redline_bore.core.cleanup import Verdict
from redline_bore.core.show import Show, cylinders, every, listed
from redline_bore.job.call.finding import CallFinding, CallVerdict, Smaller, judge
from redline_bore.job.call.ladder import SLEEVED, Column, Fate, Ladder
from redline_bore.job.call.need import needed_about
from redline_bore.job.card import Advice, FigureLine, Mark, Said, WorkLine
from redline_bore.job.gauge.analysis import bound_needs, rules_of
from redline_bore.job.profiles.practice import options, practice
from redline_bore.job.redline import leading_window, redline_of
from redline_bore.job.state.calling import Apart
from redline_bore.job.state.job_state import JobState

CARE = "A cracked or thin cylinder is not a matter for opinion: pressure-test before boring."


def advise(state: JobState, cylinder: int, oversize_mm: float, show: Show, apart: Sequence[Apart] = ()) -> Advice:
    """The call with the redline at ``oversize_mm`` over nominal, mm, and some cylinders apart from it."""
    found = judge(state, oversize_mm, apart)
    ladder, fate = found.ladder, found.fates[cylinder - 1]
    sentence, mark = say(found, show)
    return Advice(
        "Call · block", sentence, _figures(state, ladder, fate, show), _changes(state, ladder, oversize_mm, show, apart),
        _working(state, fate.column, fate.oversize_mm, show), "Take the call" if found.can_be_taken else "", CARE, mark,
    )  # fmt: skip


def say(f: CallFinding, show: Show) -> Said:
    """A call in one or two sentences, and its mark."""
    v, step, of = CallVerdict, show.step(f.oversize_mm).lstrip("+"), list(f.cylinders)
    if f.verdict is v.NOT_KNOWN:
        reason = f.ladder.columns[of[0] - 1].reason
        return Said(f"Cylinder {of[0]} is not known: {reason[0].lower()}{reason[1:]}.", Mark.LOOK)
    if f.verdict is v.MAY_SHADOW:
        return Said(_say_shadow(f, show), Mark.LOOK)
    if f.verdict is v.BORE:
        return Said(
            _say_bored(f, show), Mark.SOUND if f.sure else Mark.LOOK
        )  # what is not known is never drawn as fine
    if f.verdict is v.TOO_THIN:
        return Said(f"{step} over leaves {cylinders(of)} too thin.", Mark.STOP)
    if f.verdict is v.WILL_NOT:
        return Said(f"{step} over will not clean up {cylinders(of)}.", Mark.STOP)
    return Said(
        *{
            v.NOT_GAUGED: ("Not gauged yet. No size can be called.", Mark.LOOK),
            v.LEAVE: ("Nothing asks for boring: leave it and re-ring.", Mark.SOUND),
            v.NO_RUNGS: ("No piston sizes are listed. Ask which exist.", Mark.LOOK),
        }[f.verdict]
    )


def _say_shadow(f: CallFinding, show: Show) -> str:
    needs = next((n for n in (bound_needs(c.shape, show) for c in f.ladder.columns) if n), "")
    then = f" First {needs}." if needs else f" Measure {cylinders(list(f.cylinders))} first."
    return f"{show.step(f.oversize_mm).lstrip('+')} over may leave a shadow in {listed(list(f.cylinders))}.{then}"


def _say_bored(f: CallFinding, show: Show) -> str:
    step = show.step(f.oversize_mm).lstrip("+")
    many = every(len(f.cylinders)) if not f.apart else "the rest"
    what = f"Bore {many} {step} over" if f.cylinders else "No cylinder is at the common size"
    wall = ""
    if f.unread:
        which = cylinders(list(f.unread)) if len(f.unread) < len(f.fates) else every(len(f.unread))
        wall = f" But first read the wall of {which}."
    told = [_apart_words(fate, show) for fate in f.fates if not fate.common]
    if told:
        return f"{what}; {', '.join(told)}.{wall}"
    worst = f.ladder.worst
    decides = "" if worst is None else f" Cylinder {worst.cylinder} decides it"
    less = "" if f.smaller_mm is None else show.step(f.smaller_mm).lstrip("+")
    may = {Smaller.NONE: "", Smaller.MAY: f"; {less} may do", Smaller.WOULD: f"; {less} would do"}[f.smaller]
    return f"{what}.{decides}{may}.{wall}"


def _apart_words(fate: Fate, show: Show) -> str:
    if fate.sleeved:
        return f"sleeve {fate.cylinder}"
    return f"{fate.cylinder} to {show.step(fate.oversize_mm)}"


def _figures(state: JobState, ladder: Ladder, fate: Fate, show: Show) -> tuple[FigureLine, ...]:
    column, size, lines = fate.column, ladder.nominal_mm + fate.oversize_mm, []
    if column.cleanup is not None:
        c = column.cleanup
        upper = f"–{show.size(c.high_mm)}" if c.is_bound else " or more"
        lines.append(FigureLine(f"{column.cylinder} cleans up at", f"{show.size(c.low_mm)}{upper}"))
        marks = {
            Verdict.CLEANS_UP: Mark.SOUND,
            Verdict.MAY_SHADOW: Mark.LOOK,
            Verdict.WILL_NOT: Mark.STOP,
            None: Mark.LOOK,
        }
        mark = Mark.SOUND if fate.sleeved else marks[fate.verdict]
        word = SLEEVED if fate.sleeved else str(fate.verdict)
        lines.append(FigureLine(f"{column.cylinder} at {show.step(fate.oversize_mm)}", word, mark))
    else:
        lines.append(FigureLine(f"cylinder {column.cylinder}", "not known", Mark.LOOK))
    window = leading_window(state)
    lines.append(FigureLine(f"clearance, {window.source}", f"{show.size(window.low_mm)}–{show.size(window.high_mm)}"))
    low, high = state.figures.row(practice("hone_allowance", state.booking.practice("hone_allowance")).figures)
    lines.append(FigureLine("bored to, rest honed", f"{show.size(size - high)}–{show.size(size - low)}"))
    redline = redline_of(state, column.cylinder)
    if column.shape.mean_mm is not None:
        lines.append(FigureLine("stock on diameter", show.unit(show.rough(size - column.shape.mean_mm))))
    if redline.piston is not None:
        lines.append(
            FigureLine(f"finish to piston {column.cylinder}", show.size(redline.piston.size_mm + window.aim_mm))
        )
    lines.append(_wall_line(column, size, show))
    left = sum(r > fate.oversize_mm + 1e-9 and not ladder.thin(r) for r in ladder.rungs_mm)
    lines.append(FigureLine("rebuilds left after", str(left)))
    return tuple(lines)


def _wall_line(column: Column, size_mm: float, show: Show) -> FigureLine:
    if column.ceiling_mm is None:
        return FigureLine(f"wall left in {column.cylinder}", "not read: unknown", Mark.LOOK)
    if column.too_thin(size_mm):
        return FigureLine(f"{column.cylinder} wall allows", show.size(column.ceiling_mm), Mark.STOP)
    if column.unread:
        return FigureLine(f"{column.cylinder} wall, {column.unread[0]}", "not read: unknown", Mark.LOOK)
    return FigureLine(f"{column.cylinder} wall allows", show.size(column.ceiling_mm), Mark.SOUND)


def _doubts(state: JobState, show: Show) -> tuple[str, ...]:
    """What speaks against the call that was taken."""
    if state.calling.decision is None:
        return ()
    from redline_bore.job.call.stand_by import contradictions  # once there is a call, not at the start

    return contradictions(state, show)


def _changes(
    state: JobState, ladder: Ladder, oversize_mm: float, show: Show, apart: Sequence[Apart]
) -> tuple[str, ...]:
    notes, worst = list(_doubts(state, show)), ladder.worst
    if worst is not None and not apart:
        smaller = ladder.smallest_sure_without(worst.cylinder) if len(ladder.columns) > 1 else None
        if smaller is not None and smaller < min(oversize_mm, ladder.smallest_sure or oversize_mm):
            notes.append(f"Without cylinder {worst.cylinder} the rest clean up at {show.step(smaller)}.")
        if worst.shape.deciding_defect is not None and not worst.shape.deciding_defect.measured:
            notes.append(
                f"Measure the {worst.shape.deciding_defect.what} in {worst.cylinder}: it is known by feel only."
            )
        if worst.need.swept is None and worst.need.cleanup is not None:
            notes.append(f"Sweep cylinder {worst.cylinder}: two points cannot say on which side it wore.")
    unread = [c.cylinder for c in ladder.columns if c.ceiling_mm is None or c.unread]
    if unread:
        notes.append(f"The wall of {cylinders(unread)} is not fully read; read it before going up in size.")
    taken = state.calling.decision
    if taken is not None and not taken.bores:
        notes.append(f"The call taken: {taken.sentence} Enter replaces it.")
    elif taken is not None and abs(taken.oversize_mm - oversize_mm) > 1e-6:
        notes.append(f"The call taken is {show.step(taken.oversize_mm)}; Enter replaces it.")
    window = leading_window(state)
    if window.source != state.booking.practice("clearance"):
        notes.append(f"No {state.booking.practice('clearance')} is stated; clearance is by {window.source}.")
    swept = [c.cylinder for c in ladder.columns if c.need.swept is not None]
    if swept:
        notes.append(
            f"{cylinders(swept).capitalize()}: by sweeps, bored about {ladder.columns[swept[0] - 1].need.axis_title}."
        )
    return tuple(notes)


def _working(state: JobState, column: Column, oversize_mm: float, show: Show) -> tuple[WorkLine, ...]:
    shape, rules = column.shape, rules_of(state)
    if column.need.swept is not None and column.cleanup is not None:
        return (*_swept_working(state, column, show), *_cut_lines(column, oversize_mm, show))
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
    ]
    return (*lines, *_cut_lines(column, oversize_mm, show))


def _swept_working(state: JobState, column: Column, show: Show) -> tuple[WorkLine, ...]:
    need = column.need
    assert need.swept is not None and column.cleanup is not None
    a, cut, skin = need.swept.axis, need.swept, rules_of(state).skin_mm
    return (
        WorkLine(
            f"cylinder {column.cylinder}, swept: bored about {need.axis_title}, {show.away(a.deck_x_mm)} towards 0° and "
            f"{show.away(a.deck_y_mm)} towards 90° of the spindle at the deck",
            "practice: bored about; methods 5",
        ),
        WorkLine(
            f"needs 2 × (largest true distance + defect + skin {show.fine(skin)}) = {show.fine(cut.size_mm)}, decided "
            f"{show.down(cut.depth_mm)} at {cut.clock_deg:.0f}°",
            "sweeps, true distances; never below the largest two-point diameter",
        ),
        WorkLine(
            f"± {show.fine(column.cleanup.high_mm - column.cleanup.usual_mm)}: a radius counts twice",
            "U of a reading, k = 2",
        ),
        *_other_axes(state, column.cylinder, show),
    )


def _other_axes(state: JobState, cylinder: int, show: Show) -> tuple[WorkLine, ...]:
    """What the same sweeps ask for about every other axis."""
    lines = []
    for way in options("axis"):
        if way.name == state.booking.practice("axis"):
            continue
        size, why = needed_about(state, cylinder, way.name)
        lines.append(WorkLine(f"about {way.title}: {show.fine(size) if size is not None else why}", way.reason))
    return tuple(lines)


def _cut_lines(column: Column, oversize_mm: float, show: Show) -> tuple[WorkLine, ...]:
    lines = [
        WorkLine(
            f"a cut of {show.size(oversize_mm)} on diameter is {show.size(oversize_mm / 2)} a side; "
            f"the hone follows the bored axis, {column.need.axis_title}",
        )
    ]
    if column.ceiling_mm is not None:
        lines.append(
            WorkLine(
                f"wall allows {show.size(column.ceiling_mm)} about that axis",
                "methods 6; wall.toml, starting point",
            )
        )
    return tuple(lines)
