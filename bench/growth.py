"""How the cost of work grows with the logbook: ``python -m bench.growth`` measures at 100, 1,000 and 10,000 jobs and prints, of every figure, the three
and the exponent of a straight line through their logarithms: 0 does not grow, 1 grows as the logbook does.
"""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

import numpy as np

from bench.__main__ import ENV, ROOT, command_line, start_large
from bench.large import made

SIZES = (100, 1_000, 10_000)
FLAT = 0.25  # an exponent that noise makes, and a word of one letter, for which the list is read through


def figures_at(jobs: int) -> dict[str, float]:
    """CPU ms of every figure in a logbook of so many jobs; of the command line and the start times their floor, by wall."""
    path = made(ROOT / "build" / "bench" / ("large.sqlite" if jobs == SIZES[-1] else f"l{jobs}.sqlite"), jobs)
    found = {}
    for line in _printed(path).splitlines():
        name, _wall, cpu, *_rest = line.split("|")
        found[f"{name}, ms"] = float(cpu)
    for measure in (*command_line(path), *start_large(path)):
        found[f"{measure.name}, times"] = measure.value
    return found


def _printed(path: Path) -> str:
    line = [sys.executable, "-m", "bench.large_measures", str(path)]
    return subprocess.run(line, env=ENV, capture_output=True, text=True, check=True).stdout


def exponent(values: list[float]) -> float:
    """Of a power of the count of jobs."""
    return float(np.polyfit(np.log(SIZES), np.log(values), 1)[0])


def main() -> int:
    """Print the table; 1 where a figure grows."""
    columns = [figures_at(n) for n in SIZES]
    grows = 0
    print(f"{'':42}" + "".join(f"{n:>10,}" for n in SIZES) + "  exponent")
    for name in columns[0]:
        values = [c[name] for c in columns]
        power = exponent(values)
        grows += power > FLAT
        print(f"{name:42}" + "".join(f"{v:10.2f}" for v in values) + f"  {power:8.2f}")
    return int(grows > 0)


if __name__ == "__main__":
    sys.exit(main())
