"""python -m bench: every measure beside its floor and its limit; exit code 1 when a limit is passed.

Machines are noisy, so each figure is the middle or the best of several, and floors are measured in between.
"""

from __future__ import annotations

import os
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import NamedTuple

from bench.pace import REFERENCE_SPIN_S, spin

HERE = Path(__file__).parent
ROOT = HERE.parent
# Bytecode is cached, as it is on anybody's machine after the first start.
ENV = {k: v for k, v in os.environ.items() if k != "PYTHONDONTWRITEBYTECODE"} | {
    "QT_QPA_PLATFORM": f"offscreen:configfile={ROOT / 'tests' / 'screen.json'}"
}


@dataclass(frozen=True)
class Measure:
    """A figure, what it is held against, and how far it may go."""

    name: str
    value: float
    limit: float
    unit: str
    note: str

    @property
    def kept(self) -> bool:
        return self.value <= self.limit


class Started(NamedTuple):
    """Seconds from starting a Python process to the end of its first paint, and to the end of its last, where there is more than one; CPU of all."""

    wall: float
    cpu: float
    whole: float


def script_time(script: str, *words: str) -> Started:
    """A start, timed."""
    start = time.perf_counter()
    process = subprocess.Popen([sys.executable, str(HERE / script), *words], env=ENV, stdout=subprocess.PIPE, text=True)
    assert process.stdout is not None
    line = process.stdout.readline()
    took = whole = time.perf_counter() - start
    if process.stdout.readline():
        whole = time.perf_counter() - start
    process.stdout.close()
    _pid, _status, spent = os.wait4(process.pid, 0)
    process.returncode = 0
    assert line.strip() == "painted", f"{script} did not paint"
    return Started(took, spent.ru_utime + spent.ru_stime, whole)


def start_measure(name: str, full: list[Started], bare: list[Started]) -> Measure:
    """A start over its floor, the best of each."""
    (ours, cpu, whole), (floor, floor_cpu, _) = (map(min, zip(*found, strict=True)) for found in (full, bare))
    note = (
        f"{ours * 1000:.0f} ms over {floor * 1000:.0f} ms of a bare QMainWindow with NumPy, with the block plan {whole * 1000:.0f} ms "
        f"({whole / floor:.2f} times), CPU {cpu * 1000:.0f} over {floor_cpu * 1000:.0f} ms ({cpu / floor_cpu:.2f} times), best of {len(full)} each; judged by wall"
    )
    return Measure(name, ours / floor, 1.8, "times", note)


def demo_logbook(folder: Path) -> Path:
    """A logbook with the sample jobs."""
    path = folder / "logbook.sqlite"
    subprocess.run(
        [sys.executable, "-m", "redline_bore", "demo", "--logbook", str(path)], check=True, stdout=subprocess.DEVNULL
    )
    return path


STARTS = 15  # this many of each, taken by turns
OPENS_ON = {"2036": "sign off", "2041": "call", "2044": "hone", "2047": "gauge"}


def first_paint(path: Path) -> list[Measure]:
    """Start to first paint of a job at each step, over a bare main window with NumPy imported; floors in between."""
    for number in OPENS_ON:
        script_time("paint.py", str(path), number, "keep")  # the session before: the job it leaves is the last one
    bare, full = [], dict[str, list[Started]]()
    for _ in range(STARTS):
        bare.append(script_time("floor.py"))
        for number in OPENS_ON:
            full.setdefault(number, []).append(script_time("paint.py", str(path), number))
    return [start_measure(f"start on job {number}, at {step}", full[number], bare) for number, step in OPENS_ON.items()]


def enter_to_kept(path: Path) -> Measure:
    """Enter to a reading painted and on the disk, 95th percentile, with a raw fsync as the floor beside it."""
    found = subprocess.run(
        [sys.executable, "-m", "bench.enter", str(path)], env=ENV, capture_output=True, text=True, check=True
    )
    p95, median, fsync, count, pace = (float(v) for v in found.stdout.split())
    note = f"middle {median:.1f} ms of {count:.0f}, machine at {pace:.1f} of the reference time; {p95 / fsync:.0f} times a raw fsync of {fsync:.2f} ms"
    return Measure("Enter to painted and durable, 95 %", p95, 50.0, "ms", note)


def analysis() -> Measure:
    """Analysis of 12 cylinders x 8 levels x 6 angles, nothing cached; floor: as many bare least-squares fits."""
    from bench.analysis import analyse_all, bare_fits

    ours, floor, pace = best(analyse_all), best(bare_fits), best(spin) / REFERENCE_SPIN_S
    note = f"{ours / floor:.1f} times the {floor * 1000:.1f} ms of 96 bare least-squares fits, best of 60, machine at {pace:.1f} of the reference time"
    return Measure("analysis 12 x 8 x 6", ours * 1000 / pace, 20.0, "ms", note)


def cylinder() -> Measure:
    """Minimum-zone cylinder on 360 x 20 sweep points; floor: one least-squares solution of that size."""
    from bench.cylinder import floor, whole

    ours, bare, pace = best(whole), best(floor), best(spin) / REFERENCE_SPIN_S
    note = f"{ours / bare:.0f} times the {bare * 1000:.1f} ms of one least-squares solution, best of 60, machine at {pace:.1f} of the reference time"
    return Measure("minimum-zone cylinder, 360 x 20", ours * 1000 / pace, 100.0, "ms", note)


def repaint(path: Path) -> list[Measure]:
    """Repaint of the gauge step while readings arrive at 20 a second; floor: filling its ground."""
    found = subprocess.run(
        [sys.executable, "-m", "bench.repaint", str(path)], env=ENV, capture_output=True, text=True, check=True
    )
    middle, p95, bare, pace = (float(v) for v in found.stdout.split())
    note = f"filling its ground takes {bare:.2f} ms; machine at {pace:.1f} of the reference time"
    return [
        Measure("repaint of the gauge step, middle", middle, 16.0, "ms", note),
        Measure("repaint of the gauge step, 95 %", p95, 33.0, "ms", note),
    ]


def ladder(path: Path) -> Measure:
    """The redline moved on the size ladder until all is painted anew; floor: filling the window's ground."""
    found = subprocess.run(
        [sys.executable, "-m", "bench.ladder", str(path)], env=ENV, capture_output=True, text=True, check=True
    )
    middle, p95, bare, pace = (float(v) for v in found.stdout.split())
    note = (
        f"middle {middle:.1f} ms; filling its ground takes {bare:.2f} ms; machine at {pace:.1f} of the reference time"
    )
    return Measure("redline moved, all following, 95 %", p95, 30.0, "ms", note)


def simulator() -> Measure:
    """The honing simulator; floor: the same rule as a plain NumPy loop, in the same run."""
    from bench.simulator import ours, plain

    fast, slow = best(ours), best(plain, 5)
    note = f"{slow / fast:.0f} times as fast as a plain NumPy loop over the places of the stone ({slow * 1000:.0f} ms)"
    return Measure("20 strokes simulated, share of a loop", fast / slow, 0.2, "times", note)


def texture() -> Measure:
    """Every figure of a 5.6 mm trace, the middle of many; floor: the filter as a straightforward convolution."""
    from bench.texture import plain, whole

    ours, bare, pace = middle(whole), middle(plain, 20), best(spin) / REFERENCE_SPIN_S
    note = f"{ours / bare:.2f} times the {bare * 1000:.1f} ms that a straightforward convolution takes for the filter alone, machine at {pace:.1f} of the reference time"
    return Measure("all figures of a 5.6 mm trace, middle", ours * 1000 / pace, 15.0, "ms", note)


def check(path: Path) -> Measure:
    """A check booked at the hone until its projection is painted anew; floor: filling the window's ground."""
    found = subprocess.run(
        [sys.executable, "-m", "bench.check", str(path)], env=ENV, capture_output=True, text=True, check=True
    )
    middle, p95, bare, pace = (float(v) for v in found.stdout.split())
    note = (
        f"middle {middle:.1f} ms; filling its ground takes {bare:.2f} ms; machine at {pace:.1f} of the reference time"
    )
    return Measure("check to projection painted, 95 %", p95, 50.0, "ms", note)


LARGE = {  # limits on a logbook of 10,000 jobs; ms of CPU time as this machine runs, or times the floor of the same run by wall time
    "list of jobs, opened and painted": 50.0, "a letter of the search, painted": 50.0, "job 00017 opened and painted": 150.0,
    "job L5000 opened and painted": 150.0, "job L20000 opened and painted": 500.0, "a booking, job 00017": 1.5, "a booking, job L5000": 1.5,
    "a booking, job L20000": 1.5, "strike at 5,000 entries": 50.0, "restore at 5,000 entries": 50.0, "booked and painted, job 00017, 95 %": 33.0,
    "booked and painted, job L20000, 95 %": 33.0, "theme changed and painted": 50.0, "scale changed and painted": 50.0,
    "a booking, an fsync of 2 ms": 1.5,
}  # fmt: skip


def large() -> list[Measure]:
    """Work in a logbook of ten years, made once into build/bench."""
    from bench.large import made

    path = made(ROOT / "build" / "bench" / "large.sqlite")
    found = subprocess.run([sys.executable, "-m", "bench.large_measures", str(path)], env=ENV, capture_output=True, text=True, check=True)  # fmt: skip
    measures = [*told_of(found.stdout, ""), *slow_booking(path)]
    from bench.large_server import measured

    return [*measures, *command_line(path), *start_large(path), *told_of(measured(path, ENV), ", on a server")]


def slow_booking(path: Path) -> list[Measure]:
    """A booking on a disk that takes as long as an ordinary one: a virtual disk answers at once, and shows our arithmetic alone."""
    from bench.booking import SLOW_BOOKING, on_a_slow_disk

    found = on_a_slow_disk(path, ENV)
    if found is None:
        return []
    (wall, cpu), (floor, floor_cpu) = found
    note = f"wall {wall:.2f} ms over {floor:.2f} ms of the same bytes by the bare driver, CPU {cpu:.2f} over {floor_cpu:.2f} ms; judged by wall"
    return [Measure(SLOW_BOOKING, wall / floor, LARGE[SLOW_BOOKING], "times", note)]


def told_of(printed: str, where: str) -> list[Measure]:
    """The measures of a large logbook as they were printed, held against their limits."""
    measures = []
    for line in printed.splitlines():
        name, *figures = line.split("|")
        wall, cpu, floor, floor_cpu, pace = map(float, figures)
        if floor:
            note = f"wall {wall:.2f} ms over {floor:.2f} ms of the same bytes by the bare driver; CPU {cpu:.2f} over {floor_cpu:.2f} ms; judged by wall"  # fmt: skip
            measures.append(Measure(f"{name}{where}", wall / floor, LARGE[name], "times", note))
        else:
            note = f"wall {wall:.1f} ms, CPU {cpu:.1f} ms, machine at {pace:.1f} of the reference time; judged by CPU"
            measures.append(Measure(f"{name}{where}", cpu, LARGE[name], "ms", note))
    return measures


def command_line(path: Path) -> list[Measure]:
    """The list and the version from the command line; floor: Python that does nothing."""

    def run(*words: str) -> float:
        start = time.perf_counter()
        subprocess.run([sys.executable, *words], env=ENV, stdout=subprocess.DEVNULL, check=True)
        return time.perf_counter() - start

    rows = {
        "redline-bore --version": ("-m", "redline_bore", "--version"),
        "redline-bore jobs, a search": ("-m", "redline_bore", "jobs", "--logbook", str(path), "salt", "33"),
    }
    found = []
    for name, words in rows.items():
        run(*words)
        bare, ours = min(run("-c", "pass") for _ in range(11)), min(run(*words) for _ in range(11))
        note = f"{ours * 1000:.0f} ms over {bare * 1000:.0f} ms of a Python that does nothing, best of 11 each; judged by wall"
        found.append(Measure(name, ours / bare, 3.0, "times", note))
    return found


def start_large(path: Path) -> list[Measure]:
    """Start to first paint on the last job of the large logbook, over a bare main window with NumPy imported."""
    script_time("paint.py", str(path), "", "keep")
    bare, full = [], []
    for _ in range(STARTS):
        bare.append(script_time("floor.py"))
        full.append(script_time("paint.py", str(path)))
    return [start_measure("start on the last job of the large one", full, bare)]


def times(work: Callable[[], object], runs: int) -> list[float]:
    """Seconds of each of so many runs."""
    found = []
    for _ in range(runs):
        start = time.perf_counter()
        work()
        found.append(time.perf_counter() - start)
    return found


def best(work: Callable[[], object], runs: int = 60) -> float:
    """The shortest of so many runs, seconds."""
    return min(times(work, runs))


def middle(work: Callable[[], object], runs: int = 60) -> float:
    """The median of so many runs, seconds."""
    return statistics.median(times(work, runs))


def memory(path: Path) -> Measure:
    """Resident memory with the demo logbook open and every step looked at; floor: a bare main window."""
    ours, floor = (
        float(
            subprocess.run(
                [sys.executable, str(HERE / "memory.py"), *words], env=ENV, capture_output=True, text=True, check=True
            ).stdout
        )
        for words in ([str(path)], [])
    )
    return Measure(
        "resident memory",
        ours,
        250.0,
        "MB",
        f"{ours / floor:.1f} times the {floor:.0f} MB of a bare QMainWindow with NumPy",
    )


def main() -> int:
    """Run all measures; returns 1 when one passes its limit."""
    with tempfile.TemporaryDirectory() as folder:
        path = demo_logbook(Path(folder))
        measures = [
            *first_paint(path),
            analysis(),
            cylinder(),
            simulator(),
            texture(),
            memory(path),
            *repaint(path),
            ladder(path),
            check(path),
            enter_to_kept(path),
            *large(),
        ]
    for m in measures:
        print(
            f"{'kept  ' if m.kept else 'OVER  '}  {m.name:36} {m.value:8.2f} {m.unit:6} (limit {m.limit:g})  {m.note}"
        )
    return 0 if all(m.kept for m in measures) else 1


if __name__ == "__main__":
    sys.exit(main())
