"""Lessons that jobs of an engine family left to the next one: their names, and finding one.

mm on diameter (a stroke), um, strokes, minutes.
"""

from __future__ import annotations

from collections.abc import Sequence

from redline_bore.job.state.booking import Lesson

RATE, TOOL, OVER_TOP, OVER_BOTTOM, STROKES, REACHED, MINUTES = (
    "removal rate at roughing load", "tool over its setting", "overstroke, top", "overstroke, bottom", "plateau strokes", "finish reached",
    "bench minutes a cylinder",
)  # fmt: skip


def lesson_of(lessons: Sequence[Lesson], what: str, about: str = "") -> Lesson | None:
    """The lesson on ``what``, for ``about`` where it is given."""
    return next((x for x in lessons if x.what == what and about in ("", x.about)), None)
