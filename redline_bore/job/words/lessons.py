"""Lessons of a family's jobs in words."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from redline_bore.core.show import Show
from redline_bore.job.lessons import MINUTES, RATE, REACHED, STROKES, TOOL
from redline_bore.job.state.booking import Lesson

JOBS_NAMED = 6


def lesson_words(lesson: Lesson, show: Show) -> str:
    """A lesson as it is told: what, its figure with its spread, how often, from which jobs."""
    text, unit = _told_by(lesson.what, show)
    spread = "" if lesson.sd is None else text(lesson.sd).lstrip("+")
    differs = any(c in "123456789" for c in spread)
    told = unit(f"{text(lesson.mean)} ± {spread}" if differs else text(lesson.mean))
    if spread and not differs:
        told += ", alike each time"
    return f"{lesson.what}, {lesson.about}: {told} ({lesson.count} in {jobs_said(lesson.jobs)})"


def jobs_said(jobs: Sequence[str]) -> str:
    """job 2029, 2031; of many the newest, and how many others."""
    if len(jobs) <= JOBS_NAMED:
        return f"job {', '.join(jobs)}"
    return f"job {', '.join(jobs[-JOBS_NAMED:])} and {len(jobs) - JOBS_NAMED} others"


def _told_by(what: str, show: Show) -> tuple[Callable[[float], str], Callable[[str], str]]:
    """How a figure of this kind is written, and where its unit goes."""
    from redline_bore.job.words.texture import texture_figure, texture_unit

    if what in (STROKES, MINUTES):
        return "{:.0f}".format, str
    if what == REACHED:
        return lambda v: texture_figure(v, show), lambda told: f"{told} {texture_unit(show)}"
    return {RATE: show.rate, TOOL: show.away}.get(what, show.rough), show.unit
