"""The call: which rung of the size ladder, per cylinder and for the block, with reasons (methods 5, 6, 7)."""

from __future__ import annotations

from collections.abc import Sequence

from redline_bore.core.cleanup_bound import Lacks
from redline_bore.core.show import Show, cylinders, every, listed
from redline_bore.job.call.asks import AskFor
from redline_bore.job.call.finding import CallFinding, CallVerdict, Smaller, judge
from redline_bore.job.call.hone_out import hones_out
from redline_bore.job.call.ladder import Column, Fate, Ladder
from redline_bore.job.call.odds import Likely
from redline_bore.job.call.ways_there import Road
from redline_bore.job.card import Advice, FigureLine, Mark, Note, Said, WorkLine
from redline_bore.job.gauge.analysis import rules_of
from redline_bore.job.gauge.window_room import window_room
from redline_bore.job.profiles.practice import options, practice
from redline_bore.job.redline import leading_window, redline_of
from redline_bore.job.state.calling import Apart
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words.asks import ask_words, before_metal, beside_words, proof_words
from redline_bore.job.words.fares import called_words
from redline_bore.job.words.shared_figures import cleanup_line, redline_by_piston

LACKS = {  # why the high end is no bound
    Lacks.STOP_NOT_MEASURED: "Where the top ring stops was not measured: the deepest wear lies just under it",
    Lacks.STOP_LEVEL: "No level was read just under the top ring's stop, where it wears most",
    Lacks.CHORDS: "Read at fewer than three angles: wear between them was not seen",
    Lacks.MARK_CHORDS: "A mark decides: six angles at its depth, or a sweep, say how the wall stands there",
    Lacks.MARK_DEPTH: "A mark that catches hard has no upper end until its depth is measured",
    Lacks.STANDING: "It was bored before: how it stands nobody knows until it is swept",
    Lacks.AXIS: "Two points know nothing of that axis: sweep it, or bore about the unworn bottom",
    Lacks.MIDDLE_SWEEP: "Not swept in the middle of the travel",
    Lacks.BOTTOM_SWEEP: "Not swept in the unworn bottom",
}
CARE = "A cracked or thin cylinder is not a matter for opinion: pressure-test before boring."


def advise(state: JobState, cylinder: int, oversize_mm: float, show: Show, apart: Sequence[Apart] = ()) -> Advice:
    """The call with the redline at ``oversize_mm`` over nominal, mm, and some cylinders apart from it."""
    found = judge(state, oversize_mm, apart)
    ladder, fate = found.ladder, found.fates[cylinder - 1]
    sentence, mark = say(found, show)
    return Advice(
        "Call · block", sentence, _figures(state, found, fate, show), _changes(state, ladder, oversize_mm, show, apart),
        _working(state, fate.column, fate.oversize_mm, show), _button(found), CARE, mark, unsure=_unsure(found),
    )  # fmt: skip


NOT_SURE_YET = "it is not sure yet, and a hole once cut stays cut: take this call all the same?"


def _button(f: CallFinding) -> str:
    """What Enter does. What is not sure is never offered as if it were the next thing to do."""
    if f.verdict is CallVerdict.LEAVE:  # nothing is cut, whatever the redline stands at
        return "Take the call"
    if not f.can_be_taken:
        return ""
    if f.look_first and f.settled:
        return f"Take it, bore {f.look_first[0]} first"
    return "Take it all the same" if _unsure(f) else "Take the call"


def _unsure(f: CallFinding) -> bool:
    """Whether it is not the next thing to do: something is worth reading first, the next size is cheaper, or nothing of the hole asks for it."""
    return not f.settled


def say(f: CallFinding, show: Show) -> Said:
    """A call in one or two sentences, and its mark."""
    v, step, of = CallVerdict, show.step(f.oversize_mm).lstrip("+"), list(f.cylinders)
    if f.verdict is v.CRACKED:
        return Said(_say_cracked(f), Mark.STOP)
    if f.verdict is v.NOT_KNOWN:
        reason = f.ladder.columns[of[0] - 1].reason
        return Said(f"Cylinder {of[0]} is not known: {reason[0].lower()}{reason[1:]}.", Mark.LOOK)
    if f.verdict is v.MAY_SHADOW:
        return Said(_say_shadow(f, show), Mark.LOOK)
    if f.verdict is v.LIKELY:
        return Said(_say_likely(f, show), Mark.LOOK if f.asks or f.may_be_thin else Mark.LIKELY)
    if f.verdict is v.CUT:
        return _say_cut(f, show)
    if f.verdict is v.BORE:
        return Said(
            _say_bored(f, show), Mark.SOUND if f.sure else Mark.LOOK
        )  # what is not known is never drawn as fine
    if f.verdict is v.TOO_THIN:
        return Said(f"{step} over leaves {cylinders(of)} too thin.", Mark.STOP)
    if f.verdict is v.WILL_NOT:
        larger = [x.cylinder for x in f.fates if x.cut_larger]
        if larger == of:
            are = "is" if len(of) == 1 else "are"
            return Said(f"{cylinders(of).capitalize()} {are} cut larger than {step} over already.", Mark.STOP)
        return Said(f"{step} over will not clean up {cylinders(of)}.", Mark.STOP)
    return Said(
        *{
            v.NOT_GAUGED: ("Not gauged yet. No size can be called.", Mark.LOOK),
            v.LEAVE: ("Nothing asks for boring: leave it and re-ring.", Mark.SOUND),
            v.LEAVE_ONCE_MEASURED: (
                f"Nothing of the hole asks for boring. First measure piston {of[0] if of else 1}: the clearance there is decides.",
                Mark.LOOK,
            ),
            v.LEAVE_TOO_CLOSE: (
                f"Nothing of the hole asks for boring, and the clearance there is in {listed(of or [1])} is too close to an end of its "
                f"window to be sure. Measure piston {of[0] if of else 1} and its hole again.",
                Mark.LOOK,
            ),
            v.NO_RUNGS: ("No piston sizes are listed. Ask which exist.", Mark.LOOK),
        }[f.verdict]
    )


def _say_cracked(f: CallFinding) -> str:
    untested = [x.cylinder for x in f.fates if x.cylinder in f.cylinders and x.column.untested]
    if untested:
        it = "it" if len(untested) == 1 else "them"
        return f"A crack or a weld in {listed(untested)}: pressure-test {it} before any metal is taken, then type tested tight, or leaks."
    return f"{cylinders(list(f.cylinders)).capitalize()} leaked: no size mends that. Sleeve what leaks (S), or leave the block."


LIKELY = {  # by how likely; told in figures where the block's own wear is known well enough
    Likely.WILL: ("will clean up", "will clean up"),
    Likely.NINETEEN: ("very likely", "very likely, 19 in 20"),
    Likely.NINE: ("likely", "likely, 9 in 10"),
    Likely.EIGHT: ("likely", "likely, 8 in 10"),
    Likely.MAY: ("may: look first", "may: look first"),
    Likely.NO: ("no", "no"),
}


def likely_words(f: CallFinding) -> str:
    """How likely a call is to clean every cylinder up."""
    return LIKELY[f.likely][f.odds_told]


def proposed_words(f: CallFinding, show: Show) -> str:
    """A call as it is proposed to an owner: what is done and how likely it does, nothing of what the bench does first."""
    if f.verdict in (CallVerdict.MAY_SHADOW, CallVerdict.LIKELY):
        return f"{_what(f, show)}: {'it may do, the cut decides' if f.likely < Likely.EIGHT else likely_words(f)}."
    if f.verdict is CallVerdict.BORE and f.fates:
        return f"{_what(f, show) if not f.all_sleeved else 'Sleeve ' + every(len(f.fates)) + ', back to nominal'}."
    return say(f, show).sentence


def _say_likely(f: CallFinding, show: Show) -> str:
    told = (
        f"{_what(f, show)}: {likely_words(f)}."
        if f.likely is not Likely.WILL
        else f"{_what(f, show)}: it will clean up, by all that was read."
    )
    return f"{told}{_before(f, show)}"


def _before(f: CallFinding, show: Show) -> str:
    """What to do first, then what is to be said of the walls."""
    way, walls = _way_on(f, show), _walls(f, show)
    return way + (walls.replace(" But first ", " Then ", 1) if way.startswith(" First ") else walls)


def _way_on(f: CallFinding, show: Show) -> str:
    """What to do first, by what it costs: measure what decides, or bore the hole that does and look."""
    if f.ways and f.ways[0].way is Road.MEASURE and f.ways[0].ask is not None:
        return f" First {ask_words(f.ways[0].ask, show)}."
    if not f.look_first:
        return ""
    first = f.look_first[0]
    if f.pistons_first:
        return f" Bore {first} first and look."
    return (
        f" Bore {first} first and look; buy pistons after the last look."
        if len(f.fates) > 1
        else " Bore it and look; buy the piston after that."
    )


def _say_shadow(f: CallFinding, show: Show) -> str:
    told = f"{show.step(f.oversize_mm).lstrip('+')} over may leave a shadow in {listed(list(f.cylinders))}."
    cut = {x.cylinder for x in f.fates if x.column.cut_mm is not None}
    if laid_open := [a for a in f.asks if a.what is AskFor.MARK and a.cylinder in cut]:
        return f"{told} First {ask_words(laid_open[0], show)}."
    if f.ways and f.ways[0].way is Road.NEXT and f.ways[0].oversize_mm is not None:
        return f"{told} {show.step(f.ways[0].oversize_mm).lstrip('+')} is the cheaper way.{_walls(f, show)}"
    if f.look_first:
        return f"{told}{_before(f, show)}"
    if f.asks:
        return f"{told} First {ask_words(f.asks[0], show)}."
    sure = f.ladder.smallest_sure
    if sure is not None and sure > f.oversize_mm:
        return f"{told} {show.step(sure).lstrip('+')} is sure."
    return f"{told} Cut, and look, with the owner's word for the shadow."


def _say_cut(f: CallFinding, show: Show) -> Said:
    told = f"Cut as it was called: {_lowered(_what(f, show))}."
    if f.cylinders:
        told += f" Look into {listed(list(f.cylinders))} at the bar, before the hone."
    if f.unread:
        told += f" The wall of {cylinders(list(f.unread))} is not fully read."
    elif f.may_be_thin:
        told += f" The wall of {cylinders(list(f.may_be_thin))} is too close to its limit to be sure."
    return Said(told, Mark.LOOK if f.cylinders or f.unread or f.may_be_thin else Mark.PLAIN)


def _lowered(words: str) -> str:
    return f"{words[0].lower()}{words[1:]}"


def _what(f: CallFinding, show: Show) -> str:
    """What a call does with every cylinder."""
    common = sum(fate.common for fate in f.fates)
    many = every(common) if not f.apart else "the rest"
    to = f"{show.step(f.oversize_mm).lstrip('+')} over" if f.oversize_mm else "to their pistons"
    what = f"{'Hone' if f.by_hone else 'Bore'} {many} {to}" if common else "No cylinder is at the common size"
    told = [_apart_words(fate, show) for fate in f.fates if not fate.common]
    return f"{what}; {', '.join(told)}" if told else what


def _walls(f: CallFinding, show: Show) -> str:
    """What is to be said of the walls: those worth reading before metal; else that they are unknown."""
    asked = [a for a in f.asks if a.what in (AskFor.WALL, AskFor.WALL_THROUGH, AskFor.WALL_AGAIN)]
    if asked:
        more = "" if len(asked) == 1 else f", and {listed([a.cylinder for a in asked[1:]])} alike"
        return f" But first {ask_words(asked[0], show)}{more}."
    if f.may_be_thin:
        return f" The wall of {cylinders(list(f.may_be_thin))} is too close to its limit to be sure."
    return " The walls were not read: unknown." if f.unread else ""


def _say_bored(f: CallFinding, show: Show) -> str:
    what, wall = _what(f, show), _walls(f, show)
    if f.untested:
        wall = f" But first pressure-test {listed(list(f.untested))}: tested tight, or leaks, and how.{wall}"
    if f.all_sleeved:
        return f"Sleeve {every(len(f.fates))}, back to nominal.{wall}"
    if not all(fate.common for fate in f.fates):
        return f"{what}.{wall}"
    worst = f.ladder.worst
    decides = "" if worst is None else f" Cylinder {worst.cylinder} decides it"
    less = "" if f.smaller_mm is None else show.step(f.smaller_mm).lstrip("+")
    may = {Smaller.NONE: "", Smaller.MAY: f"; {less} may do", Smaller.WOULD: f"; {less} would do"}[f.smaller]
    return f"{what}.{decides}{may}.{wall}"


def taken_words(state: JobState, show: Show) -> str:
    """The call as it was taken, for the customer: what was to be done, not what was still to be read when it was."""
    taken = state.calling.decision
    if taken is None:
        return ""
    if not taken.bores:
        return taken.sentence
    common = state.block.cylinders - len(taken.apart)
    many = every(common) if not taken.apart else "the rest"
    verb, to = "bore" if taken.by_bar else "hone", f"{show.step(taken.oversize_mm).lstrip('+')} over"
    told = [f"{verb} {many} {to if taken.oversize_mm else 'to their pistons'}"] if common else []
    told += [
        f"sleeve {a.cylinder}" if a.way == "sleeve" else f"{a.cylinder} to {show.step(a.oversize_mm or 0.0)}"
        for a in taken.apart
    ]
    return f"{'; '.join(told).capitalize()}."


def _apart_words(fate: Fate, show: Show) -> str:
    if fate.sleeved:
        return f"sleeve {fate.cylinder}"
    return f"{fate.cylinder} to {show.step(fate.oversize_mm)}"


def _figures(state: JobState, found: CallFinding, fate: Fate, show: Show) -> tuple[FigureLine, ...]:
    column, lines, ladder = fate.column, list[FigureLine](), found.ladder
    if column.cleanup is not None:
        lines.append(cleanup_line(column.cylinder, column.cleanup, show))
        lines.append(FigureLine(f"{column.cylinder} at {show.step(fate.oversize_mm)}", *called_words(found, fate)))
    else:
        lines.append(FigureLine(f"cylinder {column.cylinder}", "not known", Mark.LOOK))
    window = leading_window(state)
    lines.append(
        FigureLine(
            f"clearance, {window.source}",
            f"{show.size(window.low_mm)}–{show.size(window.high_mm)}",
            by="clearance_stated",
        )
    )
    low, high = state.figures.row(practice("hone_allowance", state.booking.practice("hone_allowance")).figures)
    lines.append(FigureLine("ends at", _end_words(fate, show)))
    if not hones_out(state):
        bored_to = f"{show.size(fate.end.least_mm - high)}–{show.size(fate.end.most_mm - low)}"
        lines.append(FigureLine("bored to, rest honed", bored_to))
    redline = redline_of(state, column.cylinder)
    if (
        column.shape.mean_mm is not None and not fate.sleeved
    ):  # of the old hole nothing is taken; of the sleeve, as it comes
        lines.append(FigureLine("stock on diameter", show.unit(show.rough(fate.end.most_mm - column.shape.mean_mm))))
    if redline.piston is not None:
        lines.append(redline_by_piston(column.cylinder, redline.piston.size_mm + window.aim_mm, show))
    lines.append(_wall_line(fate, show))
    left = sum(r > fate.oversize_mm + 1e-9 and not ladder.thin(r) for r in ladder.rungs_mm)
    lines.append(FigureLine("rebuilds left after", str(left)))
    return tuple(lines)


def _end_words(fate: Fate, show: Show) -> str:
    """Where the hole will end: by its measured piston, else by what pistons are commonly sold under their name."""
    end = fate.end
    return show.size(end.least_mm) if end.measured else f"{show.between(end.least_mm, end.most_mm)}, not measured"


def _wall_line(fate: Fate, show: Show) -> FigureLine:
    column = fate.column
    if column.ceiling_mm is None:
        return FigureLine(f"wall left in {column.cylinder}", "not read: unknown", Mark.LOOK, "wall_read")
    mark = Mark.STOP if fate.too_thin else Mark.SOUND if fate.wall_stands else Mark.LOOK
    read = "" if not column.unread else ", not fully read"
    return FigureLine(f"{column.cylinder} wall allows", f"{show.size(column.ceiling_mm)}{read}", mark, "wall_read")


def _doubts(state: JobState, show: Show) -> tuple[str, ...]:
    """What speaks against the call that was taken."""
    if state.calling.decision is None:
        return ()
    from redline_bore.job.words.stand_by import against_words  # once there is a call, not at the start

    return against_words(state, show)


def _changes(
    state: JobState, ladder: Ladder, oversize_mm: float, show: Show, apart: Sequence[Apart]
) -> tuple[str, ...]:
    notes, worst = list(_doubts(state, show)), ladder.worst
    found = judge(state, oversize_mm, apart)
    if worst is not None and not apart and found.verdict is not CallVerdict.CUT:
        smaller = ladder.smallest_sure_without(worst.cylinder) if len(ladder.columns) > 1 else None
        if smaller is not None and smaller < min(oversize_mm, ladder.smallest_sure or oversize_mm):
            notes.append(f"Without cylinder {worst.cylinder} the rest clean up at {show.step(smaller)}.")
        lacks = () if worst.cleanup is None else worst.cleanup.lacks
        notes += [Note(f"{LACKS[lack]}.") for lack in lacks[:1]]
    notes += before_metal(state, found, show)
    notes += beside_words(found, show)
    notes += proof_words(found, show)
    if found.with_pistons_mm is not None:
        notes.append(
            f"With pistons in hand {show.step(found.with_pistons_mm)} may do: measure them before ordering larger ones."
        )
    notes += narrow_words(state, show)
    taken = state.calling.decision
    if taken is not None and not taken.bores:
        notes.append(Note(f"The call taken: {taken.sentence} Enter replaces it."))
    elif taken is not None and abs(taken.oversize_mm - oversize_mm) > 1e-6:
        notes.append(Note(f"The call taken is {show.step(taken.oversize_mm)}; Enter replaces it."))
    window = leading_window(state)
    if window.source != state.booking.practice("clearance"):
        notes.append(f"No {state.booking.practice('clearance')} is stated; clearance is by {window.source}.")
    swept = [c.cylinder for c in ladder.columns if c.need.swept is not None]
    if swept:
        notes.append(
            Note(
                f"{cylinders(swept).capitalize()}: by sweeps, bored about {ladder.columns[swept[0] - 1].need.axis_title}."
            )
        )
    return tuple(notes)


def _working(state: JobState, column: Column, oversize_mm: float, show: Show) -> tuple[WorkLine, ...]:
    shape, rules = column.shape, rules_of(state)
    if column.need.swept is not None and column.cleanup is not None:
        return (*_swept_working(state, column, show), *_cut_lines(column, oversize_mm, show))
    if column.cleanup is None or shape.wear is None or shape.deciding is None:
        return (WorkLine(f"cylinder {column.cylinder}: {column.reason}"),)
    c, spot, mark = column.cleanup, shape.deciding, shape.deciding_defect
    wear = max(spot.size_mm - shape.wear.reference_mm, 0.0)
    ref, w, t = show.fine(shape.wear.reference_mm), show.fine(wear), rules.terms
    more = t.skin_mm + t.cut_mm + t.stand_mm + t.lobes_mm
    reach = (c.high_mm - shape.wear.reference_mm) / 2.0 - more
    deep = "" if mark is None else f", and under the {mark.what}"
    lines = [
        WorkLine(
            f"cylinder {column.cylinder} decides {show.down(spot.depth_mm)}, {spot.clock_deg:g}°: {show.fine(spot.size_mm)}"
        ),
        WorkLine(f"wear w = {show.fine(spot.size_mm)} − unworn {ref} = {w}", "all of it may lie on one side"),
        WorkLine(f"between angles and levels it may reach {show.fine(reach)}{deep}", "shop figures: wear between angles, between levels"),
        WorkLine(
            f"skin {show.fine(t.skin_mm)}, cut {show.fine(t.cut_mm)}, stand {show.fine(t.stand_mm)}, lobes {show.fine(t.lobes_mm)} a side",
            "shop figures: clean-up",
        ),
        WorkLine(f"high end: {ref} + 2 × ({show.fine(reach)} + {show.fine(more)}) = {show.fine(c.high_mm)}", "every place of the wall"),
        WorkLine(f"usual, {rules.usual_share:g} of the wear on the worse side = {show.fine(c.usual_mm)}", "shop figure: usual share of the wear"),
        WorkLine(f"low end = {show.fine(c.low_mm)}", "no axis goes below the largest reading"),
    ]  # fmt: skip
    return (*lines, *_cut_lines(column, oversize_mm, show))


def narrow_words(state: JobState, show: Show) -> list[str]:
    """Said before the bar cuts: a window that a hole at its limit of shape, gauged with this doubt, does not surely fit."""
    room = window_room(state)
    if room.enough:
        return []
    return [
        f"The window, {show.size(room.window_mm)} wide, is narrower than the limit of shape {show.size(room.shape_mm)} and twice the gauge's doubt, "
        f"{show.size(2.0 * room.u_mm)}: both ends of a hole will not surely be inside. A sharper gauge, or a rounder hole, is wanted."
    ]  # fmt: skip


def _swept_working(state: JobState, column: Column, show: Show) -> tuple[WorkLine, ...]:
    need = column.need
    assert need.swept is not None and column.cleanup is not None
    a, swept, t = need.swept.axis, need.swept, rules_of(state).terms
    return (
        WorkLine(
            f"cylinder {column.cylinder}, swept: bored about {need.axis_title}, {show.away(a.deck_x_mm)} towards 0° and "
            f"{show.away(a.deck_y_mm)} towards 90° of the spindle at the deck",
            "practice: bored about",
        ),
        WorkLine(
            f"high end: 2 × (true distance, wear × {t.between_levels:g}, + skin {show.fine(t.skin_mm)} + cut {show.fine(t.cut_mm)}) = "
            f"{show.fine(column.cleanup.high_mm)}, decided {show.down(swept.depth_mm)} at {swept.clock_deg:.0f}°",
            "sweeps; shop figures: clean-up",
        ),
        WorkLine(f"low end: twice the largest distance − {show.fine(t.low_swept_mm)} = {show.fine(column.cleanup.low_mm)}", "never below the largest two-point diameter"),
        *_other_axes(state, column.cylinder, show),
    )  # fmt: skip


def _other_axes(state: JobState, cylinder: int, show: Show) -> tuple[WorkLine, ...]:
    """What the same sweeps ask for about every other axis."""
    from redline_bore.job.call.swept import needed_about

    lines = []
    for way in options("axis"):
        if way.name == state.booking.practice("axis"):
            continue
        found = needed_about(state, cylinder, way.name)
        size = found.missing if found.size_mm is None else show.fine(found.size_mm)
        lines.append(WorkLine(f"about {way.title}: {size}", way.reason))
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
                "read on four sides at two depths; shop figures: wall left",
            )
        )
    return tuple(lines)
