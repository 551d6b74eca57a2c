"""Two calls side by side: the same lines for each, so that what differs can be seen."""

from __future__ import annotations

from collections.abc import Sequence

from redline_bore.core.frozen import frozen
from redline_bore.core.show import Show, listed
from redline_bore.job.call.ladder import ladder_of
from redline_bore.job.call.options import call_as_option
from redline_bore.job.card import FigureLine
from redline_bore.job.state.calling import Apart
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words.fares import fate_words
from redline_bore.job.words.options import hours_words
from redline_bore.job.words.reasons import say_need


@frozen(often=True)
class Side:
    """One call: what it is called, and its lines."""

    title: str
    lines: tuple[FigureLine, ...]


def side_of(state: JobState, oversize_mm: float, apart: Sequence[Apart], show: Show) -> Side:
    """A call in lines: every cylinder, then metal, rebuilds, orders, time, and how sure it is."""
    option, fates = call_as_option(state, oversize_mm, tuple(apart)), ladder_of(state).fates(oversize_mm, apart)
    lines = [
        FigureLine(
            f"cylinder {f.cylinder}",
            f"{'sleeve' if f.sleeved else show.step(f.oversize_mm)}, {fate_words(f)[0]}",
        )
        for f in fates
    ]
    known = [s for s in option.bored_stock_mm if s is not None]
    lines.append(FigureLine("stock on diameter, most", show.unit(show.rough(max(known))) if known else "not known"))
    lines.append(FigureLine("rebuilds left after", "none" if not option.rebuilds_left else str(option.rebuilds_left)))
    lines.append(FigureLine("pistons, sleeves", f"{option.pistons}, {option.sleeves or 'none'}"))
    lines.append(FigureLine("bench time, rough", hours_words(option)))
    lines.append(FigureLine("stands", option.standing))
    lines.append(FigureLine("to be sure", "; ".join(say_need(n, show) for n in option.needs) or "nothing more"))
    ways = {a.way: [b.cylinder for b in apart if b.way == a.way] for a in apart}
    told = "".join(
        f", {'sleeve' if way == 'sleeve' else 'own size'} {listed(numbers)}" for way, numbers in ways.items()
    )
    return Side(f"{show.step(oversize_mm)}{told}", tuple(lines))
