"""The list of jobs straight from a logbook's file, for who only wants to see it: as ``job_list`` has it, without what that needs."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from redline_bore.core.errors import EnvironmentTrouble
from redline_bore.store.file_connection import DAMAGE, connected

COLUMNS = (
    "number", "owner", "engine", "opened_at", "last_at", "step", "aside", "done", "promised", "waits_for", "people", "machines",
)  # fmt: skip
LISTS = ("done", "people", "machines")


def listed(path: Path, words: list[str], aside: bool) -> list[dict[str, Any]]:
    """The jobs that hold every word in number, owner, engine or notes, the one worked on last first. Raises EnvironmentTrouble."""
    where, given = ["aside != ''" if aside else "aside = ''"], list[str]()
    for word in words:
        if len(word) >= 3:
            where.append("job_id IN (SELECT rowid FROM job_words WHERE job_words MATCH ?)")
            given.append('"{}"'.format(word.replace('"', '""')))
        else:  # the index knows three letters and more
            where.append("(number || char(10) || owner || char(10) || engine || char(10) || notes) LIKE ? ESCAPE '\\'")
            given.append(f"%{_plain(word)}%")
    query = f"SELECT {', '.join(COLUMNS)} FROM job_line WHERE {' AND '.join(where)} ORDER BY turn DESC"
    try:
        connection = connected(path)
        try:
            rows = connection.execute(query, given).fetchall()
        finally:
            connection.close()
    except DAMAGE as error:
        raise EnvironmentTrouble(f"The logbook {path} is damaged ({error}); nothing in it was touched") from error
    found = [dict(zip(COLUMNS, row, strict=True)) for row in rows]
    for line in found:
        line |= {name: json.loads(line[name]) for name in LISTS}
    return found


def _plain(word: str) -> str:
    return "".join(f"\\{c}" if c in "%_\\" else c for c in word)
