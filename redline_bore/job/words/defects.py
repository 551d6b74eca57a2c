"""What a defect means for the size, in words."""

from __future__ import annotations

from redline_bore.core.show import Show
from redline_bore.job.card import Advice, FigureLine, Mark, Note, Said, WorkLine
from redline_bore.job.gauge.analysis import rules_of, shape_of
from redline_bore.job.gauge.defects import Effect, effects_of
from redline_bore.job.state.gauging import Defect
from redline_bore.job.state.job_state import JobState

FEELS = {
    "cant_feel": "cannot be felt",
    "can_feel": "can be felt",
    "catches": "catches the nail",
    "catches_hard": "catches hard",
}


CARE = "A crack is not a matter for opinion: pressure-test before any work on this cylinder."


def depth_text(defect: Defect, show: Show) -> str:
    """How deep, in words: measured, or as it feels."""
    if defect.measured:
        return f"{show.unit(show.size(defect.deep_high_mm))} deep"
    felt = FEELS.get(defect.feel, "by feel")
    return f"{felt}: {show.size(defect.deep_low_mm)}–{show.unit(show.size(defect.deep_high_mm))}"


def place_text(defect: Defect, show: Show) -> str:
    top = show.down(defect.top_mm).split(" ")[0]
    return f"{top}–{show.down(defect.bottom_mm)}, {defect.clock_deg:.0f}°, {defect.width_deg:.0f}° wide"


def advise(state: JobState, cylinder: int, show: Show) -> Advice:
    """What the defects of a cylinder ask for."""
    effects = effects_of(state, cylinder)
    sentence, mark = _sentence(cylinder, effects, show)
    lines = tuple(_line(e, show) for e in effects[:6])
    return Advice(
        f"Call · cylinder {cylinder}", sentence, lines, _changes(effects), _working(state, cylinder, effects, show),
        "", CARE, mark,
    )  # fmt: skip


def _sentence(cylinder: int, effects: tuple[Effect, ...], show: Show) -> Said:
    if stops := [e.defect for e in effects if e.defect.stops]:
        is_it = (
            "is cracked: no size cleans that up"
            if any("crack" in d.what for d in stops)
            else "was welded: what lies behind nobody knows"
        )
        if any(d.tested for d in stops):
            return Said(f"Cylinder {cylinder} leaks: a sleeve may seal it; no size does.", Mark.STOP)
        return Said(
            f"Cylinder {cylinder} {is_it}. Pressure-test it before any metal is taken: tested tight, or leaks, and how.",
            Mark.STOP,
        )
    if not effects:
        return Said(f"No defect is marked in cylinder {cylinder}. That is not the same as none.", Mark.PLAIN)
    worst = max(effects, key=lambda e: e.adds_high_mm or 0.0)
    if not worst.decides:
        return Said("None of these asks for more metal than the wear does.", Mark.SOUND)
    size = show.unit(show.size(worst.adds_high_mm or 0.0))
    return Said(f"The {worst.defect.what} costs up to {size} on diameter.", Mark.LOOK)


def _line(effect: Effect, show: Show) -> FigureLine:
    if effect.adds_high_mm is None or effect.adds_low_mm is None:
        return FigureLine(effect.defect.what, "size not known yet", Mark.LOOK)
    if not effect.decides:
        return FigureLine(effect.defect.what, "adds nothing", Mark.SOUND)
    return FigureLine(
        effect.defect.what, f"adds {show.size(effect.adds_low_mm)}–{show.size(effect.adds_high_mm)}", Mark.LOOK
    )


def _changes(effects: tuple[Effect, ...]) -> tuple[str, ...]:
    notes = [
        f"Measure the {e.defect.what}: by feel it is only known to an interval."
        for e in effects
        if not e.defect.measured and e.decides
    ]
    notes += [
        Note(f"Attach a photo of the {e.defect.what}: the owner will ask.")
        for e in effects
        if e.decides and not e.photos
    ]
    notes.append(
        Note(
            "A two-point gauge cannot say on which side it wore: the low end takes the defect on the side that wore least."
        )
    )
    return tuple(dict.fromkeys(notes))


def _working(state: JobState, cylinder: int, effects: tuple[Effect, ...], show: Show) -> tuple[WorkLine, ...]:
    shape, lines = shape_of(state, cylinder), []
    if shape.cleanup is not None:
        lines.append(
            WorkLine(
                f"all of them: cleans up between {show.fine(shape.cleanup.low_mm)} and {show.fine(shape.cleanup.high_mm)}",
                "the bound of the readings, with the flaw and without",
            )
        )
    for e in effects:
        if e.adds_high_mm is not None and shape.cleanup is not None:
            lines.append(
                WorkLine(
                    f"without the {e.defect.what} ({depth_text(e.defect, show)}): high end "
                    f"{show.fine(shape.cleanup.high_mm - e.adds_high_mm)}, so it adds {show.fine(e.adds_high_mm)}",
                    f"the high end takes 2 × (depth + skin {show.size(rules_of(state).skin_mm)}) at the place read nearest",
                )
            )
    return tuple(lines)
