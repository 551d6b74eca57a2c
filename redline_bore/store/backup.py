"""Backups: whole, checked copies of a logbook made while it is worked in, kept by age; and putting one back.

A backup is a logbook file like any other, whatever the logbook it was made of stood in.
"""

from __future__ import annotations

import os
import sqlite3
from collections.abc import Callable, Iterator, Sequence
from datetime import UTC, datetime, timedelta
from functools import partial
from pathlib import Path
from typing import Any

import sqlalchemy as sa

from redline_bore.core.errors import EnvironmentTrouble, InputError
from redline_bore.core.frozen import frozen
from redline_bore.store.chain import link
from redline_bore.store.file_connection import version_of
from redline_bore.store.logbook import Logbook
from redline_bore.store.move import copied
from redline_bore.store.schema import ENTRY_COLUMNS
from redline_bore.store.tables import entry_table

STAMP = "%Y%m%d-%H%M%S"
KEPT_ALL, KEPT_DAILY, KEPT_WEEKLY = timedelta(days=2), timedelta(days=60), timedelta(days=730)
PAGES = 500  # of the file at a time, so that nobody who books waits


@frozen
class Backup:
    """A backup by its file, and when it was made (UTC)."""

    path: Path
    at: datetime


def back_up(logbook: Logbook, folder: Path, tick: Callable[[int, int], None] | None = None, at: datetime | None = None) -> Path:  # fmt: skip
    """Copy a logbook into a folder, check the copy, and thin out the older ones by age; returns the copy's path.

    It has its name only once it is whole and checked. Raises EnvironmentTrouble where it cannot be written, or is not what it is a copy of.
    """
    if not folder.is_dir():
        raise EnvironmentTrouble(f"There is no folder {folder}; no backup was made")
    stamp = (at or datetime.now(UTC)).strftime(STAMP)
    path, part = folder / f"{_stem(logbook)}-{stamp}.sqlite", folder / f".{_stem(logbook)}-{stamp}.part"
    for left in folder.glob(f".{_stem(logbook)}-*.part*"):
        left.unlink(missing_ok=True)
    try:
        if logbook.is_file:
            _copy_file(logbook.path, part, tick)
        else:
            os.close(os.open(part, os.O_CREAT | os.O_EXCL | os.O_RDWR, 0o600))
            target = Logbook(part)
            copied(logbook, target, tick)
            target.close()
        _in_one_file(part)
        _checked(part, partial(_was_so, logbook))
        os.replace(part, path)
    except (OSError, sqlite3.Error) as error:
        raise EnvironmentTrouble(f"No backup could be made in {folder}: {error}") from error
    finally:
        for left in (part, Path(f"{part}-wal"), Path(f"{part}-shm")):
            left.unlink(missing_ok=True)
    thin(folder, _stem(logbook), at or datetime.now(UTC))
    return path


def backups_in(folder: Path, stem: str) -> tuple[Backup, ...]:
    """The backups of a logbook in a folder, the newest first."""
    found = []
    for path in folder.glob(f"{stem}-*.sqlite"):
        try:
            found.append(Backup(path, datetime.strptime(path.stem[len(stem) + 1 :], STAMP).replace(tzinfo=UTC)))
        except ValueError:
            continue  # a file of somebody else's
    return tuple(sorted(found, key=lambda b: b.at, reverse=True))


def thin(folder: Path, stem: str, now: datetime) -> tuple[Path, ...]:
    """Keep every backup of two days, one a day for two months, one a week for two years, and always the newest; returns what was taken away."""
    gone = [b.path for b in too_many(backups_in(folder, stem), now)]
    for path in gone:
        path.unlink(missing_ok=True)
    return tuple(gone)


def too_many(backups: Sequence[Backup], now: datetime) -> tuple[Backup, ...]:
    """Those that need not be kept; ``backups``: the newest first. Of a day and of a week the newest stays."""
    seen, gone = set[tuple[str, str]](), []
    for i, b in enumerate(backups):
        age = now - b.at
        if i == 0 or age <= KEPT_ALL:
            continue
        span = ("day", f"{b.at:%Y-%m-%d}") if age <= KEPT_DAILY else ("week", f"{b.at:%G-%V}")
        if age > KEPT_WEEKLY or span in seen:
            gone.append(b)
        seen.add(span)
    return tuple(gone)


def put_back(backup: Path, target: Path) -> None:
    """Put a backup in a logbook's place; what stood there is kept beside it under another name.

    Raises InputError where it is no logbook, EnvironmentTrouble where it is damaged or somebody has the logbook open.
    """
    if not backup.is_file() or not version_of(backup):
        raise InputError(f"{backup} is no logbook of this program")
    _checked(backup)
    part = target.with_name(f".{target.name}.part")
    try:
        _copy_file(backup, part, None)
        _in_one_file(part)
        if target.exists():
            _nobody_has(target)
        stamp = datetime.now(UTC).strftime(STAMP)
        aside = target.with_name(f"{target.stem}-before-restore-{stamp}{target.suffix}")
        for log in ("-wal", "-shm", ""):  # a log that was left lying would be played into the file that is put there
            if (left := target.with_name(f"{target.name}{log}")).exists():
                os.replace(left, aside.with_name(f"{aside.name}{log}"))
        os.replace(part, target)
    except (OSError, sqlite3.Error) as error:
        raise EnvironmentTrouble(f"{backup} could not be put back: {error}") from error
    finally:
        part.unlink(missing_ok=True)


def _stem(logbook: Logbook) -> str:
    return logbook.path.stem


def _copy_file(source: Path, target: Path, tick: Callable[[int, int], None] | None) -> None:
    """The file's own online copy, a few pages at a time: what is booked meanwhile is in it or waits for nobody."""
    os.close(os.open(target, os.O_CREAT | os.O_RDWR | os.O_TRUNC, 0o600))
    there, here = sqlite3.connect(f"{source.absolute().as_uri()}?mode=ro", uri=True), sqlite3.connect(str(target))
    try:
        there.execute("BEGIN")  # as it stands now: what is booked meanwhile neither waits nor begins the copy anew
        there.execute("SELECT count(*) FROM sqlite_master").fetchone()
        there.backup(here, pages=PAGES, progress=None if tick is None else lambda _s, left, whole: tick(whole - left, whole))  # fmt: skip
    finally:
        there.close()
        here.close()


def _in_one_file(path: Path) -> None:
    """Write everything into the file itself, so that it can be carried about, and onto the disk."""
    raw = sqlite3.connect(str(path))
    try:
        raw.execute("PRAGMA journal_mode=DELETE")
    finally:
        raw.close()
    with path.open("rb+") as file:
        os.fsync(file.fileno())


def _was_so(logbook: Logbook, job_id: int, row: Sequence[object]) -> bool:
    """Whether an entry stood in the logbook as it stands in its copy: damage that was there is copied, and told by verify."""
    e = entry_table.c
    found = logbook.rows(sa.select(*(e[name] for name in ENTRY_COLUMNS)).where(e.job_id == job_id, e.seq == row[0]))
    return bool(found) and tuple(found[0]) == tuple(row)


def _checked(path: Path, was_so: Callable[[int, Sequence[object]], bool] = lambda _job, _row: False) -> None:
    """Raises EnvironmentTrouble where a file is damaged; ``was_so``: an entry that is not as it was booked stood like that in what it is a copy of."""
    raw = sqlite3.connect(f"{path.absolute().as_uri()}?mode=ro", uri=True)
    try:
        found = [str(row[0]) for row in raw.execute("PRAGMA integrity_check(5)")]
        found = [] if found == ["ok"] else found
        wrong = (
            f"entry {row[0]} of job {job} is not as it was booked" for job, row in _changed(raw) if not was_so(job, row)
        )
        found += [first] if (first := next(wrong, "")) else []
    except sqlite3.Error as error:
        found = [str(error)]
    finally:
        raw.close()
    if found:
        raise EnvironmentTrouble(f"{path} is damaged: {found[0]}")


def _changed(raw: sqlite3.Connection) -> Iterator[tuple[int, tuple[Any, ...]]]:
    """The entries whose hash is not theirs; nothing is read out of them."""
    job, before = None, ""
    for row in raw.execute(f"SELECT job_id, {', '.join(ENTRY_COLUMNS)} FROM entry ORDER BY job_id, seq"):
        before = "" if row[0] != job else before
        job = row[0]
        if link(before, *row[1:-1]) != row[-1]:
            yield row[0], row[1:]
        before = row[-1]


def _nobody_has(path: Path) -> None:
    """Raises EnvironmentTrouble while another program has the logbook open."""
    raw = sqlite3.connect(str(path), timeout=0.2, isolation_level=None)
    try:
        raw.execute("PRAGMA locking_mode=EXCLUSIVE")
        raw.execute("BEGIN EXCLUSIVE")
        raw.execute("ROLLBACK")
        raw.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        raw.execute("PRAGMA journal_mode=DELETE")
    except sqlite3.OperationalError as error:
        raise EnvironmentTrouble(f"Another program has {path} open; close it first. Nothing was changed") from error
    finally:
        raw.close()
