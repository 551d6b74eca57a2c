"""The hone: stock left before the redline, strokes to the end of this step, and the flags of the ledger (methods 12)."""

from __future__ import annotations

from dataclasses import dataclass

from redline_bore.core.errors import FitError
from redline_bore.core.stock import (
    RateChange,
    StrokesLeft,
    block_off_temperature,
    rate_change,
    strokes_left,
    taper_growth,
    theil_sen,
)
from redline_bore.job.advice import Advice, FigureLine, Mark, Show, WorkLine
from redline_bore.job.analysis import start_of
from redline_bore.job.doubt import reading_doubt
from redline_bore.job.practices import Practice, practice
from redline_bore.job.redline import Redline, redline_of
from redline_bore.job.state import Check, JobState

CARE = "Stop the machine before gauging. Keep sleeves and gloves out of the hole. Mask for stone dust."


@dataclass(frozen=True)
class Progress:
    """Where a cylinder stands: distances in mm on diameter, plus is metal still to take. None: not known."""

    cylinder: int
    redline: Redline
    practice: Practice
    step: int
    checks: tuple[Check, ...]
    target_mm: float | None
    left_mm: float | None
    projection: StrokesLeft | None
    rate: RateChange | None
    why_no_projection: str = ""

    @property
    def step_name(self) -> str:
        return self.practice.steps[min(self.step, len(self.practice.steps) - 1)]

    @property
    def to_step_end_mm(self) -> float | None:
        if self.target_mm is None or self.left_mm is None or self.redline.size_mm is None:
            return None
        return self.left_mm - (self.redline.size_mm - self.target_mm)

    @property
    def over(self) -> bool:
        return self.left_mm is not None and self.left_mm < 0.0

    @property
    def at_size(self) -> bool:
        """The last step has reached its end, and the redline was not passed by more than half a micron."""
        last = self.step >= len(self.practice.steps) - 1
        left = self.to_step_end_mm
        return last and left is not None and -0.0005 <= left <= 0.0015


def stops_short(state: JobState) -> tuple[float, ...]:
    """How far short of the redline each step of the honing practice ends, mm on diameter."""
    chosen = practice("honing", state.practice("honing"))
    return state.figures.row(chosen.figures)


def progress_of(state: JobState, cylinder: int) -> Progress:
    """Where a cylinder stands against its redline."""
    return state.remembered(("progress", cylinder), lambda: _progress_now(state, cylinder))


def _progress_now(state: JobState, cylinder: int) -> Progress:
    chosen, step = practice("honing", state.practice("honing")), state.hone_step(cylinder)
    redline, checks = redline_of(state, cylinder), state.checks_of(cylinder, step)
    short = stops_short(state)
    target = redline.size_mm - short[min(step, len(short) - 1)] if redline.size_mm is not None else None
    latest = state.checks_of(cylinder)
    left = redline.size_mm - latest[-1].largest_mm if redline.size_mm is not None and latest else None
    projection, why = _projection(state, checks, target)
    change = rate_change(
        [c.strokes for c in checks], [c.largest_mm for c in checks],
        state.figures.number("honing.rate_fallen_below"), state.figures.number("honing.rate_risen_above"),
    )  # fmt: skip
    return Progress(cylinder, redline, chosen, step, checks, target, left, projection, change, why)


def _projection(state: JobState, checks: tuple[Check, ...], target: float | None) -> tuple[StrokesLeft | None, str]:
    if target is None:
        return None, "the redline is not known"
    if len(checks) < 2:
        return None, "two checks are needed"
    sd = reading_doubt(state).own_mm
    least = int(state.figures.number("honing.interval_checks"))
    try:
        return strokes_left([c.strokes for c in checks], [c.largest_mm for c in checks], target, sd, least), ""
    except FitError as error:
        return None, str(error)


def advise(state: JobState, cylinder: int, show: Show) -> Advice:
    """What to do now at the hone."""
    p = progress_of(state, cylinder)
    sentence, mark = _sentence(state, p, show)
    button = "" if p.redline.size_mm is None else f"Book check {len(p.checks) + 1}"
    return Advice(
        f"Call · cylinder {cylinder}", sentence, _figures(state, p, show), _changes(state, p, show),
        _working(state, p, show), button, CARE, mark,
    )  # fmt: skip


def _sentence(state: JobState, p: Progress, show: Show) -> tuple[str, Mark]:
    if p.redline.size_mm is None:
        return f"No redline yet: {p.redline.missing}.", Mark.LOOK
    if p.left_mm is None or not p.checks:
        return f"Book a check before the {p.step_name} step touches it.", Mark.PLAIN
    if p.left_mm < -0.0005:
        return f"Stop. Cylinder {p.cylinder} is {show.unit(show.size(-p.left_mm))} over the redline.", Mark.STOP
    to_end = p.to_step_end_mm or 0.0
    last = p.step >= len(p.practice.steps) - 1
    if to_end <= 0.0015 or to_end <= 0.0 and not last:
        if last:
            return "At size. Leave it and let it cool.", Mark.SOUND
        return f"The {p.step_name} step is done. N goes to {p.practice.steps[p.step + 1]}.", Mark.SOUND
    return _strokes_sentence(p)


def _strokes_sentence(p: Progress) -> tuple[str, Mark]:
    s = p.projection
    if s is None:
        return "A few strokes, then stop and gauge.", Mark.PLAIN
    if s.low is None or s.strokes is None:
        return "No metal is coming off. Dress the stones.", Mark.LOOK
    low = int(s.low)
    if low < 1:
        return "One stroke at a time: the gauge cannot tell the rest.", Mark.LOOK
    if s.high is None:
        return f"At least {low} strokes. The rate is not steady: gauge at {low}.", Mark.LOOK
    return f"{low} to {max(int(s.high + 0.999), low)} more strokes. Stop at {low} and gauge.", Mark.PLAIN


def out_of_family(state: JobState, cylinder: int) -> bool:
    """The rate of this cylinder differs from the middle one of the others by more than the limit, either way."""
    rates = {}
    for c in state.cylinders:
        checks = state.checks_of(c, state.hone_step(cylinder))
        if len(checks) >= 3:
            rates[c] = theil_sen([k.strokes for k in checks], [k.largest_mm for k in checks]).mm
    others = sorted(v for c, v in rates.items() if c != cylinder)
    if cylinder not in rates or not others or rates[cylinder] <= 0 or others[len(others) // 2] <= 0:
        return False
    ratio, limit = rates[cylinder] / others[len(others) // 2], state.figures.number("honing.out_of_family")
    return not 1.0 / limit <= ratio <= limit


def _figures(state: JobState, p: Progress, show: Show) -> tuple[FigureLine, ...]:
    lines = []
    if p.redline.size_mm is not None:
        lines.append(FigureLine("redline at 20 °C", show.unit(show.size(p.redline.size_mm))))
    if p.left_mm is not None and p.to_step_end_mm is not None:
        lines.append(FigureLine(f"to the end of {p.step_name}", show.unit(show.size(p.to_step_end_mm))))
    if p.projection is not None:
        r = p.projection.rate
        lines.append(FigureLine("rate, a stroke", f"{show.rate(r.mm)} ({show.rate(r.low_mm)}–{show.rate(r.high_mm)})"))
    if p.rate is not None:
        lines.append(_rate_line(p.rate))
    if p.checks and len(p.checks[-1].sizes_mm) > 1:
        sizes = p.checks[-1].sizes_mm
        lines.append(FigureLine("taper, top to bottom", show.away(sizes[0] - sizes[-1])))
    lines.append(_warmth(state, p, show))
    return tuple(lines)


def _rate_line(change: RateChange) -> FigureLine:
    if change.fallen:
        return FigureLine("rate has fallen to", f"{change.now_over_start:.0%} of the start", Mark.LOOK)
    if change.risen:
        return FigureLine("rate has risen to", f"{change.now_over_start:.0%} of the start", Mark.LOOK)
    return FigureLine("steady since start", f"yes, {change.now_over_start:.0%}", Mark.SOUND)


def _warmth(state: JobState, p: Progress, show: Show) -> FigureLine:
    warm = p.checks[-1].block_c if p.checks else state.block_c
    if warm is None:
        return FigureLine("block temperature", "not known", Mark.LOOK)
    moved = state.block.bore_mm * state.coefficient_1e6 * 1e-6 * (warm - 20.0)
    off = block_off_temperature(warm, state.figures.number("honing.block_off"))
    return FigureLine(f"block at {warm:g} °C reads", f"{show.away(moved)}", Mark.LOOK if off else Mark.SOUND)


def _changes(state: JobState, p: Progress, show: Show) -> tuple[str, ...]:
    notes = []
    if p.projection is not None and not p.projection.rate.is_interval:
        notes.append(f"{len(p.checks)} checks: the spread is the range of slopes. Five give an interval.")
    if p.rate is not None and p.rate.fallen:
        notes.append("Stones are glazed or worn: dress them before counting strokes on.")
    if p.rate is not None and p.rate.risen:
        notes.append("New stones are bedding in: the next strokes take more than the last.")
    several = [c for c in p.checks if len(c.sizes_mm) > 1]
    if len(several) > 1:
        grown = taper_growth(several[0].sizes_mm, several[-1].sizes_mm)
        if grown > state.figures.number("honing.taper_growth"):
            end = "bottom" if several[-1].sizes_mm[0] > several[-1].sizes_mm[-1] else "top"
            notes.append(f"Taper grew by {show.size(grown)}: the {end} is tight. Dwell there.")
    if out_of_family(state, p.cylinder):
        notes.append(f"Cylinder {p.cylinder} cuts unlike the others: look for a hard band or a wrong load.")
    if p.redline.piston is not None and not p.redline.piston.warm_known:
        notes.append("The piston's temperature was not taken; it is counted as 20 °C.")
    if not state.plate_on:
        notes.append("The plate is off. With the head on, the hole will not stay this shape.")
    if p.left_mm is not None:
        u = reading_doubt(state).expanded_u_mm
        notes.append(f"The gauge is sure to ± {show.size(u)}; let the block cool and check again near the end.")
    return tuple(notes)


def _working(state: JobState, p: Progress, show: Show) -> tuple[WorkLine, ...]:
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


def stock_removed(state: JobState, cylinder: int) -> float | None:
    """Metal taken on diameter, mm, from the mean as gauged to the last check; None when either is not known."""
    start, checks = start_of(state, cylinder), state.checks_of(cylinder)
    return checks[-1].largest_mm - start if start is not None and checks else None
