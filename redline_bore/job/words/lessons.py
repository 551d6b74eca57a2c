"""Lessons of signed jobs in words."""

from __future__ import annotations

from collections.abc import Callable

from redline_bore.core.show import Show
from redline_bore.job.lessons import RATE, REACHED, STROKES, TOOL
from redline_bore.job.state.booking import Lesson
from redline_bore.job.words.texture import texture_figure, texture_unit


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
