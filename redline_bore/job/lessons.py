"""Lessons that signed jobs of an engine family left to the next one: their names, finding one, telling one.

mm on diameter (a stroke), um, strokes.
"""

from __future__ import annotations

from collections.abc import Sequence

from redline_bore.job.advice import Show
from redline_bore.job.entries import Lesson
from redline_bore.job.finish_words import texture_figure, texture_unit

RATE, TOOL, OVER_TOP, OVER_BOTTOM, STROKES, REACHED = (
    "removal rate", "tool over its setting", "overstroke, top", "overstroke, bottom", "plateau strokes", "finish reached",
)  # fmt: skip


def lesson_words(lesson: Lesson, show: Show) -> str:
    """A lesson as it is told: what, its figure with its spread, how often, from which jobs."""
    value, spread = lesson.mean, lesson.sd
    if lesson.what == STROKES:
        told = f"{value:.0f}" + ("" if spread is None else f" ± {spread:.0f}")
    elif lesson.what == REACHED:
        told = " ± ".join(texture_figure(v, show) for v in (value, spread) if v is not None)
        told += f" {texture_unit(show)}"
    else:
        text = {RATE: show.rate, TOOL: show.away}.get(lesson.what, show.rough)
        told = show.unit(
            text(value) + ("" if spread is None else f" ± {(show.rate if lesson.what == RATE else show.size)(spread)}")
        )
    return f"{lesson.what}, {lesson.about}: {told} ({lesson.count} in job {', '.join(lesson.jobs)})"


def lesson_of(lessons: Sequence[Lesson], what: str, about: str = "") -> Lesson | None:
    """The lesson on ``what``, for ``about`` where it is given."""
    return next((x for x in lessons if x.what == what and about in ("", x.about)), None)
