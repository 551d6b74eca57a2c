"""One window and a gauge whose button is pressed twenty times a second, for an hour: nothing grows, no frame is long."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from tools.endurance.jobs import CYLINDERS, made_jobs
from tools.endurance.together import counted, finished, started

SETTLED_S = 300.0  # nothing may grow after so long
MOST_GROWTH_MB = 4.0  # of an hour: what the allocator keeps to itself is no growth
MOST_FRAME_MS = 33.0


@dataclass(frozen=True)
class Soaked:
    """What an hour came to."""

    readings: int
    growth_mb: float
    longest_ms: float
    late_ms: float
    over: int
    longest_usual_ms: float  # the longest, had the machine been as quick then as it usually was
    over_usual: int
    frames: int
    faults: tuple[str, ...]


def soak(folder: Path, seconds: float, a_second: float) -> Soaked:
    """Run it for so long, then look at memory and frames."""
    path = folder / "logbook.sqlite"
    jobs = made_jobs(path, 2 + int(seconds * a_second / 400))
    told = finished(
        folder, "RM", started(folder, path, "RM", jobs, list(range(1, CYLINDERS + 1)), seconds, a_second, 0, True)
    )
    count = counted(path, {"RM": told}, [], [])
    return judged(told, count.readings, list(count.faults))


def judged(told: dict[str, Any], readings: int, faults: list[str]) -> Soaked:
    """Growth after the first minutes (the line through the memory there, over its length), and the CPU of the longest frame."""
    memory = np.asarray(told.get("memory_mb", ()), dtype=float).reshape(-1, 2)
    settled = memory[memory[:, 0] > min(SETTLED_S, memory[-1, 0] / 3.0)] if len(memory) else memory
    growth = 0.0
    if len(settled) > 2:
        slope = np.polyfit(settled[:, 0], settled[:, 1], 1)[0]
        growth = float(slope * (settled[-1, 0] - settled[0, 0]))
    counts = np.asarray(told.get("frames", (0,)), dtype=float)
    count, long = int(counts.sum()), np.asarray(told.get("long_ms", ()), dtype=float).reshape(-1, 2)[:, 0]
    late = float(np.searchsorted(np.cumsum(counts), 0.99 * count)) / 10.0
    longest, over = float(long.max(initial=late)), int((long > MOST_FRAME_MS).sum())
    usual = _as_usual(told)
    longest_usual, over_usual = float(usual.max(initial=0.0)), int((usual > MOST_FRAME_MS).sum())
    if growth > MOST_GROWTH_MB:
        faults.append(f"memory grew by {growth:.1f} MB after the first minutes")
    return Soaked(readings, growth, longest, late, over, longest_usual, over_usual, count, tuple(faults))


def _as_usual(told: dict[str, Any]) -> np.ndarray[Any, np.dtype[np.float64]]:
    """The long turns, ms of CPU, over how much slower than usual the machine was just then: by the same work, against its median."""
    floors = np.asarray(told.get("floor_ms", ()), dtype=float).reshape(-1, 2)
    long = np.asarray(told.get("long_ms", ()), dtype=float).reshape(-1, 2)
    if not len(floors) or not len(long):
        return long[:, 0]
    usual = float(np.median(floors[:, 1]))
    return long[:, 0] * usual / np.maximum(long[:, 1], usual)
