"""The entries that concern other entries: struck, and counting again."""

from __future__ import annotations

from typing import Literal

from redline_bore.core.frozen import frozen
from redline_bore.core.told import Unit, told
from redline_bore.job.kinds.entry import Entry
from redline_bore.job.kinds.kind import ANY_STEP, declare
from redline_bore.job.kinds.topics import Topic
from redline_bore.job.state.fields import words

LEDGER = "frame/ledger"
_REPLAYED = "the fold leaves struck entries out from the beginning"
_TYPED = "Backspace and Ctrl+Y, or the words strike and restore with the number of the entry"


@frozen(kw_only=True)
class EntryStruck(Entry):
    """Entry ``seq`` no longer counts. It stays in the ledger, struck through."""

    seq: int = told("entry", Unit.ENTRY, least=1, why="no entry of this ledger", shown=LEDGER)
    reason: str = words("why", LEDGER, default="")
    kind: Literal["entry_struck"] = "entry_struck"


@frozen(kw_only=True)
class EntryRestored(Entry):
    """Entry ``seq``, struck before, counts again."""

    seq: int = told("entry", Unit.ENTRY, least=1, why="no entry of this ledger", shown=LEDGER)
    kind: Literal["entry_restored"] = "entry_restored"


@frozen(kw_only=True)
class EntryDamaged(Entry):
    """What stands here in the logbook is not what was booked, or cannot be read: it counts for nothing, and is shown as that."""

    why: str = words("what is wrong with it", LEDGER)
    kind: Literal["entry_damaged"] = "entry_damaged"


declare(
    EntryStruck, Topic.ALL, ANY_STEP, lambda x, s: f"entry {x.seq} struck{': ' + x.reason if x.reason else ''}",
    kept_only=_REPLAYED, not_typed=_TYPED, strikes=False,
)  # fmt: skip
declare(
    EntryRestored, Topic.ALL, ANY_STEP, lambda x, s: f"entry {x.seq} counts again", kept_only=_REPLAYED, not_typed=_TYPED,
    strikes=False,
)  # fmt: skip
declare(
    EntryDamaged, Topic.ALL, ANY_STEP, lambda x, s: f"DAMAGED, counts for nothing: {x.why}",
    kept_only="it stands where an entry cannot be believed", not_typed="nobody books it: the logbook shows it", strikes=False,
)  # fmt: skip
