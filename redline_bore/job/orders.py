"""What has to be ordered for a call, and the quote: the reasons in plain words for the owner."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

from redline_bore.core.block import bore_positions
from redline_bore.job.advice import Show, listed
from redline_bore.job.book_in import ALLOYS
from redline_bore.job.call import sentence_for
from redline_bore.job.entries import Apart
from redline_bore.job.ladder import Fate, ladder_of
from redline_bore.job.options import Option, options_of
from redline_bore.job.pistons import rings_of
from redline_bore.job.practices import TOPICS, practice
from redline_bore.job.state import JobState

GASKET_ROOM_MM = 1.0  # a gasket's fire ring stands clear of the finished bore by this, on diameter
OPTIONS_SHOWN = 5


@dataclass(frozen=True)
class OrderLine:
    """One thing to order."""

    what: str
    count: int
    size: str
    remark: str


@dataclass(frozen=True)
class Quote:
    """Everything that is on the quote sheet."""

    state: JobState
    sentence: str
    fates: tuple[Fate, ...]
    orders: tuple[OrderLine, ...]
    option: Option | None
    others: tuple[Option, ...]
    practices: tuple[tuple[str, str, str], ...]


def order_lines(state: JobState, oversize_mm: float, apart: Sequence[Apart], show: Show) -> tuple[OrderLine, ...]:
    """Pistons, rings, sleeves and gaskets for a call."""
    fates = ladder_of(state).fates(oversize_mm, apart)
    sizes = Counter(round(f.oversize_mm, 6) for f in fates)
    lines = []
    for over, count in sorted(sizes.items()):
        size = state.block.bore_mm + over
        where = listed([f.cylinder for f in fates if round(f.oversize_mm, 6) == over])
        name = f"{show.step(over)}, {show.unit(show.size(size))}" if over else f"nominal, {show.unit(show.size(size))}"
        lines.append(
            OrderLine(
                "pistons", count, name, f"{ALLOYS[state.book_in.piston_alloy]}; for {where}; measure each before boring"
            )
        )
        gaps = rings_of(state, size)
        lines.append(
            OrderLine(
                "ring sets",
                count,
                name,
                f"gap to file to: top {show.size(gaps.top_mm)}, second {show.size(gaps.second_mm)}",
            )
        )
    sleeved = [f.cylinder for f in fates if f.way == "sleeve"]
    if sleeved:
        wall = state.figures.number("sleeves.wall")
        outside = state.block.bore_mm + oversize_mm + 2.0 * wall
        lines.append(
            OrderLine(
                "sleeves",
                len(sleeved),
                f"about {show.unit(show.rough(outside))} outside",
                f"for {listed(sleeved)}; measure each, they differ",
            )
        )
    banks = len({b.bank for b in bore_positions(state.block)})
    largest = state.block.bore_mm + max(f.oversize_mm for f in fates)
    lines.append(
        OrderLine(
            "head gaskets",
            banks,
            f"bore {show.unit(show.rough(largest + GASKET_ROOM_MM))} or more",
            "clear of the finished bore all round",
        )
    )
    return tuple(lines)


def quote_of(state: JobState, oversize_mm: float, apart: Sequence[Apart], show: Show) -> Quote:
    """The quote for a call."""
    ladder, options = ladder_of(state), options_of(state)
    sentence, _ = sentence_for(state, ladder, oversize_mm, show, apart)
    same = [
        o
        for o in options
        if o.oversize_mm is not None and abs(o.oversize_mm - oversize_mm) < 1e-6 and o.apart == tuple(apart)
    ]
    others = tuple(o for o in options if o not in same and o.key != "scrap")[:OPTIONS_SHOWN]
    chosen = tuple(
        (title, practice(topic, state.practice(topic)).title, practice(topic, state.practice(topic)).reason)
        for topic, title in TOPICS.items()
    )
    return Quote(
        state, sentence, ladder.fates(oversize_mm, apart), order_lines(state, oversize_mm, apart, show),
        same[0] if same else None, others, chosen,
    )  # fmt: skip
