"""An entry and its record: what is booked, and where, when, by whom and with what it stands in the ledger."""

from __future__ import annotations

from redline_bore.core.frozen import frozen


class Entry:
    """Base of every kind of entry; each is a frozen record whose ``kind`` says which."""

    kind: str


SIMULATED = "simulated "  # how the name of an instrument begins that is none: a stand-in sent it


@frozen(often=True)
class Record:
    """An entry as it stands in the ledger: its place (from 1), when (ISO 8601 with zone), who, with what, how warm,
    and what was typed."""

    seq: int
    at: str
    person: str
    entry: Entry
    instrument: str = ""  # begins with SIMULATED where a stand-in sent it
    block_c: float | None = None
    typed: str = ""
    version: int = 1


@frozen(often=True)
class Draft:
    """An entry about to be booked, with what goes beside it. ``at`` empty: now."""

    entry: Entry
    person: str
    instrument: str = ""
    block_c: float | None = None
    typed: str = ""
    at: str = ""
