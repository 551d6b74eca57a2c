"""What has to be ordered for a call, and the quote: the reasons in plain words for the owner."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence

from redline_bore.core.block import bore_positions
from redline_bore.core.frozen import frozen
from redline_bore.core.show import Show, listed
from redline_bore.job.call.best import best_of
from redline_bore.job.call.finding import judge
from redline_bore.job.call.ladder import Fate, ladder_of
from redline_bore.job.call.option import Option, OptionKind
from redline_bore.job.call.options import options_of
from redline_bore.job.call.pistons import rings_of
from redline_bore.job.profiles.alloys import ALLOYS
from redline_bore.job.profiles.practice import PRACTICE_TOPICS, practice
from redline_bore.job.state.calling import Apart
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words.call import proposed_words
from redline_bore.job.words.options import WayTold, title_of, told_of

OPTIONS_SHOWN = 5


@frozen(often=True)
class OrderLine:
    """One thing to order."""

    what: str
    count: int
    size: str
    remark: str


@frozen(often=True)
class Quote:
    """Everything that is on the quote sheet."""

    state: JobState
    sentence: str
    fates: tuple[Fate, ...]
    orders: tuple[OrderLine, ...]
    way: WayTold | None
    others: tuple[WayTold, ...]
    practices: tuple[tuple[str, str, str], ...]


def order_lines(
    state: JobState, oversize_mm: float | None, apart: Sequence[Apart], show: Show
) -> tuple[OrderLine, ...]:
    """Pistons, rings, sleeves and gaskets for a call; for one that bores nothing (None) rings and gaskets."""
    if oversize_mm is None:
        rings = OrderLine("ring sets", state.block.cylinders, "for the pistons there are", "gap each in its own hole")
        return (
            *((rings,) if state.calling.decision is None or state.calling.decision.way != "leave" else ()),
            _gaskets(state, 0.0, show),
        )
    fates = ladder_of(state).fates(oversize_mm, apart)
    sizes = Counter(round(f.oversize_mm, 6) for f in fates)
    lines = []
    for over, count in sorted(sizes.items()):
        lines += _set_of(state, over, count, [f.cylinder for f in fates if round(f.oversize_mm, 6) == over], show)
    sleeved = [f.cylinder for f in fates if f.sleeved]
    if sleeved:
        outside = state.block.bore_mm + oversize_mm + 2.0 * state.figures.number("sleeves.wall")
        size, remark = (
            f"about {show.unit(show.rough(outside))} outside",
            f"for {listed(sleeved)}; measure each, they differ",
        )
        lines.append(OrderLine("sleeves", len(sleeved), size, remark))
    lines.append(_gaskets(state, max(f.oversize_mm for f in fates), show))
    return tuple(lines)


def _set_of(state: JobState, over: float, count: int, where: list[int], show: Show) -> list[OrderLine]:
    """Pistons and their rings at one size."""
    size = state.block.bore_mm + over
    name = f"{show.unit(show.size(size))}, {show.step(over) if over else 'nominal'}"  # a + at the head is a formula to a spreadsheet
    gaps = rings_of(state, size)
    alloy = ALLOYS[state.book_in.piston_alloy]
    told = f"gap to file to: top {show.size(gaps.top_mm)}, second {show.size(gaps.second_mm)}"
    return [
        OrderLine("pistons", count, name, f"{alloy}; for {listed(where)}; measure each before boring"),
        OrderLine("ring sets", count, name, told),
    ]


def _gaskets(state: JobState, over: float, show: Show) -> OrderLine:
    banks = len({b.bank for b in bore_positions(state.block)})
    least = state.block.bore_mm + over + state.figures.number("pistons.gasket_room")
    return OrderLine(
        "head gaskets", banks, f"bore {show.unit(show.rough(least))} or more", "clear of the finished bore all round"
    )


def quote_of(state: JobState, oversize_mm: float | None, apart: Sequence[Apart], show: Show) -> Quote:
    """The quote for a call; oversize None: for the call taken, which bores nothing."""
    options, taken = options_of(state), state.calling.decision
    fates: tuple[Fate, ...] = ()
    if oversize_mm is None:
        chosen = next((o for o in options if taken is not None and o.key == taken.way), None)
        sentence = "Nothing is bored." if chosen is None else f"{title_of(chosen, show)}."
    else:
        chosen = next((o for o in options if _is_call(o, oversize_mm, apart)), None)
        found = judge(state, oversize_mm, apart)
        sentence, fates = proposed_words(found, show), found.fates
    sure = best_of(options).otherwise
    rest = [o for o in options if o is not chosen and o is not sure and o.kind is not OptionKind.SCRAP]
    others = ([sure] if sure is not None and sure is not chosen else []) + rest
    practices = tuple(
        (
            title,
            practice(topic, state.booking.practice(topic)).title,
            practice(topic, state.booking.practice(topic)).reason,
        )
        for topic, title in PRACTICE_TOPICS.items()
    )
    return Quote(
        state,
        sentence,
        fates,
        order_lines(state, oversize_mm, apart, show),
        None if chosen is None else told_of(chosen, show),
        tuple(told_of(o, show) for o in others[:OPTIONS_SHOWN]),
        practices,
    )


def _is_call(option: Option, oversize_mm: float, apart: Sequence[Apart]) -> bool:
    return (
        option.oversize_mm is not None and abs(option.oversize_mm - oversize_mm) < 1e-6 and option.apart == tuple(apart)
    )
