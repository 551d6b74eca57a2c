"""What the bar does now: one sentence, the figures behind it, what would change it, the working."""

from __future__ import annotations

from redline_bore.core.block import room_below
from redline_bore.core.cutting import FeedCall
from redline_bore.core.figures import cited
from redline_bore.core.show import Show, listed
from redline_bore.job.bore.finding import BoreCall, BoreFinding, any_patch_stays, judge, unproved
from redline_bore.job.bore.plan import (
    BorePlan,
    CutBeside,
    all_bored,
    bar_is_cold,
    chatters,
    correction_of,
    cut_now,
    cuts_beside,
    deck_lean,
    minutes_left,
    speed_share,
    still_to_bore,
    stop_of,
    window_now,
    with_first,
)
from redline_bore.job.bore.tool_lessons import diagnosis, faults_in, next_setting
from redline_bore.job.card import Advice, FigureLine, Mark, Note, Said, WorkLine
from redline_bore.job.kinds.book_in import room_line
from redline_bore.job.profiles.practice import practice
from redline_bore.job.route import next_step
from redline_bore.job.state.boring import Bored, Looked
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words.bore_run import run_of
from redline_bore.job.words.inserts import chatter_words
from redline_bore.job.words.missing import UNTESTED, say_missing
from redline_bore.job.words.run_sheet import stamp_notes
from redline_bore.job.words.stand_by import against_words
from redline_bore.job.words.tool_lessons import DIAGNOSES, HOLE_FAULTS, say_next, wants_words

CARE = "Chips cut: brush, never fingers. Long sleeves and gloves away from the bar. Blocks crush: rated lifting gear, clamped."

NEXT = {"sleeve": "sleeves", "hone": "hone", "finish": "finish", "sign_off": "sign-off"}


def advise(state: JobState, cylinder: int, show: Show, at: str = "") -> Advice:
    """What the bar does now."""
    found = judge(state, cylinder, at)
    plan, (sentence, mark) = found.plan, say(state, found, show)
    button = (
        f"Stamp and go to the {NEXT[next_step(state, 'bore')]}"
        if all_bored(state) and not any_patch_stays(state)
        else ""
    )
    return Advice(
        f"Call · cylinder {cylinder}", sentence, _figures(state, plan, show), _changes(state, plan, show, at),
        _working(state, plan, show, at), button, CARE, mark,
    )  # fmt: skip


def say(state: JobState, f: BoreFinding, show: Show) -> Said:
    """A finding at the bar in a sentence, and its mark."""
    c, n, plan = BoreCall, f.cylinder, f.plan
    left, low = show.unit(show.size(abs(f.left_mm))), show.size(plan.left_mm[0])
    wants = "" if plan.done is None else wants_words(unproved(state, plan.done))
    first = " Prove this first hole before trusting the setting." if f.first else ""
    return Said(
        *{
            c.DONE_NO_REDLINE: (
                f"Cylinder {n} is bored; its redline is not known: {say_missing(plan.missing)}.",
                Mark.LOOK,
            ),
            c.OVER: (f"Cylinder {n} is bored {left} over its redline.", Mark.STOP),
            c.LITTLE_LEFT: (f"Only {left} is left for the hone in {n}; it wants {low}.", Mark.LOOK),
            c.MUCH_LEFT: (f"Cylinder {n}: {left} is left, more than the hone is meant to take.", Mark.LOOK),
            c.RECUT: (
                f"Cylinder {n} came small, {left} is left: set {show.size(f.setting_mm)} and cut it again.",
                Mark.LOOK,
            ),
            c.CRACKED: (f"No metal of cylinder {n}: {UNTESTED}.", Mark.STOP),
            c.AGAINST_CALL: (f"Do not set the bar: {against(state, n, show)}", Mark.STOP),
            c.UNPROVED: (f"This first hole proves nothing yet: measure it {wants}, then trust the setting.", Mark.LOOK),
            c.DONE: _left_there(f, show),
            c.WAITS_FOR_SLEEVE: (
                f"Cylinder {n} waits for its sleeve; the bar finishes it once that is in.",
                Mark.PLAIN,
            ),
            c.NOT_KNOWN: (f"Cylinder {n} is not bored yet: {say_missing(plan.missing)}.", Mark.LOOK),
            c.LOOK: (
                f"Look into cylinder {n}. Touched all over: look clean. A dark patch: look shadow, with where it lies.",
                Mark.LOOK,
            ),
            c.GAUGE_PATCH: (
                f"A dark patch in {n} is no verdict: gauge across it and beside it. {_patch_line(f.seen, show)} books what they differ by.",
                Mark.LOOK,
            ),
            c.PATCH_STAYS: (
                f"The patch in {n} lies {show.unit(show.size(abs(f.patch_mm or 0.0)))} deeper than the hone takes: this size leaves a shadow. Back to the call.",
                Mark.STOP,
            ),
            c.BUY_PISTONS: (_buy_words(f, show), Mark.PLAIN),
            c.LOOK_FIRST: (
                f"Cylinder {n} waits: bore {listed(list(f.others))} first and look, it decides the size.",
                Mark.LOOK,
            ),
            c.NO_BAR: ("Say what is in the bar before it turns: its insert, feed and speed.", Mark.LOOK),
            c.PASS: (
                f"Pass {f.pass_of[0]} of {f.pass_of[1]} in cylinder {n}: set {show.size(f.setting_mm)}.",
                Mark.PLAIN,
            ),
            c.SET: (f"Set {show.size(f.setting_mm)} and bore cylinder {n}.{first}", Mark.PLAIN),
        }[f.call]
    )


def _patch_line(seen: Looked | None, show: Show) -> str:
    """How the depth of a patch that was seen is typed: where it lies, as it was told, and how deep."""
    where = "" if seen is None or seen.depth_mm is None else f" at {show.rough(seen.depth_mm)}"
    where += "" if not where or seen is None or seen.clock_deg is None else f" {seen.clock_deg:g}"
    return f"look shadow{where} deep {show.size(0.01)}"


def _buy_words(f: BoreFinding, show: Show) -> str:
    """Every hole is bored to the least that pistons of the size ask for: they are bought now."""
    patch = (
        ""
        if f.patch_mm is None or f.patch_mm < -1e-9
        else f" The patch in {f.cylinder} goes with the hone, with {show.unit(show.size(f.patch_mm))} to spare."
    )
    return f"Every hole will come out at this size: buy the pistons, and measure each at the call.{patch}"


def _left_there(f: BoreFinding, show: Show) -> tuple[str, Mark]:
    """A hole that is bored, by its two ends: a tick is for what is sure of both."""
    left, hole, redline = show.unit(show.size(f.left_mm)), f.plan.done, f.plan.redline_mm
    if f.uneven and hole is not None and redline is not None:
        tight = show.unit(show.size(redline - hole.smallest_mm))
        return (
            f"Cylinder {f.cylinder} is bored uneven: {left} is left at its widest, {tight} at its tightest. The hone dwells there first.",
            Mark.LOOK,
        )
    if not f.ends_read:
        return (
            f"Cylinder {f.cylinder} is bored: {left} is left for the hone where it was measured. Both ends are not known: three depths, two angles.",
            Mark.PLAIN,
        )
    if f.patch_mm is not None and f.patch_mm < -1e-9:
        return (
            f"Cylinder {f.cylinder} is bored: {left} is left for the hone. Whether it takes the patch hangs on the piston.",
            Mark.LOOK,
        )
    if f.patch_mm is not None:
        spare = show.unit(show.size(f.patch_mm))
        return (
            f"Cylinder {f.cylinder} is bored: {left} is left for the hone, and takes the patch with {spare} to spare.",
            Mark.LIKELY,
        )
    return f"Cylinder {f.cylinder} is bored: {left} is left for the hone.", Mark.SOUND


def against(state: JobState, cylinder: int, show: Show) -> str:
    """What speaks against the call in a cylinder, as it goes on in a sentence; empty while it stands."""
    return next((f"{t[:1].lower()}{t[1:]}" for t in against_words(state, show, cylinder)), "")


def _figures(state: JobState, plan: BorePlan, show: Show) -> tuple[FigureLine, ...]:
    lines = []
    if plan.target_mm is not None:
        lines.append(FigureLine("bore to", show.size(plan.target_mm), by="allowance_stated"))
        lines += _warm(state, plan, show)
    if plan.stock_mm is not None and plan.done is None:
        lines.append(FigureLine("stock on diameter", show.unit(show.size(plan.stock_mm))))
    if plan.passes_mm and plan.done is None:
        lines.append(FigureLine("passes, a side", ", ".join(show.size(p) for p in plan.passes_mm), by="passes_stated"))
        if len(plan.settings_mm) > 1:
            lines.append(FigureLine("settings", ", ".join(show.size(s) for s in plan.settings_mm)))
    if plan.done is not None:
        lines += _as_it_came(plan.done, show)
    return (*lines, *_cut(state, plan, show))


def _warm(state: JobState, plan: BorePlan, show: Show) -> list[FigureLine]:
    """What a warm block shows where the target is a size at 20 C."""
    if plan.target_mm is None or state.clamped.block_c is None or plan.done is not None:
        return []
    if abs(state.clamped.block_c - 20.0) < state.figures.number("thermal.matters_from_20"):
        return []
    return [
        FigureLine(f"reads, at {show.warm(state.clamped.block_c)}", show.size(state.as_read(plan.target_mm)), Mark.LOOK)
    ]


def _as_it_came(hole: Bored, show: Show) -> list[FigureLine]:
    lines = [FigureLine(f"came out, {show.reference}", ", ".join(show.size(s) for s in hole.sizes_mm))]
    if hole.across_mm:
        lines.append(FigureLine("across", ", ".join(show.size(s) for s in hole.across_mm)))
    if hole.block_c is not None and abs(hole.block_c - 20.0) >= 1.0:
        lines.append(FigureLine("measured warm, at", show.warm(hole.block_c)))
    over = hole.mean_mm - hole.set_mm
    lines.append(FigureLine("over its setting", "as it was set" if show.is_nought(over) else show.away(over)))
    return lines


def _cut(state: JobState, plan: BorePlan, show: Show) -> list[FigureLine]:
    """The cut as the bar is set up: marks, feed, speed, time."""
    cut, found = cut_now(state, state.block.bore_mm), window_now(state)
    if cut is None or found is None or state.boring.bar is None:
        return []
    fits = cut.allowance_needed_mm <= plan.left_mm[0]
    call = found[1].feed_call(state.boring.bar.feed_mm)
    lines = [
        FigureLine("marks need of the hone", show.size(cut.allowance_needed_mm), Mark.SOUND if fits else Mark.STOP),
        FigureLine("feed", call, Mark.SOUND if call is FeedCall.IN_WINDOW else Mark.LOOK, "bar_set"),
    ]
    if plan.done is None and plan.passes_mm:
        many = len(plan.passes_mm)
        lines.append(FigureLine("cutting, this hole", f"{cut.minutes * many:.1f} min"))
        if not state.boring.holes:
            lines += [_beside(c, many, plan, show) for c in cuts_beside(state)[1:]]
    if left := minutes_left(state):
        lines.append(FigureLine("the block, about", f"{left:.0f} min"))
    return lines


def _beside(c: CutBeside, passes: int, plan: BorePlan, show: Show) -> FigureLine:
    """Another speed or insert beside the one that is set, before anything is cut."""
    what = f"at {c.rpm:g} turns" if c.insert else f"{c.what}, {c.rpm:g} at {show.fine(c.feed_mm)}"
    marks = Mark.PLAIN if c.marks_mm <= plan.left_mm[0] else Mark.LOOK
    return FigureLine(what, f"{c.minutes * passes:.1f} min, marks {show.size(c.marks_mm)}", marks)


def _changes(state: JobState, plan: BorePlan, show: Show, at: str) -> tuple[str, ...]:
    items = run_of(state, plan.cylinder, show)
    notes = list[str]()
    notes += stamp_notes(items) if state.boring.bar is not None else []
    notes += [f"{DIAGNOSES[told]}." for told in [diagnosis(state)] if told is not None]
    notes += [
        Note(say_next(told, show)) for told in [next_setting(state, at)] if told is not None and plan.done is not None
    ]
    if plan.done is not None:
        notes += [f"Cylinder {plan.cylinder}: {HOLE_FAULTS[fault]}." for fault in faults_in(state, plan.done)]
    notes += [f"The bar will sing: {why}." for why in [chatter_words(chatters(state))] if why]
    notes += _heard(state, plan, show)
    if orders := still_to_bore(state):
        told = "; then the other bank ".join(", ".join(map(str, numbers)) for numbers in orders)
        notes.append(Note(f"Order that spreads the heat: {told}."))
    return (*notes, *_room(state, show), *_set_up(state, show))


def _heard(state: JobState, plan: BorePlan, show: Show) -> list[str]:
    """What a note made at the cut means."""
    found = []
    for note in state.boring.cut_notes:
        if note.cylinder != plan.cylinder:
            continue
        where = "" if note.depth_mm is None else f" {show.down(note.depth_mm)}"
        found.append(
            {
                "hit and skip": f"Hit and skip{where}: look. Bright and dull patches are a shadow: gauge it there, and ask the call whether this size still does; webs are noted with their depth and cut back.",
                "ridge": Note(f"Ridge noted{where}: the first cut takes it; feed by hand until it is through."),
                "pin hole": Note(f"Opening noted{where}: no stone may turn round at it."),
                "web": Note(f"Webs noted{where}: cut them as low as the stones will reach, or they break them."),
            }[note.what]
        )
    return found


def _room(state: JobState, show: Show) -> list[str]:
    depth, out, known = stop_of(state)
    if not known:
        return [f"The room below is not known: set the stop only once it is measured; {room_line(show)} books it."]
    room = room_below(state.block)
    if room is not None and room < state.figures.number("boring.run_off"):
        return [
            Note(
                f"There is {show.rough(room)} of room below: stop {show.rough(out)} under the hole, at {show.rough(depth)}."
            )
        ]
    return []


def _set_up(state: JobState, show: Show) -> list[str]:
    """What the set-up does: speed against the window, what the block is squared to."""
    found, notes = window_now(state), []
    if state.boring.bar is None or found is None:
        return []
    if not found[1].rpm_low <= state.boring.bar.rpm <= found[1].rpm_high:
        notes.append(Note(f"This insert turns at {found[1].rpm_low:.0f} to {found[1].rpm_high:.0f} in this bore."))
    if state.boring.bar.based_on == "mains":
        return [*notes, Note("Squared to the mains: the holes stand square to the crank, whatever the deck does.")]
    lean = deck_lean(state)
    much = "" if lean is None else f" It is out: over a hole's length that leans it by up to {show.size(lean)}."
    return [*notes, Note(f"Squared to the deck: the holes are only as square to the crank as the deck is.{much}")]


def _working(state: JobState, plan: BorePlan, show: Show, at: str) -> tuple[WorkLine, ...]:
    lines = []
    chosen = "after sleeving" if state.sleeving.after_of(plan.cylinder) else state.booking.practice("hone_allowance")
    way = practice("hone_allowance", chosen)
    if plan.redline_mm is not None and plan.target_mm is not None:
        low, high = plan.left_mm
        lines.append(
            WorkLine(
                f"bore to = redline {show.fine(plan.redline_mm)} − the middle of {show.fine(low)}–{show.fine(high)} = {show.fine(plan.target_mm)}",
                "as stated on this job"
                if state.boring.allowance_mm
                else f"{way.title}: {way.reason}; shop figure: left for the hone",
            )
        )
    if plan.setting_mm is not None and plan.target_mm is not None:
        lines += _setting_lines(state, plan.target_mm, plan.setting_mm, show, at)
    if plan.passes_mm:
        told = " + ".join(show.fine(p) for p in plan.passes_mm)
        lines.append(
            WorkLine(
                f"passes a side: {told} = half of {show.fine(plan.stock_mm or 0.0)}",
                f"the last the lightest; {cited('boring.deepest_pass')}",
            )
        )
    cut, found = cut_now(state, state.block.bore_mm), window_now(state)
    if cut is not None and state.boring.bar is not None and found is not None:
        f, r = show.fine(state.boring.bar.feed_mm), show.fine(state.boring.bar.nose_radius_mm)
        lines.append(
            WorkLine(
                f"Rt = {f}² / (8 × {r}) = {show.height(cut.rt_um)}; marks and torn layer reach 3 Rt a side",
                "ideal: feed and nose alone",
            )
        )
        lines.append(
            WorkLine(
                f"v = π × {show.size(state.block.bore_mm)} × {state.boring.bar.rpm:g} = {show.speed(cut.speed_m_per_min)}; "
                f"window {found[1].rpm_low:.0f}–{found[1].rpm_high:.0f} turns a minute in this bore",
                f"{state.boring.bar.grade} carbide; shop figure: cutting speed",
            )
        )
    return tuple(lines)


def _setting_lines(state: JobState, target_mm: float, setting_mm: float, show: Show, at: str) -> list[WorkLine]:
    c, bar = correction_of(state), state.boring.bar
    share = speed_share(state, None if bar is None else bar.rpm)
    first = f" − first hole {show.fine(c.first_mm)} × {share:.2g} for its speed" if bar_is_cold(state, at) else ""
    taught = f"; jobs {', '.join(bar.taught_by)} among them" if bar is not None and bar.taught_by else ""
    earlier = sum(1 for _ in with_first(state))
    holes, firsts = (f"{n} {what}{'' if n == 1 else 's'}" for n, what in ((c.holes, "hole"), (c.firsts, "first hole")))
    source = f"learned from {holes} and {firsts}, {earlier} of this job{taught}"
    return [
        WorkLine(
            f"setting = {show.fine(target_mm)} − correction {show.fine(c.usual_mm)}{first}, "
            f"taken down to the least count = {show.fine(setting_mm)}",
            source,
        )
    ]
