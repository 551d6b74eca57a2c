"""Handing in: what was booked elsewhere, in a logbook kept beside, an outbox, another shop's file, goes into the logbook it belongs to, in order, once each.

Up to where two ledgers of a job part they are one. What the other has from there on is booked behind what stands here, with its times and persons; an
entry that is here already, told by what it says, is not taken again; one that names another entry by its place names it by its place here. What the
job does not take any more is left where it is and told.
"""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Callable, Iterator, Sequence

from redline_bore.core.errors import InputError
from redline_bore.core.figures import Figures
from redline_bore.core.frozen import changed, frozen
from redline_bore.core.told import Unit
from redline_bore.desk.open_job import OpenJob
from redline_bore.job.kinds.book_in import JobOpened
from redline_bore.job.kinds.codec import to_plain
from redline_bore.job.kinds.entry import Draft, Entry, Record
from redline_bore.job.kinds.gauge import ReadingBooked
from redline_bore.job.kinds.kind import kind_of
from redline_bore.job.kinds.strikes import EntryDamaged
from redline_bore.store.logbook import Logbook

Tick = Callable[[int, int], None]
SAME_DEPTH_MM, SAME_CLOCK_DEG = 0.6, 1.5  # so near, two readings are of one place


@frozen
class BothRead:
    """A place of a hole that two people read, and what each read, mm."""

    cylinder: int
    depth_mm: float
    clock_deg: float
    here_mm: float
    by: str
    other_mm: float
    other_by: str


@frozen
class HandedIn:
    """What became of a job: whole, it was not here; taken, entries booked; there, those that were here already; refused, why one was not taken,
    with its place in the other ledger; both_read: places that somebody here read meanwhile too."""

    number: str
    whole: bool = False
    taken: int = 0
    there: int = 0
    refused: tuple[tuple[int, str], ...] = ()
    both_read: tuple[BothRead, ...] = ()


def hand_in(logbook: Logbook, other: Logbook, figures: Figures, tick: Tick | None = None) -> tuple[HandedIn, ...]:
    """Take what another logbook holds; says what became of each job, the oldest first. Handing in twice takes nothing twice, and one that was
    broken off goes on where it was.

    tick: told how many jobs are done, of how many; may raise to break off. Raises EnvironmentTrouble.
    """
    lines, found = tuple(reversed(other.jobs())), list[HandedIn]()
    for i, line in enumerate(lines, start=1):
        found.append(_job_handed_in(logbook, other, line.job_id, line.number, figures))
        if tick is not None:
            tick(i, len(lines))
    return tuple(found)


def _job_handed_in(logbook: Logbook, other: Logbook, other_id: int, number: str, figures: Figures) -> HandedIn:
    theirs, here = other.ledger(other_id), logbook.find(number)
    if not theirs or not isinstance(theirs[0].entry, JobOpened):
        return HandedIn(number, refused=((1, "how it was opened is damaged there"),))
    photos = other.photos_of(theirs)
    if here is None:
        logbook.take_ledger([_draft(r, r.entry) for r in theirs], photos)
        return HandedIn(number, True, len(theirs))
    ours = logbook.ledger(here)
    if not isinstance(ours[0].entry, JobOpened) or _said(ours[0], ours[0].entry) != _said(theirs[0], theirs[0].entry):
        return HandedIn(number, refused=((1, f"it is another job of that number than the one in {logbook.where}"),))
    for photo in photos:
        logbook.keep_photo(photo)
    return _Merge(OpenJob(lambda: logbook, figures, here, ours), theirs).done(number)


class _Merge:
    """One job that stands in both. ``place``: of an entry there, its place here."""

    def __init__(self, job: OpenJob, theirs: Sequence[Record]) -> None:
        self.job, self.theirs = job, theirs
        job.rescues = False
        ours, p = job.records, 0
        while p < min(len(ours), len(theirs)) and _said(ours[p], ours[p].entry) == _said(theirs[p], theirs[p].entry):
            p += 1
        self.parted = p
        self.place = {r.seq: r.seq for r in theirs[:p]}
        self.here = Counter(_said(r, r.entry) for r in ours[p:])
        self.stands: dict[str, list[int]] = {}
        for r in ours[p:]:
            self.stands.setdefault(_said(r, r.entry), []).append(r.seq)

    def done(self, number: str) -> HandedIn:
        """Book what is not here, stretch by stretch."""
        there, refused, taken = 0, list[tuple[int, str]](), list[Record]()
        waiting: list[Record] = []
        for r in self.theirs[self.parted :]:
            if _names_a_place(r.entry):  # where it stands here is known once those before it are booked
                taken += self._booked(waiting, refused)
                waiting = []
            if isinstance(r.entry, EntryDamaged):
                refused.append((r.seq, f"it is damaged there: {r.entry.why}"))
                continue
            moved = self._moved(r.entry)
            if moved is None:
                refused.append((r.seq, "the entry it speaks of was not taken"))
                continue
            said = _said(r, moved)
            if self.here[said] > 0:
                self.here[said] -= 1
                self.place[r.seq] = self.stands[said].pop(0)
                there += 1
                continue
            waiting.append(replace_entry(r, moved))
        taken += self._booked(waiting, refused)
        own = {r.seq for r in taken}  # what others booked, up to the last moment
        others = [r for r in self.job.records[self.parted :] if r.seq not in own]
        return HandedIn(number, False, len(taken), there, tuple(refused), tuple(both_read(others, taken)))

    def _moved(self, entry: Entry) -> Entry | None:
        """An entry that names others by their places here; None where one it names is not here."""
        names = [n for n, t in kind_of(entry).fields.items() if t.unit is Unit.ENTRY and getattr(entry, n) is not None]
        if not all(getattr(entry, n) in self.place for n in names):
            return None
        moved = {n: self.place[getattr(entry, n)] for n in names}
        return changed(entry, **moved) if moved else entry

    def _booked(self, records: Sequence[Record], refused: list[tuple[int, str]]) -> list[Record]:
        """Book a stretch at once; where the job does not take one of them, one by one, and say which."""
        if not records:
            return []
        try:
            return self._keep(records)
        except InputError as error:
            if len(records) == 1:
                refused.append((records[0].seq, str(error)))
                return []
        kept = []
        for record in records:
            kept += self._booked([record], refused)
        return kept

    def _keep(self, records: Sequence[Record]) -> list[Record]:
        booked = self.job.book_drafts([_draft(r, r.entry) for r in records]).booked
        self.place.update({r.seq: b.seq for r, b in zip(records, booked, strict=True)})
        return list(booked)


def both_read(here: Sequence[Record], news: Sequence[Record]) -> Iterator[BothRead]:
    """The places that were read both among ``here`` and among ``news``, by different people: both readings stand."""
    for n in news:
        x = n.entry
        if not isinstance(x, ReadingBooked):
            continue
        for h in here:
            y = h.entry
            if isinstance(y, ReadingBooked) and h.person != n.person and _one_place(x, y):
                yield BothRead(x.cylinder, x.depth_mm, x.clock_deg, y.diameter_mm, h.person, x.diameter_mm, n.person)


def _one_place(x: ReadingBooked, y: ReadingBooked) -> bool:
    return (
        (x.cylinder, x.plate_on) == (y.cylinder, y.plate_on)
        and abs(x.depth_mm - y.depth_mm) <= SAME_DEPTH_MM
        and abs(x.clock_deg - y.clock_deg) <= SAME_CLOCK_DEG
    )


def _names_a_place(entry: Entry) -> bool:
    return any(t.unit is Unit.ENTRY for t in kind_of(entry).fields.values())


def replace_entry(record: Record, entry: Entry) -> Record:
    """The same record with another entry."""
    return record if entry is record.entry else changed(record, entry=entry)


def _said(r: Record, entry: Entry) -> str:
    """An entry with its time and its person, to be known again in another logbook; not its place."""
    return json.dumps([r.at, r.person, r.typed, r.instrument, r.block_c, to_plain(entry)], sort_keys=True)


def _draft(r: Record, entry: Entry) -> Draft:
    return Draft(entry, r.person, r.instrument, r.block_c, r.typed, r.at)
