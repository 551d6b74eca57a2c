"""The cylinders side by side, in words: which one is odd, and by what."""

from __future__ import annotations

from redline_bore.core.show import Show, cylinders
from redline_bore.job.card import Advice, FigureLine, Mark, Note, WorkLine
from redline_bore.job.gauge.side_by_side import SPREADS, Line, Measure, OddBy, Oddness, lines_of
from redline_bore.job.state.job_state import JobState

CARE = "An odd cylinder has a reason: find it before the bar does."


MEASURES = {Measure.WEAR: "wear", Measure.OUT_OF_ROUND: "out of round", Measure.TAPER: "taper"}
ODD = {
    OddBy.ABOVE: "{measures} above the others",
    OddBy.BELOW: "{measures} below the others",
    OddBy.CROOKED: "crooked by its sweeps",
    OddBy.TWISTED: "twisted",
    OddBy.DEFECTS: "{defects}",
    OddBy.TURNED: "long axis turned from the others",
}


def odd_words(odd: tuple[Oddness, ...]) -> str:
    """In which ways a cylinder is unlike the others; empty where it is not."""
    return ", ".join(
        ODD[o.by].format(measures=", ".join(MEASURES[m] for m in o.measures), defects=", ".join(o.defects)) for o in odd
    )


def advise(state: JobState, show: Show) -> Advice:
    """Which cylinder is odd, and why it matters."""
    lines = lines_of(state, state.clamped.plate_on)
    odd = [line for line in lines if line.odd]
    known = [line for line in lines if line.shape.levels]
    if len(known) < 3:
        sentence, mark = "Three cylinders must be read before one can be odd.", Mark.LOOK
    elif odd:
        sentence, mark = f"Odd: {cylinders([line.cylinder for line in odd])}.", Mark.LOOK
    else:
        every = len(known) == len(lines)
        sentence = "They are all of one family." if every else "Those that were read are of one family."
        mark = Mark.SOUND if every else Mark.LOOK
    figures = tuple(_figure(line, show) for line in lines[:10])
    changes: list[str] = [Note(f"{line.cylinder}: {odd_words(line.odd)}.") for line in odd]
    missing = [line.cylinder for line in lines if not line.shape.levels]
    if missing:
        changes.append(f"Not read with the plate {'on' if state.clamped.plate_on else 'off'}: {cylinders(missing)}.")
    changes.append(Note("One colour scale for all: what looks deeper is deeper."))
    working = tuple(_working(line, show) for line in known)
    return Advice("Call · all cylinders", sentence, figures, tuple(changes), working, "", CARE, mark)


def _figure(line: Line, show: Show) -> FigureLine:
    if line.wear_mm is None or line.taper_mm is None:
        return FigureLine(f"cylinder {line.cylinder}", "not known", Mark.LOOK)
    return FigureLine(
        f"{line.cylinder} wear, taper",
        f"{show.size(line.wear_mm)}, {show.size(line.taper_mm)}",
        Mark.LOOK if line.odd else Mark.PLAIN,
    )


def _working(line: Line, show: Show) -> WorkLine:
    parts = [f"{line.cylinder}:"]
    for name, value in (("wear", line.wear_mm), ("out of round", line.out_of_round_mm), ("taper", line.taper_mm)):
        parts.append(f"{name} {'not known' if value is None else show.size(value)};")
    if line.long_axis_deg is not None:
        parts.append(f"long at {line.long_axis_deg:.0f}°")
    return WorkLine(
        " ".join(parts),
        f"odd: further from the middle of the others than the limit and {SPREADS:g} times their usual distance",
    )
