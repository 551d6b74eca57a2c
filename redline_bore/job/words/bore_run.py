"""The run sheet of the bar: what is checked before the cut, after it, and once for the whole set-up."""

from __future__ import annotations

from redline_bore.core.block import bank_of, bore_positions
from redline_bore.core.errors import FitError
from redline_bore.core.show import Show
from redline_bore.job.bore.plan import awaits_sleeve, chamfer_mm, plan_of, stop_of
from redline_bore.job.bore.run import STEP
from redline_bore.job.call.need import axis_shift
from redline_bore.job.profiles.practice import practice
from redline_bore.job.state.hole import hole_of
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words.run_sheet import Check, RunItem, stamped


def centring(state: JobState, cylinder: int, show: Show) -> str:
    """Where the bar is centred, by the practice, and how far that lies off the hole."""
    if state.sleeving.after_of(cylinder) is not None:
        return "in the sleeve, half way down"
    axis = practice("axis", state.booking.practice("axis"))
    if axis.name == "crank line":
        return "on the crank line and the bore spacing, not in the hole"
    where = "just under the ridge" if axis.name == "under the ridge" else "in the unworn bottom"
    if not axis.name.startswith("least metal"):
        return where
    try:
        x, y = axis_shift(state, cylinder, state.block.length_mm)
    except FitError:
        x = y = 0.0
    if x == y == 0.0:
        return f"{where}: it is not swept, so the least-metal axis is not known"
    return f"{show.away(x)} to the front and {show.away(y)} across from the hole's own centre"


def run_of(state: JobState, cylinder: int, show: Show) -> tuple[RunItem, ...]:
    """The run sheet of a cylinder, in the order of the work."""
    plan, bank, done = plan_of(state, cylinder), bank_of(state.block, cylinder), hole_of(state, cylinder)
    several = len({b.bank for b in bore_positions(state.block)}) > 1
    of_bank = f" {bank + 1}" if several else ""
    depth, _, known = stop_of(state)
    stop = f"{show.depth(depth)} {show.units.mark} under the deck"
    if not known:
        stop += ", once the room below is measured"
    set_to = "" if plan.setting_mm is None or done is not None else f" to {show.size(plan.setting_mm)}"
    checks = [
        Check(f"faces{of_bank}", f"Chips off the locating faces{_bank_words(of_bank)}", "a chip under the block leans every hole", True),
        Check(f"feeler{of_bank}", f"Square: feeler at four corners{_bank_words(of_bank)}", "tight at all four, or it rocks", True),
        Check("centred", f"Centred {centring(state, cylinder, show)}", "the hone follows the bored axis"),
        Check("stop", f"Stop set, {stop}", "clear of webs and saddles, low enough for the stones"),
        Check("bit", "Cut; bit to the front, bar back, then raised", "else it scores the wall on its way up"),
    ]  # fmt: skip
    items = [stamped(state, STEP, c, cylinder) for c in checks]
    for i, setting in enumerate(plan.settings_mm[:-1], 1):
        rough = Check(
            f"pass {i}",
            f"Pass {i}: set {show.size(setting)}, cut",
            f"of {len(plan.settings_mm)}, the last the lightest",
        )
        items.insert(3 + i, stamped(state, STEP, rough, cylinder))
    items.insert(len(items) - 1, RunItem("", f"Tool set{set_to}", "", _set_words(state, cylinder, show), how="set it"))
    items.append(
        RunItem("", "Measured at two angles", "top, middle, bottom: type the sizes", _measured(state, cylinder, show))
    )
    if done is not None and state.boring.holes and state.boring.holes[0].cylinder == cylinder or not state.boring.holes:
        proved = Check("proved", "First hole proved", "the others trust its setting", True)
        items.append(stamped(state, STEP, proved, cylinder))
    if not awaits_sleeve(state, cylinder) and plan.redline_mm is not None:
        wide = show.size(chamfer_mm(state, plan.redline_mm))
        items.append(
            stamped(state, STEP, Check("chamfer", f"Top edge broken to Ø {wide}", "so that rings go in"), cylinder)
        )
    return tuple(items)


def _bank_words(of_bank: str) -> str:
    return f", bank{of_bank}" if of_bank else ""


def _set_words(state: JobState, cylinder: int, show: Show) -> str:
    hole = hole_of(state, cylinder)
    return "" if hole is None else f"was {show.size(hole.set_mm)}"


def _measured(state: JobState, cylinder: int, show: Show) -> str:
    hole = hole_of(state, cylinder)
    if hole is None:
        return ""
    low, high = show.size(min(hole.all_mm)), show.size(hole.largest_mm)
    return low if low == high else f"{low}–{high}"
