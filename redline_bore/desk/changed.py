"""What a use case changed."""

from __future__ import annotations

from redline_bore.core.frozen import frozen
from redline_bore.job.kinds.entry import Entry, Record
from redline_bore.job.kinds.kind import kind_of
from redline_bore.job.kinds.topics import LEDGER, Topic


@frozen(often=True)
class Changed:
    """The records that came into the ledger, others' among them, oldest first; the topics they touch.

    booked: those of them that this desk booked. remark: a word for whoever booked, or nothing.
    """

    records: tuple[Record, ...]
    topics: frozenset[Topic] = frozenset()
    booked: tuple[Record, ...] = ()
    remark: str = ""

    @property
    def newest(self) -> Record:
        """The newest record booked here."""
        return self.booked[-1]


def topics_of(entries: list[Entry] | tuple[Entry, ...]) -> frozenset[Topic]:
    """What entries touch; where anything may have changed, every topic of the ledger."""
    topics = frozenset(kind_of(entry).topic for entry in entries)
    return LEDGER | topics if Topic.ALL in topics else topics
