"""What to do now at the hone: one sentence, the figures behind it, what would change it, the working."""

from __future__ import annotations

from redline_bore.core.errors import FitError
from redline_bore.core.show import Show, capital
from redline_bore.core.stock import RateChange, block_off_temperature, robust_line, taper_growth
from redline_bore.job.calls import hone_call, wall_before
from redline_bore.job.card import Advice, FigureLine, Mark, Note, Said, WorkLine
from redline_bore.job.gauge.doubt import reading_doubt
from redline_bore.job.gauge.hole import Out, hole_limits, shape_of_hole
from redline_bore.job.gauge.places import check_places
from redline_bore.job.gauge.plate_wanted import plate_wanted
from redline_bore.job.hone.finding import (
    HoneCall,
    HoneFinding,
    by_hand,
    creeping,
    in_plateau,
    one_way_does,
    plateau_rate,
    still_to_hone,
    untraced,
    zeroed_for,
)
from redline_bore.job.hone.progress import Progress, out_of_family
from redline_bore.job.hone.set_up import kinematics_of
from redline_bore.job.hone.shape import ShapeAtHone
from redline_bore.job.hone.steps import StageStands, stages_of
from redline_bore.job.hone.track import ToldBy, Tracked
from redline_bore.job.kinds.hone import HoneSet
from redline_bore.job.state.job_state import JobState
from redline_bore.job.state.two_angles import TwoAngles
from redline_bore.job.words.missing import UNTESTED, say_missing
from redline_bore.job.words.set_up import say_set_up
from redline_bore.job.words.stages import say_stage

NO_RATE = 0.005  # of the start: less than this is written as nought
HELD_BACK_MM = 0.001  # less than this nobody would see on a gauge
CARE = "Stop the machine before gauging. Keep sleeves and gloves out of the hole. Mask for stone dust."
CARE_HAND = "A drill hone can grab: both hands, feet firm, no sleeves, no gloves. Eyes covered; mask for stone dust."

TAKES_OR_LEAVES = frozenset({
    HoneCall.AT_SIZE, HoneCall.AT_REDLINE, HoneCall.READ_ENDS, HoneCall.STEP_DONE, HoneCall.TRUE_UP, HoneCall.PLATEAU_DONE, HoneCall.PLATEAU_SHORT,
    HoneCall.PLATEAU_TRACE_FIRST, HoneCall.PLATEAU_GO, HoneCall.FIRST_BITE, HoneCall.NO_METAL, HoneCall.STROKES,
})  # fmt: skip

TOLD_BY = {
    ToldBy.OTHERS: "the other cylinders",
    ToldBy.STEP_BEFORE: "the step before",
    ToldBy.STONES: "the starting point of the stones",
}


def advise(state: JobState, cylinder: int, show: Show) -> Advice:
    """What to do now at the hone."""
    found = hone_call(state, cylinder)
    p, (sentence, mark) = found.progress, say(found, show)
    if found.call in TAKES_OR_LEAVES and not state.clamped.plate_on and plate_wanted(state, cylinder):
        sentence, mark = (
            f"Plate off: put it on first. {sentence}",
            Mark.LOOK,
        )  # nothing that is said of its shape is sure with the head on
    button, leads_on = (
        ("" if p.redline.size_mm is None or found.call is HoneCall.CRACKED else f"Book check {len(p.checks) + 1}"),
        False,
    )
    if p.at_size and found.call is not HoneCall.READ_ENDS:
        ahead = still_to_hone(state, cylinder)
        stamped = state.signing.stamp("hone") is not None
        onward = "Go to the finish" if stamped else "Stamp and go to the finish"
        button, leads_on = f"Go to cylinder {ahead[0]}" if ahead else onward, bool(ahead) or stamped
    return Advice(
        f"Call · cylinder {cylinder}", sentence, _figures(state, p, show), _changes(state, p, show),
        _working(state, p, show), button, care(state), mark, leads_on,
    )  # fmt: skip


def care(state: JobState) -> str:
    """The line of care at the hone."""
    return CARE_HAND if by_hand(state) else CARE


def say(f: HoneFinding, show: Show) -> Said:
    """A finding at the hone in a sentence, and its mark."""
    p, c = f.progress, HoneCall
    tight = _tight_words(f, show)
    most = "or more" if f.most is None else f"to {f.most}"
    text, mark = {
        c.CRACKED: (f"No stroke in cylinder {f.cylinder}: {UNTESTED}.", Mark.STOP),
        c.LIGHT_GROWN: (f"It has grown by {f.grown:.1f} times what a deglaze may take.", Mark.STOP),
        c.LIGHT_DONE: (f"{f.done} strokes are done: stop. Wash, and measure the ring's gap again.", Mark.LOOK),
        c.LIGHT_GO: (f"{f.least} to {f.most} strokes by hand, then stop: wash, and measure the ring's gap.", Mark.PLAIN),
        c.NO_REDLINE: (f"No redline yet: {say_missing(p.redline.missing)}.", Mark.LOOK),
        c.WRONG_PISTON: (_wrong_words(f, show), Mark.STOP),
        c.CHECK_FIRST: (f"Book a check before the {p.step_name} step touches it.", Mark.PLAIN),
        c.WAITS_FOR_PISTON: (f"It is honed as far as any piston of its size allows. Now {say_missing(p.redline.missing)}.", Mark.LOOK),
        c.PLATE_DIFFERS: (_plate_words(p), Mark.LOOK),
        c.PAST: (f"Cylinder {f.cylinder} is {show.unit(show.size(f.over_mm))} past {_past_what(p)}.", Mark.STOP),
        c.COOL: (f"Let it cool and gauge again: {show.unit(show.size(f.left_mm))} left, and it is at {show.warm(f.warm_c)}.", Mark.LOOK),
        c.AT_SIZE: ("At size. Leave it and let it cool.", Mark.SOUND),
        c.AT_REDLINE: ("At the redline, within the gauge's doubt. Leave it and let it cool.", Mark.SOUND),
        c.READ_ENDS: ("At size where it was read. Gauge it at three depths, at two angles, before it leaves.", Mark.LOOK),
        c.TIGHT: (f"No stroke is safe any more, and {tight}.", Mark.STOP),
        c.STEP_DONE: (f"The {p.step_name} step is done. N goes to {f.next_step}.", Mark.SOUND),
        c.TRUE_UP: (f"{tight}", Mark.LOOK),
        c.VALLEYS_MISSING: ("No plateau yet: the valleys are not there. The Finish step says what a coarser step costs.", Mark.STOP),
        c.PLATEAU_DONE: (f"{_light(f, _done_strokes(p))} are done: stop, let it cool, gauge; then trace it.", Mark.SOUND),
        c.PLATEAU_SHORT: (f"{_light(f, f.most)} at most, the size allows no more: stop, gauge, trace." if f.most else "The size allows no light stroke any more: stop, gauge, trace.", Mark.LOOK),
        c.PLATEAU_TRACE_FIRST: (f"Trace it first (PgDn). Then {_light(f, f.least, f.most)}; stop at {_stop_at(f)} and gauge.", Mark.PLAIN),
        c.PLATEAU_GO: (f"{_light(f, f.least, f.most)} for the plateau. Stop at {_stop_at(f)}, gauge and trace.", Mark.PLAIN),
        c.FIRST_BITE: (f"{_count(f.bite)}, then stop and gauge: the rate is not seen yet.", Mark.PLAIN),
        c.NO_METAL: (f"No metal is coming off. Dress the stones, type “dressed”; then {_count(f.bite)}, and gauge.", Mark.LOOK),
        c.STROKES: (f"{f.least} {most} more strokes. {_count(f.bite)}, then stop and gauge.", Mark.PLAIN),
    }[f.call]  # fmt: skip
    if f.call in (c.FIRST_BITE, c.STROKES) and (crooked := _crooked_words(f, show)):
        text, mark = f"{text} {crooked}", Mark.LOOK
    return Said((f"Creep. {text}" if f.creeping else text), mark)


def _wrong_words(f: HoneFinding, show: Show) -> str:
    if f.wrong is None:
        return ""
    w = f.wrong
    sold, called = (
        "standard" if abs(over) < 1e-6 else f"{show.step(over)} over" for over in (w.sold_for_mm, w.called_mm)
    )
    return f"No stroke: piston {w.cylinder} measures {show.unit(show.size(w.size_mm))}, as {sold} pistons do, and the call is {called}. Measure it again, or take another call."


def _crooked_words(f: HoneFinding, show: Show) -> str:
    """What a hand does about a shape that is out while there is metal left, where no setting of a machine does it; empty where nothing is."""
    s = f.shape
    if s is None or not s.out:
        return ""
    if {Out.TAPER, Out.BULGE} & set(s.out):
        end, by = max((("top", s.tight_top_mm), ("bottom", s.tight_bottom_mm)), key=lambda e: abs(e[1]))
        by_words = show.unit(show.size(abs(by)))
        if by > 0.0:
            return f"The {end} is tight by {by_words}: dwell there, or work it with short strokes."
        return f"The {end} is open by {by_words}: run out less there."
    if Out.TIGHT in s.out:
        depth = show.down(s.depth_mm)
        return f"{capital(depth)} it is still under its window: work it there."
    told = _tight_words(f, show)
    return f"{capital(told)}." if told else ""


def _plate_words(p: Progress) -> str:
    """A check that stands apart from those before it by the plate."""
    if p.checks and p.checks[-1].plate_on:
        return "This check was under the plate, the one before was not: gauge once more, then go on under it."
    return "This check was without the plate, the one before was under it: put it back, and gauge again."


def _light(f: HoneFinding, *strokes: int | None) -> str:
    """Light strokes as they are counted in this step: strokes, or seconds."""
    if f.stroke_s is None:
        counts, what = [str(n) for n in strokes if n is not None], "light strokes"
    else:
        counts, what = [f"{n * f.stroke_s:.0f}" for n in strokes if n is not None], "s at the light load"
    return f"{' to '.join(counts)} {what}"


def _stop_at(f: HoneFinding) -> str:
    """Where to stop, as the step is counted."""
    return str(f.bite) if f.stroke_s is None else f"{f.bite * f.stroke_s:.0f} s"


def _count(strokes: int) -> str:
    return "One stroke" if strokes == 1 else f"{strokes} strokes"


def _done_strokes(p: Progress) -> int:
    return int(p.checks[-1].strokes) if p.checks else 0


def _past_what(p: Progress) -> str:
    """Which end it is past: the mean past the redline, or a place past the window."""
    if p.last is None or p.ends is None:
        return ""
    by_mean = p.last.mean_mm - p.ends.redline_mm >= p.last.largest_mm - p.ends.top_mm
    return "the redline" if by_mean else "the top of its window at its largest place"


def _tight_words(f: HoneFinding, show: Show) -> str:
    """What of the shape is out, and where."""
    s = f.shape
    if s is None:
        return ""
    if f.call is HoneCall.TRUE_UP and s.set_to is not None:
        return _set_words(s, s.set_to, show)
    if Out.TIGHT in s.out:
        return f"it is under its window {show.down(s.depth_mm)}: a piston would seize there"
    hole = s.hole
    told = {
        Out.TAPER: f"its taper is {show.unit(show.size(abs(hole.taper_mm or 0.0)))}",
        Out.BULGE: f"it is {'a barrel' if (hole.bulge_mm or 0.0) > 0 else 'an hourglass'} of {show.unit(show.size(abs(hole.bulge_mm or 0.0)))}",
        Out.OVAL: f"it is {show.unit(show.size(hole.out_of_round_mm or 0.0))} out of round",
        Out.WIDE: "its largest place is over its window",
    }
    return next((told[out] for out in s.out if out in told), "")


def _set_words(s: ShapeAtHone, to: HoneSet, show: Show) -> str:
    """How the stroke is to be set, and which end asks for it."""
    end, by = max((("top", s.tight_top_mm), ("bottom", s.tight_bottom_mm)), key=lambda e: abs(e[1]))
    how = "tight" if by > 0.0 else "open"
    dwell = f", dwell {to.dwell_top_s:g} and {to.dwell_bottom_s:g} s" if to.dwell_top_s or to.dwell_bottom_s else ""
    return (
        f"The {end} is {how} by {show.unit(show.size(abs(by)))}: set the stone out {show.rough(to.over_top_mm or 0.0)} at the top and "
        f"{show.rough(to.over_bottom_mm or 0.0)} at the bottom{dwell}, then go on."
    )


def _figures(state: JobState, p: Progress, show: Show) -> tuple[FigureLine, ...]:
    lines = []
    if p.ends is not None:
        name = "redline for now, the mean" if p.redline.provisional else "redline, the mean"
        lines.append(FigureLine(name, show.unit(show.size(p.ends.redline_mm))))
        lines.append(FigureLine("ceiling, every place", show.size(p.ends.ceiling_mm)))
    if p.last is not None and p.ends is not None:
        lines.append(_end_line("smallest", p.last.smallest_mm, p, show))
        lines.append(_end_line("largest", p.last.largest_mm, p, show))
    if p.tracked is not None and p.to_step_end_mm is not None:
        lines.append(FigureLine(f"to the end of {p.step_name}", show.unit(show.size(p.to_step_end_mm))))
        t = p.tracked.track
        low, high = t.rate_mm / (1.0 + 1.645 * t.rate_log_sd), t.rate_mm * (1.0 + 1.645 * t.rate_log_sd)
        lines.append(FigureLine("a stroke", f"{show.rate(t.rate_mm)} ({show.rate(low)}–{show.rate(high)})"))
    if p.rate is not None:
        lines.append(_rate_line(p.rate))
    if p.last is not None and len(p.last.sizes_mm) > 1:
        lines += _shape_lines(state, p.last, show)
    if (said := machine_says(state, p)) is not None and p.checks:
        measured = p.checks[-1].mean_mm - p.checks[0].mean_mm
        apart = abs(said - measured) > state.figures.number("honing.machine_apart")
        label = "machine says, measured"
        lines.append(FigureLine(label, f"{show.size(said)}, {show.size(measured)}", Mark.LOOK if apart else Mark.SOUND))
    if in_plateau(state, p):
        lines.append(FigureLine("ten light strokes take", show.fine(10.0 * plateau_rate(state, p))))
    lines.append(_warmth(state, p, show))
    return tuple(lines)


def machine_says(state: JobState, p: Progress) -> float | None:
    """What the machine says it took in this step: compensation that was given in parts adds up, mm on diameter; None where it said nothing."""
    parts = [c.taken_mm for c in state.honing.compensations if c.cylinder == p.cylinder and c.step == p.step]
    return sum(parts) if parts else None


def _end_line(label: str, size_mm: float, p: Progress, show: Show) -> FigureLine:
    """A place of the hole against its end of the window."""
    assert p.ends is not None
    mark = Mark.LOOK if size_mm > p.ends.ceiling_mm else Mark.PLAIN
    if p.redline.piston is None:
        return FigureLine(label, show.size(size_mm), mark)
    clearance = size_mm - p.redline.piston.size_mm
    return FigureLine(f"{label}, clearance", f"{show.size(size_mm)}, {show.size(clearance)}", mark)


def _shape_lines(state: JobState, last: TwoAngles, show: Show) -> list[FigureLine]:
    hole, limits = shape_of_hole(state, last), hole_limits(state)
    rows = (
        ("taper", hole.taper_mm, limits.taper_mm, Out.TAPER),
        (_bulge_name(hole.bulge_mm or 0.0, show), hole.bulge_mm, limits.bulge_mm, Out.BULGE),
        ("two angles differ by", hole.out_of_round_mm, limits.out_of_round_mm, Out.OVAL),
    )
    return [
        FigureLine(name, f"{show.away(value) if what is not Out.OVAL else show.size(value)}, limit {show.size(limit)}",
                   Mark.STOP if what in hole.out else Mark.LOOK if what in hole.close else Mark.SOUND)
        for name, value, limit, what in rows
        if value is not None
    ]  # fmt: skip


def _bulge_name(bulge_mm: float, show: Show) -> str:
    """What the shop calls a hole that is wide, or tight, in its middle."""
    return "bulge" if show.is_nought(bulge_mm) else "barrel" if bulge_mm > 0.0 else "hourglass"


def _rate_line(change: RateChange) -> FigureLine:
    if change.fallen:
        left = f"{change.now_over_start:.0%} of the start" if change.now_over_start >= NO_RATE else "no metal at all"
        return FigureLine("rate has fallen to", left, Mark.LOOK)
    if change.risen:
        return FigureLine("rate has risen to", f"{change.now_over_start:.0%} of the start", Mark.LOOK)
    return FigureLine("steady since start", f"yes, {change.now_over_start:.0%}", Mark.SOUND)


def _warmth(state: JobState, p: Progress, show: Show) -> FigureLine:
    warm = p.last.block_c if p.last is not None else state.clamped.block_c
    if warm is None:
        return FigureLine("block temperature", "not known", Mark.LOOK, "block_temperature")
    moved = state.block.bore_mm * state.coefficient_1e6 * 1e-6 * (warm - 20.0)
    mark = Mark.LOOK if block_off_temperature(warm, state.figures.number("honing.block_off")) else Mark.SOUND
    if show.is_nought(moved):
        return FigureLine("block temperature", show.warm(warm), mark, "block_temperature")
    return FigureLine(f"block at {show.warm(warm)} reads", show.away(moved), mark, "block_temperature")


def _changes(state: JobState, p: Progress, show: Show) -> tuple[str, ...]:
    notes = [f"Way out: {text}." for text in _out(state, p, show)]
    notes += [f"Do not run it: {say_set_up(r, show)}." for r in kinematics_of(state).stops]
    notes += _step_notes(state, p, show)
    if untraced(state, p, wall_before(state, p.cylinder)):
        notes.append("Valleys that are not there before the plateau never will be: trace it before the plateau.")
    notes += _strokes_notes(state, p, show)
    if p.rate is not None and p.rate.fallen:
        notes.append(
            "Stones are glazed or worn: dress them, and type “dressed” before the next stroke: they will take more again."
        )
    if p.rate is not None and p.rate.risen:
        notes.append(Note("New stones are bedding in: the next strokes take more than the last."))
    notes += _taper_notes(state, p, show)
    if out_of_family(state, p.cylinder):
        notes.append(f"Cylinder {p.cylinder} cuts unlike the others: look for a hard band or a wrong load.")
    if p.redline.provisional:
        notes.append(
            f"No piston of {p.cylinder} is measured: the redline is the least one sold for {show.size(p.redline.planned_mm or 0.0)} asks for."
        )
    if p.redline.piston is not None and not p.redline.piston.warm_known:
        notes.append(f"The piston's temperature was not taken; it is counted as {show.reference}.")
    if not state.clamped.plate_on and plate_wanted(state, p.cylinder):
        notes.append("The plate is off. With the head on, the hole will not stay this shape.")
    return tuple(notes)


def _strokes_notes(state: JobState, p: Progress, show: Show) -> list[str]:
    """Where a check is taken, what the bite rests on, and what is too narrow."""
    if p.ends is None or p.over or p.at_size:
        return []
    at = check_places(state)
    where = " ".join(show.depth(d) for d in at.depths_mm)
    down = f"A check: {where} {show.units.mark} down, at {at.clocks_deg[0]:g}°"
    if one_way_does(state, p.cylinder):
        notes = [f"{down}, one direction is enough yet: strokes, sizes down."]
    else:
        notes = [f"{down} and {at.clocks_deg[1]:g}°: strokes, sizes down, across, sizes down."]
    if creeping(state, p) and not zeroed_for(state, p.cylinder):
        notes.append("Set the gauge on its master before this check: its zero is what limits the end.")
    t = p.tracked
    if t is None:
        return notes
    if t.looks < 2:
        notes.append(Note(f"The rate is told by {TOLD_BY[t.prior_from]} so far; a bite is short while it is not seen."))
    if t.new_stones is None:
        notes.append("Nobody said whether the stones are new: “stones ... new”, or without the word, books it.")
    by = t.aim.step_mm - t.aim.mean_mm
    if by > HELD_BACK_MM and not show.is_nought(by):
        notes.append(_held_back(p, t, show))
    if p.last is not None and not p.last.across_mm:
        notes.append("Read at one angle only: across at 90° tells more, and leaves a larger bite.")
    return notes


def _held_back(p: Progress, t: Tracked, show: Show) -> str:
    """What keeps the mean from its redline: the window, the hole's shape, or the gauge."""
    assert p.ends is not None
    by = show.unit(show.size(t.aim.step_mm - t.aim.mean_mm))
    half = p.ends.top_mm - p.ends.redline_mm
    if half <= p.ends.u_mm:
        return f"It ends {by} short: the window is narrower than twice the gauge's doubt, ± {show.doubt(p.ends.u_mm)}."
    if t.aim.lead_mm > t.aim.between_mm:
        return f"It ends {by} short: the hole's largest place leads the mean by {show.size(t.aim.lead_mm)}."
    return f"It ends {by} short: the gauge's doubt, ± {show.doubt(p.ends.u_mm)}, leaves so little under the ceiling."


def _step_notes(state: JobState, p: Progress, show: Show) -> list[str]:
    """What the step does to the marks before it, where that wants a look."""
    if not p.checks or p.over or p.redline.size_mm is None:
        return []
    stages = stages_of(state, p.cylinder)
    stage = stages[min(p.step, len(stages) - 1)]
    sound = stage.call.stands is StageStands.SOUND
    return [] if sound else [f"{p.step_name.capitalize()}: {say_stage(stage.call, show)}."]


def _taper_notes(state: JobState, p: Progress, show: Show) -> list[str]:
    several = [c for c in p.checks if len(c.sizes_mm) > 1]
    if len(several) < 2 or p.at_size:
        return []
    grown = taper_growth(several[0].by_depth_mm, several[-1].by_depth_mm)
    if grown <= state.figures.number("honing.taper_growth"):
        return []
    end = "bottom" if several[-1].by_depth_mm[0] > several[-1].by_depth_mm[-1] else "top"
    return [f"Taper grew by {show.size(grown)}: the {end} is tight. Dwell there."]


def _out(state: JobState, p: Progress, show: Show) -> tuple[str, ...]:
    if not p.over or p.at_size:
        return ()
    from redline_bore.job.hone.ways_out import ways_out  # only where a bore is over its redline
    from redline_bore.job.words.ways_out import TITLES, say_out

    return tuple(f"{TITLES[w.out][:1].lower()}{TITLES[w.out][1:]}: {say_out(w, show)}" for w in ways_out(state, p))


def _plain_line(state: JobState, p: Progress, show: Show) -> list[WorkLine]:
    """The plain line through the checks, to hold beside what was followed."""
    try:
        line = robust_line([c.strokes for c in p.checks], [c.mean_mm for c in p.checks], reading_doubt(state).own_mm)
    except FitError:
        return []
    return [
        WorkLine(
            f"by the middle of all slopes: {show.rate(line.rate.mm)} a stroke, now {show.fine(line.now_mm)}",
            "Theil-Sen; Sen 1968",
        )
    ]


def _working(state: JobState, p: Progress, show: Show) -> tuple[WorkLine, ...]:
    r, lines = p.redline, []
    if r.size_mm is None or r.piston_mm is None:
        return (
            WorkLine(
                f"redline = piston + clearance: {say_missing(r.missing)}", "the piston measured, the window that leads"
            ),
        )
    whose = (
        f"least piston sold for {show.size(r.planned_mm or 0.0)}"
        if r.provisional
        else f"piston {p.cylinder} at {show.reference}"
    )
    lines.append(
        WorkLine(
            f"redline = {whose} {show.size(r.piston_mm)} + clearance {show.size(r.window.aim_mm)} "
            f"({show.size(r.window.low_mm)}–{show.size(r.window.high_mm)}) = {show.size(r.size_mm)}",
            f"window by {r.window.source}",
        )
    )
    if p.ends is not None:
        e = p.ends
        lines.append(
            WorkLine(f"ceiling = piston + {show.size(r.window.high_mm)} − U {show.size(e.u_mm)} = {show.size(e.ceiling_mm)}", "ISO 14253-1")
        )  # fmt: skip
    t = p.tracked
    if t is not None and p.ends is not None and p.last is not None:
        short = r.size_mm - t.aim.step_mm
        lines.append(
            WorkLine(f"{p.step_name} ends {show.target(short)} short: {show.size(t.aim.step_mm)}; the mean goes to {show.size(t.aim.mean_mm)}", p.practice.reason)
        )  # fmt: skip
        lines.append(
            WorkLine(f"left = redline − mean of the last check {show.fine(p.last.mean_mm)} = {show.away(p.left_mm or 0.0)}")
        )  # fmt: skip
        lines.append(
            WorkLine(f"now, followed through {len(p.checks)} checks = {show.fine(t.track.mean_mm)} ± {show.fine(1.645 * t.track.sd_mm)}", "90 %; Kalman 1960")
        )  # fmt: skip
        lines += _plain_line(state, p, show)
        lines.append(
            WorkLine(f"strokes = {show.fine(t.to_aim_mm)} / {show.rate(t.track.rate_mm)} = {t.between.likely:.1f}")
        )  # fmt: skip
        lines.append(
            WorkLine(f"a bite of {t.bite} goes past in one of 2,000", "shop figure: a bite's tail")
        )  # fmt: skip
    return tuple(lines)
