"""What the campaigns stand on: logbooks to hurt, a child that is killed, and what must be found afterwards."""

from __future__ import annotations

import gzip
import os
import shutil
import signal
import sqlite3
import time
from collections.abc import Callable
from pathlib import Path

from redline_bore.core.errors import BenchError
from redline_bore.job.kinds.entry import Draft, Record
from redline_bore.job.kinds.gauge import ReadingBooked
from redline_bore.store.job_file import job_from_json
from redline_bore.store.logbook import Logbook
from redline_bore.store.shop import shipped_figures
from redline_bore.store.verify import verified

LEDGERS = Path(__file__).parents[2] / "tests" / "fixtures" / "ledgers"
JOBS = ("0.6.0-2041", "0.6.0-2047")
WHO = "RM"
Ledgers = dict[str, tuple[str, ...]]
Told = Callable[[str], None]
Faults = list[str]


def job_text(name: str) -> str:
    """A job as it was exported once."""
    return gzip.decompress((LEDGERS / f"{name}.json.gz").read_bytes()).decode()


def made_logbook(path: Path, names: tuple[str, ...] = JOBS) -> Path:
    """A logbook with some jobs, closed and in one file."""
    book = Logbook(path)
    for name in names:
        book.take_ledger(
            [
                Draft(r.entry, r.person, r.instrument, r.block_c, r.typed, r.at)
                for r in job_from_json(job_text(name), shipped_figures()).ledger
            ]
        )
    book.close()
    with sqlite3.connect(path) as raw:
        raw.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    return path


def clean(folder: Path, names: tuple[str, ...] = JOBS) -> Path:
    """The logbook that a campaign hurts copies of: made once, in one file."""
    path = folder / f"clean-{len(names)}.sqlite"
    return path if path.exists() else made_logbook(path, names)


def said(record: Record) -> str:
    """Everything of an entry but its link."""
    return repr((record.seq, record.at, record.person, record.instrument, record.block_c, record.typed, record.entry))


def ledgers_of(path: Path) -> Ledgers:
    """Every job's entries. Raises BenchError where the logbook cannot be read."""
    book = Logbook(path, make=False)
    try:
        return {line.number: tuple(said(r) for r in book.ledger(line.job_id)) for line in book.jobs()}
    finally:
        book.close()


def reading(n: int) -> Draft:
    """A reading that can be known again."""
    return Draft(
        ReadingBooked(cylinder=1, depth_mm=20.0, clock_deg=90.0, diameter_mm=105.0 + n / 1e6, plate_on=True), WHO
    )


def copied(source: Path, target: Path) -> Path:
    """A copy of a logbook with its log, over what was there."""
    for tail in ("", "-wal", "-shm"):
        target.with_name(target.name + tail).unlink(missing_ok=True)
        if source.with_name(source.name + tail).exists():
            shutil.copyfile(source.with_name(source.name + tail), target.with_name(target.name + tail))
    return target


def killed(work: Callable[[Told], None], after_s: float) -> list[str]:
    """Run ``work`` in a child that is killed after so many seconds of it; returns the lines it had acknowledged. Raises RuntimeError where it was an
    exception that ended it."""
    lines = _in_a_child(work, after_s)
    if broken := [line for line in lines if line.startswith("fault")]:
        raise RuntimeError(broken[0])
    return lines


def to_the_end(work: Callable[[Told], None]) -> list[str]:
    """Run ``work`` in a child until it ends of itself; returns the lines it told, and the exception that ended it."""
    return _in_a_child(work, None)


def _in_a_child(work: Callable[[Told], None], after_s: float | None) -> list[str]:
    out, into = os.pipe()
    child = os.fork()
    if child == 0:
        os.close(out)
        _work_and_end(work, into)
    os.close(into)
    with os.fdopen(out, "rb") as heard:
        heard.readline()  # it has begun
        if after_s is not None:
            time.sleep(after_s)
            os.kill(child, signal.SIGKILL)
        lines = heard.read().decode().split("\n")[:-1]
    os.waitpid(child, 0)
    return lines


def _work_and_end(work: Callable[[Told], None], into: int) -> None:
    try:
        os.write(into, b"begun\n")
        work(lambda line: (os.write(into, line.encode() + b"\n"), None)[1])
    except BaseException as error:
        os.write(into, f"fault {type(error).__name__}: {error}\n".encode())
    finally:
        os._exit(0)


def sound(path: Path) -> Faults:
    """What ``verify`` finds wrong."""
    book = Logbook(path, make=False)
    try:
        return list(verified(book).faults)
    finally:
        book.close()


def refused(work: Callable[[], object]) -> str:
    """What a planned refusal said, or nothing where none came. Any other exception goes through: it is a fault."""
    try:
        work()
    except BenchError as error:
        return str(error)
    return ""
