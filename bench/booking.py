"""A booking beside the same bytes through the bare driver, in the same run: on this machine's disk, and on one that takes two milliseconds for an fsync.

``python -m bench.booking PATH``, or ``URL URL-OF-ITS-KEEPER``, prints ``wall ms|cpu ms|floor ms|floor cpu ms`` of a logbook's last job.
"""

from __future__ import annotations

import os
import shutil
import sqlite3
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from itertools import count
from pathlib import Path

from redline_bore.desk.desk import Desk
from redline_bore.desk.open_job import OpenJob
from redline_bore.job.kinds.gauge import ReadingBooked

Pair = tuple[float, float]  # wall and CPU, ms
SLOW_US = 2000  # an fsync of an ordinary disk; a virtual one answers at once
SLOW_BOOKING = f"a booking, an fsync of {SLOW_US / 1000:g} ms"
SLOW_DISK = f"""
#define _GNU_SOURCE
#include <unistd.h>
#include <sys/syscall.h>
int fsync(int fd) {{ usleep({SLOW_US}); return syscall(SYS_fsync, fd); }}
int fdatasync(int fd) {{ usleep({SLOW_US}); return syscall(SYS_fdatasync, fd); }}
"""


def timed(work: Callable[[], object]) -> Pair:
    wall, cpu = time.perf_counter(), time.process_time()
    work()
    return (time.perf_counter() - wall) * 1e3, (time.process_time() - cpu) * 1e3


def middle(pairs: list[Pair]) -> Pair:
    return statistics.median(p[0] for p in pairs), statistics.median(p[1] for p in pairs)


def reading(n: int) -> ReadingBooked:
    return ReadingBooked(
        cylinder=1, depth_mm=24.0, clock_deg=30.0 * (n % 6), diameter_mm=105.1 + n % 70 / 1e4, plate_on=True
    )


def bare(folder: Path) -> Iterator[Pair]:
    """The bytes of an entry, the line and the turn, committed by the driver itself into the same file's copy of the tables; a booking each."""
    raw = sqlite3.connect(folder / "bare.sqlite", isolation_level=None)
    raw.execute("PRAGMA journal_mode=WAL")
    raw.execute("PRAGMA synchronous=FULL")
    raw.execute(
        "CREATE TABLE entry (job_id, seq, at, person, instrument, block_c, typed, kind, version, body, hash, PRIMARY KEY (job_id, seq))"
    )
    raw.execute("CREATE TABLE line (job_id INTEGER PRIMARY KEY, said, turn)")
    raw.execute("INSERT INTO line VALUES (1, ?, 0)", ("x" * 420,))

    def one(seq: int) -> None:
        raw.execute("BEGIN IMMEDIATE")
        raw.execute("INSERT INTO entry VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)", (1, seq, "2026-11-24T10:00:00.000+00:00", "RM", "", 20.0, "105.1", "reading_booked", 1, "x" * 190, "y" * 64))  # fmt: skip
        raw.execute("UPDATE line SET said = ?, turn = ? WHERE job_id = 1", ("x" * 420, seq))
        raw.execute("COMMIT")

    for seq in count(1):
        yield timed(lambda s=seq: one(s))  # type: ignore[misc]


def bare_served(url: str) -> Iterator[Pair]:
    """The same by the server's own driver, in tables beside the logbook's."""
    import psycopg

    with psycopg.connect(url, autocommit=True) as raw:
        raw.execute("DROP TABLE IF EXISTS bare_entry, bare_line")
        raw.execute(
            "CREATE TABLE bare_entry (job_id int, seq serial, at text, person text, instrument text, block_c float, typed text, kind text, version int, body text, hash text, PRIMARY KEY (job_id, seq))"
        )
        raw.execute("CREATE TABLE bare_line (job_id int PRIMARY KEY, said text, turn int)")
        raw.execute("INSERT INTO bare_line VALUES (1, %s, 0)", ("x" * 420,))

        def one(n: int) -> None:
            with raw.transaction():
                raw.execute("INSERT INTO bare_entry (job_id, at, person, instrument, block_c, typed, kind, version, body, hash) VALUES (1, %s, 'RM', '', 20.0, '105.1', 'reading_booked', 1, %s, %s)", ("2026-11-24T10:00:00.000+00:00", "x" * 190, "y" * 64))  # fmt: skip
                raw.execute("UPDATE bare_line SET said = %s, turn = %s WHERE job_id = 1", ("x" * 420, n))

        for n in count(1):
            yield timed(lambda n=n: one(n))  # type: ignore[misc]


def booked(job: OpenJob, n: int) -> Pair:
    """Until it is on the disk. What follows from it is worked out behind that, and counts in the frame."""
    took = timed(lambda: job.book(reading(n), typed="105.1"))
    _ = job.state
    return took


def bookings(job: OpenJob, floor: Iterator[Pair]) -> tuple[Pair, Pair]:
    """A booking into a job and its floor, the middle of each. By turns, one of each: at a bench nothing stands ready from the booking before."""
    both = [(booked(job, n), next(floor)) for n in range(240)][20:]
    return middle([ours for ours, _floor in both]), middle([bare for _ours, bare in both])


def on_a_slow_disk(path: Path, env: dict[str, str]) -> tuple[Pair, Pair] | None:
    """The same where an fsync takes as long as an ordinary disk's; None where nothing compiles on this machine."""
    compiler = shutil.which("cc") or shutil.which("gcc")
    if compiler is None:
        return None
    with tempfile.TemporaryDirectory() as folder:
        source, library = Path(folder) / "slow.c", Path(folder) / "slow.so"
        source.write_text(SLOW_DISK)
        subprocess.run([compiler, "-shared", "-fPIC", "-o", library, source], check=True, capture_output=True)
        slow = env | {"LD_PRELOAD": str(library)}
        line = [sys.executable, "-m", "bench.booking", str(path)]
        printed = subprocess.run(line, env=slow, capture_output=True, text=True, check=True).stdout
    wall, cpu, floor, floor_cpu = map(float, printed.split("|"))
    return (wall, cpu), (floor, floor_cpu)


def main() -> None:
    """A booking into the last job of a copy of a logbook, or of a server's."""
    from redline_bore.store.logbook import Logbook
    from redline_bore.store.shop import shipped_figures

    served = "://" in sys.argv[1]
    folder = Path(tempfile.mkdtemp(dir=None if served else Path(sys.argv[1]).parent))
    where = sys.argv[1] if served else Path(shutil.copy(sys.argv[1], folder / "x.sqlite"))
    desk = Desk(lambda: Logbook(where), shipped_figures(), "RM")
    number = desk.logbook.newest_number()
    assert number is not None
    ours, floor = bookings(desk.open(number), bare_served(sys.argv[2]) if served else bare(folder))
    shutil.rmtree(folder)
    print("|".join(f"{v:.3f}" for v in (*ours, *floor)), flush=True)
    os._exit(0)


if __name__ == "__main__":
    main()
