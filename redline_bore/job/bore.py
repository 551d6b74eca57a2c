"""Boring: what each cylinder is bored to, in which passes, in which order, and what the bar is set to (methods 8)."""

from __future__ import annotations

import math
from dataclasses import dataclass

from redline_bore.core.block import bore_positions, room_below
from redline_bore.core.bore_order import BoreOrder, bore_order
from redline_bore.core.cutting import Cut, Window, cut_of, split_passes, window_at
from redline_bore.core.tool_setting import BoredHole, Correction, learned
from redline_bore.job.advice import Advice, FigureLine, Mark, Show, WorkLine
from redline_bore.job.analysis import shape_of
from redline_bore.job.practices import practice
from redline_bore.job.redline import redline_of
from redline_bore.job.state import Bored, JobState

CARE = "Chips off the locating faces; bit to the front and bar back before raising it. Long sleeves and gloves away."


@dataclass(frozen=True)
class BorePlan:
    """What the bar does with one cylinder, mm. None: not known, and ``missing`` says why; ``done`` the hole as it came.

    left_mm: range that the practice leaves for the hone. ``passes_mm`` on radius.
    """

    cylinder: int
    redline_mm: float | None
    target_mm: float | None
    stock_mm: float | None
    passes_mm: tuple[float, ...]
    setting_mm: float | None
    left_mm: tuple[float, float]
    missing: str
    done: Bored | None


def plan_of(state: JobState, cylinder: int, day: str = "") -> BorePlan:
    """The plan of a cylinder; ``day`` (YYYY-MM-DD) tells whether the next hole is the first of the day."""
    low, high = state.figures.row(practice("hone_allowance", state.practice("hone_allowance")).figures)
    redline, done = (
        redline_of(state, cylinder),
        next((b for b in reversed(state.bored) if b.cylinder == cylinder), None),
    )
    if _sleeved(state, cylinder):
        return BorePlan(cylinder, None, None, None, (), None, (low, high), "it is to be sleeved", done)
    if redline.size_mm is None:
        return BorePlan(cylinder, None, None, None, (), None, (low, high), redline.missing, done)
    target, mean = redline.size_mm - (low + high) / 2.0, shape_of(state, cylinder).mean_mm
    if mean is None:
        return BorePlan(cylinder, redline.size_mm, target, None, (), None, (low, high), "it is not gauged", done)
    stock = target - mean
    passes = split_passes(stock, state.figures.number("boring.deepest_pass")) if stock > 0.0 else ()
    why = "" if stock > 0.0 else "there is no stock for the bar: it is the hone's work"
    return BorePlan(
        cylinder, redline.size_mm, target, stock, passes, setting_for(state, target, day), (low, high), why, done
    )


def _sleeved(state: JobState, cylinder: int) -> bool:
    return state.decision is not None and any(
        a.cylinder == cylinder and a.way == "sleeve" for a in state.decision.apart
    )


def correction_of(state: JobState) -> Correction:
    """What this bar has taught on this job; the first hole of a day by the shop's figure until it has taught its own."""
    start = Correction(0.0, state.figures.number("boring.first_hole_over"))
    return learned([BoredHole(b.set_mm, b.mean_mm, first) for b, first in _with_first(state)], start)


def _with_first(state: JobState) -> list[tuple[Bored, bool]]:
    days: set[str] = set()
    found = []
    for hole in state.bored:
        found.append((hole, hole.day not in days))
        days.add(hole.day)
    return found


def first_today(state: JobState, day: str) -> bool:
    """Whether the next hole is the first of the day."""
    return not any(b.day == day for b in state.bored) if day else not state.bored


def setting_for(state: JobState, target_mm: float, day: str) -> float:
    """The figure for the setting micrometer, taken down to its least count: less metal, never more."""
    least = state.figures.number(f"boring.least_count_{state.units}")
    exact = correction_of(state).setting_mm(target_mm, first_today(state, day))
    return math.floor(exact / least + 1e-6) * least


def order_of(state: JobState) -> tuple[BoreOrder, ...]:
    """In which order the cylinders are bored, bank by bank, those that are sleeved left out."""
    banks: dict[int, list[tuple[int, float]]] = {}
    for at in bore_positions(state.block):
        if not _sleeved(state, at.number):
            banks.setdefault(at.bank, []).append((at.number, at.along_mm))
    return tuple(bore_order([n for n, _ in holes], [x for _, x in holes]) for _, holes in sorted(banks.items()))


def still_to_bore(state: JobState) -> tuple[tuple[int, ...], ...]:
    """What is left of that order, bank by bank: it stays the order that was begun."""
    done = {b.cylinder for b in state.bored}
    left = (tuple(n for n in order.numbers if n not in done) for order in order_of(state))
    return tuple(numbers for numbers in left if numbers)


def cut_now(state: JobState, bore_mm: float) -> Cut | None:
    """The cut of the bar as it is set up; None before it is."""
    bar, f = state.bar, state.figures
    if bar is None:
        return None
    path = state.block.length_mm + f.number("boring.approach") + f.number("boring.run_off")
    return cut_of(bore_mm, bar.feed_mm, bar.nose_radius_mm, path, bar.rpm)


def windows_of(state: JobState) -> dict[str, Window]:
    """The windows of the inserts that are known, at this bore, by name."""
    f, names = state.figures, ("small_positive", "large_positive", "large_negative")
    found = {}
    for name in names:
        (slow, fast), (fine, coarse) = f.row(f"boring.{name}_rpm"), f.row(f"boring.{name}_feed")
        found[name] = window_at(state.block.bore_mm, f.number("boring.reference_bore"), (slow, fast), (fine, coarse))
    return found


def window_now(state: JobState) -> tuple[str, Window] | None:
    """The window that the insert in the bar belongs to."""
    if state.bar is None:
        return None
    large = state.bar.nose_radius_mm >= state.figures.number("boring.large_nose")
    name = "large_negative" if state.bar.rake == "negative" else "large_positive" if large else "small_positive"
    return name, windows_of(state)[name]


def diagnosis(state: JobState) -> str:
    """What the holes bored say of the bar: taper, a warm tool, a wrong micrometer; empty while they say nothing."""
    limit, warming, wrong, alike = (
        state.figures.number(f"boring.{k}") for k in ("taper_told", "warming_told", "wrong_told", "alike")
    )
    holes = [b for b in state.bored if len(b.sizes_mm) > 1]
    tapers = [b.sizes_mm[0] - b.sizes_mm[-1] for b in holes]
    if len(tapers) >= 2 and abs(sum(tapers) / len(tapers)) > limit and (min(tapers) > 0 or max(tapers) < 0):
        wide = "top" if tapers[0] > 0 else "bottom"
        return f"Every hole is wider at the {wide}: the bar cuts taper. Look to its square and its slide"
    over = [b.mean_mm - b.set_mm for b, first in _with_first(state) if not first]
    if len(over) >= 3 and all(b > a for a, b in zip(over, over[1:], strict=False)) and over[-1] - over[0] > warming:
        return "Each hole comes bigger than the one before: the tool is warming. Let it cool, or set it smaller"
    if len(over) >= 2 and min(abs(v) for v in over) > wrong and max(over) - min(over) < alike:
        return "Every hole is off by as much: look to the setting micrometer before the bar"
    return ""


def advise(state: JobState, cylinder: int, show: Show, day: str = "") -> Advice:
    """What the bar does now."""
    plan = plan_of(state, cylinder, day)
    sentence, mark = _sentence(state, plan, show)
    return Advice(
        f"Call · cylinder {cylinder}", sentence, _figures(state, plan, show), _changes(state, plan, show),
        _working(state, plan, show, day), "Stamp and go to the hone" if all_bored(state) else "", CARE, mark,
    )  # fmt: skip


def all_bored(state: JobState) -> bool:
    """Every cylinder that the bar has to do with was bored and measured."""
    done = {b.cylinder for b in state.bored}
    wanted = [c for c in state.cylinders if not _sleeved(state, c)]
    return bool(done) and all(c in done for c in wanted)


def _sentence(state: JobState, plan: BorePlan, show: Show) -> tuple[str, Mark]:
    if plan.done is not None:
        return _done_sentence(plan, plan.done, show)
    if plan.target_mm is None or plan.setting_mm is None or not plan.passes_mm:
        return f"Cylinder {plan.cylinder} is not bored yet: {plan.missing}.", Mark.LOOK
    if state.bar is None:
        return "Say what is in the bar before it turns: its insert, feed and speed.", Mark.LOOK
    first = " Prove this first hole before trusting the setting." if not state.bored else ""
    return f"Set {show.size(plan.setting_mm)} and bore cylinder {plan.cylinder}.{first}", Mark.PLAIN


def _done_sentence(plan: BorePlan, hole: Bored, show: Show) -> tuple[str, Mark]:
    if plan.redline_mm is None:
        return f"Cylinder {plan.cylinder} is bored; its redline is not known: {plan.missing}.", Mark.LOOK
    left = plan.redline_mm - max(hole.sizes_mm)
    if left <= 0.0:
        return f"Cylinder {plan.cylinder} is bored {show.unit(show.size(-left))} over its redline.", Mark.STOP
    if left < plan.left_mm[0] - 1e-9:
        low = show.size(plan.left_mm[0])
        return f"Only {show.unit(show.size(left))} is left for the hone in {plan.cylinder}; it wants {low}.", Mark.LOOK
    if left > plan.left_mm[1] + 1e-9:
        return (
            f"Cylinder {plan.cylinder}: {show.unit(show.size(left))} is left, more than the hone is meant to take.",
            Mark.LOOK,
        )
    return f"Cylinder {plan.cylinder} is bored: {show.unit(show.size(left))} is left for the hone.", Mark.SOUND


def _figures(state: JobState, plan: BorePlan, show: Show) -> tuple[FigureLine, ...]:
    lines = []
    if plan.target_mm is not None:
        lines.append(FigureLine("bore to", show.size(plan.target_mm)))
    if plan.stock_mm is not None:
        lines.append(FigureLine("stock on diameter", show.unit(show.size(plan.stock_mm))))
    if plan.passes_mm:
        lines.append(FigureLine("passes, a side", ", ".join(show.size(p) for p in plan.passes_mm)))
    if plan.done is not None:
        lines.append(FigureLine("came out at", ", ".join(show.size(s) for s in plan.done.sizes_mm)))
        lines.append(FigureLine("over its setting", show.away(plan.done.mean_mm - plan.done.set_mm)))
    cut, found = cut_now(state, state.block.bore_mm), window_now(state)
    if cut is not None and found is not None and state.bar is not None:
        fits = cut.allowance_needed_mm <= plan.left_mm[0]
        lines.append(
            FigureLine("marks need of the hone", show.size(cut.allowance_needed_mm), Mark.SOUND if fits else Mark.STOP)
        )
        call = found[1].feed_call(state.bar.feed_mm)
        lines.append(FigureLine("feed", call, Mark.SOUND if call == "in window" else Mark.LOOK))
        lines.append(FigureLine("at the wall", f"{cut.speed_m_per_min:.0f} m/min"))
        if plan.passes_mm:
            lines.append(FigureLine("cutting, this hole", f"{cut.minutes * len(plan.passes_mm):.1f} min"))
    return tuple(lines)


def _changes(state: JobState, plan: BorePlan, show: Show) -> tuple[str, ...]:
    notes = [f"{told}." for told in [diagnosis(state)] if told]
    if orders := still_to_bore(state):
        told = "; then the other bank ".join(", ".join(map(str, numbers)) for numbers in orders)
        notes.append(f"Order that spreads the heat: {told}.")
    run_off, room = state.figures.number("boring.run_off"), room_below(state.block)
    if room is None:
        notes.append(
            f"How much room there is below is not known; set the stop {show.rough(run_off)} under the hole only once it is."
        )
    elif room < run_off:
        notes.append(f"There is {show.rough(room)} of room below: set the stop before that.")
    found = window_now(state)
    if state.bar is not None and found is not None:
        if not found[1].rpm_low <= state.bar.rpm <= found[1].rpm_high:
            notes.append(f"This insert turns at {found[1].rpm_low:.0f} to {found[1].rpm_high:.0f} in this bore.")
        base = {
            "mains": "Squared to the mains: the holes stand square to the crank, whatever the deck does.",
            "deck": "Squared to the deck: the holes are only as square to the crank as the deck is.",
        }
        notes.append(base[state.bar.based_on])
    return tuple(notes)


def _working(state: JobState, plan: BorePlan, show: Show, day: str) -> tuple[WorkLine, ...]:
    lines = []
    way = practice("hone_allowance", state.practice("hone_allowance"))
    if plan.redline_mm is not None and plan.target_mm is not None:
        low, high = plan.left_mm
        lines.append(
            WorkLine(
                f"bore to = redline {show.fine(plan.redline_mm)} − the middle of {show.fine(low)}–{show.fine(high)} = {show.fine(plan.target_mm)}",
                f"{way.title}: {way.reason}; boring.toml",
            )
        )
    if plan.setting_mm is not None and plan.target_mm is not None:
        c = correction_of(state)
        first = f" − first hole {show.fine(c.first_mm)}" if first_today(state, day) else ""
        lines.append(
            WorkLine(
                f"setting = {show.fine(plan.target_mm)} − correction {show.fine(c.usual_mm)}{first}, taken down to the least count = {show.fine(plan.setting_mm)}",
                f"methods 8; learned from {c.holes} holes and {c.firsts} first holes",
            )
        )
    if plan.passes_mm:
        told = " + ".join(show.fine(p) for p in plan.passes_mm)
        lines.append(
            WorkLine(
                f"passes a side: {told} = half of {show.fine(plan.stock_mm or 0.0)}",
                "the last the lightest; boring.deepest_pass",
            )
        )
    cut = cut_now(state, state.block.bore_mm)
    if cut is not None and state.bar is not None:
        f, r = show.fine(state.bar.feed_mm), show.fine(state.bar.nose_radius_mm)
        lines.append(
            WorkLine(
                f"Rt = {f}² / (8 × {r}) = {cut.rt_um:.1f} µm; marks and torn layer reach 3 Rt a side",
                "ideal, methods 8",
            )
        )
    return tuple(lines)
