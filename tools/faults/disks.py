"""Damaged bytes, a full disk, a file that is gone, a log cut off by the power: told or unharmed, and never believed."""

from __future__ import annotations

import os
import random
import resource
import signal
import tempfile
from pathlib import Path

from redline_bore.core.errors import BenchError
from redline_bore.desk.open_job import OpenJob
from redline_bore.store.exports import write_bytes
from redline_bore.store.logbook import Logbook
from redline_bore.store.shop import shipped_figures
from redline_bore.store.verify import verified
from tools.faults.benches import (
    Faults,
    Ledgers,
    Told,
    clean,
    copied,
    ledgers_of,
    reading,
    refused,
    said,
    sound,
    to_the_end,
)

_was: dict[Path, Ledgers] = {}


def damaged(folder: Path, chance: random.Random) -> Faults:
    """Some bytes changed, a page of noughts, or the end cut off: the logbook is refused, or what is damaged is told, or all is as it was."""
    path = copied(clean(folder), folder / "damaged.sqlite")
    data = bytearray(path.read_bytes())
    kind = chance.randrange(4)
    if kind == 0:
        for _ in range(chance.randint(1, 8)):
            data[chance.randrange(len(data))] ^= 1 << chance.randrange(8)
    elif kind == 1:
        at = chance.randrange(len(data))
        data[at : at + 40] = chance.randbytes(len(data[at : at + 40]))
    elif kind == 2:
        at = chance.randrange(len(data) // 4096) * 4096
        data[at : at + 4096] = bytes(4096)
    else:
        del data[chance.randrange(len(data)) :]
    path.write_bytes(data)
    try:
        book = Logbook(path, make=False)
        try:
            found = verified(book)
            now = {line.number: tuple(said(r) for r in book.ledger(line.job_id)) for line in book.jobs()}
        finally:
            book.close()
    except BenchError:
        return []
    was = _ledgers(folder)
    if found.faults or now == was:
        return []
    missing = [n for n in was if n not in now]
    changed = [(a, b) for n in now if n in was for a, b in zip(was[n], now[n], strict=False) if a != b]
    return [
        f"believed: jobs missing {missing}, {len(changed)} entries changed, {[len(now.get(n, ())) for n in was]} of {[len(was[n]) for n in was]} {changed[:1]}"
    ]


def full(folder: Path, chance: random.Random) -> Faults:
    """A disk that takes so much and no more: what was told is there, what was not is refused in words, no file is cut or left about."""
    path, sheet = copied(clean(folder), folder / "full.sqlite"), folder / "full.pdf"
    sheet.write_bytes(b"before" * 1000)
    most = path.stat().st_size - chance.randrange(path.stat().st_size // 2)  # the log grows up to it

    def work(told: Told) -> None:
        signal.signal(signal.SIGXFSZ, signal.SIG_IGN)
        resource.setrlimit(resource.RLIMIT_FSIZE, (most, resource.RLIM_INFINITY))
        try:
            book = Logbook(path)
            job = book.job_id("2041")
            for n in range(60):
                told(f"kept {book.append(job, 0, [reading(100 * n + i) for i in range(40)])[-1].seq}")
        except BenchError as error:
            told(f"refused {error}")
        resource.setrlimit(resource.RLIMIT_FSIZE, (chance.randrange(1, 6000), resource.RLIM_INFINITY))
        told(f"sheet {refused(lambda: write_bytes(sheet, b'after' * 2000))}")
        told("whole")

    lines = to_the_end(work)
    kept = [int(line.split()[1]) for line in lines if line.startswith("kept ")]
    there = ledgers_of(path)["2041"]
    faults = [] if "whole" in lines else [f"an unplanned exception: {lines[-1:]}"]
    if kept and len(there) < kept[-1]:
        faults.append(f"{len(there)} entries, {kept[-1]} were told")
    if sheet.read_bytes() != b"before" * 1000 or not any(line.startswith("sheet ") and len(line) > 6 for line in lines):
        faults.append("the sheet that was there is gone, or nothing was told")
    if list(folder.glob(".full.pdf*.part")):
        faults.append("a part of a file was left about")
    return faults + sound(path)


def replaced(folder: Path, chance: random.Random) -> Faults:
    """The file, or its log, deleted or another put there while a job is open: every reading told is in a file, once."""
    path = copied(clean(folder), folder / f"replaced{chance.randrange(10**9)}.sqlite")
    book = Logbook(path)
    number = book.job_id("2041")
    job = OpenJob(lambda: book, shipped_figures(), number, book.ledger(number), "RM")
    at, told = chance.randrange(6), 0
    for n in range(8):
        if n == at:
            kind = chance.randrange(4)
            if kind == 0:
                path.unlink()
            elif kind == 1:
                os.replace(copied(clean(folder), folder / "backup.sqlite"), path)
            elif kind == 2:
                path.with_name(path.name + "-wal").unlink(missing_ok=True)
            else:
                os.replace(path, path.with_name(path.name + ".away"))
        draft = reading(n)
        job.book(draft.entry)
        told += 1
    book.close()
    files = [p for p in folder.glob(f"{path.stem}*") if not p.name.endswith(("-wal", "-shm"))]
    wanted = {repr(reading(n).entry) for n in range(8)}
    there: set[str] = set()
    for file in files:
        try:
            for entries in ledgers_of(file).values():
                there |= {w for w in wanted if any(w in e for e in entries)}
        except BenchError:
            continue
    for file in folder.glob(f"{path.stem}*"):
        file.unlink()
    return (
        [] if there == wanted else [f"{len(wanted - there)} of {told} readings are in no file (kind {kind}, at {at})"]
    )


def power(folder: Path, chance: random.Random) -> Faults:
    """The log as a power cut leaves it: all that was told by then is there, and nothing that was never booked."""
    path = copied(clean(folder), folder / "power.sqlite")
    book = Logbook(path)
    job, sizes = book.job_id("2041"), list[tuple[int, int]]()
    log = path.with_name(path.name + "-wal")
    for n in range(12):
        seq = book.append(job, 0, [reading(n)])[-1].seq
        sizes.append((log.stat().st_size, seq))
    all_said = {said(r) for r in book.ledger(job)}
    cut = copied(path, folder / "cut.sqlite")
    book.close()
    cut_log = cut.with_name(cut.name + "-wal")
    cut.with_name(cut.name + "-shm").unlink(missing_ok=True)
    data = cut_log.read_bytes()
    size, kept = chance.choice(sizes)
    least = max(s for s, q in sizes if q <= kept)
    upto = chance.randint(least, len(data))
    cut_log.write_bytes(data[:upto] + chance.randbytes(chance.randrange(0, 9000)))
    there = ledgers_of(cut)["2041"]
    faults = [] if len(there) >= kept else [f"{len(there)} entries, {kept} were told"]
    if not set(there) <= all_said:
        faults.append("an entry that nobody booked")
    return faults + sound(cut)


def read_only(_folder: Path, chance: random.Random) -> Faults:
    """A logbook, or its folder, that cannot be written: all of it is read, nothing is booked, every refusal is in words, nothing is left about."""
    with tempfile.TemporaryDirectory() as name:  # one of its own: whoever is root here works in it as nobody
        folder = Path(name)
        folder.chmod(0o755)
        path = copied(clean(_folder), folder / "read-only.sqlite")
        sheet = folder / "sheet.pdf"
        sheet.write_bytes(b"before")
        was, whole, files = ledgers_of(path), path.read_bytes(), sorted(folder.iterdir())
        kind = chance.randrange(3)
        for file in files:
            file.chmod(0o644 if kind == 1 else 0o444)
        folder.chmod(0o755 if kind == 2 else 0o555)

        def work(told: Told) -> None:
            if os.getuid() == 0:
                os.setgid(NOBODY)
                os.setuid(NOBODY)
            book = Logbook(path, make=False)
            for line in book.jobs():
                told(f"read {line.number} {len(book.ledger(line.job_id))}")
            job = book.job_id("2041")
            told(f"refused {refused(lambda: book.append(job, 0, [reading(chance.randrange(1000))]))}")
            told(f"refused {refused(lambda: book.set_aside('2041', 'RM'))}")
            told(f"refused {refused(lambda: book.set_figure('cleanup.skin', 0.02, 'RM'))}")
            told(f"sheet {refused(lambda: write_bytes(sheet, b'after' * chance.randrange(1, 2000)))}")
            book.close()
            told("whole")

        lines = to_the_end(work)
        folder.chmod(0o755)
        faults = [] if lines[-1:] == ["whole"] else [f"an unplanned exception: {lines[-1:]}"]
        if {line.split()[1]: int(line.split()[2]) for line in lines if line.startswith("read ")} != {
            n: len(r) for n, r in was.items()
        }:
            faults.append("not all of it was read")
        if sum(line.startswith("refused ") and len(line) > 8 for line in lines) != 3 or path.read_bytes() != whole:
            faults.append(f"something was booked, or nothing was said (kind {kind}): {lines}")
        if sheet.read_bytes() != b"before" or sorted(folder.iterdir()) != files:
            faults.append(f"the sheet changed, or a file was left about: {sorted(folder.iterdir())}")
        return faults


NOBODY = 65534
CAMPAIGNS = {"damaged": damaged, "full disk": full, "replaced": replaced, "power cut": power, "read-only": read_only}


def _ledgers(folder: Path) -> Ledgers:
    if folder not in _was:
        _was[folder] = ledgers_of(copied(clean(folder), folder / "as-it-was.sqlite"))
    return _was[folder]
