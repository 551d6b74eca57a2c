"""What was booked last in a logbook when it was left, kept apart from it: an older copy put in its place meanwhile is told.

The chain of hashes finds entries that were changed; it cannot find those that a whole older file never had.
"""

from __future__ import annotations

import json
from contextlib import suppress
from pathlib import Path

from redline_bore.core.errors import BenchError
from redline_bore.core.when import moment, now
from redline_bore.store.exports import read_text, write_text
from redline_bore.store.logbook import Logbook
from redline_bore.store.places import data_folder

MOST = 200  # logbooks; those left longest ago are forgotten: the note is read at every start


def _kept() -> Path:
    return data_folder() / "left.json"


def _all() -> dict[str, dict[str, str | int]]:
    with suppress(BenchError, ValueError, OSError):
        found = json.loads(read_text(_kept()))
        if isinstance(found, dict):
            return {k: v for k, v in found.items() if isinstance(v, dict)}
    return {}


def keep_as_left(logbook: Logbook) -> None:
    """Note what was booked last. Where it cannot be noted, nothing else is lost, and nothing is said."""
    with suppress(BenchError, OSError):
        newest = logbook.newest_entry()
        if newest is None:
            return
        job, seq, link = newest
        _kept().parent.mkdir(mode=0o700, parents=True, exist_ok=True)
        noted = _all() | {str(logbook.path.absolute()): {"job": job, "seq": seq, "link": link, "at": now()}}
        latest = sorted(noted.items(), key=lambda of: str(of[1].get("at", "")))[-MOST:]
        write_text(_kept(), json.dumps(dict(latest), indent=1))


def missing_since(logbook: Logbook) -> str:
    """A sentence where what was booked last, when this logbook was left, is not in it any more; empty otherwise."""
    left = _all().get(str(logbook.path.absolute()))
    try:
        if left is None or logbook.has_entry(int(left["job"]), int(left["seq"]), str(left["link"])):
            return ""
        at = moment(str(left["at"]))
    except (KeyError, TypeError, ValueError):
        return ""
    return (
        f"This logbook lacks what was booked last when it was left on {at}: an older copy may stand in its place. "
        f"Look for the newer file before you book: {logbook.path}"
    )
