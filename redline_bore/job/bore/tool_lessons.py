"""What the holes bored say of the bar: taper, a warm tool, a wrong micrometer; and what the next setting is, with why."""

from __future__ import annotations

from redline_bore.core.show import Show
from redline_bore.job.bore.plan import (
    correction_of,
    plan_of,
    setting_for,
    still_to_bore,
    that_teach,
    tool_of,
    waits_for,
    with_first,
)
from redline_bore.job.state.boring import Bored
from redline_bore.job.state.job_state import JobState

PLACES, ANGLES = 3, 2


def diagnosis(state: JobState) -> str:
    """What the holes bored say of the bar; empty while they say nothing."""
    limit, warming, wrong, alike = (
        state.figures.number(f"boring.{k}") for k in ("taper_told", "warming_told", "wrong_told", "alike")
    )
    holes = [b for b, _ in that_teach(state) if len(b.sizes_mm) > 1]
    tapers = [b.sizes_mm[0] - b.sizes_mm[-1] for b in holes]
    if len(tapers) >= 2 and abs(sum(tapers) / len(tapers)) > limit and (min(tapers) > 0 or max(tapers) < 0):
        wide = "top" if tapers[0] > 0 else "bottom"
        return f"Every hole is wider at the {wide}: the bar cuts taper. Look to its square and its slide"
    over = [b.mean_mm - b.set_mm for b, first in that_teach(state) if not first]
    if len(over) >= 3 and all(b > a for a, b in zip(over, over[1:], strict=False)) and over[-1] - over[0] > warming:
        return "Each hole comes bigger than the one before: the tool is warming. Let it cool, or set it smaller"
    if len(over) >= 2 and min(abs(v) for v in over) > wrong and max(over) - min(over) < alike:
        return "Every hole is off by as much: look to the setting micrometer before the bar"
    return ""


def bar_misses(state: JobState) -> float | None:
    """How far this bar's holes lay from where its correction would have put them, mm at most; None before two did.

    First holes of a day are no measure of that.
    """
    usual = correction_of(state).usual_mm
    over = [b.mean_mm - b.set_mm for b, first in that_teach(state) if not first and b.tool == tool_of(state)]
    return max(abs(v - usual) for v in over) if len(over) >= 2 else None


def proof_wants(hole: Bored) -> str:
    """What a first hole was not measured for: three places, two angles; empty when it was."""
    wants = []
    if len(hole.sizes_mm) < PLACES:
        wants.append("top, middle and bottom")
    if not hole.across_mm:
        wants.append("at a second angle")
    return " ".join(wants)


def faults_in(state: JobState, hole: Bored) -> tuple[str, ...]:
    """What a single hole says that no setting mends: the bar's taper, an oval, a setting far off."""
    f, found = state.figures, []
    taper = hole.sizes_mm[0] - hole.sizes_mm[-1]
    if len(hole.sizes_mm) > 1 and abs(taper) > f.number("boring.taper_told"):
        found.append(f"it is wider at the {'top' if taper > 0 else 'bottom'}: the bar's taper, no setting takes it out")
    if (hole.out_of_round_mm or 0.0) > f.number("boring.out_of_round_told"):
        found.append("its two angles differ: the block is strained by its clamps, or the spindle is loose")
    if abs(hole.mean_mm - hole.set_mm) > f.number("boring.wrong_told"):
        found.append("it is so far off its setting that the micrometer comes first: set it on its standard again")
    return tuple(found)


def next_setting(state: JobState, show: Show, day: str) -> str:
    """The setting of the next hole and why it is that; empty while no hole is measured or none is left."""
    ahead = [n for numbers in still_to_bore(state) for n in numbers]
    told = with_first(state)
    if not told or not ahead or waits_for(state, ahead[0]):
        return ""
    hole, first = told[-1]
    plan = plan_of(state, ahead[0], day)
    if plan.target_mm is None:
        return ""
    setting, over = setting_for(state, plan.target_mm, day), hole.mean_mm - hole.set_mm
    c = correction_of(state)
    if first:
        why = f"{show.away(over)} of cylinder {hole.cylinder} was a cold tool's; only first holes count it"
    else:
        why = (
            f"cylinder {hole.cylinder} came {show.away(over)} over, the bar cuts {show.away(c.usual_mm)} over as a rule"
        )
    faults = faults_in(state, hole)
    held = f" But {faults[0]}." if faults else ""
    return f"Next, cylinder {ahead[0]}: set {show.size(setting)}; {why}.{held}"
