"""The chain of a ledger: every entry carries a hash of itself and of the one before, so that a changed one shows.

Nothing secret is in it: it tells damage, a flipped bit or a careless hand, from what was booked.
"""

from __future__ import annotations

import hashlib
import json
from collections.abc import Iterable, Iterator, Sequence
from typing import Any

from redline_bore.core.errors import InputError
from redline_bore.job.kinds.codec import entry_from_plain
from redline_bore.job.kinds.entry import Record
from redline_bore.job.kinds.strikes import EntryDamaged

MOST_MISSING = 10_000  # a gap beyond this is no gap: the place itself was changed


def link(before: str, seq: int, at: str, person: str, instrument: str, block_c: float | None, typed: str, version: int, body: str) -> str:  # fmt: skip
    """The hash of an entry as the logbook has it, hexadecimal; ``before``: that of the entry before it, empty for the first."""
    warm = None if block_c is None else float(block_c)
    whole = json.dumps([before, seq, at, person, instrument, warm, typed, version, body], ensure_ascii=True)
    return hashlib.sha256(whole.encode("ascii")).hexdigest()


def read_ledger(rows: Iterable[Sequence[Any]], before: str = "", after: int = 0) -> Iterator[Record]:
    """Records from rows of ENTRY_COLUMNS, growing; ``after``: the place of the row before the first, ``before`` its hash.

    What was changed since it was booked, what cannot be read and what is missing is given as an EntryDamaged in its place: never believed,
    never hidden.
    """
    place = after
    for row in rows:
        if not isinstance(row[0], int) or not place < row[0] <= place + MOST_MISSING:
            place += 1
            yield Record(place, _text(row[1]), "", EntryDamaged(why="its place in the ledger is no place"))
            continue
        while row[0] > place + 1:
            place += 1
            yield Record(place, _text(row[1]), "", EntryDamaged(why="it is missing"))
        yield _read(row, before)
        before, place = str(row[-1]), row[0]


def _read(row: Sequence[Any], before: str) -> Record:
    seq, at, person, instrument, block_c, typed, version, body, kept = row
    try:
        whole = link(before, seq, at, person, instrument, block_c, typed, version, body) == kept
        entry = entry_from_plain(json.loads(body)) if whole else EntryDamaged(why="it was changed after it was booked")
    except (ValueError, TypeError, AttributeError, InputError) as error:
        entry = EntryDamaged(why=f"it cannot be read: {error}"[:200])
    if isinstance(entry, EntryDamaged):
        return Record(seq, _text(at), _text(person), entry, "", None, _text(typed))
    return Record(seq, at, person, entry, instrument, block_c, typed, version)


def _text(raw: Any) -> str:
    return raw if isinstance(raw, str) else ""
