"""Sleeving one cylinder after another: where each stands, what is checked, how it came out (methods 9)."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum

from redline_bore.core.block import bank_of
from redline_bore.core.press_fit import peel_bore_mm
from redline_bore.core.show import Show, celsius
from redline_bore.job.call.option import NO, SURE
from redline_bore.job.profiles.wall_kind import wall_profile
from redline_bore.job.route import sleeved_cylinders
from redline_bore.job.run_sheet import Check, RunItem, stamped
from redline_bore.job.sleeve.deck import BankDeck, SeatPlan, deck_of, seat_of
from redline_bore.job.sleeve.fit import SleeveFit, fit_of, held_by
from redline_bore.job.sleeve.heat import heat_plan
from redline_bore.job.sleeve.ways import SleeveDoing, SleeveWay, chosen_way, ways_of
from redline_bore.job.state.job_state import JobState

STEP = "sleeve"


class SleeveStage(StrEnum):
    """Where a cylinder that is sleeved stands, and so what is wanted next."""

    OLD = "old"  # the old sleeve's outside
    PARENT = "parent"  # the parent gauged
    SLEEVE = "sleeve"  # the new sleeve measured
    WAY = "way"  # a way picked
    DOES_NOT_GO = "no"  # the way picked does not go
    BORE_PARENT = "bore parent"
    SEAT = "seat"  # the flange's counterbore, cut and measured
    GO_IN = "go in"
    READ = "read"  # its bore read once it is cold
    IN = "in"


@dataclass(frozen=True)
class Stage:
    """Where a cylinder stands. sure: nothing about it wants a look (where a way is to be picked: the usual one surely goes; once it is
    in: it closed as figured; where the sleeve is wanted: it is there, and does not fit)."""

    key: SleeveStage
    sure: bool = True


@dataclass(frozen=True)
class Closing:
    """How far a sleeve's bore closed as it went in, mm on diameter, against what was figured. off: look why."""

    measured_mm: float
    low_mm: float
    high_mm: float
    off: bool


def has_old(state: JobState) -> bool:
    """Whether an old sleeve has to come out first."""
    return wall_profile(state.block.wall).sleeved


def peel_mm(state: JobState, cylinder: int) -> float | None:
    """What the old sleeve is bored to so that its shell can be peeled; None while its outside is not known."""
    old = state.sleeving.old_mm(cylinder)
    return None if old is None else peel_bore_mm(old, state.figures.number("sleeves.shell"))


def closing_of(state: JobState, cylinder: int) -> Closing | None:
    """How the sleeve closed; None until it was read, or where its fit was not known."""
    after, fit = state.sleeving.after_of(cylinder), fit_of(state, cylinder)
    if after is None or fit.sleeve is None or fit.grip is None:
        return None
    measured, (low, high) = fit.sleeve.bore_mm - after.mean_mm, fit.grip.closes_mm
    most = state.figures.number("sleeves.closing_off")
    return Closing(measured, low, high, not low - most <= measured <= high + most)


def parent_done(fit: SleeveFit, way: SleeveWay) -> bool:
    """Whether the parent is at the size its way wants, to a quarter of the interference."""
    if way.parent_mm is None or way.outside_mm is None or fit.parent_mm is None:
        return True
    return abs(fit.parent_mm - way.parent_mm) <= (way.outside_mm - way.parent_mm) / 4.0


def bored_past(fit: SleeveFit, way: SleeveWay) -> bool:
    """Whether the parent came larger than its way wants, by more than a quarter of the interference."""
    return not parent_done(fit, way) and (fit.parent_mm or 0.0) > (way.parent_mm or 0.0)


def seat_ready(seat: SeatPlan | None) -> bool:
    """Whether a flanged sleeve comes down on a counterbore that was measured and lets it stand in its window; one without a flange has none."""
    if seat is None:
        return True
    low, high = seat.protrusion_mm
    return seat.stands_mm is not None and low - 1e-6 <= seat.stands_mm <= high + 1e-6


def stage_of(state: JobState, cylinder: int) -> Stage:
    """Where a cylinder stands."""
    fit = fit_of(state, cylinder)
    if state.sleeving.after_of(cylinder) is not None:
        if not seat_ready(seat_of(state, cylinder)):
            return Stage(SleeveStage.SEAT, False)
        closing = closing_of(state, cylinder)
        return Stage(SleeveStage.IN, closing is None or not closing.off)
    if not fit.rings:
        if has_old(state) and state.sleeving.old_mm(cylinder) is None:
            return Stage(SleeveStage.OLD)
        return Stage(SleeveStage.PARENT)
    if fit.grip is None:
        return Stage(SleeveStage.SLEEVE, fit.sleeve is None)
    way = chosen_way(state, cylinder)
    if way is None:
        best = ways_of(state, cylinder)[0]
        return Stage(SleeveStage.WAY, best.way is SleeveDoing.TOUCH_UP and best.standing is SURE)
    if bored_past(fit, way):
        return Stage(SleeveStage.WAY, False)  # weigh the ways again
    if way.standing == NO:
        return Stage(SleeveStage.DOES_NOT_GO, False)
    return _to_go_in(state, fit, way)


def _to_go_in(state: JobState, fit: SleeveFit, way: SleeveWay) -> Stage:
    """Where a cylinder stands whose way is taken and goes, until its bore is read."""
    if not parent_done(fit, way):
        return Stage(SleeveStage.BORE_PARENT, False)
    taken = state.sleeving.way_of(fit.cylinder)
    if way.to_order and fit.sleeve is not None and taken is not None and fit.sleeve.seq < taken.seq:
        return Stage(SleeveStage.SLEEVE, False)  # the one that was ordered
    if not seat_ready(seat := seat_of(state, fit.cylinder)):
        return Stage(SleeveStage.SEAT, seat is None or not seat.cut.needs_shim)
    return Stage(SleeveStage.READ, False) if _stamped(state, fit.cylinder, "held") else Stage(SleeveStage.GO_IN)


def all_in(state: JobState) -> bool:
    """Every cylinder that is sleeved has its sleeve in, and read."""
    wanted = sleeved_cylinders(state)
    return bool(wanted) and all(state.sleeving.after_of(c) is not None for c in wanted)


def _stamped(state: JobState, cylinder: int, key: str) -> bool:
    return any((r.step, r.cylinder, r.check) == (STEP, cylinder, key) for r in state.boring.run_checks)


def run_of(state: JobState, cylinder: int, show: Show) -> tuple[RunItem, ...]:
    """The run sheet of a cylinder, in the order of the work."""
    fit, way = fit_of(state, cylinder), chosen_way(state, cylinder)
    deck, seat = deck_of(state, bank_of(state.block, cylinder)), seat_of(state, cylinder)

    def check(key: str, words: str, why: str) -> RunItem:
        return stamped(state, STEP, Check(key, words, why), cylinder)

    items = []
    if has_old(state):
        peel = peel_mm(state, cylinder)
        to = "to what its outside says" if peel is None else f"to {show.size(peel)}"
        items.append(
            check("peeled", f"Old sleeve bored {to}, the shell peeled", "a puller wedges and scores the parent")
        )
    items.append(check("clean", "Parent clean and dry", "dirt is read as size"))
    items.append(RunItem("", "Parent gauged", "parent, then sizes round the clock", _parent_words(fit, show)))
    items.append(RunItem("", "Sleeve measured", "they differ: each its own", _sleeve_words(fit, show)))
    items.append(RunItem("", "Way taken", "on the page Fit and ways", "" if way is None else way.way, how="Enter"))
    if way is not None and way.parent_mm is not None:
        done = f"{show.size(fit.parent_mm or 0.0)}" if parent_done(fit, way) else ""
        steps = f"in {len(way.cuts)} steps; " if len(way.cuts) > 1 else ""
        why = f"{steps}lower half of the speeds; measure again"
        items.append(RunItem("", f"Parent bored to {show.size(way.parent_mm)}", why, done))
    items += _deck_items(deck, seat, check, show)
    items += _going_in(state, cylinder, fit, check, show)
    return tuple(items)


def _parent_words(fit: SleeveFit, show: Show) -> str:
    return "" if fit.parent_mm is None else show.size(fit.parent_mm)


def _sleeve_words(fit: SleeveFit, show: Show) -> str:
    return "" if fit.sleeve is None else show.size(fit.sleeve.outside_mm)


def _deck_items(
    deck: BankDeck, seat: SeatPlan | None, check: Callable[[str, str, str], RunItem], show: Show
) -> list[RunItem]:
    items = []
    if deck.plan is not None:
        done = f"{show.size(deck.faced_mm)} off" if deck.done else ""
        items.append(
            RunItem("", f"Deck faced by {show.size(deck.plan.cut_mm)}", "counterbores count from what stays", done)
        )
    if seat is not None:
        items.append(
            check(
                "proving", f"Counterbore to {show.size(seat.proving_mm)} only, and measured", "prove it shallow first"
            )
        )
        done = f"stands {show.size(seat.stands_mm)}" if seat_ready(seat) and seat.stands_mm is not None else ""
        items.append(RunItem("", f"Counterbore at {show.size(seat.cut.depth_mm)}", "square and flat", done))
    return items


def _going_in(
    state: JobState, cylinder: int, fit: SleeveFit, check: Callable[[str, str, str], RunItem], show: Show
) -> list[RunItem]:
    heat = heat_plan(state, cylinder)
    block = "hot" if heat is None else f"at {celsius(heat.chosen.block_c)}"
    cold = "cold" if heat is None else f"at {celsius(heat.chosen.sleeve_c)}"
    grace = "" if heat is None else f"about {heat.chosen.time} from the cold until it grips"
    by = held_by(state, fit)
    down = f"Down on {by}" if by else "Down, at depth"
    after = state.sleeving.after_of(cylinder)
    items = [
        check("hot", f"Block {block}, all through", "gloves for heat; nothing that burns near it"),
        check("cold", f"Sleeve {cold}, dry, numbered {cylinder}", grace),
        check("seated", down, "one push; a sleeve that hangs is pushed out at once"),
        check("held", "Held down until both are cold", "it rides up as it grips"),
        RunItem(
            "", "Its bore read, top to bottom", "after, then sizes", "" if after is None else show.size(after.mean_mm)
        ),
    ]
    if fit.sleeve is not None and fit.sleeve.flange_mm is None:
        items.append(check("faced", "Top faced with the deck", "proud first, then flush: never below"))
    return items
