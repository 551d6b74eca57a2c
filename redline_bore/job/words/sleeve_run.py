"""The run sheet of a sleeve: what is checked and measured as it goes in, in the order of the work."""

from __future__ import annotations

from collections.abc import Callable

from redline_bore.core.block import bank_of
from redline_bore.core.show import Show
from redline_bore.job.sleeve.deck import BankDeck, SeatPlan, deck_of, seat_of
from redline_bore.job.sleeve.fit import SleeveFit, fit_of, held_by
from redline_bore.job.sleeve.heat import heat_plan
from redline_bore.job.sleeve.run import STEP, has_old, parent_done, peel_mm, seat_ready
from redline_bore.job.sleeve.ways import chosen_way
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words.run_sheet import Check, RunItem, stamped
from redline_bore.job.words.sleeve_ways import HOLDERS


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
    block = "hot" if heat is None else f"at {show.warm(heat.chosen.block_c, digits=0)}"
    cold = "cold" if heat is None else f"at {show.warm(heat.chosen.sleeve_c, digits=0)}"
    grace = "" if heat is None else f"about {heat.chosen.time} from the cold until it grips"
    by = held_by(state, fit)
    down = f"Down on {HOLDERS[by]}" if by else "Down, at depth"
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
