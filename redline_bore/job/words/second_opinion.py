"""Why somebody else's readings of this block differ from ours, in words and figures."""

from __future__ import annotations

from redline_bore.core.show import Show, capital
from redline_bore.job.card import Advice, FigureLine, Mark, Note, Said, WorkLine
from redline_bore.job.gauge.second_opinion import (
    Assumed,
    Comparison,
    OursFrom,
    PlateFrom,
    Settles,
    comparisons,
    newest,
    settle_next,
)
from redline_bore.job.state.job_state import JobState

OURS = {
    OursFrom.FINAL: "our final gauging under the plate",
    OursFrom.CHECK: "our last check at the hone",
    OursFrom.BORED: "our hole as it came off the bar",
    OursFrom.ALL_LEVELS: "our mean of all levels",
    OursFrom.LEVEL: "our mean at that level",
    OursFrom.PLACE: "our reading of that place",
}
PLATE = {
    PlateFrom.BOTH_SAME: "both the same",
    PlateFrom.MAP_THERE: "our map of plate on and off, at that place",
    PlateFrom.MAP_MEAN: "our map of plate on and off, its mean",
    PlateFrom.NOT_KNOWN: "not known: the plate was not gauged on and off",
}
ASSUMED = {
    Assumed.BLOCK_AT_20: "their block is taken to be at {reference}: ask",
    Assumed.WHERE: "they did not say where they read: ask for depth and clock",
    Assumed.NOT_THAT_PLACE: "our figure is not of that very place",
    Assumed.PISTON_IS_OURS: "their piston is taken to be ours",
}
SETTLES = {
    Settles.BOOK_THEIRS: "Book their readings: cylinder, size, and where.",
    Settles.TAKE_TEMPERATURE: "Take the block's temperature where they measured.",
    Settles.GAUGE_BOTH_WAYS: "Gauge the block with the plate off and on, at the same places.",
    Settles.ASK_WHERE: "Ask at which depth and clock they read, and read there.",
    Settles.NOTHING: Note("Nothing more: what is left over is within both gauges' doubt."),
    Settles.ONE_MASTER: "Put both gauges on one master, then read one marked place with both.",
}
CARE = "Before calling either shop wrong: one master, one temperature, one place, the same plate."


def assumed_words(row: Comparison, show: Show) -> list[str]:
    """What is assumed of the other's reading, because nobody said it."""
    return [ASSUMED[a].format(reference=show.reference) for a in row.assumed]


WORTH_SAYING = 0.1  # of the gap's doubt: a smaller term is nought for talking


def advise(state: JobState, cylinder: int, show: Show) -> Advice:
    """Whether the disagreement is explained, by what, and what would settle the rest."""
    rows = comparisons(state)
    sentence, mark = _sentence(rows, show)
    row = next((r for r in rows if r.other.cylinder == cylinder), rows[0] if rows else None)
    changes = [SETTLES[settle_next(state, rows)]]
    if row is not None:
        changes += [f"{capital(text)}." for text in assumed_words(row, show)]
    shop = newest(state)
    scope = "Call · second opinion" if shop is None else f"Call · {shop.conditions.who}"
    return Advice(
        scope, sentence, () if row is None else _figures(row, show), tuple(dict.fromkeys(changes)),
        () if row is None else _working(state, row, show), "", CARE, mark,
    )  # fmt: skip


def _sentence(rows: tuple[Comparison, ...], show: Show) -> Said:
    if not rows:
        return Said("Nobody else's readings are booked.", Mark.PLAIN)
    left = [r for r in rows if not r.opinion.explained]
    if left:
        worst = max(left, key=lambda r: abs(r.opinion.left_over_mm))
        size = show.unit(show.size(abs(worst.opinion.left_over_mm)))
        told = f"Cylinder {worst.other.cylinder}{_place(worst)}: {size} is left over."
        if worst.a.plate_on != worst.b.plate_on and worst.plate_from is PlateFrom.NOT_KNOWN:
            whose = "theirs" if worst.a.plate_on else "ours"
            return Said(
                f"{told} The plate was off at {whose}: it may be that. Gauge it off and on, at that place.", Mark.LOOK
            )
        return Said(f"{told} Measure before anyone is wrong.", Mark.LOOK)
    worst = max(rows, key=lambda r: abs(r.opinion.gap_mm))
    gap = show.unit(show.size(abs(worst.opinion.gap_mm)))
    return Said(f"Both are right: {gap} apart, mostly the {worst.opinion.largest}.", Mark.SOUND)


def _place(row: Comparison) -> str:
    """Where on the clock they read, in a sentence."""
    return "" if row.other.clock_deg is None else f" at {row.other.clock_deg:.0f}°"


def _figures(row: Comparison, show: Show) -> tuple[FigureLine, ...]:
    o, lines = row.opinion, []
    what = "clearance over aim, apart" if row.clearances else "bores apart"
    lines.append(FigureLine(f"{row.other.cylinder} {what}", show.unit(show.away(o.gap_mm))))
    for name, value in sorted(o.terms, key=lambda t: -abs(t[1])):
        if abs(value) > WORTH_SAYING * o.expanded_u_mm:
            lines.append(FigureLine(name, show.away(value)))
    mark = Mark.SOUND if o.explained else Mark.LOOK
    lines.append(
        FigureLine(
            "left over",
            f"{'nothing' if show.is_nought(o.left_over_mm) else show.away(o.left_over_mm)}, U {show.size(o.expanded_u_mm)}",
            mark,
        )
    )
    return tuple(lines[:8])


def _working(state: JobState, row: Comparison, show: Show) -> tuple[WorkLine, ...]:
    a, b, o = row.a, row.b, row.opinion
    lines = [WorkLine(f"ours: {show.fine(a.bore_mm)} at {show.reference}, plate {_word(a.plate_on)}", ours_words(row))]
    warm = f"as at {show.reference}" if b.bore_at_20 else f"at {show.warm(b.block_c)}"
    lines.append(WorkLine(f"theirs: {show.fine(b.bore_mm)} {warm}, plate {_word(b.plate_on)}", "as they wrote it down"))
    if row.clearances:
        lines.append(
            WorkLine(
                f"gap = ({show.fine(a.bore_mm)} − {show.fine(a.piston_mm)} − aim {show.fine(a.aim_mm)}) − "
                f"({show.fine(b.bore_mm)} − {show.fine(b.piston_mm)} − aim {show.fine(b.aim_mm)}) = {show.away(o.gap_mm)}",
                "clearance less aim, ours less theirs",
            )
        )
    else:
        lines.append(
            WorkLine(f"gap = {show.fine(a.bore_mm)} − {show.fine(b.bore_mm)} = {show.away(o.gap_mm)}", "bores only")
        )
    sources = {
        "plate": PLATE[row.plate_from],
        "block temperature": show.growth(state.coefficient_1e6),
        "piston temperature": show.growth(state.figures.number(f"thermal.{state.book_in.piston_alloy}")),
        "axis read": f"{OURS[row.ours_from]}, angle by angle",
        "depth read": f"{OURS[row.ours_from]}, top to bottom",
        "clearance source": "a difference of aims, not of readings",
    }
    for name, value in o.terms:
        lines.append(WorkLine(f"{name}: {show.away(value)}", sources.get(name, "as stated")))
    total = sum(v for _, v in o.terms)
    lines.append(
        WorkLine(
            f"left over = {show.away(o.gap_mm)} − ({show.away(total)}) = {show.away(o.left_over_mm)}; doubt of the gap {show.size(o.expanded_u_mm)}",
            "k = 2, both gauges; theirs taken as good as the starting figures",
        )
    )
    return tuple(lines)


def ours_words(row: Comparison) -> str:
    """Which of our figures stands against theirs."""
    mean = ", its mean" if row.ours_from in (OursFrom.FINAL, OursFrom.CHECK, OursFrom.BORED) else ""
    return f"{OURS[row.ours_from]}{mean}"


def _word(plate_on: bool) -> str:
    return "on" if plate_on else "off"
