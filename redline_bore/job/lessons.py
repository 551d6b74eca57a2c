"""Lessons that signed jobs of an engine family left to the next one: their names, finding one, telling one.

mm on diameter (a stroke), um, strokes.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence

from redline_bore.core.show import Show
from redline_bore.job.state.booking import Lesson
from redline_bore.job.texture_words import texture_figure, texture_unit

RATE, TOOL, OVER_TOP, OVER_BOTTOM, STROKES, REACHED = (
    "removal rate at roughing load", "tool over its setting", "overstroke, top", "overstroke, bottom", "plateau strokes", "finish reached",
)  # fmt: skip


def lesson_words(lesson: Lesson, show: Show) -> str:
    """A lesson as it is told: what, its figure with its spread, how often, from which jobs."""
    text, unit = _told_by(lesson.what, show)
    told, spread = text(lesson.mean), "" if lesson.sd is None else text(lesson.sd).lstrip("+")
    if any(c in "123456789" for c in spread):
        told += f" ± {spread}"
    elif spread:
        told += ", alike each time"
    return f"{lesson.what}, {lesson.about}: {unit(told)} ({lesson.count} in job {', '.join(lesson.jobs)})"


def _told_by(what: str, show: Show) -> tuple[Callable[[float], str], Callable[[str], str]]:
    """How a figure of this kind is written, and where its unit goes."""
    if what == STROKES:
        return "{:.0f}".format, str
    if what == REACHED:
        return lambda v: texture_figure(v, show), lambda told: f"{told} {texture_unit(show)}"
    return {RATE: show.rate, TOOL: show.away}.get(what, show.rough), show.unit


def lesson_of(lessons: Sequence[Lesson], what: str, about: str = "") -> Lesson | None:
    """The lesson on ``what``, for ``about`` where it is given."""
    return next((x for x in lessons if x.what == what and about in ("", x.about)), None)
