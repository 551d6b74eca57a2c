"""Two windows with a gauge each and a command line, on one logbook, at once: nothing refused, doubled, lost or in the wrong place."""

from __future__ import annotations

import json
import os
import subprocess
import sys
import time
from collections import Counter
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from redline_bore.job.kinds.gauge import BlockTemperature, ReadingBooked
from redline_bore.store.logbook import Logbook
from redline_bore.store.verify import verified
from tools.endurance.jobs import CYLINDERS, ZERO_MM, made_jobs

READINGS_A_JOB = 700  # at most: how many jobs an hour needs


@dataclass(frozen=True)
class Together:
    """Counts of a campaign, and a sentence of every fault."""

    readings: int
    lines: int
    faults: tuple[str, ...]


def together(folder: Path, seconds: float, a_second: float) -> Together:
    """Run both benches and the command line for so long, then count."""
    path = folder / "logbook.sqlite"
    jobs = made_jobs(path, 1 + int(2 * seconds * a_second / 200))
    halves = [[c for c in range(1, CYLINDERS + 1) if c % 2 == side] for side in (1, 0)]
    benches = [
        started(folder, path, who, jobs, mine, seconds, a_second, offset)
        for offset, (who, mine) in enumerate(zip(("RM", "KT"), halves, strict=True))
    ]
    warm, faults = _lines(path, jobs, seconds)
    told = [finished(folder, who, process) for who, process in zip(("RM", "KT"), benches, strict=True)]
    return counted(path, dict(zip(("RM", "KT"), told, strict=True)), warm, faults)


def started(folder: Path, path: Path, who: str, jobs: list[str], cylinders: list[int], seconds: float, a_second: float, offset: int, measured: bool = False, late: float = 0.0) -> subprocess.Popen[bytes]:  # fmt: skip
    """A bench as a process of its own."""
    given = {
        "logbook": str(path), "who": who, "jobs": jobs, "cylinders": cylinders, "seconds": seconds, "a_second": a_second,
        "offset": offset, "measured": measured, "late": late, "out": str(folder / f"{who}.json"),
    }  # fmt: skip
    env = os.environ | {"QT_QPA_PLATFORM": "offscreen", "XDG_DATA_HOME": str(folder), "XDG_CONFIG_HOME": str(folder)}
    return subprocess.Popen([sys.executable, "-m", "tools.endurance.bench", json.dumps(given)], env=env)


def finished(folder: Path, who: str, process: subprocess.Popen[bytes]) -> dict[str, Any]:
    """What a bench was told, once it has ended."""
    process.wait()
    out = folder / f"{who}.json"
    return json.loads(out.read_text()) if out.exists() else {"sent": [], "kept": [], "refused": [f"bench {who} broke"]}


def _lines(path: Path, jobs: list[str], seconds: float) -> tuple[list[tuple[str, float]], list[str]]:
    """Book temperatures from the command line, one after the other, until the time is up."""
    until, warm, faults = time.monotonic() + seconds, list[tuple[str, float]](), list[str]()
    while time.monotonic() < until:
        job, celsius = jobs[len(warm) % min(len(jobs), 3)], round(18.0 + 0.01 * len(warm), 2)
        line = [sys.executable, "-m", "redline_bore", "book", "--logbook", str(path), "--job", job, "--step", "gauge", "--person", "JB", f"{celsius:.2f} C"]  # fmt: skip
        done = subprocess.run(line, capture_output=True, text=True, check=False)
        warm.append((job, celsius))
        if done.returncode != 0:
            faults.append(f"the command line was refused: {done.stderr.strip()[-200:]}")
    return warm, faults


def counted(path: Path, told: dict[str, dict[str, Any]], warm: list[tuple[str, float]], faults: list[str]) -> Together:
    """Hold what is in the logbook against what was sent."""
    book = Logbook(path, make=False)
    try:
        there = Counter[tuple[str, str, int, float]]()
        lines = Counter[tuple[str, float]]()
        for job in book.jobs():
            for r in book.ledger(job.job_id):
                if isinstance(r.entry, ReadingBooked):
                    there[(r.person, job.number, r.entry.cylinder, round(r.entry.diameter_mm - ZERO_MM, 5))] += 1
                elif isinstance(r.entry, BlockTemperature) and r.person == "JB":
                    lines[(job.number, r.entry.block_c)] += 1
        faults = [*faults, *verified(book).faults]
    finally:
        book.close()
    sent = Counter((who, job, cylinder, off) for who, t in told.items() for off, job, cylinder in t["sent"])
    faults += [f"refused: {text}" for t in told.values() for text in t["refused"]]
    faults += [f"lost: {key}" for key in sent - there]
    faults += [f"doubled, or nobody sent it: {key}" for key in there - sent]
    faults += [f"a line lost or doubled: {key}" for key in (Counter(warm) - lines) + (lines - Counter(warm))]
    return Together(sum(sent.values()), len(warm), tuple(faults))
