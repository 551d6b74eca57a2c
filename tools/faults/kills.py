"""Killed in the middle of booking, importing, migrating, writing the demo, writing a file: nothing acknowledged is lost, nothing is half."""

from __future__ import annotations

import random
import tempfile
from functools import cache
from pathlib import Path

from redline_bore.demo.jobs import take_demo
from redline_bore.store.exports import write_bytes
from redline_bore.store.importing import import_job
from redline_bore.store.logbook import Logbook
from redline_bore.store.shop import shipped_figures
from tools.faults.benches import (
    Faults,
    Ledgers,
    Told,
    clean,
    copied,
    job_text,
    killed,
    ledgers_of,
    made_logbook,
    reading,
    sound,
)
from tools.older import as_written_before


def booking(folder: Path, chance: random.Random) -> Faults:
    """Every reading that was acknowledged is there, whole."""
    path = copied(clean(folder), folder / "booking.sqlite")

    def work(told: Told) -> None:
        book = Logbook(path)
        job = book.job_id("2041")
        for n in range(100_000):
            told(str(book.append(job, 0, [reading(n)])[-1].seq))

    acknowledged = killed(work, chance.uniform(0.0, 0.06))
    there = ledgers_of(path)["2041"]
    faults = (
        []
        if not acknowledged or len(there) >= int(acknowledged[-1])
        else [f"{len(there)} entries, {acknowledged[-1]} were told"]
    )
    return faults + sound(path)


def importing(folder: Path, chance: random.Random) -> Faults:
    """A job from a file is there whole or not at all; told means there."""
    path = copied(clean(folder), folder / "importing.sqlite")
    file = folder / "job.json"
    if not file.exists():
        file.write_text(job_text("0.6.0-2036"))
    figures = shipped_figures()

    def work(told: Told) -> None:
        book = Logbook(path)
        told(import_job(book, file, figures))

    return _whole(path, killed(work, chance.uniform(0.0, 0.12)), {"2036": _entries("0.6.0-2036")})


def demo(folder: Path, chance: random.Random) -> Faults:
    """Each sample job is there whole or not at all."""
    path = copied(clean(folder, ()), folder / "demo.sqlite")
    figures = shipped_figures()

    def work(told: Told) -> None:
        tempfile.tempdir = str(folder)  # what the killed one leaves goes with it
        for number in take_demo(Logbook(path), figures):
            told(number)

    return _whole(path, killed(work, chance.uniform(0.0, 0.9)), _demo_entries())


def migration(folder: Path, chance: random.Random) -> Faults:
    """A logbook of an earlier program holds what it held, whenever the change of its tables was cut off."""
    old = folder / "clean-old.sqlite"
    if not old.exists():
        made_logbook(old)
        as_written_before(old, "0002")
    path = copied(old, folder / "migration.sqlite")
    killed(lambda told: (Logbook(path), told("migrated"))[1], chance.uniform(0.0, 0.25))
    was, now = ledgers_of(clean(folder)), ledgers_of(path)
    return ([] if was == now else ["the entries are not those that were there"]) + sound(path)


def writing(folder: Path, chance: random.Random) -> Faults:
    """A file that is written over is the one before or the one after."""
    path = folder / "sheet.pdf"
    kinds = [bytes([65 + i]) * (200_000 + 50_000 * i) for i in range(4)]
    if not path.exists():
        path.write_bytes(kinds[0])

    def work(told: Told) -> None:
        for n in range(100_000):
            write_bytes(path, kinds[n % 4])
            told(str(n % 4))

    told = killed(work, chance.uniform(0.0, 0.03))
    found = path.read_bytes()
    good = kinds if not told else [kinds[int(told[-1])], kinds[(int(told[-1]) + 1) % 4]]
    return [] if found in good else [f"a torn file of {len(found)} bytes"]


CAMPAIGNS = {"booking": booking, "import": importing, "demo": demo, "migration": migration, "export": writing}


@cache
def _entries(name: str) -> int:
    from redline_bore.store.job_file import job_from_json

    return len(job_from_json(job_text(name), shipped_figures()).ledger)


@cache
def _demo_entries() -> dict[str, int]:
    with tempfile.TemporaryDirectory() as folder:
        book = Logbook(Path(folder) / "demo.sqlite")
        take_demo(book, shipped_figures())
        counts = {line.number: len(book.ledger(line.job_id)) for line in book.jobs()}
        book.close()
    return counts


def _whole(path: Path, told: list[str], wanted: dict[str, int]) -> Faults:
    found: Ledgers = ledgers_of(path)
    faults = [
        f"{n}: {len(found[n])} of {wanted[n]} entries" for n in wanted if n in found and len(found[n]) != wanted[n]
    ]
    faults += [f"{n} was told and is not there" for n in wanted if any(n in line for line in told) and n not in found]
    return faults + sound(path)
