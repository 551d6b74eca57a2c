"""``make faults COUNT=2000``: kills, damaged files, a full disk, a file that went away, power cuts; one line of counts at the end."""

from __future__ import annotations

import argparse
import os
import random
import sys
import tempfile
import time
import traceback
from pathlib import Path

from tools.faults import disks, kills, wires
from tools.servers import binaries

CAMPAIGNS = {**kills.CAMPAIGNS, **disks.CAMPAIGNS, **(wires.CAMPAIGNS if binaries() is not None else {})}
SLOW = {"server killed": 10}  # a server takes a second to start: so many times fewer


def faults_of(name: str, count: int, seed: int, folder: Path) -> list[str]:
    """Run a campaign so many times; what went wrong, each with the seed that shows it."""
    found = []
    for n in range(seed, seed + count):
        try:
            found += [f"{name} {n}: {fault}" for fault in CAMPAIGNS[name](folder, random.Random(f"{name} {n}"))]
        except Exception:
            found.append(f"{name} {n}: {traceback.format_exc(limit=-4)}")
    return found


def main() -> int:
    parser = argparse.ArgumentParser(prog="faults", description=__doc__)
    parser.add_argument("--count", type=int, default=2000, help="kills in all, and damaged logbooks")
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--campaign", choices=list(CAMPAIGNS))
    given = parser.parse_args()
    names = [given.campaign] if given.campaign else list(CAMPAIGNS)
    counts, found = dict[str, int](), list[str]()
    for name in names:
        part = given.count if name == "damaged" else given.count // 2 if name in wires.CAMPAIGNS else given.count // len(kills.CAMPAIGNS)  # fmt: skip
        part = max(part // SLOW.get(name, 1), 1)
        began = time.monotonic()
        with tempfile.TemporaryDirectory() as folder:
            os.environ["XDG_DATA_HOME"] = folder  # nothing is written into anybody's home
            faults = faults_of(name, part, given.seed, Path(folder))
        counts[name], found = part, found + faults
        print(f"{name:10} {part:6d} in {time.monotonic() - began:5.0f} s, {len(faults)} faults", flush=True)
        for fault in faults[:10]:
            print(fault)
    wires.end_server()
    if binaries() is None:
        print("no PostgreSQL server on this machine: its campaigns did not run (apt-get install postgresql)")
    killed = sum(n for name, n in counts.items() if name in kills.CAMPAIGNS)
    rest = ", ".join(f"{n} {name}" for name, n in counts.items() if name not in kills.CAMPAIGNS)
    print(
        f"{killed} kills, {rest}: {len(found)} faults (acknowledged entries lost, files torn, changed entries believed, tracebacks)"
    )
    return 1 if found else 0


if __name__ == "__main__":
    sys.exit(main())
