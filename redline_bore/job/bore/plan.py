"""Boring: what each cylinder is bored to, in which passes, in which order, and what the bar is set to (methods 8)."""

from __future__ import annotations

import math
from typing import NamedTuple

from redline_bore.core.block import bore_positions, room_below
from redline_bore.core.bore_order import BoreOrder, bore_order
from redline_bore.core.cutting import (
    Chatter,
    Cut,
    Window,
    chatter_of,
    cut_of,
    settings_in_counts,
    snapped_speed,
    split_passes,
    window_at,
    window_by_speed,
)
from redline_bore.core.frozen import frozen
from redline_bore.core.tool_setting import BoredHole, Correction, learned
from redline_bore.core.when import hours_between
from redline_bore.job.call.asks import to_bore_first, to_look_at
from redline_bore.job.call.ladder import hone_takes
from redline_bore.job.call.option import minutes_for
from redline_bore.job.gauge.analysis import start_of
from redline_bore.job.missing import Lack, Missing
from redline_bore.job.profiles.practice import practice
from redline_bore.job.redline import Redline, redline_of
from redline_bore.job.route import sleeved
from redline_bore.job.state.boring import Bored
from redline_bore.job.state.hole import hole_of
from redline_bore.job.state.job_state import JobState

NOSE_MM = {"small": 25.4 / 64.0, "large": 25.4 / 32.0}
SIZES = ("small_positive", "large_positive", "large_negative")


@frozen(often=True)
class BorePlan:
    """What the bar does with one cylinder, mm. None: not known, and ``missing`` says why; ``done`` the hole as it came.

    left_mm: range that the practice leaves for the hone. ``passes_mm`` on radius, ``settings_mm`` the setting of each.
    """

    cylinder: int
    redline_mm: float | None
    target_mm: float | None
    stock_mm: float | None
    passes_mm: tuple[float, ...]
    setting_mm: float | None
    left_mm: tuple[float, float]
    missing: Missing | None
    done: Bored | None
    settings_mm: tuple[float, ...] = ()
    provisional: bool = False  # its piston is not bought yet: bored to the least that any piston of its size asks for


def bar_redline(state: JobState, cylinder: int) -> Redline:
    """The redline as the bar works to it: by the piston, once it is measured; where pistons are bought after the look, until then the least that
    any sold under that name asks for."""
    redline = redline_of(state, cylinder)
    if (
        redline.size_mm is not None
        or redline.planned_mm is None
        or state.booking.practice("pistons") != "after the look"
    ):
        return redline
    taken = state.calling.decision
    if taken is None or not taken.by_bar or redline.missing is None or redline.missing.what is not Lack.PISTON:
        return redline
    least = redline.planned_mm - state.figures.row("cleanup.pistons_under")[1] + redline.window.aim_mm
    return Redline(least, redline.planned_mm, None, redline.window, redline.missing, provisional=True)


def plan_of(state: JobState, cylinder: int, at: str = "") -> BorePlan:
    """The plan of a cylinder; ``at``: when (ISO 8601; empty: not known), which tells whether the bar is cold."""
    left, redline = left_for_hone(state, cylinder), bar_redline(state, cylinder)
    low, high = left
    done = hole_of(state, cylinder)
    if awaits_sleeve(state, cylinder):
        return BorePlan(cylinder, None, None, None, (), None, left, Missing(Lack.TO_BE_SLEEVED), None)
    if redline.size_mm is None:
        return BorePlan(cylinder, None, None, None, (), None, left, redline.missing, done)
    target, mean = redline.size_mm - (low + high) / 2.0, start_of(state, cylinder)
    if mean is None:
        return BorePlan(cylinder, redline.size_mm, target, None, (), None, left, Missing(Lack.NOT_GAUGED), done)
    stock = target - mean
    passes = passes_for(state, cylinder, stock) if stock > 0.0 else ()
    why = None if stock > 0.0 else Missing(Lack.NO_STOCK)
    setting = setting_for(state, target, at)
    settings = settings_in_counts(setting, passes, least_count(state)) if passes else ()
    left = left_with_its_piston(state, cylinder, left)
    return BorePlan(
        cylinder, redline.size_mm, target, stock, passes, setting, left, why, done, settings, redline.provisional
    )


def left_with_its_piston(state: JobState, cylinder: int, left: tuple[float, float]) -> tuple[float, float]:
    """What may be left for the hone in a hole that was bored before its piston was measured: more by as much as such pistons differ."""
    done, piston = hole_of(state, cylinder), state.calling.piston(cylinder)
    if done is None or piston is None or piston.seq < done.seq or state.booking.practice("pistons") != "after the look":
        return left
    least, most = state.figures.row("cleanup.pistons_under")
    return left[0], left[1] + most - least


def passes_for(state: JobState, cylinder: int, stock_mm: float) -> tuple[float, ...]:
    """The passes that take a stock on diameter, mm a side: the shop's own, what they leave as the last; else as few as its depth allows."""
    own, left, found = dict(state.boring.passes).get(cylinder), stock_mm / 2.0, list[float]()
    if own is None:
        return split_passes(stock_mm, state.figures.number("boring.deepest_pass"))
    for deep in own:
        found.append(min(deep, left))
        left -= found[-1]
        if left <= 1e-9:
            return tuple(found)
    return (*found, left)


def left_for_hone(state: JobState, cylinder: int) -> tuple[float, float]:
    """What the bar leaves, mm on diameter: as stated on this job, else by the practice, and in a sleeve by the one for sleeves."""
    if state.boring.allowance_mm is not None or not sleeved(state, cylinder):
        return hone_takes(state)
    low, high = state.figures.row(practice("hone_allowance", "after sleeving").figures)
    return low, high


def awaits_sleeve(state: JobState, cylinder: int) -> bool:
    """Sleeved by the call, and its sleeve was not read since it went in: the finish cut cannot be planned yet."""
    return sleeved(state, cylinder) and state.sleeving.after_of(cylinder) is None


def for_the_bar(state: JobState, cylinder: int) -> bool:
    """Whether the bar has to do with a cylinder now: not while it waits for a sleeve, nor where only the hone is wanted."""
    if awaits_sleeve(state, cylinder):
        return False
    return not sleeved(state, cylinder) or hole_of(state, cylinder) is not None or not plan_of(state, cylinder).missing


class Tool(NamedTuple):
    """What cuts: the machine and the insert in it."""

    machine: str
    insert: str


def tool_of(state: JobState) -> Tool:
    """Machine and insert that are in use."""
    return Tool("", "") if state.boring.bar is None else Tool(state.boring.bar.machine, state.boring.bar.insert)


def correction_of(state: JobState) -> Correction:
    """What this machine and insert have taught, on earlier jobs in this metal and on this one; the first hole of a day
    by the shop's figure until they have taught their own."""
    usual, first = 0.0, state.figures.number("boring.first_hole_over")
    bar = state.boring.bar
    start = Correction(usual, first)
    if bar is not None and not state.boring.micrometer_since:
        start = Correction(bar.usual_mm, first if bar.first_mm is None else bar.first_mm, bar.holes, bar.firsts)
    mine = [
        BoredHole(b.set_mm, b.mean_mm, f, speed_share(state, b.rpm))
        for b, f in that_teach(state)
        if b.tool == tool_of(state)
    ]
    return learned(mine, start)


def speed_share(state: JobState, rpm: float | None) -> float:
    """A speed as a share of the one that first holes are told at; 1 where nobody said."""
    return 1.0 if rpm is None else rpm / state.figures.number("boring.first_hole_speed")


def that_teach(state: JobState) -> list[tuple[Bored, bool]]:
    """The holes that say something of the bar, and whether the bar was cold before each: none from before the setting micrometer was put
    right, and a hole that was measured again to the same setting once, as it was read last."""
    found: dict[tuple[int, float, str], tuple[Bored, bool]] = {}
    for hole, first in with_first(state):
        if hole.seq > state.boring.micrometer_since:
            key = (hole.cylinder, round(hole.set_mm, 6), hole.at[:10])
            found[key] = (hole, found[key][1] if key in found else first)
    return list(found.values())


def with_first(state: JobState) -> list[tuple[Bored, bool]]:
    """Every hole of the job, and whether the bar had stood until it was cold before it."""
    before, found = "", []
    for hole in state.boring.holes:
        found.append((hole, _was_cold(state, before, hole.at)))
        before = hole.at
    return found


def bar_is_cold(state: JobState, at: str) -> bool:
    """Whether the next hole, bored at that time (ISO 8601; empty: not known), is the first after the bar stood."""
    holes = state.boring.holes
    return not holes or (bool(at) and _was_cold(state, holes[-1].at, at))


def _was_cold(state: JobState, before: str, at: str) -> bool:
    return not before or (hours_between(before, at) or 0.0) > state.figures.number("boring.cold_after")


def least_count(state: JobState) -> float:
    """Of the shop's setting micrometer, mm."""
    return state.figures.number(f"boring.least_count_{state.units}")


def setting_for(state: JobState, target_mm: float, at: str) -> float:
    """The figure for the setting micrometer, taken down to its least count: less metal, never more."""
    least = least_count(state)
    share = speed_share(state, None if state.boring.bar is None else state.boring.bar.rpm)
    exact = correction_of(state).setting_mm(target_mm, bar_is_cold(state, at), share)
    return math.floor(exact / least + 1e-6) * least


def order_of(state: JobState) -> tuple[BoreOrder, ...]:
    """In which order the cylinders are bored, bank by bank, those left out that the bar has nothing to do with."""
    banks: dict[int, list[tuple[int, float]]] = {}
    for at in bore_positions(state.block):
        if for_the_bar(state, at.number):
            banks.setdefault(at.bank, []).append((at.number, at.along_mm))
    return tuple(bore_order([n for n, _ in holes], [x for _, x in holes]) for _, holes in sorted(banks.items()))


def still_to_bore(state: JobState) -> tuple[tuple[int, ...], ...]:
    """What is left of that order, bank by bank: it stays the order that was begun, but for a hole that is to be looked at before the others."""
    first = to_bore_first(state)
    left = [
        tuple(sorted((n for n in order.numbers if not _at_its_size(state, n)), key=lambda n: n != first))
        for order in order_of(state)
    ]
    return tuple(sorted((numbers for numbers in left if numbers), key=lambda numbers: numbers[0] != first))


def came_small(state: JobState, plan: BorePlan) -> bool:
    """A hole that was bored and wants another cut: so much is left that it is no work for the hone, and enough for the bar."""
    if plan.done is None or plan.redline_mm is None:
        return False
    left = plan.redline_mm - plan.done.largest_mm
    more = left - sum(plan.left_mm) / 2.0
    return left > plan.left_mm[1] + 1e-9 and more / 2.0 >= state.figures.number("boring.least_cut")


def _at_its_size(state: JobState, cylinder: int) -> bool:
    """Bored, and as far as it goes: since then the call may have gone to a larger size. A hole the hone has begun is the hone's."""
    if hole_of(state, cylinder) is None:
        return False
    return bool(state.honing.checks_of(cylinder)) or not came_small(state, plan_of(state, cylinder))


def all_bored(state: JobState) -> bool:
    """Every cylinder that the bar has to do with now was bored and measured, and looked at where a look decides."""
    wanted = [c for c in state.cylinders if for_the_bar(state, c)]
    return not to_look_at(state) and bool(state.boring.holes) and all(_at_its_size(state, c) for c in wanted)


def waits_for(state: JobState, cylinder: int) -> tuple[int, ...]:
    """The cylinder that is bored and looked into before this one; empty where it waits for none."""
    first = to_bore_first(state)
    return () if first is None or first == cylinder or hole_of(state, cylinder) is not None else (first,)


def path_mm(state: JobState) -> float:
    """How far the tool goes at feed: approach, hole, run-off."""
    f = state.figures
    return state.block.length_mm + f.number("boring.approach") + stop_of(state)[1]


class CutBeside(NamedTuple):
    """A cut beside the one that is set: what is otherwise, minutes a hole of one pass, the marks it leaves for the hone, mm on diameter."""

    what: str
    insert: bool
    rpm: float
    feed_mm: float
    minutes: float
    marks_mm: float


def cuts_beside(state: JobState) -> tuple[CutBeside, ...]:
    """The cut as it is set, the machine's next speeds in its window, and every other kind of insert at the cut proposed for it: minutes
    side by side, before anything is cut. Empty before the bar is set up."""
    bar, found = state.boring.bar, window_now(state)
    if bar is None or found is None:
        return ()
    bore, path = state.block.bore_mm, path_mm(state)
    speeds = [s for s in speeds_of(state) if found.window.rpm_low <= s <= found.window.rpm_high and s != bar.rpm]
    near = sorted(speeds, key=lambda s: abs(s - bar.rpm))[:2]
    tried = [(bar.insert, True, rpm, bar.feed_mm, bar.nose_radius_mm) for rpm in (bar.rpm, *sorted(near))]
    for name in SIZES:
        if name != found.name:
            radius, rake = NOSE_MM[name.split("_")[0]], name.split("_")[1]
            feed, rpm = proposed_cut(state, radius, rake, bar.grade)
            tried.append((name.replace("_", " "), False, rpm, feed, radius))
    rows = [(what, own, rpm, feed, cut_of(bore, feed, radius, path, rpm)) for what, own, rpm, feed, radius in tried]
    return tuple(CutBeside(what, own, rpm, feed, c.minutes, c.allowance_needed_mm) for what, own, rpm, feed, c in rows)


class Stop(NamedTuple):
    """Where the bar stops, mm under the deck, the run-off in it, mm, and whether the room below is known."""

    depth_mm: float
    run_off_mm: float
    known: bool


def stop_of(state: JobState) -> Stop:
    """Depth of the stop under the deck and the run-off in it, mm, and whether the room below is known."""
    run_off, room = state.figures.number("boring.run_off"), room_below(state.block)
    out = run_off if room is None else min(run_off, room)
    return Stop(state.block.length_mm + out, out, room is not None)


def chamfer_mm(state: JobState, finish_mm: float) -> float:
    """Diameter of the broken edge at the top of a finished hole."""
    return finish_mm + 2.0 * state.figures.number("boring.chamfer")


def cut_now(state: JobState, bore_mm: float) -> Cut | None:
    """The cut of the bar as it is set up; None before it is."""
    bar = state.boring.bar
    return None if bar is None else cut_of(bore_mm, bar.feed_mm, bar.nose_radius_mm, path_mm(state), bar.rpm)


def windows_of(state: JobState, grade: str = "") -> dict[str, Window]:
    """The windows of the inserts that are known, at this bore, by name; ``grade`` empty: that of the insert in the bar."""
    f, bore = state.figures, state.block.bore_mm
    grade = grade or ("coated" if state.boring.bar is None else state.boring.bar.grade)
    found = {}
    for name in SIZES:
        (slow, fast), (fine, coarse) = f.row(f"boring.{name}_rpm"), f.row(f"boring.{name}_feed")
        if grade == "plain":
            low, high = f.row("boring.plain_speed")
            found[name] = window_by_speed(bore, (low, high), (fine, coarse))
        else:
            found[name] = window_at(bore, f.number("boring.reference_bore"), (slow, fast), (fine, coarse))
    return found


def window_name(state: JobState, nose_radius_mm: float, rake: str) -> str:
    """Which window an insert belongs to."""
    large = nose_radius_mm >= state.figures.number("boring.large_nose")
    return "large_negative" if rake == "negative" else "large_positive" if large else "small_positive"


class WindowNow(NamedTuple):
    """The window that the insert in the bar belongs to, by name."""

    name: str
    window: Window


def window_now(state: JobState) -> WindowNow | None:
    """The window that the insert in the bar belongs to."""
    if state.boring.bar is None:
        return None
    name = window_name(state, state.boring.bar.nose_radius_mm, state.boring.bar.rake)
    return WindowNow(name, windows_of(state)[name])


def speeds_of(state: JobState) -> tuple[float, ...]:
    """The steps of the machine's gearbox: as stated, else the shop's figure."""
    return (
        state.figures.row("boring.machine_speeds") if state.boring.machine is None else state.boring.machine.speeds_rpm
    )


def proposed_cut(state: JobState, nose_radius_mm: float, rake: str, grade: str) -> tuple[float, float]:
    """Feed in mm a turn and turns a minute for an insert here: the middle of its window, no coarser than the hone's
    stock takes out; for a sleeve's seat the lower half of the speeds; a step of the machine."""
    window = windows_of(state, grade)[window_name(state, nose_radius_mm, rake)]
    least_left = min(left_for_hone(state, c)[0] for c in state.cylinders)
    finest = math.sqrt(least_left / 6.0 * 8.0 * nose_radius_mm)
    feed = max(min((window.feed_low_mm + window.feed_high_mm) / 2.0, finest), window.feed_low_mm)
    fast = (
        window.rpm_high_for_sleeve_parent if any(awaits_sleeve(state, c) for c in state.cylinders) else window.rpm_high
    )
    inside = [
        s for s in speeds_of(state) if window.rpm_low - 1e-6 <= s <= fast + 1e-6
    ]  # a step of the machine in the window, where it has one
    rpm = snapped_speed((window.rpm_low + fast) / 2.0, inside or speeds_of(state))
    return max(math.floor(feed * 1000.0 + 1e-9) / 1000.0, math.ceil(window.feed_low_mm * 1000.0 - 1e-9) / 1000.0), rpm


def chatters(state: JobState) -> Chatter | None:
    """Why the bar as it is set up would chatter; None where nothing says so."""
    found, f = window_now(state), state.figures
    if found is None or state.boring.bar is None:
        return None
    thick, reach = f.number("boring.bar_thick"), f.number("boring.bar_reach")
    if state.boring.machine is not None:
        thick, reach = state.boring.machine.thick_mm, state.boring.machine.reach_mm
    large = state.boring.bar.nose_radius_mm >= f.number("boring.large_nose")
    reach = max(reach, state.block.length_mm)
    return chatter_of(
        reach, thick, f.number("boring.slender_most"), large, found[1].feed_call(state.boring.bar.feed_mm)
    )


def minutes_left(state: JobState, at: str = "") -> float:
    """Rough minutes the bar still needs for the block: set-up of each bank, handling and cutting of each hole."""
    cut, total = cut_now(state, state.block.bore_mm), 0.0
    for numbers in still_to_bore(state):
        total += minutes_for(state, "set_up_bar") if len(numbers) > 0 and not state.boring.holes else 0.0
        for n in numbers:
            passes = len(plan_of(state, n, at).passes_mm)
            cutting = minutes_for(state, "cutting") if cut is None else cut.minutes * passes
            total += minutes_for(state, "bore") + cutting
    return total


def deck_lean(state: JobState) -> float | None:
    """How far a hole squared to the deck leans over its length, mm, by the deck heights that were read; None: not read."""
    out = [
        max(h for row in d.rows_mm for h in row) - min(h for row in d.rows_mm for h in row)
        for d in state.sleeving.decks
    ]
    if not out:
        return None
    per_bank = state.block.cylinders // len({b.bank for b in bore_positions(state.block)})
    span = max(per_bank * (state.block.pitch_mm or 1.2 * state.block.bore_mm), 1.3 * state.block.bore_mm)
    return max(out) * state.block.length_mm / span


def snapped_to_machine(state: JobState, rpm: float) -> float:
    """A speed as the machine can turn it, where its steps were stated; else as it was typed."""
    return rpm if state.boring.machine is None else snapped_speed(rpm, state.boring.machine.speeds_rpm)
