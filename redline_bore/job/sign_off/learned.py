"""What the signed jobs of an engine family taught, and offering it to the next one (job.md, sign off).

Only signed jobs teach. Each lesson has its mean, its spread where there is more than one, and the jobs it came from.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from contextlib import suppress

from redline_bore.core.errors import FitError
from redline_bore.core.frozen import frozen
from redline_bore.core.stock import LEAST_CHECKS, theil_sen
from redline_bore.job.bore.plan import with_first
from redline_bore.job.finish.judgement import counting_traces, texture_at
from redline_bore.job.hone.set_up import load_share
from redline_bore.job.hone.steps import PEAKS_ONLY, stones_of
from redline_bore.job.lessons import OVER_BOTTOM, OVER_TOP, RATE, REACHED, STROKES, TOOL
from redline_bore.job.profiles.stones import stones_said
from redline_bore.job.state.booking import Lesson
from redline_bore.job.state.job_state import JobState

FINISH = ("Ra", "Rpk", "Rk", "Rvk")


@frozen
class Row:
    """One figure that a job taught: mm on diameter (a stroke), um, strokes."""

    what: str
    about: str
    value: float


@frozen
class TaughtOnJob:
    """What a signed job taught."""

    number: str
    rows: tuple[Row, ...]


def taught_on_job(state: JobState) -> TaughtOnJob | None:
    """What a job taught; None until it is signed."""
    if not state.signing.closed:
        return None
    rows = tuple(Row(*row) for row in _taught_by(state))
    return TaughtOnJob(state.number, rows) if rows else None


def family_lessons(jobs: Iterable[TaughtOnJob]) -> tuple[Lesson, ...]:
    """Every lesson of the signed jobs of a family, the oldest first."""
    found: dict[tuple[str, str], list[tuple[str, float]]] = {}
    for job in jobs:
        for row in job.rows:
            found.setdefault((row.what, row.about), []).append((job.number, row.value))
    return tuple(_lesson(what, about, rows) for (what, about), rows in found.items())


def _lesson(what: str, about: str, rows: Sequence[tuple[str, float]]) -> Lesson:
    values = [v for _, v in rows]
    mean = sum(values) / len(values)
    sd = math.sqrt(sum((v - mean) ** 2 for v in values) / (len(values) - 1)) if len(values) > 1 else None
    return Lesson(what, about, mean, sd, len(values), tuple(dict.fromkeys(number for number, _ in rows)))


def _taught_by(state: JobState) -> list[tuple[str, str, float]]:
    holes = [h for h, first in with_first(state) if not first and h.tool[1]]
    rows = [(TOOL, h.tool[1], h.mean_mm - h.set_mm) for h in holes]
    for cylinder in state.cylinders:
        rows += _honed(state, cylinder) + _reached(state, cylinder)
    hone = state.honing.run
    if hone is not None and hone.over_top_mm is not None and hone.over_bottom_mm is not None:
        rows += [(OVER_TOP, hone.machine, hone.over_top_mm), (OVER_BOTTOM, hone.machine, hone.over_bottom_mm)]
    return rows


def _honed(state: JobState, cylinder: int) -> list[tuple[str, str, float]]:
    rows, names = [], stones_of(state)
    for step, usual in enumerate(names):
        checks = state.honing.checks_of(cylinder, step)
        stones = next((c.stones for c in checks if c.stones and usual not in PEAKS_ONLY), usual)
        if len(checks) >= LEAST_CHECKS:
            with suppress(FitError):
                rate = theil_sen([c.strokes for c in checks], [c.mean_mm for c in checks]).mm
                rows.append((RATE, stones_said(stones), rate / load_share(state, checks[-1].load)))
        if checks and usual in PEAKS_ONLY and step == len(names) - 1:
            rows.append((STROKES, stones_said(usual), checks[-1].strokes))
    return rows


def _reached(state: JobState, cylinder: int) -> list[tuple[str, str, float]]:
    textures = [texture_at(t) for t in counting_traces(state, cylinder) if t.plateau_strokes != 0.0]
    return [(REACHED, n, v) for x in textures for n in FINISH if (v := x.value(n)) is not None]
