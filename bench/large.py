"""A logbook as a shop of ten years has it: 10,000 jobs and two million entries, made from the sample jobs, and what it costs to work in it.

``python -m bench.large PATH [JOBS]`` makes it; ``bench.large_measures`` measures in it.
"""

from __future__ import annotations

import json
import sqlite3
import sys
import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from redline_bore.job.kinds.codec import to_plain
from redline_bore.job.kinds.gauge import ReadingBooked
from redline_bore.store.chain import link
from redline_bore.store.logbook import Logbook
from redline_bore.store.shop import shipped_figures

JOBS, ENTRIES, FAMILIES = 10_000, 200, 40
LONG = {"L5000": 5_000, "L20000": 20_000}
OWNERS = (
    "Saltmarsh pumping station",
    "Fellside brewery",
    "Canal launch",
    "Tarn mill",
    "Orchard sprayer",
    "Harbour crane",
    "Quarry locomotive",
)
COLUMNS = "job_id, seq, at, person, instrument, block_c, typed, kind, version, body, hash"


def made(path: Path, jobs: int = JOBS) -> Path:
    """The large logbook, made once; the last of its jobs is of everyday length, and worked on last."""
    if path.exists():
        return path
    part = path.with_suffix(".part")
    part.unlink(missing_ok=True)
    path.parent.mkdir(parents=True, exist_ok=True)
    template = _templates()
    Logbook(part).close()
    raw = sqlite3.connect(part, isolation_level=None)
    raw.execute("PRAGMA synchronous=OFF")
    raw.execute("BEGIN")
    raw.execute("INSERT INTO figure_set VALUES (?, ?)", template["figures"])
    numbers = [*LONG, *(f"{n + 1:05d}" for n in range(jobs))]
    for job_id, number in enumerate(numbers, start=1):
        of = -1 if number in LONG else job_id % len(template["jobs"])  # the long ones are open, and still gauged
        _put(raw, template["jobs"][of], job_id, number, LONG.get(number, ENTRIES))
    raw.execute("COMMIT")
    raw.execute("ANALYZE")
    raw.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    raw.close()
    part.rename(path)
    return path


def _templates() -> dict[str, Any]:
    """The sample jobs as they lie in a logbook: rows of entries, the line, what is kept."""
    from redline_bore.demo.jobs import write_demo

    with tempfile.TemporaryDirectory() as folder:
        book = Logbook(Path(folder) / "x.sqlite")
        write_demo(book, shipped_figures())
        book.close()
        raw = sqlite3.connect(Path(folder) / "x.sqlite")
        raw.row_factory = sqlite3.Row
        jobs = []
        for line in raw.execute("SELECT * FROM job_line ORDER BY turn").fetchall():
            entries = raw.execute("SELECT * FROM entry WHERE job_id = ? ORDER BY seq", (line["job_id"],)).fetchall()
            kept = raw.execute("SELECT * FROM job_kept WHERE job_id = ?", (line["job_id"],)).fetchall()
            jobs.append((dict(line), [dict(e) for e in entries], [dict(k) for k in kept]))
        figures = tuple(raw.execute("SELECT * FROM figure_set").fetchone())
        raw.close()
    return {"jobs": jobs, "figures": figures}


def _put(raw: sqlite3.Connection, job: tuple[Any, ...], job_id: int, number: str, count: int) -> None:
    line, entries, kept = job
    owner = f"{OWNERS[job_id % len(OWNERS)]} {job_id % 97}"
    engine = f"{line['engine']} {job_id % FAMILIES}"
    raw.execute("INSERT INTO job VALUES (?, ?, ?)", (job_id, number, line["opened_at"]))
    rows, before = [], ""
    for e in _so_many(entries, count):
        body = _named(e["body"], line, number, owner, engine) if e["seq"] == 1 else e["body"]
        place = len(rows) + 1
        before = link(before, place, e["at"], e["person"], e["instrument"], e["block_c"], e["typed"], 1, body)
        rows.append(
            (job_id, place, e["at"], e["person"], e["instrument"], e["block_c"], e["typed"], e["kind"], 1, body, before)
        )
    raw.executemany(f"INSERT INTO entry ({COLUMNS}) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)", rows)
    told = line | {
        "job_id": job_id, "number": number, "owner": owner, "engine": engine, "seq": len(rows), "link": before, "turn": job_id,
    }  # fmt: skip
    raw.execute(f"INSERT INTO job_line VALUES ({', '.join('?' * len(told))})", list(told.values()))
    raw.execute("INSERT INTO job_words (rowid, words) VALUES (?, ?)", (job_id, "\n".join((number, owner, engine, ""))))
    for k in kept:
        key = engine if k["key"] == line["engine"] else k["key"]
        raw.execute(
            "INSERT INTO job_kept VALUES (?, ?, ?, ?)",
            (job_id, k["name"], key, _named(k["body"], line, number, owner, engine)),
        )


def _named(body: str, line: dict[str, Any], number: str, owner: str, engine: str) -> str:
    for was, now in ((line["number"], number), (line["owner"], owner), (line["engine"], engine)):
        body = body.replace(json.dumps(was), json.dumps(now))
    return body


def _so_many(entries: list[dict[str, Any]], count: int) -> Iterator[dict[str, Any]]:
    """A job's own entries, and gaugings of its first cylinder behind them as often as it takes."""
    yield from entries[:count]
    last = entries[0]
    for n in range(count - len(entries)):
        reading = ReadingBooked(
            cylinder=1, depth_mm=24.0, clock_deg=30.0 * (n % 6), diameter_mm=105.1 + n % 50 / 1000, plate_on=True
        )
        yield last | {"seq": 0, "kind": "reading_booked", "body": json.dumps(to_plain(reading)), "typed": "105.1"}


if __name__ == "__main__":
    print(made(Path(sys.argv[1]), int(sys.argv[2]) if len(sys.argv) > 2 else JOBS))
