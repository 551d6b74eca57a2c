"""What the gauge study says, and what it still wants."""

from __future__ import annotations

from redline_bore.core.gauge_study import StudyResult
from redline_bore.core.show import Show
from redline_bore.job.card import Advice, FigureLine, Mark, Note, WorkLine
from redline_bore.job.gauge.doubt import drift_of, reading_doubt, result_of
from redline_bore.job.gauge.study import REPEATS, StudySpot, count_at, current, next_spot, operators
from redline_bore.job.state.comparing import Study
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words.zero import zero_note

CARE = "Take the gauge out and put it back for every reading: reading without moving it flatters it."


def advise(state: JobState, person: str, show: Show) -> Advice:
    """What to read next in the study, or what it found."""
    taken = current(state)
    result = None if taken is None else result_of(taken)
    spot = next_spot(state, person)
    sentence, mark, button = _sentence(state, taken, result, spot, person, show)
    return Advice(
        "Call · gauge study", sentence, _figures(state, taken, result, show), _changes(state, taken, result, show),
        _working(state, taken, result, show), button, CARE, mark,
    )  # fmt: skip


def _sentence(
    state: JobState, taken: Study | None, result: StudyResult | None, spot: StudySpot | None, person: str, show: Show
) -> tuple[str, Mark, str]:
    if taken is None:
        return (
            "Five minutes: three spots, five readings each. Then U is this gauge's own.",
            Mark.PLAIN,
            "Begin the study",
        )
    if spot is not None:
        n = count_at(taken, person, spot.name) + 1
        return f"{person}: read {spot.name}, {n} of {REPEATS}.", Mark.PLAIN, "Book reading"
    if result is None:
        return "The readings do not carry a result yet. Read on.", Mark.LOOK, "Begin another study"
    good = result.expanded_u_mm / 2.0 <= state.figures.number("gauging.repeat_limit")
    told = f"A reading is sure to ±\u00a0{show.unit(show.fine(result.expanded_u_mm))}."
    if result.operator_sd_mm is None:
        told += " A second person may now read."
    return told, Mark.SOUND if good else Mark.LOOK, "Begin another study"


def _figures(state: JobState, taken: Study | None, result: StudyResult | None, show: Show) -> tuple[FigureLine, ...]:
    lines = []
    if result is not None:
        bad = result.repeat_sd_mm > state.figures.number("gauging.repeat_limit")
        lines.append(FigureLine("repeats to (1 sd)", show.fine(result.repeat_sd_mm), Mark.LOOK if bad else Mark.SOUND))
        between = "one only: not known" if result.operator_sd_mm is None else show.fine(result.operator_sd_mm)
        lines.append(FigureLine("between persons", between, Mark.LOOK if result.operator_sd_mm is None else Mark.PLAIN))
        lines.append(FigureLine("last digit", show.fine(result.resolution_mm)))
        lines.append(FigureLine("U of a reading, k = 2", show.fine(result.expanded_u_mm)))
    if taken is not None:
        lines.append(FigureLine("readings", f"{len(taken.values)} by {', '.join(operators(taken)) or 'nobody yet'}"))
    drift = drift_of(state)
    lines.append(
        FigureLine(
            "drift of the zero",
            "not checked" if drift is None else show.fine(drift),
            Mark.LOOK if drift is None else Mark.PLAIN,
        )
    )
    lines.append(FigureLine(f"U of a size at {show.reference}", show.size(reading_doubt(state).expanded_u_mm)))
    return tuple(lines)


def _changes(state: JobState, taken: Study | None, result: StudyResult | None, show: Show) -> tuple[str, ...]:
    notes = list[str]()
    if result is not None and result.repeat_known_to > 0.3:
        notes.append(
            Note(
                f"From {result.freedom} degrees of freedom the spread itself is known to {result.repeat_known_to:.0%} only."
            )
        )
    if result is not None and result.operator_sd_mm is None:
        notes.append("“who TB” lets a second person read the same spots.")
    if note := zero_note(state, show):
        notes.append(note)
    notes.append(Note("K keeps the study's U as the shop's own, for jobs to come."))
    return tuple(notes) if taken is not None else tuple(notes[:-1])


def _working(state: JobState, taken: Study | None, result: StudyResult | None, show: Show) -> tuple[WorkLine, ...]:
    d = reading_doubt(state)
    lines = []
    if taken is not None and result is not None:
        lines.append(
            WorkLine(
                f"repeatability: spread of {len(taken.values)} readings about the mean of each person at each spot, "
                f"{result.freedom} degrees of freedom = {show.fine(result.repeat_sd_mm)}",
                "pooled standard deviation; GUM",
            )
        )
        if result.operator_sd_mm is not None:
            lines.append(
                WorkLine(
                    f"between persons, at the spots they share, less what repeatability alone would give = {show.fine(result.operator_sd_mm)}",
                    "one-way analysis of variance",
                )
            )
        lines.append(
            WorkLine(
                f"U = 2 √(larger of {show.fine(result.repeat_sd_mm)} and {show.fine(result.resolution_mm)}/√12, squared, "
                f"+ {show.fine(result.operator_sd_mm or 0.0)}²) = {show.fine(result.expanded_u_mm)}",
                "GUM (JCGM 100), k = 2",
            )
        )
    lines.append(
        WorkLine(
            f"a size at {show.reference}: own {show.fine(d.own_mm)}, shared by all (master, drift, temperature) {show.fine(d.shared_mm)}; "
            f"U = 2 √(own² + shared²) = {show.size(d.expanded_u_mm)}",
            "what all readings share cancels in taper, wear and out of round",
        )
    )
    return tuple(lines)
