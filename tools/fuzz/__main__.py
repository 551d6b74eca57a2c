"""``make fuzz MINUTES=10``: every parser under a coverage-guided fuzzer, the corpus kept in build/fuzz; one line of counts at the end.

Without the fuzzer (no build of it for this machine), random mutations for as long, and it says so.
"""

from __future__ import annotations

import argparse
import os
import re
import subprocess
import sys
import time
from pathlib import Path

from tools.fuzz.run import Count, mutated
from tools.fuzz.targets import TARGETS, seeds_of

CORPUS = Path("build/fuzz")
ONE = """
import sys, atheris
with atheris.instrument_imports(include=["redline_bore"]):
    from tools.fuzz.targets import TARGETS
from redline_bore.core.errors import BenchError
target = TARGETS[sys.argv[1]]
def one(data):
    try:
        target(data)
    except BenchError:
        pass
atheris.Setup([sys.argv[0], *sys.argv[2:]], one)
atheris.Fuzz()
"""


def main() -> int:
    parser = argparse.ArgumentParser(prog="fuzz", description=__doc__)
    parser.add_argument("--minutes", type=float, default=10.0)
    parser.add_argument(
        "--inputs",
        type=int,
        default=0,
        help="then so many mutations in all of the corpus that was found, uninstrumented",
    )
    parser.add_argument("--target", choices=list(TARGETS))
    given = parser.parse_args()
    names, os.environ["QT_QPA_PLATFORM"] = [given.target] if given.target else list(TARGETS), "offscreen"
    each, guided = max(given.minutes * 60.0 / len(names), 1.0), _has_fuzzer()
    if not guided:
        print("There is no coverage-guided fuzzer on this machine: random mutations are tried instead")
    total, faults = 0, []
    for name in names:
        counts = [_guided(name, each) if guided else _random(name, each)] if given.minutes > 0.0 else []
        if given.inputs:
            counts.append(mutated(name, given.inputs // len(names), 1, _corpus(name)))
        for count in counts:
            total += count.inputs
            faults += count.faults
            rate = count.inputs / max(count.seconds, 1e-9)
            print(f"{name:16} {count.inputs:9d} inputs, {rate:8.0f} a second, {len(count.faults)} faults", flush=True)
    for fault in faults:
        print(fault)
    print(
        f"{len(names)} parsers, {total} inputs, {len(faults)} faults (unplanned exceptions, over 1 s of CPU, over 200 MB)"
    )
    return 1 if faults else 0


def _has_fuzzer() -> bool:
    return subprocess.run([sys.executable, "-c", "import atheris"], capture_output=True, check=False).returncode == 0


def _guided(name: str, seconds: float) -> Count:
    corpus = CORPUS / name
    corpus.mkdir(parents=True, exist_ok=True)
    for i, seed in enumerate(seeds_of(name)):
        (corpus / f"seed{i:03d}").write_bytes(seed)
    words = [
        f"-max_total_time={int(seconds)}",
        "-timeout=5",
        "-rss_limit_mb=2048",
        "-malloc_limit_mb=400",
        "-max_len=70000",
        f"-artifact_prefix={corpus}-",
    ]
    began = time.monotonic()
    done = subprocess.run(
        [sys.executable, "-c", ONE, name, str(corpus), *words], capture_output=True, text=True, check=False
    )
    found = re.findall(r"^#(\d+)", done.stderr, re.MULTILINE)
    count = Count(int(found[-1]) if found else 0, 0, time.monotonic() - began)
    if done.returncode != 0:
        count.faults.append(f"{name}:\n{done.stderr[-3000:]}")
    return count


def _corpus(name: str) -> list[bytes]:
    """What the fuzzer found worth keeping for a target, on earlier runs too."""
    folder = CORPUS / name
    return [f.read_bytes() for f in sorted(folder.iterdir())] if folder.is_dir() else []


def _random(name: str, seconds: float) -> Count:
    total, began, seed = Count(), time.monotonic(), 0
    while time.monotonic() - began < seconds:
        part = mutated(name, 500, seed)
        seed += 1
        total.inputs, total.seconds = total.inputs + part.inputs, total.seconds + part.seconds
        total.faults += part.faults
    return total


if __name__ == "__main__":
    sys.exit(main())
