"""What to do now at the hone: one sentence, the figures behind it, what would change it, the working."""

from __future__ import annotations

from typing import TYPE_CHECKING

from redline_bore.core.show import Show
from redline_bore.core.stock import RateChange, block_off_temperature, taper_growth
from redline_bore.job.calls import hone_call, wall_before
from redline_bore.job.card import Advice, FigureLine, Mark, Said, WorkLine
from redline_bore.job.gauge.doubt import reading_doubt
from redline_bore.job.hone.finding import (
    HoneCall,
    HoneFinding,
    by_hand,
    in_plateau,
    plateau_rate,
    still_to_hone,
    untraced,
)
from redline_bore.job.hone.progress import Progress, out_of_family
from redline_bore.job.hone.set_up import kinematics_of
from redline_bore.job.hone.steps import stages_of
from redline_bore.job.state.job_state import JobState

if TYPE_CHECKING:
    from redline_bore.job.hone.ways_out import WayOut

CARE = "Stop the machine before gauging. Keep sleeves and gloves out of the hole. Mask for stone dust."
CARE_HAND = "A drill hone can grab: both hands, feet firm, no sleeves, no gloves. Eyes covered; mask for stone dust."


def advise(state: JobState, cylinder: int, show: Show) -> Advice:
    """What to do now at the hone."""
    found = hone_call(state, cylinder)
    p, (sentence, mark) = found.progress, say(found, show)
    button, leads_on = ("" if p.redline.size_mm is None else f"Book check {len(p.checks) + 1}"), False
    if p.at_size:
        ahead = still_to_hone(state, cylinder)
        stamped = state.signing.stamp("hone") is not None
        onward = "Go to the finish" if stamped else "Stamp and go to the finish"
        button, leads_on = f"Go to cylinder {ahead[0]}" if ahead else onward, bool(ahead) or stamped
    return Advice(
        f"Call · cylinder {cylinder}", sentence, _figures(state, p, show), _changes(state, p, show),
        _working(p, show), button, care(state), mark, leads_on,
    )  # fmt: skip


def care(state: JobState) -> str:
    """The line of care at the hone."""
    return CARE_HAND if by_hand(state) else CARE


def say(f: HoneFinding, show: Show) -> Said:
    """A finding at the hone in a sentence, and its mark."""
    p, c = f.progress, HoneCall
    text, mark = {
        c.LIGHT_GROWN: (f"Stop. It has grown by {f.grown:.1f} times what a deglaze may take.", Mark.STOP),
        c.LIGHT_DONE: (f"{f.done} strokes are done: stop. Wash, and measure the ring's gap again.", Mark.LOOK),
        c.LIGHT_GO: (f"{f.least} to {f.most} strokes by hand, then stop: wash, and measure the ring's gap.", Mark.PLAIN),
        c.NO_REDLINE: (f"No redline yet: {p.redline.missing}.", Mark.LOOK),
        c.CHECK_FIRST: (f"Book a check before the {p.step_name} step touches it.", Mark.PLAIN),
        c.PAST: (f"Stop. Cylinder {f.cylinder} is {show.unit(show.size(f.over_mm))} over the redline.", Mark.STOP),
        c.COOL: (f"Let it cool and gauge again: {show.unit(show.size(f.left_mm))} left, and it is at {f.warm_c:g} °C.", Mark.LOOK),
        c.AT_SIZE: ("At size. Leave it and let it cool.", Mark.SOUND),
        c.STEP_DONE: (f"The {p.step_name} step is done. N goes to {f.next_step}.", Mark.SOUND),
        c.VALLEYS_MISSING: ("Stop before the plateau: the valleys are not there. The Finish step says what a coarser step costs.", Mark.STOP),
        c.PLATEAU_DONE: (f"{f.done} light strokes are done: stop, let it cool, gauge; then trace it.", Mark.LOOK),
        c.PLATEAU_SHORT: (f"{f.most} light strokes at most, the size allows no more: stop, gauge, trace.", Mark.LOOK),
        c.PLATEAU_TRACE_FIRST: (f"Trace it first (PgDn). Then {f.least} to {f.most} light strokes; stop at {f.least} and gauge.", Mark.PLAIN),
        c.PLATEAU_GO: (f"{f.least} to {f.most} light strokes for the plateau. Stop at {f.least}, gauge and trace.", Mark.PLAIN),
        c.FEW_THEN_GAUGE: ("A few strokes, then stop and gauge.", Mark.PLAIN),
        c.NO_METAL: ("No metal is coming off. Dress the stones.", Mark.LOOK),
        c.ONE_AT_A_TIME: ("One stroke at a time: the gauge cannot tell the rest.", Mark.LOOK),
        c.UNSTEADY: (f"At least {f.least} strokes. The rate is not steady: gauge at {f.least}.", Mark.LOOK),
        c.STROKES: (f"{f.least} to {f.most} more strokes. Stop at {f.least} and gauge.", Mark.PLAIN),
    }[f.call]  # fmt: skip
    return Said((f"Creep. {text}" if f.creeping else text), mark)


def _figures(state: JobState, p: Progress, show: Show) -> tuple[FigureLine, ...]:
    lines = []
    if p.redline.size_mm is not None:
        lines.append(FigureLine("redline at 20 °C", show.unit(show.size(p.redline.size_mm))))
    if p.left_mm is not None and p.to_step_end_mm is not None:
        lines.append(FigureLine(f"to the end of {p.step_name}", show.unit(show.size(p.to_step_end_mm))))
    if p.projection is not None:
        r = p.projection.rate
        lines.append(FigureLine("a stroke", f"{show.rate(r.mm)} ({show.rate(r.low_mm)}–{show.rate(r.high_mm)})"))
    if p.rate is not None:
        lines.append(_rate_line(p.rate))
    if p.checks and len(p.checks[-1].sizes_mm) > 1:
        sizes = p.checks[-1].sizes_mm
        lines.append(FigureLine("taper, top to bottom", show.away(sizes[0] - sizes[-1])))
    if (
        said := next(
            (c for c in reversed(state.honing.compensations) if c.cylinder == p.cylinder and c.step == p.step), None
        )
    ) and p.checks:
        measured = p.checks[-1].largest_mm - p.checks[0].largest_mm
        apart = abs(said.taken_mm - measured) > state.figures.number("honing.machine_apart")
        label = "machine says, measured"
        lines.append(
            FigureLine(label, f"{show.size(said.taken_mm)}, {show.size(measured)}", Mark.LOOK if apart else Mark.SOUND)
        )
    if in_plateau(state, p) and p.left_mm is not None:
        lines.append(FigureLine("ten light strokes take", show.fine(10.0 * plateau_rate(state, p))))
    lines.append(_warmth(state, p, show))
    return tuple(lines)


def _rate_line(change: RateChange) -> FigureLine:
    if change.fallen:
        return FigureLine("rate has fallen to", f"{change.now_over_start:.0%} of the start", Mark.LOOK)
    if change.risen:
        return FigureLine("rate has risen to", f"{change.now_over_start:.0%} of the start", Mark.LOOK)
    return FigureLine("steady since start", f"yes, {change.now_over_start:.0%}", Mark.SOUND)


def _warmth(state: JobState, p: Progress, show: Show) -> FigureLine:
    warm = p.checks[-1].block_c if p.checks else state.clamped.block_c
    if warm is None:
        return FigureLine("block temperature", "not known", Mark.LOOK)
    moved = state.block.bore_mm * state.coefficient_1e6 * 1e-6 * (warm - 20.0)
    off = block_off_temperature(warm, state.figures.number("honing.block_off"))
    return FigureLine(f"block at {warm:g} °C reads", f"{show.away(moved)}", Mark.LOOK if off else Mark.SOUND)


def _changes(state: JobState, p: Progress, show: Show) -> tuple[str, ...]:
    notes = [f"Way out: {w.title[:1].lower()}{w.title[1:]}: {w.told}." for w in _out(state, p, show)]
    notes += [f"Do not run it: {text}." for text in kinematics_of(state).stops]
    notes += _step_notes(state, p)
    if untraced(state, p, wall_before(state, p.cylinder)):
        notes.append("Valleys that are not there before the plateau never will be: trace it before the plateau.")
    if p.projection is not None and not p.projection.rate.is_interval:
        notes.append(f"{len(p.checks)} checks: the spread is the range of slopes. Five give an interval.")
    if p.rate is not None and p.rate.fallen:
        notes.append("Stones are glazed or worn: dress them before counting strokes on.")
    if p.rate is not None and p.rate.risen:
        notes.append("New stones are bedding in: the next strokes take more than the last.")
    notes += _taper_notes(state, p, show)
    if out_of_family(state, p.cylinder):
        notes.append(f"Cylinder {p.cylinder} cuts unlike the others: look for a hard band or a wrong load.")
    if p.redline.piston is not None and not p.redline.piston.warm_known:
        notes.append("The piston's temperature was not taken; it is counted as 20 °C.")
    if not state.clamped.plate_on:
        notes.append("The plate is off. With the head on, the hole will not stay this shape.")
    if p.left_mm is not None:
        u = reading_doubt(state).expanded_u_mm
        notes.append(f"The gauge is sure to ± {show.size(u)}; let the block cool and check again near the end.")
    return tuple(notes)


def _step_notes(state: JobState, p: Progress) -> list[str]:
    """What the step does to the marks before it, where that wants a look."""
    if not p.checks or p.over:
        return []
    stages = stages_of(state, p.cylinder)
    stage = stages[min(p.step, len(stages) - 1)]
    return [f"{p.step_name.capitalize()}: {stage.why}."] if stage.word != "sound" else []


def _taper_notes(state: JobState, p: Progress, show: Show) -> list[str]:
    several = [c for c in p.checks if len(c.sizes_mm) > 1]
    if len(several) < 2:
        return []
    grown = taper_growth(several[0].sizes_mm, several[-1].sizes_mm)
    if grown <= state.figures.number("honing.taper_growth"):
        return []
    end = "bottom" if several[-1].sizes_mm[0] > several[-1].sizes_mm[-1] else "top"
    return [f"Taper grew by {show.size(grown)}: the {end} is tight. Dwell there."]


def _out(state: JobState, p: Progress, show: Show) -> tuple[WayOut, ...]:
    if not p.over or p.at_size:
        return ()
    from redline_bore.job.hone.ways_out import ways_out  # only where a bore is over its redline

    return ways_out(state, p, show)


def _working(p: Progress, show: Show) -> tuple[WorkLine, ...]:
    r, lines = p.redline, []
    if r.size_mm is None or r.piston is None:
        return (WorkLine(f"redline = piston + clearance: {r.missing}", "methods 7"),)
    lines.append(
        WorkLine(
            f"redline = piston {p.cylinder} at 20 °C {show.size(r.piston.size_mm)} + clearance {show.size(r.window.aim_mm)} "
            f"({show.size(r.window.low_mm)}–{show.size(r.window.high_mm)}) = {show.size(r.size_mm)}",
            f"methods 7; {r.window.source}",
        )
    )
    if p.target_mm is not None:
        short = r.size_mm - p.target_mm
        lines.append(
            WorkLine(
                f"{p.step_name} ends {show.size(short)} short: {show.size(p.target_mm)}",
                f"{p.practice.figures}; {p.practice.reason}",
            )
        )
    if p.checks:
        last = p.checks[-1]
        lines.append(
            WorkLine(
                f"left = redline − largest of the last check {show.size(last.largest_mm)} = {show.away(p.left_mm or 0.0)}"
            )
        )
    s = p.projection
    if s is not None and p.target_mm is not None and s.strokes is not None:
        lines.append(
            WorkLine(
                f"rate = middle of all slopes between {len(p.checks)} checks = {show.rate(s.rate.mm)} a stroke",
                "Theil-Sen, methods 12",
            )
        )
        lines.append(
            WorkLine(
                f"now, on that line = {show.fine(s.now_mm)} ± {show.fine(1.645 * (s.now_sd_mm or 0.0))}",
                "90 %, methods 12",
            )
        )
        lines.append(
            WorkLine(
                f"strokes = ({show.size(p.target_mm)} − {show.fine(s.now_mm)}) / {show.rate(s.rate.mm)} = {s.strokes:.1f}"
            )
        )
    elif p.why_no_projection:
        lines.append(WorkLine(f"no projection: {p.why_no_projection}"))
    return tuple(lines)
