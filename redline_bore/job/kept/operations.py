"""How long the steps of a job took, from the times in its ledger; and what that teaches the next job of its family (methods 20).

A step's time is the time before each of its entries, up to the stamp that ends it; what belongs to any step counts to the one it led to. Where
longer than a pause lies between two entries nobody was at it: that counts for nothing. What was struck took its time all the same.
"""

from __future__ import annotations

import statistics
from collections.abc import Iterable, Sequence

from redline_bore.core.frozen import frozen
from redline_bore.core.when import hours_between
from redline_bore.job.kinds.entry import Record
from redline_bore.job.kinds.kind import kind_of
from redline_bore.job.kinds.sign_off import StepStamped
from redline_bore.job.lessons import MINUTES
from redline_bore.job.state.booking import Lesson
from redline_bore.job.state.job_state import STEPS, JobState

BY_THE_CYLINDER = ("gauge", "bore", "sleeve", "hone", "finish")


@frozen
class Operation:
    """A step that was stamped. minutes: at the bench, in all; cylinders: how many were worked on in it, 0 where it is of the whole block."""

    step: str
    minutes: float
    cylinders: int


@frozen
class WorkedOnJob:
    """How long the stamped steps of a job took, in the order they were first stamped."""

    number: str
    operations: tuple[Operation, ...]


def worked_on_job(state: JobState, records: Sequence[Record]) -> WorkedOnJob | None:
    """How long the stamped steps of a job took; None before the first stamp."""
    pause = state.figures.number("bench_time.pause")
    minutes: dict[str, float] = {}
    cylinders: dict[str, set[int]] = {}
    told: dict[str, Operation] = {}
    waiting, before = 0.0, ""
    for record in records:
        waiting += _minutes_between(before, record.at, pause)
        before = record.at
        entry = record.entry
        stamped = isinstance(entry, StepStamped)
        step = entry.step if isinstance(entry, StepStamped) else kind_of(entry).step
        if step not in STEPS:
            continue
        minutes[step] = minutes.get(step, 0.0) + waiting
        waiting = 0.0
        number = getattr(entry, "cylinder", None)
        if isinstance(number, int):
            cylinders.setdefault(step, set()).add(number)
        if stamped:
            told[step] = Operation(step, round(minutes[step], 2), len(cylinders.get(step, ())))
    return WorkedOnJob(state.number, tuple(told.values())) if told else None


def _minutes_between(before: str, at: str, pause_min: float) -> float:
    """From one entry to the next; nothing after a pause, or where a clock was set back."""
    if not before or before == at:
        return 0.0
    found = 60.0 * (hours_between(before, at) or 0.0)
    return found if 0.0 < found <= pause_min else 0.0


def hours_taught(jobs: Iterable[WorkedOnJob]) -> tuple[Lesson, ...]:
    """Minutes a cylinder of every step that is done by the cylinder: the median of the family's jobs, the oldest first, with its spread."""
    found: dict[str, list[tuple[str, float]]] = {}
    for job in jobs:
        for x in job.operations:
            if x.step in BY_THE_CYLINDER and x.cylinders and x.minutes > 0.0:
                found.setdefault(x.step, []).append((job.number, x.minutes / x.cylinders))
    return tuple(_lesson(step, rows) for step, rows in found.items())


def _lesson(step: str, rows: Sequence[tuple[str, float]]) -> Lesson:
    values = [v for _, v in rows]
    spread = statistics.stdev(values) if len(values) > 1 else None
    return Lesson(MINUTES, step, statistics.median(values), spread, len(values), tuple(number for number, _ in rows))
