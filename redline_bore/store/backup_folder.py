"""The folder that the shop named for its backups, and the backup of the day."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from pathlib import Path

from redline_bore.core.errors import BenchError
from redline_bore.store.backup import back_up, backups_in
from redline_bore.store.exports import read_text, write_text
from redline_bore.store.logbook import Logbook
from redline_bore.store.places import data_folder

EVERY = timedelta(hours=20)  # a day at the bench, and no second one at its end


def backup_folder() -> Path | None:
    """Where backups go; None while nobody said."""
    try:
        named = read_text(data_folder() / "backups.txt").strip()
    except BenchError:
        return None
    return Path(named) if named else None


def name_backup_folder(folder: Path | None) -> None:
    """Where backups go from now on; None: nowhere."""
    data_folder().mkdir(mode=0o700, parents=True, exist_ok=True)
    write_text(data_folder() / "backups.txt", "" if folder is None else str(folder.absolute()))


def backup_of_the_day(logbook: Logbook, now: datetime | None = None) -> Path | None:
    """Make a backup where the shop named a folder and the newest one there is a day old; None where none was due. Raises EnvironmentTrouble."""
    folder, at = backup_folder(), now or datetime.now(UTC)
    if folder is None:
        return None
    made = backups_in(folder, logbook.path.stem)
    if made and at - made[0].at < EVERY:
        return None
    return back_up(logbook, folder, at=at)
