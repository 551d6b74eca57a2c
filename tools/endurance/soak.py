"""A window and a gauge whose button is pressed twenty times a second, for an hour: nothing grows, no frame is long.

Two of them, each with a logbook of its own, do the same work reading by reading: on a machine that others use too a turn may take any time,
by its CPU as well, but what the program itself does long it does long in both. The second is half a minute behind the first.
"""

from __future__ import annotations

import shutil
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from tools.endurance.jobs import CYLINDERS, made_jobs
from tools.endurance.together import counted, finished, started

SETTLED_S = 300.0  # nothing may grow after so long
MOST_GROWTH_MB = 4.0  # of an hour: what the allocator keeps to itself is no growth
MOST_FRAME_MS = 33.0
TWINS, LATER_S = (
    ("RM", "KT"),
    30.0,
)  # the second begins so much later: a slow moment of the machine is at another reading in it


@dataclass(frozen=True)
class Soaked:
    """What an hour came to. The frames of the first of the two; ``longest_both_ms``: the longest that both had at one reading."""

    readings: int
    growth_mb: float
    longest_ms: float
    late_ms: float
    over: int
    longest_both_ms: float
    over_both: int
    frames: int
    faults: tuple[str, ...]


def soak(folder: Path, seconds: float, a_second: float) -> Soaked:
    """Run both for so long, then look at memory and frames."""
    places = [folder / who for who in TWINS]
    for place in places:
        place.mkdir()
    jobs = made_jobs(places[0] / "logbook.sqlite", 2 + int(seconds * a_second / 400))
    shutil.copy(places[0] / "logbook.sqlite", places[1])
    everywhere = list(range(1, CYLINDERS + 1))
    benches = [
        started(
            place,
            place / "logbook.sqlite",
            who,
            jobs,
            everywhere,
            seconds,
            a_second,
            0,
            True,
            late * min(LATER_S, seconds / 4.0),
        )
        for late, (who, place) in enumerate(zip(TWINS, places, strict=True))
    ]
    told = [finished(place, who, bench) for who, place, bench in zip(TWINS, places, benches, strict=True)]
    counts = [
        counted(place / "logbook.sqlite", {who: t}, [], []) for who, place, t in zip(TWINS, places, told, strict=True)
    ]
    faults = [fault for count in counts for fault in count.faults]
    return judged(told[0], told[1], sum(count.readings for count in counts), faults)


def judged(told: dict[str, Any], twin: dict[str, Any], readings: int, faults: list[str]) -> Soaked:
    """Growth after the first minutes (the line through the memory there, over its length), and the CPU of the longest frames."""
    growth = max(grown_mb(each) for each in (told, twin))
    counts = np.asarray(told.get("frames", (0,)), dtype=float)
    count = int(counts.sum())
    late = float(np.searchsorted(np.cumsum(counts), 0.99 * count)) / 10.0
    own, both = _turns(told), _in_both(told, twin)
    if growth > MOST_GROWTH_MB:
        faults.append(f"memory grew by {growth:.1f} MB after the first minutes")
    return Soaked(
        readings, growth, float(own.max(initial=late)), late, int((own > MOST_FRAME_MS).sum()),
        float(both.max(initial=0.0)), int((both > MOST_FRAME_MS).sum()), count, tuple(faults),
    )  # fmt: skip


def grown_mb(told: dict[str, Any]) -> float:
    """By how much memory grew after the first minutes, MB."""
    memory = np.asarray(told.get("memory_mb", ()), dtype=float).reshape(-1, 2)
    settled = memory[memory[:, 0] > min(SETTLED_S, memory[-1, 0] / 3.0)] if len(memory) else memory
    if len(settled) <= 2:
        return 0.0
    slope = np.polyfit(settled[:, 0], settled[:, 1], 1)[0]
    return float(slope * (settled[-1, 0] - settled[0, 0]))


def _turns(told: dict[str, Any]) -> np.ndarray[Any, np.dtype[np.float64]]:
    return np.concatenate([np.asarray(told.get(name, ()), dtype=float) for name in ("longest_ms", "walks_ms")])


def _in_both(told: dict[str, Any], twin: dict[str, Any]) -> np.ndarray[Any, np.dtype[np.float64]]:
    """The shorter of the two at each reading, and at each walk of the collector, ms."""
    found = []
    for name in ("longest_ms", "walks_ms"):
        one, other = (np.asarray(each.get(name, ()), dtype=float) for each in (told, twin))
        least = min(len(one), len(other))
        found.append(np.minimum(one[:least], other[:least]))
    return np.concatenate(found)
