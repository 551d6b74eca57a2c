"""The chain of a ledger: every entry carries a hash of itself and of the one before, so that a changed one shows.

Nothing secret is in it: it tells damage, a flipped bit or a careless hand, from what was booked.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Iterable, Iterator, Sequence
from json.encoder import encode_basestring_ascii as _quoted
from math import isfinite
from typing import Any

from redline_bore.core.errors import InputError
from redline_bore.core.sums import hex_sum
from redline_bore.job.kinds.codec import entry_from_plain
from redline_bore.job.kinds.entry import Record
from redline_bore.job.kinds.strikes import EntryDamaged

_scan = json.JSONDecoder().scan_once  # type: ignore[attr-defined]  # of a body whose hash is right: nothing stands before or behind it
REFERS = "kept as"  # in the place of figures: the hash that they are kept under
MOST_MISSING = 10_000  # a gap beyond this is no gap: the place itself was changed


def _number(value: float) -> str:
    return float.__repr__(value) if isfinite(value) else json.dumps(value)


def link(before: str, seq: int, at: str, person: str, instrument: str, block_c: float | None, typed: str, version: int, body: str) -> str:  # fmt: skip
    """The hash of an entry as the logbook has it, hexadecimal; ``before``: that of the entry before it, empty for the first.

    Of the JSON list of these, in ASCII; written here piece by piece, since a long ledger has twenty thousand.
    """
    warm = None if block_c is None else float(block_c)
    if type(seq) is int and type(version) is int and type(body) is str:
        try:
            written = "null" if warm is None else _number(warm)
            whole = (
                f"[{_quoted(before)}, {seq}, {_quoted(at)}, {_quoted(person)}, {_quoted(instrument)}, {written}, {_quoted(typed)}, {version}, "
                f"{_quoted(body)}]"
            )
            return hex_sum(whole.encode("ascii"))
        except TypeError:  # a text that is none
            pass
    whole = json.dumps(
        [before, seq, at, person, instrument, warm, typed, version, body], ensure_ascii=True
    )  # a damaged row, as it stands
    return hex_sum(whole.encode("ascii"))


def _no_figures(_sha256: str) -> dict[str, Any] | None:
    return None


def read_ledger(
    rows: Iterable[Sequence[Any]], before: str = "", after: int = 0, figure_set: Callable[[str], dict[str, Any] | None] = _no_figures
) -> Iterator[Record]:  # fmt: skip
    """Records from rows of ENTRY_COLUMNS, growing; ``after``: the place of the row before the first, ``before`` its hash. figure_set: the figures
    that an opening refers to, by their hash.

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
        yield _read(row, before, figure_set)
        before, place = str(row[-1]), row[0]


def _read(row: Sequence[Any], before: str, figure_set: Callable[[str], dict[str, Any] | None]) -> Record:
    seq, at, person, instrument, block_c, typed, version, body, kept = row
    try:
        whole = link(before, seq, at, person, instrument, block_c, typed, version, body) == kept
        plain = _whole(_scan(body, 0)[0], figure_set) if whole else None
        entry = EntryDamaged(why="it was changed after it was booked") if plain is None else entry_from_plain(plain)
    except (ValueError, TypeError, AttributeError, StopIteration, InputError) as error:
        entry = EntryDamaged(why=f"it cannot be read: {error}"[:200])
    if isinstance(entry, EntryDamaged):
        return Record(seq, _text(at), _text(person), entry, "", None, _text(typed))
    return Record(seq, at, person, entry, instrument, block_c, typed, version)


def referring(plain: dict[str, Any]) -> tuple[dict[str, Any], str, str]:
    """An opening as the logbook keeps it: the figures it is worked with stand once for all jobs, under their hash. Returns it, the hash and the
    figures as text; both empty where it has none."""
    figures = plain.get("figures")
    if not figures:
        return plain, "", ""
    body = json.dumps(figures, allow_nan=False, sort_keys=True)
    under = hex_sum(body.encode())
    return plain | {"figures": {REFERS: under}}, under, body


def figures_of(under: str, body: str) -> dict[str, Any] | None:
    """Kept figures; None where they are not those of the hash any more."""
    if hex_sum(body.encode()) != under:
        return None
    found = json.loads(body)
    return found if isinstance(found, dict) else None


def _whole(plain: dict[str, Any], figure_set: Callable[[str], dict[str, Any] | None]) -> dict[str, Any]:
    """An entry with the figures that it refers to. Raises InputError where they are damaged or missing."""
    figures = plain.get("figures")
    if not isinstance(figures, dict) or REFERS not in figures:
        return plain
    found = figure_set(str(figures[REFERS]))
    if found is None:
        raise InputError("the figures it was worked with are damaged or missing")
    return plain | {"figures": found}


def _text(raw: Any) -> str:
    return raw if isinstance(raw, str) else ""
