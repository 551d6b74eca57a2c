"""Where things are kept: the XDG data folder of the person at the bench."""

from __future__ import annotations

import os
from pathlib import Path


def default_logbook() -> Path:
    """The logbook used when none is named."""
    return data_folder() / "logbook.sqlite"


def data_folder() -> Path:
    """This program's folder under the XDG data folder: what XDG_DATA_HOME names where it is a whole path, else ~/.local/share."""
    named = Path(os.environ.get("XDG_DATA_HOME", ""))
    return (named if named.is_absolute() else Path.home() / ".local" / "share") / "redline-bore"


SCHEMES = ("postgresql://", "postgres://")


def is_server(where: object) -> bool:
    """Whether a logbook is named by the address of a server, and not by a file."""
    return str(where).startswith(SCHEMES)


def server_path(where: str) -> Path:
    """What a file that is kept here for a server's logbook is named after: the address, as a name of a file."""
    there = where.partition("://")[2].rpartition("@")[2].partition("?")[0]  # not who, and no password
    plain = "".join(c if c.isalnum() or c in ".-" else "-" for c in there)
    return data_folder() / "servers" / f"{plain}.sqlite"


def outboxes_of(where: str) -> tuple[Path, ...]:
    """What was booked at this bench while its server was away, and is not handed in yet; the oldest first."""
    mine = server_path(where)
    return tuple(sorted(mine.parent.glob(f"{mine.stem}-rescue-*.sqlite")))
